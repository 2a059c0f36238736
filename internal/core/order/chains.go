package order

import (
	"cmp"
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/piece"
)

// chain is entries of a clip each of which goes on where the one before left off: one performance.
type chain struct {
	clip     int // index
	entries  []int
	from, to beat.Time
	first    *piece.Entry // of the entries
	passes   []*pass
	wanted   []bool // lanes that sound in some entry
}

// pass is one time through a clip.
type pass struct {
	at       beat.Time // where the clip's start stands in the order; may be before its chain
	from, to beat.Time // what of it is in the chain, in the order
	length   beat.Time // the clip's own; 0: it runs on
	number   int       // from 1
	drawn    int       // the number of the pass as which it draws
	last     bool      // of the chain
	played   playedPass
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
		c.passes = m.passesOf(c)
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

// passesOf are the passes of a chain, as far as the stretch asks for them.
func (m *maker) passesOf(c *chain) []*pass {
	own := m.facts(c.clip).length
	place, number, _ := m.placeAt(c.clip, c.first, c.from)
	if own == 0 || c.first.Run == "on" {
		return []*pass{{at: c.from - place, from: c.from, to: c.to, number: number, drawn: number, last: true}}
	}
	var out []*pass
	from, to := c.from, c.to
	if m.Live { // what began up to a pass before may still sound
		if first := beat.Time(m.Options.From)*piece.OrderTick - own; first > from {
			skip := (first - (from - place)) / own
			if skip > 0 {
				from, number, place = from-place+skip*own, number+int(skip), 0
			}
		}
		to = min(to, beat.Time(m.Options.To)*piece.OrderTick)
	}
	for at := from - place; at < to; at, number = at+own, number+1 {
		m.Budget.Spend(1)
		next := &pass{at: at, from: max(at, c.from), to: min(at+own, c.to), length: own, number: number, drawn: number}
		if c.first.Luck == "same" {
			next.drawn = c.first.Pass
		}
		next.last = next.to == c.to
		out = append(out, next)
	}
	return out
}

// entryAt is the entry of a chain (its place in the order, from 0) in which a time lies; at its end, the last.
func (m *maker) entryAt(c *chain, at beat.Time) int {
	for _, i := range c.entries {
		if at < m.piece.Order.Entries[i].Ends() {
			return i
		}
	}
	return c.entries[len(c.entries)-1]
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
