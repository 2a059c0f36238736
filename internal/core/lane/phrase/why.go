package phrase

import (
	"fmt"

	"agrimony/internal/core/lane/pitched"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// Reasons tells how a note came to its pitch: the rung of the walk, what the step moved
// it by, the lock, the fold.
func (Kind) Reasons(p *render.Performance, part *render.Part, lane *piece.Lane, note *render.Note) []render.Reason {
	phrase := of(lane)
	step := &phrase.Steps[note.Step-1]
	pattern, slot := p.SlotOf(part, note)
	w := &walker{phrase: phrase, crafted: pattern}
	by, at0 := w.movement(slot, step), w.setting(slot, nil)
	walked := note.Walked()
	chord := p.ChordOf(part, note)
	from := int(walked.From)
	what := "its own tones"
	if phrase.Source == "harmony" && chord != nil {
		what = chord.Symbol
	}
	named := func(p2 int) string { return p.Key.Named(p2) }
	order := phrase.Order
	if at0.order > 0 {
		order = piece.Order{Name: piece.Orders[at0.order-1]}
	}
	label := fmt.Sprintf("rung %d of %s, %s", walked.Rung+1, what, order)
	switch {
	case walked.Rung < 0 && phrase.Pedal != nil && kept(lane, from+12*phrase.Pedal.Octave) == int(note.Pitch):
		pedal := pitch.Fold(from + 12*phrase.Pedal.Octave)
		return render.Ranged(
			[]render.Reason{
				{Rule: "rung", From: fmt.Sprintf("the pedal under %s, its %s", what, phrase.Pedal.Tone), To: named(from)},
				reason("octave", named(from), named(pedal)),
			},
			lane,
			p.Key,
			pedal,
		)
	case !walks(step.Play):
		label = fmt.Sprintf("%s of %s", step.Play, what)
	}
	out := []render.Reason{{Rule: "rung", From: label, To: named(from)}}
	for _, m := range []struct {
		field    string
		from, to int
	}{{"offset", step.Offset, by.offset}, {"octave", step.Octave, by.octave}, {"span", phrase.Span, at0.span}, {"leap", phrase.Leap.By, at0.leap}, {"voices", phrase.Voices, w.voices(slot)}} {
		if m.from != m.to {
			out = append(out, render.Moving("modulator", m.field, m.from, m.to))
		}
	}
	at := from
	add := func(rule string, to int, by string) {
		if to != at {
			out = append(out, render.Reason{Rule: rule, From: named(at), To: named(to), Chord: by})
			at = to
		}
	}
	snap := pitch.Snap(phrase.Snap)
	if by.offset != 0 {
		if step.In == "scale" {
			add("offset", Along(p.Key, at, by.offset, snap), "")
		} else {
			add("offset", at+by.offset, "")
			lockedBy := ""
			if phrase.Lock == "chord" && chord != nil {
				lockedBy = chord.Symbol
			}
			add("lock", pitched.Locked(&phrase.Pitched, p.Key, chord, at), lockedBy)
		}
	}
	if by.luck.Degrees != 0 {
		add("odds", Along(p.Key, at, by.luck.Degrees, snap), "")
	}
	add("octave", at+12*by.octave, "")
	add("odds", at+12*by.luck.Octave, "")
	if lane.Kept() == nil {
		add("fold", int(note.Pitch), "")
	} else {
		add("range", int(note.Pitch), "")
	}
	return out
}

// kept is a pitch as the lane's range keeps it.
func kept(lane *piece.Lane, p int) int {
	out, _ := render.Keep(lane.Kept(), pitch.Fold(p))
	return out
}

func reason(rule, from, to string) render.Reason {
	return render.Reason{Rule: rule, From: from, To: to}
}
