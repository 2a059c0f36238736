package order

import (
	"agrimony/internal/core/beat"
	"agrimony/internal/core/midi"
	"agrimony/internal/core/render"
)

// sixteenth is how much of a note has to be left for it to be struck where its middle is come to.
const sixteenth = beat.Quarter / 4

// sight is what of a pass is in sight, in the pass's own time.
type sight struct {
	from, to beat.Time
	begins   bool // it is taken up in the middle
	ends     bool // it is left in the middle
	ring     bool // its last notes keep their length
}

func sightOf(p *pass, s span, ring bool) sight {
	from, to := max(s.from, p.from), min(s.to, p.to)
	out := sight{from: from - p.at, to: to - p.at, ring: ring}
	out.begins = out.from > 0
	out.ends = ring || out.to < p.played.Length
	return out
}

// cut puts what is in sight of a lane's part in a pass into its track, and tells how many events that is.
func (m *maker) cut(c *chain, k int, p *pass, lane int, t *Track, s sight) (made int64) {
	part := &p.played.Lanes[lane]
	before := t.count()
	m.Budget.Spend(1 + (int64(len(part.Notes))+int64(len(part.Bends)+len(part.Controls)+len(part.Pressures)))/4)
	limit := s.to // until when what it leaves sounding lasts
	for i := range part.Notes {
		note := part.Notes[i]
		if !m.keeps(p, part, &note, &s) {
			continue
		}
		if s.ends && note.End > s.to {
			if s.ring {
				note.End = min(note.End, s.to+m.piece.Bar())
				limit = max(limit, note.End)
			} else {
				note.End = s.to
			}
		}
		note.At = min(note.At, lastTick(p.at+s.to, m.PPQ)-p.at) // as the clip alone keeps what rounds to its end
		if note.End = max(note.End, note.At+shortest); !s.ring {
			note.End = min(note.End, s.to)
		}
		entry := int32(m.entryAt(c, p.at+note.At) + 1)
		note.At, note.End = note.At+p.at, note.End+p.at
		t.Part.Notes = append(t.Part.Notes, note)
		t.sources = append(t.sources, source{chain: c, place: int32(k), part: int32(lane), note: int32(i), entry: entry, full: note.Velocity})
	}
	entry := func(at beat.Time) int32 { return m.entryOf(c, p, at, &s) }
	wheel(part.Bends, &s, limit, func(at beat.Time, value int16, _ int) {
		t.Part.Bends, t.bends = append(t.Part.Bends, render.Bend{At: p.at + at, Value: value}), append(t.bends, entry(at))
	})
	controllers(part.Controls, &s, limit, func(at beat.Time, own render.Control, _ int) {
		own.At = p.at + at
		t.Part.Controls, t.controls = append(t.Part.Controls, own), append(t.controls, entry(at))
	})
	pressure(part.Pressures, &s, limit, func(at beat.Time, value uint8, _ int) {
		t.Part.Pressures, t.pressures = append(t.Part.Pressures, render.Pressure{At: p.at + at, Value: value}), append(t.pressures, entry(at))
	})
	return int64(t.count() - before)
}

// lastTick is the last time that rounds to a tick before an end.
func lastTick(end beat.Time, ppq int) beat.Time {
	tick := beat.Of(1, ppq)
	return beat.Of(end.Export(ppq), ppq) - tick/2 - 1
}

// shortest is one tick at the finest export resolution.
const shortest = beat.Quarter / 960

// keeps tells whether a note is in sight, and brings its onset into it.
func (m *maker) keeps(p *pass, part *render.Part, note *render.Note, s *sight) bool {
	if !s.begins && !s.ends {
		return true
	}
	return s.keeps(note, p.played.Onset(part, note))
}

// keeps is the same of a note that stands on the grid at a time. What sounds across the start is struck
// there, if enough of it is left; what stands on the grid from there on is never lost for being early.
func (s *sight) keeps(note *render.Note, grid beat.Time) bool {
	if s.ends && (grid >= s.to || note.At >= s.to) {
		return false
	}
	if !s.begins || note.At >= s.from {
		return true
	}
	if grid < s.from && note.End-s.from < sixteenth {
		return false
	}
	note.At = s.from
	return true
}

// entryOf is the entry, from 1, of a time of a pass: at the end of what is in sight, the one that ends.
func (m *maker) entryOf(c *chain, p *pass, at beat.Time, s *sight) int32 {
	return int32(m.entryAt(c, p.at+min(at, s.to-1)) + 1)
}

// wheel gives what of a wheel's positions is in sight: where it is taken up it stands as it would have, and
// where it is left it is centred. put is told the place of each in the list, below 0 of what is added.
func wheel(list []render.Bend, s *sight, limit beat.Time, put func(at beat.Time, value int16, from int)) {
	value, begun := int16(0), !s.begins
	begin := func() {
		if !begun && len(list) > 0 {
			put(s.from, value, -1)
		}
		begun = true
	}
	for i, b := range list {
		if s.begins && b.At <= s.from {
			value = b.Value
			continue
		}
		begin()
		if s.ends && b.At >= limit {
			break
		}
		put(b.At, b.Value, i)
		value = b.Value
	}
	begin()
	if s.ends && value != 0 {
		put(limit, 0, -1)
	}
}

// ranging tells whether a controller is one of those that say the wheel's range.
func ranging(controller uint8) bool {
	switch controller {
	case midi.RPNCoarse, midi.RPNFine, midi.DataEntry, midi.DataEntryFine:
		return true
	}
	return false
}

// rests are the controllers that are put back where a lane ends: sustain and portamento.
var rests = []uint8{64, 65}

// controllers is the same of controllers. What says the wheel's range is said again where it is taken up.
func controllers(list []render.Control, s *sight, limit beat.Time, put func(at beat.Time, own render.Control, from int)) {
	var state [128]int16
	for i := range state {
		state[i] = -1
	}
	var met []uint8
	var ranged []render.Control // what was said of the range last
	begun := !s.begins
	begin := func() {
		if begun {
			return
		}
		begun = true
		for _, own := range ranged {
			put(s.from, own, -1)
		}
		for _, controller := range met {
			put(s.from, render.Control{Controller: controller, Value: uint8(state[controller])}, -1)
		}
	}
	for i, own := range list {
		if s.begins && own.At <= s.from {
			switch {
			case !ranging(own.Controller):
				if state[own.Controller] < 0 {
					met = append(met, own.Controller)
				}
				state[own.Controller] = int16(own.Value)
			case len(ranged) == 6 || len(ranged) > 0 && ranged[0].At != own.At:
				ranged = append(ranged[:0], own)
			default:
				ranged = append(ranged, own)
			}
			continue
		}
		begin()
		if s.ends && own.At >= limit {
			break
		}
		put(own.At, own, i)
		state[own.Controller] = int16(own.Value)
	}
	begin()
	if s.ends {
		for _, controller := range rests {
			if state[controller] > 0 {
				put(limit, render.Control{Controller: controller}, -1)
			}
		}
	}
}

// pressure is the same of a channel's pressure, which is let go where it is left.
func pressure(list []render.Pressure, s *sight, limit beat.Time, put func(at beat.Time, value uint8, from int)) {
	value, known, begun := uint8(0), false, !s.begins
	begin := func() {
		if !begun && known {
			put(s.from, value, -1)
		}
		begun = true
	}
	for i, own := range list {
		if s.begins && own.At <= s.from {
			value, known = own.Value, true
			continue
		}
		begin()
		if s.ends && own.At >= limit {
			break
		}
		put(own.At, own.Value, i)
		value = own.Value
	}
	begin()
	if s.ends && value != 0 {
		put(limit, 0, -1)
	}
}
