package chords

import (
	"agrimony/internal/core/beat"
	"agrimony/internal/core/chord"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// Chart is how the lane's chords stand in a performance, in ticks of a resolution.
func (Kind) Chart(p *render.Performance, own *piece.Lane, ppq int) *render.Chart {
	c := of(own)
	voiced := Voice(own, p.Key)
	out := &render.Chart{Marks: []render.ChordMark{}, Palette: entries(own, p.Key), Movement: voiced.Movement, Written: voiced.Written,
		Text: Text(own, p.Key)}
	var begun []render.Beginning
	for _, b := range p.ChordsOf(own) {
		if !b.Brought {
			begun = append(begun, b)
		}
	}
	step := p.Piece.StepLength(own)
	for i, b := range begun {
		held := Held(c, int(b.Step))
		until := b.At + step*beat.Time(held)
		if i+1 < len(begun) {
			until = min(until, begun[i+1].At)
		}
		m := render.ChordMark{
			At: b.At.Export(ppq), Until: min(until, p.Length).Export(ppq), Step: int(b.Step), Held: held,
			Symbol: pitch.Pretty(
				b.Symbol,
			), Numeral: chord.Pretty(numeralOf(c, p.Key, b.Place, b.Numeral)), Name: label(c, p.Key, &c.Palette[b.Place-1]), Pitches: ints(b.Pitches), Against: Against(own, p.Key, b.Place, b.Pitches), Threads: [][2]int{},
		}
		if i+1 < len(begun) {
			m.Threads = chord.Pairs(m.Pitches, ints(begun[i+1].Pitches))
		}
		out.Marks = append(out.Marks, m)
	}
	return out
}

func ints(pitches []uint8) []int {
	out := make([]int, len(pitches))
	for i, p := range pitches {
		out[i] = int(p)
	}
	return out
}
