package view

import (
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// Moved is what a field of the steps, or of the lane, comes to in each slot, once modulators
// and luck have moved it.
type Moved struct {
	Field   string `json:"field"`
	Low     int    `json:"low"` // its range
	High    int    `json:"high"`
	InSteps bool   `json:"inSteps"` // each step has its own
	Written []int  `json:"written"` // what it is before, step by step
	Values  []int  `json:"values"`
}

// movedOf is a field that is moved, without its values yet.
func movedOf(own *piece.Lane, field string) Moved {
	count := own.Content.StepList().Len()
	out := Moved{Field: field, Written: make([]int, count)}
	for i := range out.Written {
		out.Written[i] = own.Value(field, i)
	}
	_, out.InSteps = own.StepValue(field, 0)
	for _, move := range own.Moves() {
		if move.Name == field {
			out.Low, out.High = move.Low, move.High
		}
	}
	return out
}

// Move is a field that modulators may move, with its range.
type Move struct {
	Name  string   `json:"name"`
	Low   int      `json:"low"`
	High  int      `json:"high"`
	Words []string `json:"words"` // what its values are called, from the lowest; empty: they are numbers
	// From and To are what a new modulator moves it between.
	From int `json:"from"`
	To   int `json:"to"`
}

// movesOf are the fields that modulators may move in a lane.
func movesOf(own *piece.Lane) []Move {
	out := []Move{}
	for _, move := range own.Moves() {
		out = append(out, Move{move.Name, move.Low, move.High, append([]string{}, move.Words...), move.From, move.To})
	}
	return out
}

// Curve is a modulator as it runs through the clip.
type Curve struct {
	On        string    `json:"on"`
	Modulator int       `json:"modulator"` // which of the lane's, from 0
	Every     int64     `json:"every"`     // its period
	At        []int64   `json:"at"`
	Value     []float64 `json:"value"` // in the field's unit
}

// Reach is which values a control lane that follows another reaches, and by which pitches.
type Reach struct {
	Least   int `json:"least"`
	Most    int `json:"most"`
	Lowest  int `json:"lowest"`
	Highest int `json:"highest"`
}

// crafted views what moves a lane's values.
func (l *Lane) crafted(performance *render.Performance, own *piece.Lane, part *render.Part) {
	l.curves(performance, own)
	pattern := performance.Pattern(own)
	fields := pattern.MovedFields()
	if len(fields) == 0 && len(own.Odds) == 0 {
		return
	}
	l.moved(performance, own, part, pattern, fields)
}

// curves views the lane's modulators as they run.
func (l *Lane) curves(performance *render.Performance, own *piece.Lane) {
	pattern := performance.Pattern(own)
	for _, c := range pattern.Curves(performance.Length) {
		out := Curve{On: c.On.String(), Modulator: c.Modulator, Every: c.Every.Export(PPQ), At: make([]int64, len(c.At)), Value: c.Value}
		for i, at := range c.At {
			out.At[i] = at.Export(PPQ)
		}
		l.Curves = append(l.Curves, out)
	}
}

// moved views what each field comes to in each slot.
func (l *Lane) moved(performance *render.Performance, own *piece.Lane, part *render.Part, pattern *render.Pattern, fields []render.Field) {
	moved := make([]Moved, len(fields))
	for i, f := range fields {
		moved[i] = movedOf(own, f.String())
	}
	each := func(s render.Slot) bool {
		for i, f := range fields {
			moved[i].Values = append(moved[i].Values, pattern.Comes(f, &s, moved[i].Written[s.Step]))
		}
		if len(own.Odds) > 0 {
			drawn := ""
			if own.Content.StepList().Cell(int(s.Step)).On {
				drawn = pattern.Drawn(&s)
			}
			l.Drawn = append(l.Drawn, drawn)
		}
		return true
	}
	if part != nil && part.Clock != nil {
		for _, s := range part.Clock.Slots {
			each(s)
		}
	} else {
		pattern.Each(untilOf(performance, own), each)
	}
	l.Moved = moved
}

// Octaves are the whole octaves, two at least, in which a lane's notes begin: what a range
// is first set to.
type Octaves struct {
	Low  int `json:"low"`
	High int `json:"high"`
}

var defaultOctaves = Octaves{36, 59}

func octavesOf(part *render.Part) Octaves {
	if len(part.Notes) == 0 {
		return defaultOctaves
	}
	low := 127
	for i := range part.Notes {
		low = min(low, int(part.Notes[i].Pitch))
	}
	low = min(low/12*12, 96)
	return Octaves{low, low + 23}
}
