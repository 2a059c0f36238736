package e2e

import (
	"fmt"
	"slices"
	"testing"

	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/smf"
)

// The line that the journeys below write, in A natural minor: seven steps, of
// which the third is tied over the fourth and the sixth glides in. These are its
// notes in one round: onset, MIDI pitch and length in 960ths.
var round = []struct{ at, pitch, length int64 }{
	{0, 45, 180}, {240, 53, 180}, {480, 52, 360}, {960, 48, 96}, {1200, 50, 180}, {1440, 50, 180},
}

// wantFile checks the journeys' file note by note: seven bars, in which the line
// of 7 steps comes round 16 times and the lane of 16 steps 7 times.
func wantFile(t *testing.T, file *smf.File) {
	t.Helper()
	require.Len(t, file.Tracks, 3)
	var low, high []string
	for i := range int64(16) {
		for _, n := range round {
			low = append(low, fmt.Sprintf("%d %d %d", i*1680+n.at, n.pitch, n.length))
		}
	}
	for i := range 7 {
		high = append(high, fmt.Sprintf("%d 57 180", i*3840))
	}
	assert.Equal(t, low, notes(file.Tracks[1]))
	assert.Equal(t, high, notes(file.Tracks[2]))
	for _, track := range file.Tracks {
		assert.EqualValues(t, 7*3840, track.End)
	}
	assert.Equal(t, []smf.Signature{{Sharps: 0, Minor: true}}, file.Tracks[0].Keys)
	// The glide: the range first, then C3 up to D3 on a note that starts bent.
	bends := file.Tracks[1].Bends
	assert.Equal(t, smf.Control{At: 0, Channel: 1, Controller: 101, Value: 0}, file.Tracks[1].Controls[0])
	assert.Equal(t, smf.Bend{At: 0, Channel: 1, Value: 0}, bends[0])
	assert.Equal(t, smf.Bend{At: 1200, Channel: 1, Value: -1365}, bends[1])
	home := slices.IndexFunc(bends, func(b smf.Bend) bool { return b.At == 1320 })
	require.Greater(t, home, 10, "home after half of the step, smoothly")
	assert.Equal(t, 0, bends[home].Value)
}

func TestALineByMouse(t *testing.T) {
	s := serve(t)
	p := s.open(t, "/")
	p.press("New piece")
	p.press("A")
	p.scale("natural minor")
	p.until(`document.querySelector('[data-testid=key-notes]').textContent === "ABCDEFG"`)
	p.press("Begin")

	p.click("low", 1, 45)
	p.click("low", 2, 53)
	p.click("low", 3, 52)
	p.click("low", 5, 48)
	p.drag(0, p.at("low", 6, 50), p.at("low", 7, 50))

	// The end of the third note, dragged past the step line, ties it on.
	from := p.at("low", 3, 52)
	from.X += from.Step * 0.25
	p.drag(0, from, p.at("low", 4, 52))
	p.click("low", 5, 48)
	p.fill("Gate %", "40")
	p.saved()
	p.click("low", 6, 50)
	p.press("Glide")
	p.saved()

	p.fill("Steps of Low", "7")
	p.press("Add a line")
	p.click("lane-2", 1, 57)
	p.until(`document.querySelector('[aria-label="When lanes meet"]').textContent.includes("All lanes meet again after 7 bars")`)

	p.press("Play")
	p.until(`Number(document.querySelector("[data-testid=playhead]").dataset.tick) > 300`)
	p.until(`Number(document.querySelector("[data-testid=clock]").dataset.scheduled) >= 4`)
	p.click("lane-2", 9, 64) // an edit while it plays stops nothing
	first := eval[float64](p, `Number(document.querySelector("[data-testid=clock]").dataset.scheduled)`)
	p.until(fmt.Sprintf(`Number(document.querySelector("[data-testid=clock]").dataset.scheduled) > %v`, first))
	p.press("Stop")
	p.press("Undo")
	p.saved()

	p.press("Low")
	p.press("Key: A natural minor")
	p.scale("dorian")
	p.until(`document.querySelector("[data-testid=key-preview]")?.textContent.startsWith("1 of 7 notes change in A dorian")`)
	p.until(`document.body.innerText.includes("F3 → F♯3")`)
	p.press("Change the key")
	p.until(`document.querySelector('[aria-label="Key: A dorian"]') && !document.querySelector("[role=dialog]")`)
	p.click("low", 1, 45)
	p.fill("Velocity", "127")
	p.saved()

	p.press("Undo")
	p.saved()
	p.press("Undo")
	p.until(`document.querySelector('[aria-label="Key: A natural minor"]')`)

	p.do(chromedp.Reload())
	p.front()
	p.until(`document.querySelector('[aria-label="When lanes meet"]')?.textContent.includes("after 7 bars")`)
	p.click("low", 3, 52)
	p.until(`document.querySelector("[data-testid=step-name]").textContent === "E3"`)
	p.until(`document.querySelector("[data-testid=why]").textContent.includes("degree 5 of A natural minor is E3; step 3 has velocity 100; tied from step 3 to step 4")`)
	low := line(s.piece(t, p.id()).Clips[0].Lanes[0])
	assert.True(t, low.Steps[2].Tie)
	assert.Equal(t, 100, low.Steps[0].Velocity, "the undone accent is gone")

	p.press("Render")
	p.until(`document.querySelector("[data-testid=summary]").textContent.includes("will last 7 bars")`)
	wantFile(t, p.download())
}

// scale clicks a scale in the chooser.
func (p *tab) scale(name string) {
	p.t.Helper()
	button := fmt.Sprintf(`[...document.querySelectorAll('[aria-label=Scale] button')].find(b => b.firstChild.textContent === %q)`, name)
	p.until(button)
	eval[any](p, button+".click()")
}

// inDialog is true once a dialog has taken the focus.
const inDialog = `document.querySelector("[role=dialog]")?.contains(document.activeElement)`

// tabTo walks with the Tab key to the control of that name, and with the arrows where that is
// among tabs, tonics or scales, which chooses it; a name that ends in a star is the beginning of one.
func (p *tab) tabTo(name string) {
	p.t.Helper()
	for range 120 {
		key := "Tab"
		if eval[bool](p, fmt.Sprintf(`[...document.activeElement.closest("[role=tablist], [aria-label=Tonic], [aria-label=Scale]")?.children ?? []]
			.some(e => e.textContent === %[1]q || e.firstElementChild?.textContent === %[1]q)`, name)) {
			key = "ArrowRight"
		}
		p.key(key)
		if eval[bool](p, fmt.Sprintf(`((e, n) => {
			const own = e?.getAttribute("aria-label") ?? e?.labels?.[0]?.textContent ?? e?.textContent ?? "";
			return n.endsWith("*") ? own.startsWith(n.slice(0, -1)) : own === n || e?.firstElementChild?.textContent === n;
		})(document.activeElement, %q)`, name)) {
			return
		}
	}
	require.Fail(p.t, "no control "+name+" in reach of the Tab key")
}

func TestTheSameLineByKeyboard(t *testing.T) {
	s := serve(t)
	p := s.open(t, "/")
	p.until(named("New piece"))
	p.tabTo("New piece")
	p.key("Enter")
	p.until(named("Begin"))
	p.until(inDialog)
	p.tabTo("A")
	p.tabTo("natural minor")
	p.until(`document.querySelector('[data-testid=key-notes]').textContent === "ABCDEFG"`)
	p.tabTo("Begin")
	p.key("Enter")

	p.until(`document.querySelector("[role=application]")`)
	p.tabTo("Sheet of*")
	p.keys("Home", "1", "ArrowRight", "6", "ArrowRight", "5", "t")
	p.until(`document.querySelector("[data-testid=step-speech]").textContent === "Low step 3: E3, velocity 100, gate 75 percent, tied"`)
	p.keys("ArrowRight")
	for range 5 {
		p.keys(",")
	}
	p.keys("ArrowRight", "3")
	for range 7 {
		p.keys(",")
	}
	p.keys("ArrowRight", "4", "g", "ArrowRight", "4")
	for range 9 {
		p.key("[") // faster than the answers come
	}
	p.saved()
	p.keys("n")
	p.until(`document.querySelector('canvas[data-lane="lane-2"]')`)
	p.keys("PageUp", "PageDown", "Home", "1")
	p.until(`document.querySelector('[aria-label="When lanes meet"]').textContent.includes("All lanes meet again after 7 bars")`)

	p.key(" ")
	p.until(`Number(document.querySelector("[data-testid=playhead]").dataset.tick) > 300`)
	p.until(`Number(document.querySelector("[data-testid=clock]").dataset.scheduled) >= 3`)
	p.key(" ")
	p.until(named("Play"))

	p.key("y")
	p.until(`document.querySelector("[data-testid=key-preview]")`)
	p.until(inDialog)
	p.tabTo("dorian")
	p.until(`document.querySelector("[data-testid=key-preview]")?.textContent.startsWith("1 of 7 notes change in A dorian")`)
	p.tabTo("Change the key")
	p.key("Enter")
	p.until(`document.querySelector('[aria-label="Key: A dorian"]') && !document.querySelector("[role=dialog]")`)
	p.until(`document.activeElement.getAttribute("role") === "application"`)
	p.keys("a")
	p.key("z", ctrl)
	p.saved()
	p.key("z", ctrl)
	p.until(`document.querySelector('[aria-label="Key: A natural minor"]')`)

	p.do(chromedp.Reload())
	p.front()
	p.until(`document.querySelector('[aria-label="When lanes meet"]')?.textContent.includes("after 7 bars")`)
	p.tabTo("Sheet of*")
	p.key("e")
	wantFile(t, p.download())
}

func TestAStaleTabIsAskedAndLosesNothing(t *testing.T) {
	s := serve(t)
	first := s.open(t, "/")
	first.press("New piece")
	first.press("Begin")
	first.click("low", 1, 38)
	second := s.open(t, "/piece/"+first.id())
	second.until(`window.agrimony?.low`)

	first.front()
	first.click("low", 3, 41)
	second.front()
	second.click("low", 5, 45)
	second.until(`document.body.innerText.includes("This piece has moved on")`)
	second.press("Put my edit on top of it")
	second.until(`!document.querySelector("[role=dialog]")`)
	second.saved()
	steps := line(s.piece(t, first.id()).Clips[0].Lanes[0]).Steps
	assert.Equal(t, []bool{true, false, true, false, true}, []bool{steps[0].On, steps[1].On, steps[2].On, steps[3].On, steps[4].On})

	first.front()
	first.click("low", 7, 38)
	first.until(`document.body.innerText.includes("This piece has moved on")`)
	first.press("Show the newer piece, drop my edit")
	first.until(`!document.querySelector("[role=dialog]")`)
	assert.False(t, line(s.piece(t, first.id()).Clips[0].Lanes[0]).Steps[6].On)
	first.click("low", 9, 38)
	assert.True(t, line(s.piece(t, first.id()).Clips[0].Lanes[0]).Steps[8].On, "and work goes on")
}

func TestDrawingOnTheSheet(t *testing.T) {
	s := serve(t)
	p := s.open(t, "/")
	p.press("New piece")
	p.press("Begin")
	lane := func() []int {
		var out []int
		for _, step := range line(s.piece(t, p.id()).Clips[0].Lanes[0]).Steps {
			if step.On {
				out = append(out, step.Degree)
			} else {
				out = append(out, 0)
			}
		}
		return out
	}
	p.until(`window.agrimony?.low`)
	p.press("Fill Low")
	p.fill("Hits", "5")
	p.saved()
	assert.Equal(t, []int{1, 0, 0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 0}, lane(), "five hits over sixteen")
	p.press("root · fifth")
	p.saved()
	assert.Equal(t, []int{1, 0, 0, 5, 0, 0, 1, 0, 0, 5, 0, 0, 1, 0, 0, 0}, lane(), "pitches go round, the rhythm stays")
	p.key("Escape")

	// A pod dragged up, a rail drawn across, a note taken away.
	p.drag(0, p.at("low", 7, 38), p.at("low", 7, 41))
	assert.Equal(t, 3, lane()[6])
	rail := func(step int, share float64) point {
		at := p.at("low", step, 38)
		box := eval[point](p, `(() => { const b = document.querySelector('canvas[data-lane=low]').getBoundingClientRect(); return {x: b.left, y: b.bottom}; })()`)
		return point{X: at.X, Y: box.Y - 4*29 + 13 + (0.5-share)*24}
	}
	p.drag(shift, rail(1, 1), rail(13, 0))
	velocity := func(step int) int { return line(s.piece(t, p.id()).Clips[0].Lanes[0]).Steps[step-1].Velocity }
	assert.InDelta(t, 127, velocity(1), 4)
	assert.InDelta(t, 64, velocity(7), 6, "half way on a straight line")
	assert.InDelta(t, 1, velocity(13), 4)
	assert.Equal(t, 100, velocity(2), "rests are left alone")

	// A contour: Alt and a stroke across the ladder.
	p.drag(alt, p.at("low", 1, 38), p.at("low", 8, 50), p.at("low", 16, 38))
	after := lane()
	assert.Greater(t, after[3], 1, "the fourth step rose")
	assert.Equal(t, []bool{true, false, false, true}, []bool{after[0] > 0, after[1] > 0, after[2] > 0, after[3] > 0}, "the rhythm stays")

	at := p.at("low", 1, 38)
	p.do(chromedp.MouseClickXY(at.X, at.Y, chromedp.ButtonLeft, chromedp.ClickCount(1)),
		chromedp.MouseClickXY(at.X, at.Y, chromedp.ButtonLeft, chromedp.ClickCount(2)))
	p.saved()
	assert.Equal(t, 0, lane()[0], "a double click takes the note away")
}

func TestNumbersOutOfRangeAreRefusedInPlace(t *testing.T) {
	s := serve(t)
	p := s.open(t, "/")
	p.press("New piece")
	p.press("Begin")
	p.click("low", 1, 38)
	p.fill("Gate %", "900")
	p.until(`document.querySelector("#f-gate").getAttribute("aria-invalid") === "true" && document.querySelector("[role=alert]").textContent === "Allowed: 1 to 400."`)
	p.key("Escape")
	p.until(`document.querySelector("#f-gate").value === "75"`)

	p.do(chromedp.Focus(`[aria-label="Meter"]`), chromedp.Evaluate(`document.querySelector('[aria-label="Meter"]').select()`, nil), input.InsertText("4/3"))
	p.key("Enter")
	p.until(`document.querySelector("[role=alert]")?.textContent.includes('Meter: "4/3" is not a meter; allowed: N/D')`)
	assert.Equal(t, "4/4", s.piece(t, p.id()).Meter)
}

func TestSilenceIsExplainedAndMended(t *testing.T) {
	s := serve(t)
	p := s.open(t, "/")
	p.press("New piece")
	p.press("Begin")
	p.until(`document.body.innerText.includes("Low is silent: no step is on.")`)
	p.click("low", 1, 38)
	p.until(`!document.body.innerText.includes("is silent")`)
	p.press("Mute Low")
	p.until(`document.body.innerText.includes("Low is silent: it is muted.")`)
	p.press("Unmute it")
	p.until(`!document.body.innerText.includes("is silent")`)
	p.press("Keys")
	p.until(`document.querySelector("[role=dialog]")?.innerText.includes("Tie to the next step")`)
}
