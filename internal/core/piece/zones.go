package piece

import (
	"fmt"
	"slices"

	"agrimony/internal/core/document"
)

// MaxZones is how many lanes whose notes glide each by itself may sound at once: the MIDI Polyphonic
// Expression specification has two zones.
const MaxZones = 2

// checkZones refuses a third lane of a clip whose notes glide each by itself. Layers of such lanes play
// without glides where no zone is left.
func checkZones(at *document.At, clip *Clip) {
	var names []string
	for i := range clip.Lanes {
		lane := &clip.Lanes[i]
		if OriginalOf(lane) != "" || !Heard(clip, lane) || !GlidesApart(clip, lane) {
			continue
		}
		if len(names) == MaxZones {
			at.Field("lanes").
				Item(i).
				Field("glide").
				Field("mode").
				Refuse("mpe needs a zone of channels of its own, and %s and %s have both; allowed: two such lanes in a clip", names[0], names[1])
		}
		names = append(names, lane.Name)
	}
}

// LanePlace is where a lane stands in a piece, by the places of its clip and its own.
type LanePlace struct{ Clip, Lane int }

// ZonesInOrder tells which zone, 1 the lower and 2 the upper, each lane has in the running order whose notes
// glide each by itself: lanes that never sound at once may share one.
// Layers that none is left for are not in it. refused is a lane that is no layer and finds none.
func (p *Piece) ZonesInOrder() (zones map[LanePlace]int, refused error) {
	zones, _, refused = p.zonesInOrder()
	return zones, refused
}

func (p *Piece) zonesInOrder() (zones map[LanePlace]int, entry int, refused error) {
	var all []LanePlace
	for _, layers := range []bool{false, true} {
		for c := range p.Clips {
			for l := range p.Clips[c].Lanes {
				lane := &p.Clips[c].Lanes[l]
				if layers == (OriginalOf(lane) != "") && GlidesApart(&p.Clips[c], lane) && p.entryOf(c, l) >= 0 {
					all = append(all, LanePlace{Clip: c, Lane: l})
				}
			}
		}
	}
	zones = map[LanePlace]int{}
	for _, own := range all {
		var beside []string
		for zone := 1; zone <= MaxZones && zones[own] == 0; zone++ {
			meets := slices.IndexFunc(all, func(o LanePlace) bool { return zones[o] == zone && p.atOnce(own, o) })
			if meets < 0 {
				zones[own] = zone
				continue
			}
			other := all[meets]
			beside = append(beside, fmt.Sprintf("%s of %s", p.Clips[other.Clip].Lanes[other.Lane].Name, p.Clips[other.Clip].Name))
		}
		if lane := &p.Clips[own.Clip].Lanes[own.Lane]; zones[own] == 0 {
			delete(zones, own)
			if OriginalOf(lane) == "" {
				return zones, p.entryOf(
						own.Clip,
						own.Lane,
					), fmt.Errorf(
						"%s glides note by note (mpe), which needs a zone of channels of its own, and %s and %s have both while it sounds; allowed: two such lanes at once",
						lane.Name,
						beside[0],
						beside[1],
					)
			}
		}
	}
	return zones, -1, nil
}

// entryOf is the first entry of the order in which a lane may sound; below 0: it does in none.
func (p *Piece) entryOf(clip, lane int) int {
	return slices.IndexFunc(p.Order.Entries, func(e Entry) bool { return p.playsIn(&e, clip, lane) })
}

// playsIn tells whether a lane may sound in an entry.
func (p *Piece) playsIn(e *Entry, clip, lane int) bool {
	own := &p.Clips[clip].Lanes[lane]
	return e.Clip == p.Clips[clip].ID && Heard(&p.Clips[clip], own) && !slices.Contains(e.Mute, own.ID)
}

// Heard tells whether a lane plays in its clip: it is not muted, nor shut out by another lane's solo.
func Heard(clip *Clip, lane *Lane) bool {
	return !lane.Mute && (lane.Solo || !slices.ContainsFunc(clip.Lanes, func(l Lane) bool { return l.Solo }))
}

// atOnce tells whether two lanes may sound at one time in the order.
func (p *Piece) atOnce(a, b LanePlace) bool {
	bar := int(p.Bar() / OrderTick)
	until := func(e *Entry) int {
		if e.Ring {
			return e.End() + bar
		}
		return e.End()
	}
	for i := range p.Order.Entries {
		x := &p.Order.Entries[i]
		if !p.playsIn(x, a.Clip, a.Lane) {
			continue
		}
		for k := range p.Order.Entries {
			y := &p.Order.Entries[k]
			if p.playsIn(y, b.Clip, b.Lane) && x.At < until(y) && y.At < until(x) {
				return true
			}
		}
	}
	return false
}
