package render

import (
	"math"
	"math/big"
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/piece"
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
	certain bool // chance is left alone
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
	drawn     func(period int64) uint64
	shape     func(m *mover, at float64, period int64) float64

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
		m := mover{Modulator: &lane.Modulators[i], index: i, step: step, shape: shapes[lane.Modulators[i].Shape]}
		if m.every, err = beat.Every(m.Every, meter); err != nil {
			panic(err) // a checked modulator has a period
		}
		if places := m.every / beat.Time(gcd(int64(m.every), int64(step))); places <= mostKnown && m.Shape != "jump" && m.Shape != "drift" {
			m.places = places
		}
		m.drawn = func(period int64) uint64 {
			return mix(own.draw(int32(i), int32(period), forShape) ^ uint64(period)>>32)
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
		for i := range p.craft.movers[f] {
			if p.craft.movers[f][i].move(f, slots) {
				p.craft.clamped |= 1 << f
			}
		}
	}
	if len(p.craft.tickets) > 0 {
		p.takeLuck(slots)
	}
}

// move moves a field of slots that follow each other, and tells whether it was clamped.
func (m *mover) move(f Field, slots []Slot) (clamped bool) {
	var table []int16 // nil: each slot is asked for
	k := m.placeOf(&slots[0])
	if k >= 0 && slots[0].place > 0 {
		table = m.table()
	}
	adds := m.Way == "add"
	for i := range slots {
		s := &slots[i]
		var value int
		if table == nil {
			value = m.gives(s)
		} else {
			value = int(table[k])
			if k++; int(k) == len(table) {
				k = 0
			}
		}
		if adds {
			value += s.value(f)
		}
		kept := min(max(value, m.low), m.high)
		clamped = clamped || kept != value
		s.set(f, kept)
	}
	return clamped
}

// value is a shared field's.
func (s *Slot) value(f Field) int {
	switch f {
	case Velocity:
		return int(s.Velocity)
	case Gate:
		return int(s.Gate)
	case Ratchet:
		return int(s.Ratchet)
	}
	return int(s.Nudge)
}

func (s *Slot) set(f Field, value int) {
	switch f {
	case Velocity:
		s.Velocity = uint8(value)
	case Gate:
		s.Gate = int16(value)
	case Ratchet:
		s.Ratchet = uint8(value)
	case Nudge:
		s.Nudge = int8(value)
	}
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
