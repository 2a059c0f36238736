package lane_test

import (
	"fmt"
	"math/big"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/document"
	"agrimony/internal/core/edit"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
	"agrimony/internal/view"
)

// Gong is a kind of lane made up for this test: on every step that is on it strikes
// as many semitones above C3 as the step says, a fifth higher where the lane that it
// names is on. Two rows in two tables are all that it takes.
type Gong struct {
	Above string     `json:"above"`
	Steps []GongStep `json:"steps"`
}

type GongStep struct {
	piece.Cell
	Height int `json:"height"`
}

var gongStep = &document.Shape[GongStep]{Doc: "A stroke.", Fields: append(
	piece.CellFields(piece.Cell{Velocity: 90, Gate: 100, Chance: 100, Ratchet: 1}, func(s *GongStep) *piece.Cell { return &s.Cell }),
	document.Whole("height", 0, 12, 0, "Semitones above C3.", func(s *GongStep) *int { return &s.Height }),
)}

func (g *Gong) StepList() piece.Steps { return piece.StepsOf(&g.Steps, gongStep) }
func (g *Gong) Clone() piece.Content {
	out := *g
	out.Steps = append([]GongStep{}, g.Steps...)
	return &out
}
func (g *Gong) CheckKey(*document.At, pitch.Key) {}
func (g *Gong) Needs() []piece.Need {
	if g.Above == "" {
		return nil
	}
	return []piece.Need{{Field: "above", Lane: g.Above}}
}

type gongs struct{}

func of(l *piece.Lane) *Gong { return l.Content.(*Gong) }

func (gongs) pitch(l *piece.Lane, step int) uint8 { return uint8(48 + of(l).Steps[step].Height) }

func (k gongs) Play(in *render.Input) render.Part {
	v := render.Voice{Pitch: make([]uint8, len(in.Slots))}
	for i, s := range in.Slots {
		v.Pitch[i] = k.pitch(in.Lane, int(s.Step))
		if above := of(in.Lane).Above; above != "" && len(in.Played(above).Notes) > 0 {
			v.Pitch[i] += 7
		}
	}
	return render.Mono(in, v)
}
func (gongs) Period(in *render.Input) *big.Int { return in.Pattern.Period() }
func (gongs) Reasons(p *render.Performance, _ *render.Part, l *piece.Lane, note *render.Note) []render.Reason {
	return []render.Reason{{Rule: "note", From: fmt.Sprint("height ", of(l).Steps[note.Step-1].Height), To: p.Name(note)}}
}
func (k gongs) Sounds(l *piece.Lane, key pitch.Key, _ func(int) *render.Chord) []render.Sound {
	out := make([]render.Sound, len(of(l).Steps))
	for i := range out {
		out[i] = render.OneSound(key, int(k.pitch(l, i)))
	}
	return out
}
func (gongs) Ladder(_ *piece.Lane, key pitch.Key, _ []int) []pitch.Rung {
	return key.Ladder(3, 48, 60, true)
}
func (gongs) Rekey(*piece.Lane, pitch.Key, pitch.Key, bool) {}

// withGongs puts the kind into both tables for a test.
func withGongs(t *testing.T) {
	before := piece.Kinds
	piece.Kinds = append(piece.Kinds[:len(before):len(before)], piece.Define("gong", "A gong.", "pluck",
		func(g *Gong) *[]GongStep { return &g.Steps }, gongStep,
		[]document.Field[Gong]{document.Text("above", 64, "", "The lane above which it stands.", func(g *Gong) *string { return &g.Above })}))
	lane.Kinds["gong"] = gongs{}
	t.Cleanup(func() {
		piece.Kinds = before
		delete(lane.Kinds, "gong")
	})
}

func read(t *testing.T, lanes string) (*piece.Piece, error) {
	return piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"a","bars":1,"lanes":[` + lanes + `]}]}`))
}

func TestAMadeUpKindNeedsARowInEachTable(t *testing.T) {
	withGongs(t)
	p, err := read(t, `{"id":"g","kind":"gong","rate":"1/4","above":"low","steps":[{"on":true,"height":3},{"on":true,"height":5,"ratchet":2},{},{}]},{"id":"low","steps":[{"on":true}]}`)
	require.NoError(t, err)

	performance, err := lane.Render(p, &p.Clips[0], render.Options{})
	require.NoError(t, err)
	gong := &performance.Lanes[0]
	assert.Equal(t, []uint8{58, 60, 60}, []uint8{gong.Notes[0].Pitch, gong.Notes[1].Pitch, gong.Notes[2].Pitch}, "a fifth above, because the lane that it needs was played first")
	assert.Equal(t, "Step 1, round 1 is at tick 0; height 3 of the lane is B♭3; step 1 has velocity 90; gate 100 % of the step is 960 ticks.", performance.Explain(gong, &gong.Notes[0]))

	next, err := edit.Apply(p, []op.Op{
		op.Of(op.SetSteps{OnSteps: op.OnSteps{Clip: "a", Lane: "g", Steps: []int{3}}, Patch: []byte(`{"on":true,"height":12}`)}),
		op.Of(op.RotateSteps{OnSteps: op.OnSteps{Clip: "a", Lane: "g", Steps: []int{1, 2, 3, 4}}, By: 1}),
	})
	require.NoError(t, err)
	assert.Equal(t, 12, of(&next.Clips[0].Lanes[0]).Steps[3].Height)
	_, err = edit.Apply(p, []op.Op{op.Of(op.TransposeSteps{OnSteps: op.OnSteps{Clip: "a", Lane: "g", Steps: []int{1}}, Unit: "degree", By: 1})})
	assert.ErrorContains(t, err, "ops[0].lane: notes of gong lanes have no pitch to move", "what a kind does not do is refused, not broken")

	shown, err := view.Of(next, &next.Clips[0], nil)
	require.NoError(t, err)
	assert.Equal(t, []any{"g", 4, 13}, []any{shown.Lanes[0].ID, len(shown.Lanes[0].Slots), len(shown.Lanes[0].Ladder)})

	again, err := piece.Read(piece.Write(next))
	require.NoError(t, err)
	assert.Equal(t, next.Clips, again.Clips)
	assert.Contains(t, string(piece.Schema()), `"const": "gong"`)
}

func TestLanesThatNeedEachOther(t *testing.T) {
	withGongs(t)
	for lanes, message := range map[string]string{
		`{"id":"g","kind":"gong","above":"none"}`:                                              `clips[0].lanes[0].above: no lane "none" in the clip`,
		`{"id":"g","kind":"gong","above":"g"}`:                                                 "clips[0].lanes[0].above: needs itself: g needs g",
		`{"id":"x"},{"id":"g","kind":"gong","above":"h"},{"id":"h","kind":"gong","above":"g"}`: "clips[0].lanes[2].above: needs itself: g needs h needs g",
		`{"id":"g","kind":"gong","height":3}`:                                                  "clips[0].lanes[0].height: is not a known field",
		`{"id":"g","kind":"gong","steps":[{"height":13}]}`:                                     "clips[0].lanes[0].steps[0].height: 13 is above 12; allowed: 0..12",
		`{"id":"g","kind":"drone"}`:                                                            `clips[0].lanes[0].kind: "drone" is not allowed; allowed: line, chords, phrase, pulse, control, layer, notes, gong`,
	} {
		_, err := read(t, lanes)
		assert.ErrorContains(t, err, message)
	}
	p, err := read(t, `{"id":"g","kind":"gong","above":"low","steps":[{"on":true}]},{"id":"low","mute":true,"steps":[{"on":true}]}`)
	require.NoError(t, err)
	performance, err := lane.Render(p, &p.Clips[0], render.Options{})
	require.NoError(t, err)
	require.Len(t, performance.Lanes, 1, "a muted lane is played for those that need it, and not heard")
	assert.EqualValues(t, 55, performance.Lanes[0].Notes[0].Pitch)
}
