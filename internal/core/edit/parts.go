package edit

import (
	"maps"
	"slices"
	"strings"

	"agrimony/internal/core/piece"
)

// Parts of a step that can be taken alone.
const (
	allOfIt     = ""
	pitchesOnly = "pitches" // all that the step plays: what its kind has beside the cell
	rhythmOnly  = "rhythm"
)

// cellParts copy a part of the cell that steps of all kinds share.
var cellParts = map[string]func(to, from *piece.Cell){
	rhythmOnly: func(to, from *piece.Cell) {
		to.On, to.Velocity, to.Gate, to.Tie, to.Ratchet, to.Nudge = from.On, from.Velocity, from.Gate, from.Tie, from.Ratchet, from.Nudge
	},
	"velocities": func(to, from *piece.Cell) { to.Velocity = from.Velocity },
	"lengths":    func(to, from *piece.Cell) { to.Gate, to.Tie = from.Gate, from.Tie },
	"chance":     func(to, from *piece.Cell) { to.Chance, to.Rounds = from.Chance, from.Rounds },
}

// StepParts are the names of the parts of a step that can be taken alone.
func StepParts() []string {
	return append([]string{pitchesOnly}, slices.Sorted(maps.Keys(cellParts))...)
}

// checkPart refuses a part that steps do not have; no name stands for the whole step.
func (t target) checkPart(only string) error {
	if only == allOfIt || slices.Contains(StepParts(), only) {
		return nil
	}
	return t.Wrong("only", "%q is not allowed; allowed: %s, or nothing for all of a step", only, strings.Join(StepParts(), ", "))
}

// keepRest gives a step whose content was replaced all that it had before, beside one part.
func keepRest(cell *piece.Cell, before piece.Cell, only string) {
	switch only {
	case allOfIt:
	case pitchesOnly:
		*cell = before
	default:
		now := *cell
		*cell = before
		cellParts[only](cell, &now)
	}
}

// arrange puts onto each step of at what the step of from held before, or one part of it.
func arrange(steps piece.Steps, at, from []int, only string) {
	if only == allOfIt {
		steps.Arrange(at, from)
		return
	}
	cells := make([]piece.Cell, steps.Len())
	for i := range cells {
		cells[i] = *steps.Cell(i)
	}
	if only == pitchesOnly {
		steps.Arrange(at, from)
	}
	for i, n := range at {
		*steps.Cell(n) = cells[n]
		if take, ok := cellParts[only]; ok {
			take(steps.Cell(n), &cells[from[i]])
		}
	}
}
