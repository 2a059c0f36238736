package render

import (
	"cmp"
	"fmt"
	"runtime/debug"
	"slices"
	"sync"
	"sync/atomic"

	"agrimony/internal/core/budget"
)

// ration is what the lanes of one rendering have together: the events that they may make,
// and the budget of the answer that it is for.
type ration struct {
	budget *budget.Budget
	most   int64
	events atomic.Int64
	kept   atomic.Int64 // things in memory on the way

	mutex  sync.Mutex
	failed error
	ended  atomic.Bool
	by     map[string]int64 // the events of each lane, once some failed
}

// meter counts what one lane makes and how much work that is. A nil meter counts nothing.
type meter struct {
	*ration
	lane         string // its name
	events, work int64  // that are not reported yet
	made         int64
	keeping      int64 // that is not reported yet
	unheard      bool  // what it makes is only for other lanes to be played from
}

// overEvents ends a lane that makes more events than are left, or keeps more on the way.
type overEvents struct{ kept bool }

// perReport is after how much a meter reports, so that lanes at once seldom wait for each
// other.
const perReport = 2048

// Made counts events (notes, wheel positions, controller values) that the lane makes, before
// they are made where there are many.
func (in *Input) Made(events int) {
	if m := in.meter; m != nil {
		if m.events += int64(events); m.events >= perReport {
			m.report()
		}
	}
}

// Worked counts work that makes no events: slots walked, moments, chords.
func (in *Input) Worked(work int) {
	if m := in.meter; m != nil {
		if m.work += int64(work); m.work >= perReport {
			m.report()
		}
	}
}

// struck counts notes that the lane strikes. Those that layers over it are yet to choose from
// are work, and events once they are chosen.
func (in *Input) struck(notes int) {
	if in.reshape != nil {
		in.Worked(notes)
		in.Kept(notes)
		return
	}
	in.Made(notes)
}

// Kept counts what is kept in memory on the way and is no event: several times as much of it
// as of events may be, of all lanes together, whichever of them are played at a time.
func (in *Input) Kept(things int) {
	if m := in.meter; m != nil {
		m.keep(int64(things))
	}
}

func (m *meter) keep(things int64) {
	if m.keeping += things; m.keeping < perReport {
		return
	}
	things, m.keeping = m.keeping, 0
	if m.ration.kept.Add(things) > keptFor*m.most {
		panic(overEvents{kept: true})
	}
}

// keptFor is how many things may be kept in memory for each event that may be.
const keptFor = 2

// report counts what the lane has made and worked against the ration, and ends the lane where
// that is used up, or where another lane has failed.
func (m *meter) report() {
	made, work := m.events, m.events+m.work
	if m.unheard {
		m.keep(made)
		made = 0
	}
	m.made += made
	m.events, m.work = 0, 0
	total := m.ration.events.Add(made)
	if m.ended.Load() || total > m.most {
		panic(overEvents{})
	}
	m.budget.Spend(work)
}

// BrokenError says that a lane could not be played for a fault of the program's own.
type BrokenError struct {
	Lane    string // its name
	Problem string
	Stack   string
}

func (e *BrokenError) Error() string {
	return fmt.Sprintf("%q cannot be played, which is a fault of Agrimony's own (%s)", e.Lane, e.Problem)
}

// guard does a lane's work, and keeps the first error that ends one. Whatever goes wrong in
// it ends here.
func (r *ration) guard(lane string, m *meter, work func()) {
	defer func() {
		problem := recover()
		if problem == nil && !r.ended.Load() {
			problem = caught(m.report) // what is left to count
		}
		r.mutex.Lock()
		defer r.mutex.Unlock()
		r.by[lane] += m.made
		if problem == nil || r.failed != nil {
			return
		}
		r.ended.Store(true)
		if over, ok := problem.(overEvents); ok {
			r.failed = &TooManyError{Most: r.most, kept: over.kept}
		} else if err, ended := budget.Ended(problem); ended {
			r.failed = err
		} else {
			r.failed = &BrokenError{lane, fmt.Sprint(problem), string(debug.Stack())}
		}
	}()
	work()
}

func caught(work func()) (problem any) {
	defer func() { problem = recover() }()
	work()
	return nil
}

// largest is the lane that made most, and how many events all made.
func (r *ration) largest() (lane string, total int64) {
	var names []string
	for name, made := range r.by {
		names = append(names, name)
		total += made
	}
	slices.SortFunc(names, func(a, b string) int { return cmp.Or(-cmp.Compare(r.by[a], r.by[b]), cmp.Compare(a, b)) })
	if len(names) > 0 {
		lane = names[0]
	}
	return lane, total
}
