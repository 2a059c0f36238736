package beat

// Swing delays the second of each pair of grid steps and warps the time between
// evenly. The zero value and Percent 50 leave time alone.
type Swing struct {
	Percent int  // 50..75: where the second of a pair falls, in % of the pair
	Grid    Time // one grid step, half a pair
}

// Warp moves a position. It is exact for positions that are a whole number of
// 400ths of a tick, as every onset and note end is before swing.
func (s Swing) Warp(t Time) Time {
	if s.Percent <= 50 || s.Grid == 0 || t < 0 {
		return t
	}
	pair := 2 * s.Grid
	start := t - t%pair
	within := t - start
	first := Time(s.Percent)
	if within < s.Grid {
		return start + within*first/50
	}
	return start + pair*first/100 + (within-s.Grid)*(100-first)/50
}
