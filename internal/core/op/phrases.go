package op

// PrintPhrase writes a phrase out as line lanes that sound the same for so many bars, one
// for each note at a time, and mutes it.
type PrintPhrase struct {
	OnLane `tstype:",extends"`
	Bars   int `json:"bars"`
}

// FillShare switches on the first so many of every few steps: two of three, three of four.
type FillShare struct {
	OnSteps `tstype:",extends"`
	Take    int `json:"take"`
	Of      int `json:"of"`
}

// FillPlays gives steps of a phrase a shape: "climb" on and back again, "stab" a chord on
// the first, "leap" an octave up on every fourth.
type FillPlays struct {
	OnSteps `tstype:",extends"`
	Shape   string `json:"shape"`
}

// EnterNotes writes what was played into a step: MIDI pitches, none for a rest, mapped to
// the key as the lane's lock says. With Tie the step holds the one before. Velocity is 1..127;
// 0 keeps the step's own.
type EnterNotes struct {
	OnLane   `tstype:",extends"`
	Step     int   `json:"step"`
	Pitches  []int `json:"pitches"`
	Tie      bool  `json:"tie,omitempty"`
	Velocity int   `json:"velocity,omitempty"`
}
