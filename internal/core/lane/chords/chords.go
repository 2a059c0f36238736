// Package chords is what chords lanes do: steps choose chords from a palette, which are
// strummed, tied, inverted and voiced, and which other lanes listen to.
package chords

import (
	"fmt"
	"math/big"
	"slices"

	"agrimony/internal/core/lane/pitched"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// Kind is the chords lane.
type Kind struct{}

func of(lane *piece.Lane) *piece.Chords { return lane.Content.(*piece.Chords) }

// Moves are the fields of its own that its playing asks for as modulators move them.
func (Kind) Moves() []render.Field { return []render.Field{render.Inversion, render.Strum} }

// Play renders the lane.
func (Kind) Play(in *render.Input) render.Part {
	c := of(in.Lane)
	tones := render.Tones{Pitches: make([][]uint8, len(in.Slots)), Spread: spread(c, in.Pattern)}
	lying := lyingOf(in)
	if c.Glide != nil {
		tones.Voice = voice(c)
	}
	ranger := render.RangeOf(in.Lane)
	for i := range in.Slots {
		if s := &in.Slots[i]; s.Sounds {
			tones.Pitches[i] = ranger.KeepAll(lucky(in.Pattern, in.Key, c, s, lying(s)))
			s.Sounds = len(tones.Pitches[i]) > 0
		}
	}
	part := render.Poly(in, tones)
	ranger.Mark(&part)
	for i := range c.Steps {
		if step := &c.Steps[i]; step.On {
			for _, p := range lift(c, in.Key, step) {
				if pitch.Fold(p) != p && c.Voicing.Mode == "written" {
					part.Mark(render.PitchFolded, i+1, p)
				}
			}
		}
	}
	return part
}

// voice is how the chords glide and bend.
func voice(c *piece.Chords) render.Voice {
	out := render.Voice{Mode: *c.Glide}
	for i := range c.Steps {
		if c.Steps[i].Glide != nil {
			out.Glide = func(step int32) *piece.Glide { return c.Steps[step].Glide }
		}
		if len(c.Steps[i].Bend) > 0 {
			out.Bend = func(step int32) []piece.Point { return c.Steps[step].Bend }
		}
	}
	return out
}

// lyingOf gives the pitches of each slot, in order of time. A lane that others listen
// to does not listen itself.
func lyingOf(in *render.Input) func(*render.Slot) []uint8 {
	c := of(in.Lane)
	if c.Listens() && in.Harmony != nil && in.Harmony.Lane != in.Lane {
		chord := in.Harmony.Walk()
		return func(s *render.Slot) []uint8 { return over(c, in.Key, chord(s.At), &c.Steps[s.Step]) }
	}
	known := Voice(in.Lane, in.Key)
	if !inverts(c, in.Pattern) {
		return func(s *render.Slot) []uint8 { return known.Steps[s.Step] }
	}
	return func(s *render.Slot) []uint8 {
		step := inverted(c, in.Pattern, s)
		return folded(lift(c, in.Key, &step))
	}
}

// inverts tells whether modulators invert the chords: those that are not voiced anew.
func inverts(c *piece.Chords, pattern *render.Pattern) bool {
	return c.Voicing.Mode == "written" && pattern.Moves(render.Inversion)
}

// inverted is a step as it is inverted in a slot.
func inverted(c *piece.Chords, pattern *render.Pattern, s *render.Slot) piece.ChordStep {
	out := c.Steps[s.Step]
	if inverts(c, pattern) {
		out.Inversion = pattern.Moved(render.Inversion, s, out.Inversion)
	}
	return out
}

// lucky moves what a slot sounds by its luck: along the scale, and by octaves. The harmony
// that others listen to stays.
func lucky(pattern *render.Pattern, key pitch.Key, c *piece.Chords, s *render.Slot, pitches []uint8) []uint8 {
	if !pattern.Lucky() {
		return pitches
	}
	luck := pattern.Luck(s)
	if luck == (render.Luck{}) {
		return pitches
	}
	moved := make([]int, len(pitches))
	for i, p := range pitches {
		moved[i] = luckOf(key, c, luck, int(p))
	}
	return folded(moved)
}

func luckOf(key pitch.Key, c *piece.Chords, luck render.Luck, p int) int {
	if luck.Degrees != 0 {
		p = key.Along(p, luck.Degrees, pitch.Snap(c.Snap))
	}
	return p + 12*luck.Octave
}

// spread is how the steps are strummed; nil where none is.
func spread(c *piece.Chords, pattern *render.Pattern) func(s *render.Slot) render.Spread {
	moves := pattern.Moves(render.Strum)
	if !moves && !slices.ContainsFunc(c.Steps, func(s piece.ChordStep) bool { return s.Strum != nil }) {
		return nil
	}
	ways := map[string]render.SpreadWay{"up": render.SpreadUp, "down": render.SpreadDown, "turns": render.SpreadTurns}
	known := make([]render.Spread, len(c.Steps))
	for i := range c.Steps {
		if s := c.Steps[i].Strum; s != nil {
			known[i] = render.Spread{Time: s.Time, Way: ways[s.Way]}
		}
	}
	return func(s *render.Slot) render.Spread {
		out := known[s.Step]
		if moves {
			out.Time = pattern.Moved(render.Strum, s, out.Time)
		}
		return out
	}
}

// Period is that of the lane's pattern, and of the harmony where it listens to another
// lane's.
func (Kind) Period(in *render.Input) *big.Int {
	return in.Listening(of(in.Lane).Listens() && !in.IsHarmony())
}

// Sounds are what the steps sound, each over a chord.
func (Kind) Sounds(lane *piece.Lane, key pitch.Key, _ func(step int) *render.Chord) []render.Sound {
	c := of(lane)
	voiced := Voice(lane, key)
	out := make([]render.Sound, len(c.Steps))
	for i := range c.Steps {
		pitches := voiced.Steps[i]
		if pitches == nil {
			pitches = folded(lift(c, key, &c.Steps[i]))
		}
		for _, p := range pitches {
			out[i].Pitches = append(out[i].Pitches, int(p))
		}
		out[i].Name = nameOf(c, key, &c.Steps[i], pitches).Symbol
	}
	return out
}

// Ladder is the rows on which tones are placed: the key's notes, and whatever else
// sounds.
func (Kind) Ladder(lane *piece.Lane, key pitch.Key, sounding []int) []pitch.Rung {
	c := of(lane)
	return pitched.WithTones(pitched.Ladder(&piece.Pitched{Octave: c.Octave, Lock: "off"}, key, sounding), sounding)
}

// Rekey brings the palette into another key.
func (Kind) Rekey(lane *piece.Lane, from, to pitch.Key, keepDegrees bool) {
	c := of(lane)
	for i := range c.Palette {
		tones := c.Palette[i].Tones
		was := writtenAs(c, from, &c.Palette[i])
		for k := range tones {
			tones[k] = pitched.Rekey(&c.Pitched, from, to, tones[k], keepDegrees)
		}
		c.Palette[i].Tones = apart(c, to, tones)
		if was != "" && writtenAs(c, to, &c.Palette[i]) == "" {
			c.Palette[i].Name = ""
		}
	}
}

// apart leaves out tones that meet another one of their chord.
func apart(c *piece.Chords, key pitch.Key, tones []pitch.Place) []pitch.Place {
	seen := map[int]bool{}
	return slices.DeleteFunc(tones, func(t pitch.Place) bool {
		p := key.Pitch(t, c.Octave)
		was := seen[p]
		seen[p] = true
		return was
	})
}

// Reasons tells how a note came to its pitch: from a tone of its chord through the
// lock, octaves, inversion and voicing.
func (Kind) Reasons(p *render.Performance, part *render.Part, lane *piece.Lane, note *render.Note) []render.Reason {
	c := of(lane)
	pattern, slot := p.SlotOf(part, note)
	moved := inverted(c, pattern, slot)
	step := &moved
	symbol := nameOf(c, p.Key, step, nil).Symbol
	var chord *render.Chord
	if c.Listens() && p.Harmony != nil && p.Harmony.Lane != lane {
		chord = p.ChordOf(part, note)
	}
	want, drawn := beforeLuck(p.Key, c, pattern, slot, lane, int(note.Pitch), voicedAs(p, lane, c, step, chord))
	best, place, away := pitched.Placed{}, 0, 1<<20
	for i, tone := range c.Place(step).Tones {
		placed := pitched.At(&c.Pitched, p.Key, chord, tone)
		if pitch.Mod(placed.Locked-want, 12) != 0 {
			continue
		}
		if d := placed.Locked + 12*step.Octave - want; max(d, -d) < away {
			best, place, away = placed, i+1, max(d, -d)
		}
	}
	out := []render.Reason{{Rule: "tone", From: fmt.Sprintf("tone %d of %s", place, symbol), To: p.Key.Named(best.Raw)}}
	at := best.Raw
	add := func(rule string, to int) {
		if to != at {
			out = append(out, render.Reason{Rule: rule, From: p.Key.Named(at), To: p.Key.Named(to)})
			at = to
		}
	}
	add("lock", best.Locked)
	if c.Voicing.Mode == "written" {
		add("octave", best.Locked+12*step.Octave)
		add("inversion", unfolded(want, at))
		add("fold", want)
	} else {
		add("voicing", want)
	}
	if drawn != want {
		out = append(out, render.Reason{Rule: "odds", From: p.Key.Named(want), To: p.Key.Named(drawn)})
	}
	return render.Ranged(out, lane, p.Key, drawn)
}

// voicedAs are the pitches of a step before luck and range.
func voicedAs(p *render.Performance, lane *piece.Lane, c *piece.Chords, step *piece.ChordStep, chord *render.Chord) []uint8 {
	if chord != nil {
		return over(c, p.Key, chord, step)
	}
	if c.Voicing.Mode == "smooth" {
		voiced := Voice(lane, p.Key)
		for i := range c.Steps {
			if c.Steps[i].Chord == step.Chord && c.Steps[i].Octave == step.Octave && voiced.Steps[i] != nil {
				return voiced.Steps[i]
			}
		}
	}
	return folded(lift(c, p.Key, step))
}

// beforeLuck finds the pitch that luck and range made a note of, and what luck alone made
// of it.
func beforeLuck(key pitch.Key, c *piece.Chords, pattern *render.Pattern, s *render.Slot, lane *piece.Lane, sounds int, pitches []uint8) (want, drawn int) {
	luck := pattern.Luck(s)
	if luck == (render.Luck{}) && lane.Kept() == nil {
		return sounds, sounds
	}
	for _, p := range pitches {
		drawn := pitch.Fold(luckOf(key, c, luck, int(p)))
		if kept, ok := render.Keep(lane.Kept(), drawn); ok && kept == sounds {
			return int(p), drawn
		}
	}
	return sounds, sounds
}

// unfolded is the pitch of a class that a fold brought to want; the nearest to from
// where it was not folded.
func unfolded(want, from int) int {
	if from < 0 || from > 127 {
		return from
	}
	return want
}
