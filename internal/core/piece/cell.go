package piece

import (
	"slices"

	"agrimony/internal/core/document"
	"agrimony/internal/core/pitch"
)

// cellFields are the shared fields of a step, with a kind's own defaults.
func cellFields(initial Cell) []document.Field[Cell] {
	return []document.Field[Cell]{
		document.Flag("on", "Whether a note starts here.", func(s *Cell) *bool { return &s.On }),
		document.Whole("velocity", 1, 127, initial.Velocity, "How hard.", func(s *Cell) *int { return &s.Velocity }),
		document.Whole("gate", 1, 400, initial.Gate, "How long, in % of the step.", func(s *Cell) *int { return &s.Gate }).In("%"),
		document.Flag("tie", "Joins the step to the next one.", func(s *Cell) *bool { return &s.Tie }),
		document.Whole("chance", 0, 100, initial.Chance, "In what share of rounds it plays, in %.", func(s *Cell) *int { return &s.Chance }).In("%"),
		document.Optional("rounds", "Plays only in some rounds.", roundsShape, func(s *Cell) **Rounds { return &s.Rounds }),
		document.Whole("ratchet", 1, 8, initial.Ratchet, "Repeats within the step.", func(s *Cell) *int { return &s.Ratchet }),
		document.Whole("nudge", -50, 50, initial.Nudge, "Earlier or later, in % of the step.", func(s *Cell) *int { return &s.Nudge }).In("%"),
		document.Flag("skip", "Takes the step out of the round.", func(s *Cell) *bool { return &s.Skip }),
	}
}

// CellFields are the shared fields as those of a kind's step, with the kind's own
// defaults.
func CellFields[S any](initial Cell, cell func(*S) *Cell) []document.Field[S] {
	return document.Lift(cell, cellFields(initial)...)
}

// stepFields are all fields of a kind's step: on, its own, and the shared rest.
func stepFields[S any](initial Cell, cell func(*S) *Cell, own ...[]document.Field[S]) []document.Field[S] {
	shared := CellFields(initial, cell)
	return slices.Concat(shared[:1], slices.Concat(own...), shared[1:])
}

// placeFields are the degree, octave and alteration of whatever has a pitch.
func placeFields[S any](at func(*S) (degree, octave, alter *int)) []document.Field[S] {
	return []document.Field[S]{
		document.Whole("degree", 1, 12, 1, "The degree of the key, from 1 up to its number of degrees.", func(s *S) *int { d, _, _ := at(s); return d }),
		document.Whole("octave", -4, 4, 0, "Octaves from the lane's.", func(s *S) *int { _, o, _ := at(s); return o }),
		document.Whole("alter", -11, 11, 0, "Semitones from the degree.", func(s *S) *int { _, _, a := at(s); return a }).In("semitones"),
	}
}

func checkDegree(at *document.At, key pitch.Key, degree int) {
	if degree > key.Size() {
		at.Field("degree").Refuse("%d is above %d; allowed: 1..%d, the degrees of %s (use octave to go higher)", degree, key.Size(), key.Size(), key)
	}
}

var roundsShape = &document.Shape[Rounds]{
	Doc: "The rounds in which the step plays.",
	Fields: []document.Field[Rounds]{
		document.Whole("of", 1, 64, 1, "Out of every so many rounds.", func(r *Rounds) *int { return &r.Of }),
		document.Own("on", "It plays in these, counted from 1.",
			func(r *Rounds) { r.On = []int{1} },
			func(at *document.At, value any, r *Rounds) {
				r.On = nil
				for i, item := range document.ListOf(at, value, 1, 64) {
					round := document.WholeOf(at.Item(i), item)
					if round < 1 || round > 64 {
						at.Item(i).Refuse("%d is out of range; allowed: 1..64", round)
					}
					if slices.Contains(r.On, round) {
						at.Item(i).Refuse("%d is there already; allowed: each round once", round)
					}
					r.On = append(r.On, round)
				}
				slices.Sort(r.On)
			},
			func(*document.At, *Rounds) {},
			func(r *Rounds) (any, bool) { return document.Anys(r.On), true },
			func() document.Object {
				round := document.Pairs("type", "integer", "minimum", 1, "maximum", 64)
				return document.Pairs("type", "array", "minItems", 1, "maxItems", 64, "uniqueItems", true, "items", round)
			}),
	},
	Check: func(at *document.At, r *Rounds) {
		for i, round := range r.On {
			if round > r.Of {
				at.Field("on").Item(i).Refuse("%d is above %d; allowed: 1..%d", round, r.Of, r.Of)
			}
		}
	},
}

var glideShape = &document.Shape[Glide]{
	Doc: "A slide into the step's pitch.",
	Fields: []document.Field[Glide]{
		document.Whole("time", 0, 400, 50, "How long it takes, in % of the step.", func(g *Glide) *int { return &g.Time }).In("%"),
		document.Whole("curve", -100, 100, 0, "0 linear, above starts slowly, below starts fast.", func(g *Glide) *int { return &g.Curve }),
		document.OptionalWhole("from", -24, 24, "Where it starts, in semitones from the step's pitch; absent: the lane's previous pitch.", func(g *Glide) **int { return &g.From }).
			In("semitones"),
	},
}

// MaxPoints is how many points a bend has at most.
const MaxPoints = 16

var pointShape = &document.Shape[Point]{
	Doc: "A point of a bend envelope.",
	Fields: []document.Field[Point]{
		document.Decimal("at", 0, 100, 3, 0, "Where, in % of the note's length, with three decimals at most.", func(p *Point) *float64 { return &p.At }).In("%"),
		document.Whole("by", -24, 24, 0, "How far, in semitones.", func(p *Point) *int { return &p.By }).In("semitones"),
		document.Whole("curve", -100, 100, 0, "The curve of the way to this point.", func(p *Point) *int { return &p.Curve }),
	},
}

var glideModeShape = &document.Shape[GlideMode]{
	Doc: "How glides are written.",
	Fields: []document.Field[GlideMode]{
		document.Choice("mode", GlideModes, "bend", "With the bend wheel, or as overlapping notes with portamento.", func(g *GlideMode) *string { return &g.Mode }).
			Titled("Written"),
		document.Whole("range", 1, 24, DefaultRange, "The bend wheel's range in semitones.", func(g *GlideMode) *int { return &g.Range }).In("semitones"),
	},
}

// MPE is the mode in which each note of a lane glides by itself, on a channel of its own.
const MPE = "mpe"

// MPERange is the bend range of such a lane where nothing states it, in semitones: the
// specification's own.
const MPERange = 48

// Ranges of bend wheels, in semitones.
const (
	maxRange    = 24
	MaxMPERange = 96
)

// startRange is the range of a mode where nothing states it.
func startRange(mode string) int {
	if mode == MPE {
		return MPERange
	}
	return DefaultRange
}

// manyGlideShape is the same of lanes that sound several notes at a time: modes are those that the
// kind allows, the first is the usual one.
func manyGlideShape(initial string, modes []string) *document.Shape[GlideMode] {
	within := func(most, usual int) document.Object {
		return document.Pairs("properties", document.Pairs("range", document.Pairs("maximum", most, "default", usual)))
	}
	also := document.Pairs("if", document.Pairs("properties", document.Pairs("mode", document.Pairs("const", MPE)), "required", []string{"mode"}),
		"then", within(MaxMPERange, MPERange), "else", within(maxRange, DefaultRange))
	if initial == MPE {
		also = nil
	}
	return &document.Shape[GlideMode]{
		Doc: "How glides are written.",
		Fields: []document.Field[GlideMode]{
			document.Choice("mode", modes, initial, "With the bend wheel, as overlapping notes with portamento, or each note by itself (mpe).", func(g *GlideMode) *string { return &g.Mode }).
				Titled("Written").
				Stated(initial == MPE),
			document.Whole("range", 1, MaxMPERange, 0, "The bend wheel's range in semitones; absent: 12, of mpe 48.", func(g *GlideMode) *int { return &g.Range }).
				In("semitones").
				Starting(func(g *GlideMode) { g.Range = startRange(initial) }).
				LeftOut(func(g *GlideMode) bool { return g.Range == startRange(g.Mode) }),
		},
		// The usual range of one mode is not carried into another.
		Given: func(named func(string) bool, g *GlideMode) {
			if named("mode") && !named("range") && g.Range == startRange(g.Mode) {
				g.Range = 0
			}
		},
		Check: func(at *document.At, g *GlideMode) {
			if g.Range == 0 {
				g.Range = startRange(g.Mode)
			}
			if g.Mode != MPE && g.Range > maxRange {
				at.Field("range").Refuse("%d is above %d; allowed: 1..%d, with the mode mpe 1..%d", g.Range, maxRange, maxRange, MaxMPERange)
			}
		},
		Also: also,
	}
}

// pitchedFields are those of a lane whose steps have degrees; kinds differ in
// what they are locked to at first.
func pitchedFields(lock string) []document.Field[Pitched] {
	return []document.Field[Pitched]{
		document.Whole("octave", -1, 9, 3, "The octave of the tonic at step octave 0; middle C is C4.", func(p *Pitched) *int { return &p.Octave }),
		document.Choice("lock", Locks, lock, "What altered pitches are snapped to when rendering.", func(p *Pitched) *string { return &p.Lock }),
		document.Choice("snap", Snaps, "nearest", "Which way they are snapped; nearest takes the lower of two.", func(p *Pitched) *string { return &p.Snap }),
		document.Choice("follow", Follows, "key", "What degrees count from.", func(p *Pitched) *string { return &p.Follow }),
		document.Choice("roots", Roots, "up", "In which octave roots that it follows lie: from the tonic upwards, or near it, so that a bass stays a bass.",
			func(p *Pitched) *string { return &p.Roots }),
	}
}

// Steps are the steps of any stepped kind, counted from 0.
type Steps interface {
	Len() int
	// Cell is the shared part of a step.
	Cell(i int) *Cell
	// Resize sets the count: steps beyond it go, missing ones come as rests.
	Resize(n int)
	// Arrange puts onto each step of at what the step of from held before.
	Arrange(at, from []int)
	// Take puts onto step i what a step of other steps of the kind holds.
	Take(i int, from Steps, k int)
	// Patch changes the fields of a step that the JSON object data names.
	Patch(path string, i int, data []byte) error
	// Put replaces a step by one that the JSON object data holds. When strict is false
	// the data is of a step of another kind: its rhythm is taken, which all kinds share,
	// and what the step plays stays.
	Put(path string, i int, data []byte, strict bool) error
}

type step[S any] interface {
	*S
	Shared() *Cell
}

// Shared is the cell itself; steps that embed one have it too.
func (c *Cell) Shared() *Cell { return c }

type sequence[S any, P step[S]] struct {
	list  *[]S
	shape *document.Shape[S]
}

// StepsOf gives a kind's steps to whatever works on steps of any kind.
func StepsOf[S any, P step[S]](list *[]S, shape *document.Shape[S]) Steps {
	return sequence[S, P]{list, shape}
}

func (s sequence[S, P]) Len() int         { return len(*s.list) }
func (s sequence[S, P]) Cell(i int) *Cell { return P(&(*s.list)[i]).Shared() }

func (s sequence[S, P]) Resize(n int) {
	steps := slices.Clone(*s.list)
	for len(steps) < n {
		steps = append(steps, s.shape.Fresh())
	}
	*s.list = steps[:n]
}

func (s sequence[S, P]) Arrange(at, from []int) {
	old := slices.Clone(*s.list)
	for i := range at {
		(*s.list)[at[i]] = old[from[i]]
	}
}

func (s sequence[S, P]) Take(i int, from Steps, k int) {
	(*s.list)[i] = (*from.(sequence[S, P]).list)[k]
}

func (s sequence[S, P]) Patch(path string, i int, data []byte) error {
	return document.Patch(s.shape, path, data, &(*s.list)[i], func(v *S) S { return *v })
}

func (s sequence[S, P]) Put(path string, i int, data []byte, strict bool) (err error) {
	defer document.Catch(&err)
	value, err := document.Parse(data)
	if err != nil {
		return err
	}
	at := document.Root(path)
	if strict {
		(*s.list)[i] = s.shape.Read(at, value)
		return nil
	}
	cell := document.Shape[Cell]{Fields: cellFields(Cell{})}
	other := s.shape.Read(at, s.shape.Known(cell.Known(document.ObjectOf(at, value))))
	*P(&(*s.list)[i]).Shared() = *P(&other).Shared()
	return nil
}

// newSteps are n rests of a kind.
func newSteps[S any](shape *document.Shape[S], n int) []S {
	out := make([]S, n)
	for i := range out {
		out[i] = shape.Fresh()
	}
	return out
}
