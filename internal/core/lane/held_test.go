package lane_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"agrimony/internal/core/lane"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
	"agrimony/internal/core/review"
)

// playedClip is a clip in C major of two bars whose harmony is the lane of free notes "held"; more are other lanes.
func playedClip(t require.TestingT, fields, notes string, more ...string) *piece.Piece {
	lanes := append([]string{fmt.Sprintf(`{"id":"held","kind":"notes","octave":3%s,"notes":[%s]}`, fields, notes)}, more...)
	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"key":{"tonic":"C","scale":"major"},"clips":[{"id":"a","bars":2,"harmony":{"lane":"held"},"lanes":[` +
		strings.Join(lanes, ",") + `]}]}`))
	require.NoError(t, err)
	return p
}

// midi writes MIDI notes: "at+length pitch".
func midi(notes ...string) string {
	var out []string
	for _, n := range notes {
		var at, length, note int
		var rest string
		words := strings.SplitN(n, " ", 3)
		fmt.Sscanf(words[0], "%d+%d", &at, &length)
		fmt.Sscanf(words[1], "%d", &note)
		if len(words) > 2 {
			rest = "," + words[2]
		}
		out = append(out, fmt.Sprintf(`{"at":%d,"length":%d,"note":%d%s}`, at, length, note, rest))
	}
	return strings.Join(out, ",")
}

func chordsOf(t require.TestingT, p *piece.Piece, options render.Options) []string {
	performance, err := lane.Render(p, &p.Clips[0], options)
	require.NoError(t, err)
	out := []string{}
	for _, h := range performance.Events().Harmony {
		out = append(out, fmt.Sprintf("%d %s %s %s %v", h.At, h.Symbol, h.Numeral, h.Root, h.Pitches))
	}
	return out
}

func TestChordsThatArePlayed(t *testing.T) {
	for _, row := range []struct {
		name, fields, notes string
		want                []string
	}{
		{"struck at once", "", midi("0+3840 48", "0+3840 52", "0+3840 55", "3840+3840 53", "3840+3840 57", "3840+3840 60"),
			[]string{"0 C I C [48 52 55]", "3840 F IV F [53 57 60]"}},
		{"strummed: each less than a sixteenth after the one before", "", midi("0+900 48", "200+900 52", "400+900 55"),
			[]string{"0 C I C [48 52 55]"}},
		{"a sixteenth apart: two chords, the first still held", "", midi("0+900 48", "0+900 52", "240+900 55"),
			[]string{"0 C I C [48 52]", "240 C I C [48 52 55]"}},
		{"none is taken in an eighth after the first", "", midi("0+3840 48", "239+3840 52", "478+3840 55", "600+3840 59"),
			[]string{"0 C I C [48 52 55]", "600 Cmaj7 Imaj7 C [48 52 55 59]"}},
		{"what ended before the last onset is none of its tones", "", midi("0+100 47", "0+3840 48", "200+3640 52", "300+3540 55"),
			[]string{"0 C I C [48 52 55]"}},
		{"releases change nothing", "", midi("0+480 48", "0+960 52", "0+3840 55", "3840+3840 57"),
			[]string{"0 C I C [48 52 55]", "3840 A VI A [57]"}},
		{"as they lie, the lowest is the bass", "", midi("0+3840 52", "0+3840 55", "0+3840 60"),
			[]string{"0 C/E I/3 C [52 55 60]"}},
		{"before the first the loop's last, over the seam", "", midi("960+960 48", "960+960 52", "960+960 55", "3840+960 53", "3840+960 57", "3840+960 60"),
			[]string{"0 F IV F [53 57 60]", "960 C I C [48 52 55]", "3840 F IV F [53 57 60]"}},
		{"as if all its notes sounded", "", midi("960+960 48", "960+960 52", "960+960 55", `3840+960 53 "chance":0`, `3840+960 57 "chance":0`, `3840+960 60 "chance":0`),
			[]string{"0 F IV F [53 57 60]", "960 C I C [48 52 55]"}},
		{"what chance silences is not there", "", midi("0+960 48", "0+960 52", `0+960 54 "chance":0`, "0+960 55"),
			[]string{"0 C I C [48 52 55]"}},
		{"a tone that the loop's end cuts belongs to the chord that it began", `,"loop":{"start":0,"length":3840}`, midi("0+960 55", "0+960 52", "1920+960 53", "3740+960 48"),
			[]string{"0 Em iii E [52 55]", "1920 F IV F [53]", "3740 C I C [48 52 55]", "5760 F IV F [53]", "7580 C I C [48]"}},
		{"one voice at a time: each is a chord of itself", `,"voices":"one"`, midi("0+3840 48", "960+960 52"),
			[]string{"0 C I C [48]", "960 E III E [52]"}},
		{"a key struck again is the later one", "", midi("0+3840 48", "100+3840 52", "200+3840 48"),
			[]string{"0 C I C [48 52]"}},
	} {
		assert.Equal(t, row.want, chordsOf(t, playedClip(t, row.fields, row.notes), render.Options{}), row.name)
	}
}

// pitches are those that a lane sounds, in order of time.
func pitches(t require.TestingT, p *piece.Piece, id string, options render.Options) (out []int) {
	performance, err := lane.Render(p, &p.Clips[0], options)
	require.NoError(t, err)
	for _, n := range performance.Events().Notes {
		if n.Lane == id {
			out = append(out, n.Pitch)
		}
	}
	return out
}

const (
	walker = `{"id":"walk","kind":"phrase","rate":"1/4","octave":3,"order":%q,"steps":[{"on":true}]}`
	roots  = `{"id":"low","octave":2,"rate":"1bar","follow":"root","steps":[{"on":true}]}`
	locked = `{"id":"low","octave":2,"rate":"1bar","lock":"chord","steps":[{"on":true,"degree":2}]}`
)

func TestWhatListensHearsChordsThatArePlayed(t *testing.T) {
	notes := midi("0+3840 55", "0+3840 52", "100+3740 48", "3840+3840 53", "3840+3840 57")
	walked := func(order string) []int {
		return pitches(t, playedClip(t, "", notes, fmt.Sprintf(walker, order)), "walk", render.Options{})
	}
	assert.Equal(t, []int{48, 52, 55, 48, 53, 57, 53, 57}, walked("up"))
	assert.Equal(t, []int{52, 55, 48, 52, 53, 57, 53, 57}, walked("entered"), "as they began, of those at once the lowest first")
	assert.Equal(t, []int{36, 41}, pitches(t, playedClip(t, "", notes, roots), "low", render.Options{}))
	assert.Equal(t, []int{36, 41}, pitches(t, playedClip(t, "", notes, locked), "low", render.Options{}), "D goes down to C, and down to C or F")
	bare := playedClip(t, `,"loop":{"start":7680,"length":3840}`, notes, roots)
	assert.Equal(t, []int{36, 36}, pitches(t, bare, "low", render.Options{}), "without a note in its loop there are no chords")
}

func TestPlayedChordsMoveWithTheOrder(t *testing.T) {
	inKey := `{"at":0,"length":3840,"degree":1},{"at":0,"length":3840,"degree":3},{"at":0,"length":3840,"degree":5}`
	up := render.Options{Pass: render.Pass{Shift: 1}}
	assert.Equal(t, []string{"0 Dm ii D [50 53 57]"}, chordsOf(t, playedClip(t, "", inKey), up))
	assert.Equal(t, []int{38, 38}, pitches(t, playedClip(t, "", inKey, roots), "low", up), "once, by its chords")
	assert.Equal(t, []string{"0 C I C [48 52 55]"}, chordsOf(t, playedClip(t, `,"channel":10`, inKey), up), "on the drums' channel they stay")
	assert.Equal(t, []string{"0 C I C [48 52 55]"}, chordsOf(t, playedClip(t, "", midi("0+3840 48", "0+3840 52", "0+3840 55")), up), "MIDI notes stay")
	drums := strings.Replace(roots, `"octave":2`, `"octave":2,"channel":10`, 1)
	assert.Equal(t, []int{36, 36}, pitches(t, playedClip(t, "", inKey, drums), "low", up), "and what is on the drums' channel hears them where they were")
}

func TestPlayedChordsCountForTheCycle(t *testing.T) {
	three := midi("0+3840 48", "3840+3840 53", "7680+3840 55")
	performance := func(notes string) string {
		p := playedClip(t, `,"mute":true,"loop":{"start":0,"length":11520}`, notes, roots)
		return lane.Cycle(p, &p.Clips[0]).Bars()
	}
	assert.Equal(t, "3", performance(three))
	assert.Equal(t, "1", performance(midi("0+3840 48", "3840+3840 48", "7680+3840 48")), "a chord that never changes does not count")
	assert.Equal(t, "9", performance(midi("0+3840 48", `3840+3840 53 "rounds":{"of":3,"on":[2]}`)))
}

func TestAnotherClipLendsWhatIsPlayed(t *testing.T) {
	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"key":{"tonic":"C","scale":"major"},"clips":[
		{"id":"b","bars":1,"key":{"tonic":"A","scale":"major"},"harmony":{"clip":"a"},"lanes":[` + roots + `]},
		{"id":"a","bars":1,"harmony":{"lane":"held"},"lanes":[{"id":"held","kind":"notes","octave":3,"notes":[{"at":0,"length":960,"degree":4},{"at":0,"length":960,"degree":6}]}]}]}`))
	require.NoError(t, err)
	assert.Equal(t, []int{50}, pitches(t, p, "low", render.Options{}), "degree 4 of A")
	assert.True(t, p.Clips[1].Harmonic())
}

func TestMoreTonesThanCount(t *testing.T) {
	var notes []string
	for k := range 26 {
		notes = append(notes, fmt.Sprintf("0+960 %d", 90-k))
	}
	performance, err := lane.Render(playedClip(t, "", midi(notes...)), &playedClip(t, "", midi(notes...)).Clips[0], render.Options{})
	require.NoError(t, err)
	require.Len(t, performance.Harmony.Chords[0].Pitches, 24)
	assert.Equal(t, []uint8{65, 88}, []uint8{performance.Harmony.Chords[0].Pitches[0], performance.Harmony.Chords[0].Pitches[23]})
	assert.Len(t, performance.Harmony.Chords[0].Listed, 24)
	var rules []string
	for _, f := range review.Clip(performance) {
		rules = append(rules, f.Rule)
	}
	assert.Contains(t, rules, "chord-tones")
}

func TestWhatOfPlayedHarmonyIsRefused(t *testing.T) {
	for fields, message := range map[string]string{
		`"kind":"notes","lock":"chord"`:  `clips[0].harmony.lane: needs itself: "held" locks to the chords that it plays`,
		`"kind":"notes","follow":"root"`: `clips[0].harmony.lane: needs itself: "held" follows the roots of the chords that it plays`,
		`"kind":"line"`:                  `clips[0].harmony.lane: "held" is a line lane; allowed: a chords lane or one of free notes: other`,
		`"kind":"phrase"`:                `clips[0].harmony.lane: "held" is a phrase lane`,
	} {
		_, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"a","harmony":{"lane":"held"},"lanes":[{"id":"held",` + fields + `},{"id":"other","kind":"notes"}]}]}`))
		assert.ErrorContains(t, err, message)
	}
}

// What a chords lane sounds, written as notes, is the same harmony: chords begin at the same times with the same tones.
func TestNotesThatAChordsLaneSoundsAreItsHarmony(t *testing.T) {
	rapid.Check(t, func(r *rapid.T) {
		var steps []string
		for range rapid.IntRange(1, 8).Draw(r, "steps") {
			steps = append(steps, fmt.Sprintf(`{"on":%v,"chord":%d,"inversion":%d,"chance":%d,"gate":%d}`, rapid.Bool().Draw(r, "on"), rapid.IntRange(1, 3).Draw(r, "chord"),
				rapid.IntRange(0, 2).Draw(r, "inversion"), rapid.SampledFrom([]int{100, 50}).Draw(r, "chance"), rapid.IntRange(40, 100).Draw(r, "gate")))
		}
		steps = append(steps, `{"on":true}`)
		p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"key":{"tonic":"D","scale":"dorian"},"clips":[{"id":"a","bars":4,"lanes":[{"id":"c","kind":"chords","rate":"1/4","octave":4,
			"palette":[{"tones":[{"degree":1},{"degree":3},{"degree":5}]},{"tones":[{"degree":4},{"degree":6},{"degree":1,"octave":1},{"degree":3,"octave":1}]},{"tones":[{"degree":5,"octave":-1},{"degree":7}]}],
			"steps":[` + strings.Join(steps, ",") + `]}]}]}`))
		require.NoError(r, err)
		performance, err := lane.Render(p, &p.Clips[0], render.Options{})
		require.NoError(r, err)
		var notes []string
		for _, n := range performance.Events().Notes {
			notes = append(notes, fmt.Sprintf(`{"at":%d,"length":%d,"note":%d}`, n.At, n.Length, n.Pitch))
		}
		if len(notes) == 0 {
			return
		}
		type beginning struct {
			at      int64
			pitches []uint8
		}
		of := func(h *render.Harmony) (out []beginning) {
			for _, b := range h.Chords {
				if !b.Brought {
					out = append(out, beginning{b.At.Export(960), b.Pitches})
				}
			}
			return out
		}
		played, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"key":{"tonic":"D","scale":"dorian"},"clips":[{"id":"a","bars":4,"harmony":{"lane":"held"},"lanes":[
			{"id":"held","kind":"notes","notes":[` + strings.Join(notes, ",") + `]}]}]}`))
		require.NoError(r, err)
		again, err := lane.Render(played, &played.Clips[0], render.Options{})
		require.NoError(r, err)
		assert.Equal(r, of(performance.Harmony), of(again.Harmony))
	})
}
