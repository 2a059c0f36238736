// Package render turns a clip into a performance: the notes, bends and
// controller values that its file will hold, each with its reasons.
//
// It works in stages, one file each, in the order in which the rules apply:
// unroll, chance, place (degree, alter, lock, fold), join (ties and gates),
// glide, repeat (ratchet and nudge), groove, cut, wheel. Every stage takes
// values and gives values; nothing depends on a clock or on global randomness.
package render

import (
	"math/big"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/pitch"
)

// Performance is what a clip sounds like and what its file will hold.
type Performance struct {
	Key    pitch.Key
	Length beat.Time // of the clip; nothing sounds after it
	Bar    beat.Time
	Swing  beat.Swing
	Lanes  []Part // the lanes that play, in the clip's order
	Cycle  Cycle
}

// Part is what one lane plays. Its lists are in order of time.
type Part struct {
	Lane     int // index in the clip
	ID, Name string
	Channel  int // 1..16
	Range    int // of the bend wheel, semitones
	Notes    []Note
	Bends    []Bend
	Controls []Control
	Marks    []Mark
}

// Note is one sounding note.
type Note struct {
	At, End  beat.Time
	Step     int32 // that started it, from 1
	Round    int32 // of the lane, from 1
	Pitch    uint8 // MIDI
	Velocity uint8 // 1..127
	trace    trace
}

// Bend sets the wheel to Value, -8192..8191.
type Bend struct {
	At    beat.Time
	Value int16
}

// Control sets a controller to a value, both 0..127.
type Control struct {
	At                beat.Time
	Controller, Value uint8
}

// Mark is something that a rule had to do to a step which the player should
// know of: a glide cut to the bend range, or a pitch folded into 0..127.
type Mark struct {
	Kind MarkKind
	Step int // from 1
	Want int // semitones asked for, or the MIDI pitch before folding
}

// MarkKind says what a Mark is about.
type MarkKind int

// The kinds of marks.
const (
	GlideBeyondRange MarkKind = iota
	PitchFolded
)

// Cycle is when the clip's unmuted lanes meet again.
type Cycle struct {
	beat.Cycle
	Periods []Period
}

// Period is how long one lane takes to repeat.
type Period struct {
	ID    string
	Ticks beat.Time
}

// Over tells whether the lanes take longer than beat.MaxBars bars to realign.
func (c Cycle) Over() bool { return c.Cycle.Over(c.Realign) }

// BarsLong is the performance's length in bars, exact.
func (p *Performance) BarsLong() *big.Rat { return big.NewRat(int64(p.Length), int64(p.Bar)) }

// Name spells the note in the key: "F#2".
func (p *Performance) Name(n *Note) string {
	alter := int(n.trace.alter)
	return p.Key.Spell(int(n.Pitch), alter).In(int(n.Pitch))
}
