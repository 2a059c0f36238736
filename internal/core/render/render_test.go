package render_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// perform renders the first clip of a piece whose only lane has these steps and
// other fields, at 120 in C major, one bar unless told otherwise.
func perform(t require.TestingT, head, fields, steps string, options render.Options) (*piece.Piece, *render.Performance) {
	if !strings.Contains(fields, "octave") {
		fields += `,"octave":3`
	}
	doc := fmt.Sprintf(`{"format":"agrimony-piece","version":1%s,"clips":[{"id":"a","bars":1,"lanes":[{"id":"low"%s,"steps":[%s]}]}]}`, head, fields, steps)
	p, err := piece.Read([]byte(doc))
	require.NoError(t, err, doc)
	performance, err := lane.Render(p, &p.Clips[0], options)
	require.NoError(t, err)
	return p, performance
}

// notes writes a performance's notes as "onset name length" in 960ths.
func notes(p *render.Performance) string {
	var out []string
	for i := range p.Lanes {
		for k := range p.Lanes[i].Notes {
			note := &p.Lanes[i].Notes[k]
			at, length := p.Span(note, 960)
			out = append(out, fmt.Sprintf("%d %s %d", at, p.Name(note), length))
		}
	}
	return strings.Join(out, ", ")
}

const rest = `{}`

func on(more string) string {
	if more != "" {
		more = "," + more
	}
	return `{"on":true` + more + `}`
}

func TestALineByItsRules(t *testing.T) {
	four := `,"rate":"1/4"`
	for name, row := range map[string]struct {
		head, lane string
		steps      []string
		want       string
	}{
		"a note lasts its gate":                     {"", four, []string{on(""), rest, rest, rest}, "0 C3 720"},
		"a long gate runs through rests":            {"", four, []string{on(`"gate":250`), rest, rest, rest}, "0 C3 2400"},
		"the next onset cuts it":                    {"", four, []string{on(`"gate":250`), on(`"degree":2`), rest, rest}, "0 C3 960, 960 D3 720"},
		"the clip's end cuts it":                    {"", four, []string{rest, rest, rest, on(`"gate":400`)}, "2880 C3 960"},
		"an untied repeat strikes again":            {"", four, []string{on(""), on(""), rest, rest}, "0 C3 720, 960 C3 720"},
		"a tie to the same pitch is one note":       {"", four, []string{on(`"tie":true`), on(`"gate":50`), rest, rest}, "0 C3 1440"},
		"a tie to a rest runs on with its gate":     {"", four, []string{on(`"tie":true`), `{"gate":25}`, rest, rest}, "0 C3 1200"},
		"a rest passes a tie on":                    {"", four, []string{on(`"tie":true`), `{"tie":true}`, `{"tie":true}`, on(`"gate":50`)}, "0 C3 3360"},
		"a rest's tie alone does nothing":           {"", four, []string{`{"tie":true}`, on(""), rest, rest}, "960 C3 720"},
		"another pitch joins legato":                {"", four, []string{on(`"tie":true`), on(`"degree":5`), rest, rest}, "0 C3 990, 960 G3 720"},
		"legato reaches over a rest":                {"", four, []string{on(`"tie":true`), `{"tie":true}`, on(`"degree":5`), rest}, "0 C3 1950, 1920 G3 720"},
		"a joined step is on the grid, unratcheted": {"", four, []string{on(`"tie":true`), on(`"degree":5,"nudge":20,"ratchet":4`), rest, rest}, "0 C3 990, 960 G3 720"},
		"a tie on the last step wraps":              {"", `,"rate":"1/2"`, []string{on(""), on(`"degree":5,"tie":true`)}, "0 C3 1440, 1920 G3 1920"},
		"a ratchet cuts the step":                   {"", four, []string{on(`"ratchet":3`), rest, rest, rest}, "0 C3 240, 320 C3 240, 640 C3 240"},
		"a ratchet's tie belongs to its last":       {"", four, []string{on(`"ratchet":2,"tie":true`), `{"gate":50}`, rest, rest}, "0 C3 360, 480 C3 960"},
		"a nudge moves the whole note":              {"", four, []string{rest, on(`"nudge":25`), rest, rest}, "1200 C3 720"},
		"a nudged tie ends on the grid":             {"", four, []string{on(`"nudge":25,"tie":true`), `{"gate":50}`, rest, rest}, "240 C3 1200"},
		"nothing starts before the clip":            {"", four, []string{on(`"nudge":-25`), rest, rest, rest}, "0 C3 480"},
		"an early onset cuts the note before":       {"", four, []string{on(`"gate":100`), on(`"nudge":-50`), rest, rest}, "0 C3 480, 480 C3 720"},
		"no note is shorter than a tick":            {"", `,"rate":"1/64T"`, []string{on(`"gate":1`)}, shortest(96)},
		"the lock snaps down from the middle":       {"", four, []string{on(`"degree":4,"alter":1`), rest, rest, rest}, "0 F3 720"},
		"the lock can snap up":                      {"", four + `,"snap":"up"`, []string{on(`"degree":4,"alter":1`), rest, rest, rest}, "0 G3 720"},
		"without a lock an alteration stays":        {"", four + `,"lock":"off"`, []string{on(`"degree":4,"alter":1`), rest, rest, rest}, "0 F#3 720"},
		"a skipped step is not in the round":        {"", four, []string{on(""), `{"on":true,"degree":2,"skip":true}`, on(`"degree":3`)}, "0 C3 720, 960 E3 720, 1920 C3 720, 2880 E3 720"},
		"a window plays its steps only":             {"", four + `,"window":{"start":2,"count":2}`, []string{on(""), on(`"degree":2`), on(`"degree":3`)}, "0 D3 720, 960 E3 720, 1920 D3 720, 2880 E3 720"},
		"reverse":                                   {"", four + `,"direction":"reverse"`, []string{on(""), on(`"degree":2`), on(`"degree":3`), on(`"degree":4`)}, "0 F3 720, 960 E3 720, 1920 D3 720, 2880 C3 720"},
		"a tie follows the playing order":           {"", four + `,"direction":"reverse"`, []string{on(`"degree":1`), on(`"degree":5,"tie":true`), rest, rest}, "1920 G3 990, 2880 C3 720"},
		"rounds":                                    {"", `,"rate":"1/2"`, []string{on(`"rounds":{"of":2,"on":[2]}`)}, "1920 C3 1440"},
		"a silenced step is a rest that ties reach": {"", four, []string{on(`"tie":true`), on(`"chance":0,"degree":5,"gate":50`), rest, rest}, "0 C3 1440"},
		"swing delays the second of a pair":         {`,"groove":{"swing":75,"grid":"1/8"}`, `,"rate":"1/8"`, []string{on(`"gate":100`), on(`"degree":2,"gate":50`), rest, rest, rest, rest, rest, rest}, "0 C3 720, 720 D3 120"},
		"swing leaves quarters alone":               {`,"groove":{"swing":60,"grid":"1/8"}`, four, []string{on(`"gate":100`), on(`"gate":100`), rest, rest}, "0 C3 960, 960 C3 960"},
		"a pitch above 127 folds":                   {"", four + `,"lock":"off","octave":7`, []string{on(`"octave":4,"degree":1`), rest, rest, rest}, "0 C9 720"},
		"triplets":                                  {"", `,"rate":"1/2T"`, []string{on(`"gate":100`), on(`"degree":2,"gate":100`), on(`"degree":3,"gate":100`)}, "0 C3 1280, 1280 D3 1280, 2560 E3 1280"},
		"a bent join strikes no second note":        {"", four, []string{on(`"tie":true`), on(`"degree":5,"glide":{}`), rest, rest}, "0 C3 1680"},
		"a legato glide overlaps its neighbour":     {"", four + `,"glide":{"mode":"legato"}`, []string{on(""), on(`"degree":5,"glide":{}`), rest, rest}, "0 C3 990, 960 G3 720"},
		"a legato glide leaves a gap alone":         {"", four + `,"glide":{"mode":"legato"}`, []string{on(""), rest, on(`"degree":5,"glide":{}`), rest}, "0 C3 720, 1920 G3 720"},
	} {
		t.Run(name, func(t *testing.T) {
			_, performance := perform(t, row.head, row.lane, strings.Join(row.steps, ","), render.Options{})
			assert.Equal(t, row.want, notes(performance))
		})
	}
}

func shortest(count int) string {
	out := make([]string, count)
	for i := range out {
		out[i] = fmt.Sprintf("%d C3 1", i*40)
	}
	return strings.Join(out, ", ")
}

func TestPendulumDoesNotRepeatItsEnds(t *testing.T) {
	steps := []string{on(""), on(`"degree":2`), on(`"degree":3`), on(`"degree":4`)}
	_, performance := perform(t, "", `,"rate":"1/8","direction":"pendulum"`, strings.Join(steps, ","), render.Options{})
	var order strings.Builder
	for _, note := range performance.Lanes[0].Notes {
		fmt.Fprint(&order, note.Step)
	}
	assert.Equal(t, "12343212", order.String())
	assert.Equal(t, "3/4", performance.Cycle().Bars(), "a round of 4 steps is 6 slots")
	_, alone := perform(t, "", `,"rate":"1/4","direction":"pendulum"`, on(""), render.Options{})
	assert.Len(t, alone.Lanes[0].Notes, 4, "one step makes a round of one")
}

func TestShufflePlaysEveryStepOnceARound(t *testing.T) {
	steps := make([]string, 8)
	for i := range steps {
		steps[i] = on(fmt.Sprintf(`"degree":%d`, i%7+1))
	}
	_, performance := perform(t, "", `,"direction":"shuffle"`, strings.Join(steps, ","), render.Options{Bars: 4})
	orders := map[string]bool{}
	for round := range 8 {
		seen := map[int32]bool{}
		order := ""
		for _, note := range performance.Lanes[0].Notes[round*8 : round*8+8] {
			seen[note.Step] = true
			order += fmt.Sprint(note.Step)
			assert.EqualValues(t, round+1, note.Round)
		}
		assert.Len(t, seen, 8)
		orders[order] = true
	}
	assert.Greater(t, len(orders), 4, "rounds differ")
}

func TestChanceIsAShareOfRounds(t *testing.T) {
	_, performance := perform(t, "", `,"rate":"1/16"`, on(`"chance":30`), render.Options{Bars: 1000})
	assert.InDelta(t, 4800, len(performance.Lanes[0].Notes), 200)
	_, never := perform(t, "", "", on(`"chance":0`), render.Options{Bars: 100})
	assert.Empty(t, never.Lanes[0].Notes)
}

func bends(p *render.Performance) []render.Bend { return p.Lanes[0].Bends }

func TestGlidesWithTheWheel(t *testing.T) {
	four := `,"rate":"1/4"`
	t.Run("tied, the held note bends there and stays", func(t *testing.T) {
		_, p := perform(t, "", four, strings.Join([]string{on(`"tie":true`), on(`"degree":5,"glide":{"time":50}`), rest, on("")}, ","), render.Options{})
		all := bends(p)
		assert.Equal(t, render.Bend{At: 0, Value: 0}, all[0])
		last := all[len(all)-2]
		assert.EqualValues(t, 4779, last.Value, "7 of 12 semitones")
		assert.EqualValues(t, 1440, last.At.Export(960), "after half of the step")
		assert.Equal(t, []int64{2880, 0}, []int64{all[len(all)-1].At.Export(960), int64(all[len(all)-1].Value)}, "centred where the next fresh note starts")
	})
	t.Run("untied, a new onset starts bent and comes home", func(t *testing.T) {
		_, p := perform(t, "", four, strings.Join([]string{on(""), on(`"degree":5,"glide":{"time":50}`), rest, rest}, ","), render.Options{})
		assert.Equal(t, "0 C3 720, 960 G3 720", notes(p))
		all := bends(p)
		assert.EqualValues(t, -4779, all[1].Value)
		assert.EqualValues(t, 960, all[1].At.Export(960))
		assert.EqualValues(t, 0, all[len(all)-1].Value)
		assert.EqualValues(t, 1440, all[len(all)-1].At.Export(960))
	})
	t.Run("the first note has nothing to glide from", func(t *testing.T) {
		_, p := perform(t, "", four, strings.Join([]string{on(`"glide":{}`), rest, rest, rest}, ","), render.Options{})
		assert.Empty(t, bends(p))
		assert.Empty(t, p.Lanes[0].Controls)
	})
	t.Run("unless the loop comes round", func(t *testing.T) {
		p, _ := perform(t, "", four, strings.Join([]string{on(`"glide":{}`), on(`"degree":5`), rest, rest}, ","), render.Options{})
		p.Clips[0].Seam = "loop"
		performance, err := lane.Render(p, &p.Clips[0], render.Options{})
		require.NoError(t, err)
		assert.EqualValues(t, 4779, bends(performance)[0].Value, "from the fifth that the lane ends on")
		p.Clips[0].Seam = "fresh"
		performance, err = lane.Render(p, &p.Clips[0], render.Options{})
		require.NoError(t, err)
		assert.Equal(t, []render.Mark{{Kind: render.GlideLeftOut, Step: 1}}, performance.Lanes[0].Marks)
	})
	t.Run("from 0 the pitch is there at once", func(t *testing.T) {
		_, p := perform(t, "", four, strings.Join([]string{on(`"tie":true`), on(`"degree":5,"glide":{"from":0}`), rest, rest}, ","), render.Options{})
		assert.Equal(t, []render.Bend{{At: 0, Value: 0}, {At: beat.Quarter, Value: 4779}, {At: beat.Whole, Value: 0}}, bends(p))
		_, p = perform(t, "", four, strings.Join([]string{on(""), on(`"degree":5,"glide":{"from":0}`), rest, rest}, ","), render.Options{})
		assert.Empty(t, bends(p), "a fresh note needs no bend to be there")
	})
	t.Run("a held bend that comes back goes home at once", func(t *testing.T) {
		_, p := perform(t, "", four, strings.Join([]string{on(`"tie":true`), on(`"degree":5,"tie":true,"glide":{"time":0}`), on(""), rest}, ","), render.Options{})
		assert.Equal(t, []render.Bend{{At: 0, Value: 0}, {At: beat.Quarter, Value: 4779}, {At: 2 * beat.Quarter, Value: 0}}, bends(p))
	})
	t.Run("at the clip's end it is centred", func(t *testing.T) {
		_, p := perform(t, "", four, strings.Join([]string{rest, rest, rest, on(`"gate":100,"bend":[{"at":0,"by":0},{"at":100,"by":2}]`)}, ","), render.Options{})
		all := bends(p)
		assert.Equal(t, render.Bend{At: beat.Whole, Value: 0}, all[len(all)-1])
	})
	t.Run("before an envelope's first point its value holds", func(t *testing.T) {
		_, p := perform(t, "", four, strings.Join([]string{on(`"gate":100,"bend":[{"at":50,"by":-3},{"at":100,"by":-3}]`), rest, rest, rest}, ","), render.Options{})
		assert.Equal(t, []render.Bend{{At: 0, Value: -2048}, {At: beat.Whole, Value: 0}}, bends(p))
	})
	t.Run("an envelope spans a tied note", func(t *testing.T) {
		_, p := perform(t, "", four, strings.Join([]string{on(`"tie":true,"bend":[{"at":0,"by":0},{"at":50,"by":2}]`), `{"tie":true}`, `{"tie":true}`, `{"gate":100}`}, ","), render.Options{})
		all := bends(p)
		assert.EqualValues(t, 1365, all[len(all)-2].Value)
		assert.Equal(t, 2*beat.Quarter, all[len(all)-2].At, "half of all four steps")
	})
	t.Run("a glide and an envelope add up within the range", func(t *testing.T) {
		_, p := perform(t, "", four+`,"glide":{"range":4}`, strings.Join([]string{on(`"glide":{"from":3,"time":0},"bend":[{"at":0,"by":3}]`), rest, rest, rest}, ","), render.Options{})
		assert.Equal(t, render.Bend{At: 0, Value: 6144}, bends(p)[0], "a glide of no time is over at the onset")
		_, p = perform(t, "", four+`,"glide":{"range":4}`, strings.Join([]string{on(`"glide":{"from":3},"bend":[{"at":0,"by":3}]`), rest, rest, rest}, ","), render.Options{})
		assert.Equal(t, render.Bend{At: 0, Value: 8191}, bends(p)[0])
		assert.Equal(t, []render.Mark{{Kind: render.GlideBeyondRange, Step: 1, Want: 6}}, p.Lanes[0].Marks)
	})
	t.Run("unless it says from where", func(t *testing.T) {
		_, p := perform(t, "", four, strings.Join([]string{on(`"glide":{"from":-12}`), rest, rest, rest}, ","), render.Options{})
		assert.EqualValues(t, -8192, bends(p)[0].Value)
	})
	t.Run("the range is sent first", func(t *testing.T) {
		_, p := perform(t, "", four+`,"glide":{"range":7}`, strings.Join([]string{on(`"glide":{"from":7}`), rest, rest, rest}, ","), render.Options{})
		controls := p.Lanes[0].Controls
		assert.Equal(t, []render.Control{{Controller: 101}, {Controller: 100}, {Controller: 6, Value: 7}}, controls[:3])
		assert.EqualValues(t, 8191, bends(p)[0].Value)
	})
	t.Run("beyond the range it is held and marked", func(t *testing.T) {
		_, p := perform(t, "", four+`,"glide":{"range":2}`, strings.Join([]string{on(""), on(`"degree":5,"glide":{}`), rest, rest}, ","), render.Options{})
		assert.EqualValues(t, -8192, bends(p)[1].Value)
		assert.Equal(t, []render.Mark{{Kind: render.GlideBeyondRange, Step: 2, Want: 7}}, p.Lanes[0].Marks)
	})
	t.Run("a curve above zero starts slowly, below fast", func(t *testing.T) {
		halfway := func(curve int) int16 {
			_, p := perform(t, "", four, strings.Join([]string{on(fmt.Sprintf(`"glide":{"from":-12,"time":100,"curve":%d}`, curve)), rest, rest, rest}, ","), render.Options{})
			value := int16(0)
			for _, b := range bends(p) {
				if b.At.Export(960) <= 480 {
					value = b.Value
				}
			}
			return value
		}
		assert.InDelta(t, -4096, halfway(0), 40)
		assert.Less(t, halfway(50), int16(-5500))
		assert.Greater(t, halfway(-50), int16(-2700))
	})
	t.Run("an envelope spans the sounding note", func(t *testing.T) {
		_, p := perform(t, "", four, strings.Join([]string{on(`"gate":100,"bend":[{"at":0,"by":0},{"at":50,"by":2},{"at":100,"by":0}]`), rest, rest, rest}, ","), render.Options{})
		peak := render.Bend{}
		for _, b := range bends(p) {
			if b.Value > peak.Value {
				peak = b
			}
		}
		assert.EqualValues(t, 1365, peak.Value, "2 of 12 semitones")
		assert.EqualValues(t, 480, peak.At.Export(960), "half of the note")
	})
}

func TestGlidesAsPortamento(t *testing.T) {
	_, p := perform(t, "", `,"rate":"1/4","glide":{"mode":"legato"}`, strings.Join([]string{on(`"tie":true`), on(`"degree":5,"glide":{"time":50}`), rest, rest}, ","), render.Options{})
	var got []string
	for _, c := range p.Lanes[0].Controls {
		got = append(got, fmt.Sprintf("%d:%d=%d", c.At.Export(960), c.Controller, c.Value))
	}
	// A quarter of a second on a quadratic scale to two seconds is 45 of 127.
	assert.Equal(t, "960:5=45 960:84=48 960:65=127 1440:65=0", strings.Join(got, " "))
	assert.Empty(t, bends(p))
}

func TestLengthsOfClips(t *testing.T) {
	sixteen := strings.TrimSuffix(strings.Repeat(on("")+",", 7), ",")
	for _, row := range []struct {
		options render.Options
		ticks   int64
	}{{render.Options{Bars: 3}, 11520}, {render.Options{Until: "cycle"}, 1680}, {render.Options{Until: "realign"}, 26880}, {render.Options{}, 3840}} {
		_, p := perform(t, "", "", sixteen, row.options)
		assert.Equal(t, row.ticks, p.Length.Export(960), "%+v", row.options)
	}
	p, _ := perform(t, "", "", sixteen, render.Options{})
	for _, bad := range []render.Options{{Bars: 1025}, {Bars: -1}, {Until: "later"}} {
		_, err := lane.Render(p, &p.Clips[0], bad)
		assert.ErrorContains(t, err, "allowed:", "%+v", bad)
	}
}

func TestACycleTooLongIsRefusedButBarsAreNot(t *testing.T) {
	var lanes []string
	for i, n := range []int{251, 241, 239, 233} {
		lanes = append(lanes, fmt.Sprintf(`{"id":"l%d","rate":"1/64T","steps":[%s]}`, i, strings.TrimSuffix(strings.Repeat(on("")+",", n), ",")))
	}
	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"a","lanes":[` + strings.Join(lanes, ",") + `]}]}`))
	require.NoError(t, err)
	_, err = lane.Render(p, &p.Clips[0], render.Options{})
	assert.EqualError(t, err, "the time until the lanes meet the bar is 3368562317 bars, over 1024; state a number of bars instead (1..1024)")
	performance, err := lane.Render(p, &p.Clips[0], render.Options{Bars: 2})
	require.NoError(t, err)
	assert.True(t, performance.Cycle().Over())
}

func TestMuteSoloAndChannels(t *testing.T) {
	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"a","lanes":[
		{"id":"x","steps":[{"on":true},{},{},{},{},{},{}]},{"id":"y","mute":true,"steps":[{"on":true},{},{}]},{"id":"z","channel":1,"steps":[{"on":true}]}]}]}`))
	require.NoError(t, err)
	clip := &p.Clips[0]
	performance, err := lane.Render(p, clip, render.Options{})
	require.NoError(t, err)
	assert.Len(t, performance.Lanes, 2)
	assert.Equal(t, "7/16", performance.Cycle().Bars(), "a muted lane does not count")
	assert.Equal(t, []int{2, 3, 1}, render.Channels(clip), "a channel that is set is kept free")
	clip.Lanes[2].Solo = true
	performance, err = lane.Render(p, clip, render.Options{})
	require.NoError(t, err)
	assert.Equal(t, "z", performance.Lanes[0].ID)
	assert.Len(t, performance.Lanes, 1)
	many := piece.NewClip("m", "m")
	for i := range 17 {
		many.Lanes = append(many.Lanes, piece.NewLane("line", fmt.Sprint(i), ""))
	}
	assert.Equal(t, []int{1, 2, 3, 4, 5, 6, 7, 8, 9, 11, 12, 13, 14, 15, 16, 1, 2}, render.Channels(&many))
}

func TestWhyTellsTheRules(t *testing.T) {
	_, performance := perform(t, `,"key":{"tonic":"F#","scale":"dorian"}`, `,"rate":"1/4","octave":2`, strings.Join([]string{rest, rest, on(`"degree":5,"alter":1`), rest}, ","), render.Options{})
	part := &performance.Lanes[0]
	assert.Equal(t, []render.Reason{
		{Rule: "step", From: "step 3, round 1", To: "tick 1920"}, {Rule: "degree", From: "5", To: "C#3"}, {Rule: "alter", From: "C#3", To: "D3"}, {Rule: "lock", From: "D3", To: "C#3"},
		{Rule: "velocity", From: "step 3", To: "100"}, {Rule: "gate", From: "75 % of the step", To: "720 ticks"},
	}, performance.Why(part, &part.Notes[0]))
	assert.Equal(t, "Step 3, round 1 is at tick 1920; degree 5 of F♯ dorian is C♯3; altered from C♯3 to D3; lock moved D3 to C♯3; step 3 has velocity 100; gate 75 % of the step is 720 ticks.",
		performance.Explain(part, &part.Notes[0]))
}

func TestMoreOfTiesAndGlides(t *testing.T) {
	four := `,"rate":"1/4"`
	for name, row := range map[string]struct {
		head, lane string
		bars       int
		steps      []string
		want       string
	}{
		"a tie over the seam to the same pitch":        {"", `,"rate":"1/2"`, 2, []string{on(`"gate":50`), on(`"tie":true`)}, "0 C3 960, 1920 C3 2880, 5760 C3 1920"},
		"a tie over the seam to another pitch":         {"", `,"rate":"1/2"`, 2, []string{on(`"gate":50`), on(`"degree":5,"tie":true`)}, "0 C3 960, 1920 G3 1950, 3840 C3 960, 5760 G3 1920"},
		"a tie passes a step that rounds silence":      {"", four, 2, []string{on(`"tie":true`), on(`"degree":5,"tie":true,"rounds":{"of":2,"on":[2]}`), on(`"gate":50`), rest}, "0 C3 2400, 3840 C3 990, 4800 G3 990, 5760 C3 480"},
		"three pitches joined":                         {"", four, 1, []string{on(`"tie":true`), on(`"degree":3,"tie":true`), on(`"degree":5`), rest}, "0 C3 990, 960 E3 990, 1920 G3 720"},
		"a held note bends through two pitches":        {"", four, 1, []string{on(`"tie":true`), on(`"degree":3,"glide":{},"tie":true`), on(`"degree":5,"glide":{},"gate":50`), rest}, "0 C3 2400"},
		"a bent note joins the next without a glide":   {"", four, 1, []string{on(`"tie":true`), on(`"degree":3,"glide":{},"tie":true`), on(`"degree":5`), rest}, "0 C3 1950, 1920 G3 720"},
		"a held bend that comes back strikes nothing":  {"", four, 1, []string{on(`"tie":true`), on(`"degree":3,"glide":{},"tie":true`), on(`"gate":50`), rest}, "0 C3 2400"},
		"of two at once the earlier does not sound":    {"", four, 1, []string{on(`"nudge":50`), on(`"degree":2,"nudge":-50`), rest, rest}, "480 D3 720"},
		"before the start is at the start":             {"", `,"rate":"1/8"`, 1, []string{on(`"ratchet":4,"nudge":-50`), rest, rest, rest, rest, rest, rest, rest}, "0 C3 90, 120 C3 90"},
		"a restart begins the pattern again":           {"", four + `,"restart":1`, 2, []string{on(""), rest, on(`"degree":2`)}, "0 C3 720, 1920 D3 720, 2880 C3 720, 3840 C3 720, 5760 D3 720, 6720 C3 720"},
		"a step that a restart cuts keeps its gate":    {"", `,"rate":"1/2D","restart":1`, 2, []string{on(`"gate":50`), on(`"degree":2,"gate":50,"rounds":{"of":2,"on":[1]}`)}, "0 C3 1440, 2880 D3 960, 3840 C3 1440"},
		"nothing of it begins after the cut":           {"", `,"rate":"1/2D","restart":1`, 2, []string{rest, on(`"ratchet":6`), rest}, "2880 C3 360, 3360 C3 360, 6720 C3 360, 7200 C3 360"},
		"a cut round counts as one":                    {"", `,"rate":"1/2","restart":1`, 2, []string{on(`"gate":50,"rounds":{"of":2,"on":[2]}`), rest, on("")}, "3840 C3 960"},
		"swing counts pairs from each bar's start":     {`,"meter":"3/8","groove":{"swing":75,"grid":"1/8"}`, `,"rate":"1/8"`, 2, []string{on(`"gate":100`)}, "0 C3 720, 720 C3 240, 960 C3 480, 1440 C3 720, 2160 C3 240, 2400 C3 480"},
		"the lock decides what is the same pitch":      {"", four, 1, []string{on(`"tie":true`), on(`"alter":1`), rest, rest}, "0 C3 1680"},
		"without it the pitches differ":                {"", four + `,"lock":"off"`, 1, []string{on(`"tie":true`), on(`"alter":1`), rest, rest}, "0 C3 990, 960 Db3 720"},
		"a gate over 100 % reaches into the next":      {"", four, 1, []string{on(`"gate":150`), rest, on(`"degree":2`), rest}, "0 C3 1440, 1920 D3 720"},
		"swing moves the ends and the repeats":         {`,"groove":{"swing":60,"grid":"1/8"}`, `,"rate":"1/4"`, 1, []string{on(`"ratchet":4,"gate":100`), rest, rest, rest}, "0 C3 288, 288 C3 288, 576 C3 192, 768 C3 192"},
		"swing moves the overlap too":                  {`,"groove":{"swing":75,"grid":"1/8"}`, `,"rate":"1/8"`, 1, []string{on(`"tie":true`), on(`"degree":5,"gate":50`), rest, rest, rest, rest, rest, rest}, "0 C3 735, 720 G3 120"},
		"dotted steps":                                 {"", `,"rate":"1/8D"`, 1, []string{on(`"gate":100`), rest}, "0 C3 720, 1440 C3 720, 2880 C3 720"},
		"bars of the meter":                            {`,"meter":"7/8"`, `,"rate":"1bar"`, 2, []string{on(`"gate":50`), on(`"degree":5`)}, "0 C3 1680, 3360 G3 2520"},
		"a late nudge is cut by the end of the clip":   {"", four, 1, []string{rest, rest, rest, on(`"nudge":50,"gate":100`)}, "3360 C3 480"},
		"an early nudge lets the note before go early": {"", four, 1, []string{on(`"gate":100`), on(`"degree":2,"nudge":-25`), rest, rest}, "0 C3 720, 720 D3 720"},
		"flats keep their names":                       {`,"key":{"tonic":"Eb","scale":"minor"}`, four, 1, []string{on(`"degree":6`), on(`"degree":7`), rest, rest}, "0 Cb4 720, 960 Db4 720"},
	} {
		t.Run(name, func(t *testing.T) {
			_, performance := perform(t, row.head, row.lane, strings.Join(row.steps, ","), render.Options{Bars: row.bars})
			assert.Equal(t, row.want, notes(performance))
		})
	}
}

// A glide that the next one interrupts leaves off where it is: the wheel never
// jumps within a held note.
func TestInterruptedGlidesDoNotJump(t *testing.T) {
	steps := []string{on(`"tie":true`), on(`"degree":5,"tie":true,"glide":{"time":400}`), on(`"degree":2,"glide":{"time":50}`), rest}
	_, p := perform(t, "", `,"rate":"1/4"`, strings.Join(steps, ","), render.Options{})
	all := bends(p)
	for i := 1; i < len(all); i++ {
		if all[i].At.Export(960) < 3840 {
			assert.LessOrEqual(t, max(all[i].Value-all[i-1].Value, all[i-1].Value-all[i].Value), int16(8192/12/16+1), "%v to %v", all[i-1], all[i])
		}
	}
	assert.EqualValues(t, 1365, all[len(all)-2].Value, "it ends two semitones up")
}

func TestTheWheelIsCentredBeforeTheNextFreshNote(t *testing.T) {
	steps := []string{on(`"tie":true`), on(`"degree":5,"glide":{"time":10},"gate":50`), on(""), rest}
	_, p := perform(t, "", `,"rate":"1/4"`, strings.Join(steps, ","), render.Options{})
	at := func(tick int64) (value int16) {
		for _, b := range bends(p) {
			if b.At.Export(960) <= tick {
				value = b.Value
			}
		}
		return value
	}
	assert.EqualValues(t, 4779, at(1056), "the glide is over")
	assert.EqualValues(t, 4779, at(1919), "it stays bent, also after its end")
	assert.Zero(t, at(1920), "and is centred where the next note begins")
	last := bends(p)[len(bends(p))-1]
	assert.EqualValues(t, 1920, last.At.Export(960), "with nothing after it")
}

func TestExportResolutionsRoundEachEndOnce(t *testing.T) {
	_, p := perform(t, `,"groove":{"swing":57,"grid":"1/16"}`, `,"rate":"1/16"`, strings.Join([]string{on(`"gate":33`), on(`"gate":33`)}, ","), render.Options{})
	note := &p.Lanes[0].Notes[1]
	for ppq, want := range map[int][2]int64{960: {274, 68}, 480: {137, 34}, 96: {27, 7}} {
		at, length := p.Span(note, ppq)
		assert.Equal(t, want, [2]int64{at, length}, "%d", ppq)
	}
}

func TestPeriods(t *testing.T) {
	for name, row := range map[string]struct {
		lane  string
		count int
		bars  string
	}{
		"steps":                           {"", 7, "7/16"},
		"a restart that cuts a round":     {`,"restart":1`, 7, "1"},
		"a restart that cuts none":        {`,"restart":7`, 7, "7/16"},
		"a restart longer than the round": {`,"restart":2`, 7, "2"},
	} {
		_, p := perform(t, "", row.lane, strings.TrimSuffix(strings.Repeat(on("")+",", row.count), ","), render.Options{})
		assert.Equal(t, row.bars, p.Cycle().Bars(), name)
	}
	third := on(`"rounds":{"of":3,"on":[1]}`)
	_, p := perform(t, "", `,"restart":1`, third+strings.Repeat(",{}", 6), render.Options{})
	assert.Equal(t, "1", p.Cycle().Bars(), "each restart goes through three rounds, so that thirds recur with it")
	_, p = perform(t, "", `,"restart":1`, third+strings.Repeat(",{}", 10), render.Options{})
	assert.Equal(t, "3", p.Cycle().Bars(), "two rounds a restart meet thirds after three")
	_, p = perform(t, "", "", strings.Join([]string{on(`"rounds":{"of":64,"on":[1]}`), on(`"rounds":{"of":63,"on":[1]}`), on(`"rounds":{"of":61,"on":[1]}`),
		on(`"rounds":{"of":59,"on":[1]}`), on(`"rounds":{"of":55,"on":[1]}`), on(`"rounds":{"of":53,"on":[1]}`), on(`"rounds":{"of":47,"on":[1]}`), on(`"rounds":{"of":43,"on":[1]}`)}, ","), render.Options{})
	assert.Equal(t, "42744205294560", p.Cycle().RealignBars().String(), "exact, however large")
}

func TestTooManyEventsAreRefusedBeforeTheyAreMade(t *testing.T) {
	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"meter":"32/1","clips":[{"id":"a","lanes":[
		{"id":"calm","steps":[{"on":true}]},{"id":"storm","name":"Storm","rate":"1/64T","steps":[{"on":true,"ratchet":8,"tie":false}]}]}]}`))
	require.NoError(t, err)
	_, err = lane.Render(p, &p.Clips[0], render.Options{Bars: 1024})
	assert.EqualError(t, err, fmt.Sprintf("this would make about %d events (notes, wheel positions, controller values), over 4000000, most of them in \"Storm\"; choose fewer bars or lanes", 32*96*1024*8+32*16*1024))
	_, err = lane.Render(p, &p.Clips[0], render.Options{Bars: 1024, Lanes: []string{"calm"}})
	assert.NoError(t, err)
}

func TestNoKeyIsStruckTwiceOnASharedChannel(t *testing.T) {
	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"a","bars":1,"lanes":[
		{"id":"x","channel":3,"rate":"1/1","steps":[{"on":true,"gate":100}]},{"id":"y","channel":3,"rate":"1/2","steps":[{},{"on":true}]}]}]}`))
	require.NoError(t, err)
	performance, err := lane.Render(p, &p.Clips[0], render.Options{})
	require.NoError(t, err)
	assert.Equal(t, "0 C3 1919, 1920 C3 1440", notes(performance))
}

func TestNotesWithoutATickOfTheirOwnAreLeftOut(t *testing.T) {
	for _, row := range []struct {
		ppq, written, left int
	}{{960, 8, 0}, {480, 8, 0}, {96, 5, 3}} {
		p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"tempo":20,"meter":"1/16","clips":[{"id":"a","lanes":[
			{"rate":"1/64T","steps":[{"on":true,"ratchet":8,"gate":50},{},{},{},{},{}]}]}]}`))
		require.NoError(t, err)
		performance, err := lane.Render(p, &p.Clips[0], render.Options{Bars: 1, PPQ: row.ppq})
		require.NoError(t, err)
		seen := map[string]bool{}
		written := 0
		left := performance.Written(&performance.Lanes[0], row.ppq, func(note *render.Note, at, length int64) {
			written++
			assert.False(t, seen[fmt.Sprint(at, note.Pitch)])
			seen[fmt.Sprint(at, note.Pitch)] = true
		})
		assert.Equal(t, []int{row.written, row.left}, []int{written, left}, "at %d ticks a quarter", row.ppq)
		assert.Len(t, performance.Events().Notes, row.written)
	}
	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"a","lanes":[
		{"rate":"1/64T","steps":[{"on":true,"nudge":49,"velocity":30},{"on":true,"nudge":-50,"velocity":90,"gate":100},{},{}]}]}]}`))
	require.NoError(t, err)
	performance, err := lane.Render(p, &p.Clips[0], render.Options{Bars: 1, PPQ: 96})
	require.NoError(t, err)
	first := performance.Events().Notes[0]
	assert.Equal(t, []int64{2, 2, 4, 90}, []int64{int64(first.Step), first.At, first.Length, int64(first.Velocity)}, "the earlier is left out, as of two at once")
}
