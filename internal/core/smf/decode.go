package smf

import (
	"fmt"
	"strings"

	"agrimony/internal/core/budget"
	"agrimony/internal/core/midi"
)

// File is what a Standard MIDI File holds, with positions in its own ticks.
type File struct {
	Type   int
	PPQ    int // ticks a quarter note; 0: in ticks of frames
	Tracks []Track
	// Frames are how many a second, 24, 25, 29 (30000/1001) or 30, and FrameTicks the ticks of
	// one, in a file that is divided by time.
	Frames, FrameTicks int
}

// frameRates are those of the Standard MIDI Files 1.0 specification.
var frameRates = []int{24, 25, 29, 30}

// Track is one track of a file.
type Track struct {
	Name      string
	Tempos    []Tempo
	Meters    []Meter
	Keys      []Signature
	Notes     []Note
	Bends     []Bend
	Controls  []Control
	Pressures []Pressure
	Markers   []Marker
	Programs  []Program
	Own       [][]byte // what sequencer-specific events hold
	End       int64    // where the track ends
}

// Tempo is a tempo from a tick on, in quarter notes a minute.
type Tempo struct {
	At  int64
	BPM float64
}

// Meter is a time signature from a tick on.
type Meter struct {
	At          int64
	Count, Unit int
}

// Signature is a key signature from a tick on; flats are negative sharps.
type Signature struct {
	At     int64
	Sharps int
	Minor  bool
}

// Note is a note with its channel, 1..16. A note without an end lasts until its
// track ends.
type Note struct {
	At, Length               int64
	Channel, Pitch, Velocity int
}

// Bend is a setting of the wheel, -8192..8191.
type Bend struct {
	At             int64
	Channel, Value int
}

// Control is a controller's value.
type Control struct {
	At                         int64
	Channel, Controller, Value int
}

// Pressure is a value of a channel's pressure, or with Key of one of its keys.
type Pressure struct {
	At             int64
	Channel, Value int
	Key            bool
}

// Program is a change of a channel's program.
type Program struct {
	At              int64
	Channel, Number int
}

// Marker is a text at a tick: the name of a chord, say.
type Marker struct {
	At   int64
	Text string
}

// MaxFile is the largest file that is read, in bytes.
const MaxFile = 16 << 20

// Decode reads a file of type 0 or 1 at any resolution. Chunks of other makers are passed
// over. Errors say what is wrong and at which byte, or are those of the budget.
func Decode(data []byte, work *budget.Budget) (*File, error) { return decode(data, work, false) }

// DecodeOnsets is the same of a file of which onsets and meters are wanted: what else is sent to
// its channels is left out, and every note lasts until its track ends.
func DecodeOnsets(data []byte, work *budget.Budget) (*File, error) { return decode(data, work, true) }

func decode(data []byte, work *budget.Budget, onsets bool) (out *File, err error) {
	defer budget.Catch(&err)
	if len(data) > MaxFile {
		return nil, fmt.Errorf("the MIDI file has %d bytes; allowed: at most %d", len(data), MaxFile)
	}
	s := &scanner{data: data, onsets: onsets, work: work, open: &sounding{}}
	return s.file()
}

// sounding are the notes of a track that have no end yet: queues of their places, from 1, by channel and key.
type sounding struct {
	first, last [16 * 128]int32 // 0: none
	next        []int32         // of each note, behind which it waits for its end
}

// strike adds the next note of the track.
func (s *sounding) strike(key int) {
	s.next = append(s.next, 0)
	place := int32(len(s.next))
	if s.first[key] == 0 {
		s.first[key] = place
	} else {
		s.next[s.last[key]-1] = place
	}
	s.last[key] = place
}

// end takes the oldest note of a key, by its place from 0.
func (s *sounding) end(key int) (note int, ok bool) {
	place := s.first[key]
	if place == 0 {
		return 0, false
	}
	s.first[key] = s.next[place-1]
	return int(place) - 1, true
}

// take adds an event of a track: its status byte and up to two data bytes.
func (t *Track) take(at int64, status, a, b byte, open *sounding) {
	channel := int(status&midi.ChannelMask) + 1
	key := int(status&midi.ChannelMask)<<7 | int(a&0x7f)
	switch status & midi.KindMask {
	case midi.NoteOn:
		if b > 0 {
			open.strike(key)
			t.Notes = append(t.Notes, Note{at, -1, channel, int(a), int(b)})
			return
		}
		fallthrough // struck at 0 it ends
	case midi.NoteOff:
		if note, ok := open.end(key); ok {
			t.Notes[note].Length = at - t.Notes[note].At
		}
	case midi.Control:
		t.Controls = append(t.Controls, Control{at, channel, int(a), int(b)})
	case midi.KeyPressure:
		t.Pressures = append(t.Pressures, Pressure{at, channel, int(b), true})
	case midi.Program:
		t.Programs = append(t.Programs, Program{at, channel, int(a)})
	case midi.ChannelPressure:
		t.Pressures = append(t.Pressures, Pressure{at, channel, int(a), false})
	case midi.Bend:
		t.Bends = append(t.Bends, Bend{at, channel, int(a) | int(b)<<7 - midi.BendCentre})
	}
}

// Kinds of meta events, of the Standard MIDI Files 1.0 specification.
const (
	metaName      = 0x03
	metaMarker    = 0x06
	metaEnd       = 0x2f
	metaTempo     = 0x51
	metaMeter     = 0x58
	metaSignature = 0x59
	metaOwn       = 0x7f
)

// finest is the shortest note that a meter may count in, as a power of a half.
const finest = 7

// takeMeta adds a meta event of a track; those that are shorter than they should be say
// nothing.
func (t *Track) takeMeta(at int64, kind int, data []byte) {
	text := func() string { return strings.ToValidUTF8(string(data), "\uFFFD") }
	switch {
	case kind == metaName:
		t.Name = text()
	case kind == metaMarker:
		t.Markers = append(t.Markers, Marker{at, text()})
	case kind == metaTempo && len(data) >= 3:
		if quarter := int(data[0])<<16 | int(data[1])<<8 | int(data[2]); quarter > 0 {
			t.Tempos = append(t.Tempos, Tempo{at, 60e6 / float64(quarter)})
		}
	case kind == metaMeter && len(data) >= 2 && data[0] > 0:
		t.Meters = append(t.Meters, Meter{at, int(data[0]), 1 << min(data[1], finest)})
	case kind == metaSignature && len(data) >= 2:
		t.Keys = append(t.Keys, Signature{at, int(int8(data[0])), data[1] == 1})
	}
}

// finish ends a track, and the notes that have no end with it.
func (t *Track) finish(at int64, open *sounding) {
	t.End = at
	for i := range t.Notes {
		if note := &t.Notes[i]; note.Length < 0 {
			note.Length = at - note.At
			open.first[(note.Channel-1)<<7|note.Pitch] = 0
		}
	}
	open.next = open.next[:0]
}
