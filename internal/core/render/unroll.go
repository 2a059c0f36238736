package render

import (
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/piece"
)

// slot is one place in a lane's unrolled time.
type slot struct {
	step  int32 // index
	round int32 // from 0
}

// Active lists the indexes of the steps that a lane's rounds go through: those
// in its window, less the skipped ones.
func Active(lane *piece.Lane) []int32 {
	first, count := 0, len(lane.Steps)
	if lane.Window != nil {
		first, count = lane.Window.Start-1, lane.Window.Count
	}
	active := make([]int32, 0, count)
	for i := first; i < first+count; i++ {
		if !lane.Steps[i].Skip {
			active = append(active, int32(i))
		}
	}
	return active
}

// RoundSlots is how many slots one round of n active steps has.
func RoundSlots(lane *piece.Lane, n int) int {
	if lane.Direction == "pendulum" && n > 1 {
		return 2*n - 2
	}
	return n
}

// orders puts one round's active steps in playing order. To add a direction,
// add it here and to piece.Directions.
var orders = map[string]func(active []int32, draws draws, round int32) []int32{
	"forward": func(active []int32, _ draws, _ int32) []int32 { return active },
	"reverse": func(active []int32, _ draws, _ int32) []int32 { return reversed(active) },
	"pendulum": func(active []int32, _ draws, _ int32) []int32 {
		if len(active) < 2 {
			return active
		}
		return append(slices.Clone(active), reversed(active[1:len(active)-1])...)
	},
	"shuffle": func(active []int32, draws draws, round int32) []int32 {
		order := slices.Clone(active)
		// Each step draws its own place, so that changing one moves no other's draw.
		slices.SortFunc(order, func(a, b int32) int {
			x, y := draws.draw(a, round, forOrder), draws.draw(b, round, forOrder)
			if x != y {
				if x < y {
					return -1
				}
				return 1
			}
			return int(a - b)
		})
		return order
	},
}

func reversed(steps []int32) []int32 {
	out := slices.Clone(steps)
	slices.Reverse(out)
	return out
}

// unroll lays a lane's rounds end to end: slot k starts at k steps.
func unroll(lane *piece.Lane, draws draws, step, length beat.Time) []slot {
	active := Active(lane)
	if len(active) == 0 {
		return nil
	}
	count := int((length + step - 1) / step)
	out := make([]slot, 0, count)
	same := lane.Direction != "shuffle"
	order := orders[lane.Direction](active, draws, 0)
	for round := int32(0); len(out) < count; round++ {
		if !same && round > 0 {
			order = orders[lane.Direction](active, draws, round)
		}
		for _, index := range order[:min(len(order), count-len(out))] {
			out = append(out, slot{index, round})
		}
	}
	return out
}

// Unrolled gives, for each slot of a lane up to a length, the index of its step
// and whether it sounds.
func Unrolled(p *piece.Piece, clip string, lane *piece.Lane, length beat.Time) (steps []int, sounds []bool) {
	draws := newDraws(p.Seed, clip, lane.ID)
	slots := unroll(lane, draws, p.StepLength(lane), length)
	steps = make([]int, len(slots))
	for i, s := range slots {
		steps[i] = int(s.step)
	}
	return steps, sift(lane, slots, draws)
}
