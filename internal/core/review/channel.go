package review

import (
	"fmt"

	"agrimony/internal/core/midi"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// sharing is which parts with notes use each channel.
type sharing map[int][]*render.Part

func (l *look) sharing() sharing {
	users := sharing{}
	for i := range l.performance.Lanes {
		if part := &l.performance.Lanes[i]; !part.Empty && !l.clip.Lanes[part.Lane].Silent() {
			users[part.Channel] = append(users[part.Channel], part)
		}
	}
	return users
}

// beside is another part on a part's channel; nil: it has that for itself.
func (s sharing) beside(channel int, part *render.Part) *render.Part {
	for _, other := range s[channel] {
		if other != part {
			return other
		}
	}
	return nil
}

// free offers a lane a channel that is free, and takes it.
func (s sharing) free(l *look, own *piece.Lane, part *render.Part) *render.Mend {
	for free := 1; free <= 16; free++ {
		if free != midi.DrumChannel && s[free] == nil && l.zoneOf(free) == nil {
			s[free] = []*render.Part{part} // taken by this mend
			return l.laneMend(fmt.Sprintf("Give it channel %d", free), own, map[string]any{"channel": free})
		}
	}
	return nil
}

// channel finds lanes that bend, or that a control lane acts on, and share their channel,
// where the one would move the other, and offers a channel that is free.
func channel(l *look) {
	users := l.sharing()
	for i := range l.performance.Lanes {
		part := &l.performance.Lanes[i]
		own := &l.clip.Lanes[part.Lane]
		if acting, ok := own.Content.(piece.Acting); ok {
			l.acting(users, own, acting.ActsOn(), part)
			continue
		}
		if part.Zone != nil {
			continue // see zones
		}
		if other := users.beside(part.Channel, part); other != nil && other.Zone == nil && len(part.Bends) > 0 {
			l.add(
				"channel",
				own,
				0,
				users.free(l, own, part),
				"%s bends, and shares channel %d with %s: the wheel would bend both.",
				own.Name,
				part.Channel,
				other.Name,
			)
		}
	}
}

// acting finds a control lane that moves more than the lane that it names, or what that
// moves itself.
func (l *look) acting(users sharing, own *piece.Lane, on string, part *render.Part) {
	for _, to := range users[part.Channel] {
		lane := &l.clip.Lanes[to.Lane]
		if lane.ID != on {
			continue
		}
		if other := users.beside(part.Channel, to); other != nil && to.Zone == nil {
			l.add(
				"channel",
				own,
				0,
				users.free(l, lane, to),
				"%s acts on channel %d, which %s shares with %s: it would move both.",
				own.Name,
				part.Channel,
				lane.Name,
				other.Name,
			)
		}
		if len(part.Bends) > 0 && len(to.Bends) > 0 && to.Zone == nil {
			l.add("two-wheels", own, 0, nil, "%s moves the wheel of %s, whose own glides and bends move it too: the newer position wins.", own.Name, lane.Name)
		}
		return
	}
}

// zoneOf is the part in whose zone a channel is; nil: it is in none.
func (l *look) zoneOf(channel int) *render.Part {
	for i := range l.performance.Lanes {
		if part := &l.performance.Lanes[i]; part.Zone != nil && part.Zone.Members > 0 && part.Zone.Has(channel) {
			return part
		}
	}
	return nil
}

// zones finds lanes whose channel is in the zone of one that glides note by note, zones that have too few
// channels, and layers that no zone was left for.
func zones(l *look) {
	users := l.sharing()
	given := render.ZonesOf(l.clip)
	for i := range l.performance.Lanes {
		part := &l.performance.Lanes[i]
		own := &l.clip.Lanes[part.Lane]
		if _, acts := own.Content.(piece.Acting); acts || part.Empty {
			continue
		}
		if part.Zone == nil && given[part.Lane] == 0 && piece.GlidesApart(l.clip, own) {
			l.add("zone-layer", own, 0, nil, "%s plays without glides: both zones of channels are taken by other lanes.", own.Name)
		}
		if to := l.zoneOf(part.Channel); part.Zone == nil && to != nil {
			l.add(
				"zone-channel",
				own,
				0,
				users.free(l, own, part),
				"%s is on channel %d, which is one of those that %s spreads its notes over: each would bend the other.",
				own.Name,
				part.Channel,
				l.clip.Lanes[to.Lane].Name,
			)
		}
	}
	l.marks(render.VoicesTaken, func(lane *piece.Lane, part *render.Part, m render.Mark) {
		l.add(
			"zone-voices",
			lane,
			m.Step,
			nil,
			"%s sounds more notes at once than its zone has channels (%d): the oldest ended early, %s.",
			lane.Name,
			part.Zone.Members,
			render.Many(m.Want, "time"),
		)
	})
}
