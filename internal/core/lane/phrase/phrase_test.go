package phrase_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"agrimony/internal/core/edit"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/lane/phrase"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

func key(t require.TestingT, name string) pitch.Key {
	k, err := pitch.ParseKey(name)
	require.NoError(t, err)
	return k
}

// climb is C E G B in C4 walked in an order.
func climb(t *testing.T, order string, span int, leap piece.Leap) *phrase.Stairs {
	return phrase.Climb(key(t, "C major"), phrase.Tones{Listed: []int{64, 60, 67, 71}}, span, leap, piece.Order{Name: order}, pitch.Nearest)
}

func TestOrdersByTheirRungs(t *testing.T) {
	octave := piece.Leap{By: 12, In: "semitones"}
	for order, want := range map[string][]int{
		"up": {0, 1, 2, 3}, "down": {3, 2, 1, 0}, "up-down": {0, 1, 2, 3, 2, 1}, "up-down-repeat": {0, 1, 2, 3, 3, 2, 1, 0},
		"converge": {0, 3, 1, 2}, "diverge": {2, 1, 3, 0}, "entered": {1, 0, 2, 3},
		"top-pedal": {0, 3, 1, 3, 2, 3}, "bottom-pedal": {1, 0, 2, 0, 3, 0},
	} {
		assert.Equal(t, want, climb(t, order, 1, octave).Order, order)
	}
	assert.Equal(t, []int{60, 64, 67, 71, 72, 76, 79, 83}, climb(t, "up", 2, octave).Rungs)
	assert.Equal(t, []int{60, 62, 64, 65, 67, 69, 71, 72}, climb(t, "up", 2, piece.Leap{By: 1, In: "scale"}).Rungs, "each tone a scale step up")
	assert.Equal(t, []int{60, 64, 67, 71}, climb(t, "up", 2, piece.Leap{By: 0, In: "scale"}).Rungs, "doubled pitches count once")
	single := phrase.Tones{Listed: []int{60}}
	for _, order := range piece.Orders {
		got := phrase.Climb(key(t, "C major"), single, 1, octave, piece.Order{Name: order}, pitch.Nearest)
		assert.Equal(t, []int{0}, got.Order, order)
	}
}

func TestAnOrderOfOnesOwnClimbsOctaves(t *testing.T) {
	l := phrase.Climb(key(t, "C major"), phrase.Tones{Listed: []int{60, 64, 67}}, 1, piece.Leap{By: 12, In: "semitones"}, piece.Order{Rungs: []int{1, 3, 5, 7}}, pitch.Nearest)
	var got []int
	for place := -2; place < 5; place++ {
		_, p := l.Rung(l.At(place, 0, nil))
		got = append(got, p)
	}
	assert.Equal(t, []int{76, 84, 60, 67, 76, 84, 60}, got, "number 5 is the second rung an octave up, 7 the first two octaves up; below 0 too")
}

const chords = `{"id":"c","kind":"chords","rate":"1bar","octave":3,"mute":true,"palette":[{"tones":[{"degree":1},{"degree":3},{"degree":5}]},{"tones":[{"degree":4},{"degree":6},{"degree":1,"octave":1}]}],"steps":[{"on":true},{"on":true,"chord":2}]}`

func perform(t require.TestingT, lanes string, bars int) *render.Performance {
	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"a","lanes":[` + lanes + `]}]}`))
	require.NoError(t, err)
	performance, err := lane.Render(p, &p.Clips[0], render.Options{Bars: bars})
	require.NoError(t, err)
	return performance
}

// walked writes the first bar of a phrase of quarters over C: names, those that sound
// together with plus signs, a dot where nothing begins.
func walked(t *testing.T, fields, steps string, bars int) string {
	p := perform(t, `{"id":"p","kind":"phrase","rate":"1/4","octave":3,`+fields+`"steps":[`+steps+`]},`+chords, bars)
	out := make([]string, 4*bars)
	part := &p.Lanes[0]
	for i := range part.Notes {
		at, _ := p.Span(&part.Notes[i], 960)
		if out[at/960] != "" {
			out[at/960] += "+"
		}
		out[at/960] += p.Name(&part.Notes[i])
	}
	for i := range out {
		if out[i] == "" {
			out[i] = "."
		}
	}
	return strings.Join(out, " ")
}

const n, on = `{"on":true}`, `{"on":true,`

func TestPhrasesByTheirRules(t *testing.T) {
	for name, row := range map[string]struct {
		fields, steps string
		bars          int
		want          string
	}{
		"the walk starts over when a chord begins": {"", n + "," + n + "," + n + "," + n, 2, "C3 E3 G3 C3 F3 A3 C4 F3"},
		"never: the place counts on":               {`"walk":"never",`, n + "," + n + "," + n + "," + n, 2, "C3 E3 G3 C3 A3 C4 F3 A3"},
		"with each round of three":                 {`"walk":"round",`, n + "," + n + "," + n, 2, "C3 E3 G3 C3 A3 C4 F3 A3"},
		"back, from the end of the order":          {"", on + `"play":"back"},` + on + `"play":"back"},` + n + "," + n, 1, "G3 E3 G3 C3"},
		"again makes a start too":                  {"", on + `"play":"again"},` + n + `,` + on + `"play":"again"},` + n, 1, "C3 E3 E3 G3"},
		"low, high and chord leave the place":      {"", n + `,` + on + `"play":"high"},` + on + `"play":"chord"},` + n, 1, "C3 G3 C3+E3+G3 E3"},
		"a rest leaves the place":                  {"", n + ",{}," + n + ",{}", 1, "C3 . E3 ."},
		"chance moves it all the same":             {"", n + "," + on + `"chance":0},` + n + ",{}", 1, "C3 . G3 ."},
		"two voices, one place on":                 {`"voices":2,`, n + "," + n + "," + n + "," + n, 1, "C3+E3 E3+G3 C3+G3 C3+E3"},
		"an octave higher in the second pass":      {`"span":2,`, n + "," + n + "," + n + "," + n, 1, "C3 E3 G3 C4"},
		"offsets along the scale and in semitones": {`"lock":"off",`, on + `"offset":1},` + on + `"offset":1,"in":"semitones"},` + on + `"offset":-7},` + n, 1, "D3 F3 G2 C3"},
		"the lock acts on semitones alone":         {`"lock":"scale","snap":"down",`, on + `"offset":1,"in":"semitones"},` + n + "," + n + "," + n, 1, "C3 E3 G3 C3"},
		"octaves":                                  {"", on + `"octave":1},` + on + `"octave":-1},` + n + "," + n, 1, "C4 E2 G3 C3"},
		"the root, or that below":                  {"", on + `"play":"root","octave":-1},` + n + "," + n + "," + n, 1, "C2 C3 E3 G3"},
		"a pedal under all":                        {`"pedal":{"tone":"root"},`, n + "," + n + ",{}," + n, 1, "C2+C3 C2+E3 . C2+G3"},
		"a pedal that meets a tone is one":         {`"pedal":{"tone":"low","octave":0},`, n + "," + n + "," + n + "," + n, 1, "C3 C3+E3 C3+G3 C3"},
		"tones of its own":                         {`"source":"own","tones":[{"degree":2},{"degree":6}],"walk":"never",`, n + "," + n + "," + n + ",{}", 1, "D3 A3 D3 ."},
		"that follow the roots":                    {`"source":"own","follow":"root","tones":[{"degree":1},{"degree":2}],`, n + "," + n + ",{},{}", 2, "C3 D3 . . F3 G3 . ."},
		"a restart starts the walk over":           {`"walk":"never","restart":1,`, n + "," + n + "," + n + "," + n, 2, "C3 E3 G3 C3 F3 A3 C4 F3"},
	} {
		assert.Equal(t, row.want, walked(t, row.fields, row.steps, row.bars), name)
	}
}

func TestRatchetsThatWalk(t *testing.T) {
	notes := func(repeats string) string {
		p := perform(t, `{"id":"p","kind":"phrase","rate":"1/4","octave":3,"repeats":"`+repeats+`","steps":[{"on":true,"ratchet":3},{"on":true},{},{}]},`+chords, 1)
		var out []string
		for i := range p.Lanes[0].Notes {
			at, _ := p.Span(&p.Lanes[0].Notes[i], 960)
			out = append(out, fmt.Sprint(at, " ", p.Name(&p.Lanes[0].Notes[i])))
		}
		return strings.Join(out, ", ")
	}
	assert.Equal(t, "0 C3, 320 C3, 640 C3, 960 E3", notes("tone"))
	assert.Equal(t, "0 C3, 320 E3, 640 G3, 960 C3", notes("walk"))
}

func TestTiesOfOneVoiceAndOfSeveral(t *testing.T) {
	lengths := func(fields, steps string) string {
		p := perform(t, `{"id":"p","kind":"phrase","rate":"1/4","octave":3,`+fields+`"steps":[`+steps+`]},`+chords, 1)
		var out []string
		for i := range p.Lanes[0].Notes {
			at, length := p.Span(&p.Lanes[0].Notes[i], 960)
			out = append(out, fmt.Sprint(at, " ", p.Name(&p.Lanes[0].Notes[i]), " ", length))
		}
		return strings.Join(out, ", ")
	}
	assert.Equal(t, "0 C3 990, 960 E3 720", lengths("", on+`"tie":true},`+n+",{},{}"), "legato, a 1/128 note over")
	assert.Equal(t, "0 C3 1680", lengths("", on+`"tie":true},`+on+`"play":"again"},{},{}`), "the same tone runs on")
	assert.Equal(t, "0 C3 960, 0 E3 1680, 960 G3 720", lengths(`"voices":2,`, on+`"tie":true},`+n+",{},{}"), "what both have is held")
	assert.Equal(t, "0 C3 1440, 960 E3 720", lengths("", on+`"gate":150},`+n+",{},{}"), "a long gate cuts nothing but its own pitch")
}

func TestPeriods(t *testing.T) {
	sixteenths := func(lanes string) string {
		p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"a","lanes":[` + lanes + `]}]}`))
		require.NoError(t, err)
		cycle := lane.Cycle(p, &p.Clips[0])
		return fmt.Sprint(cycle.Bars(), " ", cycle.RealignBars())
	}
	four := `"tones":[{"degree":1},{"degree":3},{"degree":5},{"degree":7}],"source":"own","walk":"never",`
	steps := func(count, moving int) string {
		out := make([]string, count)
		for i := range out {
			out[i] = `{}`
			if i < moving {
				out[i] = n
			}
		}
		return `"steps":[` + strings.Join(out, ",") + `]`
	}
	seven := `{"id":"x","kind":"phrase",` + four + steps(7, 7) + `}`
	fifteen := `{"id":"y","kind":"phrase",` + four + steps(15, 8) + `}`
	assert.Equal(t, "7/4 7", sixteenths(seven), "4 tones under 7 sixteenths: 28 of them, with the bar after 7 bars")
	assert.Equal(t, "105/4 105", sixteenths(seven+","+fifteen))
	assert.Equal(t, "7/16 7", sixteenths(strings.Replace(seven, "never", "round", 1)))
	assert.Equal(t, "7/16 7", sixteenths(strings.Replace(seven, `"source"`, `"order":"shuffle","source"`, 1)), "drawn orders count as one")
	assert.Equal(t, "4 4", sixteenths(strings.Replace(seven, `"source"`, `"restart":4,"source"`, 1)), "a restart brings it back")
	assert.Equal(t, "14 14", sixteenths(`{"id":"x","kind":"phrase",`+steps(7, 7)+`},`+chords), "7 sixteenths under two chords of a bar each, starting over with each")
	assert.Equal(t, "42 42", sixteenths(`{"id":"x","kind":"phrase","walk":"never",`+steps(7, 7)+`},`+chords), "and without starting over, three tones")
}

const beats = `{"id":"k","kind":"pulse","rate":"1/4","mute":true,"steps":[{"on":true},{"on":true,"ratchet":2},{},{"on":true,"gate":50,"nudge":10}]},`

func TestARhythmFromAnotherLane(t *testing.T) {
	lengths := func(fields, steps string) string {
		p := perform(t, beats+`{"id":"p","kind":"phrase","rate":"4bar","octave":3,"rhythm":{"lane":"k"},`+fields+`"steps":[`+steps+`]},`+chords, 1)
		var out []string
		for i := range p.Lanes[0].Notes {
			at, length := p.Span(&p.Lanes[0].Notes[i], 960)
			out = append(out, fmt.Sprint(at, " ", p.Name(&p.Lanes[0].Notes[i]), " ", length))
		}
		return strings.Join(out, ", ")
	}
	assert.Equal(t, "0 C3 720, 960 E3 360, 1440 G3 360, 2880 C3 480", lengths("", n), "each moment takes the next step, ratchets count, and nudges are the other lane's own")
	assert.Equal(t, "0 C3 720, 1440 E3 360", lengths("", n+",{}"), "a rest passes the moment by")
	assert.Equal(t, "0 C3 360, 960 E3 360, 1440 G3 180, 2880 C3 480", lengths("", on+`"gate":50},`+n), "the gate is of the other's note")
	assert.Equal(t, "0 C3 180, 360 C3 180, 960 E3 360, 1440 G3 90, 1620 G3 90, 2880 C3 480", lengths("", on+`"ratchet":2,"gate":50},`+n), "so is a ratchet")
	assert.Equal(t, "0 C3 1320", lengths("", on+`"tie":true},`+on+`"play":"again"},{},{}`), "a tie runs on to the end of the second")

	p := perform(t, beats+`{"id":"p","kind":"phrase","rhythm":{"lane":"k"},"steps":[{"on":true,"nudge":-25},{"on":true}]},`+chords, 1)
	grid := p.Grid(&p.Lanes[0], &p.Lanes[0].Notes[1])
	assert.EqualValues(t, 960, grid.Export(960))
}

func TestPeriodsOfATakenRhythm(t *testing.T) {
	over := func(beats, fields, steps string) string {
		p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"a","lanes":[` + beats + `{"id":"p","kind":"phrase","source":"own","tones":[{"degree":1},{"degree":3},{"degree":5}],"rhythm":{"lane":"k"},` + fields + `"steps":[` + steps + `]}]}]}`))
		require.NoError(t, err)
		return lane.Cycle(p, &p.Clips[0]).Bars()
	}
	bars := func(fields, steps string) string { return over(beats, fields, steps) }
	assert.Equal(t, "3", bars(`"walk":"round",`, n+","+n+",{}"), "four moments a bar under three steps")
	assert.Equal(t, "3", bars(`"walk":"never",`, n), "three tones under four moments")
	assert.Equal(t, "2", bars(`"walk":"never","restart":2,`, n))
	for what, fields := range map[string]string{
		"rests by luck":       `"odds":[{"weight":1},{"weight":1,"rest":true}],`,
		"repeats by luck":     `"odds":[{"weight":1},{"weight":9,"ratchet":5}],`,
		"a chance of its own": `"modulators":[{"on":"chance","shape":"rise","from":0,"to":50}],`,
	} {
		moved := strings.Replace(beats, `"mute"`, fields+`"mute"`, 1)
		assert.Equal(t, "3", over(moved, `"walk":"round",`, n+","+n+",{}"), "%s count for nothing: there are still four moments a bar", what)
	}
}

// Periods count what is come to, and all of it.
func TestPeriodsCountWhatIsReached(t *testing.T) {
	over := func(lanes string) string {
		p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"a","lanes":[` + lanes + `]}]}`))
		require.NoError(t, err)
		for i := range p.Clips[0].Lanes { // only the first counts itself
			p.Clips[0].Lanes[i].Mute = i > 0
		}
		return lane.Cycle(p, &p.Clips[0]).Bars()
	}
	borrowed := `{"id":"p","kind":"phrase","source":"own","tones":[{"degree":1}],"walk":"round","rhythm":{"lane":"k"},"steps":[{"on":true}]},`
	assert.Equal(t, "3", over(borrowed+`{"id":"k","kind":"pulse","rate":"1/4","steps":[{"on":true},{"on":true},{"on":true},{"on":true,"rounds":{"on":[1],"of":3}}]}`),
		"a hit of the rhythm comes in every third round")
	assert.Equal(t, "4", over(borrowed+`{"id":"k","kind":"pulse","rate":"1/4","restart":2,"steps":[{"on":true},{"on":true},{"on":true,"rounds":{"on":[2],"of":2}}]}`),
		"the rhythm starts over after two bars, each time with three rounds begun, which are even and odd in turn")
	listens := func(kind, palette, steps, more string) string {
		return kind + `,{"id":"c","kind":"chords","rate":"1bar","octave":3,` + more + `"palette":[` + palette + `],"steps":[` + steps + `]}`
	}
	walks := `{"id":"p","kind":"phrase","walk":"round","rate":"1bar","steps":[{"on":true}]}`
	locked := `{"id":"p","lock":"chord","rate":"1bar","steps":[{"on":true}]}`
	const one, two = `{"tones":[{"degree":1},{"degree":3},{"degree":5}]}`, `{"tones":[{"degree":4},{"degree":6},{"degree":1,"octave":1}]}`
	assert.Equal(t, "2", over(listens(walks, one+","+two, n+","+on+`"chord":2}`, "")))
	assert.Equal(t, "1", over(listens(walks, one+","+two, n+","+on+`"chord":2}`, `"restart":1,`)), "the second chord is never come to")
	assert.Equal(t, "2", over(listens(walks, one, n+","+on+`"inversion":1}`, "")), "a walk hears how a chord lies")
	assert.Equal(t, "1", over(listens(locked, one, n+","+n, "")), "a chord that never changes counts for nothing")
}

func TestARhythmFromItselfOrInACircleIsRefused(t *testing.T) {
	for lanes, message := range map[string]string{
		`{"id":"p","kind":"phrase","rhythm":{"lane":"p"}}`:                                                  "clips[0].lanes[0].rhythm.lane: needs itself: p needs p",
		`{"id":"p","kind":"phrase","rhythm":{"lane":"q"}},{"id":"q","kind":"phrase","rhythm":{"lane":"p"}}`: "needs itself",
		`{"id":"p","kind":"phrase","rhythm":{"lane":"zz"}}`:                                                 `clips[0].lanes[0].rhythm.lane: no lane "zz" in the clip`,
		`{"id":"p","kind":"phrase","rhythm":{}}`:                                                            "clips[0].lanes[0].rhythm.lane",
	} {
		_, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"lanes":[` + lanes + `]}]}`))
		assert.ErrorContains(t, err, message, lanes)
	}
}

// The gate that is not stated is the lane's own, whichever it is, and stays so.
func TestGatesThatAreNotStated(t *testing.T) {
	for _, doc := range []string{beats + `{"kind":"phrase","id":"p","rhythm":{"lane":"k"},"steps":[{},{"gate":75},{"gate":100}]}`, `{"kind":"phrase","id":"p","steps":[{},{"gate":75},{"gate":100}]}`} {
		p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"lanes":[` + doc + `]}]}`))
		require.NoError(t, err)
		again, err := piece.Read(piece.Write(p))
		require.NoError(t, err)
		assert.Equal(t, p, again)
		lanes := p.Clips[0].Lanes
		steps := lanes[len(lanes)-1].Content.(*piece.Phrase).Steps
		want := 75
		if len(lanes) == 2 {
			want = 100
		}
		assert.Equal(t, []int{want, 75, 100}, []int{steps[0].Gate, steps[1].Gate, steps[2].Gate})
	}
}

func TestWhatOfAPhraseIsRefused(t *testing.T) {
	for fields, message := range map[string]string{
		`"source":"own"`:           "clips[0].lanes[0].tones: 0 items with source own; allowed: 1..16",
		`"order":"sideways"`:       `clips[0].lanes[0].order: "sideways" is not allowed; allowed: up, down`,
		`"order":[1,0]`:            "clips[0].lanes[0].order[1]: 0 is out of range; allowed: 1..64",
		`"order":[]`:               "clips[0].lanes[0].order",
		`"span":9`:                 "clips[0].lanes[0].span: 9 is above 8; allowed: 1..8",
		`"leap":{"by":25}`:         "clips[0].lanes[0].leap.by: 25 is above 24",
		`"voices":5`:               "clips[0].lanes[0].voices: 5 is above 4",
		`"steps":[{"play":"hop"}]`: "clips[0].lanes[0].steps[0].play",
		`"steps":[{"offset":25}]`:  "clips[0].lanes[0].steps[0].offset: 25 is above 24",
		`"tones":[{"degree":8}]`:   "clips[0].lanes[0].tones[0].degree: 8 is above 7",
		`"pedal":{"tone":"high"}`:  "clips[0].lanes[0].pedal.tone",
		`"tones":[` + strings.Repeat(`{},`, 16) + `{}]`: "clips[0].lanes[0].tones: 17 items are above 16",
	} {
		_, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"lanes":[{"kind":"phrase",` + fields + `}]}]}`))
		assert.ErrorContains(t, err, message, fields)
	}
}

func TestNotesTellTheirRungAndChord(t *testing.T) {
	p := perform(t, `{"id":"p","kind":"phrase","rate":"1/4","octave":4,"span":2,"steps":[{"on":true},{"on":true,"offset":1,"octave":-1},{},{}]},`+chords, 1)
	events := p.Events()
	require.Len(t, events.Notes, 2)
	assert.Equal(t, []any{1, "C", 53}, []any{*events.Notes[1].Rung, events.Notes[1].Chord, events.Notes[1].Pitch})
	assert.Contains(t, p.Explain(&p.Lanes[0], &p.Lanes[0].Notes[1]), "rung 2 of C, up is E4; the step moves E4 to F4; moved by octaves from F4 to F3")
}

// Drawn orders draw what they say: shuffle each rung once each time through, and a step
// that is touched re-draws no other.
func TestDrawnOrders(t *testing.T) {
	sounding := func(order, third string) []string {
		return strings.Fields(walked(t, `"walk":"never","span":2,"order":"`+order+`",`, n+","+n+","+third+","+n+","+n+","+n, 3))
	}
	shuffled := sounding("shuffle", n)
	for i := 0; i+6 <= 4; i += 6 {
		part := slices.Sorted(slices.Values(shuffled[i : i+6]))
		assert.Len(t, slices.Compact(part), 6)
	}
	before, after := sounding("random", n), sounding("random", on+`"octave":1}`)
	for i := range before {
		if i%6 != 2 {
			assert.Equal(t, before[i], after[i], "step %d", i)
		}
	}
	assert.Greater(t, len(slices.Compact(slices.Sorted(slices.Values(before)))), 2)
}

// Playing again is playing what was drawn, whatever drew it.
func TestAgainPlaysWhatWasDrawn(t *testing.T) {
	again := on + `"play":"again"}`
	for _, order := range []string{"random", "shuffle"} {
		for _, walk := range []string{"never", "round", "chord"} {
			heard := strings.Fields(walked(t, `"walk":"`+walk+`","span":3,"order":"`+order+`",`, n+","+again+","+n+","+again, 8))
			others := map[string]bool{}
			for i := 0; i < len(heard); i += 2 {
				if walk == "chord" || i%8 != 0 { // under a new chord the same rung is another note
					assert.Equal(t, heard[i], heard[i+1], "%s, walk %s, note %d", order, walk, i)
				}
				others[heard[i]] = true
			}
			assert.Greater(t, len(others), 3, "it is still drawn")
		}
	}
}

// The order in which a chord's tones were entered is theirs, also where one doubles another's
// pitch class.
func TestTonesInTheOrderOfThePalette(t *testing.T) {
	for tones, want := range map[string]string{
		`{"degree":5},{"degree":1},{"degree":3}`:                         "G3 C3 E3 G3",
		`{"degree":1,"octave":1},{"degree":5},{"degree":1},{"degree":3}`: "C4 G3 C3 E3",
		`{"degree":3},{"degree":1},{"degree":3,"octave":1},{"degree":5}`: "E3 C3 E4 G3",
	} {
		lanes := strings.Replace(chords, `{"degree":1},{"degree":3},{"degree":5}`, tones, 1)
		p := perform(t, `{"id":"p","kind":"phrase","rate":"1/4","octave":3,"order":"entered","steps":[`+n+`]},`+lanes, 1)
		var got []string
		for i := range p.Lanes[0].Notes {
			got = append(got, p.Name(&p.Lanes[0].Notes[i]))
		}
		assert.Equal(t, want, strings.Join(got, " "), tones)
	}
}

// The steps are named by what is played, in whatever order that comes.
func TestStepsAreNamedByWhatIsPlayed(t *testing.T) {
	for fields, steps := range map[string]string{
		``:                       n + "," + n + "," + n,
		`"direction":"reverse",`: n + "," + n + "," + n,
		`"direction":"shuffle",`: n + "," + n + "," + n + "," + n,
		`"repeats":"walk",`:      on + `"ratchet":3},` + n,
		`"direction":"reverse","repeats":"walk","voices":2,`: on + `"ratchet":2},` + n + "," + on + `"play":"back"}`,
		`"order":"shuffle","span":2,"walk":"never",`:         n + "," + on + `"play":"again"},` + n + "," + on + `"play":"low"}`,
	} {
		p := perform(t, `{"id":"p","kind":"phrase","rate":"1/4","octave":3,`+fields+`"steps":[`+steps+`]},`+chords, 1)
		sounds := lane.Sounds(p.Piece, p.Clip, &p.Clip.Lanes[0])
		first := map[int32]string{}
		for i := range p.Lanes[0].Notes {
			note := &p.Lanes[0].Notes[i]
			if first[note.Step] == "" {
				first[note.Step] = p.Name(note)
			}
		}
		require.NotEmpty(t, first)
		for step, name := range first {
			assert.True(t, strings.HasPrefix(sounds[step-1].Name, name), "step %d of %s is %s, and named %s", step, fields, name, sounds[step-1].Name)
		}
	}
}

// What an edit does not touch is played as it would be played anew.
func TestAPhraseGoesWithItsChords(t *testing.T) {
	p := perform(t, `{"id":"p","kind":"phrase","rate":"1/4","octave":3,"steps":[{"on":true},{"on":true}]},`+chords, 2)
	next, err := edit.Apply(p.Piece, []op.Op{op.Of(op.PlaceStack{OnSteps: op.OnSteps{Clip: "a", Lane: "c", Steps: []int{1}}, Degree: 5, Kind: "triad"})})
	require.NoError(t, err)
	fresh, err := lane.Render(next, &next.Clips[0], render.Options{Bars: 2})
	require.NoError(t, err)
	after, err := lane.Render(next, &next.Clips[0], render.Options{Bars: 2, Before: p})
	require.NoError(t, err)
	assert.Equal(t, "G3", fresh.Name(&fresh.Lanes[0].Notes[0]))
	assert.Equal(t, fresh.Events(), after.Events())
}

func TestNoKeyOfAPhraseIsStruckWhileItSounds(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var steps []string
		for range rapid.IntRange(1, 8).Draw(t, "steps") {
			steps = append(steps, fmt.Sprintf(`{"on":%t,"tie":%t,"play":%q,"offset":%d,"octave":%d,"gate":%d,"ratchet":%d,"nudge":%d}`,
				rapid.Bool().Draw(t, "on"), rapid.Bool().Draw(t, "tie"), rapid.SampledFrom(piece.Plays).Draw(t, "play"), rapid.IntRange(-24, 24).Draw(t, "offset"), rapid.IntRange(-4, 4).Draw(t, "octave"),
				rapid.IntRange(1, 400).Draw(t, "gate"), rapid.IntRange(1, 4).Draw(t, "ratchet"), rapid.IntRange(-50, 50).Draw(t, "nudge")))
		}
		fields := fmt.Sprintf(`"order":%q,"span":%d,"walk":%q,"voices":%d,"repeats":%q,`, rapid.SampledFrom(piece.Orders).Draw(t, "order"), rapid.IntRange(1, 8).Draw(t, "span"),
			rapid.SampledFrom(piece.Walks).Draw(t, "walk"), rapid.IntRange(1, 4).Draw(t, "voices"), rapid.SampledFrom(piece.Repeats).Draw(t, "repeats"))
		p := perform(t, `{"id":"p","kind":"phrase","rate":"1/8",`+fields+`"steps":[`+strings.Join(steps, ",")+`]},`+chords, 2)
		end := map[uint8]int64{}
		part := &p.Lanes[0]
		for i := range part.Notes {
			at, length := p.Span(&part.Notes[i], 960)
			assert.GreaterOrEqual(t, length, int64(1))
			assert.LessOrEqual(t, end[part.Notes[i].Pitch], at)
			assert.LessOrEqual(t, at+length, int64(7680))
			end[part.Notes[i].Pitch] = at + length
			reasons := p.Why(part, &part.Notes[i])
			last := ""
			for _, r := range reasons {
				if slices.Contains([]string{"rung", "offset", "lock", "octave", "fold"}, r.Rule) {
					if last != "" {
						assert.Equal(t, last, r.From, "%v", reasons)
					}
					last = r.To
				}
			}
			assert.Equal(t, p.Name(&part.Notes[i]), last, "%v", reasons)
		}
	})
}
