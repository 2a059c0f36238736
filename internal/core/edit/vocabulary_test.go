package edit_test

import (
	"errors"
	"math/rand/v2"
	"os"
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/budget"
	"agrimony/internal/core/edit"
	"agrimony/internal/core/edit/edittest"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/piece/piecetest"
)

// Every edit can be made up, and is taken now and then: tests that range over all of them
// range over what is added, too. What comes of them is a piece that can be read, and what they
// refuse is said with its place.
func TestTheWholeVocabularyIsMadeUp(t *testing.T) {
	require.Equal(t, op.Names(), edittest.Names())
	random := rand.New(rand.NewPCG(3, 8))
	taken := map[string]int{}
	p := edittest.Start()
	for round := 0; round < 30 || len(taken) < len(op.Names()) && round < 120; round++ {
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
			checkedWhole(t, next, name)
			p = next
		}
	}
	for _, name := range op.Names() {
		assert.Positive(t, taken[name], "%s was never taken", name)
	}
}

// No edit fails over a document that has much of everything: it gives a piece that can be read, or says what is wrong.
func TestEditsOfDocumentsWithMuchOfEverything(t *testing.T) {
	taken := map[string]int{}
	for seed := range uint64(documents()) {
		random := rand.New(rand.NewPCG(seed, 8))
		p, err := piece.Read([]byte(piecetest.Heavy(random.IntN, 9000)))
		require.NoError(t, err)
		for range 12 {
			name := op.Names()[random.IntN(len(op.Names()))]
			made, ok := edittest.Maker{Piece: p, Pick: random.IntN}.Of(name)
			if !ok {
				continue
			}
			next, err := edit.ApplyWithin(p, []op.Op{made}, budget.New(2_000_000, nil))
			var fault *piece.Fault
			var spent *budget.SpentError
			if err != nil {
				require.True(t, errors.As(err, &fault) || errors.As(err, &spent), "seed %d, %s: %v", seed, name, err)
				continue
			}
			taken[name]++
			_, err = piece.Read(piece.Write(next))
			require.NoError(t, err, "seed %d, %s", seed, name)
			checkedWhole(t, next, name)
		}
	}
	assert.Greater(t, len(taken), len(op.Names())/3)
}

// documents is how many documents the search goes through: 60, or as many as DOCUMENTS says.
func documents() int {
	if n, err := strconv.Atoi(os.Getenv("DOCUMENTS")); err == nil {
		return n
	}
	return 60
}

// checkedWhole holds what an edit gives, of which only what it changed was checked, to the whole check.
func checkedWhole(t *testing.T, p *piece.Piece, name string) {
	whole := p.Clone()
	require.NoError(t, piece.Check(whole), name)
	require.Equal(t, string(piece.Write(whole)), string(piece.Write(p)), name)
}
