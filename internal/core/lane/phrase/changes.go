package phrase

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"agrimony/internal/core/lane/change"
	"agrimony/internal/core/lane/pitched"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// Edits are those of phrase lanes alone.
func (Kind) Edits() map[string]change.Rule {
	return map[string]change.Rule{
		"fill.plays": change.On("shape a phrase", fillPlays),
	}
}

// PlayShapes are the shapes that the steps of a phrase can be given.
var PlayShapes = []string{"climb", "stab", "leap"}

func fillPlays(t *change.Target, o op.FillPlays) error {
	p, ok := t.Lane.Content.(*piece.Phrase)
	if !ok {
		return t.Wrong("lane", "steps of %s lanes walk nothing; allowed: a phrase lane", t.Lane.Kind)
	}
	if !slices.Contains(PlayShapes, o.Shape) {
		return t.Wrong("shape", "%q is not allowed; allowed: %s", o.Shape, strings.Join(PlayShapes, ", "))
	}
	hit := 0
	for k, i := range t.Steps {
		s := &p.Steps[i]
		s.Play = "next"
		switch o.Shape {
		case "climb":
			if k > 0 && 2*k >= len(t.Steps) {
				s.Play = "back"
			}
		case "stab":
			if k == 0 {
				s.Play = "chord"
			}
		case "leap":
			if s.On {
				hit++
				s.Octave = 0
				if hit%4 == 0 {
					s.Octave = 1
				}
			}
		}
	}
	return nil
}

// Enter writes what was played into a step: one note as the way from its chord's root, the chord that
// sounds, in any inversion, as the step's chord, and other notes at once as tones of the lane's own.
func (Kind) Enter(t *change.Target, heard change.Heard) error {
	own := of(t.Lane)
	step := &own.Steps[heard.Step]
	step.Offset, step.Octave = 0, 0
	if len(heard.Pitches) > 1 && own.Source == "harmony" {
		if octave, ok := sounding(t, heard); ok {
			step.Play, step.Octave = "chord", octave
			return nil
		}
	}
	if len(heard.Pitches) > 1 {
		tones := t.Tones(&own.Pitched, heard.Chord, heard.Pitches)
		if err := ask(t, own, tones, heard); err != nil {
			return err
		}
		step.Play, own.Source, own.Tones = "chord", "own", tones
		return nil
	}
	return fromRoot(t, own, step, heard.Chord, heard.Pitches[0])
}

// sounding tells whether what was played is the chord that the lane walks there, and how many octaves from it.
func sounding(t *change.Target, heard change.Heard) (octave int, ok bool) {
	stairs := StairsOf(t.Lane, t.Key(), heard.Chord, harmonyOctave(t))
	if heard.Chord == nil || stairs == nil || classesOf(stairs.First) != classesOf(heard.Pitches) {
		return 0, false
	}
	octave = int(math.Round(float64(heard.Pitches[0]-stairs.First[0]) / 12))
	return octave, octave >= -4 && octave <= 4
}

// classesOf are the pitch classes of some pitches, a bit each.
func classesOf(pitches []int) (out int) {
	for _, p := range pitches {
		out |= 1 << pitch.Mod(p, 12)
	}
	return out
}

// harmonyOctave is the octave of the lane that the clip's chords come from; 0 where there is none.
func harmonyOctave(t *change.Target) int {
	if harmony, _ := t.Piece.HarmonyOf(t.Clip); harmony != nil {
		return piece.PitchedOf(harmony).Octave
	}
	return 0
}

// ask refuses tones that would take the place of those that other steps sound already, unless
// that is known: a phrase walks one chord of its own.
func ask(t *change.Target, own *piece.Phrase, tones []pitch.Place, heard change.Heard) error {
	walks := own.Source == "own" && len(own.Tones) > 0 && !slices.Equal(own.Tones, tones)
	if own.Source == "harmony" {
		harmony, _ := t.Piece.HarmonyOf(t.Clip)
		walks = harmony != nil
	}
	others := false
	for i := range own.Steps {
		others = others || i != heard.Step && own.Steps[i].On
	}
	if !walks || !others || heard.Over {
		return nil
	}
	walked := "the chords of the clip"
	if own.Source == "own" {
		names := make([]string, len(own.Tones))
		for i, tone := range own.Tones {
			names[i] = t.Key().Named(pitched.At(&own.Pitched, t.Key(), heard.Chord, tone).Locked)
		}
		walked = strings.Join(names, " ")
	}
	return &change.AskError{Fault: &piece.Fault{Path: t.Edit + ".lane", Problem: fmt.Sprintf(
		"the steps of %s walk %s, and this chord would take their place in all of them; allowed: another phrase for it", t.Lane.Name, pitch.Pretty(walked))}}
}

// fromRoot lets a step of a phrase sound a pitch as the way from its chord's root.
func fromRoot(t *change.Target, p *piece.Phrase, step *piece.PhraseStep, chord *render.Chord, heard int) error {
	stairs := StairsOf(t.Lane, t.Key(), chord, harmonyOctave(t))
	if stairs == nil {
		p.Source, p.Tones = "own", t.Tones(&p.Pitched, chord, []int{heard})
		step.Play = "low"
		return nil
	}
	_, root := stairs.RootRung()
	want := pitched.Locked(&p.Pitched, t.Key(), chord, heard)
	step.Play = "root"
	for _, octave := range []int{0, 1, -1, 2, -2, 3, -3, 4, -4} {
		for by := 0; by <= t.Key().Size(); by++ {
			at := root
			if by > 0 {
				at = Along(t.Key(), root, by, pitch.Snap(p.Snap))
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
	return t.Wrong("pitches[0]", "%d is too far from the chord's root, %d; allowed: within four octaves, or two outside the key", heard, root)
}
