package server_test

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/server"
	"agrimony/internal/store"
)

func TestAnEditSentAgainIsAnsweredAsDone(t *testing.T) {
	c := start(t)
	edit := gate(1, 33)
	edit.Key = "one"
	var first, again shown
	assert.Equal(t, 200, c.call("POST", piecePath+"/edits", edit, &first).StatusCode)
	assert.Equal(t, 200, c.call("POST", piecePath+"/edits", edit, &again).StatusCode)
	assert.Equal(t, first.Version, again.Version)
	assert.Equal(t, first.Undo, again.Undo)
}

// steep is a lane of one long step: eight strikes a slot, each under a bend that
// moves all the time.
func steep(id string) string {
	points := []string{}
	for i := range 16 {
		points = append(points, fmt.Sprintf(`{"at": %d, "by": %d}`, i*6, 24*(i%2*2-1)))
	}
	return `{"id": "` + id + `", "glide": {"mode": "bend", "range": 24}, "rate": "1/1", "steps": [{"on": true, "ratchet": 8, "bend": [` + strings.Join(points, ", ") + `]}]}`
}

func TestASmallDocumentMayNotSinkTheServer(t *testing.T) {
	c := start(t)
	lanes := []string{}
	for i := range 8 {
		lanes = append(lanes, steep(fmt.Sprint("l", i)))
	}
	document := `{"format": "agrimony-piece", "version": 1, "meter": "32/1", "clips": [{"id": "c", "bars": 1024, "lanes": [` + strings.Join(lanes, ", ") + `]}]}`
	request, err := http.Post(c.url+"/api/pieces/import", "application/json", strings.NewReader(document))
	require.NoError(t, err)
	defer request.Body.Close()
	var body bytes.Buffer
	_, err = body.ReadFrom(request.Body)
	require.NoError(t, err)
	require.Equal(t, 201, request.StatusCode, body.String()[:min(body.Len(), 400)])
	assert.Less(t, body.Len(), 40<<20)
	var state struct{ ID string }
	require.NoError(t, json.Unmarshal(body.Bytes(), &state))
	for _, query := range []string{"", "?until=realign", "?until=cycle", "?bars=1024"} {
		var problem server.Problem
		status := c.call("GET", "/api/pieces/"+state.ID+"/clips/c/summary"+query, nil, nil).StatusCode
		if status != 200 {
			c.call("GET", "/api/pieces/"+state.ID+"/clips/c/summary"+query, nil, &problem)
			assert.Contains(t, problem.Error, "over 600000", query)
		}
	}
	assert.Equal(t, 200, c.call("GET", "/api/pieces/"+state.ID+"/clips/c/midi?bars=1&lanes=l0", nil, nil).StatusCode)
}

// One note of 32768 glides under one bend: were each wheel position looked for among all glides,
// this would take minutes.
func TestManyGlidesOfOneNote(t *testing.T) {
	c := start(t)
	document := `{"format":"agrimony-piece","version":1,"meter":"32/1","tempo":400,"clips":[{"id":"c","bars":1024,"lanes":[{"rate":"1/1","steps":[{"on":true,"tie":true,"glide":{},"bend":[{"at":0,"by":-2},{"at":100,"by":2}]},{"on":true,"degree":5,"tie":true,"glide":{}}]}]}]}`
	require.Less(t, len(document), 300)
	var state struct{ ID string }
	require.Equal(t, 201, c.call("POST", "/api/pieces/import", document, &state).StatusCode)
	assert.Equal(t, 200, c.call("GET", "/api/pieces/"+state.ID+"/clips/c/midi?bars=64", nil, nil).StatusCode)
	var problem server.Problem
	require.Equal(t, 422, c.call("GET", "/api/pieces/"+state.ID+"/clips/c/midi", nil, &problem).StatusCode)
	assert.Contains(t, problem.Error, "over 600000")
}

func TestAFaultOfTheServersIsForItsLog(t *testing.T) {
	var log bytes.Buffer
	before := slog.Default()
	slog.SetDefault(slog.New(slog.NewTextHandler(&log, nil)))
	t.Cleanup(func() { slog.SetDefault(before) })
	st, err := store.Open(t.TempDir())
	require.NoError(t, err)
	require.NoError(t, server.EnsureDemo(st))
	handler := server.New(server.Config{Store: st, Hosts: server.Loopback})
	require.NoError(t, st.Close()) // as if the disk had gone
	answer := httptest.NewRecorder()
	request := httptest.NewRequest("GET", piecePath, nil)
	request.Host, request.RemoteAddr = "localhost", "127.0.0.1:1"
	handler.ServeHTTP(answer, request)
	assert.Equal(t, 500, answer.Code)
	assert.NotContains(t, answer.Body.String(), "database")
	assert.NotContains(t, answer.Body.String(), "sql")
	assert.Contains(t, log.String(), "closed")
	assert.Contains(t, log.String(), piecePath)
}

func TestThisMachinesNamesAreForThisMachine(t *testing.T) {
	st, err := store.Open(t.TempDir())
	require.NoError(t, err)
	t.Cleanup(func() { _ = st.Close() })
	handler := server.New(server.Config{Store: st, Hosts: append([]string{"192.0.2.7"}, server.Loopback...)})
	for _, row := range []struct {
		peer, host string
		status     int
	}{
		{"127.0.0.1:4000", "localhost", 200},
		{"[::1]:4000", "[::1]:7373", 200},
		{"[::ffff:127.0.0.1]:4000", "127.0.0.1", 200},
		{"192.0.2.9:4000", "localhost", 403},
		{"192.0.2.9:4000", "127.0.0.1:7373", 403},
		{"192.0.2.9:4000", "192.0.2.7:7373", 200},
	} {
		answer := httptest.NewRecorder()
		request := httptest.NewRequest("GET", "/api/pieces", nil)
		request.RemoteAddr, request.Host = row.peer, row.host
		handler.ServeHTTP(answer, request)
		assert.Equal(t, row.status, answer.Code, "%s asking for %s", row.peer, row.host)
	}
}

func TestAnOpenServerAsksForItsWord(t *testing.T) {
	st, err := store.Open(t.TempDir())
	require.NoError(t, err)
	running := httptest.NewServer(server.New(server.Config{Store: st, Hosts: server.Loopback, Token: "WORD"}))
	t.Cleanup(func() {
		running.Close()
		_ = st.Close()
	})
	jar, err := cookiejar.New(nil)
	require.NoError(t, err)
	visitor := &http.Client{Jar: jar}
	get := func(path string) *http.Response {
		response, err := visitor.Get(running.URL + path)
		require.NoError(t, err)
		require.NoError(t, response.Body.Close())
		return response
	}
	assert.Equal(t, 401, get("/api/pieces").StatusCode)
	assert.Equal(t, 401, get("/api/pieces?agrimony-token=WRONG").StatusCode)
	response := get("/api/pieces?a=b&agrimony-token=WORD")
	assert.Equal(t, 200, response.StatusCode)
	assert.Equal(t, "a=b", response.Request.URL.RawQuery, "the word does not stay in the address")
	assert.Equal(t, 200, get("/api/pieces").StatusCode, "and then the cookie has it")
}

// slow is a body that never comes.
type slow struct{}

func (slow) Read([]byte) (int, error) {
	return 0, &net.OpError{Op: "read", Err: os.ErrDeadlineExceeded}
}

func TestABodyThatComesTooLateIsSo(t *testing.T) {
	require.True(t, errors.Is(&net.OpError{Op: "read", Err: os.ErrDeadlineExceeded}, os.ErrDeadlineExceeded))
	st, err := store.Open(t.TempDir())
	require.NoError(t, err)
	t.Cleanup(func() { _ = st.Close() })
	handler := server.New(server.Config{Store: st, Hosts: server.Loopback})
	for _, path := range []string{"/api/pieces", "/api/pieces/import"} {
		answer := httptest.NewRecorder()
		request := httptest.NewRequest("POST", path, slow{})
		request.Host = "localhost"
		request.RemoteAddr = "127.0.0.1:1"
		handler.ServeHTTP(answer, request)
		assert.Equal(t, http.StatusRequestTimeout, answer.Code, path)
	}
}

func TestFilesBearTheirTitlesInAnyScript(t *testing.T) {
	c := start(t)
	var made server.State
	require.Equal(t, 201, c.call("POST", "/api/pieces", map[string]any{"title": "Möwe / 海", "tempo": 100, "meter": "4/4", "clip": "…", "key": map[string]any{"tonic": "D", "scale": "dorian"}}, &made).StatusCode)
	response := c.call("GET", "/api/pieces/"+made.ID+"/document", nil, nil)
	assert.Equal(t, `attachment; filename="M_we-_.agrimony.json"; filename*=UTF-8''M%C3%B6we-%E6%B5%B7.agrimony.json`, response.Header.Get("Content-Disposition"))
}

// A piece within the limits of lanes and steps goes out and comes in again, also where
// its document is larger than an edit may be.
func TestADocumentMayBeLargerThanAnEdit(t *testing.T) {
	c := start(t)
	document := `{"format":"agrimony-piece","version":1,"title":"Weir"` + strings.Repeat(" ", 9<<20) + `}`
	assert.Equal(t, 201, c.call("POST", "/api/pieces/import", document, nil).StatusCode)
}
