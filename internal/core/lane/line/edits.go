package line

import (
	"fmt"

	"agrimony/internal/core/lane/pitched"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
)

// Rekey brings the lane into another key.
func (Kind) Rekey(lane *piece.Lane, from, to pitch.Key, keepDegrees bool) {
	line := of(lane)
	for i := range line.Steps {
		step := &line.Steps[i]
		step.SetPlace(pitched.Rekey(&line.Pitched, from, to, step.Place(), keepDegrees))
	}
}

// Transpose moves steps (from 0) by so many of a unit.
func (Kind) Transpose(lane *piece.Lane, key pitch.Key, steps []int, unit string, by int) error {
	line := of(lane)
	for _, i := range steps {
		place, err := pitched.Move(&line.Pitched, key, line.Steps[i].Place(), unit, by)
		if err != nil {
			return at(i, err)
		}
		line.Steps[i].SetPlace(place)
	}
	return nil
}

// SetPlace moves a step's note (from 0) and leaves its rhythm alone.
func (Kind) SetPlace(lane *piece.Lane, key pitch.Key, step int, place pitch.Place) error {
	if err := pitched.Check(key, place); err != nil {
		return at(step, err)
	}
	of(lane).Steps[step].SetPlace(place)
	return nil
}

// at puts a step before the path of an error.
func at(step int, err error) error { return pitched.Under(fmt.Sprintf("steps[%d]", step), err) }
