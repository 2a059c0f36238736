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
	steps := t.StepList()
	for i, n := range t.Steps {
		if err := steps.Put(t.StepPath(n), n, o.Content[i], !o.Loose); err != nil {
			return err
		}
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
	from := make([]int, len(t.Steps))
	for i := range from {
		from[i] = t.Steps[pitch.Mod(i-o.By, len(from))]
	}
	t.StepList().Arrange(t.Steps, from)
	return nil
}

func reverse(t target, _ op.ReverseSteps) error {
	from := slices.Clone(t.Steps)
	slices.Reverse(from)
	t.StepList().Arrange(t.Steps, from)
	return nil
}
