// Package chord names chords by symbol and by numeral, reads such names, stacks chords
// on the degrees of a key, and leads their voices.
package chord

import "agrimony/internal/core/pitch"

// Named is a chord with its names.
type Named struct {
	Numeral string   `json:"numeral"`
	Symbol  string   `json:"symbol"`
	Notes   []string `json:"notes"` // ASCII, from the root up
}

// Stack builds the chord of count tones on a degree (from 1) by taking every other
// degree of the key, and names it from that degree.
func Stack(key pitch.Key, degree, count int) Named {
	out := Named{}
	pitches := make([]int, count)
	for k := range count {
		at := degree - 1 + 2*k
		pitches[k] = key.Tonic.Semitones() + key.Semitones(at%key.Size()+1) + 12*(at/key.Size())
		out.Notes = append(out.Notes, key.Names()[at%key.Size()].String())
	}
	root := key.Names()[degree-1]
	mask, lowest := classes(pitches)
	found := onRoot(mask, lowest)
	out.Symbol, out.Numeral = found.Symbol(root, lowest), found.Numeral(key, root, lowest)
	return out
}

// Heard lists the chords on a degree (from 1) of a scale that does not have seven
// notes: those of count tones that the key's notes make as thirds are heard, a
// minor or a major third each, where they have a proper name.
func Heard(key pitch.Key, degree, count int) []Named {
	root := key.Names()[degree-1]
	var out []Named
	for i := range Qualities {
		form := &forms[i]
		if len(form.Tones) != count || !form.thirds() || !form.within(key, degree) {
			continue
		}
		named := Named{Symbol: root.String() + form.Symbol, Numeral: degreeFigure(key, degree, form.Minor()) + form.Numeral}
		for _, d := range form.Tones {
			named.Notes = append(named.Notes, root.Above(d).String())
		}
		out = append(out, named)
	}
	return out
}

// thirds tells whether each tone is a minor or a major third above the one below.
func (f *Form) thirds() bool {
	for i := 1; i < len(f.Tones); i++ {
		if step := f.Tones[i].Semitones() - f.Tones[i-1].Semitones(); step != 3 && step != 4 {
			return false
		}
	}
	return true
}

func (f *Form) within(key pitch.Key, degree int) bool {
	for _, d := range f.Tones {
		if !key.Has(key.Tonic.Semitones() + key.Semitones(degree) + d.Semitones()) {
			return false
		}
	}
	return true
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
