package render

import (
	"cmp"
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/piece"
)

// Spread lets the tones of a chord begin one after another.
type Spread struct {
	Time int // from the first to the last, in % of the step or of the repeat
	Way  SpreadWay
}

// SpreadWay is the order in which spread tones begin.
type SpreadWay uint8

// The ways.
const (
	SpreadUp SpreadWay = iota
	SpreadDown
	SpreadTurns // by turns from one struck step to the next, upwards first
)

// Tones is what a lane that sounds several notes at a time adds to its slots.
type Tones struct {
	Pitches [][]uint8            // of each slot that sounds, MIDI, sorted, each once
	Spread  func(s *Slot) Spread // nil: nothing is spread
	// Repeat gives the tones of a ratchet's later repeats (from 1); nil: those of the slot.
	Repeat func(slot, repeat int) []uint8
	// Walked tells where a tone of a slot's repeat comes from; nil: nothing is walked.
	Walked func(slot, repeat int, pitch uint8) Walked
	// Legato joins a single tone to another single one as a line does: the old one runs on
	// into the new.
	Legato bool
	// Lengths are those of the slots' steps; nil: all have the pattern's.
	Lengths []beat.Time
	// Voice is how single tones slide and bend; its Pitch is filled in.
	Voice Voice
}

// slides tells whether some step slides or bends.
func (v *Tones) slides() bool { return v.Voice.Glide != nil || v.Voice.Bend != nil }

// Walked is where a note of a walk comes from.
type Walked struct {
	Rung int16 // of the walk's stairs, from 0; below 0: none of it
	From int16 // the MIDI pitch before what the step does to it
}

// Poly plays a lane that sounds several notes at a time: ties hold what two chords have
// in common, spread tones begin one after another, and a key that is struck again ends
// its old note. The part's own fields are the input's.
func Poly(in *Input, v Tones) Part {
	if v.Voice.Mode.Mode == piece.MPE {
		if in.Part.Zone != nil {
			return threaded(in, &v)
		}
		v.Voice.Glide, v.Voice.Bend = nil, nil
	}
	part := in.Part
	part.Range = 1
	var sliding *sliding
	if v.slides() {
		sliding = newSliding(&v, len(in.Slots))
	}
	notes := strike(in, &v, &singly{sliding, in, &v})
	var begin []start
	if sliding != nil {
		part.Range = max(v.Voice.Mode.Range, 1)
		begin = sliding.starts(in, &v, notes, &part)
	}
	notes = in.reshaped(notes, false)
	notes = groove(notes, in.Frame, in.Pattern.Step)
	part.Notes = cutKeys(notes, in.Frame, nil)
	if sliding != nil {
		if v.Voice.Mode.Mode == "legato" && begin != nil {
			part.Controls = portamento(in, part.Notes, begin)
		}
		wheel(in, &part, &v.Voice, sliding.runs, sliding.slides, begin)
		part.tellWays(in, &v.Voice, sliding.runs, sliding.slides, begin)
	}
	return part
}

// chain is what ties hold from slot to slot.
type chain struct {
	open bool
	held []int32 // indexes of its notes
}

// leader is told of a lane's chords as they are struck and held, and leads its tones on from chord to chord.
type leader interface {
	// struck has the notes of a chord that no tie leads into.
	struck(notes []Note, slot int, pitches []uint8)
	// change takes what is held on to a slot's chord; it gives the notes with those that are added.
	change(c *chain, notes []Note, slot int, pitches []uint8) []Note
	// pass goes through a rest that carries the tie on.
	pass(slot int)
}

// strike makes the notes of all slots: struck, spread, repeated, nudged, and held by
// ties.
func strike(in *Input, v *Tones, by leader) []Note {
	notes := make([]Note, 0, min(estimate(in, v), mostReserved))
	var tied chain
	turns := 0
	for i := range in.Slots {
		slot, step := &in.Slots[i], v.step(in, i)
		if !slot.Sounds {
			if tied.open {
				by.pass(i)
			}
			if tied.open && !slot.Tie {
				tied.release(notes, slot, slot.At+step.Percent(int(slot.Gate)))
			} else if tied.open {
				tied.pass(notes, slot)
			}
			continue
		}
		had := len(notes)
		if tied.open {
			notes = by.change(&tied, notes, i, v.Pitches[i])
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
			by.struck(notes[had:], i, v.Pitches[i])
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
	return notes
}

// step is how long a slot's step is.
func (v *Tones) step(in *Input, slot int) beat.Time {
	if v.Lengths != nil {
		return v.Lengths[slot]
	}
	return in.Pattern.Step
}

// mostReserved is for how many events room is made before they are counted.
const mostReserved = 1 << 18

func estimate(in *Input, v *Tones) (count int) {
	for i := range in.Slots {
		if slot := &in.Slots[i]; slot.Sounds {
			count += len(v.Pitches[i]) * int(slot.Ratchet)
		}
	}
	return count
}

// mark notes where a slot's notes come from.
func (v *Tones) mark(notes []Note, slot int) {
	if v.Walked == nil {
		return
	}
	for i := range notes {
		t := &notes[i].trace
		if v.Lengths != nil {
			t.step = v.Lengths[slot]
		}
		t.walked = v.Walked(slot, int(t.repeat)-1, notes[i].Pitch)
	}
}

// begin strikes a chord that no tie leads into. With a tie its last repeat is held.
func (c *chain) begin(notes []Note, slot *Slot, index int, v *Tones, spread Spread, step beat.Time) []Note {
	pitches := v.Pitches[index]
	c.open, c.held = false, c.held[:0]
	repeats := int(slot.Ratchet)
	spacing := step
	if repeats > 1 { // dividing takes as long as the rest
		spacing /= beat.Time(repeats)
	}
	gate := spacing.Percent(int(slot.Gate))
	whole := spacing.Percent(spread.Time)
	first := slot.At + step.Percent(int(slot.Nudge))
	begun := repeats
	for slot.Cut != Uncut && begun > 0 && first+beat.Time(begun-1)*step/beat.Time(repeats) >= slot.Cut {
		begun--
	}
	for k := range begun {
		at := first
		if k > 0 {
			at += beat.Time(k) * step / beat.Time(repeats)
		}
		held := slot.Tie && k == begun-1
		if k > 0 && v.Repeat != nil {
			pitches = v.Repeat(index, k)
		}
		for n := range pitches {
			p := pitches[n]
			if spread.Way == SpreadDown {
				p = pitches[len(pitches)-1-n]
			}
			late := beat.Time(0)
			if whole != 0 && len(pitches) > 1 {
				late = whole * beat.Time(n) / beat.Time(len(pitches)-1)
			}
			if at+late >= slot.Cut {
				break // nothing begins after the cut
			}
			if held {
				c.open = true
				c.held = append(c.held, int32(len(notes)))
			}
			notes = append(notes, Note{At: at + late, End: at + gate, Step: slot.Step + 1, Round: slot.Round + 1, Pitch: p, Velocity: slot.Velocity})
			t := &notes[len(notes)-1].trace
			t.onset, t.end, t.spread, t.gate, t.lastStep, t.ends = at+late, at+gate, late, slot.Gate, slot.Step, p
			t.repeat, t.repeats, t.nudge, t.held = uint8(k+1), uint8(repeats), slot.Nudge, held
			t.last = k == begun-1
		}
	}
	return notes
}

// pass goes through a rest that carries the tie on.
func (c *chain) pass(notes []Note, slot *Slot) {
	for _, k := range c.held {
		notes[k].trace.more, notes[k].trace.lastStep = true, slot.Step
	}
}

// change goes on to another chord: common tones are held, the others of the old one
// end, and those of the new one start, at once and on the grid.
func (c *chain) change(notes []Note, slot *Slot, pitches []uint8, legato bool) []Note {
	legato = legato && len(c.held) == 1 && len(pitches) == 1
	kept := c.held[:0]
	var room [32]int32 // the notes held, by their place among the pitches, from 1
	have := room[:]
	if len(pitches) > len(room) {
		have = make([]int32, len(pitches))
	}
	for _, k := range c.held {
		note := &notes[k]
		at, found := slices.BinarySearch(pitches, note.Pitch)
		t := &note.trace
		if !found {
			note.leave(slot, legato)
			continue
		}
		t.more, t.lastStep = true, slot.Step
		have[at] = k + 1
		kept = append(kept, k)
	}
	for n, p := range pitches {
		if have[n] > 0 {
			continue
		}
		kept = append(kept, int32(len(notes)))
		notes = append(notes, joined(slot, p))
	}
	c.held = kept
	return notes
}

// leave ends a held note where another chord begins; legato: a little later.
func (n *Note) leave(slot *Slot, legato bool) {
	end := slot.At
	if legato {
		end += beat.Overlap
	}
	t := &n.trace
	n.End, t.end, t.lastStep, t.legato, t.dropped = end, end, slot.Step, legato, !legato
}

// release ends what is held, with the gate of the last step.
func (c *chain) release(notes []Note, slot *Slot, end beat.Time) {
	for _, k := range c.held {
		t := &notes[k].trace
		notes[k].End, t.end, t.gate, t.lastStep = end, end, slot.Gate, slot.Step
		t.more = t.more || t.lastStep != notes[k].Step-1
	}
	c.open, c.held = false, c.held[:0]
}

// cutKeys sorts a lane's notes by onset, ends a note where its key is struck again, and
// cuts all at the clip's end. Of two strikes of a key at once the earlier step's does
// not sound, and no note is shorter than a tick. Of notes that glide apart, each by itself, the
// pitch at which one is by then is its key: at tells it; nil: all keep theirs.
func cutKeys(notes []Note, frame *Frame, at func(note *Note, onset beat.Time) uint8) []Note {
	early := func(a, b Note) int { return cmp.Compare(a.At, b.At) }
	if !slices.IsSortedFunc(notes, early) {
		slices.SortStableFunc(notes, early)
	}
	kept := notes[:0]
	gone := false
	struck := func(before, note *Note) {
		if before.At == note.At {
			before.Velocity, gone = 0, true
		} else if now := frame.struckAt(note.At); before.End > now {
			before.End, before.trace.cutBy = now, cutByKey
		}
	}
	var last [128]int32  // the note that struck a key last, from 1
	var sounding []int32 // of notes that glide apart, those that are not past
	for _, note := range notes {
		if note.At >= frame.Length {
			break
		}
		if k := last[note.Pitch]; k > 0 && at == nil {
			struck(&kept[k-1], &note)
		}
		sounding = slices.DeleteFunc(sounding, func(k int32) bool {
			before := &kept[k]
			if at(before, note.trace.onset) == note.Pitch {
				struck(before, &note)
			}
			return before.Velocity == 0 || before.At != note.At && before.End <= note.At
		})
		kept = append(kept, note)
		if at == nil {
			last[note.Pitch] = int32(len(kept))
		} else {
			sounding = append(sounding, int32(len(kept)-1))
		}
	}
	if gone {
		kept = slices.DeleteFunc(kept, func(n Note) bool { return n.Velocity == 0 })
	}
	for i := range kept {
		note := &kept[i]
		if note.End > frame.Length {
			note.End, note.trace.cutBy = frame.Length, cutByEnd
		}
		note.End = max(note.End, note.At+shortest)
	}
	return kept
}

// sortedOnce sorts pitches and leaves each in once.
func sortedOnce(pitches []uint8) []uint8 {
	slices.Sort(pitches)
	return slices.Compact(pitches)
}
