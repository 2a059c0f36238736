package pulse

import (
	"errors"
	"fmt"

	"agrimony/internal/core/intake"
	"agrimony/internal/core/midi"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
)

// mostPitches is into how many lanes notes are divided at most.
const mostPitches = 16

// As is what notes of few pitches become, in the words of those who ask for it.
func (Kind) As() string { return "pulses" }

// Become makes a lane of each pitch, all on one grid.
func (Kind) Become(s *intake.Source) ([]piece.Lane, error) {
	pitches := s.Pitches()
	if len(pitches) > mostPitches {
		return nil, fmt.Errorf("it has %d pitches; allowed: 1..%d, a lane for each", len(pitches), mostPitches)
	}
	grids := intake.GridsFor(s.Notes, s.Meter, s.Length, piece.MaxSteps)
	if len(grids) == 0 {
		return nil, errors.New("no rate has a grid on which its notes stand within 512 steps")
	}
next:
	for _, grid := range grids {
		var out []piece.Lane
		for _, p := range pitches {
			lane, ok := hits(s, grid, p)
			if !ok {
				continue next
			}
			out = append(out, lane)
		}
		return out, nil
	}
	return nil, errors.New("two of its notes of one pitch fall on one step of every grid")
}

// hits is the lane of one pitch; false: the grid has no room for its notes.
func hits(s *intake.Source, grid intake.Grid, p int) (piece.Lane, bool) {
	var notes []intake.Note
	var from []int
	for i, n := range s.Notes {
		if n.Pitch == p {
			notes, from = append(notes, n), append(from, i)
		}
	}
	count := s.Length / grid.Step
	steps, ok := intake.StepsOf(intake.Heard(notes), grid.Step, count)
	if !ok {
		return piece.Lane{}, false
	}
	lane := piece.NewLane("pulse", "", pitch.Pretty(s.Key.Named(p)))
	own := of(&lane)
	lane.Rate = grid.Rate
	own.Octave = s.Octave()
	if own.Note = &p; s.Drums {
		if drum, ok := midi.DrumOf(p); ok {
			lane.Name = drum.Name
		}
	} else if at, ok := s.Key.Find(p, own.Octave); ok && intake.Reaches(at) {
		own.Note, own.Pitch = nil, &at
	}
	own.StepList().Resize(count)
	for i, step := range steps {
		step.Write(notes[i].Velocity, func(k int) *piece.Cell { return &own.Steps[k].Cell })
		s.Clothe(from[i], &own.Steps[step.First].Cell)
	}
	return lane, true
}
