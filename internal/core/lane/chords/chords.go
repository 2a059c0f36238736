// Package chords is what chords lanes do: steps choose chords from a palette, which are
// strummed, tied, inverted and voiced, and which other lanes listen to.
package chords

import (
	"fmt"
	"math/big"
	"slices"

	"agrimony/internal/core/lane/pitched"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// Kind is the chords lane.
type Kind struct{}

func of(lane *piece.Lane) *piece.Chords { return lane.Content.(*piece.Chords) }

// Play renders the lane.
func (Kind) Play(in *render.Input) render.Part {
	c := of(in.Lane)
	tones := render.Tones{Pitches: make([][]uint8, len(in.Slots)), Spread: spread(c)}
	lying := lyingOf(in)
	for i := range in.Slots {
		if in.Slots[i].Sounds {
			tones.Pitches[i] = lying(&in.Slots[i])
		}
	}
	part := render.Poly(in, tones)
	for i := range c.Steps {
		if step := &c.Steps[i]; step.On {
			for _, p := range lift(c, in.Key, step) {
				if pitch.Fold(p) != p && c.Voicing.Mode == "written" {
					part.Mark(render.PitchFolded, i+1, p)
				}
			}
		}
	}
	return part
}

// lyingOf gives the pitches of each slot, in order of time. A lane that others listen
// to does not listen itself.
func lyingOf(in *render.Input) func(*render.Slot) []uint8 {
	c := of(in.Lane)
	if c.Listens() && in.Harmony != nil && in.Harmony.Lane != in.Lane {
		chord := in.Harmony.Walk()
		return func(s *render.Slot) []uint8 { return over(c, in.Key, chord(s.At), &c.Steps[s.Step]) }
	}
	known := Voice(in.Lane, in.Key)
	return func(s *render.Slot) []uint8 { return known.Steps[s.Step] }
}

// spread is how the steps are strummed; nil where none is.
func spread(c *piece.Chords) func(step int32) render.Spread {
	if !slices.ContainsFunc(c.Steps, func(s piece.ChordStep) bool { return s.Strum != nil }) {
		return nil
	}
	ways := map[string]render.SpreadWay{"up": render.SpreadUp, "down": render.SpreadDown, "turns": render.SpreadTurns}
	known := make([]render.Spread, len(c.Steps))
	for i := range c.Steps {
		if s := c.Steps[i].Strum; s != nil {
			known[i] = render.Spread{Time: s.Time, Way: ways[s.Way]}
		}
	}
	return func(step int32) render.Spread { return known[step] }
}

// Count is about how many events Play makes.
func (Kind) Count(in *render.Input) int64 {
	c := of(in.Lane)
	return render.CountPoly(in, func(s *render.Slot) int { return len(c.Place(&c.Steps[s.Step]).Tones) })
}

// Densest is the most events that one slot may make.
func (Kind) Densest(in *render.Input) int64 {
	most := 1
	for _, chord := range of(in.Lane).Palette {
		most = max(most, len(chord.Tones))
	}
	return render.DensestPoly(in, most)
}

// Period is that of the lane's pattern, and of the harmony where it listens to another
// lane's.
func (Kind) Period(in *render.Input) *big.Int {
	return in.Listening(of(in.Lane).Listens() && !in.IsHarmony())
}

// Sounds are what the steps sound, each over a chord.
func (Kind) Sounds(lane *piece.Lane, key pitch.Key, _ func(step int) *render.Chord) []render.Sound {
	c := of(lane)
	voiced := Voice(lane, key)
	out := make([]render.Sound, len(c.Steps))
	for i := range c.Steps {
		pitches := voiced.Steps[i]
		if pitches == nil {
			pitches = folded(lift(c, key, &c.Steps[i]))
		}
		for _, p := range pitches {
			out[i].Pitches = append(out[i].Pitches, int(p))
		}
		out[i].Name = nameOf(c, key, &c.Steps[i], pitches).Symbol
	}
	return out
}

// Ladder is the rows on which tones are placed: the key's notes, and whatever else
// sounds.
func (Kind) Ladder(lane *piece.Lane, key pitch.Key, sounding []int) []pitch.Rung {
	c := of(lane)
	return pitched.WithTones(pitched.Ladder(&piece.Pitched{Octave: c.Octave, Lock: "off"}, key, sounding), sounding)
}

// Rekey brings the palette into another key.
func (Kind) Rekey(lane *piece.Lane, from, to pitch.Key, keepDegrees bool) {
	c := of(lane)
	for i := range c.Palette {
		tones := c.Palette[i].Tones
		for k := range tones {
			tones[k] = pitched.Rekey(&c.Pitched, from, to, tones[k], keepDegrees)
		}
		c.Palette[i].Tones = apart(c, to, tones)
	}
}

// apart leaves out tones that meet another one of their chord.
func apart(c *piece.Chords, key pitch.Key, tones []pitch.Place) []pitch.Place {
	seen := map[int]bool{}
	return slices.DeleteFunc(tones, func(t pitch.Place) bool {
		p := key.Pitch(t, c.Octave)
		was := seen[p]
		seen[p] = true
		return was
	})
}

// Reasons tells how a note came to its pitch: from a tone of its chord through the
// lock, octaves, inversion and voicing.
func (Kind) Reasons(p *render.Performance, part *render.Part, lane *piece.Lane, note *render.Note) []render.Reason {
	c := of(lane)
	step := &c.Steps[note.Step-1]
	symbol := nameOf(c, p.Key, step, nil).Symbol
	var chord *render.Chord
	if c.Listens() && p.Harmony != nil && p.Harmony.Lane != lane {
		chord = p.ChordOf(part, note)
	}
	want := int(note.Pitch)
	best, place, away := pitched.Placed{}, 0, 1<<20
	for i, tone := range c.Place(step).Tones {
		placed := pitched.At(&c.Pitched, p.Key, chord, tone)
		if pitch.Mod(placed.Locked-want, 12) != 0 {
			continue
		}
		if d := placed.Locked + 12*step.Octave - want; max(d, -d) < away {
			best, place, away = placed, i+1, max(d, -d)
		}
	}
	out := []render.Reason{{Rule: "tone", From: fmt.Sprintf("tone %d of %s", place, symbol), To: p.Key.Named(best.Raw)}}
	at := best.Raw
	add := func(rule string, to int) {
		if to != at {
			out = append(out, render.Reason{Rule: rule, From: p.Key.Named(at), To: p.Key.Named(to)})
			at = to
		}
	}
	add("lock", best.Locked)
	if c.Voicing.Mode == "written" {
		add("octave", best.Locked+12*step.Octave)
		add("inversion", unfolded(want, at))
		add("fold", want)
	} else {
		add("voicing", want)
	}
	return out
}

// unfolded is the pitch of a class that a fold brought to want; the nearest to from
// where it was not folded.
func unfolded(want, from int) int {
	if from < 0 || from > 127 {
		return from
	}
	return want
}
