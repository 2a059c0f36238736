package smf

import (
	"encoding/binary"
	"fmt"
	"slices"
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

// file is the bytes of a Standard MIDI File while they are appended. They are appended
// straight: a file has some hundred thousand messages.
type file struct {
	bytes  []byte
	begin  int   // of the track's content
	last   int64 // tick of its last message
	end    int64 // tick at which it ends
	status byte  // running; 0: none
}

// newFile begins a file with its header; events is about how many it will have.
func newFile(fileType, tracks, ppq, events int) *file {
	out := &file{bytes: make([]byte, 0, 4*events+64*(tracks+1))}
	out.bytes = append(out.bytes, "MThd\x00\x00\x00\x06"...)
	for _, field := range []int{fileType, tracks, ppq} {
		out.bytes = binary.BigEndian.AppendUint16(out.bytes, uint16(field))
	}
	return out
}

// open begins a track that ends at a tick.
func (f *file) open(end int64) {
	f.bytes = append(f.bytes, "MTrk\x00\x00\x00\x00"...)
	f.begin, f.last, f.end, f.status = len(f.bytes), 0, end, 0
}

// meta appends a message that is for no channel, as it is in a file.
func (f *file) meta(at int64, message []byte) {
	f.delta(at)
	f.bytes = append(f.bytes, message...)
	f.status = 0
}

// delta appends the ticks since the last message, seven bits a byte.
func (f *file) delta(at int64) {
	ticks := uint32(at - f.last)
	f.last = at
	for shift := 28; shift > 0; shift -= 7 {
		if ticks>>shift > 0 {
			f.bytes = append(f.bytes, byte(ticks>>shift)|0x80)
		}
	}
	f.bytes = append(f.bytes, byte(ticks)&0x7f)
}

// events appends lists of events, each of them in order, by their places, and markers, each
// before whatever else is at its tick; then it ends the track. The error says that an event
// comes after the end or before the one before it.
func (f *file) events(markers []marker, lists ...[]event) error {
	lists = slices.DeleteFunc(lists, func(list []event) bool { return len(list) == 0 })
	for len(lists) > 0 {
		first := 0
		for i := 1; i < len(lists); i++ {
			if lists[i][0].place() < lists[first][0].place() {
				first = i
			}
		}
		e := lists[first][0]
		at := e.at()
		if at < f.last || at > f.end {
			return fmt.Errorf("an event at tick %d after one at %d, with the end at %d", at, f.last, f.end)
		}
		markers = f.marked(markers, at)
		f.delta(at)
		if status := byte(e >> 16); status != f.status {
			f.bytes = append(f.bytes, status)
			f.status = status
		}
		f.bytes = append(f.bytes, byte(e>>8))
		if f.status&0xf0 != 0xd0 { // a channel's pressure has one byte
			f.bytes = append(f.bytes, byte(e))
		}
		if lists[first] = lists[first][1:]; len(lists[first]) == 0 {
			lists = slices.Delete(lists, first, first+1)
		}
	}
	f.marked(markers, f.end)
	f.meta(f.end, []byte{0xff, 0x2f, 0})
	binary.BigEndian.PutUint32(f.bytes[f.begin-4:], uint32(len(f.bytes)-f.begin))
	return nil
}
