package sketch

import (
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/lane/pitched"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// ground is what a lane's sketches stand on: its first round in playing order, over the chords.
type ground struct {
	scene  Scene
	key    pitch.Key
	own    *piece.Line
	steps  []piece.LineStep // as they are
	free   bool             // of a lane of free notes
	step   beat.Time
	cells  []cell
	slots  []int // cells in playing order; longer than cells where the lane goes back and forth
	rows   []int // the pitches that a note can have, MIDI, rising: the rows of the key in the range
	octave []int // of each row, how many rows of the key it is over the first tonic of all
	chords bool  // there is a harmony
	locked bool  // the lane's notes are locked to chords: dials of tones and leaps do nothing
}

// cell is an active step where it stands first.
type cell struct {
	step   int       // index in the lane
	place  beat.Time // in its bar
	strong bool
	weight float64 // how much of a beat it is: 1 on one, 0 off it
	chord  *render.Chord
	tone   []bool // of each row: a tone of its chord
	can    []bool // of each row: the lane can sound it there
	bar    int    // from 0
	begins bool   // a chord begins there, where a bar does
	root   int    // rows of the key from the first tonic of all to the chord's root, or to the tonic
}

// survey measures a lane out. Errors say why nothing can be sketched in it.
func survey(s Scene, r *Request) (*ground, error) {
	lane := s.Lane
	g := &ground{scene: s, key: s.Piece.KeyOf(s.Clip)}
	if free, ok := lane.Content.(*piece.Notes); ok {
		if free.Voices != "one" {
			return nil, wrong("", "many notes of %s sound at a time; allowed: a line, or free notes of one voice", lane.Name)
		}
		over, err := r.over(s.Piece, lane, free)
		if err != nil {
			return nil, err
		}
		lane, g.free = over, true
	} else if r.Rate != "" || r.Bars != 0 {
		return nil, wrong("rate", "%s has steps of its own; allowed: rate and bars for a lane of free notes", lane.Name)
	}
	if g.own = piece.LineOf(lane); g.own == nil {
		return nil, wrong("", "%s is a %s lane; allowed: a line, or free notes of one voice", lane.Name, lane.Kind)
	}
	if (r.Keep != "nothing") && g.free && len(r.from) == 0 {
		return nil, wrong("keep", "%s has no steps to keep the %s of; allowed: nothing, or from steps", lane.Name, r.Keep)
	}
	g.steps = g.own.Steps
	g.locked = g.own.Lock == "chord"
	pattern := render.PatternOf(s.Piece, s.Clip, lane)
	g.step = pattern.Step
	order := pattern.Order()
	if pattern.Shuffles() {
		order = render.Active(lane)
	}
	if len(order) == 0 {
		return nil, wrong("", "%s has no active step; allowed: a lane with one", lane.Name)
	}
	g.measure(s, order)
	if err := g.rise(s, lane, r); err != nil {
		return nil, err
	}
	return g, nil
}

// mostFree is how many steps a sketch for a lane of free notes may have.
const mostFree = piece.MaxSteps

// over is the line that a sketch of free notes is made as.
func (r *Request) over(p *piece.Piece, lane *piece.Lane, free *piece.Notes) (*piece.Lane, error) {
	meter, err := beat.ParseMeter(p.Meter)
	if err != nil {
		return nil, err
	}
	length, err := beat.Rate(r.Rate, meter)
	if err != nil {
		return nil, wrong("rate", "%v", err)
	}
	if r.Bars < 1 || r.Bars > beat.MaxBars {
		return nil, wrong("bars", "%d is out of range; allowed: 1..%d", r.Bars, beat.MaxBars)
	}
	total := beat.Time(r.Bars) * p.Bar()
	if total%length != 0 || total/length > mostFree {
		return nil, wrong("rate", "steps of %s do not fill %d bars in 1..%d steps; allowed: a rate that does", r.Rate, r.Bars, mostFree)
	}
	out := piece.LineOver(lane, free.Pitched, free.Glide, r.Rate, int(total/length))
	return &out, nil
}

// measure lays the cells out.
func (g *ground) measure(s Scene, order []int32) {
	bar := s.Piece.Bar()
	meter, err := beat.ParseMeter(s.Piece.Meter)
	if err != nil {
		panic(err) // a checked piece has a meter
	}
	pulse := bar / beat.Time(meter.Count)
	compound := meter.Unit == 8 && (meter.Count == 6 || meter.Count == 9 || meter.Count == 12)
	if compound {
		pulse *= 3
	}
	harmony := render.HarmonyOf(s.Piece, s.Clip, g.step*beat.Time(len(order))+1, s.Budget, s.Kinds)
	g.chords = harmony != nil
	seen := map[int32]int{}
	for k, step := range order {
		at := g.step * beat.Time(k)
		if i, there := seen[step]; there {
			g.slots = append(g.slots, i)
			continue
		}
		seen[step] = len(g.cells)
		g.slots = append(g.slots, len(g.cells))
		c := cell{step: int(step), place: at % bar, bar: int(at / bar), chord: harmony.At(at)}
		c.begins = c.place == 0 && beginsAt(harmony, at)
		switch {
		case c.place == 0:
			c.strong = true
		case compound:
			c.strong = c.place%pulse == 0
		default:
			c.strong = meter.Count%2 == 0 && meter.Count > 2 && c.place == bar/2
		}
		switch {
		case c.place%pulse == 0:
			c.weight = 1
		case 2*c.place%pulse == 0:
			c.weight = 0.35
		}
		g.cells = append(g.cells, c)
	}
}

// beginsAt reports whether a chord begins at a time.
func beginsAt(h *render.Harmony, at beat.Time) bool {
	return h != nil && slices.ContainsFunc(h.Chords, func(b render.Beginning) bool { return b.At == at && !b.Brought })
}

// How many semitones below and above its ground, the tonic or the first chord's root, the notes of a bass stand.
const (
	bassBelow = 5
	bassAbove = 14
)

// span is where the notes of a lane may stand that has no range of its own: over two octaves from its tonic, or about a
// bass's ground.
func (g *ground) span() (low, high int) {
	low = g.key.Pitch(pitch.Place{Degree: 1}, g.own.Octave)
	if g.own.Octave > pitched.BassOctave {
		return low, low + 24
	}
	if chord := g.cells[0].chord; chord != nil {
		low = chord.Root.Class()
	}
	ground := pitched.BassPitch(low)
	return ground - bassBelow, ground + bassAbove
}

// rise finds the rows that the notes can stand on.
func (g *ground) rise(s Scene, lane *piece.Lane, r *Request) error {
	low, high := g.span()
	if lane.Range != nil {
		low, high = lane.Range.Low, lane.Range.High
	}
	if r.Range != nil {
		if lane.Range != nil && (r.Range.Low < low || r.Range.High > high) {
			return wrong("range", "%d..%d is not within the range of %s; allowed: within %d..%d", r.Range.Low, r.Range.High, lane.Name, low, high)
		}
		low, high = r.Range.Low, r.Range.High
	}
	size := g.key.Size()
	first := pitch.Place{Degree: 1, Octave: -2}
	for k := 0; ; k++ {
		p := g.key.Pitch(g.key.Move(first, k), 0)
		if p > min(high, 127) {
			break
		}
		if p >= max(low, 0) {
			g.rows, g.octave = append(g.rows, p), append(g.octave, k)
		}
	}
	third, fifth := g.triad()
	for i := range g.cells {
		c := &g.cells[i]
		c.tone, c.can = make([]bool, len(g.rows)), make([]bool, len(g.rows))
		some := false
		for j, p := range g.rows {
			degree := pitch.Mod(g.octave[j], size) + 1
			if c.chord != nil {
				c.tone[j] = c.chord.Has(p)
			} else {
				c.tone[j] = degree == 1 || degree == third || degree == fifth
			}
			c.can[j] = g.sounds(c, j)
			some = some || c.can[j]
		}
		if !some { // it sounds none as it is written: the lock decides
			for j := range c.can {
				c.can[j] = true
			}
		}
		if c.chord != nil {
			c.root = c.chord.RootDegree - 1
		}
	}
	roots := 0
	for j := range g.rows {
		if g.home(0, j) {
			roots++
		}
	}
	what := "the tonic"
	if g.cells[0].chord != nil {
		what = "the first chord's root"
	}
	if roots == 0 || len(g.rows) < 3 {
		return wrong("range", "%d..%d does not hold %s and two more notes of %s; allowed: a wider range", low, high, what, pitch.Pretty(g.key.String()))
	}
	return nil
}

// triad gives the degrees that stand for the third and the fifth of the tonic triad: in scales without
// seven notes those nearest to one.
func (g *ground) triad() (third, fifth int) {
	if g.key.Size() == 7 {
		return 3, 5
	}
	nearest := func(half int) int {
		best := 1
		for d := 2; d <= g.key.Size(); d++ {
			if abs(2*g.key.Semitones(d)-half) < abs(2*g.key.Semitones(best)-half) {
				best = d
			}
		}
		return best
	}
	return nearest(7), nearest(14) // between a minor and a major third; a fifth
}

func abs(n int) int { return max(n, -n) }

// at is the place that a step holds to sound on a row over its chord.
func (g *ground) at(c *cell, row int) pitch.Place {
	place := g.key.Express(g.rows[row], g.own.Octave)
	return pitched.Uncounted(&g.own.Pitched, g.key, c.chord, place)
}

// sounds tells whether the lane sounds a row where a step is written so, without an alteration.
func (g *ground) sounds(c *cell, row int) bool {
	place := g.at(c, row)
	if place.Alter != 0 || pitched.Check(g.key, place) != nil {
		return false
	}
	return int(pitched.At(&g.own.Pitched, g.key, c.chord, place).Pitch) == g.rows[row]
}

// tuneful is from which octave on a lane may begin on any tone of the chord.
const tuneful = 4

// home tells whether a line that begins at a cell can begin on a row: the tonic, or the root of the chord
// that sounds, from octave 4 on any tone of it.
func (g *ground) home(i, row int) bool {
	c := &g.cells[i]
	class := pitch.Mod(g.rows[row], 12)
	if c.chord == nil {
		return pitch.Mod(g.octave[row], g.key.Size()) == 0
	}
	if !g.key.Has(c.chord.Root.Class()) { // its root is not in the key: its tones that are
		return c.tone[row] || !slices.Contains(c.tone, true) && pitch.Mod(g.octave[row], g.key.Size()) == 0
	}
	return class == c.chord.Root.Class() || g.own.Octave >= tuneful && c.tone[row]
}
