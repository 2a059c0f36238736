package chords

import (
	"encoding/json"
	"fmt"
	"slices"

	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// Findings reviews a chords lane: steps that hold no chord but a single tone, and chords
// that have no place in the range of the voices.
func (Kind) Findings(p *render.Performance, _ *render.Part, lane *piece.Lane) []render.Finding {
	c := of(lane)
	var out []render.Finding
	on := op.OnLane{Clip: p.Clip.ID, Lane: lane.ID}
	if i := slices.IndexFunc(c.Steps, func(s piece.ChordStep) bool { return s.On && (s.Glide != nil || len(s.Bend) > 0) }); i >= 0 && c.Glide == nil {
		out = append(out, render.Finding{Rule: "no-glides", Lane: lane.ID, Step: i + 1,
			Message: fmt.Sprintf("Step %d of %s glides or bends, but its chords do not glide: it does nothing.", i+1, lane.Name),
			Mend:    render.MendBy("Let each tone glide by itself", op.SetLane{OnLane: on, Patch: json.RawMessage(`{"glide":{"mode":"mpe"}}`)})})
	}
	voiced := Voice(lane, p.Key)
	for k, i := range voiced.Order {
		step := &c.Steps[i]
		steps := op.OnSteps{Clip: on.Clip, Lane: on.Lane, Steps: []int{i + 1}}
		symbol := pitch.Pretty(nameOf(c, p.Key, step, voiced.Steps[i]).Symbol)
		if len(voiced.Steps[i]) < 2 {
			out = append(out, render.Finding{Rule: "no-chord", Lane: lane.ID, Step: i + 1,
				Message: fmt.Sprintf("Step %d of %s holds a single tone, no chord.", i+1, lane.Name),
				Mend:    render.MendBy("Stack two thirds on it", op.WidenChords{OnSteps: steps, By: 2, Only: true})})
		}
		if !voiced.Held[k] {
			continue
		}
		finding := render.Finding{Rule: "voicing-range", Lane: lane.ID, Step: i + 1,
			Message: fmt.Sprintf("%s at step %d of %s cannot be voiced within %s..%s; it stays as written, moved by octaves.", symbol, i+1, lane.Name,
				pitch.Pretty(p.Key.Named(c.Voicing.Low)), pitch.Pretty(p.Key.Named(c.Voicing.High)))}
		if low, high := max(c.Voicing.Low-12, 0), min(c.Voicing.High+12, 127); len(voiced.Steps[i]) <= 6 && (low < c.Voicing.Low || high > c.Voicing.High) {
			finding.Mend = render.MendBy(
				"Widen the range by an octave on both sides",
				op.SetLane{OnLane: on, Patch: json.RawMessage(fmt.Sprintf(`{"voicing":{"low":%d,"high":%d}}`, low, high))},
			)
		} else {
			finding.Mend = render.MendBy("Leave the voices as written", op.SetLane{OnLane: on, Patch: json.RawMessage(`{"voicing":{"mode":"written"}}`)})
		}
		out = append(out, finding)
	}
	return out
}
