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
// of 64 steps over 8 bars, alone and among others. It runs only when MEASURE is set; make measure does.
func TestMeasure(t *testing.T) {
	if os.Getenv("MEASURE") == "" {
		t.Skip("set MEASURE to measure")
	}
	for _, clips := range []int{1, 64} {
		t.Run(fmt.Sprint(clips), func(t *testing.T) { measureEdits(t, clips) })
	}
}

func measureEdits(t *testing.T, clips int) {
	steps := make([]string, 64)
	for i := range steps {
		steps[i] = fmt.Sprintf(`{"on":%t,"degree":%d,"velocity":%d}`, i%3 != 1, i%7+1, 60+i)
	}
	lanes := make([]string, 32)
	for i := range lanes {
		lanes[i] = fmt.Sprintf(`{"id":"l%d","steps":[%s]}`, i, strings.Join(steps, ","))
	}
	all := make([]string, clips)
	for i := range all {
		all[i] = fmt.Sprintf(`{"id":"a%d","bars":8,"lanes":[%s]}`, i, strings.Join(lanes, ","))
	}
	read, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[` + strings.Join(all, ",") + `]}`))
	require.NoError(t, err)
	s := serve(t)
	require.NoError(t, s.store.Create("large", read))
	p := s.open(t, "/piece/large")
	p.until(`window.agrimony?.l0`)
	eval[any](p, `(() => {
		window.waits = [];
		let began = 0, drawn = 0;
		addEventListener("pointerup", () => ((began = performance.now()), (drawn = 0)), true);
		window.agrimony = new Proxy(window.agrimony, {
			set(all, lane, find) {
				all[lane] = find;
				if (lane === "l0" && began && !drawn) {
					const start = began; drawn = performance.now() - began;
					const channel = new MessageChannel();
					requestAnimationFrame(() => {
						channel.port1.onmessage = () => (window.framed = performance.now() - start);
						channel.port2.postMessage(0);
					});
				}
				return true;
			},
		});
		new MutationObserver(() => {
			if (!began || document.querySelector('[aria-label="Saving"]').textContent !== "Saved") return;
			const kept = performance.now() - began;
			const sent = performance.getEntriesByType("resource").filter(e => e.name.endsWith("/edits")).at(-1);
			requestAnimationFrame(() => requestAnimationFrame(() => window.waits.push([drawn, window.framed, kept, sent ? sent.responseStart - sent.startTime : 0, sent?.transferSize ?? 0])));
			began = 0;
		}).observe(document.querySelector('[aria-label="Saving"]'), {childList: true, characterData: true, subtree: true});
	})()`)
	stop := p.profiled()
	for i := range 60 {
		p.until(`document.querySelector("[aria-label=Saving]").textContent === "Saved"`)
		at := p.at("l0", i%10*3+2, 48+[]int{0, 2, 4, 5, 7}[(i+i/10)%5])
		p.do(input.DispatchMouseEvent(input.MousePressed, at.X, at.Y).WithButton(input.Left).WithButtons(1).WithClickCount(1),
			input.DispatchMouseEvent(input.MouseReleased, at.X, at.Y).WithButton(input.Left).WithClickCount(1))
		p.until(fmt.Sprintf("window.waits.length > %d", i))
	}
	stop()
	waits := eval[[][]float64](p, "window.waits")
	for k, what := range []string{"mouse up to drawn: %.0f ms", "to the frame with it on screen: %.0f ms", "to kept: %.0f ms", "to the answer's first byte: %.0f ms", "bytes of the answer: %.0f"} {
		var all []float64
		for _, w := range waits {
			all = append(all, w[k])
		}
		slices.Sort(all)
		fmt.Printf("%d clips: median "+what+", 95th percentile "+what+"\n", clips, all[len(all)/2], all[len(all)*95/100])
	}
}
