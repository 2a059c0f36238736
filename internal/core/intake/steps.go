package intake

import (
	"slices"

	"agrimony/internal/core/piece"
)

// Step is how a note stands in the steps of a lane.
type Step struct {
	First int // the step that it begins in, from 0
	Held  int // through how many more it is tied
	Nudge int // % of the step
	Gate  int // % of the step that it ends in
	Joins bool
}

// maxGate is the longest gate, in % of a step.
const maxGate = 400

// StepsOf puts notes of one voice, in order, onto a grid of so many steps: what is off the grid goes
// to nudges, lengths to gates and ties, overlaps to joins. False: two begin in one step, or a note
// would go over more than the next one.
func StepsOf(notes []Note, step, count int) ([]Step, bool) {
	out := make([]Step, len(notes))
	for i := range notes {
		n := &notes[i]
		first := (2*n.At + step) / (2 * step)
		if first >= count { // early for the next round
			first = count - 1
		}
		if i > 0 && first == out[i-1].First {
			return nil, false
		}
		nudge := percent(n.At-first*step, step)
		out[i] = Step{First: first, Nudge: min(max(nudge, -50), 50)}
	}
	for i := range notes {
		next, onset := count, count*step
		if i+1 < len(notes) {
			next, onset = out[i+1].First, notes[i+1].At
		}
		if i+2 < len(notes) && notes[i].End() > notes[i+2].At {
			return nil, false
		}
		out[i].lasts(&notes[i], step, next, onset, i+1 < len(notes) && notes[i+1].Pitch != notes[i].Pitch)
	}
	return out, true
}

// lasts gives a note its gate, or ties. next is the step of the next note, and onset where that
// begins; another: it has another pitch.
func (s *Step) lasts(n *Note, step, next, onset int, another bool) {
	end := n.End()
	if end > onset && another { // it runs into the next one
		s.Joins, s.Held = true, next-s.First-1
		s.Gate = 100
		return
	}
	if end >= onset { // the next one cuts it
		s.Gate = percentUp(onset-n.At, step)
		if s.Gate <= maxGate {
			return
		}
	}
	if s.Gate = percent(n.Length, step); s.Gate >= 1 && s.Gate <= maxGate && s.Gate*step == n.Length*100 {
		return
	}
	best := -1
	for held := 0; s.First+held < next; held++ {
		rest := end - (s.First+held)*step
		if rest <= 0 {
			break
		}
		gate := percent(rest, step)
		if gate < 1 || gate > maxGate {
			continue
		}
		if held == 0 { // its gate counts from where it begins
			continue
		}
		off := abs(gate*step - rest*100)
		if best < 0 || off < best {
			best, s.Held, s.Gate = off, held, gate
		}
		if off == 0 {
			break
		}
	}
	if best < 0 || best > 0 && s.Nudge == 0 && abs(percent(n.Length, step)*step-n.Length*100) <= best && percent(n.Length, step) <= maxGate {
		s.Held, s.Gate = 0, min(max(percent(n.Length, step), 1), maxGate)
	}
}

// percent is so much of a step, rounded half up.
func percent(part, step int) int {
	n, d := 200*part+step, 2*step
	if n < 0 {
		return -((-n + d - 1) / d)
	}
	return n / d
}

func percentUp(part, step int) int { return max((100*part+step-1)/step, 1) }

func abs(n int) int { return max(n, -n) }

// Write writes the step into those of a lane.
func (s Step) Write(velocity int, cell func(step int) *piece.Cell) {
	first := cell(s.First)
	first.On, first.Velocity, first.Nudge = true, velocity, s.Nudge
	ties := s.Held
	if s.Joins {
		ties++
	}
	for k := range ties {
		cell(s.First + k).Tie = true
	}
	cell(s.First + s.Held).Gate = s.Gate
}

// Stack is notes struck together.
type Stack struct {
	Notes []Note // from the lowest up
}

// together is within how much of each other notes of a stack are struck: a 64th.
const together = PPQ / 16

// Stacks divides notes, in order, into those struck together.
func Stacks(notes []Note) []Stack {
	var out []Stack
	for _, n := range notes {
		if k := len(out) - 1; k >= 0 && n.At-out[k].Notes[0].At <= together && !slices.ContainsFunc(out[k].Notes, func(o Note) bool { return o.Pitch == n.Pitch }) {
			out[k].Notes = append(out[k].Notes, n)
			continue
		}
		out = append(out, Stack{[]Note{n}})
	}
	for i := range out {
		slices.SortStableFunc(out[i].Notes, func(a, b Note) int { return a.Pitch - b.Pitch })
	}
	return out
}

// Chordal is the share of the time in which something sounds that three tones or more do that were
// struck together, 0..1.
func Chordal(stacks []Stack) float64 {
	union := func(least int) (total int) {
		end := 0
		for _, s := range stacks {
			if len(s.Notes) < least {
				continue
			}
			from, to := s.Notes[0].At, 0
			for i := range s.Notes {
				from, to = min(from, s.Notes[i].At), max(to, s.Notes[i].End())
			}
			if from = max(from, end); to > from {
				total += to - from
				end = to
			}
		}
		return total
	}
	all := union(1)
	if all == 0 {
		return 0
	}
	return float64(union(3)) / float64(all)
}
