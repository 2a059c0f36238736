package e2e

import (
	"testing"

	"github.com/chromedp/cdproto/network"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/demo"
	"agrimony/internal/server"
)

// mostAtFirst is how many bytes opening a piece may take, all requests counted.
const mostAtFirst = 250_000

func TestTheFirstLoadIsSmall(t *testing.T) {
	s := serve(t)
	require.NoError(t, server.EnsureDemo(s.store))
	require.NoError(t, chromedp.Run(s.browser, network.ClearBrowserCache()))
	p := s.open(t, "/piece/"+demo.ID)
	p.until(`document.querySelectorAll("[role=tab] canvas").length >= 18 && window.agrimony?.low && !document.querySelector("[data-later]")`)
	loaded := eval[map[string]int](p, `Object.fromEntries([...performance.getEntriesByType("navigation"), ...performance.getEntriesByType("resource")].map(e => [e.name, e.transferSize]))`)
	total := 0
	for _, size := range loaded {
		total += size
	}
	t.Logf("%d bytes in %d requests", total, len(loaded))
	assert.Greater(t, total, 100_000)
	assert.Less(t, total, mostAtFirst, "%v", loaded)
	for name := range loaded {
		assert.NotContains(t, name, "engine", "the sound comes with the first sound")
	}
}
