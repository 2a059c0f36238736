package chords

import (
	"errors"
	"fmt"
	"slices"

	"agrimony/internal/core/intake"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
)

// chordal is how much of the time three tones or more must sound that are struck together.
const chordal = 0.8

// As is what chords that are struck become, in the words of those who ask for it.
func (Kind) As() string { return "chords" }

// Become makes a palette of the chords that are struck, and steps that choose from it.
func (Kind) Become(s *intake.Source) ([]piece.Lane, error) {
	stacks := intake.Stacks(s.Notes)
	if share := intake.Chordal(stacks); share < chordal {
		return nil, fmt.Errorf("three tones or more are struck together for %.0f %% of the time; allowed: from 80 %% on", 100*share)
	}
	struck := make([]intake.Note, len(stacks)) // the notes that stand for the stacks
	for i := range stacks {
		struck[i] = stacks[i].Notes[0]
		struck[i].Pitch = i % 2 // each is another one, so that none runs on into the next
	}
	for _, grid := range intake.GridsFor(struck, s.Meter, s.Length, piece.MaxSteps) {
		count := s.Length / grid.Step
		steps, ok := intake.StepsOf(struck, grid.Step, count)
		if !ok {
			continue
		}
		lane := piece.BeginLane("chords", "", "")
		own := of(&lane)
		lane.Rate, own.Octave, own.Palette = grid.Rate, s.Octave(), []piece.PaletteChord{}
		own.StepList().Resize(count)
		for i, step := range steps {
			chord, err := placed(own, s, &stacks[i])
			if err != nil {
				return nil, err
			}
			if step.Joins { // a chord that is still held when the next one is struck ends there
				step = intake.Step{First: step.First, Nudge: step.Nudge, Held: step.Held, Gate: 100}
			}
			own.Steps[step.First].Chord = chord
			step.Write(struck[i].Velocity, func(k int) *piece.Cell { return &own.Steps[k].Cell })
		}
		return []piece.Lane{lane}, nil
	}
	return nil, errors.New("no rate has a grid on which its chords stand within 512 steps")
}

// placed is the place in the palette, from 1, of a stack's chord: an equal one is shared.
func placed(own *piece.Chords, s *intake.Source, stack *intake.Stack) (int, error) {
	var tones []pitch.Place
	for _, n := range stack.Notes {
		at := s.Key.Express(n.Pitch, own.Octave)
		if !intake.Reaches(at) || len(tones) == piece.MaxTones {
			return 0, fmt.Errorf("a chord has tones that are too far apart, or more than %d", piece.MaxTones)
		}
		tones = append(tones, at)
	}
	if at := slices.IndexFunc(own.Palette, func(c piece.PaletteChord) bool { return slices.Equal(c.Tones, tones) }); at >= 0 {
		return at + 1, nil
	}
	if len(own.Palette) == piece.MaxPalette {
		return 0, fmt.Errorf("it has more than %d different chords", piece.MaxPalette)
	}
	own.Palette = append(own.Palette, piece.PaletteChord{Tones: tones})
	return len(own.Palette), nil
}
