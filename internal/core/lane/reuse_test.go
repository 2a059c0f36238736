package lane_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/budget"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/piece/piecetest"
	"agrimony/internal/core/render"
)

// played is what a performance sounds like, in words that can be compared.
func played(p *render.Performance) (out []string) {
	for i := range p.Lanes {
		part := &p.Lanes[i]
		line := fmt.Sprint(part.ID, part.Channel, part.Bends, part.Controls, part.Pressures)
		for k := range part.Notes {
			n := &part.Notes[k]
			line += fmt.Sprint(" ", n.At, n.End, n.Pitch, n.Velocity, n.Step, n.Round)
		}
		out = append(out, line)
	}
	return out
}

// What is taken from an earlier performance is what would be played anew, though lanes that
// share a channel cut each other's notes; and the earlier one stays as it was.
func TestWhatIsTakenFromBeforeIsAsPlayedAnew(t *testing.T) {
	compared, shared := 0, 0
	for seed := range uint64(40) {
		random := rand.New(rand.NewPCG(11, seed))
		p, err := piece.Read([]byte(piecetest.Heavy(random.IntN, 1_500)))
		require.NoError(t, err)
		clip := &p.Clips[0]
		if len(clip.Lanes) == 0 {
			continue
		}
		for l := range clip.Lanes { // so that many share one
			if !clip.Lanes[l].Silent() {
				clip.Lanes[l].Channel = 1 + random.IntN(2)
			}
		}
		perform := func(p *piece.Piece, before *render.Performance) (*render.Performance, error) {
			return lane.Render(p, &p.Clips[0], render.Options{Bars: 1, Events: 5_000, Rough: true, Budget: budget.New(100_000, nil), Before: before})
		}
		before, err := perform(p, nil)
		if err != nil {
			continue // it is too much
		}
		was := played(before)
		for range 3 {
			next := *p
			next.Clips = slices.Clone(p.Clips)
			next.Clips[0].Lanes = slices.Clone(clip.Lanes)
			changed := &next.Clips[0].Lanes[random.IntN(len(clip.Lanes))]
			switch random.IntN(3) {
			case 0:
				changed.Mute = !changed.Mute
			case 1:
				if !changed.Silent() {
					changed.Channel = 3 - min(changed.Channel, 2)
				}
			default:
				changed.Name += "!"
			}
			anew, err := perform(&next, nil)
			if err != nil {
				continue
			}
			again, err := perform(&next, before)
			require.NoError(t, err)
			require.Equal(t, played(anew), played(again), "seed %d", seed)
			twice, err := perform(&next, again)
			require.NoError(t, err)
			require.Equal(t, played(anew), played(twice), "seed %d, taken twice", seed)
			compared++
		}
		require.Equal(t, was, played(before), "seed %d: the earlier one is changed", seed)
		if len(before.Lanes) > 2 {
			shared++
		}
	}
	assert.Greater(t, compared, 30)
	assert.Greater(t, shared, 5)
}
