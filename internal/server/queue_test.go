package server

import (
	"context"
	"runtime"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func TestPiecesTakeTurns(t *testing.T) {
	q := newQueue(1)
	leave, err := q.enter(t.Context(), "busy")
	require.NoError(t, err)
	order := make(chan string, 5)
	var group sync.WaitGroup
	line := func() (n int) {
		q.mutex.Lock()
		defer q.mutex.Unlock()
		for _, own := range q.waiting {
			n += len(own)
		}
		return n
	}
	for i, piece := range []string{"busy", "busy", "busy", "light"} {
		group.Go(func() {
			leave, err := q.enter(context.Background(), piece)
			assert.NoError(t, err)
			order <- piece
			leave()
		})
		for line() <= i { // until it stands in line
			runtime.Gosched()
		}
	}
	leave()
	group.Wait()
	close(order)
	var got []string
	for piece := range order {
		got = append(got, piece)
	}
	assert.Equal(t, []string{"busy", "light", "busy", "busy"}, got, "the light one waits for one of the busy piece, not for all")
}

func TestAPieceHasOnePlaceAtATime(t *testing.T) {
	q := newQueue(2)
	leave, err := q.enter(t.Context(), "a")
	require.NoError(t, err)
	gone, cancel := context.WithCancel(t.Context())
	cancel()
	_, err = q.enter(gone, "a")
	assert.ErrorIs(t, err, context.Canceled, "who waits may leave")
	other, err := q.enter(t.Context(), "b")
	require.NoError(t, err, "another piece has the other place")
	other()
	leave()
	leave() // leaving twice frees one place
	assert.Equal(t, 2, q.free)
	assert.Empty(t, q.turns)
	assert.Empty(t, q.waiting)
}

// However requests come, leave and give up, no more work than there are places, none of one piece
// at once, and at the end all places are free.
func TestAQueueKeepsItsPlaces(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		places := rapid.IntRange(1, 3).Draw(t, "places")
		q := newQueue(places)
		var mutex sync.Mutex
		at, most := map[string]int{}, 0
		var group sync.WaitGroup
		for range rapid.IntRange(1, 12).Draw(t, "requests") {
			piece := rapid.SampledFrom([]string{"a", "b", "c"}).Draw(t, "piece")
			givesUp := rapid.Bool().Draw(t, "gives up")
			group.Go(func() {
				ctx, cancel := context.WithCancel(context.Background())
				defer cancel()
				if givesUp {
					go cancel()
				}
				leave, err := q.enter(ctx, piece)
				if err != nil {
					return
				}
				mutex.Lock()
				at[piece]++
				working := 0
				for _, n := range at {
					working += n
				}
				most = max(most, working)
				if at[piece] > 1 {
					t.Errorf("%d of %s at once", at[piece], piece)
				}
				mutex.Unlock()
				mutex.Lock()
				at[piece]--
				mutex.Unlock()
				leave()
			})
		}
		group.Wait()
		assert.LessOrEqual(t, most, places)
		assert.Equal(t, places, q.free)
		assert.Empty(t, q.turns)
		assert.Empty(t, q.waiting)
		assert.Empty(t, q.busy)
	})
}
