package piece

import (
	"agrimony/internal/core/document"
	"agrimony/internal/core/pitch"
)

// Pulse is the content of a pulse lane: one pitch or drum, a rhythm. Exactly one of
// Note and Pitch is set.
type Pulse struct {
	Pitched `tstype:",extends"`
	Note    *int         `json:"note" tstype:"number | null,required"` // MIDI; never locked or folded by the key
	Pitch   *pitch.Place `json:"pitch" tstype:"Place | null,required"` // follows the key as a line's step does
	Steps   []PulseStep  `json:"steps"`
}

// PulseStep is one slot of a pulse lane.
type PulseStep struct {
	Cell `tstype:",extends"`
}

// DefaultNote is the note of a pulse lane that states none: the bass drum of the
// General MIDI percussion map.
const DefaultNote = 36

var placeShape = &document.Shape[pitch.Place]{
	Doc: "A pitch of the key.",
	Fields: placeFields(func(p *pitch.Place) (degree, octave, alter *int) {
		return &p.Degree, &p.Octave, &p.Alter
	}),
}

var pulseStep = &document.Shape[PulseStep]{
	Doc:    "One slot of a pulse lane.",
	Fields: stepFields(Cell{Velocity: 100, Gate: 75, Chance: 100, Ratchet: 1}, func(s *PulseStep) *Cell { return &s.Cell }),
}

var pulseKind = Define("pulse", "One pitch or drum, a rhythm.", "kit",
	func(p *Pulse) *[]PulseStep { return &p.Steps }, pulseStep,
	append(document.Lift(func(p *Pulse) *Pitched { return &p.Pitched }, pitchedFields("scale")...),
		document.OptionalWhole("note", 0, 127, "The MIDI note; absent, without a pitch: 36. The key leaves it alone.", func(p *Pulse) **int { return &p.Note }),
		document.Optional("pitch", "A pitch of the key, in place of a note.", placeShape, func(p *Pulse) **pitch.Place { return &p.Pitch }))).
	holding(func(named func(string) bool, c Content) {
		p := c.(*Pulse)
		if named("pitch") && !named("note") {
			p.Note = nil
		} else if named("note") && !named("pitch") {
			p.Pitch = nil
		}
	}, func(at *document.At, c Content) {
		p := c.(*Pulse)
		if p.Note != nil && p.Pitch != nil {
			at.Field("pitch").Refuse("is there beside note; allowed: one of them")
		}
		if p.Note == nil && p.Pitch == nil {
			note := DefaultNote
			p.Note = &note
		}
	}, document.Pairs("not", document.Pairs("required", []string{"note", "pitch"}, "properties",
		document.Pairs("note", document.Pairs("type", "integer"), "pitch", document.Pairs("type", "object")))))

// StepList gives the steps to whatever works on steps of any kind.
func (p *Pulse) StepList() Steps { return StepsOf(&p.Steps, pulseStep) }

// Clone copies the lane's content and its steps.
func (p *Pulse) Clone() Content {
	out := *p
	out.Steps = append([]PulseStep{}, p.Steps...)
	return &out
}

// CheckKey refuses a degree that the key does not have.
func (p *Pulse) CheckKey(at *document.At, key pitch.Key) {
	if p.Pitch != nil {
		checkDegree(at.Field("pitch"), key, p.Pitch.Degree)
	}
}

func (p *Pulse) place(int) (at pitch.Place, ok bool) {
	if p.Pitch == nil {
		return at, false
	}
	return *p.Pitch, true
}

// degrees tells whether its pitch is one of the key.
func (p *Pulse) degrees() bool { return p.Note == nil }
