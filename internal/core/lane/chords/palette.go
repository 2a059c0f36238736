package chords

import (
	"fmt"
	"strings"

	"agrimony/internal/core/chord"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// entries tells of each chord of a lane's palette.
func entries(lane *piece.Lane, key pitch.Key) []render.Entry {
	c := of(lane)
	out := make([]render.Entry, len(c.Palette))
	for i := range c.Palette {
		from := &c.Palette[i]
		step := piece.ChordStep{Chord: i + 1}
		named := nameOf(c, key, &step, nil)
		out[i] = render.Entry{
			Name: label(c, key, from), Symbol: pitch.Pretty(named.Symbol), Numeral: chord.Pretty(numeralOf(c, key, i+1, named.Numeral)),
			Steps: UsedBy(c, i+1), Open: IsOpen(key, from.Tones), Why: why(c, key, from),
		}
		for _, tone := range sorted(key, from.Tones) {
			out[i].Tones = append(out[i].Tones, pitch.Pretty(key.Named(key.Pitch(tone, c.Octave))))
		}
	}
	return out
}

// why tells how a chord came by its name.
func why(c *piece.Chords, key pitch.Key, from *piece.PaletteChord) string {
	written := Write(c, key, from)
	form := written.Found.Form()
	var degrees []string
	for _, d := range form.Tones {
		degrees = append(degrees, d.String())
	}
	root, tones := written.Root.String(), sorted(key, from.Tones)
	bass := key.NameOf(tones[0])
	over := pitch.Mod(key.Pitch(tones[0], 0), 12)
	var pitches []int
	for _, t := range tones {
		pitches = append(pitches, key.Pitch(t, c.Octave))
	}
	text := fmt.Sprintf("Above %s its tones are %s: %s.", root, strings.Join(degrees, " "), written.Found.Symbol(written.Root, written.Found.Class))
	if !written.Found.Known {
		text = fmt.Sprintf("No quality fits %s above %s, so its degrees stand in brackets.", strings.Join(degrees, " "), root)
	}
	if over != written.Found.Class {
		text += fmt.Sprintf(" Its lowest tone is %s: /%s.", bass, bass)
	}
	if degree := key.Index(written.Found.Class); degree > 0 {
		text += fmt.Sprintf(" %s is degree %d of %s.", root, degree, key)
	} else {
		text += fmt.Sprintf(" %s is outside %s.", root, key)
	}
	var others []string
	for _, other := range chord.All(pitches, &key)[1:] {
		for _, t := range tones {
			if pitch.Mod(key.Pitch(t, 0), 12) == other.Class {
				others = append(others, other.Symbol(key.NameOf(t), over))
				break
			}
		}
	}
	if len(others) > 0 {
		text += " Also heard as " + strings.Join(others, ", ") + "."
	}
	return pitch.Pretty(text)
}

// Against tells how far each of a chord's pitches stands above its root, as degrees with
// real signs: "1", "♭3", "9".
func Against(lane *piece.Lane, key pitch.Key, place int, pitches []uint8) []string {
	c := of(lane)
	found := Write(c, key, &c.Palette[place-1]).Found
	form := found.Form()
	out := make([]string, len(pitches))
	for i, p := range pitches {
		for _, d := range form.Tones {
			if pitch.Mod(d.Semitones()+found.Class-int(p), 12) == 0 {
				out[i] = pitch.Pretty(d.String())
			}
		}
	}
	return out
}

// Text writes the chords of a lane's round as numerals, as WriteProgression reads them.
func Text(lane *piece.Lane, key pitch.Key) string {
	c := of(lane)
	var out []string
	for _, i := range inWindow(lane) {
		if c.Steps[i].On {
			place := c.Steps[i].Chord
			out = append(out, numeralOf(c, key, place, nameOf(c, key, &piece.ChordStep{Chord: place}, nil).Numeral))
		}
	}
	return strings.Join(out, " ")
}
