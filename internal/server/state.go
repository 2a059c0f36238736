package server

import (
	"errors"
	"fmt"
	"runtime/debug"
	"slices"
	"sync"

	"agrimony/internal/core/budget"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
	"agrimony/internal/store"
	"agrimony/internal/view"
)

// pieceState, clipState and viewState are a piece, a clip and a view in which Same
// may stand for parts.
type (
	pieceState struct {
		*piece.Piece
		Clips []any `json:"clips"`
	}
	clipState struct {
		*piece.Clip
		Lanes []any `json:"lanes"`
	}
	viewState struct {
		*view.Clip
		Lanes []any `json:"lanes"`
	}
)

// manyNotes is how many notes a lane sounds of which only those are sent that are others than before.
const manyNotes = 500

// laneState is the view of a lane of which the asker holds the first and the last notes.
type laneState struct {
	*view.Lane
	Notes someNotes `json:"notes"`
}

// someNotes are the notes between so many first and last ones that are as they were.
type someNotes struct {
	Held  [2]int      `json:"held"`
	Notes []view.Note `json:"notes"`
}

func between(was, now []view.Note) someNotes {
	most := min(len(was), len(now))
	first := 0
	for first < most && was[first].Same(&now[first]) {
		first++
	}
	last := 0
	for last < most-first && was[len(was)-1-last].Same(&now[len(now)-1-last]) {
		last++
	}
	return someNotes{[2]int{first, last}, now[first : len(now)-last]}
}

// views keeps the views given out last. An edit works out only what it touches,
// and sends only that to whoever holds the rest.
type views struct {
	mutex sync.Mutex
	kept  []keptView
}

type keptView struct {
	id      string
	version int64
	view    *view.Clip
}

// maxViews bounds how many are kept, and mostShown how many events they have together: the
// newest is kept whatever it has.
const (
	maxViews  = 6
	mostShown = 200_000
)

func (v *views) get(id string, version int64, clip string) *view.Clip {
	v.mutex.Lock()
	defer v.mutex.Unlock()
	for _, k := range v.kept {
		if k.id == id && k.version == version && k.view.ID == clip {
			return k.view
		}
	}
	return nil
}

func (v *views) put(id string, version int64, shown *view.Clip) {
	v.mutex.Lock()
	defer v.mutex.Unlock()
	v.kept = slices.DeleteFunc(v.kept, func(k keptView) bool { return k.id == id && k.view.ID == shown.ID })
	v.kept = append(v.kept, keptView{id, version, shown})
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

// state writes a piece with the view of a clip, the first one when clip names none
// of its clips. held is the view that the asker holds, with the piece it is of;
// nil: nothing.
func (s *server) state(work *budget.Budget, from *store.State, clip string, before *view.Clip, holds bool) (*State, error) {
	out := &State{ID: from.ID, Version: from.Version, Undo: from.Undo, Redo: from.Redo}
	var held *piece.Piece
	if holds && before != nil {
		held = before.Performance().Piece
	}
	if len(from.Piece.Clips) == 0 {
		out.Piece = stateOf(from.Piece, nil, held, "")
		return out, nil
	}
	shown, err := from.Piece.Clip(clip)
	if err != nil {
		shown, err = &from.Piece.Clips[0], nil
	}
	if !fitsScreen(shown) {
		out.Piece = stateOf(from.Piece, nil, nil, "")
		out.Trouble = fmt.Sprintf("%s cannot be shown: it has %s", shown.Name, tooLargeToShow)
		return out, nil
	}
	whole := "" // the clip of which the asker holds the document
	if before != nil {
		whole = before.ID
	}
	out.Piece = stateOf(from.Piece, shown, held, whole)
	seen := s.views.get(from.ID, from.Version, shown.ID)
	if seen == nil || seen.Performance().Piece != from.Piece {
		seen, err = look(from.Piece, shown, before, view.Whole(work))
	}
	var broken *render.BrokenError
	if errors.As(err, &broken) { // the piece opens all the same
		told(broken)
		out.Trouble = fmt.Sprintf("%s cannot be shown: %s", shown.Name, broken.Error())
		return out, nil
	}
	if err != nil {
		return nil, err
	}
	s.views.put(from.ID, from.Version, seen)
	lanes := make([]any, len(seen.Lanes))
	for i, lane := range seen.Lanes {
		lanes[i] = lane
		if holds && before != nil && slices.Contains(before.Lanes, lane) {
			lanes[i] = Same{lane.ID, true}
		} else if holds && before != nil && len(lane.Notes) > manyNotes {
			if k := slices.IndexFunc(before.Lanes, func(l *view.Lane) bool { return l.ID == lane.ID }); k >= 0 {
				lanes[i] = laneState{lane, between(before.Lanes[k].Notes, lane.Notes)}
			}
		}
	}
	out.View = viewState{seen, lanes}
	return out, nil
}

// look makes a view; whatever goes wrong in it is a *render.BrokenError.
func look(p *piece.Piece, clip *piece.Clip, before *view.Clip, most view.Bounds) (shown *view.Clip, err error) {
	defer func() {
		if problem := recover(); problem != nil {
			err = &render.BrokenError{Lane: clip.Name, Problem: fmt.Sprint(problem), Stack: string(debug.Stack())}
		}
	}()
	return view.Within(p, clip, before, most)
}

// try makes sure, before a change is kept, that what it leaves can be viewed, rendered and
// reviewed: the clip that is shown as a whole, whose view it gives, and others that change by
// their beginnings.
func (s *server) try(work *budget.Budget, was, p *piece.Piece, clip string, before *view.Clip) (*view.Clip, error) {
	if len(p.Clips) == 0 {
		return nil, nil
	}
	shown, err := p.Clip(clip)
	if err != nil {
		shown = &p.Clips[0]
	}
	if !fitsScreen(shown) {
		return nil, &piece.Fault{Path: fmt.Sprintf("clips[%d]", slices.IndexFunc(p.Clips, func(c piece.Clip) bool { return c.ID == shown.ID })), Problem: tooLargeToShow}
	}
	for i := range p.Clips {
		own := &p.Clips[i]
		if old, err := was.Clip(own.ID); own == shown || err == nil && drawnAlike(p, was, own, old) {
			continue
		}
		if _, err := look(p, own, nil, view.Trial(work)); err != nil {
			return nil, err
		}
	}
	return look(p, shown, before, view.Whole(work))
}

// How large a clip may be to be shown, in bytes of its document, and how large clips that an edit reached
// beside it are together.
const (
	mostDocument = 3 << 20
	mostBeside   = 256 << 10
)

// manyCells is from how many steps or notes on a clip is written out to see how large it is: the largest step
// has some 700 bytes.
const manyCells = 4000

// fitsScreen reports whether a clip's document is small enough to be shown. It is written out no further than that.
func fitsScreen(clip *piece.Clip) bool {
	cells := 0
	for i := range clip.Lanes {
		if steps := clip.Lanes[i].Content.StepList(); steps != nil {
			cells += steps.Len()
		} else if free := piece.FreeOf(&clip.Lanes[i]); free != nil {
			cells += len(free.Cells())
		}
	}
	if cells < manyCells {
		return true
	}
	_, fits := piece.WriteClipWithin(clip, mostDocument)
	return fits
}

var tooLargeToShow = fmt.Sprintf("more than %d MB of steps and notes; allowed: %d MB in a clip", mostDocument>>20, mostDocument>>20)

// stateOf writes a piece with the document of the clip that is shown, and of those that an edit
// of the asker's reached, and the others in brief. Held is the piece as the asker has it, with the document of the clip whole.
func stateOf(p *piece.Piece, shown *piece.Clip, held *piece.Piece, whole string) pieceState {
	out := pieceState{p, make([]any, len(p.Clips))}
	beside := 0
	for i := range p.Clips {
		clip := &p.Clips[i]
		var was *piece.Clip
		if held != nil {
			was, _ = held.Clip(clip.ID)
		}
		if clip == shown && clip.ID != whole {
			was = nil
		}
		out.Clips[i] = clipStateOf(clip, was)
		if _, same := out.Clips[i].(Same); clip == shown || same {
			continue
		}
		if was != nil { // an edit reached it: the next may be on its way, and needs what it is now
			if text, fits := piece.WriteClipWithin(clip, mostBeside-beside); fits {
				beside += len(text)
				out.Clips[i] = clipStateOf(clip, nil)
				continue
			}
		}
		out.Clips[i] = Brief{ID: clip.ID, Name: clip.Name, Of: clip.Of, Chords: clip.Harmonic(), Brief: true}
	}
	return out
}

func clipStateOf(clip, was *piece.Clip) any {
	if was != nil && clip.Untouched(was) {
		return Same{clip.ID, true}
	}
	lanes := make([]any, len(clip.Lanes))
	same := was != nil && len(was.Lanes) == len(clip.Lanes) && clip.Alike(was)
	for i := range clip.Lanes {
		lanes[i] = clip.Lanes[i]
		at := -1
		if was != nil {
			at = slices.IndexFunc(was.Lanes, func(l piece.Lane) bool { return l.Same(&clip.Lanes[i]) })
		}
		if at >= 0 {
			lanes[i] = Same{clip.Lanes[i].ID, true}
		} else if was != nil {
			if k := slices.IndexFunc(was.Lanes, func(l piece.Lane) bool { return l.ID == clip.Lanes[i].ID }); k >= 0 {
				lanes[i] = clip.Lanes[i].Since(&was.Lanes[k])
			}
		}
		same = same && at == i
	}
	if same {
		return Same{clip.ID, true}
	}
	return clipState{clip, lanes}
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
	_, same := clipStateOf(clip, was).(Same)
	return same && sameHarmony(p, before, clip, was) && p.Alike(before)
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
