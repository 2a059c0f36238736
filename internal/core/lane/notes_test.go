package lane_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"agrimony/internal/core/lane"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
	"agrimony/internal/core/review"
)

// freePiece is a piece in D dorian with a clip of two bars and one lane of free notes.
func freePiece(t testing.TB, rest string) *piece.Piece {
	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"key":{"tonic":"D","scale":"dorian"},"clips":[{"id":"a","bars":2,"lanes":[
		{"id":"drift","name":"Drift","kind":"notes","octave":4,` + rest + `}]}]}`))
	require.NoError(t, err)
	return p
}

// sounded writes the notes of a clip's first lane, "number at length pitch", and of each wheel
// position that is a turn nothing: those are looked at apart.
func sounded(t testing.TB, p *piece.Piece) string {
	performance, err := lane.Render(p, &p.Clips[0], render.Options{})
	require.NoError(t, err)
	var out []string
	for _, n := range performance.Events().Notes {
		if n.Lane == "drift" {
			out = append(out, fmt.Sprintf("%d %d+%d %s", n.Step, n.At, n.Length, n.Name))
		}
	}
	return strings.Join(out, ", ")
}

func TestHowFreeNotesSound(t *testing.T) {
	for name, c := range map[string][2]string{
		"anywhere, by degrees or MIDI notes":                  {`"notes":[{"at":7,"length":33,"degree":3},{"at":90,"length":9,"note":61}]`, "1 7+33 F4, 2 90+9 C#4"},
		"a MIDI note is never locked, a degree is":            {`"notes":[{"at":0,"length":9,"degree":1,"alter":1},{"at":9,"length":9,"note":63}]`, "1 0+9 D4, 2 9+9 Eb4"},
		"many at a time":                                      {`"notes":[{"at":0,"length":900},{"at":100,"length":900,"degree":3}]`, "1 0+900 D4, 2 100+900 F4"},
		"the same pitch struck again ends a note":             {`"notes":[{"at":0,"length":900},{"at":100,"length":50}]`, "1 0+100 D4, 2 100+50 D4"},
		"of two on one pitch at once the later sounds":        {`"notes":[{"at":0,"length":900},{"at":0,"length":50}]`, "2 0+50 D4"},
		"one voice: a later onset cuts":                       {`"voices":"one","notes":[{"at":0,"length":900},{"at":100,"length":50,"degree":3}]`, "1 0+100 D4, 2 100+50 F4"},
		"one voice: of two at once the later in the document": {`"voices":"one","notes":[{"at":0,"length":900},{"at":0,"length":50,"degree":3}]`, "2 0+50 F4"},
		"a tie runs on over silence into the same pitch":      {`"voices":"one","notes":[{"at":0,"length":100,"tie":true},{"at":500,"length":100}]`, "1 0+600 D4"},
		"a tie into another pitch is legato":                  {`"voices":"one","notes":[{"at":0,"length":100,"tie":true},{"at":500,"length":100,"degree":3}]`, "1 0+530 D4, 2 500+100 F4"},
		"a tie into a glide makes no onset":                   {`"voices":"one","notes":[{"at":0,"length":100,"tie":true},{"at":500,"length":100,"degree":3,"glide":{"time":50}}]`, "1 0+600 D4"},
		"what chance silences is not there for a tie":         {`"voices":"one","notes":[{"at":0,"length":100,"tie":true},{"at":300,"length":100,"degree":2,"chance":0},{"at":500,"length":100,"degree":3}]`, "1 0+530 D4, 3 500+100 F4"},
		"many: a tie does nothing":                            {`"notes":[{"at":0,"length":100,"tie":true},{"at":500,"length":100}]`, "1 0+100 D4, 2 500+100 D4"},
		"its loop comes round":                                {`"loop":{"start":960,"length":3840},"notes":[{"at":960,"length":10},{"at":0,"length":5,"degree":5}]`, "1 0+10 D4, 1 3840+10 D4"},
		"what runs over its loop's end is cut there":          {`"loop":{"length":3840},"notes":[{"at":3800,"length":400}]`, "1 3800+40 D4, 1 7640+40 D4"},
		"in one voice a tie runs over the loop's end":         {`"loop":{"length":3840},"voices":"one","notes":[{"at":0,"length":100,"degree":3},{"at":3800,"length":10,"tie":true}]`, "1 0+100 F4, 2 3800+70 D4, 1 3840+100 F4, 2 7640+40 D4"},
		"a restart ends what sounds":                          {`"restart":1,"notes":[{"at":3000,"length":5000},{"at":0,"length":5,"degree":5}]`, "2 0+5 A4, 1 3000+840 D4, 2 3840+5 A4, 1 6840+840 D4"},
		"without a loop the clip's bars are its round":        {`"notes":[{"at":7000,"length":99999,"number":5}]`, "5 7000+680 D4"},
		"rounds": {`"loop":{"length":1920},"notes":[{"at":0,"length":5,"rounds":{"of":2,"on":[2]}}]`, "1 1920+5 D4, 1 5760+5 D4"},
		"a gate is in % of the length, before the loop's end cuts": {`"loop":{"length":3840},"modulators":[{"on":"gate","shape":"square","every":"2bar","from":200,"to":50}],"notes":[{"at":0,"length":1000},{"at":3000,"length":800,"degree":3}]`, "1 0+2000 D4, 2 3000+840 F4, 1 3840+500 D4, 2 6840+400 F4"},
		"its range moves notes by octaves":                         {`"range":{"low":48,"high":60},"notes":[{"at":0,"length":5},{"at":9,"length":5,"note":73}]`, "1 0+5 D3, 2 9+5 C#3"},
		"luck moves a MIDI note by octaves alone":                  {`"odds":[{"degrees":2,"octave":1}],"notes":[{"at":0,"length":5},{"at":9,"length":5,"note":61}]`, "1 0+5 F5, 2 9+5 C#5"},
	} {
		assert.Equal(t, c[1], sounded(t, freePiece(t, c[0])), name)
	}
}

func TestThePeriodOfFreeNotes(t *testing.T) {
	for rest, ticks := range map[string]int64{
		`"loop":{"length":3360},"notes":[{"at":0,"length":9}]`:                                                                 3360,
		`"notes":[{"at":0,"length":9}]`:                                                                                        7680,
		`"loop":{"length":1000},"notes":[{"at":0,"length":9,"rounds":{"of":3,"on":[1]}}]`:                                      3000,
		`"loop":{"length":1000},"restart":1,"notes":[{"at":0,"length":9}]`:                                                     3840,
		`"loop":{"length":3840},"modulators":[{"on":"velocity","every":"3bar","from":1,"to":9}],"notes":[{"at":0,"length":9}]`: 11520,
	} {
		p := freePiece(t, rest)
		performance, err := lane.Render(p, &p.Clips[0], render.Options{})
		require.NoError(t, err)
		assert.Equal(t, ticks, *performance.Events().Cycle.Lanes[0].Ticks, rest)
	}
	empty := freePiece(t, `"loop":{"start":960,"length":960},"notes":[{"at":0,"length":9}]`)
	performance, err := lane.Render(empty, &empty.Clips[0], render.Options{})
	require.NoError(t, err)
	assert.Empty(t, performance.Events().Cycle.Lanes, "no note begins in its loop")
	until, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"a","until":"cycle","lanes":[{"id":"drift","kind":"notes","notes":[{"at":3840,"length":9}]}]}]}`))
	require.NoError(t, err)
	performance, err = lane.Render(until, &until.Clips[0], render.Options{})
	require.NoError(t, err)
	assert.Equal(t, "2", performance.Events().Cycle.Bars, "up to the bar line after its last note begins")
}

// What draws decide depends on a note's number, not on its place: taking another away re-rolls
// nothing.
func TestLuckStaysWithANotesNumber(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var notes []string
		count := rapid.IntRange(2, 8).Draw(t, "count")
		for i := range count {
			notes = append(notes, fmt.Sprintf(`{"at":%d,"length":9,"chance":50,"number":%d}`, i*100, i+3))
		}
		gone := rapid.IntRange(0, count-1).Draw(t, "gone")
		heard := func(notes []string) (out []string) {
			p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"a","bars":8,"lanes":[{"id":"drift","kind":"notes","loop":{"length":960},"notes":[` + strings.Join(notes, ",") + `]}]}]}`))
			require.NoError(t, err)
			performance, err := lane.Render(p, &p.Clips[0], render.Options{})
			require.NoError(t, err)
			for _, n := range performance.Events().Notes {
				if n.Step != gone+3 {
					out = append(out, fmt.Sprint(n.Step, n.Round))
				}
			}
			return out
		}
		fewer := append(append([]string{}, notes[:gone]...), notes[gone+1:]...)
		require.Equal(t, heard(notes), heard(fewer))
	})
}

func TestWhatTheReviewSaysOfFreeNotes(t *testing.T) {
	for name, c := range map[string]struct{ rest, rule, message string }{
		"outside its loop": {`"loop":{"length":960},"notes":[{"at":0,"length":9},{"at":2000,"length":9},{"at":3000,"length":9}]`, "outside-loop", "2 notes of Drift begin outside its loop and are silent."},
		"ties of many":     {`"notes":[{"at":0,"length":9,"tie":true},{"at":20,"length":9}]`, "voices", "Ties, glides and bends do nothing in Drift while many notes sound at a time."},
		"nothing yet":      {`"notes":[]`, "silent", "Drift is silent: it has no notes yet."},
		"all outside":      {`"loop":{"length":960},"notes":[{"at":2000,"length":9}]`, "silent", "Drift is silent: its notes begin outside its loop."},
		"a wheel too far":  {`"voices":"one","glide":{"range":2},"notes":[{"at":0,"length":900,"number":7,"bend":[{"at":50,"by":5}]}]`, "glide-range", "Note 7 of Drift moves the wheel by 5 semitones"},
	} {
		p := freePiece(t, c.rest)
		performance, err := lane.Render(p, &p.Clips[0], render.Options{})
		require.NoError(t, err)
		found := map[string]string{}
		for _, f := range review.Clip(performance) {
			found[f.Rule] = f.Message
		}
		assert.Contains(t, found[c.rule], c.message, name)
	}
}

func TestWhatOthersTakeFromFreeNotes(t *testing.T) {
	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"key":{"tonic":"D","scale":"dorian"},"groove":{"swing":66},"clips":[{"id":"a","bars":1,"lanes":[
		{"id":"drift","kind":"notes","octave":4,"share":{"timing":0},"notes":[{"at":0,"length":100},{"at":240,"length":100,"degree":3},{"at":480,"length":100,"degree":5}]},
		{"id":"up","kind":"layer","of":"drift","octave":1},
		{"id":"walk","kind":"phrase","source":"own","tones":[{"degree":1}],"rhythm":{"lane":"drift"},"steps":[{"on":true}]},
		{"id":"sway","kind":"control","to":"drift","target":{"controller":74},"follows":{"lane":"drift","low":62,"high":69}}]}]}`))
	require.NoError(t, err)
	performance, err := lane.Render(p, &p.Clips[0], render.Options{})
	require.NoError(t, err)
	by := map[string][]string{}
	for _, n := range performance.Events().Notes {
		by[n.Lane] = append(by[n.Lane], fmt.Sprintf("%d %s", n.At, n.Name))
	}
	assert.Equal(t, []string{"0 D4", "240 F4", "480 A4"}, by["drift"], "it takes no part in the groove")
	assert.Equal(t, []string{"0 D5", "240 F5", "480 A5"}, by["up"], "a layer of it")
	assert.Len(t, by["walk"], 3, "a rhythm of it")
	assert.NotEmpty(t, performance.Events().Controls, "followed")
}

// A note that a restart cuts keeps that end where an early template moves it, also where the restart is the clip's end.
func TestARestartAtTheClipsEndCutsAsAnyOther(t *testing.T) {
	early := `{"template":{"name":"Own","steps":[{},{},{},{},{},{},{},{},{},{},{},{},{"at":-50},{},{},{}]}}`
	for _, restart := range []string{``, `,"restart":1`} {
		got := heardIn(t, early, `{"id":"n","kind":"notes","octave":2,"loop":{"start":0,"length":7680}`+restart+`,"notes":[{"at":2880,"length":1920,"degree":1}]}`, "n")
		want := map[string]string{``: "1:2760+1080 C2@100", `,"restart":1`: "1:2760+960 C2@100"}[restart]
		assert.Equal(t, want, got, restart)
	}
}
