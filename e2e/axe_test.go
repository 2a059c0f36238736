package e2e

import (
	"encoding/json"
	"fmt"
	"os"
	"strings"
	"testing"

	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/demo"
	"agrimony/internal/server"
)

// accessible runs axe-core over what is on screen, and fails for what is serious.
func (p *tab) accessible(view string) {
	p.t.Helper()
	p.axe(view, `rules: {"label-content-name-mismatch": {enabled: true}, "target-size": {enabled: true}}`)
}

// inBothLights does so by day, and by lamplight for what that changes: colours.
func (p *tab) inBothLights(view string) {
	p.t.Helper()
	p.light("light")
	p.accessible(view + " by day")
	p.light("dark")
	p.axe(view+" by lamplight", `runOnly: ["color-contrast", "link-in-text-block"]`)
}

// light lets the system have a light, which the page follows.
func (p *tab) light(scheme string) {
	p.t.Helper()
	p.do(emulation.SetEmulatedMedia().WithFeatures([]*emulation.MediaFeature{{Name: "prefers-color-scheme", Value: scheme}}))
	p.until(fmt.Sprintf(`document.documentElement.dataset.light === %q`, map[string]string{"light": "day", "dark": "lamp"}[scheme]))
}

func (p *tab) axe(view, options string) {
	p.t.Helper()
	p.rest()
	if !eval[bool](p, `"axe" in window`) {
		script, err := os.ReadFile("../web/node_modules/axe-core/axe.min.js")
		require.NoError(p.t, err)
		p.do(chromedp.Evaluate(string(script), nil))
	}
	var found string
	p.do(chromedp.Evaluate(`axe.run(document, {resultTypes: ["violations"], selectors: false, elementRef: false, `+options+`}).then(r => JSON.stringify(r.violations.map(v => ({id: v.id, impact: v.impact, nodes: v.nodes.map(n => n.html.slice(0, 160)).slice(0, 8)}))))`, &found, awaited))
	var violations []struct {
		ID, Impact string
		Nodes      []string
	}
	require.NoError(p.t, json.Unmarshal([]byte(found), &violations))
	for _, v := range violations {
		if v.ID == "region" && eval[bool](p, `!!document.querySelector("[role=menu]")`) {
			continue // a menu lies over the page, beside its landmarks
		}
		assert.Fail(p.t, v.ID, "%s, %s: %v", view, v.Impact, strings.Join(v.Nodes, "\n"))
	}
}

// axe-core finds nothing serious in any view or dialog; by lamplight, whose colours a test of the tokens holds to what
// can be read, it looks at the main views.
func TestNothingSeriousForThoseWhoCannotSeeOrPoint(t *testing.T) {
	s := serve(t)
	require.NoError(t, server.EnsureDemo(s.store))
	p := s.open(t, "/")
	check := func(view string) {
		p.light("light")
		p.accessible(view)
	}
	p.until(`document.body.innerText.includes("Lantern Regatta")`)
	p.inBothLights("start")
	p.press("New piece")
	p.until(inDialog)
	check("new piece")
	p.do(chromedp.Navigate(s.url + "/piece/" + demo.ID + "/lock"))
	p.until(`window.agrimony?.hat && document.querySelectorAll("[role=tab] canvas").length === 19`)
	p.click("hat", 1, 42)
	p.inBothLights("sheet with pulses")
	p.press("Keelson")
	p.press("Sound of Keelson")
	check("sound")
	p.press("Add pulses ▾")
	p.until(`document.querySelector('[aria-label=Pitches]')`)
	check("adding pulses")
	p.key("Escape")
	p.until(`!document.querySelector('[aria-label=Pitches]')`)
	p.press("More for Keelson")
	p.until(`document.querySelector("[role=menu]")`)
	check("a lane's menu")
	p.key("Escape")
	p.until(`!document.querySelector("[role=menu]")`)
	p.press("Fill Keelson")
	p.until(inDialog)
	check("fills")
	p.key("Escape")
	p.until(`!document.querySelector("[role=dialog]")`)
	p.press("From a starter")
	p.until(`document.querySelector("[aria-label^='Try ']")`)
	check("starters")
	p.key("Escape")
	p.until(`!document.querySelector("[role=dialog]")`)
	p.press("Key: F♯ dorian")
	p.press("G")
	p.until(`document.querySelector("[aria-label='Notes that change'] tr")`)
	check("a change of key")
	p.key("Escape")
	p.until(`!document.querySelector("[role=dialog]")`)
	for _, size := range [][2]int64{{768, 1024}, {390, 800}} {
		p.size(size[0], size[1])
		p.press("Clips")
		p.until(`document.querySelector("nav").checkVisibility()`)
		check(fmt.Sprintf("%d pixels wide", size[0]))
		p.press("Clips")
	}
	p.size(1280, 800)
	p.do(chromedp.Navigate(s.url + "/piece/" + demo.ID + "/narrows"))
	p.until(`window.agrimony?.lamps && document.querySelector("[aria-label='Chord board'] button")`)
	p.drag(0, p.nameAt("lamps", 2))
	p.inBothLights("chords")
	p.press("Chord line of Lamps")
	p.key("a", ctrl)
	p.do(input.InsertText("i Hm7"))
	p.until(`document.querySelector("[data-testid=chord-line]")?.textContent.includes("there is no note H")`)
	check("a chord line with a mistake")
	p.key("Escape")
	p.press("Progressions for Lamps")
	p.until(`document.body.innerText.includes("Falls by steps")`)
	check("progressions")
	p.until(inDialog)
	p.key("Escape")
	p.until(`!document.body.innerText.includes("Falls by steps")`)
	p.key("x")
	p.until(inDialog)
	check("bass")
	p.key("Escape")
	p.until(`!document.querySelector("[role=dialog]")`)
}

func TestNothingSeriousInNotesSketchesAndTheOrder(t *testing.T) {
	s := serve(t)
	require.NoError(t, server.EnsureDemo(s.store))
	p := s.open(t, "/piece/"+demo.ID+"/osier")
	check := func(view string) {
		p.light("light")
		p.accessible(view)
	}
	p.until(`window.agrimony?.heron`)
	p.rest()
	p.drag(shift, p.at("heron", 1, 68), p.at("heron", 8, 78))
	check("free notes")
	p.drop("quay.mid", chordFile(t))
	p.until(`document.querySelector("[role=dialog]")?.innerText.includes("Lanterns")`)
	check("a file that comes in")
	p.key("Escape")
	p.until(`!document.querySelector("[role=dialog]")`)
	p.key("z")
	p.until(inDialog)
	check("sketches that cannot be made")
	p.key("Escape")
	p.until(`!document.querySelector("[role=dialog]")`)
	p.do(chromedp.Navigate(s.url + "/piece/" + demo.ID + "/towpath"))
	p.until(`window.agrimony?.stride`)
	p.key("z")
	p.until(`document.querySelectorAll("[role=dialog] section").length === 6 && document.querySelector("[role=dialog] [role=slider]")`)
	check("sketches")
	p.key("Escape")
	p.until(`!document.querySelector("[role=dialog]")`)
	p.key("D")
	p.until(`document.querySelectorAll("[role=dialog] section").length === 3`)
	check("variants")
	p.press("Listen blind")
	check("listening blind")
	p.key("Escape")
	p.until(`!document.querySelector("[role=dialog]")`)
	p.key("O")
	p.until(`document.querySelector("[data-testid=bands]")`)
	p.inBothLights("the running order")
	p.key("ArrowDown")
	p.until(named("Split at the cursor"))
	check("an entry of the running order")
	p.press("Keel follows the keyboard")
	check("a clip that follows the keyboard")
	p.press("Lanes of Keel")
	check("lanes in the running order")
	p.key("Escape")
	p.press("Back to the sheet")
	p.until(`window.agrimony?.stride`)
	for _, row := range [][2]string{{"l", "print"}, {"y", "key"}, {"e", "render"}, {"?", "keys"}} {
		p.key(row[0])
		p.until(inDialog)
		check(row[1])
		p.key("Escape")
		p.until(`!document.querySelector("[role=dialog]")`)
	}
}

// A light that is chosen by hand is there from the first on when the page opens again, whatever the system has.
func TestALightThatIsChosenStays(t *testing.T) {
	s := serve(t)
	p := s.open(t, "/", `addEventListener("DOMContentLoaded", () => { window.first = document.documentElement.dataset.light; })`)
	light := `document.documentElement.dataset.light`
	p.light("light")
	p.press("Light")
	p.press("By lamplight")
	p.until(light + ` === "lamp"`)
	p.accessible("the choice of a light")
	p.do(chromedp.Reload())
	p.until(`document.body.innerText.includes("New piece")`)
	assert.Equal(t, "lamp", eval[string](p, `window.first`))
	assert.Equal(t, "lamp", eval[string](p, light))
	p.press("Light")
	p.press("As the system")
	p.until(light + ` === "day"`)
	p.light("dark")
}
