package render

import (
	"cmp"
	"math"
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/midi"
	"agrimony/internal/core/piece"
)

// Knot is a value that a control lane sets, and how it goes from there to the next.
type Knot struct {
	At     beat.Time // straight
	Value  int
	Course piece.Course
}

// controlMS is how near together the values on the way from one knot to the next are, in
// milliseconds.
const controlMS = 5

// Knots are the values that the slots of a control lane set, in order of time. Of two at
// once the later step's counts.
func Knots(in *Input, of func(s *Slot) (value int, course piece.Course)) []Knot {
	out := make([]Knot, 0, len(in.Slots))
	for i := range in.Slots {
		s := &in.Slots[i]
		at := s.At + in.Pattern.Step.Percent(int(s.Nudge))
		if !s.Sounds || at >= s.Cut || at >= in.Length {
			continue
		}
		value, course := of(s)
		out = append(out, Knot{max(at, 0), value, course})
	}
	early := func(a, b Knot) int { return cmp.Compare(a.At, b.At) }
	if !slices.IsSortedFunc(out, early) {
		slices.SortStableFunc(out, early)
	}
	last := out[:0]
	for i, k := range out {
		if i+1 == len(out) || out[i+1].At != k.At {
			last = append(last, k)
		}
	}
	return last
}

// ControlBySteps moves a target along knots: each value at its onset always, and between
// them what a line or curve comes to, at most once every 5 ms, where it changes.
func ControlBySteps(in *Input, target piece.Target, knots []Knot) Part {
	w := newSetter(in, target)
	if len(knots) > 0 {
		w.reserve(knots)
		w.set(0, w.whole(float64(knots[0].Value)))
	}
	warper := beat.Warper{Swing: in.Swing}
	for i := range knots {
		k := &knots[i]
		at := warper.Warp(k.At)
		w.set(at.Export(in.PPQ), w.whole(float64(k.Value)))
		if k.Course.Name == "hold" || i+1 == len(knots) || knots[i+1].Value == k.Value {
			continue
		}
		w.ramp(k, &knots[i+1], at.Export(in.PPQ)+1, warper.Warp(knots[i+1].At).Export(in.PPQ))
	}
	return w.finished()
}

// ControlByNotes moves a target by the notes of a lane, each at its onset; of notes at once by the highest.
func ControlByNotes(in *Input, target piece.Target, lane string, value func(pitch uint8) int) Part {
	w := newSetter(in, target)
	notes := in.Played(lane).Notes
	end := in.Length.Export(in.PPQ)
	for i := 0; i < len(notes); {
		at, highest := min(notes[i].At.Export(in.PPQ), end-1), notes[i].Pitch
		for i++; i < len(notes) && min(notes[i].At.Export(in.PPQ), end-1) == at; i++ {
			highest = max(highest, notes[i].Pitch)
		}
		v := value(highest)
		if w.part.Reach == nil {
			w.set(0, w.whole(float64(v)))
			w.part.Reach = &Reach{v, v, int(highest), int(highest)}
		}
		w.part.Reach.take(v, int(highest))
		w.set(at, w.whole(float64(v)))
	}
	return w.finished()
}

// Reach is which values a control lane that follows another reaches, and by which pitches.
type Reach struct{ Least, Most, Lowest, Highest int }

func (r *Reach) take(value, pitch int) {
	r.Least, r.Most = min(r.Least, value), max(r.Most, value)
	r.Lowest, r.Highest = min(r.Lowest, pitch), max(r.Highest, pitch)
}

// setter writes a target's values into a part, on ticks, those that change.
type setter struct {
	part    Part
	in      *Input
	target  piece.Target
	tick    beat.Time
	spacing int64 // ticks
	at      int64 // of the last value written
	value   int
	begun   bool
	scale   float64 // whole values for one of the target's units
	low     float64
	high    float64
}

func newSetter(in *Input, target piece.Target) *setter {
	tick := in.Tick()
	w := &setter{part: in.Part, in: in, target: target, tick: tick, scale: 1, low: 0, high: 127}
	w.spacing = max(1, int64((beat.Milliseconds(controlMS, in.Piece.Tempo)+tick-1)/tick))
	if target.Name == "wheel" {
		w.scale, w.low, w.high = 8192.0/100, -8192, 8191
	}
	return w
}

// whole is a value as it is sent, a whole number.
func (w *setter) whole(value float64) int {
	return int(min(max(float64(halfUp(value*w.scale)), w.low), w.high))
}

// reserve makes room for what the ways between knots may come to.
func (w *setter) reserve(knots []Knot) {
	n := len(knots) + 1
	for i := 1; i < len(knots); i++ {
		if knots[i-1].Course.Name != "hold" {
			ticks := int64((knots[i].At - knots[i-1].At) / w.tick)
			n += int(min(ticks/w.spacing, int64(math.Abs(float64(knots[i].Value-knots[i-1].Value))*w.scale))) + 1
		}
	}
	n = min(n, mostReserved)
	switch w.target.Name {
	case "wheel":
		w.part.Bends = make([]Bend, 0, n)
	case "pressure":
		w.part.Pressures = make([]Pressure, 0, n)
	default:
		w.part.Controls = make([]Control, 0, n)
	}
}

func (w *setter) set(tick int64, value int) {
	if w.begun && value == w.value {
		return
	}
	w.begun, w.at, w.value = true, tick, value
	w.in.Made(1)
	at := beat.Time(tick) * w.tick
	switch w.target.Name {
	case "wheel":
		w.part.Bends = append(w.part.Bends, Bend{At: at, Value: int16(value)})
	case "pressure":
		w.part.Pressures = append(w.part.Pressures, Pressure{at, uint8(value)})
	default:
		w.part.Controls = append(w.part.Controls, Control{At: at, Controller: uint8(w.target.Controller), Value: uint8(value)})
	}
}

// finished is the part once nothing of it is left hanging at the clip's end: the wheel
// centred, sustain and portamento off, pressure gone. A wheel's range is sent first.
func (w *setter) finished() Part {
	rests := w.target.Name != "" || w.target.Controller == midi.Sustain || w.target.Controller == midi.Portamento
	if end := w.in.Length.Export(w.in.PPQ); rests && w.begun && w.value != 0 {
		if w.at == end { // what is set there is over at once
			w.takeBack()
		}
		if w.begun {
			w.set(end, 0)
		}
	}
	if w.target.Name == "wheel" && w.begun {
		w.part.Range = piece.WheelRange(w.in.Clip, &w.in.Clip.Lanes[actsOn(w.in.Clip, w.in.Part.Lane)])
		w.part.sendRange()
	}
	return w.part
}

// takeBack takes the last value away.
func (w *setter) takeBack() {
	last := len(w.part.Bends) + len(w.part.Pressures) + len(w.part.Controls) - 2 // of the one list
	if w.begun = last >= 0; !w.begun {
		last = -1
	}
	switch w.target.Name {
	case "wheel":
		w.part.Bends = w.part.Bends[:last+1]
		if w.begun {
			w.value = int(w.part.Bends[last].Value)
		}
	case "pressure":
		w.part.Pressures = w.part.Pressures[:last+1]
		if w.begun {
			w.value = int(w.part.Pressures[last].Value)
		}
	default:
		w.part.Controls = w.part.Controls[:last+1]
		if w.begun {
			w.value = int(w.part.Controls[last].Value)
		}
	}
}

// ramp writes the values between two knots, from one tick up to the spacing before another.
// Swing bends its time.
func (w *setter) ramp(from, to *Knot, first, until int64) {
	start, end := w.whole(float64(from.Value)), w.whole(float64(to.Value))
	distance := float64(to.Value-from.Value) * w.scale
	origin := float64(from.Value) * w.scale
	length := float64(to.At - from.At)
	up := 1.0
	if end < start {
		up = -1
	}
	stretch := w.in.Swing.StretchAt(w.in.Swing.Warp(from.At))
	for {
		// When the value next changes, in straight time and then as it sounds.
		edge := float64(w.value) + up*0.5
		share := min(max((edge-origin)/distance, 0), 1)
		straight := from.At + beat.Time(math.Ceil(shape(share, -from.Course.Curve)*length))
		for stretch.End <= w.in.Length && stretch.Warp(straight) > stretch.End {
			stretch = w.in.Swing.StretchAt(stretch.End)
		}
		tick := max(int64((stretch.Warp(straight)+w.tick-1)/w.tick), w.at+w.spacing, first)
		value := w.value
		for ; value == w.value; tick++ { // half up, the change may come a tick later
			if tick > until-w.spacing {
				return
			}
			w.in.Worked(1)
			at := beat.Time(tick) * w.tick
			for at >= stretch.End {
				stretch = w.in.Swing.StretchAt(at)
			}
			passed := float64(stretch.Straight(at)-from.At) / length
			value = int(min(max(float64(halfUp(origin+distance*shape(min(max(passed, 0), 1), from.Course.Curve))), w.low), w.high))
		}
		w.set(tick-1, value)
		if value == end {
			return
		}
	}
}
