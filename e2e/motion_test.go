package e2e

import (
	"fmt"
	"io"
	"net/http"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/piece"
	"agrimony/internal/core/smf"
)

// hand does what a person does, and counts it: a press or a drag is one gesture, a choice
// is opened and made, a field is gone to and filled.
type hand struct {
	*tab
	gestures int
}

func (h *hand) press(name string) {
	h.t.Helper()
	h.gestures++
	h.tab.press(name)
	h.saved()
}

func (h *hand) choose(name, value string) {
	h.t.Helper()
	h.gestures += 2
	h.tab.choose(name, value)
}

func (h *hand) fill(name, value string) {
	h.t.Helper()
	h.gestures += 2
	h.tab.fill(name, value)
	h.saved()
}

func pitchesOf(track smf.Track) (out []int) {
	for _, n := range track.Notes {
		out = append(out, n.Pitch)
	}
	return out
}

// A phrase over its own tones, leap and order moved, two speeds by luck with silence now and
// then, kept in a range, written out, thinned by chance, a loop of ten against the bar.
func TestPercussionFromAWalk(t *testing.T) {
	s, p := begin(t)
	h := &hand{tab: p}
	h.press("Add a phrase")
	h.choose("Tones of Phrase", "own")
	h.fill("Steps of Phrase", "16")
	h.press("Motion")
	h.choose("Add a modulator", "leap")
	h.choose("Shape of modulator 1", "steps")
	h.choose("Add a modulator", "order")
	h.choose("Period of modulator 2", "1bar")
	h.press("Two speeds, and silence")
	h.press("All pitches")
	h.fill("Range of Phrase: low", "48")
	h.fill("Range of Phrase: high", "72")
	phrase := p.lane(s, 0)
	assert.Equal(t, []string{"leap", "order"}, []string{phrase.Modulators[0].On, phrase.Modulators[1].On})
	assert.Len(t, phrase.Odds, 3)
	assert.Equal(t, &piece.Range{Low: 48, High: 72, Outside: "fold"}, phrase.Range)

	h.gestures++
	p.do(chromedp.Click(`//button[@role="tab"][.="Steps"]`, chromedp.BySearch))
	h.press("Write out as notes")
	p.until(`window.agrimony?.["phrase-notes"]`)
	lanes := s.piece(t, p.id()).Clips[0].Lanes
	at := slices.IndexFunc(lanes, func(l piece.Lane) bool { return l.ID == "phrase-notes" })
	require.GreaterOrEqual(t, at, 0)
	h.press("Phrase notes")
	h.press("Fill Phrase notes")
	h.fill("Chance of all hits", "60")
	h.press("Fill Phrase notes")
	h.fill("Window length of Phrase notes", "10")
	written := p.lane(s, at)
	assert.Equal(t, 10, written.Window.Count)
	for _, step := range line(written).Steps {
		if step.On {
			assert.Equal(t, 60, step.Chance)
		}
	}
	p.meets("5 bars")
	t.Logf("%d gestures", h.gestures)
	assert.LessOrEqual(t, h.gestures, 40)
	for _, own := range pitchesOf(track(t, p.file(t), "Phrase notes")) {
		assert.True(t, own >= 48 && own <= 72, "%d is in the range", own)
	}
}

// A long note chopped evenly, accents, turned, a chance, the gate moved by a slow wave, the
// pitch scattered round the root in a mode; held, and its good bars kept.
func TestOneNoteMadeAlive(t *testing.T) {
	s, p := begin(t)
	h := &hand{tab: p}
	h.press("Fill Low")
	h.fill("Hits", "11")
	h.fill("Accents", "3")
	h.fill("Chance of weak hits", "80")
	h.press("Fill Low")
	h.press("Rotate a step later")
	h.press("Motion")
	h.choose("Add a modulator", "gate")
	h.choose("Period of modulator 1", "4bar")
	h.press("Scattered degrees")
	h.choose("Where the clip ends", "bars")
	h.fill("Bars of the clip", "8")
	low := p.lane(s, 0)
	require.Len(t, low.Odds, 3)
	before := pitchesOf(track(t, p.file(t), "Low"))
	assert.Greater(t, len(slices.Compact(slices.Sorted(slices.Values(before)))), 2, "scattered")

	h.press("Another draw")
	assert.NotEqual(t, before, pitchesOf(track(t, p.file(t), "Low")), "another draw is another draw")
	h.choose("Draw of Low", "0")
	assert.Equal(t, before, pitchesOf(track(t, p.file(t), "Low")), "and there is a way back")
	h.fill("Rounds to hold", "2 5")
	h.press("Hold these")
	held := p.lane(s, 0)
	assert.Empty(t, held.Odds)
	assert.Len(t, line(held).Steps, 32, "two bars of it")
	t.Logf("%d gestures", h.gestures)
	assert.LessOrEqual(t, h.gestures, 40)
	kept := pitchesOf(track(t, p.file(t), "Low"))
	for _, own := range kept {
		assert.Contains(t, []int{0, 2, 3, 5, 7, 9, 10}, (own-38+120)%12, "%d is in D dorian", own)
	}
	p.takenBack(t, s)
}

// takenBack takes the last edit back and makes it again.
func (p *tab) takenBack(t *testing.T, s *site) {
	p.press("Undo")
	p.saved()
	assert.NotEmpty(t, p.lane(s, 0).Odds, "holding can be undone")
}

func TestControlLanesAreDrawnHeardAndRendered(t *testing.T) {
	s, p := begin(t)
	for step := 1; step <= 16; step += 4 {
		p.click("low", step, 38)
	}
	p.press("Add a control")
	p.until(`window.agrimony?.control`)
	p.saved()
	// Drawn across the first four steps, from low to high.
	band := `document.querySelector("canvas[data-lane=control]").getBoundingClientRect()`
	top, foot := eval[float64](p, band+`.top`)+10, eval[float64](p, band+`.top`)+100
	one, four := p.at("control", 1, 0), p.at("control", 4, 0)
	p.drag(0, point{X: one.X, Y: foot}, point{X: four.X, Y: top})
	control := p.lane(s, 1).Content.(*piece.ControlLane)
	assert.True(t, control.Steps[0].On && control.Steps[1].On && control.Steps[3].On)
	assert.Less(t, control.Steps[0].Value, control.Steps[1].Value)
	assert.Less(t, control.Steps[1].Value, control.Steps[3].Value)

	// By keyboard: the value of a step, exactly; then how it goes on.
	p.key("Escape")
	p.press("Control")
	p.key("Home")
	p.keys("ArrowUp", "ArrowUp")
	again := p.lane(s, 1).Content.(*piece.ControlLane)
	assert.Equal(t, control.Steps[0].Value+2, again.Steps[0].Value)
	p.fill("Value", "17")
	p.saved()
	p.choose("How it goes to the next value", "line")
	p.accessible("a control lane")
	file := p.file(t)
	var sent []string
	for _, c := range track(t, file, "Control").Controls {
		assert.Equal(t, 74, c.Controller)
		assert.Equal(t, 1, c.Channel, "the channel of the lane that it acts on")
		sent = append(sent, fmt.Sprint(c.At, "=", c.Value))
	}
	assert.Equal(t, "0=17", sent[0])
	assert.Greater(t, len(sent), 6)

	// Following a lane's pitch instead; the finding says what is reached, and mends it.
	p.press("Low")
	p.click("low", 9, 45)
	p.press("Control")
	p.choose("Lane whose pitch Control follows", "low")
	p.until(`document.querySelector("[data-testid=reached]")`)
	p.fill("Low and high pitch of Control: low", "0")
	p.fill("Low and high pitch of Control: high", "127")
	p.saved()
	p.press("Set low and high to its notes")
	p.saved()
	p.until(`document.querySelector("[data-testid=reached]").textContent === "0..127"`)
	assert.Equal(t, []int{0, 127, 0}, valuesOf(track(t, p.file(t), "Control")))

	p.press("Low")
	p.press("Sound of Low")
	p.until(`document.querySelector("[data-testid=drivers]")?.textContent.includes("Control: cutoff (74)")`)
	p.press("Play")
	p.until(`Number(document.querySelector("[data-testid=clock]").dataset.driven) >= 3`)
	p.press("Stop")

	// A modulator of its values keeps to what a controller may be.
	p.press("Control")
	p.press("Motion")
	p.choose("Add a modulator", "value")
	p.saved()
	m := p.lane(s, 1).Modulators[0]
	assert.True(t, m.From >= 0 && m.To <= 127, "%d..%d", m.From, m.To)
}

func valuesOf(track smf.Track) (out []int) {
	for _, c := range track.Controls {
		out = append(out, c.Value)
	}
	return out
}

func TestALayerFollowsItsOriginal(t *testing.T) {
	s, p := begin(t)
	p.click("low", 1, 38)
	p.click("low", 5, 45)
	p.press("Add a layer")
	p.until(`window.agrimony?.["low-below"]`)
	p.saved()
	assert.Equal(t, []int{26, 33}, pitchesOf(track(t, p.file(t), "Low below")), "an octave below")
	p.fill("Degrees of Low below", "2")
	p.fill("Octave of Low below", "0")
	p.saved()
	assert.Equal(t, []int{41, 48}, pitchesOf(track(t, p.file(t), "Low below")), "a third above, in D dorian")
	p.accessible("a layer")
	p.press("Go to Low")
	p.click("low", 9, 40)
	assert.Equal(t, []int{41, 48, 43}, pitchesOf(track(t, p.file(t), "Low below")), "the layer follows")
	p.press("Low below")
	p.choose("Notes that Low below keeps", "nth")
	assert.Equal(t, []int{41, 43, 48}, pitchesOf(track(t, p.file(t), "Low below")), "every second, over the two bars after which that comes round")
	assert.Equal(t, "nth", map[bool]string{true: "nth"}[p.lane(s, 1).Content.(*piece.Layer).Keep.Name == ""])
}

func TestModulatorsAreDrawnAndWritten(t *testing.T) {
	s, p := begin(t)
	p.press("Fill Low")
	p.fill("Every so many steps", "1")
	p.press("Set every")
	p.press("Fill Low")
	p.saved()
	p.press("Motion")
	p.choose("Add a modulator", "velocity")
	p.choose("Shape of modulator 1", "rise")
	p.choose("Period of modulator 1", "1bar")
	m := p.lane(s, 0).Modulators[0]
	// The upper end is dragged to the top of its field, the wave across by a quarter.
	wave := `document.querySelector("[aria-label='Modulator 1, on velocity'] svg").getBoundingClientRect()`
	box := eval[map[string]float64](p, `(b => ({x: b.left, y: b.top, w: b.width, h: b.height}))(`+wave+`)`)
	spot := func(x, y float64) point { return point{X: box["x"] + x*box["w"], Y: box["y"] + y*box["h"]} }
	upper := 1 - float64(m.To-1)/126
	p.drag(0, spot(0.5, upper), spot(0.5, 0))
	assert.Equal(t, 127, p.lane(s, 0).Modulators[0].To)
	p.drag(0, spot(0.6, 0.9), spot(0.35, 0.9))
	assert.InDelta(t, 25, p.lane(s, 0).Modulators[0].Phase, 2)
	p.fill("Phase of modulator 1", "0")
	p.fill("From of modulator 1", "7")
	p.saved()
	before := track(t, p.file(t), "Low").Notes
	assert.Equal(t, []int{7, 15, 22}, []int{before[0].Velocity, before[1].Velocity, before[2].Velocity}, "7, 14.5 and 22, half up")
	p.accessible("modulators")
	p.press("Write it into the steps")
	p.saved()
	lane := p.lane(s, 0)
	assert.Empty(t, lane.Modulators)
	assert.Equal(t, 15, line(lane).Steps[1].Velocity)
	assert.Equal(t, before, track(t, p.file(t), "Low").Notes, "and it sounds the same")

	// What moves a field without a rail gives it one, on which the steps' own are drawn.
	least := `Number(document.querySelector("[aria-label='Height of Low']").getAttribute("aria-valuemin"))`
	was := eval[int](p, least)
	p.choose("Add a modulator", "ratchet")
	p.choose("Way of modulator 1", "add")
	p.until(least + ` > ` + fmt.Sprint(was))
	p.saved()
	foot := eval[float64](p, `document.querySelector("canvas[data-lane=low]").getBoundingClientRect().bottom`)
	p.drag(0, point{X: p.at("low", 3, 38).X, Y: foot - 28})
	assert.Equal(t, 8, line(p.lane(s, 0)).Steps[2].Ratchet)
	p.press("Remove modulator 1")
	p.until(least + ` === ` + fmt.Sprint(was))

	p.press("All pitches")
	p.fill("Range of Low: high", "37")
	p.until(`document.body.innerText.includes("is not an octave above")`)
	assert.NotEqual(t, 37, p.lane(s, 0).Range.High, "what is refused changes nothing")
}

func TestAGrooveIsChosenTakenAndPrinted(t *testing.T) {
	s, p := begin(t)
	p.press("Fill Low")
	p.fill("Every so many steps", "1")
	p.press("Set every")
	p.press("Fill Low")
	p.saved()
	straight := track(t, p.file(t), "Low").Notes
	p.do(chromedp.Click(`//button[starts-with(normalize-space(.), "Groove")]`, chromedp.BySearch))
	p.press("Rolling")
	p.fill("Groove timing in percent", "50")
	p.key("Escape")
	p.saved()
	rolling := track(t, p.file(t), "Low").Notes
	assert.Equal(t, straight[1].At+26, rolling[1].At, "22 % of a sixteenth late, half of it")
	assert.Equal(t, straight[1].Velocity-18, rolling[1].Velocity)
	p.press("Motion")
	p.press("Print the groove")
	p.saved()
	lane := p.lane(s, 0)
	assert.Equal(t, piece.Share{}, lane.Share)
	assert.Equal(t, 11, line(lane).Steps[1].Nudge)
	printed := track(t, p.file(t), "Low").Notes
	for i := range printed {
		assert.InDelta(t, rolling[i].At, printed[i].At, 2.4)
		assert.Equal(t, rolling[i].Velocity, printed[i].Velocity)
	}
	p.press("Take its groove")
	p.saved()
	own := s.piece(t, p.id()).Groove.Template
	assert.Equal(t, "As Low", own.Name)
	assert.Equal(t, 11, own.Steps[1].At)

	// The groove of a file of another hand; a broken one says so and changes nothing.
	broken, played := filepath.Join(t.TempDir(), "broken.mid"), filepath.Join(t.TempDir(), "Old hands.mid")
	require.NoError(t, os.WriteFile(broken, []byte("MThd"), 0o644))
	response, err := http.Get(s.url + "/api/pieces/" + p.id() + "/clips/" + s.piece(t, p.id()).Clips[0].ID + "/midi?ppq=960&type=1")
	require.NoError(t, err)
	defer response.Body.Close()
	file, err := io.ReadAll(response.Body)
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(played, file, 0o644))
	p.do(chromedp.Click(`//button[starts-with(normalize-space(.), "Groove")]`, chromedp.BySearch))
	p.press("none")
	p.fill("Swing", "60")
	p.saved()
	take := `[aria-label="Take a groove from a MIDI file"]`
	p.do(chromedp.SetUploadFiles(take, []string{broken}))
	p.until(`document.querySelector("[role=alert]")?.textContent.startsWith("broken.mid: ")`)
	p.accessible("the groove")
	assert.Nil(t, s.piece(t, p.id()).Groove.Template)
	p.do(chromedp.SetUploadFiles(take, []string{played}))
	p.until(`document.querySelector("[aria-label='Groove template'] [aria-pressed=true]").textContent === "Old hands"`)
	p.saved()
	groove := s.piece(t, p.id()).Groove
	assert.Equal(t, 50, groove.Swing, "the file's own swing is in it")
	assert.Equal(t, own.Steps, groove.Template.Steps)
}

func TestLanesBeginFromStarters(t *testing.T) {
	s, p := begin(t)
	p.press("From a starter")
	p.until(`document.querySelector("[aria-label='Try Steady oars']")`)
	p.accessible("starters")
	p.press("Try Steady oars")
	p.until(`document.querySelector("[aria-label=Stop]")`)
	p.until(`document.querySelector("canvas[data-lane=steady-oars]") && Number(document.querySelector("[data-testid=clock]").dataset.scheduled) >= 4`)
	assert.Len(t, s.piece(t, p.id()).Clips[0].Lanes, 1, "nothing is taken yet")
	p.press("Add Steady oars")
	p.until(`window.agrimony?.["steady-oars"]`)
	p.saved()
	p.press("Stop")
	lane := p.lane(s, 0)
	assert.Equal(t, []string{"Steady oars", "Steady oars"}, []string{lane.Name, lane.Starter})
	p.press("Motion")
	says := func(text string) {
		p.until(fmt.Sprintf(`document.querySelector("[data-testid=starter]")?.textContent === %q`, text))
	}
	says("As “Steady oars”.")
	p.click("steady-oars", 2, 43)
	says("Differs from “Steady oars”.")
	p.press("Save as …")
	p.until(`document.querySelector("[aria-label='Name of the new starter']")`)
	p.fill("Name of the new starter", "My oars")
	says("As “My oars”.")
	p.click("steady-oars", 3, 45)
	says("Differs from “My oars”.")
	p.press("Put back")
	says("As “My oars”.")
	own := line(p.lane(s, 0)).Steps
	assert.Equal(t, []int{4, 1}, []int{own[1].Degree, own[2].Degree}, "as it was saved")

	// One's own stand with the others, and only they can be deleted.
	p.press("From a starter")
	p.until(`document.querySelector("[aria-label='Delete My oars']")`)
	assert.False(t, eval[bool](p, `!!document.querySelector("[aria-label='Delete Steady oars']")`))
	p.press("Delete My oars")
	p.until(`!document.querySelector("[aria-label='Add My oars']")`)
	p.press("Bring back My oars")
	p.until(`document.querySelector("[aria-label='Add My oars']")`)
	p.press("Delete My oars")
	p.until(`!document.querySelector("[aria-label='Add My oars']")`)
	p.key("Escape")
	says("Begun from “My oars”, which is not here.")
}

func TestALaneGoesToAnotherPiece(t *testing.T) {
	s, p := begin(t)
	p.click("low", 1, 38)
	p.click("low", 3, 45)
	p.press("Add a layer")
	p.until(`window.agrimony?.["low-below"]`)
	p.saved()
	copyIt := func(name string) {
		p.press("More for " + name)
		p.press("Copy it, for another clip or piece")
		p.until(fmt.Sprintf(`[...document.querySelectorAll("button")].some(b => b.textContent === "Paste %s")`, name))
	}
	copyIt("Low below")
	first := p.id()
	p.do(chromedp.Navigate(s.url + "/"))
	p.press("New piece")
	p.press("Begin")
	p.until(`window.agrimony?.low && !document.querySelector("[role=dialog]")`)
	require.NotEqual(t, first, p.id())

	// A lane "low" is here too: the layer takes that.
	p.click("low", 5, 40)
	p.press("Paste Low below")
	p.until(`window.agrimony?.["low-below"]`)
	p.saved()
	assert.Equal(t, []int{28}, pitchesOf(track(t, p.file(t), "Low below")))

	// Where it is not, that is said, and another asked for.
	p.press("New clip")
	p.fill("Name of the new clip", "Other")
	p.until(`document.querySelectorAll("nav [role=tab]").length === 2 && window.agrimony?.low`)
	p.saved()
	p.press("Add pulses ▾")
	const drums = `[...document.querySelectorAll("button")].find(b => /^Add \d+ drums/.test(b.textContent))`
	p.until(drums)
	eval[any](p, drums+`.click()`)
	p.saved()
	for _, own := range s.piece(t, p.id()).Clips[1].Lanes {
		if own.ID == "low" {
			p.press("More for " + own.Name)
			p.press("Remove the lane")
			p.saved()
		}
	}
	p.press("Paste Low below")
	p.until(`document.querySelector("[role=dialog]")?.textContent.includes("plays the notes of “low”")`)
	p.accessible("pasting a lane")
	before := len(s.piece(t, p.id()).Clips[1].Lanes)
	p.press("Paste it")
	p.until(`!document.querySelector("[role=dialog]")`)
	p.saved()
	lanes := s.piece(t, p.id()).Clips[1].Lanes
	require.Len(t, lanes, before+1)
	layer := lanes[before].Content.(*piece.Layer)
	assert.Equal(t, lanes[0].ID, layer.Of)
}

// run goes to a control by keyboard and sets it off.
func (p *tab) run(name string) {
	p.t.Helper()
	p.tabTo(name)
	p.key("Enter")
	p.saved()
}

func TestWhatMovesALaneByKeyboardAlone(t *testing.T) {
	s, p := begin(t)
	p.key("Home")
	p.keys("Enter")
	require.True(t, line(p.lane(s, 0)).Steps[0].On)
	p.run("Motion")
	p.run("Scattered octaves")
	assert.Len(t, p.lane(s, 0).Odds, 3)
	p.run("Another draw")
	assert.Equal(t, 1, p.lane(s, 0).Take)
	p.key("z", ctrl)
	p.saved()
	assert.Equal(t, 0, p.lane(s, 0).Take, "it can be undone")
	p.run("All pitches")
	assert.NotNil(t, p.lane(s, 0).Range)
	p.run("Hold this")
	assert.Empty(t, p.lane(s, 0).Odds)
	assert.True(t, line(p.lane(s, 0)).Steps[0].On, "Enter on a button turns no note off")

	p.run("Add a control")
	p.until(`window.agrimony?.control`)
	p.run("Add a layer")
	p.until(`window.agrimony?.["low-below"]`)
	p.run("From a starter") // which opens on the kind of the lane that one is in
	p.run("Line")
	p.run("Add Slow tide")
	p.until(`window.agrimony?.["slow-tide"]`)
	lanes := s.piece(t, p.id()).Clips[0].Lanes
	assert.Equal(t, []string{"control", "layer", "line"}, []string{lanes[1].Kind, lanes[2].Kind, lanes[3].Kind})
}

func TestModulatorsGrooveAndCopiesByKeyboardAlone(t *testing.T) {
	s, p := begin(t)
	p.key("Home")
	p.keys("Enter")
	p.run("Motion")
	p.tabTo("Add a modulator")
	p.key("ArrowDown")
	p.until(`document.querySelector("[aria-label='Modulator 1, on velocity']")`)
	p.tabTo("Period of modulator 1")
	p.key("ArrowUp")
	p.tabTo("From of modulator 1")
	p.keys("2", "0", "Enter")
	m := p.lane(s, 0).Modulators[0]
	assert.Equal(t, []any{"velocity", "1bar", 20}, []any{m.On, m.Every, m.From})
	assert.Equal(t, (20+m.To+1)/2, track(t, p.file(t), "Low").Notes[0].Velocity, "a sine begins midway")
	p.run("Write it into the steps")
	assert.Empty(t, p.lane(s, 0).Modulators)

	p.run("Groove*")
	p.tabTo("none")
	p.key("ArrowDown")
	p.until(`document.querySelector("[aria-label='Groove template'] [data-heard=true]") === document.activeElement`)
	assert.Nil(t, s.piece(t, p.id()).Groove.Template, "what is pointed at is tried, and not kept")
	p.key("Enter")
	p.saved()
	p.key("Escape")
	require.NotNil(t, s.piece(t, p.id()).Groove.Template)
	p.run("Print the groove")
	assert.Equal(t, piece.Share{}, p.lane(s, 0).Share)
	p.run("Take its groove")
	assert.Equal(t, "As Low", s.piece(t, p.id()).Groove.Template.Name)

	p.run("More for Low")
	p.until(`document.querySelector("[role=menu]")?.contains(document.activeElement)`)
	const there = `document.activeElement.textContent === "Copy it, for another clip or piece"`
	for range 20 { // a menu is gone through by arrows
		if eval[bool](p, there) {
			break
		}
		p.key("ArrowDown")
	}
	require.True(t, eval[bool](p, there))
	p.key("Enter")
	p.until(named("Paste Low"))
	p.run("Paste Low")
	p.until(`Object.keys(window.agrimony).length === 2`)
	lanes := s.piece(t, p.id()).Clips[0].Lanes
	assert.Equal(t, line(lanes[0]).Steps, line(lanes[1]).Steps)
}

// The end to which a note is dragged is the end that is in the file, whatever moves notes.
func TestANotesEndStaysWhereItIsDraggedUnderAGroove(t *testing.T) {
	s, p := begin(t)
	p.do(chromedp.Click(`//button[starts-with(normalize-space(.), "Groove")]`, chromedp.BySearch))
	p.fill("Swing", "66")
	p.press("Rolling")
	p.key("Escape")
	p.click("low", 6, 43)
	p.fill("Nudge %", "12")
	p.saved()
	end := func() int64 {
		notes := track(t, p.file(t), "Low").Notes
		require.Len(t, notes, 1)
		return notes[0].At + notes[0].Length
	}
	for _, by := range []int64{50, -90, 30} { // ticks
		before := end()
		slot := p.at("low", 5, 43) // of the pair's first, which begins on the beat
		perTick := (p.at("low", 13, 43).X - slot.X) / (8 * 240)
		from := p.at("low", 6, 43)
		from.X = slot.X - slot.Step/2 + float64(before-960)*perTick - 1
		to := from
		to.X += float64(by)*perTick + 1
		p.drag(0, from, to)
		assert.InDelta(t, before+by, end(), 1/perTick+1, "dragged by %d", by)
	}
	assert.Equal(t, 1, strings.Count(degrees(p.lane(s, 0)), "4"), "it is still one note")
}
