package e2e

import (
	"fmt"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/chromedp/cdproto/input"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/piece"
)

// TestMeasure prints how long a person waits for an edit of a large clip: 32 lanes
// of 64 steps over 8 bars. It runs only when MEASURE is set; make measure does.
func TestMeasure(t *testing.T) {
	if os.Getenv("MEASURE") == "" {
		t.Skip("set MEASURE to measure")
	}
	steps := make([]string, 64)
	for i := range steps {
		steps[i] = fmt.Sprintf(`{"on":%t,"degree":%d,"velocity":%d}`, i%3 != 1, i%7+1, 60+i)
	}
	lanes := make([]string, 32)
	for i := range lanes {
		lanes[i] = fmt.Sprintf(`{"id":"l%d","steps":[%s]}`, i, strings.Join(steps, ","))
	}
	read, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"a","bars":8,"lanes":[` + strings.Join(lanes, ",") + `]}]}`))
	require.NoError(t, err)
	s := serve(t)
	require.NoError(t, s.store.Create("large", read))
	p := s.open(t, "/piece/large")
	p.until(`window.agrimony?.l0`)
	eval[any](p, `(() => {
		window.waits = [];
		let began = 0;
		addEventListener("pointerup", () => (began = performance.now()), true);
		new MutationObserver(() => {
			if (!began || document.querySelector('[aria-label="Saving"]').textContent !== "Saved") return;
			const from = began;
			began = 0;
			const answered = performance.now();
			const sent = performance.getEntriesByType("resource").filter(e => e.name.endsWith("/edits")).at(-1);
			requestAnimationFrame(() => requestAnimationFrame(() => window.waits.push([answered - from, sent ? sent.responseEnd - sent.startTime : 0, performance.now() - from])));
		}).observe(document.querySelector('[aria-label="Saving"]'), {childList: true, characterData: true, subtree: true});
	})()`)
	for i := range 30 {
		p.until(`document.querySelector("[aria-label=Saving]").textContent === "Saved"`)
		at := p.at("l0", i%10*3+2, 48+[]int{0, 2, 4, 5, 7}[(i+i/10)%5])
		p.do(input.DispatchMouseEvent(input.MousePressed, at.X, at.Y).WithButton(input.Left).WithButtons(1).WithClickCount(1),
			input.DispatchMouseEvent(input.MouseReleased, at.X, at.Y).WithButton(input.Left).WithClickCount(1))
		p.until(fmt.Sprintf("window.waits.length > %d", i))
	}
	waits := eval[[][]float64](p, "window.waits")
	for k, what := range []string{"until the answer is drawn", "of which the request", "until the frame after it is on screen"} {
		var all []float64
		for _, w := range waits {
			all = append(all, w[k])
		}
		slices.Sort(all)
		fmt.Printf("%s: median %.0f ms, 95th percentile %.0f ms\n", what, all[len(all)/2], all[len(all)*95/100])
	}
}
