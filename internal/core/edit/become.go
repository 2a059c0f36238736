package edit

import (
	"slices"
	"strings"

	"agrimony/internal/core/intake"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/lane/change"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
)

// rounded is a kind of lane whose round is notes that can become another lane.
type rounded interface {
	Round(t *change.Target) *intake.Source
}

// becomeLane makes a lane of notes one of steps, by the rules of reading a file: it keeps its id,
// name, channel and sound. Of several lanes the first takes its place.
func becomeLane(t target, o op.BecomeLane) error {
	kind, ok := t.Kind().(rounded)
	if !ok {
		return t.Wrong("lane", "%s is a %s lane; allowed: a lane of free notes", t.Lane.Name, t.Lane.Kind)
	}
	if o.As == lane.Always || !slices.Contains(lane.Becomings(), o.As) {
		others := slices.DeleteFunc(lane.Becomings(), func(as string) bool { return as == lane.Always })
		return t.Wrong("as", "%q is not allowed; allowed: %s", o.As, strings.Join(others, ", "))
	}
	source := kind.Round(t.Target)
	if len(source.Notes) == 0 {
		return t.Wrong("lane", "%s has no note in its loop; allowed: a lane with notes", t.Lane.Name)
	}
	became, err := lane.Become(o.As, source, t.Piece.Tempo)
	if err != nil {
		return t.Wrong("as", "%s does not fit as %s: %v", t.Lane.Name, o.As, err)
	}
	if err := t.Room(len(t.Clip.Lanes)+len(became.Lanes)-2, piece.MaxLanes, "lanes"); err != nil {
		return err
	}
	was := *t.Lane
	for i := range became.Lanes {
		own := &became.Lanes[i]
		if len(became.Lanes) == 1 || own.Name == "" {
			own.Name = was.Name
		}
		own.Channel, own.Sound, own.Mute, own.Solo, own.Range, own.Share = was.Channel, was.Sound, was.Mute, was.Solo, was.Range, was.Share
		if own.ID = was.ID; i > 0 {
			own.ID = t.laneID(own.Name)
			t.Clip.Lanes = slices.Insert(t.Clip.Lanes, t.At+i, *own)
			continue
		}
		t.Clip.Lanes[t.At] = *own
	}
	t.Lane = &t.Clip.Lanes[t.At]
	if h := t.Clip.Harmony; h != nil && h.Lane == was.ID && !piece.HasChords(t.Lane) {
		t.Clip.Harmony = nil
	}
	return nil
}
