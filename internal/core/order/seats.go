package order

import (
	"fmt"

	"agrimony/internal/core/midi"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// Seat is the channel of a lane over the piece.
type Seat struct {
	Clip, Lane int // indexes
	Channel    int // 1..16; of a lane that has a zone, its master
}

func (h *Held) zone() render.Zone {
	return render.Zone{Upper: h.Upper, Range: h.Range, Members: len(h.Members)}
}

// Seats are the channels that the lanes have in a file of the order, and the zones as they begin.
func (p *Performance) Seats() (seats []Seat, zones []Held) {
	met := map[*render.Zone]bool{}
	for i := range p.Tracks {
		t := &p.Tracks[i]
		seats = append(seats, Seat{t.Clip, t.Lane, t.Part.Channel})
		if t.zone != nil && !met[t.zone] {
			met[t.zone] = true
			zones = append(zones, Held{Upper: t.zone.Upper, Range: t.zone.Range, Members: make([]render.Member, t.zone.Members)})
		}
	}
	return seats, zones
}

// Hold gives the notes that begin in a stretch of an order that is played live the members of zones which stand
// as told, and tells how those stand where it ends. A note that has to make room at once has no velocity then.
func (p *Performance) Hold(zones []Held, from, to int64) []Held {
	var out []Held
	for _, h := range zones {
		zone := h.zone()
		var tracks []*Track
		for i := range p.Tracks {
			if t := &p.Tracks[i]; t.Part.Zone != nil && t.Part.Zone.Upper == h.Upper {
				tracks = append(tracks, t)
			}
		}
		var notes []render.Voiced
		for _, s := range strikesOf(tracks, p.PPQ) {
			if s.tick >= from && s.tick < to {
				notes = append(notes, render.Voiced{Note: &tracks[s.track].Part.Notes[s.note]})
			}
		}
		for _, t := range tracks {
			t.zone = &zone
		}
		own := Held{h.Upper, h.Range, append([]render.Member{}, h.Members...)}
		zone.Seat(own.Members, notes, p.PPQ, p.longest().Export(p.PPQ))
		out = append(out, own)
	}
	return out
}

// Wheel are the positions of the wheel of a note, by its place, that has a member of a held zone; nil of others.
func (t *Track) Wheel(note int) []render.Bend {
	if t.zone == nil || t.Part.Notes[note].Channel == 0 {
		return nil
	}
	return t.wheelOf(note, t.zone.Range)
}

// CheckHeld refuses zones that no order can have.
func CheckHeld(zones []Held) error {
	if len(zones) > piece.MaxZones || len(zones) == 2 && zones[0].Upper == zones[1].Upper {
		return fmt.Errorf("these %d are no zones of one order; allowed: a lower one, an upper one, or both", len(zones))
	}
	for _, h := range zones {
		if h.Range < 1 || h.Range > piece.MaxMPERange || len(h.Members) < 1 || len(h.Members) > midi.MostMembers {
			return fmt.Errorf("a range of %d semitones and %d members are none of a zone; allowed: 1..%d and 1..%d", h.Range, len(h.Members), piece.MaxMPERange, midi.MostMembers)
		}
	}
	return nil
}
