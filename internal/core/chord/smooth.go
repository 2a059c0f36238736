package chord

import (
	"cmp"
	"slices"

	"agrimony/internal/core/pitch"
)

// MaxVoiced is the largest number of tones that are voiced; a chord of more stays as
// it was written.
const MaxVoiced = 6

// work bounds how many pairs of voicings are compared. Only long rounds of large chords in
// ranges of many octaves would take more; those are searched in a narrower range around the
// first chord.
const work = 50_000_000

// Smooth voices a round of chords so that their voices move as little as can be,
// around the loop. Each chord is given as written, sorted; the first stands for the
// round's place and is only moved by octaves. Every later chord's tones may lie in any
// octave of the range, no two on one pitch and neighbours at most an octave apart. Of
// all choices that with the least movement is taken; among equals the one whose
// middles lie nearest to the range's in sum; then the lower pitches, chord by chord,
// from the lowest tone up. Where the range asks for clear voicings, each that blurs counts as a movement of two and a half
// semitones. held tells which chords could not be voiced: those of more
// than MaxVoiced tones, or without a place in the range. What it gives is shared with whoever
// asks the same, and must not be changed.
func Smooth(chords [][]int, r Range) (out [][]int, held []bool) {
	if len(chords) == 0 {
		return [][]int{}, []bool{}
	}
	return voiced.of(chords, r)
}

// smooth voices a round; more than few pairs of voicings are pruned before they are compared.
func smooth(chords [][]int, r Range, few int) (out [][]int, held []bool) {
	n := len(chords)
	out, held = make([][]int, n), make([]bool, n)
	var fits bool
	out[0], fits = r.Toward(chords[0])
	held[0] = !fits
	s := search{r: r, first: out[0], memo: map[string]*layer{}, far: map[[2]*layer][]int32{}}
	all := make([]*layer, n)
	all[0] = &layer{states: []state{s.state(out[0])}}
	for i := 1; i < n; i++ {
		if all[i] = s.states(chords[i]); all[i] == nil {
			as, _ := r.Toward(chords[i])
			held[i] = true
			all[i] = &layer{states: []state{s.state(as)}}
		}
	}
	if s.take(all, anywhere); s.pairs() > few {
		s.prune(all)
	}
	if s.pairs() > work && r.High-r.Low > 24 {
		middle := (out[0][0] + out[0][len(out[0])-1]) / 2
		narrow := Range{Low: max(r.Low, min(middle-(r.High-r.Low)*3/8, r.High-24)), Keep: r.Keep, Clear: r.Clear}
		narrow.High = min(r.High, narrow.Low+max((r.High-r.Low)*3/4, 24))
		rest, unvoiced := smooth(append([][]int{out[0]}, chords[1:]...), narrow, few)
		rest[0] = out[0]
		return rest, append([]bool{held[0]}, unvoiced[1:]...)
	}
	s.run()
	at := &s.layers[0].states[0]
	for i := 1; i < n; i++ {
		at = &s.layers[i].states[at.next]
		out[i] = at.pitches
	}
	return out, held
}

// fewPairs are compared as they are.
const fewPairs = 2_000_000

// How far, in semitones, the lowest and the highest voice go together from the first chord's:
// in the round that is tried first, and without a bound.
const (
	nearby   = 12
	anywhere = 1 << 20
)

// prune leaves voicings out that cannot be in the best round: one in which the lowest and the
// highest voice go further from the first chord's than half of what some round moves in all,
// since they must come back.
func (s *search) prune(all []*layer) {
	if s.take(all, nearby); s.pairs() > work {
		s.take(all, anywhere)
		return
	}
	s.run()
	s.take(all, s.layers[0].states[0].movement/(2*s.r.scale()))
}

// take takes those voicings of each chord of which the lowest and the highest tone lie within
// so many semitones of the first chord's, both together; where none does, the nearest. Where
// some chord is a single tone, both move as one, and the further counts.
func (s *search) take(all []*layer, within int) {
	apart := func(a, b int) int { return max(a-b, b-a) }
	low, high := s.first[0], s.first[len(s.first)-1]
	together := slices.ContainsFunc(all, func(l *layer) bool { return len(l.states[0].pitches) == 1 })
	away := func(st *state) int {
		if together {
			return max(apart(st.low, low), apart(st.high, high))
		}
		return apart(st.low, low) + apart(st.high, high)
	}
	s.layers = make([]layer, len(all))
	clear(s.far)
	taken := map[*layer]*layer{}
	for i, from := range all {
		known := taken[from]
		if known == nil {
			known = from
			if within < anywhere {
				known = &layer{}
				nearest := anywhere
				for k := range from.states {
					nearest = min(nearest, away(&from.states[k]))
				}
				for k := range from.states {
					if away(&from.states[k]) <= max(within, nearest) {
						known.states = append(known.states, from.states[k])
					}
				}
			}
			taken[from] = known
		}
		s.layers[i] = layer{slices.Clone(known.states), known}
	}
}

// pairs is how many pairs of voicings of neighbours there are.
func (s *search) pairs() (total int) {
	for i := 1; i < len(s.layers); i++ {
		total += len(s.layers[i].states) * len(s.layers[i-1].states)
	}
	return total
}

// state is a voicing of one chord of the round, with the best way from it back to the
// first chord.
type state struct {
	pitches   []int
	away      int // of its middle from the range's
	movement  int // of the best way on, with what blurs on it, in what a semitone counts
	blur      int // what it costs by itself
	awaySum   int // along that way, its own included
	next      int // index of the next chord's voicing on it
	low, high int
}

// layer is a chord of the round with all its voicings.
type layer struct {
	states []state
	of     *layer // where the same chord comes again, its first; nil: it is by itself
}

type search struct {
	r      Range
	first  []int
	layers []layer
	memo   map[string]*layer // voicings of chords that come again
	// far keeps the movement between the voicings of two chords that may come again,
	// one more than it is; 0: not known yet.
	far map[[2]*layer][]int32
}

func (s *search) state(pitches []int) state {
	out := state{pitches: pitches, away: s.r.away(pitches, 0), low: pitches[0], high: pitches[len(pitches)-1]}
	if s.r.Clear && Blurs(pitches) {
		out.blur = blur
	}
	return out
}

// states are all voicings of a chord in the range, in order of their pitches from the
// lowest up; nil when it cannot be voiced.
func (s *search) states(chord []int) *layer {
	if len(chord) > MaxVoiced {
		return nil
	}
	name := make([]byte, len(chord))
	for i, p := range chord {
		name[i] = byte(pitch.Mod(p, 12))
	}
	if !s.r.Keep {
		slices.Sort(name)
	}
	if known, ok := s.memo[string(name)]; ok {
		return known
	}
	var found [][]int
	var counts [12]int
	for _, p := range chord {
		counts[pitch.Mod(p, 12)]++
	}
	voiced := make([]int, 0, len(chord))
	var place func(low, high int)
	place = func(low, high int) {
		if len(voiced) == len(chord) {
			found = append(found, slices.Clone(voiced))
			return
		}
		for p := low; p <= high; p++ {
			class := pitch.Mod(p, 12)
			if counts[class] == 0 || s.r.Keep && len(voiced) == 0 && class != int(name[0]) {
				continue
			}
			counts[class]--
			voiced = append(voiced, p)
			place(p+1, min(p+12, s.r.High))
			voiced = voiced[:len(voiced)-1]
			counts[class]++
		}
	}
	place(s.r.Low, s.r.High)
	var out []state
	for _, pitches := range found {
		out = append(out, s.state(pitches))
	}
	var known *layer
	if len(out) > 0 {
		known = &layer{states: out}
	}
	s.memo[string(name)] = known
	return known
}

// run finds for every voicing, from the last chord to the first, the best way on.
// States are in order of their pitches, so that the first of equals is the lower.
func (s *search) run() {
	n := len(s.layers)
	last := s.layers[n-1].states
	for i := range last {
		last[i].movement, last[i].awaySum = Movement(last[i].pitches, s.first)*s.r.scale()+last[i].blur, last[i].away
	}
	for k := n - 2; k >= 0; k-- {
		next := s.layers[k+1].states
		byCost := make([]int, len(next))
		for i := range byCost {
			byCost[i] = i
		}
		slices.SortFunc(byCost, func(a, b int) int {
			return cmp.Or(cmp.Compare(next[a].movement, next[b].movement), cmp.Compare(next[a].awaySum, next[b].awaySum), cmp.Compare(a, b))
		})
		far := s.between(&s.layers[k], &s.layers[k+1])
		for i := range s.layers[k].states {
			s.layers[k].states[i].choose(next, byCost, far[i*len(next):(i+1)*len(next)], s.r.scale())
		}
	}
}

// between is room for the movements from each voicing of a chord to each of the next.
func (s *search) between(a, b *layer) []int32 {
	pair := [2]*layer{a.of, b.of}
	if a.of == nil || b.of == nil {
		return make([]int32, len(a.states)*len(b.states))
	}
	if s.far[pair] == nil {
		s.far[pair] = make([]int32, len(a.states)*len(b.states))
	}
	return s.far[pair]
}

// choose takes the best next voicing. No movement is less than that of the lowest and
// of the highest tone, which spares most comparisons.
func (st *state) choose(next []state, byCost []int, far []int32, scale int) {
	best, bestAway, chosen := 1<<30, 0, -1
	for _, i := range byCost {
		to := &next[i]
		if to.movement > best {
			break
		}
		least := to.movement + scale*max(st.low-to.low, to.low-st.low)
		if len(st.pitches) > 1 && len(to.pitches) > 1 {
			least += scale * max(st.high-to.high, to.high-st.high)
		}
		if least > best {
			continue
		}
		if far[i] == 0 {
			far[i] = int32(Movement(st.pitches, to.pitches)) + 1
		}
		movement := to.movement + scale*(int(far[i])-1)
		if movement > best || movement == best && (to.awaySum > bestAway || to.awaySum == bestAway && chosen >= 0 && i > chosen) {
			continue
		}
		best, bestAway, chosen = movement, to.awaySum, i
	}
	st.movement, st.awaySum, st.next = best+st.blur, bestAway+st.away, chosen
}
