package view

import (
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
)

// Thumb is a clip's result in miniature, for the index.
type Thumb struct {
	ID       string      `json:"id"`
	Name     string      `json:"name"`
	Bars     string      `json:"bars"`
	Ticks    int64       `json:"ticks"`
	BarTicks int64       `json:"barTicks"`
	Key      string      `json:"key"`
	Notes    []ThumbNote `json:"notes"`
	Lanes    int         `json:"lanes"`
	Plays    bool        `json:"plays"`
}

// ThumbNote is a note of a miniature.
type ThumbNote struct {
	At     int64 `json:"at"`
	Length int64 `json:"length"`
	Pitch  int   `json:"pitch"`
}

// maxThumbNotes bounds a miniature; more could not be told apart.
const maxThumbNotes = 400

// Thumb is the view's clip in miniature.
func (c *Clip) Thumb() *Thumb {
	performance, clip := c.performance, c.performance.Clip
	t := &Thumb{
		ID: clip.ID, Name: clip.Name, Bars: c.Bars, Ticks: c.Ticks, BarTicks: c.BarTicks,
		Key: c.Key, Notes: []ThumbNote{}, Lanes: len(clip.Lanes),
	}
	if len(t.Bars) > 9 {
		t.Bars = "endless"
	}
	for l := range performance.Lanes {
		for n := range performance.Lanes[l].Notes {
			note := &performance.Lanes[l].Notes[n]
			if len(t.Notes) < maxThumbNotes {
				at, length := performance.Span(note, PPQ)
				t.Notes = append(t.Notes, ThumbNote{at, length, int(note.Pitch)})
			}
		}
	}
	t.Plays = len(t.Notes) > 0
	return t
}

// ThumbOf is the miniature of a clip that no view is at hand of.
func ThumbOf(p *piece.Piece, clip *piece.Clip, most Bounds) (*Thumb, error) {
	performance, whole, _, err := perform(p, clip, nil, most)
	if err != nil {
		return nil, err
	}
	c := &Clip{
		Bars: lengthInBars(performance, clip, whole), Ticks: performance.Length.Export(PPQ), BarTicks: performance.Bar.Export(PPQ),
		Key: pitch.Pretty(performance.Key.String()), performance: performance,
	}
	return c.Thumb(), nil
}

// Thumbs are the miniatures of all clips of a piece.
func Thumbs(p *piece.Piece) ([]*Thumb, error) {
	out := []*Thumb{}
	for i := range p.Clips {
		t, err := ThumbOf(p, &p.Clips[i], Whole(nil))
		if err != nil {
			return nil, err
		}
		out = append(out, t)
	}
	return out, nil
}
