package order

import (
	"cmp"
	"fmt"
	"slices"

	"agrimony/internal/core/render"
)

// Events is a rendered order as it is published: positions and lengths in PPQ ticks from where it begins.
type Events struct {
	PPQ       int             `json:"ppq"`
	Ticks     int64           `json:"ticks"`
	Bars      string          `json:"bars"` // exact: "64" or "21/4"
	Notes     []NoteEvent     `json:"notes"`
	Bends     []BendEvent     `json:"bends"`
	Controls  []ControlEvent  `json:"controls"`
	Pressures []PressureEvent `json:"pressures,omitempty"`
	Harmony   []ChordEvent    `json:"harmony,omitempty"`
	Findings  []FindingEvent  `json:"findings"`
}

// Of is what an event is of: a clip, and the entry of it, from 1.
type Of struct {
	Clip  string `json:"clip"`
	Entry int    `json:"entry"`
}

// NoteEvent is one note of Events.
type NoteEvent struct {
	Of
	render.NoteEvent
	Pass int `json:"pass"`
}

// BendEvent is one setting of the wheel.
type BendEvent struct {
	Of
	render.BendEvent
}

// ControlEvent is one controller value.
type ControlEvent struct {
	Of
	render.ControlEvent
}

// PressureEvent is one value of a channel's pressure.
type PressureEvent struct {
	Of
	render.PressureEvent
}

// ChordEvent is a chord where it begins.
type ChordEvent struct {
	Of
	render.ChordEvent
}

// FindingEvent is one thing that the review found.
type FindingEvent struct {
	Clip  string `json:"clip,omitempty"`
	Entry int    `json:"entry,omitempty"`
	render.FindingReport
}

// Events publishes the performance, everything in order of time and then of tracks. It spends from the budget of the
// rendering, which may end it.
func (p *Performance) Events() Events {
	p.work.Spend(render.ToldWork * int64(len(p.Harmony)))
	for i := range p.Tracks {
		p.work.Spend(render.ToldWork * int64(len(p.Tracks[i].Part.Notes)))
	}
	ppq := p.PPQ
	out := Events{
		PPQ: ppq, Ticks: p.Length.Export(ppq), Bars: p.Bars().RatString(),
		Notes: []NoteEvent{}, Bends: []BendEvent{}, Controls: []ControlEvent{}, Findings: []FindingEvent{},
	}
	frame := p.Frame()
	for _, c := range p.Setup {
		t := p.zoneTrack(int(c.Channel))
		out.Controls = append(
			out.Controls,
			ControlEvent{
				Of{p.Piece.Clips[t.Clip].ID, int(t.sources[0].entry)},
				render.ControlEvent{Lane: t.Part.ID, Channel: int(c.Channel), Controller: int(c.Controller), Value: int(c.Value)},
			},
		)
	}
	for i := range p.Tracks {
		t := &p.Tracks[i]
		clip := p.Piece.Clips[t.Clip].ID
		for k := range t.Part.Notes {
			out.Notes = append(out.Notes, p.note(&frame, t, k))
		}
		for k, b := range t.Part.Bends {
			at := b.At.Export(ppq)
			if k+1 < len(t.Part.Bends) && t.Part.Bends[k+1].At.Export(ppq) == at && t.Part.Bends[k+1].Channel == b.Channel {
				continue // only the last of a tick counts
			}
			out.Bends = append(
				out.Bends,
				BendEvent{Of{clip, int(t.bends[k])}, render.BendEvent{Lane: t.Part.ID, Channel: t.Part.On(b.Channel), At: at, Value: int(b.Value)}},
			)
		}
		for k, c := range t.Part.Controls {
			out.Controls = append(
				out.Controls,
				ControlEvent{
					Of{clip, int(t.controls[k])},
					render.ControlEvent{Lane: t.Part.ID, Channel: t.Part.Channel, At: c.At.Export(ppq), Controller: int(c.Controller), Value: int(c.Value)},
				},
			)
		}
		for k, x := range t.Part.Pressures {
			out.Pressures = append(
				out.Pressures,
				PressureEvent{
					Of{clip, int(t.pressures[k])},
					render.PressureEvent{Lane: t.Part.ID, Channel: t.Part.Channel, At: x.At.Export(ppq), Value: int(x.Value)},
				},
			)
		}
	}
	for _, c := range p.Harmony {
		event := ChordEvent{
			Of{p.Piece.Clips[c.Clip].ID, c.Entry},
			render.ChordEvent{At: c.At.Export(ppq), Symbol: c.Symbol, Numeral: c.Numeral, Root: c.Root.String(), Pitches: []int{}},
		}
		for _, own := range c.Pitches {
			event.Pitches = append(event.Pitches, int(own))
		}
		out.Harmony = append(out.Harmony, event)
	}
	slices.SortStableFunc(out.Notes, func(a, b NoteEvent) int { return cmp.Compare(a.At, b.At) })
	slices.SortStableFunc(out.Bends, func(a, b BendEvent) int { return cmp.Compare(a.At, b.At) })
	slices.SortStableFunc(out.Controls, func(a, b ControlEvent) int { return cmp.Compare(a.At, b.At) })
	slices.SortStableFunc(out.Pressures, func(a, b PressureEvent) int { return cmp.Compare(a.At, b.At) })
	out.Add(p.Findings)
	return out
}

// Add publishes findings, too.
func (e *Events) Add(findings []Finding) {
	for _, f := range findings {
		e.Findings = append(e.Findings, FindingEvent{f.Clip, f.Entry, render.FindingReport{Rule: f.Rule, Lane: f.Lane, Step: f.Step, Message: f.Message}})
	}
}

// Frame is what the tracks share, as far as files and spans ask.
func (p *Performance) Frame() render.Frame {
	return render.Frame{Length: p.Length, Bar: p.Bar, PPQ: p.PPQ}
}

// note publishes a note of a track: as the clip alone tells of it, and what the order made of that.
func (p *Performance) note(frame *render.Frame, t *Track, k int) NoteEvent {
	s, note := &t.sources[k], &t.Part.Notes[k]
	pass := s.pass()
	played := pass.played
	part := &played.Lanes[s.part]
	own := &part.Notes[s.note]
	told := played.Told(part, own)
	at, length := frame.SpanOf(note)
	out := NoteEvent{Of{p.Piece.Clips[t.Clip].ID, int(s.entry)}, told, pass.number}
	add := func(rule, from, to string) {
		if from != to {
			out.Why = append(out.Why, render.Reason{Rule: rule, From: from, To: to})
		}
	}
	add("entry", fmt.Sprintf("tick %d", told.At), fmt.Sprintf("tick %d", at))
	add("left", fmt.Sprintf("%d ticks", told.Length), fmt.Sprintf("%d ticks", length))
	add("louder", fmt.Sprint(told.Velocity), fmt.Sprint(note.Velocity))
	out.At, out.Length, out.Velocity, out.Channel = at, length, int(note.Velocity), t.Part.On(note.Channel)
	return out
}
