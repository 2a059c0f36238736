package edit

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/intake"
	"agrimony/internal/core/lane"
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
	for _, k := range at {
		t.Clip.Lanes[k].Mute = true
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
	for _, k := range group {
		if own := &t.Clip.Lanes[k]; piece.GlidesApart(t.Clip, own) {
			return t.Wrong("lanes", "%s glides note by note, which a printed lane cannot hold; allowed: lanes that glide by the lane's wheel, or not at all", own.Name)
		}
	}
	performance, err := t.render(&from, options)
	if err != nil {
		return t.Wrong("bars", "%v", err)
	}
	bends := slices.ContainsFunc(performance.Lanes, func(p render.Part) bool { return len(p.Bends) > 0 || len(p.Ways) > 0 })
	if bends && len(performance.Lanes) > 1 {
		return t.Wrong("lanes", "%s bend, and a wheel bends all notes of a lane; allowed: a lane of each", strings.Join(names, " and "))
	}
	source := &intake.Source{Key: t.Key(), Length: bars * int(t.Piece.Bar()/piece.NoteTick)}
	mode := piece.GlideMode{Mode: "bend", Range: piece.DefaultRange}
	var ways []render.Way
	place := map[int]int{} // of a note of a part among those that are written
	for i := range performance.Lanes {
		part := &performance.Lanes[i]
		own := &t.Clip.Lanes[part.Lane]
		if set := piece.GlideModeOf(piece.SourceOf(t.Clip, own)); set != nil && bends {
			mode = *set
		}
		index := 0
		performance.Written(part, intake.PPQ, func(n *render.Note, at, length int64) {
			for &part.Notes[index] != n {
				index++
			}
			place[index] = len(source.Notes)
			source.Notes = append(source.Notes, intake.Note{At: int(at), Length: int(length), Pitch: int(n.Pitch), Velocity: int(n.Velocity)})
		})
		for _, way := range part.Ways {
			if k, there := place[way.Note]; there && bends {
				way.Note = k
				ways = append(ways, way)
			}
		}
		source.Drums = own.Channel == 10 || own.Sound.Voice == "kit"
	}
	if len(source.Notes) == 0 {
		return t.Wrong("lanes", "nothing of %s sounds in %s; allowed: lanes of which something does", strings.Join(names, " and "), render.Many(bars, "bar"))
	}
	if len(source.Notes) > piece.MaxNotes {
		return t.Wrong("bars", "they would make %d notes; allowed: at most %d", len(source.Notes), piece.MaxNotes)
	}
	if len(ways) == 0 {
		slices.SortStableFunc(source.Notes, func(a, b intake.Note) int { return a.At - b.At })
	}
	printed, err := lane.Print(source, ways, mode)
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
	}
	t.Clip.Lanes = append(t.Clip.Lanes, printed)
	if t.Lane != nil {
		t.Lane = &t.Clip.Lanes[t.At]
	}
	return t.soundsAsBefore(&from, performance, printed.ID, names)
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
			return t.Wrong("lanes", "%s would not sound the same as notes: %s at %d would differ; allowed: lanes whose notes one lane can hold, or one of each", who, t.Key().Named(n.Pitch), n.At)
		}
	}
	for i := range before.Lanes {
		if off := apart(&before.Lanes[i], &after.Lanes[0]); len(before.Lanes) == 1 && off > 1.0/16 {
			return t.Wrong("lanes", "%s would bend %.2f semitones otherwise; allowed: at most 1/16. Without the groove glides keep their way", who, off)
		}
	}
	return nil
}

// apart is by how many semitones two parts' wheels are apart at most.
func apart(a, b *render.Part) (most float64) {
	i, k, x, y := 0, 0, 0.0, 0.0
	for i < len(a.Bends) || k < len(b.Bends) {
		now := beat.Time(math.MaxInt64)
		if i < len(a.Bends) {
			now = a.Bends[i].At
		}
		if k < len(b.Bends) {
			now = min(now, b.Bends[k].At)
		}
		for i < len(a.Bends) && a.Bends[i].At <= now {
			x = float64(a.Bends[i].Value) * float64(a.Range) / 8192
			i++
		}
		for k < len(b.Bends) && b.Bends[k].At <= now {
			y = float64(b.Bends[k].Value) * float64(b.Range) / 8192
			k++
		}
		most = max(most, math.Abs(x-y))
	}
	return most
}
