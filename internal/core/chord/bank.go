package chord

import (
	"strconv"
	"strings"

	"agrimony/internal/core/pitch"
)

// Progression is a row of chords that is often used, as degrees of any scale of seven
// notes; what follows a degree is stacked on it: "7", "9".
type Progression struct {
	Name    string
	Degrees string
}

// Bank are progressions to begin from, in plain words of what they do. To add one, add
// a row.
var Bank = []Progression{
	{"Home and away", "1 5 1 5"},
	{"Home, out and back", "1 4 5 1"},
	{"There and back", "1 4 1 5"},
	{"Long way home", "1 4 7 3 6 2 5 1"},
	{"Falls by steps", "1 7 6 5"},
	{"Falls by thirds", "1 6 4 2"},
	{"Falls by fifths", "6 2 5 1"},
	{"Climbs by steps", "1 2 3 4"},
	{"Climbs by thirds", "1 3 5 7"},
	{"Climbs by fourths", "1 4 7 3"},
	{"Round four corners", "1 5 6 4"},
	{"The same, from the shade", "6 4 1 5"},
	{"The same, from afar", "4 1 5 6"},
	{"Old dance", "1 6 4 5"},
	{"Turn to home", "2 5 1 1"},
	{"Turn in sevenths", "27 57 17 17"},
	{"Round in sevenths", "17 67 27 57"},
	{"Floating sevenths", "17 47 17 47"},
	{"Two that sway", "1 4 1 4"},
	{"Two that drift", "1 7 1 7"},
	{"Slow sunset", "1 3 4 4"},
	{"Step up and fall back", "1 2 4 1"},
	{"Under the bridge", "1 7 4 1"},
	{"Rising tide", "6 7 1 1"},
	{"Held breath", "1 1 4 5"},
	{"Three and a turn", "1 1 1 5"},
	{"Wide ninths", "19 49 69 59"},
	{"Late light", "49 37 27 17"},
}

// Numerals writes the progression in a key of seven notes: "i VI III VII".
func (p Progression) Numerals(key pitch.Key) string {
	var out []string
	for _, word := range strings.Fields(p.Degrees) {
		degree := int(word[0] - '0')
		count := 3
		if n, err := strconv.Atoi(word[1:]); err == nil {
			count = (n + 1) / 2
		}
		out = append(out, Stack(key, degree, count).Numeral)
	}
	return strings.Join(out, " ")
}
