package sketch

import (
	"math"

	"agrimony/internal/core/pitch"
)

// What a way through the notes costs, in the order in which it matters. Taste goes up to some hundred
// for a note.
const (
	costHome     = 1_000_000_000 // it does not begin at home
	costCannot   = 900_000_000   // the lane does not sound that row there
	costSeam     = 400_000_000   // the last does not lead back
	costFive     = 60_000_000    // a fifth strike of one pitch running
	costNoLeaps  = 10_000_000    // a leap where none is allowed
	costRoot     = 5_000_000     // a low line has no root where a bar begins with a chord
	costForm     = 1_000_000     // it is not as its letter asks
	costTone     = 120_000       // a strong note is a tone where it should not be, or the other way round
	costResolve  = 40_000        // one that is none does not move by step into one
	costTurn     = 15_000        // a wide move is not turned back
	costLeap     = 5_000         // a leap where a step was drawn, or the other way round
	costOffRoute = 700           // by row and row off the contour's route, squared
)

// asks is what a way through the notes is asked for.
type asks struct {
	cells   []int        // the sounding ones, in playing order, each once
	strikes []int        // of each
	jump    []int8       // of the move from each to the next: 1 a leap, -1 a step, 0 as it comes
	want    []int8       // 1 a tone, -1 none, but one by step after it; 0 as it comes
	rooted  []bool       // a root is wanted
	like    []int        // the row that its form asks for; -1: none
	route   [][2]float64 // rows that a contour leads over, either of two
	last    int          // which of them leads back to the first
	none    bool         // no leaps at all
	pull    float64      // how strongly, by row and row off it, squared
	stay    int          // what a repeat costs over a step
	taste   func(k, row int) int
}

// States of the way at a note: how often its pitch was struck running, or that it was reached by a wide
// move, and from where.
const (
	ways      = 6
	wideUp    = 4
	wideDown  = 5
	forbidden = math.MaxInt / 4
)

// wayWork is how many moves are looked at for a unit of work.
const wayWork = 12

// way finds the cheapest rows for the notes that begins on a row. It is a shortest path over rows and
// what was before them (Bellman 1957), each note after the one before.
func (g *ground) way(a *asks, first int) (rows []int, cost int) {
	n, width := len(a.cells), len(g.rows)
	states := width * ways
	costs, next := make([]int, states), make([]int, states)
	from := make([]int32, n*states)
	for s := range costs {
		costs[s] = forbidden
	}
	begin := first*ways + min(a.strikes[0], 4) - 1
	costs[begin] = g.note(a, 0, first)
	if !g.home(a.cells[0], first) {
		costs[begin] += costHome
	}
	own, move := make([]int, width), make([]int, width*width)
	kind := g.kinds()
	for k := 1; k < n; k++ {
		g.scene.Budget.Spend(int64(states*width)/wayWork + 1)
		for s := range next {
			next[s] = forbidden
		}
		for row := range own {
			own[row] = g.note(a, k, row)
			if k == a.last && !g.leads(row, first) {
				own[row] += costSeam
			}
			if k == n-1 && a.want[k] < 0 && abs(row-first) != 1 {
				own[row] += costResolve
			}
		}
		resolved := &g.cells[a.cells[k]]
		for at := range width {
			for row := range width {
				c := own[row] + a.move(k-1, at, row)
				if a.want[k-1] < 0 && (abs(row-at) != 1 || !resolved.tone[row]) {
					c += costResolve
				}
				move[at*width+row] = c
			}
		}
		back := from[k*states:]
		strikes := a.strikes[k]
		fresh := min(strikes, 4) - 1
		for s, cost := range costs {
			if cost >= forbidden {
				continue
			}
			at, way := s/ways, s%ways
			step, kinds := move[at*width:(at+1)*width], kind[at*width:(at+1)*width]
			for row, c := range step {
				c += cost
				to := fresh
				switch kinds[row] {
				case stays:
					run := strikes + 1
					if way < wideUp {
						run = strikes + way + 1
					}
					// Round the loop no more than four come together either.
					if run > 4 || row == first && run > 2 && (k < run || k == n-1) {
						c += costFive
					}
					to = min(run, 4) - 1
				case farUp:
					to = wideUp
				case farDown:
					to = wideDown
				}
				if way == wideUp && kinds[row] != backDown || way == wideDown && kinds[row] != backUp {
					c += costTurn
				}
				if t := row*ways + to; c < next[t] {
					next[t], back[t] = c, int32(s)
				}
			}
		}
		costs, next = next, costs
	}
	best := 0
	for s := range costs {
		if costs[s] < costs[best] {
			best = s
		}
	}
	cost = costs[best]
	rows = make([]int, n)
	for k, s := n-1, best; k >= 0; k-- {
		rows[k] = s / ways
		if k > 0 {
			s = int(from[k*states+s])
		}
	}
	return rows, cost
}

// rooted reports whether a row is the root of the chord that sounds at a cell.
func (g *ground) rooted(i, row int) bool {
	chord := g.cells[i].chord
	return chord != nil && pitch.Mod(g.rows[row], 12) == chord.Root.Class()
}

// hasRoot reports whether there is such a row, and the lane can sound it.
func (g *ground) hasRoot(i int) bool {
	for row := range g.rows {
		if g.rooted(i, row) && g.cells[i].can[row] {
			return true
		}
	}
	return false
}

// note is what a note on a row costs by itself.
func (g *ground) note(a *asks, k, row int) int {
	c := &g.cells[a.cells[k]]
	cost := a.taste(k, row)
	if !c.can[row] {
		cost += costCannot
	}
	if like := a.like[k]; like >= 0 && like != row {
		cost += costForm + 1000*abs(like-row)
	}
	if a.rooted[k] && !g.rooted(a.cells[k], row) {
		cost += costRoot
	}
	if a.want[k] != 0 && c.tone[row] != (a.want[k] > 0) {
		cost += costTone
	}
	if a.route != nil {
		off := math.Min(math.Abs(float64(row)-a.route[k][0]), math.Abs(float64(row)-a.route[k][1]))
		if off = max(off-0.4, 0); off > 0 {
			cost += int(a.pull * off * off)
		}
	}
	return cost
}

// By how much moves are liked less than a step: thirds, then leaps by size. How well repeats are liked is
// drawn: some lines drum on a pitch, some never stay on one.
var moveTaste = [...]int{0, 0, 110, 20, 60, 260, 420, 140, 1500, 2200, 3000}

const (
	stayTaste = 560
	rootTaste = 260 // by how much a bass likes the chord's root better where a bar begins
)

// move is what a move costs.
func (a *asks) move(k, from, to int) int {
	size := abs(to - from)
	cost := moveTaste[min(size, len(moveTaste)-1)]
	if size == 0 {
		cost = a.stay
	}
	jumps := size >= leap
	switch {
	case a.none && jumps:
		cost += costNoLeaps + 100*size
	case a.jump[k] > 0 && !jumps, a.jump[k] < 0 && jumps:
		cost += costLeap
	}
	return cost
}

// Kinds of moves, for what has to follow wide ones.
const (
	moves = iota
	stays
	backUp // by at most a third
	backDown
	farUp // wider than a fifth
	farDown
)

// kinds are those of the moves from each row to each.
func (g *ground) kinds() []uint8 {
	width := len(g.rows)
	out := make([]uint8, width*width)
	for at := range width {
		for row := range width {
			kind := &out[at*width+row]
			switch {
			case row == at:
				*kind = stays
			case g.wide(at, row) && row > at:
				*kind = farUp
			case g.wide(at, row):
				*kind = farDown
			case g.third(at, row) && row > at:
				*kind = backUp
			case g.third(at, row):
				*kind = backDown
			}
		}
	}
	return out
}
