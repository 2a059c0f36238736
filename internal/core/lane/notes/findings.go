package notes

import (
	"encoding/json"
	"fmt"

	"agrimony/internal/core/lane/pitched"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// Findings say which notes begin outside the loop, and of many voices what does nothing in them.
func (Kind) Findings(p *render.Performance, part *render.Part, lane *piece.Lane) []render.Finding {
	own := of(lane)
	on := op.OnLane{Clip: p.Clip.ID, Lane: lane.ID}
	out := pitched.Harmless(&own.Pitched, p, lane)
	start, length := own.LoopOf(p.Clip.Bars, p.Bar)
	outside, moving, first, joined := 0, 0, 0, 0
	for i := range own.Notes {
		n := &own.Notes[i]
		if at, _ := own.Span(i); at < start || at >= start+length {
			if outside++; outside == 1 {
				first = n.Number
			}
		}
		if n.Tie || own.Glide.Mode != piece.MPE && (n.Glide != nil || len(n.Bend) > 0) {
			if moving++; moving == 1 {
				joined = n.Number
			}
		}
	}
	if outside > 0 && len(part.Notes) > 0 {
		finding := render.Finding{Rule: "outside-loop", Lane: lane.ID, Step: first,
			Message: fmt.Sprintf("%s of %s begin outside its loop and are silent.", render.Many(outside, "note"), lane.Name)}
		if outside == 1 {
			finding.Message = fmt.Sprintf("1 note of %s begins outside its loop and is silent.", lane.Name)
		}
		if own.Loop != nil {
			finding.Mend = render.MendBy("Take the loop away", op.SetLane{OnLane: on, Patch: json.RawMessage(`{"loop":null}`)})
		}
		out = append(out, finding)
	}
	if moving > 0 && own.Glide.Mode == piece.MPE {
		out = append(out, render.Finding{Rule: "voices", Lane: lane.ID, Step: joined,
			Message: fmt.Sprintf("Ties do nothing in %s while many notes sound at a time.", lane.Name)})
	} else if moving > 0 && own.Voices == "many" {
		out = append(out, render.Finding{Rule: "voices", Lane: lane.ID, Step: joined,
			Message: fmt.Sprintf("Ties, glides and bends do nothing in %s while many notes sound at a time.", lane.Name),
			Mend:    render.MendBy("Let one sound at a time", op.SetLane{OnLane: on, Patch: json.RawMessage(`{"voices":"one"}`)})})
	}
	return append(out, tooMany(p, lane)...)
}

// tooMany says where more tones are played at once than a chord has.
func tooMany(p *render.Performance, lane *piece.Lane) []render.Finding {
	if p.Harmony == nil || p.Harmony.Lane != lane {
		return nil
	}
	chords, first := 0, int32(0)
	for _, b := range p.Harmony.Chords {
		if b.Over > 0 {
			if chords++; chords == 1 {
				first = b.Step
			}
		}
	}
	if chords == 0 {
		return nil
	}
	return []render.Finding{{Rule: "chord-tones", Lane: lane.ID, Step: of(lane).Notes[first].Number,
		Message: fmt.Sprintf("%s of %s have more than %d tones; the lowest %d count.", render.Many(chords, "chord"), lane.Name, MostTones, MostTones)}}
}
