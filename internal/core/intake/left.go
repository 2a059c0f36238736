package intake

// Left counts what a lane of notes leaves out.
type Left struct {
	Wheel     int `json:"wheel"`
	Controls  int `json:"controls"`
	Pressures int `json:"pressures"`
	Programs  int `json:"programs"`
}
