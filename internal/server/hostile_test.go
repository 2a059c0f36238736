package server_test

import (
	"bytes"
	"io"
	"net/http"
	"os"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/server"
	"agrimony/internal/server/hostile"
)

// isFile tells whether a route answers with a file, which may be larger than other answers.
func isFile(route string) bool {
	return strings.HasSuffix(route, "/midi") || strings.HasSuffix(route, "/document")
}

// Whatever is asked of a route, it is answered, in no more bytes than an answer may have, and without a fault of
// the server's own. The soak holds the same requests to time and memory.
func TestEveryRouteIsBounded(t *testing.T) {
	c := start(t)
	rows := map[string]int{}
	for i := range hostile.Routes {
		row := &hostile.Routes[i]
		rows[row.Route]++
		began := time.Now()
		status, answer := row.Send(func(method, path string, body []byte) (int, []byte) {
			request, err := http.NewRequest(method, c.url+path, bytes.NewReader(body))
			require.NoError(t, err)
			request.Header.Set("Accept", "application/jsonl") // as the page asks for edits, in two parts
			response, err := http.DefaultClient.Do(request)
			require.NoError(t, err, row.Name())
			defer response.Body.Close()
			data, err := io.ReadAll(response.Body)
			require.NoError(t, err, row.Name())
			return response.StatusCode, data
		})
		if testing.Verbose() || os.Getenv("ROWS") != "" {
			t.Logf("%-100s %d %9d bytes %6d ms %.120s", row.Name(), status, len(answer), time.Since(began).Milliseconds(), map[bool]string{true: string(answer)}[status >= 400])
		}
		assert.Less(t, status, 500, "%s: %.300s", row.Name(), answer)
		assert.NotContains(t, string(answer), `"status":5`, row.Name())
		if !isFile(row.Route) {
			assert.LessOrEqual(t, len(answer), 8<<20, row.Name())
		}
	}
	for _, route := range server.Routes(server.Config{}) {
		assert.Positive(t, rows[route], "%s has no row in the table of hostile requests", route)
		delete(rows, route)
	}
	assert.Empty(t, rows, "these are no routes")
}
