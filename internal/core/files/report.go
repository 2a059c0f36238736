package files

import (
	"fmt"
	"slices"

	"agrimony/internal/core/budget"
	"agrimony/internal/core/intake"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// Report is what is in a file.
type Report struct {
	Type         int           `json:"type"`
	PPQ          *int          `json:"ppq" tstype:"number | null"` // null: divided by time
	Tempo        float64       `json:"tempo"`
	TempoChanges int           `json:"tempoChanges"`
	Meter        string        `json:"meter"`
	MeterChanges int           `json:"meterChanges"`
	Bars         int           `json:"bars"`
	Keys         []KeyReport   `json:"keys"`
	Tracks       []TrackReport `json:"tracks"`
	Own          bool          `json:"own"`     // it holds a document of ours that can be read
	Changed      int           `json:"changed"` // notes that this does not make
	Why          string        `json:"why,omitempty"`
	Remarks      []string      `json:"remarks,omitempty"`
}

// KeyReport is a key with the share of the time that it holds, 0..1.
type KeyReport struct {
	Key   string  `json:"key"`
	Share float64 `json:"share"`
}

// TrackReport is what one track sends to one channel.
type TrackReport struct {
	Track    int            `json:"track"` // from 1
	Name     string         `json:"name"`
	Channels []int          `json:"channels"`
	Notes    int            `json:"notes"`
	Low      int            `json:"low"`  // MIDI
	High     int            `json:"high"` // MIDI
	Voices   int            `json:"voices"`
	Grid     *intake.Grid   `json:"grid" tstype:"Grid | null"`
	Becomes  string         `json:"becomes"`
	Left     intake.Left    `json:"left"`
	Differs  intake.Differs `json:"differs"`
	Why      string         `json:"why,omitempty"` // it does not fit what was asked for
}

// Report tells what is in the file, and what the chosen parts become. as is what all are asked to
// become; where one does not fit, Why says so.
func (f *File) Report(o Options, as string) (out *Report, err error) {
	defer budget.Catch(&err)
	out = &Report{Own: f.Own != nil, Why: f.Why, Keys: []KeyReport{}, Tracks: []TrackReport{}}
	if f.Own != nil {
		changed, err := f.Changed()
		if err != nil {
			return nil, err
		}
		out.Changed = changed
	}
	if f.Song == nil {
		out.Tempo, out.Meter = f.Own.Piece.Tempo, f.Own.Piece.Meter
		return out, nil
	}
	s := f.Song
	out.Type, out.Tempo, out.TempoChanges, out.Meter, out.MeterChanges = s.File.Type, s.Tempo, s.TempoChanges, s.Meter.String(), s.MeterChanges
	out.Remarks = s.Remarks
	if s.File.PPQ > 0 {
		out.PPQ = &s.File.PPQ
	}
	choices, err := f.chosen(&o)
	if err != nil {
		return nil, err
	}
	lists := make([][]intake.Note, len(choices))
	for i, c := range choices {
		lists[i] = f.notesOf(c)
	}
	out.Bars = s.Bars(lists...)
	fits := f.Keys(choices)
	for _, fit := range fits {
		out.Keys = append(out.Keys, KeyReport{fit.Key.String(), fit.Share})
	}
	taken := &Taken{Bars: out.Bars, Key: fits[0].Key}
	if o.Key != nil {
		taken.Key = *o.Key
	}
	if o.Told > 0 && len(choices) > o.Told {
		out.Remarks = append(slices.Clone(out.Remarks), fmt.Sprintf("of %d tracks with notes the first %d are listed", len(choices), o.Told))
		choices = choices[:o.Told]
	}
	out.Tracks = make([]TrackReport, len(choices))
	render.AtOnce(len(choices), func(i int) {
		f.work.Spend(trackWork + noteWork*int64(len(lists[i])))
		out.Tracks[i] = f.trackReport(taken, choices[i], lists[i], i < mostTried)
	})
	return out, nil
}

func (f *File) trackReport(t *Taken, c Choice, notes []intake.Note, try bool) TrackReport {
	part := &f.Song.Parts[c.Part]
	out := TrackReport{
		Track: c.Part + 1, Name: part.Name, Channels: []int{part.Channel}, Notes: len(notes), Low: 127, Voices: intake.Voices(notes),
		Grid: intake.GridOf(notes, f.Song.Meter), Left: part.Left(), Becomes: c.As,
	}
	for i := range notes {
		out.Low, out.High = min(out.Low, notes[i].Pitch), max(out.High, notes[i].Pitch)
	}
	if len(notes) > piece.MaxNotes {
		out.Becomes, out.Why = lane.Always, fmt.Sprintf("%d notes; allowed: at most %d in a lane", len(notes), piece.MaxNotes)
		return out
	}
	if !try {
		out.Becomes, out.Why = lane.Always, fmt.Sprintf("not tried as another lane, as it comes after the first %d tracks with notes", mostTried)
		return out
	}
	became, err := lane.Become(c.As, f.source(t, part, notes), f.Song.PieceTempo())
	if err != nil {
		out.Why = err.Error()
		out.Becomes = lane.Always
		return out
	}
	out.Becomes, out.Differs = became.As, became.Differs
	return out
}

// LeftOut says in words what of each part no lane holds.
func (t *Taken) LeftOut() (out []string) {
	for _, p := range t.Parts {
		for _, left := range []struct {
			count int
			what  string
		}{{p.Left.Wheel, "wheel position"}, {p.Left.Controls, "controller value"}, {p.Left.Pressures, "pressure"}, {p.Left.Programs, "program change"}} {
			if left.count > 0 {
				out = append(out, fmt.Sprintf("track %d: %s left out", p.Part+1, render.Many(left.count, left.what)))
			}
		}
		if d := p.Differs; d.Notes > 0 {
			out = append(out, fmt.Sprintf("track %d: %d of %s differ, by up to %g ms", p.Part+1, d.Notes, render.Many(d.Of, "note"), d.MS))
		}
	}
	return out
}
