package hostile

import (
	"fmt"
	"strings"
)

// fullCopied are edits that fill a clip with copies of a lane, and a piece with copies of the clip.
var fullCopied = same(31, `{"op":"lane.copy","clip":"keel","lane":"l1"}`) + "," + same(63, `{"op":"clip.copy","clip":"keel"}`)

// edits is the body of an edit.
func edits(ops string) func() []byte {
	return body(`{"key":"{key}","version":{version},"clip":"keel","ops":[` + ops + `]}`)
}

const sketched = `{"lane":"low","sketch":{"seed":1,"count":%d,"dials":%s}}`

// letters is a form of so many different letters.
func letters(n int) string {
	var out strings.Builder
	for i := range n {
		out.WriteRune(rune('A' + i%26))
	}
	return out.String()
}

// Routes are hostile requests of the server.
var Routes = []Row{
	{Route: "GET /api/words", What: "a long query", Path: "/api/words?x=" + strings.Repeat("x", 8000)},
	{Route: "GET /api/key", What: "a long name", Path: "/api/key?name=" + strings.Repeat("C", 8000)},
	{Route: "GET /api/key", What: "a long scale", Path: "/api/key?name=C+" + strings.Repeat("1,", 4000)},
	{Route: "GET /api/pieces", What: "a range", Path: "/api/pieces?clip=%ff"},
	{Route: "GET /api/deleted/pieces", What: "nothing"},
	{Route: "POST /api/deleted/pieces/:id", What: "a piece that is not there", Path: "/api/deleted/pieces/none"},
	{Route: "GET /api/deleted/starters", What: "nothing"},
	{Route: "POST /api/deleted/starters/:id", What: "a starter that is not there", Path: "/api/deleted/starters/none"},
	{Route: "POST /api/pieces", What: "a title of megabytes", Body: body(`{"title":"` + strings.Repeat("x", 8<<20-100) + `"}`)},
	{Route: "POST /api/pieces", What: "nesting", Body: body(`{"key":` + strings.Repeat("[", 100_000) + strings.Repeat("]", 100_000) + `}`)},
	{Route: "POST /api/pieces/demo", What: "a body", Body: body(strings.Repeat(" ", 1<<20))},
	{Route: "POST /api/pieces/import", What: "steep bends", Body: func() []byte { return []byte(steep()) }},
	{Route: "POST /api/pieces/import", What: "64 dense clips", Body: func() []byte { return []byte(denseClips()) }},
	{Route: "POST /api/pieces/import", What: "loops of a tick", Body: func() []byte { return []byte(loops()) }},
	{Route: "POST /api/pieces/import", What: "walks over smooth voices", Body: func() []byte { return []byte(walks()) }},
	{Route: "POST /api/pieces/import", What: "walks over strummed chords", Body: func() []byte { return []byte(strums()) }},
	{Route: "POST /api/pieces/import", What: "the largest document", Body: func() []byte {
		notes := list(20_000, func(i int) string { return fmt.Sprintf(`{"at":%d,"length":7,"degree":%d}`, i*9, i%7+1) })
		return []byte(pieceOf("", `{"id":"keel","bars":64,"lanes":[`+list(32, func(i int) string { return fmt.Sprintf(`{"id":"n%d","kind":"notes","notes":[%s]}`, i, notes) })+`]}`, ""))
	}},
	{Route: "POST /api/pieces/import", What: "blanks", Body: body(strings.Repeat(" ", 31<<20))},
	{Route: "POST /api/files/report", What: "4,500 tracks of a note", Body: tracks(4500)},
	{Route: "POST /api/files/report", What: "65,535 tracks of a note", Body: tracks(65535)},
	{Route: "POST /api/files/report", What: "16 MiB of notes of a tick", Body: shortNotes},
	{Route: "POST /api/files/report", What: "1,190,000 notes of a tick", Body: manyNotes},
	{Route: "POST /api/files/report", What: "4,500 tracks as each kind", Path: "/api/files/report?ask=%7B%22each%22%3Atrue%7D", Body: tracks(4500)},
	{Route: "POST /api/files/report", What: "1,190,000 notes as each kind", Path: "/api/files/report?ask=%7B%22each%22%3Atrue%7D", Body: manyNotes},
	{Route: "POST /api/files/report", What: "16 MiB of controllers", Body: controllers},
	{Route: "POST /api/files/report", What: "16 MiB of wheel", Body: wheel},
	{Route: "POST /api/files/report", What: "a file of ours with an order of silence", Body: own(silentOrder(), true)},
	{Route: "POST /api/files/report", What: "a file of ours with an order of luck", Body: own(luckyOrder(), true)},
	{Route: "POST /api/files/piece", What: "65,535 tracks of a note", Body: tracks(65535)},
	{Route: "POST /api/files/piece", What: "16 MiB of notes of a tick", Body: shortNotes},
	{Route: "POST /api/files/piece", What: "1,190,000 notes of a tick", Body: manyNotes},
	{Route: "POST /api/files/piece", What: "a file of ours with an order of silence", Body: own(silentOrder(), true)},
	{Route: "POST /api/pieces/:id/take", What: "4,500 tracks of a note", Path: "/api/pieces/:id/take?version=1", Body: tracks(4500)},
	{Route: "POST /api/pieces/:id/take", What: "16 MiB of wheel", Path: "/api/pieces/:id/take?version=1", Body: wheel},
	{Route: "POST /api/groove", What: "16 MiB of notes of a tick", Body: shortNotes},
	{Route: "POST /api/groove", What: "1,190,000 notes of a tick", Body: manyNotes},
	{Route: "POST /api/groove", What: "65,535 tracks of a note", Body: tracks(65535)},
	{Route: "POST /api/groove", What: "more than a file may have", Body: func() []byte { return append(shortNotes(), make([]byte, 1<<20)...) }},
	{Route: "POST /api/starters", What: "a lane as large as can be", Body: func() []byte {
		return []byte(`{"format":"agrimony-starter","version":1,"name":"Large","lane":{"steps":[` + same(4000, `{"on":true}`) + `]}}`)
	}},
	{Route: "DELETE /api/starters", What: "a long name", Path: "/api/starters?name=" + strings.Repeat("x", 8000)},
	{Route: "POST /api/tempers", What: "many dials", Body: body(`{"name":"Large","dials":{` + strings.TrimSuffix(strings.Repeat(`"full":1,`, 100_000), ",") + `}}`)},
	{Route: "DELETE /api/tempers", What: "a long name", Path: "/api/tempers?name=" + strings.Repeat("x", 8000)},
	{Route: "GET /api/pieces/:id", What: "steep bends", Document: steep},
	{Route: "GET /api/pieces/:id", What: "64 dense clips", Document: denseClips},
	{Route: "GET /api/pieces/:id", What: "lanes that meet late", Document: primes},
	{Route: "DELETE /api/pieces/:id", What: "64 dense clips", Document: denseClips},
	{Route: "POST /api/pieces/:id/edits", What: "full lanes copied", Document: full, Body: edits(fullCopied)},
	{Route: "POST /api/pieces/:id/edits", What: "as many edits as may be", Document: full, Body: edits(same(1000, `{"op":"lane.double","clip":"keel","lane":"l1"}`))},
	{Route: "POST /api/pieces/:id/edits", What: "lanes printed for as long as can be", Document: fast, Body: edits(`{"op":"lane.print","clip":"keel","lanes":["l0","l1","l2","l3"],"bars":1024}`)},
	{Route: "POST /api/pieces/:id/edits", What: "many steps named", Document: full, Body: edits(`{"op":"fill.even","clip":"keel","lane":"l1","hits":1,"turn":0,"steps":[` + same(400_000, "1") + `]}`)},
	{Route: "POST /api/pieces/:id/edits", What: "a sketch of as many letters as steps", Document: sketchable, Body: edits(`{"op":"lane.sketch","clip":"keel","lane":"low","request":{"seed":1,"count":24,"dials":{"form":"` + letters(512) + `"}},"take":24}`)},
	{Route: "POST /api/pieces/:id/drafts", What: "full lanes copied", Document: full, Body: edits(fullCopied)},
	{Route: "POST /api/pieces/:id/drafts", What: "lanes printed for as long as can be", Document: fast, Body: edits(`{"op":"lane.print","clip":"keel","lanes":["l0","l1","l2","l3"],"bars":1024}`)},
	{Route: "POST /api/pieces/:id/undo", What: "of a heavy piece", Document: steep, Body: body(`{"key":"{key}","version":{version},"clip":"keel"}`)},
	{Route: "POST /api/pieces/:id/redo", What: "of a heavy piece", Document: steep, Body: body(`{"key":"{key}","version":{version},"clip":"keel"}`)},
	{Route: "POST /api/pieces/:id/key-preview", What: "64 dense clips", Document: denseClips, Body: body(`{"op":{"key":{"tonic":"Eb","scale":"major"},"keep":"pitches"}}`)},
	{Route: "POST /api/pieces/:id/key-preview", What: "walks over smooth voices", Document: walks, Body: body(`{"op":{"key":{"tonic":"Eb","scale":"major"},"keep":"pitches"}}`)},
	{Route: "GET /api/pieces/:id/thumbs", What: "64 dense clips", Document: denseClips},
	{Route: "GET /api/pieces/:id/thumbs", What: "walks over smooth voices", Document: walks},
	{Route: "GET /api/pieces/:id/thumbs", What: "walks over strummed chords", Document: strums},
	{Route: "GET /api/pieces/:id/thumbs", What: "loops of a tick", Document: loops},
	{Route: "GET /api/pieces/:id/card", What: "steep bends", Document: steep},
	{Route: "GET /api/pieces/:id/document", What: "a full lane", Document: full},
	{Route: "GET /api/pieces/:id/order", What: "4,096 entries of many passes", Document: shortEntries},
	{Route: "GET /api/pieces/:id/order", What: "64 dense clips", Document: denseClips},
	{Route: "GET /api/pieces/:id/order", What: "64 clips of silence", Document: silent64},
	{Route: "POST /api/pieces/:id/order/play", What: "4,096 entries of luck", Document: luckyOrder, Body: body(`{"played":[{"clip":"a","at":0,"for":251658240}],"from":0,"to":122880,"begin":true}`)},
	{Route: "POST /api/pieces/:id/order/play", What: "64 dense clips", Document: denseClips, Body: func() []byte {
		return []byte(`{"played":[` + list(64, func(i int) string { return longest(fmt.Sprint("c", i)) }) + `],"from":0,"to":122880,"begin":true}`)
	}},
	{Route: "POST /api/pieces/:id/order/play", What: "silence", Document: silentOrder, Body: body(`{"played":[` + longest("a") + `],"from":251535360,"to":251658240}`)},
	{Route: "POST /api/pieces/:id/order/play", What: "what is tried copies full lanes", Document: full, Body: func() []byte {
		return []byte(`{"played":[` + longest("keel") + `],"from":0,"to":122880,"begin":true,"draft":[` + fullCopied + `]}`)
	}},
	{Route: "POST /api/pieces/:id/order/seats", What: "silence", Document: silentOrder, Body: body(`{"played":[` + longest("a") + `]}`)},
	{Route: "POST /api/pieces/:id/order/seats", What: "64 dense clips", Document: denseClips, Body: func() []byte {
		return []byte(`{"played":[` + list(64, func(i int) string { return longest(fmt.Sprint("c", i)) }) + `],"kept":[]}`)
	}},
	{Route: "GET /api/pieces/:id/order/midi", What: "silence", Document: silentOrder},
	{Route: "GET /api/pieces/:id/order/midi", What: "luck", Document: luckyOrder},
	{Route: "GET /api/pieces/:id/order/midi", What: "ends beyond all numbers", Document: silentOrder, Path: "/api/pieces/:id/order/midi?from=9223372036854775807&to=9223372036854775807"},
	{Route: "GET /api/pieces/:id/order/midi", What: "the shortest steps in the longest bars", Document: fast},
	{Route: "GET /api/pieces/:id/order/summary", What: "silence", Document: silentOrder},
	{Route: "GET /api/pieces/:id/order/summary", What: "64 clips of silence", Document: silent64},
	{Route: "GET /api/pieces/:id/order/summary", What: "luck", Document: luckyOrder},
	{Route: "GET /api/pieces/:id/order/summary", What: "4,096 entries of many passes", Document: shortEntries},
	{Route: "GET /api/pieces/:id/order/summary", What: "chords that are lent", Document: lentOrder},
	{Route: "GET /api/pieces/:id/order/summary", What: "64 dense clips", Document: denseClips},
	{Route: "GET /api/pieces/:id/order/summary", What: "loops of a tick", Document: loops},
	{Route: "GET /api/pieces/:id/clips/:clip/midi", What: "steep bends", Document: steep},
	{Route: "GET /api/pieces/:id/clips/:clip/midi", What: "the shortest steps in the longest bars", Document: fast},
	{Route: "GET /api/pieces/:id/clips/:clip/midi", What: "loops of a tick", Document: loops},
	{Route: "GET /api/pieces/:id/clips/:clip/summary", What: "lanes that meet late", Document: primes},
	{Route: "GET /api/pieces/:id/clips/:clip/summary", What: "walks over smooth voices", Document: walks},
	{Route: "GET /api/pieces/:id/clips/:clip/summary", What: "walks over strummed chords", Document: strums},
	{Route: "GET /api/pieces/:id/clips/:clip/why", What: "a note of a dense lane", Document: fast, Path: "/api/pieces/:id/clips/keel/why?lane=l0&note=1000000"},
	{Route: "GET /api/pieces/:id/clips/:clip/progression", What: "many words", Path: "/api/pieces/:id/clips/keel/progression?text=" + strings.Repeat("i+", 3900)},
	{Route: "GET /api/pieces/:id/clips/:clip/board", What: "many chords of many tones", Document: walks, Path: "/api/pieces/:id/clips/keel/board?lane=tide&step=512"},
	{Route: "GET /api/pieces/:id/clips/:clip/orders", What: "many chords of many tones", Document: walks, Path: "/api/pieces/:id/clips/keel/orders?lane=p1"},
	{Route: "GET /api/pieces/:id/clips/:clip/keyboard", What: "a piece that is not there", Path: "/api/pieces/none/clips/keel/keyboard"},
	{Route: "GET /api/pieces/:id/clips/:clip/starters", What: "many chords of many tones", Document: walks, Path: "/api/pieces/:id/clips/keel/starters"},
	{Route: "GET /api/pieces/:id/clips/:clip/starters", What: "the longest bars", Document: fast, Path: "/api/pieces/:id/clips/keel/starters"},
	{Route: "POST /api/pieces/:id/clips/:clip/proposals", What: "a form of 512 letters", Document: sketchable, Path: "/api/pieces/:id/clips/keel/proposals", Body: body(fmt.Sprintf(sketched, 24, `{"form":"`+letters(512)+`"}`))},
	{Route: "POST /api/pieces/:id/clips/:clip/proposals", What: "24 sketches beside dense lanes", Document: sketchable, Path: "/api/pieces/:id/clips/keel/proposals", Body: body(fmt.Sprintf(sketched, 24, `{"full":100,"glides":100}`))},
	{Route: "POST /api/pieces/:id/clips/:clip/proposals", What: "24 variations beside dense lanes", Document: sketchable, Path: "/api/pieces/:id/clips/keel/proposals", Body: body(`{"lane":"d1","vary":{"seed":1,"count":24,"share":100,"respect":"rhythm"}}`)},
	{Route: "GET /api/pieces/:id/clips/:clip/tempers", What: "beside dense lanes", Document: sketchable, Path: "/api/pieces/:id/clips/keel/tempers?lane=low"},
	{Route: "GET /api/pieces/:id/clips/:clip/versions", What: "3 variants of dense lanes", Document: variants(3), Path: "/api/pieces/:id/clips/keel/versions"},
	{Route: "GET /api/pieces/:id/clips/:clip/versions", What: "64 variants of dense lanes", Document: variants(63), Path: "/api/pieces/:id/clips/keel/versions"},
	{Route: "GET /api/pieces/:id/clips/:clip/starter", What: "a full lane", Document: full, Path: "/api/pieces/:id/clips/keel/starter?lane=l1"},
	{Route: "POST /api/pieces/:id/clips/:clip/fits", What: "a large starter", Path: "/api/pieces/:id/clips/keel/fits", Body: func() []byte {
		return []byte(`{"format":"agrimony-starter","version":1,"name":"Large","lane":{"kind":"phrase","steps":[` + same(512, `{"on":true}`) + `]}}`)
	}},
}

// Commands are hostile calls of the commands.
var Commands = []Row{
	{Route: "render", What: "the shortest steps in the longest bars", Document: fast, Command: []string{"render", "PIECE", "--clip", "keel", "--out", "OUT"}},
	{Route: "render", What: "as many events as may be", Document: fast, Command: []string{"render", "PIECE", "--clip", "keel", "--bars", "320", "--out", "OUT"}},
	{Route: "render", What: "an order of silence", Document: silentOrder, Command: []string{"render", "PIECE", "--order", "--out", "OUT"}},
	{Route: "render", What: "an order of luck", Document: luckyOrder, Command: []string{"render", "PIECE", "--order", "--out", "OUT"}},
	{Route: "render", What: "64 dense clips", Document: denseClips, Command: []string{"render", "PIECE", "--order", "--out", "OUT"}},
	{Route: "render", What: "ends beyond all numbers", Document: silentOrder, Command: []string{"render", "PIECE", "--order", "--from", "9223372036854775806", "--to", "9223372036854775807", "--out", "OUT"}},
	{Route: "events", What: "an order of silence", Document: silent64, Command: []string{"events", "PIECE", "--order"}},
	{Route: "events", What: "loops of a tick", Document: loops, Command: []string{"events", "PIECE", "--clip", "keel"}},
	{Route: "events", What: "chords that are lent", Document: lentOrder, Command: []string{"events", "PIECE", "--order"}},
	{Route: "import", What: "65,535 tracks of a note", Body: tracks(65535), Command: []string{"import", "FILE", "--report"}},
	{Route: "import", What: "16 MiB of notes of a tick", Body: shortNotes, Command: []string{"import", "FILE", "--report"}},
	{Route: "import", What: "a file of ours with an order of luck", Body: own(luckyOrder(), true), Command: []string{"import", "FILE", "--report"}},
	{Route: "edit", What: "full lanes copied", Document: full, Body: body(`[` + same(31, `{"op":"lane.copy","clip":"keel","lane":"l1"}`) + "," + same(63, `{"op":"clip.copy","clip":"keel"}`) + `]`), Command: []string{"edit", "PIECE", "FILE", "--out", "OUT"}},
	{Route: "sketch", What: "a form of 512 letters", Document: sketchable, Body: body(`{"seed":1,"count":24,"dials":{"form":"` + letters(512) + `"}}`), Command: []string{"sketch", "PIECE", "--clip", "keel", "--lane", "low", "--request", "FILE"}},
	{Route: "vary", What: "24 variations of a dense lane", Document: sketchable, Body: body(`{"seed":1,"count":24,"share":100,"respect":"rhythm"}`), Command: []string{"vary", "PIECE", "--clip", "keel", "--lane", "low", "--request", "FILE"}},
	{Route: "compare", What: "variants of dense lanes", Document: variants(3), Command: []string{"compare", "PIECE", "--clip", "keel", "--with", "v1"}},
	{Route: "key", What: "a long scale", Command: []string{"key", "C " + strings.Repeat("1,", 4000)}},
	{Route: "chord", What: "a long symbol", Command: []string{"chord", "C" + strings.Repeat("#", 8000)}},
	{Route: "name", What: "many notes", Command: []string{"name", strings.Repeat("C ", 4000)}},
	{Route: "progression", What: "many chords, voiced smoothly", Command: []string{"progression", strings.Repeat("Cmaj13 F#m11 ", 250), "--smooth", "--low", "0", "--high", "127"}},
	{Route: "walk", What: "as many tones as may be", Command: []string{"walk", "Cmaj13", "--order", "shuffle", "--span", "8", "--count", "4096"}},
	{Route: "schema", What: "nothing", Command: []string{"schema"}},
	{Route: "serve", What: "an address that is not its own", Command: []string{"serve", "--addr", "0.0.0.0:1", "--data", "OUT"}},
	{Route: "demo", What: "an address that is not its own", Command: []string{"demo", "--addr", "0.0.0.0:1", "--data", "OUT"}},
	{Route: "backup", What: "no database", Command: []string{"backup", "OUT", "--data", "OUT"}},
}
