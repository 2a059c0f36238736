package e2e

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/piece"
	"agrimony/internal/core/smf"
	"agrimony/internal/demo"
	"agrimony/internal/server"
)

func phraseOf(lane piece.Lane) *piece.Phrase { return lane.Content.(*piece.Phrase) }

// meets waits until the meeting line says after how many bars the lanes meet.
func (p *tab) meets(bars string) {
	p.t.Helper()
	p.until(fmt.Sprintf(`document.querySelector("[aria-label='When lanes meet']").textContent.includes("after %s")`, bars))
}

// From an empty clip with four chords to a polymeter of two phrases that plays.
func TestAPolymeterOfTwoPhrases(t *testing.T) {
	s, p := begin(t)
	p.press("Add chords")
	p.types("i7 IV7 VIImaj7 v7")
	p.key("Enter")
	p.saved()
	eval[any](p, counting)
	gestures := func() int { return eval[int](p, `window.pressed + window.keysPressed`) }

	p.press("Add a phrase")
	p.until(`document.querySelector("canvas[data-lane=phrase]") && document.querySelector("[aria-label='Steps of Phrase']")`)
	p.fill("Steps of Phrase", "7")
	p.press("Order of Phrase: up")
	p.until(`document.body.innerText.includes("converge")`)
	p.press("converge")
	p.saved()
	p.press("Add a phrase")
	p.until(`document.querySelector("[aria-label='Steps of Phrase 2']")`)
	eval[any](p, `(() => { const e = document.querySelector("[aria-label='Steps of Phrase 2']"); e.focus(); e.select(); })()`)
	p.keysOf("15")
	p.key("Enter")
	p.saved()
	p.press("Play")
	p.until(`Number(document.querySelector("[data-testid=clock]").dataset.scheduled) >= 12`)
	count := gestures()
	t.Logf("%d gestures", count)
	assert.LessOrEqual(t, count, 30)
	p.press("Stop")

	// Over four bars, starting over with each chord, 7 and 15 sixteenths.
	p.meets("420 bars")
	p.press("Mute Chords")
	p.saved()
	p.until(`document.body.innerText.includes("makes it long")`)

	// The mend that is offered brings them together.
	mend := eval[string](p, `[...document.querySelectorAll("button")].find(b => /^Restart .* every/.test(b.textContent))?.textContent ?? ""`)
	require.NotEmpty(t, mend)
	_, after, _ := strings.Cut(mend, ": after ")
	eval[any](p, `[...document.querySelectorAll("button")].find(b => /^Restart .* every/.test(b.textContent)).click()`)
	p.saved()
	p.meets(after)

	// The file holds what the walk gives: Dm7 converging over seven steps.
	file := p.file(t)
	var low []int
	for _, n := range track(t, file, "Phrase").Notes[:4] {
		low = append(low, n.Pitch)
	}
	assert.Equal(t, []int{62, 72, 65, 69}, low, "D4 C5 F4 A4, moved to the phrase's octave")

	// Another chord, and the walk goes with it.
	chords := p.lane(s, 0).ID
	p.press("Chords")
	p.until(`document.querySelector("[aria-label='Chord board'] button")`)
	p.drag(0, p.nameAt(chords, 1))
	p.key("4")
	p.saved()
	changed := track(t, p.file(t), "Phrase").Notes[0].Pitch
	assert.Equal(t, 67, changed, "G is the first rung now")
}

// keysOf types characters as keys, one after another.
func (p *tab) keysOf(text string) {
	for _, r := range text {
		p.key(string(r))
	}
}

func TestAPhraseByItsScreen(t *testing.T) {
	s := serve(t)
	require.NoError(t, server.EnsureDemo(s.store))
	p := s.open(t, "/piece/"+demo.ID+"/slipway")
	p.until(`window.agrimony?.lanterns`)
	lane := func() *piece.Phrase {
		p.saved()
		clip, err := s.piece(t, demo.ID).Clip("slipway")
		require.NoError(t, err)
		return phraseOf(clip.Lanes[1])
	}
	p.press("Lanterns")
	p.until(`document.querySelector("[aria-label^='Order of Lanterns']")`)

	// A click on the strip goes on to the next play; a click in a column switches a step.
	strip := p.at("lanterns", 1, 66)
	strip.Y = eval[float64](p, `window.agrimony.lanterns(0, 66).top`) + 12
	p.drag(0, strip)
	assert.Equal(t, "back", lane().Steps[0].Play)
	p.key("7")
	assert.Equal(t, "chord", lane().Steps[0].Play)
	p.key("1")
	p.drag(0, p.at("lanterns", 4, 76))
	assert.True(t, lane().Steps[3].On)
	p.keys("ArrowUp", "ArrowUp")
	assert.Equal(t, []any{2, "scale"}, []any{lane().Steps[3].Offset, lane().Steps[3].In})
	p.until(`document.querySelector("[data-testid=step-speech]").textContent.includes("next, moved by 2 scale steps")`)
	p.keys("ArrowDown", "ArrowDown")
	p.key("ArrowUp", alt)
	assert.Equal(t, []int{0, 1}, []int{lane().Steps[3].Offset, lane().Steps[3].Octave})

	// The order, by its shape, and one of its own.
	p.press("Order of Lanterns: up")
	p.until(`document.body.innerText.includes("bottom-pedal")`)
	p.accessible("orders")
	p.press("bottom-pedal")
	p.saved()
	assert.Equal(t, "bottom-pedal", lane().Order.Name)
	p.press("Order of Lanterns: bottom-pedal")
	p.fill("Rungs of Lanterns in an order of its own", "1 3 9")
	p.saved()
	assert.Equal(t, []int{1, 3, 9}, lane().Order.Rungs)
	p.choose("Walk of Lanterns", "never")
	p.fill("Voices of Lanterns", "2")
	p.choose("Pedal of Lanterns", "root")
	p.saved()
	assert.Equal(t, []any{"never", 2, "root"}, []any{lane().Walk, lane().Voices, lane().Pedal.Tone})
	p.until(`document.querySelector("[data-testid=why]")?.textContent.length > 20`)
	p.accessible("a phrase")

	// Fills of plays and of rhythm.
	p.do(chromedp.Evaluate(`document.activeElement.blur()`, nil))
	p.key("Escape")
	p.press("Fill Lanterns")
	p.press("Climb and fall back")
	p.saved()
	assert.Equal(t, "back", lane().Steps[6].Play)
}

// Written out as notes, the file is the same note by note.
func TestAPhraseWrittenOutInTheBrowser(t *testing.T) {
	s := serve(t)
	require.NoError(t, server.EnsureDemo(s.store))
	p := s.open(t, "/piece/"+demo.ID+"/slipway")
	p.until(`window.agrimony?.ripples`)
	sounding := func(file *smf.File, names ...string) []string {
		var out []string
		for _, name := range names {
			out = append(out, notes(track(t, file, name))...)
		}
		slices.Sort(out)
		return out
	}
	before := sounding(p.file(t), "Lanterns")
	p.press("Lanterns")
	p.press("Write out as notes")
	p.saved()
	p.until(`document.querySelector("canvas[data-lane=lanterns-notes]")`)
	file := p.file(t)
	var names []string
	for _, track := range file.Tracks {
		if strings.HasPrefix(track.Name, "Lanterns") {
			names = append(names, track.Name)
		}
	}
	assert.Equal(t, before, sounding(file, names...))
	assert.NotContains(t, names, "Lanterns", "the phrase itself is muted")
}

// A rhythm is taken from a pulse lane by its name.
func TestARhythmIsTakenFromAPulseLane(t *testing.T) {
	s := serve(t)
	require.NoError(t, server.EnsureDemo(s.store))
	p := s.open(t, "/piece/"+demo.ID+"/quay")
	p.until(`window.agrimony?.davits`)
	file := p.file(t)
	onsets := func(name string) []int64 {
		var out []int64
		for _, n := range track(t, file, name).Notes {
			out = append(out, n.At)
		}
		slices.Sort(out)
		return slices.Compact(out)
	}
	assert.Equal(t, onsets("Knock"), onsets("Davits"))
	p.press("Davits")
	p.until(`document.querySelector("[aria-label='Rhythm of Davits']")`)
	p.choose("Rhythm of Davits", "")
	file = p.file(t)
	assert.NotEqual(t, onsets("Knock"), onsets("Davits"))
	p.choose("Rhythm of Davits", "mist")
	file = p.file(t)
	assert.Equal(t, onsets("Mist"), onsets("Davits"))
}

// Four tones under seven sixteenths come round with the bar after 7 bars, beside fifteen
// after 105; a mend that is offered brings them together sooner.
func TestSevenBarsAndThenAHundredAndFive(t *testing.T) {
	_, p := begin(t)
	p.press("Add chords")
	p.types("i7")
	p.key("Enter")
	p.saved()
	p.press("Add a phrase")
	p.until(`document.querySelector("[aria-label='Steps of Phrase']")`)
	p.fill("Steps of Phrase", "7")
	p.saved()
	p.press("Fill Phrase")
	p.fill("Every so many steps", "1")
	p.press("Set every")
	p.saved()
	p.key("Escape")
	p.choose("Walk of Phrase", "never")
	p.meets("7 bars")
	p.press("Add a phrase")
	p.until(`document.querySelector("[aria-label='Steps of Phrase 2']")`)
	p.fill("Steps of Phrase 2", "15")
	p.saved()
	p.press("Fill Phrase 2")
	p.fill("Hits", "8")
	p.saved()
	p.key("Escape")
	p.choose("Walk of Phrase 2", "never")
	p.meets("105 bars")
	p.press("Play")
	p.until(`Number(document.querySelector("[data-testid=clock]").dataset.scheduled) >= 12`)
	p.press("Stop")

	p.until(`document.body.innerText.includes("makes it long")`)
	mend := eval[string](p, `[...document.querySelectorAll("button")].find(b => /: after \d+/.test(b.textContent))?.textContent ?? ""`)
	require.NotEmpty(t, mend)
	p.press(mend)
	p.saved()
	_, after, _ := strings.Cut(mend, ": after ")
	p.meets(strings.TrimSuffix(after, " bars") + " bar")
	assert.Equal(t, []string{"0 62 180", "240 65 180", "480 69 180", "720 72 180"}, notes(track(t, p.file(t), "Phrase"))[:4])
}
