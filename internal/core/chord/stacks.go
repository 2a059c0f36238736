package chord

import (
	"slices"

	"agrimony/internal/core/pitch"
)

// StackKind is a kind of chord on a degree: scale degrees above it.
type StackKind struct {
	Name  string
	Above []int
}

// Stacks are the chords that a degree is given by name. To add one, add a row.
var Stacks = []StackKind{
	{"triad", []int{0, 2, 4}}, {"7", []int{0, 2, 4, 6}}, {"9", []int{0, 2, 4, 6, 8}}, {"11", []int{0, 2, 4, 6, 8, 10}}, {"13", []int{0, 2, 4, 6, 8, 10, 12}},
	{"sus2", []int{0, 1, 4}}, {"sus4", []int{0, 3, 4}}, {"add6", []int{0, 2, 4, 5}}, {"add9", []int{0, 2, 4, 8}},
}

// Scale steps above a chord's root at which its tones stand.
const (
	third    = 2
	fifth    = 4
	ninth    = 8
	eleventh = 10
)

// On are the scale degrees above a degree (from 1) of a key that players strike of the chord there. Of elevenths and
// thirteenths they leave out what clashes or says nothing: the eleventh of a thirteenth, the third of an
// eleventh where both stand a semitone apart, a ninth a semitone over the root of a minor chord, and, where the ninth
// is there, a perfect fifth. In scales that have not seven notes all tones are struck.
func (s StackKind) On(key pitch.Key, degree int) []int {
	if len(s.Above) < 6 || key.Size() != 7 {
		return s.Above
	}
	minor := above(key, degree, third) == 3
	dark := minor && above(key, degree, ninth) == 13
	perfect := above(key, degree, fifth) == 7
	return slices.DeleteFunc(slices.Clone(s.Above), func(at int) bool {
		switch at {
		case third:
			return s.Name == "11" && !minor && above(key, degree, eleventh) == 17
		case fifth:
			return perfect && !dark && (s.Name == "13" || minor)
		case ninth:
			return dark
		case eleventh:
			return s.Name == "13"
		}
		return false
	})
}
