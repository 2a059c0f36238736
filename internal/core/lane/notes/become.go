package notes

import (
	"agrimony/internal/core/intake"
	"agrimony/internal/core/piece"
)

// As is what any notes become, in the words of those who ask for it.
func (Kind) As() string { return "notes" }

// Become makes a lane that sounds the very notes: unlocked, without a share of the groove.
func (Kind) Become(s *intake.Source) ([]piece.Lane, error) {
	lane := piece.NewLane("notes", "", "")
	own := of(&lane)
	own.Octave, own.Lock = s.Octave(), "off"
	lane.Share = piece.Share{}
	own.Notes = make([]piece.FreeNote, len(s.Notes))
	for i, n := range s.Notes {
		fresh := piece.NewNote(n.At, n.Length)
		fresh.Number, fresh.Velocity = i+1, n.Velocity
		if at := s.Key.Express(n.Pitch, own.Octave); s.Drums || !intake.Reaches(at) {
			fresh.Note = &s.Notes[i].Pitch
		} else {
			fresh.SetPlace(at)
		}
		own.Notes[i] = fresh
	}
	return []piece.Lane{lane}, nil
}
