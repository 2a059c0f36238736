package render

import (
	"cmp"
	"math"
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/chord"
	"agrimony/internal/core/piece"
)

// thread is how one note of a lane whose tones glide each by itself goes: in straight time, in semitones
// from its key.
type thread struct {
	from  int // where it begins, from its key; 0: at it
	comes bool
	ways  []segment
}

// threads leads the tones of each chord from those of the chord before. The rules are those of the pairing
// that voice leading counts by (package chord).
type threads struct {
	in      *Input
	voice   *Voice
	lengths func(slot int) beat.Time
	list    []thread
	last    []uint8 // the pitches of the chord that sounded last, rising
	opening *opening
	leftOut int32 // a step, from 1, whose glide has nothing to come from
}

// opening is a first chord that glides: it comes from the last one, where the loop comes round.
type opening struct {
	pitches []uint8
	threads []int32 // of its notes, by their places in list
	step    int32
}

// glide is that of a slot, with how long it takes; at once where it takes no time, or comes from its own
// pitch. nil: none.
func (t *threads) glide(slot int) (glide *piece.Glide, length beat.Time, atOnce bool) {
	if t.voice.Glide == nil {
		return nil, 0, false
	}
	if glide = t.voice.Glide(t.in.Slots[slot].Step); glide == nil {
		return nil, 0, false
	}
	length = t.lengths(slot).Percent(glide.Time)
	if t.in.glidesAtOnce(length, t.in.Piece.Tempo) || glide.From != nil && *glide.From == 0 {
		return glide, 0, true
	}
	return glide, length, false
}

// add gives a note a thread of its own.
func (t *threads) add(note *Note) *thread {
	t.list = append(t.list, thread{})
	note.trace.run = int32(len(t.list))
	return &t.list[len(t.list)-1]
}

func ints(pitches []uint8) []int {
	out := make([]int, len(pitches))
	for i, p := range pitches {
		out[i] = int(p)
	}
	return out
}

// partners gives each pitch of a chord the one of the chord before that it comes from: the nearest of its
// partners, of two the lower.
func partners(before, now []uint8) map[uint8]uint8 {
	out := map[uint8]uint8{}
	for _, pair := range chord.Pairs(ints(before), ints(now)) {
		from, to := uint8(pair[0]), uint8(pair[1])
		if was, ok := out[to]; !ok || apart(from, to) < apart(was, to) {
			out[to] = from
		}
	}
	return out
}

func apart(a, b uint8) int { return max(int(a)-int(b), int(b)-int(a)) }

// nearest is the place of the pitch nearest to another, of two the lower.
func nearest(pitches []uint8, to uint8) (at int) {
	for i, p := range pitches {
		if apart(p, to) < apart(pitches[at], to) {
			at = i
		}
	}
	return at
}

// struck leads the notes of a chord that no tie leads into: each starts bent to where it comes from, at its
// own onset, and comes home.
func (t *threads) struck(notes []Note, slot int, pitches []uint8) {
	glide, length, atOnce := t.glide(slot)
	var from map[uint8]uint8
	if glide != nil && !atOnce && glide.From == nil && len(t.last) > 0 {
		from = partners(t.last, pitches)
	}
	seam := glide != nil && !atOnce && glide.From == nil && len(t.last) == 0
	if seam && t.opening == nil {
		t.opening = &opening{pitches: pitches, step: notes[0].Step}
	}
	for i := range notes {
		note := &notes[i]
		own := t.add(note)
		if glide == nil || atOnce || note.trace.repeat != 1 {
			continue
		}
		switch {
		case glide.From != nil:
			own.begin(note, *glide.From, length, glide.Curve)
		case seam:
			t.opening.threads = append(t.opening.threads, note.trace.run-1)
			own.ways = append(own.ways, segment{note.trace.onset, note.trace.onset + length, 0, 0, glide.Curve, note.Step, false})
		case from != nil:
			own.begin(note, int(from[note.Pitch])-int(note.Pitch), length, glide.Curve)
		}
	}
	t.last = pitches
}

// begin lets a note come from so many semitones away.
func (t *thread) begin(note *Note, from int, length beat.Time, curve int) {
	t.from, t.comes = from, true
	if from != 0 {
		t.ways = append(t.ways, segment{note.trace.onset, note.trace.onset + length, float64(from), 0, curve, note.Step, false})
	}
}

// close leads the first chord from the last one, where the loop comes round; else its glide is left out.
func (t *threads) close(notes []Note) {
	first := t.opening
	if first == nil {
		return
	}
	if t.in.Clip.Seam != "loop" {
		if !slices.Equal(t.last, first.pitches) {
			t.leftOut = first.step
		}
		return
	}
	from := partners(t.last, first.pitches)
	for i := range notes {
		note := &notes[i]
		if k := note.trace.run - 1; slices.Contains(first.threads, k) {
			own := &t.list[k]
			own.from, own.comes = int(from[note.Pitch])-int(note.Pitch), true
			own.ways[0].from = float64(own.from)
			if len(own.ways) > 1 && own.ways[1].goesOn {
				own.ways[1].from = own.ways[0].value(own.ways[1].at)
			}
		}
	}
}

// slide takes what ties hold to another chord: equal pitches stay; each other held note slides to its nearest
// pitch, and ends there where another note has that; what nothing slid to is struck, bent from its nearest.
func (t *threads) slide(c *chain, notes []Note, slot int, pitches []uint8) []Note {
	at := &t.in.Slots[slot]
	glide, length, atOnce := t.glide(slot)
	taken := make([]bool, len(pitches))
	before := make([]uint8, 0, len(c.held)) // the pitches of the chord that is left
	var kept, moving []int32
	for _, k := range c.held {
		tr := &notes[k].trace
		before = append(before, tr.ends)
		i, same := slices.BinarySearch(pitches, tr.ends)
		if !same || taken[i] {
			moving = append(moving, k)
			continue
		}
		taken[i] = true
		kept = append(kept, k)
		tr.more, tr.lastStep = true, at.Step
		if glide != nil && glide.From != nil && !atOnce {
			t.way(&notes[k], at, pitches[i], glide, length)
		}
	}
	slices.Sort(before)
	slices.SortStableFunc(moving, func(a, b int32) int {
		x, y := notes[a].trace.ends, notes[b].trace.ends
		return cmp.Or(cmp.Compare(apart(x, pitches[nearest(pitches, x)]), apart(y, pitches[nearest(pitches, y)])), cmp.Compare(x, y))
	})
	for _, k := range moving {
		note := &notes[k]
		tr := &note.trace
		if glide == nil {
			note.End, tr.end, tr.lastStep, tr.dropped = at.At, at.At, at.Step, true
			continue
		}
		to := nearest(pitches, tr.ends)
		t.way(note, at, pitches[to], glide, length)
		tr.ends = pitches[to]
		if taken[to] {
			note.End, tr.end, tr.lastStep, tr.slid = at.At+length, at.At+length, at.Step, true
			continue
		}
		taken[to] = true
		kept = append(kept, k)
		tr.more, tr.lastStep = true, at.Step
	}
	for i, p := range pitches {
		if taken[i] {
			continue
		}
		kept = append(kept, int32(len(notes)))
		notes = append(notes, joined(at, p))
		note := &notes[len(notes)-1]
		own := t.add(note)
		switch {
		case glide == nil || atOnce:
		case glide.From != nil:
			own.begin(note, *glide.From, length, glide.Curve)
		default:
			own.begin(note, int(before[nearest(before, p)])-int(p), length, glide.Curve)
		}
	}
	c.held, t.last = kept, pitches
	return notes
}

// joined is a note that a tied chord adds: at once, on the grid.
func joined(slot *Slot, p uint8) Note {
	out := Note{At: slot.At, Step: slot.Step + 1, Round: slot.Round + 1, Pitch: p, Velocity: slot.Velocity}
	t := &out.trace
	t.onset, t.ends, t.repeat, t.repeats, t.joined, t.held, t.last, t.lastStep = slot.At, p, 1, 1, true, true, true, slot.Step
	return out
}

// way takes a held note to a pitch, from wherever it is unless the glide says from where.
func (t *threads) way(note *Note, at *Slot, to uint8, glide *piece.Glide, length beat.Time) {
	own := &t.list[note.trace.run-1]
	target := float64(int(to) - int(note.Pitch))
	from := 0.0
	switch n := len(own.ways); {
	case glide.From != nil:
		from = target + float64(*glide.From)
	case n > 0:
		from = own.ways[n-1].value(at.At) // a slide cut short leaves off where it is
	}
	if len(own.ways) == 0 && at.At > note.trace.onset {
		own.ways = append(own.ways, segment{note.trace.onset, note.trace.onset, 0, 0, 0, note.Step, false})
	}
	own.ways = append(own.ways, segment{at.At, at.At + length, from, target, glide.Curve, at.Step + 1, glide.From == nil})
}

// threaded plays a lane whose tones glide each by itself.
func threaded(in *Input, v *Tones) Part {
	t := &threads{in: in, voice: &v.Voice, lengths: func(slot int) beat.Time { return v.Voice.stepOr(v.Lengths, in, slot) }}
	notes := make([]Note, 0, min(estimate(in, v), mostReserved))
	var tied chain
	turns := 0
	for i := range in.Slots {
		slot, step := &in.Slots[i], t.lengths(i)
		switch {
		case !slot.Sounds && tied.open && !slot.Tie:
			tied.release(notes, slot, slot.At+step.Percent(int(slot.Gate)))
		case !slot.Sounds && tied.open:
			tied.pass(notes, slot)
		}
		if !slot.Sounds {
			continue
		}
		had := len(notes)
		if tied.open {
			notes = t.slide(&tied, notes, i, v.Pitches[i])
		} else {
			var spread Spread
			if v.Spread != nil {
				spread = v.Spread(slot)
			}
			if spread.Way == SpreadTurns {
				spread.Way = SpreadWay(turns % 2)
				turns++
			}
			notes = tied.begin(notes, slot, i, v, spread, step)
			if had < len(notes) {
				t.struck(notes[had:], i, v.Pitches[i])
			}
			if n := int(slot.Ratchet); n > 1 && v.Repeat != nil {
				t.last = v.Repeat(i, n-1)
			}
		}
		v.mark(notes[had:], i)
		in.struck(len(notes) - had)
		if tied.open && !slot.Tie {
			tied.release(notes, slot, slot.At+step.Percent(int(slot.Gate)))
		}
	}
	if tied.open {
		for _, k := range tied.held {
			notes[k].End, notes[k].trace.end, notes[k].trace.reaches = in.Length, in.Length, true
		}
	}
	return t.part(notes)
}

// stepOr is the length of a slot's step: of lengths, where there are any.
func (v *Voice) stepOr(lengths []beat.Time, in *Input, slot int) beat.Time {
	if lengths != nil {
		return lengths[slot]
	}
	return in.Pattern.Step
}

// freely leads free notes: those that begin at one time are a chord.
func (t *threads) freely(notes []Note) Part {
	for i := 0; i < len(notes); {
		k := i + 1
		for k < len(notes) && t.in.Slots[k].At == t.in.Slots[i].At {
			k++
		}
		// Each of them may have a glide of its own, or none: they are led together all the same.
		chord := make([]uint8, 0, k-i)
		for n := i; n < k; n++ {
			chord = append(chord, notes[n].Pitch)
		}
		chord = sortedOnce(chord)
		last := t.last
		for n := i; n < k; n++ {
			t.last = last
			t.struck(notes[n:n+1], n, chord)
		}
		i = k
	}
	return t.part(notes)
}

// part is what becomes of the notes once they are led: layers, groove, cut, and how each one's wheel goes.
func (t *threads) part(notes []Note) Part {
	in := t.in
	part := in.Part
	part.Range = t.voice.Mode.Range
	t.close(notes)
	if t.leftOut > 0 {
		part.Mark(GlideLeftOut, int(t.leftOut), 0)
	}
	for i := range notes {
		tr := &notes[i].trace
		if own := &t.list[tr.run-1]; own.comes {
			tr.threaded, tr.from = true, int8(own.from)
		}
	}
	notes = in.reshaped(notes, false)
	groove(notes, in.Frame, in.Pattern.Step)
	part.Notes = cutKeys(notes, in.Frame, true)
	t.wheels(&part)
	t.tell(&part)
	return part
}

// fine is the largest step of a wheel that one note alone has, in semitones: a fiftieth, less what rounding
// to the wheel's own steps may add.
func fine(wheelRange int) float64 { return 1.0/50 - float64(wheelRange)/8192 - 0.0004 }

// wheels works out how the wheel of each note goes while it sounds.
func (t *threads) wheels(part *Part) {
	in, frame, tick := t.in, t.in.Frame, t.in.Tick()
	w := &writer{in: in, part: part, frame: frame, scale: 8192 / float64(part.Range), tick: tick, spacing: 1, limit: fine(part.Range)}
	w.moving = &movement{spacing: float64(beat.Milliseconds(spacingMS, in.Piece.Tempo)) / float64(tick)}
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

// movement is how many wheels of a lane move at a time: so many share a cable.
type movement struct {
	spacing float64 // in ticks, of one alone
	edges   []edge
	counts  []edge // from each time on, so many
}

type edge struct {
	at beat.Time
	by int
}

// note adds when a note's wheel moves, by the writer's ways; one that slides and bends at once is one.
func (m *movement) note(w *writer, note *Note) {
	var spans []edge
	add := func(from, to beat.Time) {
		if from, to = max(from, note.At), min(to, note.End); from < to {
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

// most is how many move at once at most from one time to another.
func (m *movement) most(from, to beat.Time) (most int) {
	i, found := slices.BinarySearchFunc(m.counts, from, func(e edge, t beat.Time) int { return cmp.Compare(e.at, t) })
	if !found {
		i--
	}
	for i = max(i, 0); i < len(m.counts) && m.counts[i].at <= to; i++ {
		most = max(most, m.counts[i].by)
	}
	return most
}

// free is the first tick after another at which a wheel may be moved again.
func (m *movement) free(at int64, tick beat.Time) int64 {
	next := at + 1
	for {
		n := max(m.most(beat.Time(at)*tick, beat.Time(next)*tick), 1)
		least := at + max(int64(math.Ceil(float64(n)*m.spacing)), 1)
		if least <= next {
			return next
		}
		next = least
	}
}
