package lane_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"agrimony/internal/core/lane"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/piece/piecetest"
	"agrimony/internal/core/render"
)

// Where no step glides or bends, a lane whose notes may glide each by itself plays what it plays without: its notes
// have channels of their own, and that is all.
func TestWhereNothingGlidesTheModeChangesNothing(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		lanes := piecetest.Gliding(func(low, high int, what string) int { return rapid.IntRange(low, high).Draw(t, what) }, false)
		head := fmt.Sprintf(`{"format":"agrimony-piece","version":1,"groove":{"swing":%d},"clips":[{"id":"keel","bars":2,"lanes":[`, rapid.IntRange(50, 70).Draw(t, "swing"))
		play := func(apart int) []render.Part {
			var all []string
			for i, own := range lanes {
				more := ""
				if i == apart {
					more = `,"glide":{"mode":"mpe"}`
				}
				all = append(all, fmt.Sprintf(own, more))
			}
			p, err := piece.Read([]byte(head + strings.Join(all, ",") + `]}]}`))
			require.NoError(t, err)
			performance, err := lane.Render(p, &p.Clips[0], render.Options{Pass: render.Pass{Apart: true}})
			require.NoError(t, err)
			return performance.Lanes
		}
		plain := play(-1)
		for i := range lanes {
			apart := play(i)
			require.Equal(t, noted(plain[i].Notes), noted(apart[i].Notes), apart[i].ID)
		}
	})
}

// noted are notes in words, but for how they glide.
func noted(notes []render.Note) (out []string) {
	for _, n := range notes {
		out = append(out, fmt.Sprintf("step %d, round %d: %d at %d..%d, velocity %d", n.Step, n.Round, n.Pitch, n.At, n.End, n.Velocity))
	}
	return out
}
