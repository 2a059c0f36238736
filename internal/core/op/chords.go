package op

import (
	"encoding/json"

	"agrimony/internal/core/pitch"
)

// WriteChords writes a progression into a chords lane: a word a chord, numerals of the
// key or symbols. Its steps that are on take the chords in turn; a lane without rests,
// or without chords, becomes as long as the progression.
type WriteChords struct {
	OnLane `tstype:",extends"`
	Text   string `json:"text"`
}

// PlaceStack puts the chord on a degree of the key at each step: so many thirds, or a
// kind of chord by its name: "sus4", "add9".
type PlaceStack struct {
	OnSteps `tstype:",extends"`
	Degree  int    `json:"degree"` // from 1
	Kind    string `json:"kind"`
}

// PlaceChord puts a chord, written as a numeral or a symbol, at each step.
type PlaceChord struct {
	OnSteps `tstype:",extends"`
	Text    string `json:"text"`
}

// TakeChord puts a chord of another lane's palette, in this clip or another, at each
// step.
type TakeChord struct {
	OnSteps  `tstype:",extends"`
	FromClip string `json:"fromClip"`
	FromLane string `json:"fromLane"`
	Place    int    `json:"place"` // from 1
}

// TurnTone adds a tone to the chord of a step, or takes it away where it sounds. Only
// leaves other steps with the same chord alone.
type TurnTone struct {
	OnLane `tstype:",extends"`
	Step   int         `json:"step"`
	At     pitch.Place `json:"at" tstype:"Place"`
	Only   bool        `json:"only,omitempty"`
}

// DragTone moves the tone that a step sounds at a place of the ladder to another one.
type DragTone struct {
	OnLane `tstype:",extends"`
	Step   int         `json:"step"`
	From   pitch.Place `json:"from" tstype:"Place"`
	To     pitch.Place `json:"to" tstype:"Place"`
	Only   bool        `json:"only,omitempty"`
}

// MoveTone moves a tone (from 1) of the chord of each step by so many of a unit.
type MoveTone struct {
	OnSteps `tstype:",extends"`
	Tone    int    `json:"tone"`
	Unit    string `json:"unit"`
	By      int    `json:"by"`
	Only    bool   `json:"only,omitempty"`
}

// WidenChords stacks so many thirds more on the chords of the steps, or takes them away
// below 0.
type WidenChords struct {
	OnSteps `tstype:",extends"`
	By      int  `json:"by"`
	Only    bool `json:"only,omitempty"`
}

// OpenChords spreads the tones of the chords of the steps over two octaves, or brings
// them close together.
type OpenChords struct {
	OnSteps `tstype:",extends"`
	Open    bool `json:"open"`
	Only    bool `json:"only,omitempty"`
}

// InvertChords inverts the steps' chords so many times more.
type InvertChords struct {
	OnSteps `tstype:",extends"`
	By      int `json:"by"`
}

// NameChord gives a chord of the palette a name of one's own; empty takes it away.
type NameChord struct {
	OnLane `tstype:",extends"`
	Place  int    `json:"place"` // from 1
	Name   string `json:"name"`
}

// DropChord takes a chord that no step uses out of the palette.
type DropChord struct {
	OnLane `tstype:",extends"`
	Place  int `json:"place"` // from 1
}

// MoveChord moves a chord, with what it is held through, so that it begins at another
// step.
type MoveChord struct {
	OnLane `tstype:",extends"`
	Step   int `json:"step"`
	To     int `json:"to"`
}

// HoldChord makes the chord of a step last so many steps, by ties.
type HoldChord struct {
	OnLane `tstype:",extends"`
	Step   int `json:"step"`
	Steps  int `json:"steps"`
}

// SetHarmony says where a clip's chords come from; null: from its first chords lane.
type SetHarmony struct {
	OnClip  `tstype:",extends"`
	Harmony json.RawMessage `json:"harmony" tstype:"Harmony | null"`
}
