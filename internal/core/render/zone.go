package render

import (
	"cmp"
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/midi"
	"agrimony/internal/core/piece"
)

// Zone is the channels of a lane whose notes glide each by itself, by the MIDI Polyphonic Expression
// specification: a master channel, and members that its notes are spread over.
type Zone struct {
	Upper   bool // the master is channel 16, with members from 15 down; else it is 1, with members from 2 up
	Range   int  // of the members' wheels, semitones
	Members int  // how many there are; 0: it is not needed
	room    int  // how many other lanes leave it at most; 0: nobody knows
}

// Master is the channel for what is said of the whole lane.
func (z *Zone) Master() int {
	if z.Upper {
		return 16
	}
	return 1
}

// Member is the channel of a member, counted from 0.
func (z *Zone) Member(i int) int {
	if z.Upper {
		return 15 - i
	}
	return 2 + i
}

// Has tells whether a channel is one of the zone's.
func (z *Zone) Has(channel int) bool {
	if z.Upper {
		return channel >= 16-z.Members
	}
	return channel <= 1+z.Members
}

// Sends tells whether a part has notes on a channel.
func (part *Part) Sends(channel int) bool {
	if part.Zone == nil {
		return channel == part.Channel
	}
	return part.Zone.Has(channel) && channel != part.Zone.Master()
}

// Beside is the channel of a lane that stands for some of the part's notes; 0: it is given out.
func (part *Part) Beside() int {
	if part.Zone == nil {
		return part.Channel
	}
	return 0
}

// Setup announces zones: how many members each has, the range of the wheels of each member and of each
// master, and then no parameter. Zones come lower first.
func Setup(zones []*Zone) (out []Control) {
	zones = slices.DeleteFunc(slices.Clone(zones), func(z *Zone) bool { return z.Members == 0 })
	slices.SortFunc(zones, func(a, b *Zone) int { return cmp.Compare(a.Master(), b.Master()) })
	say := func(channel int, what ...uint8) {
		for i := 0; i < len(what); i += 2 {
			out = append(out, Control{Controller: what[i], Value: what[i+1], Channel: uint8(channel)})
		}
	}
	for _, z := range zones {
		say(z.Master(), midi.RPNCoarse, 0, midi.RPNFine, midi.ZoneMembers, midi.DataEntry, uint8(z.Members))
	}
	each := func(do func(channel, reach int)) {
		for _, z := range zones {
			for i := range z.Members {
				do(z.Member(i), z.Range)
			}
			do(z.Master(), piece.MasterRange)
		}
	}
	each(func(channel, reach int) {
		say(channel, midi.RPNCoarse, 0, midi.RPNFine, 0, midi.DataEntry, uint8(reach), midi.DataEntryFine, 0)
	})
	each(func(channel, _ int) { say(channel, midi.RPNCoarse, midi.NoParameter, midi.RPNFine, midi.NoParameter) })
	return out
}

// ZonesOf tells which zone each lane of a clip has: 0 none, 1 the lower, 2 the upper. Lanes of their own
// come before layers; what is left without one plays without glides. What does not play needs none.
func ZonesOf(clip *piece.Clip) []int {
	out := make([]int, len(clip.Lanes))
	given := 0
	for _, layers := range []bool{false, true} {
		for i := range clip.Lanes {
			lane := &clip.Lanes[i]
			if layers == (piece.OriginalOf(lane) != "") && given < piece.MaxZones && piece.Heard(clip, lane) && piece.GlidesApart(clip, lane) {
				given++
				out[i] = given
			}
		}
	}
	return out
}

// BesideZones are the channels that lanes without a zone are given, the best first: away from the zones.
func BesideZones(zones int) []int {
	if zones == 1 {
		return []int{16, 15, 14, 13, 12, 11, 9, 8, 7, 6, 5, 4, 3}
	}
	return []int{9, 8, 11, 7, 12, 6, 13, 5, 14, 4, 3}
}

// VoicesAtOnce is how many of a lane's notes sound at once at most, in ticks of a resolution.
func VoicesAtOnce(notes []Note, ppq int, end int64) (most int) {
	var ends []int64
	for i := range notes {
		at, length := spanned(notes[i].At, notes[i].End, ppq, end)
		ends = slices.DeleteFunc(ends, func(e int64) bool { return e <= at })
		ends = append(ends, at+length)
		most = max(most, len(ends))
	}
	return most
}

// Size gives zones their members, with how many voices each has at once: twice as many, as far as other
// lanes' channels leave room. Of two, each has its voices first.
func Size(zones []*Zone, voices []int, taken [17]bool) {
	room := func(z *Zone) (n int) {
		for n < 15 && !taken[z.Member(n)] && z.Member(n) != 1 && z.Member(n) != 16 {
			n++
		}
		if len(zones) == 1 && !z.Upper && n == midi.MostMembersTogether && !taken[16] || len(zones) == 1 && z.Upper && n == midi.MostMembersTogether && !taken[1] {
			n++ // nobody needs the other master
		}
		return max(n, 1)
	}
	for i, z := range zones {
		if z.Members = 0; voices[i] > 0 {
			z.Members = min(voices[i], room(z))
		}
	}
	all := func() (n int) {
		for _, z := range zones {
			n += z.Members
		}
		return n
	}
	for i, z := range zones {
		for len(zones) > 1 && all() > midi.MostMembersTogether && z.Members > 1 && i == len(zones)-1 {
			z.Members--
		}
	}
	for i, z := range zones {
		for z.Members > 0 && z.Members < min(2*voices[i], room(z)) && (len(zones) == 1 || all() < midi.MostMembersTogether) {
			z.Members++
		}
	}
}

// Voiced is a note that a zone gives a channel, with its wheel from its onset on.
type Voiced struct {
	Note  *Note
	Wheel []Bend
}

// Member is how a channel of a zone stands. Times are in ticks.
type Member struct {
	Used  bool  `json:"used"`  // it has had a note
	Since int64 `json:"since"` // when its last one began
	Until int64 `json:"until"` // when it falls silent
}

// Seat gives notes, in order of time, the zone's members, which stand as told: each goes to the one that has been
// silent longest. Where all sound the oldest note ends; taken are those of these notes, by their places. One that
// would end where it begins has no velocity then, and is to be left out.
func (z *Zone) Seat(members []Member, notes []Voiced, ppq int, end int64) (taken []int) {
	has := make([]int, len(members)) // the note of each, from 1
	for i, voiced := range notes {
		note := voiced.Note
		at, long := spanned(note.At, note.End, ppq, end)
		best := -1
		for k := range members {
			m := &members[k]
			switch {
			case m.Used && m.Until > at:
			case best < 0, !m.Used && members[best].Used, m.Used == members[best].Used && m.Until < members[best].Until:
				best = k
			}
		}
		if best < 0 {
			best = 0
			for k := range members {
				if members[k].Since < members[best].Since {
					best = k
				}
			}
			if has[best] > 0 {
				old := notes[has[best]-1].Note
				if taken = append(taken, has[best]-1); members[best].Since == at {
					old.Velocity = 0
				}
				old.End, old.trace.cutBy = note.At, cutTaken
			}
		}
		members[best], has[best] = Member{Used: true, Since: at, Until: at + long}, i+1
		note.Channel = uint8(z.Member(best))
	}
	return taken
}

// Give seats notes in a zone that has had none. The wheels come in order of time, each set on the tick of its
// note, and centred at the end.
func (z *Zone) Give(notes []Voiced, ppq int, length beat.Time) (bends []Bend, taken []int) {
	members := make([]Member, max(z.Members, 1))
	taken = z.Seat(members, notes, ppq, length.Export(ppq))
	for _, voiced := range notes {
		for k, bend := range voiced.Wheel {
			if voiced.Note.Velocity == 0 || k > 0 && bend.At >= voiced.Note.End {
				break
			}
			bend.Channel = voiced.Note.Channel
			bends = append(bends, bend)
		}
	}
	slices.SortStableFunc(bends, func(a, b Bend) int { return cmp.Compare(a.At, b.At) })
	last := map[uint8]int16{}
	for _, bend := range bends {
		last[bend.Channel] = bend.Value
	}
	for i := range members {
		if channel := uint8(z.Member(i)); last[channel] != 0 {
			bends = append(bends, Bend{At: length, Channel: channel})
		}
	}
	return bends, taken
}

// besides are the channels that lanes without a zone have: also those that would glide apart, where no zone was left.
func besides(clip *piece.Clip) (taken [17]bool) {
	zones := ZonesOf(clip)
	for i, channel := range Channels(clip) {
		lane := &clip.Lanes[i]
		rests := piece.GlidesApart(clip, lane) && !piece.Heard(clip, lane)
		if zones[i] == 0 && !rests && ActsOn(clip, i) < 0 {
			taken[channel] = true
		}
	}
	return taken
}

// roomy tells a zone how many members it may have at most, before anybody knows how many voices it needs.
func (z *Zone) roomy(taken [17]bool) {
	alone := Zone{Upper: z.Upper}
	Size([]*Zone{&alone}, []int{midi.MostMembersTogether + 1}, taken)
	z.room = alone.Members
}

// zoned gives the performance's zones their members, and their notes channels.
func (p *Performance) zoned(clip *piece.Clip) {
	var zones []*Zone
	var voices []int
	var parts []*Part
	for i := range p.Lanes {
		part := &p.Lanes[i]
		if part.Zone == nil {
			continue
		}
		if len(part.Notes) > 0 {
			zones, parts = append(zones, part.Zone), append(parts, part)
			voices = append(voices, VoicesAtOnce(part.Notes, p.PPQ, p.Length.Export(p.PPQ)))
		}
	}
	if len(zones) == 0 {
		return
	}
	Size(zones, voices, besides(clip))
	for _, part := range parts {
		notes := make([]Voiced, len(part.Notes))
		for k := range part.Notes {
			notes[k] = Voiced{&part.Notes[k], part.WheelOf(&part.Notes[k])}
		}
		bends, ended := part.Zone.Give(notes, p.PPQ, p.Length)
		part.Bends = append(part.Bends, bends...)
		if len(ended) > 0 {
			part.Mark(VoicesTaken, int(notes[ended[0]].Note.Step), len(ended))
		}
		part.Notes = slices.DeleteFunc(part.Notes, func(n Note) bool { return n.Velocity == 0 })
	}
	p.Setup = Setup(zones)
}
