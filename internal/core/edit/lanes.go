package edit

import (
	"fmt"
	"slices"

	"agrimony/internal/core/piece"
)

func setPiece(t *target) error { return piece.PatchPiece("", t.op.Patch, t.piece) }

func (t *target) clipID(name string) string {
	return fresh(name, func(id string) bool {
		return slices.ContainsFunc(t.piece.Clips, func(c piece.Clip) bool { return c.ID == id })
	})
}

func addClip(t *target) error {
	name := t.op.Name
	if name == "" {
		name = fmt.Sprintf("Clip %d", len(t.piece.Clips)+1)
	}
	clip := piece.NewClip(t.clipID(name), name)
	if t.op.Key != nil {
		key, err := piece.ReadKey(t.op.Key)
		if err != nil {
			return err
		}
		clip.Key = key
	}
	lane := t.newLane("low", "Low")
	lane.Octave = 2
	clip.Lanes = []piece.Lane{lane}
	t.piece.Clips = append(t.piece.Clips, clip)
	return nil
}

func setClip(t *target) error { return piece.PatchClip(t.path, t.op.Patch, t.clip) }

func (t *target) clipIndex() int {
	return slices.IndexFunc(t.piece.Clips, func(c piece.Clip) bool { return c.ID == t.op.Clip })
}

func removeClip(t *target) error {
	at := t.clipIndex()
	t.piece.Clips = slices.Delete(t.piece.Clips, at, at+1)
	return nil
}

func copyClip(t *target) error {
	at := t.clipIndex()
	whole := Clone(&piece.Piece{Clips: []piece.Clip{*t.clip}})
	twin := whole.Clips[0]
	twin.ID, twin.Name = t.clipID(twin.ID), twin.Name+" again"
	t.piece.Clips = slices.Insert(t.piece.Clips, at+1, twin)
	return nil
}

func moveClip(t *target) error { return move(t.piece.Clips, t.clipIndex(), t.op.By) }

func (t *target) laneID(name string) string {
	return fresh(name, func(id string) bool {
		return slices.ContainsFunc(t.clip.Lanes, func(l piece.Lane) bool { return l.ID == id })
	})
}

func addLane(t *target) error {
	name := t.op.Name
	if name == "" {
		name = fmt.Sprintf("Lane %d", len(t.clip.Lanes)+1)
	}
	lane := t.newLane(t.laneID(name), name)
	if len(t.clip.Lanes) == 0 {
		lane.Octave = 2
	}
	t.clip.Lanes = append(t.clip.Lanes, lane)
	return nil
}

// newLane is a lane of rests that lasts one bar of the piece's meter.
func (t *target) newLane(id, name string) piece.Lane {
	lane := piece.NewLane(id, name)
	lane.Steps = piece.NewSteps(int(min(max(t.piece.Bar()/t.piece.StepLength(&lane), 1), piece.MaxSteps)))
	return lane
}

func setLane(t *target) error { return piece.PatchLane(t.path, t.op.Patch, t.lane) }

func (t *target) laneIndex() int {
	return slices.IndexFunc(t.clip.Lanes, func(l piece.Lane) bool { return l.ID == t.op.Lane })
}

func removeLane(t *target) error {
	at := t.laneIndex()
	t.clip.Lanes = slices.Delete(t.clip.Lanes, at, at+1)
	return nil
}

func copyLane(t *target) error {
	at := t.laneIndex()
	twin := *t.lane
	twin.Steps = slices.Clone(twin.Steps)
	twin.ID, twin.Name = t.laneID(twin.ID), twin.Name+" again"
	t.clip.Lanes = slices.Insert(t.clip.Lanes, at+1, twin)
	return nil
}

func moveLane(t *target) error { return move(t.clip.Lanes, t.laneIndex(), t.op.By) }

// resizeLane sets the step count to By: steps beyond it go, missing ones come as
// rests. A window that no longer fits is cut, or dropped when nothing is left.
func resizeLane(t *target) error {
	n := t.op.By
	if n < 1 || n > piece.MaxSteps {
		return &piece.Fault{Path: t.path + ".steps", Problem: fmt.Sprintf("%d steps; allowed: 1..%d", n, piece.MaxSteps)}
	}
	if have := len(t.lane.Steps); n > have {
		t.lane.Steps = append(t.lane.Steps, piece.NewSteps(n-have)...)
	} else {
		t.lane.Steps = t.lane.Steps[:n]
	}
	if w := t.lane.Window; w != nil {
		if w.Start > n {
			t.lane.Window = nil
		} else {
			t.lane.Window = &piece.Window{Start: w.Start, Count: min(w.Count, n-w.Start+1)}
		}
	}
	return nil
}

// doubleLane writes the lane's steps a second time after themselves. A window
// over all steps grows with them.
func doubleLane(t *target) error {
	n := len(t.lane.Steps)
	if 2*n > piece.MaxSteps {
		return &piece.Fault{Path: t.path + ".steps", Problem: fmt.Sprintf("doubled, the lane would have %d steps; allowed: 1..%d", 2*n, piece.MaxSteps)}
	}
	t.lane.Steps = append(t.lane.Steps, slices.Clone(t.lane.Steps)...)
	if w := t.lane.Window; w != nil && w.Start == 1 && w.Count == n {
		t.lane.Window = &piece.Window{Start: 1, Count: 2 * n}
	}
	return nil
}
