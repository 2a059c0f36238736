package e2e

import (
	"fmt"
	"slices"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/piece"
	"agrimony/internal/demo"
	"agrimony/internal/server"
)

// A note over the whole bar, chopped into seven even hits by one fill of it alone.
func TestALongNoteIsChoppedWhereItIsSelected(t *testing.T) {
	s, p := begin(t)
	p.until(`document.querySelector("[data-testid=teaching]")`)
	p.click("low", 1, 45)
	p.until(`!document.querySelector("[data-testid=teaching]")`)
	end := p.at("low", 1, 45)
	end.X += end.Step * 0.25
	p.drag(0, end, p.at("low", 16, 45))
	require.Len(t, track(t, p.file(t), "Low").Notes, 1)
	p.press("Fill Low")
	p.until(`document.querySelector("[role=dialog]")?.innerText.includes("On the 16 steps that the selected note runs through")`)
	p.fill("Hits", "7")
	p.saved()
	p.until(onSheet)
	var at []int64
	for _, n := range track(t, p.file(t), "Low").Notes {
		assert.Equal(t, 45, n.Pitch)
		at = append(at, n.At)
	}
	assert.Equal(t, []int64{0, 720, 1200, 1680, 2400, 2880, 3360}, at)

	// What cannot be is said where the hand is: in the panel that is still open.
	p.press("Undo")
	p.key("Delete")
	p.saved()
	p.press("Fill Low")
	p.press("Double")
	p.until(`document.querySelector("[role=dialog] [role=alert]")?.textContent.includes("none of these steps is on")`)
	assert.True(t, eval[bool](p, `!document.body.innerText.includes("ops[0]")`))
	assert.False(t, s.piece(t, p.id()).Clips[0].Lanes[0].Content.(*piece.Line).Steps[0].On)
}

// A phrase without chords says so first, with what mends it beside it.
func TestAPhraseWithoutChordsSaysSoAndIsMended(t *testing.T) {
	s, p := begin(t)
	p.press("Add a phrase")
	p.until(`document.querySelector('[data-row="phrase"]')`)
	assert.Len(t, s.piece(t, p.id()).Clips[0].Lanes, 1, "it takes the place of the untouched lane")
	p.click("phrase", 1, 60)
	p.until(`document.querySelector('[data-row="phrase"]').innerText.includes("there is no chord in the clip that it could walk")`)
	assert.False(t, eval[bool](p, `document.body.innerText.includes("chance left out")`))
	p.press("Walk tones of its own")
	p.saved()
	p.until(`!document.body.innerText.includes("there is no chord in the clip")`)
	assert.NotEmpty(t, track(t, p.file(t), "Phrase").Notes)
}

func TestWhatTheLockHoldsIsSaidBesideItsMend(t *testing.T) {
	s, p := begin(t)
	p.click("low", 1, 38)
	p.key("ArrowUp", ctrl)
	p.until(`document.querySelector("main ~ *, [role=status]") && document.body.innerText.includes("The note is held by the lock of Low.")`)
	p.press("Open the lock")
	p.saved()
	assert.Equal(t, "off", line(p.lane(s, 0)).Lock)
	p.until(`!document.body.innerText.includes("held by the lock")`)
}

// At 1280 by 800 the fields that are used daily, Fill and More stand above the fold, in clips of
// the sample that open a lane of each kind.
func TestFillAndMoreAreAboveTheFold(t *testing.T) {
	s := serve(t)
	require.NoError(t, server.EnsureDemo(s.store))
	p := s.open(t, "/piece/"+demo.ID+"/keel")
	p.do(chromedp.Evaluate(`localStorage.setItem("agrimony settings", "false")`, nil))
	for _, clip := range s.piece(t, demo.ID).Clips {
		if !slices.Contains([]string{"keel", "lock", "narrows", "slipway", "eddy", "cutwater"}, clip.ID) {
			continue
		}
		p.do(chromedp.Navigate(s.url + "/piece/" + demo.ID + "/" + clip.ID))
		p.until(fmt.Sprintf(`document.querySelectorAll("[data-row]").length === %d && !document.querySelector("[data-later]")`, len(clip.Lanes)))
		p.until(`[...document.querySelectorAll("[data-row][data-open=true] button")].some(b => b.textContent.startsWith("More"))`)
		hidden := eval[[]string](p, `[...document.querySelectorAll("[data-row][data-open=true]")].slice(0, 1).flatMap(row => [...row.querySelectorAll("button, input, select")])
			.filter(e => { const b = e.getBoundingClientRect(); return !e.contains(document.elementFromPoint(b.left + b.width / 2, b.top + b.height / 2)); })
			.map(e => e.ariaLabel ?? e.textContent)`)
		assert.Empty(t, hidden, clip.ID)
	}
}

// A clip of four bars is seen whole on a large screen.
func TestFourBarsAreSeenWholeOnALargeScreen(t *testing.T) {
	s := serve(t)
	require.NoError(t, server.EnsureDemo(s.store))
	p := s.open(t, "/")
	for _, clip := range s.piece(t, demo.ID).Clips {
		if clip.Bars != 4 {
			continue
		}
		p.size(1920, 1080)
		p.do(chromedp.Navigate(s.url + "/piece/" + demo.ID + "/" + clip.ID))
		p.until(fmt.Sprintf(`document.querySelectorAll("[data-row]").length === %d`, len(clip.Lanes)))
		p.until(`getComputedStyle(document.querySelector("[aria-label=Time]")).visibility === "hidden"`)
	}
}
