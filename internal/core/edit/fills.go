package edit

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
)

// hit switches a step on or off and leaves its pitch and its other values alone.
func (t *target) hit(n int, on bool) { t.step(n).On = on }

// fillEvery switches on every By-th of the named steps, from the first on, and
// the others off.
func fillEvery(t *target) error {
	if t.op.By < 1 {
		return &piece.Fault{Path: "by", Problem: fmt.Sprintf("every %d-th step; allowed: 1 and above", t.op.By)}
	}
	for i, n := range t.op.Steps {
		t.hit(n, i%t.op.By == 0)
	}
	return nil
}

// fillEven spreads By hits evenly over the named steps. Pattern, when given, holds
// the rotation: by how many steps they come later.
func fillEven(t *target) error {
	total := len(t.op.Steps)
	hits, rotation := t.op.By, 0
	if hits < 0 || hits > total {
		return &piece.Fault{Path: "by", Problem: fmt.Sprintf("%d hits over %d steps; allowed: 0..%d", hits, total, total)}
	}
	if len(t.op.Pattern) > 0 {
		if _, err := fmt.Sscanf(t.op.Pattern[0], "%d", &rotation); err != nil {
			return &piece.Fault{Path: "pattern[0]", Problem: fmt.Sprintf("%q is not a rotation; allowed: a whole number", t.op.Pattern[0])}
		}
	}
	for i, on := range Even(hits, total, rotation) {
		t.hit(t.op.Steps[i], on)
	}
	return nil
}

// Even spreads hits over total places as evenly as whole places allow, and turns
// them rotation places later. It pairs hits with rests, then the pairs with what
// is left, until nothing is left to pair (Bjorklund's algorithm, as Toussaint
// described it for rhythms in 2005): three over eight fall on 1, 4 and 7.
func Even(hits, total, rotation int) []bool {
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
		out[pitch.Mod(i+rotation, total)] = on
	}
	return out
}

// fillContour sets the pitches of the named steps to Places, one for each; null
// leaves a step alone.
func fillContour(t *target) error {
	if len(t.op.Places) != len(t.op.Steps) {
		return &piece.Fault{Path: "places", Problem: fmt.Sprintf("%d places for %d steps; allowed: one for each", len(t.op.Places), len(t.op.Steps))}
	}
	for i, n := range t.op.Steps {
		if t.op.Places[i] == nil {
			continue
		}
		if err := t.setPlace(n, *t.op.Places[i]); err != nil {
			return err
		}
	}
	return nil
}

// tones are the words of a pitch pattern, by the scale's own degree numbers.
var tones = map[string]struct{ number, octave int }{
	"root": {1, 0}, "third": {3, 0}, "fifth": {5, 0}, "octave": {1, 1}, "low fifth": {5, -1}, "seventh": {7, 0},
}

// fillPattern gives the sounding ones among the named steps the tones of
// Pattern in turn, and leaves the rhythm alone.
func fillPattern(t *target) error {
	if len(t.op.Pattern) == 0 {
		return &piece.Fault{Path: "pattern", Problem: "is empty; allowed: at least one of " + toneNames()}
	}
	scale := t.key().Scale
	turn := 0
	for _, n := range t.op.Steps {
		if !t.step(n).On {
			continue
		}
		word := t.op.Pattern[turn%len(t.op.Pattern)]
		turn++
		tone, ok := tones[word]
		if !ok {
			return &piece.Fault{Path: "pattern", Problem: fmt.Sprintf("%q is not allowed; allowed: %s", word, toneNames())}
		}
		degree := nearestNumber(scale, tone.number)
		if err := t.setPlace(n, pitch.Place{Degree: degree, Octave: tone.octave}); err != nil {
			return err
		}
	}
	return nil
}

func toneNames() string { return strings.Join(slices.Sorted(maps.Keys(tones)), ", ") }

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
