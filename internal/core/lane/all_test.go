package lane_test

import (
	"errors"
	"fmt"
	"math/rand/v2"
	"runtime"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/budget"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/piece/piecetest"
	"agrimony/internal/core/render"
	"agrimony/internal/core/smf"
)

// outOfZones: what has a channel given keeps out of zones, unless a zone has no more than the one channel it needs.
func outOfZones(t *testing.T, p *render.Performance, name string) {
	for i := range p.Lanes {
		zone := p.Lanes[i].Zone
		if zone == nil || zone.Members < 2 {
			continue
		}
		for k := range p.Lanes {
			other := &p.Lanes[k]
			if other.Zone == nil && p.Clip.Lanes[other.Lane].Channel == 0 && render.ActsOn(p.Clip, other.Lane) < 0 && len(other.Notes) > 0 {
				require.False(t, zone.Has(other.Channel), "%s is on %d: %s", other.ID, other.Channel, name)
			}
		}
	}
}

// What every performance of lanes of all kinds keeps, at every resolution: no key is struck
// on a channel while it sounds there; at the end every wheel is centred, sustain and portamento
// are off and nothing presses; the reasons of a note give the note; the file holds what the
// events say, and the same document the same bytes.
func TestWhatEveryClipKeeps(t *testing.T) {
	for i := range 250 {
		random := rand.New(rand.NewPCG(21, uint64(i)))
		doc := piecetest.Heavy(random.IntN, 300+random.IntN(1500))
		if i%4 == 0 {
			doc = piecetest.GlidingClip(func(low, high int, _ string) int { return low + random.IntN(high-low+1) }, 2)
		}
		p, err := piece.Read([]byte(doc))
		require.NoError(t, err, doc)
		for l := range p.Clips[0].Lanes { // so that many share a channel
			if p.Clips[0].Lanes[l].Channel == 0 && random.IntN(2) == 0 {
				p.Clips[0].Lanes[l].Channel = 1 + random.IntN(3)
			}
		}
		ppq := beat.Resolutions[random.IntN(3)]
		options := render.Options{Bars: 1, PPQ: ppq, Events: 60_000}
		performance, err := lane.Render(p, &p.Clips[0], options)
		if err != nil {
			var many *render.TooManyError
			var spent *budget.SpentError
			require.True(t, errors.As(err, &many) || errors.As(err, &spent), "%v: %s", err, doc)
			continue
		}
		events := performance.Events()
		name := fmt.Sprintf("%d: %s", i, doc)
		noKeyTwice(t, events, name)
		outOfZones(t, performance, name)
		nothingHangs(t, events, name)
		for range 10 {
			if len(events.Notes) > 0 {
				checkWhy(t, events.Notes[random.IntN(len(events.Notes))])
			}
		}
		data, err := smf.Encode(performance, smf.Default)
		require.NoError(t, err, name)
		file, err := smf.Decode(data, nil)
		require.NoError(t, err)
		notes := 0
		for _, track := range file.Tracks {
			notes += len(track.Notes)
		}
		require.Equal(t, len(events.Notes), notes, name)
		again, err := lane.Render(p, &p.Clips[0], options)
		require.NoError(t, err)
		same, err := smf.Encode(again, smf.Default)
		require.NoError(t, err)
		require.Equal(t, data, same, name)
	}
}

// Whether a clip is too much does not hang on how many of its lanes are played at a time.
func TestWhatIsTooMuchIsTooMuchOnAnyMachine(t *testing.T) {
	refused, played := 0, 0
	for i := range 60 {
		random := rand.New(rand.NewPCG(22, uint64(i)))
		p, err := piece.Read([]byte(piecetest.Heavy(random.IntN, 2000)))
		require.NoError(t, err)
		options := func() render.Options {
			return render.Options{Bars: 1, Events: 2_000, Rough: true, Budget: budget.New(400_000, nil)}
		}
		before := runtime.GOMAXPROCS(1)
		_, alone := lane.Render(p, &p.Clips[0], options())
		runtime.GOMAXPROCS(4)
		_, beside := lane.Render(p, &p.Clips[0], options())
		runtime.GOMAXPROCS(before)
		require.Equal(t, alone == nil, beside == nil, "%d: %v, %v", i, alone, beside)
		if alone == nil {
			played++
		} else {
			refused++
		}
	}
	require.Positive(t, refused)
	require.Positive(t, played)
}

// noKeyTwice checks that no note of a channel begins while its key sounds there.
func noKeyTwice(t *testing.T, events render.Events, name string) {
	type key struct{ channel, pitch int }
	until := map[key]int64{}
	for _, n := range events.Notes {
		k := key{n.Channel, n.Pitch}
		end, struck := until[k]
		require.False(t, struck && n.At < end, "key %d of channel %d at tick %d sounds until %d: %s", n.Pitch, n.Channel, n.At, end, name)
		until[k] = n.At + n.Length
	}
}

// nothingHangs checks what each channel is left with, by all its lanes together.
func nothingHangs(t *testing.T, events render.Events, name string) {
	type moved struct {
		channel int
		what    string
	}
	last := map[moved]int{}
	for _, b := range events.Bends {
		last[moved{b.Channel, "wheel"}] = b.Value
	}
	for _, c := range events.Controls {
		if slices.Contains([]int{64, 65}, c.Controller) {
			last[moved{c.Channel, fmt.Sprint("controller ", c.Controller)}] = c.Value
		}
	}
	for _, p := range events.Pressures {
		last[moved{p.Channel, "pressure"}] = p.Value
	}
	for what, value := range last {
		require.Zero(t, value, "%s of channel %d: %s", what.what, what.channel, name)
	}
	for _, n := range events.Notes {
		require.LessOrEqual(t, n.At+n.Length, events.Ticks, name)
	}
}
