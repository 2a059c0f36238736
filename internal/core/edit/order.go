package edit

import (
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"strconv"

	"agrimony/internal/core/lane/change"
	"agrimony/internal/core/op"
	"agrimony/internal/core/order"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

func writeOrder(t target, o op.WriteOrder) error {
	entries, err := readEntries(t, o.Entries)
	if err != nil {
		return err
	}
	t.Piece.Order.Entries = entries
	return nil
}

func addEntries(t target, o op.AddEntries) error {
	entries, err := readEntries(t, o.Entries)
	if err != nil {
		return err
	}
	return t.place(entries...)
}

func readEntries(t target, data json.RawMessage) ([]piece.Entry, error) {
	text, err := json.Marshal(map[string]json.RawMessage{"entries": data})
	if err != nil {
		return nil, t.Wrong("entries", "%v", err)
	}
	read, err := piece.ReadRunning(text)
	if err != nil {
		return nil, err
	}
	return read.Entries, nil
}

// place puts entries in, and all in order of time.
func (t target) place(entries ...piece.Entry) error {
	all := append(slices.Clone(t.Piece.Order.Entries), entries...)
	if len(all) > piece.MaxEntries {
		return t.Wrong("entries", "the running order would have %d entries; allowed: at most %d", len(all), piece.MaxEntries)
	}
	piece.SortEntries(all)
	t.Piece.Order.Entries = all
	return nil
}

// picked are entries, named from 1, in a list of the order's that may be changed.
func (t target) picked(names []int) (all []piece.Entry, picked []*piece.Entry, err error) {
	all = slices.Clone(t.Piece.Order.Entries)
	if len(names) == 0 {
		return nil, nil, t.Wrong("entries", "none is named; allowed: one or more")
	}
	for i, n := range names {
		if n < 1 || n > len(all) {
			return nil, nil, t.Wrong("entries", "there is no entry %d; allowed: 1..%d", n, len(all))
		}
		if slices.Contains(names[:i], n) {
			return nil, nil, t.Wrong("entries", "entry %d is named twice; allowed: once", n)
		}
		picked = append(picked, &all[n-1])
	}
	return all, picked, nil
}

// changed takes over entries that were changed, in order of time.
func (t target) changed(all []piece.Entry) error {
	for i := range all {
		if e := &all[i]; e.At < 0 || e.For < 1 {
			return t.Wrong("by", "%s would begin at %d and last %d; allowed: from 0 on, and at least 1", e.Clip, e.At, e.For)
		}
	}
	piece.SortEntries(all)
	t.Piece.Order.Entries = all
	return nil
}

func setEntries(t target, o op.SetEntries) error {
	all, picked, err := t.picked(o.Entries)
	if err != nil {
		return err
	}
	for i, e := range picked {
		if err := piece.PatchEntry(fmt.Sprintf("order.entries[%d]", o.Entries[i]-1), o.Patch, e); err != nil {
			return err
		}
	}
	return t.changed(all)
}

func moveEntries(t target, o op.MoveEntries) error {
	all, picked, err := t.picked(o.Entries)
	if err != nil {
		return err
	}
	for _, e := range picked {
		e.At += o.By
	}
	return t.changed(all)
}

func stretchEntries(t target, o op.StretchEntries) error {
	all, picked, err := t.picked(o.Entries)
	if err != nil {
		return err
	}
	for _, e := range picked {
		if !o.Start {
			e.For += o.By
			continue
		}
		was := *e
		e.At, e.For = e.At+o.By, e.For-o.By
		if e.At < 0 || e.For < 1 {
			return t.Wrong("by", "%s would begin at %d and last %d; allowed: from 0 on, and at least 1", e.Clip, e.At, e.For)
		}
		e.From, e.Pass = order.GoingOn(t.Piece)(&was, e.At)
	}
	return t.changed(all)
}

func copyEntries(t target, o op.CopyEntries) error {
	_, picked, err := t.picked(o.Entries)
	if err != nil {
		return err
	}
	if o.By == 0 {
		o.By = spanOf(picked)
	}
	var twins []piece.Entry
	for _, e := range picked {
		twin := *e
		if twin.At += o.By; twin.At < 0 {
			return t.Wrong("by", "%s would begin at %d; allowed: from 0 on", e.Clip, twin.At)
		}
		twins = append(twins, twin)
	}
	if err := t.roomFor(twins, o); err != nil {
		return err
	}
	return t.place(twins...)
}

// spanOf is how long entries last from the beginning of the first to the end of the last.
func spanOf(entries []*piece.Entry) int {
	first, last := entries[0].At, entries[0].End()
	for _, e := range entries {
		first, last = min(first, e.At), max(last, e.End())
	}
	return last - first
}

// roomFor refuses copies that would run into the same clip's next entry. It tells how much room there is, and asks whether
// all that begins from the first copy on shall move later by as much as is missing.
func (t target) roomFor(twins []piece.Entry, o op.CopyEntries) error {
	missing, begins := 0, twins[0].At
	var short *piece.Entry
	room := 0
	for i := range twins {
		twin := &twins[i]
		begins = min(begins, twin.At)
		for _, e := range t.Piece.Order.Entries {
			if e.Clip == twin.Clip && e.At >= twin.At && twin.End()-e.At > missing {
				missing, short, room = twin.End()-e.At, twin, e.At-twin.At
			}
		}
	}
	if short == nil {
		return nil
	}
	var later []int
	for i, e := range t.Piece.Order.Entries {
		if e.At >= begins {
			later = append(later, i+1)
		}
	}
	name, length := short.Clip, t.Piece.Bar().Export(960)
	if clip, err := t.Piece.Clip(short.Clip); err == nil {
		name = clip.Name
	}
	fault := &piece.Fault{Path: t.Edit + ".entries", Problem: fmt.Sprintf("the copy of %s lasts %s, and there is room for %s before it comes again; allowed: as much as there is room for",
		name, barsOf(short.For, length), barsOf(room, length))}
	return &change.AskError{Fault: fault, Mends: []render.Mend{*render.MendBy(
		fmt.Sprintf("Move what follows %s later", barsOf(missing, length)),
		op.MoveEntries{Entries: later, By: missing},
		o,
	)}}
}

// barsOf is a time in ticks in words: in bars of so many ticks, with three decimals at most.
func barsOf(ticks int, bar int64) string {
	bars := math.Round(float64(ticks)/float64(bar)*1000) / 1000
	if bars == 1 {
		return "1 bar"
	}
	return strconv.FormatFloat(bars, 'f', -1, 64) + " bars"
}

func splitEntries(t target, o op.SplitEntries) error {
	all, picked, err := t.picked(o.Entries)
	if err != nil {
		return err
	}
	var rests []piece.Entry
	for _, e := range picked {
		if o.At <= e.At || o.At >= e.End() {
			return t.Wrong("at", "%d is not within %s, which sounds from %d to %d; allowed: a place within", o.At, e.Clip, e.At, e.End())
		}
		rest := *e
		rest.At, rest.For = o.At, e.End()-o.At
		rest.From, rest.Pass = order.GoingOn(t.Piece)(e, o.At)
		e.For, e.Ring = o.At-e.At, false
		rests = append(rests, rest)
	}
	t.Piece.Order.Entries = all
	return t.place(rests...)
}

func removeEntries(t target, o op.RemoveEntries) error {
	if _, _, err := t.picked(o.Entries); err != nil {
		return err
	}
	kept := make([]piece.Entry, 0, len(t.Piece.Order.Entries))
	for i, e := range t.Piece.Order.Entries {
		if !slices.Contains(o.Entries, i+1) {
			kept = append(kept, e)
		}
	}
	t.Piece.Order.Entries = kept
	return nil
}

// keepPlayed writes what was played.
func keepPlayed(t target, o op.KeepPlayed) error {
	entries, err := EntriesOf(t.Piece, o.Played)
	if err != nil {
		return t.Wrong("played", "%v", err)
	}
	t.Piece.Order.Entries = entries
	return nil
}

// EntriesOf are the entries of what was played: where a clip goes on, its entry does at the place and in the
// pass where the one before left off.
func EntriesOf(p *piece.Piece, played []op.Played) ([]piece.Entry, error) {
	if len(played) > piece.MaxEntries {
		return nil, fmt.Errorf("%d entries; allowed: at most %d", len(played), piece.MaxEntries)
	}
	last := map[string]*piece.Entry{}
	goesOn := order.GoingOn(p)
	out := make([]piece.Entry, 0, len(played))
	for _, own := range played {
		if _, err := p.Clip(own.Clip); err != nil {
			return nil, err
		}
		e := piece.NewEntry(own.Clip, own.At, own.For)
		e.Shift, e.From, e.Pass, e.Ring = own.Shift, own.From, max(own.Pass, 1), own.Ring
		if own.Run != "" {
			e.Run = own.Run
		}
		if own.Luck != "" {
			e.Luck = own.Luck
		}
		if own.Mute != nil {
			e.Mute = own.Mute
		}
		if before := last[own.Clip]; own.GoesOn && before != nil && before.End() <= e.At {
			e.From, e.Pass = goesOn(before, e.At)
		}
		out = append(out, e)
		last[own.Clip] = &out[len(out)-1]
	}
	piece.SortEntries(out)
	return out, nil
}
