package render

import (
	"math"
	"math/big"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/budget"
)

// PeriodWork is what working out when a clip's lanes meet may cost.
func PeriodWork() *budget.Budget { return budget.New(periodWork, nil) }

const periodWork = 1_500_000

// mostForPeriods is how many notes lanes are played for to find their periods.
const mostForPeriods = 300_000

// longest is how far ahead lanes are looked at for their periods, in bars: a lane of a longer
// one meets no other within what can be rendered.
const longest = beat.MaxBars

// sums is what the periods of a clip's lanes are worked out from, once for all of them.
type sums struct {
	meter  *meter
	clocks map[string]*Clocking
	chords *Harmony
	until  beat.Time // as far as chords are known
}

func newSums(work *budget.Budget) *sums {
	return &sums{meter: &meter{ration: &ration{budget: work, most: mostForPeriods}}, clocks: map[string]*Clocking{}}
}

// within does work that counts against what periods may cost; false: it takes too much.
func (s *sums) within(work func()) (done bool) {
	defer func() {
		problem := recover()
		_, over := problem.(overEvents)
		if _, ended := budget.Ended(problem); problem != nil && !over && !ended {
			panic(problem)
		}
		done = problem == nil
	}()
	s.meter.made, s.meter.keeping = 0, 0
	s.meter.ration.kept.Store(0)
	work()
	s.meter.report()
	return true
}

// Clocking is how another lane clocks a pattern: its period, and the moments in it, from 0 on,
// once ties over the seam have settled. Chance does not count: all steps that may sound are
// taken to. Known is false where the moments were too many to look at.
type Clocking struct {
	Period  *big.Int
	Moments []beat.Time
	Known   bool
}

// Clocking works out how a lane clocks this one.
func (in *Input) Clocking(id string) *Clocking {
	if known := in.sums.clocks[id]; known != nil {
		return known
	}
	out := &Clocking{Period: new(big.Int), Known: true}
	in.sums.clocks[id] = out
	counted := *in
	counted.meter = in.sums.meter
	other := counted.beside(id, 1)
	out.Period = other.Part.kind.Period(other)
	if out.Period.Sign() == 0 {
		return out
	}
	length, ok := within(out.Period, in.Piece.Bar())
	out.Known = ok && in.sums.within(func() {
		listener := &Input{Frame: in.Frame, Piece: in.Piece, Clip: in.Clip, meter: in.sums.meter,
			Played: func(id string) *Part { return counted.beside(id, 2*length).heard() }}
		for _, m := range listener.Moments(id) {
			if m.At >= length {
				out.Moments = append(out.Moments, m.At-length)
			}
		}
	})
	return out
}

// within is a period that is short enough to be looked at.
func within(period *big.Int, bar beat.Time) (beat.Time, bool) {
	if !period.IsInt64() || period.Int64() > int64(bar)*longest {
		return 0, false
	}
	return beat.Time(period.Int64()), true
}

// Unfolded are the slots of two periods of a lane, by its rate or by the moments of a clocking
// (nil: none), and how long one is; false: they are too many to look at.
func (in *Input) Unfolded(period *big.Int, clocking *Clocking) (slots []Slot, length beat.Time, ok bool) {
	length, ok = within(period, in.Piece.Bar())
	if !ok || clocking != nil && !clocking.Known {
		return nil, 0, false
	}
	counted := *in
	counted.meter = in.sums.meter
	ok = in.sums.within(func() {
		if clocking == nil {
			in.Pattern.Each(2*length, func(s Slot) bool {
				counted.Worked(2)
				counted.Kept(1)
				slots = append(slots, s)
				return true
			})
			return
		}
		var moments []Moment
		each := beat.Time(clocking.Period.Int64())
		for begin := beat.Time(0); begin < 2*length; begin += each {
			counted.Worked(len(clocking.Moments))
			counted.Kept(len(clocking.Moments))
			for _, at := range clocking.Moments {
				moments = append(moments, Moment{begin + at, 1})
			}
		}
		slots, _ = counted.OnMoments(moments, beat.Time(in.Lane.Restart)*in.Piece.Bar())
	})
	return slots, length, ok
}

// Listening is the period of a lane of its own pattern that listens to the harmony, or
// does not.
func (in *Input) Listening(listens bool) *big.Int {
	return in.Hearing(in.Pattern.Period(), listens)
}

// Hearing is a period together with that of the harmony, where it is listened to.
func (in *Input) Hearing(own *big.Int, listens bool) *big.Int {
	if !listens || own.Sign() == 0 || !in.ChordChanges(false) {
		return own
	}
	theirs := in.harmonic.period()
	if theirs.Sign() == 0 {
		return own
	}
	return beat.Common(own, theirs)
}

// ChordChanges tells whether the sounding chord ever changes, or, where that matters, how it
// lies.
func (in *Input) ChordChanges(lying bool) bool {
	h := in.harmonic
	return h != nil && h.in.Part.kind.(Harmonic).Changes(h.in, lying)
}

// period is that of the chords: what modulates how hard or long they sound does not count.
func (h *Harmony) period() *big.Int {
	return h.in.Pattern.Modulated(h.in.Pattern.OwnPeriod(), h.in.Part.kind.(Harmonic).Moving()...)
}

// HarmonyPeriod is the period of the chords' pattern; 0 without harmony.
func (in *Input) HarmonyPeriod() *big.Int {
	if in.harmonic == nil {
		return new(big.Int)
	}
	return in.harmonic.period()
}

// ChordsUntil works out the chords up to a length; nil without, and where they are too many to
// look at.
func (in *Input) ChordsUntil(length beat.Time) *Harmony {
	if in.harmonic == nil || in.sums == nil {
		return nil
	}
	if in.sums.until < length {
		frame := Frame{Key: in.Piece.KeyOf(in.Clip), Bar: in.Piece.Bar(), Length: length, PPQ: DefaultPPQ}
		h, inner := *in.harmonic, *in.harmonic.in
		inner.Frame, inner.meter, h.in = &frame, in.sums.meter, &inner
		if in.sums.until = length; !in.sums.within(func() { in.sums.chords = h.fill() }) {
			in.sums.chords, in.sums.until = nil, math.MaxInt64
		}
	}
	return in.sums.chords
}
