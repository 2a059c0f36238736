package notes

import (
	"agrimony/internal/core/beat"
	"agrimony/internal/core/intake"
	"agrimony/internal/core/lane/change"
	"agrimony/internal/core/midi"
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

// Round is what the notes of a lane's loop are as they are written, at the chords that they stand
// over first.
func (Kind) Round(t *change.Target) *intake.Source {
	own := of(t.Lane)
	start, length := own.LoopOf(t.Clip.Bars, t.Piece.Bar())
	out := &intake.Source{Key: t.Key(), Meter: t.Meter(), Length: int(length / piece.NoteTick), Drums: t.Lane.Channel == midi.DrumChannel || t.Lane.Sound.Voice == kit}
	begin := int(start / piece.NoteTick)
	h := t.Harmony(length + 1)
	var from []int
	for i := range own.Notes {
		n := &own.Notes[i]
		at := n.At - begin
		if at < 0 || at >= out.Length {
			continue
		}
		note := intake.Note{At: at, Length: min(n.Length, out.Length-at), Velocity: n.Velocity}
		note.Pitch = Pitch(own, t.Key(), h.At(beat.Time(at)*piece.NoteTick), n)
		out.Notes, from = append(out.Notes, note), append(from, i)
	}
	out.Dress = func(note int, cell *piece.Cell) {
		n := &own.Notes[from[note]]
		cell.Chance, cell.Rounds = n.Chance, n.Rounds
	}
	return out
}
