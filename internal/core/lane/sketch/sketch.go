// Package sketch proposes steps for a line by chance, from a few dials. A proposal is made of its
// request and its seed alone, so that the same request always gives the same ones. What a sketch has to
// keep to, and in which order where two things meet, stands in docs/rules.md under Sketches; dials are
// in percent unless they say otherwise.
//
// A sketch is made in the order of its fields: which steps sound (rhythm.go), on which notes
// (melody.go, by the cheapest way through all notes that could be), how long, how hard, how late
// (touch.go). What it came to is measured on what it became (measure.go).
package sketch

import (
	"agrimony/internal/core/budget"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// Sketch is one proposal.
type Sketch struct {
	Seed    int              `json:"seed"`
	Dials   Came             `json:"dials"` // what they came to
	Steps   []piece.LineStep `json:"-"`     // all of the lane's, in a line
	Notes   []piece.FreeNote `json:"-"`     // in a lane of free notes
	Differs int              `json:"differs"`
}

// Scene is where sketches are made: a lane in its clip.
type Scene struct {
	Piece  *piece.Piece
	Clip   *piece.Clip
	Lane   *piece.Lane
	Budget *budget.Budget
	Kinds  render.Lookup
}

// Make gives the sketches that a request asks for of a lane. Errors name the field of the request
// that is wrong, and what is allowed, or are those of the scene's budget.
func Make(scene Scene, r *Request) (out []Sketch, err error) {
	defer budget.Catch(&err)
	dials, err := r.dials()
	if err != nil {
		return nil, err
	}
	g, err := survey(scene, r)
	if err != nil {
		return nil, err
	}
	if err := dials.fit(g); err != nil {
		return nil, err
	}
	out = make([]Sketch, 0, r.Count)
	for k := 0; k < r.Count; k++ {
		out = append(out, next(g, r, dials, out))
	}
	return out, nil
}

// mostTries is how many seeds are tried for a sketch that differs from those before it.
const mostTries = 12

// next makes the next sketch: the first has the request's own seed, the others the next seed of the row
// with which they differ from all before.
func next(g *ground, r *Request, dials *spans, before []Sketch) Sketch {
	if len(before) == 0 {
		return one(g, r, dials, r.Seed)
	}
	from := uint64(r.Seed)
	if k := len(before); k > 1 {
		from = uint64(before[k-1].Seed)
	}
	var best Sketch
	most := -1
	for range mostTries {
		from = mix(from ^ 0x5eed)
		seed := int(from >> 22) // 42 bits: whole in any reader of JSON
		made := one(g, r, dials, seed)
		least := len(g.cells)
		for i := range before {
			least = min(least, g.apart(made.Steps, before[i].Steps))
		}
		if least > most {
			best, most = made, least
		}
		if 5*least >= len(g.cells) {
			break
		}
	}
	return best
}

// one makes the sketch of a seed.
func one(g *ground, r *Request, dials *spans, seed int) Sketch {
	g.scene.Budget.Spend(int64(len(g.cells)) * 8)
	luck := &luck{uint64(seed)}
	drawn := dials.draw(luck)
	steps, came := g.sketch(r, drawn, luck)
	out := Sketch{Seed: seed, Dials: came, Steps: steps, Differs: g.differs(steps)}
	if g.free {
		out.Notes = g.notes(steps)
	}
	return out
}

// luck gives random numbers, in order: SplitMix64 (Steele, Lea and Flood 2014).
type luck struct{ state uint64 }

func mix(z uint64) uint64 {
	z += 0x9e3779b97f4a7c15
	z = (z ^ z>>30) * 0xbf58476d1ce4e5b9
	z = (z ^ z>>27) * 0x94d049bb133111eb
	return z ^ z>>31
}

func (l *luck) next() uint64 {
	l.state += 0x9e3779b97f4a7c15
	return mix(l.state)
}

// under is a whole number from 0 up to, and without, n.
func (l *luck) under(n int) int {
	if n <= 1 {
		return 0
	}
	return int(l.next() % uint64(n))
}

// between is a whole number from low to high, both included.
func (l *luck) between(low, high int) int { return low + l.under(high-low+1) }

// unit is from 0 to 1, without both.
func (l *luck) unit() float64 { return (float64(l.next()>>11) + 0.5) / (1 << 53) }

// some picks so many of a list, each once, in the list's order.
func (l *luck) some(of []int, count int) map[int]bool {
	all := append([]int{}, of...)
	out := map[int]bool{}
	for range min(count, len(all)) {
		k := l.under(len(all))
		out[all[k]] = true
		all = append(all[:k], all[k+1:]...)
	}
	return out
}

// share is so many percent of a count, rounded half up.
func share(percent, count int) int { return (percent*count*2 + 100) / 200 }
