package order

import (
	"cmp"
	"encoding/json"
	"fmt"
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// countZones is how many zones the order has, or may have while somebody performs.
func (p *Performance) countZones() (most int) {
	for _, zone := range p.zones {
		most = max(most, zone)
	}
	for i := range p.Piece.Clips {
		if p.kept == nil {
			break
		}
		for _, zone := range render.ZonesOf(&p.Piece.Clips[i]) {
			most = max(most, zone)
		}
	}
	return most
}

// zoned sizes the zones for all entries, and gives their notes channels.
func (p *Performance) zoned(given map[piece.LanePlace]int) {
	by := map[bool][]*Track{}
	for i := range p.Tracks {
		if t := &p.Tracks[i]; t.Part.Zone != nil && len(t.Part.Notes) > 0 {
			by[t.Part.Zone.Upper] = append(by[t.Part.Zone.Upper], t)
		}
	}
	var taken [17]bool
	for key, channel := range given {
		taken[channel] = taken[channel] || p.zones[key] == 0
	}
	var zones []*render.Zone
	var voices []int
	var all [][]strike
	for _, upper := range []bool{false, true} {
		tracks := by[upper]
		if len(tracks) == 0 {
			continue
		}
		zone := &render.Zone{Upper: upper, Range: tracks[0].Part.Zone.Range}
		for _, t := range tracks {
			zone.Range = max(zone.Range, t.Part.Zone.Range)
		}
		strikes := strikesOf(tracks, p.PPQ)
		notes := make([]render.Note, len(strikes))
		for i, s := range strikes {
			notes[i] = tracks[s.track].Part.Notes[s.note]
		}
		zones, all = append(zones, zone), append(all, strikes)
		voices = append(voices, render.VoicesAtOnce(notes, p.PPQ, p.longest().Export(p.PPQ)))
	}
	if len(zones) == 0 {
		return
	}
	render.Size(zones, voices, taken)
	for i, zone := range zones {
		p.giveMembers(zone, by[zone.Upper], all[i])
	}
	p.Setup = render.Setup(zones)
	p.intruders(zones)
}

// intruders are lanes that are set to a channel of a zone.
func (p *Performance) intruders(zones []*render.Zone) {
	for i := range p.Tracks {
		t := &p.Tracks[i]
		lane := &p.Piece.Clips[t.Clip].Lanes[t.Lane]
		if t.Part.Zone != nil || p.target(t.Clip, t.Lane) != t.Lane {
			continue
		}
		for _, zone := range zones {
			if zone.Has(t.Part.Channel) {
				p.find(Finding{Clip: p.Piece.Clips[t.Clip].ID, Finding: render.Finding{
					Rule: "zone-channel", Lane: lane.ID,
					Message: fmt.Sprintf(
						"%s is on channel %d, which is one of those that a lane gliding note by note spreads its notes over: each would bend the other.",
						t.Part.Name,
						t.Part.Channel,
					),
					Mend: render.MendBy(
						"Let its channel be given out",
						op.SetLane{OnLane: op.OnLane{Clip: p.Piece.Clips[t.Clip].ID, Lane: lane.ID}, Patch: json.RawMessage(`{"channel":0}`)},
					),
				}})
			}
		}
	}
}

// longest is until when something sounds.
func (p *Performance) longest() (last beat.Time) {
	for i := range p.Piece.Order.Entries {
		last = max(last, p.Piece.Order.Entries[i].Ends())
	}
	return p.end(last)
}

// giveMembers spreads the notes of lanes that share a zone over its members.
func (p *Performance) giveMembers(zone *render.Zone, tracks []*Track, strikes []strike) {
	notes := make([]render.Voiced, len(strikes))
	for i, s := range strikes {
		t := tracks[s.track]
		notes[i] = render.Voiced{Note: &t.Part.Notes[s.note], Wheel: t.wheelOf(s.note, zone.Range)}
	}
	length := p.longest()
	bends, ended := zone.Give(notes, p.PPQ, length)
	if len(ended) > 0 {
		s := strikes[ended[0]]
		t := tracks[s.track]
		p.find(Finding{Clip: p.Piece.Clips[t.Clip].ID, Entry: int(t.sources[s.note].entry), Finding: render.Finding{
			Rule: "zone-voices", Lane: t.Part.ID,
			Message: fmt.Sprintf(
				"%s sounds more notes at once than its zone has channels (%d): the oldest ended early, %s.",
				t.Part.Name,
				zone.Members,
				render.Many(len(ended), "time"),
			),
		}})
	}
	for _, t := range tracks {
		t.leave()
		t.zone = zone
		t.bends, t.Part.Bends = t.wheels(0)
		*t.Part.Zone = *zone
	}
	last := tracks[strikes[len(strikes)-1].track]
	for _, bend := range bends {
		if bend.At == length { // the members are centred where the order ends
			last.Part.Bends, last.bends = append(last.Part.Bends, bend), append(last.bends, last.sources[len(last.sources)-1].entry)
		}
	}
}

// wheelOf is how the wheel of a note goes, in the order's time, written for a range of so many semitones.
func (t *Track) wheelOf(k, reach int) []render.Bend {
	s, note := &t.sources[k], &t.Part.Notes[k]
	pass := s.pass()
	part := &pass.played.Lanes[s.part]
	list := slices.Clone(part.WheelOf(&part.Notes[s.note]))
	for i := range list {
		list[i].At += pass.at
		if own := part.Zone.Range; own != reach {
			list[i].Value = int16(int(list[i].Value) * own / reach)
		}
	}
	begun := 0
	for begun+1 < len(list) && list[begun+1].At <= note.At {
		begun++
	}
	if list = list[begun:]; len(list) > 0 {
		list[0].At = note.At
	}
	return list
}

// wheels are those of all notes of a track whose notes have channels, with the entry of each position; its
// notes are so much earlier than in the order.
func (t *Track) wheels(earlier beat.Time) (entries []int32, bends []render.Bend) {
	type position struct {
		bend  render.Bend
		entry int32
	}
	var all []position
	for k := range t.Part.Notes {
		note := &t.Part.Notes[k]
		note.At, note.End = note.At+earlier, note.End+earlier
		for i, bend := range t.wheelOf(k, t.zone.Range) {
			if i > 0 && bend.At >= note.End {
				break
			}
			bend.At, bend.Channel = bend.At-earlier, note.Channel
			all = append(all, position{bend, t.sources[k].entry})
		}
		note.At, note.End = note.At-earlier, note.End-earlier
	}
	slices.SortStableFunc(all, func(a, b position) int { return cmp.Compare(a.bend.At, b.bend.At) })
	for _, x := range all {
		bends, entries = append(bends, x.bend), append(entries, x.entry)
	}
	return entries, bends
}

// zoneTrack is a track with notes in whose zone a channel is; nil: there is none.
func (p *Performance) zoneTrack(channel int) *Track {
	for i := range p.Tracks {
		if t := &p.Tracks[i]; t.zone != nil && t.zone.Has(channel) && len(t.sources) > 0 {
			return t
		}
	}
	return nil
}
