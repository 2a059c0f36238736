package chord

// StackKind is a kind of chord on a degree: scale degrees above it.
type StackKind struct {
	Name  string
	Above []int
}

// Stacks are the chords that a degree is given by name. To add one, add a row.
var Stacks = []StackKind{
	{"triad", []int{0, 2, 4}}, {"7", []int{0, 2, 4, 6}}, {"9", []int{0, 2, 4, 6, 8}}, {"11", []int{0, 2, 4, 6, 8, 10}}, {"13", []int{0, 2, 4, 6, 8, 10, 12}},
	{"sus2", []int{0, 1, 4}}, {"sus4", []int{0, 3, 4}}, {"add6", []int{0, 2, 4, 5}}, {"add9", []int{0, 2, 4, 8}},
}
