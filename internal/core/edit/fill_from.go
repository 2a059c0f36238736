package edit

import (
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// struck is how another lane's note begins and how long it sounds, by the grid.
type struck struct {
	velocity int
	length   beat.Time
}

// fillFrom takes the other lane's onsets of this lane's first round, each onto the
// step within whose time it falls, or the steps where none falls. Of several within
// one step the first tells how hard and how long.
func fillFrom(t target, o op.FillFrom) error {
	at := slices.IndexFunc(t.Clip.Lanes, func(l piece.Lane) bool { return l.ID == o.From })
	if at < 0 {
		return t.Wrong("from", "no lane %q in clip %q", o.From, t.Clip.ID)
	}
	other := &t.Clip.Lanes[at]
	if o.From == t.Lane.ID || other.Content.StepList() == nil && piece.FreeOf(other) == nil {
		return t.Wrong("from", "%q has no rhythm to take; allowed: another lane with steps or notes", o.From)
	}
	if o.Rests && (o.Loudness || o.Lengths) {
		return t.Wrong("rests", "rests have no loudness or length to take; allowed: loudness and lengths of its notes")
	}
	own := render.PatternOf(t.Piece, t.Clip, t.Lane)
	slots := own.Slots(own.RoundLength())
	on := map[int]struck{}
	t.onsets(other, own.RoundLength(), func(at beat.Time, s struck) {
		step := int(slots[at/own.Step].Step)
		if _, there := on[step]; !there {
			on[step] = s
		}
	})
	runs := t.spanning()
	t.hits(runs, func(i int) bool {
		_, struck := on[t.Steps[i]]
		return struck != o.Rests
	})
	for _, n := range t.Steps {
		s, there := on[n]
		cell := t.StepList().Cell(n)
		if there && o.Loudness {
			cell.Velocity = s.velocity
		}
		if there && o.Lengths {
			cell.Gate = int(min(max(s.length*100/own.Step, 1), maxGate))
		}
	}
	return nil
}

// onsets tells the notes of a lane that begin within a length, in order, by the grid. Steps that a tie
// runs through lengthen the note before them.
func (t target) onsets(l *piece.Lane, length beat.Time, each func(at beat.Time, s struck)) {
	pattern := render.PatternOf(t.Piece, t.Clip, l)
	free := piece.FreeOf(l)
	var at beat.Time
	var open *struck // the note that may go on still
	tied := false
	flush := func() {
		if open != nil {
			each(at, *open)
		}
		open = nil
	}
	pattern.Each(length, func(s render.Slot) bool {
		t.Budget.Spend(1)
		sounding := pattern.Step * beat.Time(s.Gate) / 100
		if free != nil {
			_, sounding = free.Span(int(s.Step))
		}
		switch {
		case s.Sounds:
			flush()
			at, open = s.At, &struck{int(s.Velocity), sounding}
		case open != nil && tied:
			open.length = s.At - at + sounding
		}
		tied = s.Tie && (s.Sounds || tied)
		return true
	})
	flush()
}
