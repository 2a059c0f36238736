package render

import (
	"fmt"
	"math/big"
	"slices"
	"strings"
	"sync"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/budget"
	"agrimony/internal/core/piece"
)

// MaxEvents is the largest number of events (notes, wheel positions, controller
// values) that a performance may have.
const MaxEvents = 4_000_000

// DefaultPPQ is the resolution where none is given, in ticks a quarter note.
const DefaultPPQ = 960

// Options say how long to render. The zero value takes the clip's own length.
type Options struct {
	Bars    int    // 1..1024; 0 leaves it to Until
	Until   string // "cycle" or "realign"
	Lanes   []string
	PPQ     int    // ticks a quarter note of wheel positions and reasons; 0: 960
	Events  int64  // the most events allowed; 0: MaxEvents
	Ways    bool   // how the wheel goes through each note is told, too
	Opening bool   // Bars is less than the clip is long: its end is not the clip's
	Cycle   *Cycle // the clip's, where it is known already
	Rough   bool   // of too many events it is enough to know that they are
	Budget  *budget.Budget
	Before  *Performance // of an earlier state of the piece: lanes that are the same are taken from it

	Pass // all zero: the clip is rendered alone
}

// Pass is what the running order asks for of a pass of a clip.
type Pass struct {
	// Length is how long it sounds, whatever Bars, Until and the clip say; 0: as they do.
	Length beat.Time
	// StepsUntil is up to where steps are played; 0: to the end.
	StepsUntil beat.Time
	// SwingLength is how long it is for the swing, which leaves half pairs at its end straight; 0: as long as it sounds.
	SwingLength beat.Time
	// GrooveLength is how long it is for the groove's template, which moves notes as far as they stay in it; 0: as long
	// as it sounds.
	GrooveLength beat.Time
	Shift        int    // by how many degrees pitched lanes and chords are moved
	Apart        bool   // lanes that share a channel do not end each other's notes
	Lent         []Lent // how a clip that lends its harmony draws it
	// Zones are those of lanes, by their places, whose notes glide each by itself: 1 the lower, 2 the upper. nil:
	// as the clip gives them alone.
	Zones map[int]int
}

// Check refuses options with which no clip could be rendered: a number of bars out of
// 1..1024 (0 stands for none), an unknown Until or resolution.
func (o Options) Check() error {
	switch {
	case o.Bars != 0 && (o.Bars < 1 || o.Bars > beat.MaxBars):
		return BarsOutOfRange(o.Bars)
	case o.Until != "" && !slices.Contains(piece.Untils, o.Until):
		return fmt.Errorf("until: %q is not allowed; allowed: %s", o.Until, strings.Join(piece.Untils, ", "))
	case !slices.Contains(beat.Resolutions, o.PPQ):
		return fmt.Errorf("ppq: %d is not allowed; allowed: 96, 480, 960", o.PPQ)
	}
	return nil
}

// BarsOutOfRange says so of a number of bars that was asked for.
func BarsOutOfRange(bars int) error {
	return fmt.Errorf("bars: %d is out of range; allowed: 1..%d", bars, beat.MaxBars)
}

// TooLongError says that a cycle is longer than can be rendered.
type TooLongError struct {
	Until string
	Bars  string // exact
}

func (e *TooLongError) Error() string {
	what := "the lanes' full cycle"
	if e.Until == "realign" {
		what = "the time until the lanes meet the bar"
	}
	return fmt.Sprintf("%s is %s bars, over %d; state a number of bars instead (1..%d)", what, e.Bars, beat.MaxBars, beat.MaxBars)
}

// TooManyError says that a performance would have more events than allowed.
type TooManyError struct {
	Events int64 // about how many it would have
	Most   int64
	Lane   string // the name of the one that makes most of them
	kept   bool   // what was too much is what is kept on the way
}

func (e *TooManyError) Error() string {
	return fmt.Sprintf(
		"this would make about %d events (notes, wheel positions, controller values), over %d, most of them in %q; choose fewer bars or lanes",
		e.Events,
		e.Most,
		e.Lane,
	)
}

// Kind is what rendering asks of a kind of lane.
type Kind interface {
	// Play plays a lane. It may be called at once for lanes that do not need
	// each other. What it makes and works it counts as it does, by the input's Made and
	// Worked; those may end it.
	Play(in *Input) Part
	// Period is how long a lane takes to repeat; zero when nothing is active.
	Period(in *Input) *big.Int
	// Reasons tells how a note came to its pitch.
	Reasons(p *Performance, part *Part, lane *piece.Lane, note *Note) []Reason
}

// Lookup finds a kind of lane by its name.
type Lookup func(kind string) Kind

// Input is what a kind gets to play a lane from.
type Input struct {
	*Frame
	Piece   *piece.Piece
	Clip    *piece.Clip
	Lane    *piece.Lane
	Pattern *Pattern
	Slots   []Slot                // only while Play runs
	Part    Part                  // with what all kinds fill in alike
	Played  func(id string) *Part // the part of a lane that this one needs
	kinds   Lookup
	meter   *meter // of what the lane makes; nil: nobody counts
	sums    *sums  // while periods are worked out
	// others gives what other lanes are played from where that is not as the clip has
	// them; nil: it is.
	others  func(id string) *Input
	reshape func(notes []Note, single bool) []Note // what layers make of the notes before the groove; nil: none are over it
}

// Clip renders a clip of a checked piece. The error is a *TooLongError, a *TooManyError, a
// *budget.SpentError, a *BrokenError, that of a budget for whose answer nobody waits, or says
// that Bars, Until or a lane's id is not allowed.
func Clip(p *piece.Piece, clip *piece.Clip, options Options, kinds Lookup) (out *Performance, err error) {
	defer budget.Catch(&err)
	if options.PPQ == 0 {
		options.PPQ = DefaultPPQ
	}
	if err := options.Check(); err != nil {
		return nil, err
	}
	var still *Harmony
	if options.Shift != 0 {
		still = prepare(p, clip, &Frame{}, kinds)
		clip = shifted(p, clip, options.Shift, kinds)
	}
	out = &Performance{Piece: p, Clip: clip, Opening: options.Opening, kinds: kinds, patterns: &sync.Map{}, telling: &sync.Mutex{}}
	out.Frame.Shift = options.Shift
	inputs := inputsOf(p, clip, &out.Frame, kinds)
	for i, in := range inputs {
		if options.Zones != nil {
			in.Part.Zone = zoneOf(clip, in.Lane, options.Zones[i])
		}
		if in.Part.Zone != nil && !options.Apart {
			in.Part.Zone.roomy(besides(clip))
		}
	}
	out.cycle = sync.OnceValue(func() Cycle {
		if options.Cycle != nil {
			return *options.Cycle
		}
		return CycleOf(p, clip, PeriodWork(), kinds)
	})
	length := options.Length
	if length == 0 {
		if length, err = lengthOf(clip, out.Cycle, p.Bar(), options); err != nil {
			return nil, err
		}
	}
	harmonic := out.Frame.harmonic
	out.Frame = frame(p, clip, length, options.PPQ)
	out.Frame.harmonic, out.Frame.ways = harmonic, options.Ways
	out.Frame.Shift, out.Frame.stepsUntil, out.Frame.grooveLength = options.Shift, options.StepsUntil, options.GrooveLength
	if options.SwingLength > 0 {
		out.Swing.Length = options.SwingLength
	}
	wanted, err := audible(clip, options.Lanes)
	if err != nil {
		return nil, err
	}
	turns := inTurn(clip, wanted)
	shared := &ration{budget: options.Budget, most: options.Events, by: map[string]int64{}}
	if shared.most == 0 {
		shared.most = MaxEvents
	}
	if harmonic != nil {
		harmonic.in.meter = &meter{ration: shared, lane: harmonic.Lane.Name, unheard: true}
		shared.guard(harmonic.Lane.Name, harmonic.in.meter, func() {
			out.Harmony = harmonic.filled(options.Lent)
			if out.still = out.Harmony; still != nil {
				stays := out.Frame
				stays.Shift = 0
				still.in.Frame, still.in.meter = &stays, harmonic.in.meter
				out.still = still.filled(options.Lent)
			}
		})
	}
	parts := make([]Part, len(clip.Lanes))
	played := func(id string) *Part {
		for i := range clip.Lanes {
			if clip.Lanes[i].ID == id {
				return &parts[i]
			}
		}
		return nil
	}
	AtOnce(len(turns), func(k int) {
		turn := &turns[k]
		defer close(turn.done)
		in, part := inputs[turn.lane], &parts[turn.lane]
		for _, need := range turn.after {
			<-need
		}
		if shared.ended.Load() {
			return
		}
		if was := out.reusable(options.Before, in); was != nil {
			*part = *was
			part.Lane, part.Channel = in.Part.Lane, in.Part.Channel
			return
		}
		in.Played, in.meter = played, &meter{ration: shared, lane: in.Part.Name, unheard: !wanted[turn.lane]}
		shared.guard(in.Part.Name, in.meter, func() {
			in.Frame = in.Frame.Grooved(p, clip, in.Lane).stayed(in.Lane)
			*part = in.play(in.Part.kind)
			in.Pattern.noteClamped(part)
			if in.Pattern != nil && in.Pattern.free != nil {
				out.patterns.Store(in.Lane.ID, in.Pattern)
			}
		})
	})
	if many, ok := shared.failed.(*TooManyError); ok {
		many.Lane, many.Events = shared.largest()
		if !options.Rough {
			many.estimate(out, options)
		}
		if many.kept && many.Events <= many.Most { // it is not the events that are too many
			shared.failed = &budget.SpentError{Work: keptFor * many.Most}
		}
	}
	if shared.failed != nil {
		return nil, shared.failed
	}
	for i := range parts {
		if wanted[i] {
			out.Lanes = append(out.Lanes, parts[i])
		}
	}
	if !options.Apart {
		out.zoned(clip)
		out.channels()
	}
	return out, nil
}

// Listens tells whether a lane's notes depend on the sounding chord.
func Listens(lane *piece.Lane) bool {
	return lane.Listens()
}

// play plays a lane with its rounds unrolled.
func (in *Input) play(kind Kind) Part {
	if in.Pattern != nil {
		room := slotRooms.Get().(*[]Slot)
		defer slotRooms.Put(room)
		*room = in.playedSlots(kind, (*room)[:0])
		in.Slots = *room
		defer func() { in.Slots = nil }()
	}
	return kind.Play(in)
}

// slotRooms is memory for slots, which live only while their lane is played.
var slotRooms = sync.Pool{New: func() any { return new([]Slot) }}

// inputsOf prepares what each lane is played from, as far as the clip's length does
// not matter.
func inputsOf(p *piece.Piece, clip *piece.Clip, frame *Frame, kinds Lookup) []*Input {
	frame.harmonic = prepare(p, clip, frame, kinds)
	given, zones := Channels(clip), ZonesOf(clip)
	inputs := make([]*Input, len(clip.Lanes))
	for i := range clip.Lanes {
		lane := &clip.Lanes[i]
		inputs[i] = &Input{
			Frame: frame, Piece: p, Clip: clip, Lane: lane, kinds: kinds,
			Part: Part{Lane: i, ID: lane.ID, Name: lane.Name, Channel: given[i], Empty: Empty(p, clip, lane), kind: kinds(lane.Kind)},
		}
		inputs[i].Part.Zone = zoneOf(clip, lane, zones[i])
		if HasPattern(lane) {
			inputs[i].Pattern = PatternOf(p, clip, lane)
		}
	}
	return inputs
}

// zoneOf is a zone as a lane has it, by its number: 1 the lower, 2 the upper; nil of 0.
func zoneOf(clip *piece.Clip, lane *piece.Lane, zone int) *Zone {
	if zone == 0 {
		return nil
	}
	return &Zone{Upper: zone == piece.MaxZones, Range: piece.GlideModeOf(piece.SourceOf(clip, lane)).Range}
}

func frame(p *piece.Piece, clip *piece.Clip, length beat.Time, ppq int) Frame {
	out := Frame{Key: p.KeyOf(clip), Bar: p.Bar(), Length: length, PPQ: ppq}
	out.Feel = feelOf(&p.Groove, piece.Share{Timing: 100, Velocity: 100})
	if p.Groove.Swing > 50 {
		grid, err := beat.Rate(p.Groove.Grid, beat.Meter{Count: 4, Unit: 4})
		if err != nil {
			panic(err) // a checked piece has a grid
		}
		out.Swing = beat.Swing{Percent: p.Groove.Swing, Grid: grid, Bar: out.Bar, Length: length}
	}
	return out
}

// sample is how many events a beginning may have from which it is told how many the whole
// would.
const sample = 1 << 17

// estimate tells from the beginning of a clip about how many events the whole would have, and
// which lane makes most of them.
func (e *TooManyError) estimate(p *Performance, options Options) {
	options.Rough, options.Opening, options.Until, options.Before, options.Events = true, true, "", nil, sample
	whole := int64(p.Length / p.Bar)
	for bars := whole / 64; ; bars /= 8 {
		options.Bars = int(max(bars, 1))
		beginning, err := Clip(p.Piece, p.Clip, options, p.kinds)
		if err == nil {
			most, total := int64(-1), int64(0)
			for i := range beginning.Lanes {
				part := &beginning.Lanes[i]
				made := int64(len(part.Notes) + len(part.Bends) + len(part.Controls) + len(part.Pressures))
				if total += made; made > most {
					most, e.Lane = made, part.Name
				}
			}
			e.Events = max(e.Events, total*whole/int64(options.Bars))
			return
		}
		if bars <= 1 {
			return
		}
	}
}

func lengthOf(clip *piece.Clip, cycleOf func() Cycle, bar beat.Time, options Options) (beat.Time, error) {
	bars, until := options.Bars, options.Until
	if bars == 0 && until == "" {
		bars, until = clip.Bars, clip.Until
	}
	if bars != 0 {
		return beat.Time(bars) * bar, nil
	}
	cycle := cycleOf()
	total := cycle.Full
	if until == "realign" {
		total = cycle.Realign
	}
	if cycle.Cycle.Over(total) {
		bars := new(big.Rat).SetFrac(total, big.NewInt(int64(bar)))
		return 0, &TooLongError{until, bars.RatString()}
	}
	return beat.Time(total.Int64()), nil
}

// CycleOf works out when the clip's unmuted lanes meet, within so much work: a period that
// would take more is a multiple of the shortest.
func CycleOf(p *piece.Piece, clip *piece.Clip, work *budget.Budget, kinds Lookup) Cycle {
	return cycleOf(p, inputsOf(p, clip, &Frame{Key: p.KeyOf(clip), Bar: p.Bar()}, kinds), work)
}

func cycleOf(p *piece.Piece, inputs []*Input, work *budget.Budget) Cycle {
	var out Cycle
	var periods []*big.Int
	known := newSums(work)
	for _, in := range inputs {
		if in.Lane.Mute || in.Part.Empty {
			continue
		}
		in.sums = known
		period := in.Part.kind.Period(in)
		periods = append(periods, period)
		out.Periods = append(out.Periods, Period{in.Lane.ID, period})
	}
	out.Cycle = beat.Meet(periods, p.Bar())
	return out
}
