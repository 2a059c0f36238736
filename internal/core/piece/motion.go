package piece

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/document"
)

// Limits of what moves a lane.
const (
	MaxModulators = 8
	MaxOdds       = 16
	MaxValues     = 64
	MaxTake       = 9999
)

// The allowed words of what moves a lane.
var (
	Shapes    = []string{"sine", "triangle", "rise", "fall", "square", "steps", "jump", "drift"}
	ModWays   = []string{"set", "add"}
	Outsiders = []string{"fold", "drop"}
)

// Craft is what lanes of any kind may have beside their content: what moves their values,
// the luck of their steps, the range that they are kept in, and their share of the groove.
type Craft struct {
	Modulators []Modulator `json:"modulators"`
	Odds       []Odd       `json:"odds"`
	Take       int         `json:"take"`                                 // which draw of its luck: 0 is the first
	Range      *Range      `json:"range" tstype:"Range | null,required"` // nil: all of MIDI's
	Share      Share       `json:"share"`
	Bypass     []string    `json:"bypass"` // what of all this is as if it were not there
}

// DrawnShapes are those whose values are drawn.
var DrawnShapes = []string{"jump", "drift"}

// Modulator moves a field of a lane's steps, or of the lane, in time.
type Modulator struct {
	On     string    `json:"on"`
	Shape  string    `json:"shape"`
	Every  string    `json:"every"` // its period: a rate, or so many bars
	Phase  int       `json:"phase"` // % of the period
	From   int       `json:"from"`  // in the field's unit
	To     int       `json:"to"`
	Way    string    `json:"way"`
	Values []float64 `json:"values"` // of shape steps, each 0..100 % of the way
	Off    bool      `json:"off"`    // it is as if it were not there
}

// Odd is one of the alternatives of which each sounding step draws one.
type Odd struct {
	Weight   int   `json:"weight"`
	Rest     bool  `json:"rest"`
	Degrees  *Span `json:"degrees" tstype:"Drawn | null,required"` // added
	Octave   *Span `json:"octave" tstype:"Drawn | null,required"`  // added
	Ratchet  *int  `json:"ratchet" tstype:"number | null,required"`
	Velocity *Span `json:"velocity" tstype:"Drawn | null,required"` // added
	Gate     *Span `json:"gate" tstype:"Drawn | null,required"`     // %
}

// Span is a range of whole numbers from which one is drawn evenly; one number is a span of
// itself.
type Span struct {
	Low  int `json:"low"`
	High int `json:"high"`
}

// Range is the MIDI pitches that a lane's notes keep to.
type Range struct {
	Low     int    `json:"low"`
	High    int    `json:"high"`
	Outside string `json:"outside"` // what becomes of a note outside
}

// Share is how far a lane takes part in the groove, in %.
type Share struct {
	Timing   int `json:"timing"`
	Velocity int `json:"velocity"`
}

// Moved is a field that a modulator may move, with its range, what a new one moves it
// between, and, of one whose values have names, those from the lowest on.
type Moved struct {
	Name      string
	Low, High int
	From, To  int
	Words     []string
}

// sharedMoves are the fields of every stepped kind that sounds.
var sharedMoves = []Moved{
	{"velocity", 1, 127, 60, 110, nil},
	{"gate", 1, 400, 30, 90, nil},
	{"chance", 0, 100, 50, 100, nil},
	{"ratchet", 1, 8, 1, 3, nil},
	{"nudge", -50, 50, -15, 15, nil},
}

// Moves are the fields that modulators may move in lanes of a kind.
func Moves(kind string) []Moved {
	k, _ := kindNamed(kind)
	return k.moves
}

// Moves are the fields that modulators may move in this lane.
func (l *Lane) Moves() []Moved {
	moves := Moves(l.Kind)
	if c, ok := l.Content.(*ControlLane); ok {
		moves = slices.Clone(moves)
		for i := range moves {
			if moves[i].Name == "value" {
				low, high := c.Target.Range()
				quarter := (high - low + 2) / 4
				moves[i] = Moved{"value", low, high, low + quarter, high - quarter, nil}
			}
		}
	}
	return moves
}

// moving says which fields of its own a kind lets modulators move, beside the shared ones.
func (k Kind) moving(own ...Moved) Kind { return k.movingOnly(slices.Concat(sharedMoves, own)...) }

func (k Kind) movingOnly(moves ...Moved) Kind {
	k.moves = moves
	for i := range k.shape.Fields {
		if k.shape.Fields[i].Name == "modulators" {
			k.shape.Fields[i] = modulators(moves)
		}
	}
	return k
}

func modulators(moves []Moved) document.Field[Lane] {
	return document.List("modulators", 0, MaxModulators, "What moves its values in time, one after another.", modulatorShape(moves),
		document.None[Modulator], func(l *Lane) *[]Modulator { return &l.Modulators })
}

// crafted are the fields of lanes with steps that sound.
func crafted() []document.Field[Lane] {
	return []document.Field[Lane]{
		modulators(sharedMoves),
		document.List(
			"odds",
			0,
			MaxOdds,
			"The alternatives of which each sounding step draws one by weight.",
			oddShape,
			document.None[Odd],
			func(l *Lane) *[]Odd { return &l.Odds },
		),
		taking(), ranged(), sharing(),
	}
}

func taking() document.Field[Lane] {
	return document.Whole("take", 0, MaxTake, 0, "Which draw of all that luck decides in it; 0: the first.", func(l *Lane) *int { return &l.Take })
}

func ranged() document.Field[Lane] {
	return document.Optional("range", "The pitches that its notes keep to; absent: all.", rangeShape, func(l *Lane) **Range { return &l.Range })
}

func sharing() document.Field[Lane] {
	return document.Inner("share", "How far it takes part in the groove.", shareShape, func(l *Lane) *Share { return &l.Share })
}

var shareShape = &document.Shape[Share]{
	Doc: "A lane's share of the groove.",
	Fields: []document.Field[Share]{
		document.Whole("timing", 0, 100, 100, "Of its timing, swing included.", func(s *Share) *int { return &s.Timing }).In("%"),
		document.Whole("velocity", 0, 100, 100, "Of its velocities.", func(s *Share) *int { return &s.Velocity }).In("%"),
	},
}

// octave is how wide a range must be that folds, in semitones.
const octave = 12

var rangeShape = &document.Shape[Range]{
	Doc: "The pitches that a lane's notes keep to.",
	Fields: []document.Field[Range]{
		document.Whole("low", 0, 127, 0, "The lowest MIDI pitch.", func(r *Range) *int { return &r.Low }),
		document.Whole("high", 0, 127, 127, "The highest MIDI pitch.", func(r *Range) *int { return &r.High }),
		document.Choice("outside", Outsiders, "fold", "A note outside is moved in by octaves, or left out.", func(r *Range) *string { return &r.Outside }),
	},
	Check: func(at *document.At, r *Range) {
		if least := r.Low; r.Outside == "drop" && r.High < least {
			at.Field("high").Refuse("%d is below low; allowed: %d..127", r.High, least)
		}
		if r.Outside == "fold" && r.High < r.Low+octave {
			at.Field("high").Refuse("%d is not an octave above %d, so notes could not be folded in; allowed: %d..127, or outside drop", r.High, r.Low, r.Low+octave)
		}
	},
}

// Everys matches the periods of modulators: a rate, or 1..64 bars.
const everyPattern = `^(1/(1|2|4|8|16|32|64)[DT]?|([1-9]|[1-5][0-9]|6[0-4])bar)$`

func modulatorShape(moves []Moved) *document.Shape[Modulator] {
	names := make([]string, len(moves))
	for i, m := range moves {
		names[i] = m.Name
	}
	return &document.Shape[Modulator]{
		Doc: "What moves a field in time.",
		Fields: []document.Field[Modulator]{
			document.Choice("on", names, "", "The field that it moves.", func(m *Modulator) *string { return &m.On }).Needed(),
			document.Choice("shape", Shapes, "sine", "Its shape over a period.", func(m *Modulator) *string { return &m.Shape }),
			document.Parsed("every", "1bar", "Its period: a rate, or 1..64 bars as 3bar.", func(text string) error {
				_, err := beat.Every(text, beat.Meter{Count: 4, Unit: 4})
				return err
			}, func(m *Modulator) *string { return &m.Every }, document.Pairs("pattern", everyPattern)),
			document.Whole("phase", 0, 99, 0, "How far into its period it begins.", func(m *Modulator) *int { return &m.Phase }).In("%"),
			document.Whole("from", -400, 400, 0, "One end of what it gives, in the field's unit.", func(m *Modulator) *int { return &m.From }).Needed(),
			document.Whole("to", -400, 400, 0, "The other end.", func(m *Modulator) *int { return &m.To }).Needed(),
			document.Choice("way", ModWays, "set", "Whether it replaces the field's value or adds to it.", func(m *Modulator) *string { return &m.Way }),
			document.Own("values", "The values of shape steps, in % of the way from one end to the other.",
				func(m *Modulator) { m.Values = []float64{} },
				func(at *document.At, value any, m *Modulator) {
					items := document.ListOf(at, value, 0, MaxValues)
					m.Values = make([]float64, len(items))
					for i, item := range items {
						m.Values[i] = document.NumberOf(at.Item(i), item)
					}
					checkValues(at, m.Values)
				},
				func(at *document.At, m *Modulator) { checkValues(at.Field("values"), m.Values) },
				func(m *Modulator) (any, bool) { return document.Anys(m.Values), len(m.Values) > 0 },
				func() document.Object {
					return document.Pairs("type", "array", "maxItems", MaxValues, "items", document.Pairs("type", "number", "minimum", 0, "maximum", 100))
				}),
			document.Flag("off", "It stays, and is as if it were not there.", func(m *Modulator) *bool { return &m.Off }),
		},
		Check: func(at *document.At, m *Modulator) {
			if m.Shape == "steps" && len(m.Values) == 0 {
				at.Field("values").Refuse("0 items with shape steps; allowed: 1..%d", MaxValues)
			}
			i := slices.IndexFunc(moves, func(f Moved) bool { return f.Name == m.On })
			if i < 0 {
				return // refused as a field
			}
			low, high := moves[i].Low, moves[i].High
			if m.Way == "add" {
				low, high = low-high, high-low
			}
			for _, end := range []struct {
				name string
				got  int
			}{{"from", m.From}, {"to", m.To}} {
				if end.got < low || end.got > high {
					at.Field(end.name).Refuse("%d is beyond what %s can take with way %s; allowed: %d..%d", end.got, m.On, m.Way, low, high)
				}
			}
		},
		Also: document.Pairs("if", document.Pairs("properties", document.Pairs("shape", document.Pairs("const", "steps")), "required", []string{"shape"}),
			"then", document.Pairs("properties", document.Pairs("values", document.Pairs("minItems", 1)), "required", []string{"values"})),
	}
}

func checkValues(at *document.At, values []float64) {
	if len(values) > MaxValues {
		at.Refuse("%d items are above %d; allowed: 0..%d", len(values), MaxValues, MaxValues)
	}
	for i, v := range values {
		if v < 0 || v > 100 {
			at.Item(i).Refuse("%v is out of range; allowed: 0..100", v)
		}
	}
}

var oddShape = &document.Shape[Odd]{
	Doc: "An alternative; what it does not name stays as written.",
	Fields: []document.Field[Odd]{
		document.Whole("weight", 1, 100, 1, "How often it is drawn, against the others.", func(o *Odd) *int { return &o.Weight }),
		document.Flag("rest", "The step rests.", func(o *Odd) *bool { return &o.Rest }),
		spanned("degrees", -24, 24, "Degrees added, or in a phrase steps along the scale.", func(o *Odd) **Span { return &o.Degrees }),
		spanned("octave", -8, 8, "Octaves added.", func(o *Odd) **Span { return &o.Octave }),
		document.OptionalWhole("ratchet", 1, 8, "Repeats within the step.", func(o *Odd) **int { return &o.Ratchet }),
		spanned("velocity", -126, 126, "Added to the velocity.", func(o *Odd) **Span { return &o.Velocity }),
		spanned("gate", 1, 400, "How long, in % of the step.", func(o *Odd) **Span { return &o.Gate }),
	},
}

// spanned is a range [low, high], or one number, that may be missing.
func spanned(name string, low, high int, doc string, of func(*Odd) **Span) document.Field[Odd] {
	number := document.Pairs("type", "integer", "minimum", low, "maximum", high)
	within := func(at *document.At, n int) {
		if n < low || n > high {
			at.Refuse("%d is out of range; allowed: %d..%d", n, low, high)
		}
	}
	check := func(at *document.At, s *Span) {
		within(at, s.Low)
		within(at, s.High)
		if s.High < s.Low {
			at.Refuse("[%d, %d] is not in rising order; allowed: [low, high]", s.Low, s.High)
		}
	}
	return document.Own(name, doc,
		func(o *Odd) { *of(o) = nil },
		func(at *document.At, value any, o *Odd) {
			*of(o) = nil
			if value == nil {
				return
			}
			var s Span
			if items, ok := value.([]any); ok {
				document.ListOf(at, value, 2, 2)
				s = Span{document.WholeOf(at.Item(0), items[0]), document.WholeOf(at.Item(1), items[1])}
			} else {
				one := document.WholeOf(at, value)
				s = Span{one, one}
			}
			check(at, &s)
			*of(o) = &s
		},
		func(at *document.At, o *Odd) {
			if s := *of(o); s != nil {
				check(at.Field(name), s)
			}
		},
		func(o *Odd) (any, bool) {
			s := *of(o)
			switch {
			case s == nil:
				return nil, false
			case s.Low == s.High:
				return s.Low, true
			}
			return []any{s.Low, s.High}, true
		},
		func() document.Object {
			return document.Pairs(
				"anyOf",
				[]any{number, document.Pairs("type", "array", "minItems", 2, "maxItems", 2, "items", number), document.Pairs("type", "null")},
			)
		}).Within(low, high)
}

// MarshalJSON writes a range as the document does: one number, or [low, high].
func (s Span) MarshalJSON() ([]byte, error) {
	if s.Low == s.High {
		return json.Marshal(s.Low)
	}
	return json.Marshal([]int{s.Low, s.High})
}

// String is the range as text: "3" or "-1..2".
func (s Span) String() string {
	if s.Low == s.High {
		return fmt.Sprint(s.Low)
	}
	return fmt.Sprintf("%d..%d", s.Low, s.High)
}

// Words tells an alternative in words: "ratchet 2, octave -1..1"; "as written" where it
// changes nothing.
func (o *Odd) Words() string {
	if o.Rest {
		return "rest"
	}
	var out []string
	for _, part := range []struct {
		name string
		span *Span
	}{{"degrees", o.Degrees}, {"octave", o.Octave}, {"velocity", o.Velocity}, {"gate", o.Gate}} {
		if part.span != nil {
			out = append(out, part.name+" "+part.span.String())
		}
	}
	if o.Ratchet != nil {
		out = append(out, fmt.Sprintf("ratchet %d", *o.Ratchet))
	}
	if len(out) == 0 {
		return "as written"
	}
	return strings.Join(out, ", ")
}

// drawing is the content of a lane whose own fields may draw.
type drawing interface{ draws() bool }

// MayDraw tells whether luck decides anything in the lane; it may say so where nothing comes of it.
func (l *Lane) MayDraw() bool {
	if l.Direction == "shuffle" || len(l.Odds) > 0 || slices.ContainsFunc(l.Modulators, func(m Modulator) bool {
		return m.On == "chance" || m.On == "order" || slices.Contains(DrawnShapes, m.Shape) // an order may be one that is drawn
	}) {
		return true
	}
	if own, ok := l.Content.(drawing); ok && own.draws() {
		return true
	}
	if steps := l.Content.StepList(); steps != nil {
		for i := range steps.Len() {
			if c := steps.Cell(i); c.On && maybe(c) {
				return true
			}
		}
	}
	if own := FreeOf(l); own != nil {
		return slices.ContainsFunc(own.Cells(), maybe)
	}
	return false
}

// maybe reports whether luck decides whether a step is played: one with no chance at all never is.
func maybe(c *Cell) bool { return c.Chance > 0 && c.Chance < 100 }

// MayDraw tells whether luck decides anything in one of its lanes.
func (c *Clip) MayDraw() bool {
	return slices.ContainsFunc(c.Lanes, func(l Lane) bool { return l.MayDraw() })
}
