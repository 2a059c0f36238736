package e2e

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/order"
	"agrimony/internal/core/piece"
)

// spedUp lets the page's clock, and the sound's, go by turns instead of by time: so much for each, as fast
// as the page gets through them. It stands still while the page waits for an answer, as that takes no time to
// speak of against a second of music, and while window.held is set.
const spedUp = `(() => {
	let time = 1, waiting = 0;
	Object.defineProperty(BaseAudioContext.prototype, "currentTime", {get: () => time});
	performance.now = () => time * 1000;
	const ask = window.fetch.bind(window);
	window.fetch = async (...what) => {
		waiting++;
		try {
			const answer = await ask(...what), text = answer.text.bind(answer);
			answer.text = () => { waiting++; return text().finally(() => setTimeout(() => waiting--)); };
			return answer;
		} finally { setTimeout(() => waiting--, 1); }
	};
	const Real = window.Worker;
	window.Worker = function (address, options) {
		if (!String(address).includes("turns")) return new Real(address, options);
		const own = {onmessage: null, postMessage() {}, terminate() { own.onmessage = null; }};
		const {port1, port2} = new MessageChannel();
		port1.onmessage = () => {
			if (waiting || window.held) return void setTimeout(() => port2.postMessage(0), 1);
			time += window.turn?.() ?? 0.28;
			own.onmessage?.({data: 0});
			port2.postMessage(0);
		};
		port2.postMessage(0);
		return own;
	};
})()`

// overhearing keeps what is scheduled of the running order.
const overhearing = `window.heard = []; window.ended = [];
window.addEventListener("order note", (e) => window.heard.push(e.detail));
window.addEventListener("order silence", (e) => window.ended.push(e.detail));`

// struck is a note as it was scheduled, or as a file has it, in 960ths of a quarter.
type struck struct {
	At, Length int64
	Pitch      int
	Lane       string
}

// scheduled are the notes that the page has scheduled up to a tick, as long as they sound: a note ends where
// its lane falls silent.
func (h *hand) scheduled(until int64) []struck {
	h.t.Helper()
	all := eval[[]struck](h.tab, `window.heard.map((n) => {
		const end = window.ended.filter((s) => s.lane === n.lane && s.at > n.at).reduce((least, s) => Math.min(least, s.at), n.at + n.length);
		return {At: n.at, Length: end - n.at, Pitch: n.pitch, Lane: n.lane};
	})`)
	return slices.DeleteFunc(all, func(s struck) bool { return s.At >= until })
}

// ordered are the notes of the order as it is written.
func ordered(t *testing.T, p *piece.Piece, until int64) (out []struck) {
	t.Helper()
	end := 0
	for _, e := range p.Order.Entries {
		end = max(end, e.End())
	}
	played, err := order.Render(p, order.Options{Live: true, To: end}) // clips have no channels in common here
	require.NoError(t, err)
	for i := range played.Tracks {
		track := &played.Tracks[i]
		for k := range track.Part.Notes {
			note := &track.Part.Notes[k]
			if at := note.At.Export(960); at < until {
				out = append(out, struck{at, note.End.Export(960) - at, int(note.Pitch), p.Clips[track.Clip].ID + "/" + track.Part.ID})
			}
		}
	}
	return out
}

// same holds what was scheduled to what is written, note by note.
func same(t *testing.T, want, got []struck) {
	t.Helper()
	count := map[struck]int{}
	for _, n := range want {
		count[n]++
	}
	for _, n := range got {
		count[n]--
	}
	var off []string
	for n, c := range count {
		if c != 0 {
			off = append(off, fmt.Sprintf("%d+%d %s %d %+d", n.At, n.Length, n.Lane, n.Pitch, c))
		}
	}
	slices.Sort(off)
	assert.Empty(t, off[:min(len(off), 12)], "written, and not heard (+), or the other way round (-); %d in all, of %d", len(off), len(want))
	assert.NotEmpty(t, want)
}
