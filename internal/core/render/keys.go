package render

import (
	"cmp"
	"slices"
)

// channels lets no key be struck while it still sounds on its channel: where lanes share
// one, a note ends where another lane strikes its key again, and struck by several on one
// tick it is one note, of the first of them, with the latest end. What the lanes played
// before that is kept beside what is heard.
func (p *Performance) channels() {
	var lanes [17][]*Part
	for i := range p.Lanes {
		lanes[p.Lanes[i].Channel] = append(lanes[p.Lanes[i].Channel], &p.Lanes[i])
	}
	for _, sharing := range lanes {
		if len(sharing) > 1 {
			p.oneKeyAtATime(sharing)
		}
	}
}

// keyed is a note that shares its key with other lanes of its channel.
type keyed struct {
	tick int64
	lane int // its place among the lanes of the channel
	note int // its place among the lane's
}

func (p *Performance) oneKeyAtATime(parts []*Part) {
	var users [128]int // how many of the lanes strike a key
	for _, part := range parts {
		var own [128]bool
		for k := range part.Notes {
			if key := part.Notes[k].Pitch; !own[key] {
				own[key] = true
				users[key]++
			}
		}
	}
	var byKey [128][]keyed
	for lane, part := range parts {
		if !slices.ContainsFunc(part.Notes, func(n Note) bool { return users[n.Pitch] > 1 }) {
			continue
		}
		part.played, part.Notes = part.Notes, slices.Clone(part.Notes)
		for k := range part.Notes {
			if note := &part.Notes[k]; users[note.Pitch] > 1 {
				tick, _ := p.Span(note, p.PPQ)
				byKey[note.Pitch] = append(byKey[note.Pitch], keyed{tick, lane, k})
			}
		}
	}
	gone := make([]map[int]bool, len(parts))
	for _, all := range byKey {
		slices.SortStableFunc(all, func(a, b keyed) int {
			return cmp.Or(cmp.Compare(a.tick, b.tick), cmp.Compare(a.lane, b.lane), -cmp.Compare(a.note, b.note))
		})
		var before *Note
		for i := 0; i < len(all); {
			first := all[i]
			note := &parts[first.lane].Notes[first.note]
			lane := first.lane
			for i++; i < len(all) && all[i].tick == first.tick; i++ {
				other := all[i]
				if other.lane == first.lane {
					continue // two of one lane: the file holds the later
				}
				if end := parts[other.lane].Notes[other.note].End; end > note.End && other.lane != lane {
					note.End, note.trace.cutBy = end, cutShared
				}
				lane = other.lane
				if gone[other.lane] == nil {
					gone[other.lane] = map[int]bool{}
				}
				gone[other.lane][other.note] = true
			}
			if before != nil && before.End > note.At {
				before.End, before.trace.cutBy = note.At, cutByKey
			}
			before = note
		}
	}
	for lane, left := range gone {
		if left == nil {
			continue
		}
		kept := parts[lane].Notes[:0]
		for k, note := range parts[lane].Notes {
			if !left[k] {
				kept = append(kept, note)
			}
		}
		parts[lane].Notes = kept
	}
}
