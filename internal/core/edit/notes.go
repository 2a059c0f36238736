package edit

import (
	"agrimony/internal/core/beat"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/lane/pitched"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// rooted is a lane whose places may count from the chords' roots.
type rooted interface{ Rooted() *piece.Pitched }

func putNotes(t target, o op.PutNotes) error {
	named := make([]int, len(o.Notes))
	for i, n := range o.Notes {
		named[i] = n.Step
	}
	if err := t.TakeSteps(named); err != nil {
		return err
	}
	kind, err := t.placer()
	if err != nil {
		return err
	}
	ticks := make([]int, len(o.Notes))
	for i, n := range o.Notes {
		ticks[i] = n.Ticks
	}
	meant, err := t.meant(ticks)
	if err != nil {
		return err
	}
	for i, n := range t.Steps {
		at := o.Notes[i].At
		if err := pitched.Check(t.Key(), at); err != nil {
			return pitched.Under(t.StepPath(n), err)
		}
		if err := kind.SetPlace(t.Lane, t.Key(), n, meant(i, at)); err != nil {
			return t.Under(err)
		}
		t.StepList().Cell(n).On = true
	}
	return nil
}

// meant gives the place that a step must hold to stand at a place of the ladder: in a
// lane that follows roots, counted from the one under it.
func (t target) meant(ticks []int) (func(i int, at pitch.Place) pitch.Place, error) {
	own, ok := t.Lane.Content.(rooted)
	if !ok || ticks == nil || !render.Listens(t.Lane) {
		return func(_ int, at pitch.Place) pitch.Place { return at }, nil
	}
	last := 0
	for _, n := range ticks {
		if most := (t.Piece.Bar() * beat.MaxBars).Export(render.DefaultPPQ); n < 0 || int64(n) >= most {
			return nil, t.Wrong("ticks", "tick %d is in no clip; allowed: 0..%d", n, most-1)
		}
		last = max(last, n)
	}
	h := lane.Harmony(t.Piece, t.Clip, beat.Of(int64(last)+1, render.DefaultPPQ), t.Budget)
	return func(i int, at pitch.Place) pitch.Place {
		return pitched.Uncounted(own.Rooted(), t.Key(), h.At(beat.Of(int64(ticks[i]), render.DefaultPPQ)), at)
	}, nil
}
