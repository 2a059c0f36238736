// Package op is the vocabulary of edits: every edit that a screen offers is one of
// these values, with arguments of its own. What they do is package edit's.
//
// As JSON an edit is an object with its name first:
// {"op":"lane.resize","clip":"keel","lane":"low","count":7}.
package op

import (
	"bytes"
	"encoding/json"
	"fmt"
	"maps"
	"reflect"
	"slices"
	"strings"

	"agrimony/internal/core/document"
)

// names are all edits. To add one, add a row here and one in package edit.
var names = map[string]any{
	"piece.set": SetPiece{}, "key.set": SetKey{},
	"order.write": WriteOrder{}, "order.add": AddEntries{}, "order.set": SetEntries{}, "order.move": MoveEntries{}, "order.stretch": StretchEntries{}, "order.copy": CopyEntries{},
	"order.split": SplitEntries{}, "order.remove": RemoveEntries{}, "order.keep": KeepPlayed{},
	"clip.add": AddClip{}, "clip.set": SetClip{}, "clip.remove": RemoveClip{}, "clip.copy": CopyClip{}, "clip.move": MoveClip{},
	"clip.variant": AddVariant{}, "clip.apart": ApartStack{}, "clip.take": TakeAcross{}, "lane.sketch": TakeSketch{}, "lane.vary": TakeVaried{},
	"lane.add": AddLane{}, "lane.set": SetLane{}, "lane.remove": RemoveLane{}, "lane.copy": CopyLane{}, "lane.move": MoveLane{},
	"lane.resize": ResizeLane{}, "lane.double": DoubleLane{},
	"steps.set": SetSteps{}, "steps.write": WriteSteps{}, "steps.transpose": TransposeSteps{}, "steps.rotate": RotateSteps{}, "steps.move": MoveSteps{},
	"steps.reverse": ReverseSteps{}, "step.drag": DragEnd{},
	"notes.put": PutNotes{}, "clip.harmony": SetHarmony{}, "bass.make": MakeBass{},
	"chords.write": WriteChords{}, "chords.stack": PlaceStack{}, "chords.place": PlaceChord{}, "chords.take": TakeChord{},
	"chords.tone": TurnTone{}, "chords.drag": DragTone{}, "chords.hold": HoldChord{}, "chords.moveTone": MoveTone{}, "chords.widen": WidenChords{}, "chords.open": OpenChords{},
	"notes.add": AddNotes{}, "notes.set": SetNotes{}, "notes.write": WriteNotes{}, "notes.remove": RemoveNotes{}, "notes.move": MoveNotes{},
	"notes.place": PlaceNotes{}, "notes.cut": CutNotes{}, "notes.join": JoinNotes{}, "notes.reverse": ReverseNotes{}, "notes.repeat": RepeatNotes{},
	"notes.bring": BringNotes{}, "notes.stretch": StretchNotes{}, "notes.paint": PaintNotes{}, "lane.print": PrintLanes{}, "lane.become": BecomeLane{}, "clip.double": DoubleClip{}, "notes.stamp": StampNotes{},
	"phrase.print": PrintPhrase{}, "notes.enter": EnterNotes{}, "fill.share": FillShare{}, "fill.plays": FillPlays{},
	"chords.invert": InvertChords{}, "chords.name": NameChord{}, "chords.drop": DropChord{}, "chords.move": MoveChord{},
	"lane.start": StartLane{}, "lane.hold": HoldLuck{}, "lane.writeModulator": WriteModulator{}, "groove.take": TakeGroove{}, "groove.print": PrintGroove{},
	"fill.accents": FillAccents{}, "fill.chance": FillChance{}, "fill.thin": ThinOut{}, "fill.double": DoubleHits{},
	"fill.every": FillEvery{}, "fill.even": FillEven{}, "fill.from": FillFrom{}, "fill.contour": FillContour{}, "fill.pattern": FillPattern{},
}

// Names are the names of all edits, in order.
func Names() []string { return slices.Sorted(maps.Keys(names)) }

// TypeName is the Go name of an edit's arguments.
func TypeName(name string) string { return reflect.TypeOf(names[name]).Name() }

// Op is one edit: one of this package's types.
type Op struct{ Args any }

// Of makes an edit of its arguments.
func Of(args any) Op { return Op{args} }

// Name is the edit's name: "lane.resize".
func (o Op) Name() string {
	for name, args := range names {
		if reflect.TypeOf(args) == reflect.TypeOf(o.Args) {
			return name
		}
	}
	panic(fmt.Sprintf("%T is not an edit", o.Args))
}

// MarshalJSON writes the edit with its name first.
func (o Op) MarshalJSON() ([]byte, error) {
	args, err := json.Marshal(o.Args)
	if err != nil {
		return nil, err
	}
	head := fmt.Appendf(nil, `{"op":%q`, o.Name())
	if len(args) > 2 {
		head = append(head, ',')
	}
	return append(head, args[1:]...), nil
}

// UnmarshalJSON reads an edit strictly: its name must be one of Names, and its
// arguments those of the name.
func (o *Op) UnmarshalJSON(data []byte) error {
	var members map[string]json.RawMessage
	if err := json.Unmarshal(data, &members); err != nil {
		return err
	}
	var name string
	if err := json.Unmarshal(members["op"], &name); err != nil {
		return &document.Fault{Path: "op", Problem: "is missing; allowed: " + strings.Join(Names(), ", ")}
	}
	args, known := names[name]
	if !known {
		return &document.Fault{Path: "op", Problem: fmt.Sprintf("%q is not allowed; allowed: %s", name, strings.Join(Names(), ", "))}
	}
	delete(members, "op")
	rest, err := json.Marshal(members)
	if err != nil {
		return err
	}
	into := reflect.New(reflect.TypeOf(args))
	decoder := json.NewDecoder(bytes.NewReader(rest))
	decoder.DisallowUnknownFields()
	if err := decoder.Decode(into.Interface()); err != nil {
		return &document.Fault{Path: name, Problem: strings.TrimPrefix(err.Error(), "json: ")}
	}
	o.Args = into.Elem().Interface()
	return nil
}
