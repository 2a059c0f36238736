package e2e

import (
	"fmt"
	"testing"

	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/piece"
)

// hold presses keys of the computer's one after another and lets go of all.
func (p *tab) hold(keys ...string) {
	p.t.Helper()
	for _, way := range []input.KeyType{input.KeyDown, input.KeyUp} {
		for _, k := range keys {
			event := input.DispatchKeyEvent(way).WithKey(k).WithCode("Key" + k).WithWindowsVirtualKeyCode(int64(k[0]) - 32)
			if way == input.KeyDown {
				event = event.WithText(k)
			}
			p.do(event)
		}
	}
	p.saved()
}

// steps writes a lane's steps in short.
func entered(lane piece.Lane) []string {
	var out []string
	slots := lane.Content.StepList()
	for i := range slots.Len() {
		cell, word := slots.Cell(i), "."
		if cell.On {
			switch own := lane.Content.(type) {
			case *piece.Line:
				word = fmt.Sprint(own.Steps[i].Degree)
			case *piece.Phrase:
				word = fmt.Sprintf("%s%+d", own.Steps[i].Play, own.Steps[i].Offset)
			case *piece.Chords:
				word = fmt.Sprint(own.Steps[i].Chord)
			}
		}
		if cell.Tie {
			word += "~"
		}
		out = append(out, word)
	}
	return out
}

func TestNotesArePlayedIn(t *testing.T) {
	s, p := begin(t)
	p.key("p")
	p.press("Write")
	p.until(`document.querySelector("[aria-label='Key D2']")`)
	p.accessible("the keyboard")

	// By mouse: a note, a rest, a note that is held by a tie.
	for _, name := range []string{"Key F2", "Rest", "Key A2", "Tie"} {
		p.press(name)
	}
	p.saved()
	assert.Equal(t, []string{"3", ".", "5~", "."}, entered(p.lane(s, 0))[:4])
	p.until(`document.querySelector("[data-testid=enter-step]").textContent === "step 5 is next"`)
	// By keys, as fast as they come; each is undone by itself.
	p.keys("a", "s", "0", "d", "=")
	assert.Equal(t, []string{"1", "2", ".", "3~", "."}, entered(p.lane(s, 0))[4:9])
	p.key("z", ctrl)
	p.saved()
	assert.Equal(t, []string{"3", "."}, entered(p.lane(s, 0))[7:9])

	// What lies outside the key is mapped as the lock says.
	p.press("All semitones")
	p.press("Key C♯3")
	p.saved()
	assert.Equal(t, "7", entered(p.lane(s, 0))[9], "C sharp lies between C and D: the lower")
	file := p.file(t)
	assert.Equal(t, []string{"0 41 180", "480 45 420", "960 38 180"}, notes(track(t, file, "Low"))[:3])

	// Chords: keys that are held together, or touched one by one and entered.
	p.key("Escape")
	p.press("Add chords")
	p.types("i7 IV7")
	p.key("Enter")
	p.saved()
	p.key("p")
	p.press("All semitones")
	p.until(`document.querySelectorAll("[aria-label='Keyboard'] [aria-label^='Key ']").length === 15`)
	p.hold("s", "f", "h")
	assert.Equal(t, "Em G7", p.chords(s, 1))
	p.press("Chord")
	for _, name := range []string{"Key C4", "Key E4", "Key G4", "Enter 3 notes"} {
		p.press(name)
	}
	p.saved()
	assert.Equal(t, "Em C", p.chords(s, 1))
	p.key("z", ctrl)
	p.saved()
	assert.Equal(t, "Em G7", p.chords(s, 1))

	// A phrase: a note, a rest, a tie, several together.
	p.key("Escape")
	p.press("Add a phrase")
	p.until(`document.querySelector("canvas[data-lane=phrase]") && document.querySelector("[aria-label='Steps of Phrase']")`)
	p.key("p")
	p.press("Key G4")
	p.press("Tie")
	p.press("Rest")
	p.saved()
	assert.Equal(t, []string{"root+2~", ".", "."}, entered(p.lane(s, 2))[:3], "G is two scale steps above E")
	p.hold("a", "d", "g")
	p.until(`document.querySelector("[role=alert]")?.textContent.includes("this chord would take their place in all of them")`)
	assert.Equal(t, "harmony", phraseOf(p.lane(s, 2)).Source, "nothing is taken in silence")
	p.press("Let it take their place")
	p.saved()
	assert.Equal(t, "chord+0", entered(p.lane(s, 2))[3])
	assert.Equal(t, []any{"own", 3}, []any{phraseOf(p.lane(s, 2)).Source, len(phraseOf(p.lane(s, 2)).Tones)})
	var stab []int
	for _, n := range track(t, p.file(t), "Phrase").Notes {
		if n.At == 720 {
			stab = append(stab, n.Pitch)
		}
	}
	assert.Equal(t, []int{62, 65, 69}, stab)
}

func TestNotesArePlayedInTime(t *testing.T) {
	s, p := begin(t)
	p.key("p")
	p.press("Write")
	p.press("In time")
	p.press("Start the loop")
	clock := `Number(document.querySelector("[data-testid=clock]").dataset.%s)`
	p.until(fmt.Sprintf(clock, "clicked") + " === 4")
	p.until(`document.querySelector("[data-testid=clock]").textContent.startsWith("1.3")`)
	p.keys("d")
	on := 0
	for i, word := range entered(p.lane(s, 0)) {
		if word == "3" {
			on = i
		}
	}
	assert.GreaterOrEqual(t, on, 8, "at the third beat, or as much later as the key came")
	// It is heard the next time round, and the loop did not stop.
	p.until(fmt.Sprintf(clock, "scheduled") + " >= 1")
	p.press("Stop the loop")
}

// A keyboard that the browser knows, as Web MIDI gives it, sends keys that go down and
// come up.
func TestAMIDIKeyboardIsListenedTo(t *testing.T) {
	s, p := begin(t)
	p.do(chromedp.Evaluate(`
		window.device = {name: "Small keys", state: "connected"};
		navigator.requestMIDIAccess = async () => ({inputs: new Map([["1", device]])});
		window.send = (...bytes) => device.onmidimessage({data: new Uint8Array(bytes)});`, nil))
	p.key("p")
	p.press("Write")
	p.press("Use a MIDI keyboard")
	p.until(`document.querySelector("[aria-label=Keyboard]").textContent.includes("Small keys")`)
	eval[any](p, `send(0x90, 41, 33); send(0x80, 41, 0); send(0xb0, 1, 5); send(0x93, 44, 120); send(0x93, 44, 0)`)
	p.saved()
	own := p.lane(s, 0).Content.(*piece.Line)
	assert.Equal(t, []string{"3", "4", "."}, entered(p.lane(s, 0))[:3], "A flat is mapped to G, the lower of two")
	assert.Equal(t, []int{33, 120}, []int{own.Steps[0].Velocity, own.Steps[1].Velocity})
}

// keyIs moves a key of the computer's down or up.
func (p *tab) keyIs(way input.KeyType, k string) {
	event := input.DispatchKeyEvent(way).WithKey(k).WithCode("Key" + k).WithWindowsVirtualKeyCode(int64(k[0]) - 32)
	if way == input.KeyDown {
		event = event.WithText(k)
	}
	p.do(event)
}

// A key sounds as long as it is held, as hard as it is struck, and nothing is written unless that is wanted; a keyboard
// that loses the focus holds nothing.
func TestKeysAreHeldAndNotWritten(t *testing.T) {
	s, p := toStandIn(t)
	before := s.piece(t, p.id())
	p.key("p")
	p.until(`document.querySelector("[aria-label=Keyboard]")?.textContent.includes("heard, not written")`)
	p.until(`document.querySelectorAll("[aria-label=Keyboard] [data-letter]").length > 7`)
	keys := func(status int) string {
		return fmt.Sprintf(`window.sent.filter((m) => (m.message[0] & 0xf0) === %d)`, status)
	}
	p.keyIs(input.KeyDown, "a")
	p.keyIs(input.KeyDown, "d")
	p.until(keys(0x90) + `.length === 2`)
	p.until(fmt.Sprintf(`performance.now() - %s[1].at > 600`, keys(0x90)))
	assert.Zero(t, eval[int](p.tab, keys(0x80)+`.length`), "held keys sound on")
	p.keyIs(input.KeyUp, "a")
	p.until(keys(0x80) + `.length === 1`)
	assert.Equal(t, eval[int](p.tab, `Math.min(...`+keys(0x90)+`.map((m) => m.message[1]))`), eval[int](p.tab, keys(0x80)+`[0].message[1]`), "the one that was let go, the lower")
	p.do(chromedp.Evaluate(`window.dispatchEvent(new Event("blur"))`, nil))
	p.until(keys(0x80) + `.length === 2`)
	// A MIDI keyboard is heard as it is played: how hard, with its wheel; one that is pulled out holds no key.
	p.do(chromedp.Evaluate(`
		window.device = {id: "1", name: "Small keys", state: "connected"};
		window.access = {inputs: new Map([["1", device]])};
		navigator.requestMIDIAccess = async () => access;
		window.send = (...bytes) => device.onmidimessage({data: new Uint8Array(bytes)});
		window.sent.length = 0;`, nil))
	p.press("Use a MIDI keyboard")
	p.until(`document.querySelector("[aria-label=Keyboard]").textContent.includes("Small keys")`)
	eval[any](p.tab, `send(0x90, 50, 33); send(0xe0, 0, 80); send(0xd0, 70)`)
	p.until(keys(0x90) + `.some((m) => m.message[1] === 50 && m.message[2] === 33)`)
	p.until(keys(0xe0) + `.some((m) => m.message[2] === 80)`)
	p.until(keys(0xd0) + `.some((m) => m.message[1] === 70)`)
	assert.Zero(t, eval[int](p.tab, keys(0x80)+`.length`))
	eval[any](p.tab, `device.state = "disconnected"; access.onstatechange()`)
	p.until(keys(0x80) + `.length === 1`)
	p.press("Close the keyboard")
	assert.Equal(t, before, s.piece(t, p.id()), "nothing is written")
}

// In time, free notes stand where their keys were struck by the time of their messages, as long and as hard as they
// were held.
func TestFreeNotesAreAsLongAsTheyAreHeld(t *testing.T) {
	s, p := notesIn(t, `{"tonic":"D","scale":"dorian"}`)
	p.do(chromedp.Evaluate(`
		window.device = {id: "1", name: "Small keys", state: "connected"};
		navigator.requestMIDIAccess = async () => ({inputs: new Map([["1", device]])});
		window.send = (ago, ...bytes) => device.onmidimessage({data: new Uint8Array(bytes), timeStamp: performance.now() - ago});`, nil))
	p.key("p")
	p.press("Use a MIDI keyboard")
	p.until(`document.querySelector("[aria-label=Keyboard]").textContent.includes("Small keys")`)
	p.press("Write")
	p.press("In time")
	p.press("Start the loop")
	p.until(`document.querySelector("[data-testid=clock]").textContent.startsWith("1.3")`)
	eval[any](p.tab, `window.since = performance.now(); send(400, 0x90, 50, 33); send(0, 0x90, 57, 99)`)
	p.until(`performance.now() - since > 500`)
	eval[any](p.tab, `send(0, 0x80, 57, 0); send(0, 0x80, 50, 0)`)
	p.saved()
	p.press("Stop the loop")
	played := s.piece(t, p.id()).Clips[0].Lanes[0].Content.(*piece.Notes).Notes
	require.Len(t, played, 2)
	assert.Equal(t, []int{33, 99}, []int{played[0].Velocity, played[1].Velocity})
	tempo := s.piece(t, p.id()).Tempo
	ticks := func(ms float64) int { return int(ms * tempo * 960 / 60000) }
	assert.InDelta(t, ticks(400), played[1].At-played[0].At, 241, "a grid's step nearer or further")
	assert.GreaterOrEqual(t, played[1].Length, ticks(499))
	assert.InDelta(t, ticks(400), played[0].Length-played[1].Length, 40)
}
