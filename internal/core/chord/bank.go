package chord

import (
	"slices"
	"strconv"
	"strings"

	"agrimony/internal/core/pitch"
)

// Progression is a row of chords that is often used, for keys of seven notes. A word is a degree of the
// scale, and what follows its figure is stacked on it: "7", "9"; or a numeral, which is meant in the major or
// minor key on the same tonic.
type Progression struct {
	Name  string
	Words string
	// Minor are the words in keys whose tonic chord is minor, where they are others; empty: the same.
	Minor string
}

// Bank are progressions to begin from, in plain words of what they do. To add one, add
// a row.
var Bank = []Progression{
	{"Home and away", "1 5 1 5", ""},
	{"Home, out and back", "1 4 5 1", ""},
	{"There and back", "1 4 1 5", ""},
	{"Long way home", "1 4 7 3 6 2 5 1", ""},
	{"Falls by steps", "1 7 6 5", ""},
	{"Falls by thirds", "1 6 4 2", ""},
	{"Falls by fifths", "6 2 5 1", ""},
	{"Climbs by steps", "1 2 3 4", ""},
	{"Climbs by thirds", "1 3 5 7", ""},
	{"Climbs by fourths", "1 4 7 3", ""},
	{"Round four corners", "1 5 6 4", ""},
	{"The same, from the shade", "6 4 1 5", ""},
	{"The same, from afar", "4 1 5 6", ""},
	{"Old dance", "1 6 4 5", ""},
	{"Turn to home", "2 5 1 1", ""},
	{"Turn in sevenths", "27 57 17 17", ""},
	{"Round in sevenths", "17 67 27 57", ""},
	{"Floating sevenths", "17 47 17 47", ""},
	{"Two that sway", "1 4 1 4", ""},
	{"Two that drift", "1 7 1 7", ""},
	{"Slow sunset", "1 3 4 4", ""},
	{"Step up and fall back", "1 2 4 1", ""},
	{"Under the bridge", "I bVII IV I", "i bVII IV i"},
	{"Rising tide", "bVI bVII I I", "bVI bVII i i"},
	{"Three and a turn", "1 1 1 5", ""},
	{"Wide ninths", "19 49 69 59", ""},
	{"Late light", "49 37 27 17", ""},
	{"Evening falls", "I IV iv I", "i IV iv i"},
	{"A door to the fifth", "I V7/V V7 I", "i V7/V V7 i"},
	{"A half step over home", "I bII I bII", "i bII i bII"},
	{"Over one low note", "I ii7/7 IV/5 I", "i iiø7/7 iv/5 i"},
}

// Row is a progression of the bank in a key.
type Row struct{ Name, Text string }

// Rows are the progressions of the bank in a key of seven notes; of two that come to the same there, the first.
func Rows(key pitch.Key) []Row {
	var out []Row
	for _, p := range Bank {
		text := p.Numerals(key)
		if !slices.ContainsFunc(out, func(r Row) bool { return r.Text == text }) {
			out = append(out, Row{p.Name, text})
		}
	}
	return out
}

// Numerals writes the progression in a key of seven notes: "i VI III VII". What players avoid in a loop is
// not written: a bare diminished triad gives way to the chord that stands for it (see standing), a bare augmented
// one to the major triad on its root, and a fifth degree that leads home in minor is a dominant seventh.
func (p Progression) Numerals(key pitch.Key) string {
	words, scale := strings.Fields(p.Words), "major"
	if isMinor(key) {
		scale = "natural minor"
		if p.Minor != "" {
			words = strings.Fields(p.Minor)
		}
	}
	plain, err := pitch.ParseKey(key.Tonic.String() + " " + scale)
	if err != nil {
		panic(err) // the key has that tonic itself
	}
	out := make([]string, len(words))
	for i, word := range words {
		if word[0] < '1' || word[0] > '7' {
			c, err := ParseNumeral(word, plain)
			if err != nil {
				panic(err) // the table has numerals only
			}
			out[i] = c.Numeral(key)
			continue
		}
		degree, count := int(word[0]-'0'), 3
		if n, err := strconv.Atoi(word[1:]); err == nil {
			count = (n + 1) / 2
		}
		home := words[(i+1)%len(words)][0] == '1'
		out[i] = standing(key, degree, count, home)
	}
	return strings.Join(out, " ")
}

// isMinor reports whether a key of seven notes has a minor third and a fifth of its own: whether its
// tonic chord is minor.
func isMinor(key pitch.Key) bool { return key.Semitones(3) == 3 && key.Semitones(5) == 7 }

// standing is the numeral of the chord that a progression has on a degree; home tells whether the tonic
// follows. For a diminished triad on the seventh degree stands the flat seventh, for one on the fifth the chord on the
// second, which leads home as it would; elsewhere its seventh makes it the half-diminished chord that players use.
func standing(key pitch.Key, degree, count int, home bool) string {
	overThird, overFifth := above(key, degree, third), above(key, degree, fifth)
	own := Stack(key, degree, count).Numeral
	switch {
	case degree == 5 && overFifth == 7 && home && isMinor(key) && key.Semitones(2) == 2:
		return "V7"
	case count > 3:
		return own
	case overThird == 4 && overFifth == 8:
		return own[:len(own)-1] + "(5)"
	case overThird != 3 || overFifth != 6:
		return own
	case degree == 7:
		return "bVII"
	case degree == 5:
		return Stack(key, 2, 3).Numeral
	}
	return Stack(key, degree, 4).Numeral
}

// above is how many semitones a degree so many scale steps above another one stands over it.
func above(key pitch.Key, degree, steps int) int {
	at := degree - 1 + steps
	return key.Semitones(at%7+1) + 12*(at/7) - key.Semitones(degree)
}
