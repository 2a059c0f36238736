package op

import (
	"encoding/json"

	"agrimony/internal/core/pitch"
)

// Times of free notes are 960ths of a quarter on their lane's axis. Notes are named by their
// numbers.

// OnNotes is notes of a lane of free notes, by their numbers.
type OnNotes struct {
	Clip  string `json:"clip"`
	Lane  string `json:"lane"`
	Notes []int  `json:"notes"`
}

// Aim is the lane.
func (o OnNotes) Aim() Aim { return Aim{Clip: o.Clip, Lane: o.Lane, Depth: AtLane} }

// AddNotes adds notes as the document writes them; those without a number get the lowest that
// are free. With Ladder their places are rows of the ladder: in a lane that follows the chords'
// roots each is counted from the root under it.
type AddNotes struct {
	OnLane `tstype:",extends"`
	Notes  []json.RawMessage `json:"notes" tstype:"unknown[]"`
	Ladder bool              `json:"ladder,omitempty"`
}

// SetNotes changes the fields that the patch names of every note.
type SetNotes struct {
	OnNotes `tstype:",extends"`
	Patch   json.RawMessage `json:"patch" tstype:"unknown"`
}

// WriteNotes changes notes one by one: each item has a note's number, and the fields to change.
type WriteNotes struct {
	OnLane `tstype:",extends"`
	Notes  []json.RawMessage `json:"notes" tstype:"unknown[]"`
}

// RemoveNotes takes notes away.
type RemoveNotes struct {
	OnNotes `tstype:",extends"`
}

// MoveNotes moves notes in time, and by so many of a unit: "degree", "semitone", "octave". With
// Copy the notes stay, and copies are moved.
type MoveNotes struct {
	OnNotes `tstype:",extends"`
	Later   int    `json:"later,omitempty"`
	By      int    `json:"by,omitempty"`
	Unit    string `json:"unit,omitempty"`
	Copy    bool   `json:"copy,omitempty"`
}

// PlaceNotes puts notes on a row of the ladder.
type PlaceNotes struct {
	OnNotes `tstype:",extends"`
	Place   pitch.Place `json:"place" tstype:"Place"`
}

// CutNotes cuts notes in two at a time, or into so many even parts.
type CutNotes struct {
	OnNotes `tstype:",extends"`
	At      int `json:"at,omitempty"`
	Parts   int `json:"parts,omitempty"`
}

// JoinNotes makes one note of those of one pitch, from where the first begins to where the last
// ends.
type JoinNotes struct {
	OnNotes `tstype:",extends"`
}

// ReverseNotes turns notes back to front within the time that they take.
type ReverseNotes struct {
	OnNotes `tstype:",extends"`
}

// RepeatNotes copies notes after themselves so many times, every so often; 0: as long as they
// take.
type RepeatNotes struct {
	OnNotes `tstype:",extends"`
	Times   int `json:"times"`
	Every   int `json:"every,omitempty"`
}

// BringNotes moves notes so that the first of them begins at a time.
type BringNotes struct {
	OnNotes `tstype:",extends"`
	To      int  `json:"to"`
	Copy    bool `json:"copy,omitempty"`
}

// StretchNotes draws the time that notes take longer or shorter: from Start to End. With Feel
// each keeps its distance from the grid of the rate Snap.
type StretchNotes struct {
	OnNotes `tstype:",extends"`
	Start   int    `json:"start"`
	End     int    `json:"end"`
	Feel    bool   `json:"feel,omitempty"`
	Snap    string `json:"snap,omitempty"`
}

// PrintLanes makes one lane of free notes (or one of each) of what lanes sound for so many bars; 0:
// for their full cycle, 64 bars at most. The lanes are muted. With Groove what they sound has the
// groove in it, and the new lane takes no part in it.
type PrintLanes struct {
	OnClip `tstype:",extends"`
	Lanes  []string `json:"lanes"`
	Bars   int      `json:"bars,omitempty"`
	Each   bool     `json:"each,omitempty"`
	Groove bool     `json:"groove,omitempty"`
	Name   string   `json:"name,omitempty"`
}

// BecomeLane makes lanes of another sort of a lane of free notes: "line", "chords", "pulses".
type BecomeLane struct {
	OnLane `tstype:",extends"`
	As     string `json:"as"`
}

// DoubleClip makes the clip twice as long, the second half of every lane its own.
type DoubleClip struct {
	OnClip `tstype:",extends"`
}

// StrokePoint is a point of a stroke over a ladder.
type StrokePoint struct {
	At    int         `json:"at"`
	Place pitch.Place `json:"place" tstype:"Place"`
}

// PaintNotes lays notes along a stroke, one each step of the rate Snap (of a line: of its own), on
// the rows that the stroke crosses; notes that it meets go.
type PaintNotes struct {
	OnLane   `tstype:",extends"`
	Snap     string        `json:"snap,omitempty"`
	Stroke   []StrokePoint `json:"stroke"`
	Velocity int           `json:"velocity,omitempty"`
}

// StampNotes lays a motif along a stroke, end to end: its first note on the stroke's row, the
// others as far from it as they were. The motif is notes as the document writes them, or in a line
// steps of it.
type StampNotes struct {
	OnLane `tstype:",extends"`
	Motif  []json.RawMessage `json:"motif,omitempty" tstype:"unknown[]"`
	Steps  []int             `json:"steps,omitempty"`
	Stroke []StrokePoint     `json:"stroke"`
	Snap   string            `json:"snap,omitempty"`
}
