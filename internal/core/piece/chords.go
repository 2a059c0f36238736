package piece

import (
	"slices"

	"agrimony/internal/core/document"
	"agrimony/internal/core/pitch"
)

// Limits of chords lanes.
const (
	MaxPalette = 32
	MaxTones   = 16
	MaxLabel   = 40 // characters of a chord\'s name
)

// The allowed words of chords lanes.
var (
	StrumWays    = []string{"up", "down", "turns"}
	VoicingModes = []string{"written", "smooth"}
	VoicingBass  = []string{"free", "keep"}
)

// Chords is the content of a chords lane: a palette of chords, and steps that choose
// from it.
type Chords struct {
	Pitched `tstype:",extends"`
	Voicing Voicing        `json:"voicing"`
	Glide   *GlideMode     `json:"glide" tstype:"GlideMode | null,required"` // nil: nothing glides
	Palette []PaletteChord `json:"palette"`
	Steps   []ChordStep    `json:"steps"`
}

// Voicing is how the chords of a lane lie.
type Voicing struct {
	Mode string `json:"mode"`
	Low  int    `json:"low"`  // MIDI
	High int    `json:"high"` // MIDI, at least an octave above
	Bass string `json:"bass"`
	// Clear lets smooth voices avoid what blurs, where that moves them by at most two semitones more.
	Clear bool `json:"clear"`
}

// PaletteChord is a chord of a palette.
type PaletteChord struct {
	Name  string        `json:"name"`                   // the user's own; empty: it is named by its tones
	Tones []pitch.Place `json:"tones" tstype:"Place[]"` // no two on one pitch
}

// ChordStep is one slot of a chords lane.
type ChordStep struct {
	Cell      `tstype:",extends"`
	Chord     int     `json:"chord"`                                // place in the palette, from 1
	Octave    int     `json:"octave"`                               // by which the whole chord is moved
	Inversion int     `json:"inversion"`                            // how many times the lowest tone goes up, below 0 the highest down
	Strum     *Strum  `json:"strum" tstype:"Strum | null,required"` // nil: all tones at once
	Glide     *Glide  `json:"glide" tstype:"Glide | null,required"`
	Bend      []Point `json:"bend"`
}

// Strum lets the tones of a chord begin one after another.
type Strum struct {
	Time int    `json:"time"` // % of the step, or of the repeat
	Way  string `json:"way"`
}

var strumShape = &document.Shape[Strum]{
	Doc: "Lets the tones begin one after another.",
	Fields: []document.Field[Strum]{
		document.Whole("time", 0, 100, 0, "From the first tone to the last, in % of the step.", func(s *Strum) *int { return &s.Time }).In("%"),
		document.Choice("way", StrumWays, "up", "From the lowest tone up, from the highest down, or in turns.", func(s *Strum) *string { return &s.Way }),
	},
}

var voicingShape = &document.Shape[Voicing]{
	Doc: "How the chords lie.",
	Fields: []document.Field[Voicing]{
		document.Choice("mode", VoicingModes, "written", "As written, or smooth: with the least movement.", func(v *Voicing) *string { return &v.Mode }).
			Titled("Voices"),
		document.Whole("low", 0, 127, 48, "The lowest MIDI pitch of smooth voices.", func(v *Voicing) *int { return &v.Low }).Titled("From"),
		document.Whole("high", 0, 127, 79, "The highest, at least an octave above.", func(v *Voicing) *int { return &v.High }).Titled("To"),
		document.Choice("bass", VoicingBass, "free", "Whether each chord's lowest tone stays its lowest.", func(v *Voicing) *string { return &v.Bass }),
		document.Flag("clear", "Whether smooth voices avoid adjacent semitones on top and clusters, where that moves them at most two semitones more.",
			func(v *Voicing) *bool { return &v.Clear }),
	},
	Check: func(at *document.At, v *Voicing) {
		if v.High-v.Low < 12 {
			at.Field("high").Refuse("%d is not an octave above %d; allowed: %d..127", v.High, v.Low, v.Low+12)
		}
	},
}

var paletteShape = &document.Shape[PaletteChord]{
	Doc: "A chord: its tones as places of the key.",
	Fields: []document.Field[PaletteChord]{
		document.Text("name", MaxLabel, "", "A name of one's own; absent: it is named by its tones.", func(c *PaletteChord) *string { return &c.Name }),
		document.List("tones", 1, MaxTones, "Its tones, no two on one pitch; absent: the key's first, third and fifth degree.", placeShape,
			func() []pitch.Place { return []pitch.Place{{Degree: 1}, {Degree: 3}, {Degree: 5}} }, func(c *PaletteChord) *[]pitch.Place { return &c.Tones }),
	},
}

var chordStep = &document.Shape[ChordStep]{
	Doc: "One slot of a chords lane.",
	Fields: stepFields(Cell{Velocity: 100, Gate: 100, Chance: 100, Ratchet: 1}, func(s *ChordStep) *Cell { return &s.Cell },
		[]document.Field[ChordStep]{
			document.Whole("chord", 1, MaxPalette, 1, "Its chord's place in the palette, from 1.", func(s *ChordStep) *int { return &s.Chord }),
			document.Whole("octave", -4, 4, 0, "Octaves by which the whole chord is moved.", func(s *ChordStep) *int { return &s.Octave }),
			document.Whole(
				"inversion",
				-8,
				8,
				0,
				"How many times the lowest tone goes up an octave, below 0 the highest down.",
				func(s *ChordStep) *int { return &s.Inversion },
			),
			document.Optional("strum", "Lets the tones begin one after another.", strumShape, func(s *ChordStep) **Strum { return &s.Strum }),
			document.Optional("glide", "Slides into its tones, where the lane's chords glide.", glideShape, func(s *ChordStep) **Glide { return &s.Glide }),
			document.List(
				"bend",
				0,
				MaxPoints,
				"A bend over its tones, where the lane's chords glide, in rising order of at.",
				pointShape,
				document.None[Point],
				func(s *ChordStep) *[]Point { return &s.Bend },
			),
		}),
	Check: func(at *document.At, s *ChordStep) { checkBend(at, s.Bend) },
}

var chordsKind = Define("chords", "Chords: a palette of them, and steps that choose from it.", "keys",
	func(c *Chords) *[]ChordStep { return &c.Steps }, chordStep,
	append(
		document.Lift(func(c *Chords) *Pitched { return &c.Pitched }, pitchedFields("off")...),
		document.Inner("voicing", "How the chords lie.", voicingShape, func(c *Chords) *Voicing { return &c.Voicing }),
		document.Optional(
			"glide",
			"Lets each tone glide from where it was in the chord before; absent: nothing glides.",
			manyGlideShape(MPE, []string{MPE}),
			func(c *Chords) **GlideMode { return &c.Glide },
		),
		document.List("palette", 1, MaxPalette, "The chords that steps choose from; absent: one.", paletteShape,
			func() []PaletteChord { return []PaletteChord{paletteShape.Fresh()} }, func(c *Chords) *[]PaletteChord { return &c.Palette }),
	)).
	moving(Moved{"inversion", -8, 8, -1, 2, nil}, Moved{"strum", 0, 100, 0, 30, nil}).
	beginning(func(content Content) { content.(*Chords).Voicing.Clear = true }).
	holding(func(func(string) bool, Content) {}, func(at *document.At, content Content) {
		c := content.(*Chords)
		for i := range c.Steps {
			if got := c.Steps[i].Chord; got > len(c.Palette) {
				at.Field("steps").Item(i).Field("chord").Refuse("%d is above %d; allowed: 1..%d, the palette's chords", got, len(c.Palette), len(c.Palette))
			}
		}
	}, nil)

func (c *Chords) gliding() *GlideMode { return c.Glide }

// StepList gives the steps to whatever works on steps of any kind.
func (c *Chords) StepList() Steps { return StepsOf(&c.Steps, chordStep) }

// Clone copies the lane's content, its palette and its steps.
func (c *Chords) Clone() Content {
	out := *c
	out.Steps = slices.Clone(c.Steps)
	out.Palette = slices.Clone(c.Palette)
	if c.Glide != nil {
		own := *c.Glide
		out.Glide = &own
	}
	for i := range out.Palette {
		out.Palette[i].Tones = slices.Clone(out.Palette[i].Tones)
	}
	return &out
}

// CheckKey refuses a degree that the key does not have, and two tones of a chord on one
// pitch.
func (c *Chords) CheckKey(at *document.At, key pitch.Key) {
	for i := range c.Palette {
		tones := at.Field("palette").Item(i).Field("tones")
		for k, tone := range c.Palette[i].Tones {
			checkDegree(tones.Item(k), key, tone.Degree)
			for j, other := range c.Palette[i].Tones[:k] {
				if key.Pitch(tone, c.Octave) == key.Pitch(other, c.Octave) {
					tones.Item(k).
						Refuse("is on one pitch with tone %d, %s; allowed: no two tones of a chord on one pitch", j+1, key.NameOf(tone).In(key.Pitch(tone, c.Octave)))
				}
			}
		}
	}
}

// Place is the step's chord in the palette.
func (c *Chords) Place(step *ChordStep) *PaletteChord { return &c.Palette[step.Chord-1] }

func (c *Chords) stepValue(field string, i int) (int, bool) {
	switch field {
	case "inversion":
		return c.Steps[i].Inversion, true
	case "strum":
		if strum := c.Steps[i].Strum; strum != nil {
			return strum.Time, true
		}
		return 0, true
	}
	return 0, false
}
