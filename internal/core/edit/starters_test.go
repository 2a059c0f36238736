package edit

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
)

// bare is a clip of one lane, which the JSON tells.
func bare(t require.TestingT, lane string) *piece.Piece {
	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"keel","lanes":[` + lane + `]}]}`))
	require.NoError(t, err)
	return p
}

// startInto takes a starter, as a lane, into the lane of a piece.
func startInto(p *piece.Piece, starter, part string, sound bool) (*piece.Piece, error) {
	document := fmt.Sprintf(`{"format":"agrimony-starter","version":1,"name":"Tide","lane":%s}`, starter)
	return Apply(p, []op.Op{op.Of(op.StartLane{Clip: "keel", Lane: "low", Starter: []byte(document), Part: part, Sound: sound})})
}

// said are the steps of a line: "3*80" is its third degree at velocity 80, "-" a rest.
func said(p *piece.Piece) string {
	var out []string
	for _, s := range p.Clips[0].Lanes[0].Content.(*piece.Line).Steps {
		word := "-"
		if s.On {
			word = fmt.Sprintf("%d*%d", s.Degree, s.Velocity)
		}
		out = append(out, word)
	}
	return strings.Join(out, " ")
}

func TestAPartOfAStarterIsTaken(t *testing.T) {
	own := `{"id":"low","kind":"line","sound":{"level":31},"steps":[{"on":true,"degree":1},{},{"on":true,"degree":5,"chance":40},{"on":true,"degree":3}]}`
	tide := `{"kind":"line","rate":"1/8","octave":1,"sound":{"level":90,"voice":"pluck"},` +
		`"steps":[{"on":true,"degree":7,"velocity":120},{"on":true,"degree":6,"velocity":60},{},{},{"on":true,"degree":2,"velocity":80},{}]}`
	for _, row := range []struct {
		part        string
		sound       bool
		steps       string
		rate, voice string
		level       int
		octave      int
	}{
		{"", false, "7*120 6*60 - - 2*80 -", "1/8", "bass", 31, 1},
		{"", true, "7*120 6*60 - - 2*80 -", "1/8", "pluck", 90, 1},
		{"rhythm", false, "1*120 5*60 - - 3*80 -", "1/8", "bass", 31, 3},
		{"rhythm", true, "1*120 5*60 - - 3*80 -", "1/8", "pluck", 90, 3},
		{"pitches", false, "7*100 - 6*100 2*100", "1/16", "bass", 31, 1},
		{"sound", false, "1*100 - 5*100 3*100", "1/16", "pluck", 90, 3},
	} {
		next, err := startInto(bare(t, own), tide, row.part, row.sound)
		require.NoError(t, err, row.part)
		lane := &next.Clips[0].Lanes[0]
		assert.Equal(t, row.steps, said(next), "%q with its sound: %t", row.part, row.sound)
		assert.Equal(t, []any{row.rate, row.voice, row.level, row.octave}, []any{lane.Rate, lane.Sound.Voice, lane.Sound.Level, piece.PitchedOf(lane).Octave}, row.part)
		if row.part != "" {
			assert.Empty(t, lane.Starter, "it was not begun from it")
			assert.Equal(t, 40, lane.Content.StepList().Cell(2).Chance, "chances are the lane's own, step by step")
		}
	}
	chords := `{"kind":"chords","palette":[{"tones":[{"degree":2},{"degree":4}]}],"steps":[{"on":true}]}`
	for words, wrong := range map[string]error{
		"is a chords; allowed: a starter for a line lane":           second(startInto(bare(t, `{"id":"low"}`), chords, "rhythm", false)),
		"allowed: rhythm, pitches, sound, or nothing for all of it": second(startInto(bare(t, `{"id":"low"}`), tide, "beat", false)),
		"allowed: all of a starter, or its sound":                   second(startInto(bare(t, `{"id":"low","kind":"notes"}`), `{"kind":"notes"}`, "pitches", false)),
	} {
		assert.ErrorContains(t, wrong, words)
	}
	next, err := startInto(bare(t, `{"id":"low"}`), chords, "sound", false)
	require.NoError(t, err, "a sound is taken by any kind")
	assert.Equal(t, "keys", next.Clips[0].Lanes[0].Sound.Voice)
}

func second(_ *piece.Piece, err error) error { return err }

// Rhythm and pitches, taken one after the other, are both the starter's: the same notes as all of it has.
func TestBothPartsAreTheWhole(t *testing.T) {
	lane := func(rt *rapid.T, name string) string {
		steps := make([]string, rapid.IntRange(1, 12).Draw(rt, name))
		for i := range steps {
			on, degree, velocity := rapid.Bool().Draw(rt, "on"), rapid.IntRange(1, 7).Draw(rt, "degree"), rapid.IntRange(1, 127).Draw(rt, "velocity")
			steps[i] = fmt.Sprintf(`{"on":%t,"degree":%d,"velocity":%d}`, on, degree, velocity)
		}
		return fmt.Sprintf(`{"id":"low","rate":%q,"steps":[%s]}`, rapid.SampledFrom([]string{"1/8", "1/16"}).Draw(rt, "rate"), strings.Join(steps, ","))
	}
	rapid.Check(t, func(rt *rapid.T) {
		p, starter := bare(rt, lane(rt, "own")), strings.Replace(lane(rt, "starter"), `"id":"low",`, "", 1)
		all, err := startInto(p, starter, "", false)
		require.NoError(rt, err)
		for _, parts := range [][2]string{{"rhythm", "pitches"}, {"pitches", "rhythm"}} {
			one, err := startInto(p, starter, parts[0], false)
			require.NoError(rt, err)
			both, err := startInto(one, starter, parts[1], false)
			require.NoError(rt, err)
			if parts[0] == "rhythm" || strings.Count(said(one), "*") >= strings.Count(said(all), "*") {
				assert.Equal(rt, said(all), said(both), "%v", parts)
			}
		}
	})
}
