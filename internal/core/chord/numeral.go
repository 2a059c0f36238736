package chord

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"agrimony/internal/core/pitch"
)

var romans = [7]string{"I", "II", "III", "IV", "V", "VI", "VII"}

// figure writes a root by its number in the key. Roots of the key are told by their
// degree, others by how they differ from the key's own degree of their letter. own is
// the degree (from 1) where the root is one of the key's own.
func figure(key pitch.Key, root pitch.Name, lower bool) (text string, own int) {
	if degree := key.Index(root.Class()); degree > 0 {
		return degreeFigure(key, degree, lower), degree
	}
	number := pitch.Mod(int(root.Letter)-int(key.Tonic.Letter), 7) + 1
	base := baseOf(key, number)
	away := root.Class() - key.Tonic.Class() - base.Semitones()
	away = pitch.Mod(away+6, 12) - 6
	if away < 0 && base.Alter < 0 && hasNumber(key, number) {
		away-- // a single flat means the degree itself
	}
	return signs(away) + cased(romans[number-1], lower), 0
}

func cased(text string, lower bool) string {
	if lower {
		return strings.ToLower(text)
	}
	return text
}

func signs(n int) string {
	if n < 0 {
		return strings.Repeat("b", -n)
	}
	return strings.Repeat("#", n)
}

// degreeFigure writes a degree of the key by its number. Scales that have a number
// twice tell the altered one by its sign.
func degreeFigure(key pitch.Key, degree int, lower bool) string {
	own := key.Scale.Degrees[degree-1]
	text := cased(romans[own.Number-1], lower)
	for i, other := range key.Scale.Degrees {
		if i != degree-1 && other.Number == own.Number && own.Alter != 0 {
			return signs(own.Alter) + text
		}
	}
	return text
}

func hasNumber(key pitch.Key, number int) bool {
	return slices.ContainsFunc(key.Scale.Degrees, func(d pitch.Degree) bool { return d.Number == number })
}

// baseOf is the key's own degree of a number: of several the natural one, without any
// the major scale's.
func baseOf(key pitch.Key, number int) pitch.Degree {
	best := pitch.Degree{Number: number}
	for _, d := range key.Scale.Degrees {
		if d.Number == number {
			best = d
			if d.Alter == 0 {
				break
			}
		}
	}
	return best
}

// ownTriad is how the third and the fifth of a scale's own triad on a degree stand: only
// scales of seven notes have such.
func ownTriad(key pitch.Key, degree int) (third, fifth int) {
	above := func(steps int) int {
		at := degree - 1 + steps
		return key.Semitones(at%7+1) + 12*(at/7) - key.Semitones(degree)
	}
	if key.Size() != 7 || degree < 1 {
		return 0, 0
	}
	return above(2), above(4)
}

// ownIsBent tells whether the scale's own triad on a degree is diminished or
// augmented, and a numeral of that case alone would mean it.
func ownIsBent(key pitch.Key, degree int, lower bool) bool {
	third, fifth := ownTriad(key, degree)
	return lower && third == 3 && fifth == 6 || !lower && third == 4 && fifth == 8
}

// Figure is the numeral of a root alone: its degree of the key, in upper case.
func Figure(key pitch.Key, root pitch.Name) string {
	text, _ := figure(key, root, false)
	return text
}

// numeralOf writes a form on a root as a numeral.
func numeralOf(key pitch.Key, root pitch.Name, form *Form) string {
	lower := form.Minor() && !slices.Contains(form.Tones, pitch.Degree{Number: 3})
	text, own := figure(key, root, lower)
	if own > 0 && key.Scale.Degrees[own-1].Number == 7 && lower && leadsByStep(key) && strings.HasPrefix(diminished.Replace(form.Numeral), "o") {
		text = "b" + text // without a sign it would be the leading tone's
	}
	fifth := form.at(5)
	if form.row != nil && fifth != nil && fifth.Alter == 0 && form.at(3) != nil && ownIsBent(key, own, lower) {
		text += "(5)"
	}
	return text + form.Numeral
}

// ParseNumeral reads a numeral in a key: "ii7", "V7/5", "bVII", "V7/ii", "vii(5)".
func ParseNumeral(text string, key pitch.Key) (Chord, error) {
	parts := strings.Split(plainSigns.Replace(text), "/")
	if len(parts) >= 2 && parts[0] != "" && strings.HasSuffix(parts[0], "6") && strings.HasPrefix(parts[1], "9") {
		parts = append([]string{parts[0] + "/" + parts[1]}, parts[2:]...) // 6/9
	}
	var bass int
	over := ""
	for _, part := range parts[1:] {
		if n, err := strconv.Atoi(part); err == nil && bass == 0 {
			bass = n
		} else if over == "" && part != "" {
			over = part
		} else {
			return Chord{}, fmt.Errorf("%q is not a tone of the chord, as in V7/5, nor a degree, as in V7/ii", part)
		}
	}
	out := Chord{}
	if over != "" {
		goal, err := goalOf(over, key)
		if err != nil {
			return Chord{}, err
		}
		out, err = parseOwn(parts[0], goal, true)
		if err != nil {
			return out, err
		}
		out.Over = "/" + over
	} else {
		var err error
		if out, err = parseOwn(parts[0], key, false); err != nil {
			return out, err
		}
	}
	if bass > 1 {
		for _, d := range out.Form.Tones {
			if d.Number == bass || d.Number == bass+7 || d.Number == bass-7 {
				name := out.Root.Above(d)
				out.Bass = &name
				return out, nil
			}
		}
		return out, fmt.Errorf("%s has no %d to stand on; allowed: %s", out.String(), bass, numbers(&out.Form))
	}
	if bass < 0 {
		return out, fmt.Errorf("%d is not a tone of the chord", bass)
	}
	return out, nil
}

func numbers(f *Form) string {
	var out []string
	for _, d := range f.Tones {
		out = append(out, strconv.Itoa(d.Number))
	}
	return strings.Join(out, ", ")
}

// goalOf is the key whose tonic a secondary chord leads to: the degree as the tonic of
// a major or minor key after its own triad.
func goalOf(text string, key pitch.Key) (pitch.Key, error) {
	away, number, lower, rest, err := parseFigure(text)
	if err != nil || rest != "" && rest != "o" && rest != "+" {
		return pitch.Key{}, fmt.Errorf("%q is not a degree to lead to; allowed: I..VII, as in V7/ii", text)
	}
	root, degree := rootOf(key, away, number)
	scale := "major"
	if third, _ := ownTriad(key, degree); third == 3 || third == 0 && lower {
		scale = "harmonic minor"
	}
	found, err := pitch.FindScale(scale)
	if err != nil {
		return pitch.Key{}, err
	}
	for letter := pitch.Letter(0); root.Accidental < -1 || root.Accidental > 1; letter++ {
		// No key has such a tonic: its neighbour of the same sound does.
		if n := (pitch.Name{Letter: letter}); n.Class() == root.Class() {
			root = n
		}
	}
	return pitch.NewKey(root, found)
}

// parseFigure takes the signs and the roman number off a numeral.
func parseFigure(text string) (away, number int, lower bool, rest string, err error) {
	rest = strings.TrimLeft(text, "b#")
	sign := text[:len(text)-len(rest)]
	if strings.Contains(sign, "b") && strings.Contains(sign, "#") || len(sign) > 5 {
		return 0, 0, false, "", fmt.Errorf("%q are not signs of one kind", sign)
	}
	if away = len(sign); strings.HasPrefix(sign, "b") {
		away = -away
	}
	for _, n := range [7]int{6, 7, 5, 3, 2, 4, 1} { // those that begin others last
		for _, lower := range [2]bool{false, true} {
			if after, ok := strings.CutPrefix(rest, cased(romans[n-1], lower)); ok && (n != 6 || !strings.HasPrefix(after, cased("I", lower))) {
				return away, n, lower, after, nil
			}
		}
	}
	return 0, 0, false, "", fmt.Errorf("there is no degree I..VII in %q", text)
}

// rootOf finds the root that signs and a number mean, and its degree (0: not of the
// key). A flat before a degree that the key has flat already means that degree.
func rootOf(key pitch.Key, away, number int) (pitch.Name, int) {
	for i, d := range key.Scale.Degrees {
		if away != 0 && d.Number == number && d.Alter == away {
			twice := slices.IndexFunc(key.Scale.Degrees, func(o pitch.Degree) bool { return o.Number == number && o != d })
			if twice >= 0 {
				return key.Names()[i], i + 1
			}
		}
	}
	base := baseOf(key, number)
	if away < 0 && base.Alter < 0 && hasNumber(key, number) {
		away++
	}
	base.Alter += away
	root := key.Tonic.Above(base)
	if away == 0 && hasNumber(key, number) {
		return root, key.Index(root.Class())
	}
	return root, 0
}

// diminished are the writings of diminished and half-diminished.
var diminished = strings.NewReplacer("°", "o", "ø", "o")

// leadsByStep tells whether the key's seventh degree lies a whole tone under its tonic.
func leadsByStep(key pitch.Key) bool {
	for i, d := range key.Scale.Degrees {
		if d.Number == 7 && d.Alter == 0 || d.Number == 7 && ownIsBent(key, i+1, true) {
			return false
		}
	}
	return slices.Contains(key.Scale.Degrees, pitch.Degree{Number: 7, Alter: -1})
}

// parseOwn reads a numeral without what follows a slash.
func parseOwn(text string, key pitch.Key, secondary bool) (Chord, error) {
	away, number, lower, rest, err := parseFigure(text)
	if err != nil {
		return Chord{}, err
	}
	root, degree := rootOf(key, away, number)
	if secondary && away == 0 && !(lower && number == 7) && key.Scale.Degrees[2].Alter == -1 {
		// Degrees of a minor key are the natural ones, but for its leading tone.
		natural, err := pitch.FindScale("natural minor")
		if err != nil {
			return Chord{}, err
		}
		if key, err = pitch.NewKey(key.Tonic, natural); err != nil {
			return Chord{}, err
		}
		root, degree = rootOf(key, away, number)
	}
	if away == 0 && number == 7 && lower && leadsByStep(key) && strings.HasPrefix(diminished.Replace(rest), "o") {
		// Written out, it is the leading tone's, a semitone under the tonic.
		root, degree = key.Tonic.Above(pitch.Degree{Number: 7}), 0
	}
	out := Chord{Root: root}
	plainFifth := false
	if after, ok := strings.CutPrefix(rest, "(5)"); ok {
		plainFifth, rest = true, after
	}
	// After a sign, case alone decides.
	bent := away == 0 && !plainFifth && ownIsBent(key, degree, lower)
	out.Form, err = parseNumeralSuffix(rest, lower)
	if err != nil {
		var near []string
		for i := range Qualities {
			near = append(near, Qualities[i].Numeral)
		}
		before := text[:len(text)-len(rest)]
		return out, fmt.Errorf("%w%s", err, nearText(before, nearest(rest, near)))
	}
	if bent {
		out.Form = out.Form.bent(key, degree, rest)
	}
	return out, nil
}

// bent makes a form read by a numeral mean the scale's own diminished or augmented
// chord: its fifth, and for a plain seventh its seventh.
func (f Form) bent(key pitch.Key, degree int, suffix string) Form {
	fifth, third := f.at(5), f.at(3)
	if third == nil || fifth == nil || fifth.Alter != 0 {
		return f
	}
	_, own := ownTriad(key, degree)
	mask := f.mask()&^(1<<7) | 1<<own
	if suffix != "" && suffix[0] != 'm' && f.at(7) != nil {
		at := degree - 1 + 6
		seventh := key.Semitones(at%7+1) + 12*(at/7) - key.Semitones(degree)
		mask = mask&^(1<<pitch.Mod(f.at(7).Semitones(), 12)) | 1<<pitch.Mod(seventh, 12)
	}
	if e := named[mask>>1]; e.form >= 0 {
		return forms[e.form]
	}
	return bracketed(mask)
}

// parseNumeralSuffix reads what follows the figure: "7", "o7", "+maj7", "7b9".
func parseNumeralSuffix(text string, lower bool) (Form, error) {
	length := -1
	var best Form
	var problem error
	for i := range Qualities {
		form := &forms[i]
		// Case tells the third; where there is none, either will do.
		if form.at(3) != nil && form.Minor() != lower {
			continue
		}
		for _, writing := range numeralWritings(form) {
			rest, ok := strings.CutPrefix(text, writing)
			if !ok || len(writing) <= length {
				continue
			}
			by, err := parseAlterations(rest)
			if err != nil {
				continue
			}
			made, err := form.altered(by)
			if err != nil {
				problem = err
				continue
			}
			best, length = made, len(writing)
		}
	}
	if length >= 0 {
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

// numeralWritings are the ways to write a form after a numeral.
func numeralWritings(f *Form) []string {
	out := []string{f.Numeral}
	add := func(old, now string) {
		if rest, ok := strings.CutPrefix(f.Numeral, old); ok {
			out = append(out, now+rest)
		}
	}
	add("o", "°")
	add("o", "dim")
	add("ø7", "ø")
	add("+", "aug")
	add("maj", "M")
	add("maj", "Δ")
	add("sus4", "sus")
	add("7sus4", "7sus")
	add("9sus4", "9sus")
	add("6", "add6")
	add("add9", "add2")
	add("add11", "add4")
	add("6add9", "69")
	add("6add9", "6/9")
	return out
}

// Pretty writes a numeral with real signs: "vii°7", "♭VI".
func Pretty(numeral string) string { return strings.ReplaceAll(pitch.Pretty(numeral), "o", "°") }
