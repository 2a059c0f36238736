// Package chord stacks chords on the degrees of a key and names them by symbol
// and by numeral.
package chord

import (
	"fmt"
	"strings"

	"agrimony/internal/core/pitch"
)

// quality is a kind of chord: its intervals above the root in semitones, how its
// symbol continues after the root, and how its numeral is written.
type quality struct {
	intervals []int
	symbol    string
	lower     bool // the numeral is in lower case: a minor third
	numeral   string
}

// qualities are the kinds of chords with a name, in the writing common in lead
// sheets; the first whose intervals match names a chord.
var qualities = []quality{
	{[]int{0, 4, 7}, "", false, ""},
	{[]int{0, 3, 7}, "m", true, ""},
	{[]int{0, 3, 6}, "dim", true, "o"},
	{[]int{0, 4, 8}, "aug", false, "+"},
	{[]int{0, 5, 7}, "sus4", false, "sus4"},
	{[]int{0, 2, 7}, "sus2", false, "sus2"},
	{[]int{0, 4, 6}, "(b5)", false, "(b5)"},
	{[]int{0, 4, 7, 10}, "7", false, "7"},
	{[]int{0, 4, 7, 11}, "maj7", false, "maj7"},
	{[]int{0, 3, 7, 10}, "m7", true, "7"},
	{[]int{0, 3, 6, 10}, "m7b5", true, "ø7"},
	{[]int{0, 3, 6, 9}, "dim7", true, "o7"},
	{[]int{0, 3, 7, 11}, "mMaj7", true, "maj7"},
	{[]int{0, 4, 8, 11}, "maj7#5", false, "+maj7"},
	{[]int{0, 4, 8, 10}, "7#5", false, "+7"},
	{[]int{0, 4, 6, 10}, "7b5", false, "7(b5)"},
	{[]int{0, 4, 6, 11}, "maj7b5", false, "maj7(b5)"},
	{[]int{0, 3, 6, 11}, "dimMaj7", true, "omaj7"},
	{[]int{0, 4, 7, 9}, "6", false, "6"},
	{[]int{0, 3, 7, 9}, "m6", true, "6"},
	{[]int{0, 2, 4, 7}, "add9", false, "add9"},
	{[]int{0, 5, 7, 10}, "7sus4", false, "7sus4"},
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
	q, known := find(intervals)
	if !known {
		q = unnamed(intervals)
	}
	out.Symbol = root.String() + q.symbol
	out.Numeral = numeral(key, degree, q.lower) + q.numeral
	return out
}

// find looks a quality up by its intervals, folded into one octave.
func find(intervals []int) (quality, bool) {
	var have [12]bool
	for _, i := range intervals {
		have[pitch.Mod(i, 12)] = true
	}
	for _, q := range qualities {
		var want [12]bool
		for _, i := range q.intervals {
			want[i] = true
		}
		if have == want {
			return q, true
		}
	}
	return quality{}, false
}

// intervalNames write intervals as degrees against the major scale.
var intervalNames = [12]string{"1", "b2", "2", "b3", "3", "4", "b5", "5", "#5", "6", "b7", "7"}

// unnamed writes a chord that has no common symbol as its root with its degrees:
// "F#(2,b5)".
func unnamed(intervals []int) quality {
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
	return quality{symbol: text, numeral: text, lower: seen[3] && !major}
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

// Describe lists a key's notes and the triads and sevenths on its degrees.
func Describe(key pitch.Key) Report {
	out := Report{Tonic: key.Tonic.String(), Scale: key.Scale.Title()}
	for i, name := range key.Names() {
		out.Notes = append(out.Notes, name.String())
		out.PitchClasses = append(out.PitchClasses, name.Class())
		out.Triads = append(out.Triads, Stack(key, i+1, 3))
		out.Sevenths = append(out.Sevenths, Stack(key, i+1, 4))
	}
	return out
}
