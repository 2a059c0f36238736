// Package review looks at a clip like a colleague: it finds what is silent and
// why, what a rule had to change, and where the loop does not close, and offers
// a mend where there is a plain one.
package review

import (
	"encoding/json"
	"fmt"
	"strings"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/edit"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// Finding is one thing found, with the place and, where there is one, a mend.
type Finding struct {
	Rule    string `json:"rule"`
	Lane    string `json:"lane"`
	Step    int    `json:"step"` // from 1; 0: the whole lane or clip
	Message string `json:"message"`
	Mend    *Mend  `json:"mend"`
}

// Mend is an edit that takes a finding away.
type Mend struct {
	Label string    `json:"label"`
	Ops   []edit.Op `json:"ops"`
}

// rules are all rules, in the order of their findings. To add one, add it here.
var rules = []func(*look){silent, glideRange, folded, seam, realign, harmony}

// look is what the rules see.
type look struct {
	piece       *piece.Piece
	clip        *piece.Clip
	performance *render.Performance
	found       []Finding
}

// Clip reviews a clip and its performance.
func Clip(p *piece.Piece, clip *piece.Clip, performance *render.Performance) []Finding {
	l := &look{piece: p, clip: clip, performance: performance, found: []Finding{}}
	for _, rule := range rules {
		rule(l)
	}
	return l.found
}

// Reports are the findings as they are published.
func Reports(findings []Finding) []render.FindingReport {
	out := make([]render.FindingReport, len(findings))
	for i, f := range findings {
		out[i] = render.FindingReport{Rule: f.Rule, Lane: f.Lane, Step: f.Step, Message: f.Message}
	}
	return out
}

func (l *look) add(rule string, lane *piece.Lane, step int, mend *Mend, message string, args ...any) {
	f := Finding{Rule: rule, Step: step, Message: fmt.Sprintf(message, args...), Mend: mend}
	if lane != nil {
		f.Lane = lane.ID
	}
	l.found = append(l.found, f)
}

// laneMend is a mend that changes a lane's own fields.
func (l *look) laneMend(label string, lane *piece.Lane, patch any) *Mend {
	return l.mend(label, edit.Op{Op: "lane.set", Lane: lane.ID, Patch: asJSON(patch)})
}

func (l *look) mend(label string, op edit.Op) *Mend {
	op.Clip = l.clip.ID
	return &Mend{Label: label, Ops: []edit.Op{op}}
}

func asJSON(value any) json.RawMessage {
	out, err := json.Marshal(value)
	if err != nil {
		panic(err) // maps of texts and numbers only
	}
	return out
}

// silent finds lanes of which nothing sounds, and says why.
func silent(l *look) {
	plays := map[int]int{}
	for i := range l.performance.Lanes {
		part := &l.performance.Lanes[i]
		plays[part.Lane] = len(part.Notes)
	}
	solo := render.AnySolo(l.clip)
	for i := range l.clip.Lanes {
		lane := &l.clip.Lanes[i]
		if plays[i] > 0 {
			continue
		}
		why, mend := l.whySilent(lane, solo)
		l.add("silent", lane, 0, mend, "%s is silent: %s.", lane.Name, why)
	}
}

func (l *look) whySilent(lane *piece.Lane, solo bool) (string, *Mend) {
	if lane.Mute {
		return "it is muted", l.laneMend("Unmute it", lane, map[string]any{"mute": false})
	}
	if solo && !lane.Solo {
		return "another lane is solo", l.laneMend("Make it solo too", lane, map[string]any{"solo": true})
	}
	active := render.Active(lane)
	if len(active) == 0 {
		return "every step of its window is skipped", nil
	}
	on, chance, rounds := 0, 0, 0
	var first int
	for _, i := range active {
		step := &lane.Steps[i]
		if !step.On {
			continue
		}
		on++
		first = int(i) + 1
		if step.Chance == 0 {
			chance++
		} else if step.Rounds != nil {
			rounds++
		}
	}
	anywhere := false
	for i := range lane.Steps {
		anywhere = anywhere || lane.Steps[i].On
	}
	switch {
	case on == 0 && anywhere && lane.Window != nil:
		return "its notes lie outside its window or on skipped steps", l.laneMend("Open the window", lane, map[string]any{"window": nil})
	case on == 0 && anywhere:
		return "its notes are on skipped steps", nil
	case on == 0:
		return "no step is on", nil
	case chance == on:
		return "the chance of every note is 0 %", l.mend("Set that chance to 100 %", edit.Op{Op: "steps.set", Lane: lane.ID, Steps: []int{first}, Patch: asJSON(map[string]any{"chance": 100})})
	case rounds+chance == on:
		return "its notes wait for rounds that the clip is too short to reach", nil
	}
	return "chance left out every note, or the clip ends before the first", nil
}

// glideRange finds glides and bends beyond the wheel's range.
func glideRange(l *look) {
	l.marks(render.GlideBeyondRange, func(lane *piece.Lane, part *render.Part, m render.Mark) {
		var mend *Mend
		if m.Want <= 24 {
			mend = l.laneMend(fmt.Sprintf("Set the range to %d semitones", m.Want), lane, map[string]any{"glide": map[string]any{"range": m.Want}})
		}
		l.add("glide-range", lane, m.Step, mend, "Step %d of %s moves the wheel by %d semitones, but its range is %d; it was held at %d.",
			m.Step, lane.Name, m.Want, part.Range, part.Range)
	})
}

// folded finds pitches outside MIDI's range that were moved by octaves.
func folded(l *look) {
	l.marks(render.PitchFolded, func(lane *piece.Lane, _ *render.Part, m render.Mark) {
		by := 1
		if m.Want > 127 {
			by = -1
		}
		op := edit.Op{Op: "steps.transpose", Lane: lane.ID, Steps: []int{m.Step}, By: by, Unit: "octave"}
		l.add("folded", lane, m.Step, l.mend("Move it an octave", op), "Step %d of %s asks for MIDI pitch %d; allowed: 0..127, so it was folded by octaves to %d.",
			m.Step, lane.Name, m.Want, pitch.Fold(m.Want))
	})
}

func (l *look) marks(kind render.MarkKind, each func(*piece.Lane, *render.Part, render.Mark)) {
	for i := range l.performance.Lanes {
		part := &l.performance.Lanes[i]
		for _, m := range part.Marks {
			if m.Kind == kind {
				each(&l.clip.Lanes[part.Lane], part, m)
			}
		}
	}
}

// seam finds lanes whose last note does not lead back to their first: it is
// neither the tonic nor the fifth, nor within a step of the key of the first.
func seam(l *look) {
	key := l.performance.Key
	for i := range l.performance.Lanes {
		part := &l.performance.Lanes[i]
		if len(part.Notes) < 2 {
			continue
		}
		lane := &l.clip.Lanes[part.Lane]
		first, last := &part.Notes[0], &part.Notes[len(part.Notes)-1]
		end := last.EndPitch()
		place, ok := key.Find(end, lane.Octave)
		if ok {
			if number := key.Scale.Degrees[place.Degree-1].Number; number == 1 || number == 5 || key.Semitones(place.Degree) == 7 {
				continue
			}
		}
		start := int(first.Pitch)
		if home, both := key.Find(start, lane.Octave); ok && both {
			if d := key.Size()*(home.Octave-place.Octave) + home.Degree - place.Degree; d >= -1 && d <= 1 {
				continue
			}
		} else if d := start - end; d >= -2 && d <= 2 {
			continue
		}
		var mend *Mend
		step := int(last.Step)
		if home, both := key.Find(start, lane.Octave); both {
			lead := key.Move(home, 1)
			op := edit.Op{Op: "fill.contour", Lane: lane.ID, Steps: []int{step}, Places: []*pitch.Place{&lead}}
			mend = l.mend(fmt.Sprintf("End on %s, a step above the start", pitch.Pretty(key.Spell(key.Pitch(lead, lane.Octave), 0).In(key.Pitch(lead, lane.Octave)))), op)
		}
		l.add("seam", lane, step, mend, "%s ends on %s, which does not lead back to its first note %s: it is neither tonic nor fifth nor a step away.",
			lane.Name, pitch.Pretty(key.Spell(end, 0).In(end)), pitch.Pretty(l.performance.Name(first)))
	}
}

// realign finds clips whose lanes do not meet within what can be rendered, and
// offers the smallest change of a step count that brings them together.
func realign(l *look) {
	cycle := l.performance.Cycle
	if !cycle.Over() {
		return
	}
	lane, count, bars := l.closest()
	var mend *Mend
	if lane != nil {
		mend = l.mend(fmt.Sprintf("Give %s %d steps: they meet after %d bars", lane.Name, count, bars), edit.Op{Op: "lane.resize", Lane: lane.ID, By: count})
	}
	l.add("realign", nil, 0, mend, "The lanes never meet on a bar within %d bars: that takes %s.", beat.MaxBars, brief(cycle.RealignBars().String()))
}

func brief(bars string) string {
	if len(bars) > 12 {
		return fmt.Sprintf("a number of bars with %d digits", len(bars))
	}
	return strings.TrimSpace(bars) + " bars"
}

// closest tries small changes of each lane's step count.
func (l *look) closest() (best *piece.Lane, count int, bars int64) {
	for distance := 1; distance <= 8 && best == nil; distance++ {
		for i := range l.clip.Lanes {
			for _, n := range []int{len(l.clip.Lanes[i].Steps) - distance, len(l.clip.Lanes[i].Steps) + distance} {
				if l.clip.Lanes[i].Window != nil || n < 1 || n > piece.MaxSteps {
					continue
				}
				op := edit.Op{Op: "lane.resize", Clip: l.clip.ID, Lane: l.clip.Lanes[i].ID, By: n}
				next, err := edit.Apply(&piece.Piece{
					Title: l.piece.Title, Tempo: l.piece.Tempo, Meter: l.piece.Meter, Key: l.piece.Key,
					Groove: l.piece.Groove, Beat: l.piece.Beat, Clips: []piece.Clip{*l.clip},
				}, []edit.Op{op})
				if err != nil {
					continue
				}
				cycle := render.CycleOf(next, &next.Clips[0])
				if found := cycle.RealignBars(); !cycle.Over() && (best == nil || found.Int64() < bars) {
					best, count, bars = &l.clip.Lanes[i], n, found.Int64()
				}
			}
		}
	}
	return best, count, bars
}

// harmony finds lanes that lean on chords in a clip without any.
func harmony(l *look) {
	for i := range l.clip.Lanes {
		lane := &l.clip.Lanes[i]
		if lane.Lock == "chord" {
			l.add("no-harmony", lane, 0, l.laneMend("Lock it to the scale", lane, map[string]any{"lock": "scale"}),
				"%s is locked to chords, but the clip has none; it keeps to the scale.", lane.Name)
		}
		if lane.Follow == "root" {
			l.add("no-harmony", lane, 0, l.laneMend("Count from the key", lane, map[string]any{"follow": "key"}),
				"%s follows the chords' roots, but the clip has no chords; it counts from the key.", lane.Name)
		}
	}
}
