package piece

import (
	"reflect"
	"slices"
	"strconv"
	"strings"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/document"
)

// Kind describes a kind of lane in the document.
type Kind struct {
	Name string
	Doc  string

	shape *document.Shape[Lane]
	step  func() document.Object // what forms need of its steps
	moves []Moved                // what modulators may move
	plain bool                   // it has no steps of its own
	begin func(Content)          // what lanes that people add have beside the defaults; nil: nothing
	fresh func() Content
}

// Types names the Go types of the kind's content and of its step ("" without), for
// whoever writes them in another language.
func (k Kind) Types() (content, step string) {
	t := reflect.TypeOf(k.fresh()).Elem()
	if steps, ok := t.FieldByName("Steps"); ok {
		step = steps.Type.Elem().Name()
	}
	return t.Name(), step
}

// DefaultKind is the kind that is meant when none is stated.
const DefaultKind = "line"

// Kinds are all kinds of lanes. To add one, add a row.
var Kinds = []Kind{lineKind, chordsKind, phraseKind, pulseKind, controlKind, layerKind, notesKind}

func kindNamed(name string) (Kind, bool) {
	for _, k := range Kinds {
		if k.Name == name {
			return k, true
		}
	}
	return Kind{}, false
}

// KindNames lists the names of all kinds.
func KindNames() string {
	out := make([]string, len(Kinds))
	for i, k := range Kinds {
		out[i] = k.Name
	}
	return strings.Join(out, ", ")
}

// Define describes a kind of lane that has steps: where its content keeps them,
// what a step holds, and its own fields. voice is what it is heard with at first.
func Define[C any, S any, P interface {
	*C
	Content
}](name, doc, voice string, steps func(*C) *[]S, step *document.Shape[S], own []document.Field[C]) Kind {
	return define[C, S, P](name, doc, steps, step, own, listening(voice), crafted()).movingOnly(sharedMoves...)
}

// define is Define with the fields that say how the lane is heard, and what crafts it.
func define[C any, S any, P interface {
	*C
	Content
}](name, doc string, steps func(*C) *[]S, step *document.Shape[S], own []document.Field[C], heard, craft []document.Field[Lane]) Kind {
	content := func(l *Lane) *C { return (*C)(l.Content.(P)) }
	all := append(slices.Clone(own), document.List("steps", 1, MaxSteps, "The steps; absent: 16 rests.", step, func() []S { return newSteps(step, 16) }, steps))
	lifted := document.Lift(content, all...)
	last := len(lifted) - 1
	fields := slices.Concat(identity(name), timing(), lifted[:last], heard, craft, lifted[last:])
	return Kind{
		Name: name, Doc: doc,
		fresh: func() Content { return P(new(C)) },
		shape: &document.Shape[Lane]{Doc: doc, Fields: fields, Check: checkWindow},
		step:  step.Facts,
	}.bypassing()
}

// definePlain describes a kind of lane without steps.
func definePlain[C any, P interface {
	*C
	Content
}](name, doc string, own []document.Field[C], heard, craft []document.Field[Lane]) Kind {
	content := func(l *Lane) *C { return (*C)(l.Content.(P)) }
	return Kind{
		Name: name, Doc: doc,
		fresh: func() Content { return P(new(C)) },
		shape: &document.Shape[Lane]{Doc: doc, Fields: slices.Concat(identity(name), document.Lift(content, own...), heard, craft)},
		step:  func() document.Object { return document.Object{} },
		plain: true,
	}
}

// across adds to a kind what holds across its fields.
func (k Kind) across(check func(at *document.At, l *Lane)) Kind {
	before := k.shape.Check
	k.shape.Check = func(at *document.At, l *Lane) {
		if before != nil {
			before(at, l)
		}
		check(at, l)
	}
	return k
}

// holding adds to a kind what holds across the fields of its content: given is told which members a patch names, check may refuse and fill in, also is
// what the schema says of it.
func (k Kind) holding(given func(named func(string) bool, content Content), check func(at *document.At, content Content), also document.Object) Kind {
	k.shape.Given = func(named func(string) bool, l *Lane) { given(named, l.Content) }
	k.shape.Also = also
	return k.across(func(at *document.At, l *Lane) { check(at, l.Content) })
}

// identity are the fields that tell lanes apart.
func identity(kind string) []document.Field[Lane] {
	return []document.Field[Lane]{
		id("Its id, alone of its kind in the clip; absent: lane1, lane2 ..", func(l *Lane) *string { return &l.ID }),
		document.Text("name", MaxName, "", "Its name; absent: its id.", func(l *Lane) *string { return &l.Name }),
		document.Own("kind", "What the lane holds; it cannot be changed.",
			func(*Lane) {},
			func(at *document.At, value any, l *Lane) {
				if named := document.TextOf(at, value); named != kind {
					at.Refuse("%s is not what this lane is; allowed: %s", strconv.Quote(named), kind)
				}
			},
			func(*document.At, *Lane) {},
			func(*Lane) (any, bool) { return kind, kind != DefaultKind },
			func() document.Object {
				schema := document.Pairs("const", kind)
				if kind == DefaultKind {
					schema = append(schema, document.Member{Key: "default", Value: kind})
				}
				return schema
			}),
	}
}

// timing are the fields of lanes that walk their steps in time.
func timing() []document.Field[Lane] {
	return []document.Field[Lane]{
		document.Parsed("rate", "1/16", "The length of one step.", func(text string) error {
			_, err := beat.Rate(text, beat.Meter{Count: 4, Unit: 4})
			return err
		}, func(l *Lane) *string { return &l.Rate }, document.Pairs("enum", beat.Rates)),
		document.Choice("direction", Directions, "forward", "The order of the steps.", func(l *Lane) *string { return &l.Direction }).Titled("Way"),
		document.Optional("window", "The run of steps that plays; absent: all.", windowShape, func(l *Lane) **Window { return &l.Window }),
		restarting(),
	}
}

func restarting() document.Field[Lane] {
	return document.Whole("restart", 0, 64, 0, "The pattern begins again after so many bars; 0: never.", func(l *Lane) *int { return &l.Restart }).In("bars")
}

// stepping says what forms need of what stands for the steps of a kind without.
func (k Kind) stepping(facts func() document.Object) Kind { k.step = facts; return k }

// listening are the fields of lanes that sound.
func listening(voice string) []document.Field[Lane] {
	return slices.Concat([]document.Field[Lane]{
		document.Whole("channel", 0, 16, 0, "The MIDI channel, 1..16; 0 or absent: by position, leaving 10 out.", func(l *Lane) *int { return &l.Channel }),
	}, playing(), []document.Field[Lane]{
		document.Inner("sound", "The voice for listening.", soundShape(voice), func(l *Lane) *Sound { return &l.Sound }),
	})
}

// playing are the fields of every lane.
func playing() []document.Field[Lane] {
	return []document.Field[Lane]{
		document.Flag("mute", "Leaves the lane out.", func(l *Lane) *bool { return &l.Mute }),
		document.Flag("solo", "Leaves out every lane that is not solo.", func(l *Lane) *bool { return &l.Solo }),
		document.Text("starter", MaxName, "", "The starter that it was begun from.", func(l *Lane) *string { return &l.Starter }),
		quieting("for this lane", func(l *Lane) *[]string { return &l.Quiet }),
	}
}

var windowShape = &document.Shape[Window]{
	Doc: "The run of steps that plays.",
	Fields: []document.Field[Window]{
		document.Whole("start", 1, MaxSteps, 1, "The first step, from 1.", func(w *Window) *int { return &w.Start }),
		document.Whole("count", 1, MaxSteps, MaxSteps, "How many steps; absent: to the last.", func(w *Window) *int { return &w.Count }),
	},
}

func checkWindow(at *document.At, l *Lane) {
	if l.Window == nil {
		return
	}
	steps := l.Content.StepList().Len()
	w := *l.Window
	if w.Start > steps {
		at.Field("window").Field("start").Refuse("%d is above %d; allowed: 1..%d, the lane's steps", w.Start, steps, steps)
	}
	rest := steps - w.Start + 1
	if w.Count == MaxSteps && rest < MaxSteps {
		w.Count = rest
	}
	if w.Count > rest {
		at.Field("window").Field("count").Refuse("%d is above %d; allowed: 1..%d, the steps from %d on", w.Count, rest, rest, w.Start)
	}
	if w != *l.Window {
		l.Window = &w
	}
}

// newLane is a lane of a kind with everything at its default.
func (k Kind) newLane() Lane {
	lane := Lane{Common: Common{Kind: k.Name}, Content: k.fresh()}
	if k.plain { // what it has no field for stands at what other kinds begin with
		lane.Rate, lane.Direction = "1/16", "forward"
	}
	lane.Odds, lane.Modulators, lane.Share = []Odd{}, []Modulator{}, Share{100, 100}
	lane.Bypass, lane.Quiet = []string{}, []string{}
	k.shape.Reset(&lane)
	return lane
}

// NewLane is a lane of a kind with 16 rests. The kind must be one of Kinds.
func NewLane(kind, id, name string) Lane {
	k, ok := kindNamed(kind)
	if !ok {
		panic("no kind " + kind)
	}
	lane := k.newLane()
	k.shape.Verify(document.Root(""), &lane) // fills in what depends on other fields
	lane.ID, lane.Name = id, name
	return lane
}

// BeginLane is NewLane for a lane that somebody adds: it has what was found to be better since the defaults of
// documents were fixed.
func BeginLane(kind, id, name string) Lane {
	lane := NewLane(kind, id, name)
	if k, _ := kindNamed(kind); k.begin != nil {
		k.begin(lane.Content)
	}
	return lane
}

// beginning says what lanes of a kind have that somebody adds.
func (k Kind) beginning(begin func(Content)) Kind { k.begin = begin; return k }
