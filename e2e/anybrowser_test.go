package e2e

import (
	"fmt"
	"testing"

	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// forgetful is a browser whose site storage is blocked.
const forgetful = `Object.defineProperty(window, "localStorage", { get() { throw new DOMException("no", "SecurityError"); } });`

// soundless is a browser that never starts the sound.
const soundless = `AudioContext.prototype.resume = () => new Promise(() => {}); Object.defineProperty(BaseAudioContext.prototype, "state", { get: () => "suspended" }); Object.defineProperty(BaseAudioContext.prototype, "audioWorklet", { get: () => ({ addModule: () => new Promise(() => {}) }) });`

// muted says whether the open clip's first lane is muted in what the server keeps.
func muted(t *testing.T, s *site) bool {
	t.Helper()
	c, err := s.piece(t, "untitled").Clip("keel")
	require.NoError(t, err)
	return c.Lanes[0].Mute
}

func TestAPageThatMayKeepNothing(t *testing.T) {
	s, p := loops(t, 120, forgetful)
	p.keys("m")
	assert.True(t, muted(t, s), "edits work and are kept by the server")
	p.keys("m")
	assert.False(t, muted(t, s))
}

func TestWhereTheSoundNeverStartsItIsSaid(t *testing.T) {
	s, p := loops(t, 120, soundless)
	p.key(" ")
	p.until(`document.body.innerText.includes("does not start the sound")`)
	p.keys("m")
	assert.True(t, muted(t, s), "all else works")
}

// slow lets the sound start only when the test says so.
const slow = `{ const resume = AudioContext.prototype.resume, gone = new Promise((done) => (window.letGo = done));
	AudioContext.prototype.resume = function () { return gone.then(() => resume.call(this)); }; }`

// A busy machine may need some seconds before the sound starts: that is said, and it plays once it can.
func TestASoundThatStartsLatePlays(t *testing.T) {
	_, p := loops(t, 120, slow)
	p.key(" ")
	p.until(`document.body.innerText.includes("does not start the sound")`)
	p.do(chromedp.Evaluate(`letGo()`, nil))
	p.until(named("Stop"))
	p.until(`!document.body.innerText.includes("does not start the sound")`)
}

// A wheel with Ctrl or the command key zooms the sheet and not the page, and a swipe to the
// side does not leave the page.
func TestWheelsMoveTheSheetAndNeverThePage(t *testing.T) {
	_, p := loops(t, 120, `window.prevented = []; addEventListener("wheel", (e) => setTimeout(() => window.prevented.push(e.defaultPrevented)), { capture: true });`)
	p.rest()
	at := p.at("low", 4, 40)
	for i, wheel := range []struct {
		held input.Modifier
		x, y float64
	}{{input.ModifierCtrl, 0, -120}, {input.ModifierMeta, 0, -120}, {0, 120, 0}} {
		p.do(input.DispatchMouseEvent(input.MouseWheel, at.X, at.Y).WithDeltaX(wheel.x).WithDeltaY(wheel.y).WithModifiers(wheel.held))
		p.until(fmt.Sprintf(`window.prevented.length > %d`, i))
	}
	assert.Equal(t, []bool{true, true, true}, eval[[]bool](p.tab, `window.prevented`))
}

// Letters are what keys write, or the places of keys on keyboards that write no Latin letters,
// and alike with CapsLock.
func TestKeysOfOtherKeyboards(t *testing.T) {
	s, p := loops(t, 120)
	press := func(key, code string, held input.Modifier) {
		t.Helper()
		p.do(input.DispatchKeyEvent(input.KeyDown).WithKey(key).WithCode(code).WithModifiers(held),
			input.DispatchKeyEvent(input.KeyUp).WithKey(key).WithCode(code).WithModifiers(held))
	}
	for i, m := range []struct{ keyboard, key, code string }{
		{"Cyrillic", "ь", "KeyM"},
		{"Greek", "μ", "KeyM"},
		{"AZERTY, where the letter has another place", "m", "Semicolon"},
		{"CapsLock", "M", "KeyM"},
	} {
		press(m.key, m.code, 0)
		p.saved()
		assert.Equal(t, i%2 == 0, muted(t, s), m.keyboard)
	}
}

// Nothing of the bar is cut off at any width at which all of it stands side by side.
func TestTheBarIsWholeAtEveryWidth(t *testing.T) {
	_, p := ordering(t, 120, "keel", `[{"clip":"keel","at":0,"for":983040}]`, "")
	p.key("O")
	p.until(`document.querySelector("[data-testid=bands]")`)
	p.key(" ")
	p.key("O")
	p.until(named("Clip alone")) // it is fullest while the order plays
	for _, width := range []int64{900, 930, 963, 964, 1024, 1199, 1200, 1280} {
		p.size(width, 800)
		assert.LessOrEqual(t, eval[float64](p.tab, `Math.max(...[...document.querySelectorAll("header button, header input")].map((e) => e.getBoundingClientRect().right))`), float64(width), "at %d pixels", width)
		assert.LessOrEqual(t, eval[int64](p.tab, `document.documentElement.scrollWidth`), width, "at %d pixels", width)
	}
}
