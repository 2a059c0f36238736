package edit

import (
	"slices"
	"strings"

	"agrimony/internal/core/lane"
	"agrimony/internal/core/lane/pitched"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
)

// Begun is a starter's lane as it begins in a key: a degree that the key lacks goes to its
// nearest pitch.
func Begun(s *piece.Starter, key pitch.Key) piece.Lane {
	out := s.Lane.Clone()
	from := s.Key.Resolve()
	lane.Of(&out).Rekey(&out, from, key, true)
	if own := piece.PitchedOf(&out); own != nil && own.Octave <= pitched.BassOctave { // a bass stays one
		own.Octave += pitched.GroundOctave(key) - pitched.GroundOctave(from)
	}
	return out
}

// AsStarter tells whether a lane is as a starter has it, beside what is the lane's own.
func AsStarter(s *piece.Starter, own *piece.Lane, key pitch.Key) bool {
	as := piece.StarterOf(s.Name, piece.Key{}, ptr(Begun(s, key)))
	return string(piece.WriteStarter(as)) == string(piece.WriteStarter(piece.StarterOf(s.Name, piece.Key{}, own)))
}

func ptr[T any](v T) *T { return &v }

// Parts are what can be taken of a starter alone.
var Parts = []string{"rhythm", "pitches", "sound"}

// startLane begins a lane from a starter.
func startLane(t target, o op.StartLane) error {
	s, err := piece.ReadStarter(o.Starter)
	if err != nil {
		return pitched.Under(t.Edit+".starter", err)
	}
	next := Begun(s, t.Key())
	if o.Part != "" {
		return t.takePart(s, &next, o)
	}
	if t.Lane != nil {
		if err := t.fits(s, &next); err != nil {
			return err
		}
		next.ID, next.Name, next.Channel, next.Mute, next.Solo = t.Lane.ID, t.Lane.Name, t.Lane.Channel, t.Lane.Mute, t.Lane.Solo
		next.Quiet = t.Lane.Quiet
		if !o.Sound {
			next.Sound = t.Lane.Sound
		}
	} else {
		if o.First {
			t.first()
		}
		if err := t.Room(len(t.Clip.Lanes), piece.MaxLanes, "lanes"); err != nil {
			return err
		}
		name := o.Name
		if name == "" {
			name = s.Name
		}
		next.Name = t.freeName(name)
		next.ID = t.laneID(next.Name)
	}
	if err := t.lean(&next, o.Needs); err != nil {
		return err
	}
	if !o.Plain {
		next.Starter = s.Name
	}
	if t.Lane != nil {
		*t.Lane = next
		return nil
	}
	t.Clip.Lanes = append(t.Clip.Lanes, next)
	return nil
}

// fits refuses a starter for another kind of lane.
func (t target) fits(s *piece.Starter, begun *piece.Lane) error {
	if begun.Kind != t.Lane.Kind {
		return t.Wrong("starter", "%q is a %s; allowed: a starter for a %s lane", s.Name, begun.Kind, t.Lane.Kind)
	}
	return nil
}

// takePart takes one part of a starter, as it begins in the clip's key, into the edit's lane.
func (t target) takePart(s *piece.Starter, begun *piece.Lane, o op.StartLane) error {
	if !slices.Contains(Parts, o.Part) {
		return t.Wrong("part", "%q is not allowed; allowed: %s, or nothing for all of it", o.Part, strings.Join(Parts, ", "))
	}
	if t.Lane == nil {
		return t.Wrong("part", "a new lane takes all of a starter; name the lane that is to take its %s", o.Part)
	}
	if o.Part == "sound" {
		t.Lane.Sound = begun.Sound
		return nil
	}
	if err := t.fits(s, begun); err != nil {
		return err
	}
	if t.Lane.Content.StepList() == nil || t.Lane.Content.StepList().Len() == 0 || begun.Content.StepList().Len() == 0 {
		return t.Wrong("part", "%s has no steps; allowed: all of a starter, or its sound", t.Lane.Name)
	}
	if o.Sound {
		t.Lane.Sound = begun.Sound
	}
	if o.Part == "pitches" {
		if err := t.lean(begun, o.Needs); err != nil {
			return err
		}
		t.Lane.Content = crossed(t.Lane, t.Lane, begun)
		return nil
	}
	content := crossed(t.Lane, begun, t.Lane)
	t.Lane.Rate, t.Lane.Direction, t.Lane.Window, t.Lane.Restart = begun.Rate, begun.Direction, begun.Window, begun.Restart
	t.Lane.Content = content
	return nil
}

// crossed is the content of a lane with the rhythm of one lane and the pitches of another of its kind, which its notes
// take in turn, round and round. What else a step holds is the lane's own, step by step.
func crossed(own, rhythm, pitches *piece.Lane) piece.Content {
	out := pitches.Content.Clone()
	steps, beats, notes, was := out.StepList(), rhythm.Content.StepList(), pitches.Content.StepList(), own.Content.StepList()
	var sounding []int
	for i := range notes.Len() {
		if notes.Cell(i).On {
			sounding = append(sounding, i)
		}
	}
	steps.Resize(beats.Len())
	turn := 0
	for i := range beats.Len() {
		beat := beats.Cell(i)
		from := i % notes.Len()
		if beat.On && len(sounding) > 0 {
			from = sounding[turn%len(sounding)]
			turn++
		}
		steps.Take(i, notes, from)
		cell := steps.Cell(i)
		*cell = *was.Cell(i % was.Len())
		cellParts[rhythmOnly](cell, beat)
	}
	return out
}

// lean lets a lane that comes from elsewhere need lanes of this clip.
func (t target) lean(own *piece.Lane, needs map[string]string) error {
	leaning, ok := own.Content.(interface {
		piece.Leaning
		Lean(field, lane string) bool
	})
	if !ok {
		return nil
	}
	var allowed []string
	for i := range t.Clip.Lanes {
		if l := &t.Clip.Lanes[i]; !l.Silent() && l.ID != own.ID {
			allowed = append(allowed, l.ID)
		}
	}
	for _, need := range leaning.Needs() {
		to, named := needs[need.Field]
		if !named {
			to = need.Lane
		}
		if to != "" && !slices.Contains(allowed, to) {
			return t.Wrong("needs."+need.Field, "the clip has no lane %q with notes; allowed: %s", to, listed(allowed))
		}
		if !leaning.Lean(need.Field, to) {
			return t.Wrong("needs."+need.Field, "it cannot be left out; allowed: %s", listed(allowed))
		}
	}
	return nil
}

func listed(names []string) string {
	if len(names) == 0 {
		return "there is none"
	}
	return strings.Join(names, ", ")
}
