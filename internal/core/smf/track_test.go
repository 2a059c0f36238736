package smf

import (
	"bytes"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	library "gitlab.com/gomidi/midi/v2/smf"

	"agrimony/internal/core/budget"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/piece/piecetest"
	"agrimony/internal/core/render"
)

func TestATrackRefusesWhatIsOutOfOrder(t *testing.T) {
	on := func(at int64) event { return eventOf(at, rankOn, 0x90, 60, 100) }
	written := func(lists ...[]event) ([]byte, error) {
		made := track{end: 10}
		made.open()
		err := made.events(nil, new(desk).merged(lists))
		return made.bytes, err
	}
	_, err := written([]event{on(5), on(3)})
	assert.EqualError(t, err, "an event at tick 3 after one at 5, with the end at 10")
	_, err = written([]event{on(11)})
	assert.EqualError(t, err, "an event at tick 11 after one at 0, with the end at 10")
	made, err := written([]event{on(3), on(10)}, []event{on(4)})
	require.NoError(t, err)
	assert.Equal(t, []byte{3, 0x90, 60, 100, 1, 60, 100, 6, 60, 100, 0, 0xff, 0x2f, 0}, made[chunk:], "in order, the status once")
}

func TestTicksAreSevenBitsAByte(t *testing.T) {
	for ticks, want := range map[int64][]byte{ // the standard's own examples
		0: {0}, 0x40: {0x40}, 0x7f: {0x7f}, 0x80: {0x81, 0}, 0x2000: {0xc0, 0}, 0x3fff: {0xff, 0x7f}, 0x4000: {0x81, 0x80, 0},
		0x1fffff: {0xff, 0xff, 0x7f}, 0x200000: {0x81, 0x80, 0x80, 0}, 0xfffffff: {0xff, 0xff, 0xff, 0x7f},
	} {
		var made track
		made.delta(ticks)
		assert.Equal(t, want, made.bytes, "%x", ticks)
	}
}

// byLibrary writes the messages of a file anew, as a library does.
func byLibrary(t require.TestingT, data []byte) []byte {
	read, err := library.ReadFrom(bytes.NewReader(data))
	require.NoError(t, err)
	var out bytes.Buffer
	_, err = read.WriteTo(&out)
	require.NoError(t, err)
	return out.Bytes()
}

// Whatever is in it, a file is the bytes that a library makes of the same messages.
func TestAFileIsWhatALibraryWrites(t *testing.T) {
	written := 0
	for seed := range uint64(60) {
		random := rand.New(rand.NewPCG(5, seed))
		p, err := piece.Read([]byte(piecetest.Heavy(random.IntN, 20_000)))
		require.NoError(t, err)
		if len(p.Clips) == 0 {
			continue
		}
		performance, err := lane.Render(p, &p.Clips[0], render.Options{Bars: 1, Events: 20_000, Rough: true, Budget: budget.New(2_000_000, nil)})
		if err != nil {
			continue // it is too many
		}
		for fileType := range 2 {
			data, err := Encode(performance, Options{Type: fileType, ChordNames: true})
			require.NoError(t, err)
			require.True(t, bytes.Equal(byLibrary(t, data), data), "seed %d, type %d", seed, fileType)
			written++
		}
	}
	assert.Greater(t, written, 40)
}
