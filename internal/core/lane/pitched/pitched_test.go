package pitched_test

import (
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"agrimony/internal/core/lane/pitched"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// What a lane must hold to sound at a place of the key sounds there, wherever its roots lie.
func TestWhatIsEnteredSoundsWhereItWasEntered(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		key, err := pitch.ParseKey(rapid.SampledFrom([]string{"C major", "F# dorian", "Ab harmonic minor", "B lydian", "Eb natural minor"}).Draw(t, "key"))
		require.NoError(t, err)
		own := &piece.Pitched{Octave: 3, Lock: "off", Snap: "nearest", Follow: "root", Roots: rapid.SampledFrom(piece.Roots).Draw(t, "roots")}
		chord := &render.Chord{RootDegree: rapid.IntRange(1, key.Size()).Draw(t, "root"), RootAlter: rapid.IntRange(-1, 1).Draw(t, "alter")}
		at := pitch.Place{Degree: rapid.IntRange(1, key.Size()).Draw(t, "degree"), Octave: rapid.IntRange(-1, 1).Draw(t, "octave")}
		held := pitched.Uncounted(own, key, chord, at)
		require.Equal(t, key.Pitch(at, own.Octave), int(pitched.At(own, key, chord, held).Pitch))
	})
}
