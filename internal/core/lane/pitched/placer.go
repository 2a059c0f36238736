package pitched

import (
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// Placer gives the pitch of each slot of a lane, in order of time, where of tells the place
// of a step. What moves the lane's places, and what they listen to, is worked out slot by
// slot; without either, each step once.
func Placer(lane *piece.Pitched, in *render.Input, of func(step int32) pitch.Place) func(*render.Slot) Placed {
	moves, listens := Moves(in.Pattern), lane.Listens() && in.Harmony != nil
	var known []Placed
	if !listens {
		known = make([]Placed, in.Lane.Content.Slots().Len())
		for i := range known {
			known[i] = At(lane, in.Key, nil, of(int32(i)))
		}
		if !moves {
			return func(s *render.Slot) Placed { return known[s.Step] }
		}
	}
	chord := in.Harmony.Walk()
	last := make([]lately, in.Lane.Content.Slots().Len())
	return func(s *render.Slot) Placed {
		shifts := moves && in.Pattern.Shifts(s)
		if !listens && !shifts {
			return known[s.Step]
		}
		at := of(s.Step)
		if shifts {
			at = Shifted(in.Pattern, in.Key, s, at)
		}
		var over *render.Chord
		if listens {
			over = chord(s.At)
		}
		before := &last[s.Step]
		if !before.met || before.at != at || before.over != over {
			*before = lately{true, at, over, At(lane, in.Key, over, at)}
		}
		return before.placed
	}
}

// lately is what a step came to when it was met last.
type lately struct {
	met    bool
	at     pitch.Place
	over   *render.Chord
	placed Placed
}

// Moves tells whether anything moves the places of a pattern's steps.
func Moves(p *render.Pattern) bool {
	return p.Moves(render.Degree) || p.Moves(render.Octave) || p.Lucky()
}

// Shifted is a place as modulators and luck move it in a slot. Degrees beyond the scale run
// on into the next octave, and below it down.
func Shifted(p *render.Pattern, key pitch.Key, s *render.Slot, at pitch.Place) pitch.Place {
	luck := p.Luck(s)
	degree := p.Moved(render.Degree, s, at.Degree) + luck.Degrees
	octave := p.Moved(render.Octave, s, at.Octave) + luck.Octave
	if degree == at.Degree {
		at.Octave = octave
		return at
	}
	out := key.Move(pitch.Place{Degree: 1, Octave: octave}, degree-1)
	out.Alter = at.Alter
	return out
}

// ShiftReasons tells how a place was moved in a slot.
func ShiftReasons(p *render.Pattern, s *render.Slot, at pitch.Place) []render.Reason {
	if !Moves(p) {
		return nil
	}
	luck := p.Luck(s)
	degree, octave := p.Moved(render.Degree, s, at.Degree), p.Moved(render.Octave, s, at.Octave)
	var out []render.Reason
	add := func(rule, what string, from, to int) {
		if from != to {
			out = append(out, render.Moving(rule, what, from, to))
		}
	}
	add("modulator", "degree", at.Degree, degree)
	add("modulator", "octave", at.Octave, octave)
	add("odds", "degree", degree, degree+luck.Degrees)
	add("odds", "octave", octave, octave+luck.Octave)
	return out
}
