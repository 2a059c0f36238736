package beat

import "math"

// Swing delays the second of each pair of grid steps and warps the time between
// evenly. Pairs count from each bar's start; where no whole pair is left in a bar
// or in the clip, time stays straight. The zero value and Percent 50 leave time
// alone.
//
// It may be scaled finer than by whole percents; positions are then cut down to the next
// unit of time, far below a tick, which moves none across the middle of one.
type Swing struct {
	Percent int  // 50..75: where the second of a pair falls, in % of the pair
	Fine    int  // 0..99: hundredths of a % more
	Grid    Time // one grid step, half a pair
	Bar     Time // length of a bar
	Length  Time // of the clip
}

// Scaled is a share of the swing, in %.
func (s Swing) Scaled(share int) Swing {
	late := 100*50 + (s.Percent-50)*share
	s.Percent, s.Fine = late/100, late%100
	return s
}

// None tells whether time stays as it is.
func (s *Swing) None() bool { return s.Percent <= 50 && s.Fine == 0 || s.Grid == 0 }

// second is where the second of a pair falls, in hundredths of a % of the pair.
func (s *Swing) second() Time { return Time(100*s.Percent + s.Fine) }

// pairAt finds the pair around a position, and until where pairs follow it; ok is false where
// time is straight.
func (s *Swing) pairAt(t Time) (start, until Time, ok bool) {
	if s.None() || t < 0 || t >= s.Length {
		return 0, 0, false
	}
	bar := t - t%s.Bar
	start, until = t-(t-bar)%(2*s.Grid), min(bar+s.Bar, s.Length)
	return start, until, start+2*s.Grid <= until
}

// Warp moves a position. It is exact for positions that are a whole number of
// 400ths of a grain, as every onset and note end is before swing.
func (s Swing) Warp(t Time) Time {
	w := Warper{Swing: s}
	return w.Warp(t)
}

// full is the whole of a pair, in hundredths of a %.
const full = 100 * 100

// Warper warps positions one after another, and is quick where they lie near each
// other.
type Warper struct {
	Swing      Swing
	start, end Time // of the pair or the straight run around the last position
	until      Time // pairs follow up to here
	straight   bool
}

// Warp moves a position, as Swing.Warp does.
func (w *Warper) Warp(t Time) Time {
	if w.Swing.None() {
		return t
	}
	if t < w.start || t >= w.end {
		pair := 2 * w.Swing.Grid
		if !w.straight && t >= w.end && t < w.end+pair && w.end+pair <= w.until { // the next one
			w.start, w.end = w.end, w.end+pair
		} else if start, until, ok := w.Swing.pairAt(t); ok {
			w.start, w.end, w.until, w.straight = start, start+pair, until, false
		} else {
			w.start, w.end, w.straight = t, t+1, true
		}
	}
	if w.straight {
		return t
	}
	within, first := t-w.start, w.Swing.second()
	if within < w.Swing.Grid {
		return w.start + within*first/(full/2)
	}
	return w.start + (2*w.Swing.Grid*first+2*(within-w.Swing.Grid)*(full-first))/full
}

// Stretch is a run of swung time that runs evenly in straight time.
type Stretch struct {
	At, End  Time // swung
	straight Time // where At was
	num, den Time // straight time runs num for every den of swung time
}

// Straight is where a position of the stretch was before swing.
func (s *Stretch) Straight(t Time) Time {
	if s.num == s.den {
		return s.straight + t - s.At
	}
	return s.straight + (t-s.At)*s.num/s.den
}

// Later is the stretch moved in time.
func (s Stretch) Later(by Time) Stretch {
	s.At += by
	if s.End != math.MaxInt64 {
		s.End += by
	}
	return s
}

// Pace is how much straight time passes in one unit of swung time.
func (s *Stretch) Pace() float64 { return float64(s.num) / float64(s.den) }

// Warp is where a straight position falls, as long as that is in the stretch.
func (s *Stretch) Warp(straight Time) Time {
	if s.num == s.den {
		return s.At + straight - s.straight
	}
	return s.At + (straight-s.straight)*s.den/s.num
}

// StretchAt is the stretch around a swung position.
func (s Swing) StretchAt(t Time) Stretch {
	start, _, ok := s.pairAt(t)
	if ok {
		first := s.second()
		second := start + 2*s.Grid*first/full
		if t < second {
			return Stretch{start, second, start, full / 2, first}
		}
		return Stretch{second, start + 2*s.Grid, start + s.Grid, full / 2, full - first}
	}
	if s.None() {
		return Stretch{t, math.MaxInt64, t, 1, 1}
	}
	return Stretch{t, t + s.Bar - t%s.Bar, t, 1, 1}
}
