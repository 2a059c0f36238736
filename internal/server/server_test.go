package server_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/http/httptest"
	"slices"
	"strings"
	"testing"
	"testing/fstest"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/edit"
	"agrimony/internal/core/op"
	"agrimony/internal/core/render"
	"agrimony/internal/core/smf"
	"agrimony/internal/demo"
	"agrimony/internal/server"
	"agrimony/internal/store"
	"agrimony/internal/view"
)

// client talks to a server over loopback.
type client struct {
	t   testing.TB
	url string
}

func start(t testing.TB) *client {
	st, err := store.Open(t.TempDir())
	require.NoError(t, err)
	require.NoError(t, server.EnsureDemo(st))
	files := fstest.MapFS{"index.html": {Data: []byte("<p>the page</p>")}, "assets/a.js": {Data: []byte("1")}}
	running := httptest.NewServer(server.New(server.Config{Store: st, Files: files, Hosts: server.Loopback}))
	t.Cleanup(func() {
		running.Close()
		_ = st.Close()
	})
	return &client{t, running.URL}
}

// call sends a request and reads the answer into out, which may be nil.
func (c *client) call(method, path string, body any, out any, change ...func(*http.Request)) *http.Response {
	c.t.Helper()
	var reader io.Reader
	switch b := body.(type) {
	case nil:
	case string:
		reader = strings.NewReader(b)
	default:
		data, err := json.Marshal(b)
		require.NoError(c.t, err)
		reader = bytes.NewReader(data)
	}
	request, err := http.NewRequest(method, c.url+path, reader)
	require.NoError(c.t, err)
	for _, f := range change {
		f(request)
	}
	response, err := http.DefaultClient.Do(request)
	require.NoError(c.t, err)
	defer response.Body.Close()
	data, err := io.ReadAll(response.Body)
	require.NoError(c.t, err)
	if out != nil {
		require.NoError(c.t, json.Unmarshal(data, out), string(data[:min(len(data), 300)]))
	}
	return response
}

const piecePath = "/api/pieces/" + demo.ID

func gate(version int64, value int) server.EditRequest {
	return server.EditRequest{Version: version, Clip: "keel", Ops: []op.Op{op.Of(op.SetSteps{
		OnSteps: op.OnSteps{Clip: "keel", Lane: "low", Steps: []int{1}}, Patch: json.RawMessage(fmt.Sprintf(`{"gate":%d}`, value)),
	})}}
}

// shown is as much of a state as the tests look at.
type shown struct {
	ID         string
	Version    int64
	Undo, Redo string
	Piece      struct {
		Clips []struct {
			ID    string
			Brief bool
			Lanes []struct {
				ID    string
				Kind  string
				Steps []struct{ Gate int }
			}
		}
	}
	View struct {
		ID, Key  string
		BarTicks int64
		Findings []render.Finding
		Lanes    []struct {
			ID    string
			Notes []view.Note
		}
	}
}

func (s *shown) gate() int { return s.Piece.Clips[0].Lanes[0].Steps[0].Gate }

func TestEditUndoRedo(t *testing.T) {
	c := start(t)
	var state shown
	assert.Equal(t, 200, c.call("GET", piecePath+"?clip=weir", nil, &state).StatusCode)
	assert.Equal(t, "weir", state.View.ID)
	assert.Equal(t, 200, c.call("POST", piecePath+"/edits", gate(1, 33), &state).StatusCode)
	assert.Equal(t, int64(2), state.Version)
	assert.Equal(t, 33, state.gate())
	assert.Equal(t, "change steps", state.Undo)
	assert.EqualValues(t, 89, state.View.Lanes[0].Notes[0].Length, "the performance comes with it: 79.2 ticks, stretched by swing to 88.7")
	c.call("POST", piecePath+"/undo", server.StepRequest{Version: 2, Clip: "keel"}, &state)
	assert.Equal(t, 60, state.gate())
	assert.Equal(t, "change steps", state.Redo)
	c.call("POST", piecePath+"/redo", server.StepRequest{Version: 3, Clip: "keel"}, &state)
	assert.Equal(t, 33, state.gate())
	var problem server.Problem
	assert.Equal(t, 409, c.call("POST", piecePath+"/redo", server.StepRequest{Version: 4}, &problem).StatusCode)
	assert.Equal(t, "there is nothing to undo or redo", problem.Error)
}

func TestAnOldVersionIsAConflictWithTheNewerState(t *testing.T) {
	c := start(t)
	c.call("POST", piecePath+"/edits", gate(1, 33), nil)
	var problem struct {
		Error string
		State *shown
	}
	assert.Equal(t, 409, c.call("POST", piecePath+"/edits", gate(1, 44), &problem).StatusCode)
	assert.Contains(t, problem.Error, "the edit was made against version 1, but the piece is at version 2")
	require.NotNil(t, problem.State)
	assert.Equal(t, 33, problem.State.gate())
}

func TestBadRequestsSayWhatIsWrong(t *testing.T) {
	c := start(t)
	for _, row := range []struct {
		method, path string
		body         any
		status       int
		message      string
	}{
		{"POST", piecePath + "/edits", gate(1, 0), 422, "clips[0].lanes[0].steps[0].gate: 0 is below 1; allowed: 1..400"},
		{"POST", piecePath + "/edits", `{"version":1,`, 400, "the request's JSON ends in the middle"},
		{"POST", piecePath + "/edits", `{"version":1} {}`, 400, "something follows the end"},
		{"POST", piecePath + "/edits", `{"vershun":1}`, 400, `unknown field "vershun"`},
		{"POST", piecePath + "/edits", `{"version":"x"}`, 400, "the request is not as it should be"},
		{"POST", piecePath + "/edits", `{"version":1,"ops":[]}`, 422, "ops: 0 items; allowed: 1..1000"},
		{"GET", "/api/pieces/none", nil, 404, "there is no such piece"},
		{"DELETE", "/api/pieces/none", nil, 404, "there is no such piece"},
		{"GET", "/api/nothing", nil, 404, "there is nothing at /api/nothing"},
		{"PUT", "/api/pieces", nil, 405, "PUT is not allowed here"},
		{"GET", "/api/key?name=H", nil, 400, `"H" is not a note name`},
		{"POST", "/api/pieces/import", `{"format":"agrimony-piece","version":1,"tempo":1}`, 422, "tempo: 1 is below 20"},
		{"POST", "/api/pieces/import", `{"format":"agri`, 422, "the document ends in the middle"},
		{"POST", "/api/pieces", map[string]any{"title": "x", "tempo": 100, "meter": "4/5"}, 422, `meter: "4/5" is not a meter`},
		{"GET", piecePath + "/clips/none/midi", nil, 400, `no clip "none"`},
		{"GET", piecePath + "/clips/keel/midi?ppq=0", nil, 400, "ppq: 0 is not allowed; allowed: 96, 480, 960"},
		{"GET", piecePath + "/clips/keel/midi?bars=0", nil, 400, "bars: 0 is out of range; allowed: 1..1024"},
		{"GET", piecePath + "/clips/keel/midi?ppq=1000", nil, 400, "ppq: 1000 is not allowed"},
		{"GET", piecePath + "/clips/keel/midi?lanes=none", nil, 400, `no lane "none"`},
		{"GET", piecePath + "/clips/keel/why?lane=low&note=9999", nil, 404, "there is no such note"},
	} {
		var problem server.Problem
		response := c.call(row.method, row.path, row.body, &problem)
		assert.Equal(t, row.status, response.StatusCode, "%s %s", row.method, row.path)
		assert.Contains(t, problem.Error, row.message, "%s %s", row.method, row.path)
	}
}

func TestBodiesAreBounded(t *testing.T) {
	c := start(t)
	huge := func(r *http.Request) {
		r.Body = io.NopCloser(io.LimitReader(zeros{}, 2<<30))
		r.ContentLength = 2 << 30
	}
	request, err := http.NewRequest("POST", c.url+"/api/pieces/import", nil)
	require.NoError(t, err)
	huge(request)
	if response, err := http.DefaultClient.Do(request); err == nil { // the server may hang up first
		assert.Equal(t, 413, response.StatusCode)
		_ = response.Body.Close()
	}
	var problem server.Problem
	chunked := func(r *http.Request) {
		r.Body = io.NopCloser(io.LimitReader(zeros{}, 9<<20))
		r.ContentLength = -1
	}
	assert.Equal(t, 413, c.call("POST", piecePath+"/edits", nil, &problem, chunked).StatusCode)
	assert.Equal(t, "the request is larger than 8 MiB", problem.Error)
	assert.Equal(t, 422, c.call("POST", "/api/pieces/import", nil, &problem, chunked).StatusCode, "a document may be larger")
}

type zeros struct{}

func (zeros) Read(p []byte) (int, error) {
	for i := range p {
		p[i] = ' '
	}
	return len(p), nil
}

func TestOnlyThisSiteMayAsk(t *testing.T) {
	c := start(t)
	for name, change := range map[string]func(*http.Request){
		"another host":   func(r *http.Request) { r.Host = "elsewhere.example" },
		"another origin": func(r *http.Request) { r.Header.Set("Origin", "http://elsewhere.example") },
		"no origin":      func(r *http.Request) { r.Header.Set("Origin", "null") },
		"another site":   func(r *http.Request) { r.Header.Set("Sec-Fetch-Site", "cross-site") },
	} {
		var problem server.Problem
		assert.Equal(t, 403, c.call("POST", piecePath+"/edits", gate(1, 33), &problem, change).StatusCode, name)
		assert.NotEmpty(t, problem.Error)
	}
	own := func(r *http.Request) { r.Header.Set("Origin", c.url) }
	response := c.call("POST", piecePath+"/edits", gate(1, 33), nil, own)
	assert.Equal(t, 200, response.StatusCode)
	assert.Contains(t, response.Header.Get("Content-Security-Policy"), "default-src 'self'")
	assert.Equal(t, "nosniff", response.Header.Get("X-Content-Type-Options"))
}

func TestFilesAndDocuments(t *testing.T) {
	c := start(t)
	get := func(path string) (*http.Response, []byte) {
		response, err := http.Get(c.url + path)
		require.NoError(t, err)
		defer response.Body.Close()
		data, err := io.ReadAll(response.Body)
		require.NoError(t, err)
		return response, data
	}
	response, document := get(piecePath + "/document")
	assert.Equal(t, `attachment; filename="Lantern-Regatta.agrimony.json"; filename*=UTF-8''Lantern-Regatta.agrimony.json`, response.Header.Get("Content-Disposition"))
	assert.Equal(t, string(demo.Document()), string(document))
	var imported server.State
	assert.Equal(t, 201, c.call("POST", "/api/pieces/import", string(document), &imported).StatusCode)
	assert.NotEqual(t, demo.ID, imported.ID)
	var list []store.Summary
	c.call("GET", "/api/pieces", nil, &list)
	assert.Len(t, list, 2)

	response, data := get(piecePath + "/clips/keel/midi?bars=3&ppq=480&type=0&lanes=reed")
	assert.Equal(t, `attachment; filename="Lantern-Regatta-Keel.mid"; filename*=UTF-8''Lantern-Regatta-Keel.mid`, response.Header.Get("Content-Disposition"))
	file, err := smf.Decode(data, nil)
	require.NoError(t, err)
	assert.Equal(t, []int{480, 0, 1}, []int{file.PPQ, file.Type, len(file.Tracks)})
	assert.EqualValues(t, 3*4*480, file.Tracks[0].End)

	var summary server.FileSummary
	c.call("GET", piecePath+"/clips/keel/summary?bars=3&ppq=480&type=0&lanes=reed", nil, &summary)
	assert.Equal(t, len(data), summary.Bytes, "the summary is of the very file")
	assert.Equal(t, len(file.Tracks[0].Notes), summary.Tracks[0].Notes)
	assert.Equal(t, "F♯ dorian", summary.Key)

	var why server.Explanation
	c.call("GET", piecePath+"/clips/keel/why?lane=low&note=0", nil, &why)
	assert.Equal(t, "Step 1, round 1 is at tick 0; degree 1 of F♯ dorian is F♯2; step 1 has velocity 118; gate 60 % of the step is 144 ticks; swing makes 144 ticks 161 ticks; the groove makes velocity 118 127.", why.Text)

	response, page := get("/some/where")
	assert.Equal(t, "<p>the page</p>", string(page))
	assert.Equal(t, "no-cache", response.Header.Get("Cache-Control"))
	response, _ = get("/assets/a.js")
	assert.Contains(t, response.Header.Get("Cache-Control"), "immutable")
}

func TestNewPiecesAndPreviews(t *testing.T) {
	c := start(t)
	var state shown
	assert.Equal(t, 201, c.call("POST", "/api/pieces", map[string]any{
		"title": "Weir", "tempo": 98, "meter": "7/8", "clip": "First", "key": map[string]any{"tonic": "Eb", "scale": "minor"},
	}, &state).StatusCode)
	assert.Equal(t, "E♭ natural minor", state.View.Key)
	assert.EqualValues(t, 7*480, state.View.BarTicks)
	assert.Equal(t, "silent", state.View.Findings[0].Rule)
	var preview edit.KeyPreview
	c.call("POST", piecePath+"/key-preview", server.PreviewRequest{Op: op.SetKey{Clip: "keel", Key: json.RawMessage(`{"tonic":"F#","scale":"major"}`), Keep: "degrees"}}, &preview)
	assert.Equal(t, "F♯ major", preview.Key)
	assert.NotEmpty(t, preview.Changes)
	assert.Equal(t, 204, c.call("DELETE", "/api/pieces/"+state.ID, nil, nil).StatusCode)
	var thumbs []struct{ ID, Bars string }
	c.call("GET", piecePath+"/thumbs", nil, &thumbs)
	assert.Equal(t, "35", thumbs[1].Bars)
}

// BenchmarkSave measures what a person waits for: an edit until its new performance
// is back, over loopback and on disk, of the demo's largest clip and of one of 32
// lanes of 64 steps over 8 bars.
func BenchmarkSave(b *testing.B) {
	b.Run("demo", func(b *testing.B) { benchmarkSave(b, start(b), demo.ID, "towpath", "stride") })
	b.Run("large", func(b *testing.B) {
		c := start(b)
		steps := `{"on":true}` + strings.Repeat(`,{"on":true,"degree":3},{}`, 31) + `,{}`
		var lanes []string
		for i := range 32 {
			lanes = append(lanes, fmt.Sprintf(`{"id":"l%d","steps":[%s]}`, i, steps))
		}
		var made shown
		c.call("POST", "/api/pieces/import", `{"format":"agrimony-piece","version":1,"clips":[{"id":"a","bars":8,"lanes":[`+strings.Join(lanes, ",")+`]}]}`, &made)
		benchmarkSave(b, c, made.ID, "a", "l0")
	})
	// The same edit among more clips, and among more lanes.
	for _, size := range [][2]int{{1, 8}, {16, 8}, {64, 8}, {1, 1}, {1, 32}, {64, 32}} {
		b.Run(fmt.Sprintf("%d clips of %d lanes", size[0], size[1]), func(b *testing.B) {
			c := start(b)
			steps := `{"on":true}` + strings.Repeat(`,{"on":true,"degree":3},{}`, 31) + `,{}`
			var lanes, clips []string
			for i := range size[1] {
				lanes = append(lanes, fmt.Sprintf(`{"id":"l%d","steps":[%s]}`, i, steps))
			}
			for i := range size[0] {
				clips = append(clips, fmt.Sprintf(`{"id":"a%d","bars":8,"lanes":[%s]}`, i, strings.Join(lanes, ",")))
			}
			var made shown
			c.call("POST", "/api/pieces/import", `{"format":"agrimony-piece","version":1,"clips":[`+strings.Join(clips, ",")+`]}`, &made)
			benchmarkSave(b, c, made.ID, "a0", "l0")
		})
	}
	// One lane of eight over 64 bars, beside chords: a line and a phrase.
	for _, kind := range []string{"line", "phrase"} {
		b.Run(kind+" of 64 bars", func(b *testing.B) {
			c := start(b)
			lanes := []string{`{"id":"c","kind":"chords","rate":"1bar","palette":[{"tones":[{"degree":1},{"degree":3},{"degree":5}]},{"tones":[{"degree":4},{"degree":6},{"degree":1,"octave":1}]}],"steps":[{"on":true},{"on":true,"chord":2}]}`}
			for i := range 8 {
				lanes = append(lanes, fmt.Sprintf(`{"id":"l%d","kind":%q,"steps":[%s]}`, i, kind, `{"on":true}`+strings.Repeat(`,{"on":true}`, 63)))
			}
			var made shown
			c.call("POST", "/api/pieces/import", `{"format":"agrimony-piece","version":1,"clips":[{"id":"a","bars":64,"lanes":[`+strings.Join(lanes, ",")+`]}]}`, &made)
			benchmarkSave(b, c, made.ID, "a", "l0")
		})
	}
}

// benchmarkSave tells when an edit is shown, and when it is kept.
func benchmarkSave(b *testing.B, c *client, id, clip, lane string) {
	h := &holder{client: c, id: id}
	h.open(clip)
	var shown, kept []time.Duration
	for i := 0; b.Loop(); i++ {
		more := fmt.Sprintf(`,"ops":[{"op":"steps.set","clip":%q,"lane":%q,"steps":[1],"patch":{"gate":%d}}]`, clip, lane, i%300+1)
		status, first, last := h.wait(more)
		require.Equal(b, 200, status)
		shown, kept = append(shown, first), append(kept, last)
	}
	for name, took := range map[string][]time.Duration{"shown": shown, "kept": kept} {
		slices.Sort(took)
		b.ReportMetric(float64(took[len(took)/2].Microseconds())/1000, name+"-median-ms")
		b.ReportMetric(float64(took[len(took)*95/100].Microseconds())/1000, name+"-p95-ms")
	}
}

func TestACardSaysWhatAListShows(t *testing.T) {
	c := start(t)
	var card server.Card
	c.call("GET", piecePath+"/card", nil, &card)
	assert.Equal(t, []any{"F♯ dorian", 104.0, "4/4", 19}, []any{card.Key, card.Tempo, card.Meter, card.Clips})
	require.NotNil(t, card.First)
	assert.Equal(t, "Keel", card.First.Name)
	assert.NotEmpty(t, card.First.Marks)
	assert.Equal(t, http.StatusNotFound, c.call("GET", "/api/pieces/none/card", nil, nil).StatusCode)
}

func TestDrumsAreDrumsInWhatAFileHolds(t *testing.T) {
	var summary server.FileSummary
	start(t).call("GET", piecePath+"/clips/lock/summary", nil, &summary)
	named := map[string]bool{}
	for _, track := range summary.Tracks {
		named[track.Lowest] = true
	}
	assert.True(t, named["Kick"] && named["Closed hat"], "%v", named)
}

// What is refused is said in words of the screen too, with what would be taken instead.
func TestRefusalsAreInWordsOfTheScreen(t *testing.T) {
	c := start(t)
	edit := func(op string) (problem server.Problem) {
		var now server.State
		c.call("GET", piecePath, nil, &now)
		c.call("POST", piecePath+"/edits", fmt.Sprintf(`{"version":%d,"clip":"keel","ops":[%s]}`, now.Version, op), &problem)
		return problem
	}
	wrong := edit(`{"op":"steps.set","clip":"keel","lane":"low","steps":[3],"patch":{"gate":0}}`)
	assert.Equal(t, "clips[0].lanes[0].steps[2].gate", wrong.Path)
	assert.Equal(t, "Low, step 3, gate: 0 is below 1; allowed: 1 to 400.", wrong.Words)
	wrong = edit(`{"op":"fill.even","clip":"keel","lane":"low","steps":[2],"hits":9}`)
	assert.Contains(t, wrong.Error, "ops[0].hits: ")
	assert.NotContains(t, wrong.Words, "ops")
}

// An edit that was made may have something to say.
func TestARemarkComesWithTheAnswer(t *testing.T) {
	c := start(t)
	var now server.State
	c.call("GET", piecePath, nil, &now)
	c.call("POST", piecePath+"/edits", fmt.Sprintf(`{"version":%d,"clip":"keel","ops":[{"op":"steps.transpose","clip":"keel","lane":"low","steps":[1],"unit":"semitone","by":1}]}`, now.Version), &now)
	require.NotNil(t, now.Remark)
	assert.Equal(t, "The note is held by the lock of Low.", now.Remark.Message)
	assert.Equal(t, "Open the lock", now.Remark.Mends[0].Label)
	next := now
	next.Remark = nil
	c.call("POST", piecePath+"/undo", fmt.Sprintf(`{"version":%d,"clip":"keel"}`, now.Version), &next)
	assert.Nil(t, next.Remark)
}
