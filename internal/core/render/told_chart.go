package render

// Chart is how the chords of a lane stand in time, and its palette.
type Chart struct {
	Marks   []ChordMark `json:"marks"`
	Palette []Entry     `json:"palette"`
	// Movement is how far the voices move in a round of the lane, the way back included,
	// and Written how far they would as written, in semitones.
	Movement int    `json:"movement"`
	Written  int    `json:"written"`
	Text     string `json:"text"` // the chords of a round as they are written
}

// ChordMark is a chord where it begins.
type ChordMark struct {
	At      int64    `json:"at"`
	Until   int64    `json:"until"` // to where its steps hold it
	Step    int      `json:"step"`  // from 0
	Held    int      `json:"held"`  // through so many steps
	Symbol  string   `json:"symbol"`
	Numeral string   `json:"numeral"`
	Name    string   `json:"name"`
	Pitches []int    `json:"pitches"`
	Against []string `json:"against"`                 // what each is above the root: "1", "♭3"
	Threads [][2]int `json:"threads" tstype:"Pair[]"` // pitches of its voices, and where each goes in the next chord
}

// Entry is a chord of a palette as it is told of: names with real signs.
type Entry struct {
	Name    string   `json:"name"` // of one's own; empty: none
	Symbol  string   `json:"symbol"`
	Numeral string   `json:"numeral"`
	Tones   []string `json:"tones"` // from the lowest as written
	Steps   []int    `json:"steps"` // those that are on with it, from 1
	Open    bool     `json:"open"`  // some tone lies more than an octave above the lowest
	Why     string   `json:"why"`   // why it is called so
}
