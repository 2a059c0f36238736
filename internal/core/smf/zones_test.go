package smf_test

import (
	"bytes"
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	library "gitlab.com/gomidi/midi/v2/smf"

	"agrimony/internal/core/order"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
	"agrimony/internal/core/smf"
)

// glided is a piece of two lanes that glide note by note, beside drums and a control lane that presses one.
const glided = `{"format":"agrimony-piece","version":1,"tempo":60,"clips":[{"id":"quay","name":"Quay","bars":1,"lanes":[
	{"id":"ch","name":"Lanterns","kind":"chords","rate":"1/2","octave":4,"glide":{"mode":"mpe"},"palette":[{},{"tones":[{"degree":1},{"degree":4},{"degree":6}]}],"steps":[{"on":true},{"on":true,"chord":2,"glide":{"time":100}}]},
	{"id":"arp","name":"Ripples","kind":"phrase","rate":"1/4","octave":5,"glide":{"mode":"mpe","range":24},"source":"own","tones":[{"degree":1},{"degree":3}],"steps":[{"on":true},{"on":true,"glide":{"time":80}},{"on":true},{"on":true,"glide":{"time":50}}]},
	{"id":"kit","name":"Kit","kind":"pulse","channel":10,"note":36,"steps":[{"on":true},{},{},{}]},
	{"id":"press","name":"Press","kind":"control","to":"ch","target":"pressure","rate":"1/2","steps":[{"on":true,"value":10},{"on":true,"value":90}]}]}],
	"order":{"entries":[{"clip":"quay","at":0,"for":7680}]}}`

// keyed is a note of a channel with its way, as a reader of the specification hears it: the pitch at ticks.
type keyed struct {
	at, end int64
	pitch   int
	channel int
	heard   map[int64]float64
}

// heardIn plays a file's channel messages, in order, as an instrument with zones does.
func heardIn(t *testing.T, messages []message) []keyed {
	var members [17]bool
	parameter, reach, wheel := [17][2]int{}, [17]float64{}, [17]float64{}
	var open [17]*keyed
	var out []*keyed
	zones := 0
	for _, m := range messages {
		switch m.status & 0xf0 {
		case 0xb0:
			switch m.a {
			case 101:
				parameter[m.channel][0] = m.b
			case 100:
				parameter[m.channel][1] = m.b
			case 6:
				if parameter[m.channel] == [2]int{0, 6} {
					require.Empty(t, out, "zones are announced before all else")
					zones++
					for i := range m.b {
						if m.channel == 1 {
							members[2+i] = true
						} else {
							members[15-i] = true
						}
					}
				} else if parameter[m.channel] == [2]int{0, 0} {
					reach[m.channel] = float64(m.b)
				}
			}
		case 0xe0:
			wheel[m.channel] = float64(m.b<<7+m.a-8192) / 8192 * reach[m.channel]
			if n := open[m.channel]; n != nil {
				n.heard[m.at] = float64(n.pitch) + wheel[m.channel]
			}
		case 0x90:
			if !members[m.channel] {
				continue // drums
			}
			require.Nil(t, open[m.channel], "one note at a time on channel %d at %d", m.channel, m.at)
			open[m.channel] = &keyed{at: m.at, pitch: m.a, channel: m.channel, heard: map[int64]float64{m.at: float64(m.a) + wheel[m.channel]}}
			out = append(out, open[m.channel])
		case 0x80:
			if n := open[m.channel]; n != nil {
				require.Equal(t, n.pitch, m.a)
				n.end, open[m.channel] = m.at, nil
			}
		case 0xd0:
			assert.Equal(t, 1, m.channel, "what is said of the whole lane goes to the master")
		}
	}
	assert.Equal(t, 2, zones)
	var done []keyed
	for _, n := range out {
		done = append(done, *n)
	}
	return done
}

type message struct {
	at            int64
	status        byte
	channel, a, b int
}

// messagesOf reads the messages of a file in order of time with a reader that is not ours.
func messagesOf(t *testing.T, data []byte) (out []message) {
	file, err := library.ReadFrom(bytes.NewReader(data))
	require.NoError(t, err)
	type place struct {
		track, next int
		at          int64
	}
	heads := make([]place, len(file.Tracks))
	for i := range heads {
		heads[i] = place{track: i}
		if len(file.Tracks[i]) > 0 {
			heads[i].at = int64(file.Tracks[i][0].Delta)
		}
	}
	for {
		best := -1
		for i := range heads {
			if heads[i].next < len(file.Tracks[i]) && (best < 0 || heads[i].at < heads[best].at) {
				best = i
			}
		}
		if best < 0 {
			return out
		}
		h := &heads[best]
		if raw := []byte(file.Tracks[best][h.next].Message); raw[0] < 0xf0 {
			m := message{at: h.at, status: raw[0], channel: int(raw[0]&15) + 1, a: int(raw[1])}
			if len(raw) > 2 {
				m.b = int(raw[2])
			}
			out = append(out, m)
		}
		if h.next++; h.next < len(file.Tracks[best]) {
			h.at += int64(file.Tracks[best][h.next].Delta)
		}
	}
}

// bySteps reads the wheels of a file with our own reader, as the pitches of the notes that it finds.
func bySteps(t *testing.T, data []byte) map[string]map[int64]float64 {
	file, err := smf.Decode(data, nil)
	require.NoError(t, err)
	out := map[string]map[int64]float64{}
	reach := map[int]float64{}
	for _, track := range file.Tracks {
		for i, c := range track.Controls {
			if c.Controller == 6 && i >= 2 && track.Controls[i-1].Controller == 100 && track.Controls[i-1].Value == 0 {
				reach[c.Channel] = float64(c.Value)
			}
		}
	}
	for _, track := range file.Tracks {
		for _, n := range track.Notes {
			if reach[n.Channel] == 0 {
				continue
			}
			own := map[int64]float64{}
			for _, b := range track.Bends {
				if b.Channel == n.Channel && b.At >= n.At && b.At < n.At+n.Length {
					own[b.At] = float64(n.Pitch) + float64(b.Value)/8192*reach[n.Channel]
				}
			}
			out[fmt.Sprint(n.At, n.Channel)] = own
		}
	}
	return out
}

func TestTwoReadersHearNotesGlide(t *testing.T) {
	p, err := piece.Read([]byte(glided))
	require.NoError(t, err)
	_, alone := performed(t, glided, render.Options{})
	whole, err := order.Render(p, order.Options{})
	require.NoError(t, err)
	for _, fileType := range []int{0, 1} {
		clip, err := smf.Encode(alone, smf.Options{Type: fileType})
		require.NoError(t, err)
		all, err := smf.EncodeOrder(whole, smf.Options{Type: fileType})
		require.NoError(t, err)
		assert.Equal(t, []byte{0, 0xb0, 101, 0}, clip[22:26], "zones stand before all else in the first track")
		for name, data := range map[string][]byte{"clip": clip, "order": all} {
			heard := heardIn(t, messagesOf(t, data))
			assert.Len(t, heard, map[string]int{"clip": 10, "order": 20}[name])
			ours := bySteps(t, data)
			for _, n := range heard {
				assert.Equal(t, ours[fmt.Sprint(n.at, n.channel)], n.heard, "%s, type %d: both readers hear the note at %d on channel %d alike", name, fileType, n.at, n.channel)
			}
			// E goes to F, and G to A, over the second half of the bar.
			for _, way := range []struct{ from, to float64 }{{64, 65}, {67, 69}} {
				found := false
				for _, n := range heard {
					if n.at != 1920 || float64(n.pitch) != way.to {
						continue
					}
					found = true
					last := 0.0
					for tick := n.at; tick < n.end; tick++ {
						if at, ok := n.heard[tick]; ok {
							last = at
						}
						assert.InDelta(t, way.from+(way.to-way.from)*float64(tick-1920)/1920, last, 1.0/50, "at %d", tick)
					}
				}
				assert.True(t, found)
			}
		}
	}
}
