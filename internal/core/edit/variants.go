package edit

import (
	"encoding/json"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// addVariant copies the clip into its stack, after the others, with its luck.
func addVariant(t target, o op.AddVariant) error {
	_, err := t.variant(o.Name)
	return err
}

// variant makes a variant of the clip and gives its place.
func (t target) variant(name string) (int, error) {
	if err := t.Room(len(t.Piece.Clips), piece.MaxClips, "clips"); err != nil {
		return 0, err
	}
	t.Budget.Spend(keeping * lanesSteps(t.Clip.Lanes))
	twin := t.Clip.Clone()
	twin.Of, twin.Draws = t.Clip.Head(), t.Clip.Draw()
	stack := t.Piece.Stack(twin.Of)
	if name == "" {
		name = fmt.Sprintf("%s %d", t.Piece.Clips[stack[0]].Name, len(stack)+1)
	}
	if len([]rune(name)) > piece.MaxName {
		return 0, t.Wrong("name", "%d characters; allowed: at most %d", len([]rune(name)), piece.MaxName)
	}
	twin.ID, twin.Name = t.clipID(name), name
	at := slices.Max(stack) + 1
	t.Piece.Clips = slices.Insert(t.Piece.Clips, at, twin)
	return at, nil
}

// apartStack makes clips of their own of all in the clip's stack. Each keeps its luck.
func apartStack(t target, _ op.ApartStack) error {
	head := t.Clip.Head()
	for i := range t.Piece.Clips {
		if c := &t.Piece.Clips[i]; c.Of == head {
			c.Of = ""
		}
	}
	return nil
}

// takeAcross takes over from another clip a setting, a lane, or some bars.
func takeAcross(t target, o op.TakeAcross) error {
	from, err := t.Piece.Clip(o.From)
	if err != nil {
		return t.Wrong("from", "%v", err)
	}
	if from.ID == t.Clip.ID {
		return t.Wrong("from", "is the clip itself; allowed: another one")
	}
	switch {
	case len(o.Bars) > 0 && o.Path != "":
		return t.Wrong("path", "stands beside bars; allowed: one of them")
	case len(o.Bars) > 0:
		return t.takeBars(from, o)
	case o.Path != "":
		return t.takeSetting(from, o)
	case o.Lane == "":
		return t.Wrong("lane", "nothing is named; allowed: a lane, a path, or bars")
	}
	other := laneIn(from, o.Lane)
	own := laneIn(t.Clip, o.Lane)
	switch {
	case other == nil && own == nil:
		return t.Wrong("lane", "no lane %q is in either clip", o.Lane)
	case other == nil: // there it is not
		t.Clip.Lanes = slices.DeleteFunc(t.Clip.Lanes, func(l piece.Lane) bool { return l.ID == o.Lane })
	case own == nil:
		if err := t.Room(len(t.Clip.Lanes), piece.MaxLanes, "lanes"); err != nil {
			return err
		}
		t.Clip.Lanes = append(t.Clip.Lanes, other.Clone())
	default:
		*own = other.Clone()
	}
	return nil
}

func laneIn(c *piece.Clip, id string) *piece.Lane {
	for i := range c.Lanes {
		if c.Lanes[i].ID == id {
			return &c.Lanes[i]
		}
	}
	return nil
}

// takeSetting takes over what stands at a path, in the document that each clip is.
func (t target) takeSetting(from *piece.Clip, o op.TakeAcross) error {
	var own, other map[string]any
	for _, c := range []struct {
		clip *piece.Clip
		into *map[string]any
	}{{t.Clip, &own}, {from, &other}} {
		if err := json.Unmarshal(piece.WriteClip(c.clip), c.into); err != nil {
			return err
		}
	}
	path, in, out := o.Path, any(own), any(other)
	if o.Lane != "" {
		if in, out = member(own, o.Lane), member(other, o.Lane); in == nil || out == nil {
			return t.Wrong("lane", "no lane %q is in both clips; allowed: one that is", o.Lane)
		}
	}
	names := strings.FieldsFunc(path, func(r rune) bool { return r == '.' || r == '[' || r == ']' })
	if len(names) == 0 || o.Lane == "" && (names[0] == "id" || names[0] == "lanes" || names[0] == "of" || names[0] == "draws") {
		return t.Wrong("path", "%q is no setting; allowed: a path as comparisons name it", path)
	}
	if err := carry(in, out, names); err != nil {
		return t.Wrong("path", "%q: %v", path, err)
	}
	if o.Lane == "" && (names[0] == "bars" || names[0] == "until") { // one stands for the other
		delete(own, "bars")
		delete(own, "until")
		for _, name := range []string{"bars", "until"} {
			if v, there := other[name]; there {
				own[name] = v
			}
		}
	}
	data, err := json.Marshal(own)
	if err != nil {
		return err
	}
	next, err := piece.ReadClip(data)
	if err != nil {
		return t.Wrong("path", "%q cannot be taken alone: %v", path, err)
	}
	*t.Clip = *next
	return nil
}

// member is a lane of a clip's document, by its id.
func member(clip map[string]any, id string) any {
	lanes, _ := clip["lanes"].([]any)
	for _, l := range lanes {
		if l.(map[string]any)["id"] == id {
			return l
		}
	}
	return nil
}

// carry makes what stands under names in one document as it is in another. What is absent there is at
// its default, and becomes absent.
func carry(in, from any, names []string) error {
	switch own := in.(type) {
	case map[string]any:
		other, _ := from.(map[string]any)
		there, found := other[names[0]]
		if len(names) == 1 {
			if found {
				own[names[0]] = there
			} else {
				delete(own, names[0])
			}
			return nil
		}
		if _, mine := own[names[0]]; !mine {
			own[names[0]] = map[string]any{}
		}
		return carry(own[names[0]], there, names[1:])
	case []any:
		i, err := strconv.Atoi(names[0])
		other, _ := from.([]any)
		if err != nil || i < 0 || i >= len(own) || i >= len(other) {
			return fmt.Errorf("there is no %s in both; allowed: one that both have, or all of them", names[0])
		}
		if len(names) == 1 {
			own[i] = other[i]
			return nil
		}
		return carry(own[i], other[i], names[1:])
	}
	return fmt.Errorf("nothing is under %s", names[0])
}

// takeBars takes over some bars of a lane, or of all that both clips have. Lanes whose steps repeat within
// the clip are written out until it is over, so that a bar is its own.
func (t target) takeBars(from *piece.Clip, o op.TakeAcross) error {
	most := max(t.barsOf(t.Clip), t.barsOf(from))
	in := map[int]bool{}
	for _, b := range o.Bars {
		if b < 1 || b > most {
			return t.Wrong("bars", "there is no bar %d; allowed: 1..%d", b, most)
		}
		in[b-1] = true
	}
	taken := false
	for i := range t.Clip.Lanes {
		own := &t.Clip.Lanes[i]
		other := laneIn(from, own.ID)
		if other == nil || o.Lane != "" && own.ID != o.Lane {
			continue
		}
		if err := t.barsOfLane(from, own, other, in, most); err != nil {
			return err
		}
		taken = true
	}
	if !taken {
		return t.Wrong("lane", "no lane %q is in both clips; allowed: one that is", o.Lane)
	}
	if t.Clip.Bars > 0 && from.Bars > t.Clip.Bars {
		t.Clip.Bars = from.Bars
	}
	return nil
}

// barsOf is how many bars a clip lasts.
func (t target) barsOf(c *piece.Clip) int {
	if c.Bars > 0 {
		return c.Bars
	}
	cycle := lane.CycleWithin(t.Piece, c, t.Budget)
	total := cycle.Realign
	if c.Until == "cycle" {
		total = cycle.Full
	}
	if cycle.Cycle.Over(total) {
		return beat.MaxBars
	}
	bar := int64(t.Piece.Bar())
	return int(max((total.Int64()+bar-1)/bar, 1))
}

// barsOfLane takes over bars of one lane.
func (t target) barsOfLane(from *piece.Clip, own, other *piece.Lane, in map[int]bool, bars int) error {
	bar := t.Piece.Bar()
	refuse := func(format string, args ...any) error {
		return t.Wrong("bars", "of %s: %s; allowed: the whole lane", own.Name, fmt.Sprintf(format, args...))
	}
	if own.Kind != other.Kind {
		return refuse("it is another kind of lane there")
	}
	within := func(at int) bool { return in[int(beat.Time(at)*piece.NoteTick/bar)] }
	if count, free := own.TakeFree(other, within); free {
		if count > piece.MaxNotes {
			return refuse("it would have %d notes, over %d", count, piece.MaxNotes)
		}
		return nil
	}
	if own.Content.StepList() == nil || own.Rate != other.Rate {
		return refuse("its steps are of another length there")
	}
	length := beat.Time(bars) * bar
	mine, err := t.unrolled(t.Clip, own, length)
	if err != nil {
		return refuse("%v", err)
	}
	yours, err := t.unrolled(from, other, length)
	if err != nil {
		return refuse("%v", err)
	}
	if !piece.SamePalette(mine, yours) {
		return refuse("it has other chords in its palette there")
	}
	step := t.Piece.StepLength(own)
	mixed, steps := mine.Content.StepList(), yours.Content.StepList()
	n := min(mixed.Len(), steps.Len())
	for k := range n {
		if in[int(beat.Time(k)*step/bar)] {
			mixed.Take(k, steps, k)
		}
	}
	*own = *mine
	return nil
}

// unrolled is a lane with its steps written out as they come within a length, forwards.
func (t target) unrolled(clip *piece.Clip, own *piece.Lane, length beat.Time) (*piece.Lane, error) {
	out := own.Clone()
	pattern := render.PatternOf(t.Piece, clip, &out)
	if pattern.Shuffles() {
		return nil, fmt.Errorf("it plays shuffled")
	}
	var slots []render.Slot
	pattern.Each(length, func(s render.Slot) bool {
		t.Budget.Spend(1)
		slots = append(slots, s)
		return len(slots) <= piece.MaxSteps
	})
	if len(slots) > piece.MaxSteps {
		return nil, fmt.Errorf("it would have more than %d steps", piece.MaxSteps)
	}
	if len(slots) == 0 {
		return &out, nil
	}
	steps := out.Content.StepList()
	steps.Resize(max(steps.Len(), len(slots)))
	at, from := make([]int, len(slots)), make([]int, len(slots))
	for k := range at {
		at[k], from[k] = k, int(slots[k].Step)
	}
	steps.Arrange(at, from)
	for k := range at {
		cell := steps.Cell(k)
		cell.Skip = false
		if cell.Rounds != nil {
			cell.On = cell.On && render.InRound(cell.Rounds, slots[k].Round)
			cell.Rounds = nil
		}
	}
	steps.Resize(len(slots))
	out.Window, out.Direction, out.Restart = nil, "forward", 0
	return &out, nil
}
