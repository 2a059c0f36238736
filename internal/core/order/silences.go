package order

import (
	"cmp"
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/piece"
)

// Silence is where a lane of a clip falls silent: what it sounds ends there.
type Silence struct {
	At         beat.Time
	Clip, Lane int // indexes
}

// Silences are where lanes fall silent from a time on up to, and without, another, in 960ths of a quarter: where their
// clip is left, or they are muted. An entry that goes on where another left off is no end, and one that rings lets its
// notes have theirs.
func (p *Performance) Silences(from, to int64) (out []Silence) {
	m := &maker{piece: p.Piece}
	within := func(at beat.Time) bool {
		return at >= beat.Time(from)*piece.OrderTick && at < beat.Time(to)*piece.OrderTick
	}
	for _, c := range p.chains {
		for lane, wanted := range c.wanted {
			if !wanted {
				continue
			}
			spans, last := m.sounding(c, lane)
			for i, s := range spans {
				rings := s.to == c.to && p.Piece.Order.Entries[last[i]].Ring
				if within(s.to) && !rings {
					out = append(out, Silence{s.to, c.clip, lane})
				}
			}
		}
	}
	slices.SortStableFunc(out, func(a, b Silence) int { return cmp.Compare(a.At, b.At) })
	return out
}
