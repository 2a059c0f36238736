package beat

import (
	"math"
	"math/big"
	"math/bits"
)

// MaxBars is the longest clip that is rendered, in bars.
const MaxBars = 1024

// Cycle says when lanes of different lengths meet again. Its numbers are exact
// and may be very large.
type Cycle struct {
	Full    *big.Int // least common multiple of the periods, in Time units
	Realign *big.Int // the first multiple of Full on a bar line, in Time units
	bar     Time
}

// Meet computes the cycle of lanes with these periods (those that are not
// positive are left out). Without any, the cycle is one bar.
func Meet(periods []*big.Int, bar Time) Cycle {
	full := big.NewInt(0)
	for _, period := range periods {
		if period.Sign() <= 0 {
			continue
		}
		if full.Sign() == 0 {
			full.Set(period)
		} else {
			full = Common(full, period)
		}
	}
	if full.Sign() == 0 {
		full.SetInt64(int64(bar))
	}
	return Cycle{Full: full, Realign: Common(full, big.NewInt(int64(bar))), bar: bar}
}

// Common is the least common multiple of two positive whole numbers.
func Common(a, b *big.Int) *big.Int {
	if a.IsInt64() && b.IsInt64() { // as most are: without the cost of large numbers
		x, y := a.Int64(), b.Int64()
		for y != 0 {
			x, y = y, x%y
		}
		if high, low := bits.Mul64(uint64(a.Int64()/x), uint64(b.Int64())); high == 0 && low <= math.MaxInt64 {
			return big.NewInt(int64(low))
		}
	}
	common := new(big.Int).GCD(nil, nil, a, b)
	return new(big.Int).Mul(new(big.Int).Div(a, common), b)
}

// Bars is the full cycle in bars as an exact fraction: "7" or "21/4".
func (c Cycle) Bars() string {
	return new(big.Rat).SetFrac(c.Full, big.NewInt(int64(c.bar))).RatString()
}

// RealignBars is the number of bars after which the lanes and the bar meet.
func (c Cycle) RealignBars() *big.Int {
	return new(big.Int).Div(c.Realign, big.NewInt(int64(c.bar)))
}

// Over tells whether a length of this cycle is more than MaxBars bars.
func (c Cycle) Over(length *big.Int) bool {
	return length.Cmp(big.NewInt(int64(c.bar)*MaxBars)) > 0
}

// MaxExact is the largest count of ticks that every reader of JSON holds exactly.
const MaxExact = 1 << 53

// ExportBig converts a length to ticks of an export resolution, rounded half up;
// nil when there are more than MaxExact.
func ExportBig(length *big.Int, resolution int) *int64 {
	unit := int64(Quarter) / int64(resolution)
	ticks := new(big.Int).Add(length, big.NewInt(unit/2))
	ticks.Div(ticks, big.NewInt(unit))
	if !ticks.IsInt64() || ticks.Int64() > MaxExact {
		return nil
	}
	out := ticks.Int64()
	return &out
}
