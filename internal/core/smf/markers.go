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

// marked appends the markers up to a tick, and gives those that are left.
func (t *track) marked(markers []marker, at int64) []marker {
	for len(markers) > 0 && markers[0].at <= at {
		t.meta(markers[0].at, smf.MetaMarker(markers[0].text))
		markers = markers[1:]
	}
	return markers
}
