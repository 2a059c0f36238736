package review_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/edit"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
	"agrimony/internal/core/review"
)

// under is a bar of C major in C4 with a line under it; the line's octave is 3 unless
// its fields say otherwise.
func under(line string) string {
	octave := `"octave":3,`
	if strings.Contains(line, `"octave":5,`) {
		octave = ""
	}
	return `{"id":"c","name":"Swell","kind":"chords","rate":"1bar","octave":4,"palette":[{"tones":[{"degree":1},{"degree":3},{"degree":5}]}],"steps":[{"on":true}]},
		{"id":"l","name":"Reed",` + octave + `"rate":"1/4",` + line + `}`
}

func TestClashesWithTheChord(t *testing.T) {
	for name, row := range map[string]struct{ line, rule, message string }{
		"a semitone on the first beat": {`"steps":[{"on":true,"degree":4},{},{},{}]`, "clash", "Step 1 of Reed, F3, stands a semitone from E4 of C on a strong beat of bar 1."},
		"a semitone in the middle":     {`"steps":[{"on":true},{},{"on":true,"degree":7},{}]`, "clash", "Step 3 of Reed, B3, stands a semitone from C4 of C on a strong beat of bar 1."},
		"a tritone":                    {`"lock":"off","steps":[{"on":true,"degree":5,"alter":1},{},{},{}]`, "clash", "Step 1 of Reed, A♭3, stands a tritone from D4 of Dm7 on a strong beat of bar 1."},
		"held into a chord":            {`"steps":[{"on":true,"degree":4,"tie":true},{"tie":true},{"tie":true},{}]`, "clash", "Step 1 of Reed, F3, stands a semitone from E4 of C on a strong beat of bar 1."},
		"a semitone on any beat":       {`"steps":[{},{"on":true,"degree":4,"gate":100},{},{}]`, "clash", "Step 2 of Reed, F3, stands a semitone from E4 of C at bar 1, beat 2."},
	} {
		lanes := under(row.line)
		switch name {
		case "a tritone":
			lanes = strings.Replace(lanes, `{"degree":1},{"degree":3},{"degree":5}`, `{"degree":2},{"degree":4},{"degree":1,"octave":1}`, 1)
		case "held into a chord":
			lanes = strings.Replace(lanes, `"rate":"1bar"`, `"rate":"1/2"`, 1)
			lanes = strings.Replace(lanes, `}]}],"steps":[{"on":true}]`, `}]},{"tones":[{"degree":4},{"degree":6},{"degree":1,"octave":1}]}],"steps":[{"on":true,"chord":2},{"on":true}]`, 1)
		}
		_, found := reviewed(t, lanes)
		require.NotEmpty(t, found, name)
		i := indexOf(found, row.rule)
		require.GreaterOrEqual(t, i, 0, name)
		assert.Equal(t, row.message, found[i].Message, name)
	}
	for name, line := range map[string]string{
		"a tone of the chord":           `"steps":[{"on":true,"degree":3},{},{"on":true,"degree":5},{}]`,
		"on a weak beat":                `"steps":[{"on":true},{"on":true,"degree":4},{"on":true},{"on":true,"degree":7}]`,
		"shorter than an eighth":        `"steps":[{"on":true,"degree":4,"gate":40},{},{},{}]`,
		"an appoggiatura":               `"steps":[{"on":true,"degree":4},{"on":true,"degree":3},{},{}]`,
		"a leading tone":                `"steps":[{},{},{"on":true,"degree":7},{"on":true,"octave":1}]`,
		"a seventh over the root":       `"octave":5,"steps":[{"on":true,"degree":7},{},{},{}]`,
		"a raised fourth":               `"lock":"off","steps":[{"on":true,"degree":4,"alter":1},{},{},{}]`,
		"a seventh against the third":   `"lock":"off","steps":[{"on":true,"degree":6,"alter":1},{},{},{}]`,
		"a whole step away from a tone": `"steps":[{"on":true,"degree":2},{},{},{}]`,
	} {
		_, found := reviewed(t, under(line))
		assert.Less(t, indexOf(found, "clash"), 0, "%s: %v", name, found)
	}
	_, found := reviewed(t, under(`"mute":true,"steps":[{"on":true,"degree":4},{},{},{}]`))
	assert.Less(t, indexOf(found, "clash"), 0, "a lane that is not heard clashes with nothing")
}

func indexOf(found []render.Finding, rule string) int {
	for i := range found {
		if found[i].Rule == rule {
			return i
		}
	}
	return -1
}

// Every mend that is offered takes its finding away.
func TestMendsTakeTheirFindingsAway(t *testing.T) {
	for name, lanes := range map[string]string{
		"clash":         under(`"steps":[{"on":true,"degree":4},{},{},{}]`),
		"clash ":        under(`"lock":"off","steps":[{"on":true,"degree":2,"alter":-1},{},{},{}]`),
		"clash  ":       under(`"follow":"root","steps":[{"on":true,"degree":4,"gate":100},{},{"on":true},{}]`),
		"chord-share":   under(`"steps":[{"on":true,"degree":2},{"on":true,"degree":6},{"on":true,"degree":2},{}]`),
		"rub":           `{"id":"a","name":"A","octave":4,"rate":"1/2","steps":[{"on":true,"degree":3,"gate":100},{}]},{"id":"b","name":"B","octave":5,"rate":"1/2","steps":[{"on":true,"degree":4,"gate":100},{}]}`,
		"muddy":         `{"id":"a","name":"A","octave":2,"rate":"1/2","steps":[{"on":true,"gate":100},{}]},{"id":"b","name":"B","octave":2,"rate":"1/2","steps":[{"on":true,"degree":3,"gate":100},{}]}`,
		"too-low":       `{"id":"a","name":"A","octave":1,"rate":"1/2","steps":[{"on":true},{"on":true,"degree":5,"octave":-1}]}`,
		"over-kick":     `{"id":"k","name":"Kick","kind":"pulse","note":36,"channel":10,"rate":"1/4","steps":[{"on":true},{"on":true},{"on":true},{"on":true}]},{"id":"b","name":"B","octave":2,"rate":"1/4","steps":[{"on":true},{"on":true},{"on":true},{"on":true}]}`,
		"one-velocity":  `{"id":"a","name":"A","octave":3,"rate":"1/16","steps":[{"on":true},{"on":true,"degree":2},{"on":true,"degree":3},{"on":true,"degree":5}]}`,
		"bass-over":     under(`"steps":[{"on":true},{"on":true},{"on":true},{"on":true,"degree":3,"octave":1}]`),
		"no-chord":      `{"id":"c","kind":"chords","rate":"1bar","palette":[{"tones":[{"degree":2}]}],"steps":[{"on":true}]}`,
		"voicing-range": `{"id":"c","kind":"chords","rate":"1/2","octave":4,"voicing":{"mode":"smooth","low":60,"high":72},"palette":[{"tones":[{"degree":1}]},{"tones":[{"degree":1},{"degree":1,"octave":1},{"degree":1,"octave":2}]}],"steps":[{"on":true},{"on":true,"chord":2}]}`,
	} {
		rule := strings.TrimSpace(name)
		p, found := reviewed(t, lanes)
		i := indexOf(found, rule)
		require.GreaterOrEqual(t, i, 0, "%s: %v", name, found)
		require.NotNil(t, found[i].Mend, name)
		for _, mend := range append([]render.Mend{*found[i].Mend}, found[i].More...) {
			next, err := edit.Apply(p, mend.Ops)
			require.NoError(t, err, "%s: %s", name, mend.Label)
			assert.Less(t, indexOf(findings(t, next), rule), 0, "%s: %s", name, mend.Label)
		}
	}
}

func TestAClashOffersThreeMends(t *testing.T) {
	_, found := reviewed(t, under(`"steps":[{"on":true,"degree":4},{},{},{}]`))
	f := found[indexOf(found, "clash")]
	labels := []string{f.Mend.Label}
	for _, m := range f.More {
		labels = append(labels, m.Label)
	}
	assert.Equal(t, []string{"Move it to E3, a tone of C", "Shorten it", "Take it away"}, labels)
}

func TestAgreementIsTheShareOfNotesAndOfTime(t *testing.T) {
	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"a","bars":1,"lanes":[` + under(`"steps":[{"on":true,"gate":100},{"on":true,"degree":2,"gate":50},{"on":true,"degree":3,"gate":100},{}]`) + `]}]}`))
	require.NoError(t, err)
	performance, err := lane.Render(p, &p.Clips[0], render.Options{})
	require.NoError(t, err)
	got, ok := review.AgreementOf(performance, &performance.Lanes[1])
	require.True(t, ok)
	assert.Equal(t, review.Agreement{Notes: 67, Time: 80}, got, "two of three notes; 1920 of 2400 ticks")
	assert.Equal(t, []int{1}, review.Outside(performance, &performance.Lanes[1]))
	assert.Nil(t, review.Outside(performance, &performance.Lanes[0]), "the chords themselves are not asked")
}

func TestABassStandsUnderTheChord(t *testing.T) {
	_, found := reviewed(t, under(`"steps":[{"on":true},{"on":true},{"on":true,"degree":3,"octave":1},{"on":true}]`))
	i := indexOf(found, "bass-over")
	require.GreaterOrEqual(t, i, 0)
	assert.Equal(t, "Step 3 of Reed, E4, stands over C4, the lowest note of C.", found[i].Message)
	assert.Equal(t, "Move it down an octave", found[i].Mend.Label)
	_, found = reviewed(t, under(`"octave":5,"steps":[{"on":true},{},{},{}]`))
	assert.Less(t, indexOf(found, "bass-over"), 0, "a line over the chords is no bass")
}
