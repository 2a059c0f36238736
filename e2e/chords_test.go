package e2e

import (
	"fmt"
	"regexp"
	"strings"
	"testing"

	"github.com/chromedp/cdproto/input"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/lane"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/smf"
	"agrimony/internal/demo"
	"agrimony/internal/server"
)

// chords writes the stored chords lane of the first clip: symbols, - for a tie after
// one, a dot for a rest.
func (p *tab) chords(s *site, index int) string {
	p.t.Helper()
	p.saved()
	doc := s.piece(p.t, p.id())
	clip := &doc.Clips[0]
	own := &clip.Lanes[index]
	var out []string
	for i, sound := range lane.Sounds(doc, clip, own) {
		text := "."
		if step := own.Content.(*piece.Chords).Steps[i]; step.On {
			text = sound.Name
			if step.Tie {
				text += "-"
			}
		}
		out = append(out, text)
	}
	return strings.Join(out, " ")
}

// named strip: where the name of a step's chord stands on screen.
func (p *tab) nameAt(lane string, step int) point {
	at := p.at(lane, step, 60)
	at.Y = eval[float64](p, fmt.Sprintf(`window.agrimony[%q](%d, 60).top`, lane, step-1)) + 16
	return at
}

// line types a progression into the chord line, which must have the focus.
func (p *tab) types(text string) {
	p.t.Helper()
	p.until(`document.activeElement?.getAttribute("aria-label")?.startsWith("Chord line")`)
	p.do(input.InsertText(text))
}

// ink tells whether a lane's canvas is dark at a place on screen, or a pixel beside it.
func (p *tab) ink(lane string, at point) bool {
	return eval[bool](p, fmt.Sprintf(`(() => {
		const c = document.querySelector('canvas[data-lane="%s"]'), b = c.getBoundingClientRect();
		const d = c.getContext("2d").getImageData(%f - b.left - 3, %f - b.top - 3, 7, 7).data;
		for (let i = 0; i < d.length; i += 4) if (d[i] + d[i + 1] + d[i + 2] < 420 && d[i + 3] > 200) return true;
		return false;
	})()`, lane, at.X, at.Y))
}

func TestChordsByMouse(t *testing.T) {
	s, p := begin(t)
	p.press("Add chords")
	p.types("i7 Hm7 VIImaj7 v7")
	p.until(`document.querySelector("[data-testid=chord-line]")?.textContent.includes("there is no note H")`)
	assert.Equal(t, "Hm7", eval[string](p, `document.querySelector("[data-wrong=true]").textContent`), "underlined in the field")
	p.until(`document.querySelector("[data-testid=chord-line] b")?.textContent === "Dm7"`)
	p.press("Write")
	p.until(`document.querySelector("[role=alert]")?.textContent.includes("Hm7")`)
	assert.Equal(t, ". . . .", p.chords(s, 0), "nothing is written")
	assert.Equal(t, "i7 Hm7 VIImaj7 v7", eval[string](p, `document.querySelector("[aria-label^='Chord line']").value`), "nor lost")
	name := p.lane(s, 0).Name
	id := p.lane(s, 0).ID
	p.fill("Chord line of "+name, "i7 IV7 VIImaj7 v7")
	p.until(`document.querySelector("[data-testid=step-name]")?.textContent === "Dm7 i7"`)
	assert.Equal(t, "Dm7 G7 Cmaj7 Am7", p.chords(s, 0))

	// Threads lead from each tone to where it goes: A3 of Dm7 to B3 of G7.
	next := p.at(id, 2, 57)
	low := p.at(id, 2, 59)
	start := next.X - next.Step/2
	w := min(34, next.Step*0.45)
	assert.True(t, p.ink(id, point{X: start - w/2, Y: (next.Y + low.Y) / 2}), "a thread")

	// The names change as tones do: a third more, an inversion, a tone by a click.
	p.drag(0, p.nameAt(id, 1))
	p.press("A third more")
	p.until(`document.querySelector("[data-testid=step-name]")?.textContent.startsWith("Dm9 i9")`)
	p.press("Invert upwards")
	p.until(`document.querySelector("[data-testid=step-name]")?.textContent.startsWith("Dm9/F")`)
	p.press("Invert downwards")
	p.press("A third less")
	p.until(`document.querySelector("[data-testid=step-name]")?.textContent.startsWith("Dm7 i7")`)
	assert.Equal(t, "Dm7 G7 Cmaj7 Am7", p.chords(s, 0))
	p.click(id, 1, 57) // A3 is there: it goes
	assert.Equal(t, "Dm7 G7 Cmaj7 Am7", p.chords(s, 0), "named as if it had its fifth")
	p.until(`document.querySelector("[data-testid=chord-tones]").textContent === "D3 F3 C4"`)
	p.key("z", ctrl)
	p.saved()
	p.click(id, 3, 62) // D4, the ninth of C
	assert.Equal(t, "Dm7 G7 Cmaj9 Am7", p.chords(s, 0))
	p.drag(0, p.at(id, 3, 62), p.at(id, 3, 69)) // dragged up to A4
	assert.Equal(t, "Dm7 G7 Cmaj13 Am7", p.chords(s, 0))
	p.key("z", ctrl)
	p.key("z", ctrl)
	p.saved()

	// A tie, a strum, smooth voices.
	p.drag(0, p.nameAt(id, 1))
	p.press("Tie")
	p.drag(0, p.nameAt(id, 3))
	p.fill("Strum, in percent of the step", "20")
	p.choose("Voices of "+name, "smooth")
	p.until(`document.querySelector("[data-testid=movement]")?.textContent.includes("fewer than as written")`)
	assert.Equal(t, "Dm7- G7 Cmaj7 Am7", roots(p.chords(s, 0)))

	// A bass, which follows the roots.
	p.press("Bass from the chords")
	p.until(inDialog)
	p.choose("Rhythm", "held")
	p.press("Follow the roots when the chords change")
	p.press("Make the bass")
	p.until(`!document.querySelector("[role=dialog]")`)
	p.until(`document.querySelector("[aria-label='Share of chord tones']")?.textContent.includes("100 %")`)
	assert.Equal(t, "root", line(p.lane(s, 1)).Follow)

	// A clash is found, and mended.
	bass := p.lane(s, 1).ID
	p.click(bass, 9, 40) // E2 under G7, on the first beat of the second bar
	p.until(`document.body.innerText.includes("stands a semitone from")`)
	p.until(`document.querySelector("[data-testid=why]")?.textContent.startsWith("Step 9,")`) // which stands over it
	p.press("Move it to F2, a tone of G7/D")
	p.saved()
	p.until(`!document.body.innerText.includes("stands a semitone from")`)
	for range 2 {
		p.key("z", ctrl)
	}
	p.saved()

	// Another key: names and numerals as theory says, and the bass goes along.
	p.press("Key: D dorian")
	p.until(`document.querySelector("[data-testid=key-preview]")`)
	p.scale("natural minor")
	p.until(`document.querySelector("[data-testid=key-preview]")?.textContent.includes("D natural minor")`)
	p.press("Change the key")
	p.until(`!document.querySelector("[role=dialog]")`)
	p.saved()
	assert.Equal(t, "Dm7- Gm7 C7 Am7", roots(p.chords(s, 0)))

	// Muted, the chords still lead the bass; the file holds what is heard.
	p.press("Mute " + name)
	p.saved()
	assert.Equal(t, []string{"0 38 3840", "3840 43 3840", "7680 36 3840", "11520 33 3840"}, notes(track(t, p.file(t), "Bass")))
	p.press("Mute " + name)
	p.saved()
	file := p.file(t)
	wantChords(t, file)
}

// roots takes the basses off symbols, which the voicing decides.
func roots(text string) string { return basses.ReplaceAllString(text, "") }

var basses = regexp.MustCompile(`/[A-G][#b]*`)

// track finds a track of a file by its name.
func track(t *testing.T, file *smf.File, name string) smf.Track {
	t.Helper()
	for _, track := range file.Tracks {
		if track.Name == name {
			return track
		}
	}
	require.Fail(t, "no track "+name)
	return smf.Track{}
}

// file renders through the panel, and leaves it.
func (p *tab) file(t *testing.T) *smf.File {
	t.Helper()
	p.press("Render")
	p.until(`document.querySelector("[data-testid=summary] table")`)
	out := p.download()
	p.key("Escape")
	p.until(`!document.querySelector("[role=dialog]")`)
	return out
}

// wantChords checks a file of Dm7 tied into Gm7, C7 strummed over a fifth of its bar,
// and Am7, a bar each, over their roots.
func wantChords(t *testing.T, file *smf.File) {
	t.Helper()
	var names []string
	for _, m := range file.Tracks[0].Markers {
		root, _, _ := strings.Cut(m.Text, "/")
		names = append(names, fmt.Sprintf("%d %s", m.At, root))
	}
	assert.Equal(t, []string{"0 Dm7", "3840 Gm7", "7680 C7", "11520 Am7"}, names)
	classes := map[int64]map[int]bool{}
	held, strummed := 0, []int64{}
	for _, n := range track(t, file, "Chords").Notes {
		for bar := range int64(4) {
			if n.At < (bar+1)*3840 && n.At+n.Length > bar*3840 {
				if classes[bar] == nil {
					classes[bar] = map[int]bool{}
				}
				classes[bar][n.Pitch%12] = true
			}
		}
		if n.At == 0 && n.Length == 7680 {
			held++
		}
		if n.At >= 7680 && n.At < 11520 {
			strummed = append(strummed, n.At-7680)
		}
	}
	assert.Equal(t, map[int64]map[int]bool{0: {2: true, 5: true, 9: true, 0: true}, 1: {7: true, 10: true, 2: true, 5: true}, 2: {0: true, 4: true, 7: true, 10: true}, 3: {9: true, 0: true, 4: true, 7: true}}, classes)
	assert.Equal(t, 2, held, "D and F are in both, and sound on")
	assert.Equal(t, []int64{0, 256, 512, 768}, strummed)
	assert.Equal(t, []string{"0 38 3840", "3840 43 3840", "7680 36 3840", "11520 33 3840"}, notes(track(t, file, "Bass")))
}

// counting counts keys and presses of the mouse on the page.
const counting = `(() => {
	window.keysPressed = window.pressed = 0;
	addEventListener("keydown", () => window.keysPressed++, true);
	addEventListener("pointerdown", () => window.pressed++, true);
})()`

// Four sevenths, voiced, held a bar each, over a bass: by keyboard alone.
func TestFourSeventhsInAFewKeys(t *testing.T) {
	s, p := begin(t)
	eval[any](p, counting)
	p.key("d")
	p.types("i7 IV7 VIImaj7 v7")
	p.key("Enter")
	p.until(`document.querySelector("[data-testid=step-name]")?.textContent === "Dm7 i7"`)
	p.key("v")
	p.key("x")
	p.until(inDialog)
	p.until(`document.activeElement?.textContent === "Make the bass"`)
	p.key("Enter")
	p.until(`!document.querySelector("[role=dialog]") && document.querySelector("[aria-label='Share of chord tones']")`)
	keys := eval[int](p, `window.keysPressed`)
	t.Logf("%d key presses", keys)
	assert.LessOrEqual(t, keys, 12)
	assert.Zero(t, eval[int](p, `window.pressed`))
	assert.Equal(t, "smooth", p.lane(s, 0).Content.(*piece.Chords).Voicing.Mode)
	assert.Equal(t, "Dm7 G7 Cmaj7 Am7", roots(p.chords(s, 0)))
	file := p.file(t)
	assert.Equal(t, "0 38", notes(track(t, file, "Bass"))[0][:4])
	assert.Len(t, track(t, file, "Chords").Notes, 16)
}

// The same with the mouse alone, from the board.
func TestFourSeventhsInAFewClicks(t *testing.T) {
	s, p := begin(t)
	eval[any](p, counting)
	p.press("Add chords")
	p.until(`document.querySelector("[aria-label='Chord board'] button")`)
	p.choose("Kind of chord on the board", "7")
	p.until(named("1 Dm7 i7"))
	for i, chord := range []string{"1 Dm7 i7", "4 G7 IV7", "7 Cmaj7 VIImaj7", "5 Am7 v7"} {
		p.press(chord)
		p.saved()
		p.until(fmt.Sprintf(`document.querySelector("[aria-label='Chord board']")?.textContent.includes("Step %d takes")`, min(i+2, 4)))
	}
	p.choose("Voices of "+p.lane(s, 0).Name, "smooth")
	p.press("Bass from the chords")
	p.until(inDialog)
	p.press("Make the bass")
	p.until(`!document.querySelector("[role=dialog]") && document.querySelector("[aria-label='Share of chord tones']")`)
	clicks := eval[int](p, `window.pressed`) + 2*2 // a chooser takes one to open and one to choose
	t.Logf("%d clicks", clicks)
	assert.LessOrEqual(t, clicks, 20)
	assert.Zero(t, eval[int](p, `window.keysPressed`))
	assert.Equal(t, "Dm7 G7 Cmaj7 Am7", roots(p.chords(s, 0)))
	assert.Len(t, p.lane(s, 1).Content.(*piece.Line).Steps, 32)
}

func TestChordsByKeyboard(t *testing.T) {
	s, p := begin(t)
	p.key("d")
	p.types("i7 Hm7 VIImaj7 v7")
	p.key("Enter")
	p.until(`document.querySelector("[role=alert]")?.textContent.includes("Hm7")`)
	p.until(`document.activeElement?.getAttribute("aria-label")?.startsWith("Chord line")`)
	p.key("a", ctrl)
	p.do(input.InsertText("i IV7 VIImaj7 v7"))
	p.key("Enter")
	p.until(`document.querySelector("[data-testid=step-name]")?.textContent === "Dm i"`)

	// Shapes: a third more and less, inversions, open and close, a degree by its digit.
	for _, row := range [][2]string{{"u", "Dm7"}, {"u", "Dm9"}, {"U", "Dm7"}, {"i", "Dm7/F"}, {"i", "Dm7/A"}, {"I", "Dm7/F"}, {"I", "Dm7"}, {"I", "Dm7/C"}, {"i", "Dm7"}, {"o", "Dm7"}} {
		p.keys(row[0])
		p.until(fmt.Sprintf(`document.querySelector("[data-testid=step-name]").textContent.startsWith(%q)`, row[1]+" "))
	}
	p.until(`document.querySelector("[data-testid=chord-tones]").textContent === "D3 A3 F4 C5"`)
	p.keys("o")
	p.until(`document.querySelector("[data-testid=chord-tones]").textContent === "D3 F3 A3 C4"`)
	p.keys("q") // triads give way to sevenths
	p.until(`document.querySelector("[aria-label='Kind of chord on the board']").value === "7"`)
	p.keys("Home", "ArrowRight", "ArrowRight", "ArrowRight", "3")
	assert.Equal(t, "Dm7 G7 Cmaj7 Fmaj7", p.chords(s, 0), "a digit places the chord on that degree")
	p.keys("5")
	assert.Equal(t, "Dm7 G7 Cmaj7 Am7", p.chords(s, 0))
	p.keys("Home", "l")
	assert.Equal(t, "Dm7- . Cmaj7 Am7", p.chords(s, 0), "longer, over the next")
	p.keys("L")
	assert.Equal(t, "Dm7 . Cmaj7 Am7", p.chords(s, 0))
	p.keys("ArrowRight", "4")
	p.until(`document.querySelector("[data-testid=step-name]").textContent.startsWith("Cmaj7")`)
	p.keys("Home", "t", "v")
	assert.Equal(t, "Dm7- G7 Cmaj7 Am7", roots(p.chords(s, 0)))
	p.until(`document.querySelector("[data-testid=movement]").textContent.includes("fewer than as written")`)
	p.until(`document.querySelector("[data-testid=step-speech]").textContent.endsWith("i7, 4 tones, tied")`)

	// Only here: the same chord at another step stays as it is.
	p.keys("ArrowRight", "ArrowRight", "ArrowRight", "1", "j", "u")
	assert.Equal(t, "Dm7- G7 Cmaj7 Dm9", roots(p.chords(s, 0)))
	p.keys("j", "5", "ArrowLeft")
	p.tabTo("Strum, in percent of the step")
	p.do(input.InsertText("20"))
	p.key("Enter")
	p.saved()
	p.tabTo("Way of the strum")
	p.tabTo("Sheet of*")
	p.key("x")
	p.until(`document.activeElement?.textContent === "Make the bass"`)
	p.tabTo("Rhythm")
	p.key("ArrowUp")
	p.tabTo("Follow the roots when the chords change")
	p.key(" ")
	p.tabTo("Make the bass")
	p.key("Enter")
	p.until(`!document.querySelector("[role=dialog]")`)
	p.saved()

	// A wrong note on the first beat of the second bar, taken away by its mend.
	p.keys("Home")
	for range 8 {
		p.key("ArrowRight")
	}
	p.keys("ArrowDown", "ArrowDown")
	p.until(`document.body.innerText.includes("stands a semitone from")`)
	p.tabTo("Move it to*")
	p.key("Enter")
	p.saved()
	p.until(`!document.body.innerText.includes("stands a semitone from")`)
	p.key("z", ctrl)
	p.key("z", ctrl)
	p.key("z", ctrl)
	p.saved()

	p.key("y")
	p.until(`document.querySelector("[data-testid=key-preview]")`)
	p.until(inDialog)
	p.tabTo("natural minor")
	p.until(`document.querySelector("[data-testid=key-preview]")?.textContent.includes("D natural minor")`)
	p.tabTo("Change the key")
	p.key("Enter")
	p.until(`!document.querySelector("[role=dialog]")`)
	p.saved()
	assert.Equal(t, "Dm7- Gm7 C7 Am7", roots(p.chords(s, 0)))
	p.keys("PageUp", "m")
	p.until(`document.querySelector("[aria-label^='Chord line']").value === "i7 iv7 VII7 v7"`)
	p.key("e")
	p.until(`document.querySelector("[data-testid=summary] table")`)
	assert.Equal(t, []string{"0 38 3840", "3840 43 3840", "7680 36 3840", "11520 33 3840"}, notes(track(t, p.download(), "Bass")), "muted chords lead the bass all the same")
	p.key("Escape")
	p.until(`!document.querySelector("[role=dialog]")`)
	p.keys("m")
	p.key("e")
	p.until(`document.querySelector("[data-testid=summary] table")`)
	wantChords(t, p.download())
}

func TestChordsOfAnotherClip(t *testing.T) {
	s := serve(t)
	require.NoError(t, server.EnsureDemo(s.store))
	p := s.open(t, "/piece/"+demo.ID+"/basin")
	p.until(`window.agrimony?.swell`)

	// A chord is taken from another clip's palette by the board.
	p.drag(0, p.nameAt("swell", 4))
	p.press("Chords from other palettes ▾")
	p.until(`document.querySelector("[aria-label='Chords of other palettes']")?.innerText.includes("Narrows: Lamps")`)
	p.press("F♯7I7")
	p.saved()
	assert.Equal(t, "F#m7 B7 Emaj7 F#7", roots(chordsIn(t, s.piece(t, demo.ID), "basin")))
	p.until(`document.querySelector("[data-testid=step-name]").textContent.startsWith("F♯7")`)
	p.choose("Chord of the palette", "3")
	assert.Equal(t, "F#m7 B7 Emaj7 Emaj7", roots(chordsIn(t, s.piece(t, demo.ID), "basin")))
	p.until(`document.body.innerText.includes("At steps 3, 4")`)
	p.press("Drop 2 unused")
	p.saved()
	clip, err := s.piece(t, demo.ID).Clip("basin")
	require.NoError(t, err)
	assert.Len(t, clip.Lanes[0].Content.(*piece.Chords).Palette, 3)

	// A clip without chords listens to another one's.
	p.press("Keel")
	p.until(`window.agrimony?.reed && !window.agrimony.swell`)
	p.choose("Where the chords come from", "clip narrows")
	p.until(`document.querySelector("[aria-label='Share of chord tones']")`)
	p.choose("Follow of Low", "root")
	p.choose("Lock of Low", "chord")
	clip, err = s.piece(t, demo.ID).Clip("keel")
	require.NoError(t, err)
	assert.Equal(t, "narrows", clip.Harmony.Clip)
	p.until(`document.querySelector("[aria-label='Share of chord tones'] td:nth-child(2)").textContent === "100 %"`)
	p.click("low", 1, 42)
	p.until(`document.querySelector("[data-testid=why]").textContent.includes("F♯")`)

	// The file has the names of the chords unless one wants none.
	p.press("Render")
	p.until(`document.querySelector("[data-testid=summary] table")`)
	require.NotEmpty(t, p.download().Tracks[0].Markers)
	p.press("Write their names in, as markers where they begin")
	p.until(`[...document.querySelectorAll("a")].find(a => a.textContent === "Download")?.href.includes("names=no")`)
	assert.Empty(t, p.download().Tracks[0].Markers)
}

// chordsIn writes the symbols of the first lane of a clip.
func chordsIn(t *testing.T, doc *piece.Piece, id string) string {
	t.Helper()
	clip, err := doc.Clip(id)
	require.NoError(t, err)
	var out []string
	for _, sound := range lane.Sounds(doc, clip, &clip.Lanes[0]) {
		out = append(out, sound.Name)
	}
	return strings.Join(out, " ")
}

// listening taps what goes to the loudspeakers: the loudest sample so far, and how many
// samples were beyond full scale.
const listening = `(() => {
	const heard = window.heard = {peak: 0, over: 0};
	const connect = AudioNode.prototype.connect;
	AudioNode.prototype.connect = function (to, ...rest) {
		if (to instanceof AudioDestinationNode) {
			const tap = this.context.createAnalyser(), data = new Float32Array(tap.fftSize = 32768);
			connect.call(this, tap);
			setInterval(() => {
				tap.getFloatTimeDomainData(data);
				for (const v of data) {
					heard.peak = Math.max(heard.peak, Math.abs(v));
					if (Math.abs(v) > 1) heard.over++;
				}
			}, 100);
		}
		return connect.call(this, to, ...rest);
	};
})()`

// Sixteen notes at once, as loud as they go, on both voices of many notes: they are
// heard, and nothing is cut off at full scale.
func TestSixteenNotesAtOnceAreHeardWhole(t *testing.T) {
	for _, voice := range []string{"keys", "pad"} {
		t.Run(voice, func(t *testing.T) {
			s := serve(t)
			var tones []string
			for i := range 16 {
				tones = append(tones, fmt.Sprintf(`{"degree":%d,"octave":%d}`, i%7+1, i/7))
			}
			doc, err := piece.Read([]byte(fmt.Sprintf(`{"format":"agrimony-piece","version":1,"tempo":200,"clips":[{"id":"a","name":"Wall","bars":1,"lanes":[{"id":"c","kind":"chords","rate":"1/2","sound":{"voice":%q,"level":100},
			"palette":[{"tones":[%s]}],"steps":[{"on":true,"velocity":127},{"on":true,"velocity":127}]}]}]}`, voice, strings.Join(tones, ","))))
			require.NoError(t, err)
			require.NoError(t, s.store.Create("wall", doc))
			p := s.open(t, "/piece/wall/a")
			p.until(`window.agrimony?.c`)
			eval[any](p, listening)
			p.press("Play")
			p.until(`Number(document.querySelector("[data-testid=clock]").dataset.scheduled) >= 64 && window.heard.peak > 0.05`)
			p.press("Stop")
			peak := eval[float64](p, `window.heard.peak`)
			t.Logf("%s: peak %.2f", voice, peak)
			assert.Zero(t, eval[int](p, `window.heard.over`), "%s reaches %f", voice, peak)
		})
	}
}
