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
	out.Listed = listed(c, key, c.Place(step), pitches)
	return out
}

// listed puts pitches in the order in which the palette lists their tones: each tone
// takes the nearest of its pitch class that is left.
func listed(c *piece.Chords, key pitch.Key, from *piece.PaletteChord, pitches []uint8) []uint8 {
	left := slices.Clone(pitches)
	out := make([]uint8, 0, len(pitches))
	for _, tone := range from.Tones {
		want := pitched.At(&c.Pitched, key, nil, tone).Locked
		best := -1
		for i, p := range left {
			if d := int(p) - want; pitch.Mod(d, 12) == 0 && (best < 0 || max(d, -d) < max(int(left[best])-want, want-int(left[best]))) {
				best = i
			}
		}
		if best >= 0 {
			out = append(out, left[best])
			left = slices.Delete(left, best, best+1)
		}
	}
	return append(out, left...)
}

// same tells whether two steps have the same chord.
func same(a, b *piece.ChordStep) bool {
	return a.Chord == b.Chord && a.Octave == b.Octave && a.Inversion == b.Inversion
}

// Harmony lists the lane's chords up to the input's length. A chord begins at every
// step that sounds, unless it is tied to from the same; the first is at 0: where none
// begins there, that of the round's last step that is on, which the loop brings round.
func (Kind) Harmony(in *render.Input) []render.Beginning {
	c := of(in.Lane)
	voiced := Voice(in.Lane, in.Key)
	type place struct {
		step      int32
		inversion int
	}
	known := map[place]*render.Chord{}
	moves := inverts(c, in.Pattern)
	chordOf := func(index int32, step *piece.ChordStep) *render.Chord {
		at := place{index, step.Inversion}
		if known[at] == nil {
			pitches := voiced.Steps[index]
			if moves {
				pitches = folded(lift(c, in.Key, step))
			}
			known[at] = nameOf(c, in.Key, step, pitches)
		}
		return known[at]
	}
	var out []render.Beginning
	var last piece.ChordStep
	tied := false
	in.Pattern.Each(in.Length, func(s render.Slot) bool {
		if !s.Sounds {
			tied = tied && s.Tie
			return true
		}
		step := inverted(c, in.Pattern, &s)
		if !tied || !same(&last, &step) {
			out = append(out, render.Beginning{At: s.At, Step: s.Step, Chord: chordOf(s.Step, &step)})
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
			brought := render.Beginning{Step: order[k], Brought: true, Chord: chordOf(order[k], &c.Steps[order[k]])}
			return slices.Insert(out, 0, brought)
		}
	}
	return out
}

// Changes tells whether the lane's chord ever changes.
func (Kind) Changes(lane *piece.Lane) bool {
	c := of(lane)
	var first *piece.ChordStep
	for _, i := range render.Active(lane) {
		step := &c.Steps[i]
		if !step.On {
			continue
		}
		if first == nil {
			first = step
		} else if !same(first, step) {
			return true
		}
	}
	return false
}

// Borrowed is the lane of a clip in one key as it stands in another: its degrees stay.
func (k Kind) Borrowed(lane *piece.Lane, from, to pitch.Key) *piece.Lane {
	if slices.Equal(from.Scale.Degrees, to.Scale.Degrees) {
		return lane
	}
	out := lane.Clone()
	k.Rekey(&out, from, to, true)
	return &out
}
