package chord

import (
	"cmp"
	"slices"

	"agrimony/internal/core/pitch"
)

// Lying is a chord as it lies: its root's pitch class and its pitches (MIDI, sorted).
type Lying struct {
	Root    int
	Pitches []int
}

// rootMoves is how readily a root goes up by so many semitones, the readiest first: up a fourth, as fifths fall; down a
// third; a step up or a fifth up; a step down; up a third; a tritone; and last the same root again. (Root progressions
// as in Schoenberg, Structural Functions of Harmony, 1954: strong, descending and superstrong ones.)
var rootMoves = [12]int{6, 2, 2, 4, 4, 0, 5, 2, 1, 1, 3, 3}

// ratherNot is how much less readily a diminished or augmented triad is gone to, but for the chord that it leads to.
const ratherNot = 3

// Follow ranks chords by how well each follows another one, from 1; among equals those rank first whose voices need
// to move least, and then those that come first.
func Follow(from Lying, to []Lying) []int {
	cost := func(c Lying) int {
		move := pitch.Mod(c.Root-from.Root, 12)
		out := rootMoves[move]
		if unstable(c) {
			out += ratherNot
		}
		if unstable(from) && move == 1 {
			out = -1 // a leading tone goes up
		}
		return out
	}
	far := func(c Lying) int {
		least := 1 << 20
		for shift := -24; shift <= 24; shift += 12 {
			moved := make([]int, len(c.Pitches))
			for i, p := range c.Pitches {
				moved[i] = p + shift
			}
			for i := range moved {
				least = min(least, Movement(from.Pitches, Invert(moved, i)))
			}
		}
		return least
	}
	type ranked struct{ at, cost, far int }
	all := make([]ranked, len(to))
	for i, c := range to {
		all[i] = ranked{i, cost(c), far(c)}
	}
	slices.SortStableFunc(all, func(a, b ranked) int { return cmp.Or(a.cost-b.cost, a.far-b.far, a.at-b.at) })
	out := make([]int, len(to))
	for rank, own := range all {
		out[own.at] = rank + 1
	}
	return out
}

// unstable reports whether a chord is a bare diminished or augmented triad.
func unstable(c Lying) bool {
	mask, _ := classes(c.Pitches)
	above := (mask>>c.Root | mask<<(12-c.Root)) & 0xfff
	return above == 1|1<<3|1<<6 || above == 1|1<<4|1<<8
}
