package midi

import "slices"

// The notes to which the General MIDI percussion map gives drums.
const (
	LowestDrum  = 35
	HighestDrum = 81
)

// Drum is a drum of the built-in kit at its usual MIDI note.
type Drum struct {
	Note int    `json:"note"`
	Name string `json:"name"`
}

// Drums are the drums of the built-in kit, by the General MIDI percussion map, in
// the order in which a kit is laid out. How each sounds stands in
// web/src/audio/drums.ts.
var Drums = []Drum{
	{49, "Cymbal"}, {46, "Open hat"}, {42, "Closed hat"}, {45, "Tom"}, {39, "Clap"}, {37, "Rim"}, {38, "Snare"}, {36, "Kick"}, {33, "Click"},
}

// Kit are the drums that a new kit begins with.
var Kit = []int{42, 38, 36}

// DrumOf finds the drum at a MIDI note.
func DrumOf(note int) (Drum, bool) {
	i := slices.IndexFunc(Drums, func(d Drum) bool { return d.Note == note })
	if i < 0 {
		return Drum{}, false
	}
	return Drums[i], true
}
