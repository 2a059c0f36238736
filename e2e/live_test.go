package e2e

import (
	"fmt"
	"strings"
	"testing"

	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/piece"
	"agrimony/internal/demo"
	"agrimony/internal/server"
)

// slide presses a slider's handle and moves it to a share of its way, without letting go.
func (p *tab) slide(slider string, share float64) (let func()) {
	p.t.Helper()
	_, let = p.held(slider, share)
	return let
}

// held is the same, and can move the handle on.
func (p *tab) held(slider string, share float64) (move func(share float64), let func()) {
	p.t.Helper()
	box := eval[map[string]float64](p, `(() => {
		const el = document.querySelector("`+slider+`");
		el.scrollIntoView({block: "center"});
		const box = el.getBoundingClientRect();
		return {x: box.x, y: box.y + box.height / 2, width: box.width, share: (el.value - el.min) / (el.max - el.min)};
	})()`)
	thumb := 16.0 // the handle's middle does not reach the ends
	at := func(share float64) float64 { return box["x"] + thumb/2 + share*(box["width"]-thumb) }
	p.do(input.DispatchMouseEvent(input.MousePressed, at(box["share"]), box["y"]).WithButton(input.Left).WithButtons(1).WithClickCount(1))
	now := box["share"]
	move = func(share float64) {
		p.do(input.DispatchMouseEvent(input.MouseMoved, at(share), box["y"]).WithButton(input.Left).WithButtons(1))
		now = share
	}
	from := now
	for k := 1; k <= 4; k++ {
		move(from + (share-from)*float64(k)/4)
	}
	return move, func() {
		p.do(input.DispatchMouseEvent(input.MouseReleased, at(now), box["y"]).WithButton(input.Left).WithClickCount(1))
	}
}

// A value of a sound is heard while the hand moves it, and is one edit once it is let go; Esc puts back what was.
func TestAValueIsHeardWhileItMoves(t *testing.T) {
	s, p := begin(t)
	for step := range 16 {
		p.click("low", step, 42)
	}
	p.saved()
	p.press("Sound of Low")
	p.press("Play")
	loud := `document.querySelector("[aria-label='Level of Low']").dataset.share`
	p.until(loud + " > 0.3")
	was := p.lane(s, 0).Sound.Level
	move, let := p.held("#s-level", 0)
	p.until(`document.querySelector("[aria-label='Level in percent']").value === "0"`)
	p.until(loud + ` === "0.00"`)
	assert.Equal(t, was, p.lane(s, 0).Sound.Level, "nothing is kept while it is held")
	p.do(chromedp.KeyEvent("\x1b"))
	p.until(loud + " > 0.3")
	move(0.2) // a hand is not still
	assert.Equal(t, fmt.Sprint(was), eval[string](p, `document.querySelector("#s-level").value`), "Esc puts back what was")
	let()
	p.rest()
	assert.Equal(t, was, p.lane(s, 0).Sound.Level, "nothing is kept of it")

	undo := `document.querySelector("[aria-label=Undo]").title`
	before := eval[string](p, undo)
	p.slide("#s-cutoff", 0.9)()
	p.saved()
	got := p.lane(s, 0).Sound.Cutoff
	assert.InDelta(t, 90, got, 4)
	assert.NotEqual(t, before, eval[string](p, undo))
	p.press("Undo")
	p.until(`document.querySelector("#s-cutoff").value === "45"`)
	assert.Equal(t, before, eval[string](p, undo), "it was one edit")
	p.press("Stop")
}

// What moves a lane is heard with and without: it stays in the document.
func TestWithAndWithout(t *testing.T) {
	s, p := begin(t)
	p.click("low", 0, 42)
	p.press("Motion")
	p.choose("Add a modulator", "velocity")
	p.saved()
	p.press("Without luck")
	p.saved()
	assert.Equal(t, []string{"odds"}, p.lane(s, 0).Bypass)
	p.press("Without luck")
	p.saved()
	meet := `/All lanes meet again after ([^\n]+)/.exec(document.body.innerText)?.[1]`
	p.until(meet + ` === "2 bars"`)
	p.key("M")
	p.saved()
	lane := p.lane(s, 0)
	assert.True(t, lane.Modulators[0].Off)
	assert.Equal(t, []string{"odds", "range", "chance", "rounds", "groove"}, lane.Bypass)
	p.until(meet + ` === "1 bar"`)
	p.key("M")
	p.saved()
	assert.False(t, p.lane(s, 0).Modulators[0].Off)
	assert.Empty(t, p.lane(s, 0).Bypass)
	p.accessible("what is off")
}

// In a dialog Space plays and stops, and Enter does the main thing, also after one of its choices was clicked; where
// the keyboard has come to a control, both are for that.
func TestSpaceAndEnterInDialogs(t *testing.T) {
	s, p := begin(t)
	p.click("low", 0, 42)
	p.saved()
	p.press("Render")
	p.until(`document.querySelector("[role=dialog] [data-main], [role=dialog] a[download]")`)
	p.press("480")
	playing := `document.querySelector("[aria-label=Stop]")`
	p.key(" ")
	p.until(playing)
	p.key(" ")
	p.until(`!` + playing)
	p.key("Escape")
	p.until(`!document.querySelector("[role=dialog]")`)

	p.press("Key: D dorian")
	p.until(`document.querySelector("[role=dialog] [data-main]")`)
	p.press("E")
	p.until(`document.querySelector("[role=dialog]").innerText.includes("in E dorian")`)
	p.press("Keep pitches")
	p.key(" ")
	p.until(playing)
	p.key("Enter")
	p.until(`!document.querySelector("[role=dialog]")`)
	p.saved()
	assert.Equal(t, "E", s.piece(t, p.id()).Key.Tonic)
	p.press("Stop")
}

// What is said over the lanes is cut before what is pressed there.
func TestTheMeetingLineKeepsItsControls(t *testing.T) {
	s := serve(t)
	own, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[
		{"id":"a","lanes":[{"id":"x","rate":"1/16T","steps":[{"on":true},{},{},{},{},{},{}]},{"id":"y","rate":"1/8","steps":[{"on":true},{},{},{},{},{},{},{},{},{},{}]},
			{"id":"z","steps":[{"on":true},{},{},{},{},{},{},{},{},{},{},{},{}]}]},
		{"id":"b","name":"Chords of another clip with a name","bars":1,"lanes":[{"id":"c","kind":"chords","palette":[{"tones":[{"degree":1},{"degree":3}]}],"steps":[{"on":true}]}]}]}`))
	require.NoError(t, err)
	require.NoError(t, s.store.Create("long", own))
	p := s.open(t, "/piece/long")
	p.until(`window.agrimony?.x`)
	p.until(`[...document.querySelectorAll("[aria-label='When lanes meet'] button, [aria-label='When lanes meet'] select")].length > 1`)
	cut := eval[[]string](p, `[...document.querySelectorAll("[aria-label='When lanes meet'] button, [aria-label='When lanes meet'] select")]
		.filter((e) => { const b = e.getBoundingClientRect(); return !e.contains(document.elementFromPoint(b.right - 3, b.y + b.height / 2)); })
		.map((e) => e.textContent)`)
	assert.Empty(t, cut, "each is reached by the mouse")
}

// What plays goes on while one goes to the sheet and back; one control changes to the other, from the next bar on.
func TestPlayingGoesOnBetweenSheetAndOrder(t *testing.T) {
	s := serve(t)
	require.NoError(t, server.EnsureDemo(s.store))
	p := s.open(t, "/piece/"+demo.ID+"/quay")
	p.until(`window.agrimony?.mist`)
	p.key("O")
	p.until(`document.querySelector("[data-testid=bands]")`)
	p.key(" ")
	p.until(named("Stop"))
	p.key("O")
	p.until(`window.agrimony?.mist && document.querySelector("[data-testid=playhead]")`)
	p.until(named("Stop"))
	at := `Number(document.querySelector("[data-testid=playhead]").dataset.tick)`
	p.until(at + ` > 100`)
	was := eval[float64](p, at)
	p.until(fmt.Sprintf("%s !== %f", at, was))
	p.press("Clip alone")
	p.until(`!(` + named("Clip alone") + `)`)
	p.until(named("Stop"))
	p.until(at + ` > 50`)
	p.key("O")
	p.until(`document.querySelector("[data-testid=bands]")`)
	p.until(named("Stop"))
	p.press("Hear the order")
	p.until(`!(` + named("Hear the order") + `)`)
	p.until(named("Stop"))
	p.key(" ")
	p.until(named("Play"))
}

// The same keys paste what was copied last: steps, or a lane.
func TestPasteTakesWhatWasCopiedLast(t *testing.T) {
	s, p := begin(t)
	p.click("low", 0, 42)
	p.saved()
	p.press("More for Low")
	p.press("Copy it, for another clip or piece")
	p.until(named("Paste Low"))
	p.key("v", input.ModifierCtrl)
	p.until(`document.querySelectorAll("canvas[data-lane]").length === 2`)
	p.saved()
	lanes := s.piece(t, p.id()).Clips[0].Lanes
	assert.Len(t, lanes, 2)
	assert.Equal(t, lanes[0].Content, lanes[1].Content)
}

// Three starters are tried in the place of a line by the arrow keys, over a beat; the rhythm of the second is taken, in
// twelve gestures at most from an empty piece. What stands is heard again where nothing is taken.
func TestThreeStartersAreTriedInPlace(t *testing.T) {
	s, p := begin(t)
	h := &hand{tab: p}
	for _, step := range []int{1, 4, 7} {
		h.gestures++
		p.click("low", step, 40+step)
	}
	p.saved()
	was := p.lane(s, 0)
	h.press("Play")
	h.press("From a starter")
	p.until(`document.querySelector("[aria-label^='Try ']")`)
	h.gestures++
	p.do(chromedp.Click("[aria-label^='Try ']"))
	heard := func() string {
		p.until(`document.querySelectorAll("[data-heard=true]").length === 1`)
		return eval[string](p, `document.querySelector("[data-heard=true]").getAttribute("aria-label")`)
	}
	first := heard()
	h.gestures++
	p.key("ArrowRight")
	p.until(fmt.Sprintf(`document.querySelector("[data-heard=true]")?.getAttribute("aria-label") !== %q`, first))
	second := heard()
	h.gestures++
	p.key("ArrowDown")
	p.until(fmt.Sprintf(`document.querySelector("[data-heard=true]")?.getAttribute("aria-label") !== %q`, second))
	h.gestures++
	p.key("ArrowUp")
	p.until(fmt.Sprintf(`document.querySelector("[data-heard=true]")?.getAttribute("aria-label") === %q`, second))
	h.gestures++
	p.pick("Rhythm")
	p.rest()
	assert.Equal(t, was, p.lane(s, 0), "nothing is kept while it is tried")
	h.gestures++
	p.key("Enter")
	p.until(`!document.querySelector("[role=dialog]")`)
	p.saved()
	t.Logf("%d gestures", h.gestures)
	assert.LessOrEqual(t, h.gestures, 12)
	now := p.lane(s, 0)
	degrees := func(l piece.Lane) (out []int) {
		for _, step := range line(l).Steps {
			if step.On && len(out) < 3 {
				out = append(out, step.Degree)
			}
		}
		return out
	}
	assert.Equal(t, degrees(was), degrees(now), "its own notes, in another rhythm")
	assert.NotEqual(t, line(was).Steps, line(now).Steps)
	assert.Equal(t, was.Sound, now.Sound)
	p.press("Undo")
	p.saved()
	assert.Equal(t, was, p.lane(s, 0), "it was one edit")

	p.press("From a starter")
	p.until(`document.querySelector("[aria-label^='Try ']")`)
	p.do(chromedp.Click("[aria-label^='Try ']"))
	heard()
	p.key("Escape")
	p.until(`!document.querySelector("[role=dialog]")`)
	p.until(`document.querySelector("[aria-label=Undo]").disabled === false`)
	assert.Equal(t, was, p.lane(s, 0), "Esc puts all back")
}

// So many hits over so many steps are dialled while one listens, and kept as one edit.
func TestHitsAreDialledWhileOneListens(t *testing.T) {
	s, p := begin(t)
	h := &hand{tab: p}
	p.until(`window.agrimony?.low`)
	h.press("Play")
	h.press("Fill Low")
	p.until(`document.querySelector("[aria-label='Turn Hits']")`)
	h.gestures++
	_, let := p.held("[aria-label='Turn Over so many steps']", 7.0/15)
	let()
	h.gestures++
	move, let := p.held("[aria-label='Turn Hits']", 3.0/8)
	p.until(`Number(document.querySelector("[data-testid=clock]").dataset.scheduled) >= 3`)
	on := func() (out []int) {
		for i, step := range line(p.lane(s, 0)).Steps {
			if step.On {
				out = append(out, i+1)
			}
		}
		return out
	}
	assert.Empty(t, on(), "nothing is written while it is dialled")
	move(5.0 / 8)
	p.until(`document.querySelector("[aria-label=Hits]").value === "5"`)
	let()
	h.press("Keep")
	p.saved()
	t.Logf("%d gestures", h.gestures)
	assert.LessOrEqual(t, h.gestures, 8)
	assert.Equal(t, []int{1, 3, 4, 6, 7, 9, 11, 12, 14, 15}, on(), "five over eight, twice")
	p.press("Undo")
	p.saved()
	assert.Empty(t, on(), "it was one edit")
}

// A note and a rail are heard as they are dragged; Esc puts both back, and nothing is kept.
func TestWhatIsDraggedIsHeardAndGivenUp(t *testing.T) {
	s, p := begin(t)
	p.click("low", 1, 38)
	p.saved()
	was := p.lane(s, 0)
	from, to := p.at("low", 1, 38), p.at("low", 1, 45)
	mouse := func(kind input.MouseType, at point) {
		p.do(input.DispatchMouseEvent(kind, at.X, at.Y).WithButton(input.Left).WithButtons(1).WithClickCount(1))
	}
	mouse(input.MousePressed, from)
	for k := 1.0; k <= 4; k++ {
		mouse(input.MouseMoved, point{X: from.X, Y: from.Y + (to.Y-from.Y)*k/4})
	}
	p.until(`document.querySelector("[data-lane=low]").dataset.tried === "true"`)
	assert.Equal(t, was, p.lane(s, 0), "nothing is kept while it is held")
	p.key("Escape")
	p.until(`document.querySelector("[data-lane=low]").dataset.tried === "false"`)
	mouse(input.MouseReleased, to)
	p.rest()
	assert.Equal(t, was, p.lane(s, 0), "Esc puts back what was")
	p.drag(0, from, to)
	assert.Equal(t, 5, line(p.lane(s, 0)).Steps[0].Degree)
	p.press("Undo")
	p.saved()
	assert.Equal(t, was, p.lane(s, 0), "it was one edit")
}

// The third and fourth bar of eight are looped on the ruler, a note in them is moved two steps aside, and the loop is let
// go: in six gestures at most. What it met takes its place.
func TestBarsAreLoopedAndANoteIsMovedAside(t *testing.T) {
	s := serve(t)
	own, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"tempo":240,"clips":[{"id":"keel","bars":8,"lanes":[{"id":"low","octave":2,"steps":[` +
		strings.Repeat(`{},`, 32) + `{"on":true,"velocity":77},{},{"on":true,"degree":3}` + strings.Repeat(`,{}`, 93) + `]}]}]}`))
	require.NoError(t, err)
	require.NoError(t, s.store.Create("own", own))
	p := s.open(t, "/piece/own")
	p.until(`window.agrimony?.low`)
	p.press("all")
	h := &hand{tab: p}
	h.gestures++
	p.key(" ")
	ruler := func(step int) point {
		return point{X: p.at("low", step, 36).X, Y: eval[float64](p, `document.querySelector("canvas[title*='drag to loop']").getBoundingClientRect().y`) + 8}
	}
	from, to := ruler(36), ruler(60)
	h.gestures++
	p.mouse(0, from, to)
	p.until(`document.querySelector("[data-loop]")?.dataset.loop === "7680 15360"`)
	at := `Number(document.querySelector("[data-testid=playhead]")?.dataset.tick)`
	for range 3 { // it stays there
		p.until(at + ` >= 7680 && ` + at + ` < 9600`)
		p.until(at + ` >= 13440 && ` + at + ` < 15360`)
	}
	h.gestures++
	p.drag(0, p.at("low", 33, 36), p.at("low", 35, 36))
	steps := line(p.lane(s, 0)).Steps
	assert.Equal(t, []any{true, 1, 77, true, 3}, []any{steps[34].On, steps[34].Degree, steps[34].Velocity, steps[32].On, steps[32].Degree}, "they have changed places")
	h.gestures++
	p.key("Escape")
	p.until(`!document.querySelector("[data-loop]")`)
	t.Logf("%d gestures", h.gestures)
	assert.LessOrEqual(t, h.gestures, 6)
	p.key("R")
	p.until(`document.querySelector("[data-loop]")?.dataset.loop === "7680 11520"`)
	p.key("R")
	p.until(`!document.querySelector("[data-loop]")`)
	p.press("Stop")

	// With Alt it is copied, with Shift it goes finer than a step.
	place := func(step int, more float64) point {
		out := p.at("low", step, 36)
		out.X += out.Step * more
		return out
	}
	begin := place(35, 0)
	mouse := func(kind input.MouseType, at point, held input.Modifier) {
		p.do(input.DispatchMouseEvent(kind, at.X, at.Y).WithButton(input.Left).WithButtons(1).WithClickCount(1).WithModifiers(held))
	}
	mouse(input.MousePressed, begin, 0)
	mouse(input.MouseMoved, place(39, 0), 0)
	mouse(input.MouseMoved, place(40, 0.25), alt|shift)
	mouse(input.MouseReleased, place(40, 0.25), alt|shift)
	p.saved()
	steps = line(p.lane(s, 0)).Steps
	assert.Equal(t, []any{true, true, 1}, []any{steps[34].On, steps[39].On, steps[39].Degree}, "it is copied")
	assert.InDelta(t, 25, steps[39].Nudge, 12)
}

// A bend of four points is drawn by hand over a beat, its end on the kick's third hit, in ten gestures at most; a point
// that is moved leaves the others as they are, and Delete takes one away.
func TestABendIsDrawnPointByPoint(t *testing.T) {
	s := serve(t)
	own, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"keel","lanes":[
		{"id":"kick","kind":"pulse","rate":"1/16T","steps":[{"on":true},{},{},{},{"on":true},{},{},{},{},{},{},{},{},{},{},{},{},{},{},{},{"on":true},{},{},{}]},
		{"id":"lead","kind":"notes","voices":"one","notes":[{"at":0,"length":3360,"degree":1}]}]}]}`))
	require.NoError(t, err)
	require.NoError(t, s.store.Create("own", own))
	p := s.open(t, "/piece/own")
	h := &hand{tab: p}
	h.press("lead")
	p.until(`window.agrimony?.lead`)
	bend := func() []piece.Point {
		p.saved()
		return p.lane(s, 1).Content.(*piece.Notes).Notes[0].Bend
	}
	note := s.piece(t, "own").Clips[0].Lanes[1].Content.(*piece.Notes).Notes[0]
	require.Equal(t, 1, note.Degree)
	const base = 48
	place := func(percent float64, pitch int) point { // of the note, which lasts fourteen steps
		out := p.at("lead", 1, pitch)
		out.X += (percent/100*14 - 0.5) * out.Step
		return out
	}
	pull := func(from, to point) {
		h.gestures++
		p.drag(0, from, to)
	}
	h.gestures++
	p.drag(0, place(30, base))
	pull(place(100, base), place(100, base+4)) // away from its end: two points
	require.Equal(t, []piece.Point{{At: 50}, {At: 100, By: 4}}, bend())
	pull(place(50, base), place(20, base))
	pull(place(39.3, base+1), place(39.3, base+5)) // on the way: one more
	got := bend()
	require.Len(t, got, 3)
	assert.InDelta(t, 20, got[0].At, 1)
	assert.Equal(t, []int{0, 5, 4}, []int{got[0].By, got[1].By, got[2].By})
	pull(place(23.1, base+1), place(23.1, base+7)) // and one more
	pull(place(100, base+4), place(95, base+4))
	got = bend()
	require.Len(t, got, 4)
	assert.InDelta(t, 95.238, got[3].At, 0.0005, "on the kick's third hit")
	t.Logf("%d gestures", h.gestures)
	assert.LessOrEqual(t, h.gestures, 10)
	p.key("Delete") // the point that the hand had last
	assert.Equal(t, got[:3], bend(), "the others are as they were")
}

// A bass is edited on the sheet while three other clips play on in the running order, and one of them is taken out from
// there: in fifteen gestures at most.
func TestAClipIsTakenOutFromTheSheet(t *testing.T) {
	var entries []string
	for _, clip := range []string{"keel", "weir", "lock", "eddy"} {
		entries = append(entries, fmt.Sprintf(`{"clip":%q,"at":0,"for":983040}`, clip))
	}
	s, p := ordering(t, 240, "keel", "["+strings.Join(entries, ",")+"]", "")
	p.gestures++
	p.key("O")
	p.until(`document.querySelector("[data-testid=bands]")`)
	p.gestures++
	p.key(" ")
	p.bar(1)
	p.gestures++
	p.key("O")
	p.until(`window.agrimony?.low`)
	inIndex := func(name, says string) string {
		return fmt.Sprintf(`[...document.querySelectorAll("nav [role=tab]")].find(e => e.textContent.startsWith(%q))?.textContent.includes(%q)`, name, says)
	}
	p.until(inIndex("Weir", "plays") + " && " + inIndex("Eddy steers", "plays"))
	was := p.lane(s, 0)
	p.gestures++
	p.click("low", 2, 42)
	p.saved()
	assert.NotEqual(t, was, p.lane(s, 0))
	p.press("Weir")
	p.until(named("Take Weir out"))
	p.press("Take Weir out")
	p.until(named("Bring Weir in"))
	p.press("Bring Weir in")
	p.until(named("Take Weir out"))
	p.gestures++
	p.key("2", alt) // by its key in the order: the second clip of the piece
	p.until(inIndex("Towpath", "plays"))
	t.Logf("%d gestures", p.gestures)
	assert.LessOrEqual(t, p.gestures, 15)
	p.press("Stop")
}

// An acid line is made from an empty piece: its notes painted, accents, slides and an octave set by keys, its resonance
// turned up, and its filter swept by hand over four rounds while it plays, which is one undo.
func TestAnAcidLineIsSweptByHand(t *testing.T) {
	s, p := begin(t)
	h := &hand{tab: p}
	low := func() []piece.LineStep { return line(p.lane(s, 0)).Steps }
	from, to := p.at("low", 1, 38), p.at("low", 16, 38)
	h.pull(0, from, to)
	for _, accented := range []int{3, 7, 12} {
		h.tap("low", accented, 38)
		h.type_("a")
	}
	h.tap("low", 8, 38)
	h.type_("g", "ArrowUp", "ArrowUp")
	h.tap("low", 11, 38)
	h.type_("r")
	p.key("ArrowRight")
	p.key("ArrowRight")
	h.gestures++
	h.type_("g")
	require.Len(t, low(), 16)
	assert.Equal(t, []any{true, 120, true, false}, []any{low()[2].On, low()[2].Velocity, low()[7].Glide != nil, low()[10].On})
	h.press("Sound of Low")
	p.until(`document.querySelector("#s-resonance")`)
	h.gestures++
	p.slide("#s-resonance", 0.8)()
	p.saved()
	h.press("Play")
	at := `Number(document.querySelector("[data-testid=playhead]")?.dataset.tick)`
	p.until(at + ` > 0`)
	was := p.lane(s, 0).Sound
	h.gestures++
	move, let := p.held("#s-cutoff", 0.2)
	for round := range 4 {
		p.until(at + ` < 1200`)
		move(0.2 + 0.15*float64(round))
		p.until(at + ` > 2400`)
		move(0.3 + 0.15*float64(round))
	}
	assert.Equal(t, was, p.lane(s, 0).Sound, "while the hand holds it nothing is kept")
	let()
	p.saved()
	assert.InDelta(t, 75, p.lane(s, 0).Sound.Cutoff, 4)
	h.press("Undo")
	p.saved()
	assert.Equal(t, was, p.lane(s, 0).Sound, "the ride is one undo")
	h.press("Redo")
	p.press("Stop")
	t.Logf("%d gestures", h.gestures)
	assert.LessOrEqual(t, h.gestures, 25)
	notes := track(t, p.file(t), "Low")
	assert.NotEmpty(t, notes.Bends, "its slides are in the file")
}
