package render

import (
	"agrimony/internal/core/beat"
	"agrimony/internal/core/piece"
)

// run is a note with the steps that ties joined to it.
type run struct {
	first, last int32     // slots; last is the final one joined
	at, end     beat.Time // on the grid, before nudge; end is the clip's when a tie reaches it
	tied        bool      // the first step ties on, so the end is on the grid
	joined      bool      // it started in a legato join: on the grid, not repeated
	legato      bool      // it overlaps the next run's onset
}

// join builds the runs from the slots that sound, by the rules for ties and
// gates, and slides from glides that are tied into another pitch with the wheel.
func join(c *context) []run {
	n := int32(len(c.slots))
	out := make([]run, 0, c.sounding)
	joined := false
	for i := int32(0); i < n; {
		if !c.sounds[i] {
			i++
			continue
		}
		r := run{first: i, last: i, at: c.at(i), tied: c.step(i).Tie, joined: joined}
		joined = false
		current := c.pitch(i)
		for c.step(r.last).Tie {
			next := r.last + 1
			if next == n {
				r.end = c.length
				break
			}
			if c.sounds[next] && c.pitch(next) != current {
				if !c.bendsInto(next) {
					r.end, r.legato, joined = c.at(next)+beat.Overlap, true, true
					break
				}
			}
			if c.sounds[next] {
				c.slideTied(&r, len(out), next, current)
				current = c.pitch(next)
			}
			r.last = next
		}
		if r.end == 0 {
			r.end = c.at(r.last) + c.gate[c.slots[r.last].step]
		}
		out = append(out, r)
		i = r.last + 1
	}
	return out
}

// context is what the stages of one lane share.
type context struct {
	lane     *piece.Lane
	slots    []slot
	sounds   []bool
	sounding int
	placed   []placed
	gate     []beat.Time // of each step
	stepTime beat.Time
	length   beat.Time
	slides   []slide
	way      []segment // room that slidesOf uses again
}

func (c *context) at(i int32) beat.Time     { return beat.Time(i) * c.stepTime }
func (c *context) step(i int32) *piece.Step { return &c.lane.Steps[c.slots[i].step] }
func (c *context) pitch(i int32) uint8      { return c.placed[c.slots[i].step].pitch }
func (c *context) bendsInto(next int32) bool {
	return c.lane.Glide.Mode == "bend" && c.step(next).Glide != nil
}

// EndPitch is the MIDI pitch at which the note ends: the wheel may have taken it
// to that of a step tied to it.
func (n *Note) EndPitch() int { return int(n.trace.ends) }
