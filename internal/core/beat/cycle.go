package beat

import "math/big"

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
func Meet(periods []Time, bar Time) Cycle {
	full := big.NewInt(0)
	for _, period := range periods {
		if period <= 0 {
			continue
		}
		if full.Sign() == 0 {
			full.SetInt64(int64(period))
		} else {
			full = lcm(full, big.NewInt(int64(period)))
		}
	}
	if full.Sign() == 0 {
		full.SetInt64(int64(bar))
	}
	return Cycle{Full: full, Realign: lcm(full, big.NewInt(int64(bar))), bar: bar}
}

func lcm(a, b *big.Int) *big.Int {
	common := new(big.Int).GCD(nil, nil, a, b)
	return new(big.Int).Mul(new(big.Int).Div(a, common), b)
}

// LCM is the least common multiple of two positive whole numbers.
func LCM(a, b int) int {
	x, y := a, b
	for y != 0 {
		x, y = y, x%y
	}
	return a / x * b
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

// ExportTicks is the full cycle in ticks of an export resolution; exact.
func (c Cycle) ExportTicks(resolution int) *big.Int {
	return new(big.Int).Div(c.Full, big.NewInt(int64(Quarter)/int64(resolution)))
}
