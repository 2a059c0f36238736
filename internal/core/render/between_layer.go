package render

import (
	"cmp"
	"math/big"
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/piece"
)

// Layering says what a layer makes of the notes that it plays.
type Layering struct {
	// Keep tells whether it plays a note, by where its step's repeat stands on the grid
	// and its number, from 1; nil: it plays all.
	Keep func(note *Note, grid beat.Time, number int) bool
	// Pitch moves a MIDI pitch; false: the note is left out.
	Pitch    func(p uint8, grid beat.Time) (uint8, bool)
	Anywhere bool // Pitch does not ask where the note stands
	Velocity int  // added
	Gate     int  // % of each note's length
}

// Layer plays the notes of another lane moved, with its ties, bends and luck: they are
// played anew, and moved before the groove.
func (in *Input) Layer(of string, l Layering) Part {
	other := in.other(of)
	other.Frame, other.Played = in.Frame, in.Played
	other.Part = in.Part
	step := other.step()
	after := in.reshape
	other.reshape = func(notes []Note, single bool) []Note {
		notes = l.over(notes, step, single)
		if after != nil {
			notes = after(notes, single)
		}
		return notes
	}
	part := other.play(other.kinds(other.Lane.Kind))
	part.Marks, part.Clock = nil, nil // those are the original's own
	return part
}

// over makes the layer's notes of the original's, in order of their onsets, of notes at once
// from the lowest up; of a single voice in the order of their steps, since the last alone sounds.
// What was nudged before the clip's start begins with it.
func (l *Layering) over(notes []Note, step beat.Time, single bool) []Note {
	early := func(a, b Note) int {
		first := cmp.Compare(max(a.At, 0), max(b.At, 0))
		if single {
			return first
		}
		return cmp.Or(first, cmp.Compare(a.Pitch, b.Pitch))
	}
	if !slices.IsSortedFunc(notes, early) {
		slices.SortStableFunc(notes, early)
	}
	kept := notes[:0]
	for i := range notes {
		note := &notes[i]
		t := &note.trace
		grid := beat.Time(0)
		if l.Keep != nil || !l.Anywhere {
			_, grid = t.grid(step)
		}
		if l.Keep != nil && !l.Keep(note, grid, i+1) {
			continue
		}
		moved, ok := l.Pitch(note.Pitch, grid)
		if !ok {
			continue
		}
		if !t.layered {
			t.layered, t.source, t.whole = true, note.Pitch, t.end
		}
		t.ends = uint8(min(max(int(t.ends)+int(moved)-int(note.Pitch), 0), 127))
		note.Pitch = moved
		note.Velocity = uint8(min(max(int(note.Velocity)+l.Velocity, 1), 127))
		if l.Gate != 100 {
			note.End = note.At + (note.End - note.At).Percent(l.Gate)
			t.end, t.legato, t.dropped = note.End, false, false // it gives way to nothing that the original did
		}
		if k := len(kept); k == i {
			kept = kept[:i+1]
		} else {
			kept = append(kept, *note)
		}
	}
	return kept
}

// reshaped is what the layers over a lane make of its notes.
// single tells that they are of one voice.
func (in *Input) reshaped(notes []Note, single bool) []Note {
	if in.reshape == nil {
		return notes
	}
	notes = in.reshape(notes, single)
	in.Made(len(notes))
	return notes
}

// other is what another lane of the clip is played from, anew.
func (in *Input) other(id string) *Input {
	if in.others != nil {
		return in.others(id)
	}
	i := slices.IndexFunc(in.Clip.Lanes, func(l piece.Lane) bool { return l.ID == id })
	out := *in
	out.Lane, out.Pattern, out.Slots, out.reshape = &in.Clip.Lanes[i], nil, nil, nil
	out.Part = Part{Lane: i, ID: id, Name: out.Lane.Name, kind: in.kinds(out.Lane.Kind)}
	if HasPattern(out.Lane) {
		out.Pattern = PatternOf(in.Piece, in.Clip, out.Lane)
	}
	return &out
}

// Source is the input of the lane whose steps a lane plays: its own, or those of the
// original of a layer, or of what a control lane follows.
func (in *Input) Source() *Input {
	for range piece.MaxLanes {
		original := piece.OriginalOf(in.Lane)
		if original == "" {
			break
		}
		in = in.other(original)
	}
	return in
}

// PeriodOfSource is the period of the lane whose notes this one plays.
func (in *Input) PeriodOfSource() *big.Int {
	other := in.other(piece.OriginalOf(in.Lane))
	return other.Part.kind.Period(other)
}

// CountOfSource is how many notes the lane whose notes this one plays strikes in a period, every chance certain;
// false: they are too many to look at.
func (in *Input) CountOfSource(period *big.Int) (count int64, ok bool) {
	length, short := within(period, in.Piece.Bar())
	if !short || in.sums == nil || length == 0 {
		return 0, false
	}
	counted := *in
	counted.meter = in.sums.meter
	return count, in.sums.within(func() {
		other := counted.beside(piece.OriginalOf(in.Lane), 2*length)
		step := other.step()
		other.reshape = func(notes []Note, _ bool) []Note {
			for i := range notes {
				if grid, _ := notes[i].trace.grid(step); grid >= length && grid < 2*length { // ties over the seam have settled
					count++
				}
			}
			return nil
		}
		other.play(other.Part.kind)
	})
}

func (in *Input) step() beat.Time { return in.Piece.StepLength(in.Source().Lane) }

// SourceOf is the lane whose steps a part plays.
func (p *Performance) SourceOf(part *Part) *piece.Lane {
	return piece.SourceOf(p.Clip, &p.Clip.Lanes[part.Lane])
}

// OriginalReasons gives a layer's note as the lane has it whose steps it plays, and how it
// came to its pitch there.
func (p *Performance) OriginalReasons(part *Part, note *Note) (Note, []Reason) {
	original, source := *note, p.SourceOf(part)
	original.Pitch = note.trace.source
	return original, p.kinds(source.Kind).Reasons(p, part, source, &original)
}
