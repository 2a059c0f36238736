package e2e

import (
	"fmt"
	"strings"
	"testing"

	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/piece"
	"agrimony/internal/demo"
	"agrimony/internal/server"
)

// onSheet says that the keys are the sheet's.
const onSheet = `document.activeElement === document.querySelector("[data-sheet]")`

// theirs says so too of a page whose pressed button is gone.
const theirs = onSheet + ` || document.activeElement === document.body`

// aLaneOf has a lane of each kind, to be handled. A new kind needs its row.
var aLaneOf = map[string]string{
	"line":    `{"id":"own-line","kind":"line","octave":2,"steps":[{"on":true},{},{"on":true,"degree":5},{}]}`,
	"chords":  `{"id":"own-chords","kind":"chords","rate":"1bar","octave":3,"palette":[{"tones":[{"degree":1},{"degree":3},{"degree":5}]}],"steps":[{"on":true}]}`,
	"phrase":  `{"id":"own-phrase","kind":"phrase","octave":4,"steps":[{"on":true},{"on":true},{},{"on":true}]}`,
	"pulse":   `{"id":"own-pulse","kind":"pulse","note":36,"steps":[{"on":true},{},{},{}]}`,
	"control": `{"id":"own-control","kind":"control","to":"own-line","target":{"controller":74},"steps":[{"on":true,"value":40},{"on":true,"value":90}]}`,
	"notes":   `{"id":"own-notes","kind":"notes","octave":2,"notes":[{"at":0,"length":240},{"at":480,"length":480,"degree":5}]}`,
	"layer":   `{"id":"own-layer","kind":"layer","of":"own-line","octave":1}`,
}

// everyKind opens a clip that has a lane of each kind.
func everyKind(t *testing.T) (*site, *tab) {
	t.Helper()
	s := serve(t)
	var lanes []string
	for _, kind := range piece.Kinds {
		require.Contains(t, aLaneOf, kind.Name, "a lane of each kind is handled here")
		lanes = append(lanes, aLaneOf[kind.Name])
	}
	doc, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"title":"Every kind","key":{"tonic":"D","scale":"dorian"},
		"clips":[{"id":"quay","name":"Quay","bars":2,"lanes":[` + strings.Join(lanes, ",") + `]}]}`))
	require.NoError(t, err)
	require.NoError(t, s.store.Create("every", doc))
	p := s.open(t, "/piece/every")
	p.until(`window.agrimony?.["own-layer"]`)
	return s, p
}

// controls are the places of all that can be seen and handled in a lane's row and the margin.
func (p *tab) controls(lane, what string) []point {
	p.t.Helper()
	return eval[[]point](p, fmt.Sprintf(`[...document.querySelectorAll('[data-row="%s"] :is(%s), aside :is(%s)')]
		.filter(e => !e.disabled && e.checkVisibility())
		.map(e => { const b = e.getBoundingClientRect(); return {x: b.left + b.width / 2, y: b.top + b.height / 2, e}; })
		.filter(({x, y, e}) => e.contains(document.elementFromPoint(x, y)))
		.map(({x, y}) => ({x, y}))`, lane, what, what))
}

// Whatever the mouse presses, the keys stay with the sheet, or are in what opened; and a field
// gives them back with Enter and Escape. In every kind of lane, over all that its header and
// the margin show.
func TestTheKeysStayWithTheSheet(t *testing.T) {
	_, p := everyKind(t)
	for kind := range aLaneOf {
		lane := "own-" + kind
		p.press(lane)
		p.until(fmt.Sprintf(`document.querySelector('[data-row="%s"] [data-active=true]')`, lane))
		p.until(`!document.querySelector("[data-later]")`)
		assert.True(t, eval[bool](p, onSheet), "%s is gone to", lane)
		for _, at := range p.controls(lane, "button, [role=tab]") {
			p.saved() // what the press before did is there
			what := eval[string](p, fmt.Sprintf(`(() => {
				const e = document.elementFromPoint(%f, %f)?.closest("button:enabled, [role=tab]");
				return !e ? "" : e.ariaHasPopup !== null ? "opens" : "presses";
			})()`, at.X, at.Y))
			if what == "" {
				continue // another press has put something else there
			}
			opens := what == "opens"
			p.do(chromedp.MouseClickXY(at.X, at.Y))
			if opens {
				p.until(`document.activeElement.closest("[role=menu], [role=dialog]")`)
			}
			// What opens takes the focus as it comes; a name that is to be written has it too.
			p.until(theirs + ` || document.activeElement.closest("[role=menu], [role=dialog], input")`)
			for eval[bool](p, `document.querySelector("[role=menu], [role=dialog]") !== null`) {
				p.key("Escape")
				p.until(`!document.querySelector("[role=menu], [role=dialog]")`)
			}
			p.saved()
			if eval[bool](p, `document.activeElement.matches("input")`) {
				p.key("Escape")
			}
			p.until(theirs)
			p.until(fmt.Sprintf(`document.querySelector('[data-row="%s"]')`, lane))
		}
		for _, key := range []string{"Enter", "Escape"} {
			for _, at := range p.controls(lane, "input:not([type])") {
				p.do(chromedp.MouseClickXY(at.X, at.Y))
				p.until(`document.activeElement.matches("input:not([type])")`)
				p.key(key)
				p.until(onSheet)
			}
		}
	}
}

// A press on a band that leaves a field changes nothing, in any kind of lane.
func TestAPressThatLeavesAFieldPutsNothing(t *testing.T) {
	_, p := everyKind(t)
	edits := func() int {
		return eval[int](p, `performance.getEntriesByType("resource").filter(e => e.name.endsWith("/edits")).length`)
	}
	for kind := range aLaneOf {
		lane := "own-" + kind
		p.press(lane)
		p.until(fmt.Sprintf(`document.querySelector('[data-row="%s"] [data-active=true]')`, lane))
		before := edits()
		p.do(chromedp.Focus(`[aria-label="Tempo"]`))
		box := eval[point](p, fmt.Sprintf(`(() => { const b = document.querySelector('canvas[data-lane="%s"]').getBoundingClientRect(); return {x: b.left + 150, y: b.top + Math.min(b.height, 90) / 2}; })()`, lane))
		p.drag(0, box, point{X: box.X + 60, Y: box.Y})
		p.until(`document.activeElement.ariaLabel !== "Tempo"`)
		assert.Equal(t, before, edits(), "%s", lane)
	}
}

func TestSpaceNeverRepeatsAButton(t *testing.T) {
	s, p := begin(t)
	p.click("low", 1, 38)
	p.click("low", 3, 45)
	p.press("Undo")
	p.saved()
	p.key(" ")
	p.until(`document.querySelector("[aria-label=Stop]")`)
	p.press("Mute Low")
	p.saved()
	p.key(" ")
	p.until(`document.querySelector("[aria-label=Play]")`)
	lane := p.lane(s, 0)
	assert.Equal(t, "1...............", degrees(lane), "undone once")
	assert.True(t, lane.Mute, "and still muted")
	p.tabTo("Undo")
	p.key(" ")
	p.saved()
	assert.False(t, p.lane(s, 0).Mute, "a button that the keyboard comes to keeps its key")
}

func TestATypedValueGoesToTheStepItWasTypedFor(t *testing.T) {
	s, p := begin(t)
	p.click("low", 1, 38)
	p.click("low", 3, 45)
	p.do(chromedp.Focus("#f-gate"))
	p.do(input.InsertText("33"))
	p.drag(0, p.at("low", 1, 38))
	p.until(`document.querySelector("#f-gate").value === "75"`)
	steps := line(p.lane(s, 0)).Steps
	assert.Equal(t, 33, steps[2].Gate)
	assert.Equal(t, 75, steps[0].Gate)
}

func TestTheViewFollowsTheHands(t *testing.T) {
	s, p := begin(t)
	p.fill("Steps of Low", "128")
	p.saved()
	p.press("Show less time")
	p.press("Show less time")
	p.click("low", 1, 38)
	box := `document.querySelector('canvas[data-lane="low"]').getBoundingClientRect()`
	seen := func(step, pitch int) bool {
		return eval[bool](p, fmt.Sprintf(`(() => { const b = %s, at = window.agrimony.low(%d, %d); return at.x > b.left && at.x < b.right; })()`, box, step-1, pitch))
	}
	require.False(t, seen(100, 38))
	for range 99 {
		p.key("ArrowRight")
	}
	p.until(fmt.Sprintf(`(() => { const b = %s, at = window.agrimony.low(99, 38); return at.x > b.left && at.x < b.right; })()`, box))
	p.key("Home")
	p.until(fmt.Sprintf(`(() => { const b = %s, at = window.agrimony.low(0, 38); return at.x > b.left; })()`, box))
	// A note that goes over the edge of the ladder takes the rows with it.
	ladder := `JSON.stringify([...Array(128).keys()].map(pitch => window.agrimony.low(0, pitch).y))`
	rows := eval[string](p, ladder)
	for range 4 {
		p.key("ArrowUp", alt)
	}
	p.saved()
	p.until(ladder + ` !== ` + fmt.Sprintf("%q", rows))
	p.until(`window.agrimony.low(0, 86).y < window.agrimony.low(0, 84).y && window.agrimony.low(0, 84).y < window.agrimony.low(0, 83).y`)
	assert.Equal(t, 4, line(p.lane(s, 0)).Steps[0].Octave)
	// Held over the lower edge by the mouse, it goes on down.
	at, edge := p.at("low", 1, 38+48), eval[float64](p, box+`.bottom`)
	p.do(input.DispatchMouseEvent(input.MousePressed, at.X, at.Y).WithButton(input.Left).WithButtons(1).WithClickCount(1))
	p.do(input.DispatchMouseEvent(input.MouseMoved, at.X, edge-4).WithButton(input.Left).WithButtons(1))
	rows = eval[string](p, ladder)
	p.until(ladder + ` !== ` + fmt.Sprintf("%q", rows))
	p.do(input.DispatchMouseEvent(input.MouseReleased, at.X, edge-4).WithButton(input.Left).WithClickCount(1))
	p.saved()
	assert.Less(t, line(p.lane(s, 0)).Steps[0].Octave, 3)
}

func TestBackLeadsToWhereOneWas(t *testing.T) {
	s := serve(t)
	require.NoError(t, server.EnsureDemo(s.store))
	p := s.open(t, "/")
	p.until(named("Lantern Regatta") + ` || [...document.querySelectorAll("button")].some(b => b.textContent.startsWith("Lantern Regatta"))`)
	p.do(chromedp.Evaluate(`[...document.querySelectorAll("button")].find(b => b.textContent.startsWith("Lantern Regatta")).click()`, nil))
	p.until(`window.agrimony?.low`)
	p.press("Weir")
	p.until(`location.pathname === "/piece/lantern-regatta/weir" && window.agrimony?.undertow`)
	p.do(chromedp.Evaluate(`history.back()`, nil))
	p.until(`location.pathname === "/piece/lantern-regatta/keel" && window.agrimony?.low`)
	p.do(chromedp.Evaluate(`history.back()`, nil))
	p.until(`location.pathname === "/" && ` + named("New piece"))
	p.key("?")
	p.until(`document.querySelector("[role=dialog]")?.innerText.includes("Tie to the next step")`)
	p.key("Escape")
	p.do(chromedp.Evaluate(`history.forward()`, nil))
	p.until(`location.pathname === "/piece/lantern-regatta/keel" && window.agrimony?.low`)
	p.do(chromedp.Navigate(s.url + "/?piece=" + demo.ID + "&clip=basin"))
	p.until(`location.pathname === "/piece/lantern-regatta/basin" && window.agrimony?.swell`)
	p.do(chromedp.Navigate(s.url + "/piece/no-such-piece"))
	p.until(`location.pathname === "/" && document.querySelector("[role=alert]")`)
}

// In windows of all sizes everything can be come to: nothing lies beside the page, and what has
// no room beside the sheet is one press away.
func TestNarrowAndShortWindows(t *testing.T) {
	s := serve(t)
	require.NoError(t, server.EnsureDemo(s.store))
	p := s.open(t, "/piece/"+demo.ID+"/narrows")
	beside := `[...document.querySelectorAll("button, input, select, a")].filter(e => e.checkVisibility() && !e.closest(".visually-hidden, [role=dialog]"))
		.filter(e => { const b = e.getBoundingClientRect(); return b.width > 1 && (b.right > innerWidth + 1 || b.left < -1); }).map(e => e.ariaLabel ?? e.textContent)`
	for _, size := range [][2]int64{{1920, 1080}, {1280, 800}, {1024, 700}, {768, 1024}, {640, 400}, {390, 800}} {
		p.size(size[0], size[1])
		p.do(chromedp.Navigate(s.url + "/piece/" + demo.ID + "/narrows"))
		p.until(`window.agrimony?.oars && !document.querySelector("[data-later]")`)
		assert.Empty(t, eval[[]string](p, beside), "%v", size)
		for _, name := range []string{"Play", "Render", "Keys"} {
			assert.True(t, eval[bool](p, fmt.Sprintf(`(() => { const e = %s, b = e?.getBoundingClientRect(); return !!e && e.contains(document.elementFromPoint(b.left + b.width / 2, b.top + b.height / 2)); })()`, named(name))), "%s at %v", name, size)
		}
		if size[0] < 900 {
			p.press("Clips")
			p.press("Lock")
			p.until(`location.pathname.endsWith("/lock") && window.agrimony?.hat`)
		}
		if size[0] < 900 && size[0] >= 600 {
			p.press("Margin")
			p.until(`document.querySelector("aside")?.checkVisibility() && document.querySelector("aside").getBoundingClientRect().right <= innerWidth`)
			p.key("Escape")
			p.until(`!document.querySelector("aside").checkVisibility()`)
		}
	}
	// The last is a telephone's: one listens, mutes and renders, and no press edits.
	p.until(`document.querySelector("[role=note]")?.textContent.includes("Editing wants a window of 600 pixels or more")`)
	hat := func() string { return fmt.Sprint(s.piece(t, demo.ID).Clips[4].Lanes) }
	before := hat()
	p.drag(0, eval[point](p, `(() => { const b = document.querySelector('canvas[data-lane="hat"]').getBoundingClientRect(); return {x: b.left + 80, y: b.top + b.height / 2}; })()`))
	p.keys("Enter", "t")
	assert.Equal(t, before, hat())
	p.press("Render")
	p.until(`[...document.querySelectorAll("a")].some(a => a.textContent === "Download" && a.href)`)
}

func TestTheRowOfAddingIsInSight(t *testing.T) {
	s := serve(t)
	require.NoError(t, server.EnsureDemo(s.store))
	p := s.open(t, "/piece/"+demo.ID+"/keel")
	p.size(1024, 700)
	p.until(`window.agrimony?.low`)
	p.until(`(() => { const b = ` + named("Keyboard") + `.getBoundingClientRect(); return b.bottom <= document.querySelector("[aria-label^=Result]").getBoundingClientRect().top; })()`)
}
