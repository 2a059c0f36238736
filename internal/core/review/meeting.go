package review

import (
	"fmt"
	"math/big"
	"strings"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// meeting finds clips whose lanes do not meet within what can be rendered, and
// offers the smallest change of a step count that brings them together.
func meeting(l *look) {
	cycle := l.performance.Cycle()
	if !cycle.Over() {
		return
	}
	lane, count, bars := l.closest()
	var mend *render.Mend
	if lane != nil {
		mend = render.MendBy(
			fmt.Sprintf("Give %s %s: they meet after %s", lane.Name, render.Many(count, "step"), render.Many(int(bars), "bar")),
			op.ResizeLane{OnLane: l.on(lane), Count: count},
		)
	}
	l.add("realign", nil, 0, mend, "The lanes never meet on a bar within %d bars: that takes %s.", beat.MaxBars, brief(cycle.RealignBars().String()))
}

func brief(bars string) string {
	if len(bars) > 12 {
		return fmt.Sprintf("a number of bars with %d digits", len(bars))
	}
	return strings.TrimSpace(bars) + " bars"
}

// furthest is by how many steps a mend changes a lane at most.
const furthest = 8

// closest works out what small changes of one lane's step count come to, from the
// least common multiple of all other lanes' periods.
func (l *look) closest() (best *piece.Lane, count int, bars int64) {
	bar := big.NewInt(int64(l.performance.Bar))
	most := new(big.Int).Mul(bar, big.NewInt(beat.MaxBars))
	var lanes []*piece.Lane
	for i := range l.clip.Lanes {
		if !l.clip.Lanes[i].Mute && !render.Empty(l.piece, l.clip, &l.clip.Lanes[i]) { // as the cycle counts them
			lanes = append(lanes, &l.clip.Lanes[i])
		}
	}
	others := without(l.performance.Cycle().Periods, bar)
	distance := furthest + 1
	for i, lane := range lanes {
		steps := lane.Content.StepList()
		if steps == nil || lane.Window != nil || lane.Restart != 0 || others[i].Cmp(most) > 0 {
			continue
		}
		have := steps.Len()
		for _, by := range changes {
			n, far := have+by, max(by, -by)
			if n < 1 || n > piece.MaxSteps || far > distance {
				continue
			}
			trial := lane.Clone()
			trial.Content.StepList().Resize(n)
			period := render.PatternOf(l.piece, l.clip, &trial).Period()
			if period.Sign() == 0 {
				continue
			}
			total := beat.Common(others[i], period)
			if total.Cmp(most) > 0 {
				continue
			}
			found := new(big.Int).Div(total, bar).Int64()
			if far < distance || best == nil || found < bars {
				best, count, bars, distance = lane, n, found, far
			}
		}
	}
	return best, count, bars
}

var changes = func() (out []int) {
	for by := 1; by <= furthest; by++ {
		out = append(out, -by, by)
	}
	return out
}()

// without gives for each lane the least common multiple of all other lanes'
// periods and the bar.
func without(periods []render.Period, bar *big.Int) []*big.Int {
	n := len(periods)
	before, after := make([]*big.Int, n+1), make([]*big.Int, n+1)
	before[0], after[n] = bar, bar
	common := func(a *big.Int, p render.Period) *big.Int {
		if p.Time.Sign() == 0 {
			return a
		}
		return beat.Common(a, p.Time)
	}
	for i := range n {
		before[i+1] = common(before[i], periods[i])
		after[n-1-i] = common(after[n-i], periods[n-1-i])
	}
	out := make([]*big.Int, n)
	for i := range n {
		out[i] = beat.Common(before[i], after[i+1])
	}
	return out
}
