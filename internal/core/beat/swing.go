package beat

import "math"

// Swing delays the second of each pair of grid steps and warps the time between
// evenly. Pairs count from each bar's start; where no whole pair is left in a bar
// or in the clip, time stays straight. The zero value and Percent 50 leave time
// alone.
type Swing struct {
	Percent int  // 50..75: where the second of a pair falls, in % of the pair
	Grid    Time // one grid step, half a pair
	Bar     Time // length of a bar
	Length  Time // of the clip
}

// pairAt finds the pair around a position; ok is false where time is straight.
func (s Swing) pairAt(t Time) (start Time, ok bool) {
	if s.Percent <= 50 || s.Grid == 0 || t < 0 || t >= s.Length {
		return 0, false
	}
	bar := t - t%s.Bar
	start = t - (t-bar)%(2*s.Grid)
	return start, start+2*s.Grid <= min(bar+s.Bar, s.Length)
}

// Warp moves a position. It is exact for positions that are a whole number of
// 400ths of a tick, as every onset and note end is before swing.
func (s Swing) Warp(t Time) Time {
	w := Warper{Swing: s}
	return w.Warp(t)
}

// Warper warps positions one after another, and is quick where they lie near each
// other.
type Warper struct {
	Swing      Swing
	start, end Time // of the pair or the straight run around the last position
	straight   bool
}

// Warp moves a position, as Swing.Warp does.
func (w *Warper) Warp(t Time) Time {
	if w.Swing.Percent <= 50 || w.Swing.Grid == 0 {
		return t
	}
	if t < w.start || t >= w.end {
		start, ok := w.Swing.pairAt(t)
		w.straight = !ok
		if w.start, w.end = start, start+2*w.Swing.Grid; !ok {
			w.start, w.end = t, t+1
		}
	}
	if w.straight {
		return t
	}
	within, first := t-w.start, Time(w.Swing.Percent)
	if within < w.Swing.Grid {
		return w.start + within*first/50
	}
	return w.start + 2*w.Swing.Grid*first/100 + (within-w.Swing.Grid)*(100-first)/50
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
	start, ok := s.pairAt(t)
	if ok {
		first := Time(s.Percent)
		second := start + 2*s.Grid*first/100
		if t < second {
			return Stretch{start, second, start, 50, first}
		}
		return Stretch{second, start + 2*s.Grid, start + s.Grid, 50, 100 - first}
	}
	if s.Percent <= 50 || s.Grid == 0 {
		return Stretch{t, math.MaxInt64, t, 1, 1}
	}
	return Stretch{t, t + s.Bar - t%s.Bar, t, 1, 1}
}
