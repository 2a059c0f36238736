package e2e

import (
	"fmt"
	"strings"
	"testing"

	"github.com/chromedp/cdproto/input"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/piece"
)

// byHand opens a piece of one clip of two bars with the lanes given.
func byHand(t *testing.T, lanes string) (*site, *tab) {
	s := serve(t)
	own, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"keel","bars":2,"lanes":[` + lanes + `]}]}`))
	require.NoError(t, err)
	require.NoError(t, s.store.Create("own", own))
	p := s.open(t, "/piece/own")
	p.until(`window.agrimony?.` + own.Clips[0].Lanes[0].ID)
	return s, p
}

// mark is the mark at the top of a lane's band where a step begins.
func (p *tab) mark(lane string, step int) point {
	at := p.at(lane, step, 36)
	top := eval[float64](p, fmt.Sprintf(`window.agrimony[%q](0, 36).top`, lane))
	return point{X: at.X - at.Step/2, Y: top + 3, Step: at.Step}
}

// pressed, movedTo and letGo are one drag in parts, for keys that are held only on the way.
func (p *tab) pressed(at point) {
	p.do(input.DispatchMouseEvent(input.MousePressed, at.X, at.Y).WithButton(input.Left).WithButtons(1).WithClickCount(1))
}

func (p *tab) movedTo(held input.Modifier, at point) {
	for _, away := range []float64{8, 0} {
		p.do(input.DispatchMouseEvent(input.MouseMoved, at.X+away, at.Y).WithButton(input.Left).WithButtons(1).WithModifiers(held))
	}
}

func (p *tab) letGo(held input.Modifier, at point) {
	p.do(input.DispatchMouseEvent(input.MouseReleased, at.X, at.Y).WithButton(input.Left).WithClickCount(1).WithModifiers(held))
	p.saved()
}

// A window is dragged at its seams and slid along its steps, and so is the loop of free notes.
func TestWindowsAreDraggedAtTheirSeams(t *testing.T) {
	steps := `{"on":true}` + strings.Repeat(`,{}`, 7)
	s, p := byHand(t, `{"id":"low","steps":[`+steps+`]},{"id":"air","kind":"notes","loop":{"start":0,"length":1920},"notes":[{"at":0,"length":200}]}`)
	window := func() string {
		p.saved()
		if w := p.lane(s, 0).Window; w != nil {
			return fmt.Sprint(w.Start, " ", w.Count)
		}
		return "all"
	}
	from := func(step, slots int) {
		a := p.mark("low", 1)
		a.X += a.Step * float64(step-1)
		b := a
		b.X += a.Step * float64(slots)
		p.drag(0, a, b)
	}
	end := p.mark("low", 8) // where the first round ends
	end.X += end.Step
	to := end
	to.X -= 3 * end.Step
	p.drag(0, end, to)
	assert.Equal(t, "1 5", window(), "three steps fewer")
	from(6, 1)
	assert.Equal(t, "1 6", window(), "and one more")
	from(1, 2)
	assert.Equal(t, "3 6", window(), "at its beginning it is slid along")
	p.press("Undo")
	p.press("Undo")
	p.press("Undo")
	assert.Equal(t, "all", window(), "each was one edit")

	p.press("air")
	p.until(`window.agrimony?.air`)
	seam := p.mark("air", 1) // the clip's start: its steps are a sixteenth long
	seam.X += 8 * seam.Step
	longer := seam
	longer.X += 4 * seam.Step
	p.drag(0, seam, longer)
	p.saved()
	assert.Equal(t, 2880, p.lane(s, 1).Content.(*piece.Notes).Loop.Length)
}

// One part of what was copied is pasted: onto steps, onto free notes, in turn over all that are selected.
func TestOnePartIsPasted(t *testing.T) {
	s, p := byHand(t, `{"id":"low","octave":2,"steps":[{"on":true,"degree":5,"velocity":60,"gate":30,"chance":50},{},{"on":true,"degree":3},{"on":true,"degree":2},{},{},{},{}]},
		{"id":"air","kind":"notes","notes":[{"at":0,"length":240,"velocity":40},{"at":960,"length":480},{"at":1920,"length":480}]}`)
	only := func(part string) {
		p.press("Paste only ▾")
		p.press("The " + part)
		p.saved()
	}
	step := func(n int) string {
		own := line(p.lane(s, 0)).Steps[n-1]
		return fmt.Sprint(own.On, " ", own.Degree, " ", own.Velocity, " ", own.Gate, " ", own.Chance)
	}
	p.click("low", 1, 43)
	p.key("c", ctrl)
	p.click("low", 3, 40)
	only("velocities")
	assert.Equal(t, "true 3 60 75 100", step(3))
	only("lengths")
	assert.Equal(t, "true 3 60 30 100", step(3))
	only("chance")
	assert.Equal(t, "true 3 60 30 50", step(3))
	only("pitches")
	assert.Equal(t, "true 5 60 30 50", step(3))
	p.click("low", 4, 38)
	only("rhythm")
	assert.Equal(t, "true 2 60 30 100", step(4))

	p.press("air")
	p.click("air", 1, 48)
	p.key("c", ctrl)
	p.key("a", ctrl)
	only("velocities")
	only("lengths")
	for _, n := range p.lane(s, 1).Content.(*piece.Notes).Notes {
		assert.Equal(t, []int{40, 240}, []int{n.Velocity, n.Length})
	}
}

// Chords and phrases are dragged aside as notes are: what they meet takes their places, with Alt they are copied.
func TestChordsAndPhrasesAreDraggedAside(t *testing.T) {
	s, p := byHand(t, `{"id":"pad","kind":"chords","rate":"1/4","octave":4,"palette":[{"tones":[{"degree":1},{"degree":3},{"degree":5}]},{"tones":[{"degree":2},{"degree":4}]}],
			"steps":[{"on":true,"chord":1},{},{"on":true,"chord":2},{},{},{},{},{}]},
		{"id":"run","kind":"phrase","rate":"1/8","octave":4,"source":"own","tones":[{"degree":1},{"degree":3}],"steps":[{"on":true,"velocity":70},{},{},{},{},{},{},{},{},{},{},{},{},{},{},{}]}`)
	chords := func() string {
		p.saved()
		var out []string
		for _, step := range p.lane(s, 0).Content.(*piece.Chords).Steps[:4] {
			if step.On {
				out = append(out, fmt.Sprint(step.Chord))
			} else {
				out = append(out, "-")
			}
		}
		return strings.Join(out, " ")
	}
	p.drag(0, p.at("pad", 1, 60), p.at("pad", 3, 60))
	assert.Equal(t, "2 - 1 -", chords(), "they have changed places")
	p.drag(alt, p.at("pad", 3, 60), p.at("pad", 4, 60))
	assert.Equal(t, "2 - 1 1", chords(), "a copy stays")
	p.drag(alt, p.nameAt("pad", 1), p.nameAt("pad", 3))
	assert.Equal(t, "2 - 2 1", chords(), "by its name, too")

	p.press("run")
	p.until(`window.agrimony?.run`)
	p.drag(0, p.at("run", 1, 60), p.at("run", 4, 60))
	p.saved()
	steps := p.lane(s, 1).Content.(*piece.Phrase).Steps
	assert.Equal(t, []any{false, true, 70}, []any{steps[0].On, steps[3].On, steps[3].Velocity})
}

// Handles of every kind snap to the onsets of the lane that is chosen, which stand as stems through the others: the end of
// a step's note, a step that is nudged, a free note's beginning.
func TestHandlesSnapToTheOnsetsOfAnotherLane(t *testing.T) {
	s, p := byHand(t, `{"id":"low","octave":2,"steps":[{"on":true},{},{},{},{},{},{},{},{"on":true},{},{},{},{},{},{},{}]},
		{"id":"air","kind":"notes","octave":4,"notes":[{"at":0,"length":480}]},
		{"id":"kick","kind":"pulse","rate":"1/8T","steps":[`+strings.Repeat(`{"on":true},`, 6)+`{"on":true,"nudge":-25}`+strings.Repeat(`,{"on":true}`, 5)+`]}`)
	ticks := eval[float64](p, `(window.agrimony.low(1, 36).x - window.agrimony.low(0, 36).x) / 240`)
	place := func(lane string, pitch int, at float64) point {
		out := p.at(lane, 1, pitch)
		out.X += (at - 120) * ticks
		return out
	}
	first := func(name string) (at, end int64) {
		p.saved()
		n := track(t, p.file(t), name).Notes[0]
		return n.At, n.At + n.Length
	}
	p.drag(0, place("low", 36, 178), place("low", 36, 160-2/ticks))
	_, end := first("low")
	assert.NotEqual(t, int64(160), end, "nothing is chosen: it ends where the hand let go")
	p.press("kick")
	p.key("S")
	p.until(`document.querySelector("[data-lane=low]").dataset.stems === "24"`)
	p.press("low")
	p.rest()
	p.drag(0, place("low", 36, float64(end)-1), place("low", 36, 320+4/ticks))
	_, end = first("low")
	assert.InDelta(t, 320, end, 2.4, "the kick's second hit, a third of a beat in")

	// With Shift a step goes there, by its nudge.
	from, to := place("low", 36, 2*960+60), place("low", 36, 2*960+60-80-2/ticks)
	p.pressed(from)
	p.movedTo(shift, to)
	p.letGo(shift, to)
	own := line(p.lane(s, 0)).Steps
	assert.Equal(t, []any{true, -33}, []any{own[8].On, own[8].Nudge}, "from the third beat to the hit just before it")

	p.press("air")
	p.until(`window.agrimony?.air`)
	begin := place("air", 60, 240)
	far := begin
	far.X += (640 - 3) * ticks
	p.drag(0, begin, far)
	at, _ := first("air")
	assert.Equal(t, int64(640), at)
}
