package view

import (
	"maps"
	"slices"

	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
)

// Thumb is a clip's result in miniature, for the index.
type Thumb struct {
	ID    string `json:"id"`
	Name  string `json:"name"`
	Bars  string `json:"bars"`
	Key   string `json:"key"`
	Lanes int    `json:"lanes"`
	Plays bool   `json:"plays"`
	// Marks are the notes of its first bars, three numbers each: where one begins and how
	// long it is, in columns of a picture, and its row from below.
	Marks []int `json:"marks"`
}

// The size of a miniature: more could not be told apart.
const (
	thumbBars    = 4
	ThumbColumns = 208
	ThumbRows    = 24
)

// Thumb is the view's clip in miniature.
func (c *Clip) Thumb() *Thumb {
	performance, clip := c.performance, c.performance.Clip
	t := &Thumb{ID: clip.ID, Name: clip.Name, Bars: c.Bars, Key: c.Key, Lanes: len(clip.Lanes), Marks: []int{}}
	if len(t.Bars) > 9 {
		t.Bars = "endless"
	}
	low, high := 127, 0
	for l := range performance.Lanes {
		for n := range performance.Lanes[l].Notes {
			pitch := int(performance.Lanes[l].Notes[n].Pitch)
			low, high, t.Plays = min(low, pitch), max(high, pitch), true
		}
	}
	span := min(c.Ticks, thumbBars*c.BarTicks)
	longest := map[[2]int]int{}
	for l := range performance.Lanes {
		for n := range performance.Lanes[l].Notes {
			note := &performance.Lanes[l].Notes[n]
			at, length := performance.Span(note, PPQ)
			if at >= span {
				break
			}
			place := [2]int{int(at * ThumbColumns / span), (int(note.Pitch) - low) * (ThumbRows - 1) / max(high-low, 1)}
			wide := int(max(min(length, span-at)*ThumbColumns/span, 1))
			longest[place] = max(longest[place], wide)
		}
	}
	for _, place := range slices.SortedFunc(maps.Keys(longest), func(a, b [2]int) int { return slices.Compare(a[:], b[:]) }) {
		t.Marks = append(t.Marks, place[0], longest[place], place[1])
	}
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
