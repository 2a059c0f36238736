package sketch

import (
	"agrimony/internal/core/budget"
	"reflect"
	"slices"
	"strings"

	"agrimony/internal/core/lane/pitched"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// VaryRequest asks for variations of the steps that a lane has.
type VaryRequest struct {
	Seed    int    `json:"seed"`
	Count   int    `json:"count"`
	Share   int    `json:"share"` // % of the steps that change
	Respect string `json:"respect"`
}

// Varied is one variation: all of the lane's steps.
type Varied struct {
	Seed    int
	Share   int // what it came to
	Lane    piece.Lane
	Differs int // steps that changed
}

// Respects are in what respect a lane is varied.
var Respects = []string{"rhythm", "pitches", "dynamics", "lengths"}

// ReadVary reads a request for variations. Errors name the field and what is allowed.
func ReadVary(data []byte) (*VaryRequest, error) {
	r := &VaryRequest{Seed: 1, Count: 1, Share: 25, Respect: "pitches"}
	if err := readStrictly(data, r); err != nil {
		return nil, err
	}
	return r, r.Check()
}

// Check refuses what is out of range.
func (r *VaryRequest) Check() error {
	switch {
	case r.Seed < 0 || r.Seed > MaxSeed:
		return wrong("seed", "%d is out of range; allowed: 0..%d", r.Seed, int(MaxSeed))
	case r.Count < 1 || r.Count > MostSketches:
		return wrong("count", "%d is out of range; allowed: 1..%d", r.Count, MostSketches)
	case r.Share < 0 || r.Share > 100:
		return wrong("share", "%d is out of range; allowed: 0..100", r.Share)
	case !slices.Contains(Respects, r.Respect):
		return wrong("respect", "%q is not allowed; allowed: %s", r.Respect, strings.Join(Respects, ", "))
	}
	return nil
}

// Vary gives variations of a lane's steps: so many of them change in the respect that is asked for, each
// of those does, and no other. The first and last sounding steps stay.
func Vary(s Scene, r *VaryRequest) (out []Varied, err error) {
	defer budget.Catch(&err)
	if s.Lane.Content.StepList() == nil {
		return nil, wrong("", "%s has no steps of its own; allowed: a lane with steps", s.Lane.Name)
	}
	if s.Lane.Silent() {
		return nil, wrong("", "%s sounds no notes; allowed: a lane with notes", s.Lane.Name)
	}
	if r.Respect == "pitches" && piece.LineOf(s.Lane) == nil {
		return nil, wrong("respect", "the steps of a %s lane have no pitches of their own; allowed: rhythm, dynamics, lengths", s.Lane.Kind)
	}
	active := render.Active(s.Lane)
	if p := render.PatternOf(s.Piece, s.Clip, s.Lane); !p.Shuffles() {
		active = p.Reached()
	}
	var sounding []int32
	for _, i := range active {
		if s.Lane.Content.StepList().Cell(int(i)).On {
			sounding = append(sounding, i)
		}
	}
	of := sounding
	if r.Respect == "rhythm" {
		of = active
	}
	var may []int
	for _, i := range of {
		if len(sounding) == 0 || i != sounding[0] && i != sounding[len(sounding)-1] {
			may = append(may, int(i))
		}
	}
	if len(may) == 0 {
		return nil, wrong("", "%s has no step to vary but its first and its last, which stay; allowed: a lane with more", s.Lane.Name)
	}
	count := min(max(share(r.Share, len(of)), 1), len(may))
	g, err := survey(s, &Request{Keep: "nothing"})
	if err != nil && r.Respect == "pitches" {
		return nil, err
	}
	out = []Varied{}
	seed := r.Seed
	for k := range r.Count {
		if k > 0 {
			seed = int(mix(uint64(seed)^0x5eed) >> 22)
		}
		s.Budget.Spend(int64(s.Lane.Content.StepList().Len()) * 4)
		luck := &luck{uint64(seed)}
		made := s.Lane.Clone()
		chosen := luck.some(may, count)
		changed := 0
		for _, i := range may {
			if chosen[i] && vary(g, &made, i, r.Respect, luck) {
				changed++
			}
		}
		out = append(out, Varied{seed, percent(changed, len(of), r.Share), made, changed})
	}
	return out, nil
}

// vary changes a step; it tells whether it could.
func vary(g *ground, l *piece.Lane, i int, respect string, luck *luck) bool {
	cell := l.Content.StepList().Cell(i)
	was := *cell
	switch respect {
	case "rhythm":
		varyRhythm(cell, luck)
	case "dynamics":
		by := luck.between(8, 26)
		if luck.under(2) == 0 {
			by = -by
		}
		if to := cell.Velocity + by; to < 1 || to > 127 {
			by = -by
		}
		cell.Velocity = min(max(cell.Velocity+by, 1), 127)
	case "lengths":
		if luck.under(4) == 0 {
			cell.Tie = !cell.Tie
		} else {
			by := luck.between(12, 40)
			if cell.Gate-by >= 10 && (luck.under(2) == 0 || cell.Gate+by > 100) {
				by = -by
			}
			cell.Gate = min(max(cell.Gate+by, 1), 400)
		}
	case "pitches":
		return g.shift(&piece.LineOf(l).Steps[i], i, luck)
	}
	return !reflect.DeepEqual(was, *cell)
}

// varyRhythm lets a rest sound, or a note rest, repeat, be late or run on.
func varyRhythm(cell *piece.Cell, luck *luck) {
	if !cell.On {
		cell.On, cell.Tie = true, false
		return
	}
	switch luck.under(5) {
	case 0:
		cell.Ratchet = cell.Ratchet%4 + 1
	case 1:
		by := luck.between(8, 20)
		if cell.Nudge+by > 50 {
			by = -by
		}
		cell.Nudge += by
	case 2:
		cell.Tie = !cell.Tie
	default:
		cell.On, cell.Tie = false, false
	}
}

// shift moves a step by one or two scale steps within the range of what stands there.
func (g *ground) shift(s *piece.LineStep, step int, luck *luck) bool {
	at := slices.IndexFunc(g.cells, func(c cell) bool { return c.step == step })
	if at < 0 {
		return false
	}
	c := &g.cells[at]
	was := s.Place()
	order := []int{1, -1, 2, -2}
	for k := len(order) - 1; k > 0; k-- {
		j := luck.under(k + 1)
		order[k], order[j] = order[j], order[k]
	}
	try := func(by int, within bool) bool {
		place := g.key.Move(was, by)
		place.Alter = was.Alter
		if place == was || pitched.Check(g.key, pitch.Place{Degree: place.Degree, Octave: place.Octave, Alter: place.Alter}) != nil {
			return false
		}
		p := int(pitched.At(&g.own.Pitched, g.key, c.chord, place).Pitch)
		before := int(pitched.At(&g.own.Pitched, g.key, c.chord, was).Pitch)
		if within && (p < g.rows[0] || p > g.rows[len(g.rows)-1] || p == before) {
			return false
		}
		s.SetPlace(place)
		return true
	}
	for _, within := range []bool{true, false} {
		for _, by := range order {
			if try(by, within) {
				return true
			}
		}
	}
	return false
}
