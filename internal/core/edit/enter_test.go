package edit_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"agrimony/internal/core/lane"
	"agrimony/internal/core/lane/pitched"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

func TestWhatIsPlayedIsEntered(t *testing.T) {
	p := choir(t, fourBars)
	line := func(p *piece.Piece) *piece.Line { return p.Clips[0].Lanes[1].Content.(*piece.Line) }
	// The line follows roots: D under C is its second degree, G under C its fifth.
	next := made(t, p, `{"op":"notes.enter","clip":"a","lane":"l","step":1,"pitches":[38]}`, `{"op":"notes.enter","clip":"a","lane":"l","step":2,"pitches":[44]}`,
		`{"op":"notes.enter","clip":"a","lane":"l","step":3,"pitches":[],"tie":true}`, `{"op":"notes.enter","clip":"a","lane":"l","step":4,"pitches":[]}`)
	steps := line(next).Steps
	assert.Equal(t, []any{true, 2}, []any{steps[0].On, steps[0].Degree})
	assert.Equal(t, []any{true, 5, true}, []any{steps[1].On, steps[1].Degree, steps[1].Tie}, "A flat is mapped to the scale, the lower of two; the third step holds it")
	assert.False(t, steps[2].On || steps[3].On)

	next = made(t, p, `{"op":"notes.enter","clip":"a","lane":"c","step":4,"pitches":[67,62,71,65]}`)
	assert.Equal(t, "C F C G7/D", sheet(next))

	phrase := phrased(t, `"steps":[{},{},{}]`)
	next = made(t, phrase, `{"op":"notes.enter","clip":"a","lane":"p","step":1,"pitches":[64]}`, `{"op":"notes.enter","clip":"a","lane":"p","step":2,"pitches":[74]}`)
	own := next.Clips[0].Lanes[1].Content.(*piece.Phrase)
	assert.Equal(t, []any{"root", 2, 0}, []any{own.Steps[0].Play, own.Steps[0].Offset, own.Steps[0].Octave}, "E is two scale steps over C4")
	assert.Equal(t, []any{"root", 1, 1}, []any{own.Steps[1].Play, own.Steps[1].Offset, own.Steps[1].Octave})
	assert.Contains(t, heard(t, next, 1)[0], "0 64")
	next = made(t, phrase, `{"op":"notes.enter","clip":"a","lane":"p","step":1,"pitches":[60,64,69]}`)
	own = next.Clips[0].Lanes[1].Content.(*piece.Phrase)
	assert.Equal(t, []any{"chord", "own", 3}, []any{own.Steps[0].Play, own.Source, len(own.Tones)})
	for pitches, octave := range map[string]int{"[60,64,67]": 0, "[64,67,72]": 0, "[72,76,79]": 1, "[48,55,64]": -1} {
		next = made(t, phrase, `{"op":"notes.enter","clip":"a","lane":"p","step":1,"pitches":`+pitches+`}`)
		own = next.Clips[0].Lanes[1].Content.(*piece.Phrase)
		assert.Equal(t, []any{"chord", octave, "harmony", 0}, []any{own.Steps[0].Play, own.Steps[0].Octave, own.Source, len(own.Tones)}, "C E G is the chord that sounds: %s", pitches)
	}

	free, err := piece.Read([]byte(freeHead + `"notes":[]}]}]}`))
	require.NoError(t, err)
	next = made(t, free, `{"op":"notes.enter","clip":"a","lane":"drift","step":1,"pitches":[65,62,66],"velocity":90,"at":480,"length":240}`,
		`{"op":"notes.enter","clip":"a","lane":"drift","step":1,"pitches":[],"at":720,"length":240}`,
		`{"op":"notes.enter","clip":"a","lane":"drift","step":1,"pitches":[],"tie":true,"at":720,"length":100}`)
	var played []string
	for _, n := range next.Clips[0].Lanes[1].Content.(*piece.Notes).Notes {
		played = append(played, fmt.Sprint(n.At, n.Length, n.Degree, n.Octave, n.Alter, n.Velocity))
	}
	assert.Equal(t, []string{"480 340 1 0 0 90", "480 340 3 0 0 90", "480 340 3 0 0 90"}, played, "free notes stand where they were played, in the key")
	for op, message := range map[string]string{
		`{"op":"notes.enter","clip":"a","lane":"drift","step":1,"pitches":[60],"at":-1,"length":9}`:         "from 0 on",
		`{"op":"notes.enter","clip":"a","lane":"drift","step":1,"pitches":[60]}`:                            "0 is no length",
		`{"op":"notes.enter","clip":"a","lane":"drift","step":1,"pitches":[],"tie":true,"at":9,"length":9}`: "no note ends at 9",
	} {
		_, err := try(free, op)
		assert.ErrorContains(t, err, message)
	}

	for op, message := range map[string]string{
		`{"op":"notes.enter","clip":"a","lane":"l","step":1,"pitches":[128]}`:                                       "128 is no MIDI pitch",
		`{"op":"notes.enter","clip":"a","lane":"l","step":1,"pitches":[],"tie":true}`:                               "there is no step before the first",
		`{"op":"notes.enter","clip":"a","lane":"l","step":9,"pitches":[60]}`:                                        "9",
		`{"op":"notes.enter","clip":"a","lane":"l","step":1,"pitches":[1,2,3,4,5,6,7,8,9,10,11,12,13,14,15,16,17]}`: "17 notes at once; allowed: 0..16",
	} {
		_, err := try(p, op)
		assert.ErrorContains(t, err, message)
	}
}

// What is played in sounds as its lane's lock lets the key that was pressed, whatever the
// lock, the lane and the chords.
func TestWhatIsEnteredSoundsAsItWasPlayed(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		one := func(name string, of ...string) string { return rapid.SampledFrom(of).Draw(t, name) }
		chords := one("chords", "", `{"id":"c","kind":"chords","rate":"1bar","mute":true,"octave":3,"palette":[{"tones":[{"degree":1},{"degree":3},{"degree":5}]}],"steps":[{"on":true}]},`,
			`{"id":"c","kind":"chords","rate":"1bar","mute":true,"octave":3,"palette":[{"tones":[{"degree":7,"alter":-1},{"degree":2,"octave":1},{"degree":4,"octave":1}]}],"steps":[{"on":true}]},`)
		p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"key":{"tonic":"` + one("tonic", "C", "F#", "A") + `","scale":"` + one("scale", "major", "natural minor", "minor pentatonic") + `"},"clips":[{"id":"a","bars":1,"lanes":[` + chords +
			`{"id":"l","rate":"1/4","octave":3,"lock":"` + one("lock", "off", "scale", "chord") + `","snap":"` + one("snap", "nearest", "up", "down") + `","follow":"` + one("follow", "key", "root") + `","steps":[{},{},{},{}]}]}]}`))
		if err != nil {
			t.Skip("the scale has not all the degrees")
		}
		pressed := rapid.IntRange(40, 80).Draw(t, "pressed")
		next, err := try(p, fmt.Sprintf(`{"op":"notes.enter","clip":"a","lane":"l","step":1,"pitches":[%d]}`, pressed))
		require.NoError(t, err)
		clip := &next.Clips[0]
		performance, err := lane.Render(next, clip, render.Options{})
		require.NoError(t, err)
		notes := performance.Lanes[len(performance.Lanes)-1].Notes
		require.Len(t, notes, 1)
		own := clip.Lanes[len(clip.Lanes)-1].Content.(*piece.Line)
		want := pitched.Locked(&own.Pitched, next.KeyOf(clip), performance.Harmony.At(0), pressed)
		require.Equal(t, want, int(notes[0].Pitch))
	})
}
