// Package smf writes performances as Standard MIDI Files and reads such files.
package smf

import (
	"cmp"
	"errors"
	"fmt"
	"slices"
	"sync"

	"gitlab.com/gomidi/midi/v2/smf"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/midi"
	"agrimony/internal/core/order"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// DefaultType is the file type where none is given.
const DefaultType = 1

// Options say what a file is to hold beside the performance's events.
type Options struct {
	Type       int  // 0 or 1
	ChordNames bool // the symbols of the chords, as markers where they begin
	// Own is what a sequencer-specific event at the file's start holds; empty: there is none.
	Own []byte
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
	out := &song{performance: performance, options: options}
	out.head = head(performance.Piece, performance.Clip.Name)
	if key := signature(performance.Key); key != nil {
		out.head = append(out.head, key)
	}
	if options.ChordNames {
		out.markers = chordNames(performance, performance.Length.Export(performance.PPQ))
	}
	out.setup = performance.Setup
	for i := range performance.Lanes {
		if part := &performance.Lanes[i]; !part.Empty {
			out.parts = append(out.parts, part)
		}
	}
	return out.encode()
}

// EncodeOrder is the same of a running order: its conductor track, named as the piece, says which clips
// sound, and in which keys; then comes a track for each lane of each clip.
func EncodeOrder(o *order.Performance, options Options) ([]byte, error) {
	out := &song{performance: &render.Performance{Piece: o.Piece, Frame: o.Frame()}, options: options}
	out.head, out.markers = head(o.Piece, o.Piece.Title), orderMarks(o, options.ChordNames)
	out.setup = o.Setup
	for i := range o.Tracks {
		out.parts = append(out.parts, &o.Tracks[i].Part)
	}
	return out.encode()
}

// song is what a file is written from.
type song struct {
	performance *render.Performance // whose frame the parts have
	options     Options
	setup       []render.Control // announces zones, before all else
	head        [][]byte         // what stands first
	markers     []marker
	parts       []*render.Part
}

func (s *song) encode() ([]byte, error) {
	performance, lanes, fileType := s.performance, s.parts, s.options.Type
	if err := CheckType(fileType); err != nil {
		return nil, err
	}
	end := performance.Length.Export(performance.PPQ)
	tracks := make([][]byte, 1, 1+len(lanes))
	if fileType == 1 {
		tracks = tracks[:1+len(lanes)]
	}
	errs := make([]error, len(tracks))
	render.AtOnce(len(tracks), func(i int) {
		desk := desks.Get().(*desk)
		defer desks.Put(desk)
		out := track{bytes: desk.bytes[:0], end: end} // apart from the others': processors do not share what they write
		out.open()
		switch {
		case i > 0:
			part := lanes[i-1]
			out.meta(0, smf.MetaTrackSequenceName(part.Name))
			if err := out.events(nil, desk.merged(desk.lists(performance, part, end))); err != nil {
				errs[i] = fmt.Errorf("lane %q: %w", part.Name, err)
			}
		case fileType == 1:
			out.begin(s)
			errs[i] = out.events(s.markers, nil)
		default:
			var all []event
			for _, part := range lanes {
				for _, list := range desk.lists(performance, part, end) {
					all = append(all, list...)
				}
			}
			slices.SortStableFunc(all, func(a, b event) int { return cmp.Compare(a.place(), b.place()) })
			out.begin(s)
			errs[i] = out.events(s.markers, all)
		}
		tracks[i], desk.bytes = slices.Clone(out.bytes), out.bytes
	})
	if err := errors.Join(errs...); err != nil {
		return nil, err
	}
	return join(fileType, performance.PPQ, tracks), nil
}

// begin appends what stands first in the file.
func (t *track) begin(s *song) {
	for _, c := range s.setup {
		t.delta(0)
		if status := midi.Control | (c.Channel - 1); status != t.status {
			t.bytes, t.status = append(t.bytes, status), status
		}
		t.bytes = append(t.bytes, c.Controller, c.Value)
	}
	for _, message := range s.head {
		t.meta(0, message)
	}
	if len(s.options.Own) > 0 {
		t.meta(0, smf.MetaSequencerData(s.options.Own))
	}
}

// head is what stands first in the file: name, meter, tempo.
func head(p *piece.Piece, name string) [][]byte {
	meter, err := beat.ParseMeter(p.Meter)
	if err != nil {
		panic(err) // a checked piece has a meter
	}
	clocks := min(24*4/meter.Unit, 255) // a metronome click for each unit
	return [][]byte{
		smf.MetaTrackSequenceName(name),
		smf.MetaTimeSig(uint8(meter.Count), uint8(meter.Unit), uint8(clocks), 8),
		smf.MetaTempo(p.Tempo),
	}
}

// desk is memory for what lives only while a track is written. It is used again, because
// clearing it anew for every track costs as much as writing.
type desk struct {
	offs, controls, bends, pressures, ons []event
	one, other                            []event // lists while they are merged
	bytes                                 []byte
}

var desks = sync.Pool{New: func() any { return new(desk) }}

// lists are a lane's messages, each list in order: of lists that have one at the same place
// the first goes first. They live until the desk is used again.
func (d *desk) lists(performance *render.Performance, part *render.Part, end int64) [][]event {
	ppq := performance.PPQ
	on := func(own uint8) byte { return byte(part.On(own) - 1) }
	d.offs, d.controls, d.bends, d.pressures, d.ons = d.offs[:0], d.controls[:0], d.bends[:0], d.pressures[:0], d.ons[:0]
	sorted, last := true, int64(0)
	performance.Written(part, ppq, func(note *render.Note, at, length int64) {
		off := at + length
		d.ons = append(d.ons, eventOf(at, rankOn, midi.NoteOn|on(note.Channel), note.Pitch, note.Velocity))
		d.offs = append(d.offs, eventOf(off, rankOff, midi.NoteOff|on(note.Channel), note.Pitch, 0))
		sorted, last = sorted && last <= off, off
	})
	if !sorted {
		slices.SortStableFunc(d.offs, func(a, b event) int { return cmp.Compare(a.at(), b.at()) })
	}
	for _, control := range part.Controls {
		d.controls = append(d.controls, eventOf(min(control.At.Export(ppq), end), rankControl, midi.Control|on(control.Channel), control.Controller, control.Value))
	}
	for k, bend := range part.Bends {
		value := int(bend.Value) + 8192
		e := eventOf(min(bend.At.Export(ppq), end), rankBend, midi.Bend|on(bend.Channel), byte(value&127), byte(value>>7))
		if n := len(d.bends); n > 0 && d.bends[n-1].at() == e.at() && part.Bends[k-1].Channel == bend.Channel {
			d.bends[n-1] = e // only the last of a tick counts
			continue
		}
		d.bends = append(d.bends, e)
	}
	for _, pressure := range part.Pressures {
		d.pressures = append(d.pressures, eventOf(min(pressure.At.Export(ppq), end), rankBend, midi.ChannelPressure|on(0), pressure.Value, 0))
	}
	return [][]event{d.offs, d.controls, d.bends, d.pressures, d.ons}
}

// merged is lists of events in one, by their places; at the same place the earlier list goes
// first.
func (d *desk) merged(lists [][]event) []event {
	var out []event
	for _, list := range lists {
		switch {
		case len(list) == 0:
		case len(out) == 0:
			out = list
		default:
			d.one = merge(d.one[:0], out, list)
			out = d.one
			d.one, d.other = d.other, d.one
		}
	}
	return out
}

// merge appends two lists of events, by their places.
func merge(out, a, b []event) []event {
	for len(a) > 0 && len(b) > 0 {
		if b[0].place() < a[0].place() {
			out, b = append(out, b[0]), b[1:]
		} else {
			out, a = append(out, a[0]), a[1:]
		}
	}
	return append(append(out, a...), b...)
}
