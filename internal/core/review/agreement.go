package review

import (
	"agrimony/internal/core/beat"
	"agrimony/internal/core/render"
)

// Agreement is the share of a lane's notes, and of the time they sound, that are tones
// of the sounding chord, in %.
type Agreement struct {
	Notes int `json:"notes"`
	Time  int `json:"time"`
}

// AgreementOf works out how far a lane keeps to the chords; ok is false without chords
// or notes.
func AgreementOf(p *render.Performance, part *render.Part) (out Agreement, ok bool) {
	if p.Harmony == nil || len(part.Notes) == 0 {
		return out, false
	}
	notes := 0
	var within, all beat.Time
	for i := range part.Notes {
		note := &part.Notes[i]
		if p.ChordOf(part, note).Has(int(note.Pitch)) {
			notes++
		}
		for at := note.At; at < note.End; {
			chord, until := p.Harmony.From(at)
			until = min(until, note.End)
			all += until - at
			if chord.Has(int(note.Pitch)) {
				within += until - at
			}
			at = until
		}
	}
	if all == 0 {
		return out, false
	}
	return Agreement{(100*notes + len(part.Notes)/2) / len(part.Notes), int((100*within + all/2) / all)}, true
}

// Outside lists the notes of a melodic part, by their index, that are no tones of the
// chord where they stand; nil for parts that are not melodic, or without chords.
func Outside(p *render.Performance, part *render.Part) []int {
	if _, ok := p.Clip.Lanes[part.Lane].Content.(melodic); !ok || p.Harmony == nil {
		return nil
	}
	out := []int{}
	for i := range part.Notes {
		if !p.ChordOf(part, &part.Notes[i]).Has(int(part.Notes[i].Pitch)) {
			out = append(out, i)
		}
	}
	return out
}
