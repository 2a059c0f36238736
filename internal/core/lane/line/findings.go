package line

import (
	"fmt"

	"agrimony/internal/core/lane/pitched"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// Findings reviews a line: whether its last note leads back to its first, and
// whether it leans on chords that are not there.
func (Kind) Findings(p *render.Performance, part *render.Part, lane *piece.Lane) []render.Finding {
	out := pitched.Harmless(&of(lane).Pitched, p, lane)
	if len(part.Notes) < 2 || p.Opening {
		return out
	}
	octave := of(lane).Octave
	first, last := &part.Notes[0], &part.Notes[len(part.Notes)-1]
	start, end := int(first.Pitch), last.EndPitch()
	if pitched.Leads(p.Key, octave, end, start) || pitched.Rests(p.Key, end) {
		return out
	}
	finding := render.Finding{Rule: "seam", Lane: lane.ID, Step: int(last.Step), Message: fmt.Sprintf(
		"%s ends on %s, which does not lead back to its first note %s: it is neither tonic, third nor fifth, nor a step away, nor the fourth before the tonic.",
		lane.Name, pitch.Pretty(p.Key.Named(end)), pitch.Pretty(p.Key.Named(start)))}
	if home, ok := p.Key.Find(start, octave); ok {
		lead := p.Key.Move(home, 1)
		steps := op.OnSteps{Clip: p.Clip.ID, Lane: lane.ID, Steps: []int{int(last.Step)}}
		if pitched.Check(p.Key, lead) == nil {
			finding.Mend = render.MendBy(fmt.Sprintf("End on %s, a step above the start", pitch.Pretty(p.Key.Named(p.Key.Pitch(lead, octave)))),
				op.FillContour{OnSteps: steps, Places: []*pitch.Place{&lead}})
		}
	}
	return append(out, finding)
}
