package e2e

import (
	"fmt"
	"slices"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/edit"
	"agrimony/internal/core/op"
	"agrimony/internal/core/order"
	"agrimony/internal/core/piece"
	"agrimony/internal/demo"
)

// loops opens the sample piece with nothing in its order, at a tempo at which 32 bars are soon over.
func loops(t *testing.T) (*site, *hand) {
	s := serve(t)
	p, err := demo.Piece()
	require.NoError(t, err)
	p, err = edit.Apply(p, []op.Op{op.Of(op.SetPiece{Patch: []byte(`{"tempo":400}`)}), op.Of(op.WriteOrder{Entries: []byte(`[]`)})})
	require.NoError(t, err)
	require.NoError(t, s.store.Create("untitled", p))
	h := &hand{tab: s.open(t, "/piece/untitled")}
	h.until(`window.agrimony?.low`)
	h.do(chromedp.Evaluate(`window.heard = []; window.addEventListener("order note", (e) => window.heard.push(e.detail))`, nil))
	return s, h
}

// bar waits until the order plays a bar, from 1.
func (h *hand) bar(n int) {
	h.t.Helper()
	h.until(fmt.Sprintf(`Number(document.querySelector("[data-testid=order-place]")?.innerText.split(".")[0]) >= %d`, n))
}

// struck is a note as it was scheduled, or as a file has it.
type struck struct {
	At    int64
	Pitch int
	Lane  string
}

// scheduled are the notes that the page has scheduled up to a tick.
func (h *hand) scheduled(until int64) []struck {
	h.t.Helper()
	all := eval[[]struck](h.tab, `window.heard.map((n) => ({At: n.at, Pitch: n.pitch, Lane: n.lane}))`)
	return slices.DeleteFunc(all, func(s struck) bool { return s.At >= until })
}

// ordered are the notes of the order as it is written.
func ordered(t *testing.T, p *piece.Piece, until int64) (out []struck) {
	t.Helper()
	played, err := order.Render(p, order.Options{Live: true, To: int(until)}) // clips have no channels in common here
	require.NoError(t, err)
	for i := range played.Tracks {
		track := &played.Tracks[i]
		for k := range track.Part.Notes {
			if at := track.Part.Notes[k].At.Export(960); at < until {
				out = append(out, struck{at, int(track.Part.Notes[k].Pitch), p.Clips[track.Clip].ID + "/" + track.Part.ID})
			}
		}
	}
	return out
}

func (h *hand) order(s *site) []piece.Entry {
	h.t.Helper()
	h.saved()
	return s.piece(h.t, h.id()).Order.Entries
}

// From loops to a piece: six clips brought in and out by keys over 32 bars, kept, two entries lengthened,
// one lane muted for a section, rendered.
func TestFromLoopsToAPiece(t *testing.T) {
	s, p := loops(t)
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
	p.type_("ArrowDown", ">")
	longer := p.order(s)
	assert.Equal(t, []int{kept[0].For + 3840, kept[1].For + 3840}, []int{longer[0].For, longer[1].For})
	p.press("Spray") // of Weir, which is chosen
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
	s, p := loops(t)
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
	s, p := loops(t)
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

// same holds what was scheduled to what is written, note by note.
func same(t *testing.T, want, got []struck) {
	t.Helper()
	count := map[struck]int{}
	for _, n := range want {
		count[n]++
	}
	for _, n := range got {
		count[n]--
	}
	var off []string
	for n, c := range count {
		if c != 0 {
			off = append(off, fmt.Sprintf("%d %s %d %+d", n.At, n.Lane, n.Pitch, c))
		}
	}
	slices.Sort(off)
	assert.Empty(t, off, "written, and not heard (+), or the other way round (-)")
	assert.NotEmpty(t, want)
}
