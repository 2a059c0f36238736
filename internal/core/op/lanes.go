package op

import "encoding/json"

// AddLane adds a lane of rests, of a kind, and with the patch's fields.
type AddLane struct {
	OnClip `tstype:",extends"`
	Kind   string          `json:"kind,omitempty"`
	Name   string          `json:"name,omitempty"`
	Patch  json.RawMessage `json:"patch,omitempty" tstype:"unknown"`
	// First lets it take the place of the clip's only lane, where that is as it was made.
	First bool `json:"first,omitempty"`
}

// SetLane changes the lane's own fields.
type SetLane struct {
	OnLane `tstype:",extends"`
	Patch  json.RawMessage `json:"patch" tstype:"unknown"`
}

// RemoveLane takes the lane away.
type RemoveLane struct {
	OnLane `tstype:",extends"`
}

// CopyLane puts a copy after the lane.
type CopyLane struct {
	OnLane `tstype:",extends"`
}

// MoveLane puts the lane at a place, from 1.
type MoveLane struct {
	OnLane `tstype:",extends"`
	To     int `json:"to"`
}

// ResizeLane sets the step count: steps beyond it go, missing ones come as rests.
type ResizeLane struct {
	OnLane `tstype:",extends"`
	Count  int `json:"count"`
}

// DoubleLane writes the lane's steps a second time after themselves.
type DoubleLane struct {
	OnLane `tstype:",extends"`
}

// StartLane begins a lane from a starter's document: the lane named, which keeps its id, name and, unless Sound is asked
// for, its sound; or without one a new lane. Part takes one part of the starter into the lane named: its "rhythm" (rate,
// direction, window and count of steps; of each step on, velocity, gate, tie, ratchet and nudge), its "pitches", which
// the lane's own notes take in turn, or its "sound". Needs names the lanes of the clip that take the place of
// those which it needs, by the field: "rhythm.lane"; an empty one leaves the need out.
type StartLane struct {
	Clip    string            `json:"clip"`
	Lane    string            `json:"lane,omitempty"`
	Name    string            `json:"name,omitempty"` // of a new lane; empty: the starter's
	Starter json.RawMessage   `json:"starter" tstype:"unknown"`
	Needs   map[string]string `json:"needs,omitempty"`
	Part    string            `json:"part,omitempty"`  // empty: all of it
	Sound   bool              `json:"sound,omitempty"` // its sound, too
	Plain   bool              `json:"plain,omitempty"` // it is a copy of a lane, and keeps the starter that that was begun from
	First   bool              `json:"first,omitempty"` // as in AddLane
}
