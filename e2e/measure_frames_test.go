package e2e

import (
	"context"
	"encoding/json"
	"fmt"
	"os"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/cdproto/tracing"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/piece"
)

// frames runs an act under the browser's own tracing and gives the gaps between the frames that it
// drew meanwhile, and how long its main thread was at each task, in milliseconds.
func (p *tab) frames(act func()) (gaps, tasks []float64) {
	p.t.Helper()
	var (
		mu     sync.Mutex
		events []struct {
			Name string  `json:"name"`
			At   float64 `json:"ts"`
			Took float64 `json:"dur"`
		}
		over = make(chan struct{})
	)
	browser := chromedp.FromContext(p.ctx).Browser
	listening, stop := context.WithCancel(p.ctx)
	defer stop()
	chromedp.ListenBrowser(listening, func(event any) {
		switch e := event.(type) {
		case *tracing.EventDataCollected:
			mu.Lock()
			defer mu.Unlock()
			for _, raw := range e.Value {
				var one = events[:0:0]
				if json.Unmarshal([]byte("["+string(raw)+"]"), &one) == nil {
					events = append(events, one...)
				}
			}
		case *tracing.EventTracingComplete:
			close(over)
		}
	})
	p.do(chromedp.ActionFunc(func(ctx context.Context) error {
		return tracing.Start().WithTraceConfig(&tracing.TraceConfig{IncludedCategories: []string{"devtools.timeline", "disabled-by-default-devtools.timeline.frame", "disabled-by-default-devtools.timeline"}}).
			WithTransferMode(tracing.TransferModeReportEvents).Do(cdp.WithExecutor(ctx, browser))
	}))
	act()
	p.do(chromedp.ActionFunc(func(ctx context.Context) error { return tracing.End().Do(cdp.WithExecutor(ctx, browser)) }))
	select {
	case <-over:
	case <-p.ctx.Done():
		require.NoError(p.t, p.ctx.Err())
	}
	mu.Lock()
	defer mu.Unlock()
	var drawn []float64
	for _, e := range events {
		switch e.Name {
		case "DrawFrame":
			drawn = append(drawn, e.At/1000)
		case "RunTask":
			tasks = append(tasks, e.Took/1000)
		}
	}
	slices.Sort(drawn)
	for i := 1; i < len(drawn); i++ {
		gaps = append(gaps, drawn[i]-drawn[i-1])
	}
	slices.Sort(tasks)
	slices.Sort(gaps)
	return gaps, tasks
}

// TestMeasureABoxOverManyNotes prints how evenly frames are drawn while a box is dragged over a lane
// of 20,000 free notes.
func TestMeasureABoxOverManyNotes(t *testing.T) {
	if os.Getenv("MEASURE") == "" {
		t.Skip("set MEASURE to measure")
	}
	notes := make([]string, piece.MaxNotes)
	for i := range notes {
		notes[i] = fmt.Sprintf(`{"at":%d,"length":%d,"degree":%d,"octave":%d}`, i*48, 40+i%200, i%7+1, i%3-1)
	}
	read, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"a","bars":250,"lanes":[{"id":"drift","kind":"notes","notes":[` + strings.Join(notes, ",") + `]}]}]}`))
	require.NoError(t, err)
	s := serve(t)
	require.NoError(t, s.store.Create("large", read))
	p := s.open(t, "/piece/large")
	p.until(`window.agrimony?.drift`)
	p.press("all")
	p.rest()
	from := p.at("drift", 2, 50)
	held := shift // Shift frames
	mouse := func(kind input.MouseType, k int) {
		e := input.DispatchMouseEvent(kind, from.X+float64(k*3), from.Y+float64(k%40)).WithButton(input.Left).WithButtons(1).WithModifiers(held)
		if kind == input.MousePressed {
			e = e.WithClickCount(1)
		}
		p.do(e)
	}
	drag := func(what string) {
		gaps, tasks := p.frames(func() {
			mouse(input.MousePressed, 0)
			for k := range 180 {
				mouse(input.MouseMoved, k)
				time.Sleep(8 * time.Millisecond) // as a mouse of 125 reports a second
			}
			mouse(input.MouseReleased, 179)
		})
		require.NotEmpty(t, gaps)
		late := 0
		for _, gap := range gaps {
			if gap > 1000/60.*1.5 {
				late++
			}
		}
		fmt.Printf("%s 20,000 notes: %d frames, median %.1f ms apart, 95th percentile %.1f ms, %d late; longest task %.1f ms, 99th percentile %.1f ms\n",
			what, len(gaps)+1, gaps[len(gaps)/2], gaps[len(gaps)*95/100], late, tasks[len(tasks)-1], tasks[len(tasks)*99/100])
	}
	drag("a box dragged over")
	chosen := `Number([...document.querySelectorAll("b")].map((b) => b.innerText.match(/^(\d+) notes$/)?.[1] ?? 0).join("") || 0)`
	p.until(chosen + " > 500")
	p.key("a", ctrl)
	p.until(chosen + " === 20000")
	held = 0
	from = p.at("drift", 400, 50)
	drag("all dragged,")
	p.saved()
	first := s.piece(t, "large").Clips[0].Lanes[0].Content.(*piece.Notes).Notes[0]
	require.Greater(t, first.At, 0, "they were moved")
}
