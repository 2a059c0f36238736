package review_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/edit"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
	"agrimony/internal/core/review"
)

// tune writes a line as a musician would: degrees with ' an octave up and , an octave down, # and b after them, > struck
// hard and ~ softly; - holds on, . rests.
func tune(id string, octave int, rate, text string, more ...string) string {
	var steps []string
	words := strings.Fields(text)
	for i, word := range words {
		tie := i+1 < len(words) && words[i+1] == "-"
		switch word {
		case ".":
			steps = append(steps, `{}`)
			continue
		case "-":
			steps = append(steps, fmt.Sprintf(`{"gate":100,"tie":%v}`, tie))
			continue
		}
		velocity := 96
		if strings.Contains(word, ">") {
			velocity = 116
		}
		if strings.Contains(word, "~") {
			velocity = 78
		}
		steps = append(steps, fmt.Sprintf(`{"on":true,"degree":%c,"octave":%d,"alter":%d,"velocity":%d,"tie":%v}`, word[0],
			strings.Count(word, "'")-strings.Count(word, ","), strings.Count(word, "#")-strings.Count(word, "b"), velocity, tie))
	}
	return fmt.Sprintf(`{"id":%q,"name":%q,"octave":%d,"rate":%q,%s"steps":[%s]}`, id, id, octave, rate, strings.Join(more, ""), strings.Join(steps, ","))
}

// pad is a chord a bar on each of the degrees, in the octave of middle C unless another one is named.
func pad(degrees string, octave int, more ...string) string {
	var palette, steps []string
	for i, d := range strings.Fields(degrees) {
		var tones []string
		for _, above := range []int{0, 2, 4} {
			at := int(d[0]-'1') + above
			tones = append(tones, fmt.Sprintf(`{"degree":%d,"octave":%d}`, at%7+1, at/7))
		}
		palette = append(palette, `{"tones":[`+strings.Join(tones, ",")+`]}`)
		steps = append(steps, fmt.Sprintf(`{"on":true,"chord":%d}`, i+1))
	}
	return fmt.Sprintf(`{"id":"pad","name":"pad","kind":"chords","rate":"1bar","octave":%d,%s"palette":[%s],"steps":[%s]}`,
		octave, strings.Join(more, ""), strings.Join(palette, ","), strings.Join(steps, ","))
}

// drum is a rhythm of a drum: x hard, o softer.
func drum(id string, note int, text string) string {
	var steps []string
	for _, hit := range text {
		steps = append(steps, map[rune]string{'x': `{"on":true,"velocity":118}`, 'o': `{"on":true,"velocity":84}`, '.': `{}`}[hit])
	}
	return fmt.Sprintf(`{"id":%q,"name":%q,"kind":"pulse","note":%d,"channel":10,"steps":[%s]}`, id, id, note, strings.Join(steps, ","))
}

const (
	inC = `{"tonic":"C","scale":"major"}`
	inA = `{"tonic":"A","scale":"natural minor"}`
)

var fourBeats = drum("kick", 36, "x...x...x...x...")

// Forty clips as a colleague hears them: what is wrong with the bad ones, and nothing with the good ones.
var forty = []struct {
	name, wrong, key string
	bars             int
	lanes            []string
}{
	{"a bass of roots in eighths", "", inA, 4, []string{pad("1 6 3 7", 4), tune("low", 2, "1/8", "1> 1~ 1 1~ 1> 1~ 1 5,~ 6,> 6,~ 6, 6,~ 6,> 6,~ 6, 3~ 3> 3~ 3 3~ 3> 3~ 3 1~ 7,> 7,~ 7, 7,~ 7,> 7,~ 7, 5,~")}},
	{"suspensions that resolve", "", inC, 4, []string{pad("1 4 5 1", 4), tune("lead", 5, "1/4", "4> 3 5~ . 5> 4 6~ . 1> 7, 2~ . 4> 3 1~ .")}},
	{"a pedal under four chords", "", inA, 4, []string{pad("1 6 4 1", 4), tune("low", 2, "1/4", "1> 1~ 1 1~ 1> 1~ 1 1~ 1> 1~ 1 1~ 1> 1~ 1 5,~")}},
	{"sevenths over their roots", "", inC, 2, []string{pad("1 4", 4), tune("lead", 5, "1/4", "7> - 5~ . 3'> - 1'~ .")}},
	{"a raised fourth over major", "", `{"tonic":"F","scale":"lydian"}`, 2, []string{pad("1 2", 4), tune("lead", 5, "1/4", "4> - 5~ . 6> - 3~ .")}},
	{"a leading tone that goes home", "", `{"tonic":"A","scale":"harmonic minor"}`, 2, []string{pad("1 4", 4), tune("lead", 4, "1/4", "1> 3~ 7 1' 6> 4~ 3 1~")}},
	{"a third against a seventh", "", inC, 1, []string{strings.Replace(pad("5", 4), `{"degree":7,"octave":0}`, `{"degree":4,"octave":1}`, 1), tune("lead", 5, "1/4", "7> 2~ 5 .")}},
	{"a bass beside the kick", "", inA, 2, []string{fourBeats, tune("low", 2, "1/16", ". . 1> . . . 1~ . . . 1> . . . 5,~ . . . 1> . . . 1~ . . . 7,> . . . 5,~ .")}},
	{"a bass that walks", "", inC, 4, []string{pad("1 6 2 5", 4), tune("low", 2, "1/4", "1> 2~ 3 5,~ 6,> 7,~ 1 3~ 2> 3~ 4 6,~ 5,> 6,~ 7, 2~")}},
	{"an arpeggio in two strengths", "", inA, 2, []string{pad("1 6", 4), `{"id":"arp","name":"arp","kind":"phrase","octave":4,"steps":[{"on":true,"velocity":110},{"on":true,"velocity":84},{"on":true,"velocity":92},{"on":true,"velocity":84}]}`}},
	{"two melodies in thirds", "", inC, 2, []string{tune("one", 5, "1/8", "1> 2~ 3 4~ 5> 4~ 3 2~ 1> 2~ 3 2~ 1> . 5,~ ."), tune("two", 4, "1/8", "6> 7~ 1' 2'~ 3'> 2'~ 1' 7~ 6> 7~ 1' 7~ 6> . 3'~ .")}},
	{"octaves by a layer", "", inC, 2, []string{tune("one", 4, "1/8", "1> 2~ 3 4~ 5> 4~ 3 2~ 1> 2~ 3 2~ 1> . 5~ ."), `{"id":"above","name":"above","kind":"layer","of":"one","octave":1}`}},
	{"sixteenths that breathe", "", inA, 2, []string{tune("low", 2, "1/16", "1> 1~ 1 1~ 1> 1~ 1 3~ 1> 1~ 1 1~ 1> 1~ 5, 7,~ 1> 1~ 1 1~ 1> 1~ 1 3~ 1> 1~ 1 1~ 5,> 7,~ . .")}},
	{"a held sub with a pickup", "", inA, 2, []string{pad("1", 4), tune("sub", 2, "1/8", "1> - - - - - - - - - - - - - 5,~ 7,")}},
	{"a loop that ends on its third", "", inC, 1, []string{tune("lead", 4, "1/4", "5> 4~ 1 3")}},
	{"a loop that ends on its leading tone", "", `{"tonic":"A","scale":"harmonic minor"}`, 1, []string{tune("lead", 4, "1/4", "5> 4~ 1 7,")}},
	{"the sixth of dorian", "", `{"tonic":"D","scale":"dorian"}`, 2, []string{pad("1 4", 4), tune("lead", 5, "1/4", "6> - 5~ . 6> - 1~ .")}},
	{"a semitone in passing", "", inC, 1, []string{tune("one", 4, "1/16", "5> - - - 5~ - - - 5> - - - 3~ - - ."), tune("two", 5, "1/16", "1> . . . 4~ 3 . . 1> . . . 1~ . . .")}},
	{"a hook of three notes over a pad", "", inA, 2, []string{pad("1 6", 4), tune("hook", 5, "1/8", "5> . 3~ . 1 . . . 5> . 3~ . 1 . 3~ .")}},
	{"drums with accents", "", inC, 1, []string{drum("kick", 36, "x.....o.x......."), drum("hat", 42, "x.o.x.o.x.o.x.oo")}},

	{"a ninth of a semitone on the one", "clash", inC, 2, []string{pad("1 4", 4), tune("lead", 5, "1/4", "4> - - . 1> - - .")}},
	{"a note held into a chord that it is not in", "clash", inC, 2, []string{pad("4 1", 4), tune("lead", 5, "1/4", "4> - - - - - . .")}},
	{"a quarter against the chord on a weak beat", "clash", inC, 1, []string{pad("1", 4), tune("lead", 5, "1/8", "1> . 4~ - - . 1 .")}},
	{"two leads a semitone apart", "rub", inC, 1, []string{tune("one", 5, "1/4", "3> - . 1~"), tune("two", 5, "1/4", "4> - . 1~")}},
	{"a bass a ninth under the lead", "rub", inA, 1, []string{tune("low", 2, "1/4", "2> - 1~ ."), tune("lead", 4, "1/4", "3> - 1~ .")}},
	{"parallel fifths", "parallel", inC, 2, []string{tune("one", 4, "1/8", "5> 6~ 5 4~ 3> 4~ 5 . 5> . . . 5~ . . ."), tune("two", 4, "1/8", "1> 2~ 1 7b,~ 6,> 7b,~ 1 . 3> . . . 3~ . . .", `"lock":"off",`)}},
	{"octaves of two lines", "parallel", inC, 2, []string{tune("one", 4, "1/8", "1> 2~ 3 4~ 5> 4~ 3 2~ 1> . . . 5~ . . ."), tune("two", 3, "1/8", "1> 2~ 3 4~ 5> 4~ 3 2~ 3> . . . 1~ . . .")}},
	{"two basses a third apart", "muddy", inC, 1, []string{tune("one", 2, "1/4", "1> - 1~ -"), tune("two", 2, "1/4", "3> - 3~ -")}},
	{"triads in the bass's octave", "muddy", inC, 2, []string{pad("1 4", 2)}},
	{"a bass under what is heard", "too-low", inC, 1, []string{tune("low", 0, "1/4", "1> 1~ 5 1~")}},
	{"a bass that falls too far", "too-low", inC, 1, []string{tune("low", 2, "1/4", "1> 5,~ 3, 2,,~")}},
	{"a held bass over four beats", "over-kick", inA, 2, []string{fourBeats, tune("low", 2, "1/8", "1> - - - - - - - 6,> - - - - - 5,~ .")}},
	{"a bass on every kick", "over-kick", inA, 1, []string{fourBeats, tune("low", 2, "1/4", "1> 1~ 5, 7,~")}},
	{"two bars of sixteenths without a rest", "no-breath", inA, 2, []string{tune("low", 2, "1/16", strings.TrimSpace(strings.Repeat("1> 1~ 1 3~ 5> 4~ 3 2~ ", 4)))}},
	{"a bar of sixteenths that never stops", "no-breath", inA, 4, []string{tune("lead", 4, "1/16", strings.TrimSpace(strings.Repeat("1> 3~ 5 3~ ", 4)))}},
	{"hats like a machine", "one-velocity", inC, 1, []string{drum("hat", 42, strings.Repeat("o", 16))}},
	{"a bass struck all alike", "one-velocity", inA, 4, []string{tune("low", 2, "1/8", "1 1 . 1 5, . 1 1 1 1 . 1 5, . 7, 7,")}},
	{"a bass over the chords", "bass-over", inC, 2, []string{pad("1 4", 3), tune("low", 2, "1/4", "1> 1~ 3' 1~ 4,> 4,~ 4, 5,~")}},
	{"a loop that stops on its sixth", "seam", inC, 1, []string{tune("lead", 4, "1/4", "1> 3~ 5 6~")}},
	{"a line beside its chords", "chord-share", inC, 1, []string{pad("1", 4), tune("lead", 5, "1/8", "2> . 6~ . 2 . 6~ 1")}},
}

// At least nine of ten bad clips are found, and at most one of ten good ones is remarked on.
func TestTheReviewHearsAsAColleague(t *testing.T) {
	require.Len(t, forty, 40)
	missed, flagged := 0, 0
	for _, row := range forty {
		p, err := piece.Read([]byte(fmt.Sprintf(`{"format":"agrimony-piece","version":1,"key":%s,"clips":[{"id":"a","bars":%d,"lanes":[%s]}]}`, row.key, row.bars, strings.Join(row.lanes, ","))))
		require.NoError(t, err, row.name)
		performance, err := lane.Render(p, &p.Clips[0], render.Options{Bars: row.bars})
		require.NoError(t, err, row.name)
		found := review.Clip(performance)
		at := indexOf(found, row.wrong)
		switch {
		case row.wrong == "" && len(found) > 0:
			flagged++
			t.Logf("%s: %s: %s", row.name, found[0].Rule, found[0].Message)
		case row.wrong != "" && at < 0:
			missed++
			t.Logf("%s: missed among %v", row.name, found)
		case row.wrong != "" && found[at].Mend != nil:
			next, err := edit.Apply(p, found[at].Mend.Ops)
			require.NoError(t, err, row.name)
			performance, err := lane.Render(next, &next.Clips[0], render.Options{Bars: row.bars})
			require.NoError(t, err, row.name)
			assert.Less(t, indexOf(review.Clip(performance), row.wrong), 0, "%s: %s mends it", row.name, found[at].Mend.Label)
		}
	}
	assert.LessOrEqual(t, missed, 2, "of twenty bad clips")
	assert.LessOrEqual(t, flagged, 2, "of twenty good clips")
}

// What the review is told to be quiet about, for a lane or everywhere, it does not say; what keeps a lane silent it says.
func TestTheReviewCanBeQuiet(t *testing.T) {
	document := func(own, everywhere string) []render.Finding {
		p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,` + everywhere + `"clips":[{"id":"a","bars":1,"lanes":[` + tune("lead", 4, "1/4", "1> 3~ 5 6~", own) + `]}]}`))
		require.NoError(t, err)
		return findings(t, p)
	}
	assert.GreaterOrEqual(t, indexOf(document("", ""), "seam"), 0)
	assert.Less(t, indexOf(document(`"quiet":["seam"],`, ""), "seam"), 0)
	assert.Less(t, indexOf(document("", `"quiet":["seam"],`), "seam"), 0)
	assert.GreaterOrEqual(t, indexOf(document(`"quiet":["halves"],`, `"quiet":["clash"],`), "seam"), 0)
	for _, wrong := range []string{`"quiet":["silent"],`, `"quiet":["seam","seam"],`} {
		_, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,` + wrong + `"clips":[]}`))
		assert.ErrorContains(t, err, "quiet[", wrong)
	}
}
