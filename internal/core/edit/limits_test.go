package edit_test

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
)

// What Apply gives is what would be read back: checked, and with names and ids.
func TestWhatIsGivenIsWhatIsStored(t *testing.T) {
	raw := func(text string) json.RawMessage { return json.RawMessage(text) }
	for name, edits := range map[string][]any{
		"a lane renamed to nothing":   {op.SetLane{OnLane: onLane, Patch: raw(`{"name":""}`)}},
		"two clips without ids":       {op.SetPiece{Patch: raw(`{"clips":[{"lanes":[{"steps":[{}]}]},{"lanes":[{"steps":[{}]}]}]}`)}},
		"a clip without an id":        {op.SetPiece{Patch: raw(`{"clips":[{"lanes":[{"steps":[{}]}]}]}`)}},
		"lanes without ids":           {op.SetClip{OnClip: op.OnClip{Clip: "a"}, Patch: raw(`{"lanes":[{},{"kind":"pulse"}]}`)}},
		"a clip renamed to nothing":   {op.SetClip{OnClip: op.OnClip{Clip: "a"}, Patch: raw(`{"name":""}`)}},
		"a piece renamed to nothing":  {op.SetPiece{Patch: raw(`{"title":""}`)}},
		"a copied lane of a new name": {op.CopyLane{OnLane: onLane}, op.SetLane{OnLane: onLane, Patch: raw(`{"name":"Reed"}`)}},
	} {
		p, err := apply(line(t, "1.5."), edits...)
		require.NoError(t, err, name)
		ids := map[string]bool{}
		for _, clip := range p.Clips {
			assert.NotEmpty(t, clip.ID, name)
			assert.False(t, ids[clip.ID], "%s: each id once", name)
			ids[clip.ID] = true
			for i := range clip.Lanes {
				assert.NotEmpty(t, clip.Lanes[i].ID, name)
			}
		}
		read, err := piece.Read(piece.Write(p))
		require.NoError(t, err, name)
		assert.Equal(t, string(piece.Write(p)), string(piece.Write(read)), name)
		again, err := apply(p, op.SetPiece{Patch: raw(`{"tempo":99}`)})
		require.NoError(t, err, "%s: and the next edit works", name)
		assert.Equal(t, 99.0, again.Tempo)
	}
}

// Counts come first: what names or makes too much is refused before it is worked on.
// The lists are so long that working on them would not end in the time of a test.
func TestEditsOfTooMuchAreRefused(t *testing.T) {
	ones := make([]int, 4_000_000)
	for i := range ones {
		ones[i] = 1
	}
	steps := op.OnSteps{Clip: "a", Lane: "low", Steps: ones}
	nested := json.RawMessage(`{"gate":` + strings.Repeat("[", 200) + strings.Repeat("]", 200) + `}`)
	for name, row := range map[string]struct {
		edits   []any
		message string
	}{
		"a fill of one step four million times": {[]any{op.FillEven{OnSteps: steps, Hits: 1}}, "4000000 steps are named; allowed: 1..4, each once"},
		"one step set four million times":       {[]any{op.SetSteps{OnSteps: steps, Patch: json.RawMessage(`{"gate":50}`)}}, "4000000 steps are named; allowed: 1..4, each once"},
		"a patch of nested lists":               {[]any{op.SetLane{OnLane: onLane, Patch: nested}}, "gate"},
		"a lane of too many steps":              {[]any{op.ResizeLane{OnLane: onLane, Count: 1 << 40}}, "allowed: 1..512"},
	} {
		_, err := apply(line(t, "1.5."), row.edits...)
		require.ErrorContains(t, err, row.message, name)
	}
	copies := make([]any, 1000)
	for i := range copies {
		copies[i] = op.CopyClip{OnClip: op.OnClip{Clip: "a"}}
	}
	_, err := apply(line(t, "1.5."), copies...)
	assert.ErrorContains(t, err, fmt.Sprintf("allowed: at most %d", piece.MaxClips))
}

func TestMovesBeyondTheEndsAreRefusedWithTheirPlace(t *testing.T) {
	for _, to := range []int{-1, 0, 2, 1 << 40} {
		_, err := apply(line(t, "1"), op.SetPiece{Patch: json.RawMessage(`{}`)}, op.MoveLane{OnLane: onLane, To: to})
		assert.ErrorContains(t, err, "ops[1].to: ")
		_, err = apply(line(t, "1"), op.MoveClip{OnClip: op.OnClip{Clip: "a"}, To: to})
		assert.ErrorContains(t, err, "ops[0].to: ")
	}
}
