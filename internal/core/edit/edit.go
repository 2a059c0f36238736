// Package edit changes pieces: what the edits of package op do. Each is applied to
// a piece and gives a new one or an error; edits carry all the musical arithmetic,
// so that a screen computes none.
package edit

import (
	"errors"
	"fmt"
	"maps"
	"slices"

	"agrimony/internal/core/budget"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/lane/change"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// target is what an edit works on, with what only edits of any kind of lane do with it.
type target struct{ *change.Target }

func on[A any](label string, apply func(t target, args A) error) change.Rule {
	return change.On(label, func(t *change.Target, args A) error { return apply(target{t}, args) })
}

// editing is a kind of lane with edits of its own.
type editing interface{ Edits() map[string]change.Rule }

// rules are what each edit does: of lanes of any kind here, of one kind in its room. To add
// one, add a row there and one in package op.
var rules = func() map[string]change.Rule {
	out := maps.Clone(shared)
	for _, kind := range lane.Kinds {
		if own, ok := kind.(editing); ok {
			maps.Copy(out, own.Edits())
		}
	}
	return out
}()

var shared = map[string]change.Rule{
	"piece.set":           on("change the piece", setPiece).Checked(),
	"key.set":             on("change the key", setKey).Checked(),
	"order.write":         on("write the running order", writeOrder).Checked(),
	"order.add":           on("bring a clip in", addEntries).Checked(),
	"order.set":           on("change entries", setEntries).Checked(),
	"order.move":          on("move entries", moveEntries).Checked(),
	"order.stretch":       on("stretch entries", stretchEntries).Checked(),
	"order.copy":          on("copy entries", copyEntries).Checked(),
	"order.split":         on("split entries", splitEntries).Checked(),
	"order.remove":        on("take entries out", removeEntries),
	"order.keep":          on("keep what was played", keepPlayed).Checked(),
	"clip.add":            on("add a clip", addClip),
	"clip.set":            on("change the clip", setClip).Checked(),
	"clip.remove":         on("remove the clip", removeClip),
	"clip.copy":           on("duplicate the clip", copyClip),
	"clip.variant":        on("make a variant", addVariant),
	"clip.apart":          on("take the stack apart", apartStack),
	"clip.take":           on("take across", takeAcross).Checked(),
	"lane.sketch":         on("take a sketch", takeSketch),
	"lane.vary":           on("vary", takeVaried),
	"clip.move":           on("move the clip", moveClip),
	"lane.add":            on("add a lane", addLane).Checked(),
	"lane.set":            on("change the lane", setLane).Checked(),
	"lane.remove":         on("remove the lane", removeLane),
	"lane.copy":           on("duplicate the lane", copyLane),
	"lane.move":           on("move the lane", moveLane),
	"lane.resize":         on("change the step count", resizeLane),
	"lane.double":         on("double the lane", doubleLane),
	"steps.set":           on("change steps", setSteps),
	"steps.write":         on("paste steps", writeSteps).Checked(),
	"steps.transpose":     on("transpose", transpose),
	"steps.rotate":        on("rotate", rotate),
	"steps.move":          on("move steps", moveSteps),
	"steps.reverse":       on("reverse", reverse),
	"step.drag":           on("drag a note's end", dragEnd),
	"notes.put":           on("place notes", putNotes),
	"clip.harmony":        on("change the harmony", setHarmony).Checked(),
	"bass.make":           on("make a bass", makeBass).Checked(),
	"notes.enter":         on("enter what was played", enterNotes).Checked(),
	"lane.print":          on("print lanes as notes", printLanes).Checked(),
	"lane.become":         on("make another lane of notes", becomeLane).Checked(),
	"clip.double":         on("double and vary", doubleClip).Checked(),
	"notes.paint":         on("paint notes", paint),
	"notes.stamp":         on("stamp a motif", stamp),
	"phrase.print":        on("write a phrase out as notes", printPhrase).Checked(),
	"lane.start":          on("begin from a starter", startLane).Checked(),
	"lane.hold":           on("hold what was drawn", holdLuck),
	"lane.writeModulator": on("write a modulator into the steps", writeModulator),
	"groove.take":         on("take a groove", takeGroove),
	"groove.print":        on("print the groove", printGroove),
	"fill.accents":        on("set accents", fillAccents),
	"fill.chance":         on("set the chance", fillChance),
	"fill.thin":           on("thin out", thinOut),
	"fill.double":         on("double the hits", doubleHits),
	"fill.share":          on("fill the rhythm", fillShare),
	"fill.every":          on("fill the rhythm", fillEvery),
	"fill.even":           on("spread hits", fillEven),
	"fill.from":           on("take a rhythm", fillFrom),
	"fill.contour":        on("draw a contour", fillContour),
	"fill.pattern":        on("fill the pitches", fillPattern),
}

// MaxOps is the largest number of ops in one edit.
const MaxOps = 1000

// Apply applies ops one after another to a copy of the piece. Either all apply,
// and the result is a valid piece, or the error, a *piece.Fault, says which one
// is wrong. Lanes that no op touches are shared with the piece given.
func Apply(p *piece.Piece, ops []op.Op) (*piece.Piece, error) { return ApplyWithin(p, ops, nil) }

// ApplyWithin is the same within a budget, whose error it may be.
func ApplyWithin(p *piece.Piece, ops []op.Op, work *budget.Budget) (out *piece.Piece, err error) {
	defer budget.Catch(&err)
	if len(ops) == 0 || len(ops) > MaxOps {
		return nil, &piece.Fault{Path: "ops", Problem: fmt.Sprintf("%d items; allowed: 1..%d", len(ops), MaxOps)}
	}
	next := *p
	next.Clips = slices.Clone(p.Clips)
	touched := map[any]bool{}
	for i, o := range ops {
		r := rules[o.Name()]
		named := next.Named()
		t, err := aim(&next, o, fmt.Sprintf("ops[%d]", i), touched, work)
		if err == nil {
			err = r.Apply(t, o.Args)
		}
		if err == nil {
			next.Prune(named)
		}
		if err == nil && r.Check && i < len(ops)-1 {
			work.Spend(checking * stepsChanged(p, &next))
			err = piece.CheckSince(p, &next)
		}
		if err != nil {
			return nil, faultOf(err)
		}
	}
	work.Spend(checking * stepsChanged(p, &next))
	if err := piece.CheckSince(p, &next); err != nil {
		return nil, err
	}
	return &next, nil
}

// What copying a step, checking it, and keeping it once more cost, in units of package budget.
const (
	copying  = 10
	checking = 10
	keeping  = 50
)

// mostPlayed is how many events an edit that listens to its clip may have played at a time.
const mostPlayed = 400_000

// render plays the clip, of a piece that is otherwise made, within the edit's budget.
func (t target) render(p *piece.Piece, options render.Options) (*render.Performance, error) {
	options.Budget = t.Budget
	if t.Budget != nil {
		options.Events = mostPlayed
	}
	return lane.Render(p, t.Clip, options)
}

// stepsChanged is how many steps the clips have that changed, and one for each lane of theirs.
func stepsChanged(was, now *piece.Piece) (count int64) {
	for i := range now.Clips {
		if !now.Clips[i].Unchanged(was) {
			count += lanesSteps(now.Clips[i].Lanes)
		}
	}
	return count
}

func lanesSteps(lanes []piece.Lane) (count int64) {
	for i := range lanes {
		count++
		if steps := lanes[i].Content.StepList(); steps != nil {
			count += int64(steps.Len())
		} else if free := piece.FreeOf(&lanes[i]); free != nil {
			count += int64(free.Count())
		}
	}
	return count
}

// faultOf makes every refusal one of the document's kind.
func faultOf(err error) error {
	var asks *change.AskError
	var fault *piece.Fault
	switch {
	case errors.As(err, &asks):
		return asks
	case errors.As(err, &fault):
		return fault
	}
	return &piece.Fault{Problem: err.Error()}
}

// Label says in a few words what ops do.
func Label(ops []op.Op) string {
	label := rules[ops[0].Name()].Label
	for _, o := range ops[1:] {
		if rules[o.Name()].Label != label {
			return label + " and more"
		}
	}
	return label
}

// aim finds what an op is of, and copies it, once for all ops, before it is
// changed.
func aim(p *piece.Piece, o op.Op, name string, touched map[any]bool, work *budget.Budget) (*change.Target, error) {
	t := &change.Target{Piece: p, Edit: name, Budget: work, Kinds: lane.KindOf}
	aimed, ok := o.Args.(op.Aimed)
	if !ok || aimed.Aim().Depth == op.AtPiece {
		return t, nil
	}
	at := aimed.Aim()
	if t.At = slices.IndexFunc(p.Clips, func(c piece.Clip) bool { return c.ID == at.Clip }); t.At < 0 {
		_, err := p.Clip(at.Clip)
		return nil, t.Wrong("clip", "%v", err)
	}
	t.Clip = &p.Clips[t.At]
	t.Path = fmt.Sprintf("clips[%d]", t.At)
	if key := "clip " + at.Clip; !touched[key] {
		t.Clip.Lanes = slices.Clone(t.Clip.Lanes)
		touched[key] = true
	}
	if at.Depth < op.AtLane {
		return t, nil
	}
	if t.At = slices.IndexFunc(t.Clip.Lanes, func(l piece.Lane) bool { return l.ID == at.Lane }); t.At < 0 {
		return nil, t.Wrong("lane", "no lane %q in clip %q", at.Lane, at.Clip)
	}
	t.Lane = &t.Clip.Lanes[t.At]
	t.Path = fmt.Sprintf("%s.lanes[%d]", t.Path, t.At)
	work.Spend(copying * lanesSteps(t.Clip.Lanes[t.At:t.At+1]))
	if !touched[t.Lane.Content] {
		t.Lane.Content = t.Lane.Content.Clone()
		touched[t.Lane.Content] = true
	}
	if at.Depth < op.AtSteps {
		return t, nil
	}
	return t, t.TakeSteps(at.Steps)
}

// reorder puts an item at a place, from 1.
func reorder[T any](t target, items []T, from, to int) error {
	if to < 1 || to > len(items) {
		return t.Wrong("to", "place %d is not there; allowed: 1..%d", to, len(items))
	}
	item := items[from]
	copy(items[from:], items[from+1:])
	copy(items[to:], items[to-1:len(items)-1])
	items[to-1] = item
	return nil
}
