package view_test

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/edit"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
	"agrimony/internal/demo"
	"agrimony/internal/view"
)

func viewed(t *testing.T, clip string) *view.Clip {
	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"key":{"tonic":"F#","scale":"dorian"},"clips":[` + clip + `]}`))
	require.NoError(t, err)
	v, err := view.Of(p, &p.Clips[0], nil)
	require.NoError(t, err)
	return v
}

// steps are n steps of which those named are on.
func steps(n int, on ...int) string {
	out := make([]string, n)
	for i := range out {
		out[i] = "{}"
	}
	for _, i := range on {
		out[i-1] = `{"on":true}`
	}
	return "[" + strings.Join(out, ",") + "]"
}

func TestLanesAreUnrolledOnOneAxis(t *testing.T) {
	v := viewed(t, `{"bars":1,"lanes":[{"octave":2,"steps":`+steps(7, 1)+`},{"rate":"1/8","direction":"pendulum","steps":`+steps(3, 1, 2, 3)+`}]}`)
	seven, pendulum := v.Lanes[0], v.Lanes[1]
	assert.Equal(t, []int{0, 1, 2, 3, 4, 5, 6, 0, 1, 2, 3, 4, 5, 6, 0, 1}, seven.Slots)
	assert.Equal(t, []any{int64(240), 7, "7 × 1/16"}, []any{seven.StepTicks, seven.Round, seven.Period})
	assert.Equal(t, []int{0, 1, 2, 1, 0, 1, 2, 1}, pendulum.Slots)
	assert.Equal(t, 4, pendulum.Round)
	for k, sounds := range seven.Sounds {
		assert.Equal(t, k%7 == 0, sounds)
	}
	assert.Equal(t, view.Note{At: 1680, Length: 180, Pitch: 42, Velocity: 100, Round: 1}, seven.Notes[1])
	assert.EqualValues(t, 1680, seven.SlotAt[7])
	assert.Equal(t, 1, seven.Rounds[7])
	assert.Equal(t, "F♯2", seven.Names[0])
	assert.Equal(t, []any{"F♯ dorian", int64(3840), int64(3840), int64(960), "1", true}, []any{v.Key, v.Ticks, v.BarTicks, v.BeatTicks, v.Bars, v.Whole})
}

func TestWhenLanesMeetInWords(t *testing.T) {
	for lanes, words := range map[string]string{
		`{"steps":` + steps(7, 1) + `},{"steps":` + steps(16, 1) + `}`: "All lanes meet again after 7 bars",
		`{"steps":` + steps(7, 1) + `},{"steps":` + steps(15, 1) + `}`: "All lanes meet again after 6 bars and 9 sixteenths, and on a bar line after 105 bars",
		`{"steps":` + steps(16, 1) + `}`:                               "All lanes meet again after 1 bar",
		``:                                                             "No lane plays yet",
	} {
		assert.Equal(t, words, viewed(t, `{"bars":1,"lanes":[`+lanes+`]}`).Realign)
	}
	var primes []string
	for _, n := range []int{251, 241, 239, 233, 229} {
		primes = append(primes, fmt.Sprintf(`{"rate":"1/64T","steps":%s}`, steps(n, 1)))
	}
	v := viewed(t, `{"lanes":[`+strings.Join(primes, ",")+`]}`)
	assert.Equal(t, "All lanes meet again only after 7.71e+11 bars", v.Realign)
	assert.False(t, v.Whole)
	assert.Contains(t, v.TooLong, "over 1024; state a number of bars instead")
	assert.Equal(t, int64(view.MaxBars)*3840, v.Ticks, "the beginning is there all the same")
}

func TestALongClipIsShownInPart(t *testing.T) {
	v := viewed(t, `{"bars":500,"lanes":[{"steps":`+steps(16, 1)+`}]}`)
	assert.Equal(t, []any{"500", false, int64(view.MaxBars) * 3840, ""}, []any{v.Bars, v.Whole, v.Ticks, v.TooLong})
	heavy := make([]string, 32)
	for i := range heavy {
		heavy[i] = fmt.Sprintf(`{"rate":"1/64T","steps":%s}`, steps(64, 1))
	}
	v = viewed(t, `{"bars":500,"lanes":[`+strings.Join(heavy, ",")+`]}`)
	assert.Less(t, v.Ticks, int64(view.MaxBars)*3840, "many short steps are bounded too")
}

func TestLaddersHoldTheKeyAndReachEveryNote(t *testing.T) {
	v := viewed(t, `{"bars":1,"lanes":[{"octave":2,"steps":[{"on":true,"octave":-3},{"on":true,"octave":4}]},{"octave":2,"lock":"off"}]}`)
	locked, free := v.Lanes[0].Ladder, v.Lanes[1].Ladder
	for _, row := range locked {
		assert.True(t, row.InKey)
	}
	assert.LessOrEqual(t, locked[0].Pitch, v.Lanes[0].Pitches[0][0])
	assert.GreaterOrEqual(t, locked[len(locked)-1].Pitch, v.Lanes[0].Pitches[1][0])
	for i := 1; i < len(free); i++ {
		assert.Equal(t, free[i-1].Pitch+1, free[i].Pitch, "every semitone without a lock")
	}
}

func TestMutedLanesAreShownButDoNotPlay(t *testing.T) {
	v := viewed(t, `{"bars":1,"lanes":[{"mute":true,"steps":`+steps(4, 1)+`},{"steps":`+steps(4, 1, 3)+`,"window":{"start":1,"count":2}}]}`)
	assert.False(t, v.Lanes[0].Audible)
	assert.Empty(t, v.Lanes[0].Notes)
	assert.Len(t, v.Lanes[0].Slots, 16)
	assert.Equal(t, []bool{true, true, false, false}, v.Lanes[1].Active)
	assert.Len(t, v.Lanes[1].Notes, 8)
	assert.Equal(t, []int{1, 2}, []int{v.Lanes[0].Channel, v.Lanes[1].Channel})
}

func TestThumbsOfTheDemo(t *testing.T) {
	p, err := demo.Piece()
	require.NoError(t, err)
	thumbs, err := view.Thumbs(p)
	require.NoError(t, err)
	var names, bars []string
	for _, thumb := range thumbs {
		names, bars = append(names, thumb.Name), append(bars, thumb.Bars)
		assert.True(t, thumb.Plays, thumb.Name)
	}
	assert.Equal(t, []string{"Keel", "Towpath", "Towpath back", "Towpath short", "Weir", "Footbridge in B", "Lock", "Moorings", "Basin", "Narrows", "Slipway glides", "Quay", "Eddy steers", "Cutwater", "Pontoon", "Backwater feel", "Tideway", "Osier", "Wherry by hand"}, names)
	assert.Equal(t, []string{"2", "35", "35", "35", "4", "4", "15", "3", "4", "4", "8", "4", "4", "4", "8", "4", "8", "4", "4"}, bars)
}

func TestWordsOfferWhatDocumentsAllow(t *testing.T) {
	words := view.Words()
	for _, tonic := range words.Tonics {
		for _, scale := range words.Scales {
			_, err := piece.Read([]byte(fmt.Sprintf(`{"format":"agrimony-piece","version":1,"key":{"tonic":%q,"scale":%q}}`, tonic.Tonic, scale.Name)))
			assert.NoError(t, err)
		}
	}
}

// touched edits the first step of a lane, or its first note: notes have no rests.
func touched(clip string, l *piece.Lane, patch string) op.Op {
	if _, free := l.Content.(*piece.Notes); !free {
		return op.Of(op.SetSteps{OnSteps: op.OnSteps{Clip: clip, Lane: l.ID, Steps: []int{1}}, Patch: json.RawMessage(patch)})
	}
	patch = strings.NewReplacer(`"on":false`, `"degree":6`, `,"gate":400`, ``).Replace(patch)
	return op.Of(op.SetNotes{OnNotes: op.OnNotes{Clip: clip, Lane: l.ID, Notes: []int{1}}, Patch: json.RawMessage(patch)})
}

// An edit of one lane leaves the views of the others as they are, and what is
// taken over is what would be worked out anew.
func TestWhatAnEditDoesNotTouchIsTakenOver(t *testing.T) {
	p, err := demo.Piece()
	require.NoError(t, err)
	for c := range p.Clips {
		before, err := view.Of(p, &p.Clips[c], nil)
		require.NoError(t, err)
		for _, patch := range []string{`{"velocity":33}`, `{"on":false}`, `{"tie":true,"gate":400}`} {
			next, err := edit.Apply(p, []op.Op{touched(p.Clips[c].ID, &p.Clips[c].Lanes[0], patch)})
			require.NoError(t, err)
			after, err := view.Of(next, &next.Clips[c], before)
			require.NoError(t, err)
			fresh, err := view.Of(next, &next.Clips[c], nil)
			require.NoError(t, err)
			for i := range after.Lanes {
				leaning, leans := p.Clips[c].Lanes[i].Content.(piece.Leaning)
				leans = leans && len(leaning.Needs()) > 0
				if i == 0 || !leans && !render.Listens(&p.Clips[c].Lanes[i]) { // what listens or leans may change with the others
					assert.Equal(t, i > 0, after.Lanes[i] == before.Lanes[i], "lane %d of %s", i, p.Clips[c].ID)
				}
				assert.Equal(t, fresh.Lanes[i], after.Lanes[i])
			}
			assert.Equal(t, fresh.Findings, after.Findings)
			assert.Equal(t, fresh.Harmony, after.Harmony)
		}
		faster := p.Clone()
		faster.Groove.Swing = 70
		after, err := view.Of(faster, &faster.Clips[c], before)
		require.NoError(t, err)
		fresh, err := view.Of(faster, &faster.Clips[c], nil)
		require.NoError(t, err)
		assert.Equal(t, fresh.Lanes, after.Lanes)
	}
}

func TestChordsAreChartedWithNamesThreadsAndMovement(t *testing.T) {
	v := viewed(t, `{"bars":4,"lanes":[
		{"id":"c","kind":"chords","rate":"1bar","octave":4,"palette":[{"tones":[{"degree":1},{"degree":3},{"degree":5}]},{"tones":[{"degree":4},{"degree":6},{"degree":1,"octave":1}],"name":"lift"}],
		 "steps":[{"on":true,"tie":true},{},{"on":true,"chord":2},{}]},
		{"id":"l","rate":"1/4","octave":3,"steps":[{"on":true},{"on":true,"degree":2},{"on":true,"degree":3},{"on":true,"degree":4}]},
		{"id":"p","kind":"pulse","steps":[{"on":true}]}]}`)
	chart := v.Lanes[0].Chart
	require.Len(t, chart.Marks, 2)
	first := chart.Marks[0]
	assert.Equal(t, []any{int64(0), int64(7680), 2, "F♯m", "i"}, []any{first.At, first.Until, first.Held, first.Symbol, first.Numeral}, "held through a rest by its tie")
	assert.Equal(t, [][2]int{{66, 71}, {69, 71}, {73, 75}, {73, 78}}, first.Threads)
	assert.Equal(t, []any{"B", "IV", "lift"}, []any{chart.Marks[1].Symbol, chart.Marks[1].Numeral, chart.Marks[1].Name})
	assert.Equal(t, "i IV", chart.Text)
	assert.Equal(t, []string{"1", "♭3", "5"}, first.Against)
	assert.Equal(t, []any{28, 28}, []any{chart.Movement, chart.Written}, "14 there and 14 back")
	assert.Equal(t, []string{"B4", "D♯5", "F♯5"}, chart.Palette[1].Tones)
	assert.Nil(t, v.Lanes[1].Chart)

	assert.Equal(t, []string{"c", v.ID}, []string{v.Harmony.Lane, v.Harmony.Clip})
	assert.Equal(t, []int{6, 1, 9}, v.Harmony.Chords[0].Classes, "the root's first")
	assert.Equal(t, []int{1, 3}, v.Harmony.Outside["l"][:2], "G♯ and B are no tones of F♯m")
	assert.NotContains(t, v.Harmony.Outside, "p", "a drum has no pitch of the chords")
	assert.Equal(t, 50, v.Harmony.Agreement["l"].Notes)
}

// The backing beat falls where the groove puts each sixteenth of a bar.
func TestTheGrooveOfTheBackingBeat(t *testing.T) {
	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"meter":"3/4","groove":{"swing":60,"template":"Rolling","timing":50,"velocity":50},"clips":[{"id":"a","bars":1,"lanes":[{"id":"l"}]}]}`))
	require.NoError(t, err)
	v, err := view.Of(p, &p.Clips[0], nil)
	require.NoError(t, err)
	require.Len(t, v.Groove, 12)
	assert.Equal(t, []view.Grooved{{At: 0, Velocity: 4}, {At: 314, Velocity: -9}, {At: 485, Velocity: 0}, {At: 799, Velocity: -6}}, v.Groove[:4],
		"the second of a pair is 48 ticks late by the swing and half of 22 % of a sixteenth more")
}

// What moves a lane is shown: its curve, what each slot comes to, what each drew.
func TestWhatMovesALaneIsShown(t *testing.T) {
	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"a","bars":1,"lanes":[
		{"id":"l","rate":"1/4","steps":[{"on":true},{"on":true},{"on":true},{}],"range":{"low":60,"high":72},"modulators":[{"on":"gate","shape":"rise","from":0,"to":0,"way":"add"},{"on":"velocity","shape":"square","from":10,"to":90}],"odds":[{"ratchet":3}]},
		{"id":"c","kind":"control","to":"l","target":"pressure","follows":{"lane":"l","to":60}}]}]}`))
	require.NoError(t, err)
	v, err := view.Of(p, &p.Clips[0], nil)
	require.NoError(t, err)
	l, c := v.Lanes[0], v.Lanes[1]
	every := func(x int) []int { return []int{x, x, x, x} }
	assert.Equal(t, []view.Moved{
		{"velocity", 1, 127, true, every(100), []int{10, 10, 90, 90}}, {"gate", 1, 400, true, every(75), every(75)}, {"ratchet", 1, 8, true, every(1), []int{3, 3, 3, 1}},
	}, l.Moved)
	assert.Equal(t, []string{"ratchet 3", "ratchet 3", "ratchet 3", ""}, l.Drawn)
	assert.Equal(t, []int{1, 0}, []int{l.Curves[0].Modulator, l.Curves[1].Modulator})
	assert.Equal(t, []int64{3840, 3840}, []int64{l.Curves[0].Every, l.Curves[1].Every})
	assert.Equal(t, []int{48}, l.Outside, "C3 lies outside and is moved to C4")
	assert.Equal(t, 60, l.Notes[0].Pitch)
	assert.Equal(t, &view.Reach{Least: 60, Most: 60, Lowest: 60, Highest: 60}, c.Reach)
	assert.Equal(t, []view.Pressure{{At: 0, Value: 60}, {At: 3840, Value: 0}}, c.Pressures)
	assert.Equal(t, "with l", c.Period)
}

// A field that all steps of a phrase have in common is moved from what the lane says.
func TestWhatIsAddedToAFieldOfAPhraseIsShown(t *testing.T) {
	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"a","bars":1,"lanes":[
		{"id":"p","kind":"phrase","rate":"1/4","source":"own","tones":[{}],"span":2,"order":"down","steps":[{"on":true},{"on":true},{"on":true},{}],
		"modulators":[{"on":"span","shape":"square","from":0,"to":3,"way":"add"},{"on":"order","shape":"square","from":-1,"to":0,"way":"add"}]}]}]}`))
	require.NoError(t, err)
	v, err := view.Of(p, &p.Clips[0], nil)
	require.NoError(t, err)
	every := func(x int) []int { return []int{x, x, x, x} }
	assert.Equal(t, []view.Moved{
		{"span", 1, 8, false, every(2), []int{2, 2, 5, 5}}, {"order", 1, len(piece.Orders), false, every(2), []int{1, 1, 2, 2}},
	}, v.Lanes[0].Moved)
	assert.Equal(t, piece.Orders, v.Lanes[0].Moves[10].Words)
}

// Pitches that luck scatters are shown where the steps have theirs.
func TestWhatLuckScattersIsShown(t *testing.T) {
	moved := func(lane string) []view.Moved {
		p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"a","bars":1,"lanes":[{"id":"l","rate":"1/2",` + lane + `,"odds":[{"degrees":2,"octave":-1}]}]}]}`))
		require.NoError(t, err)
		v, err := view.Of(p, &p.Clips[0], nil)
		require.NoError(t, err)
		return v.Lanes[0].Moved
	}
	assert.Equal(t, []view.Moved{
		{"degree", 1, 12, true, []int{3, 1}, []int{5, 1}}, {"octave", -4, 4, true, []int{1, 0}, []int{0, 0}},
	}, moved(`"steps":[{"on":true,"degree":3,"octave":1},{}]`))
	assert.Equal(t, []view.Moved{
		{"octave", -4, 4, true, []int{0, 0}, []int{-1, 0}}, {"offset", -24, 24, true, []int{1, 0}, []int{3, 0}},
	}, moved(`"kind":"phrase","source":"own","tones":[{}],"steps":[{"on":true,"offset":1},{}]`))
	assert.Equal(t, []int{1, 0}, moved(`"kind":"phrase","source":"own","tones":[{}],"steps":[{"on":true,"offset":1,"in":"semitones"},{}]`)[1].Values, "an offset in semitones counts no degrees")
	assert.Empty(t, moved(`"kind":"chords","steps":[{"on":true},{}]`), "steps of chords have no degrees")
}

// What a control lane's modulators may move is by what it moves itself.
func TestWhatModulatorsMayMove(t *testing.T) {
	for target, want := range map[string]view.Move{
		`{"controller":74}`: {"value", 0, 127, []string{}, 32, 95},
		`"wheel"`:           {"value", -100, 100, []string{}, -50, 50},
	} {
		p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"a","lanes":[{"id":"l"},{"kind":"control","to":"l","target":` + target + `},{"kind":"layer","of":"l"}]}]}`))
		require.NoError(t, err)
		v, err := view.Of(p, &p.Clips[0], nil)
		require.NoError(t, err)
		assert.Contains(t, v.Lanes[1].Moves, want)
		assert.Empty(t, v.Lanes[2].Moves, "a layer has no steps")
	}
}
