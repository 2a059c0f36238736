// Package edit changes pieces: what the edits of package op do. Each is applied to
// a piece and gives a new one or an error; edits carry all the musical arithmetic,
// so that a screen computes none.
package edit

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"agrimony/internal/core/budget"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/lane/pitched"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// target is what an edit works on. What it points to may be changed; the piece it
// came from is left alone.
type target struct {
	piece *piece.Piece
	clip  *piece.Clip
	lane  *piece.Lane
	kind  lane.Kind
	at    int    // index of the clip or, where the aim is deeper, of the lane
	steps []int  // from 0
	path  string // of the innermost of them
	edit  string // "ops[2]": the edit itself, for what is wrong with its arguments

	budget *budget.Budget // of all edits that are made together
}

// rule is one edit: what it does, and what the history calls it.
type rule struct {
	label string
	apply func(t *target, args any) error
	check bool // it may leave the piece in a state that the next edit must not see
}

func on[A any](label string, apply func(t *target, args A) error) rule {
	return rule{label: label, apply: func(t *target, args any) error { return apply(t, args.(A)) }}
}

func (r rule) checked() rule { r.check = true; return r }

// rules are what each edit does. To add one, add a row here and one in package op.
var rules = map[string]rule{
	"piece.set":           on("change the piece", setPiece).checked(),
	"key.set":             on("change the key", setKey).checked(),
	"clip.add":            on("add a clip", addClip),
	"clip.set":            on("change the clip", setClip).checked(),
	"clip.remove":         on("remove the clip", removeClip),
	"clip.copy":           on("duplicate the clip", copyClip),
	"clip.move":           on("move the clip", moveClip),
	"lane.add":            on("add a lane", addLane).checked(),
	"lane.set":            on("change the lane", setLane).checked(),
	"lane.remove":         on("remove the lane", removeLane),
	"lane.copy":           on("duplicate the lane", copyLane),
	"lane.move":           on("move the lane", moveLane),
	"lane.resize":         on("change the step count", resizeLane),
	"lane.double":         on("double the lane", doubleLane),
	"steps.set":           on("change steps", setSteps),
	"steps.write":         on("paste steps", writeSteps).checked(),
	"steps.transpose":     on("transpose", transpose),
	"steps.rotate":        on("rotate", rotate),
	"steps.reverse":       on("reverse", reverse),
	"step.drag":           on("drag a note's end", dragEnd),
	"notes.put":           on("place notes", putNotes),
	"clip.harmony":        on("change the harmony", setHarmony).checked(),
	"bass.make":           on("make a bass", makeBass).checked(),
	"chords.write":        on("write a progression", writeChords).checked(),
	"chords.stack":        on("place a chord", placeStack).checked(),
	"chords.place":        on("place a chord", placeChord).checked(),
	"chords.take":         on("take a chord", takeChord).checked(),
	"chords.tone":         on("change a chord", turnTone).checked(),
	"chords.drag":         on("change a chord", dragTone).checked(),
	"chords.hold":         on("make a chord last", holdChord),
	"chords.moveTone":     on("change a chord", moveTone).checked(),
	"chords.widen":        on("widen chords", widenChords).checked(),
	"chords.open":         on("open chords", openChords).checked(),
	"chords.invert":       on("invert chords", invertChords),
	"chords.name":         on("name a chord", nameChord).checked(),
	"chords.drop":         on("drop a chord", dropChord),
	"chords.move":         on("move a chord", moveChord),
	"notes.enter":         on("enter what was played", enterNotes).checked(),
	"phrase.print":        on("write a phrase out as notes", printPhrase).checked(),
	"lane.start":          on("begin from a starter", startLane).checked(),
	"lane.hold":           on("hold what was drawn", holdLuck),
	"lane.writeModulator": on("write a modulator into the steps", writeModulator),
	"groove.take":         on("take a groove", takeGroove),
	"groove.print":        on("print the groove", printGroove),
	"fill.accents":        on("set accents", fillAccents),
	"fill.chance":         on("set the chance", fillChance),
	"fill.thin":           on("thin out", thinOut),
	"fill.double":         on("double the hits", doubleHits),
	"fill.share":          on("fill the rhythm", fillShare),
	"fill.plays":          on("shape a phrase", fillPlays),
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
		t, err := aim(&next, o, fmt.Sprintf("ops[%d]", i), touched, work)
		if err == nil {
			err = r.apply(t, o.Args)
		}
		if err == nil && r.check && i < len(ops)-1 {
			work.Spend(checking * stepsOf(next.Clips))
			err = piece.Check(&next)
		}
		if err != nil {
			return nil, faultOf(err)
		}
	}
	work.Spend(checking * stepsOf(next.Clips))
	if err := piece.Check(&next); err != nil {
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
func (t *target) render(p *piece.Piece, options render.Options) (*render.Performance, error) {
	options.Budget = t.budget
	if t.budget != nil {
		options.Events = mostPlayed
	}
	return lane.Render(p, t.clip, options)
}

// stepsOf is how many steps clips have, and one for each lane.
func stepsOf(clips []piece.Clip) (count int64) {
	for i := range clips {
		count += lanesSteps(clips[i].Lanes)
	}
	return count
}

func lanesSteps(lanes []piece.Lane) (count int64) {
	for i := range lanes {
		count++
		if steps := lanes[i].Content.Slots(); steps != nil {
			count += int64(steps.Len())
		}
	}
	return count
}

// faultOf makes every refusal one of the document's kind.
func faultOf(err error) error {
	var fault *piece.Fault
	if errors.As(err, &fault) {
		return fault
	}
	return &piece.Fault{Problem: err.Error()}
}

// Label says in a few words what ops do.
func Label(ops []op.Op) string {
	label := rules[ops[0].Name()].label
	for _, o := range ops[1:] {
		if rules[o.Name()].label != label {
			return label + " and more"
		}
	}
	return label
}

// aim finds what an op is of, and copies it, once for all ops, before it is
// changed.
func aim(p *piece.Piece, o op.Op, name string, touched map[any]bool, work *budget.Budget) (*target, error) {
	t := &target{piece: p, edit: name, budget: work}
	aimed, ok := o.Args.(op.Aimed)
	if !ok || aimed.Aim().Depth == op.AtPiece {
		return t, nil
	}
	at := aimed.Aim()
	if t.at = slices.IndexFunc(p.Clips, func(c piece.Clip) bool { return c.ID == at.Clip }); t.at < 0 {
		_, err := p.Clip(at.Clip)
		return nil, t.wrong("clip", "%v", err)
	}
	t.clip = &p.Clips[t.at]
	t.path = fmt.Sprintf("clips[%d]", t.at)
	if key := "clip " + at.Clip; !touched[key] {
		t.clip.Lanes = slices.Clone(t.clip.Lanes)
		touched[key] = true
	}
	if at.Depth < op.AtLane {
		return t, nil
	}
	if t.at = slices.IndexFunc(t.clip.Lanes, func(l piece.Lane) bool { return l.ID == at.Lane }); t.at < 0 {
		return nil, t.wrong("lane", "no lane %q in clip %q", at.Lane, at.Clip)
	}
	t.lane = &t.clip.Lanes[t.at]
	t.kind = lane.Of(t.lane)
	t.path = fmt.Sprintf("%s.lanes[%d]", t.path, t.at)
	work.Spend(copying * lanesSteps(t.clip.Lanes[t.at:t.at+1]))
	if !touched[t.lane.Content] {
		t.lane.Content = t.lane.Content.Clone()
		touched[t.lane.Content] = true
	}
	if at.Depth < op.AtSteps {
		return t, nil
	}
	return t, t.takeSteps(at.Steps)
}

// takeSteps takes the steps that an op names, each once.
func (t *target) takeSteps(named []int) error {
	steps := t.lane.Content.Slots()
	if steps == nil {
		return t.wrong("lane", "%s lanes have no steps", t.lane.Kind)
	}
	count := steps.Len()
	if len(named) == 0 || len(named) > count {
		return t.wrong("steps", "%d steps are named; allowed: 1..%d, each once", len(named), count)
	}
	seen := make([]bool, count)
	t.steps = make([]int, len(named))
	for i, n := range named {
		if n < 1 || n > count {
			return t.wrong("steps", "there is no step %d; allowed: 1..%d", n, count)
		}
		if seen[n-1] {
			return t.wrong("steps", "step %d is named twice; allowed: each once", n)
		}
		seen[n-1] = true
		t.steps[i] = n - 1
	}
	return nil
}

// wrong is a refusal of one of the edit's arguments.
func (t *target) wrong(argument, format string, args ...any) error {
	return &piece.Fault{Path: t.edit + "." + argument, Problem: fmt.Sprintf(format, args...)}
}

// under puts the lane's path before that of an error from its kind.
func (t *target) under(err error) error { return pitched.Under(t.path, err) }

func (t *target) key() pitch.Key { return t.piece.KeyOf(t.clip) }

func (t *target) slots() piece.Steps { return t.lane.Content.Slots() }

func (t *target) stepPath(i int) string { return fmt.Sprintf("%s.steps[%d]", t.path, i) }

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

// move puts an item at a place, from 1.
func move[T any](t *target, items []T, from, to int) error {
	if to < 1 || to > len(items) {
		return t.wrong("to", "place %d is not there; allowed: 1..%d", to, len(items))
	}
	item := items[from]
	copy(items[from:], items[from+1:])
	copy(items[to:], items[to-1:len(items)-1])
	items[to-1] = item
	return nil
}
