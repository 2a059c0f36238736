package piece

import "reflect"

// Same tells whether two lanes are one and the same: edits leave what they do not
// touch as it is, down to the pointers. It never takes different lanes for the
// same, but may miss that they are.
func (l *Lane) Same(other *Lane) bool {
	return l.Content == other.Content && reflect.DeepEqual(&l.Common, &other.Common)
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
