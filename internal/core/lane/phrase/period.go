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
// Where there is too much to look at for that it is a multiple of the shortest.
func (Kind) Period(in *render.Input) *big.Int {
	p := of(in.Lane)
	walking := false
	for _, i := range in.Pattern.Active {
		walking = walking || p.Steps[i].On && walks(p.Steps[i].Play)
	}
	restarts := walking && in.Lane.Restart > 0
	c := clockOf(in, p, restarts && p.Walk != "round")
	time := c.time
	if time.Sign() == 0 {
		return time
	}
	begins := false
	if theirs := in.HarmonyPeriod(); theirs.Sign() != 0 {
		begins = walking && p.Walk == "chord" && beginsAgain(in, theirs)
		decides := p.Source == "harmony" || p.Pitched.Listens() || rooted(p)
		if begins || decides && in.ChordChanges(p.Source == "harmony") {
			time = beat.Common(time, theirs)
		}
	}
	if !walking || begins || restarts || p.Walk == "round" {
		return time
	}
	lengths, moves := c.walked(time)
	return new(big.Int).Mul(again(lengths, moves), time)
}

// clock is what takes the steps of a pattern: the lane's rate, or another lane's onsets.
type clock struct {
	in       *render.Input
	phrase   *piece.Phrase
	clocking *render.Clocking // nil: its rate
	time     *big.Int         // after which its place and its round numbers recur
}

// clockOf works out after how long the place in the pattern and its round numbers recur.
// restarts tells that a restart counts even where it cuts no round, since the walk starts
// over with it.
func clockOf(in *render.Input, p *piece.Phrase, restarts bool) clock {
	out := clock{in: in, phrase: p, time: in.Pattern.Period()}
	restart := big.NewInt(int64(in.Lane.Restart) * int64(in.Piece.Bar()))
	if p.Rhythm == nil {
		if restarts && out.time.Sign() != 0 {
			out.time = beat.Common(out.time, restart)
		}
		return out
	}
	out.clocking = in.Clocking(p.Rhythm.Lane)
	places, period := in.Pattern.RoundSlots(), out.clocking.Period
	if places == 0 || period.Sign() == 0 || out.clocking.Known && len(out.clocking.Moments) == 0 {
		out.time = new(big.Int)
		return out
	}
	if restart.Sign() > 0 {
		whole := beat.Common(period, restart)
		if rounds, cuts := out.roundsIn(whole, restart); cuts || restarts {
			out.time = in.Pattern.Modulated(whole.Mul(whole, again(in.Pattern.Rounds(), rounds)))
			return out
		}
	}
	slots := new(big.Int).Mul(big.NewInt(int64(places)), in.Pattern.Rounds()) // until place and round numbers recur
	moments := big.NewInt(1)
	if out.clocking.Known {
		moments.SetInt64(int64(len(out.clocking.Moments)))
	}
	out.time = in.Pattern.Modulated(new(big.Int).Mul(period, again(slots, moments)))
	return out
}

// again is how many times so many steps have to be taken until they are a multiple of a
// number.
func again(number, steps *big.Int) *big.Int {
	return new(big.Int).Div(number, new(big.Int).GCD(nil, nil, number, steps))
}

// roundsIn counts the rounds that a pattern begins in a time of whole restarts, each of which
// begins one anew, and tells whether a restart cuts any. Where there are too many to look at
// it says one, that is cut.
func (c *clock) roundsIn(whole, restart *big.Int) (rounds *big.Int, cuts bool) {
	one := big.NewInt(1)
	slots, length, ok := c.in.Unfolded(whole, c.clocking)
	if !ok {
		return one, true
	}
	bar := beat.Time(restart.Int64())
	count := map[beat.Time]int{}
	for i := range slots {
		if at := slots[i].At; at < length {
			count[at/bar]++
		}
	}
	sum, places := 0, c.in.Pattern.RoundSlots()
	for _, n := range count {
		sum += (n + places - 1) / places
		cuts = cuts || n%places != 0
	}
	return big.NewInt(int64(sum)), cuts
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

// beginsAgain tells whether a chord begins in the second round of the harmony.
func beginsAgain(in *render.Input, period *big.Int) bool {
	if !period.IsInt64() || beat.Time(period.Int64()) > in.Piece.Bar()*beat.MaxBars {
		return false
	}
	length := beat.Time(period.Int64())
	h := in.ChordsUntil(2 * length)
	if h == nil {
		return false
	}
	for _, b := range h.Chords {
		if b.At >= length && b.At < 2*length {
			return true
		}
	}
	return false
}

// walked is, of a time after which pattern and harmony recur, the least common multiple of the
// lengths of the orders that steps that walk meet in it, and by how much the walk moves.
func (c *clock) walked(time *big.Int) (lengths, moved *big.Int) {
	in, p := c.in, c.phrase
	w := &walker{lane: in.Lane, phrase: p, key: in.Piece.KeyOf(in.Clip), flights: map[setting]*Stairs{}, crafted: crafted(in)}
	lengths, moved = big.NewInt(1), new(big.Int)
	meet := func(s *render.Slot, chord *render.Chord) {
		if _, known := w.flights[w.setting(s, chord)]; known {
			return
		}
		if l := w.stairs(s, chord); l != nil {
			lengths = beat.Common(lengths, big.NewInt(int64(l.Length())))
		}
	}
	slots, length, whole := in.Unfolded(time, c.clocking)
	until := 2 * length
	if !whole {
		until = in.Piece.Bar() * beat.MaxBars
	}
	h := in.ChordsUntil(until)
	if h != nil {
		w.octave = h.Octave()
	}
	if !whole { // all that it may meet, and no move that would make it recur sooner
		if h == nil {
			meet(&render.Slot{}, nil)
		} else {
			for _, b := range h.Chords {
				meet(&render.Slot{At: b.At}, b.Chord)
			}
		}
		return lengths, moved.SetInt64(1)
	}
	chord := h.Walk()
	sum := 0
	for i := range slots {
		s := &slots[i]
		over, step := chord(s.At), &p.Steps[s.Step]
		if s.At < length || !step.On {
			continue
		}
		times := 1
		if p.Repeats == "walk" {
			times = in.Pattern.Moved(render.Ratchet, s, step.Ratchet)
		}
		sum += times * moves(step.Play)
		if walks(step.Play) {
			meet(s, over)
		}
	}
	return lengths, moved.SetInt64(int64(max(sum, -sum)))
}
