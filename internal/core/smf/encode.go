// Package smf writes performances as Standard MIDI Files and reads such files.
package smf

import (
	"bytes"
	"fmt"
	"slices"

	"gitlab.com/gomidi/midi/v2/smf"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// Options say how a file is written.
type Options struct {
	PPQ  int // 96, 480 or 960 ticks a quarter note
	Type int // 1: a conductor track and one track a lane; 0: one track
}

// Defaults are the options where none are given.
var Defaults = Options{PPQ: 960, Type: 1}

// Check refuses options that are not allowed.
func (o Options) Check() error {
	if !slices.Contains(beat.Resolutions, o.PPQ) {
		return fmt.Errorf("ppq: %d is not allowed; allowed: 96, 480, 960", o.PPQ)
	}
	if o.Type != 0 && o.Type != 1 {
		return fmt.Errorf("type: %d is not allowed; allowed: 0, 1", o.Type)
	}
	return nil
}

// Encode writes a clip's performance as a Standard MIDI File. Every track ends
// exactly where the clip does. The same input gives the same bytes.
func Encode(p *piece.Piece, clip *piece.Clip, performance *render.Performance, o Options) ([]byte, error) {
	if err := o.Check(); err != nil {
		return nil, err
	}
	file := smf.NewSMF1()
	if o.Type == 0 {
		file = smf.New()
	}
	file.TimeFormat = smf.MetricTicks(o.PPQ)
	end := performance.Length.Export(o.PPQ)
	conductor := head(p, clip, performance)
	if o.Type == 0 {
		var all []event
		for i := range performance.Lanes {
			all = append(all, events(performance, &performance.Lanes[i], o.PPQ, end)...)
		}
		slices.SortStableFunc(all, func(a, b event) int {
			if a.at != b.at {
				return int(a.at - b.at)
			}
			return int(a.rank) - int(b.rank)
		})
		file.Tracks = []smf.Track{track(conductor, all, end)}
	} else {
		file.Tracks = append(file.Tracks, track(conductor, nil, end))
		for i := range performance.Lanes {
			part := &performance.Lanes[i]
			name := []smf.Message{smf.MetaTrackSequenceName(part.Name)}
			file.Tracks = append(file.Tracks, track(name, events(performance, part, o.PPQ, end), end))
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
func head(p *piece.Piece, clip *piece.Clip, performance *render.Performance) []smf.Message {
	meter, err := beat.ParseMeter(p.Meter)
	if err != nil {
		panic(err) // a checked piece has a meter
	}
	clocks := min(24*4/meter.Unit, 255) // a metronome click for each unit
	out := []smf.Message{
		smf.MetaTrackSequenceName(clip.Name),
		smf.MetaTimeSig(uint8(meter.Count), uint8(meter.Unit), uint8(clocks), 8),
		smf.MetaTempo(p.Tempo),
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
	message [3]byte
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
	ons, offs := make([]event, len(part.Notes)), make([]event, len(part.Notes))
	sorted := true
	for i := range part.Notes {
		note := &part.Notes[i]
		at, length := performance.Span(note, ppq)
		off := at + length
		ons[i] = event{at, rankOn, [3]byte{0x90 | channel, note.Pitch, note.Velocity}}
		offs[i] = event{off, rankOff, [3]byte{0x80 | channel, note.Pitch, 0}}
		sorted = sorted && (i == 0 || offs[i-1].at <= off)
	}
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
	return merge(merge(offs, controls), merge(bends, ons))
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

// track builds a track of the library's from messages at its start and events.
func track(first []smf.Message, events []event, end int64) smf.Track {
	out := make(smf.Track, 0, len(first)+len(events)+1)
	for _, message := range first {
		out = append(out, smf.Event{Message: message})
	}
	at := int64(0)
	for i := range events {
		e := &events[i]
		out = append(out, smf.Event{Delta: uint32(e.at - at), Message: e.message[:]})
		at = e.at
	}
	return append(out, smf.Event{Delta: uint32(end - at), Message: smf.EOT})
}
