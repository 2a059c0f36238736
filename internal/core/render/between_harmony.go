package render

import (
	"cmp"
	"math"
	"slices"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/budget"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
)

// Chord is a chord as it sounds, with what listeners ask of it.
type Chord struct {
	Place   int     // in the palette, from 1
	Pitches []uint8 // MIDI, sorted
	Listed  []uint8 // the same as the palette lists its tones
	Classes uint16  // its pitch classes, a bit each
	Symbol  string  // "F#m7/C#"
	Numeral string
	Root    pitch.Name
	// RootDegree is the degree of the key (from 1) that counting from the root begins
	// at, and RootAlter by how many semitones the root is off it.
	RootDegree, RootAlter int
	Over                  int // how many more tones were played than count
}

// Has tells whether a MIDI pitch is a tone of the chord, in any octave.
func (c *Chord) Has(p int) bool { return c.Classes>>pitch.Mod(p, 12)&1 == 1 }

// Beginning is where a chord begins to sound.
type Beginning struct {
	At   beat.Time // on the grid
	Step int32     // index of the step that begins it
	// Brought tells that it does not begin here: the loop brings it round.
	Brought bool
	*Chord
}

// Harmony is what the lanes of a clip listen to: the chords of one lane, whether that
// is heard or not.
type Harmony struct {
	Lane *piece.Lane
	// Chords are its chords up to the clip's end, the first at 0. Where no chord begins
	// there, it is the one that the loop brings round, from a step that is not played.
	Chords []Beginning

	in      *Input
	lending string // the id by which another clip, whose lane it is, draws its luck; "": it is the clip's own
}

// Octave is that of the lane whose chords they are; 0 without harmony.
func (h *Harmony) Octave() int {
	if h == nil {
		return 0
	}
	return piece.PitchedOf(h.Lane).Octave
}

// Harmonic is a kind of lane whose chords others can listen to.
type Harmonic interface {
	// Harmony lists the chords of a lane up to a length, the first at 0.
	Harmony(in *Input) []Beginning
	// Changes tells whether its chord ever changes among the steps that are come to, or,
	// with lying, how it lies.
	Changes(in *Input, lying bool) bool
	// Borrowed is a lane of a clip in one key as it stands in another.
	Borrowed(lane *piece.Lane, from, to pitch.Key) *piece.Lane
	// Moving are the fields that decide the chords as modulators move them.
	Moving() []Field
}

// prepare finds what a clip listens to, as far as the clip's length does not matter.
func prepare(p *piece.Piece, clip *piece.Clip, frame *Frame, kinds Lookup) *Harmony {
	lane, from := p.HarmonyOf(clip)
	if lane == nil {
		return nil
	}
	out := &Harmony{Lane: lane}
	if from != clip {
		kind := kinds(lane.Kind).(Harmonic)
		out.Lane, out.lending = kind.Borrowed(lane, p.KeyOf(from), p.KeyOf(clip)), from.Draw()
		if kind, ok := kind.(Shifting); ok && frame.Shift != 0 {
			out.Lane = kind.Shifted(out.Lane, p.KeyOf(clip), frame.Shift, false)
		}
	}
	out.in = inputFor(p, clip, out.Lane, frame, kinds)
	if out.lending != "" { // so that all that listen to one clip's chords, and that clip, hear the same
		out.in.Pattern = patternOf(p, clip, out.Lane, out.lending)
	}
	return out
}

func inputFor(p *piece.Piece, clip *piece.Clip, lane *piece.Lane, frame *Frame, kinds Lookup) *Input {
	return &Input{
		Frame: frame, Piece: p, Clip: clip, Lane: lane, Pattern: PatternOf(p, clip, lane),
		Part: Part{ID: lane.ID, Name: lane.Name, kind: kinds(lane.Kind)}, kinds: kinds,
	}
}

// FirstRound is what a lane's steps are played from where each stands first: its first round
// in the order in which it is played, or the slots of a clock, with every chance certain.
func FirstRound(p *piece.Piece, clip *piece.Clip, lane *piece.Lane, h *Harmony, clock *Clock, kinds Lookup) *Input {
	frame := &Frame{Key: p.KeyOf(clip), Bar: p.Bar(), PPQ: DefaultPPQ, Harmony: h, harmonic: h}
	in := inputFor(p, clip, lane, frame, kinds)
	in.Pattern.certain()
	frame.Length = in.Pattern.RoundLength()
	if in.Slots = in.Pattern.Slots(frame.Length); clock != nil {
		in.Slots = slices.Clone(clock.Slots)
	}
	for i := range in.Slots {
		in.Slots[i].Sounds = in.Pattern.cells[in.Slots[i].Step].On
	}
	return in
}

// ChordsOf lists the chords of a lane up to the performance's length, whether others
// listen to it or not; nil where its kind has none.
func (p *Performance) ChordsOf(lane *piece.Lane) []Beginning {
	kind, ok := p.kinds(lane.Kind).(Harmonic)
	if !ok {
		return nil
	}
	if p.Harmony != nil && p.Harmony.Lane == lane {
		return p.Harmony.Chords
	}
	return kind.Harmony(inputFor(p.Piece, p.Clip, lane, &p.Frame, p.kinds))
}

// fill works the chords out; nil when no step of the lane is on.
func (h *Harmony) fill() *Harmony {
	if h == nil {
		return nil
	}
	out := *h
	out.Chords = h.in.Part.kind.(Harmonic).Harmony(h.in)
	if len(out.Chords) == 0 {
		return nil
	}
	return &out
}

// HarmonyOf works out what a clip listens to up to a length; nil without chords. It works within a budget, whose
// end is also that of chords that are too many to keep.
func HarmonyOf(p *piece.Piece, clip *piece.Clip, length beat.Time, work *budget.Budget, kinds Lookup) *Harmony {
	frame := &Frame{Key: p.KeyOf(clip), Bar: p.Bar(), Length: length, PPQ: DefaultPPQ}
	out := prepare(p, clip, frame, kinds)
	if out != nil {
		most := int64(math.MaxInt64 / keptFor)
		if work != nil {
			most = mostForPeriods
		}
		out.in.meter = &meter{ration: &ration{budget: work, most: most}}
	}
	defer func() {
		problem := recover()
		if _, over := problem.(overEvents); over {
			budget.End(&budget.SpentError{Work: work.Limits().Work})
		} else if problem != nil {
			panic(problem)
		}
	}()
	return out.fill()
}

// At is the chord that sounds at a time; nil without harmony.
func (h *Harmony) At(at beat.Time) *Chord {
	if h == nil {
		return nil
	}
	i, found := slices.BinarySearchFunc(h.Chords, at, func(b Beginning, at beat.Time) int { return cmp.Compare(b.At, at) })
	if !found {
		i--
	}
	return h.Chords[max(i, 0)].Chord
}

// From is the chord that sounds at a time, and until when.
func (h *Harmony) From(at beat.Time) (*Chord, beat.Time) {
	i, found := slices.BinarySearchFunc(h.Chords, at, func(b Beginning, at beat.Time) int { return cmp.Compare(b.At, at) })
	if found {
		i++
	}
	if i >= len(h.Chords) {
		return h.Chords[len(h.Chords)-1].Chord, math.MaxInt64
	}
	return h.Chords[max(i-1, 0)].Chord, h.Chords[i].At
}

// Walk gives the chord at each of times that never go back.
func (h *Harmony) Walk() func(at beat.Time) *Chord {
	if h == nil {
		return func(beat.Time) *Chord { return nil }
	}
	next := 1
	return func(at beat.Time) *Chord {
		for next < len(h.Chords) && h.Chords[next].At <= at {
			next++
		}
		return h.Chords[next-1].Chord
	}
}

// Same tells whether two harmonies have the same chords at the same times.
func (h *Harmony) Same(other *Harmony) bool {
	if h == nil || other == nil {
		return h == other
	}
	return slices.EqualFunc(h.Chords, other.Chords, func(a, b Beginning) bool {
		return a.At == b.At && a.RootDegree == b.RootDegree && a.RootAlter == b.RootAlter && a.Symbol == b.Symbol && a.Numeral == b.Numeral &&
			slices.Equal(a.Pitches, b.Pitches)
	})
}

// Walked is where a note of a walk comes from.
func (n *Note) Walked() Walked { return n.trace.walked }

// IsHarmony tells whether the lane is the one that the clip listens to.
func (in *Input) IsHarmony() bool { return in.harmonic != nil && in.harmonic.Lane == in.Lane }

// SlotOf is the pattern of a note's lane, and its step's place in it, as far as draws and
// modulators ask.
func (p *Performance) SlotOf(part *Part, note *Note) (*Pattern, *Slot) {
	return p.Pattern(p.SourceOf(part)), &Slot{At: p.Grid(part, note), Step: note.Step - 1, Round: note.Round - 1}
}

// Pattern is the pattern of a lane of the clip that has one, worked out once for all that is told of
// its notes. What it works out as it is asked it keeps, so that one alone may ask at a time.
func (p *Performance) Pattern(lane *piece.Lane) *Pattern {
	if known, ok := p.patterns.Load(lane.ID); ok {
		return known.(*Pattern)
	}
	known, _ := p.patterns.LoadOrStore(lane.ID, PatternOf(p.Piece, p.Clip, lane))
	return known.(*Pattern)
}

// ChordOf is the chord that sounded where a note of a part stands on the grid.
func (p *Performance) ChordOf(part *Part, note *Note) *Chord {
	grid, _ := note.trace.grid(p.Piece.StepLength(p.SourceOf(part)))
	return p.Frame.stayed(&p.Clip.Lanes[part.Lane]).Harmony.At(grid)
}

// Grid is where a note's step stands.
func (p *Performance) Grid(part *Part, note *Note) beat.Time {
	grid, _ := note.trace.grid(p.Piece.StepLength(p.SourceOf(part)))
	return grid
}

// Onset is where a note stands on the grid: of a ratchet, where its repeat does.
func (p *Performance) Onset(part *Part, note *Note) beat.Time {
	_, grid := note.trace.grid(p.Piece.StepLength(p.SourceOf(part)))
	return grid
}
