package render

import (
	"slices"

	"agrimony/internal/core/piece"
)

// Luck is what a slot's drawn alternative adds in pitch.
type Luck struct{ Degrees, Octave int }

// Luck draws what the lane's odds add to a slot's pitch.
func (p *Pattern) Luck(s *Slot) (out Luck) {
	odd := p.drawn(s)
	if odd == nil {
		return out
	}
	if odd.Degrees != nil {
		out.Degrees = p.within(s, odd.Degrees, forDegrees)
	}
	if odd.Octave != nil {
		out.Octave = p.within(s, odd.Octave, forOctave)
	}
	return out
}

// drawn is the alternative that a slot draws; nil where the lane has no odds.
func (p *Pattern) drawn(s *Slot) *piece.Odd {
	c := p.craft
	if c == nil || len(c.tickets) == 0 {
		return nil
	}
	if s.odd == 0 {
		p.prepare()
		s.odd = c.ticket(s)
	}
	return &c.odds[s.odd-1]
}

// ticket draws one of the odds by weight: its place, from 1.
func (c *craft) ticket(s *Slot) int8 {
	return c.tickets[among(c.seeds[s.Step].in(s.Round), uint64(len(c.tickets)))] + 1
}

// among is a drawn number as one of n, below 2^32, each as likely.
func among(drawn, n uint64) uint64 { return drawn >> 32 * n >> 32 }

// Shifts tells whether anything moves the places of the lane's steps.
func (p *Pattern) Shifts() bool { return p.craft != nil && p.craft.shifting }

// within draws evenly from a range.
func (p *Pattern) within(s *Slot, span *piece.Span, what purpose) int {
	return span.Low + int(among(p.craft.to[what].at(p.drawnAs(s.Step)).in(s.Round), uint64(span.High-span.Low+1)))
}

// takeLuck moves the values of slots that sound by what they draw.
func (p *Pattern) takeLuck(slots []Slot) {
	c := p.craft
	for i := range slots { // apart from what follows, so that none waits for another's draw
		slots[i].odd = c.ticket(&slots[i])
	}
	for i := range slots {
		s := &slots[i]
		odd := &c.odds[s.odd-1]
		if !s.Sounds {
			continue
		}
		if odd.Rest {
			s.Sounds = false
		}
		if odd.Ratchet != nil {
			s.Ratchet = uint8(*odd.Ratchet)
		}
		if odd.Velocity != nil {
			s.Velocity = uint8(min(max(int(s.Velocity)+p.within(s, odd.Velocity, forVelocity), 1), 127))
		}
		if odd.Gate != nil {
			s.Gate = int16(p.within(s, odd.Gate, forGate))
		}
		if !c.shifting {
			continue
		}
		if odd.Degrees != nil {
			s.Degree += int16(p.within(s, odd.Degrees, forDegrees))
		}
		if odd.Octave != nil {
			s.Octave += int8(p.within(s, odd.Octave, forOctave))
		}
	}
}

// Lucky tells whether the lane's odds may move its pitches.
func (p *Pattern) Lucky() bool {
	return p.craft != nil && slices.ContainsFunc(p.craft.odds, func(o piece.Odd) bool { return o.Degrees != nil || o.Octave != nil })
}

// Chancy reports whether luck decides anything in the lane: its odds, chance, rounds or a drawn order.
func (p *Pattern) Chancy() bool {
	return len(p.lane.Luck()) > 0 || p.Moves(Chance) || p.Shuffles() || slices.ContainsFunc(p.Active, func(i int32) bool {
		cell := p.lane.Played(p.cells[i])
		return cell.On && (cell.Chance < 100 || cell.Rounds != nil)
	})
}

// Drawn tells what a slot drew, in words; empty where the lane has no odds.
func (p *Pattern) Drawn(s *Slot) string {
	if odd := p.drawn(s); odd != nil {
		return odd.Words()
	}
	return ""
}
