// Package budget bounds what one answer may cost. Whatever loops over musical time, steps or
// rounds counts its work against one budget while it works, and is ended where that is used
// up or where nobody waits for the answer any more.
package budget

import (
	"fmt"
	"sync/atomic"
)

// Budget is what is left for one answer. It may be used by several at once. A nil Budget has
// no bound.
type Budget struct {
	left  atomic.Int64
	whole int64
	waits func() error
}

// New is a budget of so many units of work (a slot walked, a note made, a pair of chords
// compared: some tens of nanoseconds each). waits tells why nobody waits for the answer any
// more; nil: somebody always does.
func New(work int64, waits func() error) *Budget {
	b := &Budget{whole: work, waits: waits}
	b.left.Store(work)
	return b
}

// SpentError says that a budget is used up.
type SpentError struct{ Work int64 }

func (e *SpentError) Error() string {
	return fmt.Sprintf("this takes more work than one answer may (%d units); choose fewer bars, lanes or steps", e.Work)
}

// ended carries the error out of whatever was at work.
type ended struct{ error }

// Spend counts work, and ends what is at work where the budget is used up or nobody waits:
// Catch gives the error.
func (b *Budget) Spend(work int64) {
	if b == nil {
		return
	}
	if b.left.Add(-work) < 0 {
		panic(ended{&SpentError{b.whole}})
	}
	if b.waits != nil {
		if err := b.waits(); err != nil {
			panic(ended{err})
		}
	}
}

// End ends what is at work with an error, for Catch.
func End(err error) { panic(ended{err}) }

// Ended tells whether what was recovered from a panic is such an end, and with what error.
func Ended(recovered any) (error, bool) {
	e, ok := recovered.(ended)
	return e.error, ok
}

// Catch is deferred by whoever began the work; it leaves other panics alone.
func Catch(err *error) {
	problem := recover()
	if problem == nil {
		return
	}
	ending, ok := Ended(problem)
	if !ok {
		panic(problem)
	}
	*err = ending
}
