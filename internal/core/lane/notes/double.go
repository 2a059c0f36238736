package notes

import (
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/lane/change"
	"agrimony/internal/core/piece"
)

// Double writes the rounds of the loop out for a length, twice, and makes that the loop. Notes that
// begin outside of the loop stay outside.
func (Kind) Double(t *change.Target, length beat.Time) error {
	own := of(t.Lane)
	start, round := own.LoopOf(t.Clip.Bars, t.Piece.Bar())
	if round >= 2*length && t.Lane.Restart == 0 {
		return nil
	}
	if round == 0 || length == 0 {
		return nil
	}
	begin, loop, whole := int(start/piece.NoteTick), int(round/piece.NoteTick), int(length/piece.NoteTick)
	again := whole
	if t.Lane.Restart > 0 {
		again = min(again, int(beat.Time(t.Lane.Restart)*t.Piece.Bar()/piece.NoteTick))
	}
	var inside, out []piece.FreeNote
	for _, n := range own.Notes {
		switch {
		case n.At < begin:
			out = append(out, n)
		case n.At >= begin+loop:
			n.At += 2*whole - loop
			out = append(out, n)
		default:
			inside = append(inside, n)
		}
	}
	rounds := 0 // that one half goes through
	for section := 0; section < whole; section += again {
		rounds += (min(again, whole-section) + loop - 1) / loop
	}
	seen, number := map[int]bool{}, 0
	for half := range 2 {
		for section := 0; section < whole; section += again {
			for turn := 0; turn < min(again, whole-section); turn += loop {
				end := min(turn+loop, again, whole-section)
				for _, n := range inside {
					at := turn + n.At - begin
					if at >= end {
						continue
					}
					n.At = begin + half*whole + section + at
					if n.Length = min(n.Length, end-at); seen[n.Number] {
						n.Number = 0
					}
					seen[n.Number] = true
					if n.Rounds != nil {
						var plays bool
						if n.Rounds, plays = change.InRounds(n.Rounds, number, 2*rounds, true); !plays {
							continue
						}
					}
					out = append(out, n)
				}
				number++
			}
		}
	}
	slices.SortStableFunc(out, func(a, b piece.FreeNote) int { return a.At - b.At })
	t.Lane.Restart = 0
	own.Loop = &piece.Loop{Start: begin, Length: 2 * whole}
	return Put(t, own, "clip", out)
}
