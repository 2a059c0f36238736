package server_test

import (
	"bufio"
	"encoding/json"
	"net"
	"net/http"
	"net/http/httptest"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/demo"
	"agrimony/internal/server"
	"agrimony/internal/store"
)

const gateOfLow = `,"ops":[{"op":"steps.set","clip":"keel","lane":"low","steps":[1],"patch":{"gate":33}}]`

// What cannot be kept is said in the second line, and is not kept.
func TestWhatIsShownAndCannotBeKeptIsSaid(t *testing.T) {
	folder := t.TempDir()
	st, err := store.Open(folder)
	require.NoError(t, err)
	defer st.Close()
	require.NoError(t, server.EnsureDemo(st))
	running := httptest.NewServer(server.New(server.Config{Store: st, Hosts: server.Loopback}))
	defer running.Close()
	h := &holder{client: &client{t, running.URL}, id: demo.ID}
	h.open("keel")
	files, err := filepath.Glob(filepath.Join(folder, "*.db"))
	require.NoError(t, err)
	require.NotEmpty(t, files)
	require.NoError(t, os.Remove(files[0]))
	response := h.ask("edits", gateOfLow)
	defer response.Body.Close()
	assert.Equal(t, 200, response.StatusCode)
	assert.Equal(t, "application/jsonl", response.Header.Get("Content-Type"))
	lines := bufio.NewScanner(response.Body)
	lines.Buffer(nil, 1<<20)
	require.True(t, lines.Scan())
	assert.Contains(t, lines.Text(), `"since":{`)
	require.True(t, lines.Scan())
	var kept server.Kept
	require.NoError(t, json.Unmarshal(lines.Bytes(), &kept))
	assert.Equal(t, 507, kept.Status)
	require.NotNil(t, kept.Problem)
	assert.Contains(t, kept.Problem.Error, "is not there any more")
	assert.False(t, lines.Scan())
}

// What is refused before it is shown is refused as ever.
func TestWhatIsRefusedIsRefusedInOnePart(t *testing.T) {
	h := &holder{client: start(t), id: demo.ID}
	h.open("keel")
	for more, status := range map[string]int{
		strings.Replace(gateOfLow, "33", "0", 1): 422,
		`,"ops":[]`:                              422,
		`,"oops":1`:                              400,
	} {
		got, _, text := h.change("edits", more)
		assert.Equal(t, status, got, more)
		var problem server.Problem
		require.NoError(t, json.Unmarshal(text, &problem), "%s", text)
		assert.NotEmpty(t, problem.Error)
	}
	h.version = 7
	status, _, text := h.change("edits", gateOfLow)
	assert.Equal(t, http.StatusConflict, status)
	assert.Contains(t, string(text), `"state":{`)
	h.id = "none"
	status, _, _ = h.change("edits", gateOfLow)
	assert.Equal(t, 404, status)
}

// Who does not read the first part holds up nobody, and his edit is kept.
func TestWhoDoesNotReadTheFirstPartHoldsUpNobody(t *testing.T) {
	h := &holder{client: start(t), id: demo.ID}
	h.open("keel")
	asleep, err := net.Dial("tcp", strings.TrimPrefix(h.url, "http://"))
	require.NoError(t, err)
	defer asleep.Close()
	body := `{"version":1,"clip":"keel"` + gateOfLow + `}`
	_, err = asleep.Write([]byte("POST " + piecePath + "/edits HTTP/1.1\r\nHost: 127.0.0.1\r\nAccept: application/jsonl\r\nContent-Length: " + strconv.Itoa(len(body)) + "\r\n\r\n" + body))
	require.NoError(t, err)
	require.Eventually(t, func() bool {
		var state shown
		h.call("GET", piecePath+"?clip=keel", nil, &state)
		return state.Version == 2 && state.gate() == 33
	}, 10*time.Second, 5*time.Millisecond)
}
