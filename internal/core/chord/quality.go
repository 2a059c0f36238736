package chord

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"agrimony/internal/core/pitch"
)

// Quality is a kind of chord, as lead sheets write it.
type Quality struct {
	Tones   string   // against the major scale, from the root up: they spell it
	Symbol  string   // how its symbol goes on after the root
	Numeral string   // how its numeral goes on; a minor third makes the figure lower case
	Extras  int      // how many alterations and additions its name tells of
	Aliases []string // other writings of the symbol that are read
}

// Qualities are the kinds of chords with a name of their own. To add one, add a row.
// Further ones come of altering those with a seventh: see alterations.
var Qualities = []Quality{
	{"1 3 5", "", "", 0, []string{"maj", "M", "ma"}},
	{"1 b3 5", "m", "", 0, []string{"min", "mi", "-"}},
	{"1 b3 b5", "dim", "o", 0, []string{"o", "°"}},
	{"1 3 #5", "aug", "+", 0, []string{"+"}},
	{"1 3 b5", "(b5)", "(b5)", 1, nil},
	{"1 5", "5", "5", 0, nil},
	{"1 4 5", "sus4", "sus4", 0, []string{"sus"}},
	{"1 2 5", "sus2", "sus2", 0, nil},
	{"1 3 5 6", "6", "6", 1, []string{"maj6", "M6", "add6"}},
	{"1 b3 5 6", "m6", "6", 1, []string{"min6", "mi6", "-6", "madd6"}},
	{"1 3 5 6 9", "6add9", "6add9", 2, []string{"69", "6/9"}},
	{"1 b3 5 6 9", "m6add9", "6add9", 2, []string{"m69", "m6/9", "min6add9", "mi6add9", "-6add9"}},
	{"1 3 5 9", "add9", "add9", 1, []string{"add2"}},
	{"1 b3 5 9", "madd9", "add9", 1, []string{"madd2", "minadd9", "miadd9", "-add9"}},
	{"1 3 5 11", "add11", "add11", 1, []string{"add4"}},
	{"1 b3 5 11", "madd11", "add11", 1, []string{"madd4", "minadd11", "miadd11", "-add11"}},
	{"1 3 5 b7", "7", "7", 0, nil},
	{"1 3 5 7", "maj7", "maj7", 0, []string{"M7", "Δ", "Δ7", "ma7"}},
	{"1 b3 5 b7", "m7", "7", 0, []string{"min7", "mi7", "-7"}},
	{"1 b3 5 7", "mMaj7", "maj7", 0, []string{"mM7", "mmaj7", "minMaj7", "miMaj7", "-Maj7", "-M7", "mΔ"}},
	{"1 b3 b5 b7", "m7b5", "ø7", 0, []string{"ø", "ø7", "min7b5", "mi7b5", "-7b5"}},
	{"1 b3 b5 bb7", "dim7", "o7", 0, []string{"o7", "°7"}},
	{"1 b3 b5 7", "mMaj7b5", "omaj7", 1, []string{"dimMaj7", "oM7", "omaj7", "°M7"}},
	{"1 3 #5 b7", "7#5", "+7", 1, []string{"+7", "aug7"}},
	{"1 3 #5 7", "maj7#5", "+maj7", 1, []string{"+M7", "+maj7", "augMaj7"}},
	{"1 4 5 b7", "7sus4", "7sus4", 0, []string{"7sus"}},
	{"1 3 5 b7 9", "9", "9", 0, nil},
	{"1 3 5 7 9", "maj9", "maj9", 0, []string{"M9", "Δ9", "ma9"}},
	{"1 b3 5 b7 9", "m9", "9", 0, []string{"min9", "mi9", "-9"}},
	{"1 b3 5 7 9", "mMaj9", "maj9", 0, []string{"mM9", "mmaj9", "minMaj9", "-M9"}},
	{"1 4 5 b7 9", "9sus4", "9sus4", 0, []string{"9sus"}},
	{"1 3 5 b7 9 11", "11", "11", 0, nil},
	{"1 3 5 7 9 11", "maj11", "maj11", 0, []string{"M11", "Δ11", "ma11"}},
	{"1 b3 5 b7 9 11", "m11", "11", 0, []string{"min11", "mi11", "-11"}},
	{"1 b3 5 7 9 11", "mMaj11", "maj11", 0, []string{"mM11", "mmaj11", "minMaj11", "-M11"}},
	{"1 3 5 b7 9 13", "13", "13", 0, nil},
	{"1 3 5 7 9 13", "maj13", "maj13", 0, []string{"M13", "Δ13", "ma13"}},
	{"1 b3 5 b7 9 13", "m13", "13", 0, []string{"min13", "mi13", "-13"}},
	{"1 b3 5 7 9 13", "mMaj13", "maj13", 0, []string{"mM13", "mmaj13", "minMaj13", "-M13"}},
}

// plain are the alterations with which a name counts as well as one without: those
// that lead sheets commonly write. With any other a name is found, too, but stands
// behind every name without.
var plain = []string{"7b5", "7b9", "7#9", "maj7#11"}

// alterations are what may follow a seventh or higher: the tone's number, by what it
// is altered, and how it is written. A fifth is replaced, any other replaces the
// natural tone or is added.
var alterations = []pitch.Degree{{Number: 5, Alter: -1}, {Number: 5, Alter: 1}, {Number: 9, Alter: -1}, {Number: 9, Alter: 1}, {Number: 11, Alter: 1}, {Number: 13, Alter: -1}}

// Form is a quality as it stands in a chord, alterations applied.
type Form struct {
	Tones   []pitch.Degree // from the root up
	Symbol  string
	Numeral string
	extras  int
	common  bool // it has a row, or is among plain
	row     *Quality
}

// Minor tells whether the third is a minor one: numerals write it in lower case.
func (f *Form) Minor() bool { return f.at(3) != nil && f.at(3).Alter < 0 }

// at is the tone of a number, or nil.
func (f *Form) at(number int) *pitch.Degree {
	for i := range f.Tones {
		if f.Tones[i].Number == number {
			return &f.Tones[i]
		}
	}
	return nil
}

// seventh tells whether it goes as far as a seventh, so that alterations may follow.
func (f *Form) seventh() bool { return f.at(7) != nil }

// mask is the set of its pitch classes above the root.
func (f *Form) mask() (out uint16) {
	for _, d := range f.Tones {
		out |= 1 << pitch.Mod(d.Semitones(), 12)
	}
	return out
}

// tone is the tone at so many semitones above the root; a set without a name has its
// tones as plain degrees.
func (f *Form) tone(semitones int) pitch.Degree {
	for _, d := range f.Tones {
		if pitch.Mod(d.Semitones()-semitones, 12) == 0 {
			return d
		}
	}
	return intervals[pitch.Mod(semitones, 12)]
}

// tone reads a chord's tone: 1..13 with accidentals before it.
func tone(text string) (pitch.Degree, error) {
	digits := strings.TrimLeft(text, "b#")
	number, err := strconv.Atoi(digits)
	signs := text[:len(text)-len(digits)]
	alter := strings.Count(signs, "#") - strings.Count(signs, "b")
	if err != nil || number < 1 || number > 13 || len(signs) > 2 || len(signs) != max(alter, -alter) || digits[0] == '0' {
		return pitch.Degree{}, fmt.Errorf("%q is not a tone; allowed: 1..13 with up to two of # or b before it", text)
	}
	return pitch.Degree{Number: number, Alter: alter}, nil
}

// forms are all qualities: those with rows first, in their order.
var forms = makeForms()

func makeForms() []Form {
	var out []Form
	for i := range Qualities {
		row := &Qualities[i]
		form := Form{Symbol: row.Symbol, Numeral: row.Numeral, extras: row.Extras, row: row, common: true}
		for _, text := range strings.Fields(row.Tones) {
			d, err := tone(text)
			if err != nil {
				panic(err) // a misprint in the table above
			}
			form.Tones = append(form.Tones, d)
		}
		out = append(out, form)
	}
	rows := len(out)
	for i := range rows {
		if !out[i].seventh() {
			continue
		}
		for set := 1; set < 1<<len(alterations); set++ {
			var chosen []pitch.Degree
			for k, a := range alterations {
				if set>>k&1 == 1 {
					chosen = append(chosen, a)
				}
			}
			if form, err := out[i].altered(chosen); err == nil {
				out = append(out, form)
			}
		}
	}
	return out
}

// altered applies alterations to a form that has a seventh.
func (f *Form) altered(by []pitch.Degree) (Form, error) {
	out := *f
	out.Tones = slices.Clone(f.Tones)
	if len(by) > 0 && !f.seventh() {
		return out, fmt.Errorf("%q follows only a seventh or higher", by[0].String())
	}
	for _, a := range by {
		text := a.String()
		i := slices.IndexFunc(out.Tones, func(d pitch.Degree) bool { return d.Number == a.Number })
		if a.Number == 9 && i >= 0 && out.Tones[i].Alter != 0 {
			i = -1 // b9 and #9 stand together
		}
		switch {
		case slices.Contains(out.Tones, a):
			return out, fmt.Errorf("%q is said twice", text)
		case i >= 0 && out.Tones[i].Alter != 0:
			return out, fmt.Errorf("the %d is altered twice", a.Number)
		case i >= 0:
			out.Tones[i] = a
		default:
			out.Tones = append(out.Tones, a)
		}
		out.Symbol += text
		out.Numeral += text
		out.extras++
	}
	slices.SortStableFunc(out.Tones, func(a, b pitch.Degree) int { return a.Number - b.Number })
	seen := uint16(0)
	for _, d := range out.Tones {
		bit := uint16(1) << pitch.Mod(d.Semitones(), 12)
		if seen&bit != 0 {
			return out, fmt.Errorf("two of its tones are one pitch")
		}
		seen |= bit
	}
	out.common = len(by) == 0 || slices.Contains(plain, out.Symbol)
	return out, nil
}

// entry is the best name of a set of pitch classes above a root.
type entry struct {
	form     int16 // index in forms; -1: none
	complete bool  // nothing is left out but the ninth of an eleventh or thirteenth
}

// named is for each set of pitch classes its best name; a set is a mask whose lowest
// bit, the root's, is left away.
var named = nameSets()

func nameSets() *[2048]entry {
	var out [2048]entry
	for i := range out {
		out[i].form = -1
	}
	offer := func(mask uint16, form int, complete bool) {
		now := &out[mask>>1]
		if now.form >= 0 {
			old := &forms[now.form]
			if order(old.common && now.complete, now.complete, old.common, old.extras) <= order(forms[form].common && complete, complete, forms[form].common, forms[form].extras) {
				return
			}
		}
		*now = entry{int16(form), complete}
	}
	for i := range forms {
		form := &forms[i]
		full := form.mask()
		sets := []uint16{full}
		eleventh := form.at(11) != nil && form.at(11).Alter == 0 && form.at(3) != nil
		if ninth := form.at(9); ninth != nil && ninth.Alter == 0 && (eleventh || form.at(13) != nil) {
			sets = append(sets, full&^(1<<2)) // players leave it out
		}
		if form.at(13) != nil {
			if form.at(11) == nil && full&(1<<5) == 0 {
				for _, set := range sets {
					sets = append(sets, set|1<<5) // the full stack
				}
			}
		}
		fifth := form.at(5)
		for _, set := range sets {
			offer(set, i, true)
			if fifth != nil && fifth.Alter == 0 && len(form.Tones) > 2 {
				offer(set&^(1<<7), i, false)
			}
		}
	}
	return &out
}

// order ranks names of one root, the best lowest: complete ones in common use, then
// incomplete ones in common use, then the others.
func order(best, complete, common bool, extras int) int {
	rank := extras
	switch {
	case best:
	case common:
		rank += 100
	case complete:
		rank += 200
	default:
		rank += 300
	}
	return rank
}

// intervals are plain degrees by semitones, for sets without a name.
var intervals = [12]pitch.Degree{{Number: 1}, {Number: 2, Alter: -1}, {Number: 2}, {Number: 3, Alter: -1}, {Number: 3}, {Number: 4}, {Number: 5, Alter: -1}, {Number: 5}, {Number: 5, Alter: 1}, {Number: 6}, {Number: 7, Alter: -1}, {Number: 7}}

// bracketed makes a form of a set without a name: its root with its degrees.
func bracketed(mask uint16) Form {
	out := Form{}
	var parts []string
	for i, d := range intervals {
		if mask>>i&1 == 1 {
			out.Tones = append(out.Tones, d)
			if i > 0 {
				parts = append(parts, d.String())
			}
		}
	}
	if len(parts) == 0 {
		parts = []string{"1"}
	}
	out.Symbol = "(" + strings.Join(parts, ",") + ")"
	out.Numeral = out.Symbol
	return out
}
