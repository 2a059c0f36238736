package render

import (
	"math"

	"agrimony/internal/core/beat"
)

// shared are the fields that slots have values of.
var shared = [...]Field{Velocity, Gate, Ratchet, Nudge}

// move moves the values of slots that follow each other: by modulators first, then by luck.
func (p *Pattern) move(slots []Slot) {
	if p.craft == nil || len(slots) == 0 {
		return
	}
	p.prepare()
	if movers := p.craft.on(Chance); len(movers) > 0 && !p.craft.certain {
		for i := range slots {
			s := &slots[i]
			cell := p.cells[s.Step]
			s.Sounds = cell.On && plays(cell, p.craft.moved(Chance, s, cell.Chance), p.draws, p.drawnAs(s.Step), s.Round)
		}
	}
	for _, f := range shared {
		p.craft.moveAll(f, slots)
	}
	if p.craft.shifting {
		p.craft.movePlaces(slots)
	}
	if len(p.craft.tickets) > 0 {
		p.takeLuck(slots)
	}
}

// movedAtOnce is how many slots are moved together: few enough to be at hand still.
const movedAtOnce = 128

// grownAtOnce is for how many slots, at most, there is made room before they come.
const grownAtOnce = 1 << 16

// column is the values of a field in slots that follow each other.
type column [movedAtOnce]int16

// moveAll moves a shared field of slots that follow each other, movedAtOnce at most.
func (c *craft) moveAll(f Field, slots []Slot) {
	if len(c.on(f)) == 0 {
		return
	}
	var values column
	own := values[:len(slots)]
	if c.on(f)[0].Way == "add" {
		f.load(own, slots)
	}
	c.moveValues(f, own, slots)
	f.store(own, slots)
}

// movePlaces moves where the steps of such slots stand.
func (c *craft) movePlaces(slots []Slot) {
	var degree, octave column
	degrees, octaves := degree[:len(slots)], octave[:len(slots)]
	for i := range slots {
		at := c.places[slots[i].Step]
		degrees[i], octaves[i] = at.degree, int16(at.octave)
	}
	c.moveValues(Degree, degrees, slots)
	c.moveValues(Octave, octaves, slots)
	for i := range slots {
		slots[i].Degree, slots[i].Octave = degrees[i], int8(octaves[i])
	}
}

// moveValues moves a field's values by all modulators on it, each rounded and clamped before
// the next.
func (c *craft) moveValues(f Field, values []int16, slots []Slot) {
	movers := c.on(f)
	for i := range movers {
		if movers[i].move(values, slots) {
			c.clamped |= 1 << f
		}
	}
}

// move moves the values of slots that follow each other, and tells whether any was clamped.
func (m *mover) move(values []int16, slots []Slot) (clamped bool) {
	if m.Way == "set" { // both its ends are within the range
		m.fill(values, slots)
		return false
	}
	var given column
	gives := given[:len(values)]
	m.fill(gives, slots)
	low, high := int16(m.low), int16(m.high)
	if m.free {
		low, high = math.MinInt16, math.MaxInt16
	}
	for i, by := range gives {
		value := values[i] + by
		kept := min(max(value, low), high)
		clamped = clamped || kept != value
		values[i] = kept
	}
	return clamped
}

// fill gives what a modulator gives in slots that follow each other.
func (m *mover) fill(gives []int16, slots []Slot) {
	k, onGrid := m.placeOf(&slots[0]), slots[0].place > 0
	switch {
	case onGrid && k >= 0:
		table := m.table()
		for n := 0; n < len(gives); k = 0 {
			n += copy(gives[n:], table[k:])
		}
	case onGrid && m.ends != nil:
		m.drawAlong(gives, slots[0].At)
	default:
		for i := range gives {
			gives[i] = int16(m.gives(&slots[i]))
		}
	}
}

// load and store bring the values of a shared field out of slots, and back.
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
	}
}

// drawAlong gives what a modulator that is drawn gives in slots on a grid from a time on: it
// draws once a period, where gives does for each slot.
func (m *mover) drawAlong(gives []int16, at beat.Time) {
	step, whole := 100*m.step, 100*m.every
	period, within := m.position(at)
	from, to := m.ends(m, period)
	for i := range gives {
		gives[i] = int16(halfUp(m.at(from + (to-from)*m.share(within))))
		if within += step; within >= whole {
			for ; within >= whole; within -= whole {
				period++
			}
			from, to = m.ends(m, period)
		}
	}
}

// value is that of a field that all slots have.
func (s *Slot) value(f Field) int {
	var value [1]int16
	f.load(value[:], []Slot{*s})
	return int(value[0])
}
