package smf_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"agrimony/internal/core/lane"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
	"agrimony/internal/core/smf"
)

// lineOf writes a line of 64 sixteenths with the fields given.
func lineOf(id, fields string) string {
	steps := strings.TrimSuffix(strings.Repeat(`{"on":true},{"on":true,"degree":5,"tie":true},{"on":true,"degree":3,"gate":40},{"on":true,"degree":4,"octave":1},`, 16), ",")
	return fmt.Sprintf(`{"id":%q,%s"steps":[%s]}`, id, fields, steps)
}

// clipOf writes a clip of 64 bars with 15 times the lanes that of gives, a channel each as
// far as there are any.
func clipOf(of func(i int) string) string {
	lanes := make([]string, 15)
	for i := range lanes {
		lanes[i] = of(i)
	}
	return `{"format":"agrimony-piece","version":1,"clips":[{"id":"a","bars":64,"lanes":[` + strings.Join(lanes, ",") + `]}]}`
}

func lines(fields string) string {
	return clipOf(func(i int) string { return lineOf(fmt.Sprint("l", i), fields) })
}

// crafts are pairs of documents that sound as many notes: without what is measured, and
// with it.
var crafts = []struct{ name, without, with string }{
	{"modulators", lines(""), lines(`"modulators":[{"on":"gate","shape":"triangle","every":"3bar","from":40,"to":75},{"on":"velocity","shape":"steps","values":[0,100,40],"from":60,"to":110}],`)},
	{"pitches", lines(""), lines(`"modulators":[{"on":"degree","shape":"sine","every":"2bar","from":-2,"to":3,"way":"add"},{"on":"octave","shape":"square","every":"4bar","from":0,"to":1}],`)},
	{"drawn", lines(""), lines(`"modulators":[{"on":"gate","shape":"drift","every":"1bar","from":40,"to":75},{"on":"velocity","shape":"jump","every":"1/4","from":60,"to":110}],`)},
	{"odds", lines(""), lines(`"odds":[{"weight":60},{"weight":30,"velocity":[-20,0]},{"weight":10,"gate":[40,75]}],`)},
	{"scattered", lines(""), lines(`"odds":[{"weight":70},{"weight":20,"octave":[-1,1]},{"weight":10,"degrees":[-2,2]}],`)},
	{"layers", clipOf(func(i int) string {
		return lineOf(fmt.Sprint("l", i), "") + "," + lineOf(fmt.Sprint("m", i), `"octave":2,`)
	}),
		clipOf(func(i int) string {
			return lineOf(fmt.Sprint("l", i), "") + fmt.Sprintf(`,{"id":"m%d","kind":"layer","of":"l%d","octave":-1}`, i, i)
		})},
}

// BenchmarkCraft measures what modulators, odds and layers add to rendering the same notes
// without them, turn and turn about in one run.
func BenchmarkCraft(b *testing.B) {
	for _, pair := range crafts {
		b.Run(pair.name, func(b *testing.B) {
			without, with := read(b, pair.without), read(b, pair.with)
			var plain, crafted []time.Duration
			var ratios []float64 // of neighbours, so that what slows the machine for a while slows both
			for b.Loop() {
				var x, y time.Duration
				if len(ratios)%2 == 0 {
					x, y = took(b, without), took(b, with)
				} else {
					y, x = took(b, with), took(b, without)
				}
				plain, crafted, ratios = append(plain, x), append(crafted, y), append(ratios, float64(y)/float64(x))
			}
			report(b, "plain", plain, "crafted", crafted)
			slices.Sort(ratios)
			b.ReportMetric(ratios[len(ratios)/2], "ratio")
		})
	}
}

// BenchmarkControl measures a control lane of 64 steps with curves over 64 bars against the
// encoding of its events.
func BenchmarkControl(b *testing.B) {
	steps := make([]string, 64)
	for i := range steps {
		steps[i] = fmt.Sprintf(`{"on":true,"value":%d,"shape":{"curve":%d}}`, i*37%128, i*53%200-100)
	}
	p := read(b, `{"format":"agrimony-piece","version":1,"clips":[{"id":"a","bars":64,"lanes":[{"id":"x"},{"id":"c","kind":"control","to":"x","steps":[`+strings.Join(steps, ",")+`]}]}]}`)
	options := render.Options{Lanes: []string{"c"}}
	performance, err := lane.Render(p, &p.Clips[0], options)
	require.NoError(b, err)
	var rendering, encoding []time.Duration
	for b.Loop() {
		began := time.Now()
		_, err := lane.Render(p, &p.Clips[0], options)
		between := time.Now()
		require.NoError(b, err)
		_, err = smf.Encode(performance, smf.Default)
		require.NoError(b, err)
		rendering, encoding = append(rendering, between.Sub(began)), append(encoding, time.Since(between))
	}
	b.ReportMetric(float64(len(performance.Lanes[0].Controls)), "events")
	report(b, "encode", encoding, "render", rendering)
}

func read(b *testing.B, doc string) *piece.Piece {
	p, err := piece.Read([]byte(doc))
	require.NoError(b, err)
	return p
}

// together is how many renderings are timed as one, so that each has its share of what it
// leaves to be cleared away.
const together = 10

// took is how long a rendering takes.
func took(b *testing.B, p *piece.Piece) time.Duration {
	began := time.Now()
	for range together {
		_, err := lane.Render(p, &p.Clips[0], render.Options{})
		require.NoError(b, err)
	}
	return time.Since(began) / together
}

// report gives the medians and how many times the first the second is.
func report(b *testing.B, first string, x []time.Duration, second string, y []time.Duration) {
	median := func(all []time.Duration) float64 {
		slices.Sort(all)
		return float64(all[len(all)/2].Microseconds()) / 1000
	}
	b.ReportMetric(median(x), first+"-ms")
	b.ReportMetric(median(y), second+"-ms")
	b.ReportMetric(median(y)/median(x), "ratio")
}
