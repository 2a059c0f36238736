package review

import (
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// fewKicks is from how many kicks on it is told that the bass leaves them no room.
const fewKicks = 4

// overKick finds a bass that sounds over three quarters of the kicks and more, each for over half a step.
func overKick(l *look) {
	low, ok := l.lowest()
	if !ok || l.performance.Opening || low.own.Content.(melodic).Rooted().Octave >= highLanes {
		return
	}
	var kicks []beat.Time
	for i := range l.performance.Lanes {
		part := &l.performance.Lanes[i]
		if !drums(&l.clip.Lanes[part.Lane], part) {
			continue
		}
		for k := range part.Notes {
			if p := part.Notes[k].Pitch; p == 35 || p == 36 {
				kicks = append(kicks, part.Notes[k].At)
			}
		}
	}
	slices.Sort(kicks)
	kicks = slices.Compact(kicks)
	half := l.performance.Piece.StepLength(low.own) / 2
	if piece.FreeOf(low.own) != nil {
		half = beat.Quarter / 8
	}
	over, at := 0, 0
	var covered stepSet
	for _, kick := range kicks {
		for at < len(low.part.Notes) && low.part.Notes[at].End <= kick {
			at++
		}
		if at < len(low.part.Notes) && low.part.Notes[at].At <= kick && low.part.Notes[at].End-kick > half {
			over++
			covered.add(int(low.part.Notes[at].Step))
		}
	}
	if len(kicks) < fewKicks || 4*over <= 3*len(kicks) {
		return
	}
	patch := map[string]any{"gate": 40, "tie": false} // under half of a step that swing makes longer, too
	if piece.FreeOf(low.own) != nil {
		patch = map[string]any{"length": int(half / piece.NoteTick), "tie": false}
	}
	l.add("over-kick", low.own, covered.steps[0], render.MendBy("Shorten it under the kicks", l.setAll(low.own, patch, covered.steps...)),
		"%s sounds on over %d of %d kicks: neither has room.", low.own.Name, over, len(kicks))
}

// longRun is for how long a melody strikes sixteenths before it is told to breathe.
const longRun = 32 * beat.Quarter / 4

// breathless finds melodies that strike sixteenths, or faster notes, for so long and leave none out.
func breathless(l *look) {
	for _, v := range l.voices() {
		if !v.tune {
			continue
		}
		var breaths stepSet
		var first, last, from beat.Time
		running := false
		for i := range v.part.Notes {
			at := l.performance.Onset(v.part, &v.part.Notes[i])
			if !running || at > last+beat.Quarter/4 {
				running, first = true, at
			}
			if last = at; at+beat.Quarter/4-first < longRun {
				continue
			}
			if len(breaths.steps) == 0 {
				from = first
			}
			breaths.add(int(v.part.Notes[i].Step)) // as if it were a rest
			running = false
		}
		if len(breaths.steps) == 0 {
			continue
		}
		var mends []any
		for _, step := range breaths.steps[:min(len(breaths.steps), 16)] {
			mends = append(mends, l.away(v.own, step))
		}
		l.add("no-breath", v.own, breaths.steps[0], render.MendBy("Let it breathe there", mends...),
			"%s plays 32 sixteenths and more from %s on without a breath.", v.own.Name, l.place(from))
	}
}

// manyAlike is from how many notes on it is told that all are struck alike.
const manyAlike = 16

// accent is by how much a mend strikes the beats harder.
const accent = 14

// evenHanded finds lanes all of whose notes, and many of them, are struck with one velocity. Layers go as their originals.
func evenHanded(l *look) {
	if l.performance.Opening {
		return
	}
	for i := range l.performance.Lanes {
		part := &l.performance.Lanes[i]
		own := &l.clip.Lanes[part.Lane]
		if len(part.Notes) < manyAlike || piece.OriginalOf(own) != "" {
			continue
		}
		velocity := part.Notes[0].Velocity
		if slices.ContainsFunc(part.Notes, func(n render.Note) bool { return n.Velocity != velocity }) {
			continue
		}
		var all, on, odd stepSet
		for k := range part.Notes {
			step := int(part.Notes[k].Step)
			if all.add(step); l.performance.Grid(part, &part.Notes[k])%l.performance.Bar%l.meter().Beat() == 0 {
				on.add(step)
			}
			if step%2 == 1 {
				odd.add(step)
			}
		}
		if n := len(on.steps); n == 0 || n == len(all.steps) {
			on = odd
		}
		if n := len(on.steps); n == 0 || n == len(all.steps) {
			continue // a single step, again and again: there is nothing to tell apart
		}
		to := int(velocity) + accent
		if to > 127 {
			to = int(velocity) - accent
		}
		mend := render.MendBy("Accent the beats", l.setAll(own, map[string]any{"velocity": to}, on.steps...))
		l.add("one-velocity", own, 0, mend, "All %d notes of %s are struck with velocity %d.", len(part.Notes), own.Name, velocity)
	}
}
