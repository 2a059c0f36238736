package order_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"agrimony/internal/core/order"
	"agrimony/internal/core/piece"
	"agrimony/internal/demo"
)

// Wherever an entry is left, what began before stands where it does in the whole: nobody knows, as it is
// struck, when its clip will be taken out.
func TestWhereAnEntryIsLeftMovesNoOnset(t *testing.T) {
	p, err := demo.Piece()
	require.NoError(t, err)
	for i := range p.Clips {
		clip := &p.Clips[i]
		for _, run := range piece.Runs {
			starts := func(length int) map[[4]int]int {
				entry := piece.NewEntry(clip.ID, 0, length)
				entry.Run = run
				p.Order.Entries = []piece.Entry{entry}
				played, err := order.Render(p, order.Options{})
				require.NoError(t, err)
				out := map[[4]int]int{}
				for _, n := range played.Events().Notes {
					lane := 0
					for lane = range clip.Lanes {
						if clip.Lanes[lane].ID == n.Lane {
							break
						}
					}
					out[[4]int{lane, int(n.At), n.Pitch, n.Step}]++
				}
				return out
			}
			whole := starts(4 * 3840)
			for beats := 1; beats < 16; beats++ {
				for at := range starts(beats * 960) {
					require.Contains(t, whole, at, "%s, %s, left after %d beats", clip.ID, run, beats)
				}
			}
		}
	}
}
