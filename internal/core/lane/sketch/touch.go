package sketch

import (
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/piece"
)

// sketch makes the steps that the drawn dials ask for.
func (g *ground) sketch(r *Request, d drawn, luck *luck) ([]piece.LineStep, Came) {
	form := g.parts(d.form)
	steps := slices.Clone(g.steps)
	for i := range g.cells {
		fresh := piece.NewLineStep()
		fresh.Skip = steps[g.cells[i].step].Skip
		steps[g.cells[i].step] = fresh
	}
	on, strikes := make([]bool, len(g.cells)), make([]int, len(g.cells))
	if r.Keep == "rhythm" {
		for i := range g.cells {
			s, from := &steps[g.cells[i].step], g.kept(r, i)
			s.On, s.Tie, s.Gate, s.Nudge, s.Velocity, s.Ratchet = from.On, from.Tie, from.Gate, from.Nudge, from.Velocity, from.Ratchet
			on[i], strikes[i] = s.On, max(s.Ratchet, 1)
		}
	} else {
		on = g.rhythm(&d, form, luck)
		for i := range g.cells {
			steps[g.cells[i].step].On, strikes[i] = on[i], 1
		}
	}
	if !slices.Contains(on, true) {
		return steps, g.came(steps, &d)
	}
	if r.Keep == "pitches" {
		g.pitches(r, steps)
	} else {
		rows := g.melody(on, strikes, &d, form, luck)
		for i := range g.cells {
			if on[i] {
				steps[g.cells[i].step].SetPlace(g.at(&g.cells[i], rows[i]))
			}
		}
	}
	if r.Keep != "rhythm" {
		g.touch(steps, &d, form, luck)
		g.lengthen(steps, &d, form, luck)
	}
	g.slide(steps, &d, form, luck)
	return steps, g.came(steps, &d)
}

// kept is the step that a cell keeps something of.
func (g *ground) kept(r *Request, i int) *piece.LineStep {
	if step := g.cells[i].step; len(r.from) == 0 {
		return &g.steps[step]
	} else {
		return &r.from[step%len(r.from)]
	}
}

// given are the steps of which something is kept, in playing order.
func (g *ground) given(r *Request) (out []piece.LineStep) {
	if len(r.from) > 0 && len(r.from) != len(g.steps) {
		out = slices.Clone(r.from)
		if n := len(g.cells); n > 1 && g.cells[0].step > g.cells[n-1].step { // the lane plays backwards
			slices.Reverse(out)
		}
		return out
	}
	for i := range g.cells {
		out = append(out, *g.kept(r, i))
	}
	return out
}

// pitches gives the sounding steps those of the steps that are kept, in turn, round and round.
func (g *ground) pitches(r *Request, steps []piece.LineStep) {
	var from []piece.LineStep
	for _, s := range g.given(r) {
		if s.On {
			from = append(from, s)
		}
	}
	if len(from) == 0 {
		from = []piece.LineStep{piece.NewLineStep()}
	}
	turn := 0
	for i := range g.cells {
		if s := &steps[g.cells[i].step]; s.On {
			s.SetPlace(from[turn%len(from)].Place())
			turn++
		}
	}
}

// touch draws how hard and how long each place of the bar is played, and how late: an accent is a pattern that comes
// again with the bar. Of a letter that comes twice the cells are equal; a place that is strong where it stands in any bar
// or part is hard.
func (g *ground) touch(steps []piece.LineStep, d *drawn, form parts, luck *luck) {
	like := g.alike(form)
	strong := make([]bool, len(g.cells))
	for i := range g.cells {
		strong[like[i]] = strong[like[i]] || g.cells[i].strong
	}
	for i := range g.cells {
		gate, velocity := luck.between(d.gate.Low, d.gate.High), luck.between(d.velocity.Low, d.velocity.High)
		if strong[i] {
			velocity = luck.between((d.velocity.Low+d.velocity.High+1)/2, d.velocity.High)
		}
		late := d.late
		if g.cells[i].place == 0 {
			late = 0
		}
		// What it is drawn from may be a rest: it holds for all that are like it.
		s, first := &steps[g.cells[i].step], &steps[g.cells[like[i]].step]
		if like[i] != i {
			gate, velocity, late = first.Gate, first.Velocity, first.Nudge
		}
		s.Gate, s.Velocity, s.Nudge = gate, velocity, late
	}
	for i := range g.cells {
		if s := &steps[g.cells[i].step]; !s.On {
			fresh := piece.NewLineStep()
			s.Gate, s.Velocity, s.Nudge = fresh.Gate, fresh.Velocity, fresh.Nudge
		}
	}
}

// alike gives for each cell the first that is to be played as hard, as long and as late: at the same place of the bar, or
// where a form has the same.
func (g *ground) alike(form parts) []int {
	out := make([]int, len(g.cells))
	for i := range out {
		out[i] = i
	}
	find := func(i int) int {
		for out[i] != i {
			i = out[i]
		}
		return i
	}
	join := func(a, b int) {
		if a, b = find(a), find(b); a != b {
			out[max(a, b)] = min(a, b)
		}
	}
	places := map[beat.Time]int{}
	for i := range g.cells {
		join(i, form.like(i))
		if first, known := places[g.cells[i].place]; known {
			join(i, first)
		} else {
			places[g.cells[i].place] = i
		}
	}
	for i := range out {
		out[i] = find(i)
	}
	return out
}

// span is a note that may be held up to the next: from a cell over rests to the next onset.
type span struct {
	from, to int // slots, to beyond the last where it comes round
}

// reaches are the notes whose next onset is two to four steps away.
func (g *ground) reaches(steps []piece.LineStep) (out []span) {
	n := len(g.slots)
	at := func(k int) *piece.LineStep { return &steps[g.cells[g.slots[k%n]].step] }
	for k := range n {
		if !at(k).On {
			continue
		}
		to := k + 1
		for to < k+n && !at(to).On {
			to++
		}
		if to-k >= 2 && to-k <= 4 {
			out = append(out, span{k, to})
		}
	}
	return out
}

// held counts the notes that may be held up to the next, and those that are.
func (g *ground) held(steps []piece.LineStep) (held, of int) {
	n := len(g.slots)
	t := g.tuneOf(steps)
	for _, s := range g.reaches(steps) {
		of++
		last := s.to
		if t.rows[g.slots[s.from]] == t.rows[g.slots[s.to%n]] {
			last-- // it stops short of the same pitch
		}
		all := true
		for k := s.from; k < last; k++ {
			all = all && steps[g.cells[g.slots[k%n]].step].Tie
		}
		if all {
			held++
		}
	}
	return held, of
}

// lengthen holds the share of notes up to the next that the dial says: ties over the rests between, to
// the next onset, or short of it where that is the same pitch.
func (g *ground) lengthen(steps []piece.LineStep, d *drawn, form parts, luck *luck) {
	n := len(g.slots)
	all := g.reaches(steps)
	t := g.tuneOf(steps)
	models, other := []int{}, []int{}
	for k := range all {
		i := g.slots[all[k].from]
		if form.like(i) == i {
			models = append(models, k)
		} else {
			other = append(other, k)
		}
	}
	tie := func(s span) {
		last := s.to
		if t.rows[g.slots[s.from]] == t.rows[g.slots[s.to%n]] {
			last--
		}
		for k := s.from; k < last; k++ {
			steps[g.cells[g.slots[k%n]].step].Tie = true
		}
	}
	count := share(d.long, len(all))
	if !form.repeats() {
		for k := range luck.some(models, count) {
			tie(all[k])
		}
		return
	}
	chosen := luck.some(models, share(d.long, len(models)))
	like := map[int]bool{}
	for k := range chosen {
		tie(all[k])
		like[g.slots[all[k].from]] = true
	}
	for _, k := range other {
		if like[form.like(g.slots[all[k].from])] {
			tie(all[k])
		}
	}
	g.evenTies(steps, t, form)
}

// evenTies takes back ties that a form does not repeat, since it goes before how long notes are: where a letter is
// followed by another onset or another pitch, its notes are all held as long as they can all be. The line's last two
// notes are free.
func (g *ground) evenTies(steps []piece.LineStep, t *tune, form parts) {
	n := len(g.slots)
	spared := t.cells[max(len(t.cells)-2, 0):]
	tie := func(i int) *bool { return &steps[g.cells[i].step].Tie }
	for changed := true; changed; {
		changed = false
		for i := range g.cells {
			like := form.like(i)
			if *tie(i) != *tie(like) && !slices.Contains(spared, i) && !slices.Contains(spared, like) {
				*tie(i), *tie(like), changed = false, false, true
			}
		}
		for k, i := range g.slots { // a tie that holds nothing
			if before := g.slots[(k+n-1)%n]; *tie(i) && !steps[g.cells[i].step].On && !*tie(before) {
				*tie(i), changed = false, true
			}
		}
	}
}

// slide lets the share of moves glide that the dial says, those first that change pitch.
func (g *ground) slide(steps []piece.LineStep, d *drawn, form parts, luck *luck) {
	if d.glides == 0 {
		return
	}
	t := g.tuneOf(steps)
	var moving, still []int
	for k := 1; k < len(t.cells); k++ {
		i := t.cells[k]
		if slices.Contains(t.cells[:k], i) {
			continue // a lane that goes back and forth: it glides both ways
		}
		if t.rows[i] != t.rows[t.cells[k-1]] {
			moving = append(moving, i)
		} else {
			still = append(still, i)
		}
	}
	count := share(d.glides, max(len(t.cells)-1, 0))
	if len(g.slots) > len(g.cells) {
		count = share(d.glides, len(moving)+len(still))
	}
	chosen := luck.some(moving, count)
	for i := range luck.some(still, count-len(chosen)) {
		chosen[i] = true
	}
	if form.repeats() { // a letter glides as its first part does, but for the first of a part
		for _, i := range append(slices.Clone(moving), still...) {
			if like := form.like(i); like != i && i%form.length != 0 {
				if chosen[like] {
					chosen[i] = true
				} else {
					delete(chosen, i)
				}
			}
		}
	}
	for i := range g.cells {
		time, curve := luck.between(30, 80), luck.between(0, 4)*10
		like := form.like(i)
		if glide := steps[g.cells[like].step].Glide; like != i && glide != nil {
			time, curve = glide.Time, glide.Curve
		}
		if chosen[i] {
			steps[g.cells[i].step].Glide = &piece.Glide{Time: time, Curve: curve}
		}
	}
}
