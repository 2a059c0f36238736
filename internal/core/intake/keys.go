package intake

import (
	"math"
	"slices"
	"sync"

	"agrimony/internal/core/pitch"
)

// KeyFit is a key with how much of the time it holds.
type KeyFit struct {
	Key   pitch.Key
	Share float64 // of the time of all notes, that of notes of the key, 0..1
	score float64
}

// profile is how much of the time the twelve notes above a tonic take in pieces of a scale.
type profile struct {
	scale  string
	weight [12]float64
}

// The profiles of major and minor are those of D. Temperley, Music and Probability (2007), from the
// Kostka and Payne corpus. The modes are these with the weights exchanged of the notes that each
// alters: the mode has, say, a seventh where the major scale has it raised.
var profiles = func() []profile {
	major := [12]float64{0.748, 0.060, 0.488, 0.082, 0.670, 0.460, 0.096, 0.715, 0.104, 0.366, 0.057, 0.400}
	minor := [12]float64{0.712, 0.084, 0.474, 0.618, 0.049, 0.460, 0.105, 0.747, 0.404, 0.067, 0.133, 0.330}
	change := func(of [12]float64, pairs ...[2]int) [12]float64 {
		for _, p := range pairs {
			of[p[0]], of[p[1]] = of[p[1]], of[p[0]]
		}
		return of
	}
	natural := change(minor, [2]int{10, 11})
	return []profile{
		{"major", major},
		{"natural minor", natural},
		{"harmonic minor", minor},
		{"dorian", change(natural, [2]int{8, 9})},
		{"phrygian", change(natural, [2]int{1, 2})},
		{"lydian", change(major, [2]int{5, 6})},
		{"mixolydian", change(major, [2]int{10, 11})},
	}
}()

// What the ends of a piece say of its tonic, added to how well it correlates: where the lowest of
// the notes with which it begins, or ends, is the tonic.
const (
	opening = 0.20
	closing = 0.05
)

// offered is how many keys are offered.
const offered = 3

// Keys are the keys that fit best, the best first: all notes, weighted by their time, against the
// profiles of seven scales on twelve tonics.
func Keys(lists ...[]Note) []KeyFit {
	var time [12]float64
	total := 0.0
	for _, list := range lists {
		for i := range list {
			n := &list[i]
			time[n.Pitch%12] += float64(n.Length)
			total += float64(n.Length)
		}
	}
	if total == 0 {
		return nil
	}
	first, last := ends(lists)
	var out []KeyFit
	for tonic := range 12 {
		for _, p := range profiles {
			var turned [12]float64
			for i := range 12 {
				turned[i] = time[(i+tonic)%12]
			}
			key, held := keyOn(tonic, p.scale), 0.0
			for class, long := range time {
				if key.Has(class) {
					held += long
				}
			}
			share := held / total
			score := correlation(turned, p.weight) - (1-share)*outside
			if first%12 == tonic {
				score += opening
			}
			if last%12 == tonic {
				score += closing
			}
			out = append(out, KeyFit{key, share, score})
		}
	}
	slices.SortStableFunc(out, func(a, b KeyFit) int {
		switch {
		case a.score > b.score:
			return -1
		case a.score < b.score:
			return 1
		}
		return 0
	})
	return out[:offered]
}

// outside is what time spent outside of a key costs it, beside what the profiles say.
const outside = 0.7

// ends are the lowest pitches of the notes that begin first and of those that begin last.
func ends(lists [][]Note) (first, last int) {
	begin, final := math.MaxInt, math.MinInt
	for _, list := range lists {
		for i := range list {
			n := &list[i]
			if n.At < begin || n.At == begin && n.Pitch < first {
				begin, first = n.At, n.Pitch
			}
			if n.At > final || n.At == final && n.Pitch < last {
				final, last = n.At, n.Pitch
			}
		}
	}
	return first, last
}

// correlation is Pearson's.
func correlation(a, b [12]float64) float64 {
	meanA, meanB := 0.0, 0.0
	for i := range 12 {
		meanA, meanB = meanA+a[i]/12, meanB+b[i]/12
	}
	above, left, right := 0.0, 0.0, 0.0
	for i := range 12 {
		x, y := a[i]-meanA, b[i]-meanB
		above, left, right = above+x*y, left+x*x, right+y*y
	}
	if left == 0 || right == 0 {
		return 0
	}
	return above / math.Sqrt(left*right)
}

// tonics are the names of the twelve pitch classes, the simpler signature first.
var tonics = [12][]string{{"C"}, {"Db", "C#"}, {"D"}, {"Eb", "D#"}, {"E"}, {"F"}, {"F#", "Gb"}, {"G"}, {"Ab", "G#"}, {"A"}, {"Bb", "A#"}, {"B"}}

// keyOn is a key on a pitch class, spelled with the fewest signs.
func keyOn(class int, scale string) pitch.Key { return keysOn()[class][scale] }

// keysOn are all keys that are offered, by the pitch classes of their tonics and their scales.
var keysOn = sync.OnceValue(func() (out [12]map[string]pitch.Key) {
	for class := range out {
		out[class] = map[string]pitch.Key{}
		for _, p := range profiles {
			out[class][p.scale] = spelledOn(class, p.scale)
		}
	}
	return out
})

func spelledOn(class int, scale string) pitch.Key {
	var best pitch.Key
	least := math.MaxInt
	for _, tonic := range tonics[class] {
		key, err := pitch.ParseKey(tonic + " " + scale)
		if err != nil {
			panic(err) // both are known
		}
		signs := 0
		for _, name := range key.Names() {
			signs += len(name.String()) - 1
		}
		if signs < least {
			best, least = key, signs
		}
	}
	return best
}
