package render

import (
	"cmp"
	"encoding/json"
	"math/big"
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/piece"
)

// Events is a performance as it is published: positions and lengths in PPQ
// ticks, steps and rounds from 1.
type Events struct {
	PPQ       int             `json:"ppq"`
	Ticks     int64           `json:"ticks"` // the clip's length
	Bars      json.Number     `json:"bars"`
	Notes     []NoteEvent     `json:"notes"`
	Bends     []BendEvent     `json:"bends"`
	Controls  []ControlEvent  `json:"controls"`
	Pressures []PressureEvent `json:"pressures,omitempty"` // only where some lane presses
	Harmony   []ChordEvent    `json:"harmony,omitempty"`   // only of a clip with chords
	Cycle     CycleReport     `json:"cycle"`
	Findings  []FindingReport `json:"findings"`
}

// NoteEvent is one note of Events.
type NoteEvent struct {
	Lane     string   `json:"lane"`
	Step     int      `json:"step"`
	Round    int      `json:"round"`
	At       int64    `json:"at"`
	Length   int64    `json:"length"`
	Pitch    int      `json:"pitch"`
	Name     string   `json:"name"`
	Velocity int      `json:"velocity"`
	Channel  int      `json:"channel"`
	Thread   *int     `json:"thread,omitempty"` // the MIDI pitch that it comes from, where it glides from a tone of the chord before
	Rung     *int     `json:"rung,omitempty"`   // of a walk, from 0
	Chord    string   `json:"chord,omitempty"`  // that was walked
	Why      []Reason `json:"why"`
}

// Walking is a kind of lane that walks the rungs of chords.
type Walking interface {
	// Walks tells whether a lane walks the harmony's tones.
	Walks(lane *piece.Lane) (harmony bool)
}

// BendEvent is one setting of the wheel, -8192..8191.
type BendEvent struct {
	Lane    string `json:"lane"`
	Channel int    `json:"channel"`
	At      int64  `json:"at"`
	Value   int    `json:"value"`
}

// ControlEvent is one controller value, 0..127.
type ControlEvent struct {
	Lane       string `json:"lane"`
	Channel    int    `json:"channel"`
	At         int64  `json:"at"`
	Controller int    `json:"controller"`
	Value      int    `json:"value"`
}

// PressureEvent is one value of a channel's pressure, 0..127.
type PressureEvent struct {
	Lane    string `json:"lane"`
	Channel int    `json:"channel"`
	At      int64  `json:"at"`
	Value   int    `json:"value"`
}

// ChordEvent is a chord where it begins, on the grid; the first is at 0.
type ChordEvent struct {
	At      int64  `json:"at"`
	Symbol  string `json:"symbol"`
	Numeral string `json:"numeral"`
	Root    string `json:"root"`
	Pitches []int  `json:"pitches"`
}

// CycleReport says when the lanes meet. RealignBars may be beyond 64 bits.
type CycleReport struct {
	Bars        string       `json:"bars"`                         // exact: "7" or "21/4"
	Ticks       *int64       `json:"ticks" tstype:"number | null"` // null beyond 2^53
	RealignBars *big.Int     `json:"realignBars"`
	Lanes       []LanePeriod `json:"lanes"`
}

// LanePeriod is how long one lane takes to repeat, in ticks.
type LanePeriod struct {
	Lane  string `json:"lane"`
	Ticks *int64 `json:"ticks"` // null beyond 2^53
}

// FindingReport is one thing that the review found.
type FindingReport struct {
	Rule    string `json:"rule"`
	Lane    string `json:"lane"`
	Step    int    `json:"step"` // from 1; 0: the whole lane or clip
	Message string `json:"message"`
}

// Numbered is what the step of a part's note is called, from 1: of free notes their number.
func (p *Performance) Numbered(part *Part, step int) int {
	return piece.Numbered(p.SourceOf(part), step)
}

// Report writes the cycle at a resolution.
func (c Cycle) Report(ppq int) CycleReport {
	out := CycleReport{Bars: c.Bars(), Ticks: beat.ExportBig(c.Full, ppq), RealignBars: c.RealignBars(), Lanes: []LanePeriod{}}
	for _, period := range c.Periods {
		out.Lanes = append(out.Lanes, LanePeriod{period.ID, beat.ExportBig(period.Time, ppq)})
	}
	return out
}

// ToldWork is how much work it is to tell of a note with its reasons, or of a chord, in units of package budget.
const ToldWork = 60

// Events publishes the performance at its resolution, everything in order of time
// and then of lanes.
func (p *Performance) Events() Events {
	ppq := p.PPQ
	bars, _ := p.BarsLong().Float64()
	barsText, _ := json.Marshal(bars)
	out := Events{
		PPQ: ppq, Ticks: p.Length.Export(ppq), Bars: json.Number(barsText), Cycle: p.Cycle().Report(ppq),
		Notes: []NoteEvent{}, Bends: []BendEvent{}, Controls: []ControlEvent{}, Findings: []FindingReport{},
	}
	for _, control := range p.Setup {
		out.Controls = append(out.Controls, ControlEvent{p.zoneLane(int(control.Channel)), int(control.Channel), 0, int(control.Controller), int(control.Value)})
	}
	for i := range p.Lanes {
		part := &p.Lanes[i]
		p.Written(part, ppq, func(note *Note, at, length int64) {
			event := p.Told(part, note)
			event.At, event.Length = at, length
			out.Notes = append(out.Notes, event)
		})
		for k, bend := range part.Bends {
			at := bend.At.Export(ppq)
			if k+1 < len(part.Bends) && part.Bends[k+1].At.Export(ppq) == at && part.Bends[k+1].Channel == bend.Channel {
				continue // only the last of a tick counts
			}
			out.Bends = append(out.Bends, BendEvent{part.ID, part.On(bend.Channel), at, int(bend.Value)})
		}
		for _, control := range part.Controls {
			out.Controls = append(out.Controls, ControlEvent{part.ID, part.On(control.Channel), control.At.Export(ppq), int(control.Controller), int(control.Value)})
		}
	}
	for i := range p.Lanes {
		part := &p.Lanes[i]
		for _, pressure := range part.Pressures {
			out.Pressures = append(out.Pressures, PressureEvent{part.ID, part.Channel, pressure.At.Export(ppq), int(pressure.Value)})
		}
	}
	slices.SortStableFunc(out.Pressures, func(a, b PressureEvent) int { return cmp.Compare(a.At, b.At) })
	if p.Harmony != nil {
		for _, b := range p.Harmony.Chords {
			event := ChordEvent{At: b.At.Export(ppq), Symbol: b.Symbol, Numeral: b.Numeral, Root: b.Root.String(), Pitches: []int{}}
			for _, own := range b.Pitches {
				event.Pitches = append(event.Pitches, int(own))
			}
			out.Harmony = append(out.Harmony, event)
		}
	}
	slices.SortStableFunc(out.Notes, func(a, b NoteEvent) int { return cmp.Compare(a.At, b.At) })
	slices.SortStableFunc(out.Bends, func(a, b BendEvent) int { return cmp.Compare(a.At, b.At) })
	slices.SortStableFunc(out.Controls, func(a, b ControlEvent) int { return cmp.Compare(a.At, b.At) })
	return out
}

// zoneLane is the id of the lane in whose zone a channel is.
func (p *Performance) zoneLane(channel int) string {
	for i := range p.Lanes {
		if z := p.Lanes[i].Zone; z != nil && z.Members > 0 && z.Has(channel) {
			return p.Lanes[i].ID
		}
	}
	return ""
}

// Told is a note of a part as it is published.
func (p *Performance) Told(part *Part, note *Note) NoteEvent {
	at, length := p.Span(note, p.PPQ)
	event := NoteEvent{
		Lane: part.ID, Step: p.Numbered(part, int(note.Step)), Round: int(note.Round), At: at, Length: length,
		Pitch: int(note.Pitch), Name: p.Name(note), Velocity: int(note.Velocity), Channel: part.On(note.Channel),
		Why: p.Why(part, note),
	}
	if from, ok := note.Thread(); ok {
		event.Thread = &from
	}
	if kind, ok := part.kind.(Walking); ok {
		if rung := int(note.trace.walked.Rung); rung >= 0 {
			event.Rung = &rung
		}
		if chord := p.ChordOf(part, note); chord != nil && kind.Walks(&p.Clip.Lanes[part.Lane]) {
			event.Chord = chord.Symbol
		}
	}
	return event
}
