package piece

import (
	"fmt"
	"reflect"
	"slices"
	"strings"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/budget"
	"agrimony/internal/core/document"
	"agrimony/internal/core/pitch"
)

// MaxBytes is the largest document that is read, and the largest that a piece may
// become: what can be written can be read again.
const MaxBytes = 32 << 20

// Fault is what is wrong with a document, and where.
type Fault = document.Fault

// Read reads and checks a document. The error is a *Fault that says where the
// document is wrong, how, and what is allowed.
func Read(data []byte) (*Piece, error) { return ReadWithin(nil, data) }

// ReadWithin is Read within a budget.
func ReadWithin(work *budget.Budget, data []byte) (*Piece, error) {
	if len(data) > MaxBytes {
		return nil, &Fault{Problem: fmt.Sprintf("the document has %d bytes; allowed: at most %d", len(data), MaxBytes)}
	}
	read, err := document.ReadWithin(work, documentShape, data)
	if err != nil {
		return nil, err
	}
	return &read.Piece, nil
}

// Write writes the document; fields at their defaults are left out. The same
// piece gives the same bytes.
func Write(p *Piece) []byte { return document.Print(documentShape.Write(headOf(p))) }

// WriteWithin is the same as long as the document has no more than so many bytes; fits reports whether it has.
func WriteWithin(p *Piece, most int) (text []byte, fits bool) {
	return document.PrintWithin(documentShape.Write(headOf(p)), most)
}

func headOf(p *Piece) *head { return &head{Format: Format, Version: Version, Piece: *p} }

// Check holds a piece changed in memory to the rules of reading it, and fills in
// what reading would: ids, names, the ends of windows.
func Check(p *Piece) error {
	all := headOf(p)
	if err := document.Check(documentShape, "", all); err != nil {
		return err
	}
	*p = all.Piece
	return nil
}

// CheckSince is Check of a piece that came from one that was checked: clips that are as they were there are not
// looked at again.
func CheckSince(was, p *Piece) (err error) {
	defer document.Catch(&err)
	all, at := headOf(p), document.Root("")
	headShape.Verify(at, all)
	clips := at.Field("clips")
	document.Count(clips, len(p.Clips), 0, MaxClips)
	sameKey, sameBar := reflect.DeepEqual(was.Key, p.Key), was.Meter == p.Meter
	var since checked
	for i := range p.Clips {
		same := p.Clips[i].Unchanged(was)
		if !same {
			verifyClip(clips.Item(i), &all.Clips[i], was)
		}
		since.key, since.time = append(since.key, same && sameKey), append(since.time, same && sameBar)
	}
	acrossPiece(at, all, since)
	*p = all.Piece
	return nil
}

// verifyClip checks a clip of a piece that came from one that was checked: lanes that are as they were there are not
// looked at again.
func verifyClip(at *document.At, c *Clip, of *Piece) {
	was, err := of.Clip(c.ID)
	if err != nil {
		was = &Clip{}
	}
	clipFrame.Verify(at, c)
	lanes := at.Field("lanes")
	document.Count(lanes, len(c.Lanes), 0, MaxLanes)
	for i := range c.Lanes {
		if !slices.ContainsFunc(was.Lanes, func(l Lane) bool { return l.Same(&c.Lanes[i]) }) {
			checkLane(lanes.Item(i), &c.Lanes[i])
		}
	}
	clipShape.Check(at, c)
}

// clipFrame is a clip but for its lanes, and the rules across.
var clipFrame = &document.Shape[Clip]{Fields: slices.DeleteFunc(slices.Clone(clipShape.Fields), func(f document.Field[Clip]) bool { return f.Name == "lanes" })}

// headShape is the document but for the clips, and the rules across.
var headShape = &document.Shape[head]{Fields: slices.DeleteFunc(slices.Clone(documentShape.Fields), func(f document.Field[head]) bool { return f.Name == "clips" })}

// WriteClip and ReadClip carry one clip on its own, as the document writes it.
func WriteClip(c *Clip) []byte { return document.Print(clipShape.Write(c)) }

// WriteClipWithin is WriteClip as long as that has no more than so many bytes; false: it
// would have.
func WriteClipWithin(c *Clip, most int) (text []byte, fits bool) {
	return document.PrintWithin(clipShape.Write(c), most)
}

// ReadClip reads what WriteClip wrote. Its degrees are not checked against a key.
func ReadClip(data []byte) (*Clip, error) { return document.Read(clipShape, data) }

// WriteHead writes a piece without its clips.
func WriteHead(p *Piece) []byte {
	bare := *p
	bare.Clips = nil
	return Write(&bare)
}

// ReadHead reads what WriteHead wrote: what its running order names is not looked for.
func ReadHead(data []byte) (*Piece, error) {
	read, err := document.Read(&document.Shape[head]{Fields: documentShape.Fields}, data)
	if err != nil {
		return nil, err
	}
	return &read.Piece, nil
}

// ReadKey reads a key as the document writes it.
func ReadKey(data []byte) (*Key, error) { return document.Read(keyShape, data) }

// PatchLane, PatchClip and PatchPiece change the fields that the JSON object data
// names and leave the others. path begins the path in errors.
func PatchLane(path string, data []byte, into *Lane) error {
	return document.Patch(into.kind().shape, path, data, into, (*Lane).Clone)
}

// PatchClip changes a clip. Setting bars takes until away, and the reverse.
func PatchClip(path string, data []byte, into *Clip) error {
	return document.Patch(clipShape, path, data, into, func(c *Clip) Clip { return *c })
}

// PatchPiece changes a piece's own fields.
func PatchPiece(path string, data []byte, into *Piece) error {
	all := headOf(into)
	if err := document.Patch(&document.Shape[head]{Fields: documentShape.Fields}, path, data, all, func(h *head) head { return *h }); err != nil {
		return err
	}
	*into = all.Piece
	return nil
}

// Default is a piece without clips.
func Default() *Piece {
	fresh := documentShape.Fresh()
	return &fresh.Piece
}

// NewClip is a clip without lanes that lasts until its lanes realign.
func NewClip(id, name string) Clip {
	clip := clipShape.Fresh()
	clip.ID, clip.Name, clip.Until = id, name, "realign"
	return clip
}

// Clip finds a clip by its id.
func (p *Piece) Clip(id string) (*Clip, error) {
	for i := range p.Clips {
		if p.Clips[i].ID == id {
			return &p.Clips[i], nil
		}
	}
	names := make([]string, len(p.Clips))
	for i := range p.Clips {
		names[i] = p.Clips[i].ID
	}
	if len(names) == 0 {
		return nil, fmt.Errorf("no clip %q: the piece has no clips", id)
	}
	return nil, fmt.Errorf("no clip %q; the piece has: %s", id, strings.Join(names, ", "))
}

// Clone copies a piece so deeply that changing the copy leaves it alone.
func (p *Piece) Clone() *Piece {
	out := *p
	out.Order.Entries = slices.Clone(p.Order.Entries)
	out.Clips = make([]Clip, len(p.Clips))
	for i := range p.Clips {
		out.Clips[i] = p.Clips[i].Clone()
	}
	return &out
}

// Clone copies a clip with its lanes.
func (c *Clip) Clone() Clip {
	out := *c
	out.Lanes = make([]Lane, len(c.Lanes))
	for i := range c.Lanes {
		out.Lanes[i] = c.Lanes[i].Clone()
	}
	return out
}

// Bar is the length of the piece's bars.
func (p *Piece) Bar() beat.Time { return p.meter().Bar() }

// BeatLength is the length of the meter's unit.
func (p *Piece) BeatLength() beat.Time { return p.meter().Beat() }

func (p *Piece) meter() beat.Meter {
	meter, err := beat.ParseMeter(p.Meter)
	if err != nil {
		panic(err) // a checked piece has a meter
	}
	return meter
}

// StepLength is the length of a lane's step in the piece's meter.
func (p *Piece) StepLength(lane *Lane) beat.Time {
	length, err := beat.Rate(lane.Rate, p.meter())
	if err != nil {
		panic(err) // a checked lane has a rate
	}
	return length
}

// KeyOf is the key that a clip is in.
func (p *Piece) KeyOf(clip *Clip) pitch.Key {
	if clip.Key != nil {
		return clip.Key.Resolve()
	}
	return p.Key.Resolve()
}

// Schema is the JSON Schema of the document, made from the tables that read it.
func Schema() []byte {
	root := document.Pairs("$schema", "https://json-schema.org/draft/2020-12/schema", "title", "Agrimony piece")
	return document.Print(append(root, documentShape.Schema()...))
}

// Facts are the title, unit, range, default and choices of every field, for
// forms and rails: of the piece, of the clip, and of the lane and the step of
// each kind.
func Facts() document.Object {
	lanes, steps := document.Object{}, document.Object{}
	for _, k := range Kinds {
		lanes = append(lanes, document.Member{Key: k.Name, Value: k.shape.Facts()})
		steps = append(steps, document.Member{Key: k.Name, Value: k.step()})
	}
	return document.Pairs("piece", documentShape.Facts(), "clip", clipShape.Facts(), "lane", lanes, "step", steps)
}
