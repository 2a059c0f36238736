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
		if note.trace.legato && next < len(kept) && kept[next].Pitch != note.Pitch {
			next++ // the joined note does not cut it; the one after does
		}
		if next < len(kept) && note.End > kept[next].At {
			note.End = kept[next].At
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

// shortest is one tick at the finest export resolution.
const shortest = beat.Quarter / 960

// channels lets no key be struck while it still sounds on its channel: where
// lanes share one, a note ends where another lane strikes its key again. What the
// lanes played before that is kept beside what is heard.
func channels(parts []Part) {
	var lanes [17][]*Part
	for i := range parts {
		lanes[parts[i].Channel] = append(lanes[parts[i].Channel], &parts[i])
	}
	for _, sharing := range lanes {
		if len(sharing) > 1 {
			oneKeyAtATime(sharing)
		}
	}
}

func oneKeyAtATime(parts []*Part) {
	type struck struct {
		note *Note
		part *Part
	}
	var users [128]int // how many of the lanes strike a key
	for _, part := range parts {
		var own [128]bool
		for k := range part.Notes {
			if key := part.Notes[k].Pitch; !own[key] {
				own[key] = true
				users[key]++
			}
		}
	}
	var byKey [128][]struck
	for _, part := range parts {
		shares := slices.ContainsFunc(part.Notes, func(n Note) bool { return users[n.Pitch] > 1 })
		if !shares {
			continue
		}
		part.played, part.Notes = part.Notes, slices.Clone(part.Notes)
		for k := range part.Notes {
			if note := &part.Notes[k]; users[note.Pitch] > 1 {
				byKey[note.Pitch] = append(byKey[note.Pitch], struck{note, part})
			}
		}
	}
	for _, all := range byKey {
		slices.SortStableFunc(all, func(a, b struck) int { return cmp.Compare(a.note.At, b.note.At) })
		for i := 1; i < len(all); i++ {
			before, now := all[i-1], all[i]
			if before.part != now.part && before.note.At < now.note.At && before.note.End > now.note.At {
				before.note.End = now.note.At
				before.note.trace.cutBy = cutByKey
			}
		}
	}
}
