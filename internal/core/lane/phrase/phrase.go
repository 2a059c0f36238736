// Package phrase is what phrase lanes do: an arpeggiator whose pattern says at each step
// what its walk does, while the walk goes through the tones of a chord in an order.
package phrase

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/lane/pitched"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// Kind is the phrase.
type Kind struct{}

func of(lane *piece.Lane) *piece.Phrase { return lane.Content.(*piece.Phrase) }

// Moves are the fields of its own that its playing asks for as modulators move them.
func (Kind) Moves() []render.Field {
	return []render.Field{render.Offset, render.Octave, render.Steps, render.Leap, render.Voices, render.OrderOf}
}

// Play renders the lane.
func (Kind) Play(in *render.Input) render.Part {
	w := newWalker(in)
	var lengths []beat.Time
	if rhythm := w.phrase.Rhythm; rhythm != nil {
		in.Slots, lengths = in.OnMoments(in.Moments(rhythm.Lane), w.restart)
		in.Part.Clock = &render.Clock{Slots: slices.Clone(in.Slots), Lengths: lengths}
	}
	room := rooms.Get().(*room)
	defer rooms.Put(room)
	sounding, pitches := room.of(len(in.Slots))
	w.tones, w.keys = room.tones[:0], room.keys[:0]
	defer func() { room.tones, room.keys = w.tones, w.keys }()
	out := render.Tones{
		Pitches: pitches, Legato: true, Lengths: lengths,
		Walked: func(slot, repeat int, p uint8) render.Walked {
			for _, t := range sounding[slot].repeat(repeat) {
				if t.pitch == p {
					return t.Walked
				}
			}
			return render.Walked{Rung: -1}
		},
	}
	out.Voice.Mode = w.phrase.Glide
	for i := range w.phrase.Steps {
		if w.phrase.Steps[i].Glide != nil {
			out.Voice.Glide = func(step int32) *piece.Glide { return w.phrase.Steps[step].Glide }
		}
		if len(w.phrase.Steps[i].Bend) > 0 {
			out.Voice.Bend = func(step int32) []piece.Point { return w.phrase.Steps[step].Bend }
		}
	}
	if w.phrase.Repeats == "walk" {
		out.Repeat = func(slot, repeat int) []uint8 { return w.pitches(sounding[slot].repeat(repeat)) }
	}
	folded := map[int32]int32{}
	note := func(step int32, tones []tone) {
		for _, t := range tones {
			if int32(t.pitch) != t.folded {
				folded[step] = t.folded
			}
		}
	}
	for i := range in.Slots {
		s, own := &in.Slots[i], &sounding[i]
		w.step(s, own)
		kept := len(own.first) * (1 + len(own.more))
		in.Worked(2 + kept)
		in.Kept(kept)
		if len(own.first) == 0 {
			s.Sounds = false
			continue
		}
		pitches[i] = w.pitches(own.first)
		note(s.Step, own.first)
		for _, tones := range own.more {
			note(s.Step, tones)
		}
	}
	part := render.Poly(in, out)
	w.ranger.Mark(&part)
	for i := range w.phrase.Steps {
		if p, ok := folded[int32(i)]; ok {
			part.Mark(render.PitchFolded, i+1, int(p))
		}
	}
	return part
}

// repeat is what sounds in a repeat, from 0.
func (s *struck) repeat(k int) []tone {
	if k == 0 || len(s.more) == 0 {
		return s.first
	}
	return s.more[min(k, len(s.more))-1]
}

// Walks tells whether the lane walks the harmony's tones.
func (Kind) Walks(lane *piece.Lane) bool { return of(lane).Source == "harmony" }

// SoundsPlayed are what the steps sound where the input's slots come to them first; of a
// ratchet that walks, one repeat after another.
func (Kind) SoundsPlayed(in *render.Input) []render.Sound {
	w := newWalker(in)
	out := make([]render.Sound, len(w.phrase.Steps))
	met := make([]bool, len(out))
	for i := range in.Slots {
		s := &in.Slots[i]
		var sounding struck
		w.step(s, &sounding)
		if met[s.Step] {
			continue
		}
		met[s.Step] = true
		sound := &out[s.Step]
		sound.Name = namesOf(in.Key, sounding.first)
		for _, t := range sounding.first {
			sound.Pitches = append(sound.Pitches, int(t.pitch))
		}
		for _, tones := range sounding.more {
			sound.Name += ", " + namesOf(in.Key, tones)
		}
	}
	return out
}

func namesOf(key pitch.Key, tones []tone) string {
	names := make([]string, len(tones))
	for i, t := range tones {
		names[i] = key.Named(int(t.pitch))
	}
	return strings.Join(names, " ")
}

// Sounds are none by themselves: what a step sounds depends on those before it.
func (Kind) Sounds(lane *piece.Lane, _ pitch.Key, _ func(step int) *render.Chord) []render.Sound {
	return make([]render.Sound, len(of(lane).Steps))
}

// Ladder is the rows on which the notes stand: those of the key, and what else sounds.
func (Kind) Ladder(lane *piece.Lane, key pitch.Key, sounding []int) []pitch.Rung {
	all := pitched.Ladder(&piece.Pitched{Octave: of(lane).Octave, Lock: "off"}, key, sounding)
	return pitched.WithTones(all, sounding)
}

// Rekey brings the lane's own tones into another key.
func (Kind) Rekey(lane *piece.Lane, from, to pitch.Key, keepDegrees bool) {
	p := of(lane)
	for i := range p.Tones {
		p.Tones[i] = pitched.Rekey(&p.Pitched, from, to, p.Tones[i], keepDegrees)
	}
}

// Findings reviews a phrase: what leans on chords that are not there, and what its modulators do.
func (Kind) Findings(p *render.Performance, part *render.Part, lane *piece.Lane) []render.Finding {
	found := pitched.Harmless(&of(lane).Pitched, p, lane)
	found = append(found, idle(p, lane)...)
	return append(found, leaves(p, part, lane)...)
}

// Silence says that there is no chord to walk.
func (Kind) Silence(p *render.Performance, lane *piece.Lane) *render.Finding {
	if of(lane).Source != "harmony" || p.Harmony != nil {
		return nil
	}
	nothing := &render.Finding{Rule: "no-walk", Lane: lane.ID, Message: fmt.Sprintf("%s rests: there is no chord in the clip that it could walk.", lane.Name)}
	on := op.OnLane{Clip: p.Clip.ID, Lane: lane.ID}
	nothing.Mend = render.MendBy(
		"Walk tones of its own",
		op.SetLane{OnLane: on, Patch: json.RawMessage(`{"source":"own","tones":[{"degree":1},{"degree":3},{"degree":5}]}`)},
	)
	for i := range p.Piece.Clips {
		clip := &p.Piece.Clips[i]
		if there, _ := p.Piece.HarmonyOf(clip); there != nil && clip.ID != p.Clip.ID {
			nothing.More = []render.Mend{*nothing.Mend}
			nothing.Mend = render.MendBy(
				fmt.Sprintf("Take the chords of %s", clip.Name),
				op.SetHarmony{OnClip: op.OnClip{Clip: p.Clip.ID}, Harmony: json.RawMessage(fmt.Sprintf(`{"clip":%q}`, clip.ID))},
			)
			break
		}
	}
	return nothing
}

// idle finds modulators of the leap where there is only one pass, which no leap moves.
func idle(p *render.Performance, lane *piece.Lane) []render.Finding {
	if of(lane).Span > 1 || lane.Moving("span") || !lane.Moving("leap") {
		return nil
	}
	mend := render.MendBy("Walk two passes", op.SetLane{OnLane: op.OnLane{Clip: p.Clip.ID, Lane: lane.ID}, Patch: json.RawMessage(`{"span":2}`)})
	return []render.Finding{{Rule: "modulator-idle", Lane: lane.ID, Mend: mend,
		Message: fmt.Sprintf("A modulator of %s moves the leap, but with a span of 1 there is none.", lane.Name)}}
}

// leaves finds notes that a modulator of the leap, counted in semitones, takes out of the key.
func leaves(p *render.Performance, part *render.Part, lane *piece.Lane) []render.Finding {
	own := of(lane)
	if own.Leap.In != "semitones" || !lane.Moving("leap") {
		return nil
	}
	out, first := 0, 0
	for i := range part.Notes {
		note := &part.Notes[i]
		if chord := p.ChordOf(part, note); p.Key.Has(int(note.Pitch)) || chord != nil && chord.Has(int(note.Pitch)) {
			continue
		}
		if out++; out == 1 {
			first = int(note.Step)
		}
	}
	if out == 0 {
		return nil
	}
	mend := render.MendBy("Leap along the scale", op.SetLane{OnLane: op.OnLane{Clip: p.Clip.ID, Lane: lane.ID}, Patch: json.RawMessage(`{"leap":{"in":"scale"}}`)})
	return []render.Finding{{Rule: "modulator-key", Lane: lane.ID, Step: first, Mend: mend,
		Message: fmt.Sprintf("A modulator of %s moves the leap by semitones, which takes %s out of the key and the chord.", lane.Name, render.Many(out, "note"))}}
}

// Shifted is the lane with tones of its own so many degrees along the key; where they count from the
// roots of chords, those move them.
func (Kind) Shifted(lane *piece.Lane, key pitch.Key, by int, led bool) *piece.Lane {
	own := of(lane)
	if len(own.Tones) == 0 || led && own.Follow == "root" {
		return lane
	}
	out := lane.Clone()
	of(&out).Tones = pitched.AlongAll(key, own.Tones, by)
	return &out
}
