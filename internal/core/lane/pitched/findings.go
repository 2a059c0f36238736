package pitched

import (
	"encoding/json"
	"fmt"

	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// Harmless finds a lane that leans on chords in a clip without any.
func Harmless(pitched *piece.Pitched, p *render.Performance, lane *piece.Lane) []render.Finding {
	var out []render.Finding
	if p.Harmony != nil {
		return out
	}
	clip := p.Clip.ID
	add := func(label, patch, message string) {
		out = append(out, render.Finding{Rule: "no-harmony", Lane: lane.ID, Message: fmt.Sprintf(message, lane.Name),
			Mend: render.MendBy(label, op.SetLane{OnLane: op.OnLane{Clip: clip, Lane: lane.ID}, Patch: json.RawMessage(patch)})})
	}
	if pitched.Lock == "chord" {
		add("Lock it to the scale", `{"lock":"scale"}`, "%s is locked to chords, but the clip has none; it keeps to the scale.")
	}
	if pitched.Follow == "root" {
		add("Count from the key", `{"follow":"key"}`, "%s follows the chords' roots, but the clip has no chords; it counts from the key.")
	}
	return out
}
