package change

import (
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// InRounds are the rounds of a lane whose rounds are so many of what they were, in which a step plays
// that stands for one of those; false: in none.
func InRounds(r *piece.Rounds, round, many int, on bool) (*piece.Rounds, bool) {
	of := r.Of / gcd(r.Of, many)
	out := &piece.Rounds{Of: of, On: []int{}}
	for k := range of {
		if render.InRound(r, int32(k*many+round)) {
			out.On = append(out.On, k+1)
		}
	}
	switch len(out.On) {
	case 0:
		return nil, false
	case of:
		return nil, on
	}
	return out, on
}

func gcd(a, b int) int {
	for b != 0 {
		a, b = b, a%b
	}
	return a
}
