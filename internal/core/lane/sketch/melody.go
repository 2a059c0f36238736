package sketch

// melody finds rows for the sounding cells. Of several draws the one counts that misses least.
func (g *ground) melody(on []bool, strikes []int, d *drawn, form parts, luck *luck) []int {
	a := &asks{none: d.leaps == 0 && !g.locked}
	index := make([]int, len(g.cells)) // of a cell among the notes
	for i := range g.cells {
		if index[i] = -1; on[i] {
			index[i] = len(a.cells)
			a.cells = append(a.cells, i)
			a.strikes = append(a.strikes, strikes[i])
			a.rooted = append(a.rooted, g.low(d) && g.cells[i].begins && g.hasRoot(i))
		}
	}
	a.last = len(a.cells) - 1
	for k := len(g.slots) - 1; k >= 0; k-- {
		if i := g.slots[k]; on[i] {
			a.last = index[i]
			break
		}
	}
	a.route = g.route(d, len(a.cells), 0)
	work := len(a.cells) * len(g.rows) * len(g.rows) * ways
	tries := min(max(1_500_000/max(work, 1), 2), 10)
	if form.repeats() {
		tries = min(tries, 5)
	}
	var best []int
	var least faults
	a.pull = costOffRoute
	for try := range tries {
		rows := g.draw(a, index, d, form, luck)
		f := g.tuneWith(a, rows, strikes).faults(d, form)
		if try == 0 || f.less(least) {
			best, least = rows, f
		}
		// What still misses after some draws is mostly what cannot be had together.
		if least == (faults{}) || try >= 3 && least.faint() {
			break
		}
		if f[5] > 0 {
			a.pull *= 3
			a.route = g.route(d, len(a.cells), try+1)
		}
	}
	if least[4] > 0 && a.route != nil { // its course may keep a line from its form
		a.route = nil
		rows := g.draw(a, index, d, form, luck)
		if f := g.tuneWith(a, rows, strikes).faults(d, form); f.less(least) {
			best, least = rows, f
		}
	}
	if least[4]+least[5] > 0 && !g.locked {
		best = g.mend(a, index, best, strikes, d, form)
	}
	out := make([]int, len(g.cells))
	for k, i := range a.cells {
		out[i] = best[k]
	}
	return out
}

// tuneWith is the tune of rows that are not written yet.
func (g *ground) tuneWith(a *asks, rows, strikes []int) *tune {
	t := &tune{g: g, rows: make([]int, len(g.cells)), hits: strikes}
	on := make([]bool, len(g.cells))
	for k, i := range a.cells {
		t.rows[i], on[i] = rows[k], true
	}
	for _, i := range g.slots {
		if on[i] {
			t.cells = append(t.cells, i)
		}
	}
	return t
}

// draw draws which moves leap and which strong notes are no tones, and finds a way for that.
func (g *ground) draw(a *asks, index []int, d *drawn, form parts, luck *luck) []int {
	n := len(a.cells)
	a.jump, a.want, a.like = make([]int8, n), make([]int8, n), make([]int, n)
	for k := range a.like {
		a.like[k] = -1
	}
	if !g.locked {
		for part, model := range form.model {
			g.drawPart(a, index, d, form, part, model, luck)
		}
	}
	a.stay = 330 - luck.under(stayTaste)
	a.taste = g.taste(a, luck)
	first := g.first(a, d, luck)
	rows, _ := g.way(a, first)
	if !form.repeats() {
		return rows
	}
	// The parts that come again are asked to be as the first with their letter came out; the line's last
	// two notes are free to lead back.
	for k, i := range a.cells {
		if k >= n-2 {
			continue
		}
		if m := index[form.like(i)]; m >= 0 && m < n-2 {
			a.like[k] = rows[m]
		}
	}
	if g.chords {
		g.overRoots(a, index, form, rows)
	}
	rows, _ = g.way(a, first)
	return rows
}

// overRoots moves what a part is asked to be like by as much as the chords' roots are apart, in the octave
// in which most of it stays in the range.
func (g *ground) overRoots(a *asks, index []int, form parts, rows []int) {
	size := g.key.Size()
	for part, model := range form.model {
		if part == model {
			continue
		}
		best, least := 0, len(a.cells)+1
		moved := func(k, octave int) (row int, out bool) {
			i := a.cells[k]
			like := form.like(i)
			by := (g.cells[i].root-g.cells[like].root+size)%size + octave*size
			row = rows[index[like]] + by
			if row >= 0 && row < len(g.rows) {
				return row, false
			}
			for row < 0 {
				row += size
			}
			for row >= len(g.rows) {
				row -= size
			}
			return row, true
		}
		for _, octave := range []int{0, -1, 1} {
			outside := 0
			for k, i := range a.cells {
				if form.of(i) == part && a.like[k] >= 0 {
					if _, out := moved(k, octave); out {
						outside++
					}
				}
			}
			if outside < least {
				best, least = octave, outside
			}
		}
		for k, i := range a.cells {
			if form.of(i) == part && a.like[k] >= 0 {
				if row, _ := moved(k, best); row >= 0 {
					a.like[k] = row
				} else {
					a.like[k] = -1
				}
			}
		}
	}
}

// drawPart draws for the first part with a letter, and takes over for the others.
func (g *ground) drawPart(a *asks, index []int, d *drawn, form parts, part, model int, luck *luck) {
	n := len(a.cells)
	var own []int
	for k, i := range a.cells {
		if form.of(i) == part {
			own = append(own, k)
		}
	}
	if model != part {
		for _, k := range own {
			m := index[form.like(a.cells[k])]
			a.jump[k], a.want[k] = a.jump[m], a.want[m]
		}
		return
	}
	roots := g.downbeats(d, form)
	// Strong notes: so many are tones; of two that follow each other one at least.
	var strong, may []int
	for _, k := range own {
		if g.cells[a.cells[k]].strong {
			strong = append(strong, k)
			a.want[k] = 1
			if k > 0 && !roots[a.cells[k]] {
				may = append(may, k)
			}
		}
	}
	passing := len(strong) - share(d.anchor, len(strong))
	for ; passing > 0 && len(may) > 0; passing-- {
		pick := luck.under(len(may))
		k := may[pick]
		may = append(may[:pick], may[pick+1:]...)
		if k+1 < n && a.want[k+1] < 0 || a.want[k-1] < 0 {
			passing++
			continue
		}
		a.want[k] = -1
	}
	// Moves: so many leap, but none from a note that has to move by step.
	var moves, free []int
	for _, k := range own {
		if k == n-1 {
			continue
		}
		moves = append(moves, k)
		a.jump[k] = -1
		if a.want[k] >= 0 {
			free = append(free, k)
		}
	}
	for k := range luck.some(free, share(d.leaps, len(moves))) {
		a.jump[k] = 1
	}
}
