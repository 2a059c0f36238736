package sketch

import (
	"reflect"

	"agrimony/internal/core/piece"
)

// apart counts the active steps in which two sketches sound, or are on, otherwise.
func (g *ground) apart(a, b []piece.LineStep) (out int) {
	for i := range g.cells {
		x, y := &a[g.cells[i].step], &b[g.cells[i].step]
		if x.On != y.On || x.On && x.Place() != y.Place() {
			out++
		}
	}
	return out
}

// differs counts the active steps that differ from what stands there in a field that is heard.
func (g *ground) differs(steps []piece.LineStep) int { return differing(g, g.steps, steps) }

func differing(g *ground, a, b []piece.LineStep) (out int) {
	heldA, heldB := g.carried(a), g.carried(b)
	for i := range g.cells {
		x, y := heard(a[g.cells[i].step], heldA[i]), heard(b[g.cells[i].step], heldB[i])
		if !reflect.DeepEqual(x, y) {
			out++
		}
	}
	return out
}

// carried tells of each cell whether a note is held into it.
func (g *ground) carried(steps []piece.LineStep) []bool {
	out := make([]bool, len(g.cells))
	n := len(g.slots)
	held := false
	for k := range 2 * n {
		i := g.slots[k%n]
		s := &steps[g.cells[i].step]
		out[i] = out[i] || held && k >= n
		held = s.Tie && (s.On || held)
	}
	return out
}

// heard is a step less what is not heard of it.
func heard(s piece.LineStep, held bool) piece.LineStep {
	out := piece.NewLineStep()
	out.On, out.Skip = s.On, false
	if s.On || held {
		out.Tie, out.Gate = s.Tie, s.Gate
	}
	if s.On {
		out = s
		out.Skip = false
	}
	if len(out.Bend) == 0 {
		out.Bend = nil
	}
	return out
}
