package render

import (
	"cmp"
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/piece"
)

// Moment is a time at which a lane begins to sound, by its grid, and how long the longest
// note lasts that begins then, before any cut.
type Moment struct{ At, Length beat.Time }

// Moments lists those of a lane that this one needs.
func (in *Input) Moments(id string) []Moment {
	part := in.Played(id)
	step := in.Piece.StepLength(piece.SourceOf(in.Clip, &in.Clip.Lanes[part.Lane]))
	in.Worked(len(part.Notes))
	out := make([]Moment, 0, len(part.Notes))
	for i := range part.Notes {
		t := &part.Notes[i].trace
		_, at := t.grid(step)
		end := t.end
		if !t.held { // the nudge moved its end, too
			end -= t.onset - t.spread - at
		}
		out = append(out, Moment{at, max(end-at, shortest)})
	}
	slices.SortStableFunc(out, func(a, b Moment) int {
		return cmp.Or(cmp.Compare(a.At, b.At), cmp.Compare(b.Length, a.Length))
	})
	return slices.CompactFunc(out, func(a, b Moment) bool { return a.At == b.At })
}

// OnMoments walks the pattern by moments, not by its rate: each takes the next step. A
// restart (0: never) begins the pattern again, and a round that it cuts counts as one.
func (in *Input) OnMoments(moments []Moment, restart beat.Time) (slots []Slot, lengths []beat.Time) {
	p := in.Pattern
	if len(p.Active) == 0 {
		return nil, nil
	}
	in.Worked(2 * len(moments))
	direction := orders[p.lane.Direction]
	order := direction.arrange(p.Active, p.draws, 0)
	next, round, times := 0, int32(0), beat.Time(0)
	turn := func() {
		next, round = 0, round+1
		if direction.drawn {
			order = direction.arrange(p.Active, p.draws, round)
		}
	}
	for _, m := range moments {
		cut := Uncut
		if restart != 0 {
			if m.At/restart != times && next > 0 {
				turn()
			}
			times = m.At / restart
			if end := (times + 1) * restart; m.At+m.Length > end {
				cut = end
			}
		}
		if next == len(order) {
			turn()
		}
		slot := p.slot(m.At, order[next], round)
		slot.Cut, slot.After = cut, true
		slots, lengths = append(slots, slot), append(lengths, m.Length)
		next++
	}
	for rest := range slices.Chunk(slots, movedAtOnce) {
		p.move(rest)
	}
	return slots, lengths
}

// beside is another lane of the clip up to a length, with every chance certain; nil: it is
// not there.
func (in *Input) beside(id string, length beat.Time) *Input {
	i := slices.IndexFunc(in.Clip.Lanes, func(l piece.Lane) bool { return l.ID == id })
	if i < 0 {
		return nil
	}
	lane := in.Clip.Lanes[i].Clone()
	frame := &Frame{Key: in.Piece.KeyOf(in.Clip), Bar: in.Piece.Bar(), Length: length, PPQ: DefaultPPQ, harmonic: in.harmonic}
	frame.Harmony = in.ChordsUntil(length)
	out := &Input{
		Frame: frame, Piece: in.Piece, Clip: in.Clip, Lane: &lane, sums: in.sums, meter: in.meter,
		Part: Part{Lane: i, ID: id, kind: in.kinds(lane.Kind)}, kinds: in.kinds,
		Played: func(other string) *Part { return in.beside(other, length).heard() },
		others: func(other string) *Input { return in.beside(other, length) },
	}
	if HasPattern(&lane) {
		out.Pattern = PatternOf(in.Piece, in.Clip, &lane)
		for _, cell := range out.Pattern.cells {
			cell.Chance = 100
		}
		out.Pattern.certain()
	}
	return out
}

// heard plays a lane beside the others.
func (in *Input) heard() *Part {
	part := in.play(in.Part.kind)
	return &part
}
