package render

import (
	"cmp"
	"slices"

	"agrimony/internal/core/beat"
)

// cut sorts a lane's notes by onset, lets each later onset end the note before
// (the lane is monophonic) unless the two are joined, and cuts all at the clip's
// end. Of two notes at once the earlier does not sound, and no note is shorter
// than a tick.
func cut(notes []Note, frame *Frame) []Note {
	early := func(a, b Note) int { return cmp.Compare(a.At, b.At) }
	if !slices.IsSortedFunc(notes, early) {
		slices.SortStableFunc(notes, early)
	}
	kept := notes[:0]
	for i, note := range notes {
		if note.At < frame.Length && (i+1 == len(notes) || notes[i+1].At > note.At) {
			kept = append(kept, note)
		}
	}
	for i := range kept {
		note := &kept[i]
		next := i + 1
		if onset, joined := note.trace.meets(); joined && next < len(kept) && kept[next].trace.onset == onset && kept[next].Pitch != note.Pitch {
			next++ // the joined note does not cut it; the one after does
		}
		if next < len(kept) && note.End > frame.struckAt(kept[next].At) {
			note.End = frame.struckAt(kept[next].At)
			note.trace.cutBy = cutByNote
		}
		if note.End > frame.Length {
			note.End = frame.Length
			note.trace.cutBy = cutByEnd
		}
		note.End = max(note.End, note.At+shortest)
	}
	return kept
}

// struckAt is when a file strikes a note: what rounds to the clip's end, a tick before it.
func (f *Frame) struckAt(at beat.Time) beat.Time {
	if f.Length-at > f.Tick() { // most are
		return at
	}
	if last := f.Length.Export(f.PPQ) - 1; at.Export(f.PPQ) > last {
		return beat.Of(last, f.PPQ)
	}
	return at
}

// shortest is one tick at the finest export resolution.
const shortest = beat.Quarter / 960
