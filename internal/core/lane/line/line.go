// Package line is what line lanes do: one note at a time, with a pitch a step.
package line

import (
	"fmt"
	"math/big"

	"agrimony/internal/core/lane/pitched"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// Kind is the line.
type Kind struct{}

func of(lane *piece.Lane) *piece.Line { return lane.Content.(*piece.Line) }

// Moves are the fields of its own that its playing asks for as modulators move them.
func (Kind) Moves() []render.Field { return []render.Field{render.Degree, render.Octave} }

// Play renders the lane.
func (Kind) Play(in *render.Input) render.Part {
	line := of(in.Lane)
	v := voice(line)
	v.Pitch = make([]uint8, len(in.Slots))
	placed := pitched.Placer(&line.Pitched, in, func(step int32) pitch.Place { return line.Steps[step].Place() })
	ranger := render.RangeOf(in.Lane)
	var folded []pitched.Placed
	for i := range in.Slots {
		s := &in.Slots[i]
		p := placed(s)
		v.Pitch[i] = p.Pitch
		if s.Sounds && in.Lane.Kept() != nil {
			v.Pitch[i], s.Sounds = ranger.Keep(p.Pitch)
		}
		if p.Folded() && line.Steps[in.Slots[i].Step].On {
			if folded == nil {
				folded = make([]pitched.Placed, len(line.Steps))
			}
			folded[in.Slots[i].Step] = *p
		}
	}
	part := render.Mono(in, v)
	ranger.Mark(&part)
	for i, p := range folded {
		if p.Folded() {
			part.Mark(render.PitchFolded, i+1, p.Locked)
		}
	}
	return part
}

// Period is that of the lane's pattern, and of the harmony where it listens to that.
func (Kind) Period(in *render.Input) *big.Int { return in.Listening(of(in.Lane).Listens()) }

// voice is how the line's steps slide and bend; nil where none does.
func voice(line *piece.Line) render.Voice {
	out := render.Voice{Mode: line.Glide}
	for i := range line.Steps {
		if line.Steps[i].Glide != nil {
			out.Glide = func(step int32) *piece.Glide { return line.Steps[step].Glide }
		}
		if len(line.Steps[i].Bend) > 0 {
			out.Bend = func(step int32) []piece.Point { return line.Steps[step].Bend }
		}
	}
	return out
}

// Reasons tells how a note came to its pitch.
func (Kind) Reasons(p *render.Performance, part *render.Part, lane *piece.Lane, note *render.Note) []render.Reason {
	line := of(lane)
	return pitched.LaneReasons(&line.Pitched, p, part, lane, note, line.Steps[note.Step-1].Place())
}

// Sounds are what the steps sound, each over a chord.
func (Kind) Sounds(lane *piece.Lane, key pitch.Key, over func(step int) *render.Chord) []render.Sound {
	line := of(lane)
	out := make([]render.Sound, len(line.Steps))
	for i := range line.Steps {
		out[i] = render.OneSound(key, int(pitched.At(&line.Pitched, key, over(i), line.Steps[i].Place()).Pitch))
	}
	return out
}

// Ladder is the rows on which notes are placed.
func (Kind) Ladder(lane *piece.Lane, key pitch.Key, sounding []int) []pitch.Rung {
	return pitched.Ladder(&of(lane).Pitched, key, sounding)
}

// Hold writes what luck added to a step's pitch into the step.
func (Kind) Hold(lane *piece.Lane, key pitch.Key, step int, luck render.Luck) error {
	s := &of(lane).Steps[step]
	at := key.Move(pitch.Place{Degree: s.Degree, Octave: s.Octave + luck.Octave}, luck.Degrees)
	at.Alter = s.Alter
	if err := pitched.Check(key, at); err != nil {
		return pitched.Under(fmt.Sprintf("steps[%d]", step), err)
	}
	s.SetPlace(at)
	return nil
}
