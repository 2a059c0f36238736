package edit_test

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"agrimony/internal/core/edit"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

const freeHead = `{"format":"agrimony-piece","version":1,"key":{"tonic":"D","scale":"dorian"},"clips":[{"id":"a","bars":2,"lanes":[
	{"id":"line","steps":[{"on":true,"degree":1},{},{"on":true,"degree":3},{},{},{},{},{},{},{},{},{},{},{},{},{}]},
	{"id":"drift","name":"Drift","kind":"notes","octave":4,`

// edited makes edits of the lane of free notes, and writes its notes "number:degree.octave@at+length".
func edited(t testing.TB, lane string, edits ...string) (string, error) {
	p, err := piece.Read([]byte(freeHead + lane + `}]}]}`))
	require.NoError(t, err)
	var ops []op.Op
	for _, text := range edits {
		var o op.Op
		name, rest, _ := strings.Cut(text, " ")
		require.NoError(t, json.Unmarshal([]byte(`{"op":"`+name+`","clip":"a","lane":"drift",`+rest+`}`), &o), text)
		ops = append(ops, o)
	}
	next, err := edit.Apply(p, ops)
	if err != nil {
		return "", err
	}
	return freeText(next.Clips[0].Lanes[1]), nil
}

func freeText(l piece.Lane) string {
	var out []string
	for _, n := range l.Content.(*piece.Notes).Notes {
		pitch := fmt.Sprintf("%d.%d", n.Degree, n.Octave)
		if n.Note != nil {
			pitch = fmt.Sprintf("m%d", *n.Note)
		}
		out = append(out, fmt.Sprintf("%d:%s@%d+%d", n.Number, pitch, n.At, n.Length))
	}
	return strings.Join(out, " ")
}

func TestEditsOfFreeNotes(t *testing.T) {
	const three = `"notes":[{"at":0,"length":240},{"at":240,"length":240,"degree":3},{"at":960,"length":480,"degree":5}]`
	for edit, want := range map[string]string{
		`notes.add "notes":[{"at":100,"length":5,"degree":7},{"at":0,"length":9,"note":38,"number":9}]`: "1:1.0@0+240 9:m38@0+9 4:7.0@100+5 2:3.0@240+240 3:5.0@960+480",
		`notes.set "notes":[1,3],"patch":{"at":700,"length":7}`:                                         "2:3.0@240+240 1:1.0@700+7 3:5.0@700+7",
		`notes.write "notes":[{"number":3,"degree":6},{"number":1,"note":40}]`:                          "1:m40@0+240 2:3.0@240+240 3:6.0@960+480",
		`notes.remove "notes":[2]`:                                          "1:1.0@0+240 3:5.0@960+480",
		`notes.move "notes":[2,3],"later":480,"by":2,"unit":"degree"`:       "1:1.0@0+240 2:5.0@720+240 3:7.0@1440+480",
		`notes.move "notes":[3],"by":3,"unit":"degree"`:                     "1:1.0@0+240 2:3.0@240+240 3:1.1@960+480",
		`notes.move "notes":[1],"later":480,"copy":true`:                    "1:1.0@0+240 2:3.0@240+240 4:1.0@480+240 3:5.0@960+480",
		`notes.place "notes":[1],"place":{"degree":4,"octave":1,"alter":0}`: "1:4.1@0+240 2:3.0@240+240 3:5.0@960+480",
		`notes.cut "notes":[3],"at":1000`:                                   "1:1.0@0+240 2:3.0@240+240 3:5.0@960+40 4:5.0@1000+440",
		`notes.cut "notes":[3],"parts":7`:                                   "1:1.0@0+240 2:3.0@240+240 3:5.0@960+69 4:5.0@1029+68 5:5.0@1097+69 6:5.0@1166+68 7:5.0@1234+69 8:5.0@1303+68 9:5.0@1371+69",
		`notes.reverse "notes":[1,2,3]`:                                     "3:5.0@0+480 2:3.0@960+240 1:1.0@1200+240",
		`notes.repeat "notes":[1,2],"times":2`:                              "1:1.0@0+240 2:3.0@240+240 4:1.0@480+240 5:3.0@720+240 3:5.0@960+480 6:1.0@960+240 7:3.0@1200+240",
		`notes.bring "notes":[2,3],"to":0`:                                  "1:1.0@0+240 2:3.0@0+240 3:5.0@720+480",
		`notes.stretch "notes":[1,2,3],"start":0,"end":2880`:                "1:1.0@0+480 2:3.0@480+480 3:5.0@1920+960",
		`notes.stretch "notes":[2,3],"start":240,"end":840`:                 "1:1.0@0+240 2:3.0@240+120 3:5.0@600+240",
		`notes.paint "stroke":[{"at":10,"place":{"degree":1,"octave":0,"alter":0}},{"at":730,"place":{"degree":4,"octave":0,"alter":0}}]`:                                                                                                "1:1.0@0+240 2:3.0@240+240 4:2.0@240+240 5:3.0@480+240 6:4.0@720+240 3:5.0@960+480",
		`notes.stamp "snap":"1/16","motif":[{"at":90,"length":60,"degree":2},{"at":210,"length":120,"degree":1}],"stroke":[{"at":1920,"place":{"degree":5,"octave":0,"alter":0}},{"at":2300,"place":{"degree":5,"octave":0,"alter":0}}]`: "1:1.0@0+240 2:3.0@240+240 3:5.0@960+480 4:5.0@1920+60 5:4.0@2040+120 6:5.0@2160+60 7:4.0@2280+120",
		`notes.stamp "motif":[{"at":0,"length":100,"degree":1},{"at":100,"length":100,"degree":2}],"stroke":[{"at":2400,"place":{"degree":5,"octave":0,"alter":0}},{"at":2001,"place":{"degree":5,"octave":0,"alter":0}}]`:               "1:1.0@0+240 2:3.0@240+240 3:5.0@960+480 4:5.0@2000+100 5:6.0@2100+100 6:5.0@2200+100 7:6.0@2300+100",
	} {
		got, err := edited(t, three, edit)
		require.NoError(t, err, edit)
		assert.Equal(t, want, got, edit)
	}
	got, err := edited(t, `"notes":[{"at":0,"length":240},{"at":480,"length":240},{"at":600,"length":9,"degree":3}]`, `notes.join "notes":[1,2,3]`)
	require.NoError(t, err)
	assert.Equal(t, "1:1.0@0+720 3:3.0@600+9", got)
	got, err = edited(t, `"notes":[{"at":13,"length":100},{"at":250,"length":100}]`, `notes.stretch "notes":[1,2],"start":13,"end":687,"feel":true,"snap":"1/16"`)
	require.NoError(t, err)
	assert.Equal(t, "1:1.0@13+200 2:1.0@490+200", got, "each keeps its distance from the grid")
}

func TestWhatEditsOfFreeNotesRefuse(t *testing.T) {
	for edit, message := range map[string]string{
		`notes.set "notes":[9],"patch":{}`:                   "there is no note 9 in Drift",
		`notes.set "notes":[1,1],"patch":{}`:                 "note 1 is named twice",
		`notes.set "notes":[1],"patch":{"number":4}`:         "note 1 cannot become 4; its number stays with it",
		`notes.set "notes":[],"patch":{}`:                    "none is named",
		`notes.add "notes":[{"at":0,"length":5,"number":1}]`: "1 is the number of the note at 0 already",
		`notes.add "notes":[{"at":0,"length":5,"degree":8}]`: "degree: 8 is out of reach; allowed: 1..7",
		`notes.move "notes":[1],"later":-1`:                  "1 ticks before the lane's axis does",
		`notes.move "notes":[1],"by":99,"unit":"octave"`:     "octave: 99 is out of reach",
		`notes.cut "notes":[1],"at":5000`:                    "none of these notes sounds there",
		`notes.cut "notes":[1],"parts":1`:                    "1 is out of range; allowed: 2..64",
		`notes.join "notes":[1,2]`:                           "no two of them have the same pitch",
		`notes.stretch "notes":[1],"start":9,"end":9`:        "no time; allowed: an end after the start",
		`notes.paint "stroke":[]`:                            "0 points; allowed: 1..",
		`notes.paint "snap":"1/64T","stroke":[{"at":0,"place":{"degree":1,"octave":0,"alter":0}},{"at":3932159,"place":{"degree":1,"octave":0,"alter":0}}]`: "allowed: at most 20000",
		`notes.stamp "motif":[],"stroke":[{"at":0,"place":{"degree":1,"octave":0,"alter":0}}]`:                                                              "0 notes; allowed: 1..1024",
		`steps.set "steps":[1],"patch":{}`: "notes lanes have no steps",
		`lane.become "as":"song"`:          `"song" is not allowed; allowed: chords, line, pulses`,
		`lane.become "as":"chords"`:        "does not fit as chords",
	} {
		_, err := edited(t, `"notes":[{"at":0,"length":240},{"at":480,"length":240,"degree":3}]`, edit)
		assert.ErrorContains(t, err, message, edit)
	}
}

// Painting a line puts its steps on the rows that the stroke crosses; a motif of it is stamped in whole
// steps.
func TestLinesArePaintedInWholeSteps(t *testing.T) {
	p, err := piece.Read([]byte(freeHead + `"notes":[]}]}]}`))
	require.NoError(t, err)
	degrees := func(l piece.Lane) (out string) {
		for _, s := range l.Content.(*piece.Line).Steps {
			out += map[bool]string{true: fmt.Sprint(s.Degree), false: "."}[s.On]
		}
		return out
	}
	at := func(tick, degree int) op.StrokePoint {
		point := op.StrokePoint{At: tick}
		point.Place.Degree = degree
		return point
	}
	on := op.OnLane{Clip: "a", Lane: "line"}
	next, err := edit.Apply(p, []op.Op{op.Of(op.PaintNotes{OnLane: on, Stroke: []op.StrokePoint{at(970, 2), at(1680, 5)}})})
	require.NoError(t, err)
	assert.Equal(t, "1.3.2345........", degrees(next.Clips[0].Lanes[0]))
	next, err = edit.Apply(p, []op.Op{op.Of(op.StampNotes{OnLane: on, Steps: []int{1, 2, 3}, Stroke: []op.StrokePoint{at(1920, 4), at(3000, 4)}})})
	require.NoError(t, err)
	assert.Equal(t, "1.3.....4.64.6..", degrees(next.Clips[0].Lanes[0]))
}

// What a lane of free notes becomes sounds as it does, to the tick, where nothing is told to differ.
func TestFreeNotesBecomeALineAndBack(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		notes := []string{`{"at":0,"length":120}`, `{"at":240,"length":240}`} // so that sixteenths are the grid
		at := 480
		for range rapid.IntRange(1, 12).Draw(t, "count") {
			at += 240 * rapid.IntRange(0, 2).Draw(t, "rest")
			length := 120 * rapid.IntRange(1, 4).Draw(t, "length")
			notes = append(notes, fmt.Sprintf(`{"at":%d,"length":%d,"degree":%d}`, at, min(length, 240), rapid.IntRange(1, 7).Draw(t, "degree")))
			at += 240
		}
		p, err := piece.Read([]byte(freeHead + `"notes":[` + strings.Join(notes, ",") + `]}]}]}`))
		if err != nil || at > 7680 {
			return
		}
		heard := func(p *piece.Piece) (out []string) {
			performance, err := lane.Render(p, &p.Clips[0], render.Options{Lanes: []string{"drift"}})
			require.NoError(t, err)
			for _, n := range performance.Events().Notes {
				out = append(out, fmt.Sprint(n.At, n.Length, n.Pitch, n.Velocity))
			}
			return out
		}
		next, err := edit.Apply(p, []op.Op{op.Of(op.BecomeLane{OnLane: op.OnLane{Clip: "a", Lane: "drift"}, As: "line"})})
		require.NoError(t, err)
		require.Equal(t, "line", next.Clips[0].Lanes[1].Kind)
		require.Equal(t, heard(p), heard(next))
		back, err := edit.Apply(next, []op.Op{op.Of(op.PrintLanes{OnClip: op.OnClip{Clip: "a"}, Lanes: []string{"drift"}, Bars: 2})})
		require.NoError(t, err)
		require.True(t, back.Clips[0].Lanes[1].Mute)
		require.Equal(t, "notes", back.Clips[0].Lanes[2].Kind)
	})
}

// Doubled, a clip sounds its first half twice, whatever lanes it has; the second half is then its own.
func TestADoubledClipSoundsTwice(t *testing.T) {
	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"a","bars":1,"lanes":[
		{"id":"low","steps":[{"on":true},{"on":true,"rounds":{"of":2,"on":[2]}},{}]},
		{"id":"back","direction":"pendulum","rate":"1/8","steps":[{"on":true},{"on":true,"degree":2},{"on":true,"degree":3}]},
		{"id":"drift","kind":"notes","loop":{"length":960},"notes":[{"at":0,"length":240},{"at":480,"length":900,"degree":3}]},
		{"id":"up","kind":"layer","of":"low","octave":1},
		{"id":"sway","kind":"control","to":"low","target":{"controller":74},"rate":"1/4","steps":[{"on":true,"value":4},{"on":true,"value":90}]}]}]}`))
	require.NoError(t, err)
	heard := func(p *piece.Piece, times int) (notes, controls []string) {
		performance, err := lane.Render(p, &p.Clips[0], render.Options{})
		require.NoError(t, err)
		events := performance.Events()
		for k := range int64(times) {
			for _, n := range events.Notes {
				notes = append(notes, fmt.Sprint(n.Lane, n.At+k*events.Ticks, n.Length, n.Pitch))
			}
			for _, c := range events.Controls {
				controls = append(controls, fmt.Sprint(c.At+k*events.Ticks, c.Value))
			}
		}
		return notes, controls
	}
	next, err := edit.Apply(p, []op.Op{op.Of(op.DoubleClip{OnClip: op.OnClip{Clip: "a"}})})
	require.NoError(t, err)
	assert.Equal(t, 2, next.Clips[0].Bars)
	wantNotes, wantControls := heard(p, 2)
	notes, controls := heard(next, 1)
	assert.ElementsMatch(t, wantNotes, notes)
	assert.ElementsMatch(t, wantControls, controls)
	varied, err := edit.Apply(next, []op.Op{op.Of(op.SetSteps{OnSteps: op.OnSteps{Clip: "a", Lane: "low", Steps: []int{17}}, Patch: json.RawMessage(`{"degree":5}`)})})
	require.NoError(t, err)
	first, _ := heard(varied, 1)
	assert.NotEqual(t, notes, first, "the second half is its own")
}
