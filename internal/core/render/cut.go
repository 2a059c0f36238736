package render

import (
	"slices"

	"agrimony/internal/core/beat"
)

// cut sorts a lane's notes by onset, lets each later onset end the note before
// (a line is monophonic) unless the two are joined, and cuts all at the clip's
// start and end. A note is never shorter than one tick of the finest resolution.
func cut(notes []Note, length beat.Time) []Note {
	early := func(a, b Note) int {
		switch {
		case a.At < b.At:
			return -1
		case a.At > b.At:
			return 1
		}
		return 0
	}
	if !slices.IsSortedFunc(notes, early) {
		slices.SortStableFunc(notes, early)
	}
	kept := notes[:0]
	for _, note := range notes {
		if note.At < length {
			kept = append(kept, note)
		}
	}
	for i := range kept {
		note := &kept[i]
		next := i + 1
		if note.trace.legato {
			next++ // the joined note does not cut it; the one after does
		}
		if next < len(kept) && note.End > kept[next].At {
			note.End = kept[next].At
			note.trace.cutBy = cutByNote
		}
		if note.End > length {
			note.End = length
			note.trace.cutBy = cutByEnd
		}
		note.At = max(note.At, 0)
		note.End = max(note.End, note.At+shortest)
	}
	return kept
}

// shortest is one tick at the finest export resolution.
const shortest = beat.Quarter / 960
