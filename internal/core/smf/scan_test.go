package smf_test

import (
	"bytes"
	"encoding/binary"
	"fmt"
	"runtime"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	library "gitlab.com/gomidi/midi/v2/smf"
	"pgregory.net/rapid"

	"agrimony/internal/core/smf"
)

func chunk(kind string, body []byte) []byte {
	return append(binary.BigEndian.AppendUint32([]byte(kind), uint32(len(body))), body...)
}

func header(format, tracks, division uint16) []byte {
	var body []byte
	for _, n := range []uint16{format, tracks, division} {
		body = binary.BigEndian.AppendUint16(body, n)
	}
	return chunk("MThd", body)
}

var endOfTrack = []byte{0, 0xff, 0x2f, 0}

// Whatever a file holds is read as a well-known library reads it: with running status or
// without, notes ended by velocity 0, tempo, meter and key, system exclusives between.
func TestFilesAreReadAsALibraryReadsThem(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		pick := func(name string, low, high int) byte { return byte(rapid.IntRange(low, high).Draw(t, name)) }
		var body []byte
		running := byte(0)
		for range rapid.IntRange(0, 60).Draw(t, "events") {
			body = append(body, pick("delta", 0, 127))
			switch pick("kind", 0, 9) {
			case 0:
				body, running = append(body, 0xff, 0x51, 3, pick("tempo", 1, 12), pick("tempo", 0, 255), 0), 0
			case 1:
				body, running = append(body, 0xff, 0x58, 4, pick("count", 1, 12), pick("unit", 0, 4), 24, 8), 0
			case 2:
				body, running = append(body, 0xf0, 3, 0x7d, 1, 0xf7), 0
			case 3:
				body, running = append(body, 0xff, 0x06, 2, 'A', 'm'), 0
			default:
				status := pick("sort", 8, 14)<<4 | pick("channel", 0, 15)
				if status != running || pick("running", 0, 1) == 0 {
					body = append(body, status)
				}
				running = status
				body = append(body, pick("a", 0, 127))
				if kind := status & 0xf0; kind != 0xc0 && kind != 0xd0 {
					body = append(body, pick("b", 0, 127))
				}
			}
		}
		data := append(append(header(0, 1, 96), chunk("XFIH", []byte{1, 2, 3})...), chunk("MTrk", append(body, endOfTrack...))...)
		file, err := smf.Decode(data, nil)
		require.NoError(t, err)
		read, err := library.ReadFrom(bytes.NewReader(append(header(0, 1, 96), chunk("MTrk", append(body, endOfTrack...))...)))
		require.NoError(t, err)
		var want, got []string
		at := int64(0)
		for _, e := range read.Tracks[0] {
			at += int64(e.Delta)
			var a, b, c uint8
			var relative int16
			var absolute uint16
			var bpm float64
			var text string
			switch {
			case e.Message.GetNoteStart(&a, &b, &c):
				want = append(want, fmt.Sprint("note ", at, a+1, b, c))
			case e.Message.GetControlChange(&a, &b, &c):
				want = append(want, fmt.Sprint("control ", at, a+1, b, c))
			case e.Message.GetPitchBend(&a, &relative, &absolute):
				want = append(want, fmt.Sprint("bend ", at, a+1, relative))
			case e.Message.GetAfterTouch(&a, &b):
				want = append(want, fmt.Sprint("pressure ", at, a+1, b))
			case e.Message.GetMetaTempo(&bpm):
				want = append(want, fmt.Sprintf("tempo %d %.6f", at, bpm))
			case e.Message.GetMetaTimeSig(&a, &b, nil, nil):
				want = append(want, fmt.Sprint("meter ", at, a, b))
			case e.Message.GetMetaMarker(&text):
				want = append(want, fmt.Sprint("marker ", at, text))
			}
		}
		track := &file.Tracks[0]
		for _, n := range track.Notes {
			got = append(got, fmt.Sprint("note ", n.At, n.Channel, n.Pitch, n.Velocity))
			assert.GreaterOrEqual(t, n.Length, int64(0))
		}
		for _, c := range track.Controls {
			got = append(got, fmt.Sprint("control ", c.At, c.Channel, c.Controller, c.Value))
		}
		for _, b := range track.Bends {
			got = append(got, fmt.Sprint("bend ", b.At, b.Channel, b.Value))
		}
		for _, p := range track.Pressures {
			if p.Key {
				continue // the library gives these another name
			}
			got = append(got, fmt.Sprint("pressure ", p.At, p.Channel, p.Value))
		}
		for _, x := range track.Tempos {
			got = append(got, fmt.Sprintf("tempo %d %.6f", x.At, x.BPM))
		}
		for _, m := range track.Meters {
			got = append(got, fmt.Sprint("meter ", m.At, m.Count, m.Unit))
		}
		for _, m := range track.Markers {
			got = append(got, fmt.Sprint("marker ", m.At, m.Text))
		}
		assert.ElementsMatch(t, want, got)
		assert.Equal(t, at, track.End)
	})
}

func TestChunksOfOtherMakersArePassedOver(t *testing.T) {
	track := chunk("MTrk", append([]byte{0, 0x90, 60, 100, 96, 0x80, 60, 0}, endOfTrack...))
	data := append(append(append(append(header(1, 2, 96), chunk("XFKM", make([]byte, 37))...), track...), chunk("junk", nil)...), track...)
	file, err := smf.Decode(data, nil)
	require.NoError(t, err)
	require.Len(t, file.Tracks, 2)
	assert.Equal(t, []smf.Note{{At: 0, Length: 96, Channel: 1, Pitch: 60, Velocity: 100}}, file.Tracks[1].Notes)
	_, err = smf.Decode(append(header(1, 2, 96), chunk("junk", nil)...), nil)
	assert.ErrorContains(t, err, "the file ends within a chunk")
}

// The largest files that a request may bring are read within some tens of megabytes.
func TestLargeFilesAreReadInLittleMemory(t *testing.T) {
	const size = 8 << 20
	var dense []byte
	for dense = append(dense, 0, 0x90, 60, 1); len(dense) < size; {
		dense = append(dense, 0, 60, 0, 0, 60, 1) // running status: a note every six bytes
	}
	many := header(1, 32768, 96)
	for range 32768 {
		many = append(many, chunk("MTrk", endOfTrack)...)
	}
	for name, data := range map[string][]byte{
		"one dense track": append(header(0, 1, 96), chunk("MTrk", append(dense, endOfTrack...))...),
		"32768 tracks":    many,
	} {
		var before, after runtime.MemStats
		runtime.GC()
		runtime.ReadMemStats(&before)
		file, err := smf.Decode(data, nil)
		require.NoError(t, err, name)
		runtime.GC()
		runtime.ReadMemStats(&after)
		assert.Less(t, int64(after.HeapAlloc)-int64(before.HeapAlloc), int64(120<<20), name)
		runtime.KeepAlive(file)
	}
}
