package render

import (
	"slices"

	"agrimony/internal/core/piece"
)

// Unchanged finds, by its index in the earlier clip, the lane of an earlier performance of a
// clip that comes out as one of this clip does; false where it may not.
func (p *Performance) Unchanged(own *piece.Lane, before *Performance) (lane int, ok bool) {
	if before == nil || !p.alike(before) || Listens(own) && !p.Harmony.Same(before.Harmony) {
		return 0, false
	}
	if leaning, ok := own.Content.(piece.Leaning); ok && len(leaning.Needs()) > 0 {
		return 0, false // what other lanes do is part of it
	}
	for i := range before.Clip.Lanes {
		if was := &before.Clip.Lanes[i]; was.ID == own.ID {
			return i, was.Same(own)
		}
	}
	return 0, false
}

// alike tells whether two performances have all in common that lanes which are the
// same depend on.
func (p *Performance) alike(q *Performance) bool {
	return p.Length == q.Length && p.PPQ == q.PPQ && p.Clip.Alike(q.Clip) && p.Piece.Alike(q.Piece)
}

// SameNotes tells whether two parts sound the same notes.
func (part *Part) SameNotes(other *Part) bool { return slices.Equal(part.Notes, other.Notes) }

// PartOf finds what a lane of the clip, by its index, plays; nil: it does not.
func (p *Performance) PartOf(lane int) *Part {
	for i := range p.Lanes {
		if p.Lanes[i].Lane == lane {
			return &p.Lanes[i]
		}
	}
	return nil
}

// reusable is the part of a lane in an earlier performance, where that would come out the
// same; nil where it would not.
func (p *Performance) reusable(before *Performance, in *Input) *Part {
	lane, ok := p.Unchanged(in.Lane, before)
	if !ok || in.Part.Zone != nil {
		return nil
	}
	part := before.PartOf(lane)
	if part == nil || part.Zone != nil {
		return nil // a zone's size, and who has which member of it, is the whole clip's affair
	}
	same := *part
	same.Notes, same.met, same.borrowed = part.alone(), met{}, true
	return &same
}
