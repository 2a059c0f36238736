package render

import (
	"strconv"

	"agrimony/internal/core/op"
)

// Finding is one thing that a review found, with the place and, where there is
// one, a mend.
type Finding struct {
	Rule    string `json:"rule"`
	Lane    string `json:"lane"`
	Step    int    `json:"step"` // from 1; 0: the whole lane or clip
	Message string `json:"message"`
	Mend    *Mend  `json:"mend" tstype:"Mend | null,required"`
	More    []Mend `json:"more,omitempty"` // further mends to choose from
	// Silent says that the lane sounds nothing because of it.
	Silent bool `json:"silent,omitempty"`
}

// Mend is an edit that takes a finding away.
type Mend struct {
	Label string  `json:"label"`
	Ops   []op.Op `json:"ops"`
}

// Many is so many of something in words: "1 note", "7 notes".
func Many(count int, one string) string {
	if count == 1 {
		return "1 " + one
	}
	return strconv.Itoa(count) + " " + one + "s"
}

// MendBy makes a mend of the arguments of edits.
func MendBy(label string, edits ...any) *Mend {
	m := &Mend{Label: label}
	for _, args := range edits {
		m.Ops = append(m.Ops, op.Of(args))
	}
	return m
}
