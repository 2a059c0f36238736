package line

import (
	"errors"

	"agrimony/internal/core/intake"
	"agrimony/internal/core/piece"
)

// As is what notes of one voice become, in the words of those who ask for it.
func (Kind) As() string { return "line" }

// Become makes a line of notes of one voice that stand on a grid.
func (Kind) Become(s *intake.Source) ([]piece.Lane, error) {
	grids := intake.GridsFor(s.Notes, s.Meter, s.Length, piece.MaxSteps)
	if len(grids) == 0 {
		return nil, errors.New("no rate has a grid on which its notes stand within 512 steps")
	}
	for _, grid := range grids {
		count := s.Length / grid.Step
		steps, ok := intake.StepsOf(s.Notes, grid.Step, count)
		if !ok {
			continue
		}
		lane := piece.NewLane(piece.DefaultKind, "", "")
		own := of(&lane)
		lane.Rate, own.Octave = grid.Rate, s.Octave()
		if s.Outside() {
			own.Lock = "off"
		}
		own.StepList().Resize(count)
		for i, step := range steps {
			at := s.Key.Express(s.Notes[i].Pitch, own.Octave)
			if !intake.Reaches(at) {
				return nil, errors.New("its notes are too far apart for the steps of a line")
			}
			own.Steps[step.First].SetPlace(at)
			step.Write(s.Notes[i].Velocity, func(k int) *piece.Cell { return &own.Steps[k].Cell })
			s.Clothe(i, &own.Steps[step.First].Cell)
		}
		return []piece.Lane{lane}, nil
	}
	return nil, errors.New("it sounds several notes at once; a line sounds one at a time")
}
