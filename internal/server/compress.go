package server

import (
	"net"
	"net/http"

	"github.com/klauspost/compress/gzhttp"
)

// leastCompressed is from how many bytes on an answer is compressed.
const leastCompressed = 2048

// compressed lets answers be compressed, for those who take that. Over loopback the answers to edits
// are not: it would only take time. Files that are compressed already go as they are.
func compressed(next http.Handler) http.Handler {
	wrap, err := gzhttp.NewWrapper(gzhttp.MinSize(leastCompressed), gzhttp.ContentTypes([]string{"application/json"}))
	if err != nil {
		panic(err) // the options are constants
	}
	shrunk := wrap(next)
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if host, _, err := net.SplitHostPort(r.RemoteAddr); err == nil && net.ParseIP(host).IsLoopback() && r.Method != http.MethodGet {
			next.ServeHTTP(w, r)
			return
		}
		shrunk.ServeHTTP(w, r)
	})
}
