package server

import (
	"io/fs"
	"mime"
	"net/http"
	"path"
	"strings"

	"github.com/gin-gonic/gin"
)

// encodings are the compressed twins that the build writes beside a file, the best
// first.
var encodings = []struct{ name, suffix string }{{"br", ".br"}, {"gzip", ".gz"}}

// pages serves the built front end: its files, and the page for every address that
// is not one of them, because the page finds its own way. A missing asset is 404.
func pages(files fs.FS) gin.HandlerFunc {
	server := http.FileServerFS(files)
	has := func(name string) bool {
		info, err := fs.Stat(files, name)
		return err == nil && !info.IsDir()
	}
	return func(c *gin.Context) {
		name := strings.TrimPrefix(path.Clean(c.Request.URL.Path), "/")
		switch {
		case strings.HasPrefix(name, "api/"):
			fail(c, http.StatusNotFound, "", "there is nothing at /"+name)
			return
		case c.Request.Method != http.MethodGet && c.Request.Method != http.MethodHead:
			fail(c, http.StatusMethodNotAllowed, "", "only GET is allowed here")
			return
		case !has("index.html"):
			c.Data(http.StatusServiceUnavailable, "text/plain; charset=utf-8", []byte("The screens are not built yet. Run: make web\n"))
			return
		case strings.HasPrefix(name, "assets/") && !has(name):
			fail(c, http.StatusNotFound, "", "there is nothing at /"+name)
			return
		}
		h := c.Writer.Header()
		h.Set("Cache-Control", "no-cache")
		if strings.HasPrefix(name, "assets/") {
			h.Set("Cache-Control", "public, max-age=31536000, immutable")
		} else if !has(name) {
			name = "index.html"
		}
		h.Set("Vary", "Accept-Encoding")
		for _, e := range encodings {
			if has(name+e.suffix) && accepts(c.GetHeader("Accept-Encoding"), e.name) {
				h.Set("Content-Encoding", e.name)
				h.Set("Content-Type", mime.TypeByExtension(path.Ext(name)))
				name += e.suffix
				break
			}
		}
		if name == "index.html" {
			name = "" // under which the file server gives it without sending one elsewhere
		}
		c.Request.URL.Path = "/" + name
		server.ServeHTTP(c.Writer, c.Request)
	}
}

func accepts(header, encoding string) bool {
	for _, part := range strings.Split(header, ",") {
		name, quality, _ := strings.Cut(strings.TrimSpace(part), ";")
		if name == encoding && strings.TrimSpace(quality) != "q=0" {
			return true
		}
	}
	return false
}
