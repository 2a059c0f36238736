package chords

import (
	"slices"

	"agrimony/internal/core/chord"
	"agrimony/internal/core/lane/pitched"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// Written is what a chord of the palette is as it was written, before octave,
// inversion and voicing.
type Written struct {
	Found chord.Found
	Root  pitch.Name
	Tone  pitch.Place // the root's
}

// Write names a chord of a lane's palette by its tones as written.
func Write(c *piece.Chords, key pitch.Key, from *piece.PaletteChord) Written {
	pitches := make([]int, len(from.Tones))
	lowest := from.Tones[0]
	for i, tone := range from.Tones {
		pitches[i] = key.Pitch(tone, c.Octave)
		if pitches[i] < key.Pitch(lowest, c.Octave) {
			lowest = tone
		}
	}
	out := Written{Found: chord.Find(pitches, &key), Tone: lowest}
	found := false
	for i, tone := range from.Tones {
		if pitch.Mod(pitches[i], 12) == out.Found.Class && (!found || pitches[i] < key.Pitch(out.Tone, c.Octave)) {
			out.Tone, found = tone, true
		}
	}
	out.Root = key.NameOf(out.Tone)
	return out
}

// nameOf is a step's chord with its names; without pitches as its tones are written.
func nameOf(c *piece.Chords, key pitch.Key, step *piece.ChordStep, pitches []uint8) *render.Chord {
	written := Write(c, key, c.Place(step))
	bass := lift(c, key, step)[0]
	if pitches != nil {
		bass = int(pitches[0])
	}
	out := &render.Chord{
		Place: step.Chord, Pitches: pitches, Root: written.Root,
		Symbol: written.Found.Symbol(written.Root, pitch.Mod(bass, 12)), Numeral: written.Found.Numeral(key, written.Root, pitch.Mod(bass, 12)),
		RootDegree: key.Index(written.Found.Class),
	}
	if out.RootDegree == 0 {
		out.RootDegree, out.RootAlter = written.Tone.Degree, written.Tone.Alter
	}
	for _, p := range pitches {
		out.Classes |= 1 << (p % 12)
	}
	return out
}

// listed puts the pitches of a step in the order in which the palette lists their tones.
// Of tones of one pitch class, the lower one as it is written, inverted and moved by octaves
// is the lower one as it lies; those that meet are there once, where the first of them is.
func listed(c *piece.Chords, key pitch.Key, step *piece.ChordStep, pitches []uint8) []uint8 {
	written := make([]int, len(c.Place(step).Tones))
	for i, tone := range c.Place(step).Tones {
		written[i] = pitched.At(&c.Pitched, key, nil, tone).Locked
	}
	chord.InvertEach(written, step.Inversion)
	out := make([]uint8, 0, len(pitches))
	for i, own := range written {
		if slices.Contains(written[:i], own) {
			continue // it meets an earlier one
		}
		below := 0 // how many other pitches of its class lie lower
		for k, other := range written {
			if other < own && pitch.Mod(other-own, 12) == 0 && !slices.Contains(written[:k], other) {
				below++
			}
		}
		for _, p := range pitches {
			if pitch.Mod(int(p)-own, 12) == 0 {
				if below == 0 {
					out = append(out, p)
					break
				}
				below--
			}
		}
	}
	return out
}

// same tells whether two steps have the same chord.
func same(a, b *piece.ChordStep) bool {
	return a.Chord == b.Chord && a.Octave == b.Octave && a.Inversion == b.Inversion
}

// sounding gives the chords of a lane's steps as they sound, each once.
type sounding struct {
	c      *piece.Chords
	key    pitch.Key
	voiced Voiced
	moves  bool // modulators invert them
	known  map[place]*render.Chord
}

// place is a step (from 0) in an inversion.
type place struct {
	step      int32
	inversion int
}

func newSounding(in *render.Input, key pitch.Key) *sounding {
	c := of(in.Lane)
	return &sounding{c: c, key: key, voiced: Voice(in.Lane, key), moves: inverts(c, in.Pattern), known: map[place]*render.Chord{}}
}

// of is the chord of a step that is on.
func (s *sounding) of(index int32, step *piece.ChordStep) *render.Chord {
	at := place{index, step.Inversion}
	if out := s.known[at]; out != nil {
		return out
	}
	pitches := s.voiced.Steps[index]
	if s.moves {
		pitches = folded(lift(s.c, s.key, step))
	}
	out := nameOf(s.c, s.key, step, pitches)
	written := *step
	if s.c.Voicing.Mode == "smooth" && int(index) != s.voiced.Order[0] {
		written.Octave, written.Inversion = 0, 0 // they act on the first alone
	}
	out.Listed = listed(s.c, s.key, &written, pitches)
	s.known[at] = out
	return out
}

// Harmony lists the lane's chords up to the input's length. A chord begins at every
// step that sounds, unless it is tied to from the same; the first is at 0: where none
// begins there, that of the round's last step that is on, which the loop brings round.
func (Kind) Harmony(in *render.Input) []render.Beginning {
	c := of(in.Lane)
	chords := newSounding(in, in.Key)
	var out []render.Beginning
	var last piece.ChordStep
	tied := false
	in.Pattern.Each(in.Length, func(s render.Slot) bool {
		in.Worked(2)
		if !s.Sounds {
			tied = tied && s.Tie
			return true
		}
		step := inverted(c, in.Pattern, &s)
		if !tied || !same(&last, &step) {
			in.Kept(1)
			out = append(out, render.Beginning{At: s.At, Step: s.Step, Chord: chords.of(s.Step, &step)})
		}
		last, tied = step, s.Tie
		return true
	})
	if len(out) > 0 && out[0].At == 0 {
		return out
	}
	order := in.Pattern.Order()
	for k := len(order) - 1; k >= 0; k-- {
		if c.Steps[order[k]].On {
			brought := render.Beginning{Step: order[k], Brought: true, Chord: chords.of(order[k], &c.Steps[order[k]])}
			return slices.Insert(out, 0, brought)
		}
	}
	return out
}

// Shifted is the lane with the tones of its palette so many degrees along the key; where it counts from
// the roots of other chords, those move it.
func (Kind) Shifted(lane *piece.Lane, key pitch.Key, by int, led bool) *piece.Lane {
	c := of(lane)
	out := lane.Clone()
	if led && c.Follow == "root" {
		return &out
	}
	own := of(&out)
	for i := range own.Palette {
		place := &own.Palette[i]
		place.Tones, place.Name = pitched.AlongAll(key, place.Tones, by), "" // it is another chord
	}
	return &out
}

// Changes tells whether the lane's chord ever changes among the steps that are come to, or,
// with lying, how it lies.
func (Kind) Changes(in *render.Input, lying bool) bool {
	c := of(in.Lane)
	if lying && inverts(c, in.Pattern) {
		return true
	}
	var chords *sounding
	first := int32(-1)
	for _, i := range in.Pattern.Reached() {
		step := &c.Steps[i]
		switch {
		case !step.On:
		case first < 0:
			first = i
		case !lying && !same(&c.Steps[first], step):
			return true
		case lying:
			if chords == nil {
				chords = newSounding(in, in.Piece.KeyOf(in.Clip))
			}
			a, b := chords.of(first, &c.Steps[first]), chords.of(i, step)
			if a.Root.Class() != b.Root.Class() || !slices.Equal(a.Pitches, b.Pitches) || !slices.Equal(a.Listed, b.Listed) {
				return true
			}
		}
	}
	return false
}

// Moving are the fields that decide the chords as modulators move them.
func (Kind) Moving() []render.Field { return []render.Field{render.Inversion} }

// Borrowed is the lane of a clip in one key as it stands in another: its degrees stay.
func (k Kind) Borrowed(lane *piece.Lane, from, to pitch.Key) *piece.Lane {
	return pitched.Borrowed(lane, from, to, k.Rekey)
}
