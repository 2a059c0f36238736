package e2e

import (
	"os"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/piece"
	"agrimony/internal/demo"
)

func TestZZPic(t *testing.T) {
	s := serve(t)
	var p *piece.Piece
	var err error
	if f := os.Getenv("PIC_DOC"); f != "" {
		data, e := os.ReadFile(f)
		require.NoError(t, e)
		p, err = piece.Read(data)
	} else {
		p, err = demo.Piece()
	}
	require.NoError(t, err)
	require.NoError(t, s.store.Create("untitled", p))
	h := &hand{tab: s.open(t, os.Getenv("PIC_AT"))}
	if sz := os.Getenv("PIC_SIZE"); sz == "tablet" {
		h.size(1024, 700)
	} else if sz == "phone" {
		h.size(390, 800)
	}
	h.until(`document.readyState === "complete"`)
	for _, k := range strings.Split(os.Getenv("PIC_KEYS"), "§") {
		switch {
		case k == "":
		case k[0] == '!':
			h.tab.press(k[1:])
		case k[0] == '?':
			h.until(k[1:])
		case k[0] == '=':
			h.do(chromedp.Evaluate(k[1:], nil))
		default:
			h.tab.key(k)
		}
	}
	h.do(chromedp.Evaluate(settled, nil, awaited))
	var png []byte
	h.do(chromedp.CaptureScreenshot(&png))
	require.NoError(t, os.WriteFile(os.Getenv("PIC"), png, 0o644))
}
