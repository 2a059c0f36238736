package pitched

import (
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// Placer works places out slot by slot, in order of time. A lane that does not listen
// to chords has each step worked out once.
func Placer(lane *piece.Pitched, in *render.Input, of func(step int32) pitch.Place) func(*render.Slot) Placed {
	if !lane.Listens() || in.Harmony == nil {
		known := make([]Placed, in.Lane.Content.Slots().Len())
		for i := range known {
			known[i] = At(lane, in.Key, nil, of(int32(i)))
		}
		return func(s *render.Slot) Placed { return known[s.Step] }
	}
	chord := in.Harmony.Walk()
	return func(s *render.Slot) Placed { return At(lane, in.Key, chord(s.At), of(s.Step)) }
}
