package smf

import (
	"encoding/binary"
	"fmt"

	"agrimony/internal/core/midi"
)

// event is a channel message at a tick, in one number that is in the order of the file: the
// tick, its rank there, and the message's three bytes.
type event uint64

// ranks of events within one tick: note ends first, then controllers, the wheel, and note
// onsets.
const (
	rankOff = iota
	rankControl
	rankBend
	rankOn
)

// How many bits of an event the message and its rank have.
const (
	messageBits = 24
	rankBits    = 2
)

func eventOf(at int64, rank, status, first, second byte) event {
	return event(uint64(at)<<(messageBits+rankBits) | uint64(rank)<<messageBits | uint64(status)<<16 | uint64(first)<<8 | uint64(second))
}

func (e event) at() int64     { return int64(e >> (messageBits + rankBits)) }
func (e event) place() uint64 { return uint64(e >> messageBits) }

// track is the bytes of a track of a Standard MIDI File while they are appended. They are
// appended straight: a file has some hundred thousand messages.
type track struct {
	bytes  []byte
	last   int64 // tick of its last message
	end    int64 // tick at which it ends
	status byte  // running; 0: none
}

// chunk is how many bytes stand before a chunk's content: its name and length.
const chunk = 8

// join is the file of tracks that are complete.
func join(fileType, ppq int, tracks [][]byte) []byte {
	length := chunk + 6
	for _, track := range tracks {
		length += len(track)
	}
	out := append(make([]byte, 0, length), "MThd\x00\x00\x00\x06"...)
	for _, field := range []int{fileType, len(tracks), ppq} {
		out = binary.BigEndian.AppendUint16(out, uint16(field))
	}
	for _, track := range tracks {
		out = append(out, track...)
	}
	return out
}

// open begins the track.
func (t *track) open() { t.bytes = append(t.bytes, "MTrk\x00\x00\x00\x00"...) }

// meta appends a message that is for no channel, as it is in a file.
func (t *track) meta(at int64, message []byte) {
	t.delta(at)
	t.bytes = append(t.bytes, message...)
	t.status = 0
}

// delta appends the ticks since the last message, seven bits a byte.
func (t *track) delta(at int64) {
	t.bytes = appendTicks(t.bytes, uint32(at-t.last))
	t.last = at
}

func appendTicks(out []byte, ticks uint32) []byte {
	if ticks < 0x80 { // most are
		return append(out, byte(ticks))
	}
	for shift := 28; shift > 0; shift -= 7 {
		if ticks>>shift > 0 {
			out = append(out, byte(ticks>>shift)|0x80)
		}
	}
	return append(out, byte(ticks)&0x7f)
}

// events appends events in order, and markers, each before whatever else is at its tick; then
// it ends the track. The error says that an event comes after the end or before the one
// before it.
func (t *track) events(markers []marker, events []event) error {
	for _, e := range events {
		at := e.at()
		if at < t.last || at > t.end {
			return fmt.Errorf("an event at tick %d after one at %d, with the end at %d", at, t.last, t.end)
		}
		if len(markers) > 0 {
			markers = t.marked(markers, at)
		}
		out := appendTicks(t.bytes, uint32(at-t.last))
		t.last = at
		if status := byte(e >> 16); status != t.status {
			out = append(out, status)
			t.status = status
		}
		if t.status&midi.KindMask == midi.ChannelPressure { // a channel's pressure has one byte
			t.bytes = append(out, byte(e>>8))
		} else {
			t.bytes = append(out, byte(e>>8), byte(e))
		}
	}
	t.marked(markers, t.end)
	t.meta(t.end, []byte{0xff, 0x2f, 0})
	binary.BigEndian.PutUint32(t.bytes[chunk-4:], uint32(len(t.bytes)-chunk))
	return nil
}
