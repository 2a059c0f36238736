package op

import "encoding/json"

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

// AddVariant copies the clip as a variant of it, or of what it is a variant of itself, with its luck.
type AddVariant struct {
	OnClip `tstype:",extends"`
	Name   string `json:"name,omitempty"`
}

// ApartStack makes clips of their own of all that stand in a stack with the clip.
type ApartStack struct {
	OnClip `tstype:",extends"`
}

// TakeAcross takes over from another clip what stands there: a setting (Path, as comparisons name it), a
// lane, or some bars of a lane or of all lanes.
type TakeAcross struct {
	OnClip `tstype:",extends"`
	From   string `json:"from"` // the other clip
	Lane   string `json:"lane,omitempty"`
	Path   string `json:"path,omitempty"`
	Bars   []int  `json:"bars,omitempty"` // from 1
}
