package pitched

import "agrimony/internal/core/pitch"

// BassLow is the lowest MIDI pitch at which a bass has its ground, the tonic or a chord's root: E1. The highest is D#2.
const BassLow = 28

// BassOctave is the octave of lanes that are as low as a bass, and of those below.
const BassOctave = 2

// BassPitch is the MIDI pitch of a pitch class at which a bass has its ground.
func BassPitch(class int) int { return BassLow + pitch.Mod(class-BassLow, semitones) }

// GroundOctave is the octave of a lane whose tonic lies where a bass has its ground.
func GroundOctave(key pitch.Key) int {
	tonic := key.Pitch(pitch.Place{Degree: 1}, 0)
	return (BassPitch(tonic) - tonic) / semitones
}
