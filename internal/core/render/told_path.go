package render

import (
	"math"

	"agrimony/internal/core/beat"
)

// Turn is a point of a note's way: so long after its onset it is so many semitones from its key. Between
// turns it goes straight.
type Turn struct {
	After beat.Time
	By    float64
}

// unheard is by how much a way may differ from its wheel's, in semitones: nobody hears it.
const unheard = 0.02

// Path is the way of a note that has a wheel of its own, in as few turns as tell it; nil of one that stays
// at its key, or has no wheel of its own.
func (part *Part) Path(note *Note) []Turn {
	if part.Zone == nil {
		return nil
	}
	return PathOf(part.WheelOf(note), note.At, part.Zone.Range)
}

// PathOf is the same of positions of a wheel with a range, in semitones, of a note that begins at a time.
func PathOf(wheel []Bend, begins beat.Time, reach int) []Turn {
	if len(wheel) == 0 || len(wheel) == 1 && wheel[0].Value == 0 {
		return nil
	}
	at := func(i int) Turn {
		return Turn{wheel[i].At - begins, float64(wheel[i].Value) * float64(reach) / 8192}
	}
	out := []Turn{at(0)}
	for from := 0; from < len(wheel)-1; {
		// As far as one straight line tells it: the slopes that pass close to every position so far.
		start, to := out[len(out)-1], from+1
		low, high := math.Inf(-1), math.Inf(1)
		for k := from + 1; k < len(wheel); k++ {
			p := at(k)
			run := float64(p.After - start.After)
			least, most := (p.By-unheard-start.By)/run, (p.By+unheard-start.By)/run
			if slope := (p.By - start.By) / run; slope >= low && slope <= high {
				to = k
			} else if k > from+1 && (least > high || most < low) {
				break
			}
			low, high = max(low, least), min(high, most)
		}
		out = append(out, at(to))
		from = to
	}
	return out
}
