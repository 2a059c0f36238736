package server_test

import (
	"compress/gzip"
	"encoding/json"
	"fmt"
	"net/http/httptest"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/server"
	"agrimony/internal/store"
	"agrimony/web"
)

// Answers are compressed for those who take that, where that is worth it: over loopback what is only read.
func TestAnswersAreCompressedWhereThatIsWorthIt(t *testing.T) {
	st, err := store.Open(t.TempDir())
	require.NoError(t, err)
	defer st.Close()
	require.NoError(t, server.EnsureDemo(st))
	handler := server.New(server.Config{Store: st, Files: web.Files(), Hosts: []string{"studio.example"}})
	edit := func(version int) string {
		return fmt.Sprintf(`{"version":%d,"clip":"keel","ops":[{"op":"clip.set","clip":"keel","patch":{"bars":%d}}]}`, version, version+2)
	}
	for _, row := range []struct {
		method, from, takes, path, body, as string
	}{
		{"GET", "192.168.7.20:5000", "gzip, br", piecePath, "", "gzip"},
		{"GET", "192.168.7.20:5000", "", piecePath, "", ""},
		{"GET", "127.0.0.1:5000", "gzip, br", piecePath, "", "gzip"},
		{"GET", "192.168.7.20:5000", "gzip, br", "/api/pieces", "", ""},
		{"POST", "192.168.7.20:5000", "gzip, br", piecePath + "/edits", edit(1), "gzip"},
		{"POST", "127.0.0.1:5000", "gzip, br", piecePath + "/edits", edit(2), ""},
		{"POST", "[::1]:5000", "gzip, br", piecePath + "/edits", edit(3), ""},
	} {
		request := httptest.NewRequest(row.method, row.path, strings.NewReader(row.body))
		request.Header.Set("Content-Type", "application/json")
		request.Host, request.RemoteAddr = "studio.example", row.from
		request.Header.Set("Accept-Encoding", row.takes)
		answer := httptest.NewRecorder()
		handler.ServeHTTP(answer, request)
		require.Equal(t, 200, answer.Code, answer.Body.String())
		assert.Equal(t, row.as, answer.Header().Get("Content-Encoding"), "%+v", row)
		var shown any
		if row.as == "gzip" {
			assert.Less(t, answer.Body.Len(), 10_000)
			inside, err := gzip.NewReader(answer.Body)
			require.NoError(t, err)
			require.NoError(t, json.NewDecoder(inside).Decode(&shown))
		} else {
			require.NoError(t, json.Unmarshal(answer.Body.Bytes(), &shown))
		}
	}
}
