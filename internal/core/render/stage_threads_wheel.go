package render

import (
	"cmp"
	"math"
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/piece"
)

// fine is the largest step of a wheel that one note alone has, in semitones: a fiftieth, less what rounding
// to the wheel's own steps may add.
func fine(wheelRange int) float64 { return 1.0/50 - float64(wheelRange)/8192 - 0.0004 }

// wheels works out how the wheel of each note goes while it sounds.
func (t *threads) wheels(part *Part) {
	in, frame, tick := t.in, t.in.Frame, t.in.Tick()
	w := &writer{in: in, part: part, frame: frame, scale: 8192 / float64(part.Range), tick: tick, spacing: 1, limit: fine(part.Range)}
	w.moving = &movement{spacing: float64(beat.Milliseconds(spacingMS, in.Piece.Tempo)) / float64(tick), room: part.Zone.room}
	points := func(note *Note) []piece.Point {
		if t.voice.Bend == nil {
			return nil
		}
		return t.voice.Bend(note.Step - 1)
	}
	for i := range part.Notes {
		note := &part.Notes[i]
		w.late = frame.lateness(note)
		w.slides.list = t.list[note.trace.run-1].ways
		w.envelopeOf(note, points(note))
		w.moving.note(w, note)
	}
	w.moving.settle()
	room := bendRooms.Get().(*[]Bend)
	defer bendRooms.Put(room)
	part.wheels = make([][]Bend, len(part.Notes))
	for i := range part.Notes {
		note := &part.Notes[i]
		w.slides = way{list: t.list[note.trace.run-1].ways}
		w.envelope.last = 0
		w.envelopeOf(note, points(note))
		w.at = note.At.Export(frame.PPQ)
		w.bends = append((*room)[:0], Bend{At: note.At, Value: 0})
		w.note(note, note.End)
		*room = w.bends
		part.wheels[i] = slices.Clone(w.bends)
		in.Made(1)
		note.trace.wheel = int32(i + 1)
	}
}

// WheelOf are the positions of a note's own wheel, from its onset on; nil of one that has none.
func (part *Part) WheelOf(note *Note) []Bend {
	if note.trace.wheel == 0 {
		return nil
	}
	return part.wheels[note.trace.wheel-1]
}

// Thread is the MIDI pitch that a note comes from; false: it begins at its own.
func (n *Note) Thread() (from int, ok bool) {
	return int(n.Pitch) + int(n.trace.from), n.trace.threaded
}

// movement is how many wheels of a lane move at a time, in ticks: so many share a cable.
type movement struct {
	spacing float64 // in ticks, of one alone
	room    int     // more than these have no channel; 0: nobody knows
	edges   []edge
	counts  []edge // from each time on, so many
}

type edge struct {
	at int64
	by int
}

// note adds when a note's wheel moves, by the writer's ways; one that slides and bends at once is one.
func (m *movement) note(w *writer, note *Note) {
	var spans []edge
	add := func(begins, ends beat.Time) {
		from, to := max(begins, note.At).Export(w.frame.PPQ), min(ends, note.End).Export(w.frame.PPQ)
		if from < to {
			spans = append(spans, edge{from, 1}, edge{to, -1})
		}
	}
	for i := range w.slides.list {
		s := &w.slides.list[i]
		end := s.end
		if i+1 < len(w.slides.list) {
			end = min(end, w.slides.list[i+1].at)
		}
		if s.from != s.to {
			add(w.warp(s.at), w.warp(end))
		}
	}
	for i := range w.envelope.list {
		if s := &w.envelope.list[i]; s.from != s.to {
			add(s.at, s.end)
		}
	}
	slices.SortStableFunc(spans, func(a, b edge) int { return cmp.Or(cmp.Compare(a.at, b.at), cmp.Compare(b.by, a.by)) })
	depth := 0
	for _, e := range spans {
		if e.by > 0 && depth == 0 || e.by < 0 && depth == 1 {
			m.edges = append(m.edges, e)
		}
		depth += e.by
	}
}

func (m *movement) settle() {
	slices.SortStableFunc(m.edges, func(a, b edge) int { return cmp.Compare(a.at, b.at) })
	count := 0
	for _, e := range m.edges {
		count += e.by
		if n := len(m.counts); n > 0 && m.counts[n-1].at == e.at {
			m.counts[n-1].by = count
			continue
		}
		m.counts = append(m.counts, edge{e.at, count})
	}
}

// most is how many move at once at most from one tick to another.
func (m *movement) most(from, to int64) (most int) {
	i, found := slices.BinarySearchFunc(m.counts, from, func(e edge, t int64) int { return cmp.Compare(e.at, t) })
	if !found {
		i--
	}
	for i = max(i, 0); i < len(m.counts) && m.counts[i].at <= to; i++ {
		most = max(most, m.counts[i].by)
	}
	if m.room > 0 {
		most = min(most, m.room)
	}
	return most
}

// free is the first tick after another at which a wheel may be moved again.
func (m *movement) free(at int64) int64 {
	next := at + 1
	for {
		n := max(m.most(at, next), 1)
		least := at + max(int64(math.Ceil(float64(n)*m.spacing)), 1)
		if least <= next {
			return next
		}
		next = least
	}
}
