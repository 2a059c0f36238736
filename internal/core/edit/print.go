package edit

import (
	"fmt"
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// printRates are the steps that a phrase is written out in, from long to short.
var printRates = []string{"1/1", "1/2", "1/4", "1/4T", "1/8", "1/8T", "1/16", "1/16T", "1/32", "1/32T", "1/64", "1/64T"}

// printPhrase writes a phrase out as lines: each note goes to the first line in which
// nothing sounds then. The lines must sound as the phrase does, or it is refused.
func printPhrase(t target, o op.PrintPhrase) error {
	if _, ok := t.Kind().(render.Walking); !ok {
		return t.Wrong("lane", "%s lanes are notes already; allowed: a phrase lane", t.Lane.Kind)
	}
	if o.Bars < 1 || o.Bars > beat.MaxBars {
		return t.Wrong("bars", "%d is out of range; allowed: 1..%d", o.Bars, beat.MaxBars)
	}
	performance, err := t.straight(o.Bars, t.Lane.ID)
	if err != nil {
		return t.Wrong("bars", "%v", err)
	}
	if len(performance.Lanes) == 0 || len(performance.Lanes[0].Notes) == 0 {
		return t.Wrong("lane", "%s sounds nothing in %d bars; allowed: a phrase that does", t.Lane.Name, o.Bars)
	}
	notes := performance.Lanes[0].Notes
	rate, step, err := t.printStep(notes, o.Bars)
	if err != nil {
		return err
	}
	var lines []piece.Lane
	var until []beat.Time
	count := int(t.Piece.Bar() * beat.Time(o.Bars) / step)
	from := piece.PitchedOf(t.Lane)
	sound := t.Lane.Sound
	for i := range notes {
		n := &notes[i]
		at := slices.IndexFunc(until, func(end beat.Time) bool { return end <= n.At })
		if at < 0 {
			at = len(lines)
			if err := t.Room(len(t.Clip.Lanes)+at, piece.MaxLanes, "lanes"); err != nil {
				return err
			}
			name := t.Lane.Name + " notes"
			if at > 0 {
				name = fmt.Sprintf("%s notes %d", t.Lane.Name, at+1)
			}
			fresh := piece.NewLane(piece.DefaultKind, t.laneID(name), name)
			fresh.Rate, fresh.Sound = rate, sound
			pitched := piece.PitchedOf(&fresh)
			pitched.Octave, pitched.Lock = from.Octave, "off"
			fresh.Content.StepList().Resize(count)
			lines, until = append(lines, fresh), append(until, 0)
			t.Clip.Lanes = append(t.Clip.Lanes, fresh)
			t.Lane = &t.Clip.Lanes[t.At]
		}
		until[at] = n.End
		if err := t.printNote(&lines[at], n, step); err != nil {
			return err
		}
	}
	t.Lane.Mute = true
	return t.agree(notes, lines, o.Bars)
}

// straight renders lanes as they are before the groove.
func (t target) straight(bars int, ids ...string) (*render.Performance, error) {
	p := *t.Piece
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
func (t target) printStep(notes []render.Note, bars int) (string, beat.Time, error) {
	try := piece.NewLane(piece.DefaultKind, "", "")
	for _, rate := range printRates {
		try.Rate = rate
		step := t.Piece.StepLength(&try)
		length := t.Piece.Bar() * beat.Time(bars)
		fits := length%step == 0 && length/step <= piece.MaxSteps
		if t.Piece.Groove.Swing > 50 && piece.DividesEvenly(t.Clip, &try) != piece.DividesEvenly(t.Clip, t.Lane) {
			fits = false // one of them is swung, and the other is not
		}
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
	return "", 0, t.Wrong("lane", "%s cannot be written as steps: no rate has room for all its notes within %d steps; allowed: fewer bars", t.Lane.Name, piece.MaxSteps)
}

// printNote puts a note into a line: with its gate, or held by ties through rests.
func (t target) printNote(line *piece.Lane, n *render.Note, step beat.Time) error {
	as, _ := printAs(n, step)
	line.SetPlace(as.first, t.Key().Express(int(n.Pitch), piece.PitchedOf(line).Octave))
	steps := line.Content.StepList()
	cell := steps.Cell(as.first)
	cell.On, cell.Velocity, cell.Nudge = true, int(n.Velocity), as.nudge
	for k := range as.held {
		steps.Cell(as.first + k).Tie = true
	}
	steps.Cell(as.first + as.held).Gate = as.gate
	return nil
}

// agree refuses lines that do not sound as the notes do.
func (t target) agree(notes []render.Note, lines []piece.Lane, bars int) error {
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
			return t.Wrong("lane", "%s would not sound the same as notes; allowed: a phrase without joins into other tones", t.Lane.Name)
		}
	}
	return nil
}
