package sketch

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"

	"agrimony/internal/core/piece"
)

// Span is one value of a dial, or the two that it is drawn between.
type Span struct{ Low, High int }

// UnmarshalJSON reads a number, or two in a list.
func (s *Span) UnmarshalJSON(data []byte) error {
	var one int
	if json.Unmarshal(data, &one) == nil {
		*s = Span{one, one}
		return nil
	}
	var two []int
	if json.Unmarshal(data, &two) != nil || len(two) != 2 || two[0] > two[1] {
		return fmt.Errorf("%s is no span; allowed: a whole number, or two in a list, the lower first", shortened(data))
	}
	*s = Span{two[0], two[1]}
	return nil
}

// MarshalJSON writes it as it is read.
func (s Span) MarshalJSON() ([]byte, error) {
	if s.Low == s.High {
		return json.Marshal(s.Low)
	}
	return json.Marshal([]int{s.Low, s.High})
}

func shortened(data []byte) string {
	if len(data) > 40 {
		return string(data[:40]) + ".."
	}
	return string(data)
}

// Dials are what a request says of them; nil: not said.
type Dials struct {
	Full     *Span   `json:"full,omitempty" tstype:"Spanned"`
	Lean     *Span   `json:"lean,omitempty" tstype:"Spanned"`
	Pickup   *Span   `json:"pickup,omitempty" tstype:"Spanned"`
	Long     *Span   `json:"long,omitempty" tstype:"Spanned"`
	Leaps    *Span   `json:"leaps,omitempty" tstype:"Spanned"`
	Anchor   *Span   `json:"anchor,omitempty" tstype:"Spanned"`
	Contour  *string `json:"contour,omitempty"`
	Form     *string `json:"form,omitempty"`
	Gate     *Span   `json:"gate,omitempty" tstype:"Spanned"`
	Velocity *Span   `json:"velocity,omitempty" tstype:"Spanned"`
	Late     *Span   `json:"late,omitempty" tstype:"Spanned"`
	Glides   *Span   `json:"glides,omitempty" tstype:"Spanned"`
}

// Dial is one that has numbers: its range, and the span that it has where nothing is said.
type Dial struct {
	Name      string `json:"name"`
	Low       int    `json:"low"`
	High      int    `json:"high"`
	Default   Span   `json:"default" tstype:"Spanned"`
	LowSays   string `json:"lowSays"`  // what its lower end is
	HighSays  string `json:"highSays"` // and its higher one
	Unit      string `json:"unit"`
	Stays     bool   `json:"stays"` // each step draws from the span, not each sketch
	of        func(*Dials) **Span
	drawnInto func(*drawn) *int
}

// All are the dials that have numbers, in the order in which forms show them.
var All = []Dial{
	{"full", 0, 100, Span{40, 75}, "empty", "full", "%", false, func(d *Dials) **Span { return &d.Full }, func(d *drawn) *int { return &d.full }},
	{"lean", -100, 100, Span{-20, 60}, "off the beats", "on the beats", "", false, func(d *Dials) **Span { return &d.Lean }, func(d *drawn) *int { return &d.lean }},
	{
		"pickup",
		0,
		16,
		Span{0, 0},
		"starts on one",
		"starts late",
		"steps",
		false,
		func(d *Dials) **Span { return &d.Pickup },
		func(d *drawn) *int { return &d.pickup },
	},
	{"long", 0, 100, Span{0, 30}, "short notes", "long notes", "%", false, func(d *Dials) **Span { return &d.Long }, func(d *drawn) *int { return &d.long }},
	{"leaps", 0, 100, Span{10, 35}, "steps", "leaps", "%", false, func(d *Dials) **Span { return &d.Leaps }, func(d *drawn) *int { return &d.leaps }},
	{
		"anchor",
		0,
		100,
		Span{70, 100},
		"passing notes",
		"chord tones",
		"%",
		false,
		func(d *Dials) **Span { return &d.Anchor },
		func(d *drawn) *int { return &d.anchor },
	},
	{"gate", 1, 400, Span{50, 95}, "clipped", "held", "%", true, func(d *Dials) **Span { return &d.Gate }, nil},
	{"velocity", 1, 127, Span{70, 110}, "soft", "hard", "", true, func(d *Dials) **Span { return &d.Velocity }, nil},
	{"late", 0, 30, Span{0, 0}, "on time", "behind", "%", false, func(d *Dials) **Span { return &d.Late }, func(d *drawn) *int { return &d.late }},
	{"glides", 0, 100, Span{0, 0}, "struck", "sliding", "%", false, func(d *Dials) **Span { return &d.Glides }, func(d *drawn) *int { return &d.glides }},
}

// Contours are the courses that a line can take; the first is the usual one.
var Contours = []string{"free", "rise", "fall", "arch", "bowl", "fan", "gather"}

// Request asks for sketches.
type Request struct {
	Seed   int               `json:"seed"`
	Count  int               `json:"count"`
	Temper string            `json:"temper,omitempty"`
	Dials  Dials             `json:"dials,omitzero"`
	Range  *Range            `json:"range,omitempty"`
	Keep   string            `json:"keep,omitempty"`
	From   []json.RawMessage `json:"from,omitempty"`
	Rate   string            `json:"rate,omitempty"` // of a lane of free notes
	Bars   int               `json:"bars,omitempty"`

	from []piece.LineStep
}

// Range is where a sketch may stand, MIDI pitches.
type Range struct {
	Low  int `json:"low"`
	High int `json:"high"`
}

// MostSketches is how many one request may ask for, MaxSeed the highest seed.
const (
	MostSketches = 24
	MaxSeed      = 9_007_199_254_740_991
)

// Keeps are what a sketch can keep of the lane, or of the steps that it is given.
var Keeps = []string{"nothing", "rhythm", "pitches"}

func wrong(path, format string, args ...any) error {
	return &piece.Fault{Path: path, Problem: fmt.Sprintf(format, args...)}
}

// ReadRequest reads a request. Errors name the field and what is allowed.
func ReadRequest(data []byte) (*Request, error) {
	r := &Request{Seed: 1, Count: 6, Keep: "nothing"}
	if err := checkSpans(data); err != nil {
		return nil, err
	}
	if err := readStrictly(data, r); err != nil {
		return nil, err
	}
	return r, r.check()
}

// checkSpans refuses dials that are no spans, by their names: who reads a span does not know which dial it is of.
func checkSpans(data []byte) error {
	var given struct{ Dials map[string]json.RawMessage }
	if json.Unmarshal(data, &given) != nil {
		return nil // the strict reader says what is wrong
	}
	for _, dial := range All {
		raw, there := given.Dials[dial.Name]
		var span Span
		if err := json.Unmarshal(raw, &span); there && err != nil {
			return wrong("dials."+dial.Name, "%v", err)
		}
	}
	return nil
}

// readStrictly reads JSON with no field that is not known and nothing after it.
func readStrictly(data []byte, into any) error {
	decoder := json.NewDecoder(bytes.NewReader(data))
	decoder.DisallowUnknownFields()
	if err := decoder.Decode(into); err != nil {
		var of *json.UnmarshalTypeError
		if errors.As(err, &of) {
			return wrong(of.Field, "a %s is not allowed here; allowed: %s", of.Value, of.Type)
		}
		return wrong("", "%s", strings.TrimPrefix(err.Error(), "json: "))
	}
	if decoder.More() {
		return wrong("", "something follows it; allowed: one request")
	}
	return nil
}

func (r *Request) check() error {
	if r.Seed < 0 || r.Seed > MaxSeed {
		return wrong("seed", "%d is out of range; allowed: 0..%d", r.Seed, int(MaxSeed))
	}
	if r.Count < 1 || r.Count > MostSketches {
		return wrong("count", "%d is out of range; allowed: 1..%d", r.Count, MostSketches)
	}
	if r.Keep == "" {
		r.Keep = "nothing"
	}
	if !slices.Contains(Keeps, r.Keep) {
		return wrong("keep", "%q is not allowed; allowed: %s", r.Keep, strings.Join(Keeps, ", "))
	}
	if r.Range != nil && (r.Range.Low < 0 || r.Range.High > 127 || r.Range.Low > r.Range.High) {
		return wrong("range", "%d..%d is no range; allowed: within 0..127, the lower first", r.Range.Low, r.Range.High)
	}
	if len(r.From) > piece.MaxSteps {
		return wrong("from", "%d steps; allowed: 1..%d", len(r.From), piece.MaxSteps)
	}
	r.from = nil
	for i, raw := range r.From {
		step, err := piece.ReadLineStep(fmt.Sprintf("from[%d]", i), raw)
		if err != nil {
			return err
		}
		r.from = append(r.from, step)
	}
	_, err := r.dials()
	return err
}

// spans are all dials with what a request leaves out filled in.
type spans struct {
	spans          map[string]Span
	contour, form  string
	offered        bool // the form is the temper's: where it does not fit there is none
	gate, velocity Span
}

// drawn are the dials of one sketch.
type drawn struct {
	full, lean, pickup, long, leaps, anchor, late, glides int

	contour, form  string
	gate, velocity Span
}

// dials are those of the request over those of its temper over the usual ones.
func (r *Request) dials() (*spans, error) {
	out := &spans{spans: map[string]Span{}, contour: Contours[0]}
	from := []*Dials{&r.Dials}
	if r.Temper != "" {
		i := slices.IndexFunc(Tempers, func(t Temper) bool { return t.Name == r.Temper })
		if i < 0 {
			var names []string
			for _, t := range Tempers {
				names = append(names, t.Name)
			}
			return nil, wrong("temper", "%q is not known; allowed: %s", r.Temper, strings.Join(names, ", "))
		}
		from = append(from, &Tempers[i].Dials)
	}
	for _, d := range All {
		out.spans[d.Name] = d.Default
		for k := len(from) - 1; k >= 0; k-- {
			if said := *d.of(from[k]); said != nil {
				if said.Low < d.Low || said.High > d.High {
					return nil, wrong("dials."+d.Name, "%d..%d is out of range; allowed: %d..%d", said.Low, said.High, d.Low, d.High)
				}
				out.spans[d.Name] = *said
			}
		}
	}
	for k := len(from) - 1; k >= 0; k-- {
		if said := from[k].Contour; said != nil {
			if !slices.Contains(Contours, *said) {
				return nil, wrong("dials.contour", "%q is not allowed; allowed: %s", *said, strings.Join(Contours, ", "))
			}
			out.contour = *said
		}
		if said := from[k].Form; said != nil {
			out.form, out.offered = *said, k > 0
			for _, letter := range *said {
				if (letter < 'A' || letter > 'Z') && (letter < 'a' || letter > 'z') {
					return nil, wrong("dials.form", "%q is not allowed; allowed: letters A to Z, one for each part", *said)
				}
			}
		}
	}
	out.gate, out.velocity = out.spans["gate"], out.spans["velocity"]
	return out, nil
}

// fit refuses dials that the ground has no room for.
func (s *spans) fit(g *ground) error {
	n := len(s.form)
	fits := n == 0 || n <= len(g.cells) && len(g.cells)%n == 0
	if !fits && s.offered {
		s.form = ""
		return nil
	}
	if !fits {
		return wrong("dials.form", "%q has %d parts, and %d active steps are no multiple of that; allowed: so many letters as divide them", s.form, n, len(g.cells))
	}
	return nil
}

// draw draws each dial that is drawn once.
func (s *spans) draw(l *luck) drawn {
	out := drawn{contour: s.contour, form: s.form, gate: s.gate, velocity: s.velocity}
	for _, d := range All {
		if d.drawnInto != nil {
			span := s.spans[d.Name]
			*d.drawnInto(&out) = l.between(span.Low, span.High)
		}
	}
	return out
}
