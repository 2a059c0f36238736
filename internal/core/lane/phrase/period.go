package phrase

import (
	"math/big"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// Period is the shortest time after which pattern, harmony and walk stand as they stood,
// once the walk has started over for the first time: that of pattern and harmony where
// the walk starts over with them, and otherwise as many of these as bring its place back.
func (Kind) Period(in *render.Input) *big.Int {
	p := of(in.Lane)
	walking := false
	for _, i := range in.Pattern.Active {
		walking = walking || p.Steps[i].On && walks(p.Steps[i].Play)
	}
	restarts := walking && in.Lane.Restart > 0
	time, rounds := clock(in, p, restarts && p.Walk != "round")
	if time.Sign() == 0 {
		return time
	}
	theirs, changes := in.HarmonyPeriod()
	begins := false
	if theirs != nil && theirs.Sign() != 0 {
		begins = walking && p.Walk == "chord" && beginsAgain(in, theirs)
		decides := p.Source == "harmony" || p.Pitched.Listens() || rooted(p)
		if begins || changes && decides {
			time = beat.Common(time, theirs)
		}
	}
	if !walking || begins || restarts || p.Walk == "round" {
		return time
	}
	moved := rounds(time)
	if sum, ok := movesWithin(in, p, time); ok {
		moved = sum
	} else {
		moved.Mul(moved, big.NewInt(int64(roundMoves(in, p))))
	}
	length := lengths(in, p)
	again := new(big.Int).Div(length, new(big.Int).GCD(nil, nil, length, new(big.Int).Abs(moved)))
	return again.Mul(again, time)
}

// clock is after how long the place in the pattern and its round numbers recur, by the
// lane's rate or by another lane's onsets, and how many rounds a multiple of that has.
// restarts tells that a restart counts even where it cuts no round, since the walk starts
// over with it.
func clock(in *render.Input, p *piece.Phrase, restarts bool) (time *big.Int, rounds func(time *big.Int) *big.Int) {
	restart := big.NewInt(int64(in.Lane.Restart) * int64(in.Piece.Bar()))
	own := in.Pattern.Period()
	if p.Rhythm != nil {
		own = in.Pattern.OwnPeriod()
	}
	if p.Rhythm == nil {
		if restarts && own.Sign() != 0 {
			own = beat.Common(own, restart)
		}
		return own, func(time *big.Int) *big.Int {
			return new(big.Int).Div(time, big.NewInt(int64(in.Pattern.RoundLength())))
		}
	}
	period, moments := in.Clocking(p.Rhythm.Lane)
	if own.Sign() == 0 || period.Sign() == 0 || moments == 0 {
		return new(big.Int), nil
	}
	if in.Lane.Restart > 0 {
		return in.Pattern.Modulated(beat.Common(period, restart)), nil
	}
	each := big.NewInt(moments)
	slots := new(big.Int).Div(own, big.NewInt(int64(in.Pattern.Step))) // until place and round numbers recur
	times := new(big.Int).Div(slots, new(big.Int).GCD(nil, nil, slots, each))
	return in.Pattern.Modulated(times.Mul(times, period)), func(time *big.Int) *big.Int {
		out := new(big.Int).Div(time, period)
		out.Mul(out, each)
		return out.Div(out, big.NewInt(int64(in.Pattern.RoundSlots())))
	}
}

func rooted(p *piece.Phrase) bool {
	if p.Pedal != nil && p.Pedal.Tone == "root" {
		return true
	}
	for i := range p.Steps {
		if p.Steps[i].On && p.Steps[i].Play == "root" {
			return true
		}
	}
	return false
}

// beginsAgain tells whether a chord begins in the second round of the harmony, or later.
func beginsAgain(in *render.Input, period *big.Int) bool {
	h := chordsWithin(in, new(big.Int).Mul(period, big.NewInt(2)))
	if h == nil {
		return false
	}
	for _, b := range h.Chords {
		if big.NewInt(int64(b.At)).Cmp(period) >= 0 {
			return true
		}
	}
	return false
}

// farthest is how far ahead chords are looked at, in bars: as far as a clip may be
// rendered.
const farthest = 2 * beat.MaxBars

func chordsWithin(in *render.Input, length *big.Int) *render.Harmony {
	limit := in.Piece.Bar() * farthest
	if length.IsInt64() && beat.Time(length.Int64()) < limit {
		limit = beat.Time(length.Int64())
	}
	return in.ChordsUntil(limit)
}

// movesWithin is by how much the walk moves in a time, where modulators let ratchets differ
// from round to round and walk; false where they do not, or the time is too long to look at.
func movesWithin(in *render.Input, p *piece.Phrase, time *big.Int) (*big.Int, bool) {
	if p.Repeats != "walk" || p.Rhythm != nil || !in.Pattern.Moves(render.Ratchet) || !time.IsInt64() || beat.Time(time.Int64()) > in.Piece.Bar()*farthest {
		return nil, false
	}
	sum := 0
	in.Pattern.Each(beat.Time(time.Int64()), func(s render.Slot) bool {
		if step := &p.Steps[s.Step]; step.On {
			sum += in.Pattern.Moved(render.Ratchet, &s, step.Ratchet) * moves(step.Play)
		}
		return true
	})
	return big.NewInt(int64(sum)), true
}

// roundMoves is by how much one round moves the walk.
func roundMoves(in *render.Input, p *piece.Phrase) (sum int) {
	for _, i := range in.Pattern.Order() {
		if step := &p.Steps[i]; step.On {
			times := 1
			if p.Repeats == "walk" {
				times = step.Ratchet
			}
			sum += times * moves(step.Play)
		}
	}
	return sum
}

// lengths is the least common multiple of the lengths of the orders that steps that walk
// meet.
func lengths(in *render.Input, p *piece.Phrase) *big.Int {
	out := big.NewInt(1)
	w := &walker{lane: in.Lane, phrase: p, key: in.Piece.KeyOf(in.Clip), ladders: map[setting]*Ladder{}, crafted: crafted(in)}
	meet := func(s *render.Slot, chord *render.Chord) {
		if _, known := w.ladders[w.setting(s, chord)]; known {
			return
		}
		if l := w.ladder(s, chord); l != nil {
			out = beat.Common(out, big.NewInt(int64(l.Length())))
		}
	}
	own := in.Pattern.Period()
	theirs, _ := in.HarmonyPeriod()
	if theirs == nil || theirs.Sign() == 0 {
		theirs = big.NewInt(1)
	}
	span := beat.Common(own, theirs)
	h := chordsWithin(in, new(big.Int).Mul(span, big.NewInt(2)))
	if h == nil && crafted(in) == nil {
		meet(&render.Slot{}, nil)
		return out
	}
	chord := h.Walk()
	if h != nil {
		w.octave = h.Lane.Content.(*piece.Chords).Octave
	}
	limit := beat.Time(0)
	if span.IsInt64() && span.Int64() < int64(in.Piece.Bar()*farthest)/2 {
		limit = beat.Time(span.Int64())
	} else {
		limit = in.Piece.Bar() * farthest / 2
	}
	in.Pattern.Each(2*limit, func(s render.Slot) bool {
		over := chord(s.At)
		if step := &p.Steps[s.Step]; s.At >= limit && step.On && walks(step.Play) {
			meet(&s, over)
		}
		return true
	})
	return out
}
