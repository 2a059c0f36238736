package render

import "agrimony/internal/core/beat"

// nudge is by how much a run's onset moves off the grid. A run that was joined
// to starts on it.
func nudge(r *run, slot *Slot, step beat.Time) beat.Time {
	if r.joined {
		return 0
	}
	return step.Percent(int(slot.Nudge))
}

func repeats(r *run, slot *Slot) int {
	if r.joined {
		return 1
	}
	return int(slot.Ratchet)
}

// repeat makes the notes: each run cut into its ratchet's repeats and nudged,
// less what a restart keeps from beginning. A tie belongs to the last repeat, and
// keeps its end on the grid.
func repeat(in *Input, v *Voice, runs []run) []Note {
	slots, count := in.Slots, 0
	for i := range runs {
		count += repeats(&runs[i], &slots[runs[i].first])
	}
	in.struck(count)
	notes := make([]Note, 0, count)
	for i := range runs {
		r := &runs[i]
		slot, step := &slots[r.first], v.step(in, r.first)
		n := repeats(r, slot)
		first := slot.At + nudge(r, slot, step)
		spacing := func(k int) beat.Time { return beat.Time(k) * step / beat.Time(n) }
		begin := n // how many of them begin before a restart cuts the step
		for slot.Cut != Uncut && begin > 0 && first+spacing(begin-1) >= slot.Cut {
			begin--
		}
		gate := step.Percent(int(slot.Gate))
		if n > 1 {
			gate = (step / beat.Time(n)).Percent(int(slot.Gate))
		}
		for k := range begin {
			at := first
			if k > 0 {
				at += spacing(k)
			}
			last := k == begin-1
			held := last && (r.tied || r.last > r.first)
			notes = append(notes, Note{At: at, End: at + gate, Step: slot.Step + 1, Round: slot.Round + 1, Pitch: r.starts, Velocity: slot.Velocity})
			note := &notes[len(notes)-1]
			if held || v.Lengths != nil {
				note.End = r.end
			}
			t := &note.trace
			if v.Lengths != nil {
				t.step = step
			}
			t.onset, t.end, t.run, t.gate, t.lastStep, t.ends = at, note.End, int32(i), slots[r.last].Gate, slots[r.last].Step, r.ends
			t.repeat, t.repeats, t.nudge = uint8(k+1), uint8(n), slot.Nudge
			t.last, t.joined, t.legato, t.held, t.more = last, r.joined, last && r.legato, held, r.last > r.first
			t.reaches = last && r.tied && slots[r.last].Tie && !r.legato
		}
	}
	return notes
}
