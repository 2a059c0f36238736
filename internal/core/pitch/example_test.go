package pitch_test

import (
	"fmt"

	"agrimony/internal/core/pitch"
)

// A step stores a degree; the key gives its pitch and its name.
func ExampleKey_Pitch() {
	key, err := pitch.ParseKey("F# dorian")
	if err != nil {
		panic(err)
	}
	p := key.Pitch(pitch.Place{Degree: 5, Octave: -1}, 2)
	fmt.Println(p, key.Named(p))
	// Output: 37 C#2
}

// A pitch that the key lacks is spelled as players expect, and can be snapped.
func ExampleKey_Snap() {
	key, err := pitch.ParseKey("C")
	if err != nil {
		panic(err)
	}
	fmt.Println(key.Named(58), "goes to", key.Named(key.Snap(58, pitch.Nearest)), "or", key.Named(key.Snap(58, pitch.Up)))
	// Output: Bb3 goes to A3 or B3
}

// The degrees of a scale against the major scale give both its sound and its
// spelling.
func ExampleNewKey() {
	scale, err := pitch.NewScale([]string{"1", "2", "b3", "#4", "5"})
	if err != nil {
		panic(err)
	}
	key, err := pitch.NewKey(pitch.Name{Letter: 2, Accidental: -1}, scale)
	if err != nil {
		panic(err)
	}
	fmt.Println(key.Names())
	// Output: [Eb F Gb A Bb]
}
