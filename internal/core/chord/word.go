package chord

import (
	"fmt"
	"strings"

	"agrimony/internal/core/pitch"
)

// MaxWords is the longest progression that is read, in chords.
const MaxWords = 512

// Word is a chord of a written progression, or what is wrong with it.
type Word struct {
	Text    string
	At      int // where it begins in the text, in bytes
	Chord   Chord
	Problem string   // empty: it was read
	Near    []string // what it may have meant
}

// WordError says which word of a progression is no chord, and why.
type WordError struct {
	Index int // from 1
	Word  string
	Cause string
}

func (e *WordError) Error() string {
	return fmt.Sprintf("word %d: %q is not a chord: %s", e.Index, e.Word, e.Cause)
}

// Parse reads one word: a numeral of the key, or a symbol.
func Parse(text string, key pitch.Key) (Chord, error) {
	if IsNumeral(text) {
		return ParseNumeral(text, key)
	}
	return ParseSymbol(text)
}

// IsNumeral tells whether a word is meant as a numeral: it begins with I or V, in
// either case, perhaps after flats or sharps.
func IsNumeral(text string) bool {
	rest := strings.TrimLeft(plainSigns.Replace(text), "b#")
	return rest != "" && strings.IndexByte("IViv", rest[0]) >= 0
}

// Words splits a progression into its words and reads each. Words stand between
// spaces or bar lines.
func Words(text string, key pitch.Key) ([]Word, error) {
	var out []Word
	for at := 0; at < len(text); {
		if strings.IndexByte(" \t\r\n|", text[at]) >= 0 {
			at++
			continue
		}
		end := at
		for end < len(text) && strings.IndexByte(" \t\r\n|", text[end]) < 0 {
			end++
		}
		if len(out) == MaxWords {
			return nil, fmt.Errorf("more than %d chords; allowed: 1..%d", MaxWords, MaxWords)
		}
		word := Word{Text: text[at:end], At: at}
		var err error
		if len(word.Text) > 40 {
			err = fmt.Errorf("it is too long")
		} else {
			word.Chord, err = Parse(word.Text, key)
		}
		if err != nil {
			word.Problem = err.Error()
			if !strings.Contains(word.Problem, "; near it: ") {
				word.Near = nearWords(word.Text, key)
				word.Problem += nearText("", word.Near)
			}
		}
		out = append(out, word)
		at = end
	}
	if len(out) == 0 {
		return nil, fmt.Errorf("there is no chord; allowed: 1..%d of them, as in \"i VI F#m7 B/D#\"", MaxWords)
	}
	return out, nil
}

// Read reads a progression. The error is a *WordError where a word is no chord.
func Read(text string, key pitch.Key) ([]Chord, error) {
	words, err := Words(text, key)
	if err != nil {
		return nil, err
	}
	out := make([]Chord, len(words))
	for i, w := range words {
		if w.Problem != "" {
			return nil, &WordError{i + 1, w.Text, w.Problem}
		}
		out[i] = w.Chord
	}
	return out, nil
}

// Numeral writes a chord that was read as a numeral of a key.
func (c Chord) Numeral(key pitch.Key) string {
	if c.Over != "" {
		if goal, err := goalOf(c.Over[1:], key); err == nil {
			out := numeralOf(goal, c.Root, &c.Form)
			if leading := goal.Tonic.Sharpened(-1).Class() == c.Root.Class(); leading {
				out = cased("VII", c.Form.Minor()) + c.Form.Numeral
			}
			return out + c.stands() + c.Over
		}
	}
	return numeralOf(key, c.Root, &c.Form) + c.stands()
}

// stands is the chord tone that is lowest, as a numeral tells it: "/5".
func (c Chord) stands() string {
	if c.Bass == nil {
		return ""
	}
	return fmt.Sprintf("/%d", c.Form.tone(c.Bass.Class()-c.Root.Class()).Number)
}
