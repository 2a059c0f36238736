package e2e

import (
	"fmt"
	"math/rand/v2"
	"os"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/edit"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/demo"
)

// loops opens the sample piece with nothing in its order, where time flies unless scripts say otherwise.
func loops(t *testing.T, tempo int, scripts ...string) (*site, *hand) {
	return ordering(t, tempo, "keel", `[]`, scripts...)
}

// ordering is the same at a clip, with entries.
func ordering(t *testing.T, tempo int, clip, entries string, scripts ...string) (*site, *hand) {
	s := serve(t)
	p, err := demo.Piece()
	require.NoError(t, err)
	p, err = edit.Apply(p, []op.Op{op.Of(op.SetPiece{Patch: fmt.Appendf(nil, `{"tempo":%d}`, tempo)}), op.Of(op.WriteOrder{Entries: []byte(entries)})})
	require.NoError(t, err)
	require.NoError(t, s.store.Create("untitled", p))
	if scripts == nil {
		scripts = []string{spedUp, overhearing}
	}
	h := &hand{tab: s.open(t, "/piece/untitled/"+clip, scripts...)}
	open, err := p.Clip(clip)
	require.NoError(t, err)
	h.until(`window.agrimony?.` + open.Lanes[0].ID)
	return s, h
}

// bar waits until the order plays a bar, from 1.
func (h *hand) bar(n int) {
	h.t.Helper()
	h.until(fmt.Sprintf(`Number(document.querySelector("[data-testid=order-place]")?.innerText.split(".")[0]) >= %d`, n))
}

func (h *hand) order(s *site) []piece.Entry {
	h.t.Helper()
	h.saved()
	return s.piece(h.t, h.id()).Order.Entries
}

// From loops to a piece: six clips brought in and out by keys over 32 bars, kept, two entries lengthened,
// one lane muted for a section, rendered.
func TestFromLoopsToAPiece(t *testing.T) {
	s, p := loops(t, 104)
	p.type_("O")
	p.until(`document.querySelector("[data-testid=bands]")`)
	p.type_("1") // Keel comes in, and it plays
	for _, act := range []struct {
		bar  int
		keys []string
	}{{4, []string{"5"}}, {8, []string{"9"}}, {12, []string{"1"}}, {15, []string{"8"}}, {19, []string{"5", "6"}}, {24, []string{"0", "9"}}, {32, []string{" "}}} {
		p.bar(act.bar)
		p.type_(act.keys...)
	}
	p.until(`document.body.innerText.includes("What was played is the running order now")`)
	kept := p.order(s)
	var clips []string
	for _, e := range kept {
		assert.Zero(t, e.At%3840, "clips come in at bars")
		clips = append(clips, e.Clip)
	}
	assert.Equal(t, []string{"keel", "weir", "basin", "moorings", "footbridge", "narrows"}, clips)
	end := int64(28 * 3840) // what was scheduled ahead of the stop is not in the order
	same(t, ordered(t, s.piece(t, p.id()), end), p.scheduled(end))

	p.type_("ArrowDown") // the first entry
	assert.True(t, eval[bool](p.tab, `[...document.querySelectorAll("main li")].some((row) => row.innerText.includes("Keel") && row.getBoundingClientRect().top > 90)`), "it is in sight")
	p.type_(">") // a bar longer
	p.saved()
	p.type_("ArrowDown")
	p.until(named("Spray")) // of Weir, which is chosen
	p.type_(">")
	longer := p.order(s)
	assert.Equal(t, []int{kept[0].For + 3840, kept[1].For + 3840}, []int{longer[0].For, longer[1].For})
	p.press("Spray")
	muted := p.order(s)
	assert.Equal(t, []string{"spray"}, muted[1].Mute)
	p.press("Render")
	p.until(`document.querySelector("[data-testid=summary] table")`)
	assert.Contains(t, eval[string](p.tab, `document.querySelector("[data-testid=summary]").innerText`), "Weir · Undertow")
	assert.NotContains(t, eval[string](p.tab, `document.querySelector("[data-testid=summary]").innerText`), "Weir · Spray")
	p.type_("Enter")
	assert.LessOrEqual(t, p.gestures, 40)
	t.Logf("from loops to a piece: %d gestures", p.gestures)
}

// What was played is kept, too, where one leaves the piece while it plays.
func TestLeavingWhileItPlaysKeepsIt(t *testing.T) {
	s, p := loops(t, 104)
	p.type_("O")
	p.until(`document.querySelector("[data-testid=bands]")`)
	p.type_("1")
	p.bar(2)
	p.tab.press("All pieces")
	p.until(named("New piece"))
	require.Eventually(t, func() bool { return len(s.piece(t, "untitled").Order.Entries) == 1 }, 10*time.Second, 50*time.Millisecond)
	assert.Equal(t, "keel", s.piece(t, "untitled").Order.Entries[0].Clip)
}

// The bass follows: a clip moved through four roots by keys, four bars each, kept, rendered.
func TestTheBassFollows(t *testing.T) {
	s, p := loops(t, 104)
	p.type_("O")
	p.until(`document.querySelector("[data-testid=bands]")`)
	p.press("Keel follows the keyboard")
	p.type_("1")
	for _, act := range []struct {
		bar int
		key string
	}{{4, "d"}, {8, "h"}, {12, "t"}, {16, " "}} { // E, A, F sharp
		p.bar(act.bar)
		p.type_(act.key)
	}
	p.until(`document.body.innerText.includes("What was played is the running order now")`)
	kept := p.order(s)
	var shifts []int
	for _, e := range kept {
		assert.Equal(t, "keel", e.Clip)
		shifts = append(shifts, e.Shift)
	}
	assert.Equal(t, []int{0, -1, 2, 0}, shifts)
	for i := 1; i < 4; i++ {
		assert.Equal(t, kept[i-1].End(), kept[i].At, "it goes on where it was")
	}
	end := int64(kept[3].At)
	same(t, ordered(t, s.piece(t, p.id()), end), p.scheduled(end))
	p.press("Render")
	p.until(`document.querySelector("[data-testid=summary] table")`)
	p.type_("Enter")
	assert.LessOrEqual(t, p.gestures, 12)
	t.Logf("the bass follows: %d gestures", p.gestures)
}

// Whatever is brought in and out, moved and muted in half an hour of playing: what was heard is what stands
// written, each note once and as long.
func TestManyMinutesOfPlaying(t *testing.T) {
	s, p := loops(t, 60)
	p.type_("O")
	p.until(`document.querySelector("[data-testid=bands]")`)
	p.press("Keel follows the keyboard")
	p.type_("1")
	luck := rand.New(rand.NewPCG(3, 4))
	bars := 120 // 8 minutes; half an hour where tests are run often
	if os.Getenv("OFTEN") != "" {
		bars = 450
	}
	for bar := 3; bar < bars; bar += 4 + luck.IntN(7) {
		p.bar(bar)
		switch what := luck.IntN(10); {
		case what < 6:
			p.type_(fmt.Sprint(luck.IntN(10)))
		case what < 8:
			p.type_(string("asdfghjwetyu"[luck.IntN(12)]))
		default:
			lanes := fmt.Sprintf(`document.querySelectorAll("button[aria-label^='Lanes of']")[%d]`, luck.IntN(10))
			p.do(chromedp.Evaluate(lanes+`.click()`, nil))
			p.until(`document.querySelector("label > input[type=checkbox]")`)
			p.do(chromedp.Evaluate(`(document.querySelector("label:not([title]) > input[type=checkbox]:enabled") ?? [...document.querySelectorAll("button")].find((b) => b.innerText === "Only this one")).click()`, nil))
			p.do(chromedp.Evaluate(lanes+`.click()`, nil))
			p.until(`!document.querySelector("label > input[type=checkbox]")`)
		}
	}
	p.bar(bars)
	p.type_(" ")
	p.until(`document.body.innerText.includes("What was played is the running order now")`)
	kept := p.order(s)
	assert.Greater(t, len(kept), bars/12)
	end := int64((bars - 4) * 3840)
	same(t, ordered(t, s.piece(t, p.id()), end), p.scheduled(end))
	if t.Failed() {
		for _, e := range kept {
			t.Logf("%+v", e)
		}
	}
}
