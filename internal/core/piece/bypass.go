package piece

import (
	"slices"

	"agrimony/internal/core/document"
)

// A Bypassable is something of a lane that can be as if it were not in the document, and stays there.
type Bypassable struct {
	Name string
	// Field is the field of a lane, or of its steps or notes, that a kind must have for it.
	Field string
}

// Bypassables are all that a lane can bypass. To add one, add a row, and ask Lane.Bypasses where it acts.
var Bypassables = []Bypassable{
	{"odds", "odds"},
	{"range", "range"},
	{"chance", "chance"},
	{"rounds", "rounds"},
	{"groove", "share"},
	{"layer-keep", "keep"},
}

// bypassing adds to a kind the list of what it bypasses: of all that there is, what the kind has.
func (k Kind) bypassing() Kind {
	var words []string
	steps := k.step()
	for _, b := range Bypassables {
		own := slices.ContainsFunc(k.shape.Fields, func(f document.Field[Lane]) bool { return f.Name == b.Field })
		if own || slices.ContainsFunc(steps, func(m document.Member) bool { return m.Key == b.Field }) {
			words = append(words, b.Name)
		}
	}
	at := slices.IndexFunc(k.shape.Fields, func(f document.Field[Lane]) bool { return f.Name == "steps" || f.Name == "notes" })
	if at < 0 {
		at = len(k.shape.Fields)
	}
	k.shape.Fields = slices.Insert(k.shape.Fields, at, document.Words("bypass", words, "What stays in the document and is as if it were not there.",
		func(l *Lane) *[]string { return &l.Bypass }))
	return k
}

// Bypasses reports whether the lane bypasses something, which is the name of one of Bypassables.
func (l *Lane) Bypasses(what string) bool { return slices.Contains(l.Bypass, what) }

// Kept is the range that its notes keep to; nil: all of MIDI's.
func (l *Lane) Kept() *Range {
	if l.Bypasses("range") {
		return nil
	}
	return l.Range
}

// Luck is the alternatives of which its steps draw.
func (l *Lane) Luck() []Odd {
	if l.Bypasses("odds") {
		return nil
	}
	return l.Odds
}

// Acts reports whether one of the lane's modulators, by its place in the list, moves anything.
func (l *Lane) Acts(modulator int) bool {
	m := &l.Modulators[modulator]
	return !m.Off && (m.On != "chance" || !l.Bypasses("chance"))
}

// Moving reports whether any modulator of the lane moves a field.
func (l *Lane) Moving(field string) bool {
	for i := range l.Modulators {
		if l.Modulators[i].On == field && l.Acts(i) {
			return true
		}
	}
	return false
}

// Played is a cell of the lane as it plays: what the lane bypasses of it is not there. It is the cell itself where
// nothing is.
func (l *Lane) Played(cell *Cell) *Cell {
	chance, rounds := l.Bypasses("chance") && cell.Chance != 100, l.Bypasses("rounds") && cell.Rounds != nil
	if !chance && !rounds {
		return cell
	}
	out := *cell
	if chance {
		out.Chance = 100
	}
	if rounds {
		out.Rounds = nil
	}
	return &out
}

// Listens reports whether the lane's notes depend on the sounding chord.
func (l *Lane) Listens() bool {
	if layer, ok := l.Content.(*Layer); ok && l.Bypasses("layer-keep") {
		return layer.Lock == "chord"
	}
	content, ok := l.Content.(Listening)
	return ok && content.Listens()
}

// KeepOf is which notes of its original a layer plays.
func (l *Lane) KeepOf() Keep {
	keep := l.Content.(*Layer).Keep
	if l.Bypasses("layer-keep") {
		keep = Keep{Name: "all"}
	}
	return keep
}
