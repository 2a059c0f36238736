package edit_test

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"agrimony/internal/core/edit"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// line is a piece with one lane in C major, octave 3; a dot is a rest, a digit a
// note on that degree.
func line(t require.TestingT, steps string) *piece.Piece {
	p := piece.Default()
	clip, lane := piece.NewClip("a", "A"), piece.NewLane("low", "Low")
	lane.Steps = piece.NewSteps(len(steps))
	for i, c := range steps {
		if c != '.' {
			lane.Steps[i].On, lane.Steps[i].Degree = true, int(c-'0')
		}
	}
	clip.Lanes = []piece.Lane{lane}
	p.Clips = []piece.Clip{clip}
	require.NoError(t, piece.Check(p))
	return p
}

// shown writes the lane back, with octave marks.
func shown(p *piece.Piece) string {
	var out strings.Builder
	for _, s := range p.Clips[0].Lanes[0].Steps {
		if !s.On {
			out.WriteByte('.')
			continue
		}
		fmt.Fprint(&out, s.Degree)
		out.WriteString(strings.Repeat("'", max(s.Octave, 0)) + strings.Repeat(",", max(-s.Octave, 0)))
		out.WriteString(strings.Repeat("#", max(s.Alter, 0)) + strings.Repeat("b", max(-s.Alter, 0)))
	}
	return out.String()
}

func all(p *piece.Piece) []int {
	out := make([]int, len(p.Clips[0].Lanes[0].Steps))
	for i := range out {
		out[i] = i + 1
	}
	return out
}

func TestOpsOnSteps(t *testing.T) {
	for name, row := range map[string]struct {
		before string
		op     edit.Op
		after  string
	}{
		"a degree up crosses the octave":     {"5.7", edit.Op{Op: "steps.transpose", Unit: "degree", By: 1}, "6.1'"},
		"an octave down":                     {"1.5", edit.Op{Op: "steps.transpose", Unit: "octave", By: -1}, "1,.5,"},
		"a semitone up into the key":         {"3.7", edit.Op{Op: "steps.transpose", Unit: "semitone", By: 1}, "4.1'"},
		"a semitone up out of it is altered": {"1...", edit.Op{Op: "steps.transpose", Unit: "semitone", By: 1}, "1#..."},
		"rotate later":                       {"12..", edit.Op{Op: "steps.rotate", By: 1}, ".12."},
		"rotate earlier comes round":         {"12..", edit.Op{Op: "steps.rotate", By: -1}, "2..1"},
		"reverse":                            {"12.3", edit.Op{Op: "steps.reverse"}, "3.21"},
		"every second step":                  {"....", edit.Op{Op: "fill.every", By: 2}, "1.1."},
		"three over eight":                   {"........", edit.Op{Op: "fill.even", By: 3}, "1..1..1."},
		"three over eight, turned by two":    {"........", edit.Op{Op: "fill.even", By: 3, Pattern: []string{"2"}}, "1.1..1.."},
		"a rhythm fill keeps pitches":        {"5.....3.", edit.Op{Op: "fill.every", By: 2}, "5.1.1.3."},
		"a pitch fill keeps rhythm":          {"1.1.11..", edit.Op{Op: "fill.pattern", Pattern: []string{"root", "fifth", "octave"}}, "1.5.1'1.."},
		"a contour sets pitches only":        {"1.1", edit.Op{Op: "fill.contour", Places: []*pitch.Place{{Degree: 3}, nil, {Degree: 5, Octave: 1}}}, "3.5'"},
		"the lane grows with rests":          {"12", edit.Op{Op: "lane.resize", By: 4}, "12.."},
		"and shrinks":                        {"1234", edit.Op{Op: "lane.resize", By: 3}, "123"},
		"doubling repeats the content":       {"1.5", edit.Op{Op: "lane.double"}, "1.51.5"},
		"setting fields of many steps":       {"1.1", edit.Op{Op: "steps.set", Patch: json.RawMessage(`{"on":true,"degree":2}`)}, "222"},
		"writing puts whole steps":           {"...", edit.Op{Op: "steps.write", Content: []json.RawMessage{json.RawMessage(`{"on":true,"degree":4}`), json.RawMessage(`{}`)}}, "4.."},
	} {
		t.Run(name, func(t *testing.T) {
			p := line(t, row.before)
			row.op.Clip, row.op.Lane, row.op.Steps = "a", "low", all(p)
			next, err := edit.Apply(p, []edit.Op{row.op})
			require.NoError(t, err)
			assert.Equal(t, row.after, shown(next))
			assert.Equal(t, row.before, shown(p), "the piece itself stays")
		})
	}
}

func TestOpsThatAreRefused(t *testing.T) {
	p := line(t, "1.5.")
	base := edit.Op{Clip: "a", Lane: "low", Steps: []int{1}}
	with := func(op string, change func(*edit.Op)) edit.Op { o := base; o.Op = op; change(&o); return o }
	for _, row := range []struct {
		op      edit.Op
		message string
	}{
		{with("steps.dance", func(*edit.Op) {}), `ops[0].op: "steps.dance" is not allowed`},
		{with("steps.set", func(o *edit.Op) { o.Clip = "b" }), `no clip "b"; the piece has: a`},
		{with("steps.set", func(o *edit.Op) { o.Lane = "b" }), `no lane "b"`},
		{with("steps.set", func(o *edit.Op) { o.Steps = []int{5} }), "there is no step 5; allowed: 1..4"},
		{with("steps.set", func(o *edit.Op) { o.Steps = nil }), "no steps are named"},
		{with("steps.set", func(o *edit.Op) { o.Patch = json.RawMessage(`{"gate":0}`) }), "clips[0].lanes[0].steps[0].gate: 0 is below 1"},
		{with("steps.set", func(o *edit.Op) { o.Patch = json.RawMessage(`{"degree":8}`) }), "degree: 8 is above 7"},
		{with("steps.transpose", func(o *edit.Op) { o.Unit = "octave"; o.By = 5 }), "octave: 5 is out of reach; allowed: -4..4"},
		{with("steps.transpose", func(o *edit.Op) { o.Unit = "mile" }), "allowed: degree, semitone, octave"},
		{with("lane.resize", func(o *edit.Op) { o.By = 257 }), "allowed: 1..256"},
		{with("fill.even", func(o *edit.Op) { o.By = 2 }), "2 hits over 1 steps; allowed: 0..1"},
		{with("fill.pattern", func(o *edit.Op) { o.Pattern = []string{"ninth"} }), `"ninth" is not allowed`},
		{with("lane.move", func(o *edit.Op) { o.By = 2 }), "place 2 is not there"},
	} {
		_, err := edit.Apply(p, []edit.Op{row.op})
		assert.ErrorContains(t, err, row.message)
	}
	_, err := edit.Apply(p, nil)
	assert.ErrorContains(t, err, "allowed: 1..1000")
	_, err = edit.Apply(p, []edit.Op{with("lane.double", func(*edit.Op) {}), with("steps.set", func(o *edit.Op) { o.Patch = json.RawMessage(`{"gate":0}`) })})
	assert.Error(t, err)
	assert.Equal(t, "1.5.", shown(p), "all ops apply or none")
}

func TestClipsAndLanes(t *testing.T) {
	p := line(t, "1.5.")
	next, err := edit.Apply(p, []edit.Op{
		{Op: "lane.copy", Clip: "a", Lane: "low"}, {Op: "lane.add", Clip: "a", Name: "Reed"}, {Op: "lane.move", Clip: "a", Lane: "reed", By: 1},
		{Op: "clip.copy", Clip: "a"}, {Op: "clip.add", Name: "Weir", Key: json.RawMessage(`{"tonic":"B","scale":"minor pentatonic"}`)}, {Op: "clip.move", Clip: "weir", By: 1},
	})
	require.NoError(t, err)
	var clips, lanes []string
	for _, c := range next.Clips {
		clips = append(clips, c.ID)
	}
	for _, l := range next.Clips[1].Lanes {
		lanes = append(lanes, l.ID)
	}
	assert.Equal(t, []string{"weir", "a", "a-2"}, clips)
	assert.Equal(t, []string{"reed", "low", "low-2"}, lanes)
	gone, err := edit.Apply(next, []edit.Op{{Op: "clip.remove", Clip: "a"}, {Op: "lane.remove", Clip: "a-2", Lane: "low"}})
	require.NoError(t, err)
	assert.Len(t, gone.Clips, 2)
	assert.Len(t, gone.Clips[1].Lanes, 2)
}

func TestAWindowIsCutWithItsLane(t *testing.T) {
	p := line(t, "12345671")
	p.Clips[0].Lanes[0].Window = &piece.Window{Start: 3, Count: 6}
	next, err := edit.Apply(p, []edit.Op{{Op: "lane.resize", Clip: "a", Lane: "low", By: 5}})
	if assert.NoError(t, err) {
		assert.Equal(t, &piece.Window{Start: 3, Count: 3}, next.Clips[0].Lanes[0].Window)
	}
}

func keyOp(tonic, scale, keep string) edit.Op {
	return edit.Op{Op: "key.set", Key: json.RawMessage(fmt.Sprintf(`{"tonic":%q,"scale":%q}`, tonic, scale)), Keep: keep}
}

func TestChangingTheKey(t *testing.T) {
	pitches := func(p *piece.Piece) []int {
		return render.StepPitches(&p.Clips[0].Lanes[0], p.KeyOf(&p.Clips[0]))
	}
	for _, row := range []struct {
		steps, tonic, scale, keep string
		changed                   int
		after                     string
	}{
		{"1357", "C", "natural minor", "degrees", 2, "1357"},    // E and B fall
		{"1357", "C", "natural minor", "pitches", 2, "1357"},    // E and B lie between two notes and go down
		{"1357", "D", "major", "degrees", 4, "1357"},            // all move up a tone
		{"135.", "G", "major", "pitches", 0, "4,6,1."},          // the same notes, other degrees
		{"1245", "C", "minor pentatonic", "degrees", 1, "1234"}, // 2 has no place: Eb is nearest
	} {
		p := line(t, row.steps)
		preview, err := edit.PreviewKey(p, keyOp(row.tonic, row.scale, row.keep))
		require.NoError(t, err)
		next, err := edit.Apply(p, []edit.Op{keyOp(row.tonic, row.scale, row.keep)})
		require.NoError(t, err)
		changed := 0
		for i, was := range pitches(p) {
			if p.Clips[0].Lanes[0].Steps[i].On && was != pitches(next)[i] {
				changed++
			}
		}
		assert.Equal(t, changed, len(preview.Changes), "the preview tells the truth")
		assert.Equal(t, row.changed, changed, "%+v %v", row, preview.Changes)
		assert.Equal(t, row.after, shown(next), "%+v", row)
	}
}

// Keeping pitches in a key that has them all changes none, whatever the tonic.
func TestKeepingPitchesInARelatedMode(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		steps := rapid.StringMatching(`[1-7.]{1,12}`).Draw(t, "steps")
		mode := rapid.SampledFrom([][2]string{{"D", "dorian"}, {"E", "phrygian"}, {"F", "lydian"}, {"G", "mixolydian"}, {"A", "aeolian"}, {"B", "locrian"}}).Draw(t, "mode")
		preview, err := edit.PreviewKey(line(t, steps), keyOp(mode[0], mode[1], "pitches"))
		require.NoError(t, err)
		assert.Empty(t, preview.Changes)
	})
}

func TestEvenSpreadsEvenly(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		total := rapid.IntRange(1, 64).Draw(t, "total")
		hits := rapid.IntRange(0, total).Draw(t, "hits")
		out := edit.Even(hits, total, rapid.IntRange(-70, 70).Draw(t, "rotation"))
		var at []int
		for i, on := range out {
			if on {
				at = append(at, i)
			}
		}
		require.Len(t, at, hits)
		for i := range at {
			gap := pitch.Mod(at[(i+1)%hits]-at[i]-1, total) + 1
			assert.True(t, gap == total/hits || gap == (total+hits-1)/hits, "gaps differ by one at most")
		}
	})
}
