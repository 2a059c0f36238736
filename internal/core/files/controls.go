package files

import (
	"fmt"
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/intake/song"
	"agrimony/internal/core/midi"
	"agrimony/internal/core/piece"
)

// stream is the values of one controller, of the wheel or of the pressure, in order of time.
type stream struct {
	target string // as a control lane has it
	name   string
	points []song.Point
	scale  float64 // of a value to what the lane has
}

// streams are what a part holds that control lanes can follow.
func streams(p *song.Part) (out []stream) {
	if len(p.Wheel) > 0 {
		out = append(out, stream{`"wheel"`, "wheel", p.Wheel, 100.0 / 8192})
	}
	if len(p.Pressure) > 0 {
		out = append(out, stream{`"pressure"`, "pressure", p.Pressure, 1})
	}
	by := map[int][]song.Point{}
	var order []int
	for _, c := range p.Controls {
		if c.Controller >= midi.FirstMode || c.Controller == midi.DataEntry || c.Controller == midi.DataEntryFine ||
			c.Controller >= midi.NRPNFine && c.Controller <= midi.RPNCoarse {
			continue
		}
		n := int(c.Controller)
		if by[n] == nil {
			order = append(order, n)
		}
		by[n] = append(by[n], song.Point{At: c.At, Value: int16(c.Value)})
	}
	slices.Sort(order)
	for _, n := range order {
		out = append(out, stream{fmt.Sprintf(`{"controller":%d}`, n), fmt.Sprintf("controller %d", n), by[n], 1})
	}
	return out
}

// controls are lanes that follow a part's wheel, pressure and controllers, acting on the first lane
// of its notes, each with the greatest error in words.
func (f *File) controls(t *Taken, part *song.Part, to string) (lanes []piece.Lane, remarks []string) {
	if n := bendRange(part); n > 0 && len(part.Wheel) > 0 {
		for i := range t.Lanes {
			if t.Lanes[i].ID == to {
				// A lane of a kind that never bends keeps the usual range, and says no.
				_ = piece.PatchLane("", fmt.Appendf(nil, `{"glide":{"range":%d}}`, n), &t.Lanes[i])
			}
		}
	}
	rate, step := f.controlGrid(t)
	count := t.Bars * f.barTicks() / step
	for _, s := range streams(part) {
		values, off := s.steps(step, count)
		own, err := piece.ControlOf(to, s.target, rate, values)
		if err != nil {
			remarks = append(remarks, fmt.Sprintf("%s of %s is left out: %v", s.name, part.Title(), err))
			continue
		}
		own.Name = part.Title() + " " + s.name
		own.ID = freshID(own.Name, slices.Concat(t.Lanes, lanes))
		own.Share = piece.Share{}
		lanes = append(lanes, own)
		remarks = append(remarks, fmt.Sprintf("%s of %s follows within %s on a grid of %s", s.name, part.Title(), off, rate))
	}
	return lanes, remarks
}

// bendRange is the wheel's range that a part states, in semitones, 1..24; where it states none that
// of General MIDI.
func bendRange(p *song.Part) int {
	top, low, out := -1, -1, midi.UsualBendRange
	for _, c := range p.Controls {
		switch c.Controller {
		case midi.RPNCoarse:
			top = int(c.Value)
		case midi.RPNFine:
			low = int(c.Value)
		case midi.DataEntry:
			if top == 0 && low == midi.BendRange {
				out = min(max(int(c.Value), 1), 24)
			}
		}
	}
	return out
}

// controlGrid is the finest rate of which the clip has so many steps at most.
func (f *File) controlGrid(t *Taken) (string, int) {
	length := t.Bars * f.barTicks()
	best, step := "4bar", 4*f.barTicks()
	for _, rate := range beat.Rates {
		each, err := beat.Rate(rate, f.Song.Meter)
		if err != nil {
			panic(err) // it is one of them
		}
		if n := int(each / piece.NoteTick); length%n == 0 && length/n <= piece.MaxSteps && n < step {
			best, step = rate, n
		}
	}
	return best, step
}

// steps are the values on a grid: of each step the one with which it begins; nil before the first. off is by how much
// they are away at most, in words.
func (s *stream) steps(step, count int) (values []*int, off string) {
	values = make([]*int, count)
	now, next, most := 0.0, 0, 0.0
	for i := range values {
		for next < len(s.points) && s.points[next].At <= i*step {
			now = float64(s.points[next].Value) * s.scale
			next++
		}
		value := rounded(now)
		if next > 0 {
			values[i] = &value
			most = max(most, away(now, value))
		}
		for k := next; k < len(s.points) && s.points[k].At < (i+1)*step; k++ {
			most = max(most, away(float64(s.points[k].Value)*s.scale, value))
		}
	}
	if s.scale != 1 {
		return values, fmt.Sprintf("%.1f %% of its range", most)
	}
	return values, fmt.Sprintf("%.0f of 127", most)
}

func rounded(x float64) int {
	if x < 0 {
		return -int(0.5 - x)
	}
	return int(x + 0.5)
}

func away(x float64, value int) float64 {
	if x -= float64(value); x < 0 {
		return -x
	}
	return x
}
