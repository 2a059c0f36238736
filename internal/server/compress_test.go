package server_test

import (
	"compress/gzip"
	"encoding/json"
	"net/http/httptest"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/server"
	"agrimony/internal/store"
	"agrimony/web"
)

// Answers are compressed beyond this machine, for those who take that, where that is worth it.
func TestAnswersAreCompressedBeyondLoopback(t *testing.T) {
	st, err := store.Open(t.TempDir())
	require.NoError(t, err)
	defer st.Close()
	require.NoError(t, server.EnsureDemo(st))
	handler := server.New(server.Config{Store: st, Files: web.Files(), Hosts: []string{"studio.example"}})
	for _, row := range []struct {
		from, takes, path, as string
	}{
		{"192.168.7.20:5000", "gzip, br", piecePath, "gzip"},
		{"192.168.7.20:5000", "", piecePath, ""},
		{"127.0.0.1:5000", "gzip, br", piecePath, ""},
		{"[::1]:5000", "gzip, br", piecePath, ""},
		{"192.168.7.20:5000", "gzip, br", "/api/pieces", ""},
	} {
		request := httptest.NewRequest("GET", row.path, nil)
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
