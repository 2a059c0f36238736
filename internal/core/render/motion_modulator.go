package render

import (
	"math"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/piece"
)

// mover is a modulator made ready.
type mover struct {
	*piece.Modulator
	index     int
	every     beat.Time
	low, high int
	whole     float64 // the period in hundredths of a Time
	from      float64 // where it begins, and how far it goes
	width     float64
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

// moverOf makes a lane's modulator, by its place in the list, ready; it is on a field.
// What it draws depends on its place among those that act, so that one that is off is as if it were not there.
func moverOf(lane *piece.Lane, index int, on Field, own draws, step beat.Time, meter beat.Meter) mover {
	place := int32(0)
	for i := range index {
		if lane.Acts(i) {
			place++
		}
	}
	m := mover{Modulator: &lane.Modulators[index], index: index, step: step, free: on == Degree, draws: own.of(place, forShape)}
	m.shape, m.ends = shapes[m.Shape], drawnShapes[m.Shape]
	var err error
	if m.every, err = beat.Every(m.Every, meter); err != nil {
		panic(err) // a checked modulator has a period
	}
	m.whole, m.from, m.width = float64(100*m.every), float64(m.From), float64(m.To-m.From)
	if places := m.every / beat.Time(gcd(int64(m.every), int64(step))); places <= mostKnown && m.ends == nil {
		m.places = places
	}
	for _, move := range lane.Moves() {
		if move.Name == m.On {
			m.low, m.high = move.Low, move.High
		}
	}
	return m
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
func (m *mover) share(within beat.Time) float64 { return float64(within) / m.whole }
func (m *mover) at(way float64) float64         { return m.from + m.width*way }

// halfUp rounds half up, forgiving what floating point loses on the way.
func halfUp(x float64) int {
	x += 0.5 + 1e-9 // a hair below the middle is the middle
	whole := int(x)
	if float64(whole) > x {
		whole--
	}
	return whole
}
