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

// crafted renders lanes in C major, two bars of 4/4 unless told otherwise.
func crafted(t require.TestingT, lanes string, bars int) *render.Performance {
	p, err := piece.Read(fmt.Appendf(nil, `{"format":"agrimony-piece","version":1,"clips":[{"id":"a","bars":%d,"lanes":[%s]}]}`, bars, lanes))
	require.NoError(t, err)
	out, err := lane.Render(p, &p.Clips[0], render.Options{})
	require.NoError(t, err)
	return out
}

// said writes the notes of a lane by a format of at, pitch, velocity and length.
func said(p *render.Performance, index int, format string) string {
	var out []string
	for i := range p.Lanes[index].Notes {
		n := &p.Lanes[index].Notes[i]
		at, length := p.Span(n, 960)
		out = append(out, strings.NewReplacer("at", fmt.Sprint(at), "p", fmt.Sprint(n.Pitch), "v", fmt.Sprint(n.Velocity), "l", fmt.Sprint(length)).Replace(format))
	}
	return strings.Join(out, " ")
}

func eighths(fields string, steps int) string {
	return fmt.Sprintf(`{"id":"l","rate":"1/8",%s"steps":[%s]}`, fields, strings.TrimSuffix(strings.Repeat(`{"on":true},`, steps), ","))
}

// Every shape from 0 to 100 over a bar of eight steps, as velocities moved from 20.
func TestShapesOfModulators(t *testing.T) {
	for shape, want := range map[string]string{
		"sine":     "60 88 100 88 60 32 20 32",
		"triangle": "60 80 100 80 60 40 20 40",
		"rise":     "20 30 40 50 60 70 80 90",
		"fall":     "100 90 80 70 60 50 40 30",
		"square":   "20 20 20 20 100 100 100 100",
	} {
		p := crafted(t, eighths(fmt.Sprintf(`"modulators":[{"on":"velocity","shape":%q,"from":20,"to":100}],`, shape), 8), 1)
		assert.Equal(t, want, said(p, 0, "v"), shape)
	}
	p := crafted(t, eighths(`"modulators":[{"on":"velocity","shape":"steps","values":[0,50,100],"every":"3bar","from":20,"to":100}],`, 8), 3)
	assert.Equal(t, strings.Repeat("20 ", 8)+strings.Repeat("60 ", 8)+strings.TrimSpace(strings.Repeat("100 ", 8)), said(p, 0, "v"))
	p = crafted(t, eighths(`"modulators":[{"on":"velocity","shape":"rise","phase":50,"from":20,"to":100}],`, 8), 1)
	assert.Equal(t, "60 70 80 90 20 30 40 50", said(p, 0, "v"), "half a period on")
}

// Two steps of a half are moved to one end, two to the other.
func TestModulatorsMoveFields(t *testing.T) {
	square := func(field string, from, to int, way string) string {
		return fmt.Sprintf(`"modulators":[{"on":%q,"shape":"square","every":"1/2","from":%d,"to":%d,"way":%q}],`, field, from, to, way)
	}
	for name, row := range map[string]struct{ fields, format, want string }{
		"gate is set":                    {square("gate", 50, 100, "set"), "l", "240 240 480 480"},
		"gate is added to and clamped":   {square("gate", -80, 25, "add"), "l", "5 5 480 480"},
		"nudge":                          {square("nudge", 0, 25, "set"), "at", "0 480 1080 1560"},
		"ratchet":                        {square("ratchet", 1, 2, "set"), "at", "0 480 960 1200 1440 1680"},
		"a chance of none":               {square("chance", 100, 0, "set"), "at", "0 480"},
		"degrees run on into the octave": {square("degree", 7, 9, "set"), "p", "59 59 62 62"},
		"below 1 they run down":          {square("degree", 0, -1, "add"), "p", "48 48 47 47"},
		"octaves":                        {square("octave", 0, 1, "set"), "p", "48 48 60 60"},
	} {
		p := crafted(t, eighths(row.fields, 8), 1)
		assert.Equal(t, row.want, strings.Join(strings.Fields(said(p, 0, row.format))[:len(strings.Fields(row.want))], " "), name)
	}
}

func TestTheRangeIsTheLastOfPitch(t *testing.T) {
	steps := `"steps":[{"on":true,"octave":-1},{"on":true,"degree":5},{"on":true,"octave":2},{"on":true,"degree":3,"octave":3}]`
	p := crafted(t, `{"id":"l","rate":"1/4","range":{"low":48,"high":62},`+steps+`}`, 1)
	assert.Equal(t, "48 55 60 52", said(p, 0, "p"))
	assert.Contains(t, message(p, "range"), "3 notes were outside its range of C3..D4 and moved")
	p = crafted(t, `{"id":"l","rate":"1/4","range":{"low":48,"high":62,"outside":"drop"},`+steps+`}`, 1)
	assert.Equal(t, "960 55", said(p, 0, "at p"), "left out, and nothing is cut")
	p = crafted(t, `{"id":"d","kind":"pulse","note":20,"rate":"1/1","range":{"low":36,"high":48},"steps":[{"on":true}]}`, 1)
	assert.Equal(t, "44", said(p, 0, "p"))
	chord := `"kind":"chords","rate":"1/1","palette":[{"tones":[{"degree":1},{"degree":3},{"degree":5},{"degree":1,"octave":1}]}],"steps":[{"on":true}]}`
	p = crafted(t, `{"id":"c","range":{"low":50,"high":64},`+chord, 1)
	assert.Equal(t, "52 55 60", said(p, 0, "p"), "two that meet are one")
	p = crafted(t, `{"id":"c","mute":true,`+chord+`,{"id":"p","kind":"phrase","rate":"1/4","octave":4,"span":2,"range":{"low":60,"high":72},"steps":[{"on":true}]}`, 1)
	assert.Equal(t, "60 64 67 72", said(p, 0, "p"))
}

func message(p *render.Performance, rule string) string {
	for _, f := range review.Clip(p) {
		if f.Rule == rule {
			return f.Message
		}
	}
	return ""
}

func TestOddsAreDrawnByTheirWeights(t *testing.T) {
	p := crafted(t, eighths(`"odds":[{"weight":60},{"weight":30,"ratchet":2,"velocity":[-20,20]},{"weight":10,"rest":true}],`, 8), 512)
	var plain, twice int
	spread := map[int]bool{}
	for i := range p.Lanes[0].Notes {
		n := &p.Lanes[0].Notes[i]
		if _, length := p.Span(n, 960); length == 360 {
			plain++
			assert.EqualValues(t, 100, n.Velocity)
		} else {
			twice++
			spread[int(n.Velocity)] = true
		}
	}
	assert.InDelta(t, 0.6, float64(plain)/4096, 0.03)
	assert.InDelta(t, 0.3, float64(twice)/2/4096, 0.03)
	assert.Len(t, spread, 41, "80 to 120, each at some time")
}

// Touching one step draws no other anew, in odds as in chance.
func TestTouchingAStepDrawsNoOtherAnew(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		seed := rapid.IntRange(0, 1000).Draw(t, "seed")
		at := func(third string) string {
			doc := fmt.Sprintf(`{"format":"agrimony-piece","version":1,"seed":%d,"clips":[{"id":"a","bars":8,"lanes":[{"id":"l","rate":"1/8",
				"odds":[{"weight":2},{"weight":1,"octave":[-1,1],"degrees":[0,4]},{"weight":1,"rest":true,"gate":[10,90]}],"steps":[{"on":true},{"on":true,"chance":60},%s,{"on":true}]}]}]}`, seed, third)
			p, err := piece.Read([]byte(doc))
			require.NoError(t, err)
			out, err := lane.Render(p, &p.Clips[0], render.Options{})
			require.NoError(t, err)
			var all []string
			for i := range out.Lanes[0].Notes {
				if n := &out.Lanes[0].Notes[i]; n.Step != 3 {
					all = append(all, fmt.Sprint(n.At, n.Pitch, n.Step, n.Round))
				}
			}
			return strings.Join(all, " ")
		}
		assert.Equal(t, at(`{"on":true}`), at(`{"on":true,"degree":5,"velocity":3}`))
		assert.Equal(t, at(`{"on":true}`), at(`{}`))
	})
}

// The reasons of a note, followed from the first to the last, give its pitch.
func TestReasonsOfWhatLuckAndModulatorsMove(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		draw := func(name string, low, high int) int { return rapid.IntRange(low, high).Draw(t, name) }
		craft := fmt.Sprintf(`"modulators":[{"on":"octave","shape":"jump","every":"1/4","from":%d,"to":1}],"odds":[{"weight":1,"octave":[-1,1],"degrees":[-3,3]},{"weight":1}],"range":{"low":%d,"high":%d},`,
			draw("from", -1, 1), draw("low", 30, 50), draw("high", 62, 90))
		chords := `{"id":"c","kind":"chords","rate":"1bar",` + craft + `"palette":[{"tones":[{"degree":1},{"degree":3},{"degree":5}]},{"tones":[{"degree":4},{"degree":6},{"degree":1,"octave":1}]}],"steps":[{"on":true},{"on":true,"chord":2}]}`
		chords = strings.Replace(chords, `"on":"octave"`, `"on":"inversion"`, 1)
		p := crafted(t, chords+`,{"id":"l",`+craft+`"steps":[{"on":true},{"on":true,"degree":3},{"on":true,"degree":5,"alter":1}]},
			{"id":"p","kind":"phrase",`+craft+`"span":2,"steps":[{"on":true},{"on":true,"offset":1},{"on":true,"play":"root"}]},
			{"id":"d","kind":"pulse",`+strings.Replace(craft, `"on":"octave"`, `"on":"nudge"`, 1)+`"pitch":{"degree":2},"steps":[{"on":true}]}`, 4)
		for k := range p.Lanes {
			part := &p.Lanes[k]
			for i := range part.Notes {
				name := ""
				why := p.Why(part, &part.Notes[i])
				for _, r := range why {
					switch r.Rule {
					case "degree", "tone", "rung", "note", "follow", "alter", "lock", "fold", "range", "voicing", "inversion", "offset", "octave":
						name = r.To
					case "odds":
						if !strings.Contains(r.To, " ") {
							name = r.To
						}
					}
				}
				require.Equal(t, p.Name(&part.Notes[i]), name, "%s: %v", part.ID, why)
			}
		}
	})
}

func TestPeriodsTakeModulatorsIn(t *testing.T) {
	period := func(fields string) string {
		p := crafted(t, eighths(fields, 3), 1)
		return fmt.Sprint(*p.Cycle().Report(960).Lanes[0].Ticks / 480)
	}
	assert.Equal(t, "3", period(""))
	assert.Equal(t, "24", period(`"modulators":[{"on":"gate","from":1,"to":2}],`), "three eighths under a bar of eight")
	assert.Equal(t, "6", period(`"modulators":[{"on":"gate","every":"1/2D","from":1,"to":2},{"on":"gate","shape":"drift","every":"7bar","from":1,"to":2},{"on":"nudge","shape":"square","every":"1/8","from":1,"to":2}],`), "what is drawn does not count")
}

func TestWhatIsRefusedOfCraft(t *testing.T) {
	for fields, message := range map[string]string{
		`"modulators":[{"on":"span","from":1,"to":2}],`:                   `modulators[0].on: "span" is not allowed; allowed: velocity, gate, chance, ratchet, nudge, degree, octave`,
		`"modulators":[{"on":"gate","from":0,"to":2}],`:                   "modulators[0].from: 0 is beyond what gate can take with way set; allowed: 1..400",
		`"modulators":[{"on":"velocity","way":"add","from":0,"to":127}],`: "modulators[0].to: 127 is beyond what velocity can take with way add; allowed: -126..126",
		`"modulators":[{"on":"gate","every":"65bar","from":1,"to":2}],`:   `modulators[0].every: "65bar" is no period`,
		`"modulators":[{"on":"gate","shape":"steps","from":1,"to":2}],`:   "modulators[0].values: 0 items with shape steps; allowed: 1..64",
		`"modulators":[{"on":"gate","from":1}],`:                          "modulators[0].to: is missing",
		`"odds":[{"weight":0}],`:                                          "odds[0].weight: 0 is below 1; allowed: 1..100",
		`"odds":[{"octave":[1,-1]}],`:                                     "odds[0].octave: [1, -1] is not in rising order",
		`"range":{"low":40,"high":51},`:                                   "range.high: 51 is not an octave above 40, so notes could not be folded in; allowed: 52..127, or outside drop",
	} {
		_, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"a","lanes":[` + eighths(fields, 1) + `]}]}`))
		assert.ErrorContains(t, err, message)
	}
}
