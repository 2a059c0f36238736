package edit

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"agrimony/internal/core/lane"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// long is a clip of a note over 16 steps, drawn as one; kind and more are the lane's.
func long(t require.TestingT, kind, more, head string) *piece.Piece {
	steps := head + strings.Repeat(`,{"tie":true}`, 14) + `,{"gate":60}`
	p, err := piece.Read([]byte(fmt.Sprintf(`{"format":"agrimony-piece","version":1,"key":{"tonic":"D","scale":"dorian"},"clips":[{"id":"keel","bars":1,"lanes":[
		{"id":"low","name":"Low","kind":%q%s,"steps":[%s]}]}]}`, kind, more, steps)))
	require.NoError(t, err)
	return p
}

// kinds are lanes of a long note, of each kind that sounds notes by steps.
var kinds = map[string][2]string{
	"line":   {``, `{"on":true,"degree":5,"tie":true}`},
	"chords": {`,"palette":[{"tones":[{"degree":1}]},{"tones":[{"degree":2},{"degree":4}]}]`, `{"on":true,"chord":2,"tie":true}`},
	"phrase": {`,"source":"own","tones":[{"degree":1},{"degree":3}]`, `{"on":true,"play":"high","tie":true}`},
	"pulse":  {`,"note":38`, `{"on":true,"tie":true}`},
}

func sounded(t require.TestingT, p *piece.Piece) []render.Note {
	performance, err := lane.Render(p, &p.Clips[0], render.Options{})
	require.NoError(t, err)
	return performance.Lanes[0].Notes
}

// A note that is one on screen is chopped by a fill of it alone, in every kind: so many notes
// begin as there are hits, each of the note's own pitches.
func TestALongNoteIsChopped(t *testing.T) {
	for kind, of := range kinds {
		p := long(t, kind, of[0], of[1])
		before := sounded(t, p)
		voices := len(before)
		on := op.OnSteps{Clip: "keel", Lane: "low", Steps: []int{1}}
		for _, row := range []struct {
			name string
			op   op.Op
			hits int
		}{
			{"7 even hits", op.Of(op.FillEven{OnSteps: on, Hits: 7}), 7},
			{"3 over 8, again and again", op.Of(op.FillEven{OnSteps: on, Hits: 3, Over: 8}), 6},
			{"5 over 12 and what is left", op.Of(op.FillEven{OnSteps: on, Hits: 5, Over: 12}), 7},
			{"every third", op.Of(op.FillEvery{OnSteps: on, Every: 3}), 6},
			{"two of three", op.Of(op.FillShare{OnSteps: on, Take: 2, Of: 3}), 11},
			{"doubled", op.Of(op.DoubleHits{OnSteps: on}), 2},
		} {
			next, err := Apply(p, []op.Op{row.op})
			require.NoError(t, err, "%s of a %s", row.name, kind)
			after := sounded(t, next)
			assert.Len(t, after, row.hits*voices, "%s of a %s", row.name, kind)
			for i, n := range after {
				assert.Equal(t, before[i%voices].Pitch, n.Pitch, "%s of a %s", row.name, kind)
			}
		}
		for words, wrong := range map[string]any{
			"17 over 16 steps; allowed: 0..16":             op.FillEven{OnSteps: on, Hits: 17},
			"9 over 8 steps; allowed: 0..8":                op.FillEven{OnSteps: on, Hits: 9, Over: 8},
			"17 of 16 steps; allowed: 1..16, or 0 for all": op.FillEven{OnSteps: on, Hits: 1, Over: 17},
			"101 percent; allowed: 1..100":                 op.ThinOut{OnSteps: on, Share: 101},
		} {
			_, err := Apply(p, []op.Op{op.Of(wrong)})
			assert.ErrorContains(t, err, words)
		}
	}
}

// The further hits are thinned out, the fewer are left of those that were there; at 100 % none is, and the strongest
// goes last.
func TestThinningTakesMoreAndMore(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		steps := make([]string, rapid.IntRange(1, 32).Draw(rt, "count"))
		for i := range steps {
			steps[i] = fmt.Sprintf(`{"on":%t}`, rapid.Bool().Draw(rt, "on"))
		}
		p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"keel","lanes":[{"id":"low","steps":[` + strings.Join(steps, ",") + `]}]}]}`))
		require.NoError(rt, err)
		all := op.OnSteps{Clip: "keel", Lane: "low"}
		for i := range steps {
			all.Steps = append(all.Steps, i+1)
		}
		on := func(p *piece.Piece) (out []int) {
			for i := range steps {
				if p.Clips[0].Lanes[0].Content.StepList().Cell(i).On {
					out = append(out, i)
				}
			}
			return out
		}
		was := on(p)
		for share := 1; share <= 100; share++ {
			next, err := Apply(p, []op.Op{op.Of(op.ThinOut{OnSteps: all, Share: share})})
			require.NoError(rt, err)
			left := on(next)
			assert.Subset(rt, was, left)
			assert.Len(rt, left, len(on(p))-len(on(p))*share/100)
			was = left
		}
		if next, err := Apply(p, []op.Op{op.Of(op.ThinOut{OnSteps: all, Share: 99})}); err == nil && slices.Contains(on(p), 0) {
			assert.Contains(rt, on(next), 0, "the first beat goes last")
		}
	})
}

// Wherever a rhythm fill says that a note begins, one does, whatever ties were there.
func TestEveryStrikeOfAFillIsHeard(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		kind := rapid.SampledFrom([]string{"line", "pulse", "chords"}).Draw(rt, "kind")
		steps := make([]string, rapid.IntRange(1, 24).Draw(rt, "count"))
		for i := range steps {
			steps[i] = fmt.Sprintf(`{"on":%t,"tie":%t}`, rapid.Bool().Draw(rt, "on"), rapid.Bool().Draw(rt, "tie"))
		}
		of := kinds[kind]
		p, err := piece.Read([]byte(fmt.Sprintf(`{"format":"agrimony-piece","version":1,"clips":[{"id":"keel","until":"cycle","lanes":[{"id":"low","kind":%q%s,"steps":[%s]}]}]}`,
			kind, of[0], strings.Join(steps, ","))))
		require.NoError(rt, err)
		all := make([]int, len(steps))
		for i := range all {
			all[i] = i + 1
		}
		hits := rapid.IntRange(0, len(steps)).Draw(rt, "hits")
		next, err := Apply(p, []op.Op{op.Of(op.FillEven{OnSteps: op.OnSteps{Clip: "keel", Lane: "low", Steps: all}, Hits: hits, Turn: rapid.IntRange(-9, 9).Draw(rt, "turn")})})
		require.NoError(rt, err)
		struck := map[int32]bool{}
		if hits > 0 {
			for _, n := range sounded(rt, next) {
				struck[n.Step] = true
			}
		}
		assert.Len(rt, struck, hits)
	})
}

// A span is what a pod covers: as many steps as its note sounds in.
func TestSpansAreWhatNotesRunThrough(t *testing.T) {
	p := long(t, "line", ``, `{"on":true,"degree":5,"tie":true}`)
	own := &p.Clips[0].Lanes[0]
	spans := lane.Spans(own, lane.Sounds(p, &p.Clips[0], own))
	assert.Equal(t, append([]int{16}, make([]int, 15)...), spans)
	for _, row := range []struct {
		steps string
		spans []int
	}{
		{`{"on":true},{"on":true}`, []int{1, 1}},
		{`{"on":true,"tie":true},{"on":true}`, []int{2, 0}},
		{`{"on":true,"tie":true},{"on":true,"degree":2}`, []int{1, 1}},
		{`{"tie":true},{"on":true,"tie":true},{}`, []int{0, 2, 0}},
		{`{"on":true},{"tie":true},{}`, []int{1, 0, 0}},
	} {
		p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"keel","lanes":[{"id":"low","steps":[` + row.steps + `]}]}]}`))
		require.NoError(t, err)
		own := &p.Clips[0].Lanes[0]
		assert.Equal(t, row.spans, lane.Spans(own, lane.Sounds(p, &p.Clips[0], own)), row.steps)
	}
}

func TestRootsOfFillsAreTheChords(t *testing.T) {
	for _, row := range []struct {
		name, lane string
		tones      []string
		want       []uint8
	}{
		{"roots over i IV v VII", ``, []string{"root"}, []uint8{38, 43, 45, 48}},
		{"root and fifth", ``, []string{"root", "fifth"}, []uint8{38, 50, 45, 55}},
		{"in a lane that counts from roots anyway", `,"follow":"root"`, []string{"root"}, []uint8{38, 43, 45, 48}},
	} {
		p, err := piece.Read([]byte(fmt.Sprintf(`{"format":"agrimony-piece","version":1,"key":{"tonic":"D","scale":"dorian"},"clips":[{"id":"keel","bars":4,"lanes":[
			{"id":"low","octave":2,"rate":"1bar"%s,"steps":[{"on":true},{"on":true},{"on":true},{"on":true}]},
			{"id":"tide","kind":"chords","octave":4,"rate":"1bar","palette":[{"tones":[{"degree":1},{"degree":3},{"degree":5}]},{"tones":[{"degree":4},{"degree":6},{"degree":1,"octave":1}]},
				{"tones":[{"degree":5},{"degree":7},{"degree":2,"octave":1}]},{"tones":[{"degree":7},{"degree":2,"octave":1},{"degree":4,"octave":1}]}],
			 "steps":[{"on":true,"chord":1},{"on":true,"chord":2},{"on":true,"chord":3},{"on":true,"chord":4}]}]}]}`, row.lane)))
		require.NoError(t, err)
		next, err := Apply(p, []op.Op{op.Of(op.FillPattern{OnSteps: op.OnSteps{Clip: "keel", Lane: "low", Steps: []int{1, 2, 3, 4}}, Tones: row.tones})})
		require.NoError(t, err)
		var got []uint8
		for _, n := range sounded(t, next) {
			got = append(got, n.Pitch)
		}
		assert.Equal(t, row.want, got, row.name)
		assert.False(t, slices.Contains(got, 0))
	}
}

// bar is a clip of one bar with a bass of eight quavers, whose first note is an accented fifth, beside a kick.
func bar(t require.TestingT, low, kick string) *piece.Piece {
	p, err := piece.Read([]byte(fmt.Sprintf(`{"format":"agrimony-piece","version":1,"key":{"tonic":"D","scale":"dorian"},"clips":[{"id":"keel","bars":1,"lanes":[
		{"id":"low","name":"Low","kind":"line","rate":"1/8","steps":[%s]},%s]}]}`, low, kick)))
	require.NoError(t, err)
	return p
}

const eight = `{"on":true,"degree":5,"velocity":120,"gate":50},{},{"on":true,"degree":2,"tie":true},{"gate":50},{},{},{"on":true,"degree":3,"chance":40},{}`

// written tells the steps of the bass: a degree for each that is on, with what else was asked for.
func written(p *piece.Piece, each func(c *piece.Cell) int) (out []string) {
	line := p.Clips[0].Lanes[0].Content.(*piece.Line)
	for i := range line.Steps {
		s := &line.Steps[i]
		word := "-"
		if s.On {
			word = fmt.Sprint(s.Degree)
		}
		out = append(out, fmt.Sprintf("%s.%d", word, each(&s.Cell)))
	}
	return out
}

func TestStepsChangePlaces(t *testing.T) {
	p := bar(t, eight, `{"id":"kick","name":"Kick","kind":"pulse","note":36,"steps":[{"on":true}]}`)
	on := func(steps ...int) op.OnSteps { return op.OnSteps{Clip: "keel", Lane: "low", Steps: steps} }
	nudge := func(c *piece.Cell) int { return c.Nudge }
	for _, row := range []struct {
		name string
		op   op.Op
		want string
	}{
		{"a note onto a free place", op.Of(op.MoveSteps{OnSteps: on(1), By: 1}), "-.0 5.0 2.0 -.0 -.0 -.0 3.0 -.0"},
		{"two notes change places", op.Of(op.MoveSteps{OnSteps: on(7), By: -6}), "3.0 -.0 2.0 -.0 -.0 -.0 5.0 -.0"},
		{"a copy stays", op.Of(op.MoveSteps{OnSteps: on(1), By: 1, Copy: true}), "5.0 5.0 2.0 -.0 -.0 -.0 3.0 -.0"},
		{"several as one block", op.Of(op.MoveSteps{OnSteps: on(1, 7), By: 1}), "-.0 5.0 2.0 -.0 -.0 -.0 -.0 3.0"},
		{"what a tie runs through comes along", op.Of(op.MoveSteps{OnSteps: on(3), By: 1}), "5.0 -.0 -.0 2.0 -.0 -.0 3.0 -.0"},
		{"finer than a step", op.Of(op.MoveSteps{OnSteps: on(1), Nudge: 30}), "5.30 -.0 2.0 -.0 -.0 -.0 3.0 -.0"},
		{"a rhythm turned without its pitches", op.Of(op.RotateSteps{OnSteps: on(1, 2, 3, 4, 5, 6, 7, 8), By: 1, Only: "rhythm"}), "-.0 1.0 -.0 1.0 -.0 -.0 -.0 1.0"},
	} {
		next, err := Apply(p, []op.Op{row.op})
		require.NoError(t, err, row.name)
		assert.Equal(t, row.want, strings.Join(written(next, nudge), " "), row.name)
	}
	for words, wrong := range map[string]any{
		"-1 would lead out of the lane; allowed: 0..7": op.MoveSteps{OnSteps: on(1), By: -1},
		"5 would lead out of the lane; allowed: -2..4": op.MoveSteps{OnSteps: on(3), By: 5},
		"51 is out of range; allowed: -50..50":         op.MoveSteps{OnSteps: on(3), Nudge: 51},
		`"words" is not allowed; allowed: pitches, ch`: op.RotateSteps{OnSteps: on(3), Only: "words"},
		`"words" is not allowed; allowed: pitches,`:    op.WriteSteps{OnSteps: on(3), Content: []json.RawMessage{[]byte(`{}`)}, Only: "words"},
		"steps of another kind of lane bring no pitch": op.WriteSteps{OnSteps: on(3), Content: []json.RawMessage{[]byte(`{}`)}, Only: "pitches", Loose: true},
	} {
		_, err := Apply(p, []op.Op{op.Of(wrong)})
		assert.ErrorContains(t, err, words)
	}
}

func TestOnePartOfStepsIsWritten(t *testing.T) {
	p := bar(t, eight, `{"id":"kick","name":"Kick","kind":"pulse","note":36,"steps":[{"on":true}]}`)
	content := []json.RawMessage{[]byte(`{"on":true,"degree":7,"velocity":30,"gate":200,"chance":10,"nudge":20}`), []byte(`{"degree":6}`)}
	for only, want := range map[string]string{
		"":           "7 30 200 10 20, - 100 75 100 0",
		"pitches":    "7 120 50 100 0, - 100 75 100 0",
		"rhythm":     "5 30 200 100 20, - 100 75 100 0",
		"velocities": "5 30 50 100 0, - 100 75 100 0",
		"lengths":    "5 120 200 100 0, - 100 75 100 0",
		"chance":     "5 120 50 10 0, - 100 75 100 0",
	} {
		next, err := Apply(p, []op.Op{op.Of(op.WriteSteps{OnSteps: op.OnSteps{Clip: "keel", Lane: "low", Steps: []int{1, 2}}, Content: content, Only: only})})
		require.NoError(t, err, only)
		line := next.Clips[0].Lanes[0].Content.(*piece.Line)
		var got []string
		for _, s := range line.Steps[:2] {
			word := "-"
			if s.On {
				word = fmt.Sprint(s.Degree)
			}
			got = append(got, fmt.Sprintf("%s %d %d %d %d", word, s.Velocity, s.Gate, s.Chance, s.Nudge))
		}
		assert.Equal(t, want, strings.Join(got, ", "), only)
	}
}

// A rhythm that is taken brings the other lane's loudness and lengths where they are asked for: of steps, of ties, and of
// notes that stand on no grid.
func TestARhythmIsTakenWithItsLoudnessAndLengths(t *testing.T) {
	all := op.OnSteps{Clip: "keel", Lane: "low", Steps: []int{1, 2, 3, 4, 5, 6, 7, 8}}
	for name, row := range map[string]struct{ other, plain, taken string }{
		"steps": {
			`{"id":"kick","name":"Kick","kind":"pulse","note":36,"rate":"1/4","steps":[{"on":true,"velocity":90,"gate":50},{},{"on":true,"velocity":70,"gate":100},{}]}`,
			"5.120/50 - - - 1.100/75 - - -",
			"5.90/100 - - - 1.70/200 - - -",
		},
		"ties": {
			`{"id":"kick","name":"Kick","kind":"line","rate":"1/16","steps":[{"on":true,"velocity":90,"tie":true},{"tie":true},{"gate":50},{}]}`,
			"5.120/50 - 2.100/75 - 1.100/75 - 3.100/75 -",
			"5.90/125 - 2.90/125 - 1.90/125 - 3.90/125 -",
		},
		"free notes": {
			`{"id":"kick","name":"Kick","kind":"notes","notes":[{"at":500,"length":2400,"velocity":33},{"at":600,"length":10}]}`,
			"- 1.100/75 - - - - - -",
			"- 1.33/400 - - - - - -",
		},
	} {
		p := bar(t, eight, row.other)
		for want, o := range map[string]op.FillFrom{row.plain: {OnSteps: all, From: "kick"}, row.taken: {OnSteps: all, From: "kick", Loudness: true, Lengths: true}} {
			next, err := Apply(p, []op.Op{op.Of(o)})
			require.NoError(t, err, name)
			line := next.Clips[0].Lanes[0].Content.(*piece.Line)
			var got []string
			for _, s := range line.Steps {
				word := "-"
				if s.On {
					word = fmt.Sprintf("%d.%d/%d", s.Degree, s.Velocity, s.Gate)
				}
				got = append(got, word)
			}
			assert.Equal(t, want, strings.Join(got, " "), name)
		}
	}
	_, err := Apply(bar(t, eight, `{"id":"kick","name":"Kick","kind":"pulse","note":36,"steps":[{"on":true}]}`), []op.Op{op.Of(op.FillFrom{OnSteps: all, From: "kick", Rests: true, Lengths: true})})
	assert.ErrorContains(t, err, "rests have no loudness or length to take")
}
