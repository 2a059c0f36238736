package server

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestAGateLetsAFewInAndTheOthersGo(t *testing.T) {
	g := newGate(maxAtOnce)
	var leave func()
	for range maxAtOnce {
		var err error
		leave, err = g.enter(context.Background())
		require.NoError(t, err)
	}
	gone, cancel := context.WithCancel(context.Background())
	cancel()
	_, err := g.enter(gone)
	assert.ErrorIs(t, err, context.Canceled, "who waits outside may leave")
	leave()
	_, err = g.enter(context.Background())
	assert.NoError(t, err, "a place that is left is free")
}
