// Package smf writes performances as Standard MIDI Files and reads such files.
package smf

import (
	"bytes"
	"fmt"
	"slices"

	"gitlab.com/gomidi/midi/v2/smf"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/render"
)

// DefaultType is the file type where none is given.
const DefaultType = 1

// Options say what a file is to hold beside the performance's events.
type Options struct {
	Type       int  // 0 or 1
	ChordNames bool // the symbols of the chords, as markers where they begin
}

// Default is a file of the usual type, with the names of its chords.
var Default = Options{Type: DefaultType, ChordNames: true}

// CheckType refuses file types that are not written.
func CheckType(fileType int) error {
	if fileType != 0 && fileType != 1 {
		return fmt.Errorf("type: %d is not allowed; allowed: 0, 1", fileType)
	}
	return nil
}

// Encode writes a performance as a Standard MIDI File at its PPQ. Type 1 has a
// conductor track and one track a lane; type 0 has one track. Every track ends
// exactly where the clip does. The same input gives the same bytes.
func Encode(performance *render.Performance, options Options) ([]byte, error) {
	fileType := options.Type
	if err := CheckType(fileType); err != nil {
		return nil, err
	}
	file := smf.NewSMF1()
	if fileType == 0 {
		file = smf.New()
	}
	file.TimeFormat = smf.MetricTicks(performance.PPQ)
	end := performance.Length.Export(performance.PPQ)
	conductor := head(performance)
	var names []marker
	if options.ChordNames {
		names = chordNames(performance, end)
	}
	if fileType == 0 {
		var all []event
		for i := range performance.Lanes {
			all = append(all, events(performance, &performance.Lanes[i], performance.PPQ, end)...)
		}
		slices.SortStableFunc(all, func(a, b event) int {
			if a.at != b.at {
				return int(a.at - b.at)
			}
			return int(a.rank) - int(b.rank)
		})
		made, err := track(conductor, all, end)
		if err != nil {
			return nil, err
		}
		file.Tracks = []smf.Track{marked(made, names)}
	} else {
		made, err := track(conductor, nil, end)
		if err != nil {
			return nil, err
		}
		file.Tracks = append(file.Tracks, marked(made, names))
		for i := range performance.Lanes {
			part := &performance.Lanes[i]
			if part.Empty {
				continue
			}
			name := []smf.Message{smf.MetaTrackSequenceName(part.Name)}
			made, err := track(name, events(performance, part, performance.PPQ, end), end)
			if err != nil {
				return nil, fmt.Errorf("lane %q: %w", part.Name, err)
			}
			file.Tracks = append(file.Tracks, made)
		}
	}
	var out bytes.Buffer
	if _, err := file.WriteTo(&out); err != nil {
		return nil, fmt.Errorf("writing the MIDI file: %w", err)
	}
	return out.Bytes(), nil
}

// head is what stands first in the file: name, meter, tempo, and the key
// signature where one exists.
func head(performance *render.Performance) []smf.Message {
	meter, err := beat.ParseMeter(performance.Piece.Meter)
	if err != nil {
		panic(err) // a checked piece has a meter
	}
	clocks := min(24*4/meter.Unit, 255) // a metronome click for each unit
	out := []smf.Message{
		smf.MetaTrackSequenceName(performance.Clip.Name),
		smf.MetaTimeSig(uint8(meter.Count), uint8(meter.Unit), uint8(clocks), 8),
		smf.MetaTempo(performance.Piece.Tempo),
	}
	if sharps, minor, ok := performance.Key.Signature(); ok {
		out = append(out, smf.MetaKey(0, !minor, uint8(max(sharps, -sharps)), sharps < 0))
	}
	return out
}

// event is a channel message at a tick. Within a tick, rank puts note ends
// first, then controllers, the wheel, and note onsets.
type event struct {
	at      int64
	rank    uint8
	message [3]byte // of a channel's pressure, two
}

// bytes are those of the message.
func (e *event) bytes() []byte {
	if e.message[0]&0xf0 == 0xd0 {
		return e.message[:2]
	}
	return e.message[:]
}

// ranks of events within one tick.
const (
	rankOff = iota
	rankControl
	rankBend
	rankOn
)

// events lists a lane's messages in order.
func events(performance *render.Performance, part *render.Part, ppq int, end int64) []event {
	channel := byte(part.Channel - 1)
	ons, offs := make([]event, 0, len(part.Notes)), make([]event, 0, len(part.Notes))
	sorted, last := true, int64(0)
	performance.Written(part, ppq, func(note *render.Note, at, length int64) {
		off := at + length
		ons = append(ons, event{at, rankOn, [3]byte{0x90 | channel, note.Pitch, note.Velocity}})
		offs = append(offs, event{off, rankOff, [3]byte{0x80 | channel, note.Pitch, 0}})
		sorted, last = sorted && last <= off, off
	})
	if !sorted {
		slices.SortStableFunc(offs, func(a, b event) int { return int(a.at - b.at) })
	}
	controls := make([]event, len(part.Controls))
	for i, control := range part.Controls {
		controls[i] = event{min(control.At.Export(ppq), end), rankControl, [3]byte{0xb0 | channel, control.Controller, control.Value}}
	}
	bends := make([]event, 0, len(part.Bends))
	for _, bend := range part.Bends {
		value := int(bend.Value) + 8192
		e := event{min(bend.At.Export(ppq), end), rankBend, [3]byte{0xe0 | channel, byte(value & 127), byte(value >> 7)}}
		if n := len(bends); n > 0 && bends[n-1].at == e.at {
			bends[n-1] = e // only the last of a tick counts
			continue
		}
		bends = append(bends, e)
	}
	pressures := make([]event, len(part.Pressures))
	for i, pressure := range part.Pressures {
		pressures[i] = event{min(pressure.At.Export(ppq), end), rankBend, [3]byte{0xd0 | channel, pressure.Value}}
	}
	return merge(merge(offs, controls), merge(merge(bends, pressures), ons))
}

// merge joins two lists that are in order; within a tick, rank decides.
func merge(a, b []event) []event {
	if len(a) == 0 {
		return b
	}
	out := make([]event, 0, len(a)+len(b))
	for len(a) > 0 && len(b) > 0 {
		if b[0].at < a[0].at || b[0].at == a[0].at && b[0].rank < a[0].rank {
			out, b = append(out, b[0]), b[1:]
		} else {
			out, a = append(out, a[0]), a[1:]
		}
	}
	return append(append(out, a...), b...)
}

// track builds a track of the library's from messages at its start and events. The
// error says that an event comes after the end or before the one before it.
func track(first []smf.Message, events []event, end int64) (smf.Track, error) {
	out := make(smf.Track, 0, len(first)+len(events)+1)
	for _, message := range first {
		out = append(out, smf.Event{Message: message})
	}
	at := int64(0)
	for i := range events {
		e := &events[i]
		if e.at < at || e.at > end {
			return nil, fmt.Errorf("an event at tick %d after one at %d, with the end at %d", e.at, at, end)
		}
		out = append(out, smf.Event{Delta: uint32(e.at - at), Message: e.bytes()})
		at = e.at
	}
	return append(out, smf.Event{Delta: uint32(end - at), Message: smf.EOT}), nil
}
