package render

import (
	"fmt"
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/piece"
)

// Moving is a reason that tells of a field's value.
func Moving(rule, field string, from, to int) Reason {
	return Reason{Rule: rule, From: fmt.Sprintf("%s %d", field, from), To: fmt.Sprintf("%s %d", field, to)}
}

// FieldNamed finds a field by its name in the document.
func FieldNamed(name string) (Field, bool) {
	for f, own := range fieldNames {
		if own == name {
			return Field(f), true
		}
	}
	return 0, false
}

// MovedFields are those that modulators or luck may move.
func (p *Pattern) MovedFields() (out []Field) {
	if p.craft == nil {
		return nil
	}
	lucky := func(of func(*piece.Odd) bool) bool {
		for i := range p.craft.odds {
			if of(&p.craft.odds[i]) {
				return true
			}
		}
		return false
	}
	for f := range fields {
		of, chancy := chancy[f]
		if len(p.cells) == 0 {
			break
		}
		if _, has := p.lane.StepValue(f.String(), 0); p.Moves(f) || chancy && has && lucky(of) {
			out = append(out, f)
		}
	}
	return out
}

// chancy tells of the fields that luck may move whether one of the odds does. Degrees count
// along the scale, as a phrase's offsets do.
var chancy = map[Field]func(o *piece.Odd) bool{
	Velocity: func(o *piece.Odd) bool { return o.Velocity != nil },
	Gate:     func(o *piece.Odd) bool { return o.Gate != nil },
	Ratchet:  func(o *piece.Odd) bool { return o.Ratchet != nil },
	Degree:   func(o *piece.Odd) bool { return o.Degrees != nil },
	Offset:   func(o *piece.Odd) bool { return o.Degrees != nil },
	Octave:   func(o *piece.Odd) bool { return o.Octave != nil },
}

// Comes is what a field comes to in a slot, own being what its step or its lane says.
func (p *Pattern) Comes(f Field, s *Slot, own int) int {
	if slices.Contains(shared[:], f) {
		return s.value(f)
	}
	own = p.Moved(f, s, own)
	if !p.cells[s.Step].On {
		return own
	}
	switch f {
	case Degree, Offset:
		if p.lane.CountsDegrees(int(s.Step)) {
			own += p.Luck(s).Degrees
		}
	case Octave:
		own += p.Luck(s).Octave
	}
	return own
}

// ModulatorCurve is a modulator as it runs, before it is rounded.
type ModulatorCurve struct {
	On        Field
	Modulator int // which of the lane's, from 0
	Every     beat.Time
	At        []beat.Time
	Value     []float64
}

// Limits of how finely curves are drawn: points a period, and in all.
const (
	curvePoints = 64
	mostPoints  = 2048
)

// Curves are the lane's modulators up to a length, in enough points to be drawn.
func (p *Pattern) Curves(length beat.Time) (out []ModulatorCurve) {
	if p.craft == nil {
		return nil
	}
	for f := range fields {
		for i := range p.craft.on(f) {
			m := &p.craft.on(f)[i]
			each := max(m.every/curvePoints, length/mostPoints, 1)
			c := ModulatorCurve{On: f, Modulator: m.index, Every: m.every}
			for at := beat.Time(0); at < max(length, m.every); at += each {
				c.At, c.Value = append(c.At, at), append(c.Value, m.along(at))
			}
			out = append(out, c)
		}
	}
	return out
}

// movedBy tells what modulators and luck made of the values that all steps have.
func (p *Performance) movedBy(part *Part, note *Note, source *piece.Lane) (out []Reason) {
	if len(source.Modulators) == 0 && len(source.Odds) == 0 {
		return nil
	}
	pattern, slot := p.SlotOf(part, note)
	for _, f := range shared {
		own, _ := source.StepValue(f.String(), int(slot.Step))
		if to := pattern.Moved(f, slot, own); to != own {
			out = append(out, Moving("modulator", f.String(), own, to))
		}
	}
	if words := pattern.Drawn(slot); words != "" && words != "as written" {
		out = append(out, Reason{Rule: "drew", From: fmt.Sprintf("step %d", note.Step), To: words})
	}
	return out
}
