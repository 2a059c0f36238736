// Package intake is the notes of files that come in: the grids that their onsets stand on, the
// keys that they fit, how they stand in steps. What kinds of lanes make of them is in their own
// rooms; how a file is read in musical time is package song.
//
// Times are 960ths of a quarter note.
package intake

import (
	"cmp"
	"slices"
)

// PPQ is the resolution of all times.
const PPQ = 960

// Note is a note that comes in.
type Note struct {
	At, Length      int // 960ths of a quarter
	Pitch, Velocity int // MIDI
}

// End is where the note ends.
func (n *Note) End() int { return n.At + n.Length }

// Once makes one of notes that strike a key on one tick, with the later end, and puts notes in
// order of their onsets. It gives the list that it is given, changed.
func Once(notes []Note) []Note {
	byOnset := func(a, b Note) int { return cmp.Compare(a.At, b.At) }
	if !slices.IsSortedFunc(notes, byOnset) {
		slices.SortStableFunc(notes, byOnset)
	}
	out := notes[:0]
	var struck [128]int // the place of the note that struck a key last, from 1
	for _, n := range notes {
		if k := struck[n.Pitch]; k > 0 && out[k-1].At == n.At {
			out[k-1].Length = max(out[k-1].Length, n.Length)
			continue
		}
		out = append(out, n)
		struck[n.Pitch] = len(out)
	}
	return out
}

// Outer leaves of notes that sound together the lowest (or the highest): one that a lower one
// interrupts ends there, and one that begins over a lower one is left out.
func Outer(notes []Note, lowest bool) []Note {
	beyond := func(a, b int) bool { return a < b == lowest && a != b }
	sorted := slices.Clone(notes)
	slices.SortStableFunc(sorted, func(a, b Note) int {
		if first := cmp.Compare(a.At, b.At); first != 0 || a.Pitch == b.Pitch {
			return first
		}
		if beyond(a.Pitch, b.Pitch) {
			return -1
		}
		return 1
	})
	var out []Note
	for _, n := range sorted {
		if k := len(out) - 1; k >= 0 && out[k].End() > n.At {
			before := &out[k]
			if before.At == n.At || !beyond(n.Pitch, before.Pitch) && n.Pitch != before.Pitch {
				continue
			}
			before.Length = n.At - before.At
		}
		out = append(out, n)
	}
	return out
}

// Voices is how many notes sound at once at most. A note without a length sounds at its onset.
func Voices(notes []Note) int {
	begins, ends := make([]int, len(notes)), make([]int, len(notes))
	for i := range notes {
		begins[i], ends[i] = notes[i].At, max(notes[i].End(), notes[i].At+1)
	}
	slices.Sort(begins)
	slices.Sort(ends)
	most, ended := 0, 0
	for i, at := range begins {
		for ended < i && ends[ended] <= at {
			ended++
		}
		most = max(most, i+1-ended)
	}
	return most
}
