package phrase

import (
	"slices"

	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
)

// Tones are what a walk goes through: MIDI pitches that may lie outside 0..127.
type Tones struct {
	Listed []int // as the palette or the lane lists them
	Root   int   // pitch class, 0 is C
}

// Stairs are the rungs of a walk with its order.
type Stairs struct {
	Rungs []int // pitches, rising
	Order []int // rungs, from 0; of an order of one's own, numbers from 0 that may be beyond the last
	First []int // the tones of the first pass, rising
	Root  int   // pitch class
	own   bool
	drawn string // "random" or "shuffle": its places are drawn; empty: they are not
	times [2]time
}

// time is one time through a shuffled order.
type time struct {
	known bool
	which int
	order []int
}

// Climb lays the passes through tones over one another, and puts the rungs in order. A
// leap along the scale first brings a tone outside it into the scale.
func Climb(key pitch.Key, tones Tones, span int, leap piece.Leap, order piece.Order, snap pitch.Snap) *Stairs {
	first := slices.Clone(tones.Listed)
	out := &Stairs{Root: tones.Root}
	var listed []int
	for pass := range span {
		for _, tone := range first {
			p := tone
			if by := leap.By * pass; by != 0 && leap.In == "semitones" {
				p += by
			} else if by != 0 {
				p = Along(key, tone, by, snap)
			}
			listed = append(listed, p)
		}
	}
	out.First = rising(first)
	out.Rungs = rising(listed)
	out.arrange(order, listed)
	return out
}

// Along moves a pitch by steps of the scale, from its nearest note by snap where it lies
// outside.
func Along(key pitch.Key, p, by int, snap pitch.Snap) int { return key.Along(p, by, snap) }

func rising(pitches []int) []int {
	out := slices.Clone(pitches)
	slices.Sort(out)
	return slices.Compact(out)
}

// orders are the named orders: each makes a list of rungs of their number, which is
// above 1. To add one, add it here and to piece.Orders.
var orders = map[string]func(n int) []int{
	"up":             up,
	"down":           func(n int) []int { return turned(up(n)) },
	"up-down":        func(n int) []int { return append(up(n), turned(up(n))[1:n-1]...) },
	"up-down-repeat": func(n int) []int { return append(up(n), turned(up(n))...) },
	"converge":       inwards,
	"diverge":        func(n int) []int { return turned(inwards(n)) },
	"top-pedal": func(n int) (out []int) {
		for i := range n - 1 {
			out = append(out, i, n-1)
		}
		return out
	},
	"bottom-pedal": func(n int) (out []int) {
		for i := 1; i < n; i++ {
			out = append(out, i, 0)
		}
		return out
	},
	"random":  up,
	"shuffle": up,
}

func up(n int) []int {
	out := make([]int, n)
	for i := range out {
		out[i] = i
	}
	return out
}

func turned(list []int) []int {
	out := slices.Clone(list)
	slices.Reverse(out)
	return out
}

func inwards(n int) []int {
	var out []int
	for low, high := 0, n-1; low <= high; low, high = low+1, high-1 {
		out = append(out, low)
		if high > low {
			out = append(out, high)
		}
	}
	return out
}

func (l *Stairs) arrange(order piece.Order, listed []int) {
	n := len(l.Rungs)
	switch {
	case order.Name == "":
		l.own = true
		for _, rung := range order.Rungs {
			l.Order = append(l.Order, rung-1)
		}
	case n < 2:
		l.Order = []int{0}
	case order.Name == "entered":
		seen := map[int]bool{}
		for _, p := range listed {
			if !seen[p] {
				i, _ := slices.BinarySearch(l.Rungs, p)
				l.Order = append(l.Order, i)
			}
			seen[p] = true
		}
	default:
		l.Order = orders[order.Name](n)
		if order.Name == "random" || order.Name == "shuffle" {
			l.drawn = order.Name
		}
	}
}

// Length is that of the order, for the period; drawn orders count as one.
func (l *Stairs) Length() int {
	if l.drawn != "" {
		return 1
	}
	return len(l.Order)
}

// At is the rung at a place of the walk, counted on without end and below 0 too; of an
// order of one's own it may be beyond the last. draw gives a number for a turn (a place
// for shuffle), always the same.
func (l *Stairs) At(place, turn int, draw func(shuffle bool, n int) uint64) int {
	n := len(l.Rungs)
	switch l.drawn {
	case "random":
		return int(draw(false, turn) % uint64(n))
	case "shuffle":
		which := floor(place, n)
		t := &l.times[pitch.Mod(which, 2)] // several voices may be in two of them
		if !t.known || t.which != which {
			*t = time{true, which, shuffled(n, func(i int) uint64 { return draw(true, which*n+i) })}
		}
		return t.order[pitch.Mod(place, n)]
	}
	return l.Order[pitch.Mod(place, len(l.Order))]
}

// Rung is a rung, from 0, and its pitch; beyond the last, an octave up for every time that
// it wraps.
func (l *Stairs) Rung(k int) (rung, p int) {
	n := len(l.Rungs)
	if k < n {
		return k, l.Rungs[k]
	}
	return k % n, l.Rungs[k%n] + 12*(k/n)
}

// shuffled puts 0..n-1 in the order of their draws.
func shuffled(n int, draw func(i int) uint64) []int {
	out := up(n)
	drawn := make([]uint64, n)
	for i := range drawn {
		drawn[i] = draw(i)
	}
	slices.SortStableFunc(out, func(a, b int) int {
		switch {
		case drawn[a] < drawn[b]:
			return -1
		case drawn[a] > drawn[b]:
			return 1
		}
		return 0
	})
	return out
}

func floor(a, n int) int { return (a - pitch.Mod(a, n)) / n }

// RootRung is the lowest rung that is the root, or the root below the lowest one, whose
// rung is then -1.
func (l *Stairs) RootRung() (rung, p int) {
	for i, p := range l.Rungs {
		if pitch.Mod(p-l.Root, 12) == 0 {
			return i, p
		}
	}
	return -1, l.Rungs[0] - pitch.Mod(l.Rungs[0]-l.Root, 12)
}
