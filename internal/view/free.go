package view

import (
	"agrimony/internal/core/beat"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// Free is how a lane stands whose notes are on an axis of their own.
type Free struct {
	Start  int64   `json:"start"`  // where on the axis its loop begins
	Length int64   `json:"length"` // how long that is
	Rows   []int   `json:"rows"`   // the MIDI pitch of each note, as it is written
	Seams  []int64 `json:"seams"`  // where in the clip its rounds begin
	Joined []int   `json:"joined"` // notes, by place, into which the one before runs on in the first round: they begin nothing
}

func freeOf(performance *render.Performance, own *piece.Lane, free piece.Free) *Free {
	pattern := performance.Pattern(own)
	start, length := pattern.Loop()
	out := &Free{Start: start.Export(PPQ), Length: length.Export(PPQ), Rows: []int{}, Seams: []int64{}, Joined: []int{}}
	over := func(int) *render.Chord { return nil }
	if render.Listens(own) && performance.Harmony != nil {
		over = func(note int) *render.Chord {
			at, _ := free.Span(note)
			return performance.Harmony.At(max(at-start, 0))
		}
	}
	out.Rows = append(out.Rows, lane.RowsOf(own, performance.Key, over)...)
	restart := beat.Time(own.Restart) * performance.Bar
	for begin := beat.Time(0); begin < performance.Length && len(out.Seams) < maxSeams; {
		end := performance.Length
		if restart > 0 {
			end = min(end, begin+restart)
		}
		for at := begin; at < end && len(out.Seams) < maxSeams; at += length {
			out.Seams = append(out.Seams, at.Export(PPQ))
		}
		begin = end
	}
	return out
}

// joined finds the notes of the first round that sound on in the one before, which is tied to them.
func (f *Free) joined(pattern *render.Pattern, part *render.Part) {
	if part == nil {
		return
	}
	begins := map[int32]bool{}
	for i := range part.Notes {
		if part.Notes[i].Round > 1 {
			break
		}
		begins[part.Notes[i].Step-1] = true
	}
	tied, at := false, beat.Time(-1)
	pattern.Each(pattern.RoundLength(), func(s render.Slot) bool {
		if s.Round > 0 {
			return false
		}
		if !s.Sounds {
			return true
		}
		if tied && s.At > at && !begins[s.Step] {
			f.Joined = append(f.Joined, int(s.Step))
		}
		tied, at = s.Tie, s.At
		return true
	})
}

// maxSeams bounds how many seams are told of.
const maxSeams = 4096

// lengthOf is a length in bars, or else in beats or ticks.
func lengthOf(performance *render.Performance, ticks int64) string {
	bar := performance.Bar.Export(PPQ)
	switch {
	case ticks%bar == 0:
		return render.Many(int(ticks/bar), "bar")
	case ticks%PPQ == 0:
		return render.Many(int(ticks/PPQ), "quarter")
	}
	return render.Many(int(ticks), "tick")
}
