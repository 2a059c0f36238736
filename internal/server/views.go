package server

import (
	"slices"
	"sync"

	"agrimony/internal/core/piece"
	"agrimony/internal/view"
)

// views keeps the views given out last. An edit works out only what it touches, and only what that changes is sent to
// whoever holds the rest.
type views struct {
	mutex sync.Mutex
	kept  []keptView
}

// A keptView is a view with the state of a piece that it is of, and the name by which a screen tells that it holds it.
type keptView struct {
	id      string
	version int64
	view    *view.Clip
	name    string
}

// maxViews bounds how many are kept, and mostShown how many events they have together: the
// newest is kept whatever it has.
const (
	maxViews  = 6
	mostShown = 200_000
)

// get returns the view of a clip at a version; one without a view where it is not kept.
func (v *views) get(id string, version int64, clip string) (out keptView) {
	v.mutex.Lock()
	defer v.mutex.Unlock()
	for _, k := range v.kept {
		if k.id == id && k.version == version && k.view.ID == clip {
			return k
		}
	}
	return out
}

func (v *views) put(shown keptView) {
	v.mutex.Lock()
	defer v.mutex.Unlock()
	v.kept = slices.DeleteFunc(v.kept, func(k keptView) bool { return k.id == shown.id && k.view.ID == shown.view.ID })
	v.kept = append(v.kept, shown)
	events, first := 0, len(v.kept)
	for first > 0 && len(v.kept)-first < maxViews {
		if events += v.kept[first-1].view.Events(); events > mostShown && first < len(v.kept) {
			break
		}
		first--
	}
	v.kept = slices.Delete(v.kept, 0, first)
}

// forget lets the views of a piece go.
func (v *views) forget(id string) {
	v.mutex.Lock()
	defer v.mutex.Unlock()
	v.kept = slices.DeleteFunc(v.kept, func(k keptView) bool { return k.id == id })
}

// drawnThumbs keeps miniatures of clips, each with the clip and piece that it is of.
type drawnThumbs struct {
	mutex sync.Mutex
	kept  []drawnThumb
}

type drawnThumb struct {
	id    string
	piece *piece.Piece
	clip  *piece.Clip
	thumb *view.Thumb
}

// maxDrawn bounds how many are kept: those of a few pieces.
const maxDrawn = 4 * piece.MaxClips

func (d *drawnThumbs) get(id string, p *piece.Piece, clip *piece.Clip) *view.Thumb {
	d.mutex.Lock()
	defer d.mutex.Unlock()
	for _, k := range d.kept {
		if k.id == id && k.clip.ID == clip.ID {
			if drawnAlike(p, k.piece, clip, k.clip) {
				return k.thumb
			}
		}
	}
	return nil
}

// drawnAlike tells whether a clip of a piece looks as it did in another state of that.
func drawnAlike(p, before *piece.Piece, clip, was *piece.Clip) bool {
	return clip.Same(was) && sameHarmony(p, before, clip, was) && p.Alike(before)
}

// sameHarmony tells whether a clip's chords, which may be another clip's, are as they
// were.
func sameHarmony(p, before *piece.Piece, clip, was *piece.Clip) bool {
	now, from := p.HarmonyOf(clip)
	then, of := before.HarmonyOf(was)
	if now == nil || then == nil {
		return now == then
	}
	return from.ID == of.ID && now.Same(then) && p.KeyOf(from).String() == before.KeyOf(of).String()
}

func (d *drawnThumbs) put(id string, p *piece.Piece, clip *piece.Clip, thumb *view.Thumb) {
	d.mutex.Lock()
	defer d.mutex.Unlock()
	d.kept = slices.DeleteFunc(d.kept, func(k drawnThumb) bool { return k.id == id && k.clip.ID == clip.ID })
	if d.kept = append(d.kept, drawnThumb{id, p, clip, thumb}); len(d.kept) > maxDrawn {
		d.kept = slices.Delete(d.kept, 0, 1)
	}
}
