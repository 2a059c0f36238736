package view

import (
	"agrimony/internal/core/beat"
	"agrimony/internal/core/edit"
	"agrimony/internal/core/pitch"
)

// Vocabulary is what choosers offer beside the choices of the document's fields.
type Vocabulary struct {
	Tonics   []string      `json:"tonics"` // as documents write them
	Scales   []ScaleChoice `json:"scales"`
	Patterns []Pattern     `json:"patterns"`
	PPQs     []int         `json:"ppqs"`
	MaxBars  int           `json:"maxBars"`
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
	out := Vocabulary{
		Tonics: []string{"C", "C#", "Db", "D", "D#", "Eb", "E", "F", "F#", "Gb", "G", "G#", "Ab", "A", "A#", "Bb", "B", "Cb"},
		PPQs:   beat.Resolutions, MaxBars: beat.MaxBars,
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
