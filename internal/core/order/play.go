package order

import (
	"fmt"
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

func kinds(name string) render.Kind { return lane.KindOf(name) }

// play renders the passes of a chain and puts what is in sight of them into their tracks.
func (m *maker) play(c *chain) error {
	if !slices.Contains(c.wanted, true) || c.count == 0 {
		return nil // nothing of it sounds
	}
	if err := m.renderAll(c); err != nil {
		return err
	}
	if err := m.chords(c); err != nil {
		return err
	}
	parts := c.played[0].Lanes
	tracks := make([]*Track, len(parts))
	for i := range parts {
		tracks[i] = m.track(c.clip, &parts[i])
	}
	spans := make([][]span, len(parts))
	made, places := make([]int64, len(parts)), make([]int, len(parts))
	render.AtOnce(len(parts), func(i int) {
		lane := parts[i].Lane
		var last []int
		spans[i], last = m.sounding(c, lane)
		if m.Live && m.Begin {
			for n := range spans[i] {
				spans[i][n].from = max(spans[i][n].from, beat.Time(m.Options.From)*piece.OrderTick)
			}
		}
		m.reserve(c, i, tracks[i])
		for n, s := range spans[i] {
			if s.from >= s.to {
				continue
			}
			ring := m.piece.Order.Entries[last[n]].Ring && s.to == c.to
			more, place := m.cutAll(c, i, tracks[i], s, ring)
			if made[i] += more; m.made+made[i] > m.Options.Events {
				places[i] = place
				return
			}
			places[i] = c.count - 1
		}
	})
	for i, n := range made {
		m.made += n
		tracks[i].spans = append(tracks[i].spans, spans[i]...)
	}
	if m.made > m.Options.Events {
		return m.tooMany(c, slices.Min(places))
	}
	return nil
}

// renderAll renders the passes of a chain: those that are alike but for their places once, others after it is
// known that so many can be.
func (m *maker) renderAll(c *chain) error {
	c.alike = !m.draws(c)
	n := c.rendered()
	if !c.alike {
		m.Budget.Spend(int64(n) * passWork)
	}
	played := make([]*render.Performance, 0, n)
	whole := int64(0) // events of passes that are in sight from end to end
	for slot := range n {
		k := c.place(slot)
		p := c.pass(k)
		one, err := m.render(c, &p)
		if err != nil {
			return err
		}
		played = append(played, one)
		if p.from == p.at && p.to == p.at+p.length {
			each := int64(0)
			for i := range one.Lanes {
				each += events(&one.Lanes[i])
			}
			if c.alike && slot == 1 {
				each *= int64(max(c.count-2, 1))
			}
			whole += each
		}
		if m.made+whole/2 > m.Options.Events { // a lane that is muted for a time has fewer
			m.made += whole
			c.played = played
			if c.alike && slot > 0 {
				k = c.count - 1 // those in the middle are counted
			}
			return m.tooMany(c, k)
		}
	}
	c.played = played
	return nil
}

// passWork is how much work it is at the least to render a pass, and to look at it.
const passWork = 700

// draws reports whether passes of a chain may differ by what luck decides in them: of the lanes that sound, of
// what these need, or of the chords.
func (m *maker) draws(c *chain) bool {
	clip := &m.piece.Clips[c.clip]
	if harmony, _ := m.piece.HarmonyOf(clip); harmony != nil && harmony.MayDraw() {
		return true
	}
	return slices.ContainsFunc(render.Needed(clip, c.wanted), func(k int) bool { return clip.Lanes[k].MayDraw() })
}

// reserve makes room for the notes of a part that all passes which are alike may have.
func (m *maker) reserve(c *chain, part int, t *Track) {
	if !c.alike {
		return
	}
	notes := int64(len(c.played[0].Lanes[part].Notes))
	if len(c.played) == 3 {
		notes = max(notes, int64(len(c.played[1].Lanes[part].Notes)))
	}
	room := int(min(notes*int64(c.count), m.Options.Events))
	m.Budget.Hold(int64(room) * noteBytes)
	t.Part.Notes, t.sources = slices.Grow(t.Part.Notes, room), slices.Grow(t.sources, room)
}

// How many bytes a note takes with its source, another event, a chord, and a pass.
const (
	noteBytes  = 152
	eventBytes = 20
	chordBytes = 400
	passBytes  = 6000
)

// cutAll puts what is in sight of a part within a span into its track, pass by pass, and tells how many events
// that is, and up to which pass: where the events are too many, not up to the last. Passes in which the part has nothing
// are passed over all at once.
func (m *maker) cutAll(c *chain, part int, t *Track, s span, ring bool) (made int64, place int) {
	first, last := c.within(s.from, s.to)
	for k := first; k < last; k++ {
		place = k
		own := &c.played[c.slot(k)].Lanes[part]
		if events(own) == 0 {
			if c.alike && c.slot(k) == 1 {
				k = max(k, c.count-2) // all of those in the middle are so
			}
			continue
		}
		p := c.pass(k)
		if made += m.cut(c, k, &p, part, t, sightOf(&p, s, ring && p.last)); made+m.made > m.Options.Events {
			break
		}
	}
	return made, place
}

// tooMany tells about how many events the whole would have.
func (m *maker) tooMany(c *chain, place int) error {
	p := c.pass(place)
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
	if p.played != nil {
		for i := range p.played.Lanes { // what would have come is counted by what each round makes
			part := &p.played.Lanes[i]
			if n := int(events(part)) * c.count; n > most {
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
	key := piece.LanePlace{Clip: clip, Lane: part.Lane}
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
func (m *maker) render(c *chain, p *pass) (*render.Performance, error) {
	clip, facts := &m.piece.Clips[c.clip], m.facts(c.clip)
	o := render.Options{
		PPQ: m.PPQ, Lanes: []string{}, Events: m.Options.Events, Budget: m.Budget, Cycle: &render.Cycle{}, Ways: m.Ways,
		Pass: render.Pass{Shift: c.first.Shift, Apart: true},
	}
	for k := range clip.Lanes {
		if c.wanted[k] {
			o.Lanes = append(o.Lanes, clip.Lanes[k].ID)
		}
	}
	o.Length = p.to - p.at
	whole := p.length
	o.Zones = map[int]int{}
	for k := range clip.Lanes {
		o.Zones[k] = m.zones[piece.LanePlace{Clip: c.clip, Lane: k}]
	}
	// Where an entry is left is nothing that a note knows when it is struck: it feels as in the whole pass.
	if o.GrooveLength = whole; whole == 0 {
		o.GrooveLength = endless
	}
	o.SwingLength = whole
	ring := p.last && m.piece.Order.Entries[c.entries[len(c.entries)-1]].Ring
	switch {
	case whole > 0 && o.Length < whole && clip.Seam == "loop":
		o.Length = whole // what it ends on is what its start comes from
	case ring:
	case whole > 0: // what would have come shapes what stands before
		o.Length = min(o.Length+facts.reach, whole)
	default:
		o.Length += facts.reach
	}
	if ring && o.Length == p.to-p.at {
		o.StepsUntil, o.Length = o.Length, o.Length+m.piece.Bar()
		if o.SwingLength == 0 {
			o.SwingLength = o.StepsUntil
		}
	}
	o.Lent = m.lent(c, p)
	take := p.drawn - 1
	if c.alike {
		take = 0
	}
	key := keyOf(c.clip, take, &o)
	if known := m.known[key]; known != nil {
		return known, nil
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
		return nil, err
	}
	for i := range played.Lanes {
		notes := int64(len(played.Lanes[i].Notes))
		m.Budget.Hold(notes*noteBytes + (events(&played.Lanes[i])-notes)*eventBytes)
	}
	m.Budget.Hold(passBytes)
	if played.Harmony != nil {
		m.Budget.Hold(int64(len(played.Harmony.Chords)) * chordBytes)
	}
	if len(m.known) < mostKnown {
		m.known[key] = played
	}
	return played, nil
}

// passKey names a pass: those of one key come out the same.
type passKey struct {
	clip, take int
	asked      string // the whole of what is asked for of it, so that no field is forgotten
}

func keyOf(clip, take int, o *render.Options) passKey {
	return passKey{clip, take, fmt.Sprint(o.Pass, o.Lanes, o.Bars, o.Until, o.Opening)}
}

// endless is longer than any order.
const endless = beat.Time(1) << 56

// mostKnown is how many passes are kept for others that come out the same.
const mostKnown = 256

// lentWork is how much work it is to take on the chords of another clip's pass.
const lentWork = 3000

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
		first, last := other.within(p.at, p.to)
		for k := first; k < last; k++ {
			m.Budget.Spend(lentWork)
			theirs := other.pass(k)
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

// chordWork is how much work it is to put a chord into the order.
const chordWork = 25

// chords puts the chords of a chain's passes into the harmony of the order.
func (m *maker) chords(c *chain) error {
	if m.Live {
		return nil
	}
	for k := range c.count {
		p := c.pass(k)
		if p.played.Harmony == nil {
			if c.alike {
				return nil // none has any
			}
			continue
		}
		all := p.played.Harmony.Chords
		m.Budget.Spend(1 + chordWork*int64(len(all)))
		for i := range all {
			at, until := p.at+all[i].At, p.to
			if i+1 < len(all) {
				until = min(p.at+all[i+1].At, p.to)
			}
			if until <= p.from || at >= p.to {
				continue
			}
			at = max(at, p.from) // it may sound already where the pass is taken up
			m.harmony = append(m.harmony, Chord{At: at, Clip: c.clip, Entry: m.entryAt(c, at) + 1, Chord: all[i].Chord})
		}
		if int64(len(m.harmony)) > m.Options.Events {
			return &render.TooManyError{Events: int64(len(m.harmony)) * int64(c.count) / int64(k+1), Most: m.Options.Events, Lane: m.piece.Clips[c.clip].Name}
		}
	}
	return nil
}
