package store

import (
	"bytes"
	"compress/flate"
	"encoding/json"
	"errors"
	"fmt"
	"hash/crc32"
	"io"
	"slices"
	"unicode/utf8"

	"agrimony/internal/core/piece"
)

// image is a piece as documents: its head and each clip.
type image struct {
	Head  text        `json:"head"`
	Clips []clipImage `json:"clips"`
}

type clipImage struct {
	ID       string `json:"id"`
	Document text   `json:"document"`
}

// text is a document, letter by letter: a history tells of stretches of it.
type text []byte

// MarshalJSON writes the document as a string, in which no letter changes.
func (t text) MarshalJSON() ([]byte, error) { return json.Marshal(string(t)) }

// UnmarshalJSON reads such a string, and what older histories hold, which is the document
// itself, printed otherwise than it was.
func (t *text) UnmarshalJSON(data []byte) error {
	if len(data) == 0 || data[0] != '"' {
		*t = slices.Clone(data)
		return nil
	}
	var whole string
	if err := json.Unmarshal(data, &whole); err != nil {
		return err
	}
	*t = text(whole)
	return nil
}

// snapshot writes a piece as documents. One that could not be read again is refused, before
// more of it is written than may be. Clips that are as they were before keep their bytes; nil: all are written.
func snapshot(p *piece.Piece, before *stored) (image, error) {
	out := image{Head: piece.WriteHead(p)}
	left := piece.MaxBytes - len(out.Head)
	for i := range p.Clips {
		document, fits := text(nil), true
		if before != nil && p.Clips[i].Unchanged(before.piece) {
			document, _ = before.image.clip(p.Clips[i].ID)
		}
		if document == nil {
			document, fits = piece.WriteClipWithin(&p.Clips[i], left)
		}
		if left -= len(document); !fits || left < 0 {
			return image{}, &piece.Fault{Problem: fmt.Sprintf("the piece would have more than %d bytes as a document; allowed: at most %d", piece.MaxBytes, piece.MaxBytes)}
		}
		out.Clips = append(out.Clips, clipImage{p.Clips[i].ID, document})
	}
	if left < piece.MaxBytes/2 { // as a whole it is a little longer than its parts
		if size := len(piece.Write(p)); size > piece.MaxBytes {
			return image{}, &piece.Fault{Problem: fmt.Sprintf("the piece would have %d bytes as a document; allowed: at most %d", size, piece.MaxBytes)}
		}
	}
	return out, nil
}

func (m image) piece() (*piece.Piece, error) {
	p, err := piece.ReadHead(m.Head)
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

// pack and unpack carry an image in the history, compressed.
func (m image) pack() ([]byte, error) {
	var out bytes.Buffer
	packer, err := flate.NewWriter(&out, flate.BestSpeed)
	if err != nil {
		return nil, err
	}
	if err := json.NewEncoder(packer).Encode(m); err != nil {
		return nil, err
	}
	if err := packer.Close(); err != nil {
		return nil, err
	}
	return out.Bytes(), nil
}

func unpack(packed []byte) (out image, err error) {
	data, err := io.ReadAll(flate.NewReader(bytes.NewReader(packed)))
	if err != nil {
		return out, err
	}
	return out, json.Unmarshal(data, &out)
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
	Head  text            `json:"head,omitempty"`
	Order []string        `json:"order"`
	Clips map[string]text `json:"clips,omitempty"`
}

// splice replaces one stretch of a document, from byte At on, by another. Sums are those of
// the whole document before and after, so that it is put into no other; older histories have
// none.
type splice struct {
	At     int        `json:"at"`
	Before string     `json:"before"`
	After  string     `json:"after"`
	Sums   *[2]uint32 `json:"sums,omitempty"`
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
	sums := [2]uint32{crc32.ChecksumIEEE(before), crc32.ChecksumIEEE(after)}
	return splice{start, string(before[start : len(before)-end]), string(after[start : len(after)-end]), &sums}
}

// turned swaps the sides.
func (s splice) turned() splice {
	out := splice{s.At, s.After, s.Before, nil}
	if s.Sums != nil {
		out.Sums = &[2]uint32{s.Sums[1], s.Sums[0]}
	}
	return out
}

var errMisfit = errors.New("the history does not fit the clip that is stored")

// onto puts the stretch after in place of the one before.
func (s splice) onto(document []byte) ([]byte, error) {
	if s.At > len(document) || !bytes.HasPrefix(document[s.At:], []byte(s.Before)) || s.Sums != nil && crc32.ChecksumIEEE(document) != s.Sums[0] {
		return nil, errMisfit
	}
	return slices.Concat(document[:s.At], []byte(s.After), document[s.At+len(s.Before):]), nil
}

// ontoAny puts it into a document however that is printed: older histories brought clips back
// in one line, and count on them as they were written.
func (s splice) ontoAny(document []byte) ([]byte, error) {
	out, err := s.onto(document)
	if err == nil {
		return out, nil
	}
	clip, readErr := piece.ReadClip(document)
	if readErr != nil {
		return nil, err
	}
	written := piece.WriteClip(clip)
	if out, err = s.onto(written); err == nil {
		return out, nil
	}
	if line, lineErr := json.Marshal(json.RawMessage(written)); lineErr == nil {
		return s.onto(line)
	}
	return nil, err
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

func (m image) clip(id string) (text, bool) {
	for _, c := range m.Clips {
		if c.ID == id {
			return c.Document, true
		}
	}
	return nil, false
}

func part(own, other image) side {
	out := side{Order: []string{}, Clips: map[string]text{}}
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
// other side. The error says that they do not fit.
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
			var there bool
			if document, there = m.clip(id); !there {
				return image{}, errMisfit
			}
			if edit, edited := d.Edits[id]; edited {
				if !forward {
					edit = edit.turned()
				}
				var err error
				if document, err = edit.ontoAny(document); err != nil {
					return image{}, err
				}
			}
		}
		out.Clips = append(out.Clips, clipImage{id, document})
	}
	return out, nil
}
