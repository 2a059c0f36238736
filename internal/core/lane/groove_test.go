package lane_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/piece"
)

func TestTheGrooveMovesWholeNotes(t *testing.T) {
	template := func(at, velocity int) string { // of the second sixteenth
		return fmt.Sprintf(`{"name":"Own","steps":[{},{"at":%d,"velocity":%d},{},{},{},{},{},{},{},{},{},{},{},{},{},{}]}`, at, velocity)
	}
	const two = `{"id":"low","octave":2,"steps":[{"on":true,"gate":100},{"on":true},{},{}],"window":{"start":1,"count":4}%s}`
	first := func(text string) string { return strings.Join(strings.Split(text, ", ")[:2], ", ") }
	for _, row := range []struct{ groove, lane, want string }{
		{`{"template":` + template(50, 10) + `}`, ``, "1:0+240 C2@100, 2:360+180 C2@110"},
		{`{"template":` + template(-50, -64) + `}`, ``, "1:0+120 C2@100, 2:120+180 C2@36"},
		{`{"template":` + template(50, 10) + `,"timing":50,"velocity":50}`, ``, "1:0+240 C2@100, 2:300+180 C2@105"},
		{`{"template":` + template(50, 9) + `,"velocity":50}`, ``, "1:0+240 C2@100, 2:360+180 C2@105"}, // 104.5, half up
		{`{"template":` + template(50, 10) + `}`, `,"share":{"timing":50,"velocity":0}`, "1:0+240 C2@100, 2:300+180 C2@100"},
		{`{"swing":60,"template":` + template(50, 0) + `}`, ``, "1:0+288 C2@100, 2:408+144 C2@100"},
		{`{"swing":60}`, `,"share":{"timing":50}`, "1:0+264 C2@100, 2:264+162 C2@100"},
		{`{"swing":75,"template":` + template(50, 63) + `}`, `,"share":{"timing":0,"velocity":100}`, "1:0+240 C2@100, 2:240+180 C2@127"},
	} {
		assert.Equal(t, row.want, first(heardIn(t, row.groove, fmt.Sprintf(two, row.lane), "low")), row.groove+row.lane)
	}
	ends := `{"name":"Own","steps":[{"at":-50},{},{},{},{},{},{},{},{},{},{},{},{},{},{},{"at":50}]}`
	assert.Equal(t, "1:0+180 C2@100, 16:3720+120 C2@100", heardIn(t, `{"template":`+ends+`}`, `{"id":"low","octave":2,"steps":[{"on":true},{},{},{},{},{},{},{},{},{},{},{},{},{},{},{"on":true}]}`, "low"), "never before the start; a late one is cut at the end")
	assert.Equal(t, "16:3768+72 C2@100", heardIn(t, `{"template":`+ends+`}`, `{"id":"low","octave":2,"steps":[{},{},{},{},{},{},{},{},{},{},{},{},{},{},{},{"on":true,"gate":100,"nudge":20}]}`, "low"), "what is over the end already moves fully, too")
	assert.Equal(t, "16:3780+60 C2@100", heardIn(t, `{"template":`+ends+`}`, `{"id":"low","octave":2,"steps":[{},{},{},{},{},{},{},{},{},{},{},{},{},{},{},{"on":true,"gate":100,"nudge":40}]}`, "low"), "no further than leaves it a 1/64 note")
	pulls := `{"name":"Own","steps":[{"at":-50},{},{},{},{},{},{},{},{},{},{},{},{},{},{},{}]}`
	assert.Equal(t, "2:2880+480 C2@100", heardIn(t, `{"template":`+pulls+`}`, `{"id":"low","rate":"1/2D","octave":2,"steps":[{},{"on":true,"gate":50,"ratchet":3}]}`, "low"), "a repeat that stands on the bar line after the clip is not there, however early")
}

func TestBuiltInTemplates(t *testing.T) {
	require.GreaterOrEqual(t, len(piece.Templates), 6)
	for _, own := range piece.Templates {
		p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"groove":{"template":"` + own.Name + `"}}`))
		require.NoError(t, err)
		assert.Equal(t, &own, p.Groove.Template)
		assert.Contains(t, string(piece.Write(p)), `"template": "`+own.Name+`"`)
		require.NoError(t, piece.Check(p))
	}
}

// What breathes comes back to its one: no place of the bar is struck harder.
func TestTheOneIsAtLeastAsLoud(t *testing.T) {
	all := piece.Templates
	at := slices.IndexFunc(all, func(own piece.Template) bool { return own.Name == "Breathing" })
	for place, step := range all[at].Steps {
		assert.LessOrEqual(t, step.Velocity, all[at].Steps[0].Velocity, "at sixteenth %d", place+1)
	}
}
