package e2e

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/piece"
	"agrimony/internal/demo"
	"agrimony/internal/server"
)

// A chord is let glide with one press: the lane then spreads its tones over a zone, they are drawn on their way,
// the file announces the zone, and one that cannot be had is refused in words.
func TestChordsGlideNoteByNote(t *testing.T) {
	s := serve(t)
	require.NoError(t, server.EnsureDemo(s.store))
	h := &hand{tab: s.open(t, "/piece/"+demo.ID+"/basin")}
	h.until(`window.agrimony?.swell && document.querySelectorAll("[aria-label='Chord board'] button").length > 6`)
	swell := func() *piece.Chords {
		h.tab.saved()
		clip, err := s.piece(t, demo.ID).Clip("basin")
		require.NoError(t, err)
		return clip.Lanes[0].Content.(*piece.Chords)
	}
	h.drag(0, h.nameAt("swell", 2))
	h.tab.press("Glide")
	h.until(`document.querySelector("#f-glide")`)
	assert.Equal(t, piece.MPE, swell().Glide.Mode)
	assert.Equal(t, 48, swell().Glide.Range)
	require.NotNil(t, swell().Steps[1].Glide)
	h.tab.fill("Glide time", "30")
	assert.Equal(t, 30, swell().Steps[1].Glide.Time)

	h.tab.press("Render")
	h.until(`document.querySelector("[data-testid=summary] table")`)
	file := h.download()
	first := file.Tracks[0].Controls
	require.Greater(t, len(first), 3)
	assert.Equal(t, []int{101, 100, 6}, []int{first[0].Controller, first[1].Controller, first[2].Controller})
	assert.Equal(t, 1, first[0].Channel)
	assert.Equal(t, []int{0, 6, 8}, []int{first[0].Value, first[1].Value, first[2].Value}, "four voices, eight members")
	own := track(t, file, "Swell")
	channels := map[int]bool{}
	for _, n := range own.Notes {
		channels[n.Channel] = true
	}
	assert.Greater(t, len(channels), 4)
	assert.NotContains(t, channels, 1)
	assert.Greater(t, len(own.Bends), 50)
	h.tab.key("Escape")
	h.until(`!document.querySelector("[role=dialog]")`)

	// It is heard, too: each note with its way.
	h.tab.key(" ")
	h.until(`Number(document.querySelector("[data-testid=clock]").dataset.scheduled) > 6`)
	h.tab.key(" ")
	h.tab.choose("Glides of Swell", "none")
	assert.Nil(t, swell().Glide)
	h.until(`document.body.innerText.includes("its chords do not glide")`)
	h.rest()
	h.tab.press("Let each tone glide by itself")
	h.until(`!document.body.innerText.includes("its chords do not glide")`)
	assert.NotNil(t, swell().Glide, "a finding mends it")
	h.accessible("chords that glide")
}

// Who performs brings in clips that glide note by note: a third at a time has no zone left, which is said, and it
// stays out while the others play on.
func TestAThirdGlidingClipStaysOut(t *testing.T) {
	s := serve(t)
	var clips []string
	for _, name := range []string{"Ay", "Bee", "Cee"} {
		clips = append(clips, fmt.Sprintf(`{"id":%q,"name":%q,"bars":1,"lanes":[{"id":"x","name":"X","kind":"phrase","source":"own","tones":[{}],"glide":{"mode":"mpe"},"steps":[{"on":true}]}]}`, strings.ToLower(name), name))
	}
	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"tempo":200,"clips":[` + strings.Join(clips, ",") + `]}`))
	require.NoError(t, err)
	require.NoError(t, s.store.Create("untitled", p))
	h := &hand{tab: s.open(t, "/piece/untitled")}
	h.until(`window.agrimony?.x`)
	h.type_("O")
	h.until(`document.querySelector("[data-testid=bands]")`)
	h.type_("1")
	h.bar(2)
	h.type_("2", "3")
	h.until(`document.body.innerText.includes("That cannot be played. X glides note by note (mpe), which needs a zone of channels of its own, and X of Ay and X of Bee have both while it sounds; allowed: two such lanes at once.")`)
	place := eval[int](h.tab, `Number(document.querySelector("[data-testid=order-place]").innerText.split(".")[0])`)
	h.bar(place + 3) // it plays on
	h.type_(" ")
	h.saved()
	got := map[string]bool{}
	for _, e := range s.piece(t, "untitled").Order.Entries {
		got[e.Clip] = true
	}
	assert.Equal(t, map[string]bool{"ay": true, "bee": true}, got)
}
