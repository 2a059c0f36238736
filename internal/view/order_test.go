package view

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/pitch"
)

// A key on the keyboard moves a clip from its tonic by the shorter way, and is called as the clip's key spells it.
func TestKeysMoveAClipAlongItsScale(t *testing.T) {
	for _, row := range []struct {
		key, root string
		class, by int
	}{
		{"F# dorian", "F♯", 6, 0},
		{"F# dorian", "G♯", 8, 1},
		{"F# dorian", "C♯", 1, 4},
		{"F# dorian", "E", 4, -1},
		{"F# dorian", "E♯", 5, -1}, // outside: the degree below
		{"F# dorian", "G", 7, 0},
		{"Eb minor", "C♭", 11, -2},
		{"Eb minor", "G♭", 6, 2},
		{"C major", "G", 7, 4},
		{"C major", "A", 9, -2},
		{"A minor pentatonic", "G", 7, -1},
		{"A minor pentatonic", "E", 4, 3},
	} {
		key, err := pitch.ParseKey(row.key)
		require.NoError(t, err)
		assert.Equal(t, row.by, shifts(key)[row.class], "%s in %s", row.root, row.key)
		assert.Equal(t, row.root, roots(key)[row.class], "%s in %s", row.root, row.key)
	}
}
