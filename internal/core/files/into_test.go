package files_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	library "gitlab.com/gomidi/midi/v2/smf"

	"agrimony/internal/core/lane"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// Chords that come into a clip whose phrase has none to walk are walked at once; those that come beside
// others, or that are a tune, change nothing.
func TestChordsThatComeInAreWalked(t *testing.T) {
	chords := func(track *library.Track) {
		for _, root := range []uint8{48, 53} {
			for k, tone := range []uint8{0, 4, 7} {
				track.Add(uint32(k*37), []byte{0x90, root + tone, 90})
			}
			for _, tone := range []uint8{0, 4, 7} {
				track.Add(map[bool]uint32{true: 740}[tone == 0], []byte{0x80, root + tone, 0})
			}
		}
	}
	tune := func(track *library.Track) {
		for k := range uint8(8) {
			note(track, 10, 0, 60+k, 90, 200)
		}
	}
	const phrase, own = `{"id":"walk","kind":"phrase","rate":"1/4","octave":3,"steps":[{"on":true}]}`, `,{"id":"tide","kind":"chords","steps":[{"on":true}]}`
	for _, row := range []struct {
		name, lanes, harmony string
		track                func(*library.Track)
	}{
		{"chords", phrase, "channel-1", chords},
		{"a tune", phrase, "", tune},
		{"beside chords of its own", phrase + own, "", chords},
		{"where nothing listens", `{"id":"low"}`, "", chords},
	} {
		p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"a","bars":1,"lanes":[` + row.lanes + `]}]}`))
		require.NoError(t, err)
		in, err := taken(t, opened(t, written(t, 480, row.track)), "notes")
		require.NoError(t, err)
		next, err := in.AsLanes(p, "a")
		require.NoError(t, err, row.name)
		got := ""
		if h := next.Clips[0].Harmony; h != nil {
			got = h.Lane
		}
		assert.Equal(t, row.harmony, got, row.name)
		if got == "" {
			continue
		}
		performance, err := lane.Render(next, &next.Clips[0], render.Options{})
		require.NoError(t, err)
		var walked []int
		for _, n := range performance.Events().Notes {
			if n.Lane == "walk" {
				walked = append(walked, n.Pitch)
			}
		}
		assert.Equal(t, []int{48, 52, 53, 57}, walked)
	}
}
