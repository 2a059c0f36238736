package render

import (
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
	certain bool          // chance is left alone
	places  []pitch.Place // of the steps, where anything moves them; nil: nothing does
	odds    []piece.Odd
	tickets []int8  // as many of each of the odds as it weighs
	seeds   []draws // what the draws of a step's alternatives begin with
	clamped uint32  // a bit for each field
}

// mover is a modulator made ready.
type mover struct {
	*piece.Modulator
	index     int
	every     beat.Time
	low, high int
	free      bool // nothing clamps it: it runs on into other octaves
	draws     draws
	shape     func(m *mover, at float64) float64
	ends      func(m *mover, period int64) (from, to float64) // nil: it is not drawn

	// Of steps on a grid that begins with the clip, what it gives is worked out once for
	// each place in its period.
	step   beat.Time
	places beat.Time // how many there are; 0: too many, or it is drawn
	known  []int16
}

// mostKnown is how many places of a period are worked out at once.
const mostKnown = 4096

// craftOf makes a lane's modulators and odds ready; nil where it has none.
func craftOf(p *piece.Piece, lane *piece.Lane, own draws, step beat.Time) *craft {
	if len(lane.Modulators) == 0 && len(lane.Odds) == 0 {
		return nil
	}
	out := &craft{odds: lane.Odds}
	weight := 0
	for i := range lane.Odds {
		weight += lane.Odds[i].Weight
	}
	if weight > 0 {
		out.tickets = make([]int8, 0, weight)
		for i := range lane.Odds {
			for range lane.Odds[i].Weight {
				out.tickets = append(out.tickets, int8(i))
			}
		}
		out.seeds = make([]draws, lane.Content.Slots().Len())
		for i := range out.seeds {
			out.seeds[i] = own.of(int32(i), forOdds)
		}
	}
	meter, err := beat.ParseMeter(p.Meter)
	if err != nil {
		panic(err) // a checked piece has a meter
	}
	for i := range lane.Modulators {
		m := mover{Modulator: &lane.Modulators[i], index: i, step: step, shape: shapes[lane.Modulators[i].Shape], ends: drawnShapes[lane.Modulators[i].Shape]}
		if m.every, err = beat.Every(m.Every, meter); err != nil {
			panic(err) // a checked modulator has a period
		}
		if places := m.every / beat.Time(gcd(int64(m.every), int64(step))); places <= mostKnown && m.ends == nil {
			m.places = places
		}
		m.draws = own.of(int32(i), forShape)
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
	if out.shifts() {
		out.places = lane.Places()
	}
	return out
}

// shifts tells whether anything moves degrees or octaves.
func (c *craft) shifts() bool {
	return len(c.movers[Degree]) > 0 || len(c.movers[Octave]) > 0 ||
		slices.ContainsFunc(c.odds, func(o piece.Odd) bool { return o.Degrees != nil || o.Octave != nil })
}

// draw is what a modulator draws for a period, 0..1.
func (m *mover) draw(period int64) float64 {
	return share(mix(m.draws.in(int32(period)) ^ uint64(period)>>32))
}

// drawnShapes are those that go evenly, in each period, from one drawn value to another. To
// add one, add it here and to piece.Shapes.
var drawnShapes = map[string]func(m *mover, period int64) (from, to float64){
	"jump": func(m *mover, period int64) (float64, float64) {
		value := m.draw(period)
		return value, value
	},
	"drift": func(m *mover, period int64) (float64, float64) { return m.draw(period), m.draw(period + 1) },
}

// shapes are the ways of modulators from one end (0) to the other (1); at is the share of
// the period that has passed.
var shapes = map[string]func(m *mover, at float64) float64{
	"sine": func(_ *mover, at float64) float64 { return 0.5 + 0.5*math.Sin(2*math.Pi*at) },
	"triangle": func(_ *mover, at float64) float64 {
		switch {
		case at < 0.25:
			return 0.5 + 2*at
		case at < 0.75:
			return 1.5 - 2*at
		}
		return 2*at - 1.5
	},
	"rise": func(_ *mover, at float64) float64 { return at },
	"fall": func(_ *mover, at float64) float64 { return 1 - at },
	"square": func(_ *mover, at float64) float64 {
		if at < 0.5 {
			return 0
		}
		return 1
	},
	"steps": func(m *mover, at float64) float64 {
		return m.Values[min(int(at*float64(len(m.Values))+1e-9), len(m.Values)-1)] / 100
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

// gives is what a modulator gives in a slot. What it adds to is whole, so that it may be
// rounded before.
func (m *mover) gives(s *Slot) int {
	if k := m.placeOf(s); k >= 0 {
		return int(m.table()[k])
	}
	return halfUp(m.along(s.At))
}

// table is what it gives at each place in its period.
func (m *mover) table() []int16 {
	if m.known == nil {
		m.known = make([]int16, m.places)
		for i := range m.known {
			m.known[i] = int16(halfUp(m.along(beat.Time(i) * m.step)))
		}
	}
	return m.known
}

// along works out what it gives at a time.
func (m *mover) along(at beat.Time) float64 {
	return m.in(m.position(at))
}

// position is the period in which a time lies, and how far within it, in hundredths of a
// tick, so that a phase is exact.
func (m *mover) position(at beat.Time) (period int64, within beat.Time) {
	whole := 100 * m.every
	position := 100*at + beat.Time(m.Phase)*m.every
	if within = position % whole; within < 0 {
		within += whole
	}
	return int64((position - within) / whole), within
}

// in works out what it gives at a position.
func (m *mover) in(period int64, within beat.Time) float64 {
	if m.ends == nil {
		return m.at(m.shape(m, m.share(within)))
	}
	from, to := m.ends(m, period)
	return m.at(from + (to-from)*m.share(within))
}

// share is the share of the period that has passed, and at what it gives so far on its way
// from one end to the other.
func (m *mover) share(within beat.Time) float64 { return float64(within) / float64(100*m.every) }
func (m *mover) at(way float64) float64         { return float64(m.From) + float64(m.To-m.From)*way }

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
		gives := m.gives(s)
		if m.Way == "add" {
			gives += own
		}
		own = gives
		if kept := min(max(own, m.low), m.high); kept != own && !m.free {
			own = kept
			c.clamped |= 1 << f
		}
	}
	return own
}

// shared are the fields that slots have values of.
var shared = [...]Field{Velocity, Gate, Ratchet, Nudge}

// move moves the values of slots that follow each other: by modulators first, then by luck.
func (p *Pattern) move(slots []Slot) {
	if p.craft == nil || len(slots) == 0 {
		return
	}
	if movers := p.craft.movers[Chance]; len(movers) > 0 && !p.craft.certain {
		for i := range slots {
			s := &slots[i]
			cell := p.cells[s.Step]
			s.Sounds = cell.On && plays(cell, p.craft.moved(Chance, s, cell.Chance), p.draws, s.Step, s.Round)
		}
	}
	for _, f := range shared {
		p.craft.moveAll(f, slots)
	}
	if p.craft.places != nil {
		for i := range slots {
			at := &p.craft.places[slots[i].Step]
			slots[i].Degree, slots[i].Octave = int16(at.Degree), int8(at.Octave)
		}
		p.craft.moveAll(Degree, slots)
		p.craft.moveAll(Octave, slots)
	}
	if len(p.craft.tickets) > 0 {
		p.takeLuck(slots)
	}
}

// movedAtOnce is how many slots are moved together: few enough to be at hand still.
const movedAtOnce = 128

// column is the values of a field in slots that follow each other.
type column [movedAtOnce]int16

// moveAll moves a field of slots that follow each other, movedAtOnce at most, by all
// modulators on it, each rounded and clamped before the next.
func (c *craft) moveAll(f Field, slots []Slot) {
	if len(c.movers[f]) == 0 {
		return
	}
	var values column
	own := values[:len(slots)]
	f.load(own, slots)
	for i := range c.movers[f] {
		if c.movers[f][i].move(own, slots) {
			c.clamped |= 1 << f
		}
	}
	f.store(own, slots)
}

// move moves the values of slots that follow each other, and tells whether any was clamped.
func (m *mover) move(values []int16, slots []Slot) (clamped bool) {
	var given column
	gives := given[:len(values)]
	m.fill(gives, slots)
	if m.Way == "add" {
		for i, own := range values {
			gives[i] += own
		}
	}
	if m.free {
		copy(values, gives)
		return false
	}
	low, high := int16(m.low), int16(m.high)
	for i, value := range gives {
		kept := min(max(value, low), high)
		clamped = clamped || kept != value
		values[i] = kept
	}
	return clamped
}

// fill gives what a modulator gives in slots that follow each other.
func (m *mover) fill(gives []int16, slots []Slot) {
	k := m.placeOf(&slots[0])
	switch {
	case slots[0].place == 0: // they are not on one grid
		for i := range gives {
			gives[i] = int16(m.gives(&slots[i]))
		}
	case k >= 0:
		table := m.table()
		for n := 0; n < len(gives); k = 0 {
			n += copy(gives[n:], table[k:])
		}
	case m.ends != nil:
		m.drawAlong(gives, slots[0].At)
	default:
		for i := range gives {
			gives[i] = int16(m.gives(&slots[i]))
		}
	}
}

// load and store bring the values of a field that slots have out of them, and back.
func (f Field) load(values []int16, slots []Slot) {
	switch f {
	case Velocity:
		for i := range values {
			values[i] = int16(slots[i].Velocity)
		}
	case Gate:
		for i := range values {
			values[i] = slots[i].Gate
		}
	case Ratchet:
		for i := range values {
			values[i] = int16(slots[i].Ratchet)
		}
	case Nudge:
		for i := range values {
			values[i] = int16(slots[i].Nudge)
		}
	case Degree:
		for i := range values {
			values[i] = slots[i].Degree
		}
	case Octave:
		for i := range values {
			values[i] = int16(slots[i].Octave)
		}
	}
}

func (f Field) store(values []int16, slots []Slot) {
	slots = slots[:len(values)]
	switch f {
	case Velocity:
		for i, value := range values {
			slots[i].Velocity = uint8(value)
		}
	case Gate:
		for i, value := range values {
			slots[i].Gate = value
		}
	case Ratchet:
		for i, value := range values {
			slots[i].Ratchet = uint8(value)
		}
	case Nudge:
		for i, value := range values {
			slots[i].Nudge = int8(value)
		}
	case Degree:
		for i, value := range values {
			slots[i].Degree = value
		}
	case Octave:
		for i, value := range values {
			slots[i].Octave = int8(value)
		}
	}
}

// drawAlong gives what a modulator that is drawn gives in slots on a grid from a time on: it
// draws once a period, where gives does for each slot.
func (m *mover) drawAlong(gives []int16, at beat.Time) {
	step, whole := 100*m.step, 100*m.every
	period, within := m.position(at)
	for i := 0; i < len(gives); {
		from, to := m.ends(m, period)
		last := min(i+int((whole-within+step-1)/step), len(gives))
		still := int16(halfUp(m.at(from)))
		for ; i < last; i++ {
			if gives[i] = still; from != to {
				gives[i] = int16(halfUp(m.at(from + (to-from)*m.share(within))))
			}
			within += step
		}
		period, within = period+int64(within/whole), within%whole
	}
}

// value is that of a field that all slots have.
func (s *Slot) value(f Field) int {
	var value [1]int16
	f.load(value[:], []Slot{*s})
	return int(value[0])
}

// certain leaves chance and luck out.
func (p *Pattern) certain() {
	if p.craft != nil {
		p.craft.certain, p.craft.tickets = true, nil
	}
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
			if m.ends != nil {
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
