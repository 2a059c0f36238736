package edit_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// grooves are ways in which a note is elsewhere than on the grid.
var grooves = []string{`{}`, `{"swing":66,"grid":"1/16"}`, `{"swing":58,"grid":"1/8"}`, `{"template":"Rolling"}`, `{"swing":62,"grid":"1/16","template":"Late second beat","timing":80}`}

// draggable are lanes of each kind whose notes have an end to drag, with steps to be filled in.
var draggable = []string{
	`{"id":"low","octave":2,"rate":%q,"direction":%q,"steps":[%s]}`,
	`{"id":"low","kind":"pulse","note":36,"rate":%q,"direction":%q,"steps":[%s]}`,
	`{"id":"low","kind":"chords","rate":%q,"direction":%q,"palette":[{"tones":[{"degree":1},{"degree":3},{"degree":5}]}],"steps":[%s]}`,
	`{"id":"low","kind":"phrase","source":"own","tones":[{"degree":1},{"degree":3},{"degree":5}],"rate":%q,"direction":%q,"steps":[%s]}`,
	`{"id":"low","kind":"phrase","source":"own","tones":[{"degree":2},{"degree":4}],"voices":2,"rate":%q,"direction":%q,"steps":[%s]}`,
	`{"id":"low","kind":"phrase","source":"own","tones":[{"degree":1},{"degree":4}],"rhythm":{"lane":"rim"},"rate":%q,"direction":%q,"steps":[%s]},{"id":"rim","kind":"pulse","note":37,"rate":"1/8","steps":[{"on":true},{"on":true,"gate":40},{}]}`,
}

// The end to which a note is dragged is the end that sounds, to within what a percent of its
// step comes to: in every kind, with swing, template, nudge, ratchet, ties and directions.
func TestTheEndDraggedToIsTheEndThatSounds(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var steps []string
		direction := rapid.SampledFrom([]string{"forward", "reverse", "pendulum"}).Draw(t, "direction")
		ties, nudges := []any{false}, []any{0, 0, 20, -30, 45}
		if direction != "pendulum" && rapid.Bool().Draw(t, "ties") { // a pendulum's are tied both ways
			ties, nudges = []any{false, false, true}, []any{0, 0, 20} // once untied, a step may begin early
		}
		count := rapid.IntRange(1, 8).Draw(t, "count")
		for i := range count {
			draw := func(name string, of ...any) any { return rapid.SampledFrom(of).Draw(t, fmt.Sprint(name, i)) }
			steps = append(steps, fmt.Sprintf(`{"on":%v,"gate":%v,"tie":%v,"nudge":%v,"ratchet":%v}`,
				draw("on", true, true, false), draw("gate", 10, 50, 75, 100), draw("tie", ties...), draw("nudge", nudges...), draw("ratchet", 1, 1, 1, 2, 3)))
		}
		text := fmt.Sprintf(rapid.SampledFrom(draggable).Draw(t, "lane"), rapid.SampledFrom([]string{"1/16", "1/8", "1/8T", "1/4"}).Draw(t, "rate"), direction, strings.Join(steps, ","))
		p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"groove":` + rapid.SampledFrom(grooves).Draw(t, "groove") + `,"clips":[{"id":"a","bars":4,"lanes":[` + text + `]}]}`))
		require.NoError(t, err, text)
		notes := lowNotes(t, p)
		if len(notes) == 0 {
			t.Skip("silent")
		}
		own := notes[rapid.IntRange(0, len(notes)-1).Draw(t, "note")]
		performance, err := lane.Render(p, &p.Clips[0], render.Options{Lanes: []string{"low"}})
		require.NoError(t, err)
		part := &performance.Lanes[0]
		// It is dragged to some place before the next onset and before the clip's end, past
		// all of its own repeats' onsets.
		begin, next, grid := own.At, performance.Length, performance.Grid(part, &own)
		for i := range notes {
			switch n := &notes[i]; {
			case performance.Grid(part, n) == grid:
				begin = max(begin, n.At)
			case n.At > own.At:
				next = min(next, n.At)
			}
		}
		length := p.StepLength(&p.Clips[0].Lanes[0])
		most := 3 * length
		if part.Clock != nil { // between its notes no gate of 400 % may reach
			for i, s := range part.Clock.Slots {
				if s.At == grid {
					length = part.Clock.Lengths[i]
					most = length
				}
			}
		}
		room := next - begin - length/10
		if room < length/10 || begin < grid {
			t.Skip("there is no room")
		}
		far := beat.Time(rapid.Int64Range(int64(length/20), int64(min(room, most))).Draw(t, "far"))
		ticks := int((begin + far - grid).Export(960))
		goal := grid + beat.Of(int64(ticks), 960)
		if goal-grid >= length*beat.Time(count) {
			t.Skip("it comes round again before")
		}
		dragged, err := apply(p, op.DragEnd{OnLane: onLane, Step: int(own.Step), From: int(grid.Export(960)), Ticks: ticks})
		require.NoError(t, err)
		end, off, stays := beat.Time(0), beat.Time(1<<62), false
		again, err := lane.Render(dragged, &dragged.Clips[0], render.Options{Lanes: []string{"low"}})
		require.NoError(t, err)
		for i := range again.Lanes[0].Notes {
			n := &again.Lanes[0].Notes[i]
			if again.Grid(&again.Lanes[0], n) != grid && n.At > own.At && n.At <= goal {
				t.Skip("a step that it was held into now begins of its own, before the goal")
			}
			if again.Grid(&again.Lanes[0], n) == grid {
				stays = stays || n.At == begin
				if away := max(n.End-goal, goal-n.End); away < off {
					end, off = n.End, away
				}
			}
		}
		if !stays {
			t.Skip("it was joined to, and now is struck of its own")
		}
		// A percent of the step, which swing may stretch by half.
		require.LessOrEqual(t, off, length*16/1000+beat.Of(1, 960), "to tick %d, and it ends at %d: %s", goal.Export(960), end.Export(960), text)
	})
}

func lowNotes(t require.TestingT, p *piece.Piece) []render.Note {
	performance, err := lane.Render(p, &p.Clips[0], render.Options{Lanes: []string{"low"}})
	require.NoError(t, err)
	return performance.Lanes[0].Notes
}
