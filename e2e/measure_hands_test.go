package e2e

import (
	"fmt"
	"os"
	"slices"
	"testing"
	"time"

	"github.com/chromedp/cdproto/input"
)

// told notes what the voices are told, and when since the hand last moved or pressed, in milliseconds.
const told = `(() => {
	window.told = [];
	let moved = 0;
	for (const kind of ["pointermove", "pointerdown", "input"]) addEventListener(kind, (e) => (moved = e.timeStamp), true);
	const post = MessagePort.prototype.postMessage;
	MessagePort.prototype.postMessage = function (message, ...more) {
		for (const m of message?.messages ?? []) {
			const what = m.timbre ? "value" : m.act?.do === "strike" ? "note" : "";
			if (what && moved) window.told.push([what, performance.now() - moved, performance.now()]);
		}
		return post.call(this, message, ...more);
	};
})()`

// TestMeasureHandsToVoices prints how soon a voice is told of a value that a hand moves, how often, and of a pitch that is
// placed. It runs only when MEASURE is set; make measure does.
func TestMeasureHandsToVoices(t *testing.T) {
	if os.Getenv("MEASURE") == "" {
		t.Skip("set MEASURE to measure")
	}
	s := serve(t)
	p := s.open(t, "/", told)
	p.press("New piece")
	p.until(inDialog)
	p.key("Enter")
	p.until(`window.agrimony && Object.keys(window.agrimony).length`)
	lane := eval[string](p, `Object.keys(window.agrimony)[0]`)
	p.click(lane, 1, 43)
	p.saved()
	p.press("Play")
	p.until(`window.told.some(([what]) => what === "note")`)
	say := func(what, word string) {
		waits := eval[[]float64](p, `window.told.filter(([what]) => what === "`+word+`").map(([, after]) => after)`)
		span := eval[float64](p, `(() => { const at = window.told.filter(([what]) => what === "`+word+`").map(([, , at]) => at); return (at.at(-1) - at[0]) / 1000; })()`)
		slices.Sort(waits)
		fmt.Printf("%s: told %.1f ms after the hand at the median, %.1f ms at the 95th percentile, %d times in %.1f s\n", what, waits[len(waits)/2], waits[len(waits)*95/100], len(waits), span)
	}
	p.press("Sound of Low")
	p.until(`document.querySelector("#s-cutoff")`)
	move, let := p.held("#s-cutoff", 0.3)
	eval[any](p, `window.told = []`)
	for k := range 240 {
		move(0.1 + 0.8*float64(k%80)/80)
		time.Sleep(8 * time.Millisecond) // as a mouse of 125 reports a second
	}
	say("a value of a sound", "value")
	let()
	p.saved()
	p.press("Stop")
	p.rest()
	eval[any](p, `window.told = []`)
	for k := range 30 {
		at := p.at(lane, k%12+2, []int{36, 38, 40, 41, 43}[k%5])
		p.do(input.DispatchMouseEvent(input.MousePressed, at.X, at.Y).WithButton(input.Left).WithButtons(1).WithClickCount(1))
		p.until(fmt.Sprintf("window.told.length > %d", k))
		p.do(input.DispatchMouseEvent(input.MouseReleased, at.X, at.Y).WithButton(input.Left).WithClickCount(1))
		p.saved()
	}
	say("a pitch that is placed", "note")
}
