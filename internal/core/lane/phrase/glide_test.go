package phrase_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"agrimony/internal/core/render"
)

// sounding writes what a single lane sends: notes, bends and controllers.
func sounding(p *render.Performance) string {
	events := p.Events()
	var out []string
	for _, n := range events.Notes {
		out = append(out, fmt.Sprint("note ", n.At, " ", n.Length, " ", n.Pitch))
	}
	for _, b := range events.Bends {
		out = append(out, fmt.Sprint("bend ", b.At, " ", b.Value))
	}
	for _, c := range events.Controls {
		out = append(out, fmt.Sprint("control ", c.At, " ", c.Controller, " ", c.Value))
	}
	return strings.Join(out, "\n")
}

// While one voice sounds, a phrase glides and bends as a line with the same pitches does.
func TestOneVoiceGlidesAsALineDoes(t *testing.T) {
	twin := func(t assert.TestingT, mode string, steps []string) {
		var line, phrase []string
		order := []string{}
		for i, s := range steps {
			degree := []int{1, 5, 3, 8, 2, 6}[i%6]
			octave := 0
			if degree > 7 {
				degree, octave = degree-7, 1
			}
			line = append(line, strings.Replace(s, `{"on":true`, fmt.Sprintf(`{"on":true,"degree":%d,"octave":%d`, degree, octave), 1))
			phrase = append(phrase, s)
			if strings.Contains(s, `"on":true`) {
				order = append(order, fmt.Sprint([]int{1, 5, 3, 7, 2, 6}[i%6]))
			}
		}
		lane := `"id":"x","rate":"1/4","octave":3,"glide":{"mode":"` + mode + `","range":12},`
		// Rungs 1..6 are the degrees, 7 the octave over the first.
		tones := `"source":"own","walk":"never","tones":[{"degree":1},{"degree":2},{"degree":3},{"degree":4},{"degree":5},{"degree":6}],"order":[` + strings.Join(order, ",") + `],`
		want := perform(t.(interface {
			assert.TestingT
			FailNow()
		}), `{`+lane+`"steps":[`+strings.Join(line, ",")+`]}`, 1)
		got := perform(t.(interface {
			assert.TestingT
			FailNow()
		}), `{"kind":"phrase",`+lane+tones+`"steps":[`+strings.Join(phrase, ",")+`]}`, 1)
		assert.Equal(t, sounding(want), sounding(got), "%s %v", mode, steps)
	}
	for _, mode := range []string{"bend", "legato"} {
		for _, steps := range [][]string{
			{`{"on":true,"tie":true}`, `{"on":true,"glide":{"time":60}}`, `{}`, `{}`},
			{`{"on":true}`, `{"on":true,"glide":{"time":60,"curve":30}}`, `{"on":true,"glide":{"time":90,"from":-5}}`, `{}`},
			{`{"on":true,"tie":true}`, `{"on":true,"tie":true,"glide":{}}`, `{"on":true,"tie":true}`, `{"on":true}`},
			{`{"on":true,"bend":[{"at":0,"by":-2},{"at":50,"by":0}]}`, `{}`, `{"on":true,"ratchet":2,"bend":[{"at":0,"by":1},{"at":100,"by":0}]}`, `{}`},
		} {
			twin(t, mode, steps)
		}
	}
	rapid.Check(t, func(t *rapid.T) {
		var steps []string
		for i := range 4 {
			if i > 0 && !rapid.Bool().Draw(t, "on") {
				steps = append(steps, fmt.Sprintf(`{"tie":%t}`, rapid.Bool().Draw(t, "tie")))
				continue
			}
			glide := ""
			if rapid.Bool().Draw(t, "glides") {
				glide = fmt.Sprintf(`,"glide":{"time":%d,"curve":%d}`, rapid.IntRange(0, 200).Draw(t, "time"), rapid.IntRange(-100, 100).Draw(t, "curve"))
			}
			steps = append(steps, fmt.Sprintf(`{"on":true,"tie":%t,"gate":%d%s}`, rapid.Bool().Draw(t, "tie"), rapid.IntRange(1, 100).Draw(t, "gate"), glide))
		}
		twin(t, rapid.SampledFrom([]string{"bend", "legato"}).Draw(t, "mode"), steps)
	})
}

// Several voices are never glided.
func TestSeveralVoicesDoNotGlide(t *testing.T) {
	p := perform(t, `{"id":"p","kind":"phrase","rate":"1/4","voices":2,"steps":[{"on":true,"tie":true},{"on":true,"glide":{"time":80}},{"on":true,"glide":{"time":50},"bend":[{"at":0,"by":3}]},{}]},`+chords, 1)
	for _, bend := range p.Lanes[0].Bends {
		assert.Zero(t, bend.Value)
	}
}
