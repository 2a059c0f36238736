package render

import (
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
)

// placed is a step's pitch on its way through the rules.
type placed struct {
	degree int16 // the unaltered degree's MIDI pitch
	raw    int16 // altered
	locked int16 // after the lock
	pitch  uint8 // folded into 0..127
	alter  int8  // left after the lock; decides the spelling
}

// place works out the pitch of every step of a lane: its degree, its
// alteration, the lock, the fold.
//
// Lock chord and follow root count from the sounding chord. A clip without a
// chords lane has none, and the lane then keeps to the scale and the key.
func place(lane *piece.Lane, key pitch.Key) []placed {
	out := make([]placed, len(lane.Steps))
	for i := range lane.Steps {
		out[i] = placeOne(lane, key, lane.Steps[i].Place())
	}
	return out
}

func placeOne(lane *piece.Lane, key pitch.Key, at pitch.Place) placed {
	raw := key.Pitch(at, lane.Octave)
	p := placed{degree: int16(raw - at.Alter), raw: int16(raw), alter: int8(at.Alter)}
	locked := raw
	if lane.Lock != "off" {
		locked = key.Snap(raw, pitch.Snap(lane.Snap))
		p.alter = 0
	}
	p.locked = int16(locked)
	p.pitch = uint8(pitch.Fold(locked))
	return p
}

// StepPitches are the MIDI pitches at which a lane's steps sound.
func StepPitches(lane *piece.Lane, key pitch.Key) []int {
	out := make([]int, len(lane.Steps))
	for i, p := range place(lane, key) {
		out[i] = int(p.pitch)
	}
	return out
}

// SpellStep names the pitch at which a step sounds, in ASCII: "F#2".
func SpellStep(lane *piece.Lane, key pitch.Key, step *piece.Step) string {
	p := placeOne(lane, key, step.Place())
	return key.Spell(int(p.pitch), int(p.alter)).In(int(p.pitch))
}
