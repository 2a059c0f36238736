package smf_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"agrimony/internal/core/lane"
	"agrimony/internal/core/order"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
	"agrimony/internal/core/smf"
)

// manyClips is a piece of 8 clips of 8 lanes with 16 steps each, and an order in which all sound for so many
// bars.
func manyClips(t require.TestingT, bars int) *piece.Piece {
	var clips, entries []string
	for c := range 8 {
		var lanes []string
		for l := range 8 {
			steps := strings.TrimSuffix(strings.Repeat(fmt.Sprintf(`{"on":true,"degree":%d,"gate":60},`, 1+(c+l)%7), 16), ",")
			lanes = append(lanes, fmt.Sprintf(`{"id":"l%d","octave":%d,"channel":%d,"steps":[%s]}`, l, 1+l%5, 1+(c*8+l)%16, steps))
		}
		clips = append(clips, fmt.Sprintf(`{"id":"c%d","bars":4,"lanes":[%s]}`, c, strings.Join(lanes, ",")))
		entries = append(entries, fmt.Sprintf(`{"clip":"c%d","at":0,"for":%d}`, c, bars*3840))
	}
	p, err := piece.Read([]byte(fmt.Sprintf(`{"format":"agrimony-piece","version":1,"groove":{"swing":58},"clips":[%s],"order":{"entries":[%s]}}`, strings.Join(clips, ","), strings.Join(entries, ","))))
	require.NoError(t, err)
	return p
}

// BenchmarkOrder renders and encodes 256 bars of 8 clips of 8 lanes as an order, and each clip alone.
func BenchmarkOrder(b *testing.B) {
	const bars = 256
	p := manyClips(b, bars)
	b.Run("order", func(b *testing.B) {
		for b.Loop() {
			played, err := order.Render(p, order.Options{})
			require.NoError(b, err)
			_, err = smf.EncodeOrder(played, smf.Default)
			require.NoError(b, err)
		}
	})
	b.Run("alone", func(b *testing.B) {
		for b.Loop() {
			for i := range p.Clips {
				played, err := lane.Render(p, &p.Clips[i], render.Options{Bars: bars})
				require.NoError(b, err)
				_, err = smf.Encode(played, smf.Default)
				require.NoError(b, err)
			}
		}
	})
}

func TestAnOrderIsAFile(t *testing.T) {
	played, err := order.Render(manyClips(t, 3), order.Options{})
	require.NoError(t, err)
	data, err := smf.EncodeOrder(played, smf.Default)
	require.NoError(t, err)
	file, err := smf.Decode(data, nil)
	require.NoError(t, err)
	require.Len(t, file.Tracks, 65)
	notes := 0
	for i := range file.Tracks {
		notes += len(file.Tracks[i].Notes)
	}
	require.Len(t, played.Events().Notes, notes)
}
