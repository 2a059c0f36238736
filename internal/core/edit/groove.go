package edit

import (
	"cmp"
	"math"
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// takeGroove makes a template of how a lane is played, against where swing puts its grid,
// since swing stays.
func takeGroove(t target, o op.TakeGroove) error {
	notes, performance, err := t.played()
	if err != nil {
		return err
	}
	if len(notes) == 0 {
		return t.Wrong("lane", "%s sounds no note; allowed: a lane that does", t.Lane.Name)
	}
	const sixteenth = beat.Quarter / 4
	part := &performance.Lanes[0]
	taken := make([]piece.Played, len(notes))
	swing := performance.Swing
	if piece.DividesEvenly(t.Clip, t.Lane) {
		swing = swing.Scaled(0)
	}
	for i := range notes {
		grid := performance.Onset(part, &notes[i])
		taken[i] = piece.Played{
			Place:    int(grid % t.Piece.Bar() / sixteenth),
			Late:     float64(notes[i].At-swing.Warp(grid)) / float64(sixteenth) * 100,
			Velocity: int(notes[i].Velocity),
		}
	}
	name := o.Name
	if name == "" {
		name = "As " + t.Lane.Name
	}
	t.Piece.Groove.Template = piece.TemplateOf(name, slices.Values(taken))
	return nil
}

// played renders the lane alone as it sounds.
func (t target) played() ([]render.Note, *render.Performance, error) {
	performance, err := t.render(t.Piece, render.Options{Lanes: []string{t.Lane.ID}})
	if err != nil {
		return nil, nil, t.Wrong("lane", "%v", err)
	}
	return performance.Lanes[0].Notes, performance, nil
}

// printGroove writes where notes fall and how hard they are struck into the steps. The
// result must sound the same to within 1 % of a step, or it is refused.
func printGroove(t target, _ op.PrintGroove) error {
	if t.StepList() == nil {
		return t.Wrong("lane", "%s lanes have no steps to write into; allowed: a lane with steps", t.Lane.Kind)
	}
	before, performance, err := t.played()
	if err != nil {
		return err
	}
	if len(before) == 0 {
		return t.Wrong("lane", "%s sounds no note; allowed: a lane that does", t.Lane.Name)
	}
	before = slices.Clone(before)
	step := t.Piece.StepLength(t.Lane)
	seen := map[int32]bool{}
	for i := range before {
		n := &before[i]
		if seen[n.Step] {
			continue
		}
		seen[n.Step] = true
		cell := t.StepList().Cell(int(n.Step) - 1)
		grid := performance.Grid(&performance.Lanes[0], n)
		nudge := percentOf(n.At-grid, step)
		if nudge < -50 || nudge > 50 {
			return t.Wrong("lane", "step %d falls %d %% of a step off the grid; allowed: -50..50, as a nudge can", n.Step, nudge)
		}
		if !cell.Tie && cell.Ratchet == 1 {
			cell.Gate = min(max(percentOf(n.End-n.At, step), 1), 400)
		}
		cell.Nudge, cell.Velocity = nudge, int(n.Velocity)
	}
	t.Lane.Share = piece.Share{}
	after, _, err := t.played()
	if err != nil {
		return err
	}
	return t.alike(before, after, step)
}

// percentOf is a length in % of a step, rounded half up.
func percentOf(length, step beat.Time) int {
	return int(math.Floor(float64(length)/float64(step)*100 + 0.5))
}

// alike refuses notes that are not those that were there, to within 1 % of a step.
func (t target) alike(before, after []render.Note, step beat.Time) error {
	order := func(a, b render.Note) int {
		return cmp.Or(cmp.Compare(a.Round, b.Round), cmp.Compare(a.Step, b.Step), cmp.Compare(a.Pitch, b.Pitch), cmp.Compare(a.At, b.At))
	}
	slices.SortFunc(before, order)
	after = slices.Clone(after)
	slices.SortFunc(after, order)
	if len(before) != len(after) {
		return t.Wrong("lane", "%d notes would be %d; the groove cannot be written into its steps", len(before), len(after))
	}
	for i := range before {
		a, b := &before[i], &after[i]
		off := func(x, y beat.Time) bool { return 100*max(x-y, y-x) > step }
		if a.Step != b.Step || a.Pitch != b.Pitch || a.Velocity != b.Velocity || off(a.At, b.At) || off(a.End, b.End) {
			return t.Wrong(
				"lane",
				"step %d would not sound the same in round %d: the groove meets it elsewhere in the bar, or its ties and ratchets hold it; allowed: a lane whose rounds fill its bars",
				a.Step,
				a.Round,
			)
		}
	}
	return nil
}
