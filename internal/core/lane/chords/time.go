package chords

import (
	"fmt"
	"slices"

	"agrimony/internal/core/document"
	"agrimony/internal/core/piece"
)

// runEnd is the step (from 0) after the last one that a step's chord is held through:
// its own, and the rests that it is tied into.
func runEnd(c *piece.Chords, from int) int {
	end := from + 1
	for end < len(c.Steps) && c.Steps[end-1].Tie && !c.Steps[end].On {
		end++
	}
	return end
}

// Held is through how many steps a step's chord (from 0) is held, its own included.
func Held(c *piece.Chords, step int) int { return runEnd(c, step) - step }

// begun refuses a step that no chord begins at.
func begun(c *piece.Chords, step int) error {
	if c.Steps[step].On {
		return nil
	}
	return &document.Fault{Path: fmt.Sprintf("steps[%d]", step), Problem: "there is no chord; allowed: a step that is on"}
}

func blank() piece.ChordStep {
	return piece.NewLane("chords", "", "").Content.(*piece.Chords).Steps[0]
}

// MoveRun moves a step's chord (from 0), with the rests that it is held through, so
// that it begins at another step.
func MoveRun(c *piece.Chords, from, to int) error {
	if from == to {
		return nil
	}
	if err := begun(c, from); err != nil {
		return err
	}
	end := runEnd(c, from)
	run := slices.Clone(c.Steps[from:end])
	rest := blank()
	for i := from; i < end; i++ {
		c.Steps[i] = rest
	}
	for i, step := range run {
		if to+i == len(c.Steps) {
			break
		}
		c.Steps[to+i] = step
	}
	return nil
}

// Hold makes a step's chord (from 0) last so many steps, by ties through rests. Chords
// that it is held over give way; what is held no more falls silent.
func Hold(c *piece.Chords, from, count int) error {
	if err := begun(c, from); err != nil {
		return err
	}
	if most := len(c.Steps) - from; count < 1 || count > most {
		return &document.Fault{Path: "steps", Problem: fmt.Sprintf("%d steps; allowed: 1..%d", count, most)}
	}
	before, end := runEnd(c, from), from+count
	if before == end {
		return nil
	}
	gate := c.Steps[before-1].Gate
	for i := from + 1; i < max(before, end); i++ {
		c.Steps[i] = blank()
	}
	for i := from; i < end; i++ {
		c.Steps[i].Tie = i < end-1
	}
	c.Steps[end-1].Gate = gate
	return nil
}
