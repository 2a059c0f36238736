package review

import (
	"maps"
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// eighth is how long two pitches must sound together to be told of.
const eighth = beat.Quarter / 2

// anyPitch is above every MIDI pitch.
const anyPitch = 128

// rubs reports whether two pitches stand a semitone apart, or that and octaves: a minor second or ninth, but no major
// seventh.
func rubs(a, b int) bool { return max(a-b, b-a)%12 == 1 }

// rubbing finds two lanes that sound a minor second or ninth for an eighth or more. One that goes on by step within a beat is
// a suspension or a passing note. What stands against the clip's own chords, clashes finds.
func rubbing(l *look) {
	type pair struct{ a, b *render.Part }
	type rub struct {
		times []beat.Time
		moved heard
		other heard
	}
	found := map[pair]*rub{}
	var order []pair
	oneBeat := l.meter().Beat()
	voices := l.voices()
	if len(voices) < 2 {
		return
	}
	l.together(voices, eighth, anyPitch, func(a, b heard) {
		if a.part == b.part || l.withHarmony(a, b) || !rubs(int(a.note().Pitch), int(b.note().Pitch)) {
			return
		}
		for _, h := range []heard{a, b} {
			if _, ok := steps(h.part, h.at, max(b.note().At, h.note().At)+oneBeat); ok {
				return
			}
		}
		key := pair{a.part, b.part}
		if a.part.Lane > b.part.Lane {
			key = pair{b.part, a.part}
		}
		if found[key] == nil {
			moved, other := b, a
			if !moved.tune {
				moved, other = a, b
			}
			found[key] = &rub{moved: moved, other: other}
			order = append(order, key)
		}
		found[key].times = append(found[key].times, b.note().At)
	})
	for _, key := range order {
		r := found[key]
		note := r.moved.note()
		l.add("rub", r.moved.own, int(note.Step), l.apart(r.moved, r.other), "%s of %s, %s, rubs against %s of %s by a semitone at %s.",
			l.called(r.moved.own, int(note.Step)), r.moved.own.Name, pitch.Pretty(l.performance.Name(note)),
			pitch.Pretty(l.performance.Name(r.other.note())), r.other.own.Name, l.places(r.times))
	}
}

// withHarmony reports whether one of two notes is of the lane whose chords the clip listens to, and the other of a melody.
func (l *look) withHarmony(a, b heard) bool {
	h := l.performance.Harmony
	return h != nil && (a.own == h.Lane && b.tune || b.own == h.Lane && a.tune)
}

// apart moves a note to the nearest pitch of the key that does not rub against another one; nil: it cannot be put elsewhere.
func (l *look) apart(moved, other heard) *render.Mend {
	if !moved.tune {
		return nil
	}
	own, note := moved.own, moved.note()
	for _, by := range []int{1, -1, 2, -2, 3, -3} {
		to := int(note.Pitch) + by
		at := l.performance.Key.Express(to, own.Content.(melodic).Rooted().Octave)
		if to < 0 || to > 127 || !l.performance.Key.Has(to) || rubs(to, int(other.note().Pitch)) || at.Octave < -4 || at.Octave > 4 {
			continue
		}
		return render.MendBy("Move it to "+pitch.Pretty(l.performance.Key.Named(to)), l.put(own, int(note.Step), at, l.performance.Grid(moved.part, note)))
	}
	return nil
}

// muddyBelow is C3, under which intervals of less than muddySpan semitones run into each other.
const (
	muddyBelow = 48
	muddySpan  = 5
)

// muddy finds two pitches close together down low for an eighth or more: once for each lane that the upper one is of.
func muddy(l *look) {
	type mud struct {
		times []beat.Time
		upper heard
		lower heard
		steps stepSet
	}
	found := map[*render.Part]*mud{}
	var order []*render.Part
	l.together(l.voices(), eighth, muddyBelow, func(a, b heard) {
		lower, upper := a, b
		if lower.note().Pitch > upper.note().Pitch {
			lower, upper = upper, lower
		}
		if upper.note().Pitch-lower.note().Pitch >= muddySpan {
			return
		}
		m := found[upper.part]
		if m == nil {
			m = &mud{upper: upper, lower: lower}
			found[upper.part] = m
			order = append(order, upper.part)
		}
		m.times = append(m.times, b.note().At)
		m.steps.add(int(upper.note().Step))
	})
	for _, part := range order {
		m := found[part]
		own := m.upper.own
		l.add("muddy", own, int(m.upper.note().Step), l.raised(m.upper.voice, m.steps.steps),
			"%s of %s and %s of %s lie close together and low: they run into each other at %s.",
			pitch.Pretty(l.performance.Name(m.upper.note())), own.Name, pitch.Pretty(l.performance.Name(m.lower.note())), m.lower.own.Name, l.places(m.times))
	}
}

// raised moves steps of a melody up an octave, or all of another lane; nil: the lane has no octave of its own.
func (l *look) raised(v voice, steps []int) *render.Mend {
	own := v.own
	if v.tune {
		return l.moved(v, "up", map[int][]int{1: steps})
	}
	if pitched := piece.PitchedOf(own); pitched != nil && own.Content.StepList() != nil && pitched.Octave < 9 {
		return l.laneMend("Move the lane up an octave", own, map[string]any{"octave": pitched.Octave + 1})
	}
	return nil
}

// manyParallels is from how many moves on two melodies that keep a fifth or an octave are told to be one.
const manyParallels = 6

// parallels finds two melodies that go on in fifths or octaves. What is doubled on purpose is a layer.
func parallels(l *look) {
	var tunes []voice
	for _, v := range l.voices() {
		if v.tune && oneByOne(v.part) {
			tunes = append(tunes, v)
		}
	}
	for i, a := range tunes {
		for _, b := range tunes[i+1:] {
			l.parallel(a, b)
		}
	}
}

// oneByOne reports whether no two notes of a part begin together.
func oneByOne(part *render.Part) bool {
	for i := 1; i < len(part.Notes); i++ {
		if part.Notes[i].At == part.Notes[i-1].At {
			return false
		}
	}
	return true
}

// parallel looks for a run of parallels of two melodies.
func (l *look) parallel(a, b voice) {
	interval := func(i, j int) int {
		return pitch.Mod(int(max(a.part.Notes[i].Pitch, b.part.Notes[j].Pitch))-int(min(a.part.Notes[i].Pitch, b.part.Notes[j].Pitch)), 12)
	}
	run := [][2]int{}
	best := run
	for i, j := 0, 0; i < len(a.part.Notes) && j < len(b.part.Notes); {
		atA, atB := l.performance.Onset(a.part, &a.part.Notes[i]), l.performance.Onset(b.part, &b.part.Notes[j])
		switch {
		case atA < atB:
			i, run = i+1, run[:0:0]
		case atB < atA:
			j, run = j+1, run[:0:0]
		default:
			kept := interval(i, j)
			if kept != 0 && kept != 7 {
				run = run[:0:0]
			} else {
				if n := len(run); n > 0 {
					wasA, wasB := run[n-1][0], run[n-1][1]
					still := a.part.Notes[i].Pitch == a.part.Notes[wasA].Pitch || b.part.Notes[j].Pitch == b.part.Notes[wasB].Pitch
					if still || interval(wasA, wasB) != kept {
						run = run[:0:0]
					}
				}
				if run = append(run, [2]int{i, j}); len(run) > len(best) {
					best = slices.Clone(run)
				}
			}
			i, j = i+1, j+1
		}
	}
	if len(best) <= manyParallels {
		return
	}
	upper, other, at := a, b, 0
	if meanPitch(b.part.Notes) > meanPitch(a.part.Notes) {
		upper, other, at = b, a, 1
	}
	var set stepSet
	for _, pair := range best {
		set.add(int(upper.part.Notes[pair[at]].Step))
	}
	moved := set.steps
	what, by, label := "octaves", 2, "Move it up a third"
	if interval(best[0][0], best[0][1]) == 7 {
		what, by, label = "fifths", -2, "Move it down a third"
	}
	var edit any = op.TransposeSteps{OnSteps: l.onSteps(upper.own, moved...), By: by, Unit: "degree"}
	if piece.FreeOf(upper.own) != nil {
		edit = op.MoveNotes{OnNotes: l.onNotes(upper.own, moved...), By: by, Unit: "degree"}
	}
	var mend *render.Mend
	if l.reachable(upper, moved, 2*by) {
		mend = render.MendBy(label, edit)
	}
	l.add("parallel", upper.own, moved[0], mend,
		"%s and %s go on in %s for %d moves from %s on: they are heard as one.", upper.own.Name, other.own.Name, what, len(best)-1,
		l.place(upper.part.Notes[best[0][at]].At))
}

// How low a bass may go. Under E1, MIDI 28, most loudspeakers and most ears lose the pitch; a fifth under a root or
// a pickup may stand there, but no lower than the five-string bass goes: B0, MIDI 23.
const (
	lowLine = 28
	lowNote = 23
)

// depths finds a lowest melody that sounds under E1 for over two thirds of its time, or with notes under B0.
func depths(l *look) {
	low, ok := l.lowest()
	if !ok {
		return
	}
	var all, below beat.Time
	for i := range low.part.Notes {
		n := &low.part.Notes[i]
		if all += n.End - n.At; n.Pitch < lowLine {
			below += n.End - n.At
		}
	}
	bound := uint8(lowNote)
	if 3*below > 2*all {
		bound = lowLine
	}
	var under stepSet
	byOctaves := map[int][]int{}
	least := bound
	for i := range low.part.Notes {
		n := &low.part.Notes[i]
		if step := int(n.Step); n.Pitch < bound && !under.known[step] {
			least = min(least, n.Pitch)
			under.add(step)
			up := (lowLine - int(n.Pitch) + 11) / 12
			byOctaves[up] = append(byOctaves[up], step)
		}
	}
	if len(under.steps) == 0 {
		return
	}
	l.add("too-low", low.own, under.steps[0], l.moved(low, "up", byOctaves),
		"%s goes down to %s; under E1 most loudspeakers lose the pitch.", low.own.Name, pitch.Pretty(l.performance.Key.Named(int(least))))
}

// nearOctaves is how many octaves a step may lie from its lane's after a mend: well within what steps can say,
// whatever its alteration and the root that it counts from.
const nearOctaves = 2

// reachable reports whether steps of a melody can be moved by so many semitones and still be written as steps.
func (l *look) reachable(v voice, steps []int, by int) bool {
	octave := v.own.Content.(melodic).Rooted().Octave
	var moved stepSet
	for _, step := range steps {
		moved.add(step)
	}
	for i := range v.part.Notes {
		n := &v.part.Notes[i]
		if !moved.known[int(n.Step)] {
			continue
		}
		for _, p := range []int{int(n.Pitch), int(n.Pitch) + by} {
			if at := l.performance.Key.Express(p, octave); p < 0 || p > 127 || at.Octave < -nearOctaves || at.Octave > nearOctaves {
				return false
			}
		}
	}
	return true
}

// moved moves steps up or down, each by its own number of octaves; nil: they cannot be written there.
func (l *look) moved(v voice, way string, byOctaves map[int][]int) *render.Mend {
	var edits []any
	count, label := 0, ""
	for _, by := range slices.Sorted(maps.Keys(byOctaves)) {
		signed := by
		if way == "down" {
			signed = -by
		}
		if !l.reachable(v, byOctaves[by], 12*signed) {
			return nil
		}
		count += len(byOctaves[by])
		label = " " + octaves(by)
		edits = append(edits, l.octaves(v.own, signed, byOctaves[by]...))
	}
	if len(byOctaves) > 1 {
		label = ""
	}
	return render.MendBy("Move "+them(count)+" "+way+label, edits...)
}

func them(count int) string {
	if count == 1 {
		return "it"
	}
	return "them"
}
