package render

import (
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/piece"
)

// Feel is a groove template as a lane takes part in it. The zero value leaves notes as
// they are.
type Feel struct {
	On       bool
	Late     [piece.Sixteenths]beat.Time
	Velocity [piece.Sixteenths]int32 // in 10000ths of one
}

// sixteenth is the length of one, whatever the meter.
const sixteenth = beat.Quarter / 4

// feelOf works a groove's template out for a share of it.
func feelOf(g *piece.Groove, share piece.Share) (out Feel) {
	if g.Template == nil {
		return out
	}
	out.On = true
	for i, step := range g.Template.Steps {
		out.Late[i] = beat.Time(step.At*g.Timing*share.Timing) * sixteenth / (100 * 100 * 100)
		out.Velocity[i] = int32(step.Velocity * g.Velocity * share.Velocity)
	}
	return out
}

// Grooved is a frame as a lane with a share of the groove has it. One that divides the beat evenly is not swung.
func (f *Frame) Grooved(p *piece.Piece, clip *piece.Clip, lane *piece.Lane) *Frame {
	share := piece.ShareOf(clip, lane)
	even := !f.Swing.None() && piece.DividesEvenly(clip, lane)
	if share == (piece.Share{Timing: 100, Velocity: 100}) && !even || f.Swing.None() && !f.Feel.On {
		return f
	}
	out := *f
	out.Swing = f.Swing.Scaled(share.Timing)
	if even {
		out.Swing = f.Swing.Scaled(0)
	}
	out.Feel = feelOf(&p.Groove, share)
	return &out
}

// place is the sixteenth of the bar in which a time lies.
func (f *Frame) place(at beat.Time) int {
	within := at % f.Bar
	if within < 0 {
		within += f.Bar
	}
	return int(within/sixteenth) % piece.Sixteenths
}

// leastLeft is how much of a note a late template leaves before the clip's end, or the whole of a shorter one: a
// 1/64 note.
const leastLeft = beat.Quarter / 16

// templateEnd is the end that the template minds: the clip's.
func (f *Frame) templateEnd() beat.Time {
	if f.grooveLength > 0 {
		return f.grooveLength
	}
	return f.Length
}

// late is by how much the template moves a note that begins and ends so, once it is swung: not before the clip's
// start, and not so far towards its end that too little of it is left.
func (f *Frame) late(grid, begin, end beat.Time) beat.Time {
	by := f.Feel.Late[f.place(grid)]
	if by < 0 {
		return max(by, -begin)
	}
	return min(by, max(f.templateEnd()-begin-min(end-begin, leastLeft), 0))
}

// struck is a velocity as the template changes it, rounded half up.
func (f *Frame) struck(grid beat.Time, velocity uint8) uint8 {
	x := int32(velocity)*10000 + f.Feel.Velocity[f.place(grid)] + 5000
	return uint8(min(max(x/10000, 1), 127))
}

// groove warps the notes' onsets and ends by the swing, moves onsets before the clip's
// start to it, and lets the template move whole notes and their velocities. What they were
// stays in their traces. step is the length of the lane's step. What stands on the grid at the clip's end or after
// it is left out, however early the template would bring it.
func groove(notes []Note, frame *Frame, step beat.Time) []Note {
	if frame.Swing.None() {
		for i := range notes {
			notes[i].At = max(notes[i].At, 0)
		}
	} else {
		begins, ends := beat.Warper{Swing: frame.Swing}, beat.Warper{Swing: frame.Swing}
		for i := range notes {
			note := &notes[i]
			note.At = max(begins.Warp(note.At), 0)
			note.End = ends.Warp(note.End)
		}
	}
	if !frame.Feel.On {
		return notes
	}
	notes = slices.DeleteFunc(notes, func(n Note) bool {
		_, grid := n.trace.grid(step)
		return grid >= frame.templateEnd()
	})
	for i := range notes {
		note := &notes[i]
		_, grid := note.trace.grid(step)
		late := frame.late(grid, note.At, note.End)
		note.At, note.End, note.trace.endLate = note.At+late, note.End+late, late
		note.trace.struck = note.Velocity
		note.Velocity = frame.struck(grid, note.Velocity)
	}
	met := meetings{notes: notes}
	for i := range notes {
		note := &notes[i]
		if next := met.after(i); next != nil {
			late := frame.lateness(next)
			note.End += late - note.trace.endLate
			note.trace.endLate = late
		}
	}
	return notes
}

// meets is the straight onset at which a note gives way to another that it is joined to;
// false: it is joined to none.
func (t *trace) meets() (onset beat.Time, ok bool) {
	switch {
	case t.legato:
		return t.end - beat.Overlap, true
	case t.dropped:
		return t.end, true
	}
	return 0, false
}

// meetings finds the notes that others are joined to. Usually that is the next one.
type meetings struct {
	notes   []Note
	byOnset map[beat.Time]int32
}

// after is the note that one, by its place, gives way to; nil: none.
func (m *meetings) after(i int) *Note {
	onset, ok := m.notes[i].trace.meets()
	if !ok {
		return nil
	}
	if i+1 < len(m.notes) && m.notes[i+1].trace.onset == onset {
		return &m.notes[i+1]
	}
	if m.byOnset == nil {
		m.byOnset = make(map[beat.Time]int32, len(m.notes))
		for k := len(m.notes) - 1; k >= 0; k-- {
			m.byOnset[m.notes[k].trace.onset] = int32(k)
		}
	}
	if k, there := m.byOnset[onset]; there && int(k) != i {
		return &m.notes[k]
	}
	return nil
}

// lateness is by how much the template moved a note.
func (f *Frame) lateness(note *Note) beat.Time {
	if !f.Feel.On {
		return 0
	}
	return note.At - max(f.Swing.Warp(note.trace.onset), 0)
}

// Straight is where a note would stand without the groove's template.
func (p *Performance) Straight(part *Part, note *Note) beat.Time {
	frame := p.Frame.Grooved(p.Piece, p.Clip, &p.Clip.Lanes[part.Lane])
	return note.At - frame.lateness(note)
}

// Moves is where the groove, at its full share, puts a time of the first bar, and how much it
// adds to a velocity there.
func (f *Frame) Moves(at beat.Time) (beat.Time, int) {
	place := f.place(at)
	swing := f.Swing
	swing.Length = max(swing.Length, f.Bar) // a clip shorter than a bar has the bar's feel
	return swing.Warp(at) + f.Feel.Late[place], int((f.Feel.Velocity[place]+1_005_000)/10_000) - 100
}
