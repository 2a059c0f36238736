// Package render turns a clip into a performance: the notes, bends and
// controller values that its file will hold, each with its reasons.
//
// What all kinds of lanes share is here, a file a stage, in the order in which
// the rules apply: slots (rounds unrolled, chance and rounds decided), then what
// a kind makes of them, join (ties and gates), glide, repeat (ratchet and
// nudge), groove, cut, wheel, channel. Every stage takes values and gives
// values; nothing depends on a clock or on global randomness. What a kind of
// lane does of its own it does behind the interface Kind.
package render

import (
	"math/big"
	"sync"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
)

// Performance is what a clip sounds like and what its file will hold.
type Performance struct {
	Piece *piece.Piece
	Clip  *piece.Clip
	Frame
	Opening bool      // only the clip's beginning: nothing can be said of its end
	Lanes   []Part    // the lanes that play, in the clip's order
	Setup   []Control // announces the zones of lanes whose notes glide each by itself, before all else
	cycle   func() Cycle
	kinds   Lookup

	patterns *sync.Map   // of its lanes, by their ids, as far as they were asked for
	telling  *sync.Mutex // of reasons: one alone asks at a time
}

// Cycle is when the clip's unmuted lanes meet again. It is worked out when it is first asked
// for: a file does not need it.
func (p *Performance) Cycle() Cycle { return p.cycle() }

// Frame is what all lanes of a performance share.
type Frame struct {
	Key    pitch.Key
	Length beat.Time // of the clip; nothing sounds after it
	Bar    beat.Time
	Swing  beat.Swing
	Feel   Feel
	PPQ    int // ticks a quarter note that reasons and wheel positions are made for

	// Harmony is what lanes listen to; nil: nothing.
	Harmony  *Harmony
	harmonic *Harmony // the same while its chords are not worked out
	still    *Harmony // the same as if nothing were shifted
	// Shift is by how many degrees pitched lanes and chords are moved.
	Shift        int
	stepsUntil   beat.Time // up to where steps are played; 0: to the end
	grooveLength beat.Time // up to where the template moves notes; 0: to the end
	ways         bool      // how the wheel goes is told
}

// Tick is the length of one tick.
func (f *Frame) Tick() beat.Time { return beat.Of(1, f.PPQ) }

// Part is what one lane plays. Its lists are in order of time.
type Part struct {
	Lane     int // index in the clip
	ID, Name string
	Channel  int   // 1..16
	Empty    bool  // it has no note in its loop, and makes no track
	Range    int   // of the bend wheel, semitones
	Zone     *Zone // whose notes glide each by itself; nil: they share the lane's channel
	Notes    []Note
	Bends    []Bend
	Controls []Control
	// Pressures is the channel's pressure.
	Pressures []Pressure
	Marks     []Mark
	Outside   []uint8 // the pitches that its range moved or left out, MIDI, rising
	Reach     *Reach  // of a control lane that follows another
	Clock     *Clock  // nil: the lane is clocked by its rate
	Ways      []Way   // of its notes, where that was asked for and the wheel moves
	kind      Kind
	wheels    [][]Bend // of notes that have wheels of their own
	met       met      // what lanes that share the channel did to the notes
	borrowed  bool     // the notes are an earlier performance's, too
}

// Clock is the slots of a lane that another lane's onsets clock.
type Clock struct {
	Slots   []Slot
	Lengths []beat.Time
}

// Note is one sounding note.
type Note struct {
	At, End  beat.Time
	Step     int32 // that started it, from 1
	Round    int32 // of the lane, from 1
	Pitch    uint8 // MIDI
	Velocity uint8 // 1..127
	Channel  uint8 // its own, 1..16; 0: the lane's
	trace    trace
}

// Bend sets the wheel to Value, -8192..8191.
type Bend struct {
	At      beat.Time
	Value   int16
	Channel uint8 // its own, 1..16; 0: the lane's
}

// Control sets a controller to a value, both 0..127.
type Control struct {
	At                beat.Time
	Controller, Value uint8
	Channel           uint8 // its own, 1..16; 0: the lane's
}

// Pressure sets the channel's pressure, 0..127.
type Pressure struct {
	At    beat.Time
	Value uint8
}

// Mark is something that a rule had to do to a step which the player should
// know of.
type Mark struct {
	Kind MarkKind
	Step int // from 1
	Want int // semitones asked for, or the MIDI pitch before folding
}

// MarkKind says what a Mark is about.
type MarkKind int

// The kinds of marks.
const (
	GlideBeyondRange MarkKind = iota // the wheel was held at its range
	PitchFolded                      // a pitch was folded into 0..127
	GlideLeftOut                     // a fresh start has nothing to glide from
	OutsideRange                     // so many pitches were outside the lane's range
	VoicesTaken                      // more notes than its zone has channels; how many were ended
	Clamped                          // a modulator went beyond its field, the Field being what it wants
)

// mark keeps one mark a step and kind: the greatest.
func (part *Part) mark(m Mark) {
	for i := range part.Marks {
		if old := &part.Marks[i]; old.Kind == m.Kind && old.Step == m.Step {
			old.Want = max(old.Want, m.Want)
			return
		}
	}
	part.Marks = append(part.Marks, m)
}

// Mark notes something about a step; kinds use it for their own rules.
func (part *Part) Mark(kind MarkKind, step, want int) { part.mark(Mark{kind, step, want}) }

// Cycle is when the clip's unmuted lanes meet again.
type Cycle struct {
	beat.Cycle
	Periods []Period
}

// Period is how long one lane takes to repeat, in Time units; zero when nothing
// of it is active. It may be beyond any machine number.
type Period struct {
	ID   string
	Time *big.Int
}

// Over tells whether the lanes take longer than beat.MaxBars bars to realign.
func (c Cycle) Over() bool { return c.Cycle.Over(c.Realign) }

// BarsLong is the performance's length in bars, exact.
func (p *Performance) BarsLong() *big.Rat { return big.NewRat(int64(p.Length), int64(p.Bar)) }

// On is the MIDI channel of an event of the part: its own, or else the lane's.
func (part *Part) On(own uint8) int {
	if own != 0 {
		return int(own)
	}
	return part.Channel
}

// Name spells the note in the key: "F#2".
func (p *Performance) Name(n *Note) string { return p.Key.Named(int(n.Pitch)) }

// EndPitch is the MIDI pitch at which the note ends: the wheel may have taken it
// to that of a step tied to it.
func (n *Note) EndPitch() int { return int(n.trace.ends) }

// Span is a note's position and length in ticks of a resolution: each end
// rounded once, never shorter than one tick, and within the clip.
func (p *Performance) Span(n *Note, ppq int) (at, length int64) { return p.span(n.At, n.End, ppq) }

// Written gives the notes of a part as a file of a resolution holds them, in order,
// and returns how many it leaves out: of two notes of one pitch that fall on one
// tick, as of two at once, the earlier does not sound.
func (p *Performance) Written(part *Part, ppq int, each func(note *Note, at, length int64)) (left int) {
	far := beat.Of(2, ppq) // notes so far apart share no tick, at the clip's end either
	end := p.Length.Export(ppq)
next:
	for i := range part.Notes {
		note := &part.Notes[i]
		at, length := spanned(note.At, note.End, ppq, end)
		for k := i + 1; k < len(part.Notes) && part.Notes[k].At-note.At < far; k++ {
			later := &part.Notes[k]
			if later.At != note.At && min(later.At.Export(ppq), end-1) != at {
				break
			}
			if later.Pitch == note.Pitch && later.Channel == note.Channel {
				left++
				continue next
			}
		}
		each(note, at, length)
	}
	return left
}

// SpanOf is the same at the frame's resolution.
func (f *Frame) SpanOf(n *Note) (at, length int64) { return f.span(n.At, n.End, f.PPQ) }

func (f *Frame) span(from, to beat.Time, ppq int) (at, length int64) {
	return spanned(from, to, ppq, f.Length.Export(ppq))
}

// spanned is the same in a clip that ends at a tick.
func spanned(from, to beat.Time, ppq int, end int64) (at, length int64) {
	at = min(from.Export(ppq), end-1)
	return at, max(min(to.Export(ppq), end)-at, 1)
}
