// Package budget bounds what one answer may cost. Whatever loops over musical time, steps or
// rounds counts its work against one budget while it works, and is ended where that is used
// up or where nobody waits for the answer any more.
//
// An answer has one Budget. Work that must leave something over for the rest of the answer
// gets a Part of it.
package budget

import (
	"fmt"
	"sync/atomic"
)

// Limits are what one answer may cost. A limit of 0 does not bound.
type Limits struct {
	// Work is in units of some tens of nanoseconds: a slot walked, a note made, a pair of
	// chords compared.
	Work int64
	// Events is how many notes, wheel positions and controller values may be made.
	Events int64
	// Memory is how many bytes may be held at a time, by estimate.
	Memory int64
	// Answer is how many bytes the answer may have.
	Answer int64
}

// Budget is what is left for one answer. It may be used by several goroutines at once. A nil
// Budget has no bound.
type Budget struct {
	left   atomic.Int64
	held   atomic.Int64
	limits Limits
	waits  func() error
	of     *Budget // what is spent here is spent there too; nil: nowhere
}

// New returns a budget of so many units of work. waits tells why nobody waits for the answer
// any more; nil: somebody always does.
func New(work int64, waits func() error) *Budget { return Of(Limits{Work: work}, waits) }

// Of returns a budget with limits.
func Of(limits Limits, waits func() error) *Budget {
	b := &Budget{limits: limits, waits: waits}
	b.left.Store(limits.Work)
	return b
}

// Part returns a budget of so many units of work that is a part of b: what is spent from it is
// spent from b as well, and it ends when b ends. A Part of a nil Budget is a budget of its own.
func (b *Budget) Part(work int64) *Budget {
	out := New(work, nil)
	if out.of = b; b != nil {
		out.limits.Events, out.limits.Memory, out.limits.Answer = b.limits.Events, b.limits.Memory, b.limits.Answer
	}
	return out
}

// Limits returns what the answer may cost as a whole. A nil Budget has no limits.
func (b *Budget) Limits() Limits {
	if b == nil {
		return Limits{}
	}
	return b.limits
}

// SpentError says that a budget is used up.
type SpentError struct{ Work int64 }

func (e *SpentError) Error() string {
	return fmt.Sprintf("this takes more work than one answer may (%d units); choose fewer bars, lanes or steps", e.Work)
}

// MemoryError says that an answer would hold more memory than one may.
type MemoryError struct{ Most int64 }

func (e *MemoryError) Error() string {
	return fmt.Sprintf("this takes more memory than one answer may (%d MB); choose fewer bars, lanes or steps", e.Most>>20)
}

// ended carries the error out of whatever was at work.
type ended struct{ error }

// Spend counts work, and ends what is at work where the budget is used up or nobody waits:
// Catch gives the error.
func (b *Budget) Spend(work int64) {
	for ; b != nil; b = b.of {
		if b.left.Add(-work) < 0 && b.limits.Work > 0 {
			panic(ended{&SpentError{b.limits.Work}})
		}
		if b.waits != nil {
			if err := b.waits(); err != nil {
				panic(ended{err})
			}
		}
	}
}

// Waits returns why nobody waits for the answer any more; nil: somebody does.
func (b *Budget) Waits() error {
	for ; b != nil; b = b.of {
		if b.waits != nil {
			if err := b.waits(); err != nil {
				return err
			}
		}
	}
	return nil
}

// Hold counts bytes that are held in memory until they are let go with a negative number, and
// ends what is at work where that is more than the answer may hold.
func (b *Budget) Hold(bytes int64) {
	for ; b != nil; b = b.of {
		if b.held.Add(bytes) > b.limits.Memory && b.limits.Memory > 0 && bytes > 0 {
			panic(ended{&MemoryError{b.limits.Memory}})
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
