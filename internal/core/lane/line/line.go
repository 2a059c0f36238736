// Package line is what line lanes do: one note at a time, with a pitch a step.
package line

import (
	"math/big"

	"agrimony/internal/core/lane/pitched"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// Kind is the line.
type Kind struct{}

func of(lane *piece.Lane) *piece.Line { return lane.Content.(*piece.Line) }

// Play renders the lane.
func (Kind) Play(in *render.Input) render.Part {
	line := of(in.Lane)
	placed := place(line, in.Key)
	v := voice(line)
	v.Pitch = make([]uint8, len(in.Slots))
	for i := range in.Slots {
		v.Pitch[i] = placed[in.Slots[i].Step].Pitch
	}
	part := render.Mono(in, v)
	for i, p := range placed {
		if line.Steps[i].On && p.Folded() {
			part.Mark(render.PitchFolded, i+1, p.Locked)
		}
	}
	return part
}

// Count is about how many events Play makes.
func (Kind) Count(in *render.Input) int64 {
	line := of(in.Lane)
	placed := place(line, in.Key)
	return render.CountMono(in, voice(line), func(s *render.Slot) uint8 { return placed[s.Step].Pitch })
}

// Densest is the most events that one slot may make.
func (Kind) Densest(in *render.Input) int64 { return render.DensestMono(in, voice(of(in.Lane))) }

// Period is that of the lane's pattern.
func (Kind) Period(in *render.Input) *big.Int { return in.Pattern.Period() }

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

func place(line *piece.Line, key pitch.Key) []pitched.Placed {
	out := make([]pitched.Placed, len(line.Steps))
	for i := range line.Steps {
		out[i] = pitched.At(&line.Pitched, key, line.Steps[i].Place())
	}
	return out
}

// Reasons tells how a note came to its pitch.
func (Kind) Reasons(p *render.Performance, _ *render.Part, lane *piece.Lane, note *render.Note) []render.Reason {
	line := of(lane)
	return pitched.Reasons(&line.Pitched, p.Key, line.Steps[note.Step-1].Place())
}

// Pitches are the MIDI pitches at which the steps sound.
func (Kind) Pitches(lane *piece.Lane, key pitch.Key) []int {
	placed := place(of(lane), key)
	out := make([]int, len(placed))
	for i, p := range placed {
		out[i] = int(p.Pitch)
	}
	return out
}

// Ladder is the rows on which notes are placed.
func (k Kind) Ladder(lane *piece.Lane, key pitch.Key) []pitch.Rung {
	line := of(lane)
	var sounding []int
	for i, p := range k.Pitches(lane, key) {
		if line.Steps[i].On {
			sounding = append(sounding, p)
		}
	}
	return pitched.Ladder(&line.Pitched, key, sounding)
}
