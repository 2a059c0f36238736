// Package piece is the document: what a piece, its clips, lanes and steps hold,
// their defaults and ranges, and how a document is read, checked and written.
//
// Every field stands once, in tables: those of the piece and the clip in
// shapes.go, those that lanes share in lane.go and cell.go, and those of each
// kind of lane in the file named after it. Reading, writing, defaults, errors and
// the JSON Schema come from there.
package piece

import "math"

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
	Order  Running `json:"order"`
	// Quiet are the rules of the review that are quiet everywhere.
	Quiet []string `json:"quiet"`
}

// Key is a tonic and a scale, as the document writes them.
type Key struct {
	Tonic string `json:"tonic"`
	Scale Scale  `json:"scale" tstype:"string | string[]"`
}

// Groove is the feel of a piece.
type Groove struct {
	Swing    int       `json:"swing"` // 50..75 %
	Grid     string    `json:"grid"`
	Template *Template `json:"template" tstype:"string | Template | null,required"` // nil: none
	Timing   int       `json:"timing"`                                              // % of the template's
	Velocity int       `json:"velocity"`                                            // % of the template's
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
	Bars  int    `json:"bars"`                             // 1..1024, or 0 when Until says how long it is
	Until string `json:"until"`                            // "cycle", "realign", or "" when Bars is set
	Of    string `json:"of,omitempty"`                     // the clip that it is a variant of
	Draws string `json:"draws,omitempty"`                  // the id that its draws use; "": its own
	Seam  string `json:"seam"`                             // "loop": it starts as if the loop had come round
	Key   *Key   `json:"key" tstype:"Key | null,required"` // nil: the piece's
	// Harmony is where its chords come from; nil: its first chords lane.
	Harmony *Harmony `json:"harmony" tstype:"Harmony | null,required"`
	Lanes   []Lane   `json:"lanes" tstype:"Lane[]"`
}

// Common is what lanes of every kind hold.
type Common struct {
	ID        string  `json:"id"`
	Name      string  `json:"name"`
	Kind      string  `json:"-"`
	Rate      string  `json:"rate"` // the length of one step
	Direction string  `json:"direction"`
	Window    *Window `json:"window" tstype:"Window | null,required"` // nil: all steps
	Restart   int     `json:"restart"`                                // bars after which the pattern begins again; 0: never
	Channel   int     `json:"channel"`                                // 1..16, 0: given out by position
	Mute      bool    `json:"mute"`
	Solo      bool    `json:"solo"`
	Sound     Sound   `json:"sound"`
	Starter   string  `json:"starter"` // the name of the one that it was begun from; empty: none
	// Quiet are the rules of the review that are quiet for this lane.
	Quiet []string `json:"quiet"`
	Craft `tstype:",extends"`
}

// Window is the run of steps that plays.
type Window struct {
	Start int `json:"start"` // from 1
	Count int `json:"count"`
}

// Pitched is what lanes hold whose steps have degrees.
type Pitched struct {
	Octave int    `json:"octave"` // of the tonic at step octave 0; C4 is MIDI 60
	Lock   string `json:"lock"`
	Snap   string `json:"snap"`
	Follow string `json:"follow"`
	Roots  string `json:"roots"` // where roots that it follows lie: "up" from the tonic, or "near" it
}

// Cell is what a step of every stepped kind holds.
type Cell struct {
	On       bool    `json:"on"`
	Velocity int     `json:"velocity"` // 1..127
	Gate     int     `json:"gate"`     // % of the step
	Tie      bool    `json:"tie"`
	Chance   int     `json:"chance"` // % of rounds
	Rounds   *Rounds `json:"rounds" tstype:"Rounds | null,required"`
	Ratchet  int     `json:"ratchet"` // repeats in the step
	Nudge    int     `json:"nudge"`   // % of the step
	Skip     bool    `json:"skip"`
}

// Rounds lets a step play only in some of every Of rounds.
type Rounds struct {
	Of int   `json:"of"`
	On []int `json:"on"` // from 1
}

// GlideMode is how a lane's glides are written.
type GlideMode struct {
	Mode  string `json:"mode"`
	Range int    `json:"range"` // of the bend wheel, 1..24 semitones
}

// Glide is a slide into a step's pitch.
type Glide struct {
	Time  int  `json:"time"`                                 // % of the step
	Curve int  `json:"curve"`                                // 0 linear, above starts slowly, below starts fast
	From  *int `json:"from" tstype:"number | null,required"` // semitones from the step's pitch; nil: the previous pitch
}

// Point is one point of a bend envelope.
type Point struct {
	At    float64 `json:"at"`    // % of the note's length, to thousandths
	By    int     `json:"by"`    // semitones
	Curve int     `json:"curve"` // of the way to this point
}

// PointUnits is how many thousandths of a percent a note is long: the unit in which points of its bend stand.
const PointUnits = 100_000

// Units is where the point stands: 0 at the note's onset, PointUnits at its end.
func (p Point) Units() int64 { return int64(math.Round(p.At * (PointUnits / 100))) }

// PointAt is a place in a note, in PointUnits, as a point has it: in % of the note's length.
func PointAt(units int64) float64 { return float64(units) / (PointUnits / 100) }

// Running is the running order: which clips sound when.
type Running struct {
	Entries []Entry `json:"entries"`
}

// Entry is a clip that sounds for a time. Times are in 960ths of a quarter.
type Entry struct {
	Clip  string   `json:"clip"`
	At    int      `json:"at"`
	For   int      `json:"for"`
	From  int      `json:"from"`  // the place in the clip that it begins at
	Mute  []string `json:"mute"`  // lanes of the clip that do not sound
	Shift int      `json:"shift"` // by how many degrees pitched lanes are moved
	Run   string   `json:"run"`   // "loop": at its end the clip begins again; "on": its lanes run on
	Luck  string   `json:"luck"`  // "fresh": each pass draws anew; "same": as the first
	Pass  int      `json:"pass"`  // the number of its first pass, from 1
	Ring  bool     `json:"ring"`  // its last notes keep their length
}
