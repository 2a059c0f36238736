package e2e

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/piece"
)

// strummed is a clip whose free notes are chords, each strummed, over which a phrase and a bass wait for harmony.
const strummed = `{"format":"agrimony-piece","version":1,"title":"Strummed","key":{"tonic":"C","scale":"major"},"clips":[{"id":"wherry","name":"Wherry","bars":2,"lanes":[
	{"id":"hands","name":"Hands","kind":"notes","octave":3,"sound":{"voice":"keys"},"notes":[{"at":0,"length":3600,"degree":1},{"at":90,"length":3510,"degree":3},{"at":200,"length":3400,"degree":5},{"at":310,"length":3290,"degree":7},
		{"at":3840,"length":3600,"degree":4},{"at":3900,"length":3540,"degree":6},{"at":4010,"length":3430,"degree":1,"octave":1},{"at":4100,"length":3340,"degree":3,"octave":1}]},
	{"id":"walk","name":"Walk","kind":"phrase","rate":"1/8","octave":4,"steps":[{"on":true}]},
	{"id":"low","name":"Low","octave":2,"rate":"1bar","follow":"root","roots":"near","steps":[{"on":true}]}]}]}`

// Free notes are taken for the clip's harmony: their chords are named over them, walked and followed, and are in the
// file; one undo leaves them a tune again.
func TestPlayedChordsAreTheHarmony(t *testing.T) {
	s := serve(t)
	doc, err := piece.Read([]byte(strummed))
	require.NoError(t, err)
	require.NoError(t, s.store.Create("strummed", doc))
	p := s.open(t, "/piece/strummed/wherry")
	p.until(`window.agrimony?.hands && document.body.innerText.includes("Harmony")`)
	p.choose("Where the chords come from", "lane hands")
	p.until(`document.querySelector("[aria-label='Share of chord tones']")`)
	p.saved()
	assert.Equal(t, "hands", s.piece(t, "strummed").Clips[0].Harmony.Lane)
	p.press("Render")
	p.until(`document.querySelector("[data-testid=summary] table")`)
	file := p.download()
	var names []string
	for _, m := range file.Tracks[0].Markers {
		names = append(names, m.Text)
	}
	assert.Equal(t, []string{"Cmaj7", "Fmaj7"}, names)
	walked := notes(file.Tracks[2])
	require.Len(t, walked, 16)
	p.key("Escape")
	p.press("Undo")
	p.until(`!document.querySelector("[aria-label='Share of chord tones']")`)
	assert.Nil(t, s.piece(t, "strummed").Clips[0].Harmony)
}
