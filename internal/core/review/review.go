// Package review looks at a clip like a colleague: it finds what is silent and
// why, what a rule had to change, what will not come out in the file, and offers
// a mend where there is a plain one. What only one kind of lane can get wrong,
// that kind finds.
package review

import (
	"encoding/json"
	"fmt"

	"agrimony/internal/core/budget"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// finder is a kind of lane that can get things wrong of its own.
type finder interface {
	Findings(p *render.Performance, part *render.Part, lane *piece.Lane) []render.Finding
}

// rules are all rules, in the order of their findings. To add one, add it here.
var rules = []func(*look){
	silent,
	waiting,
	glideRange,
	glideStart,
	folded,
	outsideRange,
	clamped,
	kinds,
	clashes,
	rubbing,
	bassOver,
	agreement,
	parallels,
	muddy,
	depths,
	overKick,
	breathless,
	evenHanded,
	channel,
	zones,
	meeting,
	lateMeeting,
	halves,
}

// look is what the rules see.
type look struct {
	piece       *piece.Piece
	clip        *piece.Clip
	performance *render.Performance
	found       []render.Finding
	trials      *budget.Budget // what trying out changes of lanes may cost
}

// Clip reviews a performance.
func Clip(performance *render.Performance) []render.Finding {
	l := &look{piece: performance.Piece, clip: performance.Clip, performance: performance, found: []render.Finding{}, trials: render.PeriodWork()}
	for _, rule := range rules {
		rule(l)
	}
	l.quietly()
	return l.found
}

// Reports are the findings as they are published.
func Reports(findings []render.Finding) []render.FindingReport {
	out := make([]render.FindingReport, len(findings))
	for i, f := range findings {
		out[i] = render.FindingReport{Rule: f.Rule, Lane: f.Lane, Step: f.Step, Message: f.Message}
	}
	return out
}

func (l *look) add(rule string, lane *piece.Lane, step int, mend *render.Mend, message string, args ...any) {
	f := render.Finding{Rule: rule, Message: fmt.Sprintf(message, args...), Mend: mend}
	if lane != nil {
		f.Lane, f.Step = lane.ID, piece.Numbered(piece.SourceOf(l.clip, lane), step)
	}
	l.found = append(l.found, f)
}

func (l *look) on(lane *piece.Lane) op.OnLane { return op.OnLane{Clip: l.clip.ID, Lane: lane.ID} }

func (l *look) onSteps(lane *piece.Lane, steps ...int) op.OnSteps {
	return op.OnSteps{Clip: l.clip.ID, Lane: lane.ID, Steps: steps}
}

// laneMend is a mend that changes a lane's own fields.
func (l *look) laneMend(label string, lane *piece.Lane, patch any) *render.Mend {
	return render.MendBy(label, op.SetLane{OnLane: l.on(lane), Patch: asJSON(patch)})
}

func asJSON(value any) json.RawMessage {
	out, err := json.Marshal(value)
	if err != nil {
		panic(err) // maps of texts and numbers only
	}
	return out
}

// glideRange finds glides and bends beyond the wheel's range.
func glideRange(l *look) {
	l.marks(render.GlideBeyondRange, func(lane *piece.Lane, part *render.Part, m render.Mark) {
		var mend *render.Mend
		if most := 24; m.Want <= most || part.Zone != nil && m.Want <= 4*most {
			mend = l.laneMend("Set the range to "+render.Many(m.Want, "semitone"), lane, map[string]any{"glide": map[string]any{"range": m.Want}})
		}
		l.add("glide-range", lane, m.Step, mend, "%s of %s moves the wheel by %s, but its range is %d; it was held at %d.",
			l.called(lane, m.Step), lane.Name, render.Many(m.Want, "semitone"), part.Range, part.Range)
	})
}

// glideStart points to a glide that a fresh start leaves out.
func glideStart(l *look) {
	l.marks(render.GlideLeftOut, func(lane *piece.Lane, _ *render.Part, m render.Mark) {
		l.add(
			"glide-start",
			lane,
			m.Step,
			render.MendBy("Start as if the loop had come round", op.SetClip{OnClip: op.OnClip{Clip: l.clip.ID}, Patch: asJSON(map[string]any{"seam": "loop"})}),
			"%s of %s glides, but the clip starts fresh, so the first time there is nothing to glide from.",
			l.called(lane, m.Step),
			lane.Name,
		)
	})
}

// folded finds pitches outside MIDI's range that were moved by octaves.
func folded(l *look) {
	l.marks(render.PitchFolded, func(lane *piece.Lane, _ *render.Part, m render.Mark) {
		by := (pitch.Fold(m.Want) - m.Want) / 12
		label := "Move it an octave"
		if by > 1 || by < -1 {
			label = fmt.Sprintf("Move it %d octaves", max(by, -by))
		}
		mend := render.MendBy(label, l.octaves(lane, by, m.Step))
		l.add("folded", lane, m.Step, mend, "%s of %s asks for MIDI pitch %d; allowed: 0..127, so it was folded by octaves to %d.",
			l.called(lane, m.Step), lane.Name, m.Want, pitch.Fold(m.Want))
	})
}

// outsideRange counts the notes that a lane's range moved or left out.
func outsideRange(l *look) {
	l.marks(render.OutsideRange, func(lane *piece.Lane, _ *render.Part, m render.Mark) {
		what := "moved into it by octaves"
		if lane.Kept().Outside == "drop" {
			what = "left out"
		}
		notes := "notes were"
		if m.Want == 1 {
			notes = "note was"
		}
		l.add("range", lane, 0, nil, "%s: %d %s outside its range of %s..%s and %s.", lane.Name, m.Want, notes,
			pitch.Pretty(l.performance.Key.Named(lane.Kept().Low)), pitch.Pretty(l.performance.Key.Named(lane.Kept().High)), what)
	})
}

// clamped finds modulators that ask for more than their field can take.
func clamped(l *look) {
	l.marks(render.Clamped, func(lane *piece.Lane, _ *render.Part, m render.Mark) {
		field := render.Field(m.Want)
		l.add("clamped", lane, 0, nil, "A modulator of %s moves %s beyond its range; it was held at the end of that.", lane.Name, field)
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

// kinds asks the kinds of lanes for what they find.
func kinds(l *look) {
	for i := range l.performance.Lanes {
		part := &l.performance.Lanes[i]
		own := &l.clip.Lanes[part.Lane]
		if kind, ok := lane.Of(own).(finder); ok {
			l.found = append(l.found, kind.Findings(l.performance, part, own)...)
		}
	}
}
