package edit

import (
	"agrimony/internal/core/beat"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// dragEnd lets a note end where it was dragged to, as it sounds: with swing, template, nudge
// and ratchet. Within its step that is the gate; past the step line it ties through rests, and
// into the next step that is on where it was dragged over that.
func dragEnd(t target, o op.DragEnd) error {
	if err := t.TakeSteps([]int{o.Step}); err != nil {
		return err
	}
	if o.Ticks < -maxDrag || o.Ticks > maxDrag {
		return t.Wrong("ticks", "%d is out of range; allowed: %d..%d", o.Ticks, -maxDrag, maxDrag)
	}
	if o.From < 0 || o.From > maxDrag {
		return t.Wrong("from", "%d is out of range; allowed: 0..%d", o.From, maxDrag)
	}
	d, err := t.takeHold(o)
	if err != nil {
		return err
	}
	if next, there := d.nextOnset(); there && d.goal > next && d.at+d.rests+1 < len(d.unrolled) {
		d.write(d.rests, 0) // over the next onset: it is tied into that
		d.cell(d.rests).Tie = true
		return d.failed
	}
	whole := 0
	for whole < d.rests && d.unrolled[d.at+whole+1].At <= d.goal {
		whole++
	}
	for ties := max(whole-1, 0); ties <= min(whole+1, d.rests); ties++ {
		d.choose(ties, d.longest(ties))
	}
	if 100*d.away > 2*d.lengths[d.at] { // the groove moves the step line: a longer gate may reach further
		for ties := max(whole-1, 0); ties <= min(whole+1, d.rests); ties++ {
			d.choose(ties, maxGate)
		}
	}
	if d.failed == nil {
		d.write(d.ties, d.gate)
	}
	return d.failed
}

// The furthest that an end may be dragged, in ticks after its step's start, and the longest
// gate, in %.
const (
	maxDrag = 1 << 24
	maxGate = 400
)

// drag is a note whose end is held.
type drag struct {
	target
	ask      op.DragEnd
	unrolled []render.Slot // of the lane, from its start to a round after the step's
	lengths  []beat.Time   // of their steps
	at       int           // the step's place among them
	rests    int           // through how many steps after it it can be tied, up to a round's length
	goal     beat.Time     // where the end is to be
	options  render.Options

	ties, gate int       // the best so far; ties below 0: none
	away       beat.Time // how far that is off
	failed     error
}

// takeHold finds the step where it was taken hold of.
func (t target) takeHold(o op.DragEnd) (*drag, error) {
	d := &drag{target: t, ask: o, ties: -1}
	pattern := render.PatternOf(t.Piece, t.Clip, t.Lane)
	until := func(slots []render.Slot) (enough bool) {
		if d.at == 0 && (len(slots) == 0 || !d.is(&slots[0])) {
			if n := len(slots) - 1; n >= 0 && d.is(&slots[n]) {
				d.at = n
			}
		}
		return len(slots) > 0 && d.is(&slots[d.at]) && len(slots) > d.at+pattern.RoundSlots()
	}
	if leaning, ok := t.Lane.Content.(piece.Leaning); ok && len(leaning.Needs()) > 0 {
		performance, err := d.play(render.Options{Bars: barsToDrag})
		if err != nil {
			return nil, err
		}
		if clock := performance.Lanes[0].Clock; clock != nil {
			for i := range clock.Slots {
				d.unrolled, d.lengths = append(d.unrolled, clock.Slots[i]), append(d.lengths, clock.Lengths[i])
				if until(d.unrolled) {
					break
				}
			}
		}
	}
	if d.unrolled == nil {
		pattern.Each(beat.MaxBars*t.Piece.Bar(), func(s render.Slot) bool {
			d.unrolled, d.lengths = append(d.unrolled, s), append(d.lengths, pattern.Step)
			return !until(d.unrolled)
		})
	}
	if len(d.unrolled) == 0 || !d.is(&d.unrolled[d.at]) {
		return nil, t.Wrong("step", "step %d does not stand there; allowed: a step of the round, from where it begins", o.Step)
	}
	d.goal = d.unrolled[d.at].At + beat.Time(o.Ticks)*beat.Of(1, render.DefaultPPQ)
	last := d.unrolled[len(d.unrolled)-1].At
	d.options = render.Options{Bars: int(min(max(last, d.goal)/t.Piece.Bar()+2, beat.MaxBars))}
	performance, err := d.play(render.Options{}) // as long as the clip is, which its end may cut
	if err != nil || performance.Length <= d.unrolled[d.at].At {
		performance, err = d.play(d.options)
	} else {
		d.options = render.Options{}
	}
	if err != nil {
		return nil, err
	}
	for n := len(d.unrolled) - 1; d.unrolled[n].At >= performance.Length; n-- {
		d.unrolled = d.unrolled[:n]
	}
	part := &performance.Lanes[0]
	struck := map[beat.Time]bool{}
	for i := range part.Notes {
		struck[performance.Grid(part, &part.Notes[i])] = true
	}
	// It runs on through rests, and through steps that it is held into now.
	held, met := true, map[int32]bool{}
	for k := d.at + 1; k < len(d.unrolled) && k < d.at+pattern.RoundSlots(); k++ {
		held = held && d.slotCell(k-1).Tie
		met[d.unrolled[k-1].Step] = true
		if met[d.unrolled[k].Step] || d.slotCell(k).On && (!held || struck[d.unrolled[k].At]) {
			break
		}
		d.rests++
	}
	d.clear()
	return d, nil
}

// barsToDrag is how many bars a lane that another one clocks is looked at.
const barsToDrag = 128

// is tells whether a slot is that of the step where it was taken hold of, or anywhere.
func (d *drag) is(s *render.Slot) bool {
	return int(s.Step) == d.Steps[0] && (d.ask.From == 0 || s.At.Export(render.DefaultPPQ) == int64(d.ask.From))
}

func (d *drag) slotCell(k int) *piece.Cell { return d.target.StepList().Cell(int(d.unrolled[k].Step)) }

// cell is the step itself, or one so many after it.
func (d *drag) cell(after int) *piece.Cell { return d.slotCell(d.at + after) }

// longest is the longest gate, in %, of a step so many after it: one that reaches the next
// step, past which it is tied.
func (d *drag) longest(after int) int {
	k := d.at + after
	if after == d.rests || k+1 == len(d.unrolled) || d.goal <= d.unrolled[k+1].At {
		return maxGate
	}
	reach := (d.unrolled[k+1].At - d.unrolled[k].At) * 100 / d.lengths[k]
	return int(min(max(reach, 100), maxGate))
}

// clear takes the ties away by which the note runs on now.
func (d *drag) clear() {
	for k := 0; k <= d.rests && d.cell(k).Tie; k++ {
		d.cell(k).Tie = false
	}
}

// write ties the note through so many rests and ends it with a gate; 0 leaves that as it is.
func (d *drag) write(ties, gate int) {
	for k := 0; k <= d.rests; k++ {
		if k < ties {
			d.cell(k).Tie = true
		} else if k == 0 || k <= ties || d.cell(k-1).Tie {
			d.cell(k).Tie = false
		}
	}
	if gate > 0 {
		d.cell(ties).Gate = gate
	}
}

// play renders the lane alone.
func (d *drag) play(options render.Options) (*render.Performance, error) {
	options.Lanes, options.Rough = []string{d.Lane.ID}, true
	performance, err := d.render(d.Piece, options)
	if err != nil {
		return nil, d.Wrong("lane", "%v", err)
	}
	return performance, nil
}

// held is the note that is dragged: of several repeats the last that begins before the goal.
func (d *drag) held(performance *render.Performance) *render.Note {
	var out *render.Note
	part, slot := &performance.Lanes[0], &d.unrolled[d.at]
	for i := range part.Notes {
		n := &part.Notes[i]
		if n.Step == slot.Step+1 && performance.Grid(part, n) == slot.At && (out == nil || n.At < d.goal) {
			out = n
		}
	}
	return out
}

// nextOnset is when another step sounds after the note, held as long as it can be.
func (d *drag) nextOnset() (at beat.Time, there bool) {
	d.write(d.rests, 0)
	performance, err := d.play(d.options)
	if err != nil {
		d.failed = err
		return 0, false
	}
	notes := performance.Lanes[0].Notes
	own := d.held(performance)
	if own == nil {
		return 0, false
	}
	for i := range notes {
		if n := &notes[i]; n.At > own.At && performance.Grid(&performance.Lanes[0], n) != d.unrolled[d.at].At {
			return n.At, true
		}
	}
	return 0, false
}

// choose finds the gate with which the note, tied through so many rests, ends nearest to the
// goal, and keeps it where that is nearer than what was chosen before.
func (d *drag) choose(ties, longest int) {
	before := d.cell(ties).Gate
	ends := func(gate int) (beat.Time, bool) {
		d.write(ties, gate)
		performance, err := d.play(d.options)
		if err != nil {
			d.failed = err
			return 0, false
		}
		n := d.held(performance)
		if n == nil {
			return 0, false
		}
		return n.End, true
	}
	tries := func(gate int) {
		end, ok := ends(gate)
		if away := max(end-d.goal, d.goal-end); ok && (d.ties < 0 || away < d.away) {
			d.ties, d.gate, d.away = ties, gate, away
		}
	}
	low, high := 1, longest // the least gate that reaches the goal
	for low < high {
		middle := (low + high) / 2
		end, ok := ends(middle)
		if !ok { // it does not sound in that round: by the grid alone
			d.guess()
			return
		}
		if end >= d.goal {
			high = middle
		} else {
			low = middle + 1
		}
	}
	tries(low)
	if low > 1 {
		tries(low - 1)
	}
	d.cell(ties).Gate = before
}

// guess ends a note that does not sound by the grid.
func (d *drag) guess() {
	d.ties, d.away = 0, 0
	for d.ties < d.rests && d.unrolled[d.at+d.ties+1].At < d.goal {
		d.ties++
	}
	k := d.at + d.ties
	d.gate = int(min(max((d.goal-d.unrolled[k].At)*100/d.lengths[k], 1), 100))
}
