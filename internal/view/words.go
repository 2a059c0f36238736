package view

import (
	"math"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/chord"
	"agrimony/internal/core/edit"
	"agrimony/internal/core/midi"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// Vocabulary is what choosers offer beside the choices of the document's fields.
type Vocabulary struct {
	Tonics      []TonicChoice      `json:"tonics"`
	Scales      []ScaleChoice      `json:"scales"`
	Patterns    []Pattern          `json:"patterns"`
	Drums       []midi.Drum        `json:"drums"`       // of the built-in kit, as a kit is laid out
	DrumChannel int                `json:"drumChannel"` // the MIDI channel of drums
	Kit         []int              `json:"kit"`         // the notes that a new kit begins with
	PPQs        []int              `json:"ppqs"`
	Portamento  []float64          `json:"portamento"` // how many seconds each value of controller 5 is
	Echoes      map[string]float64 `json:"echoes"`     // how many quarters each rate of an echo is
	MaxBars     int                `json:"maxBars"`
	Stacks      []string           `json:"stacks"`  // the chords that a degree is given by name
	Remarks     []piece.Remark     `json:"remarks"` // what the review can be quiet about
	Bass        BassChoices        `json:"bass"`
	Templates   []string           `json:"templates"` // the built-in groove templates
	Octaves     []OctaveName       `json:"octaves"`   // where octaves begin
	Everys      []string           `json:"everys"`    // periods of modulators worth a choice
	Snaps       []Snap             `json:"snaps"`     // grids for free notes
}

// Snap is a grid that free notes are put on: a rate, with its length in ticks.
type Snap struct {
	Rate  string `json:"rate"`
	Ticks int    `json:"ticks"`
}

// snapRates are the rates that are worth a choice.
var snapRates = []string{"1/4", "1/8", "1/8T", "1/16", "1/16T", "1/32", "1/32T", "1/64"}

func snaps() (out []Snap) {
	for _, rate := range snapRates {
		length, err := beat.Rate(rate, beat.Meter{Count: 4, Unit: 4})
		if err != nil {
			panic(err) // they are rates
		}
		out = append(out, Snap{rate, int(length.Export(PPQ))})
	}
	return out
}

// echoes tells of each rate of an echo how many quarters it is.
func echoes() map[string]float64 {
	out := make(map[string]float64, len(piece.DelayRates))
	for _, rate := range piece.DelayRates {
		length, err := beat.Rate(rate, beat.Meter{Count: 4, Unit: 4})
		if err != nil {
			panic(err) // they are rates
		}
		out[rate] = float64(length) / float64(beat.Quarter)
	}
	return out
}

// OctaveName is the MIDI pitch that begins an octave, and its name.
type OctaveName struct {
	Pitch int    `json:"pitch"`
	Name  string `json:"name"`
}

// BassChoices are the words that a bass is made by.
type BassChoices struct {
	Notes      []string `json:"notes"`
	Rhythms    []string `json:"rhythms"`
	Approaches []string `json:"approaches"`
}

// TonicChoice is a tonic as documents write it, and its name with real signs.
type TonicChoice struct {
	Tonic string `json:"tonic"`
	Name  string `json:"name"`
}

// ScaleChoice is a named scale with its degrees.
type ScaleChoice struct {
	Name    string `json:"name"`
	Degrees string `json:"degrees"` // with real signs
}

// Pattern is a pitch pattern: tones in turn.
type Pattern struct {
	Tones []string `json:"tones"`
}

// Words gives the vocabulary.
func Words() Vocabulary {
	out := Vocabulary{Drums: midi.Drums, Kit: midi.Kit, DrumChannel: midi.DrumChannel, PPQs: beat.Resolutions, MaxBars: beat.MaxBars, Remarks: piece.Remarks,
		Bass: BassChoices{edit.BassNotes, edit.BassRhythms, edit.BassApproaches}}
	for _, kind := range chord.Stacks {
		out.Stacks = append(out.Stacks, kind.Name)
	}
	for _, tonic := range []string{"C", "C#", "Db", "D", "D#", "Eb", "E", "F", "F#", "Gb", "G", "G#", "Ab", "A", "A#", "Bb", "B", "Cb"} {
		out.Tonics = append(out.Tonics, TonicChoice{tonic, pitch.Pretty(tonic)})
	}
	for _, own := range piece.Templates {
		out.Templates = append(out.Templates, own.Name)
	}
	out.Snaps = snaps()
	out.Everys = append(out.Everys, "1/16", "1/8T", "1/8", "1/4T", "1/4", "1/4D", "1/2", "1bar", "2bar", "3bar", "4bar", "8bar", "16bar")
	plain, err := pitch.ParseKey("C major")
	if err != nil {
		panic(err) // there is such a key
	}
	for p := 12; p <= 108; p += 12 {
		out.Octaves = append(out.Octaves, OctaveName{p, plain.Named(p)})
	}
	out.Echoes = echoes()
	for value := range 128 {
		out.Portamento = append(out.Portamento, math.Round(render.PortamentoSeconds(uint8(value))*10_000)/10_000)
	}
	for _, tones := range edit.Patterns {
		out.Patterns = append(out.Patterns, Pattern{tones})
	}
	for _, scale := range pitch.Scales {
		degrees := ""
		for i, text := range scale.Texts() {
			if i > 0 {
				degrees += " "
			}
			degrees += pitch.Pretty(text)
		}
		out.Scales = append(out.Scales, ScaleChoice{scale.Name, degrees})
	}
	return out
}
