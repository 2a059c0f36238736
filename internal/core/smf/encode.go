// Package smf writes performances as Standard MIDI Files and reads such files.
package smf

import (
	"cmp"
	"fmt"
	"iter"
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
	end := performance.Length.Export(performance.PPQ)
	var names []marker
	if options.ChordNames {
		names = chordNames(performance, end)
	}
	var lanes []*render.Part
	count := 0
	for i := range performance.Lanes {
		if part := &performance.Lanes[i]; !part.Empty {
			lanes = append(lanes, part)
			count += 2*len(part.Notes) + len(part.Bends) + len(part.Controls) + len(part.Pressures)
		}
	}
	tracks := 1
	if fileType == 1 {
		tracks += len(lanes)
	}
	out := newFile(fileType, tracks, performance.PPQ, count)
	out.open(end)
	for _, message := range head(performance) {
		out.meta(0, message)
	}
	if fileType == 0 {
		var all []event
		for _, part := range lanes {
			for list := range events(performance, part, end) {
				all = append(all, list...)
			}
		}
		slices.SortStableFunc(all, func(a, b event) int { return cmp.Compare(a.place(), b.place()) })
		if err := out.events(names, all); err != nil {
			return nil, err
		}
		return out.bytes, nil
	}
	if err := out.events(names); err != nil {
		return nil, err
	}
	for _, part := range lanes {
		out.open(end)
		out.meta(0, smf.MetaTrackSequenceName(part.Name))
		if err := out.events(nil, slices.Collect(events(performance, part, end))...); err != nil {
			return nil, fmt.Errorf("lane %q: %w", part.Name, err)
		}
	}
	return out.bytes, nil
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

// events lists a lane's messages, each list in order: of lists that have one at the same place
// the first goes first.
func events(performance *render.Performance, part *render.Part, end int64) iter.Seq[[]event] {
	return func(yield func([]event) bool) {
		channel, ppq := byte(part.Channel-1), performance.PPQ
		ons, offs := make([]event, 0, len(part.Notes)), make([]event, 0, len(part.Notes))
		sorted, last := true, int64(0)
		performance.Written(part, ppq, func(note *render.Note, at, length int64) {
			off := at + length
			ons = append(ons, eventOf(at, rankOn, 0x90|channel, note.Pitch, note.Velocity))
			offs = append(offs, eventOf(off, rankOff, 0x80|channel, note.Pitch, 0))
			sorted, last = sorted && last <= off, off
		})
		if !sorted {
			slices.SortStableFunc(offs, func(a, b event) int { return cmp.Compare(a.at(), b.at()) })
		}
		controls := make([]event, len(part.Controls))
		for i, control := range part.Controls {
			controls[i] = eventOf(min(control.At.Export(ppq), end), rankControl, 0xb0|channel, control.Controller, control.Value)
		}
		bends := make([]event, 0, len(part.Bends))
		for _, bend := range part.Bends {
			value := int(bend.Value) + 8192
			e := eventOf(min(bend.At.Export(ppq), end), rankBend, 0xe0|channel, byte(value&127), byte(value>>7))
			if n := len(bends); n > 0 && bends[n-1].at() == e.at() {
				bends[n-1] = e // only the last of a tick counts
				continue
			}
			bends = append(bends, e)
		}
		pressures := make([]event, len(part.Pressures))
		for i, pressure := range part.Pressures {
			pressures[i] = eventOf(min(pressure.At.Export(ppq), end), rankBend, 0xd0|channel, pressure.Value, 0)
		}
		for _, list := range [][]event{offs, controls, bends, pressures, ons} {
			if len(list) > 0 && !yield(list) {
				return
			}
		}
	}
}
