package chord

import (
	"fmt"
	"strings"

	"agrimony/internal/core/pitch"
)

// Chord is a chord that was read: a quality on a root, perhaps over another bass.
type Chord struct {
	Root pitch.Name
	Form Form
	// Bass is the tone that is lowest, where that is not the root; it may be one that
	// the chord has not.
	Bass *pitch.Name
	// Over is the secondary chord's goal as it was written: "/ii"; empty: none.
	Over string
}

// ParseSymbol reads a chord symbol: "F#m7", "B/D#", "C7b9", "C(b2,2)". The root is a
// capital letter.
func ParseSymbol(text string) (Chord, error) {
	root, rest, err := parseRoot(text)
	if err != nil {
		return Chord{}, err
	}
	out := Chord{Root: root}
	if at := strings.LastIndexByte(rest, '/'); at >= 0 {
		if bass, after, err := parseRoot(rest[at+1:]); err == nil && after == "" {
			rest = rest[:at]
			if bass.Class() != root.Class() {
				out.Bass = &bass
			}
		} else if _, err := ParseSuffix(rest); err != nil {
			return out, fmt.Errorf("%q is not a bass note; allowed: a note as in %s/%s", rest[at+1:], root, root.Above(pitch.Degree{Number: 3}))
		}
	}
	out.Form, err = ParseSuffix(rest)
	if err != nil {
		return out, fmt.Errorf("%w%s", err, nearText(root.String(), nearSuffixes(rest)))
	}
	return out, nil
}

// parseRoot takes a capital letter with its accidentals off a text.
func parseRoot(text string) (pitch.Name, string, error) {
	text = plainSigns.Replace(text)
	if text == "" {
		return pitch.Name{}, "", fmt.Errorf("there is no note")
	}
	if text[0] < 'A' || text[0] > 'G' {
		first := text[:1]
		for _, r := range text {
			first = string(r)
			break
		}
		return pitch.Name{}, "", fmt.Errorf("there is no note %s", first)
	}
	n := 1
	for n < len(text) && n < 3 && (text[n] == '#' || text[n] == 'b') && (n == 1 || text[n] == text[1]) {
		n++
	}
	name, err := pitch.ParseName(text[:n])
	return name, text[n:], err
}

var plainSigns = strings.NewReplacer("♯", "#", "♭", "b", "𝄪", "##", "𝄫", "bb")

// ParseSuffix reads what follows the root of a symbol: "", "m7", "maj9#11", "(b2,2)".
func ParseSuffix(text string) (Form, error) {
	text = plainSigns.Replace(text)
	found := false
	var best Form
	var problem error
	length := -1
	for i := range Qualities {
		for k := -1; k < len(Qualities[i].Aliases); k++ {
			writing := Qualities[i].Symbol
			if k >= 0 {
				writing = Qualities[i].Aliases[k]
			}
			rest, ok := strings.CutPrefix(text, writing)
			if !ok || len(writing) <= length {
				continue
			}
			by, err := parseAlterations(rest)
			if err != nil {
				continue
			}
			form, err := forms[i].altered(by)
			if err != nil {
				problem = err
				continue
			}
			best, length, found = form, len(writing), true
		}
	}
	if found {
		return best, nil
	}
	if form, ok := parseBracket(text); ok {
		return form, nil
	}
	if problem != nil {
		return Form{}, problem
	}
	return Form{}, fmt.Errorf("%q is not a kind of chord", text)
}

// parseAlterations reads "b9#11", "(b9,#11)" or nothing.
func parseAlterations(text string) ([]pitch.Degree, error) {
	if inner, ok := strings.CutPrefix(text, "("); ok {
		if inner, ok = strings.CutSuffix(inner, ")"); !ok {
			return nil, fmt.Errorf("a bracket is not closed")
		}
		text = strings.ReplaceAll(inner, ",", "")
	}
	var out []pitch.Degree
next:
	for text != "" {
		for _, a := range alterations {
			if rest, ok := strings.CutPrefix(text, a.String()); ok {
				out = append(out, a)
				text = rest
				continue next
			}
		}
		return nil, fmt.Errorf("%q is not an alteration; allowed: b5 #5 b9 #9 #11 b13", text)
	}
	return out, nil
}

// parseBracket reads a set without a name, as it is written: "(b2,2)".
func parseBracket(text string) (Form, bool) {
	inner, open := strings.CutPrefix(text, "(")
	inner, closed := strings.CutSuffix(inner, ")")
	if !open || !closed {
		return Form{}, false
	}
	mask := uint16(1)
	for _, part := range strings.Split(inner, ",") {
		d, err := tone(strings.TrimSpace(part))
		if err != nil {
			return Form{}, false
		}
		mask |= 1 << pitch.Mod(d.Semitones(), 12)
	}
	return bracketed(mask), true
}

// String is the chord's symbol as it is written: "F#m7/C#".
func (c Chord) String() string {
	out := c.Root.String() + c.Form.Symbol
	if c.Bass != nil {
		out += "/" + c.Bass.String()
	}
	return out
}

// Sounding is a spelled tone at a MIDI pitch.
type Sounding struct {
	Name  pitch.Name
	Pitch int
}

// From stacks the chord's tones, from the lowest up, on its root at or above a MIDI
// pitch; another bass is the nearest such tone below the root.
func (c Chord) From(low int) []Sounding {
	root := low + pitch.Mod(c.Root.Class()-low, 12)
	var out []Sounding
	if c.Bass != nil {
		out = append(out, Sounding{*c.Bass, root - pitch.Mod(root-c.Bass.Class(), 12)})
	}
	for _, d := range c.Form.Tones {
		name := c.Root.Above(d)
		if c.Bass != nil && name.Class() == c.Bass.Class() {
			continue
		}
		out = append(out, Sounding{name, root + d.Semitones()})
	}
	return out
}

// Places are the chord's tones in a lane of a key: the root in the octave from the
// lane's tonic upwards, the others stacked above it.
func (c Chord) Places(key pitch.Key, octave int) []pitch.Place {
	tones := c.From(key.Pitch(pitch.Place{Degree: 1}, octave))
	out := make([]pitch.Place, len(tones))
	for i, t := range tones {
		out[i] = key.PlaceOf(t.Name, t.Pitch, octave)
	}
	return out
}

// Described is a chord symbol taken apart.
type Described struct {
	Symbol    string   `json:"symbol"`
	Root      string   `json:"root"`
	Bass      string   `json:"bass"`
	Notes     []string `json:"notes"`     // from the lowest up
	Intervals []string `json:"intervals"` // above the root, whatever is lowest
}

// Explain takes a chord apart.
func (c Chord) Explain() Described {
	out := Described{Symbol: c.String(), Root: c.Root.String(), Bass: c.Root.String(), Notes: []string{}, Intervals: []string{}}
	own := false
	for _, d := range c.Form.Tones {
		out.Intervals = append(out.Intervals, d.String())
		own = own || c.Bass != nil && c.Root.Above(d).Class() == c.Bass.Class()
	}
	if c.Bass != nil {
		out.Bass = c.Bass.String()
		if !own {
			out.Intervals = append(out.Intervals, c.Form.tone(c.Bass.Class()-c.Root.Class()).String())
		}
	}
	for _, t := range c.From(60) {
		out.Notes = append(out.Notes, t.Name.String())
	}
	return out
}
