// Package edit changes pieces: every edit that a screen offers is an Op here,
// a value applied to a piece that gives a new piece or an error. Ops carry all
// the musical arithmetic, so that a screen computes none.
package edit

import (
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strings"

	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
)

// Op is one edit. Which fields matter depends on Op; steps count from 1.
type Op struct {
	Op      string            `json:"op"`
	Clip    string            `json:"clip,omitempty"`
	Lane    string            `json:"lane,omitempty"`
	Name    string            `json:"name,omitempty"`
	Steps   []int             `json:"steps,omitempty"`
	Patch   json.RawMessage   `json:"patch,omitempty" tstype:"unknown"`
	Content []json.RawMessage `json:"content,omitempty" tstype:"unknown[]"`
	Key     json.RawMessage   `json:"key,omitempty" tstype:"unknown"`
	Keep    string            `json:"keep,omitempty"`
	By      int               `json:"by,omitempty"`
	Unit    string            `json:"unit,omitempty"`
	Places  []*pitch.Place    `json:"places,omitempty"`
	Pattern []string          `json:"pattern,omitempty"`
}

// target is what an op works on.
type target struct {
	op    Op
	piece *piece.Piece
	clip  *piece.Clip
	lane  *piece.Lane
	path  string // of the innermost of them
}

// scope is how deep an op's target lies.
type scope int

const (
	onPiece scope = iota
	onClip
	onLane
	onSteps // a lane, with at least one of its steps
)

type kind struct {
	scope scope
	apply func(t *target) error
	label string // for the history
}

// kinds are all edits. To add one, add a row. (Filled in init, because some
// apply others.)
var kinds map[string]kind

func init() {
	kinds = map[string]kind{
		"piece.set":       {onPiece, setPiece, "change the piece"},
		"key.set":         {onPiece, setKey, "change the key"},
		"clip.add":        {onPiece, addClip, "add a clip"},
		"clip.set":        {onClip, setClip, "change the clip"},
		"clip.remove":     {onClip, removeClip, "remove the clip"},
		"clip.copy":       {onClip, copyClip, "duplicate the clip"},
		"clip.move":       {onClip, moveClip, "move the clip"},
		"lane.add":        {onClip, addLane, "add a lane"},
		"lane.set":        {onLane, setLane, "change the lane"},
		"lane.remove":     {onLane, removeLane, "remove the lane"},
		"lane.copy":       {onLane, copyLane, "duplicate the lane"},
		"lane.move":       {onLane, moveLane, "move the lane"},
		"lane.resize":     {onLane, resizeLane, "change the step count"},
		"lane.double":     {onLane, doubleLane, "double the lane"},
		"steps.set":       {onSteps, setSteps, "change steps"},
		"steps.write":     {onSteps, writeSteps, "paste steps"},
		"steps.transpose": {onSteps, transpose, "transpose"},
		"steps.rotate":    {onSteps, rotate, "rotate"},
		"steps.reverse":   {onSteps, reverse, "reverse"},
		"fill.every":      {onSteps, fillEvery, "fill the rhythm"},
		"fill.even":       {onSteps, fillEven, "spread hits"},
		"fill.contour":    {onSteps, fillContour, "draw a contour"},
		"fill.pattern":    {onSteps, fillPattern, "fill the pitches"},
	}
}

// MaxOps is the largest number of ops in one edit.
const MaxOps = 1000

// Apply applies ops one after another to a copy of the piece. Either all apply,
// and the result is a valid piece, or the error says which one is wrong.
func Apply(p *piece.Piece, ops []Op) (*piece.Piece, error) {
	if len(ops) == 0 || len(ops) > MaxOps {
		return nil, &piece.Fault{Path: "ops", Problem: fmt.Sprintf("%d items; allowed: 1..%d", len(ops), MaxOps)}
	}
	next := Clone(p)
	for i, op := range ops {
		k, ok := kinds[op.Op]
		if !ok {
			names := slices.Sorted(maps.Keys(kinds))
			return nil, &piece.Fault{Path: fmt.Sprintf("ops[%d].op", i), Problem: fmt.Sprintf("%q is not allowed; allowed: %s", op.Op, strings.Join(names, ", "))}
		}
		t, err := aim(next, op, k.scope)
		if err == nil {
			err = k.apply(t)
		}
		if err != nil {
			return nil, err
		}
	}
	if err := piece.Check(next); err != nil {
		return nil, err
	}
	return next, nil
}

// Label says in a few words what ops do.
func Label(ops []Op) string {
	label := kinds[ops[0].Op].label
	for _, op := range ops[1:] {
		if kinds[op.Op].label != label {
			return label + " and more"
		}
	}
	return label
}

func aim(p *piece.Piece, op Op, s scope) (*target, error) {
	t := &target{op: op, piece: p}
	if s == onPiece && op.Clip == "" {
		return t, nil
	}
	at := slices.IndexFunc(p.Clips, func(c piece.Clip) bool { return c.ID == op.Clip })
	if at < 0 {
		_, err := p.Clip(op.Clip)
		return nil, &piece.Fault{Path: "clip", Problem: err.Error()}
	}
	t.clip = &p.Clips[at]
	t.path = fmt.Sprintf("clips[%d]", at)
	if s < onLane {
		return t, nil
	}
	lane := slices.IndexFunc(t.clip.Lanes, func(l piece.Lane) bool { return l.ID == op.Lane })
	if lane < 0 {
		return nil, &piece.Fault{Path: t.path + ".lanes", Problem: fmt.Sprintf("no lane %q", op.Lane)}
	}
	t.lane = &t.clip.Lanes[lane]
	t.path = fmt.Sprintf("%s.lanes[%d]", t.path, lane)
	if s < onSteps {
		return t, nil
	}
	if len(op.Steps) == 0 {
		return nil, &piece.Fault{Path: t.path + ".steps", Problem: "no steps are named"}
	}
	for _, n := range op.Steps {
		if n < 1 || n > len(t.lane.Steps) {
			return nil, &piece.Fault{Path: t.path + ".steps", Problem: fmt.Sprintf("there is no step %d; allowed: 1..%d", n, len(t.lane.Steps))}
		}
	}
	return t, nil
}

func (t *target) key() pitch.Key { return t.piece.KeyOf(t.clip) }

func (t *target) step(n int) *piece.Step { return &t.lane.Steps[n-1] }

func (t *target) stepPath(n int) string { return fmt.Sprintf("%s.steps[%d]", t.path, n-1) }

// Clone copies a piece so deeply that changing the copy leaves it alone. What
// edits replace whole (glides, bends, rounds, windows) is shared.
func Clone(p *piece.Piece) *piece.Piece {
	out := *p
	out.Clips = slices.Clone(p.Clips)
	for i := range out.Clips {
		out.Clips[i].Lanes = slices.Clone(out.Clips[i].Lanes)
		for k := range out.Clips[i].Lanes {
			out.Clips[i].Lanes[k].Steps = slices.Clone(out.Clips[i].Lanes[k].Steps)
		}
	}
	return &out
}

// fresh finds an id that is not taken: the stem, or the stem with a number.
func fresh(stem string, taken func(string) bool) string {
	stem = strings.Trim(strings.Map(func(r rune) rune {
		switch {
		case r >= 'a' && r <= 'z' || r >= '0' && r <= '9' || r == '-':
			return r
		case r >= 'A' && r <= 'Z':
			return r + 'a' - 'A'
		case r == ' ':
			return '-'
		}
		return -1
	}, stem), "-")
	if len(stem) > 40 {
		stem = stem[:40]
	}
	if stem != "" && !taken(stem) {
		return stem
	}
	for n := 2; ; n++ {
		if id := strings.TrimPrefix(fmt.Sprintf("%s-%d", stem, n), "-"); !taken(id) {
			return id
		}
	}
}

func move[T any](items []T, from, to int) error {
	if to < 1 || to > len(items) {
		return fmt.Errorf("place %d is not there; allowed: 1..%d", to, len(items))
	}
	item := items[from]
	copy(items[from:], items[from+1:])
	copy(items[to:], items[to-1:len(items)-1])
	items[to-1] = item
	return nil
}
