// Package hostile is the table of hostile requests: for each route of the server, and each command, requests
// of few bytes that would take much if nothing bounded them. The tests of the server and of the commands send
// all of them, and fail where a route or a command has none; the soak holds the answers to time and memory.
package hostile

import (
	"bytes"
	"encoding/binary"
	"encoding/json"
	"fmt"
	"strings"
)

// Row is a hostile request.
type Row struct {
	Route string // "GET /api/pieces/:id/order", or the name of a command
	What  string // what is hostile about it
	// Document is the piece that it is about, which is imported first: :id in Path is its id. nil: the sample piece.
	Document func() string
	Path     string // with a query; "": the route's own
	// Body is the request's body. {version} and {id} in it stand for those of the piece.
	Body func() []byte
	// Command are the arguments of a command: PIECE, FILE and OUT stand for files with Document, with Body, and
	// for one that is written.
	Command []string
}

// Name returns what a row is called.
func (r *Row) Name() string { return r.Route + ": " + r.What }

func list(n int, item func(i int) string) string {
	out := make([]string, n)
	for i := range out {
		out[i] = item(i)
	}
	return strings.Join(out, ",")
}

func same(n int, item string) string { return list(n, func(int) string { return item }) }

// pieceOf is a document with clips and a running order.
func pieceOf(head, clips, entries string) string {
	if entries != "" {
		head += `,"order":{"entries":[` + entries + `]}`
	}
	return `{"format":"agrimony-piece","version":1` + head + `,"clips":[` + clips + `]}`
}

// doc makes the making of a document of a document.
func doc(text string) func() string { return func() string { return text } }

func body(text string) func() []byte { return func() []byte { return []byte(text) } }

// silentClip has one step that never sounds, a 64th triplet long, and so is each pass of it.
func silentClip(id string) string {
	return fmt.Sprintf(`{"id":%q,"until":"cycle","lanes":[{"id":"l","rate":"1/64T","steps":[{"on":true,"chance":0}]}]}`, id)
}

// luckyClip has the same step with little luck, so that each pass is another.
func luckyClip(id string) string {
	return fmt.Sprintf(`{"id":%q,"until":"cycle","lanes":[{"id":"l","rate":"1/64T","steps":[{"on":true,"chance":1}]}]}`, id)
}

// longest is an entry over all that an order may be long.
func longest(clip string) string { return fmt.Sprintf(`{"clip":%q,"at":0,"for":251658240}`, clip) }

var (
	silentOrder = doc(pieceOf("", silentClip("a"), longest("a")))
	luckyOrder  = doc(pieceOf("", luckyClip("a"), longest("a")))
	silent64    = func() string {
		return pieceOf("", list(64, func(i int) string { return silentClip(fmt.Sprint("c", i)) }), list(64, func(i int) string { return longest(fmt.Sprint("c", i)) }))
	}
	// shortEntries are as many entries as may be, of clips that begin again all the time.
	shortEntries = func() string {
		return pieceOf("", silentClip("a")+`,{"id":"b","bars":1,"lanes":[{"id":"l","steps":[{"on":true}]}]}`, list(4096, func(i int) string {
			return fmt.Sprintf(`{"clip":"a","at":%d,"for":61439,"from":%d}`, i*61440, i%7)
		}))
	}
	// lentOrder has clips that listen to another's chords, which luck draws in each of many short passes.
	lentOrder = func() string {
		lender := `{"id":"h","bars":1,"lanes":[{"id":"tide","kind":"chords","rate":"1/16","palette":[{"tones":[{"degree":1},{"degree":3}]},{"tones":[{"degree":4},{"degree":6}]}],"steps":[{"on":true,"chance":50},{"on":true,"chord":2,"chance":50}]}]}`
		return pieceOf("", lender+","+list(40, func(i int) string {
			return fmt.Sprintf(`{"id":"c%d","bars":64,"harmony":{"clip":"h"},"lanes":[{"id":"l","follow":"root","lock":"chord","rate":"1bar","steps":[{"on":true,"chance":50}]}]}`, i)
		}), longest("h")+","+list(40, func(i int) string { return fmt.Sprintf(`{"clip":"c%d","at":0,"for":25165824}`, i) }))
	}
	// denseClips are as many clips as may be, each of lanes that never rest.
	denseClips = func() string {
		lane := func(i int) string {
			return fmt.Sprintf(`{"id":"l%d","rate":"1/64T","steps":[{"on":true,"ratchet":8}]}`, i)
		}
		return pieceOf("", list(64, func(i int) string {
			return fmt.Sprintf(`{"id":"c%d","bars":1024,"lanes":[%s]}`, i, list(8, lane))
		}), list(64, func(i int) string { return longest(fmt.Sprint("c", i)) }))
	}
	// variants are versions of a clip of dense lanes.
	variants = func(n int) func() string {
		return func() string {
			lanes := list(4, func(i int) string {
				return fmt.Sprintf(`{"id":"l%d","rate":"1/64T","steps":[{"on":true,"ratchet":4}]}`, i)
			})
			return pieceOf("", `{"id":"keel","bars":1024,"lanes":[`+lanes+`]},`+list(n, func(i int) string {
				return fmt.Sprintf(`{"id":"v%d","of":"keel","bars":1024,"lanes":[%s]}`, i, strings.ReplaceAll(lanes, `"ratchet":4`, fmt.Sprintf(`"octave":%d`, i%4)))
			}), "")
		}
	}
	// sketchable has a line of many steps beside dense lanes.
	sketchable = func() string {
		return pieceOf("", `{"id":"keel","bars":128,"lanes":[{"id":"low","rate":"1/16","steps":[`+same(512, "{}")+`]},`+
			list(30, func(i int) string {
				return fmt.Sprintf(`{"id":"d%d","rate":"1/64T","steps":[{"on":true,"ratchet":8}]}`, i)
			})+`]}`, "")
	}
	// steep has one step of a whole note in the longest bars, struck eight times under a bend that never rests.
	steep = func() string {
		lane := `{"rate":"1/1","glide":{"range":24},"steps":[{"on":true,"ratchet":8,"bend":[{"at":0,"by":-24},{"at":20,"by":24},{"at":40,"by":-24},{"at":60,"by":24},{"at":80,"by":-24}]}]}`
		return pieceOf(`,"meter":"32/1"`, `{"id":"keel","bars":1024,"lanes":[`+same(8, lane)+`]}`, "")
	}
	// fast has the shortest steps in the longest bars.
	fast = func() string {
		return pieceOf(`,"meter":"32/1"`, `{"id":"keel","bars":1024,"lanes":[`+list(4, func(i int) string {
			return fmt.Sprintf(`{"id":"l%d","rate":"1/64T","steps":[{"on":true}]}`, i)
		})+`]}`, `{"clip":"keel","at":0,"for":125829120}`)
	}
	// loops are lanes of free notes whose rounds are as short as can be.
	loops = func() string {
		return pieceOf("", `{"id":"keel","bars":1024,"lanes":[`+list(31, func(i int) string {
			return fmt.Sprintf(`{"id":"n%d","kind":"notes","loop":{"start":0,"length":1},"notes":[{"at":0,"length":1,"degree":1,"chance":0}]}`, i)
		})+`]}`, `{"clip":"keel","at":0,"for":3932160}`)
	}
	// full is a lane as large as one may be.
	full = func() string {
		step := `{"on":true,"gate":51,"velocity":99,"chance":98,"nudge":-7,"glide":{"time":33,"curve":12},"bend":[` + same(16, `{"at":50,"by":-3,"curve":-70}`) + `]}`
		return pieceOf("", `{"id":"keel","bars":1,"lanes":[{"id":"l1","steps":[`+same(512, step)+`]}]}`, "")
	}
	// primes are lanes that meet only after longer than can be told.
	primes = func() string {
		var lanes []string
		for n := 131; len(lanes) < 32; n++ {
			prime := true
			for k := 2; k*k <= n; k++ {
				prime = prime && n%k > 0
			}
			if prime {
				lanes = append(lanes, `{"steps":[`+same(n, `{"on":true}`)+`]}`)
			}
		}
		return pieceOf("", `{"id":"keel","until":"realign","lanes":[`+strings.Join(lanes, ",")+`]}`, "")
	}
	// strums are many notes struck again and again in a short loop, whose chords phrases walk.
	strums = func() string {
		return pieceOf("", `{"id":"keel","bars":1024,"harmony":{"lane":"hands"},"lanes":[{"id":"hands","kind":"notes","mute":true,"loop":{"length":128},"notes":[`+
			list(128, func(i int) string {
				return fmt.Sprintf(`{"at":%d,"length":3840,"note":%d,"chance":%d}`, i, i*7%128, 100-i%3)
			})+`]},`+
			list(15, func(i int) string {
				return fmt.Sprintf(`{"id":"p%d","kind":"phrase","rate":"1/64T","order":"shuffle","steps":[{"on":true}]}`, i)
			})+`]}`, "")
	}
	// walks are phrases over many chords of many tones, voiced smoothly, with modulated spans.
	walks = func() string {
		tones := list(16, func(i int) string { return fmt.Sprintf(`{"degree":%d,"octave":%d}`, i%7+1, i/7) })
		return pieceOf("", `{"id":"keel","bars":128,"lanes":[{"id":"tide","kind":"chords","rate":"1/64T","voicing":{"mode":"smooth","low":0,"high":127},"palette":[`+
			list(32, func(i int) string { return `{"tones":[` + tones + `]}` })+`],"steps":[`+list(512, func(i int) string { return fmt.Sprintf(`{"on":true,"chord":%d}`, i%32+1) })+`]},`+
			list(15, func(i int) string {
				return fmt.Sprintf(`{"id":"p%d","kind":"phrase","rate":"1/64T","span":8,"voices":4,"order":"shuffle","walk":"never","steps":[{"on":true,"ratchet":8},{"on":true,"play":"chord"}],"modulators":[{"on":"span","shape":"jump","every":"1/64T","from":1,"to":8}]}`, i)
			})+`]}`, "")
	}
)

// Steep is a document of few bytes of which a file would take minutes.
func Steep() string { return steep() }

// chunk is a chunk of a MIDI file.
func chunk(kind string, data []byte) []byte {
	return append(binary.BigEndian.AppendUint32([]byte(kind), uint32(len(data))), data...)
}

func header(kind, tracks uint16) []byte {
	data := binary.BigEndian.AppendUint16(nil, kind)
	data = binary.BigEndian.AppendUint16(data, tracks)
	return chunk("MThd", binary.BigEndian.AppendUint16(data, 960))
}

var endOfTrack = []byte{0, 0xff, 0x2f, 0}

// tracks is a file of so many tracks of a note.
func tracks(n int) func() []byte {
	return func() []byte {
		out := header(1, uint16(n))
		one := chunk("MTrk", append([]byte{0, 0x90, 60, 100, 96, 0x80, 60, 0}, endOfTrack...))
		return append(out, bytes.Repeat(one, n)...)
	}
}

// repeated is a file of some bytes of one track in which some bytes come again and again after others.
func repeated(size int, first, again []byte) func() []byte {
	return func() []byte {
		data := append(bytes.Clone(first), bytes.Repeat(again, (size-len(first))/len(again))...)
		return append(header(0, 1), chunk("MTrk", append(data, endOfTrack...))...)
	}
}

// largest is as large as a file of one track may be.
const largest = 16<<20 - 64

var (
	shortNotes  = repeated(largest, []byte{0, 0x90, 60, 100, 1, 60, 0}, []byte{0, 60, 100, 1, 60, 0})
	manyNotes   = repeated(1_190_000*6, []byte{0, 0x90, 60, 100, 1, 60, 0}, []byte{0, 60, 100, 1, 60, 0}) // nearly as many as are read
	controllers = repeated(largest, []byte{0, 0x90, 60, 100, 0, 0xb0, 1, 1}, []byte{0, 1, 2})
	wheel       = repeated(largest, []byte{0, 0x90, 60, 100, 0, 0xe0, 1, 1}, []byte{0, 1, 2})
)

// own is a MIDI file of ours that holds a document and no notes of it. pack packs it as files do.
func own(document string, order bool) func() []byte {
	return func() []byte {
		held, err := json.Marshal(map[string]any{"clip": "a", "order": order, "ppq": 960, "type": 1, "piece": json.RawMessage(document)})
		if err != nil {
			panic(err) // documents are JSON
		}
		event := append([]byte{0, 0xff, 0x7f}, vlq(packed(held))...)
		return append(header(1, 1), chunk("MTrk", append(append(event, 0, 0x90, 60, 100, 96, 60, 0), endOfTrack...))...)
	}
}

// vlq puts the length of data before it, as MIDI files have it.
func vlq(data []byte) []byte {
	n := len(data)
	out := []byte{byte(n & 0x7f)}
	for n >>= 7; n > 0; n >>= 7 {
		out = append([]byte{byte(n&0x7f | 0x80)}, out...)
	}
	return append(out, data...)
}

// Do sends a request and returns its answer.
type Do func(method, path string, body []byte) (status int, answer []byte)

// Send imports the row's document and sends its request. Where the document itself is refused, that is the answer.
func (r *Row) Send(do Do) (status int, answer []byte) {
	id, version, clip := "lantern-regatta", int64(1), "keel"
	if r.Document != nil {
		status, answer = do("POST", "/api/pieces/import", []byte(r.Document()))
		var state struct {
			ID      string
			Version int64
			Piece   struct{ Clips []struct{ ID string } }
		}
		if json.Unmarshal(answer, &state) != nil || status != 201 || len(state.Piece.Clips) == 0 {
			return status, answer
		}
		id, version, clip = state.ID, state.Version, state.Piece.Clips[0].ID
	} else if status, answer = do("GET", "/api/pieces/"+id, nil); status == 200 {
		var state struct{ Version int64 }
		_ = json.Unmarshal(answer, &state) // an old version is refused, which is an answer, too
		version = state.Version
	}
	method, path, _ := strings.Cut(r.Route, " ")
	if r.Path != "" {
		path = r.Path
	}
	path = strings.NewReplacer(":id", id, ":clip", clip).Replace(path)
	var sent []byte
	if r.Body != nil {
		if sent = r.Body(); len(sent) < maxTemplate {
			sent = []byte(strings.NewReplacer("{version}", fmt.Sprint(version), "{key}", "hostile-"+id, "{id}", id).Replace(string(sent)))
		}
	}
	return do(method, path, sent)
}

// maxTemplate is how long a body is in which names are filled in.
const maxTemplate = 2 << 20
