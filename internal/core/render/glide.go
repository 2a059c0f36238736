package render

import (
	"math"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/pitch"
)

// slide is a glide: from one offset to another, in semitones from the pitch of
// the note that is sounding.
type slide struct {
	run      int32
	slot     int32
	tied     bool // into a held note; otherwise it starts with a fresh one
	goesOn   bool // from wherever the wheel is, not from a start of its own
	from, to int
	length   beat.Time
	curve    int
}

// slideTied notes a glide into a step that is tied to, and so has no onset.
// Without a start of its own it goes on from wherever the wheel is.
func (c *context) slideTied(r *run, index int, next int32, current uint8) {
	glide := c.step(next).Glide
	if glide == nil || c.lane.Glide.Mode != "bend" {
		return
	}
	held := int(c.pitch(r.first))
	to := int(c.pitch(next)) - held
	from := int(current) - held
	if glide.From != nil {
		from = to + *glide.From
	}
	if from == to {
		return
	}
	c.slides = append(c.slides, slide{
		run: int32(index), slot: next, tied: true, goesOn: glide.From == nil,
		from: from, to: to, length: c.stepTime.Percent(glide.Time), curve: glide.Curve,
	})
}

// glide adds the slides that start with a fresh note, for either writing, and
// lets the note before a legato glide overlap it when their steps adjoin.
func glide(c *context, runs []run) {
	tied := c.slides
	c.slides = make([]slide, 0, len(tied)+len(runs)/4)
	next := 0
	for i := range runs {
		r := &runs[i]
		if s, ok := c.freshSlide(runs, i); ok {
			c.slides = append(c.slides, s)
			if before := i - 1; c.lane.Glide.Mode == "legato" && before >= 0 && runs[before].last == r.first-1 && !runs[before].legato {
				runs[before].legato = true
				runs[before].tied = true
				runs[before].end = r.at + c.nudge(r) + beat.Overlap
			}
		}
		for ; next < len(tied) && int(tied[next].run) == i; next++ {
			c.slides = append(c.slides, tied[next])
		}
	}
}

func (c *context) freshSlide(runs []run, i int) (slide, bool) {
	r := &runs[i]
	glide := c.step(r.first).Glide
	if glide == nil {
		return slide{}, false
	}
	from := 0
	switch {
	case glide.From != nil:
		from = *glide.From
	case i > 0:
		from = int(c.lastPitch(&runs[i-1])) - int(c.pitch(r.first))
	}
	if from == 0 {
		return slide{}, false
	}
	return slide{run: int32(i), slot: r.first, from: from, length: c.stepTime.Percent(glide.Time), curve: glide.Curve}, true
}

// lastPitch is the pitch at which a run ends: that of its last sounding step.
func (c *context) lastPitch(r *run) uint8 {
	for i := r.last; ; i-- {
		if c.sounds[i] {
			return c.pitch(i)
		}
	}
}

// Portamento controllers of the MIDI 1.0 specification.
const (
	ccPortamentoTime = 5
	ccPortamento     = 65
	ccPortamentoFrom = 84
)

// portamento writes glides between overlapping notes: the time, the note it
// comes from, on at the onset, and off when the glide is over or its note ends.
func portamento(c *context, part *Part, tempo float64, groove func(beat.Time) beat.Time) {
	next := 0
	for i := range part.Notes {
		note := &part.Notes[i]
		for ; next < len(c.slides) && c.slides[next].run < note.trace.run; next++ {
		}
		if next == len(c.slides) || c.slides[next].run != note.trace.run || note.trace.repeat != 1 {
			continue
		}
		s := c.slides[next]
		off := min(groove(note.trace.onset+s.length), note.End)
		if i+1 < len(part.Notes) {
			off = min(off, part.Notes[i+1].At)
		}
		part.Controls = append(part.Controls,
			Control{note.At, ccPortamentoTime, portamentoTime(s.length, tempo)},
			Control{note.At, ccPortamentoFrom, uint8(pitch.Fold(int(note.Pitch) + s.from))},
			Control{note.At, ccPortamento, 127},
			Control{max(off, note.At+shortest), ccPortamento, 0})
	}
}

// portamentoTime writes a length as the value of controller 5, for which the
// specification sets no unit: here 127 is two seconds, and the scale is
// quadratic, so that short glides are finely told apart.
func portamentoTime(length beat.Time, tempo float64) uint8 {
	seconds := float64(length) / float64(beat.Quarter) * 60 / tempo
	return uint8(min(math.Floor(127*math.Sqrt(seconds/2)+0.5), 127))
}
