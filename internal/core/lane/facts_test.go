package lane_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
	"agrimony/internal/core/review"
)

// clipOf reads a clip of lanes with fields of its own.
func clipOf(t require.TestingT, head, clip, lanes string) (*piece.Piece, *piece.Clip) {
	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1` + head + `,"clips":[{"id":"a"` + clip + `,"lanes":[` + lanes + `]}]}`))
	require.NoError(t, err, lanes)
	return p, &p.Clips[0]
}

func performed(t require.TestingT, head, clip, lanes string, options render.Options) *render.Performance {
	p, c := clipOf(t, head, clip, lanes)
	out, err := lane.Render(p, c, options)
	require.NoError(t, err, lanes)
	return out
}

func TestAClipLeavesNothingHanging(t *testing.T) {
	const low = `{"id":"low","channel":5,"rate":"1/4","glide":{"range":7},"steps":[{"on":true}]},`
	for _, row := range []struct {
		lane string
		of   func(render.Events) []string
		want []string
	}{
		{`"target":{"controller":64},"rate":"1/2","steps":[{"on":true,"value":127},{"on":true,"value":90}]`, controls, []string{"c 5/64 0=127", "c 5/64 1920=90", "c 5/64 3840=0"}},
		{`"target":{"controller":65},"rate":"1/2","steps":[{"on":true,"value":127},{"on":true,"value":0}]`, controls, []string{"c 5/65 0=127", "c 5/65 1920=0"}},
		{`"target":{"controller":74},"steps":[{"on":true,"value":127}]`, controls, []string{"c 5/74 0=127"}},
		{`"target":"pressure","steps":[{"on":true,"value":60}]`, pressures, []string{"5/0=60", "5/3840=0"}},
		{`"target":"wheel","steps":[{"on":true,"value":100}]`, wheel, []string{"0=8191", "3840=0"}},
		{`"target":"wheel","steps":[{"on":true,"value":0}]`, wheel, []string{"0=0"}},
	} {
		assert.Equal(t, row.want, curveOf(t, straight, low+`{"id":"c","kind":"control","to":"low",`+row.lane+`}`, row.of), row.lane)
	}
	// The range of the wheel is that of the lane that it acts on, and is sent first.
	const wheeled = `{"id":"c","kind":"control","to":"low","target":"wheel","steps":[{"on":true,"value":50}]}`
	for to, semitones := range map[string]int{
		low: 7,
		`{"id":"low","channel":5,"kind":"pulse","note":36,"steps":[{"on":true}]},`:                                                                                 12,
		`{"id":"x","glide":{"range":3},"steps":[{"on":true}]},{"id":"low","channel":5,"kind":"layer","of":"x"},`:                                                   3,
		`{"id":"low","channel":5,"kind":"phrase","source":"own","tones":[{"degree":1}],"glide":{"range":9},"steps":[{"on":true,"glide":{"from":2}},{"on":true}]},`: 9,
	} {
		sent := curveOf(t, straight, to+wheeled, func(e render.Events) (out []string) {
			for _, c := range e.Controls {
				if c.Lane == "c" {
					out = append(out, fmt.Sprintf("%d@%d=%d", c.Controller, c.At, c.Value))
				}
			}
			return out
		})
		assert.Equal(t, []string{"101@0=0", "100@0=0", fmt.Sprintf("6@0=%d", semitones), "38@0=0", "101@0=127", "100@0=127"}, sent, to)
	}
}

func TestTwoLanesThatStrikeOneKeyAtOnceAreOneNote(t *testing.T) {
	const two = `{"id":"x","channel":3,"rate":"1/4","steps":[{"on":true,"gate":50,"velocity":90},{},{"on":true,"gate":50},{}]},
		{"id":"y","channel":3,"rate":"1/4","steps":[{"on":true,"gate":90,"velocity":20},{"on":true,"gate":150},{},{}]}`
	assert.Equal(t, "1:0+864 C3@90, 3:1920+480 C3@100", heardIn(t, straight, two, "x"), "it is the first lane's, with the later end")
	assert.Equal(t, "2:960+959 C3@100", heardIn(t, straight, two, "y"), "and where it is struck again the old note ends, a tick before")
	near := strings.Replace(two, `"velocity":20`, `"velocity":20,"nudge":1`, 1)
	assert.Equal(t, "1:0+9 C3@90, 3:1920+480 C3@100", heardIn(t, straight, near, "x"), "a percent later it is another")
	p, c := clipOf(t, "", `,"bars":1`, near)
	coarse, err := lane.Render(p, c, render.Options{PPQ: 96})
	require.NoError(t, err)
	require.Len(t, coarse.Lanes[1].Notes, 2, "a tick of 96 is ten of 960: it is another there, too")
	nearer := strings.Replace(near, `"rate":"1/4","steps":[{"on":true,"gate":90`, `"rate":"1/16","steps":[{"on":true,"gate":90`, 1)
	p, c = clipOf(t, "", `,"bars":1`, nearer)
	coarse, err = lane.Render(p, c, render.Options{PPQ: 96})
	require.NoError(t, err)
	assert.NotEqual(t, beat.Time(0), coarse.Lanes[1].Notes[0].At, "on one tick it is one")
}

// A legato join reaches 1/128 note past the onset that it meets, wherever swing and template
// have put that.
func TestJoinsHoldUnderAnyGroove(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var steps, places []string
		for i := range 8 {
			steps = append(steps, fmt.Sprintf(`{"on":true,"degree":%d,"tie":%t}`, i%5+1, rapid.Bool().Draw(t, fmt.Sprint("tie", i))))
		}
		for i := range 16 {
			places = append(places, fmt.Sprintf(`{"at":%d,"velocity":0}`, rapid.IntRange(-24, 24).Draw(t, fmt.Sprint("at", i))))
		}
		swing := rapid.IntRange(50, 75).Draw(t, "swing")
		p := performed(t, fmt.Sprintf(`,"groove":{"swing":%d,"grid":"1/8","template":{"name":"x","steps":[%s]}}`, swing, strings.Join(places, ",")), `,"bars":2`,
			fmt.Sprintf(`{"id":"low","rate":"1/8","steps":[%s]}`, strings.Join(steps, ",")), render.Options{})
		part := &p.Lanes[0]
		line := p.Clip.Lanes[0].Content.(*piece.Line)
		for i := range len(part.Notes) - 1 {
			note, next := &part.Notes[i], &part.Notes[i+1]
			if !line.Steps[note.Step-1].Tie {
				require.LessOrEqual(t, note.End, next.At, "what is not joined is cut")
				continue
			}
			grid := p.Onset(part, next)
			overlap := p.Swing.Warp(grid+beat.Overlap) - p.Swing.Warp(grid)
			require.Equal(t, next.At+overlap, note.End, "note %d", i)
		}
	})
}

func TestWhatTheOthersOfAChordMeetUnderATemplate(t *testing.T) {
	p := performed(t, `,"groove":{"template":"Rolling"}`, `,"bars":1`, `{"id":"c","kind":"chords","rate":"1/8D","palette":[{"tones":[{"degree":1},{"degree":3}]},{"tones":[{"degree":1},{"degree":4}]}],
		"steps":[{"on":true,"tie":true},{"on":true,"chord":2}]}`, render.Options{})
	notes := p.Lanes[0].Notes
	assert.Equal(t, notes[2].At, notes[1].End, "E gives way to F where that begins")
}

func TestGlidesThatAreThereAtOnce(t *testing.T) {
	for name, row := range map[string]struct{ head, steps, want string }{
		"of no time":                                   {"", `{"on":true,"tie":true},{"on":true,"degree":5,"glide":{"time":0}}`, "960=4779"},
		"of less than the wheel's spacing":             {`,"tempo":20`, `{"on":true,"tie":true},{"on":true,"degree":5,"glide":{"time":0}}`, "960=4779"},
		"from its own pitch, where another still runs": {"", `{"on":true,"tie":true},{"on":true,"degree":5,"tie":true,"glide":{"time":400}},{"on":true,"degree":5,"glide":{"from":0}}`, "1920=4779"},
	} {
		p := performed(t, row.head, `,"bars":1`, `{"id":"low","rate":"1/4","octave":2,"steps":[`+row.steps+`]}`, render.Options{Bars: 1})
		all := wheel(p.Events())
		assert.Contains(t, all, row.want, name)
		if name != "from its own pitch, where another still runs" {
			assert.Equal(t, "0=0", all[0], name)
			assert.Equal(t, row.want, all[1], "%s: nothing comes before it", name)
		}
	}
	for _, steps := range []string{`{"on":true},{"on":true,"degree":5,"octave":3,"glide":{"time":0}}`, `{"on":true,"glide":{"time":0}},{"on":true,"degree":5}`} {
		p := performed(t, "", `,"bars":1`, `{"id":"low","rate":"1/2","glide":{"range":2},"steps":[`+steps+`]}`, render.Options{})
		assert.Empty(t, p.Lanes[0].Marks, "what is there at once is no finding")
	}
	p := performed(t, "", `,"bars":1`, `{"id":"low","rate":"1/4","glide":{"range":2},"steps":[{"on":true,"tie":true},{"on":true,"degree":2,"tie":true},{"on":true,"degree":5,"glide":{"time":30}},{}]}`, render.Options{})
	require.Len(t, p.Lanes[0].Marks, 1)
	assert.Equal(t, render.Mark{Kind: render.GlideBeyondRange, Step: 3, Want: 5}, p.Lanes[0].Marks[0], "the step that glides is named, above the one that is held")
}

func TestEmptyLanesCountForNothing(t *testing.T) {
	const reed = `{"id":"reed","rate":"1/4","steps":[{"on":true},{},{}]}`
	for name, row := range map[string]struct {
		lanes string
		bars  string
		of    []string // the lanes that count
	}{
		"no step on":            {reed + `,{"id":"e","steps":[{},{},{},{},{}]}`, "3/4", []string{"reed"}},
		"on outside the window": {reed + `,{"id":"e","window":{"start":2,"count":4},"steps":[{"on":true},{},{},{},{}]}`, "3/4", []string{"reed"}},
		"on, but skipped":       {reed + `,{"id":"e","steps":[{"on":true,"skip":true},{},{},{},{}]}`, "3/4", []string{"reed"}},
		"a layer of one":        {reed + `,{"id":"e","steps":[{},{},{},{},{}]},{"id":"l","kind":"layer","of":"e"},{"id":"m","kind":"layer","of":"l"}`, "3/4", []string{"reed"}},
		"a rhythm of one":       {reed + `,{"id":"e","steps":[{}]},{"id":"p","kind":"phrase","source":"own","tones":[{"degree":1}],"rhythm":{"lane":"e"},"steps":[{"on":true},{"on":true}]}`, "3/4", []string{"reed"}},
		"a follower of one":     {reed + `,{"id":"e","steps":[{}]},{"id":"c","kind":"control","to":"reed","follows":{"lane":"e"}}`, "3/4", []string{"reed"}},
		"moving an empty one":   {reed + `,{"id":"e","steps":[{}]},{"id":"c","kind":"control","to":"e","rate":"1/4","steps":[{"on":true,"value":3},{}]}`, "3/2", []string{"reed", "c"}},
		"a control without":     {reed + `,{"id":"c","kind":"control","to":"reed","steps":[{},{}]}`, "3/4", []string{"reed"}},
		"chords without":        {reed + `,{"id":"e","kind":"chords","steps":[{}]}`, "3/4", []string{"reed"}},
		"all of them":           {`{"id":"e","steps":[{},{},{}]}`, "1", []string{}},
		"chance of 0 is a note": {`{"id":"e","rate":"1/4","steps":[{"on":true,"chance":0},{},{}]}`, "3/4", []string{"e"}},
	} {
		p := performed(t, "", `,"until":"cycle"`, row.lanes, render.Options{})
		assert.Equal(t, row.bars, p.Cycle().Bars(), name)
		ids := []string{}
		for _, period := range p.Cycle().Periods {
			ids = append(ids, period.ID)
		}
		assert.Equal(t, row.of, ids, name)
		said := map[string]bool{}
		for _, f := range review.Clip(p) {
			said[f.Lane] = said[f.Lane] || f.Silent
		}
		for i := range p.Lanes {
			if part := &p.Lanes[i]; part.Empty {
				assert.True(t, said[part.ID], "%s: a finding says so of %s", name, part.ID)
			}
		}
	}
}

func TestALaneThatFollowsRootsKeepsBorrowedRoots(t *testing.T) {
	const borrowed = `{"id":"c","kind":"chords","rate":"1/2","octave":3,"mute":true,"palette":[{"tones":[{"degree":7,"alter":-1},{"degree":2,"octave":1},{"degree":4,"octave":1}]},{"tones":[{"degree":1},{"degree":3},{"degree":5}]}],"steps":[{"on":true},{"on":true,"chord":2}]},`
	for fields, want := range map[string]string{
		`"follow":"root","steps":[{"on":true},{"on":true}]`:                      "1:0+1440 Bb2@100, 2:1920+1440 C2@100",
		`"follow":"root","lock":"off","steps":[{"on":true},{"on":true}]`:         "1:0+1440 Bb2@100, 2:1920+1440 C2@100",
		`"follow":"root","steps":[{"on":true,"degree":2},{"on":true,"alter":1}]`: "1:0+1440 C3@100, 2:1920+1440 C2@100",
		`"steps":[{"on":true,"degree":7,"alter":-1},{"on":true,"degree":1}]`:     "1:0+1440 A2@100, 2:1920+1440 C2@100",
	} {
		assert.Equal(t, want, heardIn(t, straight, borrowed+`{"id":"low","rate":"1/2","octave":2,`+fields+`}`, "low"), fields)
	}
}

func TestALayerTakesPartInTheGrooveAsItsOriginal(t *testing.T) {
	const low = `{"id":"low","rate":"1/8","octave":2,"share":{"timing":%d},"steps":[{},{"on":true},{},{}]},`
	for _, row := range []struct {
		timing      int
		layer, want string
	}{
		{0, ``, "2:480+360 C2@100"},
		{100, ``, "2:576+288 C2@100"},
		{0, `,"share":{"timing":100}`, "2:576+288 C2@100"},
		{0, `,"share":{"velocity":50}`, "2:576+288 C2@100"}, // of one stated in part the rest is 100
		{100, `,"share":{"timing":0}`, "2:480+360 C2@100"},
	} {
		up := `{"id":"up","kind":"layer","of":"low"` + row.layer + `},{"id":"top","kind":"layer","of":"up"}`
		got := heardIn(t, `{"swing":60,"grid":"1/8"}`, fmt.Sprintf(low, row.timing)+up, "up")
		assert.Equal(t, row.want, strings.Split(got, ", ")[0], "%v", row)
		assert.Equal(t, got, heardIn(t, `{"swing":60,"grid":"1/8"}`, fmt.Sprintf(low, row.timing)+up, "top"), "and a layer of a layer")
	}
	p, _ := clipOf(t, "", "", `{"id":"low"},{"id":"up","kind":"layer","of":"low"},{"id":"on","kind":"layer","of":"low","share":{"timing":100}}`)
	text := string(piece.Write(p))
	assert.Equal(t, 1, strings.Count(text, `"share"`), "a share is written where it is stated, even as what is usual: %s", text)
}

func TestALayerCountsNotesAtOnceFromTheLowestUp(t *testing.T) {
	const down = `{"id":"ch","kind":"chords","rate":"1bar","palette":[{"tones":[{"degree":5},{"degree":1},{"degree":3}]}],"steps":[{"on":true,"strum":{"time":%d,"way":"down"}}]},`
	assert.Equal(t, "1:0+3840 C3@100", heardIn(t, straight, fmt.Sprintf(down, 0)+`{"id":"up","kind":"layer","of":"ch","keep":{"every":3}}`, "up"))
	assert.Equal(t, "1:0+3840 G3@100", heardIn(t, straight, fmt.Sprintf(down, 10)+`{"id":"up","kind":"layer","of":"ch","keep":{"every":3}}`, "up"))
}
