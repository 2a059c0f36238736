package render

import (
	"fmt"
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/budget"
	"agrimony/internal/core/piece"
)

// audible tells which lanes play: those named, or else those that are neither
// muted nor shut out by another lane's solo.
func audible(clip *piece.Clip, named []string) ([]bool, error) {
	out := make([]bool, len(clip.Lanes))
	if named != nil {
		for _, id := range named {
			found := false
			for i := range clip.Lanes {
				if clip.Lanes[i].ID == id {
					out[i], found = true, true
				}
			}
			if !found {
				return nil, fmt.Errorf("no lane %q in clip %q", id, clip.ID)
			}
		}
		return out, nil
	}
	solo := AnySolo(clip)
	for i := range clip.Lanes {
		out[i] = !clip.Lanes[i].Mute && (!solo || clip.Lanes[i].Solo)
	}
	return out, nil
}

// Empty tells whether a lane of a checked clip has no note in its loop: none of the steps
// that it goes through is on, or the lane that it hangs on is empty, whose notes it plays or
// follows, or whose rhythm it takes. Such a lane has no period and makes no track.
func Empty(p *piece.Piece, clip *piece.Clip, l *piece.Lane) bool {
	find := func(id string) *piece.Lane {
		return &clip.Lanes[slices.IndexFunc(clip.Lanes, func(o piece.Lane) bool { return o.ID == id })]
	}
	if original := piece.OriginalOf(l); original != "" {
		return Empty(p, clip, find(original))
	}
	if own := piece.FreeOf(l); own != nil {
		return !anyInLoop(p, clip, own)
	}
	steps := l.Content.StepList()
	if !slices.ContainsFunc(Active(l), func(i int32) bool { return steps.Cell(int(i)).On }) {
		return true
	}
	leaning, ok := l.Content.(piece.Leaning)
	if !ok {
		return false
	}
	acting, acts := l.Content.(piece.Acting)
	return slices.ContainsFunc(leaning.Needs(), func(n piece.Need) bool {
		return !(acts && acting.ActsOn() == n.Lane) && Empty(p, clip, find(n.Lane))
	})
}

// AnySolo tells whether a lane of the clip is solo.
func AnySolo(clip *piece.Clip) bool {
	for i := range clip.Lanes {
		if clip.Lanes[i].Solo && !clip.Lanes[i].Mute {
			return true
		}
	}
	return false
}

// actsOn is the lane on whose channel another one acts, by their places in the clip; below
// 0: the lane has a channel of its own.
func actsOn(clip *piece.Clip, lane int) int {
	acting, ok := clip.Lanes[lane].Content.(piece.Acting)
	if !ok {
		return -1
	}
	return slices.IndexFunc(clip.Lanes, func(l piece.Lane) bool { return l.ID == acting.ActsOn() })
}

// Channels gives each lane its MIDI channel, 1..16: the one set, or else that of
// its position with 10 left out for drums, or the next one that is still free.
// When all are given out, positions start over. A lane whose notes glide each by itself has its zone's
// master, and the others keep away from zones.
func Channels(clip *piece.Clip) []int {
	var taken [17]bool
	taken[10] = true
	for i := range clip.Lanes {
		taken[clip.Lanes[i].Channel] = true
	}
	taken[0] = false
	out := make([]int, len(clip.Lanes))
	zones, count := ZonesOf(clip), 0
	for i, zone := range zones {
		if zone > 0 {
			z := Zone{Upper: zone == piece.MaxZones}
			out[i], count = z.Master(), count+1
		}
	}
	beside := BesideZones(count)
	defer func() {
		for i := range clip.Lanes {
			if to := actsOn(clip, i); to >= 0 {
				out[i] = out[to]
			}
		}
	}()
	for i := range clip.Lanes {
		if actsOn(clip, i) >= 0 || zones[i] > 0 {
			continue
		}
		if set := clip.Lanes[i].Channel; set != 0 {
			out[i] = set
			continue
		}
		if count > 0 {
			free := slices.IndexFunc(beside, func(c int) bool { return !taken[c] })
			out[i] = beside[max(free, 0)] // when none is left, the one that is farthest from a zone is shared
			taken[out[i]] = true
			continue
		}
		position := i%15 + 1
		if position >= 10 {
			position++
		}
		out[i] = position
		for tries := range 16 {
			if channel := (position+tries-1)%16 + 1; !taken[channel] {
				out[i] = channel
				break
			}
		}
		taken[out[i]] = true
	}
	return out
}

// Audible tells which lanes of a clip play: those that are neither muted nor shut out by another lane's
// solo.
func Audible(clip *piece.Clip) []bool {
	out, err := audible(clip, nil)
	if err != nil {
		panic(err) // no lane is named
	}
	return out
}

// OwnLength is how long a clip lasts that has no number of bars; 0: its lanes meet too late.
func OwnLength(p *piece.Piece, clip *piece.Clip, kinds Lookup, work *budget.Budget) beat.Time {
	cycle := CycleOf(p, clip, work.Part(periodWork), kinds)
	length, err := lengthOf(clip, func() Cycle { return cycle }, p.Bar(), Options{})
	if err != nil {
		return 0
	}
	return length
}

// ActsOn is the lane on whose channel another one acts, by their places in the clip; below 0: the lane has
// a channel of its own.
func ActsOn(clip *piece.Clip, lane int) int { return actsOn(clip, lane) }
