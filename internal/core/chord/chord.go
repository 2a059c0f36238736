// Package chord stacks chords on the degrees of a key and names them by symbol
// and by numeral.
package chord

import (
	"fmt"
	"strings"

	"agrimony/internal/core/pitch"
)

// Quality is a kind of chord, as lead sheets write it.
type Quality struct {
	Degrees string   // its tones above the root against the major scale: they spell it
	Symbol  string   // how its symbol goes on after the root
	Numeral string   // how its numeral goes on; a minor third makes the figure lower case
	Aliases []string // other writings of the symbol that are read
	degrees []pitch.Degree
	classes [12]bool
}

// Qualities are the kinds of chords with a name; the first whose tones match names
// a chord. To add one, add a row. Degrees of 9, 11 and 13 are written as 2, 4 and 6.
var Qualities = parseQualities([]Quality{
	{Degrees: "1 3 5", Symbol: "", Numeral: "", Aliases: []string{"maj", "M"}},
	{Degrees: "1 b3 5", Symbol: "m", Numeral: "", Aliases: []string{"min", "mi", "-"}},
	{Degrees: "1 b3 b5", Symbol: "dim", Numeral: "o", Aliases: []string{"o", "°"}},
	{Degrees: "1 3 #5", Symbol: "aug", Numeral: "+", Aliases: []string{"+"}},
	{Degrees: "1 4 5", Symbol: "sus4", Numeral: "sus4", Aliases: []string{"sus"}},
	{Degrees: "1 2 5", Symbol: "sus2", Numeral: "sus2"},
	{Degrees: "1 3 b5", Symbol: "(b5)", Numeral: "(b5)"},
	{Degrees: "1 3 5 b7", Symbol: "7", Numeral: "7"},
	{Degrees: "1 3 5 7", Symbol: "maj7", Numeral: "maj7", Aliases: []string{"M7", "Δ", "ma7"}},
	{Degrees: "1 b3 5 b7", Symbol: "m7", Numeral: "7", Aliases: []string{"min7", "mi7", "-7"}},
	{Degrees: "1 b3 b5 b7", Symbol: "m7b5", Numeral: "ø7", Aliases: []string{"ø", "ø7"}},
	{Degrees: "1 b3 b5 bb7", Symbol: "dim7", Numeral: "o7", Aliases: []string{"o7", "°7"}},
	{Degrees: "1 b3 5 7", Symbol: "mMaj7", Numeral: "maj7", Aliases: []string{"mM7"}},
	{Degrees: "1 3 #5 7", Symbol: "maj7#5", Numeral: "+maj7", Aliases: []string{"+M7"}},
	{Degrees: "1 3 #5 b7", Symbol: "7#5", Numeral: "+7", Aliases: []string{"+7"}},
	{Degrees: "1 3 b5 b7", Symbol: "7b5", Numeral: "7(b5)"},
	{Degrees: "1 3 b5 7", Symbol: "maj7b5", Numeral: "maj7(b5)"},
	{Degrees: "1 b3 b5 7", Symbol: "dimMaj7", Numeral: "omaj7"},
	{Degrees: "1 3 5 6", Symbol: "6", Numeral: "6"},
	{Degrees: "1 b3 5 6", Symbol: "m6", Numeral: "6"},
	{Degrees: "1 2 3 5", Symbol: "add9", Numeral: "add9", Aliases: []string{"add2"}},
	{Degrees: "1 4 5 b7", Symbol: "7sus4", Numeral: "7sus4"},
})

func parseQualities(rows []Quality) []Quality {
	for i := range rows {
		for _, text := range strings.Fields(rows[i].Degrees) {
			degree, err := pitch.ParseDegree(text)
			if err != nil {
				panic(err) // a misprint in the table above
			}
			rows[i].degrees = append(rows[i].degrees, degree)
			rows[i].classes[pitch.Mod(degree.Semitones(), 12)] = true
		}
	}
	return rows
}

// minor tells whether the third is a minor one.
func (q *Quality) minor() bool {
	return len(q.degrees) > 1 && q.degrees[1] == pitch.Degree{Number: 3, Alter: -1}
}

// Spell names the quality's tones on a root, letters in thirds as it spells them.
func (q *Quality) Spell(root pitch.Name) []pitch.Name {
	out := make([]pitch.Name, len(q.degrees))
	for i, d := range q.degrees {
		out[i] = root.Above(d)
	}
	return out
}

// Named is a chord with its names.
type Named struct {
	Numeral string   `json:"numeral"`
	Symbol  string   `json:"symbol"`
	Notes   []string `json:"notes"` // ASCII, from the root up
}

// Stack builds the chord of count tones on a degree (from 1) by taking every
// other degree of the key, and names it.
func Stack(key pitch.Key, degree, count int) Named {
	names := key.Names()
	var notes []pitch.Name
	var intervals []int
	for k := range count {
		at := degree - 1 + 2*k
		interval := key.Semitones(at%key.Size()+1) + 12*(at/key.Size()) - key.Semitones(degree)
		notes = append(notes, names[at%key.Size()])
		intervals = append(intervals, interval)
	}
	out := Named{}
	for _, note := range notes {
		out.Notes = append(out.Notes, note.String())
	}
	root := notes[0]
	symbol, figures, lower := unnamed(intervals)
	if q, known := find(intervals); known {
		symbol, figures, lower = q.Symbol, q.Numeral, q.minor()
	}
	out.Symbol = root.String() + symbol
	out.Numeral = numeral(key, degree, lower) + figures
	return out
}

// Heard lists the chords on a degree (from 1) of a scale that does not have seven
// notes: those of count tones that the key's notes make as thirds are heard, a
// minor or a major third each, where they have a proper name.
func Heard(key pitch.Key, degree, count int) []Named {
	root := key.Names()[degree-1]
	var out []Named
	for i := range Qualities {
		q := &Qualities[i]
		if len(q.degrees) != count || !q.thirds() || !q.within(key, degree) {
			continue
		}
		named := Named{Symbol: root.String() + q.Symbol, Numeral: numeral(key, degree, q.minor()) + q.Numeral}
		for _, note := range q.Spell(root) {
			named.Notes = append(named.Notes, note.String())
		}
		out = append(out, named)
	}
	return out
}

// thirds tells whether each tone is a minor or a major third above the one below.
func (q *Quality) thirds() bool {
	for i := 1; i < len(q.degrees); i++ {
		if step := q.degrees[i].Semitones() - q.degrees[i-1].Semitones(); step != 3 && step != 4 {
			return false
		}
	}
	return true
}

func (q *Quality) within(key pitch.Key, degree int) bool {
	for _, d := range q.degrees {
		if !key.Has(key.Tonic.Semitones() + key.Semitones(degree) + d.Semitones()) {
			return false
		}
	}
	return true
}

// find looks a quality up by its intervals in semitones, folded into one octave.
func find(intervals []int) (*Quality, bool) {
	var have [12]bool
	for _, i := range intervals {
		have[pitch.Mod(i, 12)] = true
	}
	for i := range Qualities {
		if have == Qualities[i].classes {
			return &Qualities[i], true
		}
	}
	return nil, false
}

// intervalNames write intervals as degrees against the major scale.
var intervalNames = [12]string{"1", "b2", "2", "b3", "3", "4", "b5", "5", "#5", "6", "b7", "7"}

// unnamed writes a chord that has no common symbol as its root with its degrees:
// "F#(2,b5)".
func unnamed(intervals []int) (symbol, figures string, lower bool) {
	var parts []string
	seen := map[int]bool{0: true}
	major := false
	for _, i := range intervals {
		class := pitch.Mod(i, 12)
		major = major || class == 4
		if !seen[class] {
			seen[class] = true
			parts = append(parts, intervalNames[class])
		}
	}
	text := "(" + strings.Join(parts, ",") + ")"
	return text, text, seen[3] && !major
}

var romans = [7]string{"I", "II", "III", "IV", "V", "VI", "VII"}

// numeral writes a degree of the key by its number. Scales that have a number
// twice tell the altered one by its sign.
func numeral(key pitch.Key, degree int, lower bool) string {
	own := key.Scale.Degrees[degree-1]
	text := romans[own.Number-1]
	if lower {
		text = strings.ToLower(text)
	}
	for i, other := range key.Scale.Degrees {
		if i != degree-1 && other.Number == own.Number && own.Alter != 0 {
			return strings.TrimSuffix(own.String(), fmt.Sprint(own.Number)) + text
		}
	}
	return text
}

// Report is a key with its diatonic chords.
type Report struct {
	Tonic        string   `json:"tonic"`
	Scale        string   `json:"scale"`
	Notes        []string `json:"notes"`
	PitchClasses []int    `json:"pitchClasses"` // 0 is C
	Triads       []Named  `json:"triads"`
	Sevenths     []Named  `json:"sevenths"`
}

// Describe lists a key's notes and the triads and sevenths on its degrees: stacks in
// scales of seven notes, elsewhere the chords that are heard.
func Describe(key pitch.Key) Report {
	out := Report{Tonic: key.Tonic.String(), Scale: key.Scale.Title(), Triads: []Named{}, Sevenths: []Named{}}
	for i, name := range key.Names() {
		out.Notes = append(out.Notes, name.String())
		out.PitchClasses = append(out.PitchClasses, name.Class())
		if key.Size() == 7 {
			out.Triads = append(out.Triads, Stack(key, i+1, 3))
			out.Sevenths = append(out.Sevenths, Stack(key, i+1, 4))
			continue
		}
		out.Triads = append(out.Triads, Heard(key, i+1, 3)...)
		out.Sevenths = append(out.Sevenths, Heard(key, i+1, 4)...)
	}
	return out
}
