// Package pitch knows note names, scales, keys and degrees: how a step's degree
// becomes a MIDI pitch, how a pitch is spelled in its key, and how a pitch that
// the key lacks is brought into it.
//
// Pitches are MIDI note numbers with middle C = C4 = 60. Intervals are in
// semitones. Names are ASCII ("F#", "Ebb"); Pretty turns them into real signs.
package pitch

import (
	"fmt"
	"strings"
)

// Letter is a note letter, counted from C = 0 to B = 6.
type Letter int

const letters = "CDEFGAB"

// letterSemitones is each letter's distance above C, in semitones.
var letterSemitones = [7]int{0, 2, 4, 5, 7, 9, 11}

// Semitones is the natural letter's distance above C, 0..11.
func (l Letter) Semitones() int { return letterSemitones[l] }

// Name is a spelled note without an octave: a letter and its accidental in
// semitones (-2 double flat .. 2 double sharp).
type Name struct {
	Letter     Letter
	Accidental int
}

// ParseName reads a letter (either case) and up to two accidentals of one sign,
// such as "F#", "bb", "C##". Real signs (♯ ♭ 𝄪 𝄫) are accepted as well.
func ParseName(text string) (Name, error) {
	plain := strings.NewReplacer("♯", "#", "♭", "b", "𝄪", "##", "𝄫", "bb").Replace(text)
	fail := func() (Name, error) {
		return Name{}, fmt.Errorf("%q is not a note name; allowed: a letter A..G with up to two of # or b", text)
	}
	if plain == "" || len(plain) > 3 {
		return fail()
	}
	at := strings.IndexByte(letters, plain[0]&^0x20)
	if at < 0 {
		return fail()
	}
	accidental, ok := parseAccidental(plain[1:])
	if !ok {
		return fail()
	}
	return Name{Letter(at), accidental}, nil
}

// parseAccidental reads "", "#", "##", "b" or "bb".
func parseAccidental(text string) (int, bool) {
	if n := len(text); n <= 2 {
		switch text {
		case strings.Repeat("#", n):
			return n, true
		case strings.Repeat("b", n):
			return -n, true
		}
	}
	return 0, false
}

func accidentalText(n int) string {
	if n < 0 {
		return strings.Repeat("b", -n)
	}
	return strings.Repeat("#", n)
}

// String writes the name in ASCII: "F#", "Cb", "G##".
func (n Name) String() string { return letters[n.Letter:n.Letter+1] + accidentalText(n.Accidental) }

// Semitones is the name's distance above the C that its letter counts from. It
// may leave 0..11: Cb is -1 and B# is 12.
func (n Name) Semitones() int { return n.Letter.Semitones() + n.Accidental }

// Class is the pitch class, 0 (C) .. 11 (B).
func (n Name) Class() int { return Mod(n.Semitones(), 12) }

// Octave is the octave number that this name gives MIDI pitch p: Cb4 is 59 and
// B#3 is 60, because the letter decides.
func (n Name) Octave(p int) int { return floorDiv(p-n.Semitones(), 12) - 1 }

// In writes the name with the octave of MIDI pitch p: "F#2".
func (n Name) In(p int) string { return fmt.Sprintf("%s%d", n, n.Octave(p)) }

// Above names the note that a degree of the major scale on n, altered, comes to.
func (n Name) Above(d Degree) Name {
	letter := Letter((int(n.Letter) + d.Number - 1) % 7)
	natural := majorSemitones[(d.Number-1)%7]
	above := Mod(letter.Semitones()-n.Letter.Semitones(), 12)
	return Name{letter, n.Accidental + natural + d.Alter - above}.simpler()
}

// Sharpened is the name raised by semitones (lowered below 0), with its own letter as
// far as double accidentals go.
func (n Name) Sharpened(by int) Name { return Name{n.Letter, n.Accidental + by}.simpler() }

// simpler respells a name that would need more than a double accidental with
// the neighbouring letter, keeping its pitch.
func (n Name) simpler() Name {
	for n.Accidental > 2 || n.Accidental < -2 {
		next := 1
		if n.Accidental < 0 {
			next = -1
		}
		letter := Letter(Mod(int(n.Letter)+next, 7))
		step := Mod(letter.Semitones()-n.Letter.Semitones(), 12)
		if next < 0 {
			step -= 12
		}
		n = Name{letter, n.Accidental - step}
	}
	return n
}

// Pretty replaces ASCII accidentals in a note name, scale degree or chord
// symbol by the real signs: "Bb" becomes "B♭", "C#m7b5" becomes "C♯m7♭5".
func Pretty(text string) string {
	var out strings.Builder
	for i, r := range text {
		switch {
		case r == '#':
			out.WriteRune('♯')
		case r == 'b' && isFlat(text, i):
			out.WriteRune('♭')
		default:
			out.WriteRune(r)
		}
	}
	return out.String()
}

// isFlat tells an accidental b from a letter b inside a word: a flat follows a
// note letter, another flat, or stands before a digit or a Roman numeral.
func isFlat(text string, i int) bool {
	if i > 0 && strings.IndexByte("ABCDEFGb", text[i-1]) >= 0 {
		return i+1 == len(text) || !isLower(text[i+1]) || strings.IndexByte("bdm", text[i+1]) >= 0
	}
	return i+1 < len(text) && strings.IndexByte("0123456789IViv", text[i+1]) >= 0
}

func isLower(c byte) bool { return c >= 'a' && c <= 'z' }

// Mod is the remainder of a by n that is never negative.
func Mod(a, n int) int {
	if a %= n; a < 0 {
		a += n
	}
	return a
}

func floorDiv(a, n int) int { return (a - Mod(a, n)) / n }
