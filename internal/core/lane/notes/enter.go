package notes

import (
	"agrimony/internal/core/beat"
	"agrimony/internal/core/lane/change"
	"agrimony/internal/core/lane/pitched"
	"agrimony/internal/core/midi"
	"agrimony/internal/core/piece"
)

// EnterFree puts what was played where it was played, on the lane's axis, mapped to the key as the
// lane's lock says; drums as they are. A tie holds the notes that end there on, and without pitches
// nothing is put.
func (Kind) EnterFree(t *change.Target, played change.Played) error {
	own := of(t.Lane)
	if played.Length < 1 {
		return t.Wrong("length", "%d is no length; allowed: 1 or more, in 960ths of a quarter", played.Length)
	}
	if played.Tie {
		return hold(t, own, played)
	}
	if len(played.Pitches) == 0 {
		return nil
	}
	start, _ := own.LoopOf(t.Clip.Bars, t.Piece.Bar())
	tick := max(beat.Time(played.At)*piece.NoteTick-start, 0)
	h := t.Harmony(tick + 1)
	fresh := make([]piece.FreeNote, len(played.Pitches))
	for i, p := range played.Pitches {
		note := piece.NewNote(played.At, played.Length)
		if played.Velocity > 0 {
			note.Velocity = played.Velocity
		}
		if t.Lane.Channel == midi.DrumChannel || t.Lane.Sound.Voice == "kit" {
			note.Note = &p
		} else {
			chord := h.At(tick)
			place := t.Key().Express(pitched.Locked(&own.Pitched, t.Key(), chord, p), own.Octave)
			place = pitched.Uncounted(&own.Pitched, t.Key(), chord, place)
			if err := pitched.Check(t.Key(), place); err != nil {
				return pitched.Under(t.Edit+".pitches", err)
			}
			note.SetPlace(place)
		}
		fresh[i] = note
	}
	return Put(t, own, "notes", append(own.Notes, fresh...))
}

// hold lengthens the notes that end at a time.
func hold(t *change.Target, own *piece.Notes, played change.Played) error {
	held := false
	for i := range own.Notes {
		if n := &own.Notes[i]; n.At+n.Length == played.At {
			n.Length += played.Length
			held = true
		}
	}
	if !held {
		return t.Wrong("tie", "no note ends at %d; allowed: where one does", played.At)
	}
	return Put(t, own, "notes", own.Notes)
}
