package e2e

import (
	"fmt"
	"testing"

	"github.com/chromedp/cdproto/emulation"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/demo"
	"agrimony/internal/server"
)

// hits writes a pulse lane's steps: x for a hit, - for one that is tied on.
func hits(lane piece.Lane) string {
	out := ""
	for _, s := range lane.Content.(*piece.Pulse).Steps {
		switch {
		case s.On && s.Tie:
			out += "-"
		case s.On:
			out += "x"
		default:
			out += "."
		}
	}
	return out
}

func TestAKitByMouse(t *testing.T) {
	s, p := begin(t)
	p.press("Add pulses ▾")
	p.until(`document.body.innerText.includes("Rows for pitches")`)
	p.press("Rim37")
	p.press("Add 4 drums")
	p.saved()
	p.until(`window.agrimony["kick"] && window.agrimony["closed-hat"] && !document.querySelector("[aria-label=Pitches]")`)
	lanes := s.piece(t, p.id()).Clips[0].Lanes
	require.Len(t, lanes, 4, "the first thing added takes the place of the untouched lane")
	assert.Equal(t, []any{"Closed hat", 10, "kit"}, []any{lanes[0].Name, lanes[0].Channel, lanes[0].Sound.Voice})
	block := eval[[]bool](p, `[...document.querySelectorAll("[data-block=true]")].map(e => e.dataset.joins === "true")`)
	assert.Equal(t, []bool{false, true, true, true}, block, "the rows close up")

	// Hits: clicked one by one, painted across, one made softer, one taken away.
	for _, step := range []int{1, 5, 9, 13} {
		p.click("kick", step, 36)
	}
	assert.Equal(t, "x...x...x...x...", hits(p.lane(s, 3)))
	p.drag(0, p.at("closed-hat", 3, 42), p.at("closed-hat", 6, 42))
	assert.Equal(t, "..xxxx..........", hits(p.lane(s, 0)))
	from := p.at("closed-hat", 4, 42)
	from.X -= from.Step * 0.4
	to := from
	to.Y += 20
	p.drag(0, from, to)
	assert.Equal(t, 60, p.lane(s, 0).Content.(*piece.Pulse).Steps[3].Velocity, "two a pixel, down")
	end := p.at("kick", 13, 36)
	end.X += end.Step * 0.25
	p.drag(0, end, p.at("kick", 16, 36))
	assert.Equal(t, "x...x...x...-...", hits(p.lane(s, 3)), "its end dragged past the step line ties it on")
	p.click("snare", 5, 38)
	p.key("k")
	p.key("z", ctrl)
	p.saved()

	p.press("Play")
	p.until(`Number(document.querySelector("[data-testid=clock]").dataset.scheduled) >= 6`)
	p.press("Stop")
	p.press("Render")
	p.until(`document.querySelector("[data-testid=summary] table")`)
	file := p.download()
	kick := file.Tracks[len(file.Tracks)-1]
	assert.Equal(t, []string{"0 36 180", "960 36 180", "1920 36 180", "2880 36 840"}, notes(kick)[:4])
	assert.Equal(t, 10, kick.Notes[0].Channel)
}

func TestRowsForPitchesByKeyboard(t *testing.T) {
	s, p := begin(t)
	p.tabTo("Add pulses ▾")
	p.key("Enter")
	p.until(`document.querySelector('[role=group][aria-label=Pitches]')`)
	p.tabTo("A3")
	p.key("Enter")
	p.tabTo("D3")
	p.key("Enter")
	p.tabTo("Add 2 rows")
	p.key("Enter")
	p.saved()
	p.until(`document.querySelectorAll("[data-block=true]").length === 2`)
	p.keys("Home", "Enter", "ArrowRight", "ArrowRight", "Enter", "t", "ArrowUp")
	lane := p.lane(s, 1)
	assert.Equal(t, "x.-.............", hits(lane))
	assert.Equal(t, &pitch.Place{Degree: 2}, lane.Content.(*piece.Pulse).Pitch, "the row went up a degree, to E")
	p.until(`document.querySelector("[data-testid=step-speech]").textContent.endsWith("step 3: hit, velocity 100, gate 75 percent, tied")`)
}

// Keys work as soon as the page is there, before anything has been clicked.
func TestKeysWorkAtOnce(t *testing.T) {
	s := serve(t)
	require.NoError(t, server.EnsureDemo(s.store))
	p := s.open(t, "/piece/"+demo.ID)
	p.until(`window.agrimony?.low`)
	p.key("?")
	p.until(`document.querySelector("[role=dialog]")?.innerText.includes("Tie to the next step")`)
	p.key("Escape")
	p.until(`!document.querySelector("[role=dialog]")`)
	p.key("m")
	p.key("m") // faster than the answer
	p.keys("ArrowRight", "3")
	low := p.lane(s, 0)
	assert.False(t, low.Mute, "muted and back")
	assert.True(t, low.Content.(*piece.Line).Steps[0].On && low.Content.(*piece.Line).Steps[0].Degree == 3)
}

// Notes that come and go move no row of the ladder: a quick second click lands where
// it was aimed.
func TestTheLadderStaysWhereItIs(t *testing.T) {
	s, p := begin(t)
	first, second, third := p.at("low", 1, 38), p.at("low", 3, 48), p.at("low", 5, 33)
	p.drag(0, first)
	p.drag(0, second)
	p.drag(0, third)
	assert.Equal(t, "1.7.5...........", degrees(p.lane(s, 0)))
	for step, place := range map[int]point{1: first, 3: second, 5: third} {
		assert.Equal(t, place, p.at("low", step, map[int]int{1: 38, 3: 48, 5: 33}[step]))
	}
	p.press("Show higher notes")
	assert.Greater(t, p.at("low", 1, 38).Y, first.Y, "until one scrolls it")
}

// On a large screen a clip that fits fills the width, its result stands on the same
// axis, and the open lane takes the height.
func TestALargeScreenIsFilled(t *testing.T) {
	s := serve(t)
	require.NoError(t, server.EnsureDemo(s.store))
	p := s.open(t, "/piece/"+demo.ID+"/keel")
	p.do(emulation.SetDeviceMetricsOverride(1920, 1080, 1, false))
	p.until(`window.innerWidth === 1920 && window.agrimony?.low`)
	box := func(selector string) map[string]float64 {
		return eval[map[string]float64](p, fmt.Sprintf(`(({left, right, top, bottom}) => ({left, right, top, bottom}))(document.querySelector(%q).getBoundingClientRect())`, selector))
	}
	p.until(`(b => b.right - b.left > 1300)(document.querySelector("canvas[data-lane=low]").getBoundingClientRect())`)
	band, result, reed := box("canvas[data-lane=low]"), box(`[aria-label^="Result"] canvas`), box("canvas[data-lane=reed]")
	assert.InDelta(t, band["left"]+46, result["left"], 1, "one axis")
	assert.InDelta(t, band["right"], result["right"], 1)
	end := p.at("low", 32, 42)
	assert.InDelta(t, band["right"], end.X+end.Step/2, 2, "the clip's end is at the edge")
	assert.Greater(t, band["bottom"]-band["top"], 600.0, "the open lane takes the height")
	assert.Greater(t, result["top"]-reed["bottom"], 40.0)
	assert.Less(t, result["top"]-reed["bottom"], 90.0, "and leaves no hole")

	// Open beside it, and drag it higher.
	p.press("Open Reed")
	p.until(`document.querySelectorAll("[data-open=true]").length === 2`)
	before := box("canvas[data-lane=reed]")
	grip := `[aria-label="Height of Reed"]`
	at := box(grip)
	middle := point{X: (at["left"] + at["right"]) / 2, Y: (at["top"] + at["bottom"]) / 2}
	p.drag(0, middle, point{X: middle.X, Y: middle.Y + 120})
	after := box("canvas[data-lane=reed]")
	assert.InDelta(t, 120, (after["bottom"]-after["top"])-(before["bottom"]-before["top"]), 20)
}
