package e2e

import (
	"testing"
	"time"

	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// touch puts fingers where they are; none: all are lifted.
func (p *tab) touch(kind input.TouchType, at ...point) {
	p.t.Helper()
	points := make([]*input.TouchPoint, len(at))
	for i, a := range at {
		points[i] = &input.TouchPoint{X: a.X, Y: a.Y, ID: float64(i + 1)}
	}
	p.do(input.DispatchTouchEvent(kind, points))
}

// tablet opens the sample as a tablet shows it.
func tablet(t *testing.T) (*site, *hand) {
	s, p := loops(t, 104, "")
	p.do(emulation.SetTouchEmulationEnabled(true).WithMaxTouchPoints(5))
	p.size(1024, 700)
	p.rest()
	return s, p
}

// Everything has its place on a tablet: nothing is cut, in the sheet, the order and the dialogs, and what is touched is 40
// pixels wide and high.
func TestNothingIsCutOnATablet(t *testing.T) {
	_, p := tablet(t)
	const cut = `[...document.querySelectorAll("button, input, select, h1, [role=tab]")].filter((e) => e.checkVisibility()).filter((e) => {
		const b = e.getBoundingClientRect();
		if (!b.width || e.closest(".visually-hidden")) return false;
		let box = e.parentElement;
		while (box && getComputedStyle(box).overflowX === "visible") box = box.parentElement;
		const of = box ? box.getBoundingClientRect() : {left: 0, right: innerWidth};
		return b.right > Math.min(of.right, innerWidth) + 1.5 || b.left < Math.max(of.left, 0) - 1.5;
	}).map((e) => e.getAttribute("aria-label") ?? e.innerText ?? e.id)`
	const small = `[...document.querySelectorAll("button, select, [role=tab]")].filter((e) => e.checkVisibility() && !e.closest(".visually-hidden")).filter((e) => {
		const b = e.getBoundingClientRect();
		return b.width < 40 || b.height < 40;
	}).map((e) => e.getAttribute("aria-label") ?? e.innerText ?? e.id)`
	for _, look := range []struct {
		what string
		show func()
	}{
		{"sheet", func() {}},
		{"sound", func() { p.press("Sound of Low") }},
		{"order", func() { p.key("O"); p.until(`document.querySelector("[data-testid=bands]")`) }},
		{"ports", func() { p.key("O"); p.until(`window.agrimony?.low`); p.key("P"); p.until(inDialog) }},
		{"render", func() {
			p.key("Escape")
			p.until(`!document.querySelector("[role=dialog]")`)
			p.key("e")
			p.until(inDialog)
		}},
	} {
		look.show()
		p.rest()
		assert.Empty(t, eval[[]string](p.tab, cut), look.what)
		assert.False(t, eval[bool](p.tab, `document.documentElement.scrollWidth > innerWidth`), look.what)
		assert.Empty(t, eval[[]string](p.tab, small), look.what)
	}
}

// Fingers do what a mouse does: a tap puts a note, a finger drags it, one that rests selects a box, two scroll.
func TestFingersDoWhatAMouseDoes(t *testing.T) {
	s, p := tablet(t)
	on := func(k int) bool { return line(p.lane(s, 0)).Steps[k-1].On }
	empty := p.at("low", 4, 40)
	assert.False(t, on(4))
	p.touch(input.TouchStart, empty)
	p.touch(input.TouchEnd)
	require.Eventually(t, func() bool { return on(4) }, 10*time.Second, 50*time.Millisecond, "a tap puts a note")
	p.saved()
	var way []point // known before it is touched: a finger that rests selects
	for _, to := range []int{42, 44, 45} {
		way = append(way, p.at("low", 4, to))
	}
	p.touch(input.TouchStart, empty)
	for _, to := range way {
		p.touch(input.TouchMove, to)
	}
	p.touch(input.TouchEnd)
	p.saved()
	assert.NotEqual(t, 7, line(p.lane(s, 0)).Steps[3].Degree, "a finger drags it")

	from, to := p.at("low", 2, 55), p.at("low", 10, 41)
	p.touch(input.TouchStart, from)
	p.do(chromedp.Sleep(600 * time.Millisecond)) // it rests
	p.touch(input.TouchMove, point{X: (from.X + to.X) / 2, Y: (from.Y + to.Y) / 2})
	p.touch(input.TouchMove, to)
	p.touch(input.TouchEnd)
	p.until(`/^(Steps|[0-9]+ steps)/.test(document.querySelector("[data-testid=step-name]")?.previousElementSibling?.innerText ?? "")`)
	p.rest()

	p.press("Show less time")
	p.press("Show less time")
	p.rest()
	before := p.at("low", 1, 48).X
	a, b := p.at("low", 8, 48), p.at("low", 9, 48)
	p.touch(input.TouchStart, a)
	p.touch(input.TouchStart, a, b)
	for k := range 8 {
		by := float64(12 * (k + 1))
		p.touch(input.TouchMove, point{X: a.X - by, Y: a.Y}, point{X: b.X - by, Y: b.Y})
	}
	p.touch(input.TouchEnd)
	p.rest()
	assert.Less(t, p.at("low", 1, 48).X, before, "two fingers scroll")
}
