package render

import "agrimony/internal/core/pitch"

// Sound is what a step sounds: MIDI pitches, sorted, and what they are called, "F#2" or
// "F#m7".
type Sound struct {
	Pitches []int
	Name    string
}

// OneSound is a single note.
func OneSound(key pitch.Key, p int) Sound { return Sound{[]int{p}, key.Named(p)} }
