package piece

import (
	"reflect"
	"slices"
)

// Same tells whether two lanes are one and the same: edits leave what they do not
// touch as it is, down to the pointers. It never takes different lanes for the
// same, but may miss that they are.
func (l *Lane) Same(other *Lane) bool {
	return l.Content == other.Content && reflect.DeepEqual(&l.Common, &other.Common)
}

// Untouched reports whether a clip is as another one that it came from. Edits copy the list of lanes of a clip that
// they change, so that the lists tell; a clip that was changed and changed back counts as touched.
func (c *Clip) Untouched(from *Clip) bool {
	if len(c.Lanes) != len(from.Lanes) || len(c.Lanes) > 0 && &c.Lanes[0] != &from.Lanes[0] {
		return false
	}
	return c.Alike(from)
}

// Same tells whether two clips are one and the same, lane by lane. It never takes different clips for the same, but may
// miss that they are.
func (c *Clip) Same(other *Clip) bool {
	return c.Untouched(other) || c.Alike(other) && slices.EqualFunc(c.Lanes, other.Lanes, func(a, b Lane) bool { return a.Same(&b) })
}

// Unchanged reports whether a clip is as it was in a piece that its own came from.
func (c *Clip) Unchanged(was *Piece) bool {
	i := slices.IndexFunc(was.Clips, func(other Clip) bool { return other.ID == c.ID })
	return i >= 0 && c.Untouched(&was.Clips[i])
}

// Alike tells whether two clips differ in nothing but lanes.
func (c *Clip) Alike(other *Clip) bool {
	a, b := *c, *other
	a.Lanes, b.Lanes = nil, nil
	return reflect.DeepEqual(&a, &b)
}

// Alike tells whether two pieces have all in common that what a clip sounds like depends on
// beside the clip.
func (p *Piece) Alike(other *Piece) bool {
	a, b := *p, *other
	for _, own := range []*Piece{&a, &b} {
		own.Title, own.Beat, own.Clips, own.Order = "", Backing{}, nil, Running{}
	}
	return reflect.DeepEqual(&a, &b)
}
