// Package view works out all that a screen needs to draw and play a clip: its
// lanes unrolled, ladders, names, the performance and the review. A screen only
// draws, hit-tests and plays what stands here.
package view

import (
	"errors"
	"fmt"
	"sync"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/budget"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
	"agrimony/internal/core/review"
)

// PPQ is the resolution of all positions in a view, in ticks a quarter note.
const PPQ = 960

// Bounds of what a view holds; the file of a longer clip still holds all of it.
const (
	MaxBars   = 128
	maxSlots  = 200_000
	maxEvents = 400_000
	mostBytes = 4_500_000 // by estimate
)

// The rows of a clip's own ladder, in MIDI pitches: C2 to C6.
const (
	lowestFresh  = 36
	highestFresh = 84
)

// Clip is a clip ready to be drawn and played.
type Clip struct {
	ID        string           `json:"id"`
	Key       string           `json:"key"`      // "F♯ dorian"
	KeyNotes  []string         `json:"keyNotes"` // with real signs
	Ladder    []pitch.Rung     `json:"ladder"`   // the key's notes around the middle, as a new lane would place them
	OwnKey    bool             `json:"ownKey"`
	Ticks     int64            `json:"ticks"` // length of what is shown
	Reach     int64            `json:"reach"` // how far the sheet goes: further where an empty lane is longer than the clip
	BarTicks  int64            `json:"barTicks"`
	BeatTicks int64            `json:"beatTicks"`
	Groove    []Grooved        `json:"groove"`  // the sixteenths of a bar
	Bars      string           `json:"bars"`    // the clip's exact length in bars, "7" or "21/4"
	Lasts     string           `json:"lasts"`   // the same in words: "7 bars", "5 bars and 1 beat"
	Whole     bool             `json:"whole"`   // false: the clip is longer than what is shown
	Realign   string           `json:"realign"` // when the lanes meet, in words
	MeetTicks int64            `json:"meetTicks"`
	TooLong   string           `json:"tooLong"` // why the clip's own length cannot be rendered; empty: it can
	Lanes     []*Lane          `json:"lanes" tstype:"Lane[]"`
	Setup     []Control        `json:"setup"` // announces zones of channels, before all else
	Findings  []render.Finding `json:"findings"`
	Harmony   *Harmony         `json:"harmony" tstype:"Harmony | null,required"`

	performance *render.Performance
	thumb       func() *Thumb
}

// Grooved is where a sixteenth of a bar falls, in ticks of the bar, and how much harder it is
// struck.
type Grooved struct {
	At       int64 `json:"at"`
	Velocity int   `json:"velocity"`
}

// grooved tells how the groove moves the sixteenths of a bar.
func grooved(performance *render.Performance) []Grooved {
	out := []Grooved{}
	for at := beat.Time(0); at < performance.Bar; at += beat.Quarter / 4 {
		moved, velocity := performance.Moves(at)
		out = append(out, Grooved{moved.Export(PPQ), velocity})
	}
	return out
}

// Events is how many notes, wheel positions, controller values and pressures the view has.
func (c *Clip) Events() (count int) {
	for _, l := range c.Lanes {
		count += len(l.Notes) + len(l.Bends) + len(l.Controls) + len(l.Pressures)
	}
	return count
}

// Performance is what the view shows.
func (c *Clip) Performance() *render.Performance { return c.performance }

// perform renders a clip for the screen: its own length as far as the bounds
// allow, and otherwise its beginning.
func perform(p *piece.Piece, clip *piece.Clip, before *render.Performance, most Bounds) (performance *render.Performance, whole bool, tooLong string, err error) {
	limit := min(barLimit(p, clip), most.bars)
	cycle := lane.CycleWithin(p, clip, most.answer.Part(most.periods))
	bars := clip.Bars
	if bars == 0 {
		length := cycle.Realign
		if clip.Until == "cycle" {
			length = cycle.Full
		}
		switch {
		case cycle.Cycle.Over(length):
			_, err := lane.Render(p, clip, render.Options{Cycle: &cycle})
			var long *render.TooLongError
			if !errors.As(err, &long) {
				return nil, false, "", err
			}
			tooLong = long.Error()
			bars = limit + 1
		case length.Int64() > int64(p.Bar())*int64(limit):
			bars = limit + 1
		}
	}
	whole = bars <= limit
	options := render.Options{Events: most.events, Before: before, Cycle: &cycle}
	if most.only != "" {
		options.Lanes = []string{most.only}
	}
	bare := false // nothing of it is rendered any more: not even a bar fits
	if !whole {
		options.Bars, options.Opening = limit, true
	}
	shown := limit // bars that are tried
	if whole && bars > 0 {
		shown = bars
	} else if whole {
		shown = int((cycle.Full.Int64() + int64(p.Bar()) - 1) / int64(p.Bar()))
	}
	work := most.work
	for {
		options.Budget = most.answer.Part(work)
		performance, err = lane.Render(p, clip, options)
		var many *render.TooManyError
		var spent *budget.SpentError
		if err == nil && !bare {
			if size := sizeOf(performance, most.only); size > most.bytes { // about so many bars fit
				whole, options.Opening = false, true
				if shown == 1 {
					options.Lanes, bare = []string{}, true
				}
				shown = int(max(min(int64(shown)*most.bytes*9/10/size, int64(shown)-1), 1))
				options.Bars = shown
				continue
			}
		}
		if !errors.As(err, &many) && !errors.As(err, &spent) || bare {
			return performance, whole, tooLong, err
		}
		if work > 2*leastWork { // each attempt may take half of what the one before took
			work /= 2
		}
		if shown == 1 { // not even a bar can be shown
			options.Lanes, bare = []string{}, true
		}
		shown = max(shown/2, 1)
		if whole = false; !options.Rough {
			tooLong = err.Error()
			if many != nil { // about so many fit
				shown = int(max(min(int64(shown), 2*int64(shown)*most.events*4/5/many.Events), 1))
			}
		}
		options.Opening, options.Rough, options.Bars = true, true, shown
	}
}

// leastWork is what an attempt at a view may take at the least.
const leastWork = 500_000

// About how many bytes a view has for a slot, for what each alternative or modulator makes of it, and for each
// event.
const (
	slotBytes  = 30
	movedBytes = 24
	noteBytes  = 115
	slideBytes = 60
	eventBytes = 45
)

// sizeOf is about how many bytes the view of a performance has, or of one of its lanes only.
func sizeOf(performance *render.Performance, only string) (size int64) {
	for i := range performance.Clip.Lanes {
		own := &performance.Clip.Lanes[i]
		if only != "" && own.ID != only {
			continue
		}
		slots := int64(performance.Length/performance.Piece.StepLength(own)) + 1
		if own.Content.StepList() != nil {
			each := slotBytes + movedBytes*len(own.Modulators)
			if len(own.Odds) > 0 {
				each += 2 * movedBytes
			}
			size += slots * int64(each)
		}
	}
	for i := range performance.Lanes {
		part := &performance.Lanes[i]
		note := int64(noteBytes)
		if part.Zone != nil {
			note += slideBytes
		}
		size += note*int64(len(part.Notes)) + eventBytes*int64(len(part.Bends)+len(part.Controls)+len(part.Pressures))
	}
	return size
}

// Alone makes the view of one lane of a clip, as much of its beginning as fits within bounds; whole reports
// whether that is all of the clip.
func Alone(p *piece.Piece, clip *piece.Clip, own *piece.Lane, most Bounds) (out *Lane, performance *render.Performance, whole bool, err error) {
	most.only = own.ID
	performance, whole, _, err = perform(p, clip, nil, most)
	if err != nil {
		return nil, nil, false, err
	}
	var part *render.Part
	if len(performance.Lanes) > 0 {
		part = &performance.Lanes[0]
	}
	return laneOf(performance, own, part), performance, whole, nil
}

// Fitting renders as much of a clip's beginning as fits within bounds; whole reports whether that is all of it.
func Fitting(p *piece.Piece, clip *piece.Clip, most Bounds) (performance *render.Performance, whole bool, err error) {
	performance, whole, _, err = perform(p, clip, nil, most)
	return performance, whole, err
}

func barLimit(p *piece.Piece, clip *piece.Clip) int {
	slots := beat.Time(0)
	for i := range clip.Lanes {
		slots += p.Bar()/p.StepLength(&clip.Lanes[i]) + 1
	}
	return max(1, min(MaxBars, maxSlots/int(max(slots, 1))))
}

// Bounds of what a view may cost, within what is left of the answer that it is for.
type Bounds struct {
	bars    int
	events  int64
	work    int64  // of each attempt
	periods int64  // of working out when the lanes meet
	bytes   int64  // of what is shown
	only    string // the id of the one lane that is rendered; empty: all are
	answer  *budget.Budget
}

// Whole are the bounds of a view that is shown.
func Whole(answer *budget.Budget) Bounds {
	return Bounds{MaxBars, maxEvents, 16_000_000, 1_500_000, mostBytes, "", answer}
}

// Share are the bounds of one of so many views that share an answer.
func Share(answer *budget.Budget, views int) Bounds {
	n := int64(max(views, 1))
	return Bounds{MaxBars, max(sharedEvents/n, 500), max(sharedWork/n, 200_000), max(sharedWork/10/n, 20_000), mostBytes / n, "", answer}
}

// What several views have together.
const (
	sharedEvents = 60_000
	sharedWork   = 16_000_000
)

// Trial are the bounds of a view that is made only to see that it can be.
func Trial(answer *budget.Budget) Bounds {
	return Bounds{1, 5_000, 300_000, 200_000, mostBytes, "", answer}
}

// Of makes the view of a clip. Lanes that are the same as in before, a view of an
// earlier state or nil, are taken from there: they are the same pointers.
func Of(p *piece.Piece, clip *piece.Clip, before *Clip) (*Clip, error) {
	return Within(p, clip, before, Whole(nil))
}

// Within is the same within bounds: where they do not allow the whole clip its beginning is
// shown. The error is that of the answer's budget, or a
// *render.BrokenError.
func Within(p *piece.Piece, clip *piece.Clip, before *Clip, most Bounds) (*Clip, error) {
	var earlier *render.Performance
	if before != nil {
		earlier = before.performance
	}
	performance, whole, tooLong, err := perform(p, clip, earlier, most)
	if err != nil {
		return nil, err
	}
	key := performance.Key
	out := &Clip{
		ID: clip.ID, Key: pitch.Pretty(key.String()), OwnKey: clip.Key != nil,
		Ticks: performance.Length.Export(PPQ), BarTicks: p.Bar().Export(PPQ), BeatTicks: p.BeatLength().Export(PPQ), Groove: grooved(performance),
		Bars: lengthInBars(performance, clip, whole), Whole: whole, TooLong: tooLong,
		Lanes: make([]*Lane, len(clip.Lanes)), Findings: review.Clip(performance), performance: performance,
	}
	out.Lasts = BarsInWords(p, out.Bars)
	fresh := piece.NewLane(piece.DefaultKind, "", "")
	out.Ladder = key.Ladder(piece.PitchedOf(&fresh).Octave, lowestFresh, highestFresh, false)
	for _, name := range key.Names() {
		out.KeyNotes = append(out.KeyNotes, pitch.Pretty(name.String()))
	}
	out.Harmony = harmonyOf(performance)
	out.Setup = SetupOf(performance.Setup)
	out.Realign, out.MeetTicks = meeting(p, performance.Cycle())
	channels := render.Channels(clip)
	parts := make([]*render.Part, len(clip.Lanes))
	for i := range performance.Lanes {
		parts[performance.Lanes[i].Lane] = &performance.Lanes[i]
	}
	for i := range clip.Lanes {
		if same := unchanged(before, performance, &clip.Lanes[i], parts[i], channels[i]); same != nil {
			out.Lanes[i] = same
			continue
		}
		out.Lanes[i] = laneOf(performance, &clip.Lanes[i], parts[i])
		out.Lanes[i].Channel = channels[i]
	}
	out.thumb = sync.OnceValue(func() *Thumb { return thumbOf(out) })
	out.Reach = out.Ticks
	for _, l := range out.Lanes {
		out.Reach = max(out.Reach, l.Until)
	}
	return out, nil
}

// untilOf is how far a lane is shown: an empty one, which counts for no cycle, for a round of
// it at least, in whole bars.
func untilOf(performance *render.Performance, own *piece.Lane) beat.Time {
	if steps := own.Content.StepList(); steps == nil || !render.Empty(performance.Piece, performance.Clip, own) {
		return performance.Length
	}
	bar := performance.Bar
	round := performance.Pattern(own).RoundLength()
	bars := min((round+bar-1)/bar, beat.Time(barLimit(performance.Piece, performance.Clip)))
	return max(performance.Length, bars*bar)
}

// unchanged finds a lane's earlier view, where nothing that it shows has changed.
func unchanged(before *Clip, now *render.Performance, own *piece.Lane, part *render.Part, channel int) *Lane {
	if before == nil {
		return nil
	}
	lane, ok := now.Unchanged(own, before.performance)
	if !ok {
		return nil
	}
	shown := before.Lanes[lane]
	if shown.Channel != channel || shown.Audible != (part != nil) {
		return nil
	}
	if part != nil && !part.SameNotes(before.performance.PartOf(lane)) {
		return nil // another lane on its channel cuts it otherwise
	}
	return shown
}

func lengthInBars(performance *render.Performance, clip *piece.Clip, whole bool) string {
	switch {
	case whole:
		return performance.BarsLong().RatString()
	case clip.Bars != 0:
		return fmt.Sprint(clip.Bars)
	}
	return performance.Cycle().RealignBars().String()
}

// meeting says in words when the lanes meet again.
func meeting(p *piece.Piece, cycle render.Cycle) (text string, ticks int64) {
	if len(cycle.Periods) == 0 {
		return "No lane plays yet", 0
	}
	bars := func(n string) string { return BarsInWords(p, n) }
	realign := cycle.RealignBars().String()
	if len(realign) > 9 {
		about, _ := cycle.RealignBars().Float64()
		return fmt.Sprintf("All lanes meet again only after %.2e bars", about), 0
	}
	if cycle.Over() {
		return "All lanes meet on a bar again only after " + bars(realign), 0
	}
	if exact := beat.ExportBig(cycle.Full, PPQ); exact != nil {
		ticks = *exact
	}
	if full := cycle.Bars(); full != realign {
		return fmt.Sprintf("All lanes meet again after %s, and on a bar line after %s", bars(full), bars(realign)), ticks
	}
	return "All lanes meet again after " + bars(realign), ticks
}

// SetupOf shows what announces zones.
func SetupOf(setup []render.Control) []Control {
	out := []Control{}
	for _, c := range setup {
		out = append(out, Control{Controller: int(c.Controller), Value: int(c.Value), Channel: int(c.Channel)})
	}
	return out
}
