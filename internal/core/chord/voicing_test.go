package chord_test

import (
	"fmt"
	"maps"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"agrimony/internal/core/chord"
	"agrimony/internal/core/pitch"
)

func TestMovementBetweenVoicings(t *testing.T) {
	for _, row := range []struct {
		a, b []int
		sum  int
	}{
		{[]int{60, 64, 67}, []int{60, 65, 69}, 3},
		{[]int{60, 64, 67, 71}, []int{60, 65, 69}, 5},
		{[]int{60, 64, 67}, []int{60, 64, 67}, 0},
		{[]int{60}, []int{60, 64, 67}, 11},
		{[]int{60, 64, 67}, []int{72, 76, 79}, 36},
		{[]int{60, 63, 67}, []int{59, 62, 67, 70}, 5},
	} {
		assert.Equal(t, row.sum, chord.Movement(row.a, row.b), "%v to %v", row.a, row.b)
		assert.Equal(t, row.sum, chord.Movement(row.b, row.a), "the way back is as long")
		sum := 0
		for _, pair := range chord.Pairs(row.a, row.b) {
			sum += max(pair[0]-pair[1], pair[1]-pair[0])
		}
		assert.Equal(t, row.sum, sum, "the pairs of %v and %v", row.a, row.b)
	}
}

func sortedSet(t *rapid.T, low, high, most int, name string) []int {
	out := rapid.SliceOfNDistinct(rapid.IntRange(low, high), 1, most, rapid.ID[int]).Draw(t, name)
	slices.Sort(out)
	return out
}

func TestPairsLeaveNoVoiceAloneAndDoNotCross(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		a, b := sortedSet(t, 40, 80, 6, "a"), sortedSet(t, 40, 80, 6, "b")
		pairs := chord.Pairs(a, b)
		var left, right []int
		for i, pair := range pairs {
			left, right = append(left, pair[0]), append(right, pair[1])
			if i > 0 {
				assert.LessOrEqual(t, pairs[i-1][0], pair[0])
				assert.LessOrEqual(t, pairs[i-1][1], pair[1])
			}
		}
		assert.Equal(t, a, slices.Compact(left))
		assert.Equal(t, b, slices.Compact(right))
	})
}

func TestInversions(t *testing.T) {
	for _, row := range []struct {
		times int
		want  []int
	}{
		{0, []int{60, 64, 67}}, {1, []int{64, 67, 72}}, {2, []int{67, 72, 76}}, {3, []int{72, 76, 79}},
		{-1, []int{55, 60, 64}}, {-3, []int{48, 52, 55}},
	} {
		assert.Equal(t, row.want, chord.Invert([]int{60, 64, 67}, row.times))
	}
	assert.Equal(t, []int{64, 72, 84}, chord.Invert([]int{60, 64, 72}, 1), "on past a tone that is there")
}

func TestAChordMovesTowardsTheRangeAsAWhole(t *testing.T) {
	r := chord.Range{Low: 48, High: 79}
	for _, row := range []struct {
		chord, want []int
		fits        bool
	}{
		{[]int{36, 40, 43}, []int{60, 64, 67}, true},
		{[]int{84, 88, 91}, []int{60, 64, 67}, true},
		{[]int{57, 60, 64}, []int{57, 60, 64}, true},
		{[]int{40, 76}, []int{40, 76}, false}, // three octaves wide: nearest all the same
	} {
		got, fits := r.Toward(row.chord)
		assert.Equal(t, row.want, got, "%v", row.chord)
		assert.Equal(t, row.fits, fits, "%v", row.chord)
	}
	tie, _ := chord.Range{Low: 54, High: 78}.Toward([]int{60}) // 60 and 72 are as near to 66
	assert.Equal(t, []int{60}, tie, "a tie goes down")
}

func TestSmoothVoicingsOfKnownProgressions(t *testing.T) {
	for _, row := range []struct {
		text, key string
		r         chord.Range
		pitches   [][]int
		movement  int
	}{
		{"I IV V I", "C major", chord.Range{Low: 48, High: 72}, [][]int{{48, 52, 55}, {48, 53, 57}, {50, 55, 59}, {48, 52, 55}}, 0},
		{"ii7 V7 Imaj7", "C major", chord.Range{Low: 48, High: 72}, nil, 0},
	} {
		chords, err := chord.Read(row.text, inKey(t, row.key))
		require.NoError(t, err)
		plain := chord.Lay(chords, inKey(t, row.key), 3, nil)
		smooth := chord.Lay(chords, inKey(t, row.key), 3, &row.r)
		assert.Less(t, smooth.Movement, plain.Movement, row.text)
		for i := range smooth.Chords {
			for _, p := range smooth.Chords[i].Pitches {
				assert.True(t, p >= row.r.Low && p <= row.r.High)
			}
		}
	}
}

// every lists all ways to voice a chord, as the rule says: any octave inside, no two on
// one pitch, neighbours at most an octave apart.
func every(tones []int, r chord.Range, lowest int) [][]int {
	var out [][]int
	var place func(i int, taken []int)
	place = func(i int, taken []int) {
		if i == len(tones) {
			v := slices.Sorted(slices.Values(taken))
			for k := 1; k < len(v); k++ {
				if v[k] == v[k-1] || v[k]-v[k-1] > 12 {
					return
				}
			}
			if !r.Keep || pitch.Mod(v[0]-lowest, 12) == 0 {
				out = append(out, v)
			}
			return
		}
		for p := r.Low + pitch.Mod(tones[i]-r.Low, 12); p <= r.High; p += 12 {
			place(i+1, append(slices.Clone(taken), p))
		}
	}
	place(0, nil)
	slices.SortFunc(out, slices.Compare)
	return slices.CompactFunc(out, slices.Equal)
}

// Over short rounds, what is found is what trying everything finds.
func TestSmoothIsTheBestOfAll(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		low := rapid.IntRange(40, 60).Draw(t, "low")
		r := chord.Range{Low: low, High: low + rapid.IntRange(12, 22).Draw(t, "width"), Keep: rapid.Bool().Draw(t, "keep"), Clear: rapid.Bool().Draw(t, "clear")}
		n := rapid.IntRange(1, 4).Draw(t, "chords")
		round := make([][]int, n)
		for i := range round {
			classes := rapid.SliceOfNDistinct(rapid.IntRange(0, 11), 1, 4, rapid.ID[int]).Draw(t, "classes")
			for k, c := range classes {
				round[i] = append(round[i], 48+12*k+c)
			}
			slices.Sort(round[i])
		}
		got, held := chord.Smooth(round, r)
		first, _ := r.Toward(round[0])
		require.Equal(t, first, got[0])
		choices := make([][][]int, n)
		choices[0] = [][]int{first}
		for i := 1; i < n; i++ {
			choices[i] = every(round[i], r, round[i][0])
			assert.Equal(t, len(choices[i]) == 0, held[i])
			if held[i] {
				as, _ := r.Toward(round[i])
				choices[i] = [][]int{as}
			}
		}
		var best [][]int
		var bestMove, bestAway int
		away := func(v []int) int { // from the middle, in parts that are whole for up to 4 tones
			sum := 0
			for _, p := range v {
				sum += p
			}
			d := 24*sum/len(v) - 12*(r.Low+r.High)
			return max(d, -d)
		}
		var walk func(i int, so [][]int)
		walk = func(i int, so [][]int) {
			if i == n {
				move, from := 2*chord.RoundMovement(so), 0
				for _, v := range so {
					from += away(v)
					if r.Clear && chord.Blurs(v) {
						move += 5
					}
				}
				if best == nil || move < bestMove || move == bestMove && from < bestAway {
					best, bestMove, bestAway = slices.Clone(so), move, from
				}
				return
			}
			for _, v := range choices[i] {
				walk(i+1, append(slices.Clone(so), v))
			}
		}
		walk(0, nil)
		assert.Equal(t, best, got, "of %v in %v", round, r)
	})
}

func TestWhatBlurs(t *testing.T) {
	for _, row := range []struct {
		pitches []int
		blurs   bool
	}{
		{[]int{60, 64, 67, 71}, false}, // a major seventh in close position
		{[]int{64, 67, 71, 72}, true},  // its first inversion: B under C on top
		{[]int{59, 60, 64, 67}, false}, // the same two at the bottom
		{[]int{60, 62, 64, 67}, true},  // C D E
		{[]int{60, 62, 67}, false},
		{[]int{60}, false},
	} {
		assert.Equal(t, row.blurs, chord.Blurs(row.pitches), "%v", row.pitches)
	}
}

// A clear round moves at most two semitones more than the smoothest for each blur that it is spared.
func TestClearVoicesMoveLittleMore(t *testing.T) {
	spared := 0
	for _, scale := range []string{"major", "natural minor", "dorian", "mixolydian"} {
		key := inKey(t, "A "+scale)
		for _, text := range []string{"I7 IV7 ii7 V7", "i9 iv9 VI9 V9", "Imaj7 IVmaj7 Imaj7 IVmaj7", "vi7 ii7 V7 Imaj7"} {
			chords, err := chord.Read(text, key)
			require.NoError(t, err)
			blurs := func(clear bool) (count, movement int) {
				line := chord.Lay(chords, key, 3, &chord.Range{Low: 48, High: 79, Clear: clear})
				for _, c := range line.Chords {
					if chord.Blurs(c.Pitches) {
						count++
					}
				}
				return count, line.Movement
			}
			smearing, least := blurs(false)
			left, movement := blurs(true)
			assert.LessOrEqual(t, movement-least, 2*(smearing-left), "%s in %s", text, key)
			spared += smearing - left
		}
	}
	assert.Positive(t, spared)
}

func TestLargeChordsAndThoseWithoutAPlaceStayAsWritten(t *testing.T) {
	seven := []int{60, 64, 67, 71, 74, 77, 81}
	got, held := chord.Smooth([][]int{{60, 64, 67}, seven, {60, 64, 67}}, chord.Range{Low: 48, High: 84})
	assert.Equal(t, seven, got[1])
	assert.Equal(t, []bool{false, true, false}, held)
	got, held = chord.Smooth([][]int{{60, 64}, {49, 50, 51, 52, 53, 54}}, chord.Range{Low: 60, High: 72, Keep: true})
	assert.Len(t, got[1], 6)
	assert.False(t, held[1], "six semitones in a row fit in an octave")
}

// round makes chords of so many tones that lie far apart.
func bigRound(chords, tones int) [][]int {
	out := make([][]int, chords)
	for i := range out {
		for k := range tones {
			out[i] = append(out[i], 48+(i*5+k*(2+i%3))%12+12*(k/4))
		}
		slices.Sort(out[i])
		out[i] = slices.Compact(out[i])
		for k := 1; len(out[i]) < tones; k++ {
			if p := out[i][len(out[i])-1] + k; !slices.ContainsFunc(out[i], func(q int) bool { return (p-q)%12 == 0 }) {
				out[i] = append(out[i], p)
				k = 0
			}
		}
	}
	return out
}

// Eight chords of five tones over three octaves, and 32 of four.
func BenchmarkSmooth8x5(b *testing.B)  { benchSmooth(b, 8, 5) }
func BenchmarkSmooth32x4(b *testing.B) { benchSmooth(b, 32, 4) }

// What is pruned is never part of the best round.
func TestPruningLosesNothing(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var round [][]int
		for i := range rapid.IntRange(1, 6).Draw(t, "chords") {
			tones := map[int]bool{}
			for k := range rapid.IntRange(1, 4).Draw(t, fmt.Sprint("tones", i)) {
				tones[rapid.IntRange(40, 80).Draw(t, fmt.Sprint(i, k))] = true
			}
			round = append(round, slices.Sorted(maps.Keys(tones)))
		}
		low := rapid.IntRange(20, 60).Draw(t, "low")
		r := chord.Range{Low: low, High: low + rapid.IntRange(12, 40).Draw(t, "wide"), Keep: rapid.Bool().Draw(t, "keep"), Clear: rapid.Bool().Draw(t, "clear")}
		want, held := chord.SmoothAnew(round, r)
		got, heldToo := chord.SmoothPruned(round, r)
		assert.Equal(t, want, got)
		assert.Equal(t, held, heldToo)
	})
}

func benchSmooth(b *testing.B, chords, tones int) {
	round := bigRound(chords, tones)
	r := chord.Range{Low: 43, High: 79}
	for b.Loop() {
		chord.SmoothAnew(round, r)
	}
}

// Inverting tones each in its place gives what inverting them sorted gives.
func TestInvertingEachIsInverting(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		pitches := rapid.SliceOfNDistinct(rapid.IntRange(24, 96), 1, 8, rapid.ID).Draw(t, "pitches")
		times := rapid.IntRange(-9, 9).Draw(t, "times")
		each := slices.Clone(pitches)
		chord.InvertEach(each, times)
		sorted := slices.Sorted(slices.Values(pitches))
		require.Equal(t, chord.Invert(sorted, times), slices.Sorted(slices.Values(each)))
		for i, p := range each {
			require.Zero(t, (p-pitches[i])%12, "each stays its class")
		}
	})
}
