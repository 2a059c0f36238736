package edit

import (
	"encoding/json"
	"fmt"
	"reflect"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

func setPiece(t target, o op.SetPiece) error { return piece.PatchPiece("", o.Patch, t.Piece) }

func (t target) clipID(name string) string {
	return piece.FreshID(name, func(id string) bool {
		return slices.ContainsFunc(t.Piece.Clips, func(c piece.Clip) bool { return c.ID == id })
	})
}

func addClip(t target, o op.AddClip) error {
	if err := t.Room(len(t.Piece.Clips), piece.MaxClips, "clips"); err != nil {
		return err
	}
	if o.Name == "" {
		o.Name = fmt.Sprintf("Clip %d", len(t.Piece.Clips)+1)
	}
	clip := piece.NewClip(t.clipID(o.Name), o.Name)
	if o.Key != nil {
		key, err := piece.ReadKey(o.Key)
		if err != nil {
			return err
		}
		clip.Key = key
	}
	clip.Lanes = []piece.Lane{t.firstLane()}
	t.Piece.Clips = append(t.Piece.Clips, clip)
	return nil
}

// firstLane is the lane that a clip begins with.
func (t target) firstLane() piece.Lane {
	low := t.newLane(piece.DefaultKind, "low", "Low")
	if err := piece.PatchLane("", []byte(lowest), &low); err != nil {
		panic(err) // it is this program's own
	}
	return low
}

// lowest is what a clip's first lane begins with: the octave of a bass.
const lowest = `{"octave":2}`

func setClip(t target, o op.SetClip) error { return piece.PatchClip(t.Path, o.Patch, t.Clip) }

func removeClip(t target, _ op.RemoveClip) error {
	gone := t.Clip.ID
	t.Piece.Clips = slices.Delete(t.Piece.Clips, t.At, t.At+1)
	for i := range t.Piece.Clips {
		if h := t.Piece.Clips[i].Harmony; h != nil && h.Clip == gone {
			t.Piece.Clips[i].Harmony = nil
		}
	}
	t.Piece.Orphaned(gone)
	return nil
}

func copyClip(t target, _ op.CopyClip) error {
	if err := t.Room(len(t.Piece.Clips), piece.MaxClips, "clips"); err != nil {
		return err
	}
	t.Budget.Spend(keeping * lanesSteps(t.Clip.Lanes))
	twin := t.Clip.Clone()
	twin.ID, twin.Name, twin.Of, twin.Draws = t.clipID(twin.ID), copyOf(twin.Name, t.clipNamed), "", ""
	t.Piece.Clips = slices.Insert(t.Piece.Clips, t.At+1, twin)
	return nil
}

// copyOf names a copy: with a number that tells it apart from those that are there.
func copyOf(name string, taken func(name string) bool) string {
	if base, number, found := cutLast(name, " "); found {
		if n, err := strconv.Atoi(number); err == nil && n > 1 {
			name = base
		}
	}
	return numbered(name, taken)
}

// cutLast cuts a text at the last separator in it.
func cutLast(text, separator string) (before, after string, found bool) {
	at := strings.LastIndex(text, separator)
	if at < 0 {
		return text, "", false
	}
	return text[:at], text[at+len(separator):], true
}

// numbered puts the first number after a name, from 2 on, under which it is not taken; a name that has no room for one
// stays.
func numbered(name string, taken func(name string) bool) string {
	if utf8.RuneCountInString(name) > piece.MaxName-3 {
		return name
	}
	for n := 2; ; n++ {
		if free := fmt.Sprintf("%s %d", name, n); !taken(free) {
			return free
		}
	}
}

func moveClip(t target, o op.MoveClip) error { return reorder(t, t.Piece.Clips, t.At, o.To) }

func (t target) laneID(name string) string {
	return piece.FreshID(name, func(id string) bool {
		return slices.ContainsFunc(t.Clip.Lanes, func(l piece.Lane) bool { return l.ID == id })
	})
}

// first makes room for the first thing that is added to a clip: its only lane goes, where it is
// as it was made and nobody else needs it.
func (t target) first() {
	if len(t.Clip.Lanes) != 1 {
		return
	}
	if reflect.DeepEqual(t.Clip.Lanes[0], t.firstLane()) {
		t.Clip.Lanes = nil
	}
}

func addLane(t target, o op.AddLane) error {
	if o.First {
		t.first()
	}
	if err := t.Room(len(t.Clip.Lanes), piece.MaxLanes, "lanes"); err != nil {
		return err
	}
	if o.Kind == "" {
		o.Kind = piece.DefaultKind
	}
	if !slices.ContainsFunc(piece.Kinds, func(k piece.Kind) bool { return k.Name == o.Kind }) {
		return t.Wrong("kind", "%q is not allowed; allowed: %s", o.Kind, piece.KindNames())
	}
	if o.Name == "" {
		o.Name = fmt.Sprintf("Lane %d", len(t.Clip.Lanes)+1)
	}
	o.Name = t.freeName(o.Name)
	added := t.newLane(o.Kind, t.laneID(o.Name), o.Name)
	if o.Patch == nil && o.Kind == piece.DefaultKind && len(t.Clip.Lanes) == 0 {
		o.Patch = json.RawMessage(lowest)
	}
	if o.Patch != nil {
		if err := piece.PatchLane(fmt.Sprintf("%s.lanes[%d]", t.Path, len(t.Clip.Lanes)), o.Patch, &added); err != nil {
			return err
		}
	}
	t.Clip.Lanes = append(t.Clip.Lanes, added)
	return nil
}

// freeName is a name for a new lane: with a number where another lane has it.
func (t target) freeName(name string) string {
	if !t.laneNamed(name) {
		return name
	}
	return numbered(name, t.laneNamed)
}

func (t target) laneNamed(name string) bool {
	return slices.ContainsFunc(t.Clip.Lanes, func(l piece.Lane) bool { return l.Name == name })
}

func (t target) clipNamed(name string) bool {
	return slices.ContainsFunc(t.Piece.Clips, func(c piece.Clip) bool { return c.Name == name })
}

// newLane is a lane of rests that lasts one bar of the piece's meter.
func (t target) newLane(kind, id, name string) piece.Lane {
	lane := piece.BeginLane(kind, id, name)
	if steps := lane.Content.StepList(); steps != nil {
		steps.Resize(int(min(max(t.Piece.Bar()/t.Piece.StepLength(&lane), 1), piece.MaxSteps)))
	}
	return lane
}

func setLane(t target, o op.SetLane) error { return piece.PatchLane(t.Path, o.Patch, t.Lane) }

func removeLane(t target, _ op.RemoveLane) error {
	gone := t.Lane.ID
	for i := range t.Clip.Lanes {
		leaning, ok := t.Clip.Lanes[i].Content.(piece.Leaning)
		if ok && slices.ContainsFunc(leaning.Needs(), func(n piece.Need) bool { return n.Lane == gone }) {
			return t.Wrong(
				"lane",
				"%s needs it; allowed: a lane that no other one needs, so remove %s first or let it take another lane",
				t.Clip.Lanes[i].Name,
				t.Clip.Lanes[i].Name,
			)
		}
	}
	t.Clip.Lanes = slices.Delete(t.Clip.Lanes, t.At, t.At+1)
	if h := t.Clip.Harmony; h != nil && h.Lane == gone {
		t.Clip.Harmony = nil
	}
	return nil
}

func copyLane(t target, _ op.CopyLane) error {
	if err := t.Room(len(t.Clip.Lanes), piece.MaxLanes, "lanes"); err != nil {
		return err
	}
	twin := t.Lane.Clone()
	twin.ID, twin.Name = t.laneID(twin.ID), copyOf(twin.Name, t.laneNamed)
	t.Clip.Lanes = slices.Insert(t.Clip.Lanes, t.At+1, twin)
	return nil
}

func moveLane(t target, o op.MoveLane) error { return reorder(t, t.Clip.Lanes, t.At, o.To) }

// resizeLane sets the step count. A window that no longer fits is cut, or dropped
// when nothing is left.
func resizeLane(t target, o op.ResizeLane) error {
	if o.Count < 1 || o.Count > piece.MaxSteps {
		return t.Wrong("count", "%d steps; allowed: 1..%d", o.Count, piece.MaxSteps)
	}
	steps := t.StepList()
	if steps == nil {
		return t.Wrong("lane", "%s lanes have no steps", t.Lane.Kind)
	}
	steps.Resize(o.Count)
	if w := t.Lane.Window; w != nil {
		if w.Start > o.Count {
			t.Lane.Window = nil
		} else {
			t.Lane.Window = &piece.Window{Start: w.Start, Count: min(w.Count, o.Count-w.Start+1)}
		}
	}
	return nil
}

// doubleLane writes the lane's steps a second time after themselves. A window
// over all steps grows with them.
func doubleLane(t target, _ op.DoubleLane) error {
	if kind, ok := t.Kind().(doubler); ok {
		return kind.Double(t.Target, render.PatternOf(t.Piece, t.Clip, t.Lane).RoundLength())
	}
	steps := t.StepList()
	if steps == nil {
		return t.Wrong("lane", "%s lanes have no steps", t.Lane.Kind)
	}
	n := steps.Len()
	if 2*n > piece.MaxSteps {
		return t.Wrong("lane", "doubled, it would have %d steps; allowed: 1..%d", 2*n, piece.MaxSteps)
	}
	steps.Resize(2 * n)
	first, second := make([]int, n), make([]int, n)
	for i := range n {
		first[i], second[i] = i, n+i
	}
	steps.Arrange(second, first)
	if w := t.Lane.Window; w != nil && w.Start == 1 && w.Count == n {
		t.Lane.Window = &piece.Window{Start: 1, Count: 2 * n}
	}
	return nil
}

func setHarmony(t target, o op.SetHarmony) error {
	patch, err := json.Marshal(map[string]json.RawMessage{"harmony": o.Harmony})
	if err != nil {
		return err
	}
	return piece.PatchClip(t.Path, patch, t.Clip)
}
