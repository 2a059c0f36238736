package notes

import (
	"agrimony/internal/core/lane/change"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
)

// maxParts is into how many parts a note is cut at most.
const maxParts = 64

func cut(t *change.Target, own *piece.Notes, o op.CutNotes) error {
	at, err := pick(t, own, o.Notes)
	if err != nil {
		return err
	}
	if o.Parts != 0 && (o.Parts < 2 || o.Parts > maxParts) {
		return t.Wrong("parts", "%d is out of range; allowed: 2..%d", o.Parts, maxParts)
	}
	notes, done := own.Notes, 0
	for _, i := range at {
		note := notes[i]
		var ends []int // of its parts, from its beginning
		if o.Parts != 0 {
			if note.Length < o.Parts {
				return t.Wrong("parts", "note %d is %d ticks long; allowed: 2..%d parts", note.Number, note.Length, note.Length)
			}
			for k := 1; k <= o.Parts; k++ {
				ends = append(ends, halfUp(note.Length*k, o.Parts))
			}
		} else if o.At > note.At && o.At < note.At+note.Length {
			ends = []int{o.At - note.At, note.Length}
		} else {
			continue
		}
		done++
		for k, end := range ends {
			part := note
			if k > 0 {
				part.Number, part.At, part.Glide, part.Bend = 0, note.At+ends[k-1], nil, []piece.Point{}
			}
			part.Length = note.At + end - part.At
			part.Tie = note.Tie && k == len(ends)-1
			if k == 0 {
				notes[i] = part
			} else {
				notes = append(notes, part)
			}
		}
	}
	if done == 0 {
		return t.Wrong("at", "none of these notes sounds there; allowed: a time within one")
	}
	return Put(t, own, "notes", notes)
}

// halfUp divides by a number above 0, rounding half up.
func halfUp(a, b int) int {
	n, d := 2*a+b, 2*b
	if n < 0 {
		return -((-n + d - 1) / d)
	}
	return n / d
}

func join(t *change.Target, own *piece.Notes, o op.JoinNotes) error {
	at, err := pick(t, own, o.Notes)
	if err != nil {
		return err
	}
	type row struct {
		place pitch.Place
		note  int
	}
	first := map[row]int{}
	var gone []int
	for _, i := range at {
		n := &own.Notes[i]
		r := row{n.Place(), -1}
		if n.Note != nil {
			r = row{note: *n.Note}
		}
		k, before := first[r]
		if !before {
			first[r] = i
			continue
		}
		head := &own.Notes[k]
		head.Length = max(head.Length, n.At+n.Length-head.At)
		head.Tie = n.Tie
		gone = append(gone, i)
	}
	if len(gone) == 0 {
		return t.Wrong("notes", "no two of them have the same pitch; allowed: notes of one pitch")
	}
	return Put(t, own, "notes", without(own.Notes, gone))
}

// span is the time that notes take.
func span(own *piece.Notes, at []int) (start, end int) {
	start = own.Notes[at[0]].At
	for _, i := range at {
		end = max(end, own.Notes[i].At+own.Notes[i].Length)
	}
	return start, end
}

func reverse(t *change.Target, own *piece.Notes, o op.ReverseNotes) error {
	at, err := pick(t, own, o.Notes)
	if err != nil {
		return err
	}
	start, end := span(own, at)
	for _, i := range at {
		n := &own.Notes[i]
		n.At = start + end - n.At - n.Length
	}
	return Put(t, own, "notes", own.Notes)
}

func repeat(t *change.Target, own *piece.Notes, o op.RepeatNotes) error {
	at, err := pick(t, own, o.Notes)
	if err != nil {
		return err
	}
	if o.Times < 1 || o.Times*len(at) > piece.MaxNotes {
		return t.Wrong("times", "%d is out of range; allowed: 1..%d", o.Times, piece.MaxNotes/len(at))
	}
	start, end := span(own, at)
	every := o.Every
	if every == 0 {
		every = end - start
	}
	if every < 1 {
		return t.Wrong("every", "%d is below 1; allowed: from 1 on", every)
	}
	notes := own.Notes
	for k := 1; k <= o.Times; k++ {
		for _, i := range at {
			again := own.Notes[i]
			again.Number, again.At = 0, again.At+k*every
			notes = append(notes, again)
		}
	}
	return Put(t, own, "times", notes)
}

func bring(t *change.Target, own *piece.Notes, o op.BringNotes) error {
	at, err := pick(t, own, o.Notes)
	if err != nil {
		return err
	}
	start, _ := span(own, at)
	return move(t, own, op.MoveNotes{OnNotes: o.OnNotes, Later: o.To - start, Copy: o.Copy})
}

func stretch(t *change.Target, own *piece.Notes, o op.StretchNotes) error {
	at, err := pick(t, own, o.Notes)
	if err != nil {
		return err
	}
	if o.Start < 0 || o.End <= o.Start {
		return t.Wrong("end", "from %d to %d is no time; allowed: an end after the start, from 0 on", o.Start, o.End)
	}
	grid := 0
	if o.Feel {
		if grid, err = Snap(t, o.Snap); err != nil {
			return err
		}
	}
	start, end := span(own, at)
	scaled := func(length int) int { return halfUp(length*(o.End-o.Start), end-start) }
	for _, i := range at {
		n := &own.Notes[i]
		if o.Feel { // the place on the grid that it stands beside moves, and it with that
			beside := halfUp(n.At, grid) * grid
			n.At, n.Length = max(halfUp(max(o.Start+scaled(beside-start), 0), grid)*grid+n.At-beside, 0), max(scaled(n.Length), 1)
			continue
		}
		from, to := scaled(n.At-start), scaled(n.At+n.Length-start)
		n.At, n.Length = o.Start+from, max(to-from, 1)
	}
	return Put(t, own, "notes", own.Notes)
}
