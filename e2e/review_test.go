package e2e

import (
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
)

// What the review says of a lane can be quiet, and be said again; what it mends is mended in the file.
func TestTheReviewIsToldToBeQuiet(t *testing.T) {
	s, p := begin(t)
	p.press("Fill Low")
	p.fill("Every so many steps", "1")
	p.press("Set every")
	p.press("Fill Low")
	p.saved()
	alike := `document.querySelector("[aria-label=Margin]").innerText.includes("are struck with velocity 100")`
	p.until(alike)
	p.press("Be quiet about it: One velocity")
	p.until(`document.querySelector("[role=menuitem]")`)
	p.do(chromedp.Click(`//*[@role="menuitem"][normalize-space(.)="In Low"]`, chromedp.BySearch))
	p.saved()
	p.until(`!` + alike)
	assert.Equal(t, []string{"one-velocity"}, p.lane(s, 0).Quiet)
	p.do(chromedp.Click(`//summary[starts-with(normalize-space(.), "Quiet about one thing")]`, chromedp.BySearch))
	p.press("Say it again")
	p.saved()
	p.until(alike)
	p.press("Accent the beats")
	p.saved()
	p.until(`!` + alike)
	struck := map[int]bool{}
	for _, n := range track(t, p.file(t), "Low").Notes {
		struck[n.Velocity] = true
	}
	assert.Len(t, struck, 2)
}
