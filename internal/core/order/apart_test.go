package order_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"agrimony/internal/core/lane"
	"agrimony/internal/core/order"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/piece/piecetest"
	"agrimony/internal/core/render"
)

// An entry of one pass has the channels and the wheels that its clip has alone, where notes glide each by itself.
func TestAnEntryGlidesAsTheClipAlone(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		whole := func(low, high int, what string) int { return rapid.IntRange(low, high).Draw(t, what) }
		lanes := piecetest.Gliding(whole, true)
		left := whole(0, 2, "left out")
		if left > 0 { // the others walk the chords
			lanes = slices.Delete(lanes, left, left+1)
		} else {
			lanes = lanes[:1]
		}
		for i := range lanes {
			lanes[i] = fmt.Sprintf(lanes[i], fmt.Sprintf(`,"glide":{"mode":"mpe","range":%d}`, []int{24, 48, 96}[whole(0, 2, "range")]))
		}
		if whole(0, 1, "layer") > 0 {
			lanes = append(lanes, `{"id":"up","kind":"layer","of":"tide","octave":1}`)
		}
		if whole(0, 1, "control") > 0 {
			lanes = append(lanes, fmt.Sprintf(`{"id":"lean","kind":"control","to":"tide","target":"wheel","rate":"1/4","steps":[{"on":true,"value":0},{"on":true,"value":%d}]}`, whole(-2, 2, "value")))
		}
		doc := fmt.Sprintf(`{"format":"agrimony-piece","version":1,"groove":{"swing":%d},"clips":[{"id":"keel","bars":2,"seam":%q,"lanes":[%s]}],"order":{"entries":[{"clip":"keel","at":0,"for":7680}]}}`,
			whole(50, 66, "swing"), []string{"fresh", "loop"}[whole(0, 1, "seam")], strings.Join(lanes, ","))
		p, err := piece.Read([]byte(doc))
		require.NoError(t, err, doc)
		clip, err := lane.Render(p, &p.Clips[0], render.Options{})
		require.NoError(t, err)
		all, err := order.Render(p, order.Options{})
		require.NoError(t, err)
		alone, ordered := clip.Events(), all.Events()
		short := slices.ContainsFunc(alone.Findings, func(f render.FindingReport) bool { return f.Rule == "zone-voices" })
		var want, got []string
		for _, n := range alone.Notes {
			want = append(want, fmt.Sprintf("%5d+%d %s %d on %d", n.At, n.Length, n.Lane, n.Pitch, n.Channel))
		}
		for _, n := range ordered.Notes {
			got = append(got, fmt.Sprintf("%5d+%d %s %d on %d", n.At, n.Length, n.Lane, n.Pitch, n.Channel))
		}
		for _, b := range alone.Bends {
			if !short {
				want = append(want, fmt.Sprintf("%5d %s on %d stands at %d", b.At, b.Lane, b.Channel, b.Value))
			}
		}
		for _, b := range ordered.Bends {
			if !short {
				got = append(got, fmt.Sprintf("%5d %s on %d stands at %d", b.At, b.Lane, b.Channel, b.Value))
			}
		}
		slices.Sort(want)
		slices.Sort(got)
		require.Equal(t, want, got, doc)
	})
}
