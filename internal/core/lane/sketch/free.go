package sketch

import "agrimony/internal/core/piece"

// notes are the steps of a sketch as free notes of one voice: a tie joins to the next, a glide takes the
// same time.
func (g *ground) notes(steps []piece.LineStep) []piece.FreeNote {
	length := int(g.step / piece.NoteTick)
	n := len(g.slots)
	out := []piece.FreeNote{}
	for k := range n {
		s := &steps[g.cells[g.slots[k]].step]
		if !s.On {
			continue
		}
		to, tied := k, s.Tie
		for tied && to+1 < n && !steps[g.cells[g.slots[to+1]].step].On {
			to++
			tied = steps[g.cells[g.slots[to]].step].Tie
		}
		at := k*length + s.Nudge*length/100
		end := (to + 1) * length
		if !tied {
			end = to*length + steps[g.cells[g.slots[to]].step].Gate*length/100
			if to == k {
				end = at + s.Gate*length/100
			}
		}
		note := piece.NewNote(at, max(end-at, 1))
		note.SetPlace(s.Place())
		note.Velocity, note.Tie = s.Velocity, tied
		if s.Glide != nil {
			glide := *s.Glide
			glide.Time = max(glide.Time*length/note.Length, 1)
			note.Glide = &glide
		}
		out = append(out, note)
	}
	for i := range out {
		out[i].Number = i + 1
	}
	return out
}

// Take writes a sketch into the lane that it was made for, and leaves all else of it.
func Take(l *piece.Lane, s *Sketch) {
	switch own := l.Content.(type) {
	case *piece.Line:
		next := *own
		next.Steps = s.Steps
		l.Content = &next
	case *piece.Notes:
		next := *own
		next.Notes = nil
		next.Put(s.Notes)
		l.Content = &next
	}
}
