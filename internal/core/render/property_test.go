package render_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// anyStep draws a step that may use every field.
func anyStep(t *rapid.T, label string) piece.LineStep {
	s := newLine("", "").steps[0]
	draw := func(name string, low, high int) int { return rapid.IntRange(low, high).Draw(t, label+name) }
	s.On = draw("on", 0, 3) > 0
	s.Degree, s.Octave, s.Alter = draw("degree", 1, 7), draw("octave", -1, 1), draw("alter", -2, 2)
	s.Velocity, s.Gate = draw("velocity", 1, 127), draw("gate", 1, 400)
	s.Tie = draw("tie", 0, 2) == 0
	s.Chance = []int{100, 100, 50, 0}[draw("chance", 0, 3)]
	s.Ratchet = []int{1, 1, 1, 2, 3, 8}[draw("ratchet", 0, 5)]
	s.Nudge = []int{0, 0, 20, -20, 50, -50}[draw("nudge", 0, 5)]
	s.Skip = draw("skip", 0, 7) == 0
	if draw("glide", 0, 3) == 0 {
		s.Glide = &piece.Glide{Time: draw("time", 0, 150), Curve: draw("curve", -100, 100)}
	}
	if draw("rounds", 0, 5) == 0 {
		s.Rounds = &piece.Rounds{Of: 3, On: []int{draw("round", 1, 3)}}
	}
	if draw("bend", 0, 7) == 0 {
		s.Bend = []piece.Point{{At: 0, By: draw("by", -3, 3)}, {At: 100, By: 0}}
	}
	return s
}

func anyPiece(t *rapid.T) *piece.Piece {
	p := piece.Default()
	p.Seed = rapid.IntRange(0, 1000).Draw(t, "seed")
	p.Groove.Swing = rapid.IntRange(50, 75).Draw(t, "swing")
	clip := piece.NewClip("a", "a")
	clip.Bars, clip.Until = rapid.IntRange(1, 3).Draw(t, "bars"), ""
	l := newLine("low", "Low")
	low, line := l.lane, l.line
	low.Rate = rapid.SampledFrom(beat.Rates).Draw(t, "rate")
	low.Direction = rapid.SampledFrom(piece.Directions).Draw(t, "direction")
	line.Glide.Mode = rapid.SampledFrom(piece.GlideModes).Draw(t, "mode")
	line.Lock = rapid.SampledFrom([]string{"scale", "off"}).Draw(t, "lock")
	n := rapid.IntRange(1, 12).Draw(t, "steps")
	line.Steps = nil
	for i := range n {
		line.Steps = append(line.Steps, anyStep(t, fmt.Sprint(i)))
	}
	low.Restart = rapid.SampledFrom([]int{0, 0, 1, 2}).Draw(t, "restart")
	clip.Seam = rapid.SampledFrom(piece.Seams).Draw(t, "seam")
	clip.Lanes = []piece.Lane{*low}
	p.Clips = []piece.Clip{clip}
	return p
}

// aLine is a new line lane with its parts at hand.
type aLine struct {
	lane  *piece.Lane
	line  *piece.Line
	steps []piece.LineStep
}

func newLine(id, name string) aLine {
	l := piece.NewLane("line", id, name)
	line := l.Content.(*piece.Line)
	return aLine{&l, line, line.Steps}
}

func mustRender(t require.TestingT, p *piece.Piece) *render.Performance {
	performance, err := lane.Render(p, &p.Clips[0], render.Options{})
	require.NoError(t, err)
	return performance
}

func TestWhatEveryPerformanceKeeps(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := anyPiece(t)
		performance := mustRender(t, p)
		part := &performance.Lanes[0]
		for i := range part.Notes {
			note := &part.Notes[i]
			at, length := performance.Span(note, 960)
			assert.GreaterOrEqual(t, at, int64(0))
			assert.GreaterOrEqual(t, length, int64(1))
			assert.LessOrEqual(t, at+length, performance.Length.Export(960))
			if p.Clips[0].Lanes[0].Content.(*piece.Line).Lock == "scale" {
				assert.True(t, performance.Key.Has(int(note.Pitch)), "the lock holds")
			}
			if i+2 < len(part.Notes) {
				assert.LessOrEqual(t, int64(note.End), max(int64(part.Notes[i+2].At), int64(note.At+beat.Quarter/960)),
					"at most two notes overlap, and only where they are joined")
			}
			assert.NotContains(t, performance.Explain(part, note), "%!", "every reason has its words")
		}
		for i := 1; i < len(part.Bends); i++ {
			assert.LessOrEqual(t, part.Bends[i-1].At, part.Bends[i].At)
		}
	})
}

// Followed from the first to the last, the reasons give the note: the last onset,
// length, pitch and velocity that they name are its own, at every resolution.
func TestReasonsAccountForTheNote(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := anyPiece(t)
		ppq := rapid.SampledFrom(beat.Resolutions).Draw(t, "ppq")
		performance, err := lane.Render(p, &p.Clips[0], render.Options{PPQ: ppq})
		require.NoError(t, err)
		for i := range performance.Lanes[0].Notes {
			note := &performance.Lanes[0].Notes[i]
			var tick, ticks, name, velocity string
			for _, r := range performance.Why(&performance.Lanes[0], note) {
				switch {
				case strings.HasPrefix(r.To, "tick "):
					tick = chained(t, tick, r, "tick ")
				case strings.HasSuffix(r.To, " ticks"):
					ticks = chained(t, ticks, r, " ticks")
				case r.Rule == "velocity":
					velocity = r.To
				case slices.Contains([]string{"degree", "alter", "lock", "fold", "glide"}, r.Rule):
					name = r.To
				}
			}
			at, length := performance.Span(note, ppq)
			assert.Equal(t, []string{fmt.Sprint("tick ", at), fmt.Sprint(length, " ticks"), performance.Name(note), fmt.Sprint(note.Velocity)}, []string{tick, ticks, name, velocity})
		}
	})
}

// chained checks that a reason begins where the one before of its kind ended.
func chained(t require.TestingT, before string, r render.Reason, mark string) string {
	if before != "" && strings.Contains(r.From, mark) {
		require.Equal(t, before, r.From, "%v", r)
	}
	return r.To
}

func TestTheSameDocumentGivesTheSamePerformance(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := anyPiece(t)
		again, err := piece.Read(piece.Write(p))
		require.NoError(t, err)
		assert.Equal(t, mustRender(t, p).Events(), mustRender(t, again).Events())
	})
}

// Chance is a draw for each step and round: switching any other step on or off,
// or moving it, leaves them where they were.
func TestChangingOneStepLeavesOtherDrawsAlone(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := piece.Default()
		p.Seed = rapid.IntRange(0, 1000).Draw(t, "seed")
		clip := piece.NewClip("a", "a")
		clip.Bars, clip.Until = 4, ""
		l := newLine("low", "Low")
		low, line := l.lane, l.line
		low.Direction = rapid.SampledFrom(piece.Directions).Draw(t, "direction")
		for i := range line.Steps {
			line.Steps[i].On, line.Steps[i].Chance = true, 50
		}
		clip.Lanes = []piece.Lane{*low}
		p.Clips = []piece.Clip{clip}
		changed := rapid.IntRange(0, 15).Draw(t, "changed")
		before := played(mustRender(t, p), changed)
		step := &line.Steps[changed]
		step.Chance = rapid.IntRange(0, 100).Draw(t, "chance")
		step.Degree, step.Velocity, step.Ratchet = 4, 30, 3
		step.On = rapid.Bool().Draw(t, "on")
		assert.Equal(t, before, played(mustRender(t, p), changed))
	})
}

// played lists the step, round and onset of all notes but one step's.
func played(p *render.Performance, except int) (out []string) {
	for i := range p.Lanes[0].Notes {
		if note := &p.Lanes[0].Notes[i]; int(note.Step) != except+1 {
			out = append(out, fmt.Sprint(note.Step, note.Round, note.At))
		}
	}
	return out
}

// The wheel moves by at most a sixteenth of a semitone at a time while it
// glides, unless a whole export tick is too long for that.
func TestGlidesAreSmooth(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := piece.Default()
		clip := piece.NewClip("a", "a")
		clip.Bars, clip.Until = 1, ""
		l := newLine("low", "Low")
		low, line := l.lane, l.line
		low.Rate = "1/4"
		from := rapid.IntRange(-12, 12).Draw(t, "from")
		line.Steps = line.Steps[:4]
		line.Steps[0].On = true
		line.Steps[0].Glide = &piece.Glide{Time: rapid.IntRange(30, 200).Draw(t, "time"), Curve: rapid.IntRange(-40, 40).Draw(t, "curve"), From: &from}
		clip.Lanes = []piece.Lane{*low}
		p.Clips = []piece.Clip{clip}
		bends := mustRender(t, p).Lanes[0].Bends
		for i := 1; i < len(bends); i++ {
			jump := float64(bends[i].Value-bends[i-1].Value) / 8192 * 12
			// 1.25 ms at 120 is 2.4 ticks, so three: within six no position fits between.
			short := bends[i].At-bends[i-1].At < 6*beat.Quarter/960
			assert.GreaterOrEqual(t, bends[i].At-bends[i-1].At, 3*beat.Quarter/960, "a cable carries them")
			assert.True(t, jump <= 1.0/16+1e-9 && jump >= -1.0/16-1e-9 || short, "%v to %v", bends[i-1], bends[i])
		}
		if from != 0 {
			assert.NotEmpty(t, bends)
		}
	})
}

// anyModulators draws modulators of the fields that slots have values of.
func anyModulators(t *rapid.T) []piece.Modulator {
	out := []piece.Modulator{}
	for i := range rapid.IntRange(1, 4).Draw(t, "modulators") {
		draw := func(name string, low, high int) int { return rapid.IntRange(low, high).Draw(t, fmt.Sprint(i, name)) }
		move := piece.Moves("line")[[]int{0, 1, 3, 4, 5, 6}[draw("on", 0, 5)]]
		m := piece.Modulator{
			On: move.Name, Shape: rapid.SampledFrom(piece.Shapes).Draw(t, "shape"), Phase: draw("phase", 0, 99),
			Every:  rapid.SampledFrom([]string{"1bar", "3bar", "1/8T", "1/16", "1/4D", "64bar"}).Draw(t, "every"),
			Way:    rapid.SampledFrom(piece.ModWays).Draw(t, "way"),
			Values: []float64{0, 100, 40},
		}
		low, high := move.Low, move.High
		if m.Way == "add" {
			low, high = low-high, high-low
		}
		m.From, m.To = draw("from", low, high), draw("to", low, high)
		out = append(out, m)
	}
	return out
}

// Slots moved many at once are what each is by itself, and what the reasons of its notes
// work out anew.
func TestSlotsAreMovedTogetherAsEachAlone(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := anyPiece(t)
		own := &p.Clips[0].Lanes[0]
		own.Modulators = anyModulators(t)
		lucky := rapid.Bool().Draw(t, "lucky")
		if lucky {
			own.Odds = []piece.Odd{{Weight: 3, Velocity: &piece.Span{Low: -9, High: 9}, Octave: &piece.Span{Low: -1, High: 1}}, {Weight: 1, Rest: true}, {Weight: 2, Gate: &piece.Span{Low: 20, High: 90}}}
		}
		pattern := render.PatternOf(p, &piece.Clip{ID: "a"}, own)
		length := p.Bar() * beat.Time(rapid.IntRange(1, 4).Draw(t, "long"))
		var alone []render.Slot
		pattern.Each(length, func(s render.Slot) bool { alone = append(alone, s); return true })
		together := pattern.Slots(length)
		require.Equal(t, len(alone), len(together))
		for i := range together {
			s := &together[i]
			require.Equal(t, alone[i], *s)
			if lucky {
				continue // luck adds to what is moved
			}
			bare := &render.Slot{At: s.At, Step: s.Step, Round: s.Round}
			for field, value := range map[render.Field]int{
				render.Velocity: int(s.Velocity), render.Gate: int(s.Gate), render.Ratchet: int(s.Ratchet), render.Nudge: int(s.Nudge),
			} {
				require.Equal(t, pattern.Moved(field, bare, own.Value(field.String(), int(s.Step))), value, "%s of slot %d", field, i)
			}
			if pattern.Shifts() {
				require.Equal(t, pattern.Moved(render.Degree, bare, own.Value("degree", int(s.Step))), int(s.Degree))
				require.Equal(t, pattern.Moved(render.Octave, bare, own.Value("octave", int(s.Step))), int(s.Octave))
			}
		}
	})
}
