package render

import (
	"math"
	"math/big"
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/piece"
)

// Slot is one place in a lane's unrolled time, with what its step is there: what
// chance and rounds decided, and what its values come to. No later stage reads
// the step's own.
type Slot struct {
	At       beat.Time // on the grid
	Cut      beat.Time // from here on nothing of it begins; Uncut when nothing cuts it
	Step     int32     // index
	Round    int32     // from 0
	Gate     int16     // % of the step
	Velocity uint8
	Ratchet  uint8
	Nudge    int8 // % of the step
	Sounds   bool // on, and let through by chance and rounds
	Tie      bool
	After    bool // nothing was left out between it and the slot before
	// Degree and Octave are what its step's come to, in a pattern that shifts them.
	Degree int16
	Octave int8
	odd    int8  // which alternative it drew, from 1; 0: not drawn yet
	place  int32 // its place on the grid of the lane's steps, from 1; 0: not known
}

// Uncut is the Cut of a slot that no restart cuts.
const Uncut = beat.Time(math.MaxInt64)

// Pattern is how a lane walks its steps, worked out once.
type Pattern struct {
	Active  []int32   // indexes of the steps of a round
	Step    beat.Time // length of one
	Restart beat.Time // 0: never
	lane    *piece.Lane
	cells   []*piece.Cell
	draws   draws
	craft   *craft // nil: nothing moves its values
	free    *free  // nil: its steps follow each other
}

// HasPattern tells whether a lane has steps or notes of its own that it walks.
func HasPattern(lane *piece.Lane) bool {
	return lane.Content.StepList() != nil || piece.FreeOf(lane) != nil
}

// PatternOf works the pattern of a lane out that has one.
func PatternOf(p *piece.Piece, clip *piece.Clip, lane *piece.Lane) *Pattern {
	return patternOf(p, clip, lane, clip.Draw())
}

// patternOf is the same with the id by which the lane's luck is drawn.
func patternOf(p *piece.Piece, clip *piece.Clip, lane *piece.Lane, draw string) *Pattern {
	out := &Pattern{Step: p.StepLength(lane), Restart: beat.Time(lane.Restart) * p.Bar(), lane: lane, draws: newDraws(p.Seed, draw, lane.ID).take(lane.Take)}
	if own := piece.FreeOf(lane); own != nil {
		out.cells, out.Step = own.Cells(), piece.NoteTick
		out.free = freeOf(p, clip, own, len(out.cells))
		out.Active = out.free.active
	} else {
		steps := lane.Content.StepList()
		out.Active, out.cells = Active(lane), make([]*piece.Cell, steps.Len())
		for i := range out.cells {
			out.cells[i] = steps.Cell(i)
		}
	}
	for i, cell := range out.cells {
		out.cells[i] = lane.Played(cell)
	}
	out.craft = craftOf(p, lane, out.draws, out.Step)
	if round := out.RoundLength(); round != 0 && out.Restart%round == 0 {
		out.Restart = 0 // it cuts no round
	}
	return out
}

// Active lists the indexes of the steps that the rounds of a lane with steps go through: those
// in its window, less the skipped ones.
func Active(lane *piece.Lane) []int32 {
	steps := lane.Content.StepList()
	first, count := 0, steps.Len()
	if lane.Window != nil {
		first, count = lane.Window.Start-1, lane.Window.Count
	}
	active := make([]int32, 0, count)
	for i := first; i < first+count; i++ {
		if !steps.Cell(i).Skip {
			active = append(active, int32(i))
		}
	}
	return active
}

// order is a direction: how one round's active steps are put in playing order,
// and how many slots that makes. draws is used by those that differ by round.
type order struct {
	arrange func(active []int32, draws draws, round int32) []int32
	slots   func(n int) int
	drawn   bool // rounds differ
}

func all(n int) int { return n }

// orders are the directions. To add one, add it here and to piece.Directions.
var orders = map[string]order{
	"forward": {func(active []int32, _ draws, _ int32) []int32 { return active }, all, false},
	"reverse": {func(active []int32, _ draws, _ int32) []int32 { return reversed(active) }, all, false},
	"pendulum": {func(active []int32, _ draws, _ int32) []int32 {
		if len(active) < 2 {
			return active
		}
		return append(slices.Clone(active), reversed(active[1:len(active)-1])...)
	}, func(n int) int { return max(2*n-2, min(n, 1)) }, false},
	"shuffle": {func(active []int32, draws draws, round int32) []int32 {
		order := slices.Clone(active)
		// Each step draws its own place, so that changing one moves no other's draw.
		slices.SortFunc(order, func(a, b int32) int {
			x, y := draws.draw(a, round, forOrder), draws.draw(b, round, forOrder)
			if x != y {
				if x < y {
					return -1
				}
				return 1
			}
			return int(a - b)
		})
		return order
	}, all, true},
}

func reversed(steps []int32) []int32 {
	out := slices.Clone(steps)
	slices.Reverse(out)
	return out
}

// Order is the steps of the first round in playing order.
func (p *Pattern) Order() []int32 { return orders[p.lane.Direction].arrange(p.Active, p.draws, 0) }

// Shuffles tells whether the order of the steps is drawn anew for each round.
func (p *Pattern) Shuffles() bool { return orders[p.lane.Direction].drawn }

// Reached are the steps of a round that are come to at all: a restart may cut every round
// before its end.
func (p *Pattern) Reached() []int32 {
	if p.Restart == 0 || p.Restart >= p.RoundLength() || p.Shuffles() {
		return p.Active
	}
	order := p.Order()
	if p.free != nil {
		return order[:p.free.before(p.Restart)]
	}
	return order[:min(len(order), int((p.Restart+p.Step-1)/p.Step))]
}

// RoundSlots is how many slots one round has.
func (p *Pattern) RoundSlots() int { return orders[p.lane.Direction].slots(len(p.Active)) }

// RoundLength is the length of one round that nothing cuts.
func (p *Pattern) RoundLength() beat.Time {
	if p.free != nil && len(p.Active) > 0 {
		return p.free.length
	}
	return beat.Time(p.RoundSlots()) * p.Step
}

// Period is the shortest time after which the place in the pattern, the round numbers, by
// the rounds of the sounding steps, and what modulates it recur; zero when no step is
// active. Chance, shuffle and what is drawn never repeat and do not count.
func (p *Pattern) Period() *big.Int {
	return p.Modulated(p.OwnPeriod())
}

// Modulated is a period together with that of what modulates the fields named, or any.
func (p *Pattern) Modulated(period *big.Int, of ...Field) *big.Int {
	if moved := p.modulation(of...); moved != nil && period.Sign() != 0 {
		return beat.Common(period, moved)
	}
	return period
}

// OwnPeriod is the same without what modulates it.
func (p *Pattern) OwnPeriod() *big.Int {
	rounds := p.Rounds()
	round := p.RoundLength()
	if round == 0 {
		return new(big.Int)
	}
	if p.Restart == 0 {
		return rounds.Mul(rounds, big.NewInt(int64(round)))
	}
	// Every restart goes through so many rounds, the last of them cut short.
	each := big.NewInt(int64((p.Restart + round - 1) / round))
	restarts := new(big.Int).Div(rounds, new(big.Int).GCD(nil, nil, rounds, each))
	return restarts.Mul(restarts, big.NewInt(int64(p.Restart)))
}

// Rounds is after how many rounds it recurs which of the steps that are on play.
func (p *Pattern) Rounds() *big.Int {
	rounds := big.NewInt(1)
	for _, i := range p.Active {
		if cell := p.cells[i]; cell.On && cell.Rounds != nil {
			rounds = beat.Common(rounds, big.NewInt(int64(cell.Rounds.Of)))
		}
	}
	return rounds
}

// Each gives the slots up to a length in order, until yield says no.
func (p *Pattern) Each(length beat.Time, yield func(Slot) bool) {
	if p.craft == nil {
		p.written(length, yield)
		return
	}
	p.written(length, func(s Slot) bool {
		one := [1]Slot{s}
		p.move(one[:])
		return yield(one[0])
	})
}

// written gives the slots up to a length in order, until yield says no, before anything
// moves their values. A round that a restart cuts counts as one.
func (p *Pattern) written(length beat.Time, yield func(Slot) bool) {
	if len(p.Active) == 0 {
		return
	}
	if p.free != nil {
		p.freely(length, yield)
		return
	}
	direction := orders[p.lane.Direction]
	order := direction.arrange(p.Active, p.draws, 0)
	round := int32(0)
	place, stride := int32(1), int32(1)
	if p.craft == nil || p.Restart%p.Step != 0 || int64(length/p.Step) > math.MaxInt32-1 {
		place, stride = 0, 0 // nothing asks for it, or it is not on one grid
	}
	for start := beat.Time(0); start < length; {
		end, cut := length, Uncut
		if p.Restart != 0 && start+p.Restart < length {
			end, cut = start+p.Restart, start+p.Restart
		}
		for at := start; at < end; round++ {
			if direction.drawn && round > 0 {
				order = direction.arrange(p.Active, p.draws, round)
			}
			for _, index := range order {
				if at >= end {
					break
				}
				slot := p.slot(at, index, round)
				slot.place = place
				place += stride
				if at+p.Step > cut {
					slot.Cut = cut
				}
				if !yield(slot) {
					return
				}
				at += p.Step
			}
		}
		start = end
	}
}

// slot is what a step is in a round, before anything moves its values.
func (p *Pattern) slot(at beat.Time, index, round int32) Slot {
	cell := p.cells[index]
	return Slot{
		At: at, Cut: Uncut, Step: index, Round: round, Gate: int16(cell.Gate), Velocity: uint8(cell.Velocity),
		Ratchet: uint8(cell.Ratchet), Nudge: int8(cell.Nudge), Tie: cell.Tie,
		Sounds: cell.On && plays(cell, cell.Chance, p.draws, p.drawnAs(index), round),
	}
}

// drawnAs is what draws know a step by.
func (p *Pattern) drawnAs(step int32) int32 {
	if p.free != nil {
		return p.free.names[step]
	}
	return step
}

// Slots are all slots up to a length.
func (p *Pattern) Slots(length beat.Time) []Slot { return p.AppendSlots(nil, length) }

// AppendSlots appends all slots up to a length.
func (p *Pattern) AppendSlots(out []Slot, length beat.Time) []Slot {
	moved := len(out)
	out = slices.Grow(out, int(p.count(length)))
	p.written(length, func(s Slot) bool {
		if out = append(out, s); len(out)-moved == movedAtOnce {
			p.move(out[moved:])
			moved = len(out)
		}
		return true
	})
	p.move(out[moved:])
	return out
}

// playedSlots appends what the lane is played from: its slots less those that make no
// difference, the rests that no tie leads into.
func (in *Input) playedSlots(kind Kind, out []Slot) []Slot {
	p, from := in.Pattern, len(out)
	_, walks := kind.(Walking) // what is silenced walks all the same
	counts := 0
	for _, i := range p.Active {
		if p.cells[i].On || p.cells[i].Tie {
			counts++
		}
	}
	if counts == 0 {
		return out
	}
	out = slices.Grow(out, movedAtOnce+int(min(p.count(in.toPlay())*int64(counts)/int64(len(p.Active)), grownAtOnce)))
	open, gap := false, false
	settle := func() { // moves what has come, and keeps what counts
		in.Worked(len(out) - from)
		p.move(out[from:])
		kept := out[:from]
		for _, s := range out[from:] {
			if s.Sounds || open || walks && p.cells[s.Step].On {
				open = (s.Sounds || open) && s.Tie
				s.After = !gap
				gap = false
				kept = append(kept, s)
			} else {
				gap = true
			}
		}
		in.Kept(len(kept) - from)
		out, from = kept, len(kept)
	}
	p.written(in.toPlay(), func(s Slot) bool {
		if out = append(out, s); len(out)-from == movedAtOnce {
			settle()
		}
		return true
	})
	settle()
	if open && in.stepsUntil > 0 {
		return in.tiedOn(out)
	}
	return out
}

// tiedOn appends the slots into which a tie leads past the last step that is played: what it ties lasts as long as it
// would. What begins there anew is nobody's.
func (in *Input) tiedOn(out []Slot) []Slot {
	in.Pattern.Each(in.Length, func(s Slot) bool {
		in.Worked(1)
		if s.At < in.stepsUntil {
			return true
		}
		out = append(out, s)
		return s.Tie || in.Pattern.free != nil && !s.Sounds
	})
	return out
}

// count is how many slots there are up to a length.
func (p *Pattern) count(length beat.Time) int64 {
	if len(p.Active) == 0 {
		return 0
	}
	if p.free != nil {
		return p.free.count(length, p.Restart)
	}
	slots := func(length beat.Time) int64 { return int64((length + p.Step - 1) / p.Step) }
	if p.Restart == 0 {
		return slots(length)
	}
	return int64(length/p.Restart)*slots(p.Restart) + slots(length%p.Restart)
}
