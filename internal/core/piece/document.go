package piece

import (
	"fmt"
	"strings"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/pitch"
)

// MaxBytes is the largest document that is read.
const MaxBytes = 8 << 20

// Read reads and checks a document. The error is a *Fault that says where the
// document is wrong, how, and what is allowed.
func Read(data []byte) (out *Piece, err error) {
	defer catch(&err)
	if len(data) > MaxBytes {
		refuse("", "the document has %d bytes; allowed: at most %d", len(data), MaxBytes)
	}
	root, err := parse(data)
	if err != nil {
		return nil, err
	}
	read := documentShape.read(node{"", root})
	return &read.Piece, nil
}

// Write writes the document; fields at their defaults are left out. The same
// piece gives the same bytes.
func Write(p *Piece) []byte {
	return print(documentShape.write(&head{Format, Version, *p}))
}

// Check reports the first thing that is wrong with a piece changed in memory,
// by the same rules as reading it.
func Check(p *Piece) (err error) {
	defer catch(&err)
	documentShape.read(node{"", documentShape.write(&head{Format, Version, *p})})
	return nil
}

// WriteClip and ReadClip carry one clip on its own, as the document writes it.
func WriteClip(c *Clip) []byte { return print(clipShape.write(c)) }

// ReadClip reads what WriteClip wrote. Its degrees are not checked against a key.
func ReadClip(data []byte) (*Clip, error) { return readOne(clipShape, data) }

// WriteHead writes a piece without its clips.
func WriteHead(p *Piece) []byte {
	bare := *p
	bare.Clips = nil
	return Write(&bare)
}

// ReadStep and ReadLane read one step or lane, defaults filled in.
func ReadStep(data []byte) (*Step, error) { return readOne(stepShape, data) }

// ReadLane reads one lane.
func ReadLane(data []byte) (*Lane, error) { return readOne(laneShape, data) }

func readOne[T any](s *shape[T], data []byte) (out *T, err error) {
	defer catch(&err)
	root, err := parse(data)
	if err != nil {
		return nil, err
	}
	value := s.read(node{"", root})
	return &value, nil
}

// PatchStep, PatchLane, PatchClip and PatchPiece change the fields that the JSON
// object data names and leave the others. path begins the path in errors.
func PatchStep(path string, data []byte, into *Step) error {
	return patchOne(stepShape, path, data, into)
}

// PatchLane changes a lane.
func PatchLane(path string, data []byte, into *Lane) error {
	return patchOne(laneShape, path, data, into)
}

// PatchClip changes a clip. Setting bars takes until away, and the reverse.
func PatchClip(path string, data []byte, into *Clip) error {
	next := *into
	if err := patchOne(&shape[Clip]{fields: clipShape.fields}, path, data, &next); err != nil {
		return err
	}
	if next.Bars != into.Bars && next.Until == into.Until {
		next.Until = ""
	} else if next.Until != into.Until && next.Bars == into.Bars {
		next.Bars = 0
	}
	*into = next
	return nil
}

// PatchPiece changes a piece's own fields.
func PatchPiece(path string, data []byte, into *Piece) error {
	all := head{Format, Version, *into}
	if err := patchOne(&shape[head]{fields: documentShape.fields}, path, data, &all); err != nil {
		return err
	}
	*into = all.Piece
	return nil
}

func patchOne[T any](s *shape[T], path string, data []byte, into *T) (err error) {
	defer catch(&err)
	root, err := parse(data)
	if err != nil {
		return err
	}
	next := *into
	s.patch(node{path, root}, &next)
	s.verify(path, &next)
	*into = next
	return nil
}

// Default is a piece without clips.
func Default() *Piece {
	fresh := documentShape.fresh()
	return &fresh.Piece
}

// NewStep is a step with all fields at their defaults: a rest.
func NewStep() Step { return stepShape.fresh() }

// NewSteps are n rests.
func NewSteps(n int) []Step {
	out := make([]Step, n)
	for i := range out {
		out[i] = NewStep()
	}
	return out
}

// NewLane is a lane of 16 rests.
func NewLane(id, name string) Lane {
	lane := laneShape.fresh()
	lane.ID, lane.Name = id, name
	return lane
}

// NewClip is a clip without lanes that lasts until its lanes realign.
func NewClip(id, name string) Clip {
	clip := clipShape.fresh()
	clip.ID, clip.Name, clip.Until = id, name, "realign"
	return clip
}

// Clip finds a clip by its id.
func (p *Piece) Clip(id string) (*Clip, error) {
	names := make([]string, len(p.Clips))
	for i := range p.Clips {
		if p.Clips[i].ID == id {
			return &p.Clips[i], nil
		}
		names[i] = p.Clips[i].ID
	}
	if len(names) == 0 {
		return nil, fmt.Errorf("no clip %q: the piece has no clips", id)
	}
	return nil, fmt.Errorf("no clip %q; the piece has: %s", id, strings.Join(names, ", "))
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

// Resolve works the key out. The key must have been checked.
func (k Key) Resolve() pitch.Key {
	tonic, err := pitch.ParseName(k.Tonic)
	if err != nil {
		panic(err)
	}
	scale, err := pitch.FindScale(k.Scale.Name)
	if k.Scale.Name == "" {
		scale, err = pitch.NewScale(k.Scale.Degrees)
	}
	if err != nil {
		panic(err)
	}
	key, err := pitch.NewKey(tonic, scale)
	if err != nil {
		panic(err)
	}
	return key
}

// ReadKey reads a key as the document writes it.
func ReadKey(data []byte) (*Key, error) { return readOne(keyShape, data) }

// Place is where the step's note stands.
func (s *Step) Place() pitch.Place {
	return pitch.Place{Degree: s.Degree, Octave: s.Octave, Alter: s.Alter}
}
