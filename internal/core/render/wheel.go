package render

import (
	"math"

	"agrimony/internal/core/beat"
)

// Registered parameter 0, the bend range, of the MIDI 1.0 specification.
const (
	ccDataEntry     = 6
	ccDataEntryFine = 38
	ccRPNFine       = 100
	ccRPNCoarse     = 101
)

// smooth is the largest jump of the wheel, in semitones, as long as the finest
// export tick allows it: a sixteenth, less what rounding to the wheel's own steps
// may add.
const smooth = 0.9 / 16

// shape bends x, 0..1: a straight line at curve 0; above, slow at the start;
// below, fast. It is a hyperbola, so that it is exact on every machine and its
// inverse is the same shape with the opposite curve.
func shape(x float64, curve int) float64 {
	weight := 1 + 7*math.Abs(float64(curve))/100
	if curve < 0 {
		weight = 1 / weight
	}
	return x / (x + weight*(1-x))
}

// segment is a stretch of the wheel's way: from one offset to another.
type segment struct {
	at, end  beat.Time // before groove
	from, to float64   // semitones
	curve    int
}

func (s segment) value(t beat.Time) float64 {
	if t >= s.end {
		return s.to
	}
	return s.from + (s.to-s.from)*shape(float64(t-s.at)/float64(s.end-s.at), s.curve)
}

// wheel writes the bends of a lane: for each note the wheel stands where the
// note starts (in the middle, unless it glides), then follows the glides and
// the bend envelope until the next fresh note.
func wheel(c *context, part *Part, groove func(beat.Time) beat.Time) {
	w := &writer{part: part, groove: groove, scale: 8192 / float64(part.Range)}
	// A lane that bends begins centred; a first note that starts bent replaces that.
	part.Bends = append(make([]Bend, 0, c.bendsExpected()), Bend{0, 0})
	next := 0
	for i := range part.Notes {
		note := &part.Notes[i]
		until := c.length
		if i+1 < len(part.Notes) {
			until = part.Notes[i+1].trace.onset
		}
		for ; next < len(c.slides) && c.slides[next].run < note.trace.run; next++ {
		}
		w.note(note, c.slidesOf(part, note, next), c.envelopeOf(part, note), until)
	}
	if !w.used {
		part.Bends = nil
		return
	}
	part.Controls = append([]Control{
		{0, ccRPNCoarse, 0}, {0, ccRPNFine, 0}, {0, ccDataEntry, uint8(part.Range)}, {0, ccDataEntryFine, 0},
		{0, ccRPNCoarse, 127}, {0, ccRPNFine, 127},
	}, part.Controls...)
}

// bendsExpected is about how many bends the slides need, so that the list need
// not grow: it is most of what a gliding lane holds.
func (c *context) bendsExpected() int {
	count := 0.0
	if c.lane.Glide.Mode == "bend" {
		for _, s := range c.slides {
			count += math.Abs(float64(s.to-s.from))/smooth + 3
		}
	}
	return int(count) + 2
}

// slidesOf are the slides of one note, in the note's own time: the first repeat
// starts with the fresh one, the last carries the tied ones.
func (c *context) slidesOf(part *Part, note *Note, next int) []segment {
	way := c.way[:0]
	t := note.trace
	for _, s := range c.slides[next:] {
		if s.run != t.run || c.lane.Glide.Mode != "bend" {
			break
		}
		at := t.onset
		if s.tied {
			at = c.at(s.slot)
		}
		if s.tied && t.repeat != t.repeats || !s.tied && t.repeat != 1 {
			continue
		}
		from := float64(s.from)
		if n := len(way); s.goesOn && n > 0 {
			from = way[n-1].value(at) // a slide cut short leaves off where it is
		}
		way = append(way, segment{at, at + s.length, from, float64(s.to), s.curve})
		markRange(part, int(c.slots[s.slot].step)+1, s.from)
		markRange(part, int(c.slots[s.slot].step)+1, s.to)
	}
	c.way = way
	return way
}

func markRange(part *Part, step, semitones int) {
	if semitones > part.Range || -semitones > part.Range {
		part.mark(Mark{GlideBeyondRange, step, max(semitones, -semitones)})
	}
}

// mark keeps one mark a step and kind: the greatest.
func (part *Part) mark(m Mark) {
	for i := range part.Marks {
		if old := &part.Marks[i]; old.Kind == m.Kind && old.Step == m.Step {
			if m.Kind == GlideBeyondRange {
				old.Want = max(old.Want, m.Want)
			}
			return
		}
	}
	part.Marks = append(part.Marks, m)
}

// envelopeOf lays the bend of the step that started a note over the note as it
// sounds. It begins in the middle, unless its first point is at the onset.
func (c *context) envelopeOf(part *Part, note *Note) []segment {
	points := c.lane.Steps[note.Step-1].Bend
	if len(points) == 0 {
		return nil
	}
	length := note.trace.end - note.trace.onset
	way := make([]segment, len(points))
	at, by := note.trace.onset, 0.0
	for i, point := range points {
		end := note.trace.onset + length.Percent(point.At)
		way[i] = segment{at, end, by, float64(point.By), point.Curve}
		at, by = end, float64(point.By)
		markRange(part, int(note.Step), point.By)
	}
	return way
}

// writer puts bends into a part, leaving out those that change nothing.
type writer struct {
	part   *Part
	groove func(beat.Time) beat.Time
	scale  float64 // wheel steps a semitone
	value  int16
	used   bool
}

func (w *writer) set(at beat.Time, semitones float64) {
	scaled := semitones*w.scale + 8192.5 // above zero, so that cutting rounds half up
	value := int16(int(min(max(scaled, 0), 16383)) - 8192)
	if value == w.value {
		return
	}
	w.value = value
	w.used = true
	at = max(at, 0)
	if n := len(w.part.Bends); n > 0 && w.part.Bends[n-1].At >= at {
		w.part.Bends[n-1].Value = value
		return
	}
	w.part.Bends = append(w.part.Bends, Bend{at, value})
}

// note writes the wheel's way from a note's onset up to the next one's.
func (w *writer) note(note *Note, slides, envelope []segment, until beat.Time) {
	onset := note.trace.onset
	offset := func(t beat.Time) float64 { return along(slides, t) + along(envelope, t) }
	w.set(note.At, offset(onset))
	if len(slides) == 0 || len(envelope) == 0 {
		w.follow(slides, until)
		w.follow(envelope, until)
		return
	}
	const limit = smooth / 2 // they add up
	for t := onset; ; {
		next := min(step(slides, t, limit), step(envelope, t, limit))
		if next >= until || next == never {
			return
		}
		t = next
		w.set(w.groove(t), offset(t))
	}
}

// follow writes one way on its own, each bend a smooth limit on from the last.
func (w *writer) follow(way []segment, until beat.Time) {
	for i, s := range way {
		end := min(s.end, until-1)
		if i+1 < len(way) {
			end = min(end, way[i+1].at)
		}
		if s.at >= until {
			return
		}
		w.set(w.groove(s.at), s.value(s.at))
		length, distance := float64(s.end-s.at), s.to-s.from
		share := smooth / math.Abs(distance)
		if distance == 0 {
			share = 1
		}
		for t, moved := s.at, 0.0; t < end; {
			moved += share
			next := end
			if moved < 1 {
				next = s.at + beat.Time(shape(moved, -s.curve)*length)
			}
			if next < t+shortest {
				next = t + shortest
				moved = shape(min(float64(next-s.at)/length, 1), s.curve)
			}
			if t = next; t >= end {
				t = end
				break
			}
			w.set(w.groove(t), s.from+distance*moved)
		}
		w.set(w.groove(end), s.value(end))
	}
}

const never = beat.Time(math.MaxInt64)

// along is the way's offset at a time: that of the last segment begun.
func along(way []segment, t beat.Time) float64 {
	value := 0.0
	for _, s := range way {
		if s.at > t {
			break
		}
		value = s.value(t)
	}
	return value
}

// step is the next time after t at which the way should be written: when it has
// moved by the limit, at the ends of segments, and never more often than
// the finest tick.
func step(way []segment, t beat.Time, limit float64) beat.Time {
	for i, s := range way {
		end := s.end
		if i+1 < len(way) {
			end = min(end, way[i+1].at)
		}
		if t < s.at {
			return s.at
		}
		if t >= end {
			continue
		}
		distance := math.Abs(s.to - s.from)
		if distance == 0 {
			return end
		}
		moved := shape(float64(t-s.at)/float64(s.end-s.at), s.curve) + limit/distance
		if moved >= 1 {
			return end
		}
		next := s.at + beat.Time(shape(moved, -s.curve)*float64(s.end-s.at))
		return min(max(next, t+shortest), end)
	}
	return never
}
