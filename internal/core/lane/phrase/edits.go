package phrase

import (
	"fmt"

	"agrimony/internal/core/document"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// StairsOf is what a phrase walks over a chord (nil: none sounds); octave is that of the
// chords' lane. It is nil where there is nothing to walk.
func StairsOf(lane *piece.Lane, key pitch.Key, chord *render.Chord, octave int) *Stairs {
	p := of(lane)
	tones, ok := tonesOf(p, key, chord, octave, 0)
	if !ok {
		return nil
	}
	return Climb(key, tones, p.Span, p.Leap, p.Order, pitch.Snap(p.Snap))
}

// Rungs are the pitches that a phrase walks over a chord, rising; false where there is nothing
// to walk.
func (Kind) Rungs(lane *piece.Lane, key pitch.Key, chord *render.Chord, octave int) ([]int, bool) {
	l := StairsOf(lane, key, chord, octave)
	if l == nil {
		return nil, false
	}
	return l.Rungs, true
}

// Shape is an order as it would go through the tones of a lane: rungs from 0, and how
// many there are.
type Shape struct {
	Name  string `json:"name"`
	Rungs int    `json:"rungs"`
	Way   []int  `json:"way"` // the first of them
}

// Orders are all orders over what a phrase walks under a chord, a list of Shape; without
// anything to walk, over four rungs.
func (Kind) Orders(lane *piece.Lane, key pitch.Key, chord *render.Chord, octave int) any {
	const shown = 16
	var out []Shape
	for _, name := range piece.Orders {
		twin := lane.Clone()
		of(&twin).Order = piece.Order{Name: name}
		l := StairsOf(&twin, key, chord, octave)
		if l == nil {
			l = Climb(key, Tones{Listed: []int{60, 64, 67, 71}}, 1, piece.Leap{}, piece.Order{Name: name}, pitch.Nearest)
		}
		shape := Shape{Name: name, Rungs: len(l.Rungs), Way: []int{}}
		for place := range min(len(l.Order)+1, shown) {
			rung, _ := l.Rung(l.At(place, place, func(_ bool, n int) uint64 { return uint64(n+2) * 2654435761 % 97 }))
			shape.Way = append(shape.Way, rung)
		}
		out = append(out, shape)
	}
	return out
}

// Transpose moves steps (from 0): by octaves, or their offset by what it is counted in.
func (Kind) Transpose(lane *piece.Lane, _ pitch.Key, steps []int, unit string, by int) error {
	p := of(lane)
	for _, i := range steps {
		s := &p.Steps[i]
		field, low, high, name := &s.Offset, -24, 24, "offset"
		switch unit {
		case "octave":
			field, low, high, name = &s.Octave, -4, 4, "octave"
		case "semitone":
			if s.In != "semitones" {
				if s.Offset != 0 {
					continue // a step counts in one unit
				}
				s.In = "semitones"
			}
		default:
			if s.In != "scale" {
				if s.Offset != 0 {
					continue
				}
				s.In = "scale"
			}
		}
		if next := *field + by; next < low || next > high {
			return &document.Fault{Path: fmt.Sprintf("steps[%d].%s", i, name), Problem: fmt.Sprintf("%d is out of reach; allowed: %d..%d", next, low, high)}
		}
		*field += by
	}
	return nil
}

// Hold writes what luck added to a step's pitch into its offset and octave.
func (Kind) Hold(lane *piece.Lane, _ pitch.Key, step int, luck render.Luck) error {
	s := &of(lane).Steps[step]
	at := fmt.Sprintf("steps[%d].", step)
	if luck.Degrees != 0 {
		if s.Offset != 0 && s.In != "scale" {
			return &document.Fault{Path: at + "offset", Problem: "counts semitones, and luck counted along the scale; allowed: an offset along the scale"}
		}
		s.In = "scale"
	}
	s.Offset += luck.Degrees
	s.Octave += luck.Octave
	if s.Octave < -4 || s.Octave > 4 {
		return &document.Fault{Path: at + "octave", Problem: fmt.Sprintf("%d is out of reach; allowed: -4..4", s.Octave)}
	}
	return nil
}
