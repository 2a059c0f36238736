package e2e

import (
	"context"
	"encoding/json"
	"os"

	"github.com/chromedp/cdproto/profiler"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"
)

// profiled writes what the page does until stop is called into the file that PROFILE names, as the tools of a browser
// read it.
func (p *tab) profiled() (stop func()) {
	file := os.Getenv("PROFILE")
	if file == "" {
		return func() {}
	}
	p.do(profiler.Enable(), profiler.SetSamplingInterval(200), profiler.Start())
	return func() {
		var got *profiler.Profile
		p.do(chromedp.ActionFunc(func(ctx context.Context) (err error) {
			got, err = profiler.Stop().Do(ctx)
			return err
		}))
		text, err := json.Marshal(got)
		require.NoError(p.t, err)
		require.NoError(p.t, os.WriteFile(file, text, 0o644))
	}
}
