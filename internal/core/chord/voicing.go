package chord

import (
	"slices"
)

// Movement is how far voices go from one voicing to another, both sorted, in
// semitones: tones are paired so that each has at least one partner and no pairs
// cross; the sum of the pairs' distances, where that is least.
func Movement(a, b []int) int {
	var room [17]int
	row := room[:len(b)+1]
	const far = 1 << 20
	for j := range row {
		row[j] = far
	}
	row[0] = 0
	for _, p := range a {
		before := row[0]
		row[0] = far
		for j, q := range b {
			best := min(before, row[j], row[j+1])
			before = row[j+1]
			row[j+1] = best + max(p-q, q-p)
		}
	}
	return row[len(b)]
}

// Pairs are the partners of Movement: each pitch of a with at least one of b and the other way round,
// none crossing, with the least sum of distances; of equal sums the one with the fewest pairs, then the
// one that is lower from the lowest pair up.
func Pairs(a, b []int) [][2]int {
	if len(a) == 0 || len(b) == 0 {
		return [][2]int{}
	}
	type cost struct{ sum, pairs int }
	less := func(x, y cost) bool { return x.sum < y.sum || x.sum == y.sum && x.pairs < y.pairs }
	rest := make([]cost, len(a)*len(b)) // of a pair and all above it
	next := func(i, j int) (ways [3][2]int) { return [3][2]int{{i, j + 1}, {i + 1, j}, {i + 1, j + 1}} }
	best := func(i, j int) (at [2]int, found cost, ok bool) {
		for _, way := range next(i, j) {
			if way[0] == len(a) || way[1] == len(b) {
				continue
			}
			if own := rest[way[0]*len(b)+way[1]]; !ok || less(own, found) {
				at, found, ok = way, own, true
			}
		}
		return at, found, ok
	}
	for i := len(a) - 1; i >= 0; i-- {
		for j := len(b) - 1; j >= 0; j-- {
			_, above, _ := best(i, j)
			rest[i*len(b)+j] = cost{above.sum + max(a[i]-b[j], b[j]-a[i]), above.pairs + 1}
		}
	}
	out := [][2]int{}
	for at, ok := [2]int{}, true; ok; at, _, ok = best(at[0], at[1]) {
		out = append(out, [2]int{a[at[0]], b[at[1]]})
	}
	return out
}

// RoundMovement sums the movement over a round of voicings, with the way back from the
// last to the first.
func RoundMovement(round [][]int) int {
	sum := 0
	for i := range round {
		sum += Movement(round[i], round[(i+1)%len(round)])
	}
	return sum
}

// Invert takes sorted pitches so many times to their next inversion: the lowest tone
// goes up an octave, or below 0 the highest down; where it would meet another tone, on
// to the next octave.
func Invert(pitches []int, times int) []int {
	out := slices.Clone(pitches)
	for ; times > 0; times-- {
		p := out[0]
		for slices.Contains(out, p) {
			p += 12
		}
		out = append(out[1:], p)
		slices.Sort(out)
	}
	for ; times < 0; times++ {
		last := len(out) - 1
		p := out[last]
		for slices.Contains(out, p) {
			p -= 12
		}
		out = append([]int{p}, out[:last]...)
		slices.Sort(out)
	}
	return out
}

// InvertEach inverts pitches in any order as Invert does, each in its place: those that
// are the same go together.
func InvertEach(pitches []int, times int) {
	way := 12
	lowest := slices.Min[[]int]
	if times < 0 {
		way, times, lowest = -12, -times, slices.Max[[]int]
	}
	for range times {
		from := lowest(pitches)
		to := from
		for slices.Contains(pitches, to) {
			to += way
		}
		for i := range pitches {
			if pitches[i] == from {
				pitches[i] = to
			}
		}
	}
}

// Range is where voicings may lie, in MIDI pitches, whether each chord's lowest tone stays its lowest, and
// whether they are to be clear.
type Range struct {
	Low, High int
	Keep      bool
	// Clear avoids voicings that blur, where another choice moves at most two semitones more for each of them.
	Clear bool
}

// Blurs reports whether a voicing, sorted, is heard as a smear: its two highest tones stand a semitone apart, or three
// neighbours within a major third.
func Blurs(pitches []int) bool {
	n := len(pitches)
	if n > 1 && pitches[n-1]-pitches[n-2] == 1 {
		return true
	}
	for i := 2; i < n; i++ {
		if pitches[i]-pitches[i-2] <= 4 {
			return true
		}
	}
	return false
}

// What clear voicings cost: movements count twice, so that a blur costs more than two semitones and less than three.
const blur = 5

// scale is how often a semitone of movement counts.
func (r Range) scale() int {
	if r.Clear {
		return 2
	}
	return 1
}

// Toward moves a chord as a whole by the octaves that bring its middle nearest to the
// middle of the range and all of it inside; a tie goes down. fits is false where it
// fits at no octave: then it is nearest to the middle all the same.
func (r Range) Toward(pitches []int) (out []int, fits bool) {
	best, bestAway := 0, 0
	found := false
	for shift := -11; shift <= 11; shift++ {
		inside := pitches[0]+12*shift >= r.Low && pitches[len(pitches)-1]+12*shift <= r.High
		if fits && !inside {
			continue
		}
		away := r.away(pitches, 12*shift)
		if !found || inside && !fits || away < bestAway {
			best, bestAway, found = shift, away, true
		}
		fits = fits || inside
	}
	out = make([]int, len(pitches))
	for i, p := range pitches {
		out[i] = p + 12*best
	}
	return out, fits
}

// exact makes means of 1..16 pitches whole numbers.
const exact = 720720

// away is how far a chord's middle lies from the range's, in parts of a semitone.
func (r Range) away(pitches []int, shift int) int {
	sum := 0
	for _, p := range pitches {
		sum += p + shift
	}
	d := 2*sum*(exact/len(pitches)) - (r.Low+r.High)*exact
	return max(d, -d)
}
