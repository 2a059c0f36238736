package edit_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/edit"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/demo"
)

// What is printed sounds the same (the edit itself sees to that, or refuses): of the demo every
// lane with notes can be printed without the groove, bends and walks and luck included.
func TestEveryLaneOfTheDemoPrints(t *testing.T) {
	p, err := demo.Piece()
	require.NoError(t, err)
	printed := 0
	for i := range p.Clips {
		clip := &p.Clips[i]
		for k := range clip.Lanes {
			own := &clip.Lanes[k]
			if own.Silent() || len(clip.Lanes) == piece.MaxLanes {
				continue
			}
			next, err := edit.Apply(p, []op.Op{op.Of(op.PrintLanes{OnClip: op.OnClip{Clip: clip.ID}, Lanes: []string{own.ID}})})
			if piece.GlidesApart(clip, own) {
				assert.ErrorContains(t, err, "glides note by note, which a printed lane cannot hold")
				continue
			}
			if assert.NoError(t, err, "%s of %s", own.Name, clip.Name) {
				printed++
				lanes := next.Clips[i].Lanes
				assert.True(t, lanes[k].Mute)
				assert.Equal(t, own.Name+" notes", lanes[len(lanes)-1].Name)
			}
			if _, err := edit.Apply(p, []op.Op{op.Of(op.PrintLanes{OnClip: op.OnClip{Clip: clip.ID}, Lanes: []string{own.ID}, Groove: true, Bars: 4})}); err != nil {
				t.Logf("with the groove: %s of %s: %v", own.Name, clip.Name, err)
			}
		}
	}
	assert.Greater(t, printed, 20)
}
