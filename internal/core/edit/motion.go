package edit

import (
	"fmt"
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// holder is a kind of lane whose steps can hold what luck added to their pitch.
type holder interface {
	Hold(lane *piece.Lane, key pitch.Key, step int, luck render.Luck) error
}

// holdLuck writes what rounds drew into the steps, with what chance and rounds decided in
// them: what loops then is those rounds.
func holdLuck(t target, o op.HoldLuck) error {
	if t.StepList() == nil || !render.PatternOf(t.Piece, t.Clip, t.Lane).Chancy() {
		return t.Wrong("lane", "nothing in %s is left to luck; allowed: a lane with odds, chance, rounds or a shuffled order", t.Lane.Name)
	}
	count := t.StepList().Len()
	if most := piece.MaxSteps / count; len(o.Rounds) == 0 || len(o.Rounds) > most {
		return t.Wrong("rounds", "%d rounds; allowed: 1..%d of %d steps", len(o.Rounds), most, count)
	}
	if len(o.Rounds) > 1 && t.Lane.Window != nil {
		return t.Wrong("rounds", "%d rounds of a window; allowed: one round, or a lane without a window", len(o.Rounds))
	}
	if len(o.Rounds) > 1 && t.Lane.Direction == "pendulum" {
		return t.Wrong("rounds", "%d rounds of a pendulum, which turns at their ends; allowed: one round", len(o.Rounds))
	}
	for i, round := range o.Rounds {
		if round < 1 || round > maxRound {
			return t.Wrong(fmt.Sprintf("rounds[%d]", i), "%d is out of range; allowed: 1..%d", round, maxRound)
		}
	}
	pattern := render.PatternOf(t.Piece, t.Clip, t.Lane)
	for _, held := range []struct {
		field render.Field
		drawn func(*piece.Odd) bool
	}{
		{render.Velocity, func(o *piece.Odd) bool { return o.Velocity != nil }},
		{render.Gate, func(o *piece.Odd) bool { return o.Gate != nil }},
		{render.Ratchet, func(o *piece.Odd) bool { return o.Ratchet != nil }},
	} {
		drawn := slices.ContainsFunc(t.Lane.Luck(), func(o piece.Odd) bool { return held.drawn(&o) })
		if drawn && pattern.Moves(held.field) {
			return t.Wrong("lane", "a modulator moves what luck draws, the %s; allowed: write that into the steps first", held.field)
		}
	}
	drawn := make([][]render.Slot, len(o.Rounds))
	for i, round := range o.Rounds {
		drawn[i] = t.roundOf(pattern, round)
	}
	t.repeat(count, len(o.Rounds))
	if t.Lane.Direction == "reverse" { // the first of them is played from the end
		slices.Reverse(drawn)
	}
	for i := range drawn {
		for k := range drawn[i] {
			if err := t.hold(pattern, &drawn[i][k], i*count); err != nil {
				return err
			}
		}
	}
	if !t.Lane.Bypasses("odds") { // what is bypassed decided nothing, and stays
		t.Lane.Odds = []piece.Odd{}
	}
	left := []piece.Modulator{}
	for i := range t.Lane.Modulators {
		if m := t.Lane.Modulators[i]; m.On != render.Chance.String() || !t.Lane.Acts(i) {
			left = append(left, m)
		}
	}
	t.Lane.Modulators = left
	// What sounded stands in the steps now.
	t.Lane.Bypass = slices.DeleteFunc(slices.Clone(t.Lane.Bypass), func(what string) bool { return what == "chance" || what == "rounds" })
	if pattern.Shuffles() { // the order is that of the rounds
		for i := range drawn {
			var from []int
			for k := range drawn[i] {
				from = append(from, i*count+int(drawn[i][k].Step))
			}
			at := slices.Clone(from)
			slices.Sort(at)
			t.StepList().Arrange(at, from)
		}
		t.Lane.Direction = "forward"
	}
	return nil
}

// maxRound is the last round that can be held.
const maxRound = 4096

// roundOf are the slots of a round, from 1.
func (t target) roundOf(pattern *render.Pattern, round int) (out []render.Slot) {
	most := pattern.RoundLength()*beat.Time(round) + t.Piece.Bar()*beat.Time(t.Lane.Restart*round)
	pattern.Each(most, func(s render.Slot) bool {
		t.Budget.Spend(1)
		if int(s.Round)+1 == round {
			out = append(out, s)
		}
		return int(s.Round) < round
	})
	return out
}

// repeat writes the lane's steps after themselves until they stand so many times.
func (t target) repeat(count, times int) {
	steps := t.StepList()
	steps.Resize(count * times)
	for i := count; i < count*times; i++ {
		steps.Arrange([]int{i}, []int{i % count})
	}
}

// hold writes what a slot drew into its step, in the copy of the round that begins at a
// place.
func (t target) hold(pattern *render.Pattern, s *render.Slot, begin int) error {
	step := begin + int(s.Step)
	cell := t.StepList().Cell(step)
	if !cell.On {
		return nil
	}
	cell.Velocity, cell.Gate, cell.Ratchet = heldCell(pattern, s, cell)
	cell.Rounds, cell.Chance = nil, 100
	if !s.Sounds {
		cell.Chance = 0 // a walk goes on through what chance silences, as through what luck does
		return nil
	}
	luck := pattern.Luck(s)
	if luck == (render.Luck{}) {
		return nil
	}
	kind, ok := t.Kind().(holder)
	if !ok {
		return t.Wrong("lane", "steps of %s lanes cannot hold a pitch that luck moved; allowed: odds of rests, ratchets, velocities and gates", t.Lane.Kind)
	}
	if err := kind.Hold(t.Lane, t.Key(), step, luck); err != nil {
		return t.Under(err)
	}
	return nil
}

// heldCell is what a slot's luck made of its step's own values.
func heldCell(pattern *render.Pattern, s *render.Slot, cell *piece.Cell) (velocity, gate, ratchet int) {
	velocity, gate, ratchet = int(s.Velocity), int(s.Gate), int(s.Ratchet)
	if pattern.Moves(render.Velocity) {
		velocity = cell.Velocity
	}
	if pattern.Moves(render.Gate) {
		gate = cell.Gate
	}
	if pattern.Moves(render.Ratchet) {
		ratchet = cell.Ratchet
	}
	return velocity, gate, ratchet
}

// writeModulator writes what a modulator gives into the steps. It must give each step the
// same in every round.
func writeModulator(t target, o op.WriteModulator) error {
	if o.Modulator < 1 || o.Modulator > len(t.Lane.Modulators) {
		return t.Wrong("modulator", "there is no modulator %d; allowed: 1..%d", o.Modulator, len(t.Lane.Modulators))
	}
	m := t.Lane.Modulators[o.Modulator-1]
	if slices.Contains(piece.DrawnShapes, m.Shape) {
		return t.Wrong("modulator", "a %s is drawn anew in each period, and steps are the same in each round; allowed: another shape", m.Shape)
	}
	if slices.ContainsFunc(t.Lane.Modulators[:o.Modulator-1], func(before piece.Modulator) bool { return before.On == m.On }) {
		return t.Wrong("modulator", "another modulator moves %s before it; allowed: the first of them", m.On)
	}
	free := piece.FreeOf(t.Lane)
	switch _, ok := t.Lane.StepValue(m.On, 0); {
	case free == nil && t.StepList() == nil:
		return t.Wrong("modulator", "%s lanes have no steps of their own; allowed: the lane that it plays", t.Lane.Kind)
	case free != nil && m.On != "velocity" && m.On != "chance":
		return t.Wrong("modulator", "a %s lane's notes do not take their %s from it; allowed: velocity, chance", t.Lane.Kind, m.On)
	case !ok:
		return t.Wrong("modulator", "%s is the lane's own, and steps do not hold it; allowed: a field of steps", m.On)
	}
	alone := t.Lane.Clone()
	alone.Modulators, alone.Odds = []piece.Modulator{m}, []piece.Odd{}
	pattern := render.PatternOf(t.Piece, t.Clip, &alone)
	field, _ := render.FieldNamed(m.On)
	value := map[int32]int{}
	var wrong error
	length := pattern.Period()
	if !length.IsInt64() || length.Int64() > int64(1024*t.Piece.Bar()) {
		return t.Wrong("modulator", "it takes too long to meet the steps again; allowed: a period that the lane's rounds fill")
	}
	pattern.Each(beat.Time(length.Int64()), func(s render.Slot) bool {
		t.Budget.Spend(1)
		own, _ := t.Lane.StepValue(m.On, int(s.Step))
		comes := pattern.Moved(field, &s, own)
		if was, seen := value[s.Step]; seen && was != comes {
			wrong = t.Wrong(
				"modulator",
				"step %d gets %d and then %d, since its wave is longer than the round; allowed: a wave that fits the round, or more steps",
				s.Step+1,
				was,
				comes,
			)
			return false
		}
		value[s.Step] = comes
		return true
	})
	if wrong != nil {
		return wrong
	}
	for step, to := range value {
		if err := t.writeValue(m.On, int(step), to); err != nil {
			return err
		}
	}
	t.Lane.Modulators = slices.Delete(slices.Clone(t.Lane.Modulators), o.Modulator-1, o.Modulator)
	return nil
}

// valueWriter is a kind with fields of steps that are not written as they are named.
type valueWriter interface {
	WriteValue(lane *piece.Lane, key pitch.Key, field string, step, value int) (done bool)
}

// writeValue sets a number of a step.
func (t target) writeValue(field string, step, value int) error {
	if kind, ok := t.Kind().(valueWriter); ok && kind.WriteValue(t.Lane, t.Key(), field, step, value) {
		return nil
	}
	return t.StepList().Patch(t.StepPath(step), step, fmt.Appendf(nil, `{%q:%d}`, field, value))
}
