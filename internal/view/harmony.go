package view

import (
	"agrimony/internal/core/chord"
	"agrimony/internal/core/lane"
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

// charted is a kind of lane that has chords.
type charted interface {
	Chart(p *render.Performance, own *piece.Lane, ppq int) *render.Chart
}

// chartOf is nil where a lane has no chords.
func chartOf(performance *render.Performance, own *piece.Lane) *render.Chart {
	if kind, ok := lane.Of(own).(charted); ok {
		return kind.Chart(performance, own, PPQ)
	}
	return nil
}
