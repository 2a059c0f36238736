package sketch

import "slices"

// A way through the notes minds moves one by one. What a line is to be as a whole, its course and
// the likeness of its parts, it can miss where another line has it: such a line is looked for
// near the best that was found.

// mendWork is how many notes are looked at for a line at most.
const mendWork = 120_000

// mend changes rows, one note at a time with those that its form holds equal to it, or two of them by
// little, for as long as the line misses less by that.
func (g *ground) mend(a *asks, index []int, rows, strikes []int, d *drawn, form parts) []int {
	best := append([]int{}, rows...)
	t := g.tuneWith(a, best, strikes)
	least, far := t.missing(d, form)
	looks := mendWork / max(len(a.cells), 1)
	likes := g.likes(a, index, form)
	groups := together(likes)
	move := func(group []int, by int) (can bool) {
		can = true
		for _, k := range group {
			i := a.cells[k]
			t.rows[i] += by
			can = can && t.rows[i] >= 0 && t.rows[i] < len(g.rows) && g.cells[i].can[t.rows[i]]
		}
		return can
	}
	// try takes a change where the line misses less with it.
	try := func(one []int, by int, other []int, otherBy int) bool {
		if least[4]+least[5] == 0 {
			looks = 0
		}
		if looks--; looks < 0 {
			return false
		}
		if can := move(one, by); move(other, otherBy) && can {
			if now, off := t.missing(d, form); now.compare(least, off, far) < 0 {
				least, far = now, off
				return true
			}
		}
		move(one, -by)
		move(other, -otherBy)
		return false
	}
	alone := func() (improved bool) {
		for _, group := range groups {
			for by := 1; by < len(g.rows); by++ {
				improved = try(group, by, nil, 0) || improved
				improved = try(group, -by, nil, 0) || improved
			}
		}
		return improved
	}
	inPairs := func() bool {
		for i, one := range groups {
			if looks < 0 {
				break
			}
			for _, other := range groups[:i] {
				for _, by := range [][2]int{{1, -1}, {-1, 1}, {1, 1}, {-1, -1}, {2, -1}, {-1, 2}, {-2, 1}, {1, -2}, {2, -2}, {-2, 2}} {
					if try(one, by[0], other, by[1]) {
						return true
					}
				}
			}
		}
		return false
	}
	// In runs, notes that follow one another move together: where leaps are few, one alone cannot.
	inRuns := func() bool {
		for from := range a.cells {
			run := []int{}
			for to := from; to < len(a.cells) && looks >= 0; to++ {
				for _, k := range likes[to] {
					if !slices.Contains(run, k) {
						run = append(run, k)
					}
				}
				for _, by := range []int{1, -1, 2, -2} {
					if try(run, by, nil, 0) {
						return true
					}
				}
			}
		}
		return false
	}
	for alone() || inPairs() || inRuns() {
		// for as long as it comes nearer
	}
	for k, i := range a.cells {
		best[k] = t.rows[i]
	}
	g.scene.Budget.Spend(int64(mendWork-max(looks, 0)*len(a.cells)) / 16)
	return best
}

// compare is slices.Compare, with how far a line is from its course between what comes before
// the course and what comes after it.
func (f faults) compare(than faults, off, thanOff float64) int {
	for k := range f {
		switch {
		case k == 5 && off < thanOff-1e-9:
			return -1
		case k == 5 && off > thanOff+1e-9:
			return 1
		case f[k] != than[k]:
			return f[k] - than[k]
		}
	}
	return 0
}

// likes returns for each note those that its form holds equal to it, itself among them, in the line's order.
func (g *ground) likes(a *asks, index []int, form parts) [][]int {
	out := make([][]int, len(a.cells))
	like := map[int][]int{}
	for k, i := range a.cells {
		if m := index[form.like(i)]; m >= 0 && form.repeats() {
			like[m] = append(like[m], k)
		}
	}
	for k, i := range a.cells {
		if out[k] = []int{k}; form.repeats() && index[form.like(i)] >= 0 {
			out[k] = like[index[form.like(i)]]
		}
	}
	return out
}

// together are the notes that change with one another: each alone, and each that a form repeats
// with all that are to be equal to it.
func together(likes [][]int) (out [][]int) {
	for k := range likes {
		out = append(out, []int{k})
	}
	groupAt := map[int][]int{}
	for _, group := range likes {
		groupAt[group[0]] = group
	}
	for k := range likes {
		if group := groupAt[k]; len(group) > 1 {
			out = append(out, group)
			if last := len(likes) - 2; group[len(group)-1] >= last { // the line's last two are spared
				spared := group
				for len(spared) > 0 && spared[len(spared)-1] >= last {
					spared = spared[:len(spared)-1]
				}
				if len(spared) > 1 {
					out = append(out, spared)
				}
			}
		}
	}
	return out
}
