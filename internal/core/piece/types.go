// Package piece is the document: what a piece, its clips, lanes and steps hold,
// their defaults and ranges, and how a document is read, checked and written.
//
// Every field stands once, in the tables of shapes.go; reading, writing, the
// defaults, the errors and the published JSON Schema all come from there.
package piece

// Piece is a whole document.
type Piece struct {
	Title  string  `json:"title"`
	Tempo  float64 `json:"tempo"` // quarter notes a minute
	Meter  string  `json:"meter"`
	Key    Key     `json:"key"`
	Seed   int     `json:"seed"`
	Groove Groove  `json:"groove"`
	Beat   Backing `json:"beat"`
	Clips  []Clip  `json:"clips"`
}

// Key is a tonic and a scale, as the document writes them.
type Key struct {
	Tonic string `json:"tonic"`
	Scale Scale  `json:"scale" tstype:"string | string[]"`
}

// Groove is the feel of a piece.
type Groove struct {
	Swing int    `json:"swing"` // 50..75 %
	Grid  string `json:"grid"`
}

// Backing is the drum beat that runs under the clips when listening. It is
// never part of a file.
type Backing struct {
	Pattern string `json:"pattern"`
	Level   int    `json:"level"` // 0..100 %
}

// Clip is a loop of lanes.
type Clip struct {
	ID    string `json:"id"`
	Name  string `json:"name"`
	Bars  int    `json:"bars"`  // 1..1024, or 0 when Until says how long it is
	Until string `json:"until"` // "cycle", "realign", or "" when Bars is set
	Key   *Key   `json:"key"`   // nil: the piece's
	Lanes []Lane `json:"lanes"`
}

// Lane is one sequence with a step count, rate, direction and window of its own.
type Lane struct {
	ID        string    `json:"id"`
	Name      string    `json:"name"`
	Kind      string    `json:"kind"`
	Rate      string    `json:"rate"`
	Direction string    `json:"direction"`
	Window    *Window   `json:"window"`  // nil: all steps
	Octave    int       `json:"octave"`  // of the tonic at step octave 0; C4 is MIDI 60
	Channel   int       `json:"channel"` // 1..16, 0: given out by position
	Lock      string    `json:"lock"`
	Snap      string    `json:"snap"`
	Follow    string    `json:"follow"`
	Glide     GlideMode `json:"glide"`
	Mute      bool      `json:"mute"`
	Solo      bool      `json:"solo"`
	Sound     Sound     `json:"sound"`
	Steps     []Step    `json:"steps"`
}

// Window is the run of steps that plays.
type Window struct {
	Start int `json:"start"` // from 1
	Count int `json:"count"`
}

// GlideMode is how a lane's glides are written.
type GlideMode struct {
	Mode  string `json:"mode"`
	Range int    `json:"range"` // of the bend wheel, 1..24 semitones
}

// Sound is the built-in voice a lane is heard with. It is never part of a file.
type Sound struct {
	Voice     string `json:"voice"`
	Wave      string `json:"wave"`
	Level     int    `json:"level"`     // 0..100
	Cutoff    int    `json:"cutoff"`    // 0..100
	Resonance int    `json:"resonance"` // 0..100
	Envelope  int    `json:"envelope"`  // 0..100: how far the envelope opens the filter
	Decay     int    `json:"decay"`     // 0..100
	Drive     int    `json:"drive"`     // 0..100
	Delay     int    `json:"delay"`     // 0..100
}

// Step is one slot of a lane.
type Step struct {
	On       bool    `json:"on"`
	Degree   int     `json:"degree"`   // from 1
	Octave   int     `json:"octave"`   // relative to the lane's
	Alter    int     `json:"alter"`    // semitones
	Velocity int     `json:"velocity"` // 1..127
	Gate     int     `json:"gate"`     // % of the step
	Tie      bool    `json:"tie"`
	Glide    *Glide  `json:"glide"`
	Bend     []Point `json:"bend"`
	Chance   int     `json:"chance"` // % of rounds
	Rounds   *Rounds `json:"rounds"`
	Ratchet  int     `json:"ratchet"` // repeats in the step
	Nudge    int     `json:"nudge"`   // % of the step
	Skip     bool    `json:"skip"`
}

// Glide is a slide into a step's pitch.
type Glide struct {
	Time  int  `json:"time"`  // % of the step
	Curve int  `json:"curve"` // 0 linear, above starts slowly, below starts fast
	From  *int `json:"from"`  // semitones from the step's pitch; nil: the previous pitch
}

// Point is one point of a bend envelope.
type Point struct {
	At    int `json:"at"`    // % of the note's length
	By    int `json:"by"`    // semitones
	Curve int `json:"curve"` // of the way to this point
}

// Rounds lets a step play only in some of every Of rounds.
type Rounds struct {
	Of int   `json:"of"`
	On []int `json:"on"` // from 1
}
