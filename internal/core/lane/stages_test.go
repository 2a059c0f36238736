package lane

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

func TestAFieldThatNothingPlaysIsRefused(t *testing.T) {
	row := []piece.Moved{{Name: "velocity"}, {Name: "degree"}}
	require.NoError(t, stages("line", row, []render.Field{render.Degree}))
	assert.EqualError(t, stages("line", row, nil), `modulators may move "degree" in line lanes, and nothing plays it`)
	assert.EqualError(t, stages("line", []piece.Moved{{Name: "colour"}}, nil), `modulators may move "colour" in line lanes, and nothing plays it`)
}

// What a document may let modulators move is heard to move.
func TestEveryFieldThatModulatorsMoveIsHeard(t *testing.T) {
	const before = `{"format":"agrimony-piece","version":1,"clips":[{"id":"a","bars":4,"lanes":[
		{"id":"c","kind":"chords","rate":"1bar","palette":[{"tones":[{"degree":1},{"degree":3},{"degree":5}]}],"steps":[{"on":true}]},`
	lanes := map[string]string{
		"line":    `{"id":"x","steps":[{"on":true,"degree":3,"gate":60},{"on":true,"gate":60}]%s}]}]}`,
		"chords":  `{"id":"x","kind":"chords","rate":"1/8","palette":[{"tones":[{"degree":1},{"degree":4},{"degree":6}]}],"steps":[{"on":true,"gate":60}]%s}]}]}`,
		"phrase":  `{"id":"x","kind":"phrase","span":2,"steps":[{"on":true,"gate":60},{"on":true,"gate":60}]%s}]}]}`,
		"pulse":   `{"id":"x","kind":"pulse","note":36,"steps":[{"on":true,"gate":60}]%s}]}]}`,
		"notes":   `{"id":"x","kind":"notes","loop":{"length":960},"notes":[{"at":0,"length":300,"degree":3},{"at":480,"length":300}]%s}]}]}`,
		"control": `{"id":"x","kind":"control","to":"c","target":{"controller":74},"steps":[{"on":true,"value":40},{"on":true,"value":90}]%s}]}]}`,
	}
	events := func(kind, also string) any {
		p, err := piece.Read([]byte(before + fmt.Sprintf(lanes[kind], also)))
		require.NoError(t, err, "%s %s", kind, also)
		performance, err := Render(p, &p.Clips[0], render.Options{Lanes: []string{"x"}})
		require.NoError(t, err)
		part := &performance.Lanes[0]
		var notes []string
		for i := range part.Notes {
			n := &part.Notes[i]
			notes = append(notes, fmt.Sprint(n.At, n.End, n.Pitch, n.Velocity))
		}
		return []any{notes, part.Controls}
	}
	heard := 0
	for kind := range Kinds {
		for _, moved := range piece.Moves(kind) {
			wave := fmt.Sprintf(`,"modulators":[{"on":%q,"from":%d,"to":%d,"shape":"square","every":"1/2"}]`, moved.Name, max(moved.Low, 0), moved.High)
			assert.NotEqual(t, events(kind, ""), events(kind, wave), "%s of %s", moved.Name, kind)
			heard++
		}
	}
	assert.Greater(t, heard, 25)
}
