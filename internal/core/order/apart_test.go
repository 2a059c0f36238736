package order_test

import (
	"fmt"
	"slices"
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
		doc := piecetest.GlidingClip(func(low, high int, what string) int { return rapid.IntRange(low, high).Draw(t, what) }, 2)
		p, err := piece.Read([]byte(doc))
		require.NoError(t, err)
		p.Order.Entries = []piece.Entry{piece.NewEntry("keel", 0, 7680)}
		clip, err := lane.Render(p, &p.Clips[0], render.Options{})
		require.NoError(t, err)
		if slices.ContainsFunc(clip.Lanes, func(part render.Part) bool {
			return part.Zone == nil && len(part.Notes)+len(part.Controls)+len(part.Bends)+len(part.Pressures) == 0
		}) {
			return // a lane has its channel in a clip also where it rests, and in the order none
		}
		all, err := order.Render(p, order.Options{})
		require.NoError(t, err)
		alone, ordered := clip.Events(), all.Events()
		short := slices.ContainsFunc(clip.Lanes, func(part render.Part) bool {
			return slices.ContainsFunc(part.Marks, func(m render.Mark) bool { return m.Kind == render.VoicesTaken })
		}) // a clip knows beforehand that its zone is small, an order does not
		if short {
			alone.Bends, ordered.Bends = nil, nil
		}
		var want, got []string
		for _, n := range alone.Notes {
			want = append(want, strikes(n))
		}
		for _, b := range alone.Bends {
			want = append(want, stands(b))
		}
		for _, n := range ordered.Notes {
			got = append(got, strikes(n.NoteEvent))
		}
		for _, b := range ordered.Bends {
			got = append(got, stands(b.BendEvent))
		}
		slices.Sort(want)
		slices.Sort(got)
		require.Equal(t, want, got, doc)
	})
}

func strikes(n render.NoteEvent) string {
	return fmt.Sprintf("%5d+%d %s %d on %d", n.At, n.Length, n.Lane, n.Pitch, n.Channel)
}

func stands(b render.BendEvent) string {
	return fmt.Sprintf("%5d %s on %d stands at %d", b.At, b.Lane, b.Channel, b.Value)
}
