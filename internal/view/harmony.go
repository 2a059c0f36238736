package view

import (
	"agrimony/internal/core/beat"
	"agrimony/internal/core/chord"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/lane/chords"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
	"agrimony/internal/core/review"
)

// Harmony is what the lanes of a clip listen to, and how far they agree with it.
type Harmony struct {
	Lane string `json:"lane"` // where the chords come from
	Clip string `json:"clip"` // the clip of that lane
	// Chords sound one after another, the first from 0 on.
	Chords []Sounding `json:"chords"`
	// Outside lists the notes of a lane, by its id, that are no tones of the chords.
	Outside map[string][]int `json:"outside"`
	// Agreement is the share of a lane's notes and time that is.
	Agreement map[string]review.Agreement `json:"agreement"`
}

// Sounding is a chord with its names in real signs.
type Sounding struct {
	At      int64  `json:"at"`
	Symbol  string `json:"symbol"`
	Numeral string `json:"numeral"`
	Classes []int  `json:"classes"` // pitch classes, the root's first
}

// Chart is how the chords of a lane stand in time, and its palette.
type Chart struct {
	Marks   []Mark         `json:"marks"`
	Palette []chords.Entry `json:"palette"`
	// Movement is how far the voices move in a round of the lane, the way back included,
	// and Written how far they would as written, in semitones.
	Movement int    `json:"movement"`
	Written  int    `json:"written"`
	Line     string `json:"line"` // the chords of a round as they are written
}

// Mark is a chord where it begins.
type Mark struct {
	At      int64    `json:"at"`
	Until   int64    `json:"until"` // to where its steps hold it
	Step    int      `json:"step"`  // from 0
	Held    int      `json:"held"`  // through so many steps
	Symbol  string   `json:"symbol"`
	Numeral string   `json:"numeral"`
	Name    string   `json:"name"`
	Pitches []int    `json:"pitches"`
	Against []string `json:"against"`                 // what each is above the root: "1", "♭3"
	Threads [][2]int `json:"threads" tstype:"Pair[]"` // pitches of its voices, and where each goes in the next chord
}

func harmonyOf(performance *render.Performance) *Harmony {
	h := performance.Harmony
	if h == nil {
		return nil
	}
	_, from := performance.Piece.HarmonyOf(performance.Clip)
	out := &Harmony{Lane: h.Lane.ID, Clip: from.ID, Chords: []Sounding{}, Outside: map[string][]int{}, Agreement: map[string]review.Agreement{}}
	for _, b := range h.Chords {
		s := Sounding{At: b.At.Export(PPQ), Symbol: pitch.Pretty(b.Symbol), Numeral: chord.Pretty(b.Numeral), Classes: []int{b.Root.Class()}}
		for class := range 12 {
			if class != s.Classes[0] && b.Classes>>class&1 == 1 {
				s.Classes = append(s.Classes, class)
			}
		}
		out.Chords = append(out.Chords, s)
	}
	for l := range performance.Lanes {
		part := &performance.Lanes[l]
		outside := review.Outside(performance, part)
		if outside == nil {
			continue
		}
		out.Outside[part.ID] = outside
		out.Agreement[part.ID], _ = review.AgreementOf(performance, part)
	}
	return out
}

// chartOf is nil where a lane has no chords.
func chartOf(performance *render.Performance, own *piece.Lane) *Chart {
	c, ok := own.Content.(*piece.Chords)
	if !ok {
		return nil
	}
	voiced := chords.Voice(own, performance.Key)
	out := &Chart{Marks: []Mark{}, Palette: chords.Entries(own, performance.Key), Movement: voiced.Movement, Written: voiced.Written,
		Line: chords.Line(own, performance.Key)}
	var begun []render.Beginning
	for _, b := range lane.ChordsOf(performance, own) {
		if !b.Brought {
			begun = append(begun, b)
		}
	}
	step := performance.Piece.StepLength(own)
	for i, b := range begun {
		held := chords.Held(c, int(b.Step))
		until := b.At + step*beat.Time(held)
		if i+1 < len(begun) {
			until = min(until, begun[i+1].At)
		}
		m := Mark{
			At: b.At.Export(PPQ), Until: min(until, performance.Length).Export(PPQ), Step: int(b.Step), Held: held,
			Symbol: pitch.Pretty(b.Symbol), Numeral: chord.Pretty(b.Numeral), Name: c.Palette[b.Place-1].Name, Pitches: ints(b.Pitches), Against: chords.Against(own, performance.Key, b.Place, b.Pitches), Threads: [][2]int{},
		}
		if i+1 < len(begun) {
			m.Threads = chord.Pairs(m.Pitches, ints(begun[i+1].Pitches))
		}
		out.Marks = append(out.Marks, m)
	}
	return out
}

func ints(pitches []uint8) []int {
	out := make([]int, len(pitches))
	for i, p := range pitches {
		out[i] = int(p)
	}
	return out
}
