package smf

import (
	"gitlab.com/gomidi/midi/v2/smf"

	"agrimony/internal/core/render"
)

// marker is a text at a tick.
type marker struct {
	at   int64
	text string
}

// chordNames are the symbols of the chords where they begin. What the loop only brings
// round does not begin.
func chordNames(performance *render.Performance, end int64) (out []marker) {
	if performance.Harmony == nil {
		return nil
	}
	for _, b := range performance.Harmony.Chords {
		if at := b.At.Export(performance.PPQ); !b.Brought && at < end {
			out = append(out, marker{at, b.Symbol})
		}
	}
	return out
}

// marked puts markers into a track, each before whatever else is at its tick.
func marked(track smf.Track, markers []marker) smf.Track {
	if len(markers) == 0 {
		return track
	}
	out := make(smf.Track, 0, len(track)+len(markers))
	at, written := int64(0), int64(0)
	put := func(when int64, message smf.Message) {
		out = append(out, smf.Event{Delta: uint32(when - written), Message: message})
		written = when
	}
	head := true // the messages at the start keep their place before all
	for _, e := range track {
		at += int64(e.Delta)
		head = head && at == 0 && e.Message.IsMeta()
		for !head && len(markers) > 0 && markers[0].at <= at {
			put(markers[0].at, smf.MetaMarker(markers[0].text))
			markers = markers[1:]
		}
		put(at, e.Message)
	}
	return out
}
