package render

import (
	"math"
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/midi"
	"agrimony/internal/core/pitch"
)

// start is how a run begins: with the offset it slides from, in semitones from
// its key.
type start struct {
	from   int
	length beat.Time
	curve  int
}

// glidesAtOnce tells whether a glide of a length is none: what would be over within the time
// between two positions of the wheel is there at once.
func (f *Frame) glidesAtOnce(length beat.Time, tempo float64) bool {
	return length < max(beat.Milliseconds(spacingMS, tempo), f.Tick())
}

// starts works out the slides with which fresh notes begin, one for each run (of
// length zero and from 0 where none does), and for glides written as overlapping
// notes lets the note before overlap when their steps adjoin. With the clip's seam a loop, a
// glide into the first note comes from the pitch that the lane ends on; otherwise it is
// left out, and the step's number is given back. lengths are those of the slots' steps;
// nil: all have the pattern's.
func starts(runs []run, in *Input, v *Voice, lengths []beat.Time, room *room) (out []start, leftOut int) {
	slots, step, loop := in.Slots, in.Pattern.Step, in.Clip.Seam == "loop"
	if v.Glide == nil || len(runs) == 0 {
		return nil, 0
	}
	out = slices.Grow(room.starts[:0], len(runs))[:len(runs)]
	clear(out)
	room.starts = out
	for i := range runs {
		r := &runs[i]
		slot := &slots[r.first]
		glide := v.Glide(slot.Step)
		if glide == nil {
			continue
		}
		if lengths != nil {
			step = lengths[r.first]
		}
		if in.glidesAtOnce(step.Percent(glide.Time), in.Piece.Tempo) {
			continue
		}
		from := 0
		switch {
		case glide.From != nil:
			from = *glide.From
		case i > 0:
			from = int(runs[i-1].ends) - int(r.starts)
		case loop:
			from = int(runs[len(runs)-1].ends) - int(r.starts)
		default:
			if runs[len(runs)-1].ends != r.starts {
				leftOut = int(slot.Step) + 1
			}
		}
		if from == 0 {
			continue
		}
		out[i] = start{from, step.Percent(glide.Time), glide.Curve}
		if before := i - 1; v.Mode.Mode == "legato" && before >= 0 && in.adjoin(&runs[before], r, slot) && !runs[before].legato {
			runs[before].legato, runs[before].tied = true, true
			runs[before].end = slot.At + nudge(r, slot, step) + beat.Overlap
		}
	}
	return out, leftOut
}

// adjoin tells whether nothing is silent between two runs: their steps follow each other, or the
// one before lasts until the other begins.
func (in *Input) adjoin(before, r *run, slot *Slot) bool {
	if in.Pattern.free != nil {
		return before.end >= slot.At
	}
	return before.last == r.first-1 && slot.After
}

// portamento writes glides between overlapping notes: the time, the note it
// comes from, on at the onset, and off when the glide is over or its note ends.
func portamento(in *Input, notes []Note, starts []start) []Control {
	tempo, frame := in.Piece.Tempo, in.Frame
	var out []Control
	for i := range notes {
		note := &notes[i]
		s := starts[note.trace.run]
		if s.from == 0 || note.trace.repeat != 1 {
			continue
		}
		in.Made(4)
		off := min(frame.Swing.Warp(note.trace.onset+s.length)+frame.lateness(note), note.End)
		off = max(off, note.At+frame.Tick())
		if i+1 < len(notes) {
			off = min(off, notes[i+1].At)
		}
		out = append(out,
			Control{At: note.At, Controller: midi.PortamentoTime, Value: portamentoTime(s.length, tempo)},
			Control{At: note.At, Controller: midi.PortamentoFrom, Value: uint8(pitch.Fold(int(note.Pitch) + s.from))},
			Control{At: note.At, Controller: midi.Portamento, Value: 127},
			Control{At: min(off, frame.Length), Controller: midi.Portamento, Value: 0})
	}
	return out
}

// longestPortamento is what controller 5 means at 127, in seconds. The specification
// sets no unit; the scale is quadratic, so that short glides are finely told apart.
const longestPortamento = 2

// portamentoTime writes a length as the value of controller 5.
func portamentoTime(length beat.Time, tempo float64) uint8 {
	seconds := float64(length) / float64(beat.Quarter) * 60 / tempo
	return uint8(min(math.Floor(127*math.Sqrt(seconds/longestPortamento)+0.5), 127))
}

// PortamentoSeconds is how long a value of controller 5 lets a glide last.
func PortamentoSeconds(value uint8) float64 {
	share := float64(value) / 127
	return longestPortamento * share * share
}
