// Package lane lists the kinds of lanes: what each does, behind the interfaces of
// those who ask. What a kind holds is in package piece, in the file named after
// it; how it looks is in web/src/lanes, in the folder named after it.
package lane

import (
	"agrimony/internal/core/lane/line"
	"agrimony/internal/core/lane/pulse"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// Kind is what every kind of lane does. What only some do (moving steps in
// pitch, say) is asked for by those who need it, in interfaces of their own.
type Kind interface {
	render.Kind
	// Pitches are the MIDI pitches at which the steps sound.
	Pitches(lane *piece.Lane, key pitch.Key) []int
	// Ladder is the rows on which a lane's notes are placed, from low to high.
	Ladder(lane *piece.Lane, key pitch.Key) []pitch.Rung
	// Rekey brings a lane into another key, keeping degrees or pitches.
	Rekey(lane *piece.Lane, from, to pitch.Key, keepDegrees bool)
}

// Kinds are all kinds. To add one, add a row.
var Kinds = map[string]Kind{
	"line":  line.Kind{},
	"pulse": pulse.Kind{},
}

// Of is what a lane's kind does.
func Of(l *piece.Lane) Kind { return Kinds[l.Kind] }

func lookup(kind string) render.Kind { return Kinds[kind] }

// Render renders a clip of a checked piece; see render.Clip.
func Render(p *piece.Piece, clip *piece.Clip, options render.Options) (*render.Performance, error) {
	return render.Clip(p, clip, options, lookup)
}

// Cycle works out when the clip's unmuted lanes meet.
func Cycle(p *piece.Piece, clip *piece.Clip) render.Cycle {
	return render.CycleOf(p, clip, lookup)
}

// Names are the sounding pitches of a lane's steps, spelled in the key: "F#2".
func Names(l *piece.Lane, key pitch.Key) []string {
	pitches := Of(l).Pitches(l, key)
	out := make([]string, len(pitches))
	for i, p := range pitches {
		out[i] = key.Named(p)
	}
	return out
}
