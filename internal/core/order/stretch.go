package order

import (
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// stretch leaves of the performance what lies between two times, as an entry would be begun and cut there.
func (p *Performance) stretch(o Options) error {
	from, to := beat.Time(o.From)*piece.OrderTick, p.Length
	if o.To > 0 && int64(o.To) < int64(to/piece.OrderTick)+1 {
		to = min(to, beat.Time(o.To)*piece.OrderTick)
	}
	s := sight{from: from, to: to, begins: from > 0, ends: to < p.Length}
	kept := p.Tracks[:0]
	for i := range p.Tracks {
		t := p.within(&p.Tracks[i], s)
		if t.any() {
			kept = append(kept, t)
		}
	}
	p.Tracks = kept
	p.Setup = slices.DeleteFunc(p.Setup, func(c render.Control) bool { return p.zoneTrack(int(c.Channel)) == nil })
	p.Harmony = p.chordsWithin(from, to)
	p.From, p.Length = from, to-from
	for channel, sharing := range p.sharing() { // notes that met where it begins
		p.oneKeyAtATime(sharing, channel)
	}
	p.besideZones()
	return nil
}

// within is what of a track is in sight, counted from its start.
func (p *Performance) within(t *Track, s sight) Track {
	out := *t
	out.Part.Notes, out.Part.Bends, out.Part.Controls, out.Part.Pressures = nil, nil, nil, nil
	out.sources, out.bends, out.controls, out.pressures = nil, nil, nil, nil
	for i, note := range t.Part.Notes {
		source := t.sources[i]
		pass := source.pass()
		original := &pass.played.Lanes[source.part]
		if !s.keeps(&note, pass.at+pass.played.Onset(original, &original.Notes[source.note])) {
			continue
		}
		if s.ends {
			note.At, note.End = min(note.At, lastTick(s.to, p.PPQ)), min(note.End, s.to)
		}
		note.At, note.End = note.At-s.from, min(max(note.End, note.At+shortest), s.to)-s.from
		out.Part.Notes, out.sources = append(out.Part.Notes, note), append(out.sources, source)
	}
	// Only what has begun to sound stands somewhere where it is taken up.
	since := beat.Time(0)
	var open *span
	for i := range t.spans {
		if x := &t.spans[i]; x.from < s.from && x.to > s.from {
			open, since = x, x.from
		}
	}
	taken := s
	taken.begins = s.begins && open != nil
	entry := func(list []int32, from int, at beat.Time) int32 {
		if from >= 0 {
			return list[from]
		}
		return p.entryOf(t.Clip, at)
	}
	after := func(at beat.Time) bool { return at >= since && (open != nil || at >= s.from) }
	bends, first := later(t.Part.Bends, func(b render.Bend) bool { return after(b.At) })
	if t.Part.Zone != nil {
		out.bends, out.Part.Bends = out.wheels(s.from)
		bends = nil
	}
	wheel(bends, &taken, s.to, func(at beat.Time, value int16, from int) {
		out.Part.Bends = append(out.Part.Bends, render.Bend{At: at - s.from, Value: value})
		out.bends = append(out.bends, entry(t.bends[first:], from, at))
	})
	controls, begin := later(t.Part.Controls, func(c render.Control) bool { return after(c.At) })
	controllers(controls, &taken, s.to, func(at beat.Time, own render.Control, from int) {
		own.At = at - s.from
		out.Part.Controls = append(out.Part.Controls, own)
		out.controls = append(out.controls, entry(t.controls[begin:], from, at))
	})
	pressures, start := later(t.Part.Pressures, func(x render.Pressure) bool { return after(x.At) })
	pressure(pressures, &taken, s.to, func(at beat.Time, value uint8, from int) {
		out.Part.Pressures = append(out.Part.Pressures, render.Pressure{At: at - s.from, Value: value})
		out.pressures = append(out.pressures, entry(t.pressures[start:], from, at))
	})
	return out
}

// later leaves out what comes before anything that counts, and tells how many that are.
func later[E any](list []E, counts func(E) bool) ([]E, int) {
	i := slices.IndexFunc(list, counts)
	if i < 0 {
		i = len(list)
	}
	return list[i:], i
}

// entryOf is the entry, from 1, of a clip that sounds at a time, or that ended last.
func (p *Performance) entryOf(clip int, at beat.Time) int32 {
	out := int32(0)
	for _, c := range p.chains {
		for _, i := range c.entries {
			if c.clip == clip && p.Piece.Order.Entries[i].Begins() <= at {
				out = int32(i + 1)
			}
		}
	}
	return out
}

// chordsWithin are the chords between two times, those that sound at the first with it.
func (p *Performance) chordsWithin(from, to beat.Time) []Chord {
	var out []Chord
	for i, c := range p.Harmony {
		if p.until(i) <= from || c.At >= to {
			continue
		}
		c.At = max(c.At, from) - from
		out = append(out, c)
	}
	return out
}

// until is when a chord, by its place in the harmony, ends: where its clip's next begins, or its chain ends.
func (p *Performance) until(i int) beat.Time {
	c := &p.Harmony[i]
	k := slices.IndexFunc(p.chains, func(x *chain) bool { return slices.Contains(x.entries, c.Entry-1) })
	until := p.chains[k].to
	for n := i + 1; n < len(p.Harmony) && p.Harmony[n].At < until; n++ {
		if p.Harmony[n].Clip == c.Clip {
			return p.Harmony[n].At
		}
	}
	return until
}
