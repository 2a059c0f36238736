package chords

import (
	"slices"
	"unicode/utf8"

	"agrimony/internal/core/chord"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
)

// A numeral that was written and is not the one by which its chord would be named, as V7/V for
// II7, is kept as the chord's name in the palette, and shown as its numeral for as long as its
// tones are those that it reads as.

// writtenAs is the numeral that a chord was written as; empty: its name is another one, or none.
func writtenAs(c *piece.Chords, key pitch.Key, own *piece.PaletteChord) string {
	if !chord.IsNumeral(own.Name) {
		return ""
	}
	read, err := chord.ParseNumeral(own.Name, key)
	if err != nil || !slices.Equal(sorted(key, distinct(key, read.Places(key, c.Octave))), sorted(key, own.Tones)) {
		return ""
	}
	return own.Name
}

// numeralOf is how the numeral of a chord of the palette is shown, where it is the one by which
// its tones are named: as it was written.
func numeralOf(c *piece.Chords, key pitch.Key, place int, named string) string {
	own := &c.Palette[place-1]
	written := writtenAs(c, key, own)
	if written == "" || nameOf(c, key, &piece.ChordStep{Chord: place}, nil).Numeral != named {
		return named
	}
	return written
}

// label is a chord's name of the user's own, which a written numeral is not.
func label(c *piece.Chords, key pitch.Key, own *piece.PaletteChord) string {
	if writtenAs(c, key, own) != "" {
		return ""
	}
	return own.Name
}

// keepWritten names a chord of the palette by the numeral that it was written as, unless it has a
// name of the user's own.
func keepWritten(c *piece.Chords, key pitch.Key, place int, word string) {
	own := &c.Palette[place-1]
	if own.Name != "" && writtenAs(c, key, own) == "" {
		return
	}
	own.Name = ""
	named := nameOf(c, key, &piece.ChordStep{Chord: place}, nil).Numeral
	if chord.IsNumeral(word) && word != named && utf8.RuneCountInString(word) <= piece.MaxLabel {
		own.Name = word
	}
}
