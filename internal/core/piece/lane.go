package piece

import (
	"bytes"
	"encoding/json"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"agrimony/internal/core/document"
	"agrimony/internal/core/pitch"
)

// Lane is one sequence with its own step count, rate, direction and window. Its
// kind decides what its content is.
type Lane struct {
	Common
	Content Content
}

// Content is what a kind of lane holds beside what all lanes hold.
type Content interface {
	// StepList are the steps; nil for kinds without.
	StepList() Steps
	// Clone copies so deeply that changing the copy leaves the original alone.
	Clone() Content
	// CheckKey refuses, with its path, what the clip's key does not have.
	CheckKey(at *document.At, key pitch.Key)
}

// Leaning is the content of a lane whose notes depend on other lanes.
type Leaning interface {
	// Needs lists the ids of those lanes, each with the field that names it.
	Needs() []Need
}

// Need is a lane that another one needs.
type Need struct{ Field, Lane string }

// Clone copies the lane with its content.
func (l *Lane) Clone() Lane {
	out := *l
	out.Content = l.Content.Clone()
	return out
}

// OriginalOf is the id of the lane whose steps a lane without steps of its own plays; ""
// for the others.
func OriginalOf(l *Lane) string {
	if derived, ok := l.Content.(interface{ Original() string }); ok {
		return derived.Original()
	}
	return ""
}

// SourceOf is the lane of a checked clip whose steps a lane plays: itself, or the one that
// it is a layer of, or that it follows.
func SourceOf(clip *Clip, l *Lane) *Lane {
	for id := OriginalOf(l); id != ""; id = OriginalOf(l) {
		l = &clip.Lanes[slices.IndexFunc(clip.Lanes, func(o Lane) bool { return o.ID == id })]
	}
	return l
}

// DefaultRange is that of the wheel where nothing states it, in semitones.
const DefaultRange = 12

// WheelRange is the bend range of a lane of a checked clip, in semitones: its own, or that of
// the lane whose steps it plays.
func WheelRange(clip *Clip, l *Lane) int {
	mode := GlideModeOf(SourceOf(clip, l))
	switch {
	case mode == nil:
		return DefaultRange
	case mode.Mode == MPE: // on its zone's master channel, by the specification
		return MasterRange
	}
	return mode.Range
}

// StepValue is what a step (from 0) says of a field that can be moved; false where its kind
// has no such field.
func (l *Lane) StepValue(field string, step int) (int, bool) {
	if steps := l.Content.StepList(); steps != nil {
		cell := steps.Cell(step)
		switch field {
		case "velocity":
			return cell.Velocity, true
		case "gate":
			return cell.Gate, true
		case "chance":
			return cell.Chance, true
		case "ratchet":
			return cell.Ratchet, true
		case "nudge":
			return cell.Nudge, true
		}
	}
	if own, ok := l.Content.(interface {
		stepValue(field string, step int) (int, bool)
	}); ok {
		return own.stepValue(field, step)
	}
	return 0, false
}

// Value is what a field that modulators may move is before they do: that of a step, from 0,
// or of the whole lane.
func (l *Lane) Value(field string, step int) int {
	if value, ok := l.StepValue(field, step); ok {
		return value
	}
	if own, ok := l.Content.(interface{ laneValue(field string) int }); ok {
		return own.laneValue(field)
	}
	return 0
}

// Place is where the note of a step, from 0, stands in the key; false in lanes of kinds that
// do not say so.
func (l *Lane) Place(step int) (at pitch.Place, ok bool) {
	if own, has := l.Content.(interface {
		place(step int) (pitch.Place, bool)
	}); has {
		return own.place(step)
	}
	return at, false
}

// SetPlace is the other way round: it moves the note of a step in a lane whose kind says where
// it stands, and tells whether it does.
func (l *Lane) SetPlace(step int, at pitch.Place) bool {
	own, has := l.Content.(interface {
		setPlace(step int, at pitch.Place)
	})
	if has {
		own.setPlace(step, at)
	}
	return has
}

// GlideModeOf is how the glides of a lane are written; nil of one whose notes never glide.
func GlideModeOf(l *Lane) *GlideMode {
	if own, ok := l.Content.(interface{ gliding() *GlideMode }); ok {
		return own.gliding()
	}
	return nil
}

// MasterRange is the bend range of a zone's master channel, in semitones.
const MasterRange = 2

// GlidesApart tells whether each note of a lane glides by itself, on a channel of its own: by its
// mode, or that of the lane whose steps it plays.
func GlidesApart(clip *Clip, l *Lane) bool {
	if _, acts := l.Content.(Acting); acts {
		return false // it has no notes
	}
	mode := GlideModeOf(SourceOf(clip, l))
	return mode != nil && mode.Mode == MPE
}

// PitchedOf is what a lane whose steps have degrees holds of them; nil for other kinds.
func PitchedOf(l *Lane) *Pitched {
	if own, has := l.Content.(interface{ pitched() *Pitched }); has {
		return own.pitched()
	}
	return nil
}

// Acting is content of a lane that sounds nothing of its own and acts on another's channel.
type Acting interface {
	ActsOn() (lane string) // its id
}

// CountsDegrees tells whether a step, from 0, says its pitch in degrees of the scale.
func (l *Lane) CountsDegrees(step int) bool {
	own, ok := l.Content.(interface{ countsDegrees(step int) bool })
	return !ok || own.countsDegrees(step)
}

// Silent tells whether a lane never has notes.
func (l *Lane) Silent() bool { _, silent := l.Content.(*ControlLane); return silent }

func readLane(at *document.At, value any, lane *Lane) {
	name := DefaultKind
	if given := document.Get(value, "kind"); given != nil {
		name = document.TextOf(at.Field("kind"), given)
	}
	k, ok := kindNamed(name)
	if !ok {
		at.Field("kind").Refuse("%s is not allowed; allowed: %s", strconv.Quote(name), KindNames())
	}
	*lane = k.newLane()
	k.shape.ReadInto(at, value, lane)
}

func (l *Lane) kind() Kind {
	k, _ := kindNamed(l.Kind)
	return k
}

func checkLane(at *document.At, l *Lane) { l.kind().shape.Verify(at, l) }
func writeLane(l *Lane) any              { return document.Later(func() any { return l.kind().shape.Write(l) }) }
func laneSchema() document.Object {
	kinds := make([]any, len(Kinds))
	for i, k := range Kinds {
		s := k.shape.Schema()
		if k.Name != DefaultKind {
			s = s.Requiring("kind")
		}
		kinds[i] = s
	}
	return document.Pairs("oneOf", kinds)
}

// checkNeeds refuses a lane that needs one that is not there, and lanes that
// need each other in a circle.
func checkNeeds(at *document.At, lanes []Lane) {
	index := map[string]int{}
	for i := range lanes {
		index[lanes[i].ID] = i
	}
	const (
		unseen = iota
		open
		done
	)
	state := make([]int, len(lanes))
	var visit func(i int, way []string)
	visit = func(i int, way []string) {
		state[i] = open
		way = append(way, lanes[i].ID)
		leaning, _ := lanes[i].Content.(Leaning)
		if leaning == nil {
			state[i] = done
			return
		}
		for _, need := range leaning.Needs() {
			field := at.Item(i).Field(need.Field)
			next, there := index[need.Lane]
			switch {
			case !there:
				field.Refuse("no lane %q in the clip", need.Lane)
			case lanes[next].Silent():
				field.Refuse("lane %q has no notes: it is a %s lane; allowed: a lane with notes", need.Lane, lanes[next].Kind)
			case state[next] == open:
				from := slices.Index(way, need.Lane)
				field.Refuse("needs itself: %s", strings.Join(append(slices.Clone(way[from:]), need.Lane), " needs "))
			case state[next] == unseen:
				visit(next, way)
			}
		}
		state[i] = done
	}
	for i := range lanes {
		if state[i] == unseen {
			visit(i, nil)
		}
	}
}

// Parts are the values of whose members the lane is written.
func (l *Lane) Parts() []any {
	return []any{struct {
		Kind string `json:"kind"`
	}{l.Kind}, &l.Common, l.Content}
}

// MarshalJSON writes the lane with every field stated, its kind first, as the
// screens use it.
func (l Lane) MarshalJSON() ([]byte, error) {
	common, err := json.Marshal(l.Common)
	if err != nil {
		return nil, err
	}
	content, err := json.Marshal(l.Content)
	if err != nil {
		return nil, err
	}
	out := fmt.Appendf(nil, `{"kind":%q,`, l.Kind)
	out = append(append(out, common[1:len(common)-1]...), ',')
	return append(out, bytes.TrimPrefix(content, []byte("{"))...), nil
}

const idLimit = 64

// MaxName is how many characters a lane's or a clip's name has at most.
const MaxName = 80

var idPattern = fmt.Sprintf("^[A-Za-z0-9_.~-]{1,%d}$", idLimit)

// checkID refuses what is no id.
func checkID(text string) error {
	for _, r := range text {
		if !strings.ContainsRune("abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789-_.~", r) {
			return fmt.Errorf("%q is not an id; allowed: letters, digits and -_.~", text)
		}
	}
	if len(text) == 0 || len(text) > idLimit {
		return fmt.Errorf("%d characters are not an id; allowed: 1..%d of letters, digits and -_.~", len(text), idLimit)
	}
	return nil
}

func id[T any](doc string, at func(*T) *string) document.Field[T] {
	return document.Parsed("id", "", doc, checkID, at, document.Pairs("pattern", idPattern))
}
