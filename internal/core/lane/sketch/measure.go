package sketch

import (
	"slices"

	"agrimony/internal/core/lane/pitched"
	"agrimony/internal/core/piece"
)

// Came is what the dials of a sketch came to.
type Came struct {
	Full     int    `json:"full"`
	Lean     int    `json:"lean"`
	Pickup   int    `json:"pickup"`
	Long     int    `json:"long"`
	Leaps    int    `json:"leaps"`
	Anchor   int    `json:"anchor"`
	Contour  string `json:"contour"`
	Form     string `json:"form,omitempty"`
	Gate     Span   `json:"gate" tstype:"Spanned"`
	Velocity Span   `json:"velocity" tstype:"Spanned"`
	Late     int    `json:"late"`
	Glides   int    `json:"glides"`
}

// tune is a sketch as it sounds in the lane's first round: its sounding cells, and the row of each.
type tune struct {
	g     *ground
	cells []int // in playing order
	rows  []int // rows of the ground; only those of cells count
	hits  []int // by cell, how often it is struck
}

// tuneOf reads the steps of a lane.
func (g *ground) tuneOf(steps []piece.LineStep) *tune {
	t := &tune{g: g, rows: make([]int, len(g.cells)), hits: make([]int, len(g.cells))}
	for i := range g.cells {
		s := &steps[g.cells[i].step]
		t.hits[i] = max(s.Ratchet, 1)
		t.rows[i] = g.rowOf(&g.cells[i], s)
	}
	for _, i := range g.slots {
		if steps[g.cells[i].step].On {
			t.cells = append(t.cells, i)
		}
	}
	return t
}

// rowOf is the row that a step sounds on, or that is nearest to its pitch.
func (g *ground) rowOf(c *cell, s *piece.LineStep) int {
	p := int(pitched.At(&g.own.Pitched, g.key, c.chord, s.Place()).Pitch)
	best := 0
	for j := range g.rows {
		if abs(g.rows[j]-p) < abs(g.rows[best]-p) {
			best = j
		}
	}
	return best
}

// leap is from how many rows on a move counts as one: wider than two scale steps.
const leap = 3

// wide tells whether a move is wider than a fifth, and back whether one turns back by at most a third.
func (g *ground) wide(from, to int) bool {
	if g.key.Size() == 7 {
		return abs(to-from) > 4
	}
	return abs(g.rows[to]-g.rows[from]) > 7
}

func (g *ground) third(from, to int) bool {
	if g.key.Size() == 7 {
		return abs(to-from) <= 2
	}
	return abs(g.rows[to]-g.rows[from]) <= 4
}

func sign(n int) int { return min(max(n, -1), 1) }

// faults are what a tune misses, in the order in which it matters.
type faults [10]int

// faults counts them against what the dials ask for.
func (t *tune) faults(d *drawn, form parts) faults {
	out, _ := t.missing(d, form)
	return out
}

// missing is the same, with how far the tune is from its course.
func (t *tune) missing(d *drawn, form parts) (out faults, off float64) {
	g, n := t.g, len(t.cells)
	if n == 0 {
		return out, 0
	}
	first, last := t.cells[0], t.cells[n-1]
	if !g.home(first, t.rows[first]) {
		out[0] = 1
	}
	if n > 1 && !g.leads(t.rows[last], t.rows[first]) {
		out[1] = 1
	}
	out[2] = t.fives()
	if d.leaps == 0 && !g.locked {
		out[3], _ = t.leaps()
	}
	out[3] += t.rootless(d)
	out[4] = t.formless(form)
	if off = t.off(d.contour); off > 0 {
		out[5] = 1
	}
	_, _, out[7] = t.anchored()
	out[8] = t.unturned()
	out[6], out[9] = t.shares(d, form)
	if g.locked {
		out[6], out[7], out[8], out[9] = 0, 0, 0, 0
	}
	return out, off
}

// shares counts by how many, part by part, tones and leaps are off what the dials ask for. The first note
// is a tone whatever they say.
func (t *tune) shares(d *drawn, form parts) (tones, leaps int) {
	type count struct{ tones, strong, sure, leaps, moves int }
	of := make([]count, len(form.model))
	for k, i := range t.cells {
		c := &of[form.of(i)]
		if t.g.cells[i].strong {
			c.strong++
			if k == 0 {
				c.sure = 1
			}
			if t.g.cells[i].tone[t.rows[i]] {
				c.tones++
			}
		}
		if k+1 < len(t.cells) {
			c.moves++
			if abs(t.rows[t.cells[k+1]]-t.rows[i]) >= leap {
				c.leaps++
			}
		}
	}
	for _, c := range of {
		tones += abs(c.tones - max(share(d.anchor, c.strong), c.sure))
		leaps += abs(c.leaps - share(d.leaps, c.moves))
	}
	return tones, leaps
}

// faint tells whether only shares are missed.
func (f faults) faint() bool { return f == faults{6: f[6], 9: f[9]} }

// less tells which of two misses less.
func (f faults) less(than faults) bool { return slices.Compare(f[:], than[:]) < 0 }

// rootless counts the bars that begin with a chord and whose first note is not its root, in a low line.
func (t *tune) rootless(d *drawn) (out int) {
	if !t.g.low(d) {
		return 0
	}
	for _, i := range t.cells {
		if t.g.cells[i].begins && t.g.hasRoot(i) && !t.g.rooted(i, t.rows[i]) {
			out++
		}
	}
	return out
}

// leads tells whether a row leads back to another over the seam.
func (g *ground) leads(end, start int) bool {
	return pitched.Leads(g.key, g.own.Octave, g.rows[end], g.rows[start])
}

// fives counts the strikes that are fifth or later of one pitch running, round the loop.
func (t *tune) fives() int {
	n := len(t.cells)
	same := true
	for k := 1; k < n; k++ {
		same = same && t.rows[t.cells[k]] == t.rows[t.cells[0]]
	}
	if same {
		return 0
	}
	start := 0 // where the pitch changes
	for t.rows[t.cells[start]] == t.rows[t.cells[(start+n-1)%n]] {
		start++
	}
	run, over := 0, 0
	for k := range n {
		i, before := t.cells[(start+k)%n], t.cells[(start+k+n-1)%n]
		if k == 0 || t.rows[i] != t.rows[before] {
			run = 0
		}
		run += t.hits[i]
		over += min(max(run-4, 0), t.hits[i])
	}
	return over
}

// leaps counts moves, and those wider than two scale steps. The way back is none.
func (t *tune) leaps() (leaps, moves int) {
	for k := 1; k < len(t.cells); k++ {
		if abs(t.rows[t.cells[k]]-t.rows[t.cells[k-1]]) >= leap {
			leaps++
		}
	}
	return leaps, max(len(t.cells)-1, 0)
}

// anchored counts the notes on strong beats, those that are tones of the chord, and the others that do
// not move by step into one.
func (t *tune) anchored() (tones, strong, astray int) {
	for k, i := range t.cells {
		c := &t.g.cells[i]
		if !c.strong {
			continue
		}
		strong++
		if c.tone[t.rows[i]] {
			tones++
			continue
		}
		to := t.cells[(k+1)%len(t.cells)]
		if abs(t.rows[to]-t.rows[i]) != 1 || !t.g.cells[to].tone[t.rows[to]] {
			astray++
		}
	}
	return tones, strong, astray
}

// unturned counts the moves wider than a fifth after which the next does not turn back by at most a third.
func (t *tune) unturned() (out int) {
	for k := 1; k < len(t.cells); k++ {
		a, b := t.rows[t.cells[k-1]], t.rows[t.cells[k]]
		c := t.rows[t.cells[(k+1)%len(t.cells)]]
		if t.g.wide(a, b) && (sign(c-b) != -sign(b-a) || !t.g.third(b, c)) {
			out++
		}
	}
	return out
}

// formless counts the cells that are not equal to what their letter asks for, the last two sounding ones
// left out: on one harmony the same row, else as far from the chord's root.
func (t *tune) formless(form parts) (out int) {
	spared := t.cells[max(len(t.cells)-2, 0):]
	for _, i := range t.cells {
		like := form.like(i)
		if like != i && !slices.Contains(spared, i) && !slices.Contains(spared, like) && t.g.moved(i, t.rows[i]) != t.g.moved(like, t.rows[like]) {
			out++
		}
	}
	return out
}

// moved is how a row stands to what a form counts from: over a harmony its steps over the chord's root,
// in whatever octave, else the row.
func (g *ground) moved(i, row int) int {
	if !g.chords {
		return g.octave[row]
	}
	size := g.key.Size()
	return ((g.octave[row]-g.cells[i].root)%size + size) % size
}

// follows tells whether the means of the four quarters take the course that a contour names, however
// notes are divided that do not divide by four, and counted in steps as in semitones.
func (t *tune) follows(contour string) bool { return t.off(contour) == 0 }

// off tells how far the means of the four quarters are from the course that a contour names, in rows and semitones
// over all ways to divide and to count; 0: they take it.
func (t *tune) off(contour string) (out float64) {
	n := len(t.cells)
	if contour == Contours[0] || n < 4 {
		return 0
	}
	values := make([]float64, n)
	for _, of := range []func(row int) int{func(row int) int { return row }, func(row int) int { return t.g.rows[row] }} {
		for k, i := range t.cells {
			values[k] = float64(of(t.rows[i]))
		}
		for _, rounding := range []int{0, 2, 3} {
			if rounding == 0 || n%4 != 0 { // else all divide alike
				out += course(contour, values, rounding)
			}
		}
	}
	return out
}

// course tells it of one way to divide and to count.
func course(contour string, values []float64, rounding int) float64 {
	n := len(values)
	quarters := func(of func(v float64) float64) (out [4]float64) {
		for q := range 4 {
			from, to := (q*n+rounding)/4, ((q+1)*n+rounding)/4
			if q == 3 {
				to = n
			}
			if to <= from {
				to = from + 1
			}
			for _, x := range values[from:to] {
				out[q] += of(x) / float64(to-from)
			}
		}
		return out
	}
	above := func(a, b float64) float64 { return max(a-b-1e-9, 0) } // by how much one lies over another
	rises := func(m [4]float64) float64 { return above(m[0], m[1]) + above(m[1], m[2]) + above(m[2], m[3]) }
	arch := func(m [4]float64) float64 { return above(max(m[0], m[3]), min(m[1], m[2])) }
	itself := func(v float64) float64 { return v }
	turned := func(v float64) float64 { return -v }
	// The line's middle is its mean pitch, or that of its lowest and its highest: both are heard as it.
	fans := func(way float64) (out float64) {
		mean := 0.0
		for _, x := range values {
			mean += x / float64(n)
		}
		for _, middle := range []float64{mean, (slices.Min(values) + slices.Max(values)) / 2} {
			out += rises(quarters(func(v float64) float64 { return way * max(v-middle, middle-v) }))
		}
		return out
	}
	switch contour {
	case "rise":
		return rises(quarters(itself))
	case "fall":
		return rises(quarters(turned))
	case "arch":
		return arch(quarters(itself))
	case "bowl":
		return arch(quarters(turned))
	case "fan":
		return fans(1)
	case "gather":
		return fans(-1)
	}
	return 0
}

// percent is a share in %, rounded half up; of nothing the share that was asked for.
func percent(part, of, asked int) int {
	if of == 0 {
		return asked
	}
	return (200*part + of) / (2 * of)
}

// came tells what the dials came to in the steps of a sketch.
func (g *ground) came(steps []piece.LineStep, d *drawn) Came {
	t := g.tuneOf(steps)
	sounding, pickup := 0, -1
	for i := range g.cells {
		if steps[g.cells[i].step].On {
			if sounding++; pickup < 0 {
				pickup = i
			}
		}
	}
	leaps, moves := t.leaps()
	tones, strong, _ := t.anchored()
	held, long := g.held(steps)
	glides := 0
	for k := 1; k < len(t.cells); k++ {
		i := t.cells[k]
		if steps[g.cells[i].step].Glide != nil && t.rows[i] != t.rows[t.cells[k-1]] { // into the same pitch nothing glides
			glides++
		}
	}
	out := Came{
		Full: percent(sounding, len(g.cells), d.full), Lean: d.lean, Pickup: max(pickup, 0), Long: percent(held, long, d.long),
		Leaps: percent(leaps, moves, d.leaps), Anchor: percent(tones, strong, d.anchor), Contour: d.contour, Form: d.form,
		Gate: d.gate, Velocity: d.velocity, Late: d.late, Glides: percent(glides, moves, d.glides),
	}
	if !t.follows(d.contour) {
		out.Contour = Contours[0]
	}
	return out
}
