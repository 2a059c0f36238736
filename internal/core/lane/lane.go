// Package lane lists the kinds of lanes: what each does, behind the interfaces of
// those who ask. What a kind holds is in package piece, in the file named after
// it; how it looks is in web/src/lanes, in the folder named after it.
package lane

import (
	"fmt"
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/budget"
	"agrimony/internal/core/lane/chords"
	"agrimony/internal/core/lane/control"
	"agrimony/internal/core/lane/layer"
	"agrimony/internal/core/lane/line"
	"agrimony/internal/core/lane/notes"
	"agrimony/internal/core/lane/phrase"
	"agrimony/internal/core/lane/pulse"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// Kind is what every kind of lane does. What only some do (moving steps in
// pitch, say) is asked for by those who need it, in interfaces of their own.
type Kind interface {
	render.Kind
	// Sounds are what the steps sound, each over the chord (or nil) that over tells.
	Sounds(lane *piece.Lane, key pitch.Key, over func(step int) *render.Chord) []render.Sound
	// Ladder is the rows on which a lane's notes are placed, from low to high, and as far
	// as the pitches that sound reach.
	Ladder(lane *piece.Lane, key pitch.Key, sounding []int) []pitch.Rung
	// Rekey brings a lane into another key, keeping degrees or pitches.
	Rekey(lane *piece.Lane, from, to pitch.Key, keepDegrees bool)
}

// Kinds are all kinds. To add one, add a row.
var Kinds = map[string]Kind{
	"line":    line.Kind{},
	"chords":  chords.Kind{},
	"phrase":  phrase.Kind{},
	"pulse":   pulse.Kind{},
	"control": control.Kind{},
	"layer":   layer.Kind{},
	"notes":   notes.Kind{},
}

// mover is a kind with fields of its own that modulators move.
type mover interface {
	// Moves are those that its playing asks for.
	Moves() []render.Field
}

// A field that a document may name and no playing asks for would do nothing, and nobody would
// know: such a program does not begin.
func init() {
	for name, kind := range Kinds {
		var plays []render.Field
		if own, ok := kind.(mover); ok {
			plays = own.Moves()
		}
		if err := stages(name, piece.Moves(name), plays); err != nil {
			panic(err)
		}
	}
}

// stages refuses fields that modulators may move in lanes of a kind and that neither all
// lanes' playing asks for nor the kind's.
func stages(kind string, moves []piece.Moved, plays []render.Field) error {
	for _, moved := range moves {
		if field, known := render.FieldNamed(moved.Name); !known || !field.Shared() && !slices.Contains(plays, field) {
			return fmt.Errorf("modulators may move %q in %s lanes, and nothing plays it", moved.Name, kind)
		}
	}
	return nil
}

// Of is what a lane's kind does.
func Of(l *piece.Lane) Kind { return Kinds[l.Kind] }

// KindOf is what the lanes of a kind do, by its name.
func KindOf(kind string) render.Kind { return Kinds[kind] }

// Render renders a clip of a checked piece; see render.Clip.
func Render(p *piece.Piece, clip *piece.Clip, options render.Options) (*render.Performance, error) {
	return render.Clip(p, clip, options, KindOf)
}

// Cycle works out when the clip's unmuted lanes meet.
func Cycle(p *piece.Piece, clip *piece.Clip) render.Cycle {
	return CycleWithin(p, clip, render.PeriodWork())
}

// CycleWithin is the same within so much work; see render.CycleOf.
func CycleWithin(p *piece.Piece, clip *piece.Clip, work *budget.Budget) render.Cycle {
	return render.CycleOf(p, clip, work, KindOf)
}

// played is a kind whose steps say what they sound only as they are played in turn.
type played interface {
	// SoundsPlayed are what the steps sound where the input's slots come to them first.
	SoundsPlayed(in *render.Input) []render.Sound
}

// clockedBars is how many bars are played to see which steps another lane's onsets take.
const clockedBars = 8

// Sounds are what a lane's steps sound, each where it stands first in the clip.
func Sounds(p *piece.Piece, clip *piece.Clip, l *piece.Lane) []render.Sound {
	return SoundsWithin(p, clip, l, nil)
}

// SoundsWithin are the same within a budget.
func SoundsWithin(p *piece.Piece, clip *piece.Clip, l *piece.Lane, work *budget.Budget) []render.Sound {
	h := harmonyFor(p, clip, l, work)
	leaning, ok := l.Content.(piece.Leaning)
	if _, walks := Of(l).(played); !walks || !ok || len(leaning.Needs()) == 0 {
		return SoundsOver(p, clip, l, h, nil)
	}
	performance, err := Render(p, clip, render.Options{Bars: clockedBars, Lanes: []string{l.ID}, Budget: work})
	if err != nil { // too much of it: its steps go unnamed
		return SoundsOver(p, clip, l, h, &render.Clock{})
	}
	return SoundsOver(p, clip, l, performance.Harmony, performance.Lanes[0].Clock)
}

// SoundsOver are the same over a harmony that is known already; clock is how another lane
// clocks it, nil where none does.
func SoundsOver(p *piece.Piece, clip *piece.Clip, l *piece.Lane, h *render.Harmony, clock *render.Clock) []render.Sound {
	if l.Content.StepList() == nil {
		return nil
	}
	if kind, ok := Of(l).(played); ok {
		return kind.SoundsPlayed(render.FirstRound(p, clip, l, h, clock, KindOf))
	}
	over := func(int) *render.Chord { return nil }
	if h != nil && render.Listens(l) {
		pattern := render.PatternOf(p, clip, l)
		first := map[int]*render.Chord{}
		for _, s := range pattern.Slots(pattern.RoundLength()) {
			if _, seen := first[int(s.Step)]; !seen {
				first[int(s.Step)] = h.At(s.At)
			}
		}
		over = func(step int) *render.Chord { return first[step] }
	}
	return Of(l).Sounds(l, p.KeyOf(clip), over)
}

// rowed is a kind of lane whose notes stand on rows one by one.
type rowed interface {
	Rows(lane *piece.Lane, key pitch.Key, over func(note int) *render.Chord) []int
}

// RowsOf are the MIDI pitches of a lane's free notes as they are written, each over a chord.
func RowsOf(l *piece.Lane, key pitch.Key, over func(note int) *render.Chord) []int {
	if kind, ok := Of(l).(rowed); ok {
		return kind.Rows(l, key, over)
	}
	return nil
}

// harmonyFor is what a lane listens to in its first round; nil where it does not.
func harmonyFor(p *piece.Piece, clip *piece.Clip, l *piece.Lane, work *budget.Budget) *render.Harmony {
	if !render.Listens(l) || l.Content.StepList() == nil {
		return nil
	}
	return Harmony(p, clip, render.PatternOf(p, clip, l).RoundLength(), work)
}

// Harmony works out what a clip listens to up to a length, within a budget; nil without chords.
func Harmony(p *piece.Piece, clip *piece.Clip, length beat.Time, work *budget.Budget) *render.Harmony {
	return render.HarmonyOf(p, clip, length, work, KindOf)
}
