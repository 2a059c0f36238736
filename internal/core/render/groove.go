package render

import "agrimony/internal/core/beat"

// groove warps the notes' onsets and ends by the swing. What they were stays in
// their traces, for the glides and for Why.
func groove(notes []Note, swing beat.Swing) {
	for i := range notes {
		note := &notes[i]
		note.trace.end = note.End
		note.At = swing.Warp(note.At)
		note.End = swing.Warp(note.End)
	}
}
