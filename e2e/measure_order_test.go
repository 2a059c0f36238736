package e2e

import (
	"fmt"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/piece"
)

// manyClips is a piece of so many clips of so many lanes, each with entries of a bar or more.
func manyClips(t *testing.T, clips, lanes, entries, bars int) *piece.Piece {
	var all, order []string
	for c := range clips {
		var own []string
		for l := range lanes {
			own = append(own, fmt.Sprintf(`{"id":"l%d","name":"L%d","octave":%d,"sound":{"voice":"pluck"},"steps":[{"on":true,"degree":%d},{},{"on":true,"degree":5},{},{"on":true,"degree":3},{},{"on":true},{}]}`, l, l, 2+l%4, 1+(c+l)%7))
		}
		all = append(all, fmt.Sprintf(`{"id":"c%d","name":"Clip %d","bars":2,"lanes":[%s]}`, c, c, strings.Join(own, ",")))
		for e := range entries / clips {
			order = append(order, fmt.Sprintf(`{"clip":"c%d","at":%d,"for":%d}`, c, e*(bars+2)*3840, bars*3840))
		}
	}
	p, err := piece.Read([]byte(fmt.Sprintf(`{"format":"agrimony-piece","version":1,"tempo":120,"clips":[%s],"order":{"entries":[%s]}}`, strings.Join(all, ","), strings.Join(order, ","))))
	require.NoError(t, err)
	return p
}

// TestMeasureALargeOrder prints how evenly frames are drawn while an entry of 1,000, of 64 clips, is dragged.
func TestMeasureALargeOrder(t *testing.T) {
	if os.Getenv("MEASURE") == "" {
		t.Skip("set MEASURE to measure")
	}
	s := serve(t)
	require.NoError(t, s.store.Create("large", manyClips(t, 64, 2, 1024, 4)))
	p := s.open(t, "/piece/large")
	p.until(`window.agrimony?.l0`)
	p.key("O")
	p.until(`document.querySelector("[data-testid=bands]")`)
	p.rest()
	at := eval[point](p, `(() => { const b = document.querySelector("[data-testid=bands]").getBoundingClientRect(); return {x: b.left + 20, y: b.top + 24}; })()`)
	mouse := func(kind input.MouseType, k int) {
		e := input.DispatchMouseEvent(kind, at.X+float64(k*3), at.Y).WithButton(input.Left).WithButtons(1)
		if kind == input.MousePressed {
			e = e.WithClickCount(1)
		}
		p.do(e)
	}
	gaps, _ := p.frames(func() {
		mouse(input.MousePressed, 0)
		for k := range 200 {
			mouse(input.MouseMoved, k)
		}
		mouse(input.MouseReleased, 0)
	})
	fmt.Printf("an entry of 1,024 dragged: frames median %.1f ms apart, 95th percentile %.1f ms, of %d\n", gaps[len(gaps)/2], gaps[len(gaps)*95/100], len(gaps))
}

// TestMeasureManyClipsAtOnce prints how late notes are struck while 8 clips play at once, and how the
// sound's own clock keeps up: below 100 % the machine has not the strength for so many voices.
func TestMeasureManyClipsAtOnce(t *testing.T) {
	if os.Getenv("MEASURE") == "" {
		t.Skip("set MEASURE to measure")
	}
	for _, lanes := range []int{1, 2, 4, 8} {
		t.Run(fmt.Sprint(lanes), func(t *testing.T) { measureAtOnce(t, lanes) })
	}
}

func measureAtOnce(t *testing.T, lanes int) {
	s := serve(t)
	require.NoError(t, s.store.Create("many", manyClips(t, 8, lanes, 8, 64)))
	p := s.open(t, "/piece/many")
	p.until(`window.agrimony?.l0`)
	p.do(chromedp.Evaluate(`window.late = []; window.addEventListener("order note", (e) => window.late.push(e.detail.late * 1000))`, nil))
	p.key("O")
	p.until(`document.querySelector("[data-testid=bands]")`)
	p.key(" ")
	p.until(`Number(document.querySelector("[data-testid=order-now]")?.dataset.tick) > 100`)
	pace := 0.0
	p.do(chromedp.Evaluate(`new Promise((done) => {
			const at = () => Number(document.querySelector("[data-testid=order-now]").dataset.tick);
			const [tick, time] = [at(), performance.now()];
			setTimeout(() => done((at() - tick) / 1920 / ((performance.now() - time) / 1000)), 10000);
		})`, &pace, awaited))
	late := eval[[]float64](p, `window.late`)
	slices.Sort(late)
	over := 0
	for _, ms := range late {
		if ms > 5 {
			over++
		}
	}
	fmt.Printf("8 clips of %d lanes at once: %d notes, %d over 5 ms late, at most %.0f ms; the sound's clock at %.0f %%\n", lanes, len(late), over, late[len(late)-1], 100*pace)
}
