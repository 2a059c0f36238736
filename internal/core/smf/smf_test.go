package smf_test

import (
	"bytes"
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	library "gitlab.com/gomidi/midi/v2/smf"

	"agrimony/internal/core/lane"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
	"agrimony/internal/core/smf"
)

const sample = `{"format":"agrimony-piece","version":1,"tempo":104,"meter":"7/8","key":{"tonic":"F#","scale":"dorian"},
	"groove":{"swing":62,"grid":"1/16"},"clips":[{"id":"keel","name":"Keel","bars":2,"lanes":[
	{"id":"low","name":"Low","octave":2,"steps":[{"on":true,"gate":50},{},{"on":true,"degree":5,"octave":-1,"tie":true},{"on":true,"degree":3,"glide":{"time":60}}]},
	{"id":"reed","name":"Reed","octave":4,"rate":"1/8T","glide":{"mode":"legato"},"steps":[{"on":true,"tie":true},{"on":true,"degree":4,"glide":{}},{"on":true,"degree":2,"ratchet":3}]}]}]}`

func performed(t require.TestingT, doc string, options render.Options) (*piece.Piece, *render.Performance) {
	p, err := piece.Read([]byte(doc))
	require.NoError(t, err)
	performance, err := lane.Render(p, &p.Clips[0], options)
	require.NoError(t, err)
	return p, performance
}

func TestAFileHoldsThePerformance(t *testing.T) {
	for _, options := range []struct{ PPQ, Type int }{{960, 1}, {480, 1}, {96, 1}, {960, 0}, {96, 0}} {
		_, performance := performed(t, sample, render.Options{PPQ: options.PPQ})
		data, err := smf.Encode(performance, smf.Options{Type: options.Type})
		require.NoError(t, err)
		again, err := smf.Encode(performance, smf.Options{Type: options.Type})
		require.NoError(t, err)
		assert.Equal(t, data, again, "the same bytes")

		file, err := smf.Decode(data, nil)
		require.NoError(t, err)
		assert.Equal(t, options.PPQ, file.PPQ)
		assert.Equal(t, options.Type, file.Type)
		head := file.Tracks[0]
		assert.Equal(t, "Keel", head.Name)
		assert.Equal(t, []smf.Meter{{Count: 7, Unit: 8}}, head.Meters)
		assert.Equal(t, []smf.Signature{{Sharps: 4}}, head.Keys)
		assert.InDelta(t, 104, head.Tempos[0].BPM, 0.001)

		want := map[string]int{}
		events := performance.Events()
		for _, n := range events.Notes {
			want[fmt.Sprint(n.At, n.Length, n.Channel, n.Pitch, n.Velocity)]++
		}
		for _, b := range events.Bends {
			want[fmt.Sprint("bend", b.At, b.Channel, b.Value)]++
		}
		for _, c := range events.Controls {
			want[fmt.Sprint("control", c.At, c.Channel, c.Controller, c.Value)]++
		}
		got := map[string]int{}
		for _, track := range file.Tracks {
			assert.Equal(t, events.Ticks, track.End, "every track ends where the clip does")
			for _, n := range track.Notes {
				got[fmt.Sprint(n.At, n.Length, n.Channel, n.Pitch, n.Velocity)]++
			}
			for _, b := range track.Bends {
				got[fmt.Sprint("bend", b.At, b.Channel, b.Value)]++
			}
			for _, c := range track.Controls {
				got[fmt.Sprint("control", c.At, c.Channel, c.Controller, c.Value)]++
			}
		}
		assert.Equal(t, want, got)
		if options.Type == 1 {
			assert.Equal(t, []string{"Low", "Reed"}, []string{file.Tracks[1].Name, file.Tracks[2].Name})
		}
	}
}

func TestOptionsThatAreRefused(t *testing.T) {
	p, performance := performed(t, sample, render.Options{})
	_, err := smf.Encode(performance, smf.Options{Type: 2})
	assert.EqualError(t, err, "type: 2 is not allowed; allowed: 0, 1")
	_, err = lane.Render(p, &p.Clips[0], render.Options{PPQ: 100})
	assert.EqualError(t, err, "ppq: 100 is not allowed; allowed: 96, 480, 960")
}

func TestScalesWithoutASignatureHaveNone(t *testing.T) {
	_, performance := performed(t, strings.Replace(sample, "dorian", "hungarian minor", 1), render.Options{})
	data, err := smf.Encode(performance, smf.Default)
	require.NoError(t, err)
	file, err := smf.Decode(data, nil)
	require.NoError(t, err)
	assert.Empty(t, file.Tracks[0].Keys)
}

func track(body string) string {
	return "MThd\x00\x00\x00\x06\x00\x00\x00\x01\x00\x60MTrk\x00\x00\x00" + string(rune(len(body))) + body
}

func TestRunningStatusAndOpenNotes(t *testing.T) {
	file, err := smf.Decode([]byte(track("\x00\x90\x3c\x40\x60\x3c\x00\x00\x40\x50\x60\xff\x2f\x00")), nil)
	require.NoError(t, err)
	assert.Equal(t, []smf.Note{{At: 0, Length: 96, Channel: 1, Pitch: 60, Velocity: 64}, {At: 96, Length: 96, Channel: 1, Pitch: 64, Velocity: 80}}, file.Tracks[0].Notes)
}

func TestBrokenFilesSayWhatAndWhere(t *testing.T) {
	for name, row := range map[string]struct{ data, message string }{
		"empty":               {"", "byte 0: the file ends within the header"},
		"not a file":          {"RIFF....", "byte 0: this is not a Standard MIDI File"},
		"type 2":              {"MThd\x00\x00\x00\x06\x00\x02\x00\x01\x00\x60", "byte 8: type 2; allowed: 0, 1"},
		"no tracks":           {"MThd\x00\x00\x00\x06\x00\x01\x00\x00\x00\x60", "byte 10: 0 tracks"},
		"time code":           {"MThd\x00\x00\x00\x06\x00\x01\x00\x01\xe0\x28", "byte 12: 32 frames a second of 40 ticks; allowed: 24, 25, 29 or 30"},
		"a missing track":     {"MThd\x00\x00\x00\x06\x00\x01\x00\x01\x00\x60", "byte 14: the file ends within a chunk"},
		"a cut track":         {"MThd\x00\x00\x00\x06\x00\x00\x00\x01\x00\x60MTrk\x00\x00\x10\x00\x00", "byte 14: a chunk claims 4096 bytes, but only 1 are left"},
		"no status":           {track("\x00\x3c\x40"), "byte 23: a data byte without a status"},
		"a bad data byte":     {track("\x00\x90\x3c\x90\x00\xff\x2f\x00"), "byte 23: data byte 0x90 is above 0x7f"},
		"no end":              {track("\x00\x90\x3c\x40"), "a track without its end"},
		"a status of no file": {track("\x00\xf4\x00\xff\x2f\x00"), "byte 23: status 0xf4 does not belong"},
	} {
		_, err := smf.Decode([]byte(row.data), nil)
		assert.ErrorContains(t, err, row.message, name)
	}
}

func FuzzDecode(f *testing.F) {
	_, performance := performed(f, sample, render.Options{PPQ: 96})
	for _, fileType := range []int{0, 1} {
		data, err := smf.Encode(performance, smf.Options{Type: fileType})
		require.NoError(f, err)
		f.Add(data)
	}
	f.Add([]byte(track("\x00\x90\x3c\x40\x60\x3c\x00\x00\xff\x2f\x00")))
	f.Fuzz(func(t *testing.T, data []byte) {
		file, err := smf.Decode(data, nil)
		if err == nil {
			notes := 0
			for _, track := range file.Tracks {
				for _, note := range track.Notes {
					assert.GreaterOrEqual(t, note.Length, int64(0))
					notes++
				}
			}
			_, err := smf.Groove(file, "")
			assert.Equal(t, notes == 0, err != nil)
		}
	})
}

// heavy is the clip that the speed of rendering is stated for: 16 line lanes of 64
// steps with swing, ties and glides, and 8 pulse lanes of 64 steps.
func heavy() string {
	var lanes []string
	for l := range 16 {
		var steps []string
		for s := range 64 {
			step := fmt.Sprintf(`{"on":%t,"degree":%d,"gate":%d,"velocity":%d`, (s+l)%5 != 4, (s*3+l)%7+1, 40+s%50, 60+s)
			if s%4 == 1 {
				step += `,"tie":true`
			}
			if s%8 == 2 {
				step += `,"glide":{"time":60,"curve":20}`
			}
			steps = append(steps, step+"}")
		}
		lanes = append(lanes, fmt.Sprintf(`{"id":"l%d","octave":%d,"steps":[%s]}`, l, 2+l%4, strings.Join(steps, ",")))
	}
	for l := range 8 {
		var steps []string
		for s := range 64 {
			steps = append(steps, fmt.Sprintf(`{"on":%t,"velocity":%d,"ratchet":%d}`, (s+l)%3 != 2, 50+s, 1+(s+l)%2))
		}
		lanes = append(lanes, fmt.Sprintf(`{"id":"p%d","kind":"pulse","note":%d,"channel":10,"steps":[%s]}`, l, 36+l, strings.Join(steps, ",")))
	}
	return `{"format":"agrimony-piece","version":1,"groove":{"swing":58,"grid":"1/16"},"clips":[{"id":"heavy","lanes":[` + strings.Join(lanes, ",") + `]}]}`
}

// choir is the clip that the speed of chords is stated for: 16 chords lanes of 64 steps
// with ties and strums, voiced smoothly.
func choir() string {
	var lanes []string
	for l := range 16 {
		var steps []string
		for s := range 64 {
			steps = append(steps, fmt.Sprintf(`{"on":%t,"chord":%d,"tie":%t,"velocity":%d,"gate":%d,"strum":{"time":%d,"way":%q}}`,
				(s+l)%6 != 5, (s+l)%4+1, s%4 == 1, 60+s, 60+s%60, s%3*20, []string{"up", "down", "turns"}[s%3]))
		}
		lanes = append(lanes, fmt.Sprintf(`{"id":"c%d","kind":"chords","octave":%d,"voicing":{"mode":"smooth"},"palette":[{"tones":[{"degree":1},{"degree":3},{"degree":5},{"degree":7}]},
			{"tones":[{"degree":6},{"degree":1,"octave":1},{"degree":3,"octave":1}]},{"tones":[{"degree":2},{"degree":4},{"degree":6},{"degree":1,"octave":1}]},
			{"tones":[{"degree":5},{"degree":7},{"degree":2,"octave":1},{"degree":4,"octave":1}]}],"steps":[%s]}`, l, 2+l%4, strings.Join(steps, ",")))
	}
	return `{"format":"agrimony-piece","version":1,"groove":{"swing":58,"grid":"1/16"},"clips":[{"id":"choir","lanes":[` + strings.Join(lanes, ",") + `]}]}`
}

// walkers is the clip that the speed of phrases is stated for: 32 phrase lanes of 64 steps
// with voices and spans over four chords.
func walkers() string {
	lanes := []string{`{"id":"c","kind":"chords","rate":"1bar","mute":true,"palette":[{"tones":[{"degree":1},{"degree":3},{"degree":5},{"degree":7}]},{"tones":[{"degree":4},{"degree":6},{"degree":1,"octave":1}]}],"steps":[{"on":true},{"on":true,"chord":2}]}`}
	for l := range 31 {
		var steps []string
		for s := range 64 {
			steps = append(steps, fmt.Sprintf(`{"on":%t,"velocity":%d,"gate":%d,"offset":%d,"play":%q}`, (s+l)%5 != 4, 60+s, 50+s, s%3-1, []string{"next", "next", "back", "high"}[s%4]))
		}
		lanes = append(lanes, fmt.Sprintf(`{"id":"p%d","kind":"phrase","octave":%d,"span":%d,"voices":%d,"order":"up-down","walk":"never","channel":%d,"steps":[%s]}`, l, 2+l%4, 1+l%3, 1+l%3, 1+l%9, strings.Join(steps, ",")))
	}
	return `{"format":"agrimony-piece","version":1,"clips":[{"id":"walkers","lanes":[` + strings.Join(lanes, ",") + `]}]}`
}

// byLibrary writes messages as a library does, from the list of them on.
func byLibrary(b *testing.B, from *library.SMF) {
	file := library.NewSMF1()
	file.TimeFormat = from.TimeFormat
	for _, messages := range from.Tracks {
		track := make(library.Track, 0, len(messages))
		for _, e := range messages {
			track = append(track, library.Event{Delta: e.Delta, Message: e.Message})
		}
		file.Tracks = append(file.Tracks, track)
	}
	var out bytes.Buffer
	_, err := file.WriteTo(&out)
	require.NoError(b, err)
}

// timed is how long something takes, of several times one after another: so each clears its
// own garbage away.
func timed(work func()) time.Duration {
	const times = 8
	began := time.Now()
	for range times {
		work()
	}
	return time.Since(began) / times
}

// BenchmarkRenderAndEncode sets rendering and encoding against what a library takes to
// encode the same events. They run in turns, so that a machine that slows down slows both, and
// the ratio is that of the medians.
func BenchmarkRenderAndEncode(b *testing.B) {
	for _, load := range []struct {
		name, doc string
		bars      int
	}{{"bars=16", heavy(), 16}, {"bars=64", heavy(), 64}, {"bars=256", heavy(), 256}, {"chords/bars=64", choir(), 64}, {"phrases/bars=64", walkers(), 64}} {
		bars := load.bars
		p, performance := performed(b, load.doc, render.Options{Bars: bars})
		encode := func(performance *render.Performance) []byte {
			data, err := smf.Encode(performance, smf.Default)
			require.NoError(b, err)
			return data
		}
		both := func() {
			performance, err := lane.Render(p, &p.Clips[0], render.Options{Bars: bars})
			require.NoError(b, err)
			encode(performance)
		}
		messages, err := library.ReadFrom(bytes.NewReader(encode(performance)))
		require.NoError(b, err)
		b.Run("pair/"+load.name, func(b *testing.B) {
			var whole, alone []time.Duration
			for b.Loop() {
				whole, alone = append(whole, timed(both)), append(alone, timed(func() { byLibrary(b, messages) }))
			}
			slices.Sort(whole)
			slices.Sort(alone)
			x, y := whole[len(whole)/2], alone[len(alone)/2]
			b.ReportMetric(float64(x.Microseconds())/1000, "both-ms")
			b.ReportMetric(float64(y.Microseconds())/1000, "library-ms")
			b.ReportMetric(float64(x)/float64(y), "ratio")
		})
		b.Run("both/"+load.name, func(b *testing.B) {
			b.ReportAllocs()
			for b.Loop() {
				both()
			}
		})
		b.Run("encode/"+load.name, func(b *testing.B) {
			b.ReportAllocs()
			for b.Loop() {
				encode(performance)
			}
		})
	}
}

// Swing moves a late note past the end of its clip; its end stays within.
func TestNothingIsWrittenPastTheEnd(t *testing.T) {
	for _, nudge := range []int{-1, 0, 1, 50} {
		for _, ratchet := range []int{1, 3, 8} {
			p, err := piece.Read(fmt.Appendf(nil, `{"format":"agrimony-piece","version":1,"groove":{"swing":75},"clips":[{"id":"a","lanes":[
				{"rate":"1/64D","steps":[{"on":true,"ratchet":%d,"nudge":%d,"gate":400}]}]}]}`, ratchet, nudge))
			require.NoError(t, err)
			for bars := 1; bars <= 3; bars++ {
				performance, err := lane.Render(p, &p.Clips[0], render.Options{Bars: bars})
				require.NoError(t, err)
				data, err := smf.Encode(performance, smf.Default)
				require.NoError(t, err)
				file, err := smf.Decode(data, nil)
				require.NoError(t, err)
				for _, track := range file.Tracks {
					assert.EqualValues(t, bars*3840, track.End)
				}
				for _, note := range file.Tracks[1].Notes {
					assert.LessOrEqual(t, note.At+note.Length, int64(bars*3840))
				}
			}
		}
	}
}
