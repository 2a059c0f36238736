package edit

import (
	"fmt"
	"slices"
	"strings"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

func fillShare(t *target, o op.FillShare) error {
	if o.Of < 1 || o.Of > piece.MaxSteps || o.Take < 0 || o.Take > o.Of {
		return t.wrong("take", "%d of %d; allowed: up to all of 1..%d", o.Take, o.Of, piece.MaxSteps)
	}
	t.hits(func(i int) bool { return i%o.Of < o.Take })
	return nil
}

// PlayShapes are the shapes that the steps of a phrase can be given.
var PlayShapes = []string{"climb", "stab", "leap"}

func fillPlays(t *target, o op.FillPlays) error {
	p, ok := t.lane.Content.(*piece.Phrase)
	if !ok {
		return t.wrong("lane", "steps of %s lanes walk nothing; allowed: a phrase lane", t.lane.Kind)
	}
	if !slices.Contains(PlayShapes, o.Shape) {
		return t.wrong("shape", "%q is not allowed; allowed: %s", o.Shape, strings.Join(PlayShapes, ", "))
	}
	hit := 0
	for k, i := range t.steps {
		s := &p.Steps[i]
		s.Play = "next"
		switch o.Shape {
		case "climb":
			if k > 0 && 2*k >= len(t.steps) {
				s.Play = "back"
			}
		case "stab":
			if k == 0 {
				s.Play = "chord"
			}
		case "leap":
			if s.On {
				hit++
				s.Octave = 0
				if hit%4 == 0 {
					s.Octave = 1
				}
			}
		}
	}
	return nil
}

// printRates are the steps that a phrase is written out in, from long to short.
var printRates = []string{"1/1", "1/2", "1/4", "1/4T", "1/8", "1/8T", "1/16", "1/16T", "1/32", "1/32T", "1/64", "1/64T"}

// printPhrase writes a phrase out as lines: each note goes to the first line in which
// nothing sounds then. The lines must sound as the phrase does, or it is refused.
func printPhrase(t *target, o op.PrintPhrase) error {
	if _, ok := t.lane.Content.(*piece.Phrase); !ok {
		return t.wrong("lane", "%s lanes are notes already; allowed: a phrase lane", t.lane.Kind)
	}
	if o.Bars < 1 || o.Bars > beat.MaxBars {
		return t.wrong("bars", "%d is out of range; allowed: 1..%d", o.Bars, beat.MaxBars)
	}
	performance, err := t.straight(o.Bars, t.lane.ID)
	if err != nil {
		return t.wrong("bars", "%v", err)
	}
	if len(performance.Lanes) == 0 || len(performance.Lanes[0].Notes) == 0 {
		return t.wrong("lane", "%s sounds nothing in %d bars; allowed: a phrase that does", t.lane.Name, o.Bars)
	}
	notes := performance.Lanes[0].Notes
	rate, step, err := t.printStep(notes, o.Bars)
	if err != nil {
		return err
	}
	var lines []piece.Lane
	var until []beat.Time
	count := int(t.piece.Bar() * beat.Time(o.Bars) / step)
	from := t.lane.Content.(*piece.Phrase)
	sound := t.lane.Sound
	for i := range notes {
		n := &notes[i]
		at := slices.IndexFunc(until, func(end beat.Time) bool { return end <= n.At })
		if at < 0 {
			at = len(lines)
			if err := t.room(len(t.clip.Lanes)+at, piece.MaxLanes, "lanes"); err != nil {
				return err
			}
			name := t.lane.Name + " notes"
			if at > 0 {
				name = fmt.Sprintf("%s notes %d", t.lane.Name, at+1)
			}
			fresh := piece.NewLane("line", t.laneID(name), name)
			fresh.Rate, fresh.Sound = rate, sound
			line := fresh.Content.(*piece.Line)
			line.Octave, line.Lock = from.Octave, "off"
			line.Slots().Resize(count)
			lines, until = append(lines, fresh), append(until, 0)
			t.clip.Lanes = append(t.clip.Lanes, fresh)
			t.lane = &t.clip.Lanes[t.at]
		}
		until[at] = n.End
		if err := t.printNote(lines[at].Content.(*piece.Line), n, step); err != nil {
			return err
		}
	}
	t.lane.Mute = true
	return t.agree(notes, lines, o.Bars)
}

// straight renders lanes as they are before the groove.
func (t *target) straight(bars int, ids ...string) (*render.Performance, error) {
	p := *t.piece
	p.Groove.Swing, p.Groove.Template = 50, nil
	return t.render(&p, render.Options{Bars: bars, Lanes: ids})
}

// printed is a note as a step of a line holds it.
type printed struct {
	first, held int // its step, from 0, and through how many more it is tied
	nudge, gate int // %
}

// printAs works out how a note stands in steps; ok is false where it does not.
func printAs(n *render.Note, step beat.Time) (out printed, ok bool) {
	out.first = int((n.At + step/2) / step)
	off, length := n.At-beat.Time(out.first)*step, n.End-n.At
	if off*100%step != 0 {
		return out, false
	}
	out.nudge = int(off * 100 / step)
	if length*100%step == 0 && length <= 4*step && out.nudge >= -50 && out.nudge <= 50 {
		out.gate = int(length * 100 / step)
		return out, out.gate >= 1
	}
	out.held = int((length - 1) / step)
	rest := length - beat.Time(out.held)*step
	out.gate = int(rest * 100 / step)
	return out, off == 0 && rest*100%step == 0
}

// printStep finds the longest step in which every note stands.
func (t *target) printStep(notes []render.Note, bars int) (string, beat.Time, error) {
	try := piece.NewLane("line", "", "")
	for _, rate := range printRates {
		try.Rate = rate
		step := t.piece.StepLength(&try)
		length := t.piece.Bar() * beat.Time(bars)
		fits := length%step == 0 && length/step <= piece.MaxSteps
		last := -1
		for i := range notes {
			if !fits {
				break
			}
			as, ok := printAs(&notes[i], step)
			fits = ok && (as.first >= last) && as.first < int(length/step) && (i == 0 || notes[i-1].At == notes[i].At || as.first > last)
			last = as.first
		}
		if fits {
			return rate, step, nil
		}
	}
	return "", 0, t.wrong("lane", "%s cannot be written as steps: no rate has room for all its notes within %d steps; allowed: fewer bars", t.lane.Name, piece.MaxSteps)
}

// printNote puts a note into a line: with its gate, or held by ties through rests.
func (t *target) printNote(line *piece.Line, n *render.Note, step beat.Time) error {
	as, _ := printAs(n, step)
	s := &line.Steps[as.first]
	s.SetPlace(t.key().Express(int(n.Pitch), line.Octave))
	s.On, s.Velocity, s.Nudge = true, int(n.Velocity), as.nudge
	for k := range as.held {
		line.Steps[as.first+k].Tie = true
	}
	line.Steps[as.first+as.held].Gate = as.gate
	return nil
}

// agree refuses lines that do not sound as the notes do.
func (t *target) agree(notes []render.Note, lines []piece.Lane, bars int) error {
	var ids []string
	for i := range lines {
		ids = append(ids, lines[i].ID)
	}
	again, err := t.straight(bars, ids...)
	if err != nil {
		return err
	}
	count := map[string]int{}
	key := func(n *render.Note) string { return fmt.Sprint(n.At, n.End, n.Pitch, n.Velocity) }
	for i := range notes {
		count[key(&notes[i])]++
	}
	for i := range again.Lanes {
		for k := range again.Lanes[i].Notes {
			count[key(&again.Lanes[i].Notes[k])]--
		}
	}
	for _, left := range count {
		if left != 0 {
			return t.wrong("lane", "%s would not sound the same as notes; allowed: a phrase without joins into other tones", t.lane.Name)
		}
	}
	return nil
}
