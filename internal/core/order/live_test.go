package order_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"agrimony/internal/core/edit"
	"agrimony/internal/core/op"
	"agrimony/internal/core/order"
	"agrimony/internal/core/piece"
	"agrimony/internal/demo"
)

// heardNote is a note as it is given out to be played.
type heardNote struct {
	clip, lane, pitch int
	at, length        int64
}

func window(t *testing.T, p *piece.Piece, played []op.Played, from, to int) (out []heardNote) {
	t.Helper()
	q := *p
	var err error
	q.Order.Entries, err = edit.EntriesOf(p, played)
	require.NoError(t, err)
	require.NoError(t, piece.CheckOrder(&q))
	if len(q.Order.Entries) == 0 {
		return nil
	}
	o, err := order.Render(&q, order.Options{From: from, To: to, Live: true})
	require.NoError(t, err)
	for i := range o.Tracks {
		track := &o.Tracks[i]
		for k := range track.Part.Notes {
			n := &track.Part.Notes[k]
			if at := n.At.Export(o.PPQ); at >= int64(from) && at < int64(to) {
				out = append(out, heardNote{track.Clip, track.Lane, int(n.Pitch), at, (n.End - n.At).Export(o.PPQ)})
			}
		}
	}
	return out
}

// Half an hour of playing, asked for bar by bar as it is then, with clips that come in and go, are moved and
// muted all along: what was given out is what the order has that it is kept as. None is lost, none is there
// twice, and none lasts longer.
func TestHalfAnHourBarByBar(t *testing.T) {
	p, err := demo.Piece()
	require.NoError(t, err)
	const bars, bar = 900, 3840
	random := rand.New(rand.NewPCG(3, 30))
	var list []op.Played
	far := func(at int) int { return (bars+8)*bar - at }
	sounding := func(clip string) int {
		return slices.IndexFunc(list, func(e op.Played) bool { return e.Clip == clip && e.At+e.For == (bars+8)*bar })
	}
	goesOn := func(i, at int, change func(e *op.Played)) {
		next := list[i]
		next.At, next.For, next.GoesOn = at, far(at), true
		next.Mute = slices.Clone(next.Mute)
		change(&next)
		list[i].For = at - list[i].At
		list = append(list, next)
	}
	var given []heardNote
	for k := range bars {
		given = append(given, window(t, p, list, k*bar, (k+1)*bar)...)
		if random.IntN(3) > 0 {
			continue
		}
		at := (k + 2) * bar // it waits for the bar after next: that of now is given out
		clip := &p.Clips[random.IntN(len(p.Clips))]
		i := sounding(clip.ID)
		switch act := random.IntN(5); {
		case i < 0:
			list = append(list, op.Played{Clip: clip.ID, At: at, For: far(at)})
		case list[i].At >= at: // it waits itself
		case act == 0:
			goesOn(i, at, func(e *op.Played) { e.Shift = random.IntN(5) - 2 })
		case act == 1:
			goesOn(i, at, func(e *op.Played) {
				lane := clip.Lanes[random.IntN(len(clip.Lanes))].ID
				if j := slices.Index(e.Mute, lane); j >= 0 {
					e.Mute = slices.Delete(e.Mute, j, j+1)
				} else {
					e.Mute = append(e.Mute, lane)
				}
			})
		default:
			list[i].For = at - list[i].At
		}
	}
	kept := window(t, p, list, 0, bars*bar)
	require.Greater(t, len(kept), 10_000)
	// A note that sounded as its clip was taken out was given out longer: it is cut where the clip goes.
	short := func(notes []heardNote) map[string]int {
		out := map[string]int{}
		for _, n := range notes {
			out[fmt.Sprint(n.clip, n.lane, n.pitch, n.at)]++
		}
		return out
	}
	require.Equal(t, short(kept), short(given))
}
