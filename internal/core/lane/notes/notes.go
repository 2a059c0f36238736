// Package notes is what notes lanes do: notes anywhere on an axis of the lane's own, many at a
// time or one.
package notes

import (
	"fmt"
	"math/big"

	"agrimony/internal/core/lane/pitched"
	"agrimony/internal/core/midi"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// kit is the built-in voice of drums.
const kit = "kit"

// Kind is the lane of free notes.
type Kind struct{}

func of(lane *piece.Lane) *piece.Notes { return lane.Content.(*piece.Notes) }

// Moves are the fields of its own that its playing asks for as modulators move them.
func (Kind) Moves() []render.Field { return []render.Field{render.Degree, render.Octave} }

// Play renders the lane.
func (Kind) Play(in *render.Input) render.Part {
	own := of(in.Lane)
	v := render.Voice{Mode: own.Glide, Pitch: make([]uint8, len(in.Slots))}
	if own.Voices == "one" || own.Glide.Mode == piece.MPE {
		v.Glide, v.Bend = moving(own)
	}
	placed := placer(own, in)
	ranger := render.RangeOf(in.Lane)
	folded := map[int32]pitched.Placed{}
	for i := range in.Slots {
		s := &in.Slots[i]
		p := placed(s)
		v.Pitch[i] = p.Pitch
		if s.Sounds && in.Lane.Kept() != nil {
			v.Pitch[i], s.Sounds = ranger.Keep(p.Pitch)
		}
		if p.Folded() {
			folded[s.Step] = *p
		}
	}
	part := render.Free(in, v, own.Voices == "one")
	ranger.Mark(&part)
	for i := range own.Notes {
		if p, ok := folded[int32(i)]; ok {
			part.Mark(render.PitchFolded, i+1, p.Locked)
		}
	}
	return part
}

// moving is how the notes slide and bend; nil where none does.
func moving(own *piece.Notes) (glide func(int32) *piece.Glide, bend func(int32) []piece.Point) {
	for i := range own.Notes {
		if own.Notes[i].Glide != nil {
			glide = func(note int32) *piece.Glide { return own.Notes[note].Glide }
		}
		if len(own.Notes[i].Bend) > 0 {
			bend = func(note int32) []piece.Point { return own.Notes[note].Bend }
		}
	}
	return glide, bend
}

// placer gives the pitch of each slot. A MIDI note is moved by octaves, of modulators and luck,
// and by nothing else.
func placer(own *piece.Notes, in *render.Input) func(*render.Slot) *pitched.Placed {
	inKey := pitched.Placer(&own.Pitched, in, func(note int32) pitch.Place { return own.Notes[note].Place() })
	shifts := in.Pattern.Shifts()
	var placed pitched.Placed
	return func(s *render.Slot) *pitched.Placed {
		note := own.Notes[s.Step].Note
		if note == nil {
			return inKey(s)
		}
		p := *note
		if shifts {
			p += 12 * int(s.Octave)
		}
		placed = pitched.Placed{Locked: p, Pitch: uint8(pitch.Fold(p))}
		return &placed
	}
}

// Period is that of the lane's loop, and of the harmony where it listens to that.
func (Kind) Period(in *render.Input) *big.Int { return in.Listening(of(in.Lane).Listens()) }

// Reasons tells how a note came to its pitch.
func (Kind) Reasons(p *render.Performance, part *render.Part, lane *piece.Lane, note *render.Note) []render.Reason {
	own := of(lane)
	written := &own.Notes[note.Step-1]
	if written.Note == nil {
		return pitched.LaneReasons(&own.Pitched, p, part, lane, note, written.Place())
	}
	midi := *written.Note
	out := []render.Reason{{Rule: "note", From: fmt.Sprintf("MIDI note %d", midi), To: p.Key.Named(midi)}}
	pattern, slot := p.SlotOf(part, note)
	octaves := pattern.Moved(render.Octave, slot, 0)
	move := func(rule string, by int) {
		if by != 0 {
			out = append(out, render.Reason{Rule: rule, From: p.Key.Named(midi), To: p.Key.Named(midi + 12*by)})
			midi += 12 * by
		}
	}
	move("octave", octaves)
	move("odds", pattern.Luck(slot).Octave)
	if folded := pitch.Fold(midi); folded != midi {
		out = append(out, render.Reason{Rule: "fold", From: p.Key.Named(midi), To: p.Key.Named(folded)})
		midi = folded
	}
	return render.Ranged(out, lane, p.Key, midi)
}

// Sounds are what the notes sound, each over a chord.
func (Kind) Sounds(lane *piece.Lane, key pitch.Key, over func(note int) *render.Chord) []render.Sound {
	own := of(lane)
	out := make([]render.Sound, len(own.Notes))
	for i := range own.Notes {
		out[i] = render.OneSound(key, Pitch(own, key, over(i), &own.Notes[i]))
	}
	return out
}

// Rows are the MIDI pitches of the notes as written, each over a chord.
func (Kind) Rows(lane *piece.Lane, key pitch.Key, over func(note int) *render.Chord) []int {
	own := of(lane)
	out := make([]int, len(own.Notes))
	for i := range own.Notes {
		out[i] = Pitch(own, key, over(i), &own.Notes[i])
	}
	return out
}

// Pitch is the MIDI pitch of a note as written, over a chord.
func Pitch(own *piece.Notes, key pitch.Key, chord *render.Chord, n *piece.FreeNote) int {
	if n.Note != nil {
		return *n.Note
	}
	return int(pitched.At(&own.Pitched, key, chord, n.Place()).Pitch)
}

// Ladder is the rows on which notes are placed: the key's, and those that sound outside it.
func (Kind) Ladder(lane *piece.Lane, key pitch.Key, sounding []int) []pitch.Rung {
	own := of(lane)
	home := key.Pitch(pitch.Place{Degree: 1}, own.Octave)
	low, high := home-24, home+36
	for _, p := range sounding {
		low, high = min(low, p), max(high, p)
	}
	all := key.Ladder(own.Octave, low, high, true)
	if own.Lock != "off" {
		all = pitched.WithTones(all, sounding)
	}
	if lane.Channel == midi.DrumChannel || lane.Sound.Voice == kit {
		for i := range all {
			if drum, ok := midi.DrumOf(all[i].Pitch); ok {
				all[i].Name = drum.Name
			}
		}
	}
	return all
}

// Rekey brings the notes into another key; MIDI notes stay.
func (Kind) Rekey(lane *piece.Lane, from, to pitch.Key, keepDegrees bool) {
	own := of(lane)
	for i := range own.Notes {
		if n := &own.Notes[i]; n.Note == nil {
			n.SetPlace(pitched.Rekey(&own.Pitched, from, to, n.Place(), keepDegrees))
		}
	}
}
