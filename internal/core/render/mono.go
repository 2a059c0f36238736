package render

import (
	"math"
	"sync"

	"agrimony/internal/core/beat"
)

// Mono plays a lane that sounds one note at a time: the stages from the slots to
// the wheel. The part's own fields are the input's.
func Mono(in *Input, v Voice) Part {
	part := in.Part
	part.Range = max(v.Mode.Range, 1)
	step := in.Pattern.Step
	room := rooms.Get().(*room)
	defer rooms.Put(room)
	runs, slides := join(in, &v, room)
	begin, leftOut := starts(runs, in, &v, nil, room)
	if leftOut > 0 {
		part.Mark(GlideLeftOut, leftOut, 0)
	}
	notes := repeat(runs, in.Slots, step)
	for i := range notes {
		if t := &notes[i].trace; begin != nil && t.repeat == 1 {
			t.from = int8(begin[t.run].from)
		}
	}
	notes = in.reshaped(notes)
	groove(notes, in.Frame, step)
	part.Notes = cut(notes, in.Frame)
	if v.Mode.Mode == "legato" && begin != nil {
		part.Controls = portamento(part.Notes, begin, in.Piece.Tempo, in.Frame)
	}
	if v.Glide != nil || v.Bend != nil {
		wheel(&part, &v, in.Slots, runs, slides, begin, in.Piece.Tempo, in.Frame)
	}
	return part
}

// room is memory for what lives only while a lane is played. It is used again,
// because clearing it anew for every lane costs as much as playing it.
type room struct {
	runs   []run
	slides []slide
	starts []start
}

var rooms = sync.Pool{New: func() any { return new(room) }}

// CountMono is how many events Mono would make, to within what cuts take away:
// notes as they are struck, and wheel positions by the ways of glides and bends.
// The voice's Pitch is asked slot by slot, so that nothing is unrolled.
func CountMono(in *Input, v Voice, pitchOf func(*Slot) uint8) int64 {
	var count int64
	step := in.Pattern.Step
	var held, current, previous uint8
	tied, any := false, false
	in.Pattern.Each(in.Length, func(s Slot) bool {
		if !s.Sounds {
			tied = tied && s.Tie
			return true
		}
		p := pitchOf(&s)
		glides := v.Glide != nil && v.Glide(s.Step) != nil
		if tied && (p == current || p == held || v.bends(&s)) {
			if glides && v.Mode.Mode == "bend" {
				count += positions(int(p)-int(current), step.Percent(v.Glide(s.Step).Time), in)
			}
		} else {
			if tied {
				count++
			} else {
				count += int64(s.Ratchet)
			}
			held = p
			if glides {
				from := int(previous) - int(p)
				if v.Glide(s.Step).From != nil {
					from = *v.Glide(s.Step).From
				} else if !any {
					from = 0
				}
				if v.Mode.Mode == "legato" && from != 0 {
					count += 4
				} else {
					count += positions(from, step.Percent(v.Glide(s.Step).Time), in)
				}
			}
			if v.Bend != nil {
				points := v.Bend(s.Step)
				for i := 1; i < len(points); i++ {
					count += int64(s.Ratchet) * positions(points[i].By-points[i-1].By, step.Percent(int(s.Gate)).Percent(points[i].At-points[i-1].At)/beat.Time(s.Ratchet), in)
				}
			}
		}
		current, previous, any, tied = p, p, true, s.Tie
		return true
	})
	return count
}

// DensestMono is the most events that one slot may make of a lane that Mono plays.
func DensestMono(in *Input, v Voice) int64 {
	most, ratchet := int64(1), int64(in.Pattern.most())
	for i := range in.Pattern.cells {
		events := ratchet
		if v.Glide != nil && v.Glide(int32(i)) != nil {
			events += 4 + positions(2*maxBend, in.Pattern.Step.Percent(v.Glide(int32(i)).Time), in)
		}
		if v.Bend != nil {
			for range v.Bend(int32(i)) {
				events += ratchet * positions(2*maxBend, in.Pattern.Step.Percent(in.Pattern.longest(i)), in)
			}
		}
		most = max(most, events)
	}
	return most
}

// maxBend is the widest range of the wheel, in semitones.
const maxBend = 24

// positions is about how many wheel positions a way of so many semitones takes.
func positions(semitones int, length beat.Time, in *Input) int64 {
	if semitones == 0 {
		return 0
	}
	spacing := max(beat.Milliseconds(spacingMS, in.Piece.Tempo), in.Tick())
	return 2 + min(int64(math.Abs(float64(semitones))/smooth), int64(length/spacing))
}
