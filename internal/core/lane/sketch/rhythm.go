package sketch

import (
	"math"
	"slices"
	"strings"

	"agrimony/internal/core/beat"
)

// parts are the equal parts of a form: part k is cells [k*length, (k+1)*length), and model is the first
// part with its letter.
type parts struct {
	length int
	model  []int
}

func (g *ground) parts(form string) parts {
	if form == "" {
		return parts{len(g.cells), []int{0}}
	}
	out := parts{length: len(g.cells) / len(form)}
	for k := range form {
		out.model = append(out.model, strings.IndexByte(form, form[k]))
	}
	return out
}

// repeats tells whether a letter comes twice.
func (p parts) repeats() bool {
	for k, m := range p.model {
		if m != k {
			return true
		}
	}
	return false
}

// of is the part of a cell.
func (p parts) of(i int) int { return i / p.length }

// like is the cell that a cell is to be equal to: itself in the first part with its letter.
func (p parts) like(i int) int { return p.model[p.of(i)]*p.length + i%p.length }

// ahead is the pull of steps that sound before any other, and breath by how much those have less that are to be rests.
const (
	ahead  = 1e9
	breath = 4
)

// low reports whether a line is low enough, and on the beats enough, to say where chords begin.
func (g *ground) low(d *drawn) bool { return g.own.Octave < tuneful && d.lean >= 0 }

// downbeats are the cells that sound where a chord begins with a bar, of a low line, and those of the first part with the
// letter of such a one's part.
func (g *ground) downbeats(d *drawn, form parts) []bool {
	out := make([]bool, len(g.cells))
	if !g.low(d) {
		return out
	}
	for i := range g.cells {
		if g.cells[i].begins {
			out[i], out[form.like(i)] = true, true
		}
	}
	return out
}

// eighth is the length of an eighth note.
const eighth = beat.Quarter / 2

// phrase is after how many bars a line takes a breath.
const phrase = 4

// breathes reports whether a cell lies in the last eighth of every fourth bar.
func (g *ground) breathes(i int) bool {
	c := &g.cells[i]
	bar := g.scene.Piece.Bar()
	return c.bar%phrase == phrase-1 && c.place >= bar-eighth
}

// rhythm decides which cells sound: of each part the share that the dial says, those first that stand
// where it leans to. Cells at one place of the bar tend to be alike, so that bars are heard as related.
func (g *ground) rhythm(d *drawn, form parts, luck *luck) []bool {
	n := len(g.cells)
	on := make([]bool, n)
	pickup := min(d.pickup, form.length-1)
	lean := float64(d.lean) / 100
	loose := 1 - 0.75*lean*lean*lean*lean // what leans all the way is hardly drawn
	gumbel := func() float64 { return -math.Log(-math.Log(luck.unit())) }
	places := map[beat.Time]float64{}
	begins := g.downbeats(d, form)
	for k, model := range form.model {
		from := k * form.length
		if model != k {
			copy(on[from:from+form.length], on[model*form.length:])
			continue
		}
		last := slices.Contains(form.model[len(form.model)-1:], model)
		pull := make([]float64, form.length)
		var order []int
		needed := 0 // so many sound whatever their share
		for i := range form.length {
			c := &g.cells[from+i]
			if _, known := places[c.place]; !known {
				places[c.place] = gumbel()
			}
			pull[i] = 1.6*lean*(2*c.weight-1) + loose*(0.8*places[c.place]+0.45*gumbel())
			if c.strong {
				pull[i] += 0.35 * lean
			}
			switch {
			case k == 0 && i < pickup: // silent
				continue
			case k == 0 && i == pickup: // exactly so many are silent
				pull[i] = math.Inf(1)
				needed++
			}
			if begins[from+i] && !math.IsInf(pull[i], 1) {
				pull[i] = ahead
			}
			if g.breathes(from+i) && pull[i] < ahead {
				pull[i] -= breath
			}
			order = append(order, i)
		}
		byPull := func(a, b int) int {
			if pull[a] != pull[b] {
				if pull[a] > pull[b] {
					return -1
				}
				return 1
			}
			return a - b
		}
		if last && pickup > 0 { // one of the last leads into its start
			tail := slices.DeleteFunc(slices.Clone(order), func(i int) bool { return i < form.length-pickup })
			if len(tail) > 0 {
				if first := slices.MinFunc(tail, byPull); !math.IsInf(pull[first], 1) {
					pull[first] = math.Inf(1)
					needed++
				}
			}
		}
		slices.SortFunc(order, byPull)
		for _, i := range order[:min(max(share(d.full, form.length), needed, 1), len(order))] {
			on[from+i] = true
		}
	}
	return on
}
