package render

import (
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/piece"
)

// free is how a lane walks notes that stand on an axis of their own: its loop, and the notes
// that begin in it.
type free struct {
	start, length beat.Time
	active        []int32     // the notes that begin in the loop, in order
	at            []beat.Time // of each of these, from the loop's start
	lengths       []beat.Time // of all notes, as written
	names         []int32     // what draws know each of all notes by: its number, from 0
}

func freeOf(p *piece.Piece, clip *piece.Clip, own piece.Free, count int) *free {
	out := &free{lengths: make([]beat.Time, count), names: make([]int32, count), active: make([]int32, 0, count), at: make([]beat.Time, 0, count)}
	out.start, out.length = own.LoopOf(clip.Bars, p.Bar())
	for i := range count {
		at, length := own.Span(i)
		out.lengths[i], out.names[i] = length, int32(own.Number(i)-1)
		if at >= out.start && at < out.start+out.length {
			out.active, out.at = append(out.active, int32(i)), append(out.at, at-out.start)
		}
	}
	return out
}

// anyInLoop tells whether a note begins in the loop.
func anyInLoop(p *piece.Piece, clip *piece.Clip, own piece.Free) bool {
	start, length := own.LoopOf(clip.Bars, p.Bar())
	for i := range own.Count() {
		if at, _ := own.Span(i); at >= start && at < start+length {
			return true
		}
	}
	return false
}

// before is how many notes of a round begin before a time in it.
func (f *free) before(at beat.Time) int {
	n, _ := slices.BinarySearch(f.at, at)
	return n
}

// count is how many notes begin within a length.
func (f *free) count(length, restart beat.Time) int64 {
	within := func(length beat.Time) int64 {
		return int64(length/f.length)*int64(len(f.at)) + int64(f.before(length%f.length))
	}
	if restart == 0 {
		return within(length)
	}
	return int64(length/restart)*within(restart) + within(length%restart)
}

// freely gives the slots of such a lane in order of time. What runs over the end of a loop, or
// into a restart, is cut there; a round that a restart cuts counts as one.
func (p *Pattern) freely(length beat.Time, yield func(Slot) bool) {
	round := int32(0)
	for start := beat.Time(0); start < length; {
		end := length
		cut := Uncut
		if p.Restart != 0 && p.Restart <= length-start {
			end, cut = start+p.Restart, start+p.Restart
		}
		for begin := start; begin < end; begin += p.free.length {
			for k, index := range p.free.active {
				at := begin + p.free.at[k]
				if at >= end {
					break
				}
				slot := p.slot(at, index, round)
				slot.Cut = min(begin+p.free.length, cut)
				if !yield(slot) {
					return
				}
			}
			round++
		}
		start = end
	}
}

// Count is how many steps, or free notes, the lane has.
func (p *Pattern) Count() int { return len(p.cells) }

// Cell is what a step, or a free note, from 0, has in common with others.
func (p *Pattern) Cell(i int) *piece.Cell { return p.cells[i] }

// Loop is the loop of a lane of free notes: where on the lane's axis it begins, and how long it
// is; zero of another.
func (p *Pattern) Loop() (start, length beat.Time) {
	if p.free == nil {
		return 0, 0
	}
	return p.free.start, p.free.length
}

// Free plays a lane of free notes: many at a time, or one. Of one voice, v says how it slides
// and bends; the pitches are those of all slots. What is silenced is not there: no tie joins to
// it, and none goes through it.
func Free(in *Input, v Voice, single bool) Part {
	in.Slots, v.Pitch = sounding(in.Slots, v.Pitch, single)
	v.Lengths = make([]beat.Time, len(in.Slots))
	for i := range in.Slots {
		v.Lengths[i] = in.Pattern.free.lengths[in.Slots[i].Step]
	}
	if single {
		return Mono(in, v)
	}
	part := in.Part
	part.Range = 1
	in.struck(len(in.Slots))
	notes := make([]Note, len(in.Slots))
	for i := range in.Slots {
		s, length := &in.Slots[i], v.Lengths[i]
		end := min(s.At+length.Percent(int(s.Gate)), s.Cut)
		notes[i] = Note{At: s.At, End: end, Step: s.Step + 1, Round: s.Round + 1, Pitch: v.Pitch[i], Velocity: s.Velocity}
		t := &notes[i].trace
		t.onset, t.end, t.gate, t.lastStep, t.ends, t.step = s.At, end, s.Gate, s.Step, v.Pitch[i], length
		t.repeat, t.repeats, t.last = 1, 1, true
	}
	if v.Mode.Mode == piece.MPE && part.Zone != nil {
		t := &threads{in: in, voice: &v, length: func(slot int) beat.Time { return v.Lengths[slot] }}
		return t.freely(notes)
	}
	notes = in.reshaped(notes, false)
	notes = groove(notes, in.Frame, in.Pattern.Step)
	part.Notes = cutKeys(notes, in.Frame, nil)
	return part
}

// sounding are the slots that sound, with their pitches; of one voice, of those at once the last.
func sounding(slots []Slot, pitches []uint8, single bool) ([]Slot, []uint8) {
	kept := 0
	for i := range slots {
		if !slots[i].Sounds {
			continue
		}
		if single && kept > 0 && slots[kept-1].At == slots[i].At {
			kept--
		}
		slots[kept], pitches[kept] = slots[i], pitches[i]
		kept++
	}
	return slots[:kept], pitches[:kept]
}
