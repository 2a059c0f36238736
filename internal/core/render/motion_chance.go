package render

import (
	"slices"

	"agrimony/internal/core/piece"
)

// purpose keeps the draws for different ends apart.
type purpose uint64

const (
	forChance purpose = iota + 1
	forOrder
	forWalk
	forShape
	forOdds
	forDegrees
	forOctave
	forVelocity
	forGate
	purposes
)

// Draw is a number drawn for a walk at a step of a round (from 0); turn tells several of
// one step apart.
func (p *Pattern) Draw(step, round int32, turn int) uint64 {
	return mix(p.draws.draw(step, round, forWalk) ^ uint64(turn))
}

// draws gives a lane's random numbers. A draw depends on the piece's seed, the
// clip, the lane, the step, the round and what it is for, and on nothing else:
// touching one step leaves every other step's draws alone.
type draws uint64

// FNV-1a (the public-domain hash by Fowler, Noll and Vo) over the ids, then the
// finaliser of SplitMix64 (Steele, Lea and Flood 2014) over the numbers.
func newDraws(seed int, clip, lane string) draws {
	h := uint64(14695981039346656037)
	for _, text := range []string{clip, "\x00", lane} {
		for i := 0; i < len(text); i++ {
			h = (h ^ uint64(text[i])) * 1099511628211
		}
	}
	return draws(mix(h ^ mix(uint64(seed))))
}

// take is another set of draws for the lane alone; 0 is the first.
func (d draws) take(n int) draws {
	if n == 0 {
		return d
	}
	return draws(mix(uint64(d) + mix(uint64(n))))
}

func (d draws) draw(step, round int32, what purpose) uint64 { return d.of(step, what).in(round) }

// of is what the draws of a step for an end begin with, and in the draw in a round.
func (d draws) of(step int32, what purpose) draws { return d.to(what).at(step) }

// to is what the draws for an end begin with, and at those of a step among them.
func (d draws) to(what purpose) draws { return draws(mix(uint64(d) ^ uint64(what))) }
func (d draws) at(step int32) draws   { return draws(mix(uint64(d) ^ uint64(step))) }

func (d draws) in(round int32) uint64 { return mix(uint64(d) ^ uint64(round)) }

func mix(x uint64) uint64 {
	x += 0x9e3779b97f4a7c15
	x = (x ^ x>>30) * 0xbf58476d1ce4e5b9
	x = (x ^ x>>27) * 0x94d049bb133111eb
	return x ^ x>>31
}

// InRound tells whether a step with these rounds plays in a round (from 0).
func InRound(r *piece.Rounds, round int32) bool { return slices.Contains(r.On, int(round)%r.Of+1) }

// plays tells whether a step that is on sounds in a round (from 0), at a chance in %.
func plays(cell *piece.Cell, chance int, d draws, index, round int32) bool {
	if r := cell.Rounds; r != nil && !InRound(r, round) {
		return false
	}
	if chance >= 100 {
		return true
	}
	hundredth := d.draw(index, round, forChance) >> 32 * 100 >> 32
	return int(hundredth) < chance
}
