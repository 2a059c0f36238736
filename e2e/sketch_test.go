package e2e

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/edit"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
)

// overChords begins a piece with four chords and an empty line over them.
func overChords(t *testing.T) (*site, *hand) {
	s := serve(t)
	fresh, err := edit.Apply(piece.Default(), []op.Op{
		op.Of(op.SetPiece{Patch: []byte(`{"key":{"tonic":"D","scale":"dorian"},"tempo":104}`)}), op.Of(op.AddClip{Name: "First clip"}),
		op.Of(op.AddLane{OnClip: op.OnClip{Clip: "first-clip"}, Kind: "chords", Name: "Veil", First: true}),
		op.Of(op.WriteChords{OnLane: op.OnLane{Clip: "first-clip", Lane: "veil"}, Text: "i7 IV VII i"}),
		op.Of(op.AddLane{OnClip: op.OnClip{Clip: "first-clip"}, Kind: "line", Name: "Oars", Patch: []byte(`{"octave":4}`)}),
		op.Of(op.ResizeLane{OnLane: op.OnLane{Clip: "first-clip", Lane: "oars"}, Count: 64}),
		op.Of(op.SetClip{OnClip: op.OnClip{Clip: "first-clip"}, Patch: []byte(`{"bars":4}`)})})
	require.NoError(t, err)
	require.NoError(t, s.store.Create("untitled", fresh))
	p := s.open(t, "/piece/untitled")
	p.until(`window.agrimony?.oars`)
	return s, &hand{tab: p}
}

// line is a line of the first clip, by its place.
func (h *hand) line(s *site, clip, lane int) []piece.LineStep {
	h.t.Helper()
	h.saved()
	return piece.LineOf(&s.piece(h.t, h.id()).Clips[clip].Lanes[lane]).Steps
}

// shown waits until so many proposals are there that are not what was there before.
func (p *tab) proposals() {
	p.t.Helper()
	p.until(`document.querySelectorAll("[role=dialog] section[aria-label^='Number']").length === 6`)
}

// changed does something and waits until other proposals are shown.
func (h *hand) proposes(act func()) {
	h.t.Helper()
	h.proposals()
	before := eval[string](h.tab, captions)
	act()
	h.until(`(` + captions + `) !== ` + quoted(before))
	h.proposals()
}

const captions = `[...document.querySelectorAll("[role=dialog] section")].map((s) => s.innerText).join("|")`

func quoted(text string) string {
	data, _ := json.Marshal(text)
	return string(data)
}

// A melody over four chords that is kept: sketched, others, its rhythm kept with other pitches, a quarter
// varied, taken, doubled with another ending.
func TestAMelodyOverFourChords(t *testing.T) {
	s, p := overChords(t)
	p.press("Oars")
	p.type_("z")
	p.proposes(func() { p.gestures++; p.key("n") })
	p.type_("2")
	p.until(`document.querySelector("[role=dialog] section[data-heard=true]")?.ariaLabel === "Number 2"`)
	p.proposes(func() { p.press("its rhythm") })
	p.type_("1")
	p.proposes(func() { p.press("Vary") })
	p.type_("3")
	p.until(`document.querySelector("[role=dialog] section[data-heard=true]")?.ariaLabel === "Number 3"`)
	p.until(`document.querySelector("[data-testid=playhead]") && Number(document.querySelector("[data-testid=playhead]").dataset.tick) > 0`)
	p.press("Take number 3")
	p.until(`!document.querySelector("[role=dialog]")`)
	taken := p.line(s, 0, 1)
	sounding := 0
	for i := range taken {
		if taken[i].On {
			sounding++
		}
	}
	assert.Greater(t, sounding, 20)

	p.type_("W") // doubled
	doubled := p.line(s, 0, 1)
	require.Len(t, doubled, 128)
	p.until(`document.body.innerText.includes("8 bars")`)
	p.press("all")
	p.rest()
	last := len(doubled) - 1
	for !doubled[last].On {
		last--
	}
	key, err := pitch.ParseKey("D dorian")
	require.NoError(t, err)
	p.tap("oars", last+1, key.Pitch(doubled[last].Place(), 4)) // the ending, a third higher
	p.type_("ArrowUp", "ArrowUp")
	ended := p.line(s, 0, 1)
	assert.Equal(t, key.Move(doubled[last].Place(), 2), ended[last].Place())
	assert.Equal(t, doubled[:last], ended[:last])
	assert.LessOrEqual(t, p.gestures, 20)
	t.Logf("a melody over four chords: %d gestures", p.gestures)
}

// Which of three: two variants, one backwards, one with another window, heard blind, one bar taken across.
func TestWhichOfThree(t *testing.T) {
	s, p := overChords(t)
	p.press("Oars")
	p.type_("z")
	p.proposals()
	p.type_("Enter")
	p.until(`!document.querySelector("[role=dialog]")`)
	p.saved()
	p.gestures = 0
	p.type_("V")
	p.until(`document.querySelector("[role=tab][aria-selected=true]")?.innerText.includes("First clip 2")`)
	p.choose("Direction of Oars", "reverse")
	p.saved()
	p.type_("V")
	p.until(`document.querySelector("[role=tab][aria-selected=true]")?.innerText.includes("First clip 3")`)
	p.fill("Window length of Oars", "48")
	p.saved()
	clips := s.piece(t, p.id()).Clips
	require.Len(t, clips, 3)
	assert.Equal(t, []string{"", "first-clip", "first-clip"}, []string{clips[0].Of, clips[1].Of, clips[2].Of})
	assert.Equal(t, []string{"forward", "reverse", "reverse"}, []string{clips[0].Lanes[1].Direction, clips[1].Lanes[1].Direction, clips[2].Lanes[1].Direction})

	open := func() string { return eval[string](p.tab, `location.pathname.split("/").at(-1)`) }
	was := open()
	p.type_("D")
	p.until(`document.querySelectorAll("[role=dialog] section").length === 3`)
	p.press("Listen blind")
	for _, name := range []string{"A", "B", "C"} {
		p.press(name)
		p.until(`document.querySelector("[role=dialog] button[aria-pressed=true]")?.innerText.startsWith("` + name + `")`)
	}
	assert.False(t, eval[bool](p.tab, `document.querySelector("nav").innerText.includes("First clip")`), "names are hidden")
	p.press("Tell which is which")
	p.until(`document.querySelector("[role=dialog]").innerText.includes("is First clip 2")`)
	before := p.line(s, 0, 1)
	p.press("Take the bar of First clip 2 into First clip")
	p.saved()
	after := p.line(s, 0, 1)
	assert.NotEqual(t, before[:16], after[:16])
	assert.Equal(t, before[16:], after[16:])
	assert.LessOrEqual(t, p.gestures, 15)
	// Arrows let one after another be heard; Esc goes back to what was open, Enter stays.
	p.press("Done")
	p.key("ArrowDown")
	p.until(`location.pathname.split("/").at(-1) !== "` + was + `"`)
	p.key("Escape")
	p.until(`!document.querySelector("[role=dialog]") && location.pathname.split("/").at(-1) === "` + was + `"`)
	p.key("D")
	p.until(`document.querySelectorAll("[role=dialog] section").length === 3`)
	p.key("ArrowUp")
	p.until(`location.pathname.split("/").at(-1) !== "` + was + `"`)
	heard := open()
	p.key("Enter")
	p.until(`!document.querySelector("[role=dialog]")`)
	assert.Equal(t, heard, open())
	t.Logf("which of three: %d gestures", p.gestures)
}

// Dials of one's own are kept under a name, forgotten, and brought back.
func TestATemperOfOnesOwn(t *testing.T) {
	s, p := overChords(t)
	p.press("Oars")
	p.type_("z")
	p.proposals()
	p.proposes(func() { p.press("sparse") })
	p.fill("Name of these dials", "Mist")
	p.press("Keep")
	p.until(named("Forget Mist"))
	own, err := s.store.Tempers()
	require.NoError(t, err)
	require.Len(t, own, 1)
	assert.Contains(t, string(own[0].Dials), `"full":[14,26]`)
	p.press("Forget Mist")
	p.until(named("Bring Mist back"))
	p.press("Bring Mist back")
	p.until(named("Forget Mist"))
	own, err = s.store.Tempers()
	require.NoError(t, err)
	assert.Len(t, own, 1)
}
