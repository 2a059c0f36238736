// Package layer is what layer lanes do: they play another lane's notes, moved.
package layer

import (
	"encoding/json"
	"fmt"
	"math/big"
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/lane/pitched"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// Kind is the layer.
type Kind struct{}

func of(lane *piece.Lane) *piece.Layer { return lane.Content.(*piece.Layer) }

// move is a pitch on its way through a layer, in MIDI numbers.
type move struct {
	Moved  int   // by degrees, octaves and semitones
	Locked int   // after the lock
	Pitch  uint8 // folded into 0..127
}

// moved moves a pitch: along the scale, by octaves and semitones; then come the lock and
// the fold.
func moved(layer *piece.Layer, key pitch.Key, chord *render.Chord, p int) move {
	out := move{Moved: p}
	if layer.Degrees != 0 {
		out.Moved = key.Along(p, layer.Degrees, pitch.Snap(layer.Snap))
	}
	out.Moved += 12*layer.Octave + layer.Semitones
	out.Locked = pitched.Locked(&piece.Pitched{Lock: layer.Lock, Snap: layer.Snap}, key, chord, out.Moved)
	out.Pitch = uint8(pitch.Fold(out.Locked))
	return out
}

// Play renders the lane.
func (Kind) Play(in *render.Input) render.Part {
	layer := of(in.Lane)
	ranger := render.RangeOf(in.Lane)
	var folded move
	var keep func(*render.Note, beat.Time, int) bool
	if kept := in.Lane.KeepOf(); kept.Name != "all" {
		keep = func(n *render.Note, grid beat.Time, number int) bool { return keeps(in, kept, n, grid, number) }
	}
	var known [128]*move // of pitches that were met, where no chord matters
	part := in.Layer(layer.Of, render.Layering{
		Velocity: layer.Velocity, Gate: layer.Gate, Keep: keep, Anywhere: layer.Lock != "chord",
		Pitch: func(p uint8, grid beat.Time) (uint8, bool) {
			var chord *render.Chord
			if layer.Lock == "chord" {
				chord = in.Harmony.At(grid)
			}
			m := known[p]
			if m == nil || layer.Lock == "chord" {
				m = ptr(moved(layer, in.Key, chord, int(p)))
				known[p] = m
			}
			if int(m.Pitch) != m.Locked {
				folded = *m
			}
			if in.Lane.Kept() == nil {
				return m.Pitch, true
			}
			return ranger.Keep(m.Pitch)
		},
	})
	ranger.Mark(&part)
	if int(folded.Pitch) != folded.Locked && len(part.Notes) > 0 {
		part.Mark(render.PitchFolded, int(part.Notes[0].Step), folded.Locked)
	}
	return part
}

func ptr[T any](v T) *T { return &v }

// keeps tells whether the layer plays a note.
func keeps(in *render.Input, kept piece.Keep, n *render.Note, grid beat.Time, number int) bool {
	switch kept.Name {
	case "accents":
		return n.Velocity >= piece.Accent
	case "beats":
		return grid%in.Bar%in.Piece.BeatLength() == 0
	case "chord":
		chord := in.Harmony.At(grid)
		return chord != nil && chord.Has(int(n.Pitch))
	}
	from := number - kept.From
	return from >= 0 && from%kept.Every == 0
}

// Period is that of the original, and of the harmony where the layer listens to that, and of what is kept: with every
// n-th note a multiple of n notes, with beats whole beats.
func (Kind) Period(in *render.Input) *big.Int {
	source := in.PeriodOfSource()
	if source.Sign() == 0 {
		return source
	}
	own, kept := source, in.Lane.KeepOf()
	switch {
	case kept.Name == "beats":
		unit := in.Piece.BeatLength()
		if in.Piece.Bar()%unit != 0 {
			unit = in.Piece.Bar()
		}
		own = beat.Common(own, big.NewInt(int64(unit)))
	case kept.Every > 1:
		every := big.NewInt(int64(kept.Every))
		times := every
		if count, ok := in.CountOfSource(source); ok {
			times = new(big.Int).Div(every, new(big.Int).GCD(nil, nil, every, big.NewInt(count)))
		}
		own = new(big.Int).Mul(own, times)
	}
	return in.Hearing(own, in.Lane.Listens())
}

// Reasons tells how a note came to its pitch: as the original's did, and then moved by the
// layer, or by several one over the other.
func (Kind) Reasons(p *render.Performance, part *render.Part, lane *piece.Lane, note *render.Note) []render.Reason {
	original, out := p.OriginalReasons(part, note)
	at := int(original.Pitch)
	for _, over := range chain(p.Clip, lane) {
		layer := of(over)
		m := moved(layer, p.Key, p.Harmony.At(p.Onset(part, note)), at)
		out = append(out, render.Reason{Rule: "layer", From: p.Key.Named(at), To: p.Key.Named(m.Moved)})
		add := func(rule string, from, to int) {
			if from != to {
				out = append(out, render.Reason{Rule: rule, From: p.Key.Named(from), To: p.Key.Named(to)})
			}
		}
		add("lock", m.Moved, m.Locked)
		add("fold", m.Locked, int(m.Pitch))
		out = render.Ranged(out, over, p.Key, int(m.Pitch))
		kept, _ := render.Keep(over.Kept(), int(m.Pitch))
		at = kept
	}
	return out
}

// chain is the layers over a lane with steps up to one, the nearest to the steps first.
func chain(clip *piece.Clip, lane *piece.Lane) (out []*piece.Lane) {
	if layer, ok := lane.Content.(*piece.Layer); ok {
		for i := range clip.Lanes {
			if clip.Lanes[i].ID == layer.Of {
				return append(chain(clip, &clip.Lanes[i]), lane)
			}
		}
	}
	return nil
}

// Sounds are none: a layer has no steps.
func (Kind) Sounds(*piece.Lane, pitch.Key, func(int) *render.Chord) []render.Sound { return nil }

// Ladder is the rows around what it sounds.
func (Kind) Ladder(lane *piece.Lane, key pitch.Key, sounding []int) []pitch.Rung {
	low, high := 48, 60
	if len(sounding) > 0 {
		low, high = sounding[0], sounding[0]
	}
	for _, p := range sounding {
		low, high = min(low, p), max(high, p)
	}
	return pitched.WithTones(key.Ladder(3, max(low-2, 0), min(high+2, 127), true), sounding)
}

// Rekey has nothing to bring over: the layer follows its original.
func (Kind) Rekey(*piece.Lane, pitch.Key, pitch.Key, bool) {}

// Silence says why a layer keeps nothing of what it is a layer of.
func (Kind) Silence(p *render.Performance, lane *piece.Lane) *render.Finding {
	layer := of(lane)
	at := slices.IndexFunc(p.Clip.Lanes, func(l piece.Lane) bool { return l.ID == layer.Of })
	if at < 0 || render.Empty(p.Piece, p.Clip, &p.Clip.Lanes[at]) {
		return nil // there was nothing to keep
	}
	mend := render.MendBy("Keep all notes", op.SetLane{OnLane: op.OnLane{Clip: p.Clip.ID, Lane: lane.ID}, Patch: json.RawMessage(`{"keep":"all"}`)})
	if lane.KeepOf().Name == "chord" && p.Harmony == nil {
		return &render.Finding{
			Rule:    "no-harmony",
			Lane:    lane.ID,
			Mend:    mend,
			Message: fmt.Sprintf("%s keeps the tones of the sounding chord, but the clip has no chords; it is silent.", lane.Name),
		}
	}
	if lane.KeepOf().Name == "all" || lane.Mute || render.AnySolo(p.Clip) && !lane.Solo {
		return nil
	}
	return &render.Finding{
		Rule:    "layer-empty",
		Lane:    lane.ID,
		Mend:    mend,
		Message: fmt.Sprintf("%s keeps none of the notes of the lane that it plays (%s).", lane.Name, lane.KeepOf().Name),
	}
}
