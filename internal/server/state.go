package server

import (
	"errors"
	"fmt"
	"runtime/debug"
	"slices"

	"agrimony/internal/core/budget"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
	"agrimony/internal/store"
	"agrimony/internal/view"
)

// state is a piece with the view of a clip, the first one when clip names none of its clips. before is the view that the
// asker holds, with the piece it is of.
func (s *server) state(work *budget.Budget, from *store.State, clip string, before keptView, holds Holds) (*State, error) {
	out := &State{ID: from.ID, Version: from.Version, Undo: from.Undo, Redo: from.Redo}
	if len(from.Piece.Clips) == 0 {
		out.Shown = shownOf(from.Piece, "", holds.Also, nil, "")
		return out, nil
	}
	open, err := from.Piece.Clip(clip)
	if err != nil {
		open, err = &from.Piece.Clips[0], nil
	}
	if !fitsScreen(open) {
		out.Shown = shownOf(from.Piece, open.ID, nil, nil, fmt.Sprintf("%s cannot be shown: it has %s", open.Name, tooLargeToShow))
		return out, nil
	}
	seen := s.views.get(from.ID, from.Version, open.ID)
	if seen.view == nil || seen.view.Performance().Piece != from.Piece {
		seen = keptView{from.ID, from.Version, nil, newID()}
		seen.view, err = look(from.Piece, open, before.view, view.Whole(work))
	}
	var broken *render.BrokenError
	if errors.As(err, &broken) { // the piece opens all the same
		told(broken)
		out.Shown = shownOf(from.Piece, open.ID, holds.Also, nil, fmt.Sprintf("%s cannot be shown: %s", open.Name, broken.Error()))
		return out, nil
	}
	if err != nil {
		return nil, err
	}
	s.views.put(seen)
	out.show(work, from.Piece, seen, before, holds)
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
// their beginnings. others reports whether the pictures of other clips may have changed, or which clips there are.
func (s *server) try(work *budget.Budget, was, p *piece.Piece, clip string, before *view.Clip) (seen *view.Clip, others bool, err error) {
	if len(p.Clips) == 0 {
		return nil, true, nil
	}
	others = !slices.EqualFunc(was.Clips, p.Clips, func(a, b piece.Clip) bool { return a.ID == b.ID })
	shown, err := p.Clip(clip)
	if err != nil {
		shown = &p.Clips[0]
	}
	if !fitsScreen(shown) {
		return nil, others, &piece.Fault{
			Path:    fmt.Sprintf("clips[%d]", slices.IndexFunc(p.Clips, func(c piece.Clip) bool { return c.ID == shown.ID })),
			Problem: tooLargeToShow,
		}
	}
	for i := range p.Clips {
		own := &p.Clips[i]
		if old, err := was.Clip(own.ID); own == shown || err == nil && drawnAlike(p, was, own, old) {
			continue
		}
		others = true
		if _, err := look(p, own, nil, view.Trial(work)); err != nil {
			return nil, others, err
		}
	}
	seen, err = look(p, shown, before, view.Whole(work))
	return seen, others, err
}

// mostDocument is how large a clip may be to be shown, in bytes of its document.
const mostDocument = 3 << 20

// manyCells is from how many steps or notes on a clip is written out to see how large it is: the largest step
// has some 700 bytes.
const manyCells = 4000

// fitsScreen reports whether a clip's document is small enough to be shown. It is written out no further than that.
func fitsScreen(clip *piece.Clip) bool {
	if cellsOf(clip) < manyCells {
		return true
	}
	_, fits := piece.WriteClipWithin(clip, mostDocument)
	return fits
}

// cellsOf is how many steps and free notes a clip has.
func cellsOf(clip *piece.Clip) (cells int) {
	for i := range clip.Lanes {
		if steps := clip.Lanes[i].Content.StepList(); steps != nil {
			cells += steps.Len()
		} else if free := piece.FreeOf(&clip.Lanes[i]); free != nil {
			cells += len(free.Cells())
		}
	}
	return cells
}

var tooLargeToShow = fmt.Sprintf("more than %d MB of steps and notes; allowed: %d MB in a clip", mostDocument>>20, mostDocument>>20)
