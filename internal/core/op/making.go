package op

// MakeBass makes a line lane of the clip's harmony.
type MakeBass struct {
	OnClip `tstype:",extends"`
	Name   string `json:"name,omitempty"`
	Of     string `json:"of"`     // "root" or "lowest"
	Octave int    `json:"octave"` // of the key's tonic
	Rate   string `json:"rate"`   // the length of a step
	Rhythm string `json:"rhythm"` // "held", "every", "even" or "lane"
	Every  int    `json:"every,omitempty"`
	Hits   int    `json:"hits,omitempty"` // of an even spread, under each chord
	From   string `json:"from,omitempty"` // the lane whose rhythm is taken
	// Approach is the note before the next root: "none", "below", "above", "fifth".
	Approach string `json:"approach"`
	Follow   bool   `json:"follow"` // the roots, wherever they go; otherwise fixed notes
}

// PrintPhrase writes a phrase out as line lanes that sound the same for so many bars, one
// for each note at a time, and mutes it.
type PrintPhrase struct {
	OnLane `tstype:",extends"`
	Bars   int `json:"bars"`
}
