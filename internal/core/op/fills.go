package op

import "agrimony/internal/core/pitch"

// FillEvery switches on every n-th of the steps, from the first on, and the
// others off.
type FillEvery struct {
	OnSteps `tstype:",extends"`
	Every   int `json:"every"`
}

// FillEven spreads hits evenly over the steps, or over so many of them again and again, turned so many steps later.
type FillEven struct {
	OnSteps `tstype:",extends"`
	Hits    int `json:"hits"`
	Over    int `json:"over,omitempty"` // 0: over all of the steps
	Turn    int `json:"turn,omitempty"`
}

// FillFrom takes the rhythm of another lane: steps are on where it begins to
// sound, by the grid, or, with Rests, where it does not. With Loudness they are struck as
// hard as it is, with Lengths they last as long, where it begins to sound.
type FillFrom struct {
	OnSteps  `tstype:",extends"`
	From     string `json:"from"`
	Rests    bool   `json:"rests,omitempty"`
	Loudness bool   `json:"loudness,omitempty"`
	Lengths  bool   `json:"lengths,omitempty"`
}

// FillContour sets the pitches of the steps, one place for each; null leaves a
// step alone.
type FillContour struct {
	OnSteps `tstype:",extends"`
	Places  []*pitch.Place `json:"places" tstype:"(Place | null)[]"`
	// Ticks (960 a quarter) say where in the clip each place is meant, for a lane that
	// follows roots; absent: places are as the steps hold them.
	Ticks []int `json:"ticks,omitempty"`
}

// FillPattern gives the sounding ones among the steps tones in turn: "root",
// "third", "fifth", "seventh", "octave", "low fifth".
type FillPattern struct {
	OnSteps `tstype:",extends"`
	Tones   []string `json:"tones"`
}

// FillAccents accents so many of the hits among the steps, spread evenly and turned; with Most, all of them where there
// are fewer.
type FillAccents struct {
	OnSteps `tstype:",extends"`
	Hits    int  `json:"hits"`
	Most    bool `json:"most,omitempty"`
	Turn    int  `json:"turn,omitempty"`
}

// FillChance sets the chance of the steps; with Weak, of those off the meter's unit.
type FillChance struct {
	OnSteps `tstype:",extends"`
	Chance  int  `json:"chance"`
	Weak    bool `json:"weak,omitempty"`
}

// ThinOut takes a share of the hits away, the weaker ones of the bar first.
type ThinOut struct {
	OnSteps `tstype:",extends"`
	Share   int `json:"share,omitempty"` // percent, 1..100; 0: every second one
}

// DoubleHits puts a softer hit between each hit and the next, where there is room.
type DoubleHits struct {
	OnSteps `tstype:",extends"`
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
