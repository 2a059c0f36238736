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
