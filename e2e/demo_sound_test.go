package e2e

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/demo"
)

// The sample is as loud as it should be: its whole order, untouched, stays under full scale.
func TestTheSampleStaysUnderFullScale(t *testing.T) {
	s := serve(t)
	p, err := demo.Piece()
	require.NoError(t, err)
	require.NoError(t, s.store.Create("untitled", p))
	h := &hand{tab: s.open(t, "/piece/untitled", offering)}
	h.until(`window.agrimony?.low`)
	h.key("O")
	h.until(`document.querySelector("[data-testid=bands]")`)
	h.press("Render")
	h.pick("Sound")
	h.pick("untouched, lowered as a whole")
	h.tab.press("Make the sound file")
	sound := waveOf(t, h.made())
	assert.Contains(t, eval[string](h.tab, `document.querySelector("[data-testid=sound]").innerText`), "nothing was changed")
	assert.Greater(t, sound.peak(0, 200), 0.4, "nor is it soft")
}
