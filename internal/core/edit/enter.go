package edit

import (
	"errors"
	"slices"

	"agrimony/internal/core/lane/change"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// enterer is a kind whose steps hold what was played.
type enterer interface {
	Enter(t *change.Target, heard change.Heard) error
}

// freeEnterer is a kind that holds what was played when it was played.
type freeEnterer interface {
	EnterFree(t *change.Target, played change.Played) error
}

// enterNotes writes what was played into a step, as the lane's kind holds it: a line one
// note, a chords lane all, a phrase a note as the way from its chord's root, and several
// as tones of its own, a pulse lane a hit.
func enterNotes(t target, o op.EnterNotes) error {
	free, isFree := t.Kind().(freeEnterer)
	if !isFree {
		if err := t.TakeSteps([]int{o.Step}); err != nil {
			return err
		}
	}
	if len(o.Pitches) > piece.MaxTones {
		return t.Wrong("pitches", "%d notes at once; allowed: 0..%d", len(o.Pitches), piece.MaxTones)
	}
	for _, p := range o.Pitches {
		if p < 0 || p > 127 {
			return t.Wrong("pitches", "%d is no MIDI pitch; allowed: 0..127", p)
		}
	}
	if o.Velocity < 0 || o.Velocity > 127 {
		return t.Wrong("velocity", "%d is no velocity; allowed: 1..127, or 0 for the step's own", o.Velocity)
	}
	heard := slices.Clone(o.Pitches)
	slices.Sort(heard)
	heard = slices.Compact(heard)
	if isFree {
		return free.EnterFree(t.Target, change.Played{At: o.At, Length: o.Length, Pitches: heard, Velocity: o.Velocity, Tie: o.Tie})
	}
	cell := t.StepList().Cell(o.Step - 1)
	switch {
	case o.Tie && o.Step == 1:
		return t.Wrong("tie", "there is no step before the first; allowed: from step 2 on")
	case o.Tie:
		t.StepList().Cell(o.Step - 2).Tie = true
		cell.On, cell.Tie = false, false
		return nil
	case len(o.Pitches) == 0:
		cell.On, cell.Tie = false, false
		return nil
	}
	cell.On, cell.Tie = true, false
	if o.Velocity > 0 {
		cell.Velocity = o.Velocity
	}
	kind, ok := t.Kind().(enterer)
	if !ok {
		return t.Wrong("lane", "%s lanes take no notes; allowed: a line, chords, phrase or pulse lane", t.Lane.Kind)
	}
	err := kind.Enter(t.Target, change.Heard{Step: o.Step - 1, Pitches: heard, First: o.Pitches[0], Chord: t.ChordAt(o.Step - 1), Over: o.Over})
	var asks *change.AskError
	if errors.As(err, &asks) {
		o.Over = true
		asks.Mends = []render.Mend{*render.MendBy("Let it take their place", o)}
	}
	return err
}
