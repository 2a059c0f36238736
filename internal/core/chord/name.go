package chord

import (
	"slices"

	"agrimony/internal/core/pitch"
)

// Found is a name for a set of tones: a root among them and what they are above it.
type Found struct {
	Class    int  // the root's pitch class
	Known    bool // a quality fits; otherwise it is told by its degrees
	complete bool
	form     int16
	mask     uint16
}

// Form is what the tones are above the root.
func (f Found) Form() Form {
	if f.Known {
		return forms[f.form]
	}
	return bracketed(f.mask)
}

// Symbol writes the name with its root spelled and another bass, by its pitch class,
// where that is not the root: "F#m7/C#". It is spelled in thirds from the root.
func (f Found) Symbol(root pitch.Name, bass int) string {
	if f.Known && bass == f.Class {
		return root.String() + forms[f.form].Symbol
	}
	form := f.Form()
	out := root.String() + form.Symbol
	if bass != f.Class {
		out += "/" + root.Above(form.tone(bass-f.Class)).String()
	}
	return out
}

// Numeral writes the name as a numeral of a key: "ii7/3".
func (f Found) Numeral(key pitch.Key, root pitch.Name, bass int) string {
	form := f.Form()
	out := numeralOf(key, root, &form)
	if bass != f.Class {
		d := form.tone(bass - f.Class)
		out += "/" + string(rune('0'+d.Number%10))
		if d.Number >= 10 {
			out = out[:len(out)-1] + "1" + out[len(out)-1:]
		}
	}
	return out
}

// Find names a set of tones, MIDI pitches in any order. Of several names the one wins
// that explains all tones with the lowest as root; then the one with fewer
// alterations and additions; then the one whose root is in the key. A name that lacks
// its fifth stands behind every complete one. A stack of the key's thirds on its lowest
// tone is named from that. It allocates nothing.
func Find(pitches []int, key *pitch.Key) Found {
	mask, lowest := classes(pitches)
	best, bestRank := unknown(mask, lowest), 1<<30
	if key != nil && isStack(pitches, lowest, key) {
		if f := onRoot(mask, lowest); f.Known {
			return f
		}
		return best
	}
	for i := range 12 {
		root := (lowest + i) % 12
		if mask>>root&1 == 0 {
			continue
		}
		if f := onRoot(mask, root); f.Known {
			if rank := f.rank(lowest, key); rank < bestRank {
				best, bestRank = f, rank
			}
		}
	}
	return best
}

// All lists every name in common use of a set of tones, the best first.
func All(pitches []int, key *pitch.Key) []Found {
	best := Find(pitches, key)
	mask, lowest := classes(pitches)
	out := []Found{best}
	for i := range 12 {
		root := (lowest + i) % 12
		if mask>>root&1 == 0 || root == best.Class {
			continue
		}
		if f := onRoot(mask, root); f.Known && f.complete && forms[f.form].common {
			out = append(out, f)
		}
	}
	slices.SortStableFunc(out[1:], func(a, b Found) int { return a.rank(lowest, key) - b.rank(lowest, key) })
	return out
}

// classes is the set of pitch classes, and that of the lowest tone.
func classes(pitches []int) (mask uint16, lowest int) {
	low := pitches[0]
	for _, p := range pitches {
		mask |= 1 << pitch.Mod(p, 12)
		low = min(low, p)
	}
	return mask, pitch.Mod(low, 12)
}

func onRoot(mask uint16, root int) Found {
	above := (mask>>root | mask<<(12-root)) & 0xfff
	e := named[above>>1]
	return Found{Class: root, Known: e.form >= 0, complete: e.complete, form: e.form, mask: above}
}

func unknown(mask uint16, lowest int) Found {
	f := onRoot(mask, lowest)
	f.Known = false
	return f
}

// rank orders names, the best lowest.
func (f Found) rank(lowest int, key *pitch.Key) int {
	form := &forms[f.form]
	out := order(form.common && f.complete, f.complete, form.common, 0) * 1000
	if f.Class != lowest {
		out += 500
	}
	out += form.extras * 20
	if key != nil && !key.Has(f.Class) {
		out += 10
	}
	return out
}

// isStack tells whether tones are the thirds of a seven-note key stacked on the lowest,
// a triad to a thirteenth.
func isStack(pitches []int, lowest int, key *pitch.Key) bool {
	degree := key.Index(lowest)
	if key.Size() != 7 || degree == 0 {
		return false
	}
	mask, _ := classes(pitches)
	want := uint16(0)
	for k := range 7 {
		want |= 1 << pitch.Mod(key.Tonic.Semitones()+key.Semitones((degree-1+2*k)%7+1), 12)
		if k >= 2 && mask == want {
			return true
		}
	}
	return false
}

// Name names notes given by their names, from the lowest up, in a key or in none.
func Name(notes []pitch.Name, key *pitch.Key) NamedSet {
	pitches := make([]int, len(notes))
	for i, n := range notes {
		pitches[i] = n.Class()
		for i > 0 && pitches[i] <= pitches[i-1] {
			pitches[i] += 12
		}
	}
	spelled := func(class int) pitch.Name {
		return notes[slices.IndexFunc(notes, func(n pitch.Name) bool { return n.Class() == class })]
	}
	bass := notes[0].Class()
	all := All(pitches, key)
	root := spelled(all[0].Class)
	out := NamedSet{Symbol: all[0].Symbol(root, bass), Root: root.String(), Others: []string{}}
	if key != nil {
		out.Numeral = all[0].Numeral(*key, root, bass)
	}
	for _, f := range all[1:] {
		out.Others = append(out.Others, f.Symbol(spelled(f.Class), bass))
	}
	return out
}

// NamedSet is what notes are called together.
type NamedSet struct {
	Symbol  string   `json:"symbol"`
	Numeral string   `json:"numeral"` // empty without a key
	Root    string   `json:"root"`
	Others  []string `json:"others"` // further names in common use
}
