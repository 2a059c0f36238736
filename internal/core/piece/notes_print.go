package piece

import "strconv"

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

func listOf(n *Notes) *[]FreeNote { return &n.Notes }

// plainNote tells whether a note is nothing but a place in the key within all ranges.
func plainNote(n *FreeNote) bool {
	within := func(v, low, high int) bool { return v >= low && v <= high }
	return n.Note == nil && n.Rounds == nil && n.Glide == nil && len(n.Bend) == 0 && within(n.At, 0, farthest-1) && within(n.Length, 1, farthest) &&
		within(
			n.Degree,
			1,
			12,
		) && within(n.Octave, -4, 4) && within(n.Alter, -11, 11) && within(n.Velocity, 1, 127) && within(n.Chance, 0, 100) && within(n.Number, 0, MaxNumber)
}
