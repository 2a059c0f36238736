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
func repeat(runs []run, slots []Slot, step beat.Time) []Note {
	count := 0
	for i := range runs {
		count += repeats(&runs[i], &slots[runs[i].first])
	}
	notes := make([]Note, 0, count)
	for i := range runs {
		r := &runs[i]
		slot := &slots[r.first]
		n := repeats(r, slot)
		first := slot.At + nudge(r, slot, step)
		begin := n // how many of them begin before a restart cuts the step
		for begin > 0 && first+beat.Time(begin-1)*step/beat.Time(n) >= slot.Cut {
			begin--
		}
		gate := (step / beat.Time(n)).Percent(int(slot.Gate))
		for k := range begin {
			at := first + beat.Time(k)*step/beat.Time(n)
			end := at + gate
			last := k == begin-1
			if last && (r.tied || r.last > r.first) {
				end = r.end
			}
			notes = append(notes, Note{
				At: at, End: end, Step: slot.Step + 1, Round: slot.Round + 1, Pitch: r.starts, Velocity: slot.Velocity,
				trace: trace{
					grid: slot.At, onset: at, end: end, run: int32(i), gate: slots[r.last].Gate, lastStep: slots[r.last].Step, ends: r.ends,
					repeat: uint8(k + 1), repeats: uint8(n), last: last, joined: r.joined, legato: last && r.legato,
					held: last && (r.tied || r.last > r.first), more: r.last > r.first, reaches: last && r.tied && slots[r.last].Tie && !r.legato,
				},
			})
		}
	}
	return notes
}
