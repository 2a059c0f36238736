package render

import (
	"runtime"
	"slices"
	"sync"
	"sync/atomic"

	"agrimony/internal/core/piece"
)

// turn is a lane's turn to be played.
type turn struct {
	lane  int
	depth int             // how many lanes stand behind it, one needing the next
	done  chan struct{}   // closed once it has been played
	after []chan struct{} // those of the lanes that it needs
}

// inTurn puts the lanes that are wanted, and those that they need, in an order in which
// each comes after those that it needs, and as far after as can be: whoever plays it
// seldom waits for another.
func inTurn(clip *piece.Clip, wanted []bool) []turn {
	index := map[string]int{}
	for i := range clip.Lanes {
		index[clip.Lanes[i].ID] = i
	}
	placed := make([]*turn, len(clip.Lanes))
	var place func(i int) *turn
	place = func(i int) *turn {
		if placed[i] != nil {
			return placed[i]
		}
		own := &turn{lane: i, done: make(chan struct{})}
		placed[i] = own
		if leaning, ok := clip.Lanes[i].Content.(piece.Leaning); ok {
			for _, need := range leaning.Needs() { // in no circle, or it would not have been read
				other := place(index[need.Lane])
				own.depth = max(own.depth, other.depth+1)
				own.after = append(own.after, other.done)
			}
		}
		return own
	}
	for i, want := range wanted {
		if want {
			place(i)
		}
	}
	out := make([]turn, 0, len(placed))
	for _, t := range placed {
		if t != nil {
			out = append(out, *t)
		}
	}
	slices.SortStableFunc(out, func(a, b turn) int { return a.depth - b.depth })
	return out
}

// Needed are the lanes that are wanted and those that they are played from, by their places in the clip.
func Needed(clip *piece.Clip, wanted []bool) (out []int) {
	for _, t := range inTurn(clip, wanted) {
		out = append(out, t.lane)
	}
	return out
}

// AtOnce does n pieces of work that do not touch each other, on all processors. A panic in one
// of them is the caller's.
func AtOnce(n int, work func(int)) {
	if n == 1 {
		work(0)
		return
	}
	var next atomic.Int64
	var group sync.WaitGroup
	var problem atomic.Pointer[any]
	for range min(n, runtime.GOMAXPROCS(0)) {
		group.Go(func() {
			defer func() {
				if broken := recover(); broken != nil {
					problem.CompareAndSwap(nil, &broken)
				}
			}()
			for k := int(next.Add(1)) - 1; k < n; k = int(next.Add(1)) - 1 {
				work(k)
			}
		})
	}
	group.Wait()
	if broken := problem.Load(); broken != nil {
		panic(*broken)
	}
}
