package edit

import (
	"errors"

	"agrimony/internal/core/lane/sketch"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
)

// scene is where the aimed lane's sketches are made.
func (t target) scene() sketch.Scene {
	return sketch.Scene{Piece: t.Piece, Clip: t.Clip, Lane: t.Lane, Budget: t.Budget, Kinds: t.Kinds}
}

// inRequest puts the edit before the path of what is wrong with a request.
func (t target) inRequest(err error) error {
	var fault *piece.Fault
	if errors.As(err, &fault) {
		name := "request"
		if fault.Path != "" {
			name += "." + fault.Path
		}
		return t.Wrong(name, "%s", fault.Problem)
	}
	return err
}

// takeSketch writes a sketch into the lane, or into a variant of the clip.
func takeSketch(t target, o op.TakeSketch) error {
	r, err := sketch.ReadRequest(o.Request)
	if err != nil {
		return t.inRequest(err)
	}
	r.Seed, r.Count = o.Seed, 1
	made, err := sketch.Make(t.scene(), r)
	if err != nil {
		return t.inRequest(err)
	}
	return t.into(o.AsClip, o.Name, func(l *piece.Lane) { sketch.Take(l, &made[0]) })
}

// takeVaried writes a variation into the lane, or into a variant of the clip.
func takeVaried(t target, o op.TakeVaried) error {
	r, err := sketch.ReadVary(o.Request)
	if err != nil {
		return t.inRequest(err)
	}
	r.Seed, r.Count = o.Seed, 1
	made, err := sketch.Vary(t.scene(), r)
	if err != nil {
		return t.inRequest(err)
	}
	return t.into(o.AsClip, o.Name, func(l *piece.Lane) { *l = made[0].Lane })
}

// into changes the aimed lane, or the same lane of a new variant.
func (t target) into(asClip bool, name string, change func(l *piece.Lane)) error {
	if !asClip {
		change(t.Lane)
		return nil
	}
	at, err := t.variant(name)
	if err != nil {
		return err
	}
	own := laneIn(&t.Piece.Clips[at], t.Lane.ID)
	*own = own.Clone()
	change(own)
	return nil
}
