package op

import (
	"encoding/json"

	"agrimony/internal/core/pitch"
)

// OnClip names the clip that an edit is of.
type OnClip struct {
	Clip string `json:"clip"`
}

// OnLane names the lane that an edit is of.
type OnLane struct {
	Clip string `json:"clip"`
	Lane string `json:"lane"`
}

// OnSteps names the steps, from 1, that an edit is of.
type OnSteps struct {
	Clip  string `json:"clip"`
	Lane  string `json:"lane"`
	Steps []int  `json:"steps"`
}

// SetPiece changes the piece's own fields: those that the patch names.
type SetPiece struct {
	Patch json.RawMessage `json:"patch" tstype:"unknown"`
}

// SetKey changes the key of a clip, or without one of the piece and so of all
// clips without their own. A clip's null takes its own key away. Keep says what
// its notes keep: "degrees" or "pitches".
type SetKey struct {
	Clip string          `json:"clip,omitempty"`
	Key  json.RawMessage `json:"key" tstype:"unknown"`
	Keep string          `json:"keep"`
}

// AddClip adds a clip with one lane of rests.
type AddClip struct {
	Name string          `json:"name,omitempty"`
	Key  json.RawMessage `json:"key,omitempty" tstype:"unknown"`
}

// SetClip changes the clip's own fields.
type SetClip struct {
	OnClip `tstype:",extends"`
	Patch  json.RawMessage `json:"patch" tstype:"unknown"`
}

// RemoveClip takes the clip away.
type RemoveClip struct {
	OnClip `tstype:",extends"`
}

// CopyClip puts a copy after the clip.
type CopyClip struct {
	OnClip `tstype:",extends"`
}

// MoveClip puts the clip at a place, from 1.
type MoveClip struct {
	OnClip `tstype:",extends"`
	To     int `json:"to"`
}

// AddLane adds a lane of rests, of a kind, and with the patch's fields.
type AddLane struct {
	OnClip `tstype:",extends"`
	Kind   string          `json:"kind,omitempty"`
	Name   string          `json:"name,omitempty"`
	Patch  json.RawMessage `json:"patch,omitempty" tstype:"unknown"`
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

// SetSteps changes the fields that the patch names of every step.
type SetSteps struct {
	OnSteps `tstype:",extends"`
	Patch   json.RawMessage `json:"patch" tstype:"unknown"`
}

// WriteSteps puts whole steps onto those named, one by one. With Loose they are steps of a
// lane of another kind, whose rhythm is taken: what the steps play stays.
type WriteSteps struct {
	OnSteps `tstype:",extends"`
	Content []json.RawMessage `json:"content" tstype:"unknown[]"`
	Loose   bool              `json:"loose,omitempty"`
}

// TransposeSteps moves notes by so many of a unit: "degree", "semitone", "octave".
type TransposeSteps struct {
	OnSteps `tstype:",extends"`
	Unit    string `json:"unit"`
	By      int    `json:"by"`
}

// RotateSteps moves what the steps hold later among themselves, the last ones
// coming round to the front.
type RotateSteps struct {
	OnSteps `tstype:",extends"`
	By      int `json:"by"`
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

// FillEvery switches on every n-th of the steps, from the first on, and the
// others off.
type FillEvery struct {
	OnSteps `tstype:",extends"`
	Every   int `json:"every"`
}

// FillEven spreads hits evenly over the steps, turned so many steps later.
type FillEven struct {
	OnSteps `tstype:",extends"`
	Hits    int `json:"hits"`
	Turn    int `json:"turn,omitempty"`
}

// FillFrom takes the rhythm of another lane: steps are on where it begins to
// sound, by the grid, or, with Rests, where it does not.
type FillFrom struct {
	OnSteps `tstype:",extends"`
	From    string `json:"from"`
	Rests   bool   `json:"rests,omitempty"`
}

// FillContour sets the pitches of the steps, one place for each; null leaves a
// step alone.
type FillContour struct {
	OnSteps `tstype:",extends"`
	Places  []*pitch.Place `json:"places" tstype:"(Place | null)[]"`
	// Ticks (960 a quarter) say where in the clip each place is meant, for a lane that
	// follows roots; absent: places are as the steps hold them.
	Ticks []int `json:"ticks,omitempty"`
}

// FillPattern gives the sounding ones among the steps tones in turn: "root",
// "third", "fifth", "seventh", "octave", "low fifth".
type FillPattern struct {
	OnSteps `tstype:",extends"`
	Tones   []string `json:"tones"`
}
