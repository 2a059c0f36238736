package server

import (
	"context"
	"slices"
	"sync"
)

// A queue lets so many requests work at once and lets the others wait. It is fair to pieces:
// those that wait take turns piece by piece, and no piece has more than one place at a time,
// so that a piece that asks for much holds up itself alone.
type queue struct {
	mutex   sync.Mutex
	free    int
	busy    map[string]bool            // pieces that have a place
	waiting map[string][]chan struct{} // by piece, in the order in which they came
	turns   []string                   // pieces that wait, the one whose turn is next first
}

func newQueue(places int) *queue {
	return &queue{free: places, busy: map[string]bool{}, waiting: map[string][]chan struct{}{}}
}

// enter waits for a place for a piece. The error is that of a context that ended first.
func (q *queue) enter(ctx context.Context, piece string) (leave func(), err error) {
	if err := ctx.Err(); err != nil {
		return nil, err
	}
	called := make(chan struct{})
	q.mutex.Lock()
	if len(q.waiting[piece]) == 0 {
		q.turns = append(q.turns, piece)
	}
	q.waiting[piece] = append(q.waiting[piece], called)
	q.call()
	q.mutex.Unlock()
	leave = sync.OnceFunc(func() { q.leave(piece) })
	select {
	case <-called:
		return leave, nil
	case <-ctx.Done():
		if !q.giveUp(piece, called) {
			leave() // it was called meanwhile
		}
		return nil, ctx.Err()
	}
}

// call gives free places to those whose turn it is. The mutex is held.
func (q *queue) call() {
	for q.free > 0 {
		i := slices.IndexFunc(q.turns, func(piece string) bool { return !q.busy[piece] })
		if i < 0 {
			return
		}
		piece := q.turns[i]
		first := q.waiting[piece][0]
		q.take(piece, i, 0)
		if len(q.waiting[piece]) > 0 { // the others of it come after all other pieces
			q.turns = append(slices.Delete(q.turns, i, i+1), piece)
		}
		q.free--
		q.busy[piece] = true
		close(first)
	}
}

// take takes one that waits out of the line of its piece, and the piece out of the turns where
// nobody of it waits any more.
func (q *queue) take(piece string, turn, place int) {
	if q.waiting[piece] = slices.Delete(q.waiting[piece], place, place+1); len(q.waiting[piece]) == 0 {
		delete(q.waiting, piece)
		q.turns = slices.Delete(q.turns, turn, turn+1)
	}
}

// giveUp reports whether one that no longer waits was still waiting.
func (q *queue) giveUp(piece string, called chan struct{}) bool {
	q.mutex.Lock()
	defer q.mutex.Unlock()
	place := slices.Index(q.waiting[piece], called)
	if place < 0 {
		return false
	}
	q.take(piece, slices.Index(q.turns, piece), place)
	return true
}

func (q *queue) leave(piece string) {
	q.mutex.Lock()
	defer q.mutex.Unlock()
	q.free++
	delete(q.busy, piece)
	q.call()
}
