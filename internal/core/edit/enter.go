package edit

import (
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/lane/chords"
	"agrimony/internal/core/lane/phrase"
	"agrimony/internal/core/lane/pitched"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// enterNotes writes what was played into a step, as the lane's kind holds it: a line one
// note, a chords lane all, a phrase a note as the way from its chord's root, and several
// as tones of its own, a pulse lane a hit.
func enterNotes(t *target, o op.EnterNotes) error {
	if err := t.takeSteps([]int{o.Step}); err != nil {
		return err
	}
	if len(o.Pitches) > piece.MaxTones {
		return t.wrong("pitches", "%d notes at once; allowed: 0..%d", len(o.Pitches), piece.MaxTones)
	}
	for _, p := range o.Pitches {
		if p < 0 || p > 127 {
			return t.wrong("pitches", "%d is no MIDI pitch; allowed: 0..127", p)
		}
	}
	if o.Velocity < 0 || o.Velocity > 127 {
		return t.wrong("velocity", "%d is no velocity; allowed: 1..127, or 0 for the step's own", o.Velocity)
	}
	cell := t.slots().Cell(o.Step - 1)
	switch {
	case o.Tie && o.Step == 1:
		return t.wrong("tie", "there is no step before the first; allowed: from step 2 on")
	case o.Tie:
		t.slots().Cell(o.Step - 2).Tie = true
		cell.On, cell.Tie = false, false
		return nil
	case len(o.Pitches) == 0:
		cell.On, cell.Tie = false, false
		return nil
	}
	heard := slices.Clone(o.Pitches)
	slices.Sort(heard)
	heard = slices.Compact(heard)
	chord := t.chordAt(o.Step - 1)
	cell.On, cell.Tie = true, false
	if o.Velocity > 0 {
		cell.Velocity = o.Velocity
	}
	switch own := t.lane.Content.(type) {
	case *piece.Line:
		place := t.key().Express(pitched.Locked(&own.Pitched, t.key(), chord, o.Pitches[0]), own.Octave)
		place = pitched.Uncounted(&own.Pitched, t.key(), chord, place)
		if err := pitched.Check(t.key(), place); err != nil {
			return pitched.Under(t.edit+".pitches[0]", err)
		}
		own.Steps[o.Step-1].SetPlace(place)
	case *piece.Chords:
		at, err := chords.Use(own, t.key(), t.tones(&own.Pitched, chord, heard))
		if err != nil {
			return t.under(err)
		}
		own.Steps[o.Step-1].Chord = at
	case *piece.Phrase:
		step := &own.Steps[o.Step-1]
		step.Offset, step.Octave = 0, 0
		if len(heard) > 1 {
			step.Play, own.Source, own.Tones = "chord", "own", t.tones(&own.Pitched, chord, heard)
			return nil
		}
		return t.fromRoot(own, step, chord, heard[0])
	case *piece.Pulse: // whichever key it was: a hit
	default:
		return t.wrong("lane", "%s lanes take no notes; allowed: a line, chords, phrase or pulse lane", t.lane.Kind)
	}
	return nil
}

// chordAt is the chord under a step where it stands first; nil without harmony.
func (t *target) chordAt(step int) *render.Chord {
	pattern := render.PatternOf(t.piece, t.clip.ID, t.lane)
	for _, s := range pattern.Slots(pattern.RoundLength()) {
		if int(s.Step) == step {
			return lane.Harmony(t.piece, t.clip, s.At+beat.Time(1), t.budget).At(s.At)
		}
	}
	return nil
}

// tones are pitches as tones of a lane, each pitch once.
func (t *target) tones(p *piece.Pitched, chord *render.Chord, heard []int) []pitch.Place {
	var out []pitch.Place
	seen := map[int]bool{}
	for _, one := range heard {
		if one = pitched.Locked(p, t.key(), chord, one); !seen[one] {
			out = append(out, t.key().Express(one, p.Octave))
		}
		seen[one] = true
	}
	return out
}

// fromRoot lets a step of a phrase sound a pitch as the way from its chord's root.
func (t *target) fromRoot(p *piece.Phrase, step *piece.PhraseStep, chord *render.Chord, heard int) error {
	octave := 0
	if harmony, _ := t.piece.HarmonyOf(t.clip); harmony != nil {
		octave = harmony.Content.(*piece.Chords).Octave
	}
	ladder := phrase.LadderOf(t.lane, t.key(), chord, octave)
	if ladder == nil {
		p.Source, p.Tones = "own", t.tones(&p.Pitched, chord, []int{heard})
		step.Play = "low"
		return nil
	}
	_, root := ladder.RootRung()
	want := pitched.Locked(&p.Pitched, t.key(), chord, heard)
	step.Play = "root"
	for _, octave := range []int{0, 1, -1, 2, -2, 3, -3, 4, -4} {
		for by := 0; by <= t.key().Size(); by++ {
			at := root
			if by > 0 {
				at = phrase.Along(t.key(), root, by, pitch.Snap(p.Snap))
			}
			if at+12*octave == want {
				step.Offset, step.In, step.Octave = by, "scale", octave
				return nil
			}
		}
	}
	if off := want - root; off >= -24 && off <= 24 {
		step.Offset, step.In = off, "semitones"
		return nil
	}
	return t.wrong("pitches[0]", "%d is too far from the chord's root, %d; allowed: within four octaves, or two outside the key", heard, root)
}
