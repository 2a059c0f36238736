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
	if p.craft == nil || p.craft.weight == 0 {
		return nil
	}
	if s.odd > 0 {
		return &p.craft.odds[s.odd-1]
	}
	left := among(p.craft.seeds[s.Step].in(s.Round), p.craft.weight)
	for i := range p.craft.odds {
		odd := &p.craft.odds[i]
		if left < uint64(odd.Weight) {
			s.odd = int8(i + 1)
			return odd
		}
		left -= uint64(odd.Weight)
	}
	return nil
}

// among is a drawn number as one of n, below 2^32, each as likely.
func among(drawn, n uint64) uint64 { return drawn >> 32 * n >> 32 }

// Shifts tells whether anything moves the pitch of a slot.
func (p *Pattern) Shifts(s *Slot) bool {
	if p.craft == nil {
		return false
	}
	if len(p.craft.movers[Degree]) > 0 || len(p.craft.movers[Octave]) > 0 {
		return true
	}
	odd := p.drawn(s)
	return odd != nil && (odd.Degrees != nil || odd.Octave != nil)
}

// within draws evenly from a range.
func (p *Pattern) within(s *Slot, span *piece.Span, what purpose) int {
	return span.Low + int(among(p.draws.draw(s.Step, s.Round, what), uint64(span.High-span.Low+1)))
}

// bend moves the shared values of a slot: its modulators first, then its luck.
func (p *Pattern) bend(s *Slot, cell *piece.Cell) {
	c := p.craft
	if len(c.movers[Velocity]) > 0 {
		s.Velocity = uint8(c.moved(Velocity, s, cell.Velocity))
	}
	if len(c.movers[Gate]) > 0 {
		s.Gate = int16(c.moved(Gate, s, cell.Gate))
	}
	if len(c.movers[Ratchet]) > 0 {
		s.Ratchet = uint8(c.moved(Ratchet, s, cell.Ratchet))
	}
	if len(c.movers[Nudge]) > 0 {
		s.Nudge = int8(c.moved(Nudge, s, cell.Nudge))
	}
	if !s.Sounds {
		return
	}
	odd := p.drawn(s)
	if odd == nil {
		return
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
}

// Lucky tells whether the lane's odds may move its pitches.
func (p *Pattern) Lucky() bool {
	return p.craft != nil && slices.ContainsFunc(p.craft.odds, func(o piece.Odd) bool { return o.Degrees != nil || o.Octave != nil })
}

// Drawn tells what a slot drew, in words; empty where the lane has no odds.
func (p *Pattern) Drawn(s *Slot) string {
	if odd := p.drawn(s); odd != nil {
		return odd.Words()
	}
	return ""
}

// Rests tells whether a slot draws a rest.
func (p *Pattern) Rests(s *Slot) bool {
	odd := p.drawn(s)
	return odd != nil && odd.Rest
}
