package review

import (
	"fmt"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// What findings say of, and mends do to, the steps of a lane or its free notes. Steps are counted
// from 1; of free notes that is their place, and edits know them by their numbers.

// called is what a step is called at the beginning of a sentence.
func (l *look) called(lane *piece.Lane, step int) string {
	if piece.FreeOf(lane) != nil {
		return fmt.Sprintf("Note %d", piece.Numbered(lane, step))
	}
	return fmt.Sprintf("Step %d", step)
}

func (l *look) onNotes(lane *piece.Lane, steps ...int) op.OnNotes {
	out := op.OnNotes{Clip: l.clip.ID, Lane: lane.ID}
	for _, step := range steps {
		out.Notes = append(out.Notes, piece.Numbered(lane, step))
	}
	return out
}

// setAll changes fields that steps and free notes share.
func (l *look) setAll(lane *piece.Lane, patch map[string]any, steps ...int) any {
	if piece.FreeOf(lane) != nil {
		return op.SetNotes{OnNotes: l.onNotes(lane, steps...), Patch: asJSON(patch)}
	}
	return op.SetSteps{OnSteps: l.onSteps(lane, steps...), Patch: asJSON(patch)}
}

// octaves moves steps by octaves.
func (l *look) octaves(lane *piece.Lane, by int, steps ...int) any {
	if piece.FreeOf(lane) != nil {
		return op.MoveNotes{OnNotes: l.onNotes(lane, steps...), By: by, Unit: "octave"}
	}
	return op.TransposeSteps{OnSteps: l.onSteps(lane, steps...), By: by, Unit: "octave"}
}

// put places a step's note on the ladder, at the chord of a time.
func (l *look) put(lane *piece.Lane, step int, at pitch.Place, grid beat.Time) any {
	if piece.FreeOf(lane) != nil {
		return op.PlaceNotes{OnNotes: l.onNotes(lane, step), Place: at}
	}
	return op.PutNotes{OnLane: l.on(lane), Notes: []op.PutNote{{Step: step, At: at, Ticks: int(grid.Export(render.DefaultPPQ))}}}
}

// shorter ends a step's note before it is heard as a clash; nil: it cannot be so short.
func (l *look) shorter(lane *piece.Lane, step int) any {
	most := lasting - piece.NoteTick
	if piece.FreeOf(lane) != nil {
		return op.SetNotes{OnNotes: l.onNotes(lane, step), Patch: asJSON(map[string]any{"length": int(most / piece.NoteTick), "tie": false})}
	}
	share := int(most * 100 / l.piece.StepLength(lane))
	if share < 1 {
		return nil
	}
	return op.SetSteps{OnSteps: l.onSteps(lane, step), Patch: asJSON(map[string]any{"gate": min(share, 400), "tie": false})}
}

// away takes a step's note away.
func (l *look) away(lane *piece.Lane, step int) any {
	if piece.FreeOf(lane) != nil {
		return op.RemoveNotes{OnNotes: l.onNotes(lane, step)}
	}
	return op.SetSteps{OnSteps: l.onSteps(lane, step), Patch: asJSON(map[string]any{"on": false})}
}
