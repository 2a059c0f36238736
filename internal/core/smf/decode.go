package smf

import (
	"bytes"
	"fmt"

	"gitlab.com/gomidi/midi/v2/smf"
)

// File is what a Standard MIDI File holds, with positions in its own ticks.
type File struct {
	Type   int
	PPQ    int // ticks a quarter note
	Tracks []Track
}

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
	End       int64 // where the track ends
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

// Pressure is a value of a channel's pressure.
type Pressure struct {
	At             int64
	Channel, Value int
}

// Marker is a text at a tick: the name of a chord, say.
type Marker struct {
	At   int64
	Text string
}

// MaxFile is the largest file that is read, in bytes.
const MaxFile = 16 << 20

// Decode reads a file of type 0 or 1 at any resolution. Errors say what is wrong
// and at which byte.
func Decode(data []byte) (*File, error) {
	head, err := inspect(data)
	if err != nil {
		return nil, err
	}
	read, err := smf.ReadFrom(bytes.NewReader(data))
	if err != nil {
		return nil, fmt.Errorf("reading the MIDI file: %w", err)
	}
	out := &File{Type: head.format, PPQ: head.division}
	for _, events := range read.Tracks {
		out.Tracks = append(out.Tracks, decodeTrack(events))
	}
	return out, nil
}

type voice struct{ channel, pitch uint8 }

func decodeTrack(events smf.Track) Track {
	var out Track
	open := map[voice][]int{} // indexes of sounding notes, oldest first
	at := int64(0)
	for _, e := range events {
		at += int64(e.Delta)
		message := e.Message
		var a, b, c uint8
		var relative int16
		var absolute uint16
		var text string
		var bpm float64
		switch {
		case message.GetNoteStart(&a, &b, &c):
			key := voice{a, b}
			open[key] = append(open[key], len(out.Notes))
			out.Notes = append(out.Notes, Note{at, -1, int(a) + 1, int(b), int(c)})
		case message.GetNoteEnd(&a, &b):
			key := voice{a, b}
			if sounding := open[key]; len(sounding) > 0 {
				note := &out.Notes[sounding[0]]
				note.Length = at - note.At
				open[key] = sounding[1:]
			}
		case message.GetPitchBend(&a, &relative, &absolute):
			out.Bends = append(out.Bends, Bend{at, int(a) + 1, int(relative)})
		case message.GetControlChange(&a, &b, &c):
			out.Controls = append(out.Controls, Control{at, int(a) + 1, int(b), int(c)})
		case message.GetAfterTouch(&a, &b):
			out.Pressures = append(out.Pressures, Pressure{at, int(a) + 1, int(b)})
		case message.GetMetaTrackName(&text):
			out.Name = text
		case message.GetMetaMarker(&text):
			out.Markers = append(out.Markers, Marker{at, text})
		case message.GetMetaTempo(&bpm):
			out.Tempos = append(out.Tempos, Tempo{at, bpm})
		case message.GetMetaTimeSig(&a, &b, nil, nil):
			out.Meters = append(out.Meters, Meter{at, int(a), int(b)})
		default:
			var minor, flat bool
			if message.GetMetaKeySig(nil, &a, &minor, &flat) {
				sharps := int(a)
				if flat {
					sharps = -sharps
				}
				out.Keys = append(out.Keys, Signature{at, sharps, !minor})
			}
		}
	}
	out.End = at
	for i := range out.Notes {
		if out.Notes[i].Length < 0 {
			out.Notes[i].Length = at - out.Notes[i].At
		}
	}
	return out
}
