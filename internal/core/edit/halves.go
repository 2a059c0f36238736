package edit

import (
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/lane/change"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// doubler is a kind of lane without steps that makes itself twice as long in a way of its own.
type doubler interface {
	// Double makes of what the lane is for a length its round of twice that, the second half as the
	// first.
	Double(t *change.Target, length beat.Time) error
}

// doubleClip makes the clip twice as long. Each lane's steps are written out until its round is as
// long as the clip: the second half is then its own, and sounds as the first until it is varied.
func doubleClip(t target, _ op.DoubleClip) error {
	length := beat.Time(t.Clip.Bars) * t.Piece.Bar()
	if t.Clip.Bars == 0 {
		cycle := lane.CycleWithin(t.Piece, t.Clip, t.Budget)
		total := cycle.Realign
		if t.Clip.Until == "cycle" {
			total = cycle.Full
		}
		if cycle.Cycle.Over(total) {
			return t.Wrong("clip", "its lanes take more than %d bars to meet; allowed: a clip of a number of bars", beat.MaxBars)
		}
		length = beat.Time(total.Int64())
	}
	if 2*length > beat.MaxBars*t.Piece.Bar() {
		return t.Wrong("clip", "it would be longer than %d bars; allowed: up to half of that", beat.MaxBars)
	}
	for i := range t.Clip.Lanes {
		own := t.Clip.Lanes[i].Clone()
		aimed := *t.Target
		aimed.Lane, aimed.At = &own, i
		if kind, ok := aimed.Kind().(doubler); ok {
			if err := kind.Double(&aimed, length); err != nil {
				return err
			}
		} else if own.Content.StepList() != nil {
			if err := (target{&aimed}).doubleSteps(length); err != nil {
				return err
			}
		}
		t.Clip.Lanes[i] = own
	}
	if t.Clip.Bars > 0 {
		t.Clip.Bars *= 2
	}
	return nil
}

// slotsFor are the slots that a lane's steps come to within a length, by its rate or by the lane
// that clocks it.
func (t target) slotsFor(length beat.Time) ([]render.Slot, error) {
	performance, err := t.render(t.Piece, render.Options{Bars: int((length + t.Piece.Bar() - 1) / t.Piece.Bar()), Lanes: []string{t.Lane.ID}})
	if err != nil {
		return nil, t.Wrong("clip", "%v", err)
	}
	if part := &performance.Lanes[0]; part.Clock != nil {
		return slices.DeleteFunc(slices.Clone(part.Clock.Slots), func(s render.Slot) bool { return s.At >= length }), nil
	}
	var out []render.Slot
	render.PatternOf(t.Piece, t.Clip, t.Lane).Each(length, func(s render.Slot) bool {
		t.Budget.Spend(1)
		out = append(out, s)
		return true
	})
	return out, nil
}

// doubleSteps writes the steps of a lane out as they come within a length, twice. One whose round
// lasts as long as both halves is left as it is.
func (t target) doubleSteps(length beat.Time) error {
	pattern := render.PatternOf(t.Piece, t.Clip, t.Lane)
	round := pattern.RoundLength()
	if round == 0 || pattern.Shuffles() || round >= 2*length && t.Lane.Restart == 0 {
		return nil
	}
	slots, err := t.slotsFor(length)
	if err != nil {
		return err
	}
	n := len(slots)
	if n == 0 {
		return nil
	}
	if 2*n > piece.MaxSteps {
		return t.Wrong("clip", "%s would have %d steps; allowed: at most %d", t.Lane.Name, 2*n, piece.MaxSteps)
	}
	steps := t.StepList()
	steps.Resize(max(steps.Len(), 2*n))
	at, from := make([]int, 2*n), make([]int, 2*n)
	for k := range at {
		at[k], from[k] = k, int(slots[k%n].Step)
	}
	steps.Arrange(at, from)
	rounds := int(slots[n-1].Round) + 1 // that the first half goes through
	for k := range at {
		cell := steps.Cell(k)
		cell.Skip = false
		if cell.Rounds != nil {
			half := k / n
			cell.Rounds, cell.On = change.InRounds(cell.Rounds, int(slots[k%n].Round)+half*rounds, 2*rounds, cell.On)
		}
	}
	steps.Resize(2 * n)
	t.Lane.Window, t.Lane.Direction = nil, "forward"
	if _, walks := t.Kind().(render.Walking); !walks {
		t.Lane.Restart = 0
	}
	return nil
}
