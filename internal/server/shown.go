package server

import (
	"encoding/hex"
	"fmt"
	"hash/fnv"
	"strings"

	"agrimony/internal/core/budget"
	"agrimony/internal/core/piece"
	"agrimony/internal/since"
	"agrimony/internal/view"
)

// Shown is what a screen holds of a piece: the document of the clip that is open and of those that were open before it,
// other clips in brief, and the view of the clip that is open.
type Shown struct {
	Piece   pieceState  `json:"piece" tstype:"PieceState,required"`
	View    *view.Clip  `json:"view" tstype:"ClipView | null,required"` // null: the piece has no clips, or Trouble
	Trouble string      `json:"trouble"`                                // why the clip cannot be shown; empty: it can
	Thumb   *view.Thumb `json:"thumb" tstype:"Thumb | null,required"`   // the clip that is open in miniature
}

// pieceState is a piece of which some clips stand in brief.
type pieceState struct {
	*piece.Piece
	Clips []any `json:"clips"` // *piece.Clip or Brief
}

// mostOpen is how many clips beside the one that is open a screen may have whole.
const mostOpen = 4

// shownOf is what a screen holds of a piece: the same whenever it is asked for of the same things.
func shownOf(p *piece.Piece, open string, also []string, seen *view.Clip, trouble string) *Shown {
	out := &Shown{Piece: pieceState{p, make([]any, len(p.Clips))}, View: seen, Trouble: trouble}
	if seen != nil {
		out.Thumb = seen.Thumb()
	}
	whole := map[string]bool{}
	for _, id := range also[:min(len(also), mostOpen)] {
		if clip, err := p.Clip(id); err == nil && cellsOf(clip) < manyCells {
			whole[id] = true
		}
	}
	for i := range p.Clips {
		clip := &p.Clips[i]
		if whole[clip.ID] || clip.ID == open && seen != nil {
			out.Piece.Clips[i] = clip
			continue
		}
		out.Piece.Clips[i] = Brief{ID: clip.ID, Name: clip.Name, Of: clip.Of, Chords: clip.Harmonic(), Brief: true}
	}
	return out
}

// sinceWork is what it may take to find out what is new in an answer, about as much as writing it whole.
const sinceWork = 500_000

// show puts into an answer what a screen is to hold, or how that differs from what it holds.
func (out *State) show(work *budget.Budget, p *piece.Piece, seen, before keptView, holds Holds) {
	out.Sum = holds.sum(seen)
	now := shownOf(p, seen.view.ID, holds.Also, seen.view, "")
	if before.view == nil || holds.Sum == "" || holds.Sum != holds.sum(before) {
		out.Shown = now
		return
	}
	was := shownOf(before.view.Performance().Piece, before.view.ID, holds.Also, before.view, "")
	change, err := since.Within(work.Part(sinceWork), was, now)
	switch {
	case err != nil: // so much is new
		out.Shown = now
	case change == nil:
		out.Since = struct{}{}
	default:
		out.Since = change
	}
}

// sum names what a screen holds with a view: the view, and the clips that it has whole beside it.
func (h Holds) sum(of keptView) string {
	sum := fnv.New64a()
	_, _ = fmt.Fprint(sum, of.name, " ", strings.Join(h.Also, " "))
	return hex.EncodeToString(sum.Sum(nil))
}
