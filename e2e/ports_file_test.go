package e2e

import (
	"encoding/json"
	"fmt"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/lane"
	"agrimony/internal/core/order"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
	"agrimony/internal/core/smf"
	"agrimony/internal/demo"
)

// unevenTurns lets the page have its turns as on a machine that others use: now after a moment, now so late that one
// lane tells of a quarter of a second before the next does. None is so late that what it schedules is.
const unevenTurns = `(() => { let k = 0; window.turn = () => [0.23, 0.02, 0.24, 0.11, 0.05, 0.2, 0.24][k++ % 7]; })();`

// messages are what is said up to an end, in ticks of 960 a quarter: what stands at the end itself belongs to what
// comes next, but for the ends of notes.
type messages struct {
	end  int64
	said []string
}

func (m *messages) say(at int64, channel int, what string, values ...int) {
	if at < 0 || at > m.end || at == m.end && what != "leaves" {
		return
	}
	m.said = append(m.said, fmt.Sprintf("%6d %d %s %v", at, channel, what, values))
}

// ofFile are the messages that a file holds before a tick.
func ofFile(t *testing.T, data []byte, end int64) []string {
	file, err := smf.Decode(data, nil)
	require.NoError(t, err)
	out := messages{end: end}
	for _, track := range file.Tracks {
		for _, n := range track.Notes {
			if n.At < end {
				out.say(n.At, n.Channel, "strikes", n.Pitch, n.Velocity)
				out.say(n.At+n.Length, n.Channel, "leaves", n.Pitch)
			}
		}
		for _, b := range track.Bends {
			out.say(b.At, b.Channel, "bends", b.Value)
		}
		for _, c := range track.Controls {
			out.say(c.At, c.Channel, "sets", c.Controller, c.Value)
		}
		for _, x := range track.Pressures {
			out.say(x.At, x.Channel, "presses", x.Value)
		}
	}
	slices.Sort(out.said)
	return out.said
}

// ofPort are the messages that a port was sent, from its first note, at a tick, on.
func ofPort(all []sentMessage, tempo float64, first, end int64) []string {
	begin := math.Inf(1)
	for _, m := range all {
		if m.Message[0]&0xf0 == 0x90 {
			begin = min(begin, m.At)
		}
	}
	out := messages{end: end}
	for _, m := range all {
		at := first + int64(math.Round((m.At-begin)*tempo*960/60000))
		channel := m.Message[0]&15 + 1
		switch m.Message[0] & 0xf0 {
		case 0x90:
			out.say(at, channel, "strikes", m.Message[1], m.Message[2])
		case 0x80:
			out.say(at, channel, "leaves", m.Message[1])
		case 0xe0:
			out.say(at, channel, "bends", m.Message[2]<<7+m.Message[1]-8192)
		case 0xb0:
			out.say(at, channel, "sets", m.Message[1], m.Message[2])
		case 0xd0:
			out.say(at, channel, "presses", m.Message[1])
		}
	}
	slices.Sort(out.said)
	return out.said
}

// firstOf is the tick of a file's first note.
func firstOf(t *testing.T, data []byte) int64 {
	file, err := smf.Decode(data, nil)
	require.NoError(t, err)
	first := int64(math.MaxInt64)
	for _, track := range file.Tracks {
		for _, n := range track.Notes {
			first = min(first, n.At)
		}
	}
	return first
}

// Each clip of the sample reaches a port as its file has it, message by message, and nothing hangs.
func TestEachClipSoundsOnAPortAsItsFileHasIt(t *testing.T) {
	const tempo, most = 200, 8
	s, p := loops(t, tempo, unevenTurns, plugged, spedUp)
	p.toStandIn()
	doc := s.piece(t, "untitled")
	for i := range doc.Clips {
		clip := &doc.Clips[i]
		performance, err := lane.Render(doc, clip, render.Options{})
		require.NoError(t, err)
		if performance.Length > most*doc.Bar() {
			continue
		}
		data, err := smf.Encode(performance, smf.Default)
		require.NoError(t, err)
		end := performance.Length.Export(performance.PPQ)
		p.do(chromedp.Navigate(s.url + "/piece/untitled/" + clip.ID))
		p.until(`window.agrimony?.` + clip.Lanes[0].ID)
		p.key(" ")
		past := end*60000/tempo/960 + 50 // what ends with the playing is not the clip's
		p.until(fmt.Sprintf(`performance.now() - window.sent.find((m) => (m.message[0] & 0xf0) === 0x90)?.at > %d`, past))
		p.key(" ")
		p.until(`document.querySelector("[aria-label=Play]")`)
		all := p.sent()
		assert.Equal(t, ofFile(t, data, end), ofPort(all, tempo, firstOf(t, data), end), clip.Name)
		keys, bent := hanging(all)
		assert.Empty(t, keys, clip.Name)
		assert.Zero(t, bent, clip.Name)
	}
}

// onceLeft are messages of an order but for what nobody hears where entries are left: a file, whose tracks are read in
// no order, ends a note a tick before another clip strikes on its channel; a port may be told to rest what rests.
func onceLeft(said []string, p *piece.Piece) (out []string) {
	resting := regexp.MustCompile(`bends \[0]|sets \[6[45] 0]|presses \[0]`)
	bounds := map[int]bool{}
	for _, e := range p.Order.Entries {
		bounds[e.At], bounds[e.At+e.For] = true, true
	}
	for _, m := range said {
		at, err := strconv.Atoi(strings.TrimSpace(m[:6]))
		switch {
		case err == nil && bounds[at+1] && strings.Contains(m, "leaves"):
			out = append(out, fmt.Sprintf("%6d%s", at+1, m[6:]))
		case bounds[at] && resting.MatchString(m):
		default:
			out = append(out, m)
		}
	}
	slices.Sort(out)
	return out
}

// The running order reaches a port as its file has it: each lane on its channel over the piece, the zone announced
// first, and each gliding note on the member that the file gives it, its wheel with it.
func TestTheOrderSoundsOnAPortAsItsFileHasIt(t *testing.T) {
	sample, err := demo.Piece()
	require.NoError(t, err)
	own, err := json.Marshal(sample.Order.Entries)
	require.NoError(t, err)
	for _, row := range []struct {
		name, entries string
		zones         bool
		least         int // so many messages at the least
	}{
		{"a gliding clip over others", `[{"clip":"slipway","at":0,"for":61440},{"clip":"keel","at":3840,"for":53760}]`, true, 800},
		{"the sample's own", string(own), false, 800},
		{"a split, a mute and what was played, over notes that are held", `[{"clip":"quay","at":0,"for":3840},{"clip":"quay","at":3840,"for":7680,"from":3840,"mute":["knock"]},` +
			`{"clip":"quay","at":11520,"for":960,"from":11520},{"clip":"quay","at":12480,"for":6720,"from":12480,"mute":["mist"]},{"clip":"basin","at":1920,"for":3840},{"clip":"basin","at":5760,"for":7680,"from":3840,"shift":2}]`, false, 60},
	} {
		t.Run(row.name, func(t *testing.T) {
			const tempo = 200
			s, p := ordering(t, tempo, "slipway", row.entries, unevenTurns, plugged, spedUp)
			performance, err := order.Render(s.piece(t, "untitled"), order.Options{})
			require.NoError(t, err)
			data, err := smf.EncodeOrder(performance, smf.Default)
			require.NoError(t, err)
			end := performance.Length.Export(performance.PPQ)
			p.toStandIn()
			p.type_("O")
			p.until(`document.querySelector("[data-testid=bands]")`)
			p.type_(" ")
			p.bar(int(end/3840) + 1)
			p.type_(" ")
			p.until(`[...document.querySelectorAll("button")].every((b) => b.innerText !== "Stop")`)

			all := p.sent()
			if row.zones {
				first := slices.IndexFunc(all, func(m sentMessage) bool { return m.Message[0]&0xf0 == 0x90 })
				zone := slices.IndexFunc(all, func(m sentMessage) bool { return m.Message[0] == 0xb0 && m.Message[1] == 100 && m.Message[2] == 6 })
				require.GreaterOrEqual(t, zone, 0, "the zone is announced")
				assert.Less(t, zone, first, "before any note")
			}
			want := ofFile(t, data, end)
			require.Greater(t, len(want), row.least)
			assert.Equal(t, onceLeft(want, performance.Piece), onceLeft(ofPort(all, tempo, firstOf(t, data), end), performance.Piece))
		})
	}
}
