package render

import (
	"fmt"
	"math/big"
	"runtime"
	"sync"
	"sync/atomic"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/piece"
)

// Options say how long to render. The zero value takes the clip's own length.
type Options struct {
	Bars  int    // 1..1024; 0 leaves it to Until
	Until string // "cycle" or "realign"
	Lanes []string
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

// Clip renders a clip of a checked piece. The error is a *TooLongError, or says
// that Bars or a lane's id is not allowed.
func Clip(p *piece.Piece, clip *piece.Clip, options Options) (*Performance, error) {
	out := &Performance{Key: p.KeyOf(clip), Bar: p.Bar(), Cycle: CycleOf(p, clip)}
	var err error
	if out.Length, err = length(clip, out.Cycle, out.Bar, options); err != nil {
		return nil, err
	}
	if p.Groove.Swing > 50 {
		grid, err := beat.Rate(p.Groove.Grid, beat.Meter{Count: 4, Unit: 4})
		if err != nil {
			return nil, err
		}
		out.Swing = beat.Swing{Percent: p.Groove.Swing, Grid: grid}
	}
	wanted, err := audible(clip, options.Lanes)
	if err != nil {
		return nil, err
	}
	channels := Channels(clip)
	var lanes []int
	for i := range clip.Lanes {
		if wanted[i] {
			lanes = append(lanes, i)
		}
	}
	out.Lanes = make([]Part, len(lanes))
	atOnce(len(lanes), func(k int) {
		out.Lanes[k] = line(p, clip, lanes[k], channels[lanes[k]], out)
	})
	return out, nil
}

// atOnce does n pieces of work that do not touch each other, on all processors.
func atOnce(n int, work func(int)) {
	var next atomic.Int64
	var group sync.WaitGroup
	for range min(n, runtime.GOMAXPROCS(0)) {
		group.Go(func() {
			for k := int(next.Add(1)) - 1; k < n; k = int(next.Add(1)) - 1 {
				work(k)
			}
		})
	}
	group.Wait()
}

func length(clip *piece.Clip, cycle Cycle, bar beat.Time, options Options) (beat.Time, error) {
	bars, until := options.Bars, options.Until
	if bars == 0 && until == "" {
		bars, until = clip.Bars, clip.Until
	}
	if bars != 0 {
		if bars < 1 || bars > beat.MaxBars {
			return 0, fmt.Errorf("bars: %d is out of range; allowed: 1..%d", bars, beat.MaxBars)
		}
		return beat.Time(bars) * bar, nil
	}
	var total *big.Int
	switch until {
	case "cycle":
		total = cycle.Full
	case "realign":
		total = cycle.Realign
	default:
		return 0, fmt.Errorf("until: %q is not allowed; allowed: cycle, realign", until)
	}
	if cycle.Cycle.Over(total) {
		bars := new(big.Rat).SetFrac(total, big.NewInt(int64(bar)))
		return 0, &TooLongError{until, bars.RatString()}
	}
	return beat.Time(total.Int64()), nil
}

// audible tells which lanes play: those named, or else those that are neither
// muted nor shut out by another lane's solo.
func audible(clip *piece.Clip, named []string) ([]bool, error) {
	out := make([]bool, len(clip.Lanes))
	if named != nil {
		for _, id := range named {
			found := false
			for i := range clip.Lanes {
				if clip.Lanes[i].ID == id {
					out[i], found = true, true
				}
			}
			if !found {
				return nil, fmt.Errorf("no lane %q in clip %q", id, clip.ID)
			}
		}
		return out, nil
	}
	solo := AnySolo(clip)
	for i := range clip.Lanes {
		out[i] = !clip.Lanes[i].Mute && (!solo || clip.Lanes[i].Solo)
	}
	return out, nil
}

// AnySolo tells whether a lane of the clip is solo.
func AnySolo(clip *piece.Clip) bool {
	for i := range clip.Lanes {
		if clip.Lanes[i].Solo && !clip.Lanes[i].Mute {
			return true
		}
	}
	return false
}

// Channels gives each lane its MIDI channel, 1..16: the one set, or else that of
// its position with 10 left out for drums, or the next one that is still free.
// When all are given out, positions start over.
func Channels(clip *piece.Clip) []int {
	var taken [17]bool
	taken[10] = true
	for i := range clip.Lanes {
		taken[clip.Lanes[i].Channel] = true
	}
	out := make([]int, len(clip.Lanes))
	for i := range clip.Lanes {
		if set := clip.Lanes[i].Channel; set != 0 {
			out[i] = set
			continue
		}
		position := i%15 + 1
		if position >= 10 {
			position++
		}
		out[i] = position
		for tries := range 16 {
			if channel := (position+tries-1)%16 + 1; !taken[channel] {
				out[i] = channel
				break
			}
		}
		taken[out[i]] = true
	}
	return out
}

// CycleOf works out when the clip's unmuted lanes meet.
func CycleOf(p *piece.Piece, clip *piece.Clip) Cycle {
	var out Cycle
	var periods []beat.Time
	for i := range clip.Lanes {
		lane := &clip.Lanes[i]
		if lane.Mute {
			continue
		}
		period := PeriodOf(lane, p.StepLength(lane))
		periods = append(periods, period)
		out.Periods = append(out.Periods, Period{lane.ID, period})
	}
	out.Cycle = beat.Meet(periods, p.Bar())
	return out
}

// PeriodOf is how long a lane takes to repeat: its round times the least common
// multiple of its sounding steps' rounds. Zero when no step is active. Chance
// and shuffle never repeat and do not count.
func PeriodOf(lane *piece.Lane, stepTime beat.Time) beat.Time {
	active := Active(lane)
	rounds := 1
	for _, i := range active {
		if step := &lane.Steps[i]; step.On && step.Rounds != nil {
			rounds = beat.LCM(rounds, step.Rounds.Of)
		}
	}
	return beat.Time(RoundSlots(lane, len(active))) * stepTime * beat.Time(rounds)
}

// line renders one line lane.
func line(p *piece.Piece, clip *piece.Clip, index, channel int, out *Performance) Part {
	lane := &clip.Lanes[index]
	c := &context{lane: lane, stepTime: p.StepLength(lane), length: out.Length}
	draws := newDraws(p.Seed, clip.ID, lane.ID)
	part := Part{Lane: index, ID: lane.ID, Name: lane.Name, Channel: channel, Range: lane.Glide.Range}

	c.slots = unroll(lane, draws, c.stepTime, c.length)
	c.sounds = sift(lane, c.slots, draws)
	for _, sounds := range c.sounds {
		if sounds {
			c.sounding++
		}
	}
	c.placed = place(lane, out.Key)
	c.gate = make([]beat.Time, len(lane.Steps))
	for i := range lane.Steps {
		c.gate[i] = c.stepTime.Percent(lane.Steps[i].Gate)
	}
	runs := join(c)
	glide(c, runs)
	notes := repeat(c, runs)
	groove(notes, out.Swing)
	part.Notes = cut(notes, c.length)
	if lane.Glide.Mode == "legato" {
		portamento(c, &part, p.Tempo, out.Swing.Warp)
	}
	wheel(c, &part, out.Swing.Warp)
	for i := range lane.Steps {
		if placed := &c.placed[i]; lane.Steps[i].On && int16(placed.pitch) != placed.locked {
			part.mark(Mark{PitchFolded, i + 1, int(placed.locked)})
		}
	}
	return part
}
