package edit_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"agrimony/internal/core/piece"
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
