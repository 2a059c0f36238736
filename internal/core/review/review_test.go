package review_test

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
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
	"agrimony/internal/core/review"
)

func reviewed(t *testing.T, lanes string) (*piece.Piece, []render.Finding) {
	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"a","bars":1,"lanes":[` + lanes + `]}]}`))
	require.NoError(t, err)
	return p, findings(t, p)
}

func findings(t *testing.T, p *piece.Piece) []render.Finding {
	performance, err := lane.Render(p, &p.Clips[0], render.Options{Bars: 1})
	require.NoError(t, err)
	return review.Clip(performance)
}

func TestWhatAReviewFinds(t *testing.T) {
	for _, row := range []struct{ lanes, rule, message string }{
		{`{"name":"Low"}`, "silent", "Low is silent: no step is on."},
		{`{"name":"Low","mute":true,"steps":[{"on":true}]}`, "silent", "Low is silent: it is muted."},
		{`{"name":"Low","steps":[{"on":true}]},{"solo":true,"steps":[{"on":true}]}`, "silent", "Low is silent: another lane is solo."},
		{`{"name":"Low","steps":[{"on":true,"skip":true}]}`, "silent", "Low is silent: every step of its window is skipped."},
		{`{"name":"Low","steps":[{"on":true},{}],"window":{"start":2,"count":1}}`, "silent", "Low is silent: its notes lie outside its window or on skipped steps."},
		{`{"name":"Low","steps":[{"on":true,"chance":0}]}`, "silent", "Low is silent: the chance of every note is 0 %."},
		{`{"name":"Low","rate":"1bar","steps":[{"on":true,"rounds":{"of":2,"on":[2]}}]}`, "silent", "Low is silent: its notes wait for rounds that the clip is too short to reach."},
		{`{"name":"Lamps","kind":"phrase","steps":[{"on":true}]}`, "no-walk", "Lamps rests: there is no chord in the clip that it could walk."},
		{`{"name":"Lamps","kind":"phrase","steps":[{"on":true,"chance":0}]}`, "no-walk", "Lamps rests: there is no chord in the clip that it could walk."},
		{`{"name":"Lamps","kind":"phrase","source":"own","tones":[{"degree":1}],"steps":[{"on":true}],"modulators":[{"on":"leap","shape":"rise","every":"1bar","from":0,"to":12}]}`, "modulator-idle", "A modulator of Lamps moves the leap, but with a span of 1 there is none."},
		{`{"name":"Lamps","kind":"phrase","source":"own","tones":[{"degree":1}],"span":2,"steps":[{"on":true},{"on":true}],"modulators":[{"on":"leap","shape":"square","every":"1bar","from":6,"to":6}]}`, "modulator-key", "A modulator of Lamps moves the leap by semitones, which takes 8 notes out of the key and the chord."},
		{`{"id":"low","name":"Low","steps":[{"on":true,"velocity":80}]},{"name":"Echo","kind":"layer","of":"low","keep":"accents"}`, "layer-empty", "Echo keeps none of the notes of the lane that it plays (accents)."},
		{`{"name":"Low","rate":"1/2","glide":{"range":2},"steps":[{"on":true},{"on":true,"degree":5,"glide":{}}]}`, "glide-range", "Step 2 of Low moves the wheel by 7 semitones, but its range is 2; it was held at 2."},
		{`{"name":"Low","octave":9,"steps":[{"on":true,"octave":1}]}`, "folded", "Step 1 of Low asks for MIDI pitch 132; allowed: 0..127, so it was folded by octaves to 120."},
		{`{"name":"Low","rate":"1/2","steps":[{"on":true},{"on":true,"degree":6}]}`, "seam", "Low ends on A3, which does not lead back to its first note C3: it is neither tonic, third nor fifth, nor a step away, nor the fourth before the tonic."},
		{`{"name":"Low","rate":"1/2","steps":[{"on":true,"degree":2},{"on":true,"degree":4}]}`, "seam", "Low ends on F3, which does not lead back to its first note D3: it is neither tonic, third nor fifth, nor a step away, nor the fourth before the tonic."},
		{`{"name":"Low","lock":"chord","steps":[{"on":true}]}`, "no-harmony", "Low is locked to chords, but the clip has none; it keeps to the scale."},
		{`{"name":"Low","rate":"1/2","steps":[{"on":true},{"on":true,"rounds":{"of":3,"on":[3]}}]}`, "rounds", "Step 2 of Low waits for round 3 of 3, but the clip has only 1 of its rounds."},
		{`{"name":"Low","rate":"1/2","steps":[{"on":true,"glide":{}},{"on":true,"degree":5}]}`, "glide-start", "Step 1 of Low glides, but the clip starts fresh, so the first time there is nothing to glide from."},
		{`{"name":"Low","channel":2,"rate":"1/2","steps":[{"on":true,"glide":{"from":-5}}]},{"name":"Reed","channel":2,"steps":[{"on":true}]}`, "channel", "Low bends, and shares channel 2 with Reed: the wheel would bend both."},
	} {
		_, found := reviewed(t, row.lanes)
		require.NotEmpty(t, found, row.lanes)
		assert.Equal(t, row.rule, found[0].Rule, row.lanes)
		assert.Equal(t, row.message, found[0].Message)
	}
}

func TestLoopsThatCloseAreLeftAlone(t *testing.T) {
	for _, last := range []string{`"degree":5`, `"degree":1,"octave":1`, `"degree":2`, `"degree":7,"octave":-1`, `"degree":7`, `"degree":2,"octave":2`, `"degree":4`, `"degree":4,"octave":-2`, `"degree":5,"octave":-1`} {
		_, found := reviewed(t, `{"rate":"1/2","steps":[{"on":true},{"on":true,`+last+`}]}`)
		assert.Empty(t, found, last)
	}
}

// Every mend that is offered takes its finding away.
func TestMendsMend(t *testing.T) {
	for _, lanes := range []string{
		`{"mute":true,"steps":[{"on":true}]}`,
		`{"steps":[{"on":true,"chance":0},{"on":true,"chance":0},{"on":true,"chance":0}]}`,
		`{"rate":"1/2","steps":[{"on":true},{"on":true,"rounds":{"of":3,"on":[3]}}]}`,
		`{"rate":"1/2","steps":[{"on":true,"glide":{}},{"on":true,"degree":5}]}`,
		`{"channel":2,"rate":"1/2","steps":[{"on":true,"glide":{"from":-5}}]},{"channel":2,"steps":[{"on":true}]}`,
		`{"rate":"1/2","glide":{"range":2},"steps":[{"on":true},{"on":true,"degree":5,"glide":{}}]}`,
		`{"octave":9,"steps":[{"on":true,"octave":1}]}`,
		`{"rate":"1/2","steps":[{"on":true},{"on":true,"degree":6}]}`,
		`{"octave":9,"rate":"1/2","steps":[{"on":true,"octave":3},{"on":true,"octave":-3,"degree":2}]}`,
		`{"lock":"chord","steps":[{"on":true}]}`,
		`{"follow":"root","steps":[{"on":true}]}`,
		`{"steps":[{"on":true},{}],"window":{"start":2,"count":1}}`,
	} {
		p, found := reviewed(t, lanes)
		require.NotNil(t, found[0].Mend, lanes)
		next, err := edit.Apply(p, found[0].Mend.Ops)
		require.NoError(t, err, lanes)
		for _, f := range findings(t, next) {
			assert.NotEqual(t, found[0].Rule, f.Rule, lanes)
		}
	}
}

// Of a clip that is not seen whole, nothing is said that its rest may belie.
func TestABeginningIsNotJudgedByItsEnd(t *testing.T) {
	for _, lanes := range []string{
		`{"rate":"1/2","steps":[{"on":true},{"on":true,"degree":6}]}`,
		`{"rate":"1bar","steps":[{"on":true,"rounds":{"of":3,"on":[3]}}]}`,
		`{"rate":"1bar","steps":[{},{"on":true}]}`,
		`{"rate":"1/2","steps":[{"on":true},{"on":true,"rounds":{"of":3,"on":[3]}}]}`,
	} {
		p, found := reviewed(t, lanes)
		require.NotEmpty(t, found, "as a clip of one bar it has something")
		performance, err := lane.Render(p, &p.Clips[0], render.Options{Bars: 1, Opening: true})
		require.NoError(t, err)
		assert.Empty(t, review.Clip(performance), lanes)
	}
	p, _ := reviewed(t, `{"steps":[{"on":true,"chance":0}]}`)
	performance, err := lane.Render(p, &p.Clips[0], render.Options{Bars: 1, Opening: true})
	require.NoError(t, err)
	assert.NotEmpty(t, review.Clip(performance), "but what is so at any length is")
}

// Any mend that is offered can be taken.
func TestEveryMendOfferedCanBeTaken(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		number := func(low, high int) int { return rapid.IntRange(low, high).Draw(t, "number") }
		lanes := make([]string, number(1, 3))
		for i := range lanes {
			steps := make([]string, number(1, 9))
			for k := range steps {
				steps[k] = fmt.Sprintf(`{"on":%v,"degree":%d,"octave":%d,"alter":%d,"chance":%d,"ratchet":%d,"glide":{"time":%d},"rounds":{"of":4,"on":[%d]},"skip":%v}`,
					number(0, 3) > 0, number(1, 7), number(-4, 4), number(-11, 11), 100*number(0, 1), number(1, 8), number(0, 100), number(1, 4), number(0, 9) == 0)
			}
			lanes[i] = fmt.Sprintf(`{"rate":"%s","octave":%d,"lock":"%s","follow":"%s","channel":%d,"mute":%v,"glide":{"range":%d},"steps":[%s]}`,
				rapid.SampledFrom([]string{"1/16", "1/8D", "1/2", "1bar"}).Draw(t, "rate"), number(-1, 9), rapid.SampledFrom([]string{"scale", "chord", "off"}).Draw(t, "lock"),
				rapid.SampledFrom([]string{"key", "root"}).Draw(t, "follow"), number(0, 3), number(0, 9) == 0, number(1, 24), strings.Join(steps, ","))
		}
		if rapid.Bool().Draw(t, "chords") {
			lanes = append(lanes, pad("1 4", number(1, 5)))
		}
		if rapid.Bool().Draw(t, "drums") {
			lanes = append(lanes, drum("kick", 36, "x...x...x...x..."))
		}
		p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"a","bars":2,"lanes":[` + strings.Join(lanes, ",") + `]}]}`))
		require.NoError(t, err)
		performance, err := lane.Render(p, &p.Clips[0], render.Options{})
		require.NoError(t, err)
		for _, f := range review.Clip(performance) {
			known := slices.ContainsFunc(piece.Remarks, func(r piece.Remark) bool { return r.Rule == f.Rule })
			require.True(t, known || f.Silent || slices.Contains([]string{"silent", "no-walk", "layer-empty"}, f.Rule), "%s can be quiet", f.Rule)
			if f.Mend == nil {
				continue
			}
			_, err := edit.Apply(p, f.Mend.Ops)
			require.NoError(t, err, "%s: %s", f.Message, f.Mend.Label)
		}
	})
}

// The same of melodies that are likely to be remarked: parallel, deep, close, without a breath, however their octaves are
// written.
func TestMendsOfMelodiesCanBeTaken(t *testing.T) {
	remarked := map[string]bool{}
	rapid.Check(t, func(t *rapid.T) {
		number := func(low, high int, name string) int { return rapid.IntRange(low, high).Draw(t, name) }
		var lanes []string
		steps := rapid.SliceOfN(rapid.IntRange(1, 7), 8, 32).Draw(t, "degrees")
		for i := range number(1, 3, "lanes") {
			octave := number(-4, 4, "octave of the steps")
			var text []string
			for k, d := range steps {
				if at := d + number(0, 1, "apart")*4*(i%2); k%8 != 7 || number(0, 3, "rest") > 0 {
					text = append(text, fmt.Sprintf(`{"on":true,"degree":%d,"octave":%d,"gate":%d}`, (at-1)%7+1, min(octave+(at-1)/7, 4), number(40, 200, "gate")))
				} else {
					text = append(text, `{}`)
				}
			}
			lanes = append(lanes, fmt.Sprintf(`{"id":"l%d","octave":%d,"rate":%q,"follow":%q,"steps":[%s]}`, i, number(-1, 9, "octave"),
				rapid.SampledFrom([]string{"1/16", "1/8", "1/4"}).Draw(t, "rate"), rapid.SampledFrom([]string{"key", "root"}).Draw(t, "follow"), strings.Join(text, ",")))
		}
		if rapid.Bool().Draw(t, "chords") {
			lanes = append(lanes, pad("1 4", number(1, 5, "octave of the chords")))
		}
		p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"a","bars":4,"lanes":[` + strings.Join(lanes, ",") + `]}]}`))
		require.NoError(t, err)
		performance, err := lane.Render(p, &p.Clips[0], render.Options{})
		require.NoError(t, err)
		for _, f := range review.Clip(performance) {
			remarked[f.Rule] = true
			if f.Mend != nil {
				_, err := edit.Apply(p, f.Mend.Ops)
				require.NoError(t, err, "%s: %s", f.Message, f.Mend.Label)
			}
		}
	})
	for _, rule := range []string{"parallel", "muddy", "too-low", "no-breath", "one-velocity"} {
		assert.True(t, remarked[rule], "%s was among them", rule)
	}
}

func TestLanesThatNeverMeet(t *testing.T) {
	var lanes []string
	for i, n := range []int{17, 16, 13, 11} {
		lanes = append(lanes, fmt.Sprintf(`{"id":"l%d","name":"L%d","steps":[%s]}`, i, i, strings.TrimSuffix(strings.Repeat(`{"on":true},`, n), ",")))
	}
	p, found := reviewed(t, strings.Join(lanes, ","))
	last := found[len(found)-1]
	assert.Equal(t, "realign", last.Rule)
	assert.Equal(t, "The lanes never meet on a bar within 1024 bars: that takes 2431 bars.", last.Message)
	require.NotNil(t, last.Mend)
	assert.Equal(t, "Give L0 16 steps: they meet after 143 bars", last.Mend.Label)
	next, err := edit.Apply(p, last.Mend.Ops)
	require.NoError(t, err)
	assert.Equal(t, "143", lane.Cycle(next, &next.Clips[0]).RealignBars().String())
}
