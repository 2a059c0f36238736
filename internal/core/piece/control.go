package piece

import (
	"encoding/json"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"agrimony/internal/core/document"
	"agrimony/internal/core/pitch"
)

// ControlLane is the content of a lane that moves a controller, the wheel or the pressure
// of another lane's channel, by steps or by a lane's pitch.
type ControlLane struct {
	To      string        `json:"to"` // the lane whose channel it acts on
	Target  Target        `json:"target" tstype:"string | ControllerTarget"`
	Follows *Followed     `json:"follows" tstype:"Followed | null,required"` // nil: its steps
	Steps   []ControlStep `json:"steps"`
}

// Target is what a control lane moves: the wheel, the channel's pressure, or a controller.
type Target struct {
	Name       string // "" for a controller
	Controller int    // 0..119
}

// ControllerTarget is a controller as the document writes it.
type ControllerTarget struct {
	Controller int `json:"controller"`
}

// Followed is a lane whose pitches set the values.
type Followed struct {
	Lane  string `json:"lane"`
	Low   int    `json:"low"`  // MIDI
	High  int    `json:"high"` // MIDI
	Sides string `json:"sides"`
	From  int    `json:"from"` // the value at low, or in the middle
	To    int    `json:"to"`   // the value at high, or at both ends
}

// ControlStep is one slot of a control lane.
type ControlStep struct {
	Cell  `tstype:",extends"`
	Value int    `json:"value"` // 0..127, or -100..100 % of the wheel's range
	Shape Course `json:"shape" tstype:"string | Curved"`
}

// Course is how a value goes to the next one.
type Course struct {
	Name  string // "hold", "line"; "" for a curve
	Curve int    // -100..100, as a glide's
}

// Curved is a course that bends, as the document writes it.
type Curved struct {
	Curve int `json:"curve"`
}

// The words of control lanes.
var (
	Targets = []string{"wheel", "pressure"}
	Courses = []string{"hold", "line"}
	Sides   = []string{"up", "both"}
)

// Brightness is the controller that opens filters, in the MIDI 1.0 specification.
const Brightness = 74

// Range is the least and the largest value.
func (t Target) Range() (low, high int) {
	if t.Name == "wheel" {
		return -100, 100
	}
	return 0, 127
}

// String names the target: "controller 74", "wheel".
func (t Target) String() string {
	if t.Name != "" {
		return t.Name
	}
	return "controller " + strconv.Itoa(t.Controller)
}

// MarshalJSON writes the target as the document does.
func (t Target) MarshalJSON() ([]byte, error) {
	if t.Name != "" {
		return json.Marshal(t.Name)
	}
	return json.Marshal(ControllerTarget{t.Controller})
}

// MarshalJSON writes the course as the document does.
func (c Course) MarshalJSON() ([]byte, error) {
	if c.Name != "" {
		return json.Marshal(c.Name)
	}
	return json.Marshal(Curved{c.Curve})
}

var targetShape = &document.Shape[Target]{
	Doc: "A controller.",
	Fields: []document.Field[Target]{
		document.Whole("controller", 0, 119, Brightness, "Its number.", func(t *Target) *int { return &t.Controller }).Needed(),
	},
}

var courseShape = &document.Shape[Course]{
	Doc: "A curve.",
	Fields: []document.Field[Course]{
		document.Whole("curve", -100, 100, 0, "0 linear, above starts slowly, below starts fast.", func(c *Course) *int { return &c.Curve }).Needed(),
	},
}

// named is a field that is one of some words, or an object.
func named[T any, V any](name, doc, initial string, words []string, shape *document.Shape[V], at func(*T) *V, word func(*V) *string) document.Field[T] {
	read := func(at *document.At, value any) (out V) {
		if text, ok := value.(string); ok {
			if !slices.Contains(words, text) {
				at.Refuse("%s is not allowed; allowed: %s, or an object", strconv.Quote(text), strings.Join(words, ", "))
			}
			*word(&out) = text
			return out
		}
		return shape.Read(at, value)
	}
	return document.Own(name, doc,
		func(o *T) {
			v := shape.Fresh()
			*word(&v) = initial
			*at(o) = v
		},
		func(where *document.At, value any, o *T) { *at(o) = read(where, value) },
		func(where *document.At, o *T) {
			if text := *word(at(o)); text != "" {
				read(where.Field(name), text)
				return
			}
			shape.Verify(where.Field(name), at(o))
		},
		func(o *T) (any, bool) {
			if text := *word(at(o)); text != "" {
				return text, text != initial
			}
			return shape.Write(at(o)), true
		},
		func() document.Object {
			return document.Pairs("anyOf", []any{document.Pairs("type", "string", "enum", words), shape.Schema()})
		})
}

var followedShape = &document.Shape[Followed]{
	Doc: "A lane whose pitches set the values.",
	Fields: []document.Field[Followed]{
		document.Parsed("lane", "", "Its id, in the same clip.", checkID, func(f *Followed) *string { return &f.Lane }, document.Pairs("pattern", idPattern)).Needed(),
		document.Whole("low", 0, 127, 36, "The pitch at one end.", func(f *Followed) *int { return &f.Low }),
		document.Whole("high", 0, 127, 60, "The pitch at the other end, above low.", func(f *Followed) *int { return &f.High }),
		document.Choice("sides", Sides, "up", "From low to high, or from the middle to both ends.", func(f *Followed) *string { return &f.Sides }),
		document.Whole("from", -100, 127, 0, "The value at low, or in the middle.", func(f *Followed) *int { return &f.From }),
		document.Whole("to", -100, 127, 127, "The value at high, or at both ends.", func(f *Followed) *int { return &f.To }),
	},
	Check: func(at *document.At, f *Followed) {
		if f.High <= f.Low {
			at.Field("high").Refuse("%d is not above low; allowed: %d..127", f.High, f.Low+1)
		}
	},
}

var controlStep = &document.Shape[ControlStep]{
	Doc: "One slot of a control lane.",
	Fields: slices.DeleteFunc(stepFields(Cell{Velocity: 100, Gate: 100, Chance: 100, Ratchet: 1}, func(s *ControlStep) *Cell { return &s.Cell },
		[]document.Field[ControlStep]{
			document.Whole("value", -100, 127, 0, "0..127, or -100..100 % of the wheel's range.", func(s *ControlStep) *int { return &s.Value }),
			named("shape", "How it goes to the next value: it holds, or moves on a line or a curve.", "hold", Courses, courseShape,
				func(s *ControlStep) *Course { return &s.Shape }, func(c *Course) *string { return &c.Name }),
		}), func(f document.Field[ControlStep]) bool { return slices.Contains(soundingFields, f.Name) }),
}

// soundingFields are those of a cell that only notes have.
var soundingFields = []string{"velocity", "gate", "tie", "ratchet"}

// controlMoves are what modulators may move in a control lane.
var controlMoves = []Moved{{"chance", 0, 100, 50, 100, nil}, {"nudge", -50, 50, -15, 15, nil}, {"value", -100, 127, 0, 0, nil}}

var controlKind = define("control", "A controller, the wheel or the pressure, by steps or by a lane's pitch.",
	func(c *ControlLane) *[]ControlStep { return &c.Steps }, controlStep,
	[]document.Field[ControlLane]{
		document.Parsed("to", "", "The lane on whose channel it acts.", checkID, func(c *ControlLane) *string { return &c.To }, document.Pairs("pattern", idPattern)).Needed(),
		named("target", "What it moves: the wheel, the channel's pressure, or a controller.", "", Targets, targetShape,
			func(c *ControlLane) *Target { return &c.Target }, func(t *Target) *string { return &t.Name }),
		document.Optional("follows", "A lane whose pitches set the values, instead of its steps.", followedShape, func(c *ControlLane) **Followed { return &c.Follows }),
	},
	playing(), []document.Field[Lane]{modulators(controlMoves), sharing()}).
	movingOnly(controlMoves...).
	across(func(at *document.At, l *Lane) {
		c := l.Content.(*ControlLane)
		low, high := c.Target.Range()
		within := func(at *document.At, value int) {
			if value < low || value > high {
				at.Refuse("%d is beyond what the %s takes; allowed: %d..%d", value, c.Target, low, high)
			}
		}
		for i := range c.Steps {
			within(at.Field("steps").Item(i).Field("value"), c.Steps[i].Value)
		}
		if c.Follows != nil {
			within(at.Field("follows").Field("from"), c.Follows.From)
			within(at.Field("follows").Field("to"), c.Follows.To)
		}
		for i := range l.Modulators {
			if m := &l.Modulators[i]; m.On == "value" && m.Way == "set" {
				within(at.Field("modulators").Item(i).Field("from"), m.From)
				within(at.Field("modulators").Item(i).Field("to"), m.To)
			}
		}
	})

// StepList gives the steps to whatever works on steps of any kind.
func (c *ControlLane) StepList() Steps { return StepsOf(&c.Steps, controlStep) }

// Clone copies the lane's content and its steps.
func (c *ControlLane) Clone() Content {
	out := *c
	out.Steps = slices.Clone(c.Steps)
	return &out
}

// CheckKey has nothing to refuse.
func (*ControlLane) CheckKey(*document.At, pitch.Key) {}

// Needs are the lane that it acts on, and the one that it follows.
func (c *ControlLane) Needs() []Need {
	out := []Need{{"to", c.To}}
	if c.Follows != nil {
		out = append(out, Need{"follows.lane", c.Follows.Lane})
	}
	return out
}

// Original is the lane that it follows; "" where its own steps set the values.
func (c *ControlLane) Original() string {
	if c.Follows == nil {
		return ""
	}
	return c.Follows.Lane
}

// ActsOn is the lane whose channel it shares.
func (c *ControlLane) ActsOn() string { return c.To }

func (c *ControlLane) stepValue(field string, i int) (int, bool) {
	return c.Steps[i].Value, field == "value"
}

// Lean lets the lane act on another one, which it cannot do without, or follow another one;
// "": its own steps.
func (c *ControlLane) Lean(field, lane string) bool {
	if field == "to" {
		c.To = lane
		return lane != ""
	}
	follows := *c.Follows
	follows.Lane = lane
	if c.Follows = &follows; lane == "" {
		c.Follows = nil
	}
	return true
}

// ControlOf is a lane that acts on another one's channel: its target as the document writes it,
// and a value for each step, nil where nothing is said yet. The error says what is wrong with
// them.
func ControlOf(to, target, rate string, values []*int) (Lane, error) {
	lane := controlKind.newLane()
	if err := PatchLane("", fmt.Appendf(nil, `{"to":%q,"target":%s,"rate":%q}`, to, target, rate), &lane); err != nil {
		return lane, err
	}
	own := lane.Content.(*ControlLane)
	own.StepList().Resize(len(values))
	for i, value := range values {
		if value != nil && (i == 0 || values[i-1] == nil || *values[i-1] != *value) {
			own.Steps[i].On, own.Steps[i].Value = true, *value
		}
	}
	return lane, document.Check(lane.kind().shape, "", &lane)
}
