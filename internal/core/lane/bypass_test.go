package lane_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/budget"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/piece/piecetest"
	"agrimony/internal/core/render"
	"agrimony/internal/core/review"
	"agrimony/internal/demo"
)

// bypassable is what lanes of a kind can bypass.
func bypassable(t testing.TB, kind string) (words []string) {
	for _, b := range piece.Bypassables {
		_, err := piece.Read(fmt.Appendf(nil, `{"format":"agrimony-piece","version":1,"clips":[{"lanes":[{"kind":%q,"bypass":[%q]}]}]}`, kind, b.Name))
		if err == nil || !strings.Contains(err.Error(), "bypass") {
			words = append(words, b.Name)
		}
	}
	require.NotEmpty(t, words, kind)
	return words
}

// switchOff lets a lane bypass this and that, and switches some of its modulators off.
func switchOff(random *rand.Rand, l *piece.Lane, words []string) {
	l.Bypass = []string{}
	for _, word := range words {
		if random.IntN(2) == 0 {
			l.Bypass = append(l.Bypass, word)
		}
	}
	l.Modulators = slices.Clone(l.Modulators)
	for i := range l.Modulators {
		l.Modulators[i].Off = random.IntN(2) == 0
	}
}

// takenOut is a lane with what it bypasses taken out of the document instead.
func takenOut(l *piece.Lane) {
	bypass := l.Bypass
	l.Bypass = []string{}
	l.Modulators = slices.DeleteFunc(slices.Clone(l.Modulators), func(m piece.Modulator) bool {
		return m.Off || m.On == "chance" && slices.Contains(bypass, "chance")
	})
	cells := func(change func(*piece.Cell)) {
		if steps := l.Content.StepList(); steps != nil {
			for i := range steps.Len() {
				change(steps.Cell(i))
			}
		}
	}
	own, free := l.Content.(*piece.Notes)
	for _, what := range bypass {
		switch what {
		case "odds":
			l.Odds = []piece.Odd{}
		case "range":
			l.Range = nil
		case "chance":
			cells(func(c *piece.Cell) { c.Chance = 100 })
			for i := range listOf(own, free) {
				own.Notes[i].Chance = 100
			}
		case "rounds":
			cells(func(c *piece.Cell) { c.Rounds = nil })
			for i := range listOf(own, free) {
				own.Notes[i].Rounds = nil
			}
		case "groove":
			l.Share = piece.Share{}
			if layer, ok := l.Content.(*piece.Layer); ok {
				layer.OwnShare = true
			}
		case "layer-keep":
			l.Content.(*piece.Layer).Keep = piece.Keep{Name: "all"}
		}
	}
}

func listOf(own *piece.Notes, ok bool) []piece.FreeNote {
	if !ok {
		return nil
	}
	return own.Notes
}

// What a lane bypasses, and modulators that are off, are as if they were not in the document: in what is heard, in
// the cycle, and in what the review finds.
func TestWhatIsBypassedIsAsIfItWereNotThere(t *testing.T) {
	words := map[string][]string{}
	for _, k := range piece.Kinds {
		words[k.Name] = bypassable(t, k.Name)
	}
	sample, err := demo.Piece()
	require.NoError(t, err)
	compared, differed := 0, 0
	for seed := range uint64(60) {
		random := rand.New(rand.NewPCG(31, seed))
		p := sample
		if seed%2 == 0 {
			p, err = piece.Read([]byte(piecetest.Heavy(random.IntN, 1_800)))
			require.NoError(t, err)
		}
		at := random.IntN(len(p.Clips))
		copied := func(change func(*piece.Lane)) *piece.Piece {
			next := *p
			next.Clips = slices.Clone(p.Clips)
			clip := &next.Clips[at]
			clip.Lanes = slices.Clone(clip.Lanes)
			for i := range clip.Lanes {
				clip.Lanes[i] = clip.Lanes[i].Clone()
				change(&clip.Lanes[i])
			}
			return &next
		}
		off := copied(func(l *piece.Lane) { switchOff(random, l, words[l.Kind]) })
		text := piece.Write(off)
		off, err = piece.Read(text)
		require.NoError(t, err, "what is off is kept: %s", text)
		perform := func(p *piece.Piece, before *render.Performance) (*render.Performance, error) {
			return lane.Render(p, &p.Clips[at], render.Options{Bars: 4, Events: 20_000, Rough: true, Budget: budget.New(1_000_000, nil), Before: before})
		}
		was, err := perform(p, nil)
		if err != nil {
			continue // it is too much
		}
		p = off
		out := copied(takenOut)
		want, wrong := perform(out, nil)
		got, err := perform(off, was)
		if wrong != nil || err != nil {
			assert.Equal(t, wrong == nil, err == nil, "%v, %v", wrong, err)
			continue
		}
		compared++
		if fmt.Sprint(played(was)) != fmt.Sprint(played(want)) {
			differed++
		}
		require.Equal(t, played(want), played(got), "seed %d: %s", seed, text)
		require.Equal(t, lane.Cycle(out, &out.Clips[at]), lane.Cycle(off, &off.Clips[at]), "seed %d", seed)
		require.Equal(t, review.Reports(review.Clip(want)), review.Reports(review.Clip(got)), "seed %d: %s", seed, text)
	}
	assert.Greater(t, compared, 30)
	assert.Greater(t, differed, 12)
}

func TestWhatCannotBeBypassedIsRefused(t *testing.T) {
	for lane, words := range map[string]string{
		`{"steps":[{}],"bypass":["layer-keep"]}`:                                   `clips[0].lanes[0].bypass[0]: "layer-keep" is not allowed; allowed: odds, range, chance, rounds, groove`,
		`{"steps":[{}],"bypass":["odds","odds"]}`:                                  `clips[0].lanes[0].bypass[1]: "odds" is there twice; allowed: each word once`,
		`{"kind":"control","steps":[{}],"bypass":["range"]}`:                       `clips[0].lanes[0].bypass[0]: "range" is not allowed; allowed: chance, rounds, groove`,
		`{"steps":[{}],"modulators":[{"on":"gate","from":900,"to":2,"off":true}]}`: `clips[0].lanes[0].modulators[0].from: 900 is above 400; allowed: -400..400`,
		`{"steps":[{}],"bypass":"odds"}`:                                           `clips[0].lanes[0].bypass: is a text; allowed: a list`,
	} {
		_, err := piece.Read([]byte(fmt.Sprintf(`{"format":"agrimony-piece","version":1,"clips":[{"lanes":[%s]}]}`, lane)))
		assert.ErrorContains(t, err, words)
	}
}
