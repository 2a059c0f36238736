package render

import (
	"math"
	"slices"

	"agrimony/internal/core/beat"
)

// channels lets no key be struck while it still sounds on its channel: where lanes share
// one, a note ends a tick before another lane strikes its key again, and struck by several on one
// tick it is one note, of the first of them, with the latest end. What was done to the notes of
// a lane is kept, so that they can be had as the lane alone played them.
func (p *Performance) channels() {
	var lanes [17][]*Part
	var zones [17]bool // channels on which notes of a zone have members
	for channel := range lanes {
		for i := range p.Lanes {
			if part := &p.Lanes[i]; part.Sends(channel) {
				lanes[channel] = append(lanes[channel], part)
				zones[channel] = zones[channel] || part.Zone != nil
			}
		}
	}
	shared := func(channel int) bool { return len(lanes[channel]) > 1 }
	AtOnce(len(lanes), func(channel int) {
		if shared(channel) && !zones[channel] {
			p.oneKeyAtATime(lanes[channel], channel)
		}
	})
	for channel := range lanes { // a lane with a zone has notes on several
		alone := slices.ContainsFunc(lanes[channel], func(part *Part) bool { return part.Zone == nil })
		if shared(channel) && zones[channel] && alone {
			p.oneKeyAtATime(lanes[channel], channel)
		}
	}
}

// met is what lanes that share a channel with a lane did to its notes.
type met struct {
	changes []change
	gone    []Note  // that are now another lane's
	places  []int32 // of these, among the notes of the lane alone
}

// change is a note whose end was changed, and what it was.
type change struct {
	place int32 // among the notes of the lane alone
	cutBy cutter
	end   beat.Time
}

// alone are the part's notes as if no other lane shared its channel.
func (part *Part) alone() []Note {
	if len(part.met.changes) == 0 && len(part.met.gone) == 0 {
		return part.Notes
	}
	out := make([]Note, 0, len(part.Notes)+len(part.met.gone))
	kept := part.Notes
	for i, place := range part.met.places {
		before := int(place) - len(out)
		out = append(append(out, kept[:before]...), part.met.gone[i])
		kept = kept[before:]
	}
	out = append(out, kept...)
	for _, was := range slices.Backward(part.met.changes) { // the first change has what it was
		note := &out[was.place]
		note.End, note.trace.cutBy = was.end, was.cutBy
	}
	return out
}

// end gives one of the notes, by its place, another end.
func (part *Part) end(place int, end beat.Time, by cutter) {
	note := &part.Notes[place]
	part.met.changes = append(part.met.changes, change{int32(place), note.trace.cutBy, note.End})
	note.End, note.trace.cutBy = end, by
}

// sharer is a lane that strikes keys which others of its channel strike too, while it is gone
// through in order of time.
type sharer struct {
	part *Part
	on   int           // the channel
	next int           // its first note that is still to come
	tick int64         // of that note; at the end math.MaxInt64
	end  int64         // the clip's, in ticks
	was  map[int]uint8 // the velocities of its notes that are now another lane's, by place
}

// come finds the tick of the lane's next note on a shared key.
func (s *sharer) come(ppq int, users *[128]int) {
	for ; s.next < len(s.part.Notes); s.next++ {
		if note := &s.part.Notes[s.next]; users[note.Pitch] > 1 && s.part.On(note.Channel) == s.on {
			s.tick, _ = spanned(note.At, note.End, ppq, s.end)
			return
		}
	}
	s.tick = math.MaxInt64
}

// give marks a note, by its place, as another lane's: it has no velocity.
func (s *sharer) give(place int) {
	if s.was == nil {
		s.was = map[int]uint8{}
	}
	note := &s.part.Notes[place]
	s.was[place], note.Velocity = note.Velocity, 0
}

// leave takes the notes out that are another lane's, and keeps them aside as they were.
func (s *sharer) leave() {
	if len(s.was) == 0 {
		return
	}
	part := s.part
	kept := part.Notes[:0]
	for i, note := range part.Notes {
		if note.Velocity != 0 {
			kept = append(kept, note)
			continue
		}
		note.Velocity = s.was[i]
		part.met.gone, part.met.places = append(part.met.gone, note), append(part.met.places, int32(i))
	}
	part.Notes = kept
}

// struckKey is what a key of a channel was struck by last.
type struckKey struct {
	part  *Part // whose note it is; nil: nothing
	place int   // of the note
	tick  int64
	last  *Part // the lane that struck it last on that tick
}

func (p *Performance) oneKeyAtATime(parts []*Part, channel int) {
	var users [128]int // how many of the lanes strike a key
	for _, part := range parts {
		var own [128]bool
		for k := range part.Notes {
			if key := part.Notes[k].Pitch; !own[key] && part.On(part.Notes[k].Channel) == channel {
				own[key] = true
				users[key]++
			}
		}
	}
	var sharers []sharer
	for _, part := range parts {
		s := sharer{part: part, on: channel, end: p.Length.Export(p.PPQ)}
		if s.come(p.PPQ, &users); s.tick == math.MaxInt64 {
			continue
		}
		if part.borrowed {
			part.Notes, part.borrowed = slices.Clone(part.Notes), false
		}
		sharers = append(sharers, s)
	}
	var keys [128]struckKey
	for {
		tick := int64(math.MaxInt64)
		for i := range sharers {
			tick = min(tick, sharers[i].tick)
		}
		if tick == math.MaxInt64 {
			break
		}
		for i := range sharers {
			s := &sharers[i]
			from := s.next
			for s.tick == tick {
				s.next++
				s.come(p.PPQ, &users)
			}
			for k := s.next - 1; k >= from; k-- { // of two of a lane at once, the file holds the later
				if key := s.part.Notes[k].Pitch; users[key] > 1 && s.part.On(s.part.Notes[k].Channel) == channel && keys[key].strike(&p.Frame, s.part, k, tick) {
					s.give(k)
				}
			}
		}
	}
	for i := range sharers {
		sharers[i].leave()
	}
}

// strike strikes the key by a note of a lane, and tells whether that is now a note of another
// lane.
func (k *struckKey) strike(f *Frame, part *Part, place int, tick int64) (gone bool) {
	note := &part.Notes[place]
	if k.part == nil || k.tick != tick {
		if k.part != nil {
			before := &k.part.Notes[k.place]
			switch at := f.struckAt(note.At); {
			case k.part == part: // in one track the end stands before what is struck on its tick
				if before.End > at {
					k.part.end(k.place, at, cutByKey)
				}
			case before.End.Export(f.PPQ) >= tick:
				// A reader may take tracks in any order: the end stands a tick earlier.
				if earlier := beat.Of(max(tick-1, k.tick+1), f.PPQ); earlier < before.End {
					k.part.end(k.place, earlier, cutByKey)
				}
			}
		}
		*k = struckKey{part, place, tick, part}
		return false
	}
	if part == k.part {
		return false
	}
	if part != k.last && note.End > k.part.Notes[k.place].End {
		k.part.end(k.place, note.End, cutShared)
	}
	k.last = part
	return true
}
