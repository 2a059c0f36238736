package pitch

// Place is a note as a step stores it: a degree of the key (1-based), an octave
// relative to the lane's, and an alteration in semitones.
type Place struct {
	Degree int `json:"degree"`
	Octave int `json:"octave"`
	Alter  int `json:"alter"`
}
