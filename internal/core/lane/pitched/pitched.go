// Package pitched is what kinds of lanes share whose notes are degrees of a key:
// how a place becomes a pitch under the lane's lock, why, and how it changes with
// the key.
//
// Lock chord and follow root listen to the sounding chord. Without one, lanes keep to
// the scale and the key.
package pitched

import (
	"errors"
	"fmt"
	"slices"

	"agrimony/internal/core/document"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// Placed is a place's pitch on its way through the rules, in MIDI numbers.
type Placed struct {
	Degree int   // the unaltered degree's, in the key
	Rooted int   // the same counted from the sounding chord's root, where the lane follows it
	Raw    int   // altered
	Locked int   // after the lock
	Pitch  uint8 // folded into 0..127
}

// At works a place out in a lane over a chord (nil: none sounds): its degree, the root
// it counts from, its alteration, the lock, the fold.
func At(lane *piece.Pitched, key pitch.Key, chord *render.Chord, at pitch.Place) Placed {
	degree := key.Pitch(at, lane.Octave) - at.Alter
	rooted := degree
	if lane.Follow == "root" && chord != nil {
		rooted = key.Pitch(key.Move(pitch.Place{Degree: at.Degree, Octave: at.Octave}, chord.RootDegree-1), lane.Octave)
		if at.Degree == 1 {
			rooted += chord.RootAlter // the others are the key's own
		}
		rooted += semitones * rootOctave(lane, key, chord)
	}
	raw := rooted + at.Alter
	p := Placed{Degree: degree, Rooted: rooted, Raw: raw, Locked: Locked(lane, key, chord, raw)}
	p.Pitch = uint8(pitch.Fold(p.Locked))
	return p
}

// How far below and above the tonic of the lane a root lies that is taken near it, in semitones.
const (
	nearBelow = 5
	nearAbove = 6
	semitones = 12
)

// rootOctave is by how many octaves the roots that a lane follows, and all that counts from them, are moved: none,
// where they lie from the lane's tonic upwards; near, each lies as near to it as it can.
func rootOctave(lane *piece.Pitched, key pitch.Key, chord *render.Chord) int {
	if lane.Roots != "near" {
		return 0
	}
	tonic := pitch.Place{Degree: 1}
	above := key.Pitch(key.Move(tonic, chord.RootDegree-1), lane.Octave) + chord.RootAlter - key.Pitch(tonic, lane.Octave)
	switch {
	case above > nearAbove:
		return -1
	case above < -nearBelow:
		return 1
	}
	return 0
}

// Locked is where a lane's lock lets a MIDI pitch be over a chord (nil: none sounds):
// "chord" takes it to the chord's tones, or without a chord acts as "scale", which takes
// it into the key, but in a lane that follows roots leaves the chord's tones as they are.
// All that a lock acts on asks this: playing, naming, reasons, entering, layers.
func Locked(lane *piece.Pitched, key pitch.Key, chord *render.Chord, p int) int {
	switch {
	case lane.Lock == "off":
	case lane.Lock == "chord" && chord != nil:
		return pitch.SnapTo(p, pitch.Snap(lane.Snap), chord.Classes)
	case lane.Follow == "root" && chord != nil && chord.Has(p):
	default:
		return key.Snap(p, pitch.Snap(lane.Snap))
	}
	return p
}

// Uncounted gives the place that a lane must hold to sound at a place of the key over
// a chord: in a lane that follows roots, counted from the chord's.
func Uncounted(lane *piece.Pitched, key pitch.Key, chord *render.Chord, at pitch.Place) pitch.Place {
	if lane.Follow != "root" || chord == nil {
		return at
	}
	out := key.Move(at, 1-chord.RootDegree)
	out.Octave -= rootOctave(lane, key, chord)
	if out.Degree == 1 {
		out.Alter -= chord.RootAlter
	}
	return out
}

// Folded tells whether the pitch had to be folded into 0..127.
func (p Placed) Folded() bool { return int(p.Pitch) != p.Locked }

// Reasons tells how a place came to its pitch.
func Reasons(lane *piece.Pitched, key pitch.Key, chord *render.Chord, at pitch.Place) []render.Reason {
	p := At(lane, key, chord, at)
	out := []render.Reason{{Rule: "degree", From: fmt.Sprint(at.Degree), To: key.Named(p.Degree)}}
	add := func(rule string, from, to int, by string) {
		if from != to {
			out = append(out, render.Reason{Rule: rule, From: key.Named(from), To: key.Named(to), Chord: by})
		}
	}
	symbol, lockedBy := "", ""
	if chord != nil {
		symbol = chord.Symbol
		if lane.Lock == "chord" {
			lockedBy = symbol
		}
	}
	add("follow", p.Degree, p.Rooted, symbol)
	add("alter", p.Rooted, p.Raw, "")
	add("lock", p.Raw, p.Locked, lockedBy)
	add("fold", p.Locked, int(p.Pitch), "")
	return out
}

// LaneReasons tells how a note of a lane came to its pitch from the place of its step: what
// moved the place, the rules of the lane's pitch, and its range.
func LaneReasons(own *piece.Pitched, p *render.Performance, part *render.Part, lane *piece.Lane, note *render.Note, at pitch.Place) []render.Reason {
	pattern, slot := p.SlotOf(part, note)
	moved := ShiftReasons(pattern, slot, at)
	if len(moved) > 0 {
		at = Shifted(pattern, p.Key, slot, at)
	}
	if by := p.ShiftIn(lane, own); by != 0 {
		moved = append(moved, render.Moving("shift", "degree", at.Degree, at.Degree+by))
		at = Along(p.Key, at, by)
	}
	out := append(moved, Reasons(own, p.Key, p.ChordOf(part, note), at)...)
	return render.Ranged(out, lane, p.Key, int(At(own, p.Key, p.ChordOf(part, note), at).Pitch))
}

// Rekey gives a place's counterpart in another key. Keeping degrees, a degree
// that the new scale lacks goes to its nearest pitch; otherwise the sounding pitch
// is expressed anew, snapped where the new scale lacks it.
func Rekey(lane *piece.Pitched, from, to pitch.Key, at pitch.Place, keepDegrees bool) pitch.Place {
	if keepDegrees {
		degree, octave := pitch.KeepDegree(from.Scale, to.Scale, at.Degree)
		return pitch.Place{Degree: degree, Octave: within(at.Octave + octave), Alter: at.Alter}
	}
	sounding := int(At(lane, from, nil, at).Pitch)
	place, ok := to.Find(sounding, lane.Octave)
	if !ok && lane.Lock == "off" {
		place = to.Express(sounding, lane.Octave)
	} else if !ok {
		place, _ = to.Find(to.Snap(sounding, pitch.Snap(lane.Snap)), lane.Octave)
	}
	place.Octave = within(place.Octave)
	return place
}

func within(octave int) int { return min(max(octave, -4), 4) }

// Units are what a place can be moved by.
var Units = []string{"degree", "semitone", "octave"}

// Shift moves a place by so many of a unit. A semitone that leaves the key is
// written as an alteration. The error's path is that of the place's field.
func Shift(lane *piece.Pitched, key pitch.Key, at pitch.Place, unit string, by int) (pitch.Place, error) {
	switch unit {
	case "degree":
		at = key.Move(at, by)
	case "semitone":
		at = key.Express(key.Pitch(at, lane.Octave)+by, lane.Octave)
	case "octave":
		at.Octave += by
	}
	return at, Check(key, at)
}

// Under puts a field before the path of an error.
func Under(field string, err error) error {
	var fault *document.Fault
	if errors.As(err, &fault) {
		return &document.Fault{Path: field + "." + fault.Path, Problem: fault.Problem}
	}
	return err
}

// Check refuses a place that the key does not have or a step cannot hold.
func Check(key pitch.Key, at pitch.Place) error {
	for _, field := range []struct {
		name           string
		got, low, high int
	}{{"degree", at.Degree, 1, key.Size()}, {"octave", at.Octave, -4, 4}, {"alter", at.Alter, -11, 11}} {
		if field.got < field.low || field.got > field.high {
			return &document.Fault{Path: field.name, Problem: fmt.Sprintf("%d is out of reach; allowed: %d..%d", field.got, field.low, field.high)}
		}
	}
	return nil
}

// Ladder is the rows on which a lane's notes are placed: two octaves below its
// tonic to three above, and as far as its notes reach. It depends on the notes
// only beyond that, so that placing one moves no row; a lane that listens to chords has
// rows for tones outside the key too, where they sound.
func Ladder(lane *piece.Pitched, key pitch.Key, sounding []int) []pitch.Rung {
	home := key.Pitch(pitch.Place{Degree: 1}, lane.Octave)
	low, high := home-24, home+36
	for _, p := range sounding {
		low, high = min(low, p), max(high, p)
	}
	if lane.Lock == "off" || !lane.Listens() {
		return key.Ladder(lane.Octave, low, high, lane.Lock == "off")
	}
	return WithTones(key.Ladder(lane.Octave, low, high, true), sounding)
}

// WithTones leaves the rows of the key, and those of tones outside it that sound.
func WithTones(all []pitch.Rung, sounding []int) []pitch.Rung {
	return slices.DeleteFunc(all, func(r pitch.Rung) bool { return !r.InKey && !slices.Contains(sounding, r.Pitch) })
}

// Borrowed is a lane of a clip in one key as it stands in another, by what brings it there: its degrees stay.
func Borrowed(lane *piece.Lane, from, to pitch.Key, rekey func(lane *piece.Lane, from, to pitch.Key, keepDegrees bool)) *piece.Lane {
	if slices.Equal(from.Scale.Degrees, to.Scale.Degrees) {
		return lane
	}
	out := lane.Clone()
	rekey(&out, from, to, true)
	return &out
}
