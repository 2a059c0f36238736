package order

import (
	"cmp"
	"slices"
	"sort"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// chain is entries of a clip each of which goes on where the one before left off: one performance, in passes
// through the clip. There may be millions of passes, so that none is kept: each is told by its place, from 0.
type chain struct {
	clip     int // index
	entries  []int
	from, to beat.Time
	first    *piece.Entry // of the entries
	wanted   []bool       // lanes that sound in some entry

	begin  beat.Time // where the first pass's start stands in the order; may be before the chain
	length beat.Time // the clip's own; 0: it runs on, in one pass
	number int       // of the first pass, from 1
	count  int       // how many passes there are, as far as the stretch asks for them
	end    beat.Time // where the passes that are asked for end

	// played are the passes as they were rendered: each of them, or where they are alike but for their places the
	// first, one in the middle and the last.
	played []*render.Performance
	alike  bool
}

// pass is one time through a clip.
type pass struct {
	at       beat.Time // where the clip's start stands in the order; may be before its chain
	from, to beat.Time // what of it is in the chain, in the order
	length   beat.Time // the clip's own; 0: it runs on
	number   int       // from 1
	drawn    int       // the number of the pass as which it draws
	last     bool      // of the chain
	played   *render.Performance
}

// pass returns a pass by its place.
func (c *chain) pass(k int) pass {
	out := pass{at: c.begin + beat.Time(k)*c.length, from: c.from, to: c.to, length: c.length, number: c.number + k, drawn: c.number + k}
	if c.length > 0 {
		out.from, out.to = max(out.at, c.from), min(out.at+c.length, c.to)
	}
	if c.first.Luck == "same" {
		out.drawn = c.first.Pass
	}
	out.last = out.to == c.to
	if c.played != nil {
		out.played = c.played[c.slot(k)]
	}
	return out
}

// slot is the place of a pass, by its own, among those that are rendered.
func (c *chain) slot(k int) int {
	switch {
	case !c.alike || k == 0:
		return k
	case k == c.count-1:
		return len(c.played) - 1
	}
	return 1
}

// rendered is how many of the passes are rendered.
func (c *chain) rendered() int {
	if c.alike {
		return min(c.count, 3)
	}
	return c.count
}

// place is the pass, by its place, of one that is rendered.
func (c *chain) place(slot int) int {
	if c.alike && slot == 2 {
		return c.count - 1
	}
	return slot
}

// within are the places of the passes that reach into a span, from the first up to, and without, the last.
func (c *chain) within(from, to beat.Time) (first, last int) {
	if c.length == 0 {
		if from < c.to && to > c.from {
			return 0, c.count
		}
		return 0, 0
	}
	first = int(max(from-c.begin, 0) / c.length)
	last = int((min(to, c.end) - c.begin + c.length - 1) / c.length)
	return first, max(min(last, c.count), first)
}

// chainsOf puts the entries together, in the order of their clips and of time.
func (m *maker) chainsOf() []*chain {
	entries := m.piece.Order.Entries
	by := make([][]int, len(m.piece.Clips))
	index := map[string]int{}
	for i := range m.piece.Clips {
		index[m.piece.Clips[i].ID] = i
	}
	for i := range entries {
		clip := index[entries[i].Clip]
		by[clip] = append(by[clip], i)
	}
	var out []*chain
	for clip, own := range by {
		slices.SortStableFunc(own, func(a, b int) int { return cmp.Compare(entries[a].At, entries[b].At) })
		var open *chain
		for _, i := range own {
			e := &entries[i]
			if open != nil && m.goesOn(open, e) {
				open.entries, open.to = append(open.entries, i), e.Ends()
				continue
			}
			open = &chain{clip: clip, entries: []int{i}, from: e.Begins(), to: e.Ends(), first: e}
			out = append(out, open)
		}
	}
	for _, c := range out {
		m.passesOf(c)
		facts := m.facts(c.clip)
		c.wanted = make([]bool, len(facts.audible))
		for _, i := range c.entries {
			for k := range c.wanted {
				c.wanted[k] = c.wanted[k] || facts.audible[k] && !slices.Contains(entries[i].Mute, m.piece.Clips[c.clip].Lanes[k].ID)
			}
		}
	}
	return out
}

// goesOn tells whether an entry goes on where a chain ends.
func (m *maker) goesOn(c *chain, e *piece.Entry) bool {
	f := c.first
	if e.Begins() != c.to || e.Shift != f.Shift || e.Run != f.Run || e.Luck != f.Luck {
		return false
	}
	place, number, drawn := m.placeAt(c.clip, f, c.to)
	own := m.facts(c.clip).length
	from := beat.Time(e.From) * piece.OrderTick
	if own > 0 && f.Run == "loop" {
		from %= own
	}
	return from == place && (e.Pass == number || f.Luck == "same" && e.Pass == drawn)
}

// GoingOn gives the place, in 960ths of a quarter, and the pass at which an entry of a checked piece goes on
// from a time of the order.
func GoingOn(p *piece.Piece) func(e *piece.Entry, at int) (from, pass int) {
	m := &maker{piece: p, clips: make([]*clipFacts, len(p.Clips))}
	return func(e *piece.Entry, at int) (from, pass int) {
		clip := slices.IndexFunc(p.Clips, func(c piece.Clip) bool { return c.ID == e.Clip })
		place, number, drawn := m.placeAt(clip, e, beat.Time(at)*piece.OrderTick)
		if e.Luck == "same" {
			number = drawn
		}
		return int(place / piece.OrderTick), number
	}
}

// placeAt is where in its clip an entry would be at a time of the order, in which pass, and as which that
// draws.
func (m *maker) placeAt(clip int, e *piece.Entry, at beat.Time) (place beat.Time, number, drawn int) {
	own := m.facts(clip).length
	if at < e.Begins() && own > 0 && e.Run == "loop" { // before it begins: rounds that would have been
		gone := beat.Time(e.From)*piece.OrderTick%own + at - e.Begins()
		back := (own - 1 - gone) / own
		if number = max(e.Pass-int(back), 1); e.Luck == "same" {
			number = e.Pass
		}
		return gone + back*own, number, number
	}
	gone := max(beat.Time(e.From)*piece.OrderTick+at-e.Begins(), 0)
	if own == 0 || e.Run == "on" {
		return gone, e.Pass, e.Pass
	}
	gone = beat.Time(e.From)*piece.OrderTick%own + at - e.Begins()
	number = e.Pass + int(gone/own)
	if drawn = number; e.Luck == "same" {
		drawn = e.Pass
	}
	return gone % own, number, drawn
}

// passesOf finds which passes a chain has, as far as the stretch asks for them.
func (m *maker) passesOf(c *chain) {
	own := m.facts(c.clip).length
	place, number, _ := m.placeAt(c.clip, c.first, c.from)
	c.begin, c.number, c.end = c.from-place, number, c.to
	if own == 0 || c.first.Run == "on" {
		c.count = 1
		return
	}
	c.length = own
	if m.Live { // what began up to a pass before may still sound
		if before := beat.Time(m.Options.From)*piece.OrderTick - own; before > c.from {
			if skip := (before - c.begin) / own; skip > 0 {
				c.begin, c.number = c.begin+skip*own, number+int(skip)
			}
		}
		c.end = min(c.to, beat.Time(m.Options.To)*piece.OrderTick)
	}
	if c.end > c.begin {
		c.count = int((c.end - c.begin + own - 1) / own)
	}
}

// entryAt is the entry of a chain (its place in the order, from 0) in which a time lies; at its end, the last.
func (m *maker) entryAt(c *chain, at beat.Time) int {
	entries := m.piece.Order.Entries
	k := sort.Search(len(c.entries)-1, func(k int) bool { return at < entries[c.entries[k]].Ends() })
	return c.entries[k]
}

// sounding are the times in which a lane of a chain sounds, and the entry with which each ends.
func (m *maker) sounding(c *chain, lane int) (out []span, last []int) {
	id := m.piece.Clips[c.clip].Lanes[lane].ID
	for _, i := range c.entries {
		e := &m.piece.Order.Entries[i]
		if slices.Contains(e.Mute, id) {
			continue
		}
		if n := len(out); n > 0 && out[n-1].to == e.Begins() {
			out[n-1].to, last[n-1] = e.Ends(), i
			continue
		}
		out, last = append(out, span{e.Begins(), e.Ends()}), append(last, i)
	}
	return out, last
}
