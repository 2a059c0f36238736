package order

import (
	"errors"
	"fmt"
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

func kinds(name string) render.Kind { return lane.KindOf(name) }

// playedPass is a pass as it was rendered.
type playedPass struct {
	*render.Performance
	fresh bool // it was made for this pass
}

// play renders the passes of a chain and puts what is in sight of them into their tracks.
func (m *maker) play(c *chain) error {
	clip := &m.piece.Clips[c.clip]
	heard := slices.Contains(c.wanted, true)
	type sight struct {
		spans []span
		last  []int
	}
	sights := make([]sight, len(clip.Lanes))
	for k := range clip.Lanes {
		if c.wanted[k] {
			sights[k].spans, sights[k].last = m.sounding(c, k)
		}
		if m.Live && m.Begin {
			for n := range sights[k].spans {
				sights[k].spans[n].from = max(sights[k].spans[n].from, beat.Time(m.Options.From)*piece.OrderTick)
			}
		}
	}
	if !heard {
		return nil // nothing of it sounds
	}
	whole := int64(0) // events of passes that are in sight from end to end
	for _, p := range c.passes {
		if err := m.render(c, p); err != nil {
			return err
		}
		if p.from == p.at && p.to == p.at+p.length {
			for i := range p.played.Lanes {
				whole += events(&p.played.Lanes[i])
			}
		}
		m.chords(c, p)
		if m.made+whole/2 > m.Options.Events { // a lane that is muted for a time has fewer
			m.made += whole
			return m.tooMany(c, p)
		}
	}
	if len(c.passes) == 0 {
		return nil
	}
	parts := c.passes[0].played.Lanes
	for i := range parts {
		m.track(c.clip, &parts[i])
	}
	made := make([]int64, len(parts))
	render.AtOnce(len(parts), func(i int) {
		own := parts[i].Lane
		t := m.tracks[[2]int{c.clip, own}]
		for n, p := range c.passes {
			part := &p.played.Lanes[i]
			if n == 0 { // room for all that this pass and those like it may have
				room := int(min(int64(len(part.Notes)*len(c.passes)), m.Options.Events))
				t.Part.Notes, t.sources = slices.Grow(t.Part.Notes, room), slices.Grow(t.sources, room)
			}
			for k, s := range sights[own].spans {
				if s.from >= p.to || s.to <= p.from || s.from >= s.to {
					continue
				}
				last := &m.piece.Order.Entries[sights[own].last[k]]
				made[i] += m.cut(c, p, i, t, sightOf(p, s, last.Ring && s.to == c.to && p.last))
			}
		}
	})
	for _, n := range made {
		m.made += n
	}
	if m.made > m.Options.Events {
		return m.tooMany(c, c.passes[len(c.passes)-1])
	}
	for k := range clip.Lanes {
		if t := m.tracks[[2]int{c.clip, k}]; t != nil {
			t.spans = append(t.spans, sights[k].spans...)
		}
	}
	return nil
}

// tooMany tells about how many events the whole would have.
func (m *maker) tooMany(c *chain, p *pass) error {
	var all, done beat.Time
	for _, o := range m.chains {
		all += o.to - o.from
		if o == c {
			done = all - (o.to - p.to)
		}
	}
	out := &render.TooManyError{Events: int64(float64(m.made) * float64(all) / float64(max(done, 1))), Most: m.Options.Events}
	most := 0
	for _, t := range m.tracks {
		if n := t.count(); n > most {
			most, out.Lane = n, t.Part.Name
		}
	}
	if p.played.Performance != nil {
		for i := range p.played.Lanes { // what would have come is counted by what each round makes
			part := &p.played.Lanes[i]
			if n := int(events(part)) * len(c.passes); n > most {
				most, out.Lane = n, m.piece.Clips[c.clip].Name+" · "+part.Name
			}
		}
	}
	return out
}

// events is how many a part has.
func events(part *render.Part) int64 {
	return int64(len(part.Notes) + len(part.Bends) + len(part.Controls) + len(part.Pressures))
}

func (t *Track) count() int {
	return len(t.Part.Notes) + len(t.Part.Bends) + len(t.Part.Controls) + len(t.Part.Pressures)
}

func (m *maker) track(clip int, part *render.Part) *Track {
	key := [2]int{clip, part.Lane}
	out := m.tracks[key]
	if out == nil {
		own := *part
		own.Notes, own.Bends, own.Controls, own.Pressures, own.Marks = nil, nil, nil, nil, nil
		own.Name = m.piece.Clips[clip].Name + " · " + part.Name
		if own.Zone != nil {
			zone := *own.Zone
			own.Zone = &zone // its members are the order's
		}
		out = &Track{Clip: clip, Lane: part.Lane, Part: own}
		m.tracks[key] = out
	}
	return out
}

// render plays a pass: the clip alone, with the takes of its number, up to where it is left.
func (m *maker) render(c *chain, p *pass) error {
	clip, facts := &m.piece.Clips[c.clip], m.facts(c.clip)
	o := render.Options{PPQ: m.PPQ, Shift: c.first.Shift, Apart: true, Lanes: []string{}, Events: m.Options.Events, Budget: m.Budget, Cycle: &render.Cycle{}, Ways: m.Ways}
	for k := range clip.Lanes {
		if c.wanted[k] {
			o.Lanes = append(o.Lanes, clip.Lanes[k].ID)
		}
	}
	o.Length = p.to - p.at
	whole := p.length
	if c.first.Run == "on" {
		whole = 0
	}
	o.Zones = map[int]int{}
	for k := range clip.Lanes {
		o.Zones[k] = m.zones[[2]int{c.clip, k}]
	}
	// Where an entry is left is nothing that a note knows when it is struck: it feels as in the whole pass.
	if o.Felt = whole; whole == 0 {
		o.Felt = endless
	}
	if o.Swung = whole; whole > 0 && o.Length < whole && clip.Seam == "loop" {
		o.Length = whole // what it ends on is what its start comes from
	}
	ring := p.last && m.piece.Order.Entries[c.entries[len(c.entries)-1]].Ring
	if ring && o.Length == p.to-p.at {
		o.Onsets, o.Length = o.Length, o.Length+m.piece.Bar()
		if o.Swung == 0 {
			o.Swung = o.Onsets
		}
	}
	o.Lent = m.lent(c, p)
	take := p.drawn - 1
	if !facts.draws {
		take = 0
	}
	key := fmt.Sprint(c.clip, c.first.Shift, take, o.Length, o.Onsets, o.Swung, o.Felt, o.Lent, o.Lanes)
	if known := m.known[key]; known != nil {
		p.played = playedPass{Performance: known}
		return nil
	}
	own, over := clip, m.piece
	if take > 0 {
		fresh := *clip
		fresh.Lanes = slices.Clone(clip.Lanes)
		for i := range fresh.Lanes {
			fresh.Lanes[i].Take += take
		}
		own = &fresh
	}
	played, err := render.Clip(over, own, o, kinds)
	if err != nil {
		var many *render.TooManyError
		if errors.As(err, &many) {
			return many
		}
		return err
	}
	if len(m.known) < mostKnown {
		m.known[key] = played
	}
	p.played = playedPass{played, true}
	return nil
}

// endless is longer than any order.
const endless = beat.Time(1) << 56

// mostKnown is how many passes are kept for others that come out the same.
const mostKnown = 256

// lent tells how the clip whose chords a pass listens to draws them while the pass runs: as in the pass
// that sounds of it, or else as in its first.
func (m *maker) lent(c *chain, p *pass) []render.Lent {
	clip := &m.piece.Clips[c.clip]
	harmony, from := m.piece.HarmonyOf(clip)
	if harmony == nil || from == clip || !harmony.MayDraw() {
		return nil
	}
	lender := slices.IndexFunc(m.piece.Clips, func(o piece.Clip) bool { return o.ID == from.ID })
	var out []render.Lent
	done := p.at
	for _, other := range m.chains {
		if other.clip != lender {
			continue
		}
		for _, theirs := range other.passes {
			if theirs.to <= p.at || theirs.from >= p.to {
				continue
			}
			begin := max(theirs.from, p.at)
			if begin > done {
				out = append(out, render.Lent{From: done - p.at})
			}
			out = append(out, render.Lent{From: begin - p.at, Start: theirs.at - p.at, Take: theirs.drawn - 1})
			done = theirs.to
		}
	}
	if len(out) > 0 && done < p.to {
		out = append(out, render.Lent{From: done - p.at})
	}
	return out
}

// chords puts the chords of a pass into the harmony of the order.
func (m *maker) chords(c *chain, p *pass) {
	if p.played.Harmony == nil || m.Live {
		return
	}
	all := p.played.Harmony.Chords
	for k := range all {
		at, until := p.at+all[k].At, p.to
		if k+1 < len(all) {
			until = min(p.at+all[k+1].At, p.to)
		}
		if until <= p.from || at >= p.to {
			continue
		}
		begins := !all[k].Brought
		if at < p.from { // it sounds where the pass is taken up
			at = p.from
		} else if !begins && p.from > c.from && len(m.harmony) > 0 {
			if last := &m.harmony[len(m.harmony)-1]; last.Clip == c.clip && last.Symbol == all[k].Symbol && slices.Equal(last.Pitches, all[k].Pitches) {
				continue // the loop brings round what sounds already
			}
		}
		m.harmony = append(m.harmony, Chord{At: at, Clip: c.clip, Entry: m.entryAt(c, at) + 1, Begins: begins, Chord: all[k].Chord})
	}
}
