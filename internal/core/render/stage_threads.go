package render

import (
	"cmp"
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
	length  func(slot int) beat.Time
	repeat  func(slot, repeat int) []uint8 // the tones of a ratchet's later repeats; nil: those of the slot
	legato  bool                           // one tone that is tied into one other overlaps it, as in a line
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
	length = t.length(slot).Percent(glide.Time)
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
	if len(notes) > 0 {
		t.lead(notes, slot, pitches)
	}
	if n := int(t.in.Slots[slot].Ratchet); n > 1 && t.repeat != nil {
		t.last = t.repeat(slot, n-1)
	}
}

func (t *threads) lead(notes []Note, slot int, pitches []uint8) {
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

// change takes what ties hold to another chord: equal pitches stay; each other held note slides to its nearest
// pitch, and ends there where another note has that; what nothing slid to is struck, bent from its nearest.
func (t *threads) change(c *chain, notes []Note, slot int, pitches []uint8) []Note {
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
			note.leave(at, t.legato && len(c.held) == 1 && len(pitches) == 1)
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

// pitchAt is the pitch at which a note is, or to which it is on its way, by a time before groove.
func (t *threads) pitchAt(note *Note, when beat.Time) uint8 {
	target := 0.0
	for _, way := range t.list[note.trace.run-1].ways {
		if way.at <= when {
			target = way.to
		}
	}
	return uint8(int(note.Pitch) + int(target))
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

// pass goes through a rest that carries the tie on, which leads nowhere.
func (t *threads) pass(int) {}

// threaded plays a lane whose tones glide each by itself.
func threaded(in *Input, v *Tones) Part {
	t := &threads{in: in, voice: &v.Voice, length: func(slot int) beat.Time { return v.step(in, slot) }, repeat: v.Repeat, legato: v.Legato}
	return t.part(strike(in, v, t))
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
	notes = groove(notes, in.Frame, in.Pattern.Step)
	part.Notes = cutKeys(notes, in.Frame, t.pitchAt)
	t.wheels(&part)
	t.tell(&part)
	return part
}
