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
	sounds := false
	for i := range file.Tracks {
		meters, sounds = append(meters, file.Tracks[i].Meters...), sounds || len(file.Tracks[i].Notes) > 0
	}
	if file.PPQ == 0 {
		return nil, errors.New("the MIDI file is divided by time, not by beats; allowed: one with ticks of a quarter note")
	}
	if !sounds {
		return nil, errors.New("the MIDI file sounds no note; allowed: one that does")
	}
	slices.SortStableFunc(meters, func(a, b Meter) int { return cmp.Compare(a.At, b.At) })
	return piece.TemplateOf(name, func(yield func(piece.Played) bool) {
		for i := range file.Tracks {
			for k := range file.Tracks[i].Notes {
				if !yield(playedIn(meters, file.PPQ, &file.Tracks[i].Notes[k])) {
					return
				}
			}
		}
	}), nil
}

// playedIn is where in the bar a note is played.
func playedIn(meters []Meter, ppq int, note *Note) piece.Played {
	meter := Meter{Count: 4, Unit: 4}
	if n, _ := slices.BinarySearchFunc(meters, note.At+1, func(m Meter, at int64) int { return cmp.Compare(m.At, at) }); n > 0 {
		meter = meters[n-1]
	}
	sixteenth := float64(ppq) / 4
	bar := max(int64(4*ppq*meter.Count/max(meter.Unit, 1)), 1)
	within := (note.At - meter.At) % bar
	place := int(float64(within)/sixteenth + 0.5)
	late := float64(within) - float64(place)*sixteenth
	if float64(place)*sixteenth >= float64(bar) { // early for the next bar
		place, late = 0, float64(within-bar)
	}
	return piece.Played{Place: place, Late: late / sixteenth * 100, Velocity: int(note.Velocity)}
}
