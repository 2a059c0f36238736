package render

import (
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/piece"
)

// Voice is what a lane that sounds one note at a time adds to its slots.
type Voice struct {
	Pitch []uint8                        // of each slot that sounds, MIDI
	Glide func(step int32) *piece.Glide  // nil: nothing glides
	Bend  func(step int32) []piece.Point // nil: nothing bends
	Mode  piece.GlideMode
	// Lengths are those of the slots' notes as written; nil: all have the pattern's step.
	Lengths []beat.Time
}

// step is the length of a slot's step, by its place.
func (v *Voice) step(in *Input, slot int32) beat.Time {
	if v.Lengths != nil {
		return v.Lengths[slot]
	}
	return in.Pattern.Step
}

// bends tells whether a slot's step is slid into with the wheel.
func (v *Voice) bends(s *Slot) bool {
	return v.Mode.Mode == "bend" && v.Glide != nil && v.Glide(s.Step) != nil
}

// run is a note with the slots that ties joined to it.
type run struct {
	first, last int32     // slots; last is the final one joined
	end         beat.Time // on the grid; the clip's when a tie reaches it
	tied        bool      // the first step ties on, so the end is on the grid
	joined      bool      // it started in a legato join: on the grid, not repeated
	legato      bool      // it overlaps the next run's onset
	starts      uint8     // the key struck
	ends        uint8     // the pitch it ends at; the wheel may have taken it there
	slides      int32     // index of its first slide
}

// slide is a way of the wheel within a run: from one offset to another, in
// semitones from the key that is held.
type slide struct {
	slot     int32
	goesOn   bool // from wherever the wheel is, not from a start of its own
	from, to int
	length   beat.Time
	curve    int
}

// join builds the runs from the slots that sound, by the rules for ties and
// gates, with the slides by which the wheel takes a held note to another pitch.
// Runs and slides come in playing order; a run's slides begin at its slides.
func join(in *Input, v *Voice, room *room) ([]run, []slide) {
	slots, length := in.Slots, in.Length
	n := int32(len(slots))
	runs, slides := room.runs[:0], room.slides[:0]
	sounding := 0
	for i := range slots {
		if slots[i].Sounds {
			sounding++
		}
	}
	runs = slices.Grow(runs, sounding)
	joined := false
	for i := int32(0); i < n; {
		if !slots[i].Sounds {
			i++
			continue
		}
		r := run{first: i, last: i, tied: slots[i].Tie, joined: joined, starts: v.Pitch[i], ends: v.Pitch[i], slides: int32(len(slides))}
		joined = false
		for slots[r.last].Tie {
			next := r.last + 1
			if next == n {
				r.end = length
				break
			}
			if slots[next].Sounds {
				if v.Pitch[next] != r.ends && v.Pitch[next] != r.starts && !v.bends(&slots[next]) {
					r.end, r.legato, joined = slots[next].At+beat.Overlap, true, true
					break
				}
				if s, ok := slideTied(in, v, &r, next, &slots[next], v.step(in, next)); ok {
					slides = append(slides, s)
				}
				r.ends = v.Pitch[next]
			}
			r.last = next
		}
		if r.end == 0 {
			r.end = slots[r.last].At + v.step(in, r.last).Percent(int(slots[r.last].Gate))
			if v.Lengths != nil {
				r.end = min(r.end, slots[r.last].Cut)
			}
		}
		runs = append(runs, r)
		i = r.last + 1
	}
	room.runs, room.slides = runs, slides
	return runs, slides
}

// slideTied is the wheel's way into a step that is tied to and has no onset: its
// glide, from wherever the wheel is unless it says from where, or the jump home
// when the key that is held is its pitch already. A glide of no time, or from its own
// pitch, is there at once, and ends one that still runs.
func slideTied(in *Input, v *Voice, r *run, at int32, slot *Slot, step beat.Time) (slide, bool) {
	s := slide{slot: at, goesOn: true, from: int(r.ends) - int(r.starts), to: int(v.Pitch[at]) - int(r.starts)}
	if !v.bends(slot) {
		return s, s.from != s.to
	}
	glide := v.Glide(slot.Step)
	s.length, s.curve = step.Percent(glide.Time), glide.Curve
	if glide.From != nil {
		s.from, s.goesOn = s.to+*glide.From, false
	}
	if in.glidesAtOnce(s.length, in.Piece.Tempo) || glide.From != nil && *glide.From == 0 {
		s.length, s.from, s.goesOn = 0, s.to, false
		return s, true
	}
	return s, s.from != s.to || !s.goesOn
}
