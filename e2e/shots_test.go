package e2e

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"

	"agrimony/internal/server"
)

// TestScreenshots makes the pictures in docs/screenshots from the sample piece.
// It runs only when SCREENSHOTS names the folder.
func TestScreenshots(t *testing.T) {
	folder := os.Getenv("SCREENSHOTS")
	if folder == "" {
		t.Skip("set SCREENSHOTS to a folder to make the pictures")
	}
	s := serve(t)
	require.NoError(t, server.EnsureDemo(s.store))
	p := s.open(t, "/")
	p.do(chromedp.Evaluate(`localStorage.setItem("agrimony settings", "false")`, nil), chromedp.Navigate(s.url+"/piece/lantern-regatta"))
	shoot := func(name string) {
		p.until(`document.getAnimations().length === 0 && !document.querySelector("[data-later]")`)
		var picture []byte
		p.do(chromedp.CaptureScreenshot(&picture))
		require.NoError(t, os.WriteFile(filepath.Join(folder, name+".png"), picture, 0o644))
	}
	p.until(`document.querySelectorAll("[role=tab] canvas").length === 18`)
	p.until(`window.agrimony?.low`)
	p.do(chromedp.MouseClickXY(p.at("low", 27, 54).X, p.at("low", 27, 54).Y))
	p.until(`document.querySelector('[data-testid=why]')?.textContent.startsWith("Step")`)
	shoot("sheet")

	p.press("Towpath")
	p.until(`window.agrimony?.stride`)
	p.press("Lamps")
	shoot("polymeter")
	p.key("D")
	p.until(`document.querySelectorAll("[role=dialog] section").length === 3`)
	shoot("variants")
	p.key("Escape")
	p.until(`!document.querySelector("[role=dialog]")`)

	p.press("Lock")
	p.until(`window.agrimony?.hat`)
	p.click("hat", 1, 42)
	p.until(`document.querySelector('[data-testid=why]')?.textContent.startsWith("Step 1,")`)
	shoot("pulses")

	p.press("Basin")
	p.until(`window.agrimony?.swell && document.querySelectorAll("[aria-label='Chord board'] button").length > 6`)
	p.drag(0, p.nameAt("swell", 2))
	p.until(`document.querySelector('[data-testid=why]')?.textContent.startsWith("Step 2,")`)
	shoot("chords")

	p.press("Narrows")
	p.until(`window.agrimony?.oars`)
	p.press("Oars")
	p.until(`document.body.innerText.includes("Nothing is selected in Oars")`)
	p.drag(0, p.at("oars", 4, 42))
	p.until(`document.querySelector('[data-testid=why]')?.textContent.startsWith("Step 4,")`)
	shoot("harmony")

	p.press("Slipway")
	p.until(`window.agrimony?.lanterns`)
	p.press("Lanterns")
	p.until(`document.querySelector("[aria-label^='Order of Lanterns']")`)
	p.press("Show less time")
	p.press("Show less time")
	p.key("Home")
	p.until(`document.querySelector('[data-testid=why]')?.textContent.startsWith("Step 1,")`)
	shoot("phrases")

	p.press("Eddy")
	p.until(`window.agrimony?.whirl`)
	p.press("Lean")
	p.until(`window.agrimony?.lean && document.querySelector("[aria-label='Steps of Lean']")`)
	p.key("Home")
	shoot("control")

	p.press("Cutwater")
	p.until(`window.agrimony?.hull`)
	p.press("Motion")
	p.until(`document.querySelector("[aria-label='Modulator 2, on velocity'] svg")`)
	shoot("motion")
	p.press("From a starter")
	p.until(`document.querySelector("[aria-label='Add Steady oars']")`)
	shoot("starters")
	p.key("Escape")
	p.until(`!document.querySelector("[role=dialog]")`)

	p.press("Tideway")
	p.until(`window.agrimony?.barge`)
	p.press("Barge")
	p.press("Notes")
	p.press("all")
	p.still("barge")
	p.drag(0, p.at("barge", 126, 42))
	p.until(`document.body.innerText.includes("Note 36")`)
	shoot("notes")
	p.drop("quay.mid", chordFile(t))
	p.until(`document.querySelector("[data-testid=differs-1]")?.innerText`)
	shoot("intake")
	p.key("Escape")
	p.until(`!document.querySelector("[role=dialog]")`)

	p.press("Osier")
	p.until(`window.agrimony?.wader`)
	p.press("Wader")
	p.key("z")
	p.proposals()
	p.key("2")
	p.until(`document.querySelector("[role=dialog] section[data-heard=true]")`)
	shoot("sketch")
	p.key("Escape")
	p.until(`!document.querySelector("[role=dialog]")`)
	p.press("Stop")

	p.press("Weir")
	p.until(`window.agrimony?.undertow`)
	p.press("Sound of Undertow")

	p.press("Key: F♯ dorian")
	p.until(`document.querySelector("[data-testid=key-preview]")`)
	p.scale("phrygian dominant")
	p.until(`document.querySelector("[data-testid=key-preview]")?.textContent.includes("phrygian")`)
	shoot("key")
	p.press("Cancel")
	p.until(`!document.querySelector("[role=dialog]")`)

	p.key("O")
	p.until(`document.querySelector("[data-testid=bands]")`)
	p.key(" ")
	p.until(`Number(document.querySelector("[data-testid=order-now]")?.dataset.tick) > 3000`)
	p.key("5")
	p.until(`document.querySelector("[data-testid=waits]")?.innerText.includes("Weir in")`)
	var picture []byte
	p.do(chromedp.CaptureScreenshot(&picture))
	require.NoError(t, os.WriteFile(filepath.Join(folder, "order.png"), picture, 0o644))
	p.press("Throw it away")
	p.press("Back to the sheet")
	p.until(`window.agrimony?.undertow`)

	p.press("Render")
	p.until(`document.querySelector("[data-testid=summary] table")`)
	shoot("render")
	p.key("Escape")
	p.until(`!document.querySelector("[role=dialog]")`)
	p.do(chromedp.Navigate(s.url + "/"))
	p.until(named("New piece"))
	p.until(`document.body.innerText.includes("Lantern Regatta")`)
	p.until(`document.querySelector("main li canvas")`)
	shoot("start")
	p.do(chromedp.Navigate(s.url + "/piece/lantern-regatta/narrows"))
	p.size(768, 1024)
	p.until(`window.agrimony?.lamps`)
	p.press("Margin")
	shoot("tablet")
	p.size(390, 800)
	p.until(`document.querySelector("[role=note]")`)
	shoot("telephone")
}
