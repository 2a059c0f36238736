package server

import (
	"context"
)

// What an answer may cost, in units of package budget: an edit and a file. A file has
// fewer events than the command line writes: many are waiting here, one there.
const (
	editWork   = 25_000_000
	fileWork   = 40_000_000
	fileEvents = 600_000
	// The running order is many clips.
	orderWork   = 150_000_000
	orderEvents = 1_200_000
)

// gate lets a few in at once; the others wait outside, as long as they like to.
type gate chan struct{}

// maxAtOnce is how many large pieces of work of one sort are done at once: each
// uses all processors, and its memory is the bound of one.
const maxAtOnce = 1

func newGate(places int) gate { return make(gate, places) }

// enter waits for a place. The error is that of a context that ended first.
func (g gate) enter(ctx context.Context) (leave func(), err error) {
	select {
	case g <- struct{}{}:
		return func() { <-g }, nil
	case <-ctx.Done():
		return nil, ctx.Err()
	}
}
