package e2e

import (
	"fmt"
	"math"
	"os"
	"slices"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/lane"
	"agrimony/internal/core/render"
	"agrimony/internal/demo"
)

// plugged keeps what the stand-in is sent.
const plugged = `window.sent = []; window.addEventListener("stand-in", (e) => window.sent.push({at: e.detail.at, came: e.detail.came, message: [...e.detail.message]}));`

type sentMessage struct {
	At, Came float64
	Message  []int
}

func (p *tab) sent() []sentMessage { return eval[[]sentMessage](p, `window.sent`) }

// hanging plays what was sent as an instrument does, and tells what sounds at the end.
func hanging(all []sentMessage) (keys []string, bent int) {
	slices.SortStableFunc(all, func(a, b sentMessage) int {
		switch {
		case a.At < b.At:
			return -1
		case a.At > b.At:
			return 1
		}
		return 0
	})
	down, wheels := map[string]bool{}, map[int]int{}
	for _, m := range all {
		key := fmt.Sprint(m.Message[0]&15, m.Message[min(1, len(m.Message)-1)])
		switch m.Message[0] & 0xf0 {
		case 0x90:
			down[key] = m.Message[2] > 0
		case 0x80:
			down[key] = false
		case 0xe0:
			wheels[m.Message[0]&15] = m.Message[2]<<7 + m.Message[1] - 8192
		}
	}
	for key, on := range down {
		if on {
			keys = append(keys, key)
		}
	}
	for _, v := range wheels {
		if v != 0 {
			bent++
		}
	}
	return keys, bent
}

// toStandIn opens the sample with all lanes on the stand-in.
func toStandIn(t *testing.T) (*site, *hand) {
	s, p := loops(t, 104, plugged)
	p.toStandIn()
	return s, p
}

func (p *hand) toStandIn() {
	p.key("P")
	p.until(inDialog)
	p.choose("Port of The whole piece", "stand-in")
	p.key("Escape")
	p.until(`!document.querySelector("[role=dialog]")`)
}

// clockToStandIn lets the stand-in get the clock.
func (p *hand) clockToStandIn() {
	p.key("P")
	p.until(inDialog)
	p.do(chromedp.Click(`[aria-label="Stand-in gets the clock"]`, chromedp.ByQuery))
	p.key("Escape")
	p.until(`!document.querySelector("[role=dialog]")`)
}

// A lane sounds on a port as its file has it: ahead of time, on its channel, and nothing hangs: when it stops,
// when it is muted, when an edit takes a note away.
func TestALaneSoundsOnAPort(t *testing.T) {
	_, p := toStandIn(t)
	p.key(" ")
	p.until(`window.sent.filter((m) => (m.message[0] & 0xf0) === 0x90).length > 20`)
	p.key("m") // the lane under the hand
	p.until(`document.body.innerText.includes("M") && window.sent.length > 24`)
	p.key("m")
	p.until(`window.sent.filter((m) => (m.message[0] & 0xf0) === 0x90).length > 40`)
	p.key(" ")
	p.do(chromedp.Sleep(0))
	p.until(`!document.querySelector("[aria-label=Stop]")`)
	all := p.sent()
	channels := map[int]bool{}
	for _, m := range all {
		if m.Message[0]&0xf0 == 0x90 {
			channels[m.Message[0]&15+1] = true
		}
	}
	assert.Equal(t, map[int]bool{1: true, 2: true}, channels, "on the channels that the file has")
	keys, bent := hanging(all)
	assert.Empty(t, keys)
	assert.Zero(t, bent)
	first := slices.IndexFunc(all, func(m sentMessage) bool { return m.Message[0]&0xf0 == 0x90 })
	ranged := slices.IndexFunc(all, func(m sentMessage) bool { return m.Message[0] == 0xb0 && m.Message[1] == 101 })
	assert.Less(t, ranged, first, "the range comes before notes")
}

// The clock goes out 24 to a quarter, with start and stop; and one that comes in sets tempo and place.
func TestAClockGoesOutAndComesIn(t *testing.T) {
	_, p := toStandIn(t)
	p.clockToStandIn()
	p.key(" ")
	p.until(`window.sent.filter((m) => m.message[0] === 0xf8).length > 100`)
	p.key(" ")
	p.until(`window.sent.some((m) => m.message[0] === 0xfc)`)
	var clocks []float64
	started := false
	for _, m := range p.sent() {
		switch m.Message[0] {
		case 0xfa:
			started = true
			assert.Empty(t, clocks, "start comes first")
		case 0xf8:
			clocks = append(clocks, m.At)
		}
	}
	require.True(t, started)
	each := 60000.0 / 104 / 24
	for k := 1; k < 100; k++ {
		assert.InDelta(t, clocks[0]+float64(k)*each, clocks[k], 1, "clock %d", k)
	}

	// Another's clock is followed.
	p.key("P")
	p.until(inDialog)
	p.choose("Whose clock is followed", "stand-in")
	p.do(chromedp.Click(`details > summary`, chromedp.ByQuery))
	p.press("Send a clock")
	p.until(`document.querySelector("[aria-label=Stop]")`)
	before := len(p.sent())
	p.until(fmt.Sprintf(`window.sent.slice(%d).filter((m) => m.message[0] === 0xf8).length > 400`, before))
	clocks = nil
	for _, m := range p.sent()[before:] {
		if m.Message[0] == 0xf8 {
			clocks = append(clocks, m.At)
		}
	}
	late := clocks[len(clocks)-120:]
	tempo := 60000 / ((late[119] - late[0]) / 119 * 24)
	assert.InDelta(t, 120, tempo, 6.5, "its tempo, and up to a twentieth faster while it catches up with its place")
	// It goes on, whatever is open, as that of a device does.
	p.key("Escape")
	p.until(`!document.querySelector("[role=dialog]")`)
	after := len(p.sent())
	p.until(fmt.Sprintf(`window.sent.slice(%d).filter((m) => m.message[0] === 0xf8).length > 150`, after)) // longer than a lost one lasts
	assert.True(t, eval[bool](p.tab, `!!document.querySelector("[aria-label=Stop]")`))
	p.key("P")
	p.until(inDialog)
	p.do(chromedp.Click(`details > summary`, chromedp.ByQuery))
	p.press("Stop the clock")
	p.until(`document.querySelector("[aria-label=Play]")`)
}

// losing lets the sound lose as much time as window.lose is told, and keeps how far the band is told that the
// page's clock is ahead of it.
const losing = `{
	const own = Object.getOwnPropertyDescriptor(BaseAudioContext.prototype, "currentTime").get, post = MessagePort.prototype.postMessage;
	let lost = 0;
	window.lose = (seconds) => { lost += seconds; };
	window.zeros = [];
	Object.defineProperty(BaseAudioContext.prototype, "currentTime", {get() { return own.call(this) - lost; }});
	MessagePort.prototype.postMessage = function (message, ...rest) {
		if (message && "zero" in message) window.zeros.push(message.zero);
		return post.call(this, message, ...rest);
	};
}`

// Where the sound loses time, as on a machine that starves, what ports are sent keeps the page's, and the sound
// catches up with that.
func TestPortsKeepTimeWhereTheSoundLosesIt(t *testing.T) {
	const tempo = 104
	_, p := loops(t, tempo, plugged, losing)
	p.toStandIn()
	p.clockToStandIn()
	p.key(" ")
	p.until(`window.sent.filter((m) => m.message[0] === 0xf8).length > 40`)
	for _, seconds := range []float64{0.5, 3} {
		before := eval[float64](p.tab, `window.zeros.at(-1)`)
		p.do(chromedp.Evaluate(fmt.Sprintf(`lose(%v); 0`, seconds), nil))
		p.until(fmt.Sprintf(`window.zeros.at(-1) > %v`, before+seconds-0.07)) // a machine that starves may lose more by itself
	}
	// Nor is a clock left out where the page is kept from its turns.
	p.do(chromedp.Evaluate(`for (const begun = Date.now(); Date.now() - begun < 900;); 0`, nil))
	count := len(p.clocks())
	p.until(fmt.Sprintf(`window.sent.filter((m) => m.message[0] === 0xf8).length > %d`, count+40))
	p.key(" ")
	p.until(`document.querySelector("[aria-label=Play]")`)
	clocks := p.clocks()
	for k, at := range clocks {
		assert.InDelta(t, clocks[0]+float64(k)*60000/tempo/24, at, 1, "clock %d", k)
	}
}

// clocks are the times of the clocks that the stand-in was sent.
func (p *tab) clocks() (out []float64) {
	for _, m := range p.sent() {
		if m.Message[0] == 0xf8 {
			out = append(out, m.At)
		}
	}
	return out
}

// After a sleep of the machine the order goes on from where it was, and whoever counts its clocks with it.
func TestAfterASleepItGoesOnFromWhereItWas(t *testing.T) {
	const tempo = 104
	_, p := ordering(t, tempo, "keel", `[{"clip":"keel","at":0,"for":122880}]`, plugged, `{
		const own = performance.now.bind(performance);
		let slept = 0;
		performance.now = () => own() + slept;
		window.sleep = (seconds) => { slept += 1000 * seconds; };
	}`)
	p.toStandIn()
	p.clockToStandIn()
	p.type_("O")
	p.until(`document.querySelector("[data-testid=bands]")`)
	p.type_(" ")
	p.bar(2)
	p.do(chromedp.Evaluate(`sleep(60); 0`, nil)) // 26 bars
	before := len(p.clocks())
	p.until(fmt.Sprintf(`window.sent.filter((m) => m.message[0] === 0xf8).length > %d`, before+40))
	assert.LessOrEqual(t, eval[int](p.tab, `Number(document.querySelector("[data-testid=order-place]").innerText.split(".")[0])`), 5)
	p.type_(" ")
	p.until(`!document.querySelector("[aria-label=Stop]")`)
	clocks, slept := p.clocks(), 0
	for k := 1; k < len(clocks); k++ {
		if apart := clocks[k] - clocks[k-1]; apart > 1000 {
			slept++
		} else {
			assert.InDelta(t, 60000.0/tempo/24, apart, 1, "clock %d", k)
		}
	}
	assert.Equal(t, 1, slept)
}

// While the running order is open, it is what a clock that comes in plays: from the sender's place, and on from
// another where the sender goes there.
func TestTheOrderFollowsAClock(t *testing.T) {
	_, p := ordering(t, 104, "keel", `[{"clip":"keel","at":0,"for":30720}]`, plugged)
	p.type_("O")
	p.until(`document.querySelector("[data-testid=bands]")`)
	p.toStandIn()
	p.press("Where it sounds")
	p.until(inDialog)
	p.choose("Whose clock is followed", "stand-in")
	p.choose("Lanes of which clip", "slipway") // those of every clip are to be had here
	p.until(`document.querySelector("[role=dialog]").innerText.includes("its zone")`)
	p.accessible("where it sounds, in the running order")
	p.key("Escape")
	p.until(`!document.querySelector("[role=dialog]")`)
	send := func(message string) {
		p.do(chromedp.Evaluate(`window.dispatchEvent(new CustomEvent("from stand-in", {detail: [`+message+`]}))`, nil))
	}
	p.do(chromedp.Evaluate(`setInterval(() => window.dispatchEvent(new CustomEvent("from stand-in", {detail: [0xf8]})), 20); 0`, nil)) // 125 a minute
	send("0xf2, 32, 0")                                                                                                                // the third bar
	send("0xfb")
	p.bar(3)
	place := func() int {
		return eval[int](p.tab, `Number(document.querySelector("[data-testid=order-place]").innerText.split(".")[0])`)
	}
	assert.LessOrEqual(t, place(), 4, "from the sender's place")
	p.until(`window.sent.filter((m) => (m.message[0] & 0xf0) === 0x90).length > 6`)
	send("0xfc")
	p.until(`document.querySelector("[aria-label=Play]")`)
	keys, bent := hanging(p.sent())
	assert.Empty(t, keys)
	assert.Zero(t, bent)
	send("0xf2, 96, 0") // the seventh
	send("0xfb")
	p.bar(7)
	assert.LessOrEqual(t, place(), 8)
	send("0xfa") // and from the beginning, without a stop
	p.until(`Number(document.querySelector("[data-testid=order-place]").innerText.split(".")[0]) < 3`)
	send("0xfc")
	p.until(`document.querySelector("[aria-label=Play]")`)
}

// desk is a MIDI device that can be pulled out, and floods.
const desk = `(() => {
	const out = {id: "desk", name: "Desk", state: "connected", send: (message) => {
		if (out.state !== "connected") throw new Error("it is gone");
		window.sent.push({at: 0, came: 0, message: [...message]});
	}};
	const keys = {id: "keys", name: "Keys", state: "connected", onmidimessage: null};
	const access = {outputs: new Map([["desk", out]]), inputs: new Map([["keys", keys]]), onstatechange: null};
	window.sent = [];
	window.plug = (state) => { out.state = state; access.onstatechange?.(); };
	window.flood = () => { for (let k = 0; k < 10000; k++) keys.onmidimessage({data: Uint8Array.of(0xb0, 20, k & 127), timeStamp: performance.now()}); };
	Object.defineProperty(navigator, "requestMIDIAccess", {value: async () => access});
})()`

// A port that vanishes in the middle ends silently, the rest plays on, and the bar says it; plugged in again it
// gets what comes then. A device that floods is said, and the page lives on.
func TestAPortThatVanishes(t *testing.T) {
	_, p := loops(t, 104, desk)
	p.key("P")
	p.until(inDialog)
	p.press("Look for MIDI devices")
	p.choose("Port of The whole piece", "desk")
	p.key("Escape")
	p.until(`!document.querySelector("[role=dialog]")`)
	p.key(" ")
	p.until(`window.sent.filter((m) => (m.message[0] & 0xf0) === 0x90).length > 5`)
	p.do(chromedp.Evaluate(`plug("disconnected")`, nil))
	p.until(`document.body.innerText.includes("Desk is gone; all else plays on.")`)
	scheduled := `Number(document.querySelector("[data-testid=clock]").dataset.scheduled)`
	then := eval[int](p.tab, scheduled)
	before := eval[int](p.tab, `window.sent.length`)
	p.until(fmt.Sprintf(`%s > %d`, scheduled, then+10))
	assert.Equal(t, before, eval[int](p.tab, `window.sent.length`), "it is sent nothing more")
	p.accessible("a port that is gone")
	p.do(chromedp.Evaluate(`plug("connected")`, nil))
	p.until(fmt.Sprintf(`window.sent.length > %d`, before+10))
	p.do(chromedp.Evaluate(`flood()`, nil))
	p.until(`document.body.innerText.includes("Keys sends more than 4000 messages a second")`)
	p.key(" ")
	p.until(`document.querySelector("[aria-label=Play]")`)
	keys, _ := hanging(slices.DeleteFunc(p.sent(), func(m sentMessage) bool { return len(m.Message) < 3 })[before:])
	assert.Empty(t, keys, "nothing hangs on what came back")
}

// What an edit takes away while it sounds ends on a port at once, in the running order too.
func TestAnEditEndsWhatItTakesAwayInTheOrder(t *testing.T) {
	const tempo = 40 // the first note of the anchor lasts two seconds
	_, p := ordering(t, tempo, "moorings", `[{"clip":"moorings","at":0,"for":30720}]`, plugged)
	p.toStandIn()
	p.key("ArrowRight")
	p.key("Delete")
	p.saved()
	p.key("z", ctrl)
	p.saved()
	p.type_("O")
	p.until(`document.querySelector("[data-testid=bands]")`)
	p.type_(" ")
	anchor := func(status int) []sentMessage {
		return slices.DeleteFunc(p.sent(), func(m sentMessage) bool { return m.Message[0] != status })
	}
	p.until(`window.sent.some((m) => m.message[0] === 0x90)`)
	p.key("z", ctrl|shift)
	p.until(`window.sent.some((m) => m.message[0] === 0x80)`)
	first, end := anchor(0x90)[0], anchor(0x80)[0]
	assert.Equal(t, first.Message[1], end.Message[1])
	assert.Less(t, end.At-first.At, 1296*60000.0/tempo/960-200, "sooner than it would have")
	p.type_(" ")
}

// A value of a sound is taught to a controller: it moves as that is turned, and is one edit when it is left.
func TestASoundIsTaughtToAController(t *testing.T) {
	s, p := toStandIn(t)
	p.key("P")
	p.until(inDialog)
	p.key("Escape")
	p.until(`!document.querySelector("[role=dialog]")`)
	p.press("Sound of Low")
	p.press("Teach Cutoff a CC")
	send := func(value int) {
		p.do(chromedp.Evaluate(fmt.Sprintf(`window.dispatchEvent(new CustomEvent("from stand-in", {detail: [0xb0, 74, %d]}))`, value), nil))
	}
	send(10)
	p.until(`document.body.innerText.includes("Controller 74 moves it now")`)
	for v := 20; v <= 127; v += 10 {
		send(v)
	}
	send(127)
	p.until(`document.querySelector("#s-cutoff")?.value === "100"`)
	require.Eventually(t, func() bool { return s.piece(t, "untitled").Clips[0].Lanes[0].Sound.Cutoff == 100 }, 5*time.Second, 50*time.Millisecond)
	p.saved()
	p.key("z", ctrl)
	p.saved()
	assert.NotEqual(t, 100, s.piece(t, "untitled").Clips[0].Lanes[0].Sound.Cutoff, "one undo brings it back")
	p.accessible("the sound of a lane with a controller")
}

// The next sketch is taught to a pad, too: each press of it lets the next one be heard.
func TestTheNextSketchIsTaughtToAPad(t *testing.T) {
	_, p := toStandIn(t)
	p.key("z")
	p.until(inDialog)
	p.until(`document.querySelectorAll("[role=dialog] section").length === 6`)
	p.press("Teach the next")
	p.until(named("Press it now"))
	pad := func() {
		p.do(chromedp.Evaluate(`window.dispatchEvent(new CustomEvent("from stand-in", {detail: [0x99, 36, 100]}))`, nil))
	}
	pad()
	p.until(named("Next: note 36"))
	for k := range 2 {
		pad()
		p.until(fmt.Sprintf(`[...document.querySelectorAll("[role=dialog] section")].findIndex((s) => s.dataset.heard === "true") === %d`, k))
	}
}

// TestMeasurePorts prints how exact the time stamps are that a port is sent, notes and clocks, and how far ahead
// they come, over ten minutes with an edit each second.
func TestMeasurePorts(t *testing.T) {
	if os.Getenv("MEASURE") == "" {
		t.Skip("set MEASURE to measure")
	}
	const tempo, seconds = 104, 600
	s := serve(t)
	sample, err := demo.Piece()
	require.NoError(t, err)
	sample.Tempo = tempo
	require.NoError(t, s.store.Create("untitled", sample))
	p := &hand{tab: s.openFor(t, (seconds+60)*time.Second, "/piece/untitled", plugged)}
	p.until(`window.agrimony?.low`)
	p.toStandIn()
	p.clockToStandIn()
	p.key("ArrowRight")
	p.key(" ")
	for k := range seconds {
		p.key([]string{"ArrowUp", "ArrowDown"}[k%2])
		p.do(chromedp.Sleep(time.Second))
	}
	p.key(" ")
	p.until(`document.querySelector("[aria-label=Play]")`)
	p.saved()

	// The edits move pitches alone: a note begins where one of the clip does, and a clock on each 24th of a quarter.
	piece := s.piece(t, "untitled")
	clip, err := lane.Render(piece, &piece.Clips[0], render.Options{})
	require.NoError(t, err)
	round := clip.Length.Export(960)
	onsets := map[int64]bool{}
	for i := range clip.Lanes {
		for k := range clip.Lanes[i].Notes {
			onsets[clip.Lanes[i].Notes[k].At.Export(960)] = true
		}
	}
	begin, each := math.Inf(1), 60000.0/tempo/960
	all := p.sent()
	for _, m := range all {
		if m.Message[0] == 0xf8 {
			begin = min(begin, m.At)
		}
	}
	clocks, notes, off, ahead, close := 0, 0, 0.0, math.Inf(1), 0
	for _, m := range all {
		at := (m.At - begin) / each
		plan := math.Round(at)
		switch what := m.Message[0] & 0xf0; {
		case m.Message[0] == 0xf8:
			clocks++
			plan = math.Round(at/40) * 40
		case what == 0x90:
			notes++
			require.True(t, onsets[int64(plan)%round], "a note at %v stands where none of the clip does", at)
		default:
			continue
		}
		off, ahead = max(off, math.Abs(at-plan)*each), min(ahead, m.At-m.Came)
		if m.At-m.Came < 50 {
			close++
		}
	}
	fmt.Printf("%d notes and %d clocks over %.0f s with edits: at most %.3f ms from the plan, sent %.0f ms ahead at least, %d of them less than 50 ms (late)\n", notes, clocks, float64(clocks)*each*40/1000, off, ahead, close)
}
