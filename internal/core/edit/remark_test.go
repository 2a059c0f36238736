package edit

import (
	"errors"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"agrimony/internal/core/lane"
	"agrimony/internal/core/lane/change"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
)

func TestWhatTheLockHoldsIsSaid(t *testing.T) {
	// C D E F G A B in C major: a semitone up, only E and B stay in the key.
	line := `{"id":"low","name":"Low","octave":3,"steps":[{"on":true,"degree":1},{"on":true,"degree":2},{"on":true,"degree":3},{"on":true,"degree":4},{"on":true,"degree":5},{"on":true,"degree":6},{"on":true,"degree":7}]%s}`
	for _, row := range []struct {
		name, more, unit string
		by               int
		steps            []int
		said             string
	}{
		{"a semitone up", ``, "semitone", 1, []int{1, 2, 3, 4, 5, 6, 7}, "5 of 7 notes are held by the lock of Low."},
		{"two that stay in the key", ``, "semitone", 1, []int{3, 7}, ""},
		{"one of two", ``, "semitone", 1, []int{2, 3}, "1 of 2 notes are held by the lock of Low."},
		{"an octave in semitones", ``, "semitone", 12, []int{1, 2}, ""},
		{"without a lock", `,"lock":"off"`, "semitone", 1, []int{1, 2}, ""},
		{"by degrees", ``, "degree", 1, []int{1, 2}, ""},
	} {
		p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"key":{"tonic":"C","scale":"major"},"clips":[{"id":"keel","lanes":[` + fmt.Sprintf(line, row.more) + `]}]}`))
		require.NoError(t, err)
		ops := []op.Op{op.Of(op.TransposeSteps{OnSteps: op.OnSteps{Clip: "keel", Lane: "low", Steps: row.steps}, Unit: row.unit, By: row.by})}
		next, err := Apply(p, ops)
		require.NoError(t, err)
		remark := RemarkOn(next, ops, nil)
		if row.said == "" {
			assert.Nil(t, remark, row.name)
			continue
		}
		require.NotNil(t, remark, row.name)
		assert.Equal(t, row.said, remark.Message)
		opened, err := Apply(next, remark.Mends[0].Ops)
		require.NoError(t, err)
		assert.Nil(t, RemarkOn(opened, ops, nil), "with the lock open nothing is held")
	}
}

// What is said to be held is what sounds elsewhere than it was moved to.
func TestHeldNotesAreThoseThatSoundElsewhere(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		degree, by := rapid.IntRange(1, 7).Draw(rt, "degree"), rapid.IntRange(-11, 11).Draw(rt, "by")
		p, err := piece.Read([]byte(fmt.Sprintf(`{"format":"agrimony-piece","version":1,"key":{"tonic":"Eb","scale":"harmonic minor"},"clips":[{"id":"keel","lanes":[{"id":"low","octave":3,"steps":[{"on":true,"degree":%d}]}]}]}`, degree)))
		require.NoError(rt, err)
		ops := []op.Op{op.Of(op.TransposeSteps{OnSteps: op.OnSteps{Clip: "keel", Lane: "low", Steps: []int{1}}, Unit: "semitone", By: by})}
		next, err := Apply(p, ops)
		require.NoError(rt, err)
		sounds := func(p *piece.Piece) int { return lane.Sounds(p, &p.Clips[0], &p.Clips[0].Lanes[0])[0].Pitches[0] }
		assert.Equal(rt, sounds(next)-sounds(p) != by, RemarkOn(next, ops, nil) != nil)
	})
}

func TestASecondChordInAPhraseAsksFirst(t *testing.T) {
	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"key":{"tonic":"D","scale":"dorian"},"clips":[{"id":"keel","lanes":[{"id":"lamps","name":"Lamps","kind":"phrase","octave":4,"steps":[{},{},{}]}]}]}`))
	require.NoError(t, err)
	enter := func(p *piece.Piece, step int, pitches ...int) (*piece.Piece, error) {
		return Apply(p, []op.Op{op.Of(op.EnterNotes{OnLane: op.OnLane{Clip: "keel", Lane: "lamps"}, Step: step, Pitches: pitches})})
	}
	own := func(p *piece.Piece) *piece.Phrase { return p.Clips[0].Lanes[0].Content.(*piece.Phrase) }
	p, err = enter(p, 1, 62, 65, 69)
	require.NoError(t, err, "the first is taken")
	p, err = enter(p, 1, 62, 65, 72)
	require.NoError(t, err, "and may be corrected while no other step walks it")
	p, err = enter(p, 2, 62, 65, 72)
	require.NoError(t, err, "the same again changes nothing")
	before := own(p).Tones
	_, err = enter(p, 3, 60, 64, 67)
	var asks *change.AskError
	require.True(t, errors.As(err, &asks), "%v", err)
	assert.Equal(t, "The steps of Lamps walk D4 F4 C5, and this chord would take their place in all of them; allowed: another phrase for it.", piece.InWords(p, asks.Fault))
	assert.Equal(t, before, own(p).Tones, "nothing is changed")
	next, err := Apply(p, asks.Mends[0].Ops)
	require.NoError(t, err)
	assert.NotEqual(t, before, own(next).Tones)
	assert.True(t, own(next).Steps[2].On)
}

// A lane that is doubled past the end of its clip says so, and offers the clip that holds it.
func TestADoubledLaneThatItsClipCutsIsSaid(t *testing.T) {
	for until, said := range map[string]string{
		`"bars":1`:        "Low now takes 2 bars; the clip is 1 bar long, and so is its file.",
		`"bars":2`:        "",
		`"until":"cycle"`: "",
	} {
		p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"keel",` + until + `,"lanes":[{"id":"low","name":"Low","steps":[{},{},{},{},{},{},{},{},{},{},{},{},{},{},{},{}]}]}]}`))
		require.NoError(t, err)
		ops := []op.Op{op.Of(op.DoubleLane{OnLane: op.OnLane{Clip: "keel", Lane: "low"}})}
		next, err := Apply(p, ops)
		require.NoError(t, err)
		remark := RemarkOn(next, ops, nil)
		if said == "" {
			assert.Nil(t, remark, until)
			continue
		}
		require.NotNil(t, remark, until)
		assert.Equal(t, said, remark.Message)
		assert.Equal(t, "Make the clip 2 bars long", remark.Mends[0].Label)
		grown, err := Apply(next, remark.Mends[0].Ops)
		require.NoError(t, err)
		assert.Equal(t, 2, grown.Clips[0].Bars)
	}
}

// Whatever is moved wherever, no step is lost, and each stands where it was moved to.
func TestMovedStepsAreAllThere(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		velocities := rapid.Permutation([]int{1, 2, 3, 4, 5, 6, 7, 8}).Draw(rt, "velocities")
		var steps []string
		for _, v := range velocities {
			steps = append(steps, fmt.Sprintf(`{"on":true,"velocity":%d,"tie":%t}`, v, rapid.IntRange(0, 3).Draw(rt, "tie") == 0))
		}
		p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"keel","lanes":[{"id":"low","steps":[` + strings.Join(steps, ",") + `]}]}]}`))
		require.NoError(rt, err)
		chosen := rapid.SliceOfNDistinct(rapid.IntRange(1, 8), 1, 5, rapid.ID).Draw(rt, "chosen")
		by := rapid.IntRange(-7, 7).Draw(rt, "by")
		next, err := Apply(p, []op.Op{op.Of(op.MoveSteps{OnSteps: op.OnSteps{Clip: "keel", Lane: "low", Steps: chosen}, By: by})})
		if err != nil {
			require.ErrorContains(rt, err, "would lead out of the lane")
			return
		}
		now := next.Clips[0].Lanes[0].Content.(*piece.Line).Steps
		var found []int
		for _, s := range now {
			found = append(found, s.Velocity)
		}
		assert.ElementsMatch(rt, velocities, found)
		for _, n := range chosen {
			assert.Equal(rt, velocities[n-1], found[n-1+by])
		}
	})
}
