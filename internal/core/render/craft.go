package render

import (
	"fmt"
	"math"
	"math/big"
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
)

// Field is a value of a step or a lane that modulators may move.
type Field uint8

// The fields, in the order of fieldNames.
const (
	Velocity Field = iota
	Gate
	Chance
	Ratchet
	Nudge
	Degree
	Octave
	Offset
	Steps // of span
	Leap
	Voices
	OrderOf
	Inversion
	Strum
	Value
	fields
)

var fieldNames = [fields]string{"velocity", "gate", "chance", "ratchet", "nudge", "degree", "octave", "offset", "span", "leap", "voices", "order", "inversion", "strum", "value"}

// String is the field's name in the document.
func (f Field) String() string { return fieldNames[f] }

// craft is what moves a lane's values, made ready. Its clamped fields are noted while a
// lane is played, by which nobody else uses its pattern.
type craft struct {
	movers  [fields][]mover
	odds    []piece.Odd
	weight  uint64 // of all odds
	clamped uint32 // a bit for each field
}

// mover is a modulator made ready.
type mover struct {
	*piece.Modulator
	index     int
	every     beat.Time
	low, high int
	free      bool // nothing clamps it: it runs on into other octaves
	drawn     func(period int64) uint64
	shape     func(m *mover, at float64, period int64) float64

	// Of steps on a grid that begins with the clip, what it gives is worked out once for
	// each place in its period.
	step   beat.Time
	places beat.Time // how many there are; 0: too many, or it is drawn
	known  []float64
	whole  []int16 // the same rounded
}

// mostKnown is how many places of a period are worked out at once.
const mostKnown = 4096

// craftOf makes a lane's modulators and odds ready; nil where it has none.
func craftOf(p *piece.Piece, lane *piece.Lane, draws draws, step beat.Time) *craft {
	if len(lane.Modulators) == 0 && len(lane.Odds) == 0 {
		return nil
	}
	out := &craft{odds: lane.Odds}
	for i := range lane.Odds {
		out.weight += uint64(lane.Odds[i].Weight)
	}
	meter, err := beat.ParseMeter(p.Meter)
	if err != nil {
		panic(err) // a checked piece has a meter
	}
	for i := range lane.Modulators {
		m := mover{Modulator: &lane.Modulators[i], index: i, step: step, shape: shapes[lane.Modulators[i].Shape]}
		if m.every, err = beat.Every(m.Every, meter); err != nil {
			panic(err) // a checked modulator has a period
		}
		if places := m.every / beat.Time(gcd(int64(m.every), int64(step))); places <= mostKnown && m.Shape != "jump" && m.Shape != "drift" {
			m.places = places
		}
		m.drawn = func(period int64) uint64 {
			return mix(draws.draw(int32(i), int32(period), forShape) ^ uint64(period)>>32)
		}
		for _, move := range lane.Moves() {
			if move.Name == m.On {
				m.low, m.high = move.Low, move.High
			}
		}
		for f, name := range fieldNames {
			if name == m.On {
				m.free = Field(f) == Degree
				out.movers[f] = append(out.movers[f], m)
			}
		}
	}
	return out
}

// shapes are the ways of modulators from one end (0) to the other (1); at is the share of
// the period that has passed. Those that are drawn have no way of their own.
var shapes = map[string]func(m *mover, at float64, period int64) float64{
	"sine": func(_ *mover, at float64, _ int64) float64 { return 0.5 + 0.5*math.Sin(2*math.Pi*at) },
	"triangle": func(_ *mover, at float64, _ int64) float64 {
		switch {
		case at < 0.25:
			return 0.5 + 2*at
		case at < 0.75:
			return 1.5 - 2*at
		}
		return 2*at - 1.5
	},
	"rise": func(_ *mover, at float64, _ int64) float64 { return at },
	"fall": func(_ *mover, at float64, _ int64) float64 { return 1 - at },
	"square": func(_ *mover, at float64, _ int64) float64 {
		if at < 0.5 {
			return 0
		}
		return 1
	},
	"steps": func(m *mover, at float64, _ int64) float64 {
		return m.Values[min(int(at*float64(len(m.Values))+1e-9), len(m.Values)-1)] / 100
	},
	"jump": func(m *mover, _ float64, period int64) float64 { return share(m.drawn(period)) },
	"drift": func(m *mover, at float64, period int64) float64 {
		from, to := share(m.drawn(period)), share(m.drawn(period+1))
		return from + (to-from)*at
	},
}

// share is a drawn number as one within 0..1.
func share(drawn uint64) float64 { return float64(drawn>>11) / (1<<53 - 1) }

func gcd(a, b int64) int64 {
	for b != 0 {
		a, b = b, a%b
	}
	return a
}

// at is what a modulator gives in a slot, before it is rounded.
func (m *mover) at(s *Slot) float64 {
	k := m.placeOf(s)
	if k < 0 {
		return m.along(s.At)
	}
	if m.known == nil {
		m.known = make([]float64, m.places)
		for i := range m.known {
			m.known[i] = m.along(beat.Time(i) * m.step)
		}
	}
	return m.known[k]
}

// placeOf is the place of a slot in the period; below 0: it has none of its own.
func (m *mover) placeOf(s *Slot) int32 {
	switch {
	case m.places == 0:
		return -1
	case s.place > 0:
		return int32(uint32(s.place-1) % uint32(m.places))
	}
	k := s.At / m.step
	if s.At < 0 || k*m.step != s.At {
		return -1
	}
	return int32(k % m.places)
}

// sets is what a modulator that replaces the value gives in a slot.
func (m *mover) sets(s *Slot) int {
	k := m.placeOf(s)
	if k < 0 {
		return halfUp(m.along(s.At))
	}
	if m.whole == nil {
		m.whole = make([]int16, m.places)
		for i := range m.whole {
			m.whole[i] = int16(halfUp(m.along(beat.Time(i) * m.step)))
		}
	}
	return int(m.whole[k])
}

// along works out what it gives at a time.
func (m *mover) along(at beat.Time) float64 {
	// In hundredths of the period, so that a phase is exact.
	whole := 100 * m.every
	position := 100*at + beat.Time(m.Phase)*m.every
	period, within := position/whole, position%whole
	if within < 0 {
		period, within = period-1, within+whole
	}
	return float64(m.From) + float64(m.To-m.From)*m.shape(m, float64(within)/float64(whole), int64(period))
}

// halfUp rounds half up, forgiving what floating point loses on the way.
func halfUp(x float64) int {
	whole := math.Floor(x + 0.5)
	if x+0.5-whole > 1-1e-9 { // a hair below the middle is the middle
		whole++
	}
	return int(whole)
}

// moved is a field's value in a slot, each modulator on it rounded and clamped before the
// next.
func (c *craft) moved(f Field, s *Slot, own int) int {
	if c == nil {
		return own
	}
	for i := range c.movers[f] {
		m := &c.movers[f][i]
		if m.Way == "set" {
			own = m.sets(s)
		} else {
			own = halfUp(m.at(s) + float64(own))
		}
		if kept := min(max(own, m.low), m.high); kept != own && !m.free {
			own = kept
			c.clamped |= 1 << f
		}
	}
	return own
}

// noteClamped marks a part with the fields that modulators asked too much of.
func (p *Pattern) noteClamped(part *Part) {
	if p == nil || p.craft == nil {
		return
	}
	for f := range fields {
		if p.craft.clamped>>f&1 == 1 {
			part.Marks = append(part.Marks, Mark{Clamped, 0, int(f)})
		}
	}
}

// Moved is a field's value in a slot, after the lane's modulators.
func (p *Pattern) Moved(f Field, s *Slot, own int) int { return p.craft.moved(f, s, own) }

// Moves tells whether modulators move a field of the lane.
func (p *Pattern) Moves(f Field) bool { return p.craft != nil && len(p.craft.movers[f]) > 0 }

// Luck is what a slot's drawn alternative adds in pitch.
type Luck struct{ Degrees, Octave int }

// Luck draws what the lane's odds add to a slot's pitch.
func (p *Pattern) Luck(s *Slot) (out Luck) {
	odd := p.drawn(s)
	if odd == nil {
		return out
	}
	if odd.Degrees != nil {
		out.Degrees = p.within(s, odd.Degrees, forDegrees)
	}
	if odd.Octave != nil {
		out.Octave = p.within(s, odd.Octave, forOctave)
	}
	return out
}

// drawn is the alternative that a slot draws; nil where the lane has no odds.
func (p *Pattern) drawn(s *Slot) *piece.Odd {
	if p.craft == nil || p.craft.weight == 0 {
		return nil
	}
	if s.odd > 0 {
		return &p.craft.odds[s.odd-1]
	}
	left := among(p.draws.draw(s.Step, s.Round, forOdds), p.craft.weight)
	for i := range p.craft.odds {
		odd := &p.craft.odds[i]
		if left < uint64(odd.Weight) {
			s.odd = int8(i + 1)
			return odd
		}
		left -= uint64(odd.Weight)
	}
	return nil
}

// among is a drawn number as one of n, below 2^32, each as likely.
func among(drawn, n uint64) uint64 { return drawn >> 32 * n >> 32 }

// Shifts tells whether anything moves the pitch of a slot.
func (p *Pattern) Shifts(s *Slot) bool {
	if p.craft == nil {
		return false
	}
	if len(p.craft.movers[Degree]) > 0 || len(p.craft.movers[Octave]) > 0 {
		return true
	}
	odd := p.drawn(s)
	return odd != nil && (odd.Degrees != nil || odd.Octave != nil)
}

// within draws evenly from a range.
func (p *Pattern) within(s *Slot, span *piece.Span, what purpose) int {
	return span.Low + int(among(p.draws.draw(s.Step, s.Round, what), uint64(span.High-span.Low+1)))
}

// bend moves the shared values of a slot: its modulators first, then its luck.
func (p *Pattern) bend(s *Slot, cell *piece.Cell) {
	c := p.craft
	if len(c.movers[Velocity]) > 0 {
		s.Velocity = uint8(c.moved(Velocity, s, cell.Velocity))
	}
	if len(c.movers[Gate]) > 0 {
		s.Gate = int16(c.moved(Gate, s, cell.Gate))
	}
	if len(c.movers[Ratchet]) > 0 {
		s.Ratchet = uint8(c.moved(Ratchet, s, cell.Ratchet))
	}
	if len(c.movers[Nudge]) > 0 {
		s.Nudge = int8(c.moved(Nudge, s, cell.Nudge))
	}
	if !s.Sounds {
		return
	}
	odd := p.drawn(s)
	if odd == nil {
		return
	}
	if odd.Rest {
		s.Sounds = false
	}
	if odd.Ratchet != nil {
		s.Ratchet = uint8(*odd.Ratchet)
	}
	if odd.Velocity != nil {
		s.Velocity = uint8(min(max(int(s.Velocity)+p.within(s, odd.Velocity, forVelocity), 1), 127))
	}
	if odd.Gate != nil {
		s.Gate = int16(p.within(s, odd.Gate, forGate))
	}
}

// Lucky tells whether the lane's odds may move its pitches.
func (p *Pattern) Lucky() bool {
	return p.craft != nil && slices.ContainsFunc(p.craft.odds, func(o piece.Odd) bool { return o.Degrees != nil || o.Octave != nil })
}

// Moving is a reason that tells of a field's value.
func Moving(rule, field string, from, to int) Reason {
	return Reason{Rule: rule, From: fmt.Sprintf("%s %d", field, from), To: fmt.Sprintf("%s %d", field, to)}
}

// Drawn tells what a slot drew, in words; empty where the lane has no odds.
func (p *Pattern) Drawn(s *Slot) string {
	if odd := p.drawn(s); odd != nil {
		return odd.Words()
	}
	return ""
}

// most is the largest ratchet that a step of the lane may have.
func (p *Pattern) most() int {
	most := 1
	for _, cell := range p.cells {
		most = max(most, cell.Ratchet)
	}
	if p.craft == nil {
		return most
	}
	if p.Moves(Ratchet) {
		return 8
	}
	for i := range p.craft.odds {
		if r := p.craft.odds[i].Ratchet; r != nil {
			most = max(most, *r)
		}
	}
	return most
}

// longest is the longest gate that a step may have, in %.
func (p *Pattern) longest(step int) int {
	if p.craft == nil {
		return p.cells[step].Gate
	}
	return 400
}

// modulation is the least time after which the modulators that are not drawn recur, of the
// fields named, or of all; nil where there are none.
func (p *Pattern) modulation(of ...Field) *big.Int {
	if p.craft == nil {
		return nil
	}
	var out *big.Int
	for f := range p.craft.movers {
		if len(of) > 0 && !slices.Contains(of, Field(f)) {
			continue
		}
		for i := range p.craft.movers[f] {
			m := &p.craft.movers[f][i]
			if m.Shape == "jump" || m.Shape == "drift" {
				continue
			}
			every := big.NewInt(int64(m.every))
			if out == nil {
				out = every
			} else {
				out = beat.Common(out, every)
			}
		}
	}
	return out
}

// Keep brings a pitch into a lane's range by octaves; false: it is left out.
func Keep(r *piece.Range, p int) (int, bool) {
	if r == nil || p >= r.Low && p <= r.High {
		return p, true
	}
	if r.Outside == "drop" {
		return p, false
	}
	if p < r.Low {
		return p + 12*((r.Low-p+11)/12), true
	}
	return p - 12*((p-r.High+11)/12), true
}

// Ranger keeps the pitches of a lane in its range, and counts those that were outside.
type Ranger struct {
	own  *piece.Range
	most int
	seen [2]uint64 // the pitches that were outside, a bit each
}

// RangeOf is what keeps a lane's pitches.
func RangeOf(lane *piece.Lane) Ranger { return Ranger{own: lane.Range} }

// Keep is a pitch brought into the range; false: it is left out.
func (r *Ranger) Keep(p uint8) (uint8, bool) {
	kept, ok := Keep(r.own, int(p))
	if kept != int(p) || !ok {
		r.most++
		r.seen[p/64] |= 1 << (p % 64)
	}
	return uint8(kept), ok
}

// KeepAll keeps pitches that sound together: sorted, each once, those left out gone. The
// list itself is left alone.
func (r *Ranger) KeepAll(pitches []uint8) []uint8 {
	if r.own == nil {
		return pitches
	}
	out := make([]uint8, 0, len(pitches))
	for _, p := range pitches {
		if kept, ok := r.Keep(p); ok {
			out = append(out, kept)
		}
	}
	return sortedOnce(out)
}

// Mark notes in a part how many pitches were outside.
func (r *Ranger) Mark(part *Part) {
	if r.most == 0 {
		return
	}
	part.mark(Mark{OutsideRange, 0, r.most})
	for p := range uint8(128) {
		if r.seen[p/64]>>(p%64)&1 == 1 {
			part.Outside = append(part.Outside, p)
		}
	}
}

// Ranged tells of a pitch that a range moved.
func Ranged(out []Reason, lane *piece.Lane, key pitch.Key, from int) []Reason {
	if kept, ok := Keep(lane.Range, from); ok && kept != from {
		return append(out, Reason{Rule: "range", From: key.Named(from), To: key.Named(kept)})
	}
	return out
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

// Rests tells whether a slot draws a rest.
func (p *Pattern) Rests(s *Slot) bool {
	odd := p.drawn(s)
	return odd != nil && odd.Rest
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
		switch {
		case p.Moves(f),
			f == Velocity && lucky(func(o *piece.Odd) bool { return o.Velocity != nil }),
			f == Gate && lucky(func(o *piece.Odd) bool { return o.Gate != nil }),
			f == Ratchet && lucky(func(o *piece.Odd) bool { return o.Ratchet != nil }):
			out = append(out, f)
		}
	}
	return out
}

// Comes is what a field comes to in a slot, own being what its step says.
func (p *Pattern) Comes(f Field, s *Slot, own int) int {
	switch f {
	case Velocity:
		return int(s.Velocity)
	case Gate:
		return int(s.Gate)
	case Ratchet:
		return int(s.Ratchet)
	case Nudge:
		return int(s.Nudge)
	}
	return p.Moved(f, s, own)
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
		for i := range p.craft.movers[f] {
			m := &p.craft.movers[f][i]
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
	for _, f := range []Field{Velocity, Gate, Ratchet, Nudge} {
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
