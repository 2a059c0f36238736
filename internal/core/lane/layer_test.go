package lane_test

import (
	"fmt"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/lane"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// heardIn renders a clip of one bar in 4/4 with a groove, and lists the notes of a lane as
// step:tick+length name@velocity.
func heardIn(t testing.TB, groove, lanes, of string) string {
	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"groove":` + groove + `,"clips":[{"id":"a","bars":1,"lanes":[` + lanes + `]}]}`))
	require.NoError(t, err)
	performance, err := lane.Render(p, &p.Clips[0], render.Options{})
	require.NoError(t, err)
	var out []string
	for _, n := range performance.Events().Notes {
		if n.Lane == of {
			out = append(out, fmt.Sprintf("%d:%d+%d %s@%d", n.Step, n.At, n.Length, n.Name, n.Velocity))
		}
		checkWhy(t, n)
	}
	return strings.Join(out, ", ")
}

var pitchName = regexp.MustCompile(`^[A-G](#|b)*-?[0-9]$`)

// checkWhy follows the reasons of a note from the first to the last.
func checkWhy(t testing.TB, n render.NoteEvent) {
	last := map[string]string{}
	for _, r := range n.Why {
		for _, what := range []string{"tick ", " ticks"} {
			if strings.HasPrefix(r.To, what) || strings.HasSuffix(r.To, what) {
				last[what] = r.To
			}
		}
		if r.Rule == "velocity" || r.Rule == "groove" && strings.HasPrefix(r.From, "velocity") {
			last["velocity"] = r.To
		}
		if pitchName.MatchString(r.To) {
			last["pitch"] = r.To
		}
	}
	assert.Equal(t, []string{fmt.Sprintf("tick %d", n.At), fmt.Sprintf("%d ticks", n.Length), fmt.Sprint(n.Velocity), n.Name},
		[]string{last["tick "], last[" ticks"], last["velocity"], last["pitch"]}, "%v", n.Why)
}

const straight = `{}`

func TestALayerPlaysWhatItsOriginalPlays(t *testing.T) {
	const low = `{"id":"low","rate":"1/4","octave":2,"steps":[{"on":true,"tie":true},{},{"on":true,"degree":5,"velocity":115},{"on":true,"degree":4,"ratchet":2,"gate":50}]},`
	for _, row := range []struct{ layer, want string }{
		{`"octave":1`, "1:0+1680 C3@100, 3:1920+720 G3@115, 4:2880+240 F3@100, 4:3360+240 F3@100"},
		{`"octave":-1,"semitones":7`, "1:0+1680 G1@100, 3:1920+720 D2@115, 4:2880+240 C2@100, 4:3360+240 C2@100"},
		{`"degrees":2`, "1:0+1680 E2@100, 3:1920+720 B2@115, 4:2880+240 A2@100, 4:3360+240 A2@100"},
		{`"degrees":-8`, "1:0+1680 B0@100, 3:1920+720 F1@115, 4:2880+240 E1@100, 4:3360+240 E1@100"},
		{`"velocity":20`, "1:0+1680 C2@120, 3:1920+720 G2@127, 4:2880+240 F2@120, 4:3360+240 F2@120"},
		{`"gate":50`, "1:0+840 C2@100, 3:1920+360 G2@115, 4:2880+120 F2@100, 4:3360+120 F2@100"},
		{`"gate":400`, "1:0+1920 C2@100, 3:1920+960 G2@115, 4:2880+480 F2@100, 4:3360+480 F2@100"}, // monophonic as its original is
		{`"keep":"accents"`, "3:1920+720 G2@115"},
		{`"keep":"beats"`, "1:0+1680 C2@100, 3:1920+720 G2@115, 4:2880+240 F2@100"},
		{`"keep":{"every":2}`, "1:0+1680 C2@100, 4:2880+240 F2@100"},
		{`"keep":{"every":2,"from":2},"gate":200`, "3:1920+1440 G2@115, 4:3360+480 F2@100"},
		{`"semitones":1`, "1:0+1680 Db2@100, 3:1920+720 Ab2@115, 4:2880+240 F#2@100, 4:3360+240 F#2@100"},
		{`"semitones":1,"lock":"scale"`, "1:0+1680 C2@100, 3:1920+720 G2@115, 4:2880+240 F2@100, 4:3360+240 F2@100"},
		{`"octave":1,"range":{"low":36,"high":48}`, "1:0+1680 C3@100, 3:1920+720 G2@115, 4:2880+240 F2@100, 4:3360+240 F2@100"},
		{`"octave":1,"range":{"low":36,"high":54,"outside":"drop"}`, "1:0+1680 C3@100, 4:2880+240 F3@100, 4:3360+240 F3@100"},
	} {
		assert.Equal(t, row.want, heardIn(t, straight, low+`{"id":"up","kind":"layer","of":"low",`+row.layer+`}`, "up"), row.layer)
	}
	two := low + `{"id":"up","kind":"layer","of":"low","octave":1,"keep":"accents"},{"id":"top","kind":"layer","of":"up","octave":1,"velocity":-100}`
	assert.Equal(t, "3:1920+720 G4@15", heardIn(t, straight, two, "top"), "a layer of a layer")
	muted := strings.Replace(low, `"id":"low"`, `"id":"low","mute":true`, 1) + `{"id":"up","kind":"layer","of":"low","keep":"accents"}`
	assert.Equal(t, "3:1920+720 G2@115", heardIn(t, straight, muted, "up"), "of a lane that is not heard")
}

func TestALayerOfChordsAndOfAPhrase(t *testing.T) {
	const chords = `{"id":"ch","kind":"chords","rate":"1/2","octave":3,"palette":[{"tones":[{"degree":1},{"degree":3},{"degree":5}]},{"tones":[{"degree":4},{"degree":6},{"degree":1,"octave":1}]}],"steps":[{"on":true,"chord":1},{"on":true,"chord":2}]},`
	assert.Equal(t, "1:0+1920 E4@100, 1:0+1920 G4@100, 1:0+1920 B4@100, 2:1920+1920 A4@100, 2:1920+1920 C5@100, 2:1920+1920 E5@100",
		heardIn(t, straight, chords+`{"id":"up","kind":"layer","of":"ch","octave":1,"degrees":2}`, "up"))
	assert.Equal(t, "1:0+1920 G3@100, 2:1920+1920 C4@100", heardIn(t, straight, chords+`{"id":"up","kind":"layer","of":"ch","keep":{"every":3,"from":3}}`, "up"))
	const phrase = `{"id":"ph","kind":"phrase","rate":"1/4","octave":3,"steps":[{"on":true},{"on":true},{"on":true,"offset":1},{"on":true}]},`
	assert.Equal(t, "1:0+720 C2@100, 2:960+720 E2@100, 4:2880+720 A2@100", heardIn(t, straight, chords+phrase+`{"id":"in","kind":"layer","of":"ph","octave":-1,"keep":"chord"}`, "in"),
		"the third note is G over F")
}

func TestWhatLanesOfOtherLanesRefuse(t *testing.T) {
	for lanes, message := range map[string]string{
		`{"id":"c","kind":"control"}`:                                                                  "lanes[0].to: is missing",
		`{"id":"c","kind":"control","to":"none"}`:                                                      `lanes[0].to: no lane "none" in the clip`,
		`{"id":"c","kind":"control","to":"c"}`:                                                         `lanes[0].to: lane "c" has no notes: it is a control lane; allowed: a lane with notes`,
		`{"id":"x"},{"id":"c","kind":"control","to":"x","follows":{"lane":"y"}}`:                       `lanes[1].follows.lane: no lane "y" in the clip`,
		`{"id":"x"},{"id":"c","kind":"control","to":"x","follows":{"lane":"x","from":128}}`:            "lanes[1].follows.from: 128 is above 127; allowed: -100..127",
		`{"id":"x"},{"id":"c","kind":"control","to":"x","follows":{"lane":"x","from":-1}}`:             "lanes[1].follows.from: -1 is beyond what the controller 74 takes; allowed: 0..127",
		`{"id":"x"},{"id":"c","kind":"control","to":"x","follows":{"lane":"x","low":60,"high":60}}`:    "lanes[1].follows.high: 60 is not above low; allowed: 61..127",
		`{"id":"x"},{"id":"c","kind":"control","to":"x","target":"wheel","steps":[{"value":101}]}`:     "lanes[1].steps[0].value: 101 is beyond what the wheel takes; allowed: -100..100",
		`{"id":"x"},{"id":"c","kind":"control","to":"x","target":{"controller":120}}`:                  "lanes[1].target.controller: 120 is above 119; allowed: 0..119",
		`{"id":"x"},{"id":"c","kind":"control","to":"x","modulators":[{"on":"gate","from":1,"to":2}]}`: `lanes[1].modulators[0].on: "gate" is not allowed; allowed: chance, nudge, value`,
		`{"id":"x"},{"id":"c","kind":"control","to":"x","odds":[]}`:                                    "lanes[1].odds: is not a known field",
		`{"id":"l","kind":"layer"}`:                                                                    "lanes[0].of: is missing",
		`{"id":"l","kind":"layer","of":"l"}`:                                                           "lanes[0].of: needs itself: l needs l",
		`{"id":"l","kind":"layer","of":"m"},{"id":"m","kind":"layer","of":"l"}`:                        "lanes[1].of: needs itself: l needs m needs l",
		`{"id":"p","kind":"phrase","rhythm":{"lane":"l"}},{"id":"l","kind":"layer","of":"p"}`:          "needs itself: p needs l needs p",
		`{"id":"x"},{"id":"l","kind":"layer","of":"x","keep":"some"}`:                                  `lanes[1].keep: "some" is not allowed; allowed: all, accents, beats, chord, or an object`,
		`{"id":"x"},{"id":"l","kind":"layer","of":"x","keep":{"every":0}}`:                             "lanes[1].keep.every: 0 is below 1; allowed: 1..64",
		`{"id":"x"},{"id":"l","kind":"layer","of":"x","octave":5}`:                                     "lanes[1].octave: 5 is above 4; allowed: -4..4",
		`{"id":"x"},{"id":"l","kind":"layer","of":"x","range":{"low":50,"high":60}}`:                   "lanes[1].range.high: 60 is not an octave above 50",
		`{"id":"x"},{"id":"c","kind":"control","to":"x"},{"id":"l","kind":"layer","of":"c"}`:           `lanes[2].of: lane "c" has no notes: it is a control lane; allowed: a lane with notes`,
		`{"id":"x","modulators":[{"on":"value","from":1,"to":2}]}`:                                     `lanes[0].modulators[0].on: "value" is not allowed; allowed: velocity, gate, chance, ratchet, nudge, degree, octave`,
		`{"id":"x","odds":[{"weight":0}]}`:                                                             "lanes[0].odds[0].weight: 0 is below 1; allowed: 1..100",
	} {
		_, err := read(t, lanes)
		assert.ErrorContains(t, err, message, lanes)
	}
	_, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"groove":{"template":{"name":"x","steps":[{},{},{},{},{},{},{},{},{},{},{},{},{},{},{}]}}}`))
	assert.ErrorContains(t, err, "groove.template.steps: 15 items are below 16")
}

// How often a layer recurs beside what it plays: in bars, exact.
func TestThePeriodOfALayerCountsWhatItKeeps(t *testing.T) {
	for _, row := range []struct{ meter, lanes, bars, why string }{
		{"3/4", `{"id":"low","rate":"1/4","steps":[{"on":true},{"on":true},{"on":true}]},{"id":"up","kind":"layer","of":"low","keep":{"every":2}}`, "2", "three notes by twos"},
		{"4/4", `{"id":"low","rate":"1/4","steps":[{"on":true},{"on":true},{"on":true},{"on":true}]},{"id":"up","kind":"layer","of":"low","keep":{"every":2}}`, "1", "four notes by twos"},
		{"4/4", `{"id":"low","rate":"1/4","steps":[{"on":true},{"on":true},{},{"on":true,"ratchet":3}]},{"id":"up","kind":"layer","of":"low","keep":{"every":4}}`, "4", "five strikes by fours"},
		{"4/4", `{"id":"low","rate":"1/4","steps":[{"on":true},{"on":true,"tie":true},{},{}]},{"id":"up","kind":"layer","of":"low","keep":{"every":2,"from":2}}`, "1", "a tie into a rest is no note"},
		{"4/4", `{"id":"low","rate":"1/4","steps":[{"on":true},{"on":true,"chance":20},{"on":true,"rounds":{"of":2,"on":[1]}},{}]},{"id":"up","kind":"layer","of":"low","keep":{"every":3}}`, "6", "chance does not count: five notes in two bars, by threes"},
		{"4/4", `{"id":"tide","kind":"chords","rate":"1/2","palette":[{"tones":[{"degree":1},{"degree":3},{"degree":5}]}],"steps":[{"on":true},{"on":true}]},{"id":"up","kind":"layer","of":"tide","keep":{"every":4}}`, "2", "each tone is a note"},
		{"3/4", `{"id":"low","rate":"1/8D","steps":[{"on":true}]},{"id":"up","kind":"layer","of":"low","keep":"beats"}`, "1", "dotted eighths meet the beat after three quarters"},
		{"4/4", `{"id":"low","rate":"1/4","steps":[{"on":true},{"on":true},{"on":true}]},{"id":"up","kind":"layer","of":"low","keep":{"every":2}},{"id":"top","kind":"layer","of":"up","keep":{"every":2}}`, "3", "every second of every second"},
	} {
		p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"meter":"` + row.meter + `","clips":[{"id":"a","until":"cycle","lanes":[` + row.lanes + `]}]}`))
		require.NoError(t, err)
		cycle := lane.Cycle(p, &p.Clips[0])
		assert.Equal(t, row.bars, cycle.Bars(), row.why)
	}
}

// Where a layer's gate changes lengths, its notes give way to nothing that its original's gave way to.
func TestALayersOwnGateGivesWayToNothing(t *testing.T) {
	const tide = `{"id":"tide","kind":"chords","rate":"1/2","octave":3,"palette":[{"tones":[{"degree":1},{"degree":3}]},{"tones":[{"degree":1},{"degree":4}]}],"steps":[{"on":true,"tie":true},{"on":true,"chord":2}]},`
	late := `{"template":{"name":"Own","steps":[{},{},{},{},{},{},{},{},{"at":50},{},{},{},{},{},{},{}]}}`
	assert.Equal(t, "1:0+3840 C3@100, 1:0+2040 E3@100, 2:2040+1800 F3@100", heardIn(t, late, tide+`{"id":"up","kind":"layer","of":"tide"}`, "up"))
	assert.Equal(t, "1:0+1920 C3@100, 1:0+960 E3@100, 2:2040+960 F3@100", heardIn(t, late, tide+`{"id":"up","kind":"layer","of":"tide","gate":50}`, "up"))
}
