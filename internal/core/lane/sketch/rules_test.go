package sketch_test

import (
	"encoding/json"
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/lane/sketch"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
	"agrimony/internal/core/review"
)

// judged is a taken sketch as it sounds: all from the notes of the performance and the key, nothing from
// what the sketch says of itself.
type judged struct {
	active            int
	ground            int   // pitch class of the first chord's root, or of the tonic
	downbeats, rooted int   // bars that begin with a chord, and those of them whose first note is its root
	pitches           []int // of its notes in the first round, in order
	rows              []int // the same in steps of the key
	strong, tones     int
	astray            int // strong notes that are no tones and do not move by step into one
	leaps, wideAstray int
	found             []string // rules of the review
	whole             bool     // it is over when a bar is
}

// judge takes a sketch and listens to its first round.
func judge(t require.TestingT, s sketch.Scene, m *sketch.Sketch) *judged {
	p := *s.Piece
	p.Clips = slices.Clone(p.Clips)
	clip := p.Clips[0].Clone()
	p.Clips[0] = clip
	own := &p.Clips[0].Lanes[len(p.Clips[0].Lanes)-1]
	sketch.Take(own, m)
	require.NoError(t, piece.Check(&p))
	pattern := render.PatternOf(&p, &p.Clips[0], own)
	bars := int((pattern.RoundLength() + p.Bar() - 1) / p.Bar())
	performance, err := lane.Render(&p, &p.Clips[0], render.Options{Bars: bars, Lanes: []string{own.ID}})
	require.NoError(t, err)
	key := p.KeyOf(&p.Clips[0])
	out := &judged{active: len(pattern.Active), ground: key.Pitch(pitch.Place{Degree: 1}, 4) % 12}
	if first := performance.Harmony.At(0); first != nil {
		out.ground = first.Root.Class()
	}
	part := &performance.Lanes[0]
	row := func(pitched int) int {
		place, in := key.Find(pitched, 4)
		require.True(t, in, "%d is not in %s", pitched, key)
		return place.Octave*key.Size() + place.Degree - 1
	}
	tone := make([]bool, 0, len(part.Notes))
	strong := make([]bool, 0, len(part.Notes))
	round := pattern.RoundLength()
	for i := range part.Notes {
		n := &part.Notes[i]
		at := performance.Grid(part, n)
		if at >= round {
			break
		}
		out.pitches, out.rows = append(out.pitches, int(n.Pitch)), append(out.rows, row(int(n.Pitch)))
		chord := performance.Harmony.At(at)
		class := pitch.Mod(int(n.Pitch)-key.Pitch(pitch.Place{Degree: 1}, 4), 12)
		tone = append(tone, chord != nil && chord.Has(int(n.Pitch)) || chord == nil && slices.Contains([]int{0, key.Semitones(3), key.Semitones(5)}, class))
		strong = append(strong, at%(p.Bar()/2) == 0)
	}
	struck := map[beat.Time]int{}
	for i := range part.Notes {
		struck[performance.Grid(part, &part.Notes[i])] = int(part.Notes[i].Pitch)
	}
	if performance.Harmony != nil {
		for _, b := range performance.Harmony.Chords {
			last := b.At == performance.Grid(part, &part.Notes[len(out.pitches)-1]) // which leads back before it is a root
			if b.At < round && b.At%p.Bar() == 0 && !b.Brought && key.Has(b.Root.Class()) && !last {
				out.downbeats++
				if p, on := struck[b.At]; on && p%12 == b.Root.Class() {
					out.rooted++
				}
			}
		}
	}
	n := len(out.rows)
	for k := range n {
		next := (k + 1) % n
		if strong[k] {
			out.strong++
			switch {
			case tone[k]:
				out.tones++
			case max(out.rows[next]-out.rows[k], out.rows[k]-out.rows[next]) != 1 || !tone[next]:
				out.astray++
			}
		}
		if k+1 == n {
			break
		}
		move := out.rows[next] - out.rows[k]
		if max(move, -move) > 2 {
			out.leaps++
		}
		if max(move, -move) > 4 {
			back := out.rows[(k+2)%n] - out.rows[next]
			if back*move >= 0 || max(back, -back) > 2 {
				out.wideAstray++
			}
		}
	}
	out.whole = round%p.Bar() == 0
	for _, f := range review.Clip(performance) {
		if f.Lane == own.ID {
			out.found = append(out.found, f.Rule)
		}
	}
	return out
}

// runs is the longest run of one pitch, round the loop; 0: all have it.
func (j *judged) runs() int {
	n := len(j.pitches)
	if len(slices.Compact(slices.Sorted(slices.Values(j.pitches)))) == 1 {
		return 0
	}
	longest, run := 0, 0
	for k := range 2 * n {
		if k > 0 && j.pitches[k%n] == j.pitches[(k-1)%n] {
			run++
		} else {
			run = 1
		}
		longest = max(longest, run)
	}
	return longest
}

// ask makes up a request over some ground, with dials of one value each.
func ask(t *rapid.T, dials string) (sketch.Scene, *sketch.Request) {
	steps := rapid.SampledFrom([]int{12, 16, 24, 32, 48, 64}).Draw(t, "steps")
	chords := rapid.SampledFrom([]int{0, 2, 4, 7}).Draw(t, "chords")
	over := ""
	if chords > 0 {
		over = chordsOf(chords)
	}
	rest := rapid.SampledFrom([]string{"", `,"follow":"root"`, `,"rate":"1/8"`, `,"direction":"reverse"`, `,"octave":4`, `,"lock":"off"`}).Draw(t, "lane")
	key := rapid.SampledFrom([]string{`{"tonic":"D","scale":"dorian"}`, `{"tonic":"Eb","scale":"major"}`, `{"tonic":"F#","scale":"harmonic minor"}`, `{"tonic":"B","scale":"phrygian"}`}).Draw(t, "key")
	s := sceneOf(t, key, "4/4", over, rest, steps)
	r, err := sketch.ReadRequest(fmt.Appendf(nil, `{"seed":%d,"count":3,"dials":{%s}}`, rapid.IntRange(0, 1<<40).Draw(t, "seed"), dials))
	require.NoError(t, err)
	return s, r
}

// What always holds of a sketch, whatever the dials: in the key and the range, it begins at home, it leads
// back, no five strikes of one pitch come together, and so many steps sound as were asked for.
func TestWhatAlwaysHoldsOfASketch(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		full, leaps, anchor := rapid.IntRange(0, 100).Draw(t, "full"), rapid.IntRange(0, 100).Draw(t, "leaps"), rapid.IntRange(0, 100).Draw(t, "anchor")
		contour := rapid.SampledFrom(sketch.Contours).Draw(t, "contour")
		form := rapid.SampledFrom([]string{"", "", "AB", "AABA", "ABAC"}).Draw(t, "form")
		s, r := ask(t, fmt.Sprintf(`"full":%d,"leaps":%d,"anchor":%d,"contour":%q,"form":%q,"long":[0,100],"gate":80,"lean":[-100,100]`, full, leaps, anchor, contour, form))
		made, err := sketch.Make(s, r)
		require.NoError(t, err)
		again, err := sketch.Make(s, r)
		require.NoError(t, err)
		require.Equal(t, made, again, "the same request gives the same ones")
		for k := range made {
			m := &made[k]
			alone := *r
			alone.Seed, alone.Count = m.Seed, 1
			one, err := sketch.Make(s, &alone)
			require.NoError(t, err)
			require.Equal(t, *m, one[0], "sketch k is sketch 1 with its seed")

			j := judge(t, s, m)
			on := 0
			for i := range m.Steps {
				if m.Steps[i].On {
					on++
				}
			}
			parts := max(len(form), 1)
			want := parts * max((2*full*j.active/parts+100)/200, 1)
			require.Equal(t, want, on, "full %d of %d", full, j.active)
			require.LessOrEqual(t, j.runs(), 4)
			if j.whole {
				require.NotContains(t, j.found, "seam")
			}
			octave := piece.PitchedOf(s.Lane).Octave
			low := s.Piece.KeyOf(s.Clip).Pitch(pitch.Place{Degree: 1}, octave)
			high := low + 24
			if octave <= 2 { // a bass keeps about its ground, which lies in MIDI 28..39
				low = 28 + (j.ground-28%12+12)%12
				low, high = low-5, low+14
			}
			for _, p := range j.pitches {
				require.True(t, p >= low && p <= high, "%d in its range, %d..%d", p, low, high)
			}
			if leaps == 0 {
				require.Zero(t, j.leaps)
			}
			require.True(t, m.Steps[slices.IndexFunc(m.Steps, func(piece.LineStep) bool { return true })].Chance == 100)
		}
	})
}

// A low line that is on the beats says where chords begin: with each bar that does, on the root in four of five at least.
func TestALowLineSaysWhereChordsBegin(t *testing.T) {
	downbeats, rooted := 0, 0
	rapid.Check(t, func(t *rapid.T) {
		form := rapid.SampledFrom([]string{"", "AABA", "AAAB", "ABAC"}).Draw(t, "form")
		s, r := ask(t, `"full":[30,80],"lean":[0,100],"form":"`+form+`"`)
		if piece.PitchedOf(s.Lane).Octave >= 4 {
			return
		}
		made, err := sketch.Make(s, r)
		require.NoError(t, err)
		for k := range made {
			j := judge(t, s, &made[k])
			downbeats, rooted = downbeats+j.downbeats, rooted+j.rooted
			if form == "" { // short parts of which few steps sound have no room for it
				require.GreaterOrEqual(t, 5*j.rooted, 4*j.downbeats)
			}
		}
	})
	t.Log(downbeats, rooted)
	assert.Greater(t, 100*rooted, 95*downbeats)
}

// An accent is a pattern: equal places of different bars are played as hard and as long.
func TestEqualPlacesOfTheBarAreAlike(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s, r := ask(t, `"full":[30,90],"late":[0,30],"form":"`+rapid.SampledFrom([]string{"", "AABA", "AAAB"}).Draw(t, "form")+`"`)
		made, err := sketch.Make(s, r)
		require.NoError(t, err)
		pattern := render.PatternOf(s.Piece, s.Clip, s.Lane)
		for k := range made {
			type touch struct{ velocity, gate, nudge int }
			of := map[beat.Time]touch{}
			for at, slot := range pattern.Slots(pattern.RoundLength()) {
				step := made[k].Steps[slot.Step]
				if !step.On {
					continue
				}
				own := touch{step.Velocity, step.Gate, step.Nudge}
				place := pattern.Step * beat.Time(at) % s.Piece.Bar()
				if first, known := of[place]; known {
					require.Equal(t, first, own, "place %d", place)
				}
				of[place] = own
				if place == 0 {
					require.Zero(t, step.Nudge)
				}
			}
		}
	})
}

// Where the dials leave room, every share is what was asked for, and any two differ in a fifth of the
// steps.
func TestSharesAreWhatWasAskedFor(t *testing.T) {
	off, all := map[string]int{}, 0
	rapid.Check(t, func(t *rapid.T) {
		leaps, anchor := rapid.IntRange(5, 50).Draw(t, "leaps"), rapid.IntRange(60, 100).Draw(t, "anchor")
		s, r := ask(t, fmt.Sprintf(`"full":[30,80],"leaps":%d,"anchor":%d`, leaps, anchor))
		made, err := sketch.Make(s, r)
		require.NoError(t, err)
		for k := range made {
			j := judge(t, s, &made[k])
			all++
			if want := (2*leaps*(len(j.rows)-1) + 100) / 200; j.leaps != want {
				off["leaps"]++
			}
			if want := max((2*anchor*j.strong+100)/200, 1, j.rooted); j.tones != want {
				off["anchor"]++
			}
			if j.astray > 0 {
				off["resolved"]++
			}
			if j.wideAstray > 0 {
				off["turned"]++
			}
			for i := range k {
				apart := 0
				for n := range made[k].Steps {
					x, y := &made[k].Steps[n], &made[i].Steps[n]
					if x.On != y.On || x.On && x.Place() != y.Place() {
						apart++
					}
				}
				require.GreaterOrEqual(t, 5*apart, j.active)
			}
		}
	})
	for what, count := range off {
		assert.LessOrEqual(t, count, all/50, "%s of %d", what, all)
	}
	t.Log(all, off)
}

// What a sketch says of itself is what it came to.
func TestWhatTheDialsCameTo(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s, r := ask(t, `"leaps":[0,100],"anchor":[0,100],"full":[10,100]`)
		made, err := sketch.Make(s, r)
		require.NoError(t, err)
		for k := range made {
			j, d := judge(t, s, &made[k]), made[k].Dials
			require.Equal(t, (200*len(j.rows)+j.active)/(2*j.active), d.Full)
			if n := len(j.rows) - 1; n > 0 {
				require.Equal(t, (200*j.leaps+n)/(2*n), d.Leaps)
			}
			if j.strong > 0 {
				require.Equal(t, (200*j.tones+j.strong)/(2*j.strong), d.Anchor)
			}
		}
	})
}

// Varied, so many steps change as were asked for, each in the respect that was asked for, and no other;
// the first and last sounding ones stay.
func TestVaryingChangesSoManyStepsAndNoOther(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s, r := ask(t, `"full":[30,90],"long":[0,80]`)
		made, err := sketch.Make(s, r)
		require.NoError(t, err)
		sketch.Take(s.Lane, &made[0])
		before := piece.LineOf(s.Lane).Steps
		vary := &sketch.VaryRequest{Seed: rapid.IntRange(0, 999).Draw(t, "seed"), Count: 2, Share: rapid.IntRange(0, 100).Draw(t, "share"), Respect: rapid.SampledFrom(sketch.Respects).Draw(t, "respect")}
		out, err := sketch.Vary(s, vary)
		if err != nil {
			return // nothing but its first and its last sound
		}
		var sounding []int
		for i := range before {
			if before[i].On {
				sounding = append(sounding, i)
			}
		}
		of := len(sounding)
		if vary.Respect == "rhythm" {
			of = len(before)
		}
		want := min(max((2*vary.Share*of+100)/200, 1), of-2)
		for _, v := range out {
			changed := 0
			for i, step := range piece.LineOf(&v.Lane).Steps {
				was := before[i]
				same := func(x any, y any) bool {
					a, _ := json.Marshal(x)
					b, _ := json.Marshal(y)
					return string(a) == string(b)
				}
				if same(was, step) {
					continue
				}
				changed++
				require.NotContains(t, []int{sounding[0], sounding[len(sounding)-1]}, i)
				switch vary.Respect {
				case "rhythm":
					step.On, step.Tie, step.Nudge, step.Ratchet = was.On, was.Tie, was.Nudge, was.Ratchet
				case "pitches":
					step.Degree, step.Octave = was.Degree, was.Octave
				case "dynamics":
					step.Velocity = was.Velocity
				case "lengths":
					step.Gate, step.Tie = was.Gate, was.Tie
				}
				require.True(t, same(was, step), "only its %s", vary.Respect)
			}
			require.Equal(t, want, changed)
		}
	})
}

func TestRequestsThatAreRefused(t *testing.T) {
	s := sceneOf(t, `{"tonic":"D","scale":"dorian"}`, "4/4", "", "", 16)
	for request, message := range map[string]string{
		`{"count":0}`:                    "count: 0 is out of range; allowed: 1..24",
		`{"dials":{"full":101}}`:         "dials.full: 101..101 is out of range; allowed: 0..100",
		`{"dials":{"late":[0,31]}}`:      "dials.late: 0..31 is out of range; allowed: 0..30",
		`{"dials":{"leaps":[40,20]}}`:    "the lower first",
		`{"dials":{"contour":"zigzag"}}`: `dials.contour: "zigzag" is not allowed; allowed: free, rise`,
		`{"dials":{"form":"ABC"}}`:       `dials.form: "ABC" has 3 parts, and 16 active steps are no multiple`,
		`{"dials":{"form":"A1"}}`:        "allowed: letters",
		`{"temper":"gloomy"}`:            `temper: "gloomy" is not known; allowed: steady`,
		`{"range":{"low":60,"high":40}}`: "range: 60..40 is no range",
		`{"range":{"low":39,"high":41}}`: "range: 39..41 does not hold the tonic and two more notes of D dorian",
		`{"keep":"all"}`:                 `keep: "all" is not allowed; allowed: nothing, rhythm, pitches`,
		`{"from":[{"gate":0}]}`:          "from[0].gate: 0 is below 1",
		`{"colour":1}`:                   `unknown field "colour"`,
		`{"rate":"1/16","bars":2}`:       "Low has steps of its own",
		`{"seed":-1}`:                    "seed: -1 is out of range",
		`[]`:                             "",
	} {
		r, err := sketch.ReadRequest([]byte(request))
		if err == nil {
			_, err = sketch.Make(s, r)
		}
		if assert.Error(t, err, request) {
			assert.Contains(t, err.Error(), message, request)
		}
	}
	for lane, message := range map[string]string{
		`{"id":"low","name":"Low","kind":"pulse","steps":[{"on":true}]}`: "Low is a pulse lane; allowed: a line",
		`{"id":"low","name":"Low","kind":"notes","notes":[]}`:            "many notes of Low sound at a time",
	} {
		p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"a","bars":1,"lanes":[` + lane + `]}]}`))
		require.NoError(t, err)
		_, err = sketch.Make(sketch.Scene{Piece: p, Clip: &p.Clips[0], Lane: &p.Clips[0].Lanes[0], Kinds: s.Kinds}, &sketch.Request{Seed: 1, Count: 1, Keep: "nothing"})
		assert.ErrorContains(t, err, message)
	}
}
