package op

import "encoding/json"

// HoldLuck writes what rounds (from 1) drew into the steps, and takes the lane's odds away.
// Of several rounds the lane becomes as long as all of them, one after another.
type HoldLuck struct {
	OnLane `tstype:",extends"`
	Rounds []int `json:"rounds"`
}

// WriteModulator writes what a modulator (from 1) gives into the steps, and takes it away.
type WriteModulator struct {
	OnLane    `tstype:",extends"`
	Modulator int `json:"modulator"`
}

// StartLane begins a lane from a starter's document: the lane named, which keeps its id and
// name, or without one a new lane. Needs names the lanes of the clip that take the place of
// those which it needs, by the field: "rhythm.lane"; an empty one leaves the need out.
type StartLane struct {
	Clip    string            `json:"clip"`
	Lane    string            `json:"lane,omitempty"`
	Name    string            `json:"name,omitempty"` // of a new lane; empty: the starter's
	Starter json.RawMessage   `json:"starter" tstype:"unknown"`
	Needs   map[string]string `json:"needs,omitempty"`
	Plain   bool              `json:"plain,omitempty"` // it is a copy of a lane, and keeps the starter that that was begun from
}

// TakeGroove makes a groove template of a lane: its mean offset and velocity in each
// sixteenth.
type TakeGroove struct {
	OnLane `tstype:",extends"`
	Name   string `json:"name,omitempty"`
}

// PrintGroove writes the groove into the lane's nudges and velocities, and sets its share
// to 0.
type PrintGroove struct {
	OnLane `tstype:",extends"`
}

// FillAccents accents so many of the hits among the steps, spread evenly and turned.
type FillAccents struct {
	OnSteps `tstype:",extends"`
	Hits    int `json:"hits"`
	Turn    int `json:"turn,omitempty"`
}

// FillChance sets the chance of the steps; with Weak, of those off the meter's unit.
type FillChance struct {
	OnSteps `tstype:",extends"`
	Chance  int  `json:"chance"`
	Weak    bool `json:"weak,omitempty"`
}

// ThinOut takes every second hit away, the weaker ones of the bar.
type ThinOut struct {
	OnSteps `tstype:",extends"`
}

// DoubleHits puts a softer hit between each hit and the next, where there is room.
type DoubleHits struct {
	OnSteps `tstype:",extends"`
}
