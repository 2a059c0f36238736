package piece

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"agrimony/internal/core/document"
	"agrimony/internal/core/pitch"
)

// MaxOrder is how many places an order of one's own may have.
const MaxOrder = 64

// The allowed words of phrase lanes.
var (
	PhraseSources = []string{"harmony", "own"}
	Plays         = []string{"next", "back", "again", "low", "high", "root", "chord"}
	Orders        = []string{"up", "down", "up-down", "up-down-repeat", "converge", "diverge", "entered", "top-pedal", "bottom-pedal", "random", "shuffle"}
	Walks         = []string{"chord", "round", "never"}
	Repeats       = []string{"tone", "walk"}
	Units         = []string{"scale", "semitones"}
	PedalTones    = []string{"root", "low"}
)

// Phrase is the content of a phrase lane: it walks the tones of a chord in an order.
type Phrase struct {
	Pitched `tstype:",extends"`
	Source  string        `json:"source"` // whose tones: the harmony's, or the lane's own
	Tones   []pitch.Place `json:"tones" tstype:"Place[]"`
	Order   Order         `json:"order" tstype:"string | number[]"`
	Span    int           `json:"span"` // how many passes through the tones
	Leap    Leap          `json:"leap"` // from each pass to the next
	Walk    string        `json:"walk"` // when it starts over
	Voices  int           `json:"voices"`
	Repeats string        `json:"repeats"` // whether a ratchet walks on
	Pedal   *Pedal        `json:"pedal" tstype:"Pedal | null,required"`
	Glide   GlideMode     `json:"glide"`
	Rhythm  *Rhythm       `json:"rhythm" tstype:"Rhythm | null,required"` // nil: its own rate
	Steps   []PhraseStep  `json:"steps"`
}

// Order is a named order, or a list of rungs from 1; exactly one is set.
type Order struct {
	Name  string
	Rungs []int
}

// MarshalJSON writes the name or the list.
func (o Order) MarshalJSON() ([]byte, error) {
	if o.Name != "" {
		return json.Marshal(o.Name)
	}
	return json.Marshal(o.Rungs)
}

// Leap is a distance in semitones, or in steps of the scale.
type Leap struct {
	By int    `json:"by"`
	In string `json:"in"`
}

// Pedal is a tone that sounds with every step.
type Pedal struct {
	Tone   string `json:"tone"`
	Octave int    `json:"octave"`
}

// Rhythm is the lane whose onsets clock a pattern.
type Rhythm struct {
	Lane string `json:"lane"`
}

// The gates that steps have where none is stated, in %: by the lane's own rate, and where
// another lane's rhythm clocks it.
const (
	phraseGate = 75
	rhythmGate = 100
)

// PhraseStep is one slot of a phrase.
type PhraseStep struct {
	Cell   `tstype:",extends"`
	Play   string  `json:"play"`
	Offset int     `json:"offset"`
	In     string  `json:"in"` // what the offset is counted in
	Octave int     `json:"octave"`
	Glide  *Glide  `json:"glide" tstype:"Glide | null,required"`
	Bend   []Point `json:"bend"`

	plain bool // its gate is the one that it has where none is stated
}

var rhythmShape = &document.Shape[Rhythm]{
	Doc: "The lane whose onsets clock the pattern.",
	Fields: []document.Field[Rhythm]{
		document.Parsed("lane", "", "Its id, in the same clip.", checkID, func(r *Rhythm) *string { return &r.Lane }, document.Pairs("pattern", idPattern)).Needed(),
	},
}

var leapShape = &document.Shape[Leap]{
	Doc: "How much higher each pass is than the one before.",
	Fields: []document.Field[Leap]{
		document.Whole("by", -24, 24, 12, "Semitones, or steps of the scale.", func(l *Leap) *int { return &l.By }),
		document.Choice("in", Units, "semitones", "What it is counted in.", func(l *Leap) *string { return &l.In }),
	},
}

var pedalShape = &document.Shape[Pedal]{
	Doc: "A tone that sounds with every step.",
	Fields: []document.Field[Pedal]{
		document.Choice("tone", PedalTones, "root", "The chord's root, or its lowest tone.", func(p *Pedal) *string { return &p.Tone }),
		document.Whole("octave", -4, 4, -1, "By how many octaves it is moved.", func(p *Pedal) *int { return &p.Octave }),
	},
}

var phraseStep = &document.Shape[PhraseStep]{
	Doc: "One slot of a phrase.",
	Fields: gateByLane(stepFields(Cell{Velocity: 100, Chance: 100, Ratchet: 1}, func(s *PhraseStep) *Cell { return &s.Cell },
		[]document.Field[PhraseStep]{
			document.Choice(
				"play",
				Plays,
				"next",
				"What it plays: the walk's next place, the one before, the same again, or a tone of its own choice.",
				func(s *PhraseStep) *string { return &s.Play },
			),
			document.Whole("offset", -24, 24, 0, "By how much what it plays is moved.", func(s *PhraseStep) *int { return &s.Offset }),
			document.Choice("in", Units, "scale", "What the offset is counted in.", func(s *PhraseStep) *string { return &s.In }),
			document.Whole("octave", -4, 4, 0, "Octaves by which it is moved.", func(s *PhraseStep) *int { return &s.Octave }),
			document.Optional("glide", "Slides into what it plays, where that is one tone.", glideShape, func(s *PhraseStep) **Glide { return &s.Glide }),
			document.List(
				"bend",
				0,
				MaxPoints,
				"A bend over its one tone, in rising order of at.",
				pointShape,
				document.None[Point],
				func(s *PhraseStep) *[]Point { return &s.Bend },
			),
		})),
	Check: func(at *document.At, s *PhraseStep) { checkBend(at, s.Bend) },
}

// gateByLane lets the gate be left out where it is the lane's own.
func gateByLane(fields []document.Field[PhraseStep]) []document.Field[PhraseStep] {
	for i := range fields {
		if fields[i].Name == "gate" {
			fields[i] = fields[i].LeftOut(func(s *PhraseStep) bool { return s.plain })
		}
	}
	return fields
}

var phraseKind = Define("phrase", "An arpeggiator that walks the tones of a chord.", "pluck",
	func(p *Phrase) *[]PhraseStep { return &p.Steps }, phraseStep,
	append(
		document.Lift(func(p *Phrase) *Pitched { return &p.Pitched }, pitchedFields("scale")...),
		document.Choice(
			"source",
			PhraseSources,
			"harmony",
			"Whose tones it walks: those of the sounding chord, or its own.",
			func(p *Phrase) *string { return &p.Source },
		),
		document.List("tones", 0, MaxTones, "Tones of its own.", placeShape, document.None[pitch.Place], func(p *Phrase) *[]pitch.Place { return &p.Tones }),
		document.Own("order", "The order of the walk: a name, or a list of rungs from 1.",
			func(p *Phrase) { p.Order = Order{Name: "up"} },
			func(at *document.At, value any, p *Phrase) { p.Order = readOrder(at, value) },
			func(at *document.At, p *Phrase) {
				if p.Order.Name != "" {
					readOrder(at.Field("order"), p.Order.Name)
					return
				}
				for i, rung := range p.Order.Rungs {
					if rung < 1 || rung > MaxOrder {
						at.Field("order").Item(i).Refuse("%d is out of range; allowed: 1..%d", rung, MaxOrder)
					}
				}
			},
			func(p *Phrase) (any, bool) {
				if p.Order.Name != "" {
					return p.Order.Name, p.Order.Name != "up"
				}
				return document.Anys(p.Order.Rungs), true
			},
			func() document.Object {
				return document.Pairs("default", "up", "anyOf", []any{
					document.Pairs("type", "string", "enum", Orders),
					document.Pairs(
						"type",
						"array",
						"minItems",
						1,
						"maxItems",
						MaxOrder,
						"items",
						document.Pairs("type", "integer", "minimum", 1, "maximum", MaxOrder),
					),
				})
			}),
		document.Whole("span", 1, 8, 1, "How many times it goes through the tones, each pass a leap higher.", func(p *Phrase) *int { return &p.Span }),
		document.Inner("leap", "The leap from pass to pass.", leapShape, func(p *Phrase) *Leap { return &p.Leap }),
		document.Choice(
			"walk",
			Walks,
			"chord",
			"When the walk starts over: when a chord begins, with each round, or never.",
			func(p *Phrase) *string { return &p.Walk },
		),
		document.Whole("voices", 1, 4, 1, "How many places of the order sound together.", func(p *Phrase) *int { return &p.Voices }),
		document.Choice("repeats", Repeats, "tone", "Whether a ratchet repeats its tone or walks on.", func(p *Phrase) *string { return &p.Repeats }),
		document.Optional("pedal", "A tone that sounds with every step; absent: none.", pedalShape, func(p *Phrase) **Pedal { return &p.Pedal }),
		document.Inner("glide", "How glides are written.", manyGlideShape("bend", ManyGlideModes), func(p *Phrase) *GlideMode { return &p.Glide }),
		document.Optional(
			"rhythm",
			"Another lane, whose onsets take the pattern's steps; absent: its own rate does.",
			rhythmShape,
			func(p *Phrase) **Rhythm { return &p.Rhythm },
		),
	)).
	moving(Moved{"offset", -24, 24, -3, 3, nil}, Moved{"octave", -4, 4, 0, 1, nil}, Moved{"span", 1, 8, 1, 3, nil},
		Moved{"leap", -24, 24, 7, 12, nil}, Moved{"voices", 1, 4, 1, 3, nil}, Moved{"order", 1, len(Orders), 1, len(Orders), Orders}).
	holding(func(func(string) bool, Content) {}, func(at *document.At, content Content) {
		p := content.(*Phrase)
		if p.Source == "own" && len(p.Tones) == 0 {
			at.Field("tones").Refuse("0 items with source own; allowed: 1..%d", MaxTones)
		}
		gate := phraseGate
		if p.Rhythm != nil {
			gate = rhythmGate
		}
		for i := range p.Steps {
			if s := &p.Steps[i]; s.Gate == 0 {
				s.Gate, s.plain = gate, true
			} else {
				s.plain = s.Gate == gate
			}
		}
	}, document.Pairs("if", document.Pairs("properties", document.Pairs("source", document.Pairs("const", "own")), "required", []string{"source"}),
		"then", document.Pairs("properties", document.Pairs("tones", document.Pairs("minItems", 1)), "required", []string{"tones"})))

// readOrder reads a name or a list.
func readOrder(at *document.At, value any) Order {
	if name, ok := value.(string); ok {
		if !slices.Contains(Orders, name) {
			at.Refuse("%q is not allowed; allowed: %s, or a list of rungs from 1", name, strings.Join(Orders, ", "))
		}
		return Order{Name: name}
	}
	items := document.ListOf(at, value, 1, MaxOrder)
	out := Order{Rungs: make([]int, len(items))}
	for i, item := range items {
		if out.Rungs[i] = document.WholeOf(at.Item(i), item); out.Rungs[i] < 1 || out.Rungs[i] > MaxOrder {
			at.Item(i).Refuse("%d is out of range; allowed: 1..%d", out.Rungs[i], MaxOrder)
		}
	}
	return out
}

// Needs is the lane that the rhythm is taken from.
func (p *Phrase) Needs() []Need {
	if p.Rhythm == nil {
		return nil
	}
	return []Need{{"rhythm.lane", p.Rhythm.Lane}}
}

func (p *Phrase) gliding() *GlideMode { return &p.Glide }

// StepList gives the steps to whatever works on steps of any kind.
func (p *Phrase) StepList() Steps { return StepsOf(&p.Steps, phraseStep) }

// Clone copies the lane's content, its tones and its steps.
func (p *Phrase) Clone() Content {
	out := *p
	out.Steps = slices.Clone(p.Steps)
	out.Tones = slices.Clone(p.Tones)
	out.Order.Rungs = slices.Clone(p.Order.Rungs)
	return &out
}

// CheckKey refuses a degree that the key does not have.
func (p *Phrase) CheckKey(at *document.At, key pitch.Key) {
	for i, tone := range p.Tones {
		checkDegree(at.Field("tones").Item(i), key, tone.Degree)
	}
}

// Listens tells whether the phrase's notes depend on the sounding chord: its tones, its
// roots, or where its walk starts over.
func (p *Phrase) Listens() bool {
	return p.Source == "harmony" || p.Walk == "chord" || p.Pitched.Listens() || p.roots()
}

// roots tells whether some of it plays a chord's root.
func (p *Phrase) roots() bool {
	return p.Pedal != nil && p.Pedal.Tone == "root" || slices.ContainsFunc(p.Steps, func(s PhraseStep) bool { return s.On && s.Play == "root" })
}

// String is the order as text.
func (o Order) String() string {
	if o.Name != "" {
		return o.Name
	}
	return fmt.Sprint(o.Rungs)
}

func (p *Phrase) stepValue(field string, i int) (int, bool) {
	switch field {
	case "offset":
		return p.Steps[i].Offset, true
	case "octave":
		return p.Steps[i].Octave, true
	}
	return 0, false
}

func (p *Phrase) countsDegrees(step int) bool { return p.Steps[step].In == "scale" }

// laneValue is the value of a field that all steps have in common; of the order, its place
// among Orders, from 1; 0 for an order of its own.
func (p *Phrase) laneValue(field string) int {
	switch field {
	case "span":
		return p.Span
	case "leap":
		return p.Leap.By
	case "voices":
		return p.Voices
	case "order":
		return slices.Index(Orders, p.Order.Name) + 1
	}
	return 0
}

// Lean lets the phrase take its rhythm from another lane; "": from its own rate.
func (p *Phrase) Lean(_, lane string) bool {
	if p.Rhythm = nil; lane != "" {
		p.Rhythm = &Rhythm{Lane: lane}
	}
	return true
}

func (p *Phrase) draws() bool { return p.Order.Name == "random" || p.Order.Name == "shuffle" }
