package op

import (
	"encoding/json"

	"agrimony/internal/core/pitch"
)

// SetSteps changes the fields that the patch names of every step.
type SetSteps struct {
	OnSteps `tstype:",extends"`
	Patch   json.RawMessage `json:"patch" tstype:"unknown"`
}

// WriteSteps puts whole steps onto those named, one by one. With Loose they are steps of a
// lane of another kind, whose rhythm is taken: what the steps play stays. With Only the
// steps take one part of what is written: "pitches", "rhythm" (on, velocity, gate, tie,
// ratchet and nudge), "velocities", "lengths" (gate and tie) or "chance" (and rounds).
type WriteSteps struct {
	OnSteps `tstype:",extends"`
	Content []json.RawMessage `json:"content" tstype:"unknown[]"`
	Loose   bool              `json:"loose,omitempty"`
	Only    string            `json:"only,omitempty"`
}

// TransposeSteps moves notes by so many of a unit: "degree", "semitone", "octave".
type TransposeSteps struct {
	OnSteps `tstype:",extends"`
	Unit    string `json:"unit"`
	By      int    `json:"by"`
}

// RotateSteps moves what the steps hold later among themselves, the last ones
// coming round to the front; with Only one part of it, as of WriteSteps, the rhythm with
// all that its ties run through.
type RotateSteps struct {
	OnSteps `tstype:",extends"`
	By      int    `json:"by"`
	Only    string `json:"only,omitempty"`
}

// MoveSteps moves steps so many places later, with all that their ties run through. What stands
// there takes the places that they leave; with Copy it is written over, and they stay, too. Nudge
// is added to theirs, in percent of a step, -50..50, as far as that goes.
type MoveSteps struct {
	OnSteps `tstype:",extends"`
	By      int  `json:"by"`
	Nudge   int  `json:"nudge,omitempty"`
	Copy    bool `json:"copy,omitempty"`
}

// ReverseSteps turns what the steps hold back to front.
type ReverseSteps struct {
	OnSteps `tstype:",extends"`
}

// DragEnd lets a note end, as it sounds, where it was dragged to: Ticks (960 a quarter)
// after its step's start on the grid. From is where that is in the clip, in ticks; 0: where
// the step stands first. Within the step that is its gate; past it a tie, through as many
// steps as it reaches.
type DragEnd struct {
	OnLane `tstype:",extends"`
	Step   int `json:"step"`
	Ticks  int `json:"ticks"`
	From   int `json:"from,omitempty"`
}

// PutNotes switches steps on at places of the ladder. Where the lane follows the
// chords' roots, each place is counted from the root that sounds at Ticks (960 a
// quarter) of the clip.
type PutNotes struct {
	OnLane `tstype:",extends"`
	Notes  []PutNote `json:"notes"`
}

// PutNote is one of them.
type PutNote struct {
	Step  int         `json:"step"` // from 1
	At    pitch.Place `json:"at" tstype:"Place"`
	Ticks int         `json:"ticks"`
}

// EnterNotes writes what was played into a step: MIDI pitches, none for a rest, mapped to
// the key as the lane's lock says. With Tie the step holds the one before. Velocity is 1..127;
// 0 keeps the step's own. A lane of free notes has no steps: there At and Length count, in 960ths of
// a quarter on its axis, and Tie holds the notes that end At.
type EnterNotes struct {
	OnLane   `tstype:",extends"`
	Step     int   `json:"step"`
	Pitches  []int `json:"pitches"`
	Tie      bool  `json:"tie,omitempty"`
	Velocity int   `json:"velocity,omitempty"`
	At       int   `json:"at,omitempty"`
	Length   int   `json:"length,omitempty"`
	// Over lets it take the place of what other steps sound too: the tones that a phrase walks.
	Over bool `json:"over,omitempty"`
}
