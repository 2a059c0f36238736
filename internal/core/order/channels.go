package order

import (
	"cmp"
	"fmt"
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/midi"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// What a lane moves beside controllers, as numbers beyond theirs.
const (
	movesWheel    = 128
	movesPressure = 129
)

// holder is a lane that is given a channel.
type holder struct {
	clip, lane int
	notes      int
	moves      []int // the controllers that it and the lanes acting on it move, in order
	channel    int
}

// channels gives each lane a channel that it keeps throughout, and lets no key be struck on one while it
// sounds there.
func (p *Performance) channels() {
	given := p.give()
	for key, zone := range p.zones {
		given[key] = (&render.Zone{Upper: zone == piece.MaxZones}).Master()
	}
	for i := range p.Tracks {
		t := &p.Tracks[i]
		t.Part.Channel = given[piece.LanePlace{Clip: t.Clip, Lane: p.target(t.Clip, t.Lane)}]
	}
	p.zoned(given)
	sharing := p.sharing()
	render.AtOnce(len(sharing), func(channel int) {
		p.oneKeyAtATime(sharing[channel], channel)
		p.handOver(sharing[channel])
	})
	p.besideZones()
}

// besideZones lets no key be struck twice where a lane is set to a channel of a zone.
func (p *Performance) besideZones() {
	for channel := 1; channel <= 16; channel++ {
		var own []*Track
		zones, others := 0, 0
		for i := range p.Tracks {
			t := &p.Tracks[i]
			switch {
			case !t.Part.Sends(channel):
				continue
			case t.Part.Zone != nil:
				zones++
			default:
				others++
			}
			own = append(own, t)
		}
		if zones > 0 && others > 0 {
			p.oneKey(own, channel)
		}
	}
}

// sharing are the tracks of each channel.
func (p *Performance) sharing() (by [17][]*Track) {
	for i := range p.Tracks {
		by[p.Tracks[i].Part.Channel] = append(by[p.Tracks[i].Part.Channel], &p.Tracks[i])
	}
	return by
}

// target is the lane on whose channel a lane acts: its own, unless it acts on another's.
func (p *Performance) target(clip, lane int) int {
	if to := render.ActsOn(&p.Piece.Clips[clip], lane); to >= 0 {
		return to
	}
	return lane
}

// holders are the lanes that need a channel, by clips and lanes.
func (p *Performance) holders() []*holder {
	known := map[piece.LanePlace]*holder{}
	var out []*holder
	for i := range p.Tracks {
		t := &p.Tracks[i]
		key := piece.LanePlace{Clip: t.Clip, Lane: p.target(t.Clip, t.Lane)}
		if p.zones[key] > 0 {
			continue
		}
		h := known[key]
		if h == nil {
			h = &holder{clip: key.Clip, lane: key.Lane}
			known[key], out = h, append(out, h)
		}
		h.notes += len(t.Part.Notes)
		for _, c := range t.Part.Controls {
			if !ranging(c.Controller) {
				h.move(int(c.Controller))
			}
		}
		if len(t.Part.Bends) > 0 {
			h.move(movesWheel)
		}
		if len(t.Part.Pressures) > 0 {
			h.move(movesPressure)
		}
	}
	slices.SortFunc(out, func(a, b *holder) int { return cmp.Or(cmp.Compare(a.clip, b.clip), cmp.Compare(a.lane, b.lane)) })
	return out
}

func (h *holder) move(what int) {
	if at, found := slices.BinarySearch(h.moves, what); !found {
		h.moves = slices.Insert(h.moves, at, what)
	}
}

// give gives the channels out: one that is set stays, and is nobody else's; lanes of one name and sound in
// clips that never sound at once have one together; when none is left, the lane with the fewest notes
// shares its own.
func (p *Performance) give() map[piece.LanePlace]int {
	holders := p.holders()
	var taken [17]bool
	taken[midi.DrumChannel] = true
	lane := func(h *holder) *piece.Lane { return &p.Piece.Clips[h.clip].Lanes[h.lane] }
	for _, h := range holders {
		if h.channel = lane(h).Channel; h.channel > 0 {
			taken[h.channel] = true
		}
	}
	order := []int{1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15, 16}
	if count := p.countZones(); count > 0 {
		order = render.BesideZones(count)
	}
	var sharing []*holder // that were given theirs
	var resting [17]bool  // channels of lanes that may come back
	for _, was := range p.kept {
		resting[was] = true
	}
	for _, h := range holders {
		was := p.kept[piece.LanePlace{Clip: h.clip, Lane: h.lane}]
		if h.channel == 0 && was > 0 && (!taken[was] || p.together(h, sharing) == was) {
			h.channel, taken[was] = was, true
			sharing = append(sharing, h)
		}
	}
	var set []*holder
	for _, h := range holders {
		if slices.Contains(sharing, h) {
			continue
		}
		if h.channel > 0 {
			set = append(set, h)
			continue
		}
		h.channel = p.together(h, sharing)
		free := slices.IndexFunc(order, func(c int) bool { return !taken[c] && !resting[c] })
		if free < 0 {
			free = slices.IndexFunc(order, func(c int) bool { return !taken[c] })
		}
		if h.channel == 0 && free >= 0 {
			h.channel = order[free]
			taken[h.channel] = true
		}
		if h.channel == 0 {
			from := sharing
			if len(from) == 0 {
				from = slices.DeleteFunc(slices.Clone(set), func(o *holder) bool { return o.channel == midi.DrumChannel })
			}
			least := slices.MinFunc(from, func(a, b *holder) int { return cmp.Compare(a.notes, b.notes) })
			h.channel = least.channel
			p.find(Finding{Clip: p.Piece.Clips[h.clip].ID, Finding: render.Finding{
				Rule: "order-channel", Lane: lane(h).ID,
				Message: fmt.Sprintf(
					"No channel is left for %s of %s: it shares channel %d with %s of %s, which has the fewest notes.",
					lane(h).Name,
					p.Piece.Clips[h.clip].Name,
					h.channel,
					lane(least).Name,
					p.Piece.Clips[least.clip].Name,
				),
			}})
		}
		sharing = append(sharing, h)
	}
	out := map[piece.LanePlace]int{}
	for _, h := range holders {
		out[piece.LanePlace{Clip: h.clip, Lane: h.lane}] = h.channel
	}
	return out
}

func (p *Performance) find(f Finding) { p.Findings = append(p.Findings, f) }

// together is the channel of lanes that one can share it with at no loss; 0: there are none.
func (p *Performance) together(h *holder, others []*holder) int {
	own := &p.Piece.Clips[h.clip].Lanes[h.lane]
	fits := func(o *holder) bool {
		lane := &p.Piece.Clips[o.clip].Lanes[o.lane]
		return lane.Name == own.Name && lane.Sound == own.Sound && o.clip != h.clip && slices.Equal(o.moves, h.moves) && !p.overlap(o.clip, h.clip)
	}
	for _, o := range others {
		if fits(o) && !slices.ContainsFunc(others, func(also *holder) bool { return also.channel == o.channel && !fits(also) }) {
			return o.channel
		}
	}
	return 0
}

// overlap tells whether entries of two clips do, with what they let ring.
func (p *Performance) overlap(a, b int) bool {
	for _, x := range p.chains {
		if x.clip != a {
			continue
		}
		for _, y := range p.chains {
			if y.clip == b && x.from < p.rings(y) && y.from < p.rings(x) {
				return true
			}
		}
	}
	return false
}

// rings is until when a chain may sound.
func (p *Performance) rings(c *chain) beat.Time {
	if p.Piece.Order.Entries[c.entries[len(c.entries)-1]].Ring {
		return c.to + p.Bar
	}
	return c.to
}

// strike is a note of a track, by its place, where it begins in ticks.
type strike struct {
	track int // among those of the channel
	note  int
	tick  int64
}

// strikesOf are the notes of all tracks in order of time, and of those at once of the tracks.
func strikesOf(tracks []*Track, ppq int) []strike {
	lists := make([][]strike, len(tracks))
	for i, t := range tracks {
		lists[i] = make([]strike, len(t.Part.Notes))
		for k := range t.Part.Notes {
			lists[i][k] = strike{i, k, t.Part.Notes[k].At.Export(ppq)}
		}
	}
	for len(lists) > 1 { // each is in order: merged two by two
		next := lists[:0]
		for i := 0; i < len(lists); i += 2 {
			if i+1 == len(lists) {
				next = append(next, lists[i])
				break
			}
			next = append(next, merged(lists[i], lists[i+1]))
		}
		lists = next
	}
	if len(lists) == 0 {
		return nil
	}
	return lists[0]
}

// merged are two lists in one; of those at once the first list's go first.
func merged(a, b []strike) []strike {
	out := make([]strike, 0, len(a)+len(b))
	for len(a) > 0 && len(b) > 0 {
		if b[0].tick < a[0].tick {
			out, b = append(out, b[0]), b[1:]
		} else {
			out, a = append(out, a[0]), a[1:]
		}
	}
	return append(append(out, a...), b...)
}

// oneKeyAtATime ends a note where its key is struck again on the channel, and makes one note of those that
// are struck on one tick.
func (p *Performance) oneKeyAtATime(tracks []*Track, channel int) {
	p.oneKey(slices.DeleteFunc(slices.Clone(tracks), func(t *Track) bool { return t.Part.Zone != nil }), channel) // those have a channel for each note
}

// oneKey is the same of all tracks that are given, on a channel.
func (p *Performance) oneKey(tracks []*Track, channel int) {
	all := strikesOf(tracks, p.PPQ)
	var last [128]strike
	for i := range last {
		last[i].track = -1
	}
	gone := make([]bool, len(tracks))
	for _, s := range all {
		t := tracks[s.track]
		note := &t.Part.Notes[s.note]
		if t.Part.On(note.Channel) != channel {
			continue
		}
		was := &last[note.Pitch]
		if was.track < 0 {
			*was = s
			continue
		}
		other := tracks[was.track]
		before := &other.Part.Notes[was.note]
		switch {
		case was.tick == s.tick && was.track == s.track: // of two of a lane at once the later sounds
			before.Velocity, gone[was.track] = 0, true
			*was = s
		case was.tick == s.tick:
			before.End = max(before.End, note.End)
			if other.Clip != t.Clip {
				before.Velocity = max(before.Velocity, note.Velocity)
			}
			note.Velocity, gone[s.track] = 0, true
		default:
			end := note.At
			if other != t { // a reader may take the tracks in any order
				end = p.before(s.tick, was.tick)
			}
			before.End = min(before.End, end)
			*was = s
		}
	}
	for i, any := range gone {
		if any {
			tracks[i].leave()
		}
	}
}

// before is a tick earlier, yet after another one.
func (p *Performance) before(tick, after int64) beat.Time {
	return beat.Of(max(tick-1, after+1), p.PPQ)
}

// leave takes the notes out that have no velocity.
func (t *Track) leave() {
	notes, sources := t.Part.Notes[:0], t.sources[:0]
	for i, note := range t.Part.Notes {
		if note.Velocity > 0 {
			notes, sources = append(notes, note), append(sources, t.sources[i])
		}
	}
	t.Part.Notes, t.sources = notes, sources
}

// handOver lets what ends on a channel stand a tick earlier where a track of another clip takes it over on
// the same tick, so that nothing depends on the order in which a reader takes tracks.
func (p *Performance) handOver(tracks []*Track) {
	starts := map[int64][]*Track{} // by ticks
	clips := map[int]bool{}
	for _, t := range tracks {
		clips[t.Clip] = true
		for _, s := range t.spans {
			tick := s.from.Export(p.PPQ)
			starts[tick] = append(starts[tick], t)
		}
	}
	if len(clips) < 2 {
		return
	}
	taken := func(t *Track, tick int64) bool {
		return slices.ContainsFunc(starts[tick], func(by *Track) bool { return by.Clip != t.Clip })
	}
	// Notes on members of a zone share those with the zone's other tracks alone.
	struck := func(t *Track, tick int64) bool {
		return slices.ContainsFunc(starts[tick], func(by *Track) bool {
			return by.Clip != t.Clip && (t.Part.Zone == nil || by.Part.Zone != nil)
		})
	}
	for _, t := range tracks {
		for i := range t.Part.Notes {
			note := &t.Part.Notes[i]
			if tick := note.End.Export(p.PPQ); struck(t, tick) {
				note.End = min(note.End, p.before(tick, note.At.Export(p.PPQ)))
			}
		}
		ends := map[int64]bool{}
		for _, s := range t.spans {
			if tick := s.to.Export(p.PPQ); taken(t, tick) {
				ends[tick] = true
			}
		}
		early := func(at beat.Time) beat.Time {
			if tick := at.Export(p.PPQ); ends[tick] {
				return beat.Of(tick-1, p.PPQ)
			}
			return at
		}
		for i := range t.Part.Bends {
			t.Part.Bends[i].At = early(t.Part.Bends[i].At)
		}
		for i := range t.Part.Controls {
			t.Part.Controls[i].At = early(t.Part.Controls[i].At)
		}
		for i := range t.Part.Pressures {
			t.Part.Pressures[i].At = early(t.Part.Pressures[i].At)
		}
	}
}
