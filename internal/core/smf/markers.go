package smf

import (
	"cmp"
	"slices"

	"gitlab.com/gomidi/midi/v2/smf"

	"agrimony/internal/core/order"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// marker is a message that is for no channel, at a tick.
type marker struct {
	at      int64
	message []byte
}

// chordNames are the symbols of the chords where they begin. What the loop only brings
// round does not begin.
func chordNames(performance *render.Performance, end int64) (out []marker) {
	if performance.Harmony == nil {
		return nil
	}
	for _, b := range performance.Harmony.Chords {
		if at := b.At.Export(performance.PPQ); !b.Brought && at < end {
			out = append(out, marker{at, smf.MetaMarker(b.Symbol)})
		}
	}
	return out
}

// orderMarks are what stands over the tracks of an order: which clips sound, their keys, and the names of
// chords.
func orderMarks(o *order.Performance, names bool) (out []marker) {
	for _, m := range o.Markers() {
		out = append(out, marker{m.At.Export(o.PPQ), smf.MetaMarker(m.Text)})
	}
	for _, k := range o.Keys() {
		if message := signature(k.Key); message != nil {
			out = append(out, marker{k.At.Export(o.PPQ), message})
		}
	}
	if names {
		for _, m := range o.ChordNames() {
			out = append(out, marker{m.At.Export(o.PPQ), smf.MetaMarker(m.Text)})
		}
	}
	slices.SortStableFunc(out, func(a, b marker) int { return cmp.Compare(a.at, b.at) })
	return out
}

// signature is the message of a key's signature; nil where it has none.
func signature(key pitch.Key) []byte {
	sharps, minor, ok := key.Signature()
	if !ok {
		return nil
	}
	return smf.MetaKey(0, !minor, uint8(max(sharps, -sharps)), sharps < 0)
}

// marked appends the markers up to a tick, and gives those that are left.
func (t *track) marked(markers []marker, at int64) []marker {
	for len(markers) > 0 && markers[0].at <= at {
		t.meta(markers[0].at, markers[0].message)
		markers = markers[1:]
	}
	return markers
}
