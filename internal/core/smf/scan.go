package smf

import (
	"fmt"
	"slices"

	"agrimony/internal/core/budget"
	"agrimony/internal/core/midi"
)

// scanner steps through bytes and keeps the first error.
type scanner struct {
	data   []byte
	at     int
	err    error
	onsets bool    // of what is sent to channels, only onsets are wanted
	counts *counts // not nil: events are only counted
	work   *budget.Budget
	open   *sounding // of the track that is read
	events int64     // of all tracks so far
}

// counts are how many events of each sort a track has.
type counts struct{ notes, bends, controls, pressures, programs int }

// add counts an event.
func (n *counts) add(status, b byte, onsets bool) {
	kind := status & midi.KindMask
	switch {
	case kind == midi.NoteOn && b > 0:
		n.notes++
	case onsets:
	case kind == midi.Control:
		n.controls++
	case kind == midi.KeyPressure || kind == midi.ChannelPressure:
		n.pressures++
	case kind == midi.Program:
		n.programs++
	case kind == midi.Bend:
		n.bends++
	}
}

// eventBytes is how many bytes of memory an event takes at the most while its file is read: here, and in
// musical time.
const eventBytes = 48

// eventWork is how much work it is to read an event.
const eventWork = 2

// all is how many events there are.
func (n *counts) all() int64 { return int64(n.notes + n.bends + n.controls + n.pressures + n.programs) }

// room makes room for as many events as a track has.
func (n *counts) room(work *budget.Budget) (out Track) {
	work.Hold(n.all() * eventBytes)
	work.Spend(n.all() * eventWork)
	out.Notes = make([]Note, 0, n.notes)
	if n.bends > 0 {
		out.Bends = make([]Bend, 0, n.bends)
	}
	if n.controls > 0 {
		out.Controls = make([]Control, 0, n.controls)
	}
	if n.pressures > 0 {
		out.Pressures = make([]Pressure, 0, n.pressures)
	}
	if n.programs > 0 {
		out.Programs = make([]Program, 0, n.programs)
	}
	return out
}

func (s *scanner) fail(problem string, at int) error {
	if s.err == nil {
		s.err = fmt.Errorf("byte %d: %s", at, problem)
	}
	return s.err
}

func (s *scanner) take(n int, what string) []byte {
	if s.err != nil || n > len(s.data)-s.at {
		_ = s.fail("the file ends within "+what, len(s.data))
		return make([]byte, min(n, 8))
	}
	s.at += n
	return s.data[s.at-n : s.at]
}

func (s *scanner) number(bytes int, what string) int {
	out := 0
	for _, b := range s.take(bytes, what) {
		out = out<<8 | int(b)
	}
	return out
}

// one reads a byte.
func (s *scanner) one(what string) int {
	if s.err == nil && s.at < len(s.data) {
		s.at++
		return int(s.data[s.at-1])
	}
	return s.number(1, what)
}

// length reads a variable-length quantity of at most four bytes.
func (s *scanner) length(what string) int {
	start, out := s.at, 0
	for range 4 {
		b := s.one(what)
		out = out<<7 | b&0x7f
		if b < 0x80 {
			return out
		}
	}
	_ = s.fail(what+" is longer than four bytes", start)
	return 0
}

// file reads a file's chunks. No length in it is trusted.
func (s *scanner) file() (*File, error) {
	if string(s.take(4, "the header")) != "MThd" {
		return nil, s.fail("this is not a Standard MIDI File: it does not begin with MThd", 0)
	}
	if size := s.number(4, "the header's length"); s.err == nil && size != 6 {
		return nil, s.fail(fmt.Sprintf("the header has %d bytes; allowed: 6", size), 4)
	}
	format, tracks, division := s.number(2, "the type"), s.number(2, "the number of tracks"), s.number(2, "the resolution")
	switch {
	case s.err != nil:
		return nil, s.err
	case format > 1:
		return nil, s.fail(fmt.Sprintf("type %d; allowed: 0, 1", format), 8)
	case tracks == 0 || format == 0 && tracks != 1:
		return nil, s.fail(fmt.Sprintf("%d tracks in a file of type %d", tracks, format), 10)
	case division == 0:
		return nil, s.fail("a resolution of no ticks", 12)
	}
	out := &File{Type: format, PPQ: division}
	if division >= 0x8000 {
		out.PPQ, out.Frames, out.FrameTicks = 0, 0x100-division>>8, division&0xff
		if !slices.Contains(frameRates, out.Frames) || out.FrameTicks == 0 {
			return nil, s.fail(fmt.Sprintf("%d frames a second of %d ticks; allowed: 24, 25, 29 or 30 of 1 and more", out.Frames, out.FrameTicks), 12)
		}
	}
	for len(out.Tracks) < tracks {
		s.work.Spend(20)
		start := s.at
		kind := string(s.take(4, "a chunk"))
		size := s.number(4, "a chunk's length")
		if s.err != nil {
			return nil, s.err
		}
		if size > len(s.data)-s.at {
			return nil, s.fail(fmt.Sprintf("a chunk claims %d bytes, but only %d are left", size, len(s.data)-s.at), start)
		}
		body := s.at
		if kind == "MTrk" {
			out.Tracks = append(out.Tracks, s.track(body+size))
		}
		if s.err != nil {
			return nil, s.err
		}
		s.at = body + size
	}
	return out, nil
}

// add adds an event to a track, unless it is one that is not wanted.
func (s *scanner) add(out *Track, at int64, status, a, b byte) {
	switch {
	case s.counts != nil:
		s.counts.add(status, b, s.onsets)
	case !s.onsets:
		out.take(at, status, a, b, s.open)
	case status&midi.KindMask == midi.NoteOn && b > 0:
		out.Notes = append(out.Notes, Note{at, -1, int(status&midi.ChannelMask) + 1, int(a), int(b)})
	}
}

// track reads the events of a track chunk that ends at byte end. They are counted first, so that each has
// its place in memory once.
func (s *scanner) track(end int) Track {
	counting := *s
	counting.counts = &counts{}
	counting.read(end, Track{})
	s.events += counting.counts.all()
	if most := s.work.Limits().Events; most > 0 && s.events > most {
		budget.End(&EventsError{s.events, most})
	}
	return s.read(end, counting.counts.room(s.work))
}

// EventsError says that a file has more events than may be read.
type EventsError struct{ Events, Most int64 }

func (e *EventsError) Error() string {
	return fmt.Sprintf("the MIDI file has %d notes, controllers and wheel positions, or more; allowed: at most %d", e.Events, e.Most)
}

// read reads, or counts, a track's events.
func (s *scanner) read(end int, out Track) Track {
	status, at := byte(0), int64(0)
	for s.err == nil && s.at < end {
		at += int64(s.length("a delta time"))
		start := s.at
		b := byte(s.one("an event"))
		switch {
		case s.err != nil:
			return out
		case b == 0xff:
			kind := s.one("a meta event")
			data := s.take(s.length("a meta event's length"), "a meta event")
			if kind == metaOwn && s.err == nil && s.counts == nil {
				out.Own = append(out.Own, data)
			}
			if kind == metaEnd {
				if s.at != end {
					_ = s.fail("something follows the end of the track", s.at)
				}
				out.finish(at, s.open)
				return out
			}
			if s.err == nil && s.counts == nil {
				out.takeMeta(at, kind, data)
			}
		case b == 0xf0 || b == 0xf7:
			s.take(s.length("a system exclusive's length"), "a system exclusive message")
			status = 0
		case b > 0xf0:
			_ = s.fail(fmt.Sprintf("status %#x does not belong in a file", b), start)
		case b >= 0x80:
			status = b
			first := s.data1(s.one("an event"), start)
			s.add(&out, at, status, first, s.second(status, start))
		case status == 0:
			_ = s.fail("a data byte without a status before it", start)
		default:
			s.add(&out, at, status, b, s.second(status, start))
		}
		if s.err == nil && s.at > end {
			_ = s.fail("an event runs over the end of its track", start)
		}
	}
	_ = s.fail("a track without its end", end)
	return out
}

// second takes the second data byte of the messages that have one.
func (s *scanner) second(status byte, start int) byte {
	if kind := status & midi.KindMask; kind != midi.Program && kind != midi.ChannelPressure {
		return s.data1(s.one("an event"), start)
	}
	return 0
}

func (s *scanner) data1(b, start int) byte {
	if b >= 0x80 {
		_ = s.fail(fmt.Sprintf("data byte %#x is above 0x7f", b), start)
	}
	return byte(b)
}
