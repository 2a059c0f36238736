package order_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"agrimony/internal/core/order"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
	"agrimony/internal/demo"
)

// gliding are what the channels of zones are sent in a file, and what they are sent as the order is played
// stretch by stretch: strikes and the positions of wheels, by channels. crowded: some note made room.
func gliding(t require.TestingT, p *piece.Piece, stretch int) (file, live []string, crowded bool) {
	whole, err := order.Render(p, order.Options{})
	require.NoError(t, err)
	crowded = slices.ContainsFunc(whole.Findings, func(f order.Finding) bool { return f.Rule == "zone-voices" })
	end := whole.Length.Export(whole.PPQ)
	for i := range whole.Tracks {
		part := &whole.Tracks[i].Part
		if part.Zone == nil {
			continue
		}
		for k := range part.Notes {
			n := &part.Notes[k]
			file = append(file, fmt.Sprintln(n.At.Export(960), n.Channel, "strikes", n.Pitch))
		}
		for _, b := range part.Bends {
			if at := b.At.Export(960); at < end {
				file = append(file, fmt.Sprintln(at, b.Channel, b.Value))
			}
		}
	}
	_, zones := whole.Seats()
	require.NoError(t, order.CheckHeld(zones))
	for from := 0; from < int(end); from += stretch {
		part, err := order.Render(p, order.Options{From: from, To: from + stretch, Live: true})
		require.NoError(t, err)
		held := part.Hold(zones, int64(from), int64(from+stretch))
		require.Len(t, held, len(zones))
		for i := range part.Tracks {
			track := &part.Tracks[i]
			for k := range track.Part.Notes {
				n := &track.Part.Notes[k]
				at := n.At.Export(960)
				if track.Part.Zone == nil || at < int64(from) || at >= int64(from+stretch) || n.Velocity == 0 {
					continue
				}
				live = append(live, fmt.Sprintln(at, n.Channel, "strikes", n.Pitch))
				for b, bend := range track.Wheel(k) {
					if at := bend.At.Export(960); at < end && (b == 0 || bend.At < n.End) {
						live = append(live, fmt.Sprintln(at, n.Channel, bend.Value))
					}
				}
			}
		}
		zones = held
	}
	slices.Sort(file)
	slices.Sort(live)
	return file, live, crowded
}

// Played stretch by stretch, with the zones handed from each to the next, an order sends what its file has.
func TestAnOrderIsPlayedOnTheChannelsOfItsFile(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := draw(t)
		entries(t, p)
		if len(p.Order.Entries) == 0 || piece.Check(p) != nil {
			t.SkipNow()
		}
		file, live, crowded := gliding(t, p, rapid.SampledFrom([]int{480, 3840, 7001}).Draw(t, "stretch"))
		if !crowded {
			require.Equal(t, file, live)
		}
	})
	p, err := demo.Piece()
	require.NoError(t, err)
	for i := range p.Clips {
		if p.Clips[i].ID == "slipway" {
			e := piece.NewEntry("slipway", 0, 8*3840)
			p.Order.Entries = []piece.Entry{e}
		}
	}
	file, live, crowded := gliding(t, p, 3840)
	require.False(t, crowded)
	require.Greater(t, len(file), 200)
	require.Equal(t, file, live)
}

func TestZonesThatNoOrderHas(t *testing.T) {
	some := make([]render.Member, 4)
	for words, zones := range map[string][]order.Held{
		"these 2 are no zones of one order":              {{Range: 48, Members: some}, {Range: 12, Members: some}},
		"a range of 97 semitones and 4 members are none": {{Range: 97, Members: some}},
		"a range of 48 semitones and 0 members are none": {{Range: 48}},
	} {
		assert.ErrorContains(t, order.CheckHeld(zones), words)
	}
	assert.NoError(t, order.CheckHeld([]order.Held{{Range: 48, Members: some}, {Upper: true, Range: 12, Members: some}}))
}

// Of two gliding lanes and a layer of one, the layer has no zone in the clip alone. Where the order mutes a lane,
// what that leaves is the layer's.
func TestALayerHasTheZoneThatAMutedLaneLeaves(t *testing.T) {
	lane := `{"id":%q,"kind":"phrase","source":"own","tones":[{},{"degree":3}],"glide":{"mode":"mpe"},"steps":[{"on":true},{"on":true,"glide":{"time":50}}]}`
	clip := fmt.Sprintf(`{"id":"a","bars":1,"lanes":[`+lane+`,`+lane+`,{"id":"up","kind":"layer","of":"one","octave":1}]}`, "one", "two")
	for entries, want := range map[string]string{
		`{"clip":"a","at":0,"for":3840}`:                                                          "one lower, two upper, up plain",
		`{"clip":"a","at":0,"for":3840,"mute":["two"]}`:                                           "one lower, up upper",
		`{"clip":"a","at":0,"for":3840,"mute":["one"]}`:                                           "two lower, up upper",
		`{"clip":"a","at":0,"for":3840,"mute":["two"]},{"clip":"a","at":3840,"for":3840}`:         "one lower, two upper, up plain",
		`{"clip":"a","at":0,"for":3840,"mute":["up"]},{"clip":"a","at":3840,"for":960,"mute":[]}`: "one lower, two upper, up plain",
	} {
		var got []string
		for _, track := range rendered(t, read(t, "", clip, entries), order.Options{}).Tracks {
			zone := map[bool]string{false: "lower", true: "upper"}
			if z := track.Part.Zone; z == nil {
				got = append(got, track.Part.ID+" plain")
			} else {
				got = append(got, track.Part.ID+" "+zone[z.Upper])
			}
		}
		assert.Equal(t, want, strings.Join(got, ", "), entries)
	}
}

// While somebody performs, a lane stays on the channel that it has, whichever clips come in and go: only where all
// are given out do lanes share. Room is left for the zones that a clip may need which has not come in yet.
func TestAPerformersLanesKeepTheirChannels(t *testing.T) {
	p, err := demo.Piece()
	require.NoError(t, err)
	seat := func(kept map[piece.LanePlace]int, clips ...string) map[piece.LanePlace]int {
		p.Order.Entries = nil
		for _, clip := range clips {
			p.Order.Entries = append(p.Order.Entries, piece.NewEntry(clip, 0, 4*3840))
		}
		out := map[piece.LanePlace]int{}
		seats, _ := rendered(t, p, order.Options{Kept: kept}).Seats()
		for _, s := range seats {
			out[piece.LanePlace{Clip: s.Clip, Lane: s.Lane}] = s.Channel
		}
		return out
	}
	for i := range p.Clips {
		for k := range p.Clips[i].Lanes {
			p.Clips[i].Lanes[k].Channel = 0
		}
	}
	first := seat(map[piece.LanePlace]int{}, "weir")
	for _, channel := range first {
		assert.Greater(t, channel, 12, "far from a zone that may come")
	}
	then := seat(first, "keel", "weir")
	for lane, channel := range first {
		assert.Equal(t, channel, then[lane])
	}
	alone := map[int]bool{}
	for _, channel := range then {
		assert.False(t, alone[channel], "each has its own")
		alone[channel] = true
	}
	other := seat(then, "keel", "moorings") // weir rests, and its channels wait for it
	for lane, channel := range other {
		if _, known := then[lane]; known {
			assert.Equal(t, then[lane], channel)
			continue
		}
		assert.False(t, alone[channel], "it is kept for who rests")
	}
}
