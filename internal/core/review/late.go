package review

import (
	"fmt"
	"math/big"
	"slices"

	"agrimony/internal/core/lane"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// lateAfter is from how many bars on lanes that include a phrase are told to meet late.
const lateAfter = 32

// restarts are the restarts that a mend offers, in bars.
var restarts = []int{8, 4, 2, 1}

// lateMeeting finds clips with a phrase whose lanes meet only after many bars, says which
// lane makes it long, and offers the smallest changes that bring them together sooner.
func lateMeeting(l *look) {
	now := l.performance.Cycle().RealignBars()
	walks := slices.ContainsFunc(l.clip.Lanes, func(own piece.Lane) bool {
		_, walks := lane.Of(&own).(render.Walking)
		return walks && !own.Mute
	})
	if !walks || l.performance.Cycle().Over() || now.Cmp(big.NewInt(lateAfter)) <= 0 {
		return
	}
	culprit, least := -1, now
	for i := range l.clip.Lanes {
		if l.clip.Lanes[i].Mute {
			continue
		}
		if without := l.after(i, func(own *piece.Lane) { own.Mute = true }); culprit < 0 || without.Cmp(least) < 0 {
			culprit, least = i, without
		}
	}
	var mends []render.Mend
	offer := func(label string, bars *big.Int, edit any) {
		if bars.Cmp(big.NewInt(lateAfter)) <= 0 && bars.Sign() > 0 {
			mends = append(mends, *render.MendBy(fmt.Sprintf("%s: after %s", label, barsText(bars)), edit))
		}
	}
	own := &l.clip.Lanes[culprit]
	for _, n := range restarts {
		if before := len(mends); own.Restart == 0 {
			offer(fmt.Sprintf("Restart %s every %s", own.Name, barsText(big.NewInt(int64(n)))), l.after(culprit, func(o *piece.Lane) { o.Restart = n }),
				op.SetLane{OnLane: l.on(own), Patch: asJSON(map[string]any{"restart": n})})
			if len(mends) > before {
				break
			}
		}
	}
	if steps := own.Content.StepList(); steps != nil && own.Window == nil {
		for _, n := range []int{steps.Len() + 1, steps.Len() - 1} {
			if n >= 1 && n <= piece.MaxSteps {
				offer(
					fmt.Sprintf("%s instead of %d", render.Many(n, "step"), steps.Len()),
					l.after(culprit, func(o *piece.Lane) { o.Content.StepList().Resize(n) }),
					op.ResizeLane{OnLane: l.on(own), Count: n},
				)
			}
		}
	}
	var first *render.Mend
	if len(mends) > 0 {
		first = &mends[0]
	}
	l.add("late", own, 0, first, "The lanes meet on a bar only after %s; %s makes it long.", barsText(now), own.Name)
	if len(mends) > 1 {
		l.found[len(l.found)-1].More = mends[1:]
	}
}

// after is after how many bars the lanes would meet with one of them changed.
func (l *look) after(index int, change func(own *piece.Lane)) *big.Int {
	clip := *l.clip
	clip.Lanes = slices.Clone(l.clip.Lanes)
	clip.Lanes[index] = clip.Lanes[index].Clone()
	change(&clip.Lanes[index])
	return lane.CycleWithin(l.piece, &clip, l.trials).RealignBars()
}

func barsText(bars *big.Int) string {
	if bars.String() == "1" {
		return "1 bar"
	}
	return bars.String() + " bars"
}
