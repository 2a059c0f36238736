// Package pulse is what pulse lanes do: one pitch or drum, a rhythm.
package pulse

import (
	"encoding/json"
	"fmt"
	"math/big"

	"agrimony/internal/core/document"
	"agrimony/internal/core/lane/change"
	"agrimony/internal/core/lane/pitched"
	"agrimony/internal/core/midi"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// kit is the built-in voice of drums.
const kit = "kit"

// Kind is the pulse.
type Kind struct{}

func of(lane *piece.Lane) *piece.Pulse { return lane.Content.(*piece.Pulse) }

// pitchOf is the MIDI pitch of the lane over a chord.
func pitchOf(pulse *piece.Pulse, key pitch.Key, chord *render.Chord) uint8 {
	if pulse.Note != nil {
		return uint8(*pulse.Note)
	}
	return pitched.At(&pulse.Pitched, key, chord, *pulse.Pitch).Pitch
}

// Play renders the lane.
func (Kind) Play(in *render.Input) render.Part {
	pulse := of(in.Lane)
	v := render.Voice{Pitch: make([]uint8, len(in.Slots))}
	placed := placer(pulse, in)
	ranger := render.RangeOf(in.Lane)
	var folded pitched.Placed
	for i := range v.Pitch {
		s := &in.Slots[i]
		p := placed(s)
		v.Pitch[i] = p.Pitch
		if s.Sounds && in.Lane.Kept() != nil {
			v.Pitch[i], s.Sounds = ranger.Keep(p.Pitch)
		}
		if p.Folded() {
			folded = *p
		}
	}
	part := render.Mono(in, v)
	ranger.Mark(&part)
	if folded.Folded() && len(part.Notes) > 0 {
		part.Mark(render.PitchFolded, int(part.Notes[0].Step), folded.Locked)
	}
	return part
}

// placer gives the pitch of each slot. A note is moved by the octaves of its luck, and by
// nothing else.
func placer(pulse *piece.Pulse, in *render.Input) func(*render.Slot) *pitched.Placed {
	if pulse.Note == nil {
		return pitched.Placer(&pulse.Pitched, in, func(int32) pitch.Place { return *pulse.Pitch })
	}
	lucky := in.Pattern.Lucky()
	var placed pitched.Placed
	return func(s *render.Slot) *pitched.Placed {
		p := *pulse.Note
		if lucky {
			p += 12 * in.Pattern.Luck(s).Octave
		}
		placed = pitched.Placed{Locked: p, Pitch: uint8(pitch.Fold(p))}
		return &placed
	}
}

// Period is that of the lane's pattern, and of the harmony where it listens to that.
func (Kind) Period(in *render.Input) *big.Int { return in.Listening(of(in.Lane).Listens()) }

// Reasons tells how a note came to its pitch.
func (Kind) Reasons(p *render.Performance, part *render.Part, lane *piece.Lane, note *render.Note) []render.Reason {
	pulse := of(lane)
	if pulse.Note != nil {
		return noteReasons(p, part, lane, note, *pulse.Note)
	}
	return pitched.LaneReasons(&pulse.Pitched, p, part, lane, note, *pulse.Pitch)
}

// noteReasons tells how the lane's note came to sound as it does.
func noteReasons(p *render.Performance, part *render.Part, lane *piece.Lane, note *render.Note, own int) []render.Reason {
	out := []render.Reason{{Rule: "note", From: fmt.Sprintf("MIDI note %d", own), To: p.Key.Named(own)}}
	pattern, slot := p.SlotOf(part, note)
	if octaves := pattern.Luck(slot).Octave; octaves != 0 {
		out = append(out, render.Reason{Rule: "odds", From: p.Key.Named(own), To: p.Key.Named(own + 12*octaves)})
		own = pitch.Fold(own + 12*octaves)
	}
	return render.Ranged(out, lane, p.Key, own)
}

// Sounds are what the steps sound: the lane's pitch, each over a chord.
func (Kind) Sounds(lane *piece.Lane, key pitch.Key, over func(step int) *render.Chord) []render.Sound {
	pulse := of(lane)
	out := make([]render.Sound, len(pulse.Steps))
	for i := range out {
		out[i] = render.OneSound(key, int(pitchOf(pulse, key, over(i))))
	}
	return out
}

// Ladder is the lane's one row, named after its drum or its note.
func (Kind) Ladder(lane *piece.Lane, key pitch.Key, _ []int) []pitch.Rung {
	pulse := of(lane)
	own := int(pitchOf(pulse, key, nil))
	name := pitch.Pretty(key.Named(own))
	if pulse.Note != nil && (lane.Channel == midi.DrumChannel || lane.Sound.Voice == kit) {
		if drum, ok := midi.DrumOf(own); ok {
			name = drum.Name
		}
	}
	return []pitch.Rung{{Pitch: own, Name: name, InKey: true}}
}

// Rekey brings the lane's pitch into another key; a note stays.
func (Kind) Rekey(lane *piece.Lane, from, to pitch.Key, keepDegrees bool) {
	if pulse := of(lane); pulse.Pitch != nil {
		next := pitched.Rekey(&pulse.Pitched, from, to, *pulse.Pitch, keepDegrees)
		pulse.Pitch = &next
	}
}

// Transpose moves the pitch of the whole lane, whichever steps are named.
func (Kind) Transpose(lane *piece.Lane, key pitch.Key, _ []int, unit string, by int) error {
	pulse := of(lane)
	if pulse.Pitch != nil {
		next, err := pitched.Shift(&pulse.Pitched, key, *pulse.Pitch, unit, by)
		if err != nil {
			return pitched.Under("pitch", err)
		}
		pulse.Pitch = &next
		return nil
	}
	if unit == "octave" {
		by *= 12
	}
	note := *pulse.Note + by
	if note < 0 || note > 127 {
		return &document.Fault{Path: "note", Problem: fmt.Sprintf("%d is out of reach; allowed: 0..127", note)}
	}
	pulse.Note = &note
	return nil
}

// Findings offers channel 10 to a drum that is heard through the kit, and says what
// leans on chords that are not there.
func (Kind) Findings(p *render.Performance, part *render.Part, lane *piece.Lane) []render.Finding {
	pulse := of(lane)
	if pulse.Pitch != nil {
		return pitched.Harmless(&pulse.Pitched, p, lane)
	}
	if part.Channel == midi.DrumChannel || lane.Sound.Voice != kit || *pulse.Note < midi.LowestDrum || *pulse.Note > midi.HighestDrum {
		return nil
	}
	return []render.Finding{{
		Rule: "drum-channel", Lane: lane.ID,
		Message: fmt.Sprintf("%s is a drum on channel %d; most instruments keep their drums on channel %d.", lane.Name, part.Channel, midi.DrumChannel),
		Mend: render.MendBy(fmt.Sprintf("Put it on channel %d", midi.DrumChannel), op.SetLane{
			OnLane: op.OnLane{Clip: p.Clip.ID, Lane: lane.ID}, Patch: json.RawMessage(fmt.Sprintf(`{"channel":%d}`, midi.DrumChannel)),
		}),
	}}
}

// Enter takes whichever key it was: a hit.
func (Kind) Enter(*change.Target, change.Heard) error { return nil }
