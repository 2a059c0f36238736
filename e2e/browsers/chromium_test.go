package browsers

import (
	"context"
	"encoding/json"
	"testing"

	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/cdproto/runtime"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/require"
)

// chromium is driven by the DevTools protocol.
type chromium struct {
	ctx  context.Context
	stop func()
}

func startChromium(t *testing.T) browser {
	options := append(chromedp.DefaultExecAllocatorOptions[:], chromedp.NoSandbox, chromedp.WindowSize(1280, 800), chromedp.Flag("autoplay-policy", "no-user-gesture-required"))
	allocated, stop := chromedp.NewExecAllocator(context.Background(), options...)
	ctx, cancel := chromedp.NewContext(allocated)
	require.NoError(t, chromedp.Run(ctx))
	return &chromium{ctx, func() { cancel(); stop() }}
}

func (b *chromium) open(address string) error { return chromedp.Run(b.ctx, chromedp.Navigate(address)) }

func (b *chromium) eval(expression string) (out json.RawMessage, err error) {
	wait := func(p *runtime.EvaluateParams) *runtime.EvaluateParams { return p.WithAwaitPromise(true) }
	err = chromedp.Run(b.ctx, chromedp.Evaluate("(async () => JSON.stringify((await ("+expression+")) ?? null))()", &out, wait))
	if err != nil {
		return nil, err
	}
	var text string
	err = json.Unmarshal(out, &text)
	return json.RawMessage(text), err
}

func (b *chromium) click(x, y float64) error { return chromedp.Run(b.ctx, chromedp.MouseClickXY(x, y)) }

func (b *chromium) key(key string, shift bool) error {
	var options []chromedp.KeyOption
	if shift {
		options = append(options, chromedp.KeyModifiers(input.ModifierShift))
	}
	if named := map[string]string{"Escape": kb.Escape, "Enter": kb.Enter, "PageDown": kb.PageDown}[key]; named != "" {
		key = named
	}
	return chromedp.Run(b.ctx, chromedp.KeyEvent(key, options...))
}

func (b *chromium) choose(selector, path string) error {
	return chromedp.Run(b.ctx, chromedp.SetUploadFiles(selector, []string{path}, chromedp.ByQuery))
}

func (b *chromium) close() { b.stop() }
