package server_test

import (
	"bufio"
	"bytes"
	"context"
	"fmt"
	"io"
	"net"
	"net/http"
	"net/http/httptest"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/server"
	"agrimony/internal/store"
)

// half sends the head of a request and half of its body, and leaves the rest for later.
func half(t *testing.T, url, path, body string) net.Conn {
	t.Helper()
	host := strings.TrimPrefix(url, "http://")
	conn, err := net.Dial("tcp", host)
	require.NoError(t, err)
	t.Cleanup(func() { _ = conn.Close() })
	_, err = fmt.Fprintf(conn, "POST %s HTTP/1.1\r\nHost: %s\r\nContent-Length: %d\r\n\r\n%s", path, host, len(body), body[:len(body)/2])
	require.NoError(t, err)
	return conn
}

// Whoever sends half a request, or does not read the answer, holds up nobody: not even himself.
func TestNothingIsHeldWhileAClientSendsOrReads(t *testing.T) {
	c := start(t)
	file := "MThd\x00\x00\x00\x06\x00\x00\x00\x01\x00\x60MTrk\x00\x00\x00\x0c\x00\x90\x3c\x64\x60\x80\x3c\x00\x00\xff\x2f\x00"
	for _, path := range []string{"/api/files/report", "/api/groove", "/api/files/piece", piecePath + "/take?version=1", piecePath + "/edits", "/api/pieces/import", piecePath + "/order/play", piecePath + "/clips/keel/proposals"} {
		for range 3 {
			half(t, c.url, path, file)
		}
	}
	host := strings.TrimPrefix(c.url, "http://")
	for _, path := range []string{piecePath + "/order", piecePath, piecePath + "/clips/keel/midi?bars=512", piecePath + "/document", piecePath + "/order/midi"} {
		for range 3 { // asks, and falls asleep
			conn, err := net.Dial("tcp", host)
			require.NoError(t, err)
			t.Cleanup(func() { _ = conn.Close() })
			require.NoError(t, conn.(*net.TCPConn).SetReadBuffer(1))
			_, err = fmt.Fprintf(conn, "GET %s HTTP/1.1\r\nHost: %s\r\n\r\n", path, host)
			require.NoError(t, err)
		}
	}
	assert.Equal(t, 200, c.call("POST", "/api/files/report", file, nil).StatusCode)
	assert.Equal(t, 200, c.call("POST", "/api/groove", file, nil).StatusCode)
	assert.Equal(t, 200, c.call("GET", piecePath+"/order", nil, nil).StatusCode)
	assert.Equal(t, 200, c.call("GET", piecePath+"/order/midi", nil, nil).StatusCode)
	assert.Equal(t, 200, c.call("POST", piecePath+"/edits", gate(1, 33), nil).StatusCode)
}

// A light edit of one piece does not wait for all the heavy work of another.
func TestALightEditIsAnsweredAmongHeavyRenders(t *testing.T) {
	c := start(t)
	heavy := c.imported(`{"id":"low","rate":"1/64T","steps":[{"on":true,"ratchet":4}]},{"id":"high","rate":"1/64T","steps":[{"on":true,"ratchet":4}]}`)
	ctx, cancel := context.WithCancel(t.Context())
	var group sync.WaitGroup
	sent := make(chan struct{}, 50)
	for i := range 50 {
		path := fmt.Sprintf("/api/pieces/%s/clips/a/midi?bars=%d", heavy.ID, 40+i%4)
		if i%3 == 0 {
			path = "/api/pieces/" + heavy.ID
		}
		group.Go(func() {
			request, err := http.NewRequestWithContext(ctx, "GET", c.url+path, nil)
			assert.NoError(t, err)
			sent <- struct{}{}
			if response, err := http.DefaultClient.Do(request); err == nil {
				_, _ = io.Copy(io.Discard, response.Body)
				_ = response.Body.Close()
			}
		})
	}
	for range 50 {
		<-sent
	}
	assert.Equal(t, 200, c.call("POST", piecePath+"/edits", gate(1, 33), nil).StatusCode)
	cancel() // the others need not be waited for
	group.Wait()
}

// An answer that does not fit is refused, with what fits.
func TestARequestOfAnUnknownLengthIsBounded(t *testing.T) {
	c := start(t)
	host := strings.TrimPrefix(c.url, "http://")
	conn, err := net.Dial("tcp", host)
	require.NoError(t, err)
	defer conn.Close()
	_, err = fmt.Fprintf(conn, "POST /api/groove HTTP/1.1\r\nHost: %s\r\nTransfer-Encoding: chunked\r\n\r\n", host)
	require.NoError(t, err)
	block := bytes.Repeat([]byte{0}, 1<<20)
	for range 18 {
		if _, err := fmt.Fprintf(conn, "%x\r\n%s\r\n", len(block), block); err != nil {
			break // the server has refused it already
		}
	}
	response, err := http.ReadResponse(bufio.NewReader(conn), nil)
	if err == nil {
		defer response.Body.Close()
		assert.Equal(t, http.StatusRequestEntityTooLarge, response.StatusCode)
	}
}

// Whatever stands in an address, the answer leads to this server.
func TestNobodyIsSentElsewhere(t *testing.T) {
	st, err := store.Open(t.TempDir())
	require.NoError(t, err)
	t.Cleanup(func() { _ = st.Close() })
	handler := server.New(server.Config{Store: st, Hosts: server.Loopback, Token: "word"})
	for _, path := range []string{"//elsewhere.example/?" + server.TokenName + "=word", "/%2f/elsewhere.example?" + server.TokenName + "=word", "//elsewhere.example/api/pieces/?" + server.TokenName + "=word", `/\elsewhere.example?` + server.TokenName + "=word"} {
		request := httptest.NewRequest("GET", "http://localhost"+path, nil)
		request.RemoteAddr = "127.0.0.1:1"
		answer := httptest.NewRecorder()
		handler.ServeHTTP(answer, request)
		to := answer.Header().Get("Location")
		assert.NotRegexp(t, `^(//|/\\|[a-z]+:)`, to, path)
	}
}
