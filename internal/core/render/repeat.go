package render

import "agrimony/internal/core/beat"

// nudge is by how much a run's onset moves off the grid. A run that was joined
// to starts on it.
func (c *context) nudge(r *run) beat.Time {
	if r.joined {
		return 0
	}
	return c.stepTime.Percent(c.step(r.first).Nudge)
}

// repeat makes the notes: each run cut into its ratchet's repeats and nudged. A
// tie belongs to the last repeat, and keeps its end on the grid.
func repeat(c *context, runs []run) []Note {
	count := 0
	for i := range runs {
		count += c.repeats(&runs[i])
	}
	notes := make([]Note, 0, count)
	for i := range runs {
		r := &runs[i]
		step := c.step(r.first)
		s := c.slots[r.first]
		placed := c.placed[s.step]
		repeats := c.repeats(r)
		nudge := c.nudge(r)
		spacing := c.stepTime / beat.Time(repeats)
		gate := spacing.Percent(step.Gate)
		ends := c.lastPitch(r)
		for k := range repeats {
			at := r.at + nudge + beat.Time(k)*c.stepTime/beat.Time(repeats)
			end := at + gate
			last := k == repeats-1
			if last && (r.tied || r.last > r.first) {
				end = r.end
			}
			notes = append(notes, Note{
				At: at, End: end, Step: s.step + 1, Round: s.round + 1,
				Pitch: placed.pitch, Velocity: uint8(step.Velocity),
				trace: trace{
					onset: at, run: int32(i), last: c.slots[r.last].step, alter: placed.alter, ends: ends,
					joinedSteps: int16(min(r.last-r.first, 1<<14)), repeat: uint8(k + 1), repeats: uint8(repeats),
					tied: last && r.tied, legato: last && r.legato, joined: r.joined,
				},
			})
		}
	}
	return notes
}

func (c *context) repeats(r *run) int {
	if r.joined {
		return 1
	}
	return c.step(r.first).Ratchet
}
