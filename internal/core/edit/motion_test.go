package edit_test

import (
	"fmt"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"agrimony/internal/core/edit"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// crafted reads a clip "a" of one bar with a lane "low" that has the fields given.
func crafted(t require.TestingT, groove, fields string) *piece.Piece {
	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"groove":` + groove + `,"clips":[{"id":"a","bars":1,"lanes":[{"id":"low","octave":2,` + fields + `}]}]}`))
	require.NoError(t, err)
	return p
}

// notesOf are the notes of clip "a", in so many bars, as text; with round, those of one.
func notesOf(t require.TestingT, p *piece.Piece, bars int, round int) string {
	performance, err := lane.Render(p, &p.Clips[0], render.Options{Bars: bars})
	require.NoError(t, err)
	var out []string
	start := int64(-1)
	for _, n := range performance.Events().Notes {
		if round > 0 && n.Round != round {
			continue
		}
		if start < 0 {
			start = n.At / 3840 * 3840
		}
		out = append(out, fmt.Sprintf("%d:%d+%d %d@%d", n.Step, n.At-start, n.Length, n.Pitch, n.Velocity))
	}
	return strings.Join(out, ", ")
}

var stepNumbers = regexp.MustCompile(`\d+:`)

// unnumbered leaves the numbers of the steps out, which the order of a shuffle changes.
func unnumbered(notes string) string { return stepNumbers.ReplaceAllString(notes, "") }

func TestHoldingWhatWasDrawn(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		round := rapid.IntRange(1, 4).Draw(t, "round")
		var steps []string
		for i := range 8 {
			rounds := rapid.SampledFrom([]string{"", "", `,"rounds":{"of":2,"on":[1]}`, `,"rounds":{"of":3,"on":[2,3]}`}).Draw(t, fmt.Sprint("rounds", i))
			steps = append(steps, fmt.Sprintf(`{"on":true,"degree":4,"velocity":%d,"chance":%d%s}`, 60+i, rapid.SampledFrom([]int{100, 100, 60, 20}).Draw(t, fmt.Sprint("chance", i)), rounds))
		}
		p := crafted(t, `{}`, fmt.Sprintf(`"take":%d,"rate":"1/8","direction":%q,"modulators":[%s],"steps":[%s],"odds":[{"weight":3},{"weight":2,"ratchet":2,"gate":[20,90]},{"weight":1,"rest":true},{"weight":2,"degrees":[-3,4],"octave":[0,1],"velocity":[-30,20]}]`,
			rapid.IntRange(0, 99).Draw(t, "take"), rapid.SampledFrom([]string{"forward", "reverse", "shuffle"}).Draw(t, "direction"),
			rapid.SampledFrom([]string{"", `{"on":"chance","from":20,"to":90,"every":"3bar"}`}).Draw(t, "modulator"), strings.Join(steps, ",")))
		want := notesOf(t, p, 4, round)
		held, err := apply(p, op.HoldLuck{OnLane: onLane, Rounds: []int{round}})
		require.NoError(t, err)
		assert.Empty(t, held.Clips[0].Lanes[0].Odds)
		assert.Equal(t, unnumbered(want), unnumbered(notesOf(t, held, 1, 1)))
		two, err := apply(p, op.HoldLuck{OnLane: onLane, Rounds: []int{round, 1}})
		require.NoError(t, err)
		assert.Equal(t, unnumbered(want), unnumbered(notesOf(t, two, 1, 1)), "the first bar of two")
	})
	p := crafted(t, `{}`, `"steps":[{"on":true}],"odds":[{"gate":50}],"modulators":[{"on":"gate","from":10,"to":90}]`)
	_, err := apply(p, op.HoldLuck{OnLane: onLane, Rounds: []int{1}})
	assert.ErrorContains(t, err, "ops[0].lane: a modulator moves what luck draws, the gate; allowed: write that into the steps first")
	_, err = apply(crafted(t, `{}`, `"steps":[{"on":true}]`), op.HoldLuck{OnLane: onLane, Rounds: []int{1}})
	assert.ErrorContains(t, err, "nothing in low is left to luck")
}

func TestAnotherTakeDrawsAnew(t *testing.T) {
	const fields = `"rate":"1/8","steps":[{"on":true},{"on":true},{"on":true},{"on":true}],"odds":[{"octave":[0,3]}]`
	first := notesOf(t, crafted(t, `{}`, fields), 4, 0)
	assert.NotEqual(t, first, notesOf(t, crafted(t, `{}`, `"take":1,`+fields), 4, 0))
	assert.Equal(t, first, notesOf(t, crafted(t, `{}`, `"take":0,`+fields), 4, 0))
}

func TestWritingAModulatorIntoTheSteps(t *testing.T) {
	const eight = `"rate":"1/8","steps":[{"on":true},{"on":true,"degree":3},{"on":true},{"on":true,"velocity":60},{"on":true},{"on":true},{},{"on":true,"gate":20}]`
	for _, modulator := range []string{
		`{"on":"gate","shape":"sine","from":20,"to":120}`,
		`{"on":"velocity","shape":"triangle","every":"1/2","from":-40,"to":20,"way":"add"}`,
		`{"on":"degree","shape":"steps","values":[0,40,100,20],"from":1,"to":9}`,
		`{"on":"octave","shape":"square","from":0,"to":1,"phase":25}`,
		`{"on":"nudge","shape":"rise","from":-20,"to":30}`,
	} {
		p := crafted(t, `{}`, eight+`,"modulators":[`+modulator+`]`)
		written, err := apply(p, op.WriteModulator{OnLane: onLane, Modulator: 1})
		require.NoError(t, err, modulator)
		assert.Empty(t, written.Clips[0].Lanes[0].Modulators)
		assert.Equal(t, notesOf(t, p, 4, 0), notesOf(t, written, 4, 0), modulator)
	}
	for modulators, message := range map[string]string{
		`{"on":"gate","shape":"jump","from":20,"to":120}`:                           "a jump is drawn anew in each period",
		`{"on":"gate","every":"3bar","from":20,"to":120}`:                           "since its wave is longer than the round",
		`{"on":"gate","from":20,"to":90},{"on":"gate","from":0,"to":9,"way":"add"}`: "another modulator moves gate before it",
	} {
		p := crafted(t, `{}`, eight+`,"modulators":[`+modulators+`]`)
		_, err := apply(p, op.WriteModulator{OnLane: onLane, Modulator: len(p.Clips[0].Lanes[0].Modulators)})
		assert.ErrorContains(t, err, message)
	}
}

func TestWritingAModulatorIntoChords(t *testing.T) {
	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"a","bars":4,"lanes":[
		{"id":"low","kind":"chords","rate":"1bar","palette":[{"tones":[{"degree":1},{"degree":3},{"degree":5}]}],
		"steps":[{"on":true},{"on":true,"strum":{"time":30,"way":"down"}}],"modulators":[{"on":"strum","shape":"square","every":"2bar","from":10,"to":60}]}]}]}`))
	require.NoError(t, err)
	before := string(piece.Write(p))
	written, err := apply(p, op.WriteModulator{OnLane: onLane, Modulator: 1})
	require.NoError(t, err, "also into a step that was not strummed")
	assert.Equal(t, notesOf(t, p, 4, 0), notesOf(t, written, 4, 0))
	assert.Equal(t, before, string(piece.Write(p)))
}

func TestWritingAModulatorIntoFreeNotes(t *testing.T) {
	notes := `[{"at":0,"length":240},{"at":700,"length":240},{"at":1900,"length":240,"velocity":60}]`
	of := func(notes, modulator string) *piece.Piece {
		p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"a","bars":4,"lanes":[
			{"id":"low","kind":"notes","loop":{"length":3840},"notes":` + notes + `,"modulators":[` + modulator + `]}]}]}`))
		require.NoError(t, err)
		return p
	}
	p := of(notes, `{"on":"velocity","shape":"sine","from":20,"to":120}`)
	written, err := apply(p, op.WriteModulator{OnLane: onLane, Modulator: 1})
	require.NoError(t, err)
	assert.Empty(t, written.Clips[0].Lanes[0].Modulators)
	assert.Equal(t, notesOf(t, p, 4, 0), notesOf(t, written, 4, 0))
	assert.NotEqual(t, notesOf(t, of(notes, ""), 4, 0), notesOf(t, written, 4, 0))

	_, err = apply(of(notes, `{"on":"gate","from":20,"to":120}`), op.WriteModulator{OnLane: onLane, Modulator: 1})
	assert.ErrorContains(t, err, "a notes lane's notes do not take their gate from it; allowed: velocity, chance")
	_, err = apply(of(`[]`, `{"on":"velocity","from":20,"to":120}`), op.WriteModulator{OnLane: onLane, Modulator: 1})
	assert.NoError(t, err, "a lane without notes")
}

func TestPrintingAGroove(t *testing.T) {
	const sixteen = `"steps":[{"on":true},{"on":true,"gate":60},{"on":true},{"on":true},{"on":true,"ratchet":2},{},{"on":true,"velocity":40},{"on":true},{"on":true},{},{},{"on":true,"nudge":10},{"on":true},{"on":true},{},{"on":true}]`
	for _, groove := range []string{`{"template":"Leaning back"}`, `{"template":"Heavy beats","velocity":50}`, `{"template":"Limping","timing":60}`} {
		p := crafted(t, groove, sixteen)
		printed, err := apply(p, op.PrintGroove{OnLane: onLane})
		require.NoError(t, err, groove)
		low := printed.Clips[0].Lanes[0]
		assert.Equal(t, piece.Share{}, low.Share)
		before, after := played(t, p), played(t, printed)
		require.Len(t, after, len(before))
		for i := range before {
			assert.Equal(t, []int{before[i].Step, before[i].Velocity}, []int{after[i].Step, after[i].Velocity})
			assert.InDelta(t, before[i].At, after[i].At, 2.5)
			assert.InDelta(t, before[i].At+before[i].Length, after[i].At+after[i].Length, 2.5)
		}
	}
	_, err := apply(crafted(t, `{"template":"Limping"}`, `"steps":[{"on":true},{"on":true},{"on":true}]`), op.PrintGroove{OnLane: onLane})
	assert.ErrorContains(t, err, "would not sound the same", "a round of three meets the groove in other places each time")
}

func played(t *testing.T, p *piece.Piece) []render.NoteEvent {
	performance, err := lane.Render(p, &p.Clips[0], render.Options{})
	require.NoError(t, err)
	return performance.Events().Notes
}

func TestTakingAGroove(t *testing.T) {
	p := crafted(t, `{}`, `"steps":[{"on":true,"velocity":120},{"on":true,"nudge":20,"velocity":80},{"on":true,"nudge":-10},{}]`)
	taken, err := apply(p, op.TakeGroove{OnLane: onLane, Name: "Mine"})
	require.NoError(t, err)
	own := taken.Groove.Template
	assert.Equal(t, "Mine", own.Name)
	assert.Equal(t, []piece.Sixteenth{{At: 0, Velocity: 20}, {At: 20, Velocity: -20}, {At: -10, Velocity: 0}, {}}, own.Steps[:4])
	assert.Equal(t, own.Steps[:4], own.Steps[12:])
	// Repeats stand in sixteenths of their own, and swing, which stays, is not taken twice.
	taken, err = apply(crafted(t, `{"swing":70}`, `"rate":"1/8","steps":[{"on":true,"ratchet":2},{"on":true,"nudge":10}]`), op.TakeGroove{OnLane: onLane})
	require.NoError(t, err)
	assert.Equal(t, []int{0, 0, 28, 0}, []int{taken.Groove.Template.Steps[0].At, taken.Groove.Template.Steps[1].At, taken.Groove.Template.Steps[2].At, taken.Groove.Template.Steps[3].At})
	_, err = apply(crafted(t, `{}`, `"steps":[{}]`), op.PrintGroove{OnLane: onLane})
	assert.ErrorContains(t, err, "low sounds no note; allowed: a lane that does")
	_, err = apply(crafted(t, `{}`, `"steps":[{}]`), op.TakeGroove{OnLane: onLane})
	assert.ErrorContains(t, err, "low sounds no note; allowed: a lane that does")
}

func TestRhythmFills(t *testing.T) {
	hits := func(p *piece.Piece) string {
		var out strings.Builder
		for _, s := range first(p).Steps {
			switch {
			case !s.On:
				out.WriteByte('.')
			case s.Velocity >= 110:
				out.WriteByte('X')
			case s.Chance < 100:
				out.WriteByte('?')
			case s.Velocity < 100:
				out.WriteByte('o')
			default:
				out.WriteByte('x')
			}
		}
		return out.String()
	}
	on := func(p *piece.Piece) op.OnSteps { return onSteps(all(p)...) }
	for _, row := range []struct {
		steps string
		fill  func(p *piece.Piece) any
		want  string
	}{
		{"1.111.11", func(p *piece.Piece) any { return op.FillAccents{OnSteps: on(p), Hits: 2} }, "X.xxX.xx"},
		{"11111111", func(p *piece.Piece) any { return op.FillAccents{OnSteps: on(p), Hits: 3} }, "XxxXxxXx"},
		{"11111111", func(p *piece.Piece) any { return op.FillAccents{OnSteps: on(p), Hits: 3, Turn: 1} }, "xXxxXxxX"},
		{"11111111", func(p *piece.Piece) any { return op.FillChance{OnSteps: on(p), Chance: 50} }, "????????"},
		{"11111111", func(p *piece.Piece) any { return op.FillChance{OnSteps: on(p), Chance: 50, Weak: true} }, "x???x???"},
		{"11111111", func(p *piece.Piece) any { return op.ThinOut{OnSteps: on(p)} }, "x.x.x.x."},
		{"1.1.1.1.", func(p *piece.Piece) any { return op.DoubleHits{OnSteps: on(p)} }, "xoxoxoxo"},
		{"1...1...", func(p *piece.Piece) any { return op.DoubleHits{OnSteps: on(p)} }, "x.o.x.o."},
		{"11......", func(p *piece.Piece) any { return op.DoubleHits{OnSteps: on(p)} }, "xx..o..."},
	} {
		p := line(t, row.steps)
		next, err := apply(p, row.fill(p))
		require.NoError(t, err)
		assert.Equal(t, row.want, hits(next), "%s %T", row.steps, row.fill(p))
	}
	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"a","lanes":[{"id":"low","steps":[{},{},{},{}]},{"id":"k","kind":"pulse","steps":[{"on":true},{},{},{"on":true}]}]}]}`))
	require.NoError(t, err)
	next, err := apply(p, op.FillFrom{OnSteps: onSteps(1, 2, 3, 4), From: "k", Rests: true})
	require.NoError(t, err)
	assert.Equal(t, ".xx.", hits(next), "where the other rests")
	_, err = edit.Apply(p, []op.Op{op.Of(op.FillAccents{OnSteps: onSteps(1), Hits: 2})})
	assert.ErrorContains(t, err, "ops[0].steps: none of these steps is on; allowed: steps with hits")
}
