package files

import (
	"bytes"
	"compress/flate"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"slices"

	"agrimony/internal/core/budget"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/order"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
	"agrimony/internal/core/smf"
)

// A file holds the document that it was rendered from in a sequencer-specific event of its first
// track: the manufacturer's number reserved for non-commercial use by the MIDI 1.0 specification,
// our name, the version of the form, and a packed JSON object.
const (
	nonCommercial = 0x7d
	ownName       = "agrimony"
	ownVersion    = 1
)

// mostPacked is how many bytes the event may have; of a larger document none is written.
const mostPacked = 60 << 10

// Own is the document that a file was rendered from, and how.
type Own struct {
	Piece *piece.Piece
	Clip  string // the clip's id
	render.Options
	Type  int // of the file
	made  *render.Performance
	Order bool // it is of the running order, between From and To
	From  int
	To    int
}

// packed is what the event holds.
type packed struct {
	Clip  string          `json:"clip"`
	Bars  int             `json:"bars,omitempty"`
	Until string          `json:"until,omitempty"`
	PPQ   int             `json:"ppq"`
	Type  int             `json:"type"`
	Lanes []string        `json:"lanes,omitempty"`
	Order bool            `json:"order,omitempty"` // of the running order
	From  int             `json:"from,omitempty"`
	To    int             `json:"to,omitempty"`
	Piece json.RawMessage `json:"piece"`
}

// Pack is what the sequencer-specific event of a file holds that is rendered so: the clip's
// document, with what its harmony needs; empty where that is over 60 kB packed.
func Pack(p *piece.Piece, clip *piece.Clip, options render.Options, fileType int) ([]byte, error) {
	return pack(
		packed{Clip: clip.ID, Bars: options.Bars, Until: options.Until, PPQ: options.PPQ, Type: fileType, Lanes: options.Lanes, Piece: piece.Write(Alone(p, clip))},
	)
}

// PackOrder is the same of a file of the running order: the whole piece.
func PackOrder(p *piece.Piece, options order.Options, fileType int) ([]byte, error) {
	return pack(packed{Clip: p.Order.Entries[0].Clip, Order: true, From: options.From, To: options.To, PPQ: options.PPQ, Type: fileType, Piece: piece.Write(p)})
}

func pack(held packed) ([]byte, error) {
	text, err := json.Marshal(held)
	if err != nil {
		return nil, err
	}
	out := bytes.NewBuffer(append(append([]byte{nonCommercial}, ownName...), ownVersion))
	writer, err := flate.NewWriter(out, flate.BestCompression)
	if err != nil {
		return nil, err
	}
	if _, err := writer.Write(text); err != nil {
		return nil, err
	}
	if err := writer.Close(); err != nil {
		return nil, err
	}
	if out.Len() > mostPacked {
		return nil, nil
	}
	return out.Bytes(), nil
}

// Alone is a piece with a clip alone, and the clips that its harmony needs.
func Alone(p *piece.Piece, clip *piece.Clip) *piece.Piece {
	keep := map[string]bool{clip.ID: true}
	for c := clip; c.Harmony != nil && c.Harmony.Clip != "" && !keep[c.Harmony.Clip]; {
		keep[c.Harmony.Clip] = true
		i := slices.IndexFunc(p.Clips, func(o piece.Clip) bool { return o.ID == c.Harmony.Clip })
		if i < 0 {
			break
		}
		c = &p.Clips[i]
	}
	out := *p
	out.Order = piece.Running{}
	out.Clips = slices.DeleteFunc(slices.Clone(p.Clips), func(c piece.Clip) bool { return !keep[c.ID] })
	for i := range out.Clips {
		if c := &out.Clips[i]; c.Of != "" && !keep[c.Of] {
			c.Of = "" // what it is a variant of stays behind
		}
	}
	return &out
}

// ownOf finds the document that a file was rendered from; nil: it holds none. The error says why
// one that it holds cannot be taken.
func ownOf(file *smf.File, work *budget.Budget) (*Own, error) {
	if len(file.Tracks) == 0 {
		return nil, nil
	}
	head := append([]byte{nonCommercial}, ownName...)
	for _, data := range file.Tracks[0].Own {
		if rest, ours := bytes.CutPrefix(data, head); ours {
			return unpack(rest, work)
		}
	}
	return nil, nil
}

func unpack(data []byte, work *budget.Budget) (*Own, error) {
	if len(data) == 0 {
		return nil, errors.New("its own document is torn")
	}
	if data[0] != ownVersion {
		return nil, fmt.Errorf("its own document has version %d; this Agrimony reads version %d", data[0], ownVersion)
	}
	text, err := io.ReadAll(io.LimitReader(flate.NewReader(bytes.NewReader(data[1:])), piece.MaxBytes+1))
	if err != nil {
		return nil, fmt.Errorf("its own document is torn (%v)", err)
	}
	if len(text) > piece.MaxBytes {
		return nil, fmt.Errorf("its own document has more than %d bytes", piece.MaxBytes)
	}
	var held packed
	if err := json.Unmarshal(text, &held); err != nil {
		return nil, fmt.Errorf("its own document is torn (%v)", err)
	}
	p, err := piece.ReadWithin(work, held.Piece)
	if err != nil {
		return nil, fmt.Errorf("its own document cannot be read: %w", err)
	}
	out := &Own{
		Piece:   p,
		Clip:    held.Clip,
		Type:    held.Type,
		Order:   held.Order,
		From:    held.From,
		To:      held.To,
		Options: render.Options{Bars: held.Bars, Until: held.Until, PPQ: held.PPQ, Lanes: held.Lanes},
	}
	if _, err := p.Clip(held.Clip); err != nil {
		return nil, fmt.Errorf("its own document cannot be read: %w", err)
	}
	if held.Order && len(p.Order.Entries) == 0 {
		return nil, errors.New("its own document cannot be read: it has no running order")
	}
	if err := out.Check(); err != nil {
		return nil, fmt.Errorf("its own document cannot be read: %w", err)
	}
	return out, nil
}

// clip is the clip that was rendered.
func (o *Own) clip() *piece.Clip {
	clip, err := o.Piece.Clip(o.Clip)
	if err != nil {
		panic(err) // it was looked for when the document was read
	}
	return clip
}

// What rendering the document again may cost: as much as making a file of it did.
const (
	performWork   = 30_000_000
	performEvents = 1_000_000
)

// perform renders the document as it was rendered then. A document that cannot be rendered is none that a
// file comes from.
func (o *Own) perform(work *budget.Budget) (err error) {
	if work = work.Part(performWork); o.Order {
		o.made, err = o.performOrder(work)
	} else {
		options := o.Options
		options.Budget, options.Events, options.Ways = work, performEvents, true
		o.made, err = lane.Render(o.Piece, o.clip(), options)
	}
	if err != nil {
		return fmt.Errorf("its own document cannot be rendered: %w", err)
	}
	return nil
}

// performOrder is the same of the running order, its tracks as lanes.
func (o *Own) performOrder(work *budget.Budget) (*render.Performance, error) {
	played, err := order.Render(o.Piece, order.Options{From: o.From, To: o.To, PPQ: o.PPQ, Ways: true, Budget: work, Events: performEvents})
	if err != nil {
		return nil, err
	}
	out := &render.Performance{Piece: o.Piece, Clip: o.clip(), Frame: played.Frame()}
	for i := range played.Tracks {
		part := played.Tracks[i].Part
		part.Ways = played.Tracks[i].Ways()
		out.Lanes = append(out.Lanes, part)
	}
	return out, nil
}
