package piece

import (
	"encoding/json"
	"fmt"
	"strconv"
)

// FreeNotes are the notes of a lane. A screen is sent them in columns, since a lane may have many.
type FreeNotes []FreeNote

// moreOf are the fields of a note that few notes state.
type moreOf struct {
	Octave int     `json:"octave,omitempty"`
	Alter  int     `json:"alter,omitempty"`
	Note   *int    `json:"note,omitempty"`
	Chance *int    `json:"chance,omitempty"`
	Rounds *Rounds `json:"rounds,omitempty"`
	Tie    bool    `json:"tie,omitempty"`
	Glide  *Glide  `json:"glide,omitempty"`
	Bend   []Point `json:"bend,omitempty"`
}

// more are the fields of a note that few notes state; false: it states none of them.
func (n *FreeNote) more() (out moreOf, some bool) {
	out = moreOf{Octave: n.Octave, Alter: n.Alter, Note: n.Note, Rounds: n.Rounds, Tie: n.Tie, Glide: n.Glide, Bend: n.Bend}
	if n.Chance != 100 {
		out.Chance = &n.Chance
	}
	return out, n.Octave != 0 || n.Alter != 0 || n.Note != nil || n.Chance != 100 || n.Rounds != nil || n.Tie || n.Glide != nil || len(n.Bend) > 0
}

// MarshalJSON writes the notes in columns: each note's number, at, length, degree and velocity one
// after another, and by their places the fields that few state.
func (all FreeNotes) MarshalJSON() ([]byte, error) { return all.columns(0, 0) }

// columns writes the notes but so many first and last ones, which whoever reads them holds.
func (all FreeNotes) columns(first, last int) ([]byte, error) {
	out := fmt.Appendf(make([]byte, 0, 24*(len(all)-first-last)+64), `{"held":[%d,%d],"columns":[`, first, last)
	more := []byte(`],"more":{`)
	for i := first; i < len(all)-last; i++ {
		n := &all[i]
		if i > first {
			out = append(out, ',')
		}
		for k, v := range [5]int{n.Number, n.At, n.Length, n.Degree, n.Velocity} {
			if k > 0 {
				out = append(out, ',')
			}
			out = strconv.AppendInt(out, int64(v), 10)
		}
		rest, some := n.more()
		if !some {
			continue
		}
		text, err := json.Marshal(rest)
		if err != nil {
			return nil, err
		}
		if more[len(more)-1] != '{' {
			more = append(more, ',')
		}
		more = append(strconv.AppendInt(append(more, '"'), int64(i-first), 10), '"', ':')
		more = append(more, text...)
	}
	return append(append(out, more...), "}}"...), nil
}

// sent is notes as they go to whoever holds the first and last of them.
type sent struct {
	FreeNotes
	first, last int
}

// MarshalJSON writes those in between.
func (s sent) MarshalJSON() ([]byte, error) { return s.columns(s.first, s.last) }

// sentNotes is the content of a lane of free notes as it goes to whoever holds some of them.
type sentNotes struct {
	*Notes `json:"-"`
	Pitched
	Glide  GlideMode `json:"glide"`
	Loop   *Loop     `json:"loop"`
	Voices string    `json:"voices"`
	Sent   sent      `json:"notes"`
}

// Since is a lane as it goes to whoever holds what it was: of free notes those between the first and
// the last that are the same.
func (l *Lane) Since(was *Lane) Lane {
	now, ok := l.Content.(*Notes)
	before, held := was.Content.(*Notes)
	if !ok || !held {
		return *l
	}
	most := min(len(now.Notes), len(before.Notes))
	first := 0
	for first < most && sameNote(&now.Notes[first], &before.Notes[first]) {
		first++
	}
	last := 0
	for last < most-first && sameNote(&now.Notes[len(now.Notes)-1-last], &before.Notes[len(before.Notes)-1-last]) {
		last++
	}
	out := *l
	out.Content = sentNotes{now, now.Pitched, now.Glide, now.Loop, now.Voices, sent{now.Notes, first, last}}
	return out
}

// sameNote tells whether two notes are the same; it may miss that they are.
func sameNote(a, b *FreeNote) bool {
	return a.Number == b.Number && a.At == b.At && a.Length == b.Length && a.Degree == b.Degree && a.Octave == b.Octave && a.Alter == b.Alter &&
		a.Velocity == b.Velocity && a.Chance == b.Chance && a.Tie == b.Tie && a.Note == b.Note && a.Rounds == b.Rounds && a.Glide == b.Glide &&
		len(a.Bend) == len(b.Bend) && (len(a.Bend) == 0 || &a.Bend[0] == &b.Bend[0])
}

// printNote writes a note as the document does, on one line; nil where it states what takes more
// than numbers.
func printNote(n *FreeNote) []byte {
	if n.Rounds != nil || n.Glide != nil || len(n.Bend) > 0 {
		return nil
	}
	out := append(make([]byte, 0, 64), `{"at": `...)
	out = strconv.AppendInt(out, int64(n.At), 10)
	add := func(name string, value, initial int) {
		if value != initial {
			out = append(append(append(out, `, "`...), name...), `": `...)
			out = strconv.AppendInt(out, int64(value), 10)
		}
	}
	add("length", n.Length, 0)
	add("degree", n.Degree, 1)
	add("octave", n.Octave, 0)
	add("alter", n.Alter, 0)
	if n.Note != nil {
		add("note", *n.Note, -1)
	}
	add("velocity", n.Velocity, 100)
	add("chance", n.Chance, 100)
	if n.Tie {
		out = append(out, `, "tie": true`...)
	}
	if n.told {
		add("number", n.Number, 0)
	}
	return append(out, '}')
}

func listOf(n *Notes) *[]FreeNote { return (*[]FreeNote)(&n.Notes) }

// plainNote tells whether a note is nothing but a place in the key within all ranges.
func plainNote(n *FreeNote) bool {
	within := func(v, low, high int) bool { return v >= low && v <= high }
	return n.Note == nil && n.Rounds == nil && n.Glide == nil && len(n.Bend) == 0 && within(n.At, 0, farthest-1) && within(n.Length, 1, farthest) &&
		within(n.Degree, 1, 12) && within(n.Octave, -4, 4) && within(n.Alter, -11, 11) && within(n.Velocity, 1, 127) && within(n.Chance, 0, 100) && within(n.Number, 0, MaxNumber)
}
