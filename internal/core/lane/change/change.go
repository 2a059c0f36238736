// Package change is what edits have in common: what each works on, and how it says what is
// wrong. Edits of lanes of any kind are in package edit; those of one kind are in the room of
// the kind.
package change

import (
	"fmt"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/budget"
	"agrimony/internal/core/lane/pitched"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// Target is what an edit works on. What it points to may be changed; the piece it
// came from is left alone.
type Target struct {
	Piece *piece.Piece
	Clip  *piece.Clip
	Lane  *piece.Lane
	At    int    // index of the clip or, where the aim is deeper, of the lane
	Steps []int  // from 0
	Path  string // of the innermost of them
	Edit  string // "ops[2]": the edit itself, for what is wrong with its arguments

	Budget *budget.Budget // of all edits that are made together
	Kinds  render.Lookup
}

// Rule is one edit: what it does, and what the history calls it.
type Rule struct {
	Label string
	Apply func(t *Target, args any) error
	Check bool // it may leave the piece in a state that the next edit must not see
}

// On is the rule of an edit with arguments of a type.
func On[A any](label string, apply func(t *Target, args A) error) Rule {
	return Rule{Label: label, Apply: func(t *Target, args any) error { return apply(t, args.(A)) }}
}

// Checked is the same rule where it may leave the piece in a state that the next edit must
// not see.
func (r Rule) Checked() Rule { r.Check = true; return r }

// AskError is an edit that is not made unless it is asked for once more, because of what it would
// change besides.
type AskError struct {
	*piece.Fault
	Mends []render.Mend // the edits that make it all the same
}

// Unwrap gives the refusal that it is for who asks no more.
func (e *AskError) Unwrap() error { return e.Fault }

// Heard is what was played into a step.
type Heard struct {
	Step    int           // from 0
	Pitches []int         // MIDI, rising, each once
	First   int           // the one that was struck first
	Chord   *render.Chord // under the step; nil: none
	Over    bool          // what it takes the place of besides is known
}

// Played is what was played into a lane of free notes.
type Played struct {
	At, Length int   // on the lane's axis, 960ths of a quarter
	Pitches    []int // MIDI, rising, each once
	Velocity   int   // 0: that of new notes
	Tie        bool  // holds the notes that end there
}

// TakeSteps takes the steps that an op names, from 1, each once.
func (t *Target) TakeSteps(named []int) error {
	steps := t.Lane.Content.StepList()
	if steps == nil {
		return t.Wrong("lane", "%s lanes have no steps", t.Lane.Kind)
	}
	count := steps.Len()
	if len(named) == 0 || len(named) > count {
		return t.Wrong("steps", "%d steps are named; allowed: 1..%d, each once", len(named), count)
	}
	seen := make([]bool, count)
	t.Steps = make([]int, len(named))
	for i, n := range named {
		if n < 1 || n > count {
			return t.Wrong("steps", "there is no step %d; allowed: 1..%d", n, count)
		}
		if seen[n-1] {
			return t.Wrong("steps", "step %d is named twice; allowed: each once", n)
		}
		seen[n-1] = true
		t.Steps[i] = n - 1
	}
	return nil
}

// Wrong is a refusal of one of the edit's arguments.
func (t *Target) Wrong(argument, format string, args ...any) error {
	return &piece.Fault{Path: t.Edit + "." + argument, Problem: fmt.Sprintf(format, args...)}
}

// Under puts the lane's path before that of an error from its kind.
func (t *Target) Under(err error) error { return pitched.Under(t.Path, err) }

// Key is the clip's.
func (t *Target) Key() pitch.Key { return t.Piece.KeyOf(t.Clip) }

// Meter is the piece's.
func (t *Target) Meter() beat.Meter {
	meter, err := beat.ParseMeter(t.Piece.Meter)
	if err != nil {
		panic(err) // a checked piece has a meter
	}
	return meter
}

// StepList are the lane's steps; nil for kinds without.
func (t *Target) StepList() piece.Steps { return t.Lane.Content.StepList() }

// StepPath is the path of a step, from 0.
func (t *Target) StepPath(i int) string { return fmt.Sprintf("%s.steps[%d]", t.Path, i) }

// Room refuses one more where there are as many as are allowed.
func (t *Target) Room(have, most int, what string) error {
	if have >= most {
		return &piece.Fault{Path: t.Edit, Problem: fmt.Sprintf("there are %d %s already; allowed: at most %d", have, what, most)}
	}
	return nil
}

// Kind is what a lane's kind does.
func (t *Target) Kind() render.Kind { return t.Kinds(t.Lane.Kind) }

// Harmony is what the clip listens to up to a length; nil without chords.
func (t *Target) Harmony(length beat.Time) *render.Harmony {
	return render.HarmonyOf(t.Piece, t.Clip, length, t.Budget, t.Kinds)
}

// ChordAt is the chord under a step where it stands first; nil without harmony.
func (t *Target) ChordAt(step int) *render.Chord {
	pattern := render.PatternOf(t.Piece, t.Clip, t.Lane)
	for _, s := range pattern.Slots(pattern.RoundLength()) {
		if int(s.Step) == step {
			return t.Harmony(s.At + beat.Time(1)).At(s.At)
		}
	}
	return nil
}

// Chords are what ChordAt gives for each step of the lane.
func (t *Target) Chords() []*render.Chord {
	pattern := render.PatternOf(t.Piece, t.Clip, t.Lane)
	out := make([]*render.Chord, t.StepList().Len())
	seen := make([]bool, len(out))
	harmony := t.Harmony(pattern.RoundLength() + beat.Time(1))
	for _, s := range pattern.Slots(pattern.RoundLength()) {
		if !seen[s.Step] {
			seen[s.Step], out[s.Step] = true, harmony.At(s.At)
		}
	}
	return out
}

// Tones are pitches as tones of a lane over a chord, each pitch once.
func (t *Target) Tones(p *piece.Pitched, chord *render.Chord, heard []int) []pitch.Place {
	var out []pitch.Place
	seen := map[int]bool{}
	for _, one := range heard {
		if one = pitched.Locked(p, t.Key(), chord, one); !seen[one] {
			out = append(out, t.Key().Express(one, p.Octave))
		}
		seen[one] = true
	}
	return out
}
