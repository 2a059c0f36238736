package lane_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// curveOf lists what a control lane sets, as tick=value.
func curveOf(t testing.TB, groove, lanes string, of func(render.Events) []string) []string {
	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"groove":` + groove + `,"clips":[{"id":"a","bars":1,"lanes":[` + lanes + `]}]}`))
	require.NoError(t, err)
	performance, err := lane.Render(p, &p.Clips[0], render.Options{})
	require.NoError(t, err)
	return of(performance.Events())
}

func controls(e render.Events) (out []string) {
	for _, c := range e.Controls {
		out = append(out, fmt.Sprintf("%s %d/%d %d=%d", c.Lane, c.Channel, c.Controller, c.At, c.Value))
	}
	return out
}

func wheel(e render.Events) (out []string) {
	for _, b := range e.Bends {
		out = append(out, fmt.Sprintf("%d=%d", b.At, b.Value))
	}
	return out
}

func pressures(e render.Events) (out []string) {
	for _, b := range e.Pressures {
		out = append(out, fmt.Sprintf("%d/%d=%d", b.Channel, b.At, b.Value))
	}
	return out
}

func TestControlLanes(t *testing.T) {
	const low = `{"id":"low","channel":5,"rate":"1/4","octave":2,"steps":[{"on":true},{"on":true,"degree":5},{"on":true,"octave":1},{"on":true}]},`
	for _, row := range []struct {
		groove, lane string
		of           func(render.Events) []string
		want         []string
	}{
		{straight, `"steps":[{"on":true,"value":10},{},{"on":true,"value":90},{"on":true,"value":90}],"rate":"1/4"`, controls, []string{"c 5/74 0=10", "c 5/74 1920=90"}},
		{straight, `"steps":[{},{"on":true,"value":10}],"rate":"1/2","target":{"controller":1}`, controls, []string{"c 5/1 0=10"}},
		{straight, `"steps":[{},{"on":true,"value":10},{"on":true,"value":20,"nudge":50},{}],"rate":"1/4"`, controls, []string{"c 5/74 0=10", "c 5/74 2400=20"}},
		{`{"swing":60,"grid":"1/8"}`, `"steps":[{"on":true,"value":10},{"on":true,"value":90}],"rate":"1/8","window":{"start":1,"count":2},"restart":1`, controls,
			[]string{"c 5/74 0=10", "c 5/74 576=90", "c 5/74 960=10", "c 5/74 1536=90", "c 5/74 1920=10", "c 5/74 2496=90", "c 5/74 2880=10", "c 5/74 3456=90"}},
		{straight, `"steps":[{"on":true,"value":0,"shape":"line"},{"on":true,"value":4},{},{}],"rate":"1/4"`, controls,
			[]string{"c 5/74 0=0", "c 5/74 120=1", "c 5/74 360=2", "c 5/74 600=3", "c 5/74 840=4"}},
		{straight, `"steps":[{"on":true,"value":4,"shape":{"curve":0}},{"on":true,"value":0},{},{}],"rate":"1/4"`, controls,
			[]string{"c 5/74 0=4", "c 5/74 121=3", "c 5/74 361=2", "c 5/74 601=1", "c 5/74 841=0"}},
		{straight, `"steps":[{"on":true,"value":-100},{"on":true,"value":50},{"on":true,"value":100},{"on":true}],"rate":"1/4","target":"wheel"`, wheel, []string{"0=-8192", "960=4096", "1920=8191", "2880=0"}},
		{straight, `"steps":[{"on":true,"value":3},{"on":true,"value":7}],"rate":"1/2","target":"pressure"`, pressures, []string{"5/0=3", "5/1920=7", "5/3840=0"}},
		{straight, `"follows":{"lane":"low"}`, controls, []string{"c 5/74 0=0", "c 5/74 960=37", "c 5/74 1920=64", "c 5/74 2880=0"}},
		{straight, `"follows":{"lane":"low","low":43,"high":46,"from":100,"to":50}`, controls, []string{"c 5/74 0=100", "c 5/74 1920=50", "c 5/74 2880=100"}},
		{straight, `"follows":{"lane":"low","low":36,"high":48,"sides":"both","from":10,"to":110}`, controls, []string{"c 5/74 0=110", "c 5/74 960=27", "c 5/74 1920=110"}},
		{straight, `"steps":[{"on":true,"value":10}],"rate":"1/4","modulators":[{"on":"value","shape":"square","every":"1bar","from":0,"to":50,"way":"add"}]`, controls, []string{"c 5/74 0=10", "c 5/74 1920=60"}},
	} {
		assert.Equal(t, row.want, curveOf(t, row.groove, low+`{"id":"c","kind":"control","to":"low",`+row.lane+`}`, row.of), row.lane)
	}
}

func TestAFollowerThatHardlyMoves(t *testing.T) {
	p, err := read(t, `{"id":"low","octave":2,"steps":[{"on":true},{"on":true,"degree":2}]},{"id":"c","name":"Shade","kind":"control","to":"low","follows":{"lane":"low","low":0,"high":127}}`)
	require.NoError(t, err)
	performance, err := lane.Render(p, &p.Clips[0], render.Options{})
	require.NoError(t, err)
	findings := lane.Of(&p.Clips[0].Lanes[1]).(interface {
		Findings(*render.Performance, *render.Part, *piece.Lane) []render.Finding
	}).Findings(performance, &performance.Lanes[1], &p.Clips[0].Lanes[1])
	require.Len(t, findings, 1)
	assert.Equal(t, "Shade moves only by 2 of 127, from 36 to 38: set low..high to C2..D2, the notes that it follows.", findings[0].Message)
	assert.NotNil(t, findings[0].Mend)
}

// Whatever the curve, values go its way, change each time, keep 5 ms apart, and each step's
// own value stands at its onset.
func TestControlCurves(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		values := rapid.SliceOfN(rapid.IntRange(0, 127), 2, 6).Draw(t, "values")
		swing := rapid.IntRange(50, 75).Draw(t, "swing")
		tempo := rapid.SampledFrom([]int{60, 120, 333}).Draw(t, "tempo")
		steps := make([]string, len(values))
		for i, v := range values {
			steps[i] = fmt.Sprintf(`{"on":true,"value":%d,"shape":{"curve":%d}}`, v, rapid.IntRange(-100, 100).Draw(t, "curve"))
		}
		p, err := piece.Read([]byte(fmt.Sprintf(`{"format":"agrimony-piece","version":1,"tempo":%d,"groove":{"swing":%d,"grid":"1/8"},"clips":[{"id":"a","bars":2,"lanes":[{"id":"x"},{"id":"c","kind":"control","to":"x","rate":"1/8","steps":[%s]}]}]}`,
			tempo, swing, strings.Join(steps, ","))))
		require.NoError(t, err)
		performance, err := lane.Render(p, &p.Clips[0], render.Options{})
		require.NoError(t, err)
		at := map[int64]int{}
		own := map[int64]int{}
		var ticks []int64
		for _, c := range performance.Events().Controls {
			at[c.At] = c.Value
			ticks = append(ticks, c.At)
		}
		for i := range 16 {
			own[performance.Swing.Warp(beat.Quarter/2*beat.Time(i)).Export(960)] = values[i%len(values)]
		}
		spacing := int64(float64(tempo) * 960 * 5 / 60000)
		current := -1
		for i, tick := range ticks {
			require.NotEqual(t, current, at[tick], "a value is sent only when it changes")
			current = at[tick]
			if _, fixed := own[tick]; i > 0 && !fixed {
				require.GreaterOrEqual(t, tick-ticks[i-1], spacing)
			}
		}
		value := values[0]
		for tick := range performance.Length.Export(960) {
			if v, set := at[tick]; set {
				value = v
			}
			if want, fixed := own[tick]; fixed {
				require.Equal(t, want, value, "at tick %d", tick)
			}
		}
	})
}

// Of notes at once the highest counts, and one value is sent, at the clip's start too.
func TestAControlThatFollowsChordsGoesByTheHighest(t *testing.T) {
	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"a","bars":1,"lanes":[
		{"id":"tide","kind":"chords","rate":"1/2","octave":4,"palette":[{"tones":[{"degree":1},{"degree":5},{"degree":3}]},{"tones":[{"degree":1,"octave":1}]}],"steps":[{"on":true},{"on":true,"chord":2}]},
		{"id":"cut","kind":"control","to":"tide","target":{"controller":74},"follows":{"lane":"tide","low":60,"high":72,"sides":"up","from":0,"to":120}}]}]}`))
	require.NoError(t, err)
	performance, err := lane.Render(p, &p.Clips[0], render.Options{})
	require.NoError(t, err)
	var got []string
	for _, c := range performance.Events().Controls {
		got = append(got, fmt.Sprintf("%d: %d", c.At, c.Value))
	}
	assert.Equal(t, []string{"0: 70", "1920: 120"}, got)
}
