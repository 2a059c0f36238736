package intake_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"agrimony/internal/core/intake"
)

// As many voices as there are notes that sound at some onset; a note without a length sounds at its own.
func TestVoicesAreTheNotesThatSoundAtOnce(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		notes := make([]intake.Note, rapid.IntRange(0, 12).Draw(t, "notes"))
		for i := range notes {
			notes[i] = intake.Note{At: rapid.IntRange(0, 8).Draw(t, "at"), Length: rapid.IntRange(0, 4).Draw(t, "length")}
		}
		most := 0
		for i := range notes {
			at, count := notes[i].At, 0
			for _, n := range notes {
				if n.At <= at && (n.End() > at || n.At == at) {
					count++
				}
			}
			most = max(most, count)
		}
		assert.Equal(t, most, intake.Voices(notes), "%v", notes)
	})
}
