package view

import (
	"maps"
	"slices"

	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// Thumb is a clip's result in miniature, for the index.
type Thumb struct {
	ID    string `json:"id"`
	Name  string `json:"name"`
	Bars  string `json:"bars"`
	Lasts string `json:"lasts"` // the same in words
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
func (c *Clip) Thumb() *Thumb { return c.thumb() }

func thumbOf(c *Clip) *Thumb {
	performance, clip := c.performance, c.performance.Clip
	t := &Thumb{ID: clip.ID, Name: clip.Name, Bars: c.Bars, Key: c.Key, Lanes: len(clip.Lanes), Marks: []int{}}
	if len(t.Bars) > 9 {
		t.Bars = "endless"
	}
	t.Lasts = BarsInWords(performance.Piece, t.Bars)
	span := min(c.Ticks, thumbBars*c.BarTicks)
	low, high := 127, 0
	for l := range performance.Lanes {
		for n := range performance.Lanes[l].Notes {
			t.Plays = true
			note := &performance.Lanes[l].Notes[n]
			if at, _ := performance.Span(note, PPQ); at >= span {
				break
			}
			low, high = min(low, int(note.Pitch)), max(high, int(note.Pitch))
		}
	}
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
	bars := most.bars
	most.bars = min(most.bars, thumbBars)
	performance, whole, _, err := perform(p, clip, nil, most)
	if err == nil && !whole && !plays(performance) { // it may play later
		most.bars = bars
		performance, whole, _, err = perform(p, clip, nil, most)
	}
	if err != nil {
		return nil, err
	}
	c := &Clip{
		Bars: lengthInBars(performance, clip, whole), Ticks: performance.Length.Export(PPQ), BarTicks: performance.Bar.Export(PPQ),
		Key: pitch.Pretty(performance.Key.String()), performance: performance,
	}
	return thumbOf(c), nil
}

func plays(performance *render.Performance) bool {
	return slices.ContainsFunc(performance.Lanes, func(p render.Part) bool { return len(p.Notes) > 0 })
}

// Thumbs are the miniatures of all clips of a piece.
func Thumbs(p *piece.Piece) ([]*Thumb, error) {
	out := []*Thumb{}
	for i := range p.Clips {
		t, err := ThumbOf(p, &p.Clips[i], Share(nil, len(p.Clips)))
		if err != nil {
			return nil, err
		}
		out = append(out, t)
	}
	return out, nil
}
