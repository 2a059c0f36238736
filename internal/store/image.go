package store

import (
	"bytes"
	"encoding/json"

	"agrimony/internal/core/piece"
)

// image is a piece as documents: its head and each clip.
type image struct {
	Head  json.RawMessage
	Clips []clipImage
}

type clipImage struct {
	ID       string
	Document json.RawMessage
}

func snapshot(p *piece.Piece) image {
	out := image{Head: piece.WriteHead(p)}
	for i := range p.Clips {
		out.Clips = append(out.Clips, clipImage{p.Clips[i].ID, piece.WriteClip(&p.Clips[i])})
	}
	return out
}

func (m image) piece() (*piece.Piece, error) {
	p, err := piece.Read(m.Head)
	if err != nil {
		return nil, err
	}
	for _, c := range m.Clips {
		clip, err := piece.ReadClip(c.Document)
		if err != nil {
			return nil, err
		}
		p.Clips = append(p.Clips, *clip)
	}
	return p, nil
}

// delta is what a revision changed: only the parts that differ, on both sides.
type delta struct {
	Before side `json:"before"`
	After  side `json:"after"`
}

// side is one side of a delta: the head if it changed, the order of the clips,
// and the clips that changed or are there on this side only.
type side struct {
	Head  json.RawMessage            `json:"head,omitempty"`
	Order []string                   `json:"order"`
	Clips map[string]json.RawMessage `json:"clips,omitempty"`
}

// difference is nil when nothing differs.
func difference(before, after image) *delta {
	d := &delta{Before: part(before, after), After: part(after, before)}
	same := len(before.Clips) == len(after.Clips) && d.Before.Head == nil && len(d.Before.Clips) == 0 && len(d.After.Clips) == 0
	for i := range before.Clips {
		same = same && before.Clips[i].ID == after.Clips[i].ID
	}
	if same {
		return nil
	}
	return d
}

func part(own, other image) side {
	out := side{Order: []string{}, Clips: map[string]json.RawMessage{}}
	if !bytes.Equal(own.Head, other.Head) {
		out.Head = own.Head
	}
	there := map[string]json.RawMessage{}
	for _, c := range other.Clips {
		there[c.ID] = c.Document
	}
	for _, c := range own.Clips {
		out.Order = append(out.Order, c.ID)
		if document, ok := there[c.ID]; !ok || !bytes.Equal(document, c.Document) {
			out.Clips[c.ID] = c.Document
		}
	}
	return out
}

// onto puts a side's parts in place of those of an image.
func (s side) onto(m image) image {
	out := image{Head: m.Head}
	if s.Head != nil {
		out.Head = s.Head
	}
	have := map[string]json.RawMessage{}
	for _, c := range m.Clips {
		have[c.ID] = c.Document
	}
	for _, id := range s.Order {
		document, changed := s.Clips[id]
		if !changed {
			document = have[id]
		}
		out.Clips = append(out.Clips, clipImage{id, document})
	}
	return out
}
