package pitch

import (
	"fmt"
	"maps"
	"slices"
	"strings"
	"unicode"
)

// Degree is a note against the major scale: its number and its alteration in
// semitones. "b3" is {3, -1}. Scales number their degrees 1..7; tones of chords go on
// to 13 in the next octave.
type Degree struct {
	Number int
	Alter  int
}

// majorSemitones is the distance of each major-scale degree above the tonic.
var majorSemitones = [7]int{0, 2, 4, 5, 7, 9, 11}

// Semitones is the degree's distance above the tonic, in semitones.
func (d Degree) Semitones() int {
	return majorSemitones[(d.Number-1)%7] + 12*((d.Number-1)/7) + d.Alter
}

// String writes the degree as in a scale's list: "b3", "#4", "5".
func (d Degree) String() string { return accidentalText(d.Alter) + fmt.Sprint(d.Number) }

// ParseDegree reads "1".."7" with up to two accidentals of one sign before it.
func ParseDegree(text string) (Degree, error) {
	if n := len(text); n > 0 && text[n-1] >= '1' && text[n-1] <= '7' {
		if alter, ok := parseAccidental(text[:n-1]); ok {
			return Degree{int(text[n-1] - '0'), alter}, nil
		}
	}
	return Degree{}, fmt.Errorf("%q is not a scale degree; allowed: 1..7 with up to two of # or b before it", text)
}

// Scale is a named list of degrees, rising within one octave from the tonic.
// A custom scale has no name.
type Scale struct {
	Name    string
	Degrees []Degree
}

// Scales are the named scales, in the order in which a picker lists them. To
// add a scale, add a row. Degrees are those of common-practice and jazz theory,
// written against the major scale.
var Scales = parseScales([][2]string{
	{"major", "1 2 3 4 5 6 7"},
	{"natural minor", "1 2 b3 4 5 b6 b7"},
	{"harmonic minor", "1 2 b3 4 5 b6 7"},
	{"melodic minor", "1 2 b3 4 5 6 7"},
	{"ionian", "1 2 3 4 5 6 7"},
	{"dorian", "1 2 b3 4 5 6 b7"},
	{"phrygian", "1 b2 b3 4 5 b6 b7"},
	{"lydian", "1 2 3 #4 5 6 7"},
	{"mixolydian", "1 2 3 4 5 6 b7"},
	{"aeolian", "1 2 b3 4 5 b6 b7"},
	{"locrian", "1 b2 b3 4 b5 b6 b7"},
	{"phrygian dominant", "1 b2 3 4 5 b6 b7"},
	{"hungarian minor", "1 2 b3 #4 5 b6 7"},
	{"double harmonic", "1 b2 3 4 5 b6 7"},
	{"major pentatonic", "1 2 3 5 6"},
	{"minor pentatonic", "1 b3 4 5 b7"},
	{"major blues", "1 2 b3 3 5 6"},
	{"minor blues", "1 b3 4 b5 5 b7"},
	{"whole tone", "1 2 3 #4 #5 b7"},
	{"half-whole octatonic", "1 b2 b3 3 #4 5 6 b7"},
	{"whole-half octatonic", "1 2 b3 4 b5 b6 6 7"},
	{"chromatic", "1 b2 2 b3 3 4 #4 5 b6 6 b7 7"},
})

// otherNames are further names in use for the scales above.
var otherNames = map[string]string{
	"minor":                "natural minor",
	"pentatonic major":     "major pentatonic",
	"pentatonic minor":     "minor pentatonic",
	"blues major":          "major blues",
	"blues minor":          "minor blues",
	"blues":                "minor blues",
	"octatonic half whole": "half-whole octatonic",
	"octatonic whole half": "whole-half octatonic",
	"half whole":           "half-whole octatonic",
	"whole half":           "whole-half octatonic",
	"diminished":           "whole-half octatonic",
}

func parseScales(rows [][2]string) []Scale {
	out := make([]Scale, len(rows))
	for i, row := range rows {
		scale, err := NewScale(strings.Fields(row[1]))
		if err != nil {
			panic(err) // a misprint in the table above
		}
		scale.Name = row[0]
		out[i] = scale
	}
	return out
}

// plainName folds case and separators, so that "Harmonic-Minor" finds
// "harmonic minor".
func plainName(name string) string {
	return strings.Join(strings.FieldsFunc(strings.ToLower(name), func(r rune) bool {
		return r == ' ' || r == '-' || r == '_'
	}), " ")
}

// FindScale looks a scale up by name. Case, hyphens and underscores do not
// matter. The error lists the names allowed.
func FindScale(name string) (Scale, error) {
	plain := plainName(name)
	if other, ok := otherNames[plain]; ok {
		plain = plainName(other)
	}
	names := make([]string, len(Scales))
	for i, scale := range Scales {
		if plainName(scale.Name) == plain {
			return scale, nil
		}
		names[i] = scale.Name
	}
	return Scale{}, fmt.Errorf("%q is not a scale; allowed: %s, or a list of degrees", name, strings.Join(names, ", "))
}

// ScalePattern is a regular expression of the names that FindScale knows, in the
// common part of the dialects.
func ScalePattern() string {
	names := slices.Sorted(maps.Keys(otherNames))
	for _, scale := range Scales {
		names = append(names, plainName(scale.Name))
	}
	var out strings.Builder
	for i, name := range names {
		if i > 0 {
			out.WriteByte('|')
		}
		for _, r := range name {
			if r == ' ' {
				out.WriteString("[ _-]+")
			} else {
				fmt.Fprintf(&out, "[%c%c]", r, unicode.ToUpper(r))
			}
		}
	}
	return "^[ _-]*(" + out.String() + ")[ _-]*$"
}

// NewScale makes a custom scale from degrees such as "1", "b3", "#4". They must
// start with "1", rise without repeating a pitch, and stay within one octave.
func NewScale(degrees []string) (Scale, error) {
	if len(degrees) == 0 || len(degrees) > 12 {
		return Scale{}, fmt.Errorf("a scale of %d degrees; allowed: 1..12", len(degrees))
	}
	scale := Scale{Degrees: make([]Degree, len(degrees))}
	for i, text := range degrees {
		degree, err := ParseDegree(text)
		if err != nil {
			return Scale{}, err
		}
		semitones := degree.Semitones()
		switch {
		case i == 0 && degree != (Degree{1, 0}):
			return Scale{}, fmt.Errorf("a scale starts with %q; allowed: \"1\" first", text)
		case i > 0 && semitones == scale.Degrees[i-1].Semitones():
			return Scale{}, fmt.Errorf("degree %q repeats the pitch of %q; allowed: each pitch once", text, degrees[i-1])
		case i > 0 && semitones < scale.Degrees[i-1].Semitones():
			return Scale{}, fmt.Errorf("degree %q comes after the higher %q; allowed: rising order", text, degrees[i-1])
		case semitones > 11:
			return Scale{}, fmt.Errorf("degree %q is outside the octave; allowed: 0..11 semitones above the tonic", text)
		}
		scale.Degrees[i] = degree
	}
	return scale, nil
}

// Texts are the scale's degrees as text, "1", "2", "b3" ..
func (s Scale) Texts() []string {
	out := make([]string, len(s.Degrees))
	for i, d := range s.Degrees {
		out[i] = d.String()
	}
	return out
}

// Title is the scale's name, or its degrees when it has none.
func (s Scale) Title() string {
	if s.Name != "" {
		return s.Name
	}
	return strings.Join(s.Texts(), " ")
}
