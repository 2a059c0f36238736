package store

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"unicode/utf8"

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

// fits refuses a piece that could be written as a document but not read again. It is
// written out only when its parts come near the limit.
func (m image) fits(p *piece.Piece) error {
	size := len(m.Head)
	for _, c := range m.Clips {
		size += len(c.Document)
	}
	if size > piece.MaxBytes/2 {
		size = len(piece.Write(p))
	}
	if size > piece.MaxBytes {
		return &piece.Fault{Problem: fmt.Sprintf("the piece would have %d bytes as a document; allowed: at most %d", size, piece.MaxBytes)}
	}
	return nil
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

// delta is what a revision changed. A clip that is there on both sides is told by
// the stretch of its document that differs, so that a history of small edits stays
// small however large the clips are.
type delta struct {
	Before side              `json:"before"`
	After  side              `json:"after"`
	Edits  map[string]splice `json:"edits,omitempty"`
}

// side is one side of a delta: the head if it changed, the order of the clips, and
// the clips that are there on this side only. (Older histories hold every changed
// clip whole, on both sides.)
type side struct {
	Head  json.RawMessage            `json:"head,omitempty"`
	Order []string                   `json:"order"`
	Clips map[string]json.RawMessage `json:"clips,omitempty"`
}

// splice replaces one stretch of a document, from byte At on, by another.
type splice struct {
	At     int    `json:"at"`
	Before string `json:"before"`
	After  string `json:"after"`
}

// spliceOf finds the stretch in which two documents differ.
func spliceOf(before, after []byte) splice {
	most := min(len(before), len(after))
	start := 0
	for start < most && before[start] == after[start] {
		start++
	}
	for start > 0 && !utf8.RuneStart(before[start-1]) { // JSON texts hold whole runes
		start--
	}
	if start > 0 && before[start-1] >= utf8.RuneSelf {
		start--
	}
	end := 0
	for end < most-start && before[len(before)-1-end] == after[len(after)-1-end] {
		end++
	}
	for end > 0 && !utf8.RuneStart(before[len(before)-end]) {
		end--
	}
	return splice{start, string(before[start : len(before)-end]), string(after[start : len(after)-end])}
}

// turned swaps the sides.
func (s splice) turned() splice { return splice{s.At, s.After, s.Before} }

// onto puts the stretch after in place of the one before.
func (s splice) onto(document []byte) ([]byte, error) {
	if s.At > len(document) || !bytes.HasPrefix(document[s.At:], []byte(s.Before)) {
		return nil, errors.New("the history does not fit the clip that is stored")
	}
	return slices.Concat(document[:s.At], []byte(s.After), document[s.At+len(s.Before):]), nil
}

// difference is nil when nothing differs.
func difference(before, after image) *delta {
	d := &delta{Before: part(before, after), After: part(after, before), Edits: map[string]splice{}}
	same := len(before.Clips) == len(after.Clips) && d.Before.Head == nil
	for i, c := range after.Clips {
		same = same && i < len(before.Clips) && before.Clips[i].ID == c.ID
		if was, there := before.clip(c.ID); there && !bytes.Equal(was, c.Document) {
			d.Edits[c.ID] = spliceOf(was, c.Document)
			same = false
		}
	}
	if same {
		return nil
	}
	return d
}

func (m image) clip(id string) (json.RawMessage, bool) {
	for _, c := range m.Clips {
		if c.ID == id {
			return c.Document, true
		}
	}
	return nil, false
}

func part(own, other image) side {
	out := side{Order: []string{}, Clips: map[string]json.RawMessage{}}
	if !bytes.Equal(own.Head, other.Head) {
		out.Head = own.Head
	}
	for _, c := range own.Clips {
		out.Order = append(out.Order, c.ID)
		if _, there := other.clip(c.ID); !there {
			out.Clips[c.ID] = c.Document
		}
	}
	return out
}

// onto gives the image on the side before or after the change, from the one on the
// other side.
func (d *delta) onto(m image, forward bool) (image, error) {
	to := d.Before
	if forward {
		to = d.After
	}
	out := image{Head: m.Head}
	if to.Head != nil {
		out.Head = to.Head
	}
	for _, id := range to.Order {
		document, whole := to.Clips[id]
		if !whole {
			document, _ = m.clip(id)
			if edit, edited := d.Edits[id]; edited {
				if !forward {
					edit = edit.turned()
				}
				var err error
				if document, err = edit.onto(document); err != nil {
					return image{}, err
				}
			}
		}
		out.Clips = append(out.Clips, clipImage{id, document})
	}
	return out, nil
}
