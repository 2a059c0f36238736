package render

import "agrimony/internal/core/beat"

// sliding follows the single tones of a lane that may sound several: their runs and the
// ways of the wheel within them, as join does for lanes of one voice. Its methods do
// nothing where it is nil.
type sliding struct {
	voice  *Voice
	runs   []run
	many   []bool // of each run: several tones, which neither slide nor bend
	slides []slide
}

func newSliding(v *Tones, slots int) *sliding {
	v.Voice.Pitch = make([]uint8, slots)
	return &sliding{voice: &v.Voice}
}

// singly leads the tones of chords by what they have in common; single ones may slide.
type singly struct {
	*sliding // nil: none do
	in       *Input
	tones    *Tones
}

func (s *singly) change(c *chain, notes []Note, slot int, pitches []uint8) []Note {
	at := &s.in.Slots[slot]
	if s.goesOn(s.in, slot, at, c.held, pitches, notes, s.tones.step(s.in, slot)) {
		c.pass(notes, at)
		return notes
	}
	had := len(notes)
	notes = c.change(notes, at, pitches, s.tones.Legato)
	s.struck(notes[had:], slot, pitches)
	return notes
}

// struck begins a run with the notes of a slot.
func (s *sliding) struck(notes []Note, slot int, pitches []uint8) {
	if s == nil || len(notes) == 0 {
		return
	}
	last := notes[len(notes)-1].Pitch
	s.voice.Pitch[slot] = last
	many := len(pitches) > 1
	s.runs = append(s.runs, run{first: int32(slot), last: int32(slot), starts: notes[0].Pitch, ends: last, slides: int32(len(s.slides))})
	s.many = append(s.many, many)
	for i := range notes {
		notes[i].trace.run, notes[i].trace.many = int32(len(s.runs)-1), many
	}
}

// pass goes through a rest that carries the tie on.
func (s *sliding) pass(slot int) {
	if s != nil && len(s.runs) > 0 {
		s.runs[len(s.runs)-1].last = int32(slot)
	}
}

// goesOn tells whether a single tone that is held goes on into the slot's without a new
// onset: it is the same, the key that is held, or slid into with the wheel.
func (s *sliding) goesOn(in *Input, slot int, at *Slot, held []int32, pitches []uint8, notes []Note, step beat.Time) bool {
	if s == nil || len(held) != 1 || len(pitches) != 1 || len(s.runs) == 0 || s.many[len(s.many)-1] {
		return false
	}
	r, p := &s.runs[len(s.runs)-1], pitches[0]
	if p != r.ends && p != r.starts && !s.voice.bends(at) {
		return false
	}
	s.voice.Pitch[slot] = p
	if way, ok := slideTied(in, s.voice, r, int32(slot), at, step); ok {
		s.slides = append(s.slides, way)
	}
	r.ends, r.last = p, int32(slot)
	notes[held[0]].trace.ends = p
	return true
}

// starts works out the slides with which fresh notes begin; where they are written as
// overlapping notes, the single tone before runs on into the new one.
func (s *sliding) starts(in *Input, v *Tones, notes []Note, part *Part) []start {
	memory := room{}
	was := make([]run, len(s.runs))
	copy(was, s.runs)
	begin, leftOut := starts(s.runs, in, &v.Voice, v.Lengths, &memory)
	if leftOut > 0 {
		part.Mark(GlideLeftOut, leftOut, 0)
	}
	for i := range begin {
		if s.many[i] {
			begin[i] = start{}
		}
		if begin[i].from != 0 && i > 0 && !s.many[i-1] && s.runs[i-1].legato && !was[i-1].legato {
			extend(notes, int32(i-1), s.runs[i-1].end)
		}
	}
	for i := range notes {
		if t := &notes[i].trace; begin != nil && t.repeat == 1 {
			t.from = int8(begin[t.run].from)
		}
	}
	return begin
}

// extend lets the last note of a run sound to a time at least.
func extend(notes []Note, run int32, end beat.Time) {
	for i := len(notes) - 1; i >= 0; i-- {
		if note := &notes[i]; note.trace.run == run && note.trace.last {
			if note.End < end {
				note.End, note.trace.end, note.trace.legato = end, end, true
			}
			return
		}
	}
}
