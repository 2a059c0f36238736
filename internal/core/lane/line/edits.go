package line

import (
	"fmt"

	"agrimony/internal/core/lane/change"
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
		place, err := pitched.Shift(&line.Pitched, key, line.Steps[i].Place(), unit, by)
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

// Enter writes one note into a step.
func (Kind) Enter(t *change.Target, heard change.Heard) error {
	own := of(t.Lane)
	place := t.Key().Express(pitched.Locked(&own.Pitched, t.Key(), heard.Chord, heard.First), own.Octave)
	place = pitched.Uncounted(&own.Pitched, t.Key(), heard.Chord, place)
	if err := pitched.Check(t.Key(), place); err != nil {
		return pitched.Under(t.Edit+".pitches[0]", err)
	}
	own.Steps[heard.Step].SetPlace(place)
	return nil
}

// WriteValue sets a number of a step; a degree beyond the scale runs on into the next octave.
func (Kind) WriteValue(lane *piece.Lane, key pitch.Key, field string, step, value int) (done bool) {
	if field != "degree" {
		return false
	}
	s := &of(lane).Steps[step]
	place := key.Move(pitch.Place{Degree: 1, Octave: s.Octave}, value-1)
	place.Alter = s.Alter
	s.SetPlace(place)
	return true
}

// at puts a step before the path of an error.
func at(step int, err error) error { return pitched.Under(fmt.Sprintf("steps[%d]", step), err) }
