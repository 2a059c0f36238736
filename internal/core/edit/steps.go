package edit

import (
	"slices"
	"strings"

	"agrimony/internal/core/lane/pitched"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
)

// transposer is a kind whose notes can be moved in pitch.
type transposer interface {
	Transpose(lane *piece.Lane, key pitch.Key, steps []int, unit string, by int) error
}

// placer is a kind whose steps each have a place.
type placer interface {
	SetPlace(lane *piece.Lane, key pitch.Key, step int, place pitch.Place) error
}

func setSteps(t target, o op.SetSteps) error {
	steps := t.StepList()
	for _, i := range t.Steps {
		if err := steps.Patch(t.StepPath(i), i, o.Patch); err != nil {
			return err
		}
	}
	return nil
}

func writeSteps(t target, o op.WriteSteps) error {
	if len(o.Content) != len(t.Steps) {
		return t.Wrong("content", "%d steps for %d; allowed: one for each", len(o.Content), len(t.Steps))
	}
	if err := t.checkPart(o.Only); err != nil {
		return err
	}
	if o.Loose && o.Only == pitchesOnly {
		return t.Wrong("only", "steps of another kind of lane bring no pitches for %s; allowed: steps of a %s lane", t.Lane.Name, t.Lane.Kind)
	}
	steps := t.StepList()
	whole := !o.Loose && (o.Only == allOfIt || o.Only == pitchesOnly)
	for i, n := range t.Steps {
		before := *steps.Cell(n)
		if err := steps.Put(t.StepPath(n), n, o.Content[i], whole); err != nil {
			return err
		}
		keepRest(steps.Cell(n), before, o.Only)
	}
	return nil
}

func transpose(t target, o op.TransposeSteps) error {
	if !slices.Contains(pitched.Units, o.Unit) {
		return t.Wrong("unit", "%q is not allowed; allowed: %s", o.Unit, strings.Join(pitched.Units, ", "))
	}
	if o.By < -128 || o.By > 128 {
		return t.Wrong("by", "%d is out of range; allowed: -128..128", o.By)
	}
	kind, ok := t.Kind().(transposer)
	if !ok {
		return t.Wrong("lane", "notes of %s lanes have no pitch to move", t.Lane.Kind)
	}
	return t.Under(kind.Transpose(t.Lane, t.Key(), t.Steps, o.Unit, o.By))
}

func rotate(t target, o op.RotateSteps) error {
	if err := t.checkPart(o.Only); err != nil {
		return err
	}
	if o.Only == rhythmOnly { // which is of what sounds, as fills are
		t.spanning()
	}
	from := make([]int, len(t.Steps))
	for i := range from {
		from[i] = t.Steps[pitch.Mod(i-o.By, len(from))]
	}
	arrange(t.StepList(), t.Steps, from, o.Only)
	return nil
}

// moveSteps lets steps change places, as one block: what stands where they go takes the places that they leave.
func moveSteps(t target, o op.MoveSteps) error {
	t.spanning()
	steps := t.StepList()
	low, high := -t.Steps[0], steps.Len()-1-t.Steps[len(t.Steps)-1]
	if o.By < low || o.By > high {
		return t.Wrong("by", "%d would lead out of the lane; allowed: %d..%d", o.By, low, high)
	}
	if o.Nudge < -maxNudge || o.Nudge > maxNudge {
		return t.Wrong("nudge", "%d is out of range; allowed: %d..%d", o.Nudge, -maxNudge, maxNudge)
	}
	at := make([]int, len(t.Steps))
	for i, n := range t.Steps {
		at[i] = n + o.By
	}
	from := slices.Clone(t.Steps)
	moved := slices.Clone(at)
	if !o.Copy {
		left := without(t.Steps, moved)
		from = append(from, without(moved, t.Steps)...)
		at = append(at, left...)
	}
	steps.Arrange(at, from)
	for _, n := range moved {
		if cell := steps.Cell(n); cell.On {
			cell.Nudge = min(max(cell.Nudge+o.Nudge, -maxNudge), maxNudge)
		}
	}
	return nil
}

// maxNudge is how far a step is nudged at most, in percent of it.
const maxNudge = 50

// without are the steps of a list that are not in another.
func without(list, other []int) (out []int) {
	for _, n := range list {
		if !slices.Contains(other, n) {
			out = append(out, n)
		}
	}
	return out
}

func reverse(t target, _ op.ReverseSteps) error {
	from := slices.Clone(t.Steps)
	slices.Reverse(from)
	t.StepList().Arrange(t.Steps, from)
	return nil
}
