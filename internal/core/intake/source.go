package intake

import (
	"cmp"
	"math"
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/budget"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
)

// Source is notes that are to become lanes.
type Source struct {
	Key    pitch.Key
	Meter  beat.Meter
	Length int // of the round that they make, 960ths of a quarter
	Notes  []Note
	Drums  bool
	Budget *budget.Budget
	// Dress gives the step of a note, by its place, what else the note has; nil: nothing.
	Dress func(note int, cell *piece.Cell)
}

// Clothe dresses a step where there is anything to give it.
func (s *Source) Clothe(note int, cell *piece.Cell) {
	if s.Dress != nil {
		s.Dress(note, cell)
	}
}

// Octave is that of a lane whose steps reach all notes, as nearly as one can.
func (s *Source) Octave() int {
	low, high := 127, 0
	for i := range s.Notes {
		low, high = min(low, s.Notes[i].Pitch), max(high, s.Notes[i].Pitch)
	}
	home := s.Key.Pitch(pitch.Place{Degree: 1}, -1) // below all
	return min(max(((low+high)/2-home)/12-1, -1), 9)
}

// Reaches tells whether a place is one that a step can hold.
func Reaches(at pitch.Place) bool {
	return at.Octave >= -4 && at.Octave <= 4 && at.Alter >= -11 && at.Alter <= 11
}

// Outside tells whether some note is not of the key.
func (s *Source) Outside() bool {
	return slices.ContainsFunc(s.Notes, func(n Note) bool { return !s.Key.Has(n.Pitch) })
}

// Pitches are the pitches of the notes, rising, each once.
func (s *Source) Pitches() []int {
	out := make([]int, len(s.Notes))
	for i := range s.Notes {
		out[i] = s.Notes[i].Pitch
	}
	slices.Sort(out)
	return slices.Compact(out)
}

// Heard are notes as they sound on one channel: one ends where its key is struck again.
func Heard(notes []Note) []Note {
	out := Once(slices.Clone(notes))
	var last [128]int
	for i := range out {
		n := &out[i]
		if k := last[n.Pitch]; k > 0 && out[k-1].End() > n.At {
			out[k-1].Length = n.At - out[k-1].At
		}
		last[n.Pitch] = i + 1
	}
	return out
}

// Compare tells how notes differ from others, at a tempo.
func Compare(want, got []Note, tempo float64) Differs {
	out, _ := compare(want, got, tempo)
	return out
}

// Close reports whether notes are as good as others: as many, with the same pitches and velocities, none of which
// begins elsewhere or is longer or shorter by more than a hundredth.
func Close(want, got []Note) bool {
	_, close := compare(want, got, 120)
	return close
}

// near reports whether a note is as good as another.
func near(x, y *Note) bool {
	return x.At == y.At && x.Pitch == y.Pitch && x.Velocity == y.Velocity && 100*abs(x.Length-y.Length) <= x.Length
}

func compare(want, got []Note, tempo float64) (out Differs, close bool) {
	byPitch := func(notes []Note) []Note {
		out := slices.Clone(notes)
		slices.SortStableFunc(out, func(a, b Note) int { return cmp.Or(cmp.Compare(a.Pitch, b.Pitch), cmp.Compare(a.At, b.At)) })
		return out
	}
	a, b := byPitch(want), byPitch(got)
	out, close = Differs{Of: len(want)}, len(want) == len(got)
	most := 0
	for i, k := 0, 0; i < len(a) || k < len(b); {
		switch {
		case k == len(b) || i < len(a) && a[i].Pitch < b[k].Pitch:
			out.Notes++
			i++
		case i == len(a) || a[i].Pitch > b[k].Pitch:
			out.Notes++
			k++
		default:
			x, y := &a[i], &b[k]
			if *x != *y {
				out.Notes++
			}
			close = close && near(x, y)
			most = max(most, abs(x.At-y.At), abs(x.End()-y.End()))
			i, k = i+1, k+1
		}
	}
	out.MS = math.Round(float64(most)*60000/(tempo*PPQ)*100) / 100
	return out, close
}
