package edit

import (
	"maps"
	"slices"
	"strings"

	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// hits switches the steps on or off and leaves their pitches and other values alone.
func (t target) hits(on func(i int) bool) {
	steps := t.Slots()
	for i, n := range t.Steps {
		steps.Cell(n).On = on(i)
	}
}

func fillEvery(t target, o op.FillEvery) error {
	if o.Every < 1 || o.Every > piece.MaxSteps {
		return t.Wrong("every", "every %d-th step; allowed: 1..%d", o.Every, piece.MaxSteps)
	}
	t.hits(func(i int) bool { return i%o.Every == 0 })
	return nil
}

func fillEven(t target, o op.FillEven) error {
	total := len(t.Steps)
	if o.Hits < 0 || o.Hits > total {
		return t.Wrong("hits", "%d hits over %d steps; allowed: 0..%d", o.Hits, total, total)
	}
	even := Even(o.Hits, total, o.Turn)
	t.hits(func(i int) bool { return even[i] })
	return nil
}

// Even spreads hits over total places as evenly as whole places allow, and turns
// them so many places later. It pairs hits with rests, then the pairs with what
// is left, until nothing is left to pair (Bjorklund's algorithm, as Toussaint
// described it for rhythms in 2005): three over eight fall on 1, 4 and 7.
func Even(hits, total, turn int) []bool {
	heads, rest := make([][]bool, hits), make([][]bool, total-hits)
	for i := range heads {
		heads[i] = []bool{true}
	}
	for i := range rest {
		rest[i] = []bool{false}
	}
	for len(rest) > 1 && len(heads) > 0 {
		pairs := min(len(heads), len(rest))
		for i := range pairs {
			heads[i] = append(heads[i], rest[i]...)
		}
		rest = append(heads[pairs:len(heads):len(heads)], rest[pairs:]...)
		heads = heads[:pairs]
	}
	out := make([]bool, total)
	for i, on := range slices.Concat(slices.Concat(heads, rest)...) {
		out[pitch.Mod(i+turn, total)] = on
	}
	return out
}

// fillFrom takes the other lane's onsets of this lane's first round, each onto the
// step within whose time it falls, or the steps where none falls.
func fillFrom(t target, o op.FillFrom) error {
	at := slices.IndexFunc(t.Clip.Lanes, func(l piece.Lane) bool { return l.ID == o.From })
	if at < 0 {
		return t.Wrong("from", "no lane %q in clip %q", o.From, t.Clip.ID)
	}
	other := &t.Clip.Lanes[at]
	if other.Content.Slots() == nil || o.From == t.Lane.ID {
		return t.Wrong("from", "%q has no rhythm to take; allowed: another lane with steps", o.From)
	}
	own := render.PatternOf(t.Piece, t.Clip.ID, t.Lane)
	slots := own.Slots(own.RoundLength())
	on := map[int]bool{}
	render.PatternOf(t.Piece, t.Clip.ID, other).Each(own.RoundLength(), func(s render.Slot) bool {
		t.Budget.Spend(1)
		if s.Sounds {
			on[int(slots[s.At/own.Step].Step)] = true
		}
		return true
	})
	t.hits(func(i int) bool { return on[t.Steps[i]] != o.Rests })
	return nil
}

func (t target) placer() (placer, error) {
	if kind, ok := t.Kind().(placer); ok {
		return kind, nil
	}
	return nil, t.Wrong("lane", "steps of %s lanes have no pitch of their own", t.Lane.Kind)
}

func fillContour(t target, o op.FillContour) error {
	if len(o.Places) != len(t.Steps) {
		return t.Wrong("places", "%d places for %d steps; allowed: one for each", len(o.Places), len(t.Steps))
	}
	kind, err := t.placer()
	if err != nil {
		return err
	}
	if o.Ticks != nil && len(o.Ticks) != len(o.Places) {
		return t.Wrong("ticks", "%d ticks for %d places; allowed: one for each, or none", len(o.Ticks), len(o.Places))
	}
	meant, err := t.meant(o.Ticks)
	if err != nil {
		return err
	}
	for i, n := range t.Steps {
		if o.Places[i] == nil {
			continue
		}
		if err := kind.SetPlace(t.Lane, t.Key(), n, meant(i, *o.Places[i])); err != nil {
			return t.Under(err)
		}
	}
	return nil
}

// tones are the words of a pitch pattern, by the scale's own degree numbers.
var tones = map[string]struct{ number, octave int }{
	"root": {1, 0}, "third": {3, 0}, "fifth": {5, 0}, "octave": {1, 1}, "low fifth": {5, -1}, "seventh": {7, 0},
}

// Patterns are pitch patterns worth a button, as tones in turn.
var Patterns = [][]string{
	{"root"}, {"root", "fifth"}, {"root", "octave"}, {"root", "third", "fifth"}, {"root", "fifth", "octave", "fifth"}, {"root", "root", "low fifth", "seventh"},
}

// fillPattern gives the sounding ones among the steps the tones in turn, and
// leaves the rhythm alone.
func fillPattern(t target, o op.FillPattern) error {
	allowed := strings.Join(slices.Sorted(maps.Keys(tones)), ", ")
	if len(o.Tones) == 0 || len(o.Tones) > 64 {
		return t.Wrong("tones", "%d tones; allowed: 1..64 of %s", len(o.Tones), allowed)
	}
	kind, err := t.placer()
	if err != nil {
		return err
	}
	scale := t.Key().Scale
	turn := 0
	for _, n := range t.Steps {
		if !t.Slots().Cell(n).On {
			continue
		}
		word := o.Tones[turn%len(o.Tones)]
		turn++
		tone, ok := tones[word]
		if !ok {
			return t.Wrong("tones", "%q is not allowed; allowed: %s", word, allowed)
		}
		if err := kind.SetPlace(t.Lane, t.Key(), n, pitch.Place{Degree: nearestNumber(scale, tone.number), Octave: tone.octave}); err != nil {
			return t.Under(err)
		}
	}
	return nil
}

// nearestNumber finds the degree (1-based) of a scale that stands for a number
// of the major scale: the one with that number, else the nearest in pitch.
func nearestNumber(scale pitch.Scale, number int) int {
	major, err := pitch.FindScale("major")
	if err != nil {
		panic(err)
	}
	degree, _ := pitch.KeepDegree(major, scale, number)
	return degree
}

func fillShare(t target, o op.FillShare) error {
	if o.Of < 1 || o.Of > piece.MaxSteps || o.Take < 0 || o.Take > o.Of {
		return t.Wrong("take", "%d of %d; allowed: up to all of 1..%d", o.Take, o.Of, piece.MaxSteps)
	}
	t.hits(func(i int) bool { return i%o.Of < o.Take })
	return nil
}
