package edit_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"agrimony/internal/core/lane"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

func phrased(t require.TestingT, phrase string) *piece.Piece {
	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"groove":{"swing":60},"clips":[{"id":"a","lanes":[
		{"id":"c","kind":"chords","rate":"1bar","octave":3,"mute":true,"palette":[{"tones":[{"degree":1},{"degree":3},{"degree":5}]},{"tones":[{"degree":4},{"degree":6},{"degree":1,"octave":1}]}],"steps":[{"on":true},{"on":true,"chord":2}]},
		{"id":"p","name":"Lamps","kind":"phrase","octave":4,` + phrase + `}]}]}`))
	require.NoError(t, err)
	return p
}

// heard lists what sounds in some bars: "onset pitch length velocity".
func heard(t require.TestingT, p *piece.Piece, bars int) []string {
	performance, err := lane.Render(p, &p.Clips[0], render.Options{Bars: bars})
	require.NoError(t, err)
	var out []string
	for i := range performance.Lanes {
		for k := range performance.Lanes[i].Notes {
			n := &performance.Lanes[i].Notes[k]
			at, length := performance.Span(n, 960)
			out = append(out, fmt.Sprint(at, n.Pitch, length, n.Velocity))
		}
	}
	slices.Sort(out)
	return out
}

// Written out as notes, a phrase sounds as it did, note by note, or it is said that it
// would not.
func TestAPhraseWrittenOutSoundsTheSame(t *testing.T) {
	for name, phrase := range map[string]string{
		"one voice":           `"steps":[{"on":true},{"on":true,"velocity":60},{},{"on":true,"offset":1,"gate":30}]`,
		"ratchets":            `"steps":[{"on":true,"ratchet":2},{"on":true,"ratchet":4,"gate":50},{}]`,
		"ratchets that walk":  `"repeats":"walk","steps":[{"on":true,"ratchet":4},{"on":true},{}]`,
		"voices and a pedal":  `"voices":2,"pedal":{"tone":"root"},"steps":[{"on":true},{},{"on":true,"gate":200}]`,
		"long gates":          `"steps":[{"on":true,"gate":300},{"on":true},{"on":true,"gate":150}]`,
		"ties":                `"steps":[{"on":true,"tie":true},{"on":true,"play":"again","tie":true},{},{"on":true,"play":"chord","tie":true},{}]`,
		"nudges":              `"steps":[{"on":true,"nudge":20},{"on":true,"nudge":-10},{}]`,
		"a join into another": `"steps":[{"on":true,"tie":true},{"on":true},{}]`,
	} {
		p := phrased(t, phrase)
		before := heard(t, p, 2)
		next, err := try(p, `{"op":"phrase.print","clip":"a","lane":"p","bars":2}`)
		require.NoError(t, err, name)
		assert.True(t, next.Clips[0].Lanes[1].Mute, name)
		assert.Equal(t, before, heard(t, next, 2), name)
	}
	p := phrased(t, `"steps":[{}]`)
	_, err := try(p, `{"op":"phrase.print","clip":"a","lane":"p","bars":2}`)
	assert.ErrorContains(t, err, "Lamps sounds nothing in 2 bars")
	_, err = try(p, `{"op":"phrase.print","clip":"a","lane":"c","bars":2}`)
	assert.ErrorContains(t, err, "allowed: a phrase lane")
}

func TestAnyPhraseIsWrittenOutAlikeOrRefused(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var steps []string
		for range rapid.IntRange(1, 6).Draw(t, "steps") {
			steps = append(steps, fmt.Sprintf(`{"on":%t,"tie":%t,"play":%q,"gate":%d,"ratchet":%d,"nudge":%d,"chance":%d}`, rapid.Bool().Draw(t, "on"), rapid.Bool().Draw(t, "tie"), rapid.SampledFrom(piece.Plays).Draw(t, "play"),
				rapid.SampledFrom([]int{25, 50, 75, 100, 150}).Draw(t, "gate"), rapid.IntRange(1, 3).Draw(t, "ratchet"), rapid.SampledFrom([]int{0, 0, 25}).Draw(t, "nudge"), rapid.SampledFrom([]int{100, 60}).Draw(t, "chance")))
		}
		p := phrased(t, `"rate":"1/8","steps":[`+strings.Join(steps, ",")+`]`)
		next, err := try(p, `{"op":"phrase.print","clip":"a","lane":"p","bars":2}`)
		if err != nil {
			t.Skip(err)
		}
		assert.Equal(t, heard(t, p, 2), heard(t, next, 2))
	})
}

func TestShapesAndShares(t *testing.T) {
	p := phrased(t, `"steps":[`+strings.TrimSuffix(strings.Repeat(`{"on":true},`, 8), ",")+`]`)
	steps := `"clip":"a","lane":"p","steps":[1,2,3,4,5,6,7,8]`
	plays := func(p *piece.Piece) string {
		var out []string
		for _, s := range p.Clips[0].Lanes[1].Content.(*piece.Phrase).Steps {
			text := s.Play
			if !s.On {
				text = "."
			}
			out = append(out, text+strings.Repeat("^", s.Octave))
		}
		return strings.Join(out, " ")
	}
	assert.Equal(t, "next next next next back back back back", plays(made(t, p, `{"op":"fill.plays",`+steps+`,"shape":"climb"}`)))
	assert.Equal(t, "chord next next next next next next next", plays(made(t, p, `{"op":"fill.plays",`+steps+`,"shape":"stab"}`)))
	assert.Equal(t, "next next next next^ next next next next^", plays(made(t, p, `{"op":"fill.plays",`+steps+`,"shape":"leap"}`)))
	assert.Equal(t, "next next . next next . next next", plays(made(t, p, `{"op":"fill.share",`+steps+`,"take":2,"of":3}`)))
	assert.Equal(t, "next next next . next next next .", plays(made(t, p, `{"op":"fill.share",`+steps+`,"take":3,"of":4}`)))
	_, err := try(p, `{"op":"fill.share",`+steps+`,"take":5,"of":4}`)
	assert.ErrorContains(t, err, "5 of 4")
	_, err = try(p, `{"op":"fill.plays",`+steps+`,"shape":"spiral"}`)
	assert.ErrorContains(t, err, "allowed: climb, stab, leap")
}
