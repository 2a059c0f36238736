package edit_test

import (
	"errors"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/edit"
	"agrimony/internal/core/edit/edittest"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
)

// Every edit can be made up, and is taken now and then: tests that range over all of them
// range over what is added, too. What comes of them is a piece that can be read, and what they
// refuse is said with its place.
func TestTheWholeVocabularyIsMadeUp(t *testing.T) {
	require.Equal(t, op.Names(), edittest.Names())
	random := rand.New(rand.NewPCG(3, 8))
	taken := map[string]int{}
	p := edittest.Start()
	for round := range 36 {
		if round%3 == 0 {
			p = edittest.Start()
		}
		for _, name := range op.Names() {
			made, ok := edittest.Maker{Piece: p, Pick: random.IntN}.Of(name)
			if !ok {
				continue
			}
			before := string(piece.Write(p))
			next, err := edit.Apply(p, []op.Op{made})
			require.Equal(t, before, string(piece.Write(p)), "%s leaves the piece given alone", name)
			if err != nil {
				var fault *piece.Fault
				require.True(t, errors.As(err, &fault), "%s: %v", name, err)
				continue
			}
			taken[name]++
			_, err = piece.Read(piece.Write(next))
			require.NoError(t, err, name)
			p = next
		}
	}
	for _, name := range op.Names() {
		assert.Positive(t, taken[name], "%s was never taken", name)
	}
}
