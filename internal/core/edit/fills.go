package edit

import (
	"maps"
	"slices"
	"strings"

	"agrimony/internal/core/lane"
	"agrimony/internal/core/lane/pitched"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// A fill works on the span of what is selected: a note that ties run through other steps brings
// these with it. span gives the steps, and for each step of the lane the one that its sound began
// at, -1 where it is silent.
func (t target) span() (steps, runs []int) {
	var sounds []render.Sound
	for i := range t.StepList().Len() {
		if t.StepList().Cell(i).Tie { // nothing runs on without
			sounds = lane.SoundsWithin(t.Piece, t.Clip, t.Lane, t.Budget)
			break
		}
	}
	runs = lane.Runs(t.Lane, sounds)
	begun := map[int]bool{}
	for _, n := range t.Steps {
		begun[runs[n]] = runs[n] >= 0
	}
	steps = slices.Clone(t.Steps)
	for i, head := range runs {
		if head >= 0 && begun[head] {
			steps = append(steps, i)
		}
	}
	slices.Sort(steps)
	return slices.Compact(steps), runs
}

// spanning takes the span of what is selected for the edit's steps.
func (t target) spanning() (runs []int) {
	t.Steps, runs = t.span()
	return runs
}

// strike lets a note begin at a step. Where one ran on through it, it is that note anew: what a
// rest would sound is not what was heard there. No tie leads into a strike or on from it.
func (t target) strike(n int, runs []int) {
	steps := t.StepList()
	if runs[n] >= 0 && runs[n] != n && !steps.Cell(n).On {
		steps.Arrange([]int{n}, []int{runs[n]})
	}
	steps.Cell(n).On, steps.Cell(n).Tie = true, false
	if n > 0 {
		steps.Cell(n - 1).Tie = false
	}
}

// hits lets notes begin at some of the steps and at no other, and leaves pitches and all other
// values alone. What ties ran through the steps is gone.
func (t target) hits(runs []int, on func(i int) bool) {
	steps := t.StepList()
	for i, n := range t.Steps {
		if on(i) {
			t.strike(n, runs)
		}
	}
	for i, n := range t.Steps {
		if !on(i) {
			steps.Cell(n).On, steps.Cell(n).Tie = false, false
		}
	}
}

func fillEvery(t target, o op.FillEvery) error {
	if o.Every < 1 || o.Every > piece.MaxSteps {
		return t.Wrong("every", "every %d-th step; allowed: 1..%d", o.Every, piece.MaxSteps)
	}
	t.hits(t.spanning(), func(i int) bool { return i%o.Every == 0 })
	return nil
}

func fillEven(t target, o op.FillEven) error {
	runs := t.spanning()
	total := len(t.Steps)
	if o.Over < 0 || o.Over > total {
		return t.Wrong("over", "%d of %s; allowed: 1..%d, or 0 for all", o.Over, render.Many(total, "step"), total)
	}
	if o.Over > 0 {
		total = o.Over
	}
	if o.Hits < 0 || o.Hits > total {
		return t.Wrong("hits", "%d over %s; allowed: 0..%d", o.Hits, render.Many(total, "step"), total)
	}
	even := Even(o.Hits, total, o.Turn)
	t.hits(runs, func(i int) bool { return even[i%total] })
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

// fillPattern gives the sounding ones among the steps the tones in turn, counted from the root of
// the chord that sounds there, and leaves the rhythm alone.
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
	chords := t.Chords()
	turn := 0
	for _, n := range t.Steps {
		if !t.StepList().Cell(n).On {
			continue
		}
		word := o.Tones[turn%len(o.Tones)]
		turn++
		tone, ok := tones[word]
		if !ok {
			return t.Wrong("tones", "%q is not allowed; allowed: %s", word, allowed)
		}
		place := pitch.Place{Degree: nearestNumber(scale, tone.number), Octave: tone.octave}
		if own := piece.PitchedOf(t.Lane); own.Follow != "root" { // which counts from the chord by itself
			place = overChord(t.Key(), own, chords[n], place)
		}
		if err := kind.SetPlace(t.Lane, t.Key(), n, place); err != nil {
			return t.Under(err)
		}
	}
	return nil
}

// overChord counts a place that is meant from the tonic from a sounding chord's root instead, which
// lies in the octave from the lane's tonic upwards; without a chord it stays.
func overChord(key pitch.Key, own *piece.Pitched, chord *render.Chord, at pitch.Place) pitch.Place {
	if chord == nil {
		return at
	}
	rooted := *own
	rooted.Follow, rooted.Lock = "root", "off"
	return key.Express(pitched.At(&rooted, key, chord, at).Raw, own.Octave)
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
	t.hits(t.spanning(), func(i int) bool { return i%o.Of < o.Take })
	return nil
}

// What accents are struck at, and hits that no longer are accents.
const (
	accented = 120
	plain    = 100
)

// fillAccents accents some of the hits.
func fillAccents(t target, o op.FillAccents) error {
	t.spanning()
	hits := t.hitsAmong()
	if o.Most {
		o.Hits = min(o.Hits, len(hits))
	}
	switch {
	case len(hits) == 0 && o.Hits > 0:
		return t.Wrong("steps", "none of these steps is on; allowed: steps with hits")
	case o.Hits < 0 || o.Hits > len(hits):
		return t.Wrong("hits", "%s on %s; allowed: 0..%d", render.Many(o.Hits, "accent"), render.Many(len(hits), "hit"), len(hits))
	case len(hits) == 0:
		return nil
	}
	even := Even(o.Hits, len(hits), o.Turn)
	for i, n := range hits {
		cell := t.StepList().Cell(n)
		if even[i] {
			cell.Velocity = accented
		} else if cell.Velocity >= piece.Accent {
			cell.Velocity = plain
		}
	}
	return nil
}

// hitsAmong lists those of the steps that are on.
func (t target) hitsAmong() (out []int) {
	for _, n := range t.Steps {
		if t.StepList().Cell(n).On {
			out = append(out, n)
		}
	}
	return out
}

// fillChance sets the chance of all of the steps, or of the weak ones.
func fillChance(t target, o op.FillChance) error {
	if o.Chance < 0 || o.Chance > 100 {
		return t.Wrong("chance", "%d is out of range; allowed: 0..100", o.Chance)
	}
	t.spanning()
	weight := t.weights()
	for _, n := range t.hitsAmong() {
		if !o.Weak || weight[n] < onUnit {
			t.StepList().Cell(n).Chance = o.Chance
		}
	}
	return nil
}

// How strong a place in the bar is.
const (
	offUnit = iota
	halfUnit
	onUnit
	onBar
)

// weights tells how strong each step's first place in the bar is.
func (t target) weights() []int {
	out := make([]int, t.StepList().Len())
	seen := make([]bool, len(out))
	pattern := render.PatternOf(t.Piece, t.Clip, t.Lane)
	pattern.Each(pattern.RoundLength(), func(s render.Slot) bool {
		t.Budget.Spend(1)
		if seen[s.Step] {
			return true
		}
		seen[s.Step] = true
		switch at := s.At % t.Piece.Bar(); {
		case at == 0:
			out[s.Step] = onBar
		case at%t.Piece.BeatLength() == 0:
			out[s.Step] = onUnit
		case at%(t.Piece.BeatLength()/2) == 0:
			out[s.Step] = halfUnit
		}
		return true
	})
	return out
}

// everySecond is the share of hits that thinning takes away where none is named, in percent.
const everySecond = 50

// thinOut takes hits away, the weakest of the bar first and of those every second, then every fourth, so that what is
// left keeps its feel. Where a larger share goes, all goes that a smaller one takes.
func thinOut(t target, o op.ThinOut) error {
	if o.Share < 0 || o.Share > 100 {
		return t.Wrong("share", "%d percent; allowed: 1..100, or 0 for every second hit", o.Share)
	}
	if o.Share == 0 {
		o.Share = everySecond
	}
	t.spanning()
	hits := t.hitsAmong()
	weight := t.weights()
	left := len(hits) * o.Share / 100
	for strength := offUnit; strength <= onBar && left > 0; strength++ {
		var same []int
		for _, n := range hits {
			if weight[n] == strength {
				same = append(same, n)
			}
		}
		gone := min(left, len(same))
		for _, i := range fading(len(same))[:gone] {
			t.StepList().Cell(same[i]).On = false
		}
		left -= gone
	}
	return nil
}

// fading is the order in which so many equal hits go: every second, then every second of what is left, the first last.
func fading(count int) (order []int) {
	if count < 2 {
		return make([]int, count)
	}
	for _, i := range fading(count / 2) {
		order = append(order, 2*i+1)
	}
	for _, i := range fading(count - count/2) {
		order = append(order, 2*i)
	}
	return order
}

// softer is how hard a hit put between two is struck, in % of the one before.
const softer = 72

// doubleHits puts a softer hit half way between each hit and the next.
func doubleHits(t target, _ op.DoubleHits) error {
	runs := t.spanning()
	hits := t.hitsAmong()
	if len(hits) == 0 {
		return t.Wrong("steps", "none of these steps is on; allowed: steps with hits")
	}
	steps := t.StepList()
	for i, n := range hits {
		next := t.Steps[len(t.Steps)-1] + 1
		if i+1 < len(hits) {
			next = hits[i+1]
		}
		between := n + (next-n)/2
		if between == n || steps.Cell(between).On || !slices.Contains(t.Steps, between) {
			continue
		}
		steps.Arrange([]int{between}, []int{n})
		t.strike(between, runs)
		cell := steps.Cell(between)
		cell.Velocity = max(cell.Velocity*softer/100, 1)
	}
	return nil
}
