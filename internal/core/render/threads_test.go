package render_test

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"agrimony/internal/core/lane"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
)

// gliding renders a clip of one lane of chords whose tones glide each by itself. Chords are given as MIDI
// notes of C major over octave 4, "0 2 4" being C E G.
func gliding(t require.TestingT, head, fields string, chords []string, steps ...string) *render.Performance {
	return glidingBeside(t, nil, head, fields, chords, steps...)
}

// glidingBeside is the same with a line on each of some channels beside it.
func glidingBeside(t require.TestingT, channels []int, head, fields string, chords []string, steps ...string) *render.Performance {
	if !strings.Contains(fields, `"rate"`) {
		fields += `,"rate":"1/4"`
	}
	palette := make([]string, len(chords))
	for i, c := range chords {
		var tones []string
		for _, own := range strings.Fields(c) {
			var n int
			_, err := fmt.Sscan(own, &n)
			require.NoError(t, err)
			tones = append(tones, fmt.Sprintf(`{"degree":%d,"octave":%d}`, n%7+1, n/7))
		}
		palette[i] = fmt.Sprintf(`{"tones":[%s]}`, strings.Join(tones, ","))
	}
	beside := ""
	for _, channel := range channels {
		beside += fmt.Sprintf(`,{"id":"line-%[1]d","kind":"line","channel":%[1]d,"steps":[{"on":true}]}`, channel)
	}
	doc := fmt.Sprintf(`{"format":"agrimony-piece","version":1%s,"clips":[{"id":"a","bars":1,"lanes":[{"id":"ch","kind":"chords","octave":4,"glide":{"mode":"mpe"}%s,"palette":[%s],"steps":[%s]}%s]}]}`,
		head, fields, strings.Join(palette, ","), strings.Join(steps, ","), beside)
	p, err := piece.Read([]byte(doc))
	require.NoError(t, err, doc)
	performance, err := lane.Render(p, &p.Clips[0], render.Options{})
	require.NoError(t, err)
	return performance
}

// threaded writes notes as "onset+length key<thread>end@channel".
func threaded(p *render.Performance) string {
	var out []string
	for k := range p.Lanes[0].Notes {
		note := &p.Lanes[0].Notes[k]
		at, length := p.Span(note, 960)
		text := fmt.Sprintf("%d+%d %d", at, length, note.Pitch)
		if from, ok := note.Thread(); ok {
			text += fmt.Sprintf("<%d", from)
		}
		if note.EndPitch() != int(note.Pitch) {
			text += fmt.Sprintf(">%d", note.EndPitch())
		}
		out = append(out, fmt.Sprintf("%s@%d", text, note.Channel))
	}
	return strings.Join(out, ", ")
}

func TestThreads(t *testing.T) {
	const c, f, slow = `{"on":true,"chord":1}`, `{"on":true,"chord":2,"glide":{"time":50}}`, `{"on":true,"chord":1,"tie":true}`
	const long = `{"on":true,"chord":2,"gate":200,"glide":{"time":50}}`
	triads := []string{"0 2 4", "0 3 5"} // C E G, C F A
	for _, test := range []struct {
		what   string
		chords []string
		steps  []string
		notes  string
	}{
		{"each tone comes from its partner in the chord before", triads, []string{c, f},
			"0+960 60@2, 0+960 64@3, 0+960 67@4, 960+960 60<60@5, 960+960 65<64@6, 960+960 69<67@7"},
		{"a rest lies between", triads, []string{c, `{}`, f},
			"0+960 60@2, 0+960 64@3, 0+960 67@4, 1920+960 60<60@5, 1920+960 65<64@6, 1920+960 69<67@7"},
		{"strummed, each begins at its own onset", triads, []string{c, `{"on":true,"chord":2,"glide":{"time":50},"strum":{"time":50}}`},
			"0+960 60@2, 0+960 64@3, 0+960 67@4, 960+960 60<60@5, 1200+720 65<64@6, 1440+480 69<67@7"},
		{"of a ratchet the first glides", triads, []string{c, `{"on":true,"chord":2,"glide":{"time":25},"ratchet":2,"gate":50}`},
			"0+960 60@2, 0+960 64@3, 0+960 67@4, 960+240 60<60@5, 960+240 65<64@6, 960+240 69<67@7, 1440+240 60@2, 1440+240 65@3, 1440+240 69@4"},
		{"from semitones away", triads, []string{`{"on":true,"chord":1,"glide":{"time":50,"from":-2}}`},
			"0+960 60<58@2, 0+960 64<62@3, 0+960 67<65@4"},
		{"the first has nothing to come from", triads, []string{f, c},
			"0+960 60@2, 0+960 65@3, 0+960 69@4, 960+960 60@5, 960+960 64@6, 960+960 67@7"},
		{"no time, no thread", triads, []string{c, `{"on":true,"chord":2,"glide":{"time":0}}`},
			"0+960 60@2, 0+960 64@3, 0+960 67@4, 960+960 60@5, 960+960 65@6, 960+960 69@7"},
		{"tied: what is common stays, the nearest slides there, one more is struck, and what has no place ends", triads, []string{slow, f},
			"0+1920 60@2, 0+1920 64>65@3, 0+1440 67>65@4, 960+960 69<67@5"},
		{"tied to fewer", []string{"0 2 4", "1 4"}, []string{slow, f}, "0+1920 60>62@2, 0+1440 64>62@3, 0+1920 67@4"},
		{"tied to more", []string{"0", "0 2 4"}, []string{slow, f}, "0+1920 60@2, 960+960 64<60@3, 960+960 67<60@4"},
		{"tied to fewer, one of them common: the other slides into it and ends there", []string{"0 2", "2"}, []string{slow, f},
			"0+1440 60>64@2, 0+1920 64@3"},
		{"a key that a note has left is struck beside it", []string{"0", "4"}, []string{slow, long, c},
			"0+2880 60>67@2, 1920+960 60@3"},
		{"a pitch that a note has come to ends it where it is struck", []string{"0", "4"}, []string{slow, long, `{"on":true,"chord":2}`},
			"0+1920 60>67@2, 1920+960 67@3"},
		{"tied without a glide what is not common is struck anew", triads, []string{slow, `{"on":true,"chord":2}`},
			"0+1920 60@2, 0+960 64@3, 0+960 67@4, 960+960 65@5, 960+960 69@6"},
	} {
		for len(test.steps) < 4 {
			test.steps = append(test.steps, `{}`)
		}
		p := gliding(t, "", "", test.chords, test.steps...)
		assert.Equal(t, test.notes, threaded(p), test.what)
	}
}

// A first chord that glides comes from the last, where the loop comes round.
func TestTheLoopLeadsItsFirstChord(t *testing.T) {
	doc := `{"format":"agrimony-piece","version":1,"clips":[{"id":"a","bars":1,"seam":"loop","lanes":[{"id":"ch","kind":"chords","rate":"1/2","octave":4,"glide":{"mode":"mpe"},"palette":[{},{"tones":[{"degree":1},{"degree":4},{"degree":6}]}],"steps":[{"on":true,"glide":{"time":25}},{"on":true,"chord":2}]}]}]}`
	p, err := piece.Read([]byte(doc))
	require.NoError(t, err)
	played, err := lane.Render(p, &p.Clips[0], render.Options{})
	require.NoError(t, err)
	assert.Equal(t, "0+1920 60<60@2, 0+1920 64<65@3, 0+1920 67<69@4, 1920+1920 60@5, 1920+1920 65@6, 1920+1920 69@7", threaded(played))
}

func TestZones(t *testing.T) {
	for _, test := range []struct {
		what   string
		voices []int
		taken  []int
		want   []int
	}{
		{"twice as many as voices", []int{3}, nil, []int{6}},
		{"no more than there are", []int{12}, nil, []int{15}},
		{"beside a drum lane", []int{8}, []int{10}, []int{8}},
		{"two zones beside a drum lane", []int{8, 8}, []int{10}, []int{8, 5}},
		{"both have fourteen", []int{6, 6}, nil, []int{8, 6}},
		{"two zones with room", []int{3, 2}, nil, []int{6, 4}},
		{"what others have is theirs", []int{4}, []int{16, 15, 5}, []int{3}},
		{"one at least", []int{4}, []int{2}, []int{1}},
	} {
		var zones []*render.Zone
		for i := range test.voices {
			zones = append(zones, &render.Zone{Upper: i == 1, Range: 48})
		}
		var taken [17]bool
		for _, c := range test.taken {
			taken[c] = true
		}
		render.Size(zones, test.voices, taken)
		var got []int
		for _, z := range zones {
			got = append(got, z.Members)
		}
		assert.Equal(t, test.want, got, test.what)
	}
}

func TestAZoneIsAnnounced(t *testing.T) {
	var got []string
	for _, c := range render.Setup([]*render.Zone{{Upper: true, Range: 24, Members: 1}, {Range: 48, Members: 2}}) {
		got = append(got, fmt.Sprintf("%d:%d=%d", c.Channel, c.Controller, c.Value))
	}
	assert.Equal(t, strings.Fields(`1:101=0 1:100=6 1:6=2 16:101=0 16:100=6 16:6=1
		2:101=0 2:100=0 2:6=48 2:38=0 3:101=0 3:100=0 3:6=48 3:38=0 1:101=0 1:100=0 1:6=2 1:38=0
		15:101=0 15:100=0 15:6=24 15:38=0 16:101=0 16:100=0 16:6=2 16:38=0
		2:101=127 2:100=127 3:101=127 3:100=127 1:101=127 1:100=127 15:101=127 15:100=127 16:101=127 16:100=127`), got)
}

func TestAThirdLaneThatGlidesNoteByNoteIsRefused(t *testing.T) {
	lanes := make([]string, 3)
	for i := range lanes {
		lanes[i] = fmt.Sprintf(`{"id":"l%d","name":"L%d","kind":"phrase","glide":{"mode":"mpe"},"steps":[{}]}`, i, i)
	}
	read := func(n int) error {
		_, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"a","bars":1,"lanes":[` + strings.Join(lanes[:n], ",") + `]}]}`))
		return err
	}
	require.NoError(t, read(2))
	assert.ErrorContains(t, read(3), `clips[0].lanes[2].glide.mode: mpe needs a zone of channels of its own, and L0 and L1 have both; allowed: two such lanes in a clip`)
}

// A layer that no zone was left for has one as soon as a lane leaves its own, though nothing of it was edited.
func TestALayerTakesAZoneThatIsLeft(t *testing.T) {
	lane1 := `{"id":%q,"kind":"phrase","source":"own","tones":[{},{"degree":3}],"glide":{"mode":"mpe"},"steps":[{"on":true}]%s}`
	doc := func(more string) *piece.Piece {
		p, err := piece.Read(fmt.Appendf(nil, `{"format":"agrimony-piece","version":1,"clips":[{"id":"a","bars":1,"lanes":[`+lane1+`,`+lane1+`,{"id":"up","kind":"layer","of":"one","octave":1}]}]}`, "one", "", "two", more))
		require.NoError(t, err)
		return p
	}
	full, muted := doc(""), doc(`,"mute":true`)
	before, err := lane.Render(full, &full.Clips[0], render.Options{})
	require.NoError(t, err)
	require.Nil(t, before.Lanes[2].Zone)
	after, err := lane.Render(muted, &muted.Clips[0], render.Options{Before: before})
	require.NoError(t, err)
	assert.NotNil(t, after.Lanes[len(after.Lanes)-1].Zone)
}

// Whatever glides: a member sounds one note at a time, its wheel is set on the tick of its note and rests
// until the next, and positions leave the cable room.
func TestWheelsOfZones(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		whole := func(low, high int, what string) int { return rapid.IntRange(low, high).Draw(t, what) }
		var chords, steps []string
		for range whole(2, 4, "chords") {
			tones := map[int]bool{}
			for range whole(1, 4, "tones") {
				tones[whole(0, 13, "tone")] = true
			}
			var own []string
			for n := range 14 {
				if tones[n] {
					own = append(own, fmt.Sprint(n))
				}
			}
			chords = append(chords, strings.Join(own, " "))
		}
		for range whole(2, 6, "steps") {
			step := fmt.Sprintf(`{"on":%v,"chord":%d,"tie":%v,"gate":%d,"ratchet":%d,"nudge":%d`, whole(0, 4, "on") > 0, whole(1, len(chords), "chord"), whole(0, 2, "tie") == 0, whole(20, 250, "gate"), max(whole(-4, 3, "ratchet"), 1), whole(-20, 20, "nudge"))
			if whole(0, 3, "glides") > 0 {
				step += fmt.Sprintf(`,"glide":{"time":%d,"curve":%d`, whole(0, 200, "time"), whole(-100, 100, "curve"))
				if whole(0, 4, "stated") == 0 {
					step += fmt.Sprintf(`,"from":%d`, whole(-12, 12, "from"))
				}
				step += "}"
			}
			if whole(0, 4, "bends") == 0 {
				step += fmt.Sprintf(`,"bend":[{"at":%d,"by":%d},{"at":90,"by":%d,"curve":40}]`, whole(0, 50, "at"), whole(-3, 3, "by"), whole(-3, 3, "to"))
			}
			if whole(0, 4, "strums") == 0 {
				step += fmt.Sprintf(`,"strum":{"time":%d}`, whole(0, 60, "strum"))
			}
			steps = append(steps, step+"}")
		}
		head := fmt.Sprintf(`,"tempo":%d,"groove":{"swing":%d}`, whole(40, 240, "tempo"), whole(50, 70, "swing"))
		var channels []int
		if whole(0, 2, "beside") == 0 {
			channels = append(channels, whole(3, 16, "channel"))
		}
		p := glidingBeside(t, channels, head, fmt.Sprintf(`,"rate":"%s"`, rapid.SampledFrom([]string{"1/4", "1/8", "1/2"}).Draw(t, "rate")), chords, steps...)
		checkZone(t, p)
	})
}

// What ties lead to is the chord, over rests and round the seam: every tone of a struck chord is struck, and once the slides are over each chord's
// tones sound, and nothing else.
func TestTiesLeadToTheChord(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		whole := func(low, high int, what string) int { return rapid.IntRange(low, high).Draw(t, what) }
		var chords []string
		var tones [][]int
		for range whole(2, 4, "chords") {
			own := rapid.SliceOfNDistinct(rapid.IntRange(0, 20), 1, 5, rapid.ID).Draw(t, "tones")
			slices.Sort(own)
			chords = append(chords, strings.Trim(fmt.Sprint(own), "[]"))
			tones = append(tones, own)
		}
		pitch := func(tone int) int { return 60 + 12*(tone/7) + []int{0, 2, 4, 5, 7, 9, 11}[tone%7] }
		var steps []string
		var which []int // the chord of each step, -1: a rest
		var ties []bool
		for range whole(1, 6, "steps") {
			chord, tie := whole(0, len(chords), "chord"), rapid.Bool().Draw(t, "tie")
			step := fmt.Sprintf(`{"on":%v,"chord":%d,"tie":%v,"gate":100`, chord > 0, max(chord, 1), tie)
			if rapid.Bool().Draw(t, "glides") {
				step += fmt.Sprintf(`,"glide":{"time":%d,"curve":%d}`, whole(0, 90, "time"), whole(-50, 50, "curve"))
			}
			steps, which, ties = append(steps, step+"}"), append(which, chord-1), append(ties, tie)
		}
		p := gliding(t, `,"tempo":60`, "", chords, steps...)
		part := &p.Lanes[0]
		var want []int
		for k := range 4 {
			var struck, sound []int
			s := k % len(steps)
			tied := k > 0 && ties[(k-1)%len(steps)] && len(want) > 0
			switch {
			case which[s] >= 0:
				want = nil
				for _, tone := range tones[which[s]] {
					want = append(want, pitch(tone))
				}
			case !tied:
				want = nil
			}
			late := int64(k+1)*960 - 1
			for i := range part.Notes {
				note := &part.Notes[i]
				at, length := p.Span(note, 960)
				if at == int64(k)*960 {
					struck = append(struck, int(note.Pitch))
				}
				if at <= late && late < at+length {
					heard := float64(note.Pitch)
					for _, bend := range part.WheelOf(note) {
						if bend.At.Export(960) <= late {
							heard = float64(note.Pitch) + float64(bend.Value)*48/8192
						}
					}
					require.InDelta(t, math.Round(heard), heard, 0.03, "step %d of %v", k+1, steps)
					sound = append(sound, int(math.Round(heard)))
				}
			}
			slices.Sort(struck)
			slices.Sort(sound)
			if !tied {
				require.Equal(t, want, struck, "step %d of %v, %v, is struck", k+1, steps, chords)
			}
			require.Equal(t, want, sound, "step %d of %v, %v, sounds", k+1, steps, chords)
		}
	})
}

// checkZone holds a performance of one lane to what a zone is.
func checkZone(t require.TestingT, p *render.Performance) {
	part := &p.Lanes[0]
	if len(part.Notes) == 0 {
		return
	}
	z := part.Zone
	require.Positive(t, z.Members)
	perTick := 60000 / p.Piece.Tempo / float64(p.PPQ) // ms
	end := p.Length.Export(p.PPQ)
	type stretch struct{ at, end int64 }
	by := map[uint8][]stretch{}
	wheels := map[uint8][]render.Bend{}
	for _, b := range part.Bends {
		wheels[b.Channel] = append(wheels[b.Channel], b)
	}
	for k := range part.Notes {
		note := &part.Notes[k]
		at, length := p.Span(note, p.PPQ)
		require.True(t, z.Has(int(note.Channel)) && int(note.Channel) != z.Master(), "channel %d", note.Channel)
		own := by[note.Channel]
		if n := len(own); n > 0 {
			require.LessOrEqual(t, own[n-1].end, at, "one note at a time on channel %d", note.Channel)
		}
		by[note.Channel] = append(own, stretch{at, at + length})
		set := slices.ContainsFunc(wheels[note.Channel], func(b render.Bend) bool { return b.At.Export(p.PPQ) == at })
		require.True(t, set, "the wheel is set where the note at %d begins", at)
	}
	for channel, list := range wheels {
		for i, b := range list {
			tick := b.At.Export(p.PPQ)
			inside := tick == end && b.Value == 0
			onset := false
			for _, s := range by[channel] {
				inside = inside || s.at <= tick && tick < s.end
				onset = onset || s.at == tick
			}
			require.True(t, inside, "the wheel of channel %d rests at %d", channel, tick)
			if i > 0 && !onset && tick != end {
				gap := float64(tick-list[i-1].At.Export(p.PPQ)) * perTick
				require.GreaterOrEqual(t, gap, 1.25-1e-9, "channel %d at %d", channel, tick)
			}
		}
	}
}

// Tones that have the time go in fiftieths of a semitone, taking turns on the cable, and are where they should
// be at every moment.
func TestSlowThreadsAreSmooth(t *testing.T) {
	p := gliding(t, `,"tempo":60`, `,"rate":"1/2"`, []string{"0 2 4", "1 3 5"}, `{"on":true,"tie":true}`, `{"on":true,"chord":2,"glide":{"time":100}}`)
	part := &p.Lanes[0]
	last := map[uint8]render.Bend{}
	for _, b := range part.Bends {
		was, ok := last[b.Channel]
		last[b.Channel] = b
		if at := b.At.Export(960); !ok || at <= 1920 || at == 3840 {
			continue
		}
		assert.LessOrEqual(t, math.Abs(float64(b.Value)-float64(was.Value))*48/8192, 0.0201, "channel %d at %d", b.Channel, b.At.Export(960))
	}
	for k := range part.Notes {
		note := &part.Notes[k]
		wheel := part.WheelOf(note)
		for _, share := range []float64{0.25, 0.5, 0.75} {
			tick := 1920 + int64(share*1920)
			value := int16(0)
			for _, b := range wheel {
				if b.At.Export(960) <= tick {
					value = b.Value
				}
			}
			from, to := 0.0, float64(note.EndPitch()-int(note.Pitch))
			if home, ok := note.Thread(); ok && note.At > 0 {
				from, to = float64(home-int(note.Pitch)), 0
			}
			assert.InDelta(t, from+(to-from)*share, float64(value)*48/8192, 0.02, "%d at %d", note.Pitch, tick)
		}
	}
}

// As many wheels share the cable as move: notes for which a small zone has no channel take none of it.
func TestWheelsThatMoveShareTheCable(t *testing.T) {
	for _, row := range []struct {
		chord    string
		channels []int
		members  int
		apart    int64 // ticks of 960 between two positions of one wheel
	}{
		{"0", nil, 2, 2},
		{"0 2 4", nil, 6, 6},
		{"0 2 4 6 8", nil, 10, 10},
		{"0 2 4 6 8", []int{5}, 3, 6},
		{"0 2 4 6 8", []int{3}, 1, 2},
	} {
		steps := []string{`{"on":true,"gate":50}`, `{"on":true,"chord":2,"gate":100,"glide":{"time":60}}`}
		away := strings.NewReplacer("0", "13", "2", "15", "4", "17", "6", "19", "8", "21").Replace(row.chord)
		p := glidingBeside(t, row.channels, `,"tempo":100`, "", []string{row.chord, away}, steps...)
		part := &p.Lanes[0]
		require.Equal(t, row.members, part.Zone.Members, "%s beside %v", row.chord, row.channels)
		for k := range part.Notes {
			at, length := p.Span(&part.Notes[k], 960)
			if _, slides := part.Notes[k].Thread(); !slides {
				continue
			}
			var own []int64
			for _, b := range part.Bends {
				if tick := b.At.Export(960); b.Channel == part.Notes[k].Channel && at <= tick && tick < at+length {
					own = append(own, tick)
				}
			}
			require.Greater(t, len(own), 20)
			for i := 1; i < len(own)-1; i++ {
				assert.Equal(t, row.apart, own[i]-own[i-1], "%s beside %v at %d", row.chord, row.channels, own[i])
			}
		}
	}
}

// A line that is set to a channel of a zone strikes a key on the tick on which a gliding note strikes it there: once.
func TestALineOnAMembersChannelStrikesAKeyOnce(t *testing.T) {
	p, err := piece.Read([]byte(`{"format":"agrimony-piece","version":1,"clips":[{"id":"a","bars":1,"lanes":[
		{"id":"tide","kind":"chords","rate":"1/2","octave":4,"glide":{"mode":"mpe"},"palette":[{"tones":[{"degree":1}]}],"steps":[{"on":true,"gate":50},{"on":true}]},
		{"id":"low","channel":2,"rate":"1/2","octave":4,"steps":[{"on":true,"gate":100},{}]}]}]}`))
	require.NoError(t, err)
	performance, err := lane.Render(p, &p.Clips[0], render.Options{})
	require.NoError(t, err)
	struck := map[string]int{}
	for _, n := range performance.Events().Notes {
		struck[fmt.Sprint(n.Channel, " ", n.Pitch, " ", n.At)]++
	}
	for what, times := range struck {
		assert.Equal(t, 1, times, what)
	}
	assert.Contains(t, struck, "2 60 0")
}
