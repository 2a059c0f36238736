package sketch_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/lane/sketch"
)

// Two tempers that could draw the same dials would be one: each pair is apart in one at least, or one has
// a contour or a form that the other has not.
func TestNoTwoTempersDrawAlike(t *testing.T) {
	spans := func(temper *sketch.Temper) map[string]any {
		data, err := json.Marshal(temper.Dials)
		require.NoError(t, err)
		var out map[string]any
		require.NoError(t, json.Unmarshal(data, &out))
		for _, dial := range sketch.All {
			if _, said := out[dial.Name]; !said {
				data, err := json.Marshal(dial.Default)
				require.NoError(t, err)
				var span any
				require.NoError(t, json.Unmarshal(data, &span))
				out[dial.Name] = span
			}
		}
		return out
	}
	bounds := func(v any) (low, high float64) {
		if two, ok := v.([]any); ok {
			return two[0].(float64), two[1].(float64)
		}
		return v.(float64), v.(float64)
	}
	require.GreaterOrEqual(t, len(sketch.Tempers), 10)
	for i := range sketch.Tempers {
		for j := range i {
			a, b := spans(&sketch.Tempers[i]), spans(&sketch.Tempers[j])
			apart := a["contour"] != b["contour"] || a["form"] != b["form"]
			for _, dial := range sketch.All {
				aLow, aHigh := bounds(a[dial.Name])
				bLow, bHigh := bounds(b[dial.Name])
				apart = apart || aHigh < bLow || bHigh < aLow
			}
			assert.True(t, apart, "%s and %s", sketch.Tempers[i].Name, sketch.Tempers[j].Name)
		}
	}
}

// A bass of every temper, in twelve keys over the usual chords, is never over them; where a temper has a form, an idea of
// four notes comes back in most of them: as long apart, and moving alike from chord to chord.
func TestTempersMakeBassesWithIdeas(t *testing.T) {
	ideas, forms := 0, 0
	for _, temper := range sketch.Tempers {
		own, of := 0, 0
		for tonic := range 12 {
			key := []string{"C", "Db", "D", "Eb", "E", "F", "F#", "G", "Ab", "A", "Bb", "B"}[tonic]
			s := sceneOf(t, `{"tonic":"`+key+`","scale":"minor"}`, "4/4", chordsOf(4), ``, 64)
			r, err := sketch.ReadRequest([]byte(`{"seed":5,"count":8,"temper":"` + temper.Name + `"}`))
			require.NoError(t, err)
			made, err := sketch.Make(s, r)
			require.NoError(t, err)
			for k := range made {
				j := judge(t, s, &made[k])
				require.NotContains(t, j.found, "bass-over", "%s in %s", temper.Name, key)
				for _, p := range j.pitches {
					require.True(t, p >= 23 && p <= 53, "%d of %s in %s", p, temper.Name, key)
				}
				of++
				if comesBack(&made[k]) {
					own++
				}
			}
		}
		t.Logf("%s: an idea of four notes comes back in %d of %d", temper.Name, own, of)
		if temper.Dials.Form != nil {
			ideas, forms = ideas+own, forms+of
		}
	}
	assert.Greater(t, 100*ideas, 85*forms, "%d of %d", ideas, forms)
	assert.Greater(t, forms, 12*8*5, "most have a form")
}

// comesBack tells whether four notes come twice: equally far apart, and moving alike in steps.
func comesBack(m *sketch.Sketch) bool {
	var at, row []int
	for i := range m.Steps {
		if m.Steps[i].On {
			at, row = append(at, i), append(row, 7*m.Steps[i].Octave+m.Steps[i].Degree)
		}
	}
	known := map[[6]int]int{}
	for k := 0; k+3 < len(at); k++ {
		var cell [6]int
		for n := range 3 {
			cell[n], cell[3+n] = at[k+n+1]-at[k+n], row[k+n+1]-row[k+n]
		}
		if first, there := known[cell]; there && k >= first+4 {
			return true
		} else if !there {
			known[cell] = k
		}
	}
	return false
}
