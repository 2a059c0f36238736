package chords_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/chord"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/lane/chords"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// palette is C, F, G and A minor in C major, octave 4.
const palette = `"palette":[{"tones":[{"degree":1},{"degree":3},{"degree":5}]},{"tones":[{"degree":4},{"degree":6},{"degree":1,"octave":1}]},
	{"tones":[{"degree":5},{"degree":7},{"degree":2,"octave":1}]},{"tones":[{"degree":6},{"degree":1,"octave":1},{"degree":3,"octave":1}]}]`

func read(t require.TestingT, key, clips string) *piece.Piece {
	tonic, scale, _ := strings.Cut(key, " ")
	p, err := piece.Read([]byte(fmt.Sprintf(`{"format":"agrimony-piece","version":1,"key":{"tonic":%q,"scale":%q},"clips":[%s]}`, tonic, scale, clips)))
	require.NoError(t, err)
	return p
}

func perform(t require.TestingT, p *piece.Piece, bars int) *render.Performance {
	performance, err := lane.Render(p, &p.Clips[0], render.Options{Bars: bars})
	require.NoError(t, err)
	return performance
}

// one plays a bar of a chords lane of quarters in C major.
func one(t *testing.T, fields, steps string) *render.Performance {
	return perform(t, read(t, "C major", `{"id":"a","lanes":[{"id":"c","kind":"chords","rate":"1/4","octave":4`+fields+`,`+palette+`,"steps":[`+steps+`]}]}`), 1)
}

// notes writes a part's notes as "onset pitch length" in ticks of 960 a quarter.
func notes(p *render.Performance, part int) string {
	var out []string
	for i := range p.Lanes[part].Notes {
		at, length := p.Span(&p.Lanes[part].Notes[i], 960)
		out = append(out, fmt.Sprintf("%d %d %d", at, p.Lanes[part].Notes[i].Pitch, length))
	}
	slices.SortStableFunc(out, func(a, b string) int {
		var at, pa, bt, pb int
		_, _ = fmt.Sscan(a, &at, &pa)
		_, _ = fmt.Sscan(b, &bt, &pb)
		return (at-bt)*1000 + pa - pb
	})
	return strings.Join(out, ", ")
}

func TestChordsByTheirRules(t *testing.T) {
	for name, row := range map[string]struct{ fields, steps, want string }{
		"all tones together, for the whole step": {"", `{"on":true},{},{},{}`, "0 60 960, 0 64 960, 0 67 960"},
		"a gate shortens all":                    {"", `{"on":true,"gate":50},{},{},{}`, "0 60 480, 0 64 480, 0 67 480"},
		"octave and inversion":                   {"", `{"on":true,"octave":-1,"inversion":1},{},{},{}`, "0 52 960, 0 55 960, 0 60 960"},
		"inverted downwards":                     {"", `{"on":true,"inversion":-1},{},{},{}`, "0 55 960, 0 60 960, 0 64 960"},
		"a tie through a rest runs on":           {"", `{"on":true,"tie":true},{"gate":50},{},{}`, "0 60 1440, 0 64 1440, 0 67 1440"},
		"a tie into another chord holds what both have": {"", `{"on":true,"tie":true},{"on":true,"chord":2},{},{}`,
			"0 60 960, 0 64 960, 0 67 960, 960 65 960, 960 69 960, 960 72 960"},
		"a tie from A minor into F keeps A and C": {"", `{"on":true,"chord":4,"tie":true},{"on":true,"chord":2},{},{}`,
			"0 69 1920, 0 72 1920, 0 76 960, 960 65 960"},
		"a chord held through a tied rest into itself does not begin anew": {"", `{"on":true,"tie":true},{"tie":true},{"on":true,"gate":50},{}`,
			"0 60 2400, 0 64 2400, 0 67 2400"},
		"a tie wraps over the seam": {"", `{},{},{},{"on":true,"tie":true}`, "2880 60 960, 2880 64 960, 2880 67 960"},
		"strummed upwards":          {"", `{"on":true,"strum":{"time":50,"way":"up"}},{},{},{}`, "0 60 960, 240 64 720, 480 67 480"},
		"strummed downwards":        {"", `{"on":true,"strum":{"time":50,"way":"down"}},{},{},{}`, "0 67 960, 240 64 720, 480 60 480"},
		"strummed in turns, upwards first": {"", `{"on":true,"gate":50,"strum":{"time":20,"way":"turns"}},{"on":true,"gate":50,"strum":{"time":20,"way":"turns"}},{},{}`,
			"0 60 480, 96 64 384, 192 67 288, 960 67 480, 1056 64 384, 1152 60 288"},
		"a strum is of the repeat, with a ratchet": {"", `{"on":true,"ratchet":2,"strum":{"time":50,"way":"up"}},{},{},{}`,
			"0 60 480, 120 64 360, 240 67 240, 480 60 480, 600 64 360, 720 67 240"},
		"ratchets repeat all":                {"", `{"on":true,"ratchet":2,"gate":50},{},{},{}`, "0 60 240, 0 64 240, 0 67 240, 480 60 240, 480 64 240, 480 67 240"},
		"tones that join a tie come at once": {"", `{"on":true,"chord":4,"tie":true},{"on":true,"chord":2,"strum":{"time":50,"way":"up"}},{},{}`, "0 69 1920, 0 72 1920, 0 76 960, 960 65 960"},
		"a nudge before the start":           {"", `{"on":true,"nudge":-20,"gate":50,"strum":{"time":50,"way":"up"}},{},{},{}`, "0 60 288, 48 64 240, 288 67 1"},
		"struck again, a pitch ends there":   {"", `{"on":true,"gate":150},{"on":true,"chord":2},{},{}`, "0 60 1440, 0 64 1440, 0 67 1440, 960 65 960, 960 69 960, 960 72 960"},
		"and the others overlap":             {"", `{"on":true,"gate":150,"chord":4},{"on":true,"chord":2},{},{}`, "0 69 960, 0 72 960, 0 76 1440, 960 65 960, 960 69 960, 960 72 960"},
		"chance silences all":                {"", `{"on":true,"chance":0},{"on":true},{},{}`, "960 60 960, 960 64 960, 960 67 960"},
		"rounds silence all":                 {"", `{"on":true,"rounds":{"of":2,"on":[2]}},{},{},{}`, ""},
	} {
		assert.Equal(t, row.want, notes(one(t, row.fields, row.steps), 0), name)
	}
}

func TestTheLockComesBeforeInversion(t *testing.T) {
	p := perform(t, read(t, "C major", `{"id":"a","lanes":[{"kind":"chords","rate":"1bar","octave":4,"lock":"scale","snap":"up",
		"palette":[{"tones":[{"degree":1},{"degree":3,"alter":-1},{"degree":3},{"degree":5,"alter":1}]}],"steps":[{"on":true,"inversion":1}]}]}`), 1)
	assert.Equal(t, "0 64 3840, 0 69 3840, 0 72 3840", notes(p, 0), "E flat meets E and sounds once; G sharp goes up to A")
	p = perform(t, read(t, "C major", `{"id":"a","lanes":[{"kind":"chords","rate":"1bar","octave":4,
		"palette":[{"tones":[{"degree":1},{"degree":3,"alter":-1},{"degree":5,"alter":1}]}],"steps":[{"on":true}]}]}`), 1)
	assert.Equal(t, "0 60 3840, 0 63 3840, 0 68 3840", notes(p, 0), "without a lock it sounds as it is written")
}

func TestWhyAToneIsWhereItIs(t *testing.T) {
	p := one(t, "", `{"on":true,"octave":1,"inversion":1,"strum":{"time":50,"way":"down"}},{},{},{}`)
	texts := map[uint8]string{}
	for i := range p.Lanes[0].Notes {
		texts[p.Lanes[0].Notes[i].Pitch] = p.Explain(&p.Lanes[0], &p.Lanes[0].Notes[i])
	}
	assert.Contains(t, texts[84], "tone 1 of C/E is C4")
	assert.Contains(t, texts[84], "C5 to C6")
	assert.Contains(t, texts[76], "strum")
	smooth := one(t, `,"voicing":{"mode":"smooth","low":48,"high":72}`, `{"on":true},{"on":true,"chord":2},{},{}`)
	found := false
	for i := range smooth.Lanes[0].Notes {
		found = found || strings.Contains(smooth.Explain(&smooth.Lanes[0], &smooth.Lanes[0].Notes[i]), "voic")
	}
	assert.True(t, found, "a tone that the voicing moved says so")
}

// What sounds in a lane that is voiced smoothly is what the search says, whatever the
// direction, and repeated chords count.
func TestSmoothLanesAreVoicedInTheOrderOfTheWindow(t *testing.T) {
	steps := `{"on":true,"inversion":1},{"on":true,"chord":2,"octave":2},{},{"on":true,"chord":3},{"on":true,"chord":3,"skip":true},{"on":true,"chord":4}`
	voicing := `,"voicing":{"mode":"smooth","low":55,"high":76}`
	want, _ := chord.Smooth([][]int{{64, 67, 72}, {65, 69, 72}, {67, 71, 74}, {69, 72, 76}}, chord.Range{Low: 55, High: 76})
	for _, direction := range []string{"forward", "reverse", "pendulum"} {
		p := perform(t, read(t, "C major", `{"id":"a","lanes":[{"kind":"chords","rate":"1/4","octave":4,"direction":"`+direction+`"`+voicing+`,`+palette+`,"steps":[`+steps+`]}]}`), 4)
		for i, step := range []int{1, 2, 4, 6} {
			var got []int
			for k := range p.Lanes[0].Notes {
				if n := &p.Lanes[0].Notes[k]; int(n.Step) == step && int(n.Round) == 1 {
					got = append(got, int(n.Pitch))
				}
			}
			slices.Sort(got)
			assert.Equal(t, want[i], slices.Compact(got), "step %d, %s", step, direction)
		}
	}
}

// harmony writes a clip's chords as "tick symbol".
func harmony(p *piece.Piece, bars int) string {
	clip := &p.Clips[0]
	h := lane.Harmony(p, clip, p.Bar()*beat.Time(bars), nil)
	if h == nil {
		return ""
	}
	var out []string
	for _, b := range h.Chords {
		text := fmt.Sprintf("%d %s", b.At.Export(960), b.Symbol)
		if b.Brought {
			text += " brought"
		}
		out = append(out, text)
	}
	return strings.Join(out, ", ")
}

func TestWhenChordsBegin(t *testing.T) {
	for name, row := range map[string]struct{ fields, steps, want string }{
		"at every chord step":                      {"", `{"on":true},{"on":true,"chord":2},{"on":true,"chord":2},{}`, "0 C, 960 F, 1920 F"},
		"a rest silences the chords alone":         {"", `{"on":true},{},{},{"on":true,"chord":3}`, "0 C, 2880 G"},
		"not where the same is tied to":            {"", `{"on":true,"tie":true},{"on":true},{"on":true},{}`, "0 C, 1920 C"},
		"through a tied rest neither":              {"", `{"on":true,"tie":true},{"tie":true},{"on":true},{}`, "0 C"},
		"another inversion begins anew":            {"", `{"on":true,"tie":true},{"on":true,"inversion":1},{},{}`, "0 C, 960 C/E"},
		"before the first, what the loop brings":   {"", `{},{"on":true,"chord":2},{"on":true,"chord":4},{}`, "0 Am brought, 960 F, 1920 Am"},
		"nudges, strums and swing do not move it":  {"", `{"on":true},{"on":true,"chord":2,"nudge":40,"strum":{"time":90}},{},{}`, "0 C, 960 F"},
		"chance does":                              {"", `{"on":true},{"on":true,"chord":2,"chance":0},{"on":true,"chord":3},{}`, "0 C, 1920 G"},
		"a muted lane is the harmony all the same": {`,"mute":true`, `{"on":true},{},{"on":true,"chord":2},{}`, "0 C, 1920 F"},
		"no chord at all":                          {"", `{},{},{},{}`, ""},
		"backwards, the last in playing order":     {`,"direction":"reverse"`, `{"on":true},{"on":true,"chord":2},{},{}`, "0 C brought, 1920 F, 2880 C"},
	} {
		p := read(t, "C major", `{"id":"a","lanes":[{"id":"c","kind":"chords","rate":"1/4","octave":4`+row.fields+`,`+palette+`,"steps":[`+row.steps+`]}]}`)
		assert.Equal(t, row.want, harmony(p, 1), name)
	}
}

// follower plays a line under chords; the line is the second lane.
func follower(t *testing.T, key, chords, line string) []string {
	p := perform(t, read(t, key, `{"id":"a","lanes":[{"id":"c","kind":"chords",`+chords+`},{"id":"l","rate":"1/4",`+line+`}]}`), 1)
	var out []string
	for i := range p.Lanes[1].Notes {
		out = append(out, p.Name(&p.Lanes[1].Notes[i]))
	}
	return out
}

const twoChords = `"rate":"1/2","octave":4,` + palette + `,"steps":[{"on":true},{"on":true,"chord":2}]`

func TestLocksToTheSoundingChord(t *testing.T) {
	for name, row := range map[string]struct {
		snap  string
		steps string
		want  []string
	}{
		"the nearest tone, a tie down": {"nearest", `{"on":true,"degree":2},{"on":true,"degree":6},{"on":true,"degree":2},{"on":true,"degree":3}`, []string{"C3", "G3", "C3", "F3"}},
		"upwards":                      {"up", `{"on":true,"degree":2},{"on":true,"degree":6},{"on":true,"degree":2},{"on":true,"degree":7}`, []string{"E3", "C4", "F3", "C4"}},
		"downwards":                    {"down", `{"on":true,"degree":2},{"on":true,"degree":4},{"on":true,"degree":3},{"on":true,"degree":7}`, []string{"C3", "E3", "C3", "A3"}},
		"from outside the key":         {"nearest", `{"on":true,"degree":2,"alter":1},{"on":true,"degree":5,"alter":1},{"on":true,"degree":4},{"on":true,"degree":5,"alter":1}`, []string{"E3", "G3", "F3", "A3"}},
	} {
		assert.Equal(t, row.want, follower(t, "C major", twoChords, `"octave":3,"lock":"chord","snap":"`+row.snap+`","steps":[`+row.steps+`]`), name)
	}
}

func TestFollowsTheRoot(t *testing.T) {
	steps := `"steps":[{"on":true},{"on":true,"degree":3},{"on":true},{"on":true,"degree":5}]`
	assert.Equal(t, []string{"C3", "E3", "F3", "C4"}, follower(t, "C major", twoChords, `"octave":3,"follow":"root",`+steps), "diatonically, from the octave of the tonic upwards")
	assert.Equal(t, []string{"C3", "E3", "C4", "G4"}, follower(t, "C major", `"rate":"1/2","octave":4,"palette":[{"tones":[{"degree":1}]},{"tones":[{"degree":1,"octave":-3}]}],"steps":[{"on":true},{"on":true,"chord":2}]`,
		`"octave":3,"follow":"root","steps":[{"on":true},{"on":true,"degree":3},{"on":true,"octave":1},{"on":true,"degree":5,"octave":1}]`), "whatever octave the chord is in")
	// D flat in C: an altered second degree. Its alteration goes with degree 1 alone.
	flat := `"rate":"1bar","octave":4,"palette":[{"tones":[{"degree":2,"alter":-1},{"degree":4},{"degree":6,"alter":-1}]}],"steps":[{"on":true}]`
	assert.Equal(t, []string{"Db3", "F3", "Db3", "A3"}, follower(t, "C major", flat, `"octave":3,"follow":"root","lock":"off",`+steps))
	// E sharp is F, a degree of the key: counting begins there.
	sharp := `"rate":"1bar","octave":4,"palette":[{"tones":[{"degree":3,"alter":1},{"degree":6},{"degree":1,"octave":1}]}],"steps":[{"on":true}]`
	assert.Equal(t, []string{"F3", "A3", "F3", "C4"}, follower(t, "C major", sharp, `"octave":3,"follow":"root","lock":"off",`+steps))
	// An inversion leaves the root where it is.
	inverted := `"rate":"1bar","octave":4,` + palette + `,"steps":[{"on":true,"chord":2,"inversion":2}]`
	assert.Equal(t, []string{"F3", "A3", "F3", "C4"}, follower(t, "C major", inverted, `"octave":3,"follow":"root",`+steps))
	// A set without a name has its lowest tone as root.
	none := `"rate":"1bar","octave":4,"palette":[{"tones":[{"degree":5},{"degree":5,"alter":1},{"degree":6}]}],"steps":[{"on":true}]`
	assert.Equal(t, []string{"G3", "B3", "G3", "D4"}, follower(t, "C major", none, `"octave":3,"follow":"root",`+steps))
}

func TestAnotherClipsChordsAreReadAsIfTheyStoodHere(t *testing.T) {
	p := read(t, "C major", `{"id":"b","harmony":{"clip":"a"},"key":{"tonic":"D","scale":"major"},"lanes":[{"id":"l","rate":"1/2","octave":3,"lock":"chord","steps":[{"on":true,"degree":2},{"on":true,"degree":2}]}]},
		{"id":"a","lanes":[{"id":"c","kind":"chords",`+twoChords+`}]}`)
	assert.Equal(t, "0 D, 1920 G", harmony(p, 1), "its degrees, in this clip's key")
	performance := perform(t, p, 1)
	assert.Equal(t, "0 50 1440, 1920 50 1440", notes(performance, 0), "E goes to D in both")
}

func TestTwoChordsLanes(t *testing.T) {
	lanes := `{"id":"x","kind":"chords",` + twoChords + `},{"id":"y","kind":"chords","rate":"1bar","octave":4,` + palette + `,"steps":[{"on":true,"chord":3}]}`
	assert.Equal(t, "0 C, 1920 F", harmony(read(t, "C major", `{"id":"a","lanes":[`+lanes+`]}`), 1), "the first is the harmony")
	assert.Equal(t, "0 G", harmony(read(t, "C major", `{"id":"a","harmony":{"lane":"y"},"lanes":[`+lanes+`]}`), 1), "unless another is named")
}

func TestWhatOfHarmonyIsRefused(t *testing.T) {
	c := `{"id":"c","kind":"chords"}`
	for clips, message := range map[string]string{
		`{"id":"a","harmony":{"clip":"a"},"lanes":[]}`:                                                                 "clips[0].harmony.clip",
		`{"id":"a","harmony":{"clip":"b"},"lanes":[]},{"id":"b","harmony":{"clip":"a"},"lanes":[]}`:                    "clips[1].harmony.clip: needs itself: a needs b needs a",
		`{"id":"a","harmony":{"clip":"zz"},"lanes":[]}`:                                                                `clips[0].harmony.clip: no clip "zz"`,
		`{"id":"a","harmony":{"lane":"zz"},"lanes":[` + c + `]}`:                                                       `clips[0].harmony.lane: no lane "zz" in the clip; allowed: c`,
		`{"id":"a","harmony":{"lane":"l"},"lanes":[{"id":"l"},` + c + `]}`:                                             `clips[0].harmony.lane: "l" is a line lane; allowed: a chords lane or one of free notes: c`,
		`{"id":"a","harmony":{},"lanes":[]}`:                                                                           "names neither a clip nor a lane",
		`{"id":"a","harmony":{"clip":"b","lane":"c"},"lanes":[]},{"id":"b","lanes":[]}`:                                "both a clip and a lane",
		`{"id":"a","lanes":[{"kind":"chords","steps":[{"chord":2}]}]}`:                                                 "clips[0].lanes[0].steps[0].chord: 2",
		`{"id":"a","lanes":[{"kind":"chords","palette":[{"tones":[{"degree":1},{"degree":3},{"degree":1}]}]}]}`:        "clips[0].lanes[0].palette[0].tones[2]",
		`{"id":"a","lanes":[{"kind":"chords","palette":[{"tones":[{"degree":3,"alter":1},{"degree":4}]}]}]}`:           "clips[0].lanes[0].palette[0].tones[1]",
		`{"id":"a","lanes":[{"kind":"chords","palette":[{"tones":[]}]}]}`:                                              "clips[0].lanes[0].palette[0].tones: 0 items",
		`{"id":"a","lanes":[{"kind":"chords","palette":[]}]}`:                                                          "clips[0].lanes[0].palette: 0 items",
		`{"id":"a","lanes":[{"kind":"chords","palette":[{"tones":[{"degree":8}]}]}]}`:                                  "clips[0].lanes[0].palette[0].tones[0].degree: 8 is above 7",
		`{"id":"a","lanes":[{"kind":"chords","voicing":{"low":60,"high":71}}]}`:                                        "clips[0].lanes[0].voicing",
		`{"id":"a","lanes":[{"kind":"chords","steps":[{"strum":{"time":101}}]}]}`:                                      "clips[0].lanes[0].steps[0].strum.time: 101 is above 100",
		`{"id":"a","lanes":[{"kind":"chords","steps":[{"inversion":9}]}]}`:                                             "clips[0].lanes[0].steps[0].inversion: 9 is above 8",
		`{"id":"a","lanes":[{"kind":"chords","palette":[{"tones":[` + strings.Repeat(`{"degree":1},`, 16) + `{}]}]}]}`: "clips[0].lanes[0].palette[0].tones: 17 items are above 16; allowed: 1..16",
	} {
		_, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[` + clips + `]}`))
		assert.ErrorContains(t, err, message, clips)
	}
}

func TestListeningCountsForThePeriod(t *testing.T) {
	periods := func(chords, line string) string {
		p := read(t, "C major", `{"id":"a","lanes":[{"id":"c","kind":"chords","rate":"1bar",`+palette+`,`+chords+`},{"id":"l",`+line+`}]}`)
		return lane.Cycle(p, &p.Clips[0]).Bars()
	}
	seven := `"steps":[{"on":true},{},{},{},{},{},{}]`
	three := `"steps":[{"on":true},{"on":true,"chord":2},{"on":true,"chord":3}],"mute":true`
	assert.Equal(t, "7/16", periods(three, seven), "a lane that does not listen goes by itself; the chords are muted")
	assert.Equal(t, "21", periods(three, `"lock":"chord",`+seven), "7 sixteenths under 3 bars")
	assert.Equal(t, "21", periods(three, `"follow":"root",`+seven))
	assert.Equal(t, "7/16", periods(`"steps":[{"on":true},{"on":true}],"mute":true`, `"lock":"chord",`+seven), "a chord that never changes decides nothing")
	assert.Equal(t, "14", periods(`"steps":[{"on":true},{"on":true,"inversion":1}],"mute":true`, `"lock":"chord",`+seven), "another inversion is another chord")
}

// Whatever the steps, no key is struck while it sounds, nothing is shorter than a tick,
// and nothing hangs over the clip's end.
func TestNoKeyIsStruckWhileItSounds(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(1, 8).Draw(t, "steps")
		var steps []string
		for range n {
			steps = append(steps, fmt.Sprintf(`{"on":%t,"tie":%t,"chord":%d,"inversion":%d,"octave":%d,"gate":%d,"ratchet":%d,"nudge":%d,"strum":{"time":%d,"way":%q}}`,
				rapid.Bool().Draw(t, "on"), rapid.Bool().Draw(t, "tie"), rapid.IntRange(1, 4).Draw(t, "chord"), rapid.IntRange(-2, 2).Draw(t, "inversion"), rapid.IntRange(-1, 1).Draw(t, "octave"),
				rapid.IntRange(1, 400).Draw(t, "gate"), rapid.IntRange(1, 4).Draw(t, "ratchet"), rapid.IntRange(-50, 50).Draw(t, "nudge"), rapid.IntRange(0, 100).Draw(t, "time"), rapid.SampledFrom([]string{"up", "down", "turns"}).Draw(t, "way")))
		}
		mode := rapid.SampledFrom([]string{"written", "smooth"}).Draw(t, "mode")
		direction := rapid.SampledFrom([]string{"forward", "reverse", "pendulum", "shuffle"}).Draw(t, "direction")
		p := read(t, "C major", fmt.Sprintf(`{"id":"a","lanes":[{"kind":"chords","rate":"1/8","octave":4,"direction":%q,"voicing":{"mode":%q},%s,"steps":[%s]}]}`, direction, mode, palette, strings.Join(steps, ",")))
		performance := perform(t, p, 2)
		end := map[uint8]int64{}
		part := &performance.Lanes[0]
		last := int64(0)
		performance.Written(part, 960, func(note *render.Note, at, length int64) {
			pitch := note.Pitch
			assert.GreaterOrEqual(t, at, last, "in order")
			assert.GreaterOrEqual(t, length, int64(1))
			assert.LessOrEqual(t, end[pitch], at, "pitch %d", pitch)
			assert.LessOrEqual(t, at+length, int64(7680))
			end[pitch], last = at+length, at
			assert.NotEmpty(t, performance.Why(part, note))
		})
	})
}

// Elevenths and thirteenths are struck as players voice them.
func TestWideChordsLeaveOutWhatClashes(t *testing.T) {
	for _, row := range []struct {
		key         string
		degree      int
		kind, tones string
	}{
		{"C major", 2, "11", "D F C E G"},
		{"C major", 5, "11", "G D F A C"}, // no third beside the fourth
		{"C major", 5, "13", "G B F A E"}, // no eleventh over a third
		{"C major", 4, "11", "F A C E G B"},
		{"C major", 3, "11", "E G B D A"}, // no ninth a semitone over the root
		{"A natural minor", 1, "11", "A C G B D"},
		{"A minor pentatonic", 1, "11", "A D G C E A"}, // elsewhere all that is stacked
	} {
		key, err := pitch.ParseKey(row.key)
		require.NoError(t, err)
		tones, err := chords.Stack(key, row.degree, row.kind)
		require.NoError(t, err)
		var names []string
		for _, tone := range tones {
			names = append(names, strings.TrimRight(key.Named(key.Pitch(tone, 3)), "0123456789"))
		}
		assert.Equal(t, row.tones, strings.Join(names, " "), "%s of %d in %s", row.kind, row.degree, row.key)
	}
}

// A lane that is added prefers clear voices; a document says so itself.
func TestNewLanesPreferClearVoices(t *testing.T) {
	assert.True(t, piece.BeginLane("chords", "a", "A").Content.(*piece.Chords).Voicing.Clear)
	assert.False(t, piece.NewLane("chords", "a", "A").Content.(*piece.Chords).Voicing.Clear)
	assert.Equal(t, piece.NewLane("line", "a", "A"), piece.BeginLane("line", "a", "A"))
}
