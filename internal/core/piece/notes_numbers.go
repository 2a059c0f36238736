package piece

import (
	"cmp"
	"slices"

	"agrimony/internal/core/document"
)

// settle gives numbers to notes without, refuses one that stands twice, and puts the notes in
// order of time.
func (n *Notes) settle(at *document.At) {
	list := at.Field("notes")
	if !n.numberedAll(list) {
		n.number()
	}
	early := func(a, b FreeNote) int { return cmp.Compare(a.At, b.At) }
	if slices.IsSortedFunc(n.Notes, early) { // a lane that others may be reading is left alone
		return
	}
	slices.SortStableFunc(n.Notes, early)
	if !n.plainly() {
		n.tell()
	}
}

// numberedAll tells whether every note has a number, and that all of them are written or none
// is; it refuses one that stands twice.
func (n *Notes) numberedAll(list *document.At) bool {
	all, told, rising, before := true, 0, true, 0
	for i := range n.Notes {
		number := n.Notes[i].Number
		if n.Notes[i].told {
			told++
		}
		all = all && number != 0
		rising = rising && number > before
		before = number
	}
	if !rising {
		n.refuseTwice(list)
	}
	return all && (told == len(n.Notes) || told == 0 && n.plainly())
}

func (n *Notes) refuseTwice(list *document.At) {
	seen := make(map[int]int, len(n.Notes))
	for i := range n.Notes {
		number := n.Notes[i].Number
		if before, twice := seen[number]; twice && number != 0 {
			list.Item(i).Field("number").Refuse("%d is the number of notes[%d] already; allowed: each number once", number, before)
		}
		seen[number] = i
	}
}

// number gives the lowest numbers that are not given to notes without, in their order. Where
// any was given, all are written.
func (n *Notes) number() {
	taken := make(map[int]bool, len(n.Notes))
	for i := range n.Notes {
		taken[n.Notes[i].Number] = true
	}
	given := false
	for i, next := 0, 1; i < len(n.Notes); i++ {
		if n.Notes[i].Number != 0 {
			given = true
			continue
		}
		for taken[next] {
			next++
		}
		n.Notes[i].Number = next
		next++
	}
	if given {
		n.tell()
	}
}

// plainly tells whether the notes' numbers are those that they get where none is written.
func (n *Notes) plainly() bool {
	for i := range n.Notes {
		if n.Notes[i].Number != i+1 {
			return false
		}
	}
	return true
}

// tell has all numbers written.
func (n *Notes) tell() {
	for i := range n.Notes {
		n.Notes[i].told = true
	}
}

// Put replaces the notes by others: those without a number get the lowest that none has had
// of those given, and all numbers are written from now on. Notes at once stay in the order
// given.
func (n *Notes) Put(notes []FreeNote) {
	n.Notes = notes
	n.number()
	slices.SortStableFunc(n.Notes, func(a, b FreeNote) int { return cmp.Compare(a.At, b.At) })
	n.tell()
}

// Numbers that are so few are looked for one by one.
const few = 16

// Find gives the place of each of some numbers' notes; none for a number that no note has.
func (n *Notes) Find(numbers []int) map[int]int {
	if len(numbers) > few {
		return n.ByNumber()
	}
	out := make(map[int]int, len(numbers))
	for _, number := range numbers {
		if i := n.placeOf(number); i >= 0 {
			out[number] = i
		}
	}
	return out
}

// placeOf is the place of a number's note; below 0: no note has it.
func (n *Notes) placeOf(number int) int {
	for i := range n.Notes { // by reference: notes are large
		if n.Notes[i].Number == number {
			return i
		}
	}
	return -1
}

// ByNumber gives the place of each number's note.
func (n *Notes) ByNumber() map[int]int {
	out := make(map[int]int, len(n.Notes))
	for i := range n.Notes {
		out[n.Notes[i].Number] = i
	}
	return out
}
