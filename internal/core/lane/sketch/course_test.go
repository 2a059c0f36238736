package sketch_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"agrimony/internal/core/lane"
	"agrimony/internal/core/lane/sketch"
	"agrimony/internal/core/piece"
)

// means are those of the four quarters of some values.
func means(of []int) (out [4]float64) {
	n := len(of)
	for q := range 4 {
		part := of[q*n/4 : (q+1)*n/4]
		for _, v := range part {
			out[q] += float64(v) / float64(len(part))
		}
	}
	return out
}

// A line takes the course that its contour names.
func TestLinesTakeTheirCourse(t *testing.T) {
	const rounding = 1e-9
	up := func(m [4]float64) bool {
		return m[0] <= m[1]+rounding && m[1] <= m[2]+rounding && m[2] <= m[3]+rounding
	}
	down := func(m [4]float64) bool { return up([4]float64{-m[0], -m[1], -m[2], -m[3]}) }
	away := func(of []int) []int {
		sum := 0
		for _, v := range of {
			sum += v
		}
		out := make([]int, len(of))
		for i, v := range of {
			out[i] = max(v*len(of)-sum, sum-v*len(of))
		}
		return out
	}
	holds := map[string]func(of []int) bool{
		"rise":   func(of []int) bool { return up(means(of)) },
		"fall":   func(of []int) bool { return down(means(of)) },
		"arch":   func(of []int) bool { m := means(of); return min(m[1], m[2]) >= max(m[0], m[3]) },
		"bowl":   func(of []int) bool { m := means(of); return max(m[1], m[2]) <= min(m[0], m[3]) },
		"fan":    func(of []int) bool { return up(means(away(of))) },
		"gather": func(of []int) bool { return down(means(away(of))) },
	}
	off, all := map[string]int{}, map[string]int{}
	rapid.Check(t, func(t *rapid.T) {
		contour := rapid.SampledFrom(sketch.Contours[1:]).Draw(t, "contour")
		s, r := ask(t, fmt.Sprintf(`"full":[50,90],"leaps":[20,40],"contour":%q`, contour))
		made, err := sketch.Make(s, r)
		require.NoError(t, err)
		for k := range made {
			j := judge(t, s, &made[k])
			if len(j.pitches) < 8 {
				continue
			}
			all[contour]++
			if !holds[contour](j.pitches) {
				off[contour]++
				require.Equal(t, "free", made[k].Dials.Contour, "it says so")
			} else {
				_ = made[k].Dials.Contour
			}
		}
	})
	for contour, count := range off {
		assert.LessOrEqual(t, count, all[contour]/20, "%s of %d", contour, all[contour])
	}
	t.Log(all, off)
}

// Courses and forms are had together: what is left are some few lines, in which the two may contradict each other.
func TestCoursesAndFormsAreHadTogether(t *testing.T) {
	for _, form := range []string{"", "AABA", "AB"} {
		for _, contour := range sketch.Contours {
			off, unlike, all := 0, 0, 0
			for seed := range 36 {
				over := []string{"", chordsOf(4)}[seed%2]
				s := sceneOf(t, `{"tonic":"D","scale":"dorian"}`, "4/4", over, "", []int{16, 32, 64}[seed%3])
				full := []string{"[20,40]", "[40,60]", "[60,90]"}[seed/6%3]
				r, err := sketch.ReadRequest(fmt.Appendf(nil, `{"seed":%d,"count":2,"dials":{"form":%q,"full":%s,"leaps":[0,40],"long":[0,100],"contour":%q}}`, seed, form, full, contour))
				require.NoError(t, err)
				made, err := sketch.Make(s, r)
				require.NoError(t, err)
				for k := range made {
					all++
					if made[k].Dials.Contour != contour {
						off++
					}
					if sketch.FaultsOf(s, r, &made[k])[4] > 0 {
						unlike++
					}
				}
			}
			assert.LessOrEqual(t, off, all/36, "%s with the form %q", contour, form)
			assert.LessOrEqual(t, unlike, all/36, "%s with the form %q", contour, form)
		}
	}
}

// Equal letters are equal steps, but for the line's last two notes; over chords they move equally from the
// roots.
func TestEqualLettersAreEqualSteps(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		form := rapid.SampledFrom([]string{"AA", "AABA", "ABAB", "AAAB"}).Draw(t, "form")
		s := sceneOf(t, `{"tonic":"D","scale":"dorian"}`, "4/4", "", "", rapid.SampledFrom([]int{16, 32, 64}).Draw(t, "steps"))
		r, err := sketch.ReadRequest(fmt.Appendf(nil, `{"seed":%d,"count":2,"dials":{"form":%q,"full":[20,80],"glides":[0,40],"long":[0,100],"late":[0,20]}}`, rapid.IntRange(0, 9999).Draw(t, "seed"), form))
		require.NoError(t, err)
		made, err := sketch.Make(s, r)
		require.NoError(t, err)
		for k := range made {
			steps := made[k].Steps
			length := len(steps) / len(form)
			var sounding []int
			for i := range steps {
				if steps[i].On {
					sounding = append(sounding, i)
				}
			}
			spared := sounding[max(len(sounding)-2, 0):]
			for i := range steps {
				like := slices.Index([]byte(form), form[i/length])*length + i%length
				if slices.Contains(spared, i) || slices.Contains(spared, like) {
					continue
				}
				a, b := steps[i], steps[like]
				require.Equal(t, []bool{b.On, b.Tie}, []bool{a.On, a.Tie}, "%s: step %d as %d", form, i, like)
				if a.On {
					require.Equal(t, []any{b.Place(), b.Gate, b.Velocity, b.Nudge}, []any{a.Place(), a.Gate, a.Velocity, a.Nudge}, "%s: step %d as %d", form, i, like)
				}
			}
		}
	})
}

// What is kept stays: the rhythm, or the pitches in turn, of the lane or of the steps that are given.
func TestWhatIsKeptStays(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s, r := ask(t, `"full":[30,80],"long":[0,60]`)
		made, err := sketch.Make(s, r)
		require.NoError(t, err)
		sketch.Take(s.Lane, &made[0])
		was := piece.LineOf(s.Lane).Steps
		r.Keep = "rhythm"
		kept, err := sketch.Make(s, r)
		require.NoError(t, err)
		for k := range kept {
			for i, step := range kept[k].Steps {
				a, b := step, was[i]
				require.Equal(t, []any{b.On, b.Tie, b.Gate, b.Nudge, b.Velocity, b.Ratchet}, []any{a.On, a.Tie, a.Gate, a.Nudge, a.Velocity, a.Ratchet})
			}
		}
		inTurn := func(steps []piece.LineStep) (out []any) {
			for i := range steps {
				if steps[i].On {
					out = append(out, steps[i].Place())
				}
			}
			if s.Lane.Direction == "reverse" {
				slices.Reverse(out)
			}
			return out
		}
		turn := inTurn(was)
		r.Keep = "pitches"
		kept, err = sketch.Make(s, r)
		require.NoError(t, err)
		for k := range kept {
			for at, place := range inTurn(kept[k].Steps) {
				require.Equal(t, turn[at%len(turn)], place)
			}
		}
	})
}

// Pickups wait, lateness spares the one, strong beats are from the louder half, and shares of long and
// gliding notes are what they are said to be.
func TestTheTouchOfASketch(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		pickup, late := rapid.IntRange(0, 5).Draw(t, "pickup"), rapid.IntRange(0, 30).Draw(t, "late")
		long, glides := rapid.IntRange(0, 100).Draw(t, "long"), rapid.IntRange(0, 100).Draw(t, "glides")
		s := sceneOf(t, `{"tonic":"D","scale":"dorian"}`, "4/4", "", "", 32)
		r, err := sketch.ReadRequest(fmt.Appendf(nil, `{"seed":%d,"count":2,"dials":{"pickup":%d,"late":%d,"long":%d,"glides":%d,"velocity":[60,100],"gate":[40,90]}}`, rapid.IntRange(0, 9999).Draw(t, "seed"), pickup, late, long, glides))
		require.NoError(t, err)
		made, err := sketch.Make(s, r)
		require.NoError(t, err)
		for k := range made {
			steps := made[k].Steps
			var sounding []int
			for i, step := range steps {
				if !step.On {
					continue
				}
				sounding = append(sounding, i)
				require.True(t, step.Gate >= 40 && step.Gate <= 90 && step.Velocity >= 60 && step.Velocity <= 100)
				if i%8 == 0 {
					require.GreaterOrEqual(t, step.Velocity, 80, "strong")
				}
				require.Equal(t, map[bool]int{true: 0, false: late}[i%16 == 0], step.Nudge)
			}
			if pickup == 0 {
				require.Zero(t, sounding[0])
			} else {
				require.Equal(t, pickup, sounding[0], "exactly so many are silent")
				require.GreaterOrEqual(t, sounding[len(sounding)-1], len(steps)-pickup)
			}
			may, held, gliding := 0, 0, 0
			for n, i := range sounding {
				to := len(steps) + sounding[0]
				if n+1 < len(sounding) {
					to = sounding[n+1]
				}
				if n > 0 && steps[i].Glide != nil {
					gliding++
				}
				if to-i < 2 || to-i > 4 {
					continue
				}
				may++
				if steps[i].Tie {
					held++
					for k := i; k < to-1; k++ {
						require.True(t, steps[k%len(steps)].Tie, "tied over the rests")
					}
					same := steps[i].Place() == steps[to%len(steps)].Place()
					require.Equal(t, !same, steps[(to-1)%len(steps)].Tie, "it stops short of the same pitch")
				}
			}
			require.Equal(t, (2*long*may+100)/200, held)
			require.Equal(t, (2*glides*(len(sounding)-1)+100)/200, gliding)
		}
	})
}

// Free notes of one voice are sketched at a rate, for so many bars.
func TestFreeNotesAreSketched(t *testing.T) {
	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"key":{"tonic":"D","scale":"dorian"},"clips":[{"id":"a","bars":4,"lanes":[{"id":"low","name":"Low","kind":"notes","octave":2,"voices":"one","notes":[]}]}]}`))
	require.NoError(t, err)
	s := sketch.Scene{Piece: p, Clip: &p.Clips[0], Lane: &p.Clips[0].Lanes[0], Kinds: lane.KindOf}
	r, err := sketch.ReadRequest([]byte(`{"count":3,"rate":"1/8","bars":2,"dials":{"full":50,"long":100,"gate":80}}`))
	require.NoError(t, err)
	made, err := sketch.Make(s, r)
	require.NoError(t, err)
	for k := range made {
		require.Len(t, made[k].Notes, 8)
		for i, n := range made[k].Notes {
			assert.Zero(t, n.At%480)
			assert.Equal(t, i+1, n.Number)
		}
		sketch.Take(s.Lane, &made[k])
		require.NoError(t, piece.Check(p))
	}
	_, err = sketch.Make(s, &sketch.Request{Seed: 1, Count: 1, Keep: "nothing", Rate: "1/4T", Bars: 0})
	assert.ErrorContains(t, err, "bars: 0 is out of range")
	_, err = sketch.Make(s, &sketch.Request{Seed: 1, Count: 1, Keep: "nothing", Rate: "1/64", Bars: 100})
	assert.ErrorContains(t, err, "do not fill 100 bars in 1..512 steps")
}

// Crossed with another sketch, a lane that plays backwards has its pitches in the order in which it plays them.
func TestStepsThatAreGivenAreReadInPlayingOrder(t *testing.T) {
	s := sceneOf(t, `{"tonic":"C","scale":"major"}`, "4/4", "", `,"direction":"reverse"`, 8)
	steps := make([]string, 8)
	for i := range steps {
		steps[i] = fmt.Sprintf(`{"on":%t,"degree":%d}`, i%2 == 0, i%7+1)
	}
	r, err := sketch.ReadRequest(fmt.Appendf(nil, `{"seed":1,"count":1,"keep":"pitches","from":[%s],"dials":{"full":100}}`, strings.Join(steps, ",")))
	require.NoError(t, err)
	made, err := sketch.Make(s, r)
	require.NoError(t, err)
	var degrees []int
	for i := 7; i >= 0; i-- { // as it plays
		degrees = append(degrees, made[0].Steps[i].Degree)
	}
	assert.Equal(t, []int{7, 5, 3, 1, 7, 5, 3, 1}, degrees, "those that sound, from the last to the first, again and again")
}

// What glides into the pitch that sounds already does not count as a glide.
func TestGlidesAreToldAsTheyAreHeard(t *testing.T) {
	s := sceneOf(t, `{"tonic":"C","scale":"major"}`, "4/4", "", "", 32)
	for seed := range 30 {
		r, err := sketch.ReadRequest(fmt.Appendf(nil, `{"seed":%d,"count":1,"dials":{"glides":100,"leaps":0}}`, seed))
		require.NoError(t, err)
		made, err := sketch.Make(s, r)
		require.NoError(t, err)
		last, moves, glides := piece.LineStep{}, -1, 0
		for _, step := range made[0].Steps {
			if !step.On {
				continue
			}
			if moves++; moves > 0 && step.Glide != nil && step.Place() != last.Place() {
				glides++
			}
			last = step
		}
		require.Equal(t, (200*glides+moves)/(2*moves), made[0].Dials.Glides)
	}
}
