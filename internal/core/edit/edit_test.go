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
	"agrimony/internal/core/lane"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
)

// line is a piece with one lane in C major, octave 3; a dot is a rest, a digit a
// note on that degree.
func line(t require.TestingT, steps string) *piece.Piece {
	p := piece.Default()
	clip, low := piece.NewClip("a", "A"), piece.NewLane("line", "low", "Low")
	low.Content.StepList().Resize(len(steps))
	for i, c := range steps {
		if c != '.' {
			step := &low.Content.(*piece.Line).Steps[i]
			step.On, step.Degree = true, int(c-'0')
		}
	}
	clip.Lanes = []piece.Lane{low}
	p.Clips = []piece.Clip{clip}
	require.NoError(t, piece.Check(p))
	return p
}

func first(p *piece.Piece) *piece.Line { return p.Clips[0].Lanes[0].Content.(*piece.Line) }

var onLane = op.OnLane{Clip: "a", Lane: "low"}

func onSteps(steps ...int) op.OnSteps { return op.OnSteps{Clip: "a", Lane: "low", Steps: steps} }

func apply(p *piece.Piece, edits ...any) (*piece.Piece, error) {
	ops := make([]op.Op, len(edits))
	for i, args := range edits {
		ops[i] = op.Of(args)
	}
	return edit.Apply(p, ops)
}

// shown writes the lane back, with octave marks.
func shown(p *piece.Piece) string {
	var out strings.Builder
	for _, s := range first(p).Steps {
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
	out := make([]int, len(first(p).Steps))
	for i := range out {
		out[i] = i + 1
	}
	return out
}

func TestOpsOnSteps(t *testing.T) {
	raw := func(text string) json.RawMessage { return json.RawMessage(text) }
	for name, row := range map[string]struct {
		before string
		edit   func(on op.OnSteps) any
		after  string
	}{
		"a degree up crosses the octave":     {"5.7", func(on op.OnSteps) any { return op.TransposeSteps{OnSteps: on, Unit: "degree", By: 1} }, "6.1'"},
		"an octave down":                     {"1.5", func(on op.OnSteps) any { return op.TransposeSteps{OnSteps: on, Unit: "octave", By: -1} }, "1,.5,"},
		"a semitone up into the key":         {"3.7", func(on op.OnSteps) any { return op.TransposeSteps{OnSteps: on, Unit: "semitone", By: 1} }, "4.1'"},
		"a semitone up out of it is altered": {"4...", func(on op.OnSteps) any { return op.TransposeSteps{OnSteps: on, Unit: "semitone", By: 1} }, "4#..."},
		"and as theory spells it":            {"1...", func(on op.OnSteps) any { return op.TransposeSteps{OnSteps: on, Unit: "semitone", By: 1} }, "2b..."},
		"rotate later":                       {"12..", func(on op.OnSteps) any { return op.RotateSteps{OnSteps: on, By: 1} }, ".12."},
		"rotate earlier comes round":         {"12..", func(on op.OnSteps) any { return op.RotateSteps{OnSteps: on, By: -1} }, "2..1"},
		"reverse":                            {"12.3", func(on op.OnSteps) any { return op.ReverseSteps{OnSteps: on} }, "3.21"},
		"every second step":                  {"....", func(on op.OnSteps) any { return op.FillEvery{OnSteps: on, Every: 2} }, "1.1."},
		"three over eight":                   {"........", func(on op.OnSteps) any { return op.FillEven{OnSteps: on, Hits: 3} }, "1..1..1."},
		"three over eight, turned by two":    {"........", func(on op.OnSteps) any { return op.FillEven{OnSteps: on, Hits: 3, Turn: 2} }, "1.1..1.."},
		"a rhythm fill keeps pitches":        {"5.....3.", func(on op.OnSteps) any { return op.FillEvery{OnSteps: on, Every: 2} }, "5.1.1.3."},
		"a pitch fill keeps rhythm": {"1.1.11..", func(on op.OnSteps) any {
			return op.FillPattern{OnSteps: on, Tones: []string{"root", "fifth", "octave"}}
		}, "1.5.1'1.."},
		"a contour sets pitches only": {"1.1", func(on op.OnSteps) any {
			return op.FillContour{OnSteps: on, Places: []*pitch.Place{{Degree: 3}, nil, {Degree: 5, Octave: 1}}}
		}, "3.5'"},
		"the lane grows with rests":    {"12", func(op.OnSteps) any { return op.ResizeLane{OnLane: onLane, Count: 4} }, "12.."},
		"and shrinks":                  {"1234", func(op.OnSteps) any { return op.ResizeLane{OnLane: onLane, Count: 3} }, "123"},
		"doubling repeats the content": {"1.5", func(op.OnSteps) any { return op.DoubleLane{OnLane: onLane} }, "1.51.5"},
		"setting fields of many steps": {"1.1", func(on op.OnSteps) any { return op.SetSteps{OnSteps: on, Patch: raw(`{"on":true,"degree":2}`)} }, "222"},
		"writing puts whole steps": {"...", func(on op.OnSteps) any {
			return op.WriteSteps{OnSteps: on, Content: []json.RawMessage{raw(`{"on":true,"degree":4}`), raw(`{}`), raw(`{}`)}}
		}, "4.."},
		"steps of another kind give their rhythm, and pitches stay": {"3.", func(on op.OnSteps) any {
			return op.WriteSteps{OnSteps: on, Loose: true, Content: []json.RawMessage{raw(`{"degree":4,"play":"next"}`), raw(`{"on":true,"degree":4,"tie":true}`)}}
		}, ".1"},
	} {
		t.Run(name, func(t *testing.T) {
			p := line(t, row.before)
			next, err := apply(p, row.edit(onSteps(all(p)...)))
			require.NoError(t, err)
			assert.Equal(t, row.after, shown(next))
			assert.Equal(t, row.before, shown(p), "the piece itself stays")
		})
	}
}

func TestOpsThatAreRefused(t *testing.T) {
	p := line(t, "1.5.")
	raw := func(text string) json.RawMessage { return json.RawMessage(text) }
	for _, row := range []struct {
		edit    any
		message string
	}{
		{op.SetSteps{OnSteps: op.OnSteps{Clip: "b", Lane: "low", Steps: []int{1}}}, `ops[0].clip: no clip "b"; the piece has: a`},
		{op.SetSteps{OnSteps: op.OnSteps{Clip: "a", Lane: "b", Steps: []int{1}}}, `ops[0].lane: no lane "b" in clip "a"`},
		{op.SetSteps{OnSteps: onSteps(5)}, "ops[0].steps: there is no step 5; allowed: 1..4"},
		{op.SetSteps{OnSteps: onSteps()}, "ops[0].steps: 0 steps are named; allowed: 1..4, each once"},
		{op.SetSteps{OnSteps: onSteps(1, 1)}, "ops[0].steps: step 1 is named twice; allowed: each once"},
		{op.SetSteps{OnSteps: onSteps(1), Patch: raw(`{"gate":0}`)}, "clips[0].lanes[0].steps[0].gate: 0 is below 1"},
		{op.SetSteps{OnSteps: onSteps(1), Patch: raw(`{"degree":8}`)}, "degree: 8 is above 7"},
		{op.TransposeSteps{OnSteps: onSteps(1), Unit: "octave", By: 5}, "clips[0].lanes[0].steps[0].octave: 5 is out of reach; allowed: -4..4"},
		{op.TransposeSteps{OnSteps: onSteps(1), Unit: "mile"}, "ops[0].unit: \"mile\" is not allowed; allowed: degree, semitone, octave"},
		{op.ResizeLane{OnLane: onLane, Count: 513}, "ops[0].count: 513 steps; allowed: 1..512"},
		{op.FillEven{OnSteps: onSteps(1), Hits: 2}, "ops[0].hits: 2 over 1 step; allowed: 0..1"},
		{op.FillPattern{OnSteps: onSteps(1), Tones: []string{"ninth"}}, `ops[0].tones: "ninth" is not allowed`},
		{op.FillContour{OnSteps: onSteps(1), Places: []*pitch.Place{{Degree: 99}}}, "clips[0].lanes[0].steps[0].degree: 99 is out of reach; allowed: 1..7"},
		{op.MoveLane{OnLane: onLane, To: 2}, "ops[0].to: place 2 is not there; allowed: 1..1"},
		{op.AddLane{OnClip: op.OnClip{Clip: "a"}, Kind: "organ"}, `ops[0].kind: "organ" is not allowed; allowed: line`},
		{op.SetLane{OnLane: onLane, Patch: raw(`{"kind":"organ"}`)}, `clips[0].lanes[0].kind: "organ" is not what this lane is; allowed: line`},
	} {
		_, err := apply(p, row.edit)
		assert.ErrorContains(t, err, row.message)
		var fault *piece.Fault
		assert.ErrorAs(t, err, &fault)
	}
	_, err := edit.Apply(p, nil)
	assert.ErrorContains(t, err, "allowed: 1..1000")
	_, err = apply(p, op.DoubleLane{OnLane: onLane}, op.SetSteps{OnSteps: onSteps(1), Patch: raw(`{"gate":0}`)})
	assert.Error(t, err)
	assert.Equal(t, "1.5.", shown(p), "all ops apply or none")
	_, err = apply(p, op.SetSteps{OnSteps: onSteps(1), Patch: raw(`{"degree":7}`)}, op.SetPiece{Patch: raw(`{"key":{"scale":"minor pentatonic"}}`)}, op.TransposeSteps{OnSteps: onSteps(1), Unit: "degree", By: 1})
	assert.ErrorContains(t, err, "degree: 7 is above 5", "each op leaves a piece that the next can work on")
}

func TestOpsAsJSON(t *testing.T) {
	for text, message := range map[string]string{
		`{"op":"steps.dance"}`: `op: "steps.dance" is not allowed; allowed: bass.make`,
		`{"clip":"a"}`:         "op: is missing",
		`{"op":"lane.resize","clip":"a","lane":"low","by":3}`:      `lane.resize: unknown field "by"`,
		`{"op":"lane.resize","clip":"a","lane":"low","count":"x"}`: "lane.resize: cannot unmarshal string",
	} {
		var o op.Op
		assert.ErrorContains(t, json.Unmarshal([]byte(text), &o), message)
	}
	for _, name := range op.Names() {
		var o, again op.Op
		require.NoError(t, json.Unmarshal([]byte(fmt.Sprintf(`{"op":%q}`, name)), &o))
		text, err := json.Marshal(o)
		require.NoError(t, err)
		require.NoError(t, json.Unmarshal(text, &again), string(text))
		twice, err := json.Marshal(again)
		require.NoError(t, err)
		assert.Equal(t, string(text), string(twice))
		assert.Equal(t, name, again.Name())
		assert.NotEmpty(t, edit.Label([]op.Op{o}), "every edit is done by a rule")
	}
}

func TestClipsAndLanes(t *testing.T) {
	p := line(t, "1.5.")
	next, err := apply(p,
		op.CopyLane{OnLane: onLane}, op.AddLane{OnClip: op.OnClip{Clip: "a"}, Name: "Reed"}, op.MoveLane{OnLane: op.OnLane{Clip: "a", Lane: "reed"}, To: 1},
		op.CopyClip{OnClip: op.OnClip{Clip: "a"}}, op.AddClip{Name: "Weir", Key: json.RawMessage(`{"tonic":"B","scale":"minor pentatonic"}`)}, op.MoveClip{OnClip: op.OnClip{Clip: "weir"}, To: 1},
	)
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
	gone, err := apply(next, op.RemoveClip{OnClip: op.OnClip{Clip: "a"}}, op.RemoveLane{OnLane: op.OnLane{Clip: "a-2", Lane: "low"}})
	require.NoError(t, err)
	assert.Len(t, gone.Clips, 2)
	assert.Len(t, gone.Clips[1].Lanes, 2)
	assert.Len(t, next.Clips[2].Lanes, 3, "the piece given is left alone")
	renamed, err := apply(p, op.SetLane{OnLane: onLane, Patch: json.RawMessage(`{"name":""}`)})
	require.NoError(t, err)
	assert.Equal(t, "low", renamed.Clips[0].Lanes[0].Name, "what comes back is what would be read")
}

// A note's end is dragged: within the step it is the gate, past it a tie.
func TestDraggingANotesEnd(t *testing.T) {
	for _, row := range []struct {
		ticks int
		want  string
	}{
		{120, "50"}, {240, "100"}, {360, "75-,50"}, {700, "75-,75-,92"}, {900, "75-,75-,75-"}, {-5, "1"},
	} {
		p, err := apply(line(t, "1..5"), op.DragEnd{OnLane: onLane, Step: 1, Ticks: row.ticks})
		require.NoError(t, err)
		var out []string
		for i := range first(p).Steps {
			s := &first(p).Steps[i]
			out = append(out, fmt.Sprint(s.Gate)+strings.Repeat("-", map[bool]int{true: 1}[s.Tie]))
			if !s.Tie {
				break
			}
		}
		assert.Equal(t, row.want, strings.Join(out[:min(len(out), 3)], ","), "%d ticks", row.ticks)
	}
}

func TestTakingAnotherLanesRhythm(t *testing.T) {
	p, err := apply(line(t, "1..4..6."), op.AddLane{OnClip: op.OnClip{Clip: "a"}, Name: "Reed", Patch: json.RawMessage(`{"rate":"1/8"}`)},
		op.ResizeLane{OnLane: op.OnLane{Clip: "a", Lane: "reed"}, Count: 4}, op.FillFrom{OnSteps: op.OnSteps{Clip: "a", Lane: "reed", Steps: []int{1, 2, 3, 4}}, From: "low"})
	require.NoError(t, err)
	var on []bool
	for i := range 4 {
		on = append(on, p.Clips[0].Lanes[1].Content.StepList().Cell(i).On)
	}
	assert.Equal(t, []bool{true, true, false, true}, on)
}

func TestAWindowIsCutWithItsLane(t *testing.T) {
	p := line(t, "12345671")
	p.Clips[0].Lanes[0].Window = &piece.Window{Start: 3, Count: 6}
	next, err := apply(p, op.ResizeLane{OnLane: onLane, Count: 5})
	require.NoError(t, err)
	assert.Equal(t, &piece.Window{Start: 3, Count: 3}, next.Clips[0].Lanes[0].Window)
	gone, err := apply(p, op.ResizeLane{OnLane: onLane, Count: 2})
	require.NoError(t, err)
	assert.Nil(t, gone.Clips[0].Lanes[0].Window, "nothing of it is left")
}

func keyOp(tonic, scale, keep string) op.SetKey {
	return op.SetKey{Key: json.RawMessage(fmt.Sprintf(`{"tonic":%q,"scale":%q}`, tonic, scale)), Keep: keep}
}

func TestChangingTheKey(t *testing.T) {
	pitches := func(p *piece.Piece) []int {
		var out []int
		for _, sound := range lane.Sounds(p, &p.Clips[0], &p.Clips[0].Lanes[0]) {
			out = append(out, sound.Pitches...)
		}
		return out
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
		next, err := apply(p, keyOp(row.tonic, row.scale, row.keep))
		require.NoError(t, err)
		changed := 0
		for i, was := range pitches(p) {
			if first(p).Steps[i].On && was != pitches(next)[i] {
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

func TestTheFirstThingAddedTakesThePlaceOfALaneThatIsAsItWasMade(t *testing.T) {
	fresh, err := edit.Apply(piece.Default(), []op.Op{op.Of(op.AddClip{Name: "Quay"})})
	require.NoError(t, err)
	on := op.OnClip{Clip: fresh.Clips[0].ID}
	add := op.Of(op.AddLane{OnClip: on, Kind: "chords", Name: "Tide", First: true})
	low := op.OnSteps{Clip: on.Clip, Lane: "low", Steps: []int{1}}
	for _, row := range []struct {
		name  string
		ops   []op.Op
		lanes []string
	}{
		{"as it was made", []op.Op{add}, []string{"Tide"}},
		{"not asked for", []op.Op{op.Of(op.AddLane{OnClip: on, Kind: "chords", Name: "Tide"})}, []string{"Low", "Tide"}},
		{"with a note", []op.Op{op.Of(op.SetSteps{OnSteps: low, Patch: []byte(`{"on":true}`)}), add}, []string{"Low", "Tide"}},
		{"renamed", []op.Op{op.Of(op.SetLane{OnLane: op.OnLane{Clip: on.Clip, Lane: "low"}, Patch: []byte(`{"name":"Sub"}`)}), add}, []string{"Sub", "Tide"}},
		{"the second thing", []op.Op{add, op.Of(op.AddLane{OnClip: on, Name: "Reed", First: true})}, []string{"Tide", "Reed"}},
	} {
		next, err := edit.Apply(fresh, row.ops)
		require.NoError(t, err)
		var names []string
		for _, l := range next.Clips[0].Lanes {
			names = append(names, l.Name)
		}
		assert.Equal(t, row.lanes, names, row.name)
	}
}

func TestCopiesHaveNamesThatFit(t *testing.T) {
	long := strings.Repeat("n", piece.MaxName)
	p, err := edit.Apply(piece.Default(), []op.Op{op.Of(op.AddClip{Name: long})})
	require.NoError(t, err)
	p, err = edit.Apply(p, []op.Op{op.Of(op.CopyClip{OnClip: op.OnClip{Clip: p.Clips[0].ID}})})
	require.NoError(t, err)
	assert.Equal(t, long, p.Clips[1].Name)
}
