package e2e

import (
	"os"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"

	"agrimony/internal/demo"
	"agrimony/internal/server"
)

func TestZZLook(t *testing.T) {
	s := serve(t)
	require.NoError(t, server.EnsureDemo(s.store))
	p := s.open(t, "/piece/"+demo.ID+"/keel")
	shot := func(name string) {
		var picture []byte
		p.rest()
		p.do(chromedp.CaptureScreenshot(&picture))
		require.NoError(t, os.WriteFile("/tmp/look-"+name+".png", picture, 0o644))
	}
	p.until(`window.agrimony?.low`)
	p.press("Low")
	p.press("Fill Low")
	p.until(`document.querySelector("[aria-label='Turn Hits']")`)
	_, let := p.held("[aria-label='Turn Hits']", 0.5)
	let()
	shot("fills")
	p.key("Escape")
	p.press("From a starter")
	p.until(`document.querySelector("[aria-label^='Try ']")`)
	p.do(chromedp.Click("[aria-label^='Try ']"))
	p.key("ArrowDown")
	shot("starters")
}
