package edit_test

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/edit"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/lane/chords"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
	"agrimony/internal/core/review"
	"agrimony/internal/core/starter"
)

// choir is a piece in C major with a chords lane of four bars, a line and a second clip.
func choir(t *testing.T, steps string) *piece.Piece {
	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[
		{"id":"a","lanes":[{"id":"c","kind":"chords","rate":"1bar","octave":4,"palette":[{"tones":[{"degree":1},{"degree":3},{"degree":5}]},{"tones":[{"degree":4},{"degree":6},{"degree":1,"octave":1}]}],"steps":[` + steps + `]},
			{"id":"l","rate":"1/4","octave":2,"follow":"root","steps":[{},{},{},{}]}]},
		{"id":"b","key":{"tonic":"D","scale":"major"},"lanes":[{"id":"d","kind":"chords","palette":[{"tones":[{"degree":2},{"degree":4},{"degree":6}]}]}]}]}`))
	require.NoError(t, err)
	return p
}

const fourBars = `{"on":true},{"on":true,"chord":2},{"on":true},{}`

// made applies edits, each given by its name and arguments as JSON.
func made(t *testing.T, p *piece.Piece, ops ...string) *piece.Piece {
	next, err := try(p, ops...)
	require.NoError(t, err)
	return next
}

func try(p *piece.Piece, ops ...string) (*piece.Piece, error) {
	var list []op.Op
	if err := json.Unmarshal([]byte("["+strings.Join(ops, ",")+"]"), &list); err != nil {
		return nil, err
	}
	return edit.Apply(p, list)
}

func content(p *piece.Piece) *piece.Chords { return p.Clips[0].Lanes[0].Content.(*piece.Chords) }

// sheet writes a chords lane's steps: the chord's symbol, - for a tie after it, a dot for
// a rest.
func sheet(p *piece.Piece) string {
	l := &p.Clips[0].Lanes[0]
	var out []string
	for i, sound := range lane.Sounds(p, &p.Clips[0], l) {
		step := &content(p).Steps[i]
		text := "."
		if step.On {
			text = sound.Name
		}
		if step.Tie {
			text += "-"
		}
		out = append(out, text)
	}
	return strings.Join(out, " ")
}

func TestProgressionsAreWritten(t *testing.T) {
	for name, row := range map[string]struct{ steps, text, want string }{
		"a lane without chords becomes as long":  {`{},{}`, "I vi7 IV", "C Am7 F"},
		"so does one without rests":              {`{"on":true},{"on":true}`, "I IV V7 I6", "C F G7 C6"},
		"steps that are on take them in turn":    {`{"on":true,"tie":true},{},{"on":true},{}`, "ii V", "Dm- . G ."},
		"rests take what is left":                {`{"on":true},{},{"on":true}`, "I IV V", "C V-in F"},
		"steps without a chord become rests":     {`{"on":true},{},{"on":true}`, "I", "C . ."},
		"symbols and slashes are read too":       {`{}`, "F#m7 B/D# V7/ii", "F#m7 B/D# A7"},
		"a chord that comes again is taken once": {`{}`, "I IV I IV", "C F C F"},
	} {
		got := sheet(made(t, choir(t, row.steps), fmt.Sprintf(`{"op":"chords.write","clip":"a","lane":"c","text":%q}`, row.text)))
		want := strings.ReplaceAll(row.want, "V-in F", "G F")
		assert.Equal(t, want, got, name)
	}
	again := made(t, choir(t, `{}`), `{"op":"chords.write","clip":"a","lane":"c","text":"I IV I IV"}`)
	assert.Len(t, content(again).Palette, 2)
	named := made(t, choir(t, fourBars), `{"op":"chords.name","clip":"a","lane":"c","place":2,"name":"lift"}`, `{"op":"chords.write","clip":"a","lane":"c","text":"V IV"}`)
	assert.Equal(t, "lift", content(named).Palette[1].Name, "a chord that stays keeps its name")
}

// What was written stands there as it was written, for as long as it sounds so.
func TestNumeralsStayAsTheyWereWritten(t *testing.T) {
	write := func(text string) string {
		return fmt.Sprintf(`{"op":"chords.write","clip":"a","lane":"c","text":%q}`, text)
	}
	for name, row := range map[string]struct {
		ops  []string
		text string
	}{
		"a dominant of the dominant":      {[]string{write("I V7/V V")}, "I V7/V V"},
		"named as ever where it is so":    {[]string{write("I ii7 V")}, "I ii7 V"},
		"a symbol becomes a numeral":      {[]string{write("C D7 G")}, "I II7 V"},
		"written otherwise":               {[]string{write("I V7/V V"), write("I II7 V")}, "I II7 V"},
		"a tone taken away":               {[]string{write("I V7/V V"), `{"op":"chords.tone","clip":"a","lane":"c","step":2,"at":{"degree":2}}`}, "I #ivo V"},
		"a name of one's own stays":       {[]string{write("I II7 V"), `{"op":"chords.name","clip":"a","lane":"c","place":2,"name":"lift"}`, write("I V7/V V")}, "I II7 V"},
		"in another key that reads it so": {[]string{write("I V7/V V"), `{"op":"key.set","clip":"a","key":{"tonic":"F","scale":"major"},"keep":"degrees"}`}, "I V7/V V"},
		"placed by itself":                {[]string{write("I IV V"), `{"op":"chords.place","clip":"a","lane":"c","steps":[2],"text":"V7/V"}`}, "I V7/V V"},
	} {
		p := made(t, choir(t, `{}`), row.ops...)
		clip := &p.Clips[0]
		own := clip.Lanes[slices.IndexFunc(clip.Lanes, func(l piece.Lane) bool { return l.ID == "c" })]
		assert.Equal(t, row.text, chords.Text(&own, p.KeyOf(clip)), name)
	}
}

func TestChordsArePlacedChangedAndMoved(t *testing.T) {
	for name, row := range map[string]struct{ op, want string }{
		"a stack on a degree":             {`{"op":"chords.stack","clip":"a","lane":"c","steps":[4],"degree":5,"kind":"7"}`, "C F C G7"},
		"suspended":                       {`{"op":"chords.stack","clip":"a","lane":"c","steps":[4],"degree":2,"kind":"sus4"}`, "C F C Dsus4"},
		"with a sixth":                    {`{"op":"chords.stack","clip":"a","lane":"c","steps":[4],"degree":4,"kind":"add6"}`, "C F C F6"},
		"a thirteenth":                    {`{"op":"chords.stack","clip":"a","lane":"c","steps":[1],"degree":5,"kind":"13"}`, "G13 F C ."},
		"a word":                          {`{"op":"chords.place","clip":"a","lane":"c","steps":[4],"text":"bVII7"}`, "C F C Bb7"},
		"from another clip, by degrees":   {`{"op":"chords.take","clip":"a","lane":"c","steps":[4],"fromClip":"b","fromLane":"d","place":1}`, "C F C Dm"},
		"a tone more, wherever it stands": {`{"op":"chords.tone","clip":"a","lane":"c","step":1,"at":{"degree":7}}`, "Cmaj7 F Cmaj7 ."},
		"only here":                       {`{"op":"chords.tone","clip":"a","lane":"c","step":1,"at":{"degree":7},"only":true}`, "Cmaj7 F C ."},
		"a tone less":                     {`{"op":"chords.tone","clip":"a","lane":"c","step":1,"at":{"degree":3}}`, "C5 F C5 ."},
		"a first tone at an empty step":   {`{"op":"chords.tone","clip":"a","lane":"c","step":4,"at":{"degree":2}}`, "C F C D(1)"},
		"a tone dragged":                  {`{"op":"chords.drag","clip":"a","lane":"c","step":1,"from":{"degree":5},"to":{"degree":6},"only":true}`, "Am/C F C ."},
		"a tone moved by a degree":        {`{"op":"chords.moveTone","clip":"a","lane":"c","steps":[2],"tone":2,"unit":"degree","by":-1}`, "C Fsus2 C ."},
		"widened":                         {`{"op":"chords.widen","clip":"a","lane":"c","steps":[2],"by":1}`, "C Fmaj7 C ."},
		"widened twice":                   {`{"op":"chords.widen","clip":"a","lane":"c","steps":[2],"by":2}`, "C Fmaj9 C ."},
		"opened it keeps its name":        {`{"op":"chords.open","clip":"a","lane":"c","steps":[1,2],"open":true}`, "C F C ."},
		"inverted":                        {`{"op":"chords.invert","clip":"a","lane":"c","steps":[2],"by":1}`, "C F/A C ."},
		"moved in time":                   {`{"op":"chords.move","clip":"a","lane":"c","step":2,"to":4}`, "C . C F"},
		"held over the next":              {`{"op":"chords.hold","clip":"a","lane":"c","step":1,"steps":2}`, "C- . C ."},
		"the whole lane a degree up":      {`{"op":"steps.transpose","clip":"a","lane":"c","steps":[1,2,3,4],"unit":"degree","by":1}`, "Dm G Dm ."},
		"a step an octave up":             {`{"op":"steps.transpose","clip":"a","lane":"c","steps":[2],"unit":"octave","by":1}`, "C F C ."},
	} {
		got := sheet(made(t, choir(t, fourBars), row.op))
		assert.Equal(t, row.want, got, name)
	}
}

func TestHoldingMoreAndLess(t *testing.T) {
	p := choir(t, `{"on":true,"gate":80},{"on":true,"chord":2},{},{}`)
	p = made(t, p, `{"op":"chords.hold","clip":"a","lane":"c","step":1,"steps":3}`)
	assert.Equal(t, "C- .- . .", sheet(p))
	assert.Equal(t, 80, content(p).Steps[2].Gate, "the last step has the gate")
	p = made(t, p, `{"op":"chords.hold","clip":"a","lane":"c","step":1,"steps":2}`)
	assert.Equal(t, "C- . . .", sheet(p))
	moved := made(t, p, `{"op":"chords.move","clip":"a","lane":"c","step":1,"to":3}`)
	assert.Equal(t, ". . C- .", sheet(moved), "with what it is held through")
	p = made(t, p, `{"op":"chords.hold","clip":"a","lane":"c","step":1,"steps":1}`)
	assert.Equal(t, "C . . .", sheet(p))
	assert.Equal(t, 80, content(p).Steps[0].Gate)
}

func TestOpenAndCloseComeBack(t *testing.T) {
	p := choir(t, fourBars)
	opened := made(t, p, `{"op":"chords.open","clip":"a","lane":"c","steps":[1],"open":true}`)
	key := pitch.Key{}
	key, err := pitch.ParseKey("C major")
	require.NoError(t, err)
	assert.True(t, chords.IsOpen(key, content(opened).Palette[0].Tones))
	closed := made(t, opened, `{"op":"chords.open","clip":"a","lane":"c","steps":[1],"open":false}`)
	assert.Equal(t, content(p).Palette[0].Tones, content(closed).Palette[0].Tones)
}

func TestWhatOfChordsIsRefusedAndNothingIsLost(t *testing.T) {
	p := choir(t, fourBars)
	for text, message := range map[string]string{
		`{"op":"chords.write","clip":"a","lane":"c","text":"I Hm7"}`:                                                                        `ops[0].text: word 2: "Hm7" is not a chord: there is no note H`,
		`{"op":"chords.write","clip":"a","lane":"l","text":"I"}`:                                                                            "ops[0].lane: line lanes have no palette of chords; allowed: a chords lane",
		`{"op":"chords.stack","clip":"a","lane":"c","steps":[1],"degree":8,"kind":"7"}`:                                                     "degree: 8 is out of reach; allowed: 1..7",
		`{"op":"chords.stack","clip":"a","lane":"c","steps":[1],"degree":1,"kind":"8"}`:                                                     "allowed: triad, 7, 9",
		`{"op":"chords.place","clip":"a","lane":"c","steps":[1],"text":"iV"}`:                                                               "is not a chord",
		`{"op":"chords.take","clip":"a","lane":"c","steps":[1],"fromClip":"zz","fromLane":"d","place":1}`:                                   `ops[0].fromClip: no clip "zz"`,
		`{"op":"chords.take","clip":"a","lane":"c","steps":[1],"fromClip":"a","fromLane":"l","place":1}`:                                    `ops[0].fromLane: "l" is a line lane`,
		`{"op":"chords.take","clip":"a","lane":"c","steps":[1],"fromClip":"b","fromLane":"d","place":2}`:                                    "ops[0].place: 2 is not in the palette; allowed: 1..1",
		`{"op":"chords.tone","clip":"a","lane":"c","step":9,"at":{"degree":1}}`:                                                             "9",
		`{"op":"chords.tone","clip":"a","lane":"c","step":1,"at":{"degree":9}}`:                                                             "ops[0].at.degree",
		`{"op":"chords.drag","clip":"a","lane":"c","step":1,"from":{"degree":2},"to":{"degree":4}}`:                                         "no tone of the chord sounds at D4",
		`{"op":"chords.moveTone","clip":"a","lane":"c","steps":[1],"tone":4,"unit":"degree","by":1}`:                                        "ops[0].tone: the chord has no tone 4; allowed: 1..3",
		`{"op":"chords.widen","clip":"a","lane":"c","steps":[1],"by":7}`:                                                                    "ops[0].by: 7 thirds; allowed: -6..6",
		`{"op":"chords.widen","clip":"a","lane":"c","steps":[1],"by":-2}`:                                                                   "there is no third to take away",
		`{"op":"chords.invert","clip":"a","lane":"c","steps":[1],"by":9}`:                                                                   "clips[0].lanes[0].steps[0].inversion: 9 is out of range; allowed: -8..8",
		`{"op":"chords.name","clip":"a","lane":"c","place":3,"name":"x"}`:                                                                   "ops[0].place: 3 is not in the palette; allowed: 1..2",
		`{"op":"chords.drop","clip":"a","lane":"c","place":1}`:                                                                              "the chord is in use",
		`{"op":"chords.move","clip":"a","lane":"c","step":4,"to":1}`:                                                                        "there is no chord; allowed: a step that is on",
		`{"op":"chords.move","clip":"a","lane":"c","step":1,"to":5}`:                                                                        "ops[0].to: there is no step 5; allowed: 1..4",
		`{"op":"chords.hold","clip":"a","lane":"c","step":3,"steps":3}`:                                                                     "3 steps; allowed: 1..2",
		`{"op":"clip.harmony","clip":"a","harmony":{"clip":"a"}}`:                                                                           "needs itself",
		`{"op":"clip.harmony","clip":"a","harmony":{"lane":"l"}}`:                                                                           `"l" is a line lane`,
		`{"op":"notes.put","clip":"a","lane":"c","notes":[{"step":1,"at":{"degree":1},"ticks":0}]}`:                                         "chords",
		`{"op":"bass.make","clip":"a","of":"top","octave":2,"rate":"1/8","rhythm":"held","approach":"none","follow":false}`:                 `ops[0].of: "top" is not allowed; allowed: root, lowest`,
		`{"op":"bass.make","clip":"a","of":"lowest","octave":2,"rate":"1/8","rhythm":"held","approach":"none","follow":true}`:               "only roots can be followed",
		`{"op":"bass.make","clip":"a","of":"root","octave":2,"rate":"1/8","rhythm":"lane","from":"zz","approach":"none","follow":false}`:    `ops[0].from: no lane "zz"`,
		`{"op":"bass.make","clip":"a","of":"root","octave":2,"rate":"1/8","rhythm":"even","hits":0,"approach":"none","follow":false}`:       "ops[0].hits: 0 is out of range; allowed: 1..64",
		`{"op":"bass.make","clip":"a","of":"root","octave":12,"rate":"1/8","rhythm":"held","approach":"none","follow":false}`:               "ops[0].octave: 12 is out of range; allowed: -1..9",
		`{"op":"bass.make","clip":"a","of":"root","octave":2,"rate":"1/8","rhythm":"every","every":2,"approach":"sideways","follow":false}`: "ops[0].approach",
	} {
		_, err := try(p, text)
		assert.ErrorContains(t, err, message, text)
	}
	before := string(piece.Write(p))
	_, err := try(p, `{"op":"chords.invert","clip":"a","lane":"c","steps":[1],"by":1}`, `{"op":"chords.write","clip":"a","lane":"c","text":"Hm7"}`)
	assert.ErrorContains(t, err, "ops[1].text")
	assert.Equal(t, before, string(piece.Write(p)), "all of the edit or nothing")
}

func TestWhatIsTakenAwayTakesItsNamesWithIt(t *testing.T) {
	p := made(t, choir(t, fourBars), `{"op":"clip.harmony","clip":"b","harmony":{"clip":"a"}}`, `{"op":"clip.harmony","clip":"a","harmony":{"lane":"c"}}`)
	require.Equal(t, "a", p.Clips[1].Harmony.Clip)
	assert.Nil(t, made(t, p, `{"op":"lane.remove","clip":"a","lane":"c"}`).Clips[0].Harmony)
	assert.Nil(t, made(t, p, `{"op":"clip.remove","clip":"a"}`).Clips[0].Harmony)
	dropped := made(t, choir(t, `{"on":true,"chord":2},{"chord":1}`), `{"op":"chords.drop","clip":"a","lane":"c","place":1}`)
	assert.Equal(t, "F .", sheet(dropped))
}

// A note that is put on a rung of a lane that follows roots sounds on that rung there.
func TestNotesArePutWhereTheySound(t *testing.T) {
	p := made(t, choir(t, fourBars), `{"op":"notes.put","clip":"a","lane":"l","notes":[{"step":1,"at":{"degree":5},"ticks":0},{"step":2,"at":{"degree":5},"ticks":4800}]}`)
	line := p.Clips[0].Lanes[1].Content.(*piece.Line)
	assert.Equal(t, []int{5, 2}, []int{line.Steps[0].Degree, line.Steps[1].Degree}, "G is the fifth of C, and the second of F")
	performance, err := lane.Render(p, &p.Clips[0], render.Options{Bars: 2})
	require.NoError(t, err)
	got := map[int64]uint8{}
	for i := range performance.Lanes[1].Notes {
		at, _ := performance.Span(&performance.Lanes[1].Notes[i], 960)
		got[at] = performance.Lanes[1].Notes[i].Pitch
	}
	assert.Equal(t, uint8(43), got[0])
	assert.Equal(t, uint8(43), got[4800])
}

// bass writes a bass as the names of its notes over the clip, a dot for a rest.
func bass(t *testing.T, p *piece.Piece) string {
	clip := &p.Clips[0]
	own := &clip.Lanes[len(clip.Lanes)-1]
	performance, err := lane.Render(p, clip, render.Options{Bars: 4})
	require.NoError(t, err)
	step := p.StepLength(own).Export(960)
	out := make([]string, 4*3840/step)
	for i := range out {
		out[i] = "."
	}
	part := &performance.Lanes[len(performance.Lanes)-1]
	for i := range part.Notes {
		at, _ := performance.Span(&part.Notes[i], 960)
		out[at/step] = performance.Name(&part.Notes[i])
	}
	return strings.Join(out, " ")
}

func TestABassIsMadeOfTheChords(t *testing.T) {
	four := `{"on":true},{"on":true,"chord":2,"inversion":1},{"on":true,"tie":true},{}`
	for name, row := range map[string]struct{ fields, want string }{
		"held roots":        {`"of":"root","rate":"1/2","rhythm":"held","approach":"none","follow":false`, "C2 . F1 . C2 . . ."},
		"the lowest notes":  {`"of":"lowest","rate":"1/2","rhythm":"held","approach":"none","follow":false`, "C2 . A1 . C2 . . ."},
		"every second":      {`"of":"root","rate":"1/4","rhythm":"every","every":2,"approach":"none","follow":false`, "C2 . C2 . F1 . F1 . C2 . C2 . C2 . C2 ."},
		"spread evenly":     {`"of":"root","rate":"1/4","rhythm":"even","hits":3,"approach":"none","follow":false`, "C2 C2 C2 . F1 F1 F1 . C2 . . C2 . . C2 ."},
		"a step from below": {`"of":"root","rate":"1/2","rhythm":"held","approach":"below","follow":false`, "C2 E1 F1 B1 C2 . . B1"},
		"from above":        {`"of":"root","rate":"1/2","rhythm":"held","approach":"above","follow":false`, "C2 G1 F1 D2 C2 . . D2"},
		"by the fifth":      {`"of":"root","rate":"1/2","rhythm":"held","approach":"fifth","follow":false`, "C2 C1 F1 G1 C2 . . G1"},
		"following":         {`"of":"root","rate":"1/2","rhythm":"held","approach":"below","follow":true`, "C2 E2 F2 B1 C2 . . B1"},
	} {
		p := made(t, choir(t, four), `{"op":"bass.make","clip":"a","octave":2,`+row.fields+`}`)
		got := bass(t, p)
		assert.Equal(t, row.want, got, name)
		own := p.Clips[0].Lanes[2].Content.(*piece.Line)
		assert.Equal(t, strings.Contains(row.fields, "true"), own.Follow == "root", name)
	}
	taken := made(t, choir(t, four), `{"op":"steps.set","clip":"a","lane":"l","steps":[1,4],"patch":{"on":true}}`,
		`{"op":"bass.make","clip":"a","octave":1,"of":"root","rate":"1/4","rhythm":"lane","from":"l","approach":"none","follow":false,"name":"Ground"}`)
	assert.Equal(t, "C1 . . C1 F1 . . F1 C1 . . C1 C1 . . C1", bass(t, taken))
	assert.Equal(t, "Ground", taken.Clips[0].Lanes[2].Name)
}

// The note before the next root stays in the key and the chord, wherever the root stands.
func TestABassLeadsToRootsOutsideTheKey(t *testing.T) {
	for _, row := range []struct{ key, second, approach, want string }{
		{`{"tonic":"C","scale":"major"}`, `{"degree":2,"alter":-1},{"degree":4},{"degree":6,"alter":-1}`, "fifth", "Ab"}, // Db F Ab
		{`{"tonic":"C","scale":"major"}`, `{"degree":2,"alter":-1},{"degree":4},{"degree":6,"alter":-1}`, "below", "C"},
		{`{"tonic":"C","scale":"major"}`, `{"degree":5},{"degree":7},{"degree":2,"octave":1}`, "fifth", "D"},
		{`{"tonic":"C","scale":"major"}`, `{"degree":7},{"degree":2,"octave":1},{"degree":4,"octave":1}`, "fifth", "F"}, // B D F has a diminished fifth
		{`{"tonic":"A","scale":"natural minor"}`, `{"degree":7,"alter":1},{"degree":2,"octave":1},{"degree":4,"octave":1}`, "below", "G"},
		{`{"tonic":"A","scale":"natural minor"}`, `{"degree":7,"alter":1},{"degree":2,"octave":1},{"degree":4,"octave":1}`, "above", "A"},
	} {
		p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"key":` + row.key + `,"clips":[{"id":"a","bars":2,"lanes":[{"id":"c","kind":"chords","rate":"1bar","octave":3,
			"palette":[{"tones":[{"degree":1},{"degree":3},{"degree":5}]},{"tones":[` + row.second + `]}],"steps":[{"on":true},{"on":true,"chord":2}]}]}]}`))
		require.NoError(t, err)
		p = made(t, p, fmt.Sprintf(`{"op":"bass.make","clip":"a","octave":2,"of":"root","rate":"1/2","rhythm":"held","approach":%q,"follow":false}`, row.approach))
		lead := strings.Fields(bass(t, p))[1]
		assert.Equal(t, row.want, strings.TrimRight(lead, "-0123456789"), "%s before %s in %s", row.approach, row.second, row.key)
	}
}

// A bass that follows goes with the chords when they change; a fixed one stays.
func TestABassThatFollowsGoesWithTheChords(t *testing.T) {
	for follow, want := range map[bool]string{true: "G1", false: "C2"} {
		p := made(t, choir(t, fourBars), fmt.Sprintf(`{"op":"bass.make","clip":"a","octave":2,"of":"root","rate":"1/2","rhythm":"held","approach":"none","follow":%t}`, follow),
			`{"op":"chords.stack","clip":"a","lane":"c","steps":[1],"degree":5,"kind":"triad"}`)
		assert.Equal(t, want, bass(t, p)[:2])
	}
}

// A bass that is made of chords has its roots in MIDI 28..39, in every key, and never comes over the chords; so do the
// starters with the voice of a bass, from five semitones under their tonic to 14 above.
func TestBassesKeepLowInEveryKey(t *testing.T) {
	for _, tonic := range []string{"C", "Db", "D", "Eb", "E", "F", "F#", "G", "Ab", "A", "Bb", "B"} {
		p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"key":{"tonic":"` + tonic + `","scale":"natural minor"},"clips":[{"id":"a","bars":4,"lanes":[{"id":"c","kind":"chords","rate":"1bar","octave":3,"voicing":{"mode":"smooth"},
			"palette":[{"tones":[{"degree":1},{"degree":3},{"degree":5}]},{"tones":[{"degree":6},{"degree":1,"octave":1},{"degree":3,"octave":1}]},{"tones":[{"degree":4},{"degree":6},{"degree":1,"octave":1}]},{"tones":[{"degree":5},{"degree":7,"alter":1},{"degree":2,"octave":1}]}],
			"steps":[{"on":true},{"on":true,"chord":2},{"on":true,"chord":3},{"on":true,"chord":4}]}]}]}`))
		require.NoError(t, err)
		for _, follow := range []bool{false, true} {
			own := made(t, p, fmt.Sprintf(`{"op":"bass.make","clip":"a","octave":2,"of":"root","rate":"1/2","rhythm":"held","approach":"none","follow":%t}`, follow))
			performance, err := lane.Render(own, &own.Clips[0], render.Options{})
			require.NoError(t, err)
			for _, n := range performance.Lanes[1].Notes {
				low, high := uint8(28), uint8(39)
				if follow { // which goes about its tonic
					low, high = 23, 45
				}
				assert.True(t, n.Pitch >= low && n.Pitch <= high, "%d in %s, following %t", n.Pitch, tonic, follow)
			}
			for _, f := range review.Clip(performance) {
				assert.NotEqual(t, "bass-over", f.Rule, tonic)
			}
		}
		key, err := pitch.ParseKey(tonic + " natural minor")
		require.NoError(t, err)
		ground := 28 + (key.Pitch(pitch.Place{Degree: 1}, 3)-28)%12
		for _, s := range starter.BuiltIn() {
			if voice := s.Lane.Sound.Voice; s.Lane.Kind != piece.DefaultKind || voice != "bass" && voice != "sub" {
				continue
			}
			begun := edit.Begun(s, key)
			alone, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"key":{"tonic":"` + tonic + `","scale":"natural minor"},"clips":[{"id":"a","bars":2,"lanes":[]}]}`))
			require.NoError(t, err)
			begun.ID, begun.Name = "low", "Low"
			alone.Clips[0].Lanes = append(alone.Clips[0].Lanes, begun)
			require.NoError(t, piece.Check(alone))
			performance, err := lane.Render(alone, &alone.Clips[0], render.Options{})
			require.NoError(t, err)
			for _, n := range performance.Lanes[0].Notes {
				assert.True(t, int(n.Pitch) >= ground-5 && int(n.Pitch) <= ground+14, "%d of %s in %s, about %d", n.Pitch, s.Name, tonic, ground)
			}
		}
	}
}
