// Package phrase is what phrase lanes do: an arpeggiator whose pattern says at each step
// what its walk does, while the walk goes through the tones of a chord in an order.
package phrase

import (
	"encoding/json"
	"fmt"
	"slices"

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

// Play renders the lane.
func (Kind) Play(in *render.Input) render.Part {
	w := newWalker(in)
	var lengths []beat.Time
	if rhythm := w.phrase.Rhythm; rhythm != nil {
		in.Slots, lengths = in.Pattern.OnMoments(in.Moments(rhythm.Lane), w.restart)
		in.Part.Clock = &render.Clock{Slots: slices.Clone(in.Slots), Lengths: lengths}
	}
	sounding := make([]struck, len(in.Slots))
	w.tones, w.keys = make([]tone, 0, len(in.Slots)*w.phrase.Voices), make([]uint8, 0, len(in.Slots)*w.phrase.Voices)
	out := render.Tones{
		Pitches: make([][]uint8, len(in.Slots)), Legato: true, Lengths: lengths,
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
	folded := map[int32]int{}
	note := func(step int32, tones []tone) {
		for _, t := range tones {
			if int(t.pitch) != t.folded {
				folded[step] = t.folded
			}
		}
	}
	for i := range in.Slots {
		s := &in.Slots[i]
		sounding[i] = w.step(s)
		if len(sounding[i].first) == 0 {
			s.Sounds = false
			continue
		}
		out.Pitches[i] = sounding[i].pitches
		note(s.Step, sounding[i].first)
		for _, tones := range sounding[i].more {
			note(s.Step, tones)
		}
	}
	part := render.Poly(in, out)
	w.ranger.Mark(&part)
	for i := range w.phrase.Steps {
		if p, ok := folded[int32(i)]; ok {
			part.Mark(render.PitchFolded, i+1, p)
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

// mostVoices is how many places of the order may sound together.
const mostVoices = 4

// most is the most tones that a step of the lane may sound at once.
func most(in *render.Input) int {
	p := of(in.Lane)
	out := p.Voices
	if in.Pattern.Moves(render.Voices) {
		out = mostVoices
	}
	if slices.ContainsFunc(p.Steps, func(s piece.PhraseStep) bool { return s.On && s.Play == "chord" }) {
		out = piece.MaxTones
	}
	if p.Pedal != nil {
		out++
	}
	return out
}

// Count is about how many events Play makes.
func (Kind) Count(in *render.Input) int64 {
	p := of(in.Lane)
	if p.Rhythm != nil {
		return countOn(in, p.Rhythm.Lane) * int64(most(in))
	}
	return render.CountPoly(in, func(s *render.Slot) int {
		n := 1
		if p.Pedal != nil {
			n++
		}
		switch play := p.Steps[s.Step].Play; {
		case play == "chord":
			return n + 3
		case walks(play):
			return n + in.Pattern.Moved(render.Voices, s, p.Voices) - 1
		}
		return n
	})
}

// countOn is about how many moments a lane gives.
func countOn(in *render.Input, id string) (count int64) {
	for i := range in.Clip.Lanes {
		if l := &in.Clip.Lanes[i]; l.ID == id && l.Content.Slots() != nil {
			render.PatternOf(in.Piece, in.Clip.ID, l).Each(in.Length, func(s render.Slot) bool {
				if s.Sounds {
					count += int64(s.Ratchet)
				}
				return true
			})
		}
	}
	return count
}

// Densest is the most events that one slot may make.
func (Kind) Densest(in *render.Input) int64 {
	if of(in.Lane).Rhythm != nil {
		return render.MaxEvents // its rate says nothing: it is to be counted
	}
	return render.DensestPoly(in, most(in))
}

// Walks tells whether the lane walks the harmony's tones.
func (Kind) Walks(lane *piece.Lane) bool { return of(lane).Source == "harmony" }

// Sounds are what the steps sound in the first round, each over its chord.
func (Kind) Sounds(lane *piece.Lane, key pitch.Key, over func(step int) *render.Chord) []render.Sound {
	p := of(lane)
	out := make([]render.Sound, len(p.Steps))
	w := &walker{lane: lane, phrase: p, key: key, ladders: map[setting]*Ladder{}, known: map[spot]tone{}, octave: 3, ranger: render.RangeOf(lane), draw: func(int32, int32, int) uint64 { return 0 }}
	var before *render.Chord
	for _, i := range render.Active(lane) {
		chord := over(int(i))
		if p.Walk == "chord" && chord != before {
			w.started = false
		}
		before = chord
		step := &p.Steps[i]
		s := &render.Slot{Step: i}
		ladder := w.ladder(s, chord)
		if !step.On || ladder == nil {
			continue
		}
		w.move(step.Play)
		for _, t := range w.sound(s, step, ladder, chord, 0) {
			out[i].Pitches = append(out[i].Pitches, int(t.pitch))
		}
		for k, p := range out[i].Pitches {
			if k > 0 {
				out[i].Name += " "
			}
			out[i].Name += key.Named(p)
		}
	}
	return out
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

// Findings reviews a phrase: whether there is anything to walk.
func (Kind) Findings(p *render.Performance, _ *render.Part, lane *piece.Lane) []render.Finding {
	found := pitched.Harmless(&of(lane).Pitched, p, lane)
	if of(lane).Source != "harmony" || p.Harmony != nil {
		return found
	}
	nothing := render.Finding{Rule: "no-walk", Lane: lane.ID, Message: fmt.Sprintf("%s rests: there is no chord in the clip that it could walk.", lane.Name)}
	on := op.OnLane{Clip: p.Clip.ID, Lane: lane.ID}
	own := *render.MendBy("Walk tones of its own", op.SetLane{OnLane: on, Patch: json.RawMessage(`{"source":"own","tones":[{"degree":1},{"degree":3},{"degree":5}]}`)})
	for i := range p.Piece.Clips {
		clip := &p.Piece.Clips[i]
		if there, _ := p.Piece.HarmonyOf(clip); there != nil && clip.ID != p.Clip.ID {
			nothing.Mend = render.MendBy(fmt.Sprintf("Take the chords of %s", clip.Name), op.SetHarmony{OnClip: op.OnClip{Clip: p.Clip.ID}, Harmony: json.RawMessage(fmt.Sprintf(`{"clip":%q}`, clip.ID))})
			nothing.More = []render.Mend{own}
			return append(found, nothing)
		}
	}
	nothing.Mend = &own
	return append(found, nothing)
}
