package edit

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/intake"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/midi"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// mostPrinted is how many bars are printed where no number is asked for.
const mostPrinted = 64

// printLanes makes lanes of free notes of what lanes sound, and mutes those.
func printLanes(t target, o op.PrintLanes) error {
	if len(o.Lanes) == 0 {
		return t.Wrong("lanes", "none is named; allowed: one or more lanes with notes")
	}
	if o.Bars < 0 || o.Bars > beat.MaxBars {
		return t.Wrong("bars", "%d is out of range; allowed: 1..%d", o.Bars, beat.MaxBars)
	}
	var at []int
	for i, id := range o.Lanes {
		k := slices.IndexFunc(t.Clip.Lanes, func(l piece.Lane) bool { return l.ID == id })
		if k < 0 || t.Clip.Lanes[k].Silent() {
			return t.Wrong(fmt.Sprintf("lanes[%d]", i), "no lane %q with notes is in the clip", id)
		}
		if slices.Contains(at, k) {
			return t.Wrong(fmt.Sprintf("lanes[%d]", i), "%q is named twice; allowed: each once", id)
		}
		at = append(at, k)
	}
	slices.Sort(at)
	groups := [][]int{at}
	if o.Each {
		groups = nil
		for _, k := range at {
			groups = append(groups, []int{k})
		}
	}
	bars := o.Bars
	if bars == 0 {
		bars = t.printedBars(at)
	}
	for _, group := range groups {
		if err := t.printGroup(o, group, bars); err != nil {
			return err
		}
	}
	return nil
}

// printedBars are the bars of the full cycle of lanes, as far as so many are printed unasked.
func (t target) printedBars(at []int) int {
	alone := *t.Clip
	alone.Lanes = slices.Clone(t.Clip.Lanes)
	for i := range alone.Lanes {
		alone.Lanes[i].Mute = !slices.Contains(at, i)
	}
	cycle := lane.CycleWithin(t.Piece, &alone, t.Budget)
	if !cycle.Full.IsInt64() || cycle.Full.Sign() == 0 {
		return mostPrinted
	}
	bar := int64(t.Piece.Bar())
	return int(min((cycle.Full.Int64()+bar-1)/bar, mostPrinted))
}

// printGroup makes one lane of what some sound.
func (t target) printGroup(o op.PrintLanes, group []int, bars int) error {
	if err := t.Room(len(t.Clip.Lanes), piece.MaxLanes, "lanes"); err != nil {
		return err
	}
	from := *t.Piece
	if !o.Groove {
		from.Groove.Swing, from.Groove.Template = 50, nil
	}
	options := render.Options{Bars: bars, Ways: true}
	var names []string
	for _, k := range group {
		options.Lanes = append(options.Lanes, t.Clip.Lanes[k].ID)
		names = append(names, t.Clip.Lanes[k].Name)
	}
	performance, err := t.render(&from, options)
	if err != nil {
		return t.Wrong("bars", "%v", err)
	}
	for _, k := range group {
		t.Clip.Lanes[k].Mute = true
	}
	mode, err := t.printedMode(performance, names)
	if err != nil {
		return err
	}
	source, ways := t.printed(performance, mode != nil, bars)
	if len(source.Notes) == 0 {
		return t.Wrong("lanes", "nothing of %s sounds in %s; allowed: lanes of which something does", strings.Join(names, " and "), render.Many(bars, "bar"))
	}
	if len(source.Notes) > piece.MaxNotes {
		return t.Wrong("bars", "they would make %d notes; allowed: at most %d", len(source.Notes), piece.MaxNotes)
	}
	if mode == nil {
		mode = &piece.GlideMode{}
	}
	printed, err := lane.Print(source, ways, *mode)
	if err != nil {
		return t.Wrong("lanes", "%s cannot be printed: %v", strings.Join(names, " and "), err)
	}
	first := &t.Clip.Lanes[group[0]]
	printed.Name = o.Name
	if printed.Name == "" || o.Each {
		printed.Name = first.Name + " notes"
	}
	printed.ID, printed.Sound, printed.Channel = t.laneID(printed.Name), first.Sound, first.Channel
	if !o.Groove {
		printed.Share = piece.ShareOf(t.Clip, first)
		if piece.DividesEvenly(t.Clip, first) && t.Piece.Groove.Template == nil {
			printed.Share.Timing = 0 // free notes have no rate: swing would bend them
		}
	}
	t.Clip.Lanes = append(t.Clip.Lanes, printed)
	if t.Lane != nil {
		t.Lane = &t.Clip.Lanes[t.At]
	}
	return t.soundsAsBefore(&from, performance, printed.ID, names)
}

// printedMode is how a lane glides that holds what lanes sounded; nil: nothing of them bends. One wheel bends all
// notes of a lane, so that it can hold one lane that does; notes with wheels of their own stand beside any.
func (t target) printedMode(performance *render.Performance, names []string) (*piece.GlideMode, error) {
	var out *piece.GlideMode
	wheels, apart := 0, 0
	for i := range performance.Lanes {
		part := &performance.Lanes[i]
		own := piece.GlideModeOf(piece.SourceOf(t.Clip, &t.Clip.Lanes[part.Lane]))
		switch {
		case part.Zone != nil:
			apart = max(apart, own.Range)
		case len(part.Bends) > 0 || len(part.Ways) > 0:
			wheels++
			if out = own; out == nil {
				out = &piece.GlideMode{Mode: "bend", Range: piece.DefaultRange}
			}
		}
	}
	if wheels > 0 && len(performance.Lanes) > 1 {
		return nil, t.Wrong("lanes", "%s bend, and a wheel bends all notes of a lane; allowed: a lane of each", strings.Join(names, " and "))
	}
	if apart > 0 {
		out = &piece.GlideMode{Mode: piece.MPE, Range: apart}
	}
	return out, nil
}

// printed are the notes that lanes sounded in order of time, and how their wheels went, where those are wanted.
func (t target) printed(performance *render.Performance, bends bool, bars int) (*intake.Source, []render.Way) {
	type sounded struct {
		note intake.Note
		way  *render.Way
	}
	var all []sounded
	out := &intake.Source{Key: t.Key(), Length: bars * int(t.Piece.Bar()/piece.NoteTick)}
	for i := range performance.Lanes {
		part := &performance.Lanes[i]
		own := &t.Clip.Lanes[part.Lane]
		out.Drums = own.Channel == midi.DrumChannel || own.Sound.Voice == "kit"
		index := 0
		performance.Written(part, intake.PPQ, func(n *render.Note, at, length int64) {
			for &part.Notes[index] != n {
				index++
			}
			one := sounded{intake.Note{At: int(at), Length: int(length), Pitch: int(n.Pitch), Velocity: int(n.Velocity)}, nil}
			if bends {
				one.way, _ = part.WayOf(index)
			}
			all = append(all, one)
		})
	}
	if len(performance.Lanes) > 1 {
		slices.SortStableFunc(all, func(a, b sounded) int { return a.note.At - b.note.At })
	}
	var ways []render.Way
	for i, one := range all {
		out.Notes = append(out.Notes, one.note)
		if one.way != nil {
			way := *one.way
			way.Note = i
			ways = append(ways, way)
		}
	}
	return out, ways
}

// soundsAsBefore refuses a printed lane that does not sound as what was printed: every note to the
// tick, every bend within a sixteenth of a semitone.
func (t target) soundsAsBefore(from *piece.Piece, before *render.Performance, id string, names []string) error {
	after, err := t.render(from, render.Options{Bars: int(before.Length / before.Bar), Lanes: []string{id}})
	if err != nil {
		return err
	}
	count := map[intake.Note]int{}
	each := func(p *render.Performance, by int) {
		for i := range p.Lanes {
			p.Written(&p.Lanes[i], intake.PPQ, func(n *render.Note, at, length int64) {
				count[intake.Note{At: int(at), Length: int(length), Pitch: int(n.Pitch), Velocity: int(n.Velocity)}] += by
			})
		}
	}
	each(before, 1)
	each(after, -1)
	who := strings.Join(names, " and ")
	for n, left := range count {
		if left != 0 {
			return t.Wrong(
				"lanes",
				"%s would not sound the same as notes: %s at %d would differ; allowed: lanes whose notes one lane can hold, or one of each",
				who,
				t.Key().Named(n.Pitch),
				n.At,
			)
		}
	}
	if off := t.wheelsApart(before, after); off > 1.0/16 {
		return t.Wrong("lanes", "%s would bend %.2f semitones otherwise; allowed: at most 1/16. Without the groove glides keep their way", who, off)
	}
	return nil
}

// wheelsApart is by how many semitones the wheels of what was printed are apart at most from those of what it was
// printed to: the lane's, or each note's own.
func (t target) wheelsApart(before, after *render.Performance) (most float64) {
	if after.Lanes[0].Zone == nil {
		if len(before.Lanes) == 1 {
			most = apart(before.Lanes[0].Bends, after.Lanes[0].Bends, before.Lanes[0].Range, after.Lanes[0].Range)
		}
		return most
	}
	type wheel struct {
		list  []render.Bend
		reach int
	}
	wheels := map[intake.Note][]wheel{}
	each := func(p *render.Performance, do func(note intake.Note, w wheel)) {
		for i := range p.Lanes {
			part := &p.Lanes[i]
			p.Written(part, intake.PPQ, func(n *render.Note, at, length int64) {
				do(intake.Note{At: int(at), Length: int(length), Pitch: int(n.Pitch), Velocity: int(n.Velocity)}, wheel{part.WheelOf(n), part.Range})
			})
		}
	}
	each(before, func(note intake.Note, w wheel) { wheels[note] = append(wheels[note], w) })
	each(after, func(note intake.Note, w wheel) {
		was := wheels[note][0]
		wheels[note] = wheels[note][1:]
		most = max(most, apart(was.list, w.list, was.reach, w.reach))
	})
	return most
}

// apart is by how many semitones two wheels, of a range each, are apart at most.
func apart(a, b []render.Bend, reachA, reachB int) (most float64) {
	i, k, x, y := 0, 0, 0.0, 0.0
	for i < len(a) || k < len(b) {
		now := beat.Time(math.MaxInt64)
		if i < len(a) {
			now = a[i].At
		}
		if k < len(b) {
			now = min(now, b[k].At)
		}
		for i < len(a) && a[i].At <= now {
			x = float64(a[i].Value) * float64(reachA) / 8192
			i++
		}
		for k < len(b) && b[k].At <= now {
			y = float64(b[k].Value) * float64(reachB) / 8192
			k++
		}
		most = max(most, math.Abs(x-y))
	}
	return most
}
