package sketch

import (
	"math"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/pitch"
)

// taste is by how much a note on a row is liked less: what is drawn for its place in the bar, so that
// bars are alike, for itself, and how far it is from where the line keeps.
func (g *ground) taste(a *asks, luck *luck) func(k, row int) int {
	width := len(g.rows)
	middle := float64(width) * (0.12 + 0.3*luck.unit()) // a bass keeps low
	if g.own.Octave >= tuneful {
		middle += 0.15 * float64(width)
	}
	places := map[beat.Time]int{}
	var drawn []int
	row := func(most int) (at int) {
		at = len(drawn)
		for range width {
			drawn = append(drawn, luck.under(most))
		}
		return at
	}
	each := make([]int, len(a.cells))
	for k, i := range a.cells {
		if _, known := places[g.cells[i].place]; !known {
			places[g.cells[i].place] = row(260)
		}
		each[k] = row(240)
	}
	return func(k, row int) int {
		off := float64(row) - middle
		c := &g.cells[a.cells[k]]
		root := 0
		if c.place == 0 && g.own.Octave < tuneful && pitch.Mod(g.octave[row]-c.root, g.key.Size()) != 0 {
			root = rootTaste
		}
		return root + drawn[places[g.cells[a.cells[k]].place]+row] + drawn[each[k]+row] + int(5*off*off)
	}
}

// first chooses where the line begins: at home, where its contour begins, or else near its middle.
func (g *ground) first(a *asks, d *drawn, luck *luck) int {
	var homes []int
	for row := range g.rows {
		if g.home(a.cells[0], row) && g.cells[a.cells[0]].can[row] {
			homes = append(homes, row)
		}
	}
	if len(homes) == 0 {
		return len(g.rows) / 2
	}
	best, least := homes[0], math.Inf(1)
	for _, row := range homes {
		off := 0.7 * float64(len(g.rows)) * luck.unit()
		if a.route != nil {
			off = 0.4*luck.unit() + math.Min(math.Abs(float64(row)-a.route[0][0]), math.Abs(float64(row)-a.route[0][1]))
		} else {
			off += math.Abs(float64(row) - 0.3*float64(len(g.rows)))
		}
		if off < least {
			best, least = row, off
		}
	}
	return best
}

// route is the course that a contour takes over the rows, for so many notes; nil: it is free. Where it
// opens or closes, the line goes from side to side as often as it may leap,
// and oftener where that was not enough.
func (g *ground) route(d *drawn, n, tried int) [][2]float64 {
	if d.contour == Contours[0] || n < 2 {
		return nil
	}
	top := float64(len(g.rows) - 1)
	low, high, middle := 0.1*top, 0.9*top, top/2
	leaps := share(d.leaps, n-1)
	turns := min(max(leaps, 4)+3*tried, n)
	// As far as so many moves go, most of them steps.
	reach := float64(n-1) + 2.5*float64(leaps)
	switch d.contour {
	case "rise", "fall":
		high = min(high, low+max(reach, 3))
	case "arch", "bowl":
		high = min(high, low+max(reach/2, 3))
	}
	if d.contour == "fall" || d.contour == "bowl" { // they come down to where the line keeps
		high = max(high, 0.55*top)
		low = max(low, high-max(reach, 3))
	}
	out := make([][2]float64, n)
	for k := range out {
		x := (float64(k) + 0.5) / float64(n)
		arc := math.Sin(math.Pi * x)
		side := float64(1 - 2*(k*turns/n%2))
		at := middle
		switch d.contour {
		case "rise":
			at = low + (high-low)*x
		case "fall":
			at = high - (high-low)*x
		case "arch":
			at = low + (high-low)*arc
		case "bowl":
			at = high - (high-low)*arc
		case "fan":
			at = middle + side*(high-middle)*x
		case "gather":
			at = middle + side*(high-middle)*(1-x)
		}
		out[k] = [2]float64{at, at}
		if k == 0 && d.contour == "gather" {
			out[k][1] = top - at // it may begin on either side
		}
	}
	return out
}
