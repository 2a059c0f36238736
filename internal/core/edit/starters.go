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
	lane.Of(&out).Rekey(&out, s.Key.Resolve(), key, true)
	return out
}

// AsStarter tells whether a lane is as a starter has it, beside what is the lane's own.
func AsStarter(s *piece.Starter, own *piece.Lane, key pitch.Key) bool {
	as := piece.StarterOf(s.Name, piece.Key{}, ptr(Begun(s, key)))
	return string(piece.WriteStarter(as)) == string(piece.WriteStarter(piece.StarterOf(s.Name, piece.Key{}, own)))
}

func ptr[T any](v T) *T { return &v }

// startLane begins a lane from a starter.
func startLane(t target, o op.StartLane) error {
	s, err := piece.ReadStarter(o.Starter)
	if err != nil {
		return pitched.Under(t.Edit+".starter", err)
	}
	next := Begun(s, t.Key())
	if t.Lane != nil {
		if next.Kind != t.Lane.Kind {
			return t.Wrong("starter", "%q is a %s; allowed: a starter for a %s lane", s.Name, next.Kind, t.Lane.Kind)
		}
		next.ID, next.Name, next.Channel, next.Mute, next.Solo = t.Lane.ID, t.Lane.Name, t.Lane.Channel, t.Lane.Mute, t.Lane.Solo
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
