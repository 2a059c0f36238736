package compare_test

import (
	"encoding/json"
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"agrimony/internal/core/compare"
	"agrimony/internal/core/piece"
)

func two(t require.TestingT, a, b string) *piece.Piece {
	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"a",` + a + `},{"id":"b","of":"a",` + b + `}]}`))
	require.NoError(t, err)
	return p
}

func TestInWhatTwoClipsDiffer(t *testing.T) {
	low := func(rest string) string {
		return `"bars":1,"lanes":[{"id":"low","rate":"1/4",` + rest + `}]`
	}
	for name, c := range map[string]struct{ a, b, settings, notes string }{
		"nothing":                         {low(`"steps":[{"on":true}]`), low(`"steps":[{"on":true}]`), `[]`, `[]`},
		"names and luck are not compared": {low(`"name":"Low","steps":[{"on":true}]`), low(`"name":"High","steps":[{"on":true}]`), `[]`, `[]`},
		"a step's gate, absent at its default": {low(`"steps":[{"on":true},{},{},{}]`), low(`"steps":[{"on":true,"gate":50},{},{},{}]`),
			`[{"path":"lanes[low].steps[0].gate","from":75,"to":50}]`, `[{"lane":"low","change":"length","at":0,"pitch":48,"from":720,"to":480}]`},
		"louder and longer is told twice": {low(`"steps":[{"on":true},{},{},{}]`), low(`"steps":[{"on":true,"gate":50,"velocity":90},{},{},{}]`),
			`[{"path":"lanes[low].steps[0].gate","from":75,"to":50},{"path":"lanes[low].steps[0].velocity","from":100,"to":90}]`,
			`[{"lane":"low","change":"length","at":0,"pitch":48,"from":720,"to":480},{"lane":"low","change":"velocity","at":0,"pitch":48,"from":100,"to":90}]`},
		"moved in pitch": {low(`"octave":3,"steps":[{"on":true},{},{},{}]`), low(`"octave":4,"steps":[{"on":true},{},{},{}]`),
			`[{"path":"lanes[low].octave","from":3,"to":4}]`, `[{"lane":"low","change":"moved","at":0,"pitch":48,"from":{"at":0,"pitch":48},"to":{"at":0,"pitch":60}}]`},
		"added and gone": {low(`"steps":[{"on":true},{},{},{}]`), low(`"steps":[{},{},{"on":true},{}]`),
			`[{"path":"lanes[low].steps[0].on","from":true,"to":false},{"path":"lanes[low].steps[2].on","from":false,"to":true}]`,
			`[{"lane":"low","change":"gone","at":0,"pitch":48,"from":null,"to":null},{"lane":"low","change":"added","at":1920,"pitch":48,"from":null,"to":null}]`},
		"the shorter one loops": {`"bars":1,"lanes":[{"id":"low","rate":"1bar","steps":[{"on":true}]}]`, `"bars":2,"lanes":[{"id":"low","rate":"1bar","steps":[{"on":true}]}]`,
			`[{"path":"bars","from":1,"to":2}]`, `[]`},
	} {
		p := two(t, c.a, c.b)
		report, err := compare.Clips(p, &p.Clips[0], &p.Clips[1], 0, nil)
		require.NoError(t, err)
		settings, err := json.Marshal(report.Settings)
		require.NoError(t, err)
		notes, err := json.Marshal(report.Notes)
		require.NoError(t, err)
		assert.JSONEq(t, c.settings, string(settings), name)
		assert.JSONEq(t, c.notes, string(notes), name)
	}
	p := two(t, low(`"steps":[{"on":true}]`), `"bars":1,"lanes":[]`)
	report, err := compare.Clips(p, &p.Clips[0], &p.Clips[1], 0, nil)
	require.NoError(t, err)
	require.Len(t, report.Settings, 1, "a lane that one lacks is one setting")
	assert.Equal(t, "lanes[low]", report.Settings[0].Path)
	assert.Nil(t, report.Settings[0].To)
}

func TestDifferencesInWords(t *testing.T) {
	for b, text := range map[string]string{
		`"direction":"reverse"`:                             "Low: plays backwards",
		`"steps":[{"on":true},{},{}]`:                       "Low: 3 steps instead of 4",
		`"window":{"start":1,"count":3}`:                    "Low: plays 3 steps from step 1 instead of all steps",
		`"rate":"1/8"`:                                      "Low: rate 1/8 instead of 1/4",
		`"mute":true`:                                       "Low: now mute",
		`"steps":[{"on":true,"gate":9},{"degree":2},{},{}]`: "Low: 2 steps otherwise",
		`"range":{"low":40,"high":60}`:                      "Low: range high 60, low 40, outside fold instead of none",
	} {
		steps := `"steps":[{"on":true},{},{},{}],`
		if len(b) > 7 && b[:8] == `"steps":` {
			steps = ""
		}
		rate := `"rate":"1/4",`
		if b == `"rate":"1/8"` {
			rate = ""
		}
		p := two(t, `"bars":1,"lanes":[{"id":"low","name":"Low","rate":"1/4","steps":[{"on":true},{},{},{}]}]`, `"bars":1,"lanes":[{"id":"low","name":"Low",`+rate+steps+b+`}]`)
		var said []string
		for _, w := range compare.Words(&p.Clips[0], &p.Clips[1]) {
			said = append(said, w.Text)
		}
		assert.Equal(t, []string{text}, said)
	}
}

// Two performances that are equal differ in no note, whatever the settings; and what one has more than
// the other is told from either side.
func TestNotesAreTheSameOrTold(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		lane := func(name string) string {
			steps := ""
			for i := range 8 {
				if i > 0 {
					steps += ","
				}
				steps += fmt.Sprintf(`{"on":%t,"degree":%d,"gate":%d}`, rapid.Bool().Draw(t, name), rapid.IntRange(1, 7).Draw(t, name), rapid.IntRange(20, 90).Draw(t, name))
			}
			return `"bars":1,"lanes":[{"id":"low","rate":"1/8","steps":[` + steps + `]}]`
		}
		a, b := lane("a"), lane("b")
		p := two(t, a, b)
		there, err := compare.Clips(p, &p.Clips[0], &p.Clips[1], 0, nil)
		require.NoError(t, err)
		back, err := compare.Clips(p, &p.Clips[1], &p.Clips[0], 0, nil)
		require.NoError(t, err)
		require.Len(t, back.Notes, len(there.Notes))
		count := func(notes []compare.Note, change string) (n int) {
			for i := range notes {
				if notes[i].Change == change {
					n++
				}
			}
			return n
		}
		require.Equal(t, count(there.Notes, "added"), count(back.Notes, "gone"))
		require.Equal(t, count(there.Notes, "moved"), count(back.Notes, "moved"))
		same, err := compare.Clips(p, &p.Clips[0], &p.Clips[0], 3, nil)
		require.NoError(t, err)
		require.Empty(t, same.Notes)
		require.Empty(t, same.Settings)
	})
}
