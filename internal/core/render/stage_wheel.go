package render

import (
	"math"
	"slices"
	"sync"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/midi"
	"agrimony/internal/core/piece"
)

// smooth is the largest jump of the wheel, in semitones: a sixteenth, less what
// rounding to the wheel's own steps and to ticks may add.
const smooth = 0.85 / 16

// spacingMS is how near together wheel positions may be, in milliseconds, so
// that a cable carries them.
const spacingMS = 1.25

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
	at, end  beat.Time
	from, to float64 // semitones
	curve    int
	step     int32 // whose glide it is, from 1
	goesOn   bool  // from wherever the wheel is
}

func (s *segment) value(t beat.Time) float64 {
	if t >= s.end {
		return s.to
	}
	return s.from + (s.to-s.from)*shape(float64(t-s.at)/float64(s.end-s.at), s.curve)
}

// way is a run of segments in order of time. It remembers where it was asked last: times
// that follow each other cost the same however long it is.
type way struct {
	list []segment
	last int
}

// begun is the last segment that has begun at a time; nil: none has.
func (w *way) begun(t beat.Time) *segment {
	for w.last > 0 && w.list[w.last].at > t {
		w.last--
	}
	for w.last+1 < len(w.list) && w.list[w.last+1].at <= t {
		w.last++
	}
	if len(w.list) == 0 || w.list[w.last].at > t {
		return nil
	}
	return &w.list[w.last]
}

// along is the way's offset at a time: that of the last segment begun.
func (w *way) along(t beat.Time) float64 {
	if s := w.begun(t); s != nil {
		return s.value(t)
	}
	if len(w.list) > 0 {
		return w.list[0].from
	}
	return 0
}

func (w *way) clear() { w.list, w.last = w.list[:0], 0 }

const never = beat.Time(math.MaxInt64)

// next is the time after t at which the way should be written: when it has moved
// by the limit, or at a turn, where a segment begins or ends.
func (w *way) next(t beat.Time, limit float64) (at beat.Time, turn bool) {
	w.begun(t)
	for i := w.last; i < len(w.list); i++ {
		s := &w.list[i]
		end := s.end
		if i+1 < len(w.list) {
			end = min(end, w.list[i+1].at)
		}
		switch {
		case t < s.at:
			return s.at, true
		case t >= end:
			continue
		}
		distance := math.Abs(s.to - s.from)
		if distance == 0 {
			return end, true
		}
		length := float64(s.end - s.at)
		moved := shape(float64(t-s.at)/length, s.curve) + limit/distance
		if moved >= 1 {
			return end, true
		}
		if at := max(s.at+beat.Time(shape(moved, -s.curve)*length), t+1); at < end {
			return at, false
		}
		return end, true
	}
	return never, true
}

// wheel writes the bends of a lane that sounds one note at a time: the wheel
// stands where each note starts (in the middle, unless it glides), follows the
// glides and the bend envelope until the next onset, and is centred at the end.
func wheel(in *Input, part *Part, v *Voice, runs []run, slides []slide, starts []start) {
	slots, frame, tick := in.Slots, in.Frame, in.Tick()
	w := &writer{
		in: in, part: part, frame: frame, scale: 8192 / float64(part.Range), tick: tick, limit: smooth,
		spacing: max(1, int64((beat.Milliseconds(spacingMS, in.Piece.Tempo)+tick-1)/tick)),
	}
	// A lane that bends begins centred; a first note that starts bent replaces that.
	room := bendRooms.Get().(*[]Bend)
	defer bendRooms.Put(room)
	w.bends = append((*room)[:0], Bend{})
	for i := range part.Notes {
		note := &part.Notes[i]
		until := frame.Length
		if i+1 < len(part.Notes) {
			until = part.Notes[i+1].At
		}
		w.slidesOf(note, v, slots, runs, slides, starts)
		var points []piece.Point
		if v.Bend != nil && !note.trace.many {
			points = v.Bend(note.Step - 1)
		}
		w.envelopeOf(note, points)
		w.note(note, until)
	}
	w.set(frame.Length.Export(frame.PPQ), 0)
	*room = w.bends
	if !w.used {
		return
	}
	part.Bends = slices.Clone(w.bends)
	part.sendRange()
}

// bendRooms is memory for bends while they are written: how many come is not known before.
var bendRooms = sync.Pool{New: func() any { return new([]Bend) }}

// sendRange puts the range of the wheel before all else.
func (part *Part) sendRange() {
	part.Controls = append([]Control{
		{Controller: midi.RPNCoarse}, {Controller: midi.RPNFine}, {Controller: midi.DataEntry, Value: uint8(part.Range)}, {Controller: midi.DataEntryFine},
		{Controller: midi.RPNCoarse, Value: midi.NoParameter}, {Controller: midi.RPNFine, Value: midi.NoParameter},
	}, part.Controls...)
}

// slidesOf are the slides of one note, in straight time: the first repeat starts
// with the fresh one, the last carries the tied ones.
func (w *writer) slidesOf(note *Note, v *Voice, slots []Slot, runs []run, slides []slide, starts []start) {
	t := &note.trace
	w.slides.clear()
	out := w.slides.list
	defer func() { w.slides.list = out }()
	if t.repeat == 1 && starts != nil && v.Mode.Mode == "bend" && starts[t.run].from != 0 {
		s := starts[t.run]
		out = append(out, segment{t.onset, t.onset + s.length, float64(s.from), 0, s.curve, note.Step, false})
	}
	if !t.last {
		return
	}
	end := len(slides)
	if int(t.run)+1 < len(runs) {
		end = int(runs[t.run+1].slides)
	}
	for _, s := range slides[runs[t.run].slides:end] {
		at, step := slots[s.slot].At, slots[s.slot].Step+1
		if len(out) == 0 && at > t.onset { // nothing bends before the first
			out = append(out, segment{t.onset, t.onset, 0, 0, 0, note.Step, false})
		}
		from := float64(s.from)
		if n := len(out); s.goesOn && n > 0 {
			from = out[n-1].value(at) // a slide cut short leaves off where it is
		}
		out = append(out, segment{at, at + s.length, from, float64(s.to), s.curve, step, s.goesOn})
	}
}

// envelopeOf lays bend points over the note as it sounds. Before the first point
// its value holds.
func (w *writer) envelopeOf(note *Note, points []piece.Point) {
	w.envelope.clear()
	length := note.End - note.At
	last := segment{end: note.At}
	for i, point := range points {
		if i == 0 {
			last.to = float64(point.By)
		}
		last = segment{last.end, note.At + length*beat.Time(point.Units())/piece.PointUnits, last.to, float64(point.By), point.Curve, note.Step, false}
		w.envelope.list = append(w.envelope.list, last)
	}
}

// writer puts bends into a part on ticks, leaving out those that change nothing.
type writer struct {
	in               *Input
	part             *Part
	frame            *Frame
	scale            float64 // wheel steps a semitone
	tick             beat.Time
	spacing          int64   // the least number of ticks between two positions
	at               int64   // tick of the last one
	offset           float64 // semitones, of the last one
	bends            []Bend
	used             bool
	step             int32     // whose offset is written, from 1
	late             beat.Time // of the note, by the groove's template
	slides, envelope way
	limit            float64   // the largest jump, in semitones
	moving           *movement // of lanes whose notes have wheels of their own; nil: the lane has one
}

// free is the first tick at which another position may stand.
func (w *writer) free() int64 {
	if w.moving != nil {
		return w.moving.free(w.at)
	}
	return w.at + w.spacing
}

// warp is where a straight time of the note falls.
func (w *writer) warp(t beat.Time) beat.Time { return w.frame.Swing.Warp(t) + w.late }

// stretch is the stretch around a time of the note.
func (w *writer) stretch(t beat.Time) beat.Stretch {
	return w.frame.Swing.StretchAt(t - w.late).Later(w.late)
}

// set puts the wheel to an offset at a tick. Positions nearer together than the
// spacing are one: the newer.
func (w *writer) set(at int64, semitones float64) {
	if away := math.Abs(semitones); away > float64(w.part.Range)+1e-9 {
		w.part.mark(Mark{GlideBeyondRange, int(w.step), int(math.Ceil(away - 1e-9))})
	}
	w.offset = semitones
	scaled := semitones*w.scale + 8192.5 // above zero, so that cutting rounds half up
	value := int16(int(min(max(scaled, 0), 16383)) - 8192)
	bends := w.bends
	n := len(bends)
	if value == bends[n-1].Value {
		return
	}
	w.used = true
	w.in.Made(1)
	if at >= w.at+w.spacing {
		w.bends = append(bends, Bend{At: beat.Time(at) * w.tick, Value: value})
		w.at = at
		return
	}
	if n == 1 { // the first position of all
		bends[0].Value = value
		return
	}
	if bends[n-2].Value == value {
		w.bends = bends[:n-1]
		w.at = int64(bends[n-2].At / w.tick)
		return
	}
	w.at = max(at, w.at)
	bends[n-1] = Bend{At: beat.Time(w.at) * w.tick, Value: value}
}

// note writes the wheel's way from a note's onset up to the next one's. Slides
// run in straight time and the envelope in time as it sounds.
func (w *writer) note(note *Note, until beat.Time) {
	w.step, w.late = note.Step, w.frame.lateness(note)
	ppq := w.frame.PPQ
	end := until.Export(ppq)
	start := note.At.Export(ppq)
	if len(w.slides.list) == 0 && len(w.envelope.list) == 0 {
		w.set(start, 0)
		return
	}
	stretch := w.stretch(note.At)
	w.add(start, note, note.trace.onset, note.At)
	if len(w.envelope.list) == 0 && w.moving == nil {
		w.follow(note, until)
		return
	}
	limit := w.limit
	if len(w.slides.list) > 0 && len(w.envelope.list) > 0 {
		limit /= 2 // they add up
	}
	for t := note.At; ; {
		w.in.Worked(1)
		if t >= stretch.End {
			stretch = w.stretch(t)
		}
		next, turn := w.envelope.next(t, limit)
		if len(w.slides.list) > 0 {
			if straight, slideTurns := w.slides.next(stretch.Straight(t), limit); straight != never {
				// Where the stretch ends, time goes on at another pace.
				if warped := max(min(stretch.Warp(straight), stretch.End), t+1); warped < next {
					next, turn = warped, slideTurns && warped < stretch.End
				}
			}
		}
		if next >= until {
			break
		}
		// A turn is rounded as every time is; between turns the position goes on
		// the tick before, lest the jump be too large.
		tick := max(int64(next/w.tick), int64(t/w.tick)+1)
		if turn {
			tick = next.Export(ppq)
		}
		if tick = max(tick, w.free()); tick >= end {
			break
		}
		at := beat.Time(tick) * w.tick
		if turn {
			at = max(at, next)
		}
		if at >= stretch.End {
			stretch = w.stretch(at)
		}
		w.add(tick, note, stretch.Straight(at), at)
		t = at
	}
}

// add puts the wheel where the slides, in straight time, and the envelope, in time as it
// sounds, add up to. What is beyond the range is the fault of the slide that is, or else of
// the note.
func (w *writer) add(tick int64, note *Note, straight, at beat.Time) {
	w.step = note.Step
	slid := 0.0
	if s := w.slides.begun(straight); s != nil {
		if slid = s.value(straight); math.Abs(slid) > float64(w.part.Range) {
			w.step = s.step
		}
	} else {
		slid = w.slides.along(straight)
	}
	w.set(tick, slid+w.envelope.along(at))
}

// follow writes a way of slides alone, which most are: what note does for any
// way, with each segment's sums done once.
func (w *writer) follow(note *Note, until beat.Time) {
	ppq := w.frame.PPQ
	list := w.slides.list
	for i := range list {
		s := &list[i]
		w.step = s.step
		last := s.end
		if i+1 < len(list) {
			last = min(last, list[i+1].at)
		}
		begin := note.At
		if s.at > note.trace.onset {
			if begin = w.warp(s.at); begin >= until {
				return
			}
			if s.end == s.at { // it is there at once
				w.set(begin.Export(ppq), s.to)
				continue
			}
			w.set(begin.Export(ppq), s.from)
		}
		finish := min(w.warp(last), until)
		w.slope(s, begin, finish)
		if finish >= until {
			return
		}
		if tick := max(finish.Export(ppq), w.at+1); tick < until.Export(ppq) {
			w.set(tick, s.value(last))
		}
	}
}

// slope writes the positions between a segment's ends, stretch by stretch of the
// swing, within which its share is even in time.
func (w *writer) slope(s *segment, begin, finish beat.Time) {
	distance := s.to - s.from
	if distance == 0 {
		return
	}
	share := smooth / math.Abs(distance)
	y := (w.offset - s.from) / distance
	end := finish.Export(w.frame.PPQ) - w.spacing // the last tick that leaves room for the finish
	tick := max(w.at+w.spacing, int64(begin/w.tick)+1)
	for tick <= end {
		stretch := w.stretch(beat.Time(tick) * w.tick)
		pace := float64(w.tick) * stretch.Pace() / float64(s.end-s.at) // share a tick, before the curve
		origin := float64(stretch.Straight(beat.Time(tick)*w.tick)-s.at)/float64(s.end-s.at) - pace*float64(tick)
		edge := end
		if stretch.End < finish {
			edge = min(end, int64((stretch.End-1)/w.tick))
		}
		for tick <= edge {
			next := shape(origin+pace*float64(tick), s.curve)
			if next-y < share {
				// There is room before the next position is due: the tick before it.
				due := edge
				if y+share < 1 {
					due = min(edge, int64((shape(y+share, -s.curve)-origin)/pace))
				}
				if due > tick {
					tick = due
					next = shape(origin+pace*float64(tick), s.curve)
				}
			}
			y = next
			w.set(tick, s.from+distance*y)
			tick = max(w.at+w.spacing, tick+1)
		}
	}
}
