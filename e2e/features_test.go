package e2e

import (
	"encoding/json"
	"fmt"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/edit"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/demo"
	"agrimony/internal/server"
)

// begin opens a new piece in D dorian with one empty lane.
func begin(t *testing.T) (*site, *tab) {
	s := serve(t)
	fresh, err := edit.Apply(piece.Default(), []op.Op{
		op.Of(op.SetPiece{Patch: []byte(`{"key":{"tonic":"D","scale":"dorian"},"tempo":104}`)}), op.Of(op.AddClip{Name: "First clip"})})
	require.NoError(t, err)
	require.NoError(t, s.store.Create("untitled", fresh))
	p := s.open(t, "/piece/untitled")
	p.rest()
	return s, p
}

// lane gives a lane of the open piece's first clip as it is stored.
func (p *tab) lane(s *site, index int) piece.Lane {
	p.t.Helper()
	p.saved()
	lanes := s.piece(p.t, p.id()).Clips[0].Lanes
	require.Greater(p.t, len(lanes), index, "lanes of the first clip")
	return lanes[index]
}

// line gives a line lane's content.
func line(lane piece.Lane) *piece.Line { return lane.Content.(*piece.Line) }

// degrees writes a lane's steps, a dot for a rest.
func degrees(lane piece.Lane) string {
	var out strings.Builder
	for _, s := range line(lane).Steps {
		if s.On {
			fmt.Fprint(&out, s.Degree)
		} else {
			out.WriteByte('.')
		}
	}
	return out.String()
}

// choose picks from a native select, as its change event.
func (p *tab) choose(name, value string) {
	p.t.Helper()
	p.until(named(name))
	text, err := json.Marshal(value)
	require.NoError(p.t, err)
	eval[any](p, fmt.Sprintf(`(() => { const e = (x => x.control ?? x)(%s); Object.getOwnPropertyDescriptor(HTMLSelectElement.prototype, "value").set.call(e, %s); e.dispatchEvent(new Event("change", {bubbles: true})); })()`, named(name), text))
	p.saved()
}

func TestTheLaneHeaderSetsTheLane(t *testing.T) {
	s, p := begin(t)
	p.click("low", 1, 38)
	p.fill("Steps of Low", "12")
	p.choose("Rate of Low", "1/8T")
	p.choose("Direction of Low", "pendulum")
	p.choose("Snap of Low", "up")
	p.fill("Window start of Low", "2")
	p.fill("Window length of Low", "5")
	p.fill("Octave of Low", "3")
	p.fill("Channel of Low, 0 for automatic", "7")
	lane := p.lane(s, 0)
	assert.Equal(t, []any{12, "1/8T", "pendulum", "up", 3, 7}, []any{len(line(lane).Steps), lane.Rate, lane.Direction, line(lane).Snap, line(lane).Octave, lane.Channel})
	assert.Equal(t, &piece.Window{Start: 2, Count: 5}, lane.Window)
	p.until(`document.body.innerText.includes("8 × 1/8T · ch 7")`) // a pendulum over five steps has eight slots
	p.until(`document.body.innerText.includes("Low is silent: its notes lie outside its window or on skipped steps.")`)
	p.press("Open the window")
	assert.Nil(t, p.lane(s, 0).Window)
}

func TestChromaticRowsOpenOnlyWithoutTheLock(t *testing.T) {
	s, p := begin(t)
	p.click("low", 1, 38)
	p.choose("Lock of Low", "off")
	p.click("low", 3, 39) // E flat is not in D dorian
	lane := p.lane(s, 0)
	assert.True(t, line(lane).Steps[2].On)
	assert.NotZero(t, line(lane).Steps[2].Alter)
	p.until(`document.querySelector("[data-testid=step-name]").textContent === "E♭2"`)
	p.choose("Lock of Low", "scale")
	p.until(`document.querySelector("[data-testid=step-name]").textContent === "D2"`)
	p.until(`document.querySelector("[data-testid=why]").textContent.includes("lock moved E♭2 to D2")`)
	assert.NotZero(t, line(p.lane(s, 0)).Steps[2].Alter, "the lock changes nothing that was entered")
}

func TestToolsForManySteps(t *testing.T) {
	s, p := begin(t)
	for i, midi := range []int{38, 41, 45} {
		p.click("low", i+1, midi)
	}
	require.Equal(t, "135.............", degrees(p.lane(s, 0)))
	// Shift and a frame select the first three steps.
	p.drag(shift, p.at("low", 1, 48), p.at("low", 3, 48))
	p.until(`document.body.innerText.includes("3 steps")`)
	p.press("A degree up")
	assert.Equal(t, "246.............", degrees(p.lane(s, 0)))
	p.press("A degree down")
	p.press("Reverse")
	assert.Equal(t, "531.............", degrees(p.lane(s, 0)))
	p.press("Rotate a step later")
	assert.Equal(t, "153.............", degrees(p.lane(s, 0)))
	p.press("Repeat")
	assert.Equal(t, "153153..........", degrees(p.lane(s, 0)))
	p.press("Copy")
	p.drag(shift, p.at("low", 9, 48), p.at("low", 10, 48))
	p.press("Paste")
	assert.Equal(t, "153153..153.....", degrees(p.lane(s, 0)))
	p.press("An octave up")
	assert.Equal(t, 1, line(p.lane(s, 0)).Steps[8].Octave)

	// Numbers of many steps at once; where they differ the field says so.
	p.key("Escape")
	p.drag(shift, p.at("low", 1, 48), p.at("low", 2, 48))
	p.until(`document.querySelector("#f-degree").placeholder === "mixed"`)
	p.fill("Velocity", "64")
	p.fill("Ratchet", "3")
	lane := p.lane(s, 0)
	assert.Equal(t, []int{64, 64, 100}, []int{line(lane).Steps[0].Velocity, line(lane).Steps[1].Velocity, line(lane).Steps[2].Velocity})
	assert.Equal(t, 3, line(lane).Steps[1].Ratchet)

	p.press("More for Low")
	p.press("Double the length with its content")
	doubled := degrees(p.lane(s, 0))
	assert.Equal(t, doubled[:16], doubled[16:])
	assert.Len(t, doubled, 32)
	for range 3 {
		p.press("Undo")
		p.saved()
	}
	assert.Equal(t, 100, line(p.lane(s, 0)).Steps[0].Velocity)
	p.press("Redo")
	assert.Equal(t, 64, line(p.lane(s, 0)).Steps[0].Velocity)
}

func TestRoundsBendsAndGlidesInTheMargin(t *testing.T) {
	s, p := begin(t)
	p.click("low", 1, 38)
	p.fill("Of so many rounds", "4")
	p.saved()
	p.fill("Plays in rounds", "2 4")
	assert.Equal(t, &piece.Rounds{Of: 4, On: []int{2, 4}}, line(p.lane(s, 0)).Steps[0].Rounds)
	p.until(`document.querySelector('[aria-label="When lanes meet"]').textContent.includes("after 4 bars")`)
	p.press("Add a point (at %, semitones, curve)")
	p.saved()
	p.fill("Bend point 1 by semitones", "-2")
	assert.Equal(t, []piece.Point{{At: 0, By: -2}}, line(p.lane(s, 0)).Steps[0].Bend)
	p.press("Glide")
	p.saved()
	p.fill("Glide from, in semitones", "-5")
	p.saved()
	p.fill("Glide curve", "30")
	p.saved()
	from := -5
	assert.Equal(t, &piece.Glide{Time: 50, Curve: 30, From: &from}, line(p.lane(s, 0)).Steps[0].Glide)
	p.fill("Bend range in semitones", "3")
	p.until(`document.body.innerText.includes("Step 1 of Low moves the wheel by 7 semitones, but its range is 3; it was held at 3.")`)
	p.press("Set the range to 7 semitones") // the glide and the bend add up
	assert.Equal(t, 7, line(p.lane(s, 0)).Glide.Range)
	p.press("from the last note")
	p.saved()
	assert.Nil(t, line(p.lane(s, 0)).Steps[0].Glide.From)
}

func TestClipsAreMadeCopiedAndHaveKeysOfTheirOwn(t *testing.T) {
	s, p := begin(t)
	p.click("low", 1, 38)
	p.press("New clip")
	p.press("B")
	p.scale("minor pentatonic")
	p.until(`document.querySelector("[data-testid=key-notes]").textContent === "BDEF♯A"`)
	p.fill("Name of the new clip", "Footbridge")
	p.until(`document.querySelector('[aria-label="Key: B minor pentatonic"]')`)
	p.until(`document.querySelectorAll("nav [role=tab]").length === 2`)
	p.choose("Where the clip ends", "bars")
	p.fill("Bars of the clip", "3")
	p.saved()
	stored := s.piece(t, p.id())
	require.Len(t, stored.Clips, 2)
	assert.Equal(t, []any{"Footbridge", 3, "minor pentatonic"}, []any{stored.Clips[1].Name, stored.Clips[1].Bars, stored.Clips[1].Key.Scale.Name})

	p.press("More ▸")
	p.press("Duplicate the clip")
	p.until(named("Footbridge 2"))
	p.press("First clip")
	p.until(`document.querySelector('[aria-label="Key: D dorian"]')`)
	p.press("More ▸")
	p.press("Remove the clip")
	p.until("!" + named("First clip"))
	p.press("Undo")
	p.until(named("First clip"))
	assert.True(t, line(s.piece(t, p.id()).Clips[0].Lanes[0]).Steps[0].On)
}

func TestACustomScale(t *testing.T) {
	s := serve(t)
	p := s.open(t, "/")
	p.press("New piece")
	p.until(inDialog)
	p.fill("Or a scale of your own, as degrees", "1 2 b3 #4 5")
	p.until(`document.querySelector("[data-testid=key-notes]").textContent === "DEFG♯A"`)
	p.fill("Or a scale of your own, as degrees", "1 5 3")
	p.until(`document.querySelector("[data-testid=key-notes]").textContent.includes("is not a scale")`)
	p.fill("Or a scale of your own, as degrees", "1 2 b3 #4 5")
	p.until(`document.querySelector("[data-testid=key-notes]").textContent === "DEFG♯A"`)
	p.press("Begin")
	p.rest()
	p.click("low", 1, 44) // the raised fourth has a row of its own
	p.until(`document.querySelector("[data-testid=step-name]").textContent === "G♯2"`)
	assert.Equal(t, []string{"1", "2", "b3", "#4", "5"}, s.piece(t, p.id()).Key.Scale.Degrees)
}

func TestTheSoundAndTheBeatAreSaved(t *testing.T) {
	s, p := begin(t)
	p.press("Sound of Low")
	p.choose("Voice", "pluck")
	p.choose("Wave", "pulse")
	p.fill("Cutoff in percent", "80")
	p.saved()
	lane := p.lane(s, 0)
	assert.Equal(t, []any{"pluck", "pulse", 80, 0}, []any{lane.Sound.Voice, lane.Sound.Wave, lane.Sound.Cutoff, lane.Sound.Sustain}, "a voice comes with its envelope")
	p.fill("Decay as a number", "100")
	p.until(`document.querySelector("output[for=s-decay]").textContent === "2000 ms"`)
	p.fill("Width in percent", "20")
	p.fill("Pan as a number", "-40")
	p.choose("Echo rate", "1/4")
	p.fill("Reverb in percent", "30")
	p.saved()
	lane = p.lane(s, 0)
	assert.Equal(t, []any{100, 20, -40, "1/4", 30}, []any{lane.Sound.Decay, lane.Sound.Width, lane.Sound.Pan, lane.Sound.DelayRate, lane.Sound.Reverb})
	p.press("No beat ▾")
	p.choose("Backing beat", "broken")
	p.fill("Beat level", "35")
	p.saved()
	assert.Equal(t, piece.Backing{Pattern: "broken", Level: 35}, s.piece(t, p.id()).Beat)
	p.press("Play")
	p.until(`Number(document.querySelector("[data-testid=playhead]").dataset.tick) > 200`) // with nothing but the beat
	p.until(`document.querySelector("[aria-label='Level of everything']").dataset.share > 0`)
	p.press("Stop")
	p.until(`document.querySelector("[aria-label='Level of everything']").dataset.share === "0.00"`)
}

// How loud everything is belongs to the machine: it is remembered there, and what is heard and shown obeys. A click
// counts the beats, the first one higher.
func TestTheLoudnessIsTheMachines(t *testing.T) {
	s, p := begin(t)
	p.click("low", 0, 42)
	p.press("No beat ▾")
	p.choose("Backing beat", "click")
	p.fill("Loudness on this machine in percent", "30")
	p.saved()
	assert.Equal(t, "click", s.piece(t, p.id()).Beat.Pattern)
	p.press("Click ▾")
	p.press("Play")
	p.until(`document.querySelector("[aria-label='Level of Low']").dataset.share > 0.2`)
	p.press("Stop")
	p.do(chromedp.Reload())
	p.until(`window.agrimony?.low`)
	p.press("Click ▾")
	p.until(`document.querySelector("[aria-label='Loudness on this machine in percent']")?.value === "30"`)
}

func TestTheRenderPanel(t *testing.T) {
	s := serve(t)
	require.NoError(t, server.EnsureDemo(s.store))
	p := s.open(t, "/piece/"+demo.ID+"/towpath")
	p.press("Render")
	summary := func(text string) {
		p.t.Helper()
		p.until(fmt.Sprintf(`document.querySelector("[data-testid=summary]").textContent.includes(%q)`, text))
	}
	summary("Lantern-Regatta-Towpath.mid will last 35 bars")
	p.press("Bars")
	p.fill("Bars to render", "2")
	summary("will last 2 bars")
	p.press("480")
	p.press("Type 0")
	p.until(`[...document.querySelectorAll("a")].find(a => a.textContent === "Download").href.includes("ppq=480&type=0")`)
	file := p.download()
	assert.Equal(t, []int{0, 480, 1}, []int{file.Type, file.PPQ, len(file.Tracks)})
	assert.EqualValues(t, 2*4*480, file.Tracks[0].End)
	// Dragging the clip out carries the file's name and address.
	dragged := eval[string](p, `(() => {
		const link = [...document.querySelectorAll("a")].find(a => a.textContent.includes("Drag the clip out"));
		const data = new DataTransfer();
		link.dispatchEvent(new DragEvent("dragstart", {bubbles: true, dataTransfer: data}));
		return data.getData("DownloadURL");
	})()`)
	assert.True(t, strings.HasPrefix(dragged, "audio/midi:Lantern-Regatta-Towpath.mid:"+s.url+"/api/"), dragged)
}

func TestPiecesAreOpenedFromFilesAndDeleted(t *testing.T) {
	s := serve(t)
	p := s.open(t, "/")
	folder := t.TempDir()
	bad, good := filepath.Join(folder, "bad.json"), filepath.Join(folder, "good.json")
	require.NoError(t, os.WriteFile(bad, []byte(`{"format":"agrimony-piece","version":1,"tempo":5}`), 0o600))
	require.NoError(t, os.WriteFile(good, demo.Document(), 0o600))
	p.until(`document.querySelector('[aria-label="Piece file"]')`)
	p.do(chromedp.SetUploadFiles(`[aria-label="Piece file"]`, []string{bad}))
	p.until(`document.querySelector("[role=alert]")?.textContent === "Tempo: 5 is below 20; allowed: 20 to 400."`)
	p.do(chromedp.SetUploadFiles(`[aria-label="Piece file"]`, []string{good}))
	p.until(`document.querySelector('[aria-label="Title of the piece"]')?.value === "Lantern Regatta"`)
	exported := eval[string](p, `[...document.querySelectorAll("a")].find(a => a.textContent === "Save piece as a file").href`)
	response, err := http.Get(exported)
	require.NoError(t, err)
	defer response.Body.Close()
	assert.Equal(t, http.StatusOK, response.StatusCode)
	p.fill("Title of the piece", "Evening Regatta")
	p.until(`document.title === "Evening Regatta – Agrimony"`)
	p.do(chromedp.Navigate(s.url + "/"))
	p.press("Delete Evening Regatta")
	p.until(`document.body.innerText.includes("None yet.")`)
	list, err := s.store.List()
	require.NoError(t, err)
	assert.Empty(t, list)
	p.press("Bring back Evening Regatta")
	p.until(`document.querySelector('[aria-label="Delete Evening Regatta"]')`)
	p.until(`!document.body.innerText.includes("kept for 30 days")`)
}

func TestAClipThatNeverClosesIsShownInPart(t *testing.T) {
	s := serve(t)
	var lanes []string
	for i, n := range []int{17, 16, 13, 11} {
		lanes = append(lanes, fmt.Sprintf(`{"id":"l%d","name":"Lane of %d","steps":[{"on":true}%s]}`, i, n, strings.Repeat(",{}", n-1)))
	}
	read, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"a","lanes":[` + strings.Join(lanes, ",") + `]}]}`))
	require.NoError(t, err)
	require.NoError(t, s.store.Create("long", read))
	p := s.open(t, "/piece/long")
	p.until(`document.querySelector('[aria-label="When lanes meet"]')?.textContent.includes("only after 2431 bars – the first 128 of 2431 bars are shown and played")`)
	p.press("Render")
	p.press("Until it meets the bar")
	p.until(`document.querySelector("[data-testid=summary]").textContent.includes("is 2431 bars, over 1024; state a number of bars instead")`)
	p.key("Escape")
	p.press("Give Lane of 17 16 steps: they meet after 143 bars")
	p.until(`document.querySelector('[aria-label="When lanes meet"]').textContent.includes("143 bars")`)
}
