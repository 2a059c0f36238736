package smf

import (
	"cmp"
	"errors"
	"slices"

	"agrimony/internal/core/piece"
)

// Groove makes a template of how all notes of a file are played: each belongs to the nearest
// sixteenth of its bar, by the file's own meters (4/4 before the first). The error says that
// there are no notes.
func Groove(file *File, name string) (*piece.Template, error) {
	var meters []Meter
	var notes []Note
	for i := range file.Tracks {
		meters, notes = append(meters, file.Tracks[i].Meters...), append(notes, file.Tracks[i].Notes...)
	}
	if len(notes) == 0 {
		return nil, errors.New("the MIDI file sounds no note; allowed: one that does")
	}
	slices.SortStableFunc(meters, func(a, b Meter) int { return cmp.Compare(a.At, b.At) })
	slices.SortStableFunc(notes, func(a, b Note) int { return cmp.Compare(a.At, b.At) })
	sixteenth := float64(file.PPQ) / 4
	played := make([]piece.Played, len(notes))
	meter := Meter{Count: 4, Unit: 4}
	for i, note := range notes {
		for len(meters) > 0 && meters[0].At <= note.At {
			meter, meters = meters[0], meters[1:]
		}
		bar := max(int64(4*file.PPQ*meter.Count/max(meter.Unit, 1)), 1)
		within := (note.At - meter.At) % bar
		place := int(float64(within)/sixteenth + 0.5)
		late := float64(within) - float64(place)*sixteenth
		if float64(place)*sixteenth >= float64(bar) { // early for the next bar
			place, late = 0, float64(within-bar)
		}
		played[i] = piece.Played{Place: place, Late: late / sixteenth * 100, Velocity: note.Velocity}
	}
	return piece.TemplateOf(name, played), nil
}
