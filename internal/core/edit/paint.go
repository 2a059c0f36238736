package edit

import (
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/lane/change"
	"agrimony/internal/core/lane/pitched"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// painter is a kind of lane that is painted in a way of its own; others are in whole steps.
type painter interface {
	Paint(t *change.Target, s *change.Stroke, o op.PaintNotes) error
	Stamp(t *change.Target, s *change.Stroke, o op.StampNotes) error
}

func paint(t target, o op.PaintNotes) error {
	s, err := t.Stroke(o.Stroke)
	if err != nil {
		return err
	}
	if o.Velocity < 0 || o.Velocity > 127 {
		return t.Wrong("velocity", "%d is out of range; allowed: 1..127, or none", o.Velocity)
	}
	if kind, ok := t.Kind().(painter); ok {
		return kind.Paint(t.Target, s, o)
	}
	return t.paintSteps(s, o.Velocity)
}

func stamp(t target, o op.StampNotes) error {
	s, err := t.Stroke(o.Stroke)
	if err != nil {
		return err
	}
	if kind, ok := t.Kind().(painter); ok {
		return kind.Stamp(t.Target, s, o)
	}
	return t.stampSteps(s, o.Steps)
}

// paintSteps puts a line's steps that a stroke goes through onto its rows.
func (t target) paintSteps(s *change.Stroke, velocity int) error {
	var put []op.PutNote
	seen := map[int32]int{}
	low, high := slices.Min(s.At), slices.Max(s.At)
	step := int(t.Piece.StepLength(t.Lane) / piece.NoteTick)
	if t.StepList() == nil {
		return t.Wrong("lane", "%s is a %s lane; allowed: a lane of notes, or a line", t.Lane.Name, t.Lane.Kind)
	}
	_, row := s.Rows(max(step, 1))
	pattern := render.PatternOf(t.Piece, t.Clip, t.Lane)
	pattern.Each(beat.Time(high+1)*piece.NoteTick, func(slot render.Slot) bool {
		t.Budget.Spend(1)
		at := int(slot.At / piece.NoteTick)
		if at+step <= low {
			return true
		}
		r, there := row[at/max(step, 1)]
		if !there {
			r = s.Along(min(max(at, low), high))
		}
		n := op.PutNote{Step: int(slot.Step) + 1, At: s.Place(r), Ticks: at}
		if k, before := seen[slot.Step]; before {
			put[k] = n
			return true
		}
		seen[slot.Step] = len(put)
		put = append(put, n)
		return true
	})
	if len(put) == 0 {
		return t.Wrong("stroke", "it goes over no step of %s that plays", t.Lane.Name)
	}
	if err := putNotes(t, op.PutNotes{Notes: put}); err != nil {
		return err
	}
	for _, n := range put {
		cell := t.StepList().Cell(n.Step - 1)
		cell.Tie = false
		if velocity > 0 {
			cell.Velocity = velocity
		}
	}
	return nil
}

// stampSteps lays steps of a line along a stroke, in whole steps.
func (t target) stampSteps(s *change.Stroke, named []int) error {
	if err := t.TakeSteps(named); err != nil {
		return err
	}
	kind, err := t.placer()
	if err != nil {
		return err
	}
	steps := slices.Clone(t.Steps)
	slices.Sort(steps)
	if _, ok := t.Lane.Place(steps[0]); !ok {
		return t.Wrong("lane", "steps of %s lanes say no place in the key", t.Lane.Kind)
	}
	step := int(t.Piece.StepLength(t.Lane) / piece.NoteTick)
	length := steps[len(steps)-1] - steps[0] + 1
	begins := s.Stamps(length*step, step)
	if len(begins) == 0 {
		return t.Wrong("stroke", "there is no room for the motif before %d", s.At[0])
	}
	var slots []render.Slot
	render.PatternOf(t.Piece, t.Clip, t.Lane).Each(beat.Time(begins[len(begins)-1]+length*step)*piece.NoteTick, func(s render.Slot) bool {
		t.Budget.Spend(1)
		slots = append(slots, s)
		return true
	})
	var at, from []int
	var places []pitch.Place
	first, _ := t.Lane.Place(steps[0])
	for _, begin := range begins {
		rows := s.Along(begin) - change.RowOf(s.Key, first)
		for _, k := range steps {
			slot := begin/step + k - steps[0]
			if slot >= len(slots) {
				return t.Wrong("stroke", "it goes over no step of %s that plays", t.Lane.Name)
			}
			own, _ := t.Lane.Place(k)
			moved := s.Key.Move(own, rows)
			if err := pitched.Check(s.Key, moved); err != nil {
				return pitched.Under(t.StepPath(k), err)
			}
			at, from, places = append(at, int(slots[slot].Step)), append(from, k), append(places, moved)
		}
	}
	t.StepList().Arrange(at, from)
	for i, k := range at {
		if err := kind.SetPlace(t.Lane, s.Key, k, places[i]); err != nil {
			return t.Under(err)
		}
	}
	return nil
}
