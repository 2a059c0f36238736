package chords

import (
	"slices"

	"agrimony/internal/core/chord"
	"agrimony/internal/core/lane/pitched"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// Voiced is how the chords of a lane lie.
type Voiced struct {
	Steps [][]uint8 // of each step, MIDI, sorted, each once; nil: it takes no part
	Order []int     // the steps that are voiced, in the order of the round
	Held  []bool    // of each of them: it could not be voiced
	// Movement is how far the voices move in a round, the way back included, and Written
	// how far they would as written, in semitones.
	Movement, Written int
}

// Voice works out how the chords of a lane lie: as written, or with the least movement
// around the round.
func Voice(lane *piece.Lane, key pitch.Key) Voiced {
	c := of(lane)
	out := Voiced{Steps: make([][]uint8, len(c.Steps))}
	var asWritten, plain [][]int
	for _, i := range inWindow(lane) {
		step := &c.Steps[i]
		if !step.On {
			continue
		}
		out.Order = append(out.Order, int(i))
		asWritten = append(asWritten, lift(c, key, step))
		plain = append(plain, locked(c, key, nil, c.Place(step)))
	}
	out.Held = make([]bool, len(out.Order))
	out.Written = chord.RoundMovement(asWritten)
	lying := asWritten
	if c.Voicing.Mode == "smooth" && len(plain) > 0 {
		plain[0] = asWritten[0] // octave and inversion are the first one's alone
		lying, out.Held = chord.Smooth(plain, rangeOf(c))
	}
	out.Movement = chord.RoundMovement(lying)
	for k, i := range out.Order {
		out.Steps[i] = folded(lying[k])
	}
	return out
}

func rangeOf(c *piece.Chords) chord.Range {
	return chord.Range{Low: c.Voicing.Low, High: c.Voicing.High, Keep: c.Voicing.Bass == "keep", Clear: c.Voicing.Clear}
}

// inWindow are the indexes of the steps of a round in the order of the window.
func inWindow(lane *piece.Lane) []int32 { return render.Active(lane) }

// locked are a palette chord's pitches after the lock, the first its lowest as written;
// two that meet are one.
func locked(c *piece.Chords, key pitch.Key, over *render.Chord, from *piece.PaletteChord) []int {
	out := make([]int, 0, len(from.Tones))
	for _, tone := range from.Tones {
		out = append(out, pitched.At(&c.Pitched, key, over, tone).Locked)
	}
	slices.Sort(out)
	return slices.Compact(out)
}

// lift is a step's chord as written: after the lock, its octave and its inversion.
func lift(c *piece.Chords, key pitch.Key, step *piece.ChordStep) []int {
	return raise(locked(c, key, nil, c.Place(step)), step)
}

func raise(pitches []int, step *piece.ChordStep) []int {
	for i := range pitches {
		pitches[i] += 12 * step.Octave
	}
	return chord.Invert(pitches, step.Inversion)
}

// over is a step's chord in a lane that listens to another one's chords.
func over(c *piece.Chords, key pitch.Key, sounding *render.Chord, step *piece.ChordStep) []uint8 {
	out := raise(locked(c, key, sounding, c.Place(step)), step)
	if c.Voicing.Mode == "smooth" {
		out, _ = rangeOf(c).Toward(out)
	}
	return folded(out)
}

// folded brings pitches into 0..127 by octaves; two that meet sound once.
func folded(pitches []int) []uint8 {
	out := make([]uint8, len(pitches))
	for i, p := range pitches {
		out[i] = uint8(pitch.Fold(p))
	}
	slices.Sort(out)
	return slices.Compact(out)
}
