package render

import "agrimony/internal/core/op"

// Finding is one thing that a review found, with the place and, where there is
// one, a mend.
type Finding struct {
	Rule    string `json:"rule"`
	Lane    string `json:"lane"`
	Step    int    `json:"step"` // from 1; 0: the whole lane or clip
	Message string `json:"message"`
	Mend    *Mend  `json:"mend" tstype:"Mend | null,required"`
	More    []Mend `json:"more,omitempty"` // further mends to choose from
}

// Mend is an edit that takes a finding away.
type Mend struct {
	Label string  `json:"label"`
	Ops   []op.Op `json:"ops"`
}

// MendBy makes a mend of the arguments of edits.
func MendBy(label string, edits ...any) *Mend {
	m := &Mend{Label: label}
	for _, args := range edits {
		m.Ops = append(m.Ops, op.Of(args))
	}
	return m
}
