package pitched

import (
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// Placer gives the pitch of each slot of a lane, in order of time, where of tells the place
// of a step. What moves the lane's places, and what they listen to, is worked out slot by
// slot; without either, each step once. What it gives holds until it is asked again.
func Placer(lane *piece.Pitched, in *render.Input, of func(step int32) pitch.Place) func(*render.Slot) *Placed {
	shifts, listens := in.Pattern.Shifts(), lane.Listens() && in.Harmony != nil
	if listens {
		return overChords(lane, in, of, shifts)
	}
	if shifts {
		return shifting(lane, in, of)
	}
	known := make([]Placed, in.Pattern.Count())
	by := in.ShiftOf(lane)
	for i := range known {
		known[i] = At(lane, in.Key, nil, Along(in.Key, of(int32(i)), by))
	}
	return func(s *render.Slot) *Placed { return &known[s.Step] }
}

// overChords is the placer of a lane that listens to the sounding chord: a step that comes
// to the same place over the same chord as before sounds the same.
func overChords(lane *piece.Pitched, in *render.Input, of func(step int32) pitch.Place, shifts bool) func(*render.Slot) *Placed {
	type lately struct {
		met    bool
		at     pitch.Place
		over   *render.Chord
		placed Placed
	}
	last := make([]lately, in.Pattern.Count())
	chord, by := in.Harmony.Walk(), in.ShiftOf(lane)
	return func(s *render.Slot) *Placed {
		at, over := of(s.Step), chord(s.At)
		if shifts {
			at = shifted(in.Key, at, int(s.Degree), int(s.Octave))
		}
		at = Along(in.Key, at, by)
		before := &last[s.Step]
		if !before.met || before.at != at || before.over != over {
			*before = lately{true, at, over, At(lane, in.Key, over, at)}
		}
		return &before.placed
	}
}

// The places that a shifting lane comes to again and again: so many degrees and octaves
// around the key's first.
const (
	manyDegrees = 32
	manyOctaves = 8
)

// shifting is the placer of a lane whose places are moved. What a place comes to is worked
// out once.
func shifting(lane *piece.Pitched, in *render.Input, of func(step int32) pitch.Place) func(*render.Slot) *Placed {
	var known [manyDegrees * manyOctaves]int16 // in met, from 1
	met := make([]Placed, 0, 32)
	altered := make([]bool, in.Pattern.Count())
	for i := range altered {
		altered[i] = of(int32(i)).Alter != 0
	}
	var placed Placed
	by := in.ShiftOf(lane)
	place := func(s *render.Slot) {
		placed = At(lane, in.Key, nil, Along(in.Key, shifted(in.Key, of(s.Step), int(s.Degree), int(s.Octave)), by))
	}
	return func(s *render.Slot) *Placed {
		degree, octave := uint(int(s.Degree)+manyDegrees/4), uint(int(s.Octave)+manyOctaves/2)
		if degree >= manyDegrees || octave >= manyOctaves || altered[s.Step] {
			place(s)
			return &placed
		}
		k := &known[degree*manyOctaves+octave]
		if *k == 0 {
			place(s)
			met = append(met, placed)
			*k = int16(len(met))
		}
		return &met[*k-1]
	}
}

// shifted is a place with another degree and octave. Degrees beyond the scale run on into
// the next octave, and below it down.
func shifted(key pitch.Key, at pitch.Place, degree, octave int) pitch.Place {
	if degree == at.Degree {
		at.Octave = octave
		return at
	}
	out := key.Move(pitch.Place{Degree: 1, Octave: octave}, degree-1)
	out.Alter = at.Alter
	return out
}

// Along is a place so many degrees along the key, altered as it was.
func Along(key pitch.Key, at pitch.Place, by int) pitch.Place {
	if by == 0 {
		return at
	}
	out := key.Move(pitch.Place{Degree: at.Degree, Octave: at.Octave}, by)
	out.Alter = at.Alter
	return out
}

// AlongAll are places so many degrees along the key.
func AlongAll(key pitch.Key, places []pitch.Place, by int) []pitch.Place {
	out := make([]pitch.Place, len(places))
	for i, at := range places {
		out[i] = Along(key, at, by)
	}
	return out
}

// Shifted is a place as modulators and luck move it in a slot.
func Shifted(p *render.Pattern, key pitch.Key, s *render.Slot, at pitch.Place) pitch.Place {
	luck := p.Luck(s)
	return shifted(key, at, p.Moved(render.Degree, s, at.Degree)+luck.Degrees, p.Moved(render.Octave, s, at.Octave)+luck.Octave)
}

// ShiftReasons tells how a place was moved in a slot.
func ShiftReasons(p *render.Pattern, s *render.Slot, at pitch.Place) []render.Reason {
	if !p.Shifts() {
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
