package starter_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/edit"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
	"agrimony/internal/core/review"
	"agrimony/internal/core/starter"
)

func TestThereAreEightOfEachKind(t *testing.T) {
	count := map[string]int{}
	names := map[string]bool{}
	for _, s := range starter.BuiltIn() {
		count[s.Lane.Kind]++
		assert.False(t, names[s.Name], "%s is there once", s.Name)
		names[s.Name] = true
		again, err := piece.ReadStarter(piece.WriteStarter(s))
		require.NoError(t, err)
		assert.Equal(t, s, again)
	}
	for _, kind := range []string{"line", "chords", "phrase", "pulse"} {
		assert.GreaterOrEqual(t, count[kind], 8, kind)
	}
}

// Each begins in any key, sounds, and is known to be as its starter has it.
func TestEachSoundsInAnyKey(t *testing.T) {
	for _, key := range []string{`{"tonic":"F#","scale":"dorian"}`, `{"tonic":"Eb","scale":"minor pentatonic"}`, `{"tonic":"C","scale":"chromatic"}`, `{"tonic":"B","scale":"harmonic minor"}`} {
		p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"key":` + key + `,"clips":[{"id":"a","bars":4,"lanes":[{"id":"ch","kind":"chords","rate":"1bar","palette":[{"tones":[{"degree":1},{"degree":3},{"degree":5}]}],"steps":[{"on":true}]}]}]}`))
		require.NoError(t, err)
		for _, s := range starter.BuiltIn() {
			next, err := edit.Apply(p, []op.Op{op.Of(op.StartLane{Clip: "a", Starter: piece.WriteStarter(s)})})
			require.NoError(t, err, "%s in %s", s.Name, key)
			own := &next.Clips[0].Lanes[1]
			assert.Equal(t, s.Name, own.Starter)
			performance, err := lane.Render(next, &next.Clips[0], render.Options{Lanes: []string{own.ID}})
			require.NoError(t, err)
			assert.NotEmpty(t, performance.Lanes[0].Notes, "%s in %s", s.Name, key)
			assert.True(t, edit.AsStarter(s, own, next.KeyOf(&next.Clips[0])), "%s in %s", s.Name, key)
			own.Quiet = []string{"seam"}
			assert.True(t, edit.AsStarter(s, own, next.KeyOf(&next.Clips[0])), "what the review says of %s is not a part of it", s.Name)
			if notes, ok := own.Content.(*piece.Notes); ok {
				notes.Notes[0].Velocity = 3
			} else {
				own.Content.StepList().Cell(0).Velocity = 3
			}
			assert.False(t, edit.AsStarter(s, own, next.KeyOf(&next.Clips[0])), "%s differs", s.Name)
		}
	}
}

func TestWhatStartersRefuse(t *testing.T) {
	for text, message := range map[string]string{
		`{`: "unexpected end",
		`{"format":"agrimony-starter","version":2,"name":"x","lane":{}}`:                       "version: 2 is above 1; allowed: 1..1",
		`{"format":"agrimony-piece","version":1,"name":"x","lane":{}}`:                         `format: "agrimony-piece" is not allowed; allowed: agrimony-starter`,
		`{"format":"agrimony-starter","version":1,"lane":{}}`:                                  "name: is missing",
		`{"format":"agrimony-starter","version":1,"name":"","lane":{}}`:                        "name: is empty; allowed: 1..80 characters",
		`{"format":"agrimony-starter","version":1,"name":"x"}`:                                 "lane: is missing",
		`{"format":"agrimony-starter","version":1,"name":"x","lane":{"steps":[{"gate":0}]}}`:   "lane.steps[0].gate: 0 is below 1; allowed: 1..400",
		`{"format":"agrimony-starter","version":1,"name":"x","lane":{"steps":[{"degree":9}]}}`: "lane.steps[0].degree: 9 is above 7",
	} {
		_, err := piece.ReadStarter([]byte(text))
		require.Error(t, err, text)
		assert.True(t, strings.Contains(err.Error(), message) || text == `{`, "%s: %v", text, err)
	}
}

// A lane that needs others is told which it does not find, and given others instead.
func TestALaneThatNeedsOthersGoesElsewhere(t *testing.T) {
	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"a","lanes":[{"id":"low","steps":[{"on":true}]}]}]}`))
	require.NoError(t, err)
	layer, err := piece.ReadStarter([]byte(`{"format":"agrimony-starter","version":1,"name":"Above","lane":{"kind":"layer","of":"bass","octave":1}}`))
	require.NoError(t, err)
	start := func(needs map[string]string) (*piece.Piece, error) {
		return edit.Apply(p, []op.Op{op.Of(op.StartLane{Clip: "a", Starter: piece.WriteStarter(layer), Needs: needs, Plain: true})})
	}
	_, err = start(nil)
	assert.ErrorContains(t, err, `ops[0].needs.of: the clip has no lane "bass" with notes; allowed: low`)
	_, err = start(map[string]string{"of": ""})
	assert.ErrorContains(t, err, "ops[0].needs.of: it cannot be left out; allowed: low")
	next, err := start(map[string]string{"of": "low"})
	require.NoError(t, err)
	assert.Equal(t, "low", next.Clips[0].Lanes[1].Content.(*piece.Layer).Of)
	assert.Empty(t, next.Clips[0].Lanes[1].Starter)
	_, err = edit.Apply(next, []op.Op{op.Of(op.RemoveLane{OnLane: op.OnLane{Clip: "a", Lane: "low"}})})
	assert.ErrorContains(t, err, "ops[0].lane: Above needs it; allowed: a lane that no other one needs, so remove Above first")
}

// Where starters lie and how they hold, as their labels promise.
func TestStartersAreWhatTheyAreCalled(t *testing.T) {
	following := 0
	for _, s := range starter.BuiltIn() {
		if phrase, ok := s.Lane.Content.(*piece.Phrase); ok && phrase.Span > 1 {
			assert.Equal(t, 3, phrase.Octave, "%s walks two octaves", s.Name)
		}
		if pitched := piece.PitchedOf(&s.Lane); pitched != nil && pitched.Follow == "root" {
			following++
			assert.Equal(t, "near", pitched.Roots, s.Name)
		}
	}
	assert.Equal(t, 4, following)

	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"key":{"tonic":"A","scale":"natural minor"},"clips":[{"id":"a","bars":4,"lanes":[
		{"id":"ch","kind":"chords","rate":"1bar","octave":3,"palette":[{"tones":[{"degree":1},{"degree":3},{"degree":5}]}],"steps":[{"on":true}]}]}]}`))
	require.NoError(t, err)
	notes := func(name string) []render.Note {
		next, err := edit.Apply(p, []op.Op{op.Of(op.StartLane{Clip: "a", Starter: piece.WriteStarter(starter.Named(name))})})
		require.NoError(t, err)
		performance, err := lane.Render(next, &next.Clips[0], render.Options{Lanes: []string{next.Clips[0].Lanes[1].ID}})
		require.NoError(t, err)
		return performance.Lanes[0].Notes
	}
	var low []render.Note
	for _, n := range notes("Held bass, moving top") {
		if n.Pitch == 45 {
			low = append(low, n)
		}
	}
	require.Len(t, low, 8, "one for each of its rounds, held while the top moves")
	assert.Greater(t, low[0].End-low[0].At, 6*beat.Quarter/4)
	drums := map[uint8][]beat.Time{}
	for _, n := range notes("Half-time drum") {
		drums[n.Pitch] = append(drums[n.Pitch], n.At)
	}
	assert.Contains(t, drums[36], beat.Time(0), "the kick on one")
	assert.Contains(t, drums[38], 2*beat.Quarter, "the snare on three")
	leading := notes("Leading home")
	assert.True(t, slices.ContainsFunc(leading, func(n render.Note) bool { return n.Pitch%12 == 8 }), "G♯ in A minor")
}

func FuzzStarter(f *testing.F) {
	for _, s := range starter.BuiltIn() {
		f.Add(piece.WriteStarter(s))
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		s, err := piece.ReadStarter(data)
		if err != nil {
			return
		}
		again, err := piece.ReadStarter(piece.WriteStarter(s))
		require.NoError(t, err, "what is read can be written and read again")
		assert.Equal(t, s, again)
	})
}

func TestEachSaysInAFewWordsWhatItIsFor(t *testing.T) {
	said := map[string]string{}
	for _, own := range starter.BuiltIn() {
		about := starter.About(own.Name)
		assert.NotEmpty(t, about, own.Name)
		assert.LessOrEqual(t, len(strings.Fields(about)), 9, own.Name)
		assert.Empty(t, said[about], "%s says the same as %s", own.Name, said[about])
		said[about] = own.Name
	}
	assert.Empty(t, starter.About("one's own"))
}

// None is found fault with in any of five keys, over chords where it listens to them; each is played with two velocities at
// least, and drums are on the drums' channel.
func TestNothingIsFoundInStarters(t *testing.T) {
	for _, key := range []string{`{"tonic":"C","scale":"major"}`, `{"tonic":"A","scale":"natural minor"}`, `{"tonic":"F#","scale":"dorian"}`, `{"tonic":"Eb","scale":"mixolydian"}`, `{"tonic":"E","scale":"phrygian"}`} {
		for _, s := range starter.BuiltIn() {
			chords := ""
			if pitched := piece.PitchedOf(&s.Lane); s.Lane.Kind == "phrase" || pitched != nil && pitched.Follow == "root" {
				chords = `{"id":"ch","kind":"chords","rate":"1bar","octave":3,"palette":[{"tones":[{"degree":1},{"degree":3},{"degree":5}]}],"steps":[{"on":true}]}`
			}
			p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"key":` + key + `,"clips":[{"id":"a","until":"cycle","lanes":[` + chords + `]}]}`))
			require.NoError(t, err)
			next, err := edit.Apply(p, []op.Op{op.Of(op.StartLane{Clip: "a", Starter: piece.WriteStarter(s)})})
			require.NoError(t, err)
			own := &next.Clips[0].Lanes[len(next.Clips[0].Lanes)-1]
			performance, err := lane.Render(next, &next.Clips[0], render.Options{})
			require.NoError(t, err)
			for _, f := range review.Clip(performance) {
				if f.Lane == own.ID {
					t.Errorf("%s in %s: %s: %s", s.Name, key, f.Rule, f.Message)
				}
			}
			struck := map[uint8]bool{}
			part := &performance.Lanes[len(performance.Lanes)-1]
			for _, n := range part.Notes {
				struck[n.Velocity] = true
			}
			assert.GreaterOrEqual(t, len(struck), 2, s.Name)
			if s.Lane.Kind == "pulse" {
				assert.Equal(t, 10, own.Channel, s.Name)
			}
		}
	}
}
