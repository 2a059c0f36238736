// Package server offers the store and the core over HTTP, with the screens'
// files beside them.
package server

import (
	"io/fs"
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	"agrimony/internal/store"
)

// Config is what a server needs.
type Config struct {
	Store *store.Store
	Files fs.FS    // the built front end; index.html may be missing
	Hosts []string // host names answered to, without ports
}

// Loopback are the names of this machine for itself.
var Loopback = []string{"127.0.0.1", "localhost", "::1"}

type server struct {
	store *store.Store
	views views
}

// New makes the handler.
func New(config Config) http.Handler {
	gin.SetMode(gin.ReleaseMode)
	s := &server{store: config.Store}
	r := gin.New()
	r.HandleMethodNotAllowed = true
	r.Use(gin.CustomRecovery(func(c *gin.Context, problem any) {
		fail(c, http.StatusInternalServerError, "", "the server failed; nothing was changed")
	}), headers, sameSite(config.Hosts), bounded)

	api := r.Group("/api", func(c *gin.Context) { c.Header("Cache-Control", "no-store") })
	api.GET("/words", s.words)
	api.GET("/key", s.key)
	api.GET("/pieces", s.list)
	api.POST("/pieces", s.create)
	api.POST("/pieces/import", s.importPiece)
	api.POST("/pieces/demo", s.openDemo)
	one := api.Group("/pieces/:id")
	one.GET("", s.get)
	one.DELETE("", s.remove)
	one.POST("/edits", s.edit)
	one.POST("/undo", s.undo)
	one.POST("/redo", s.redo)
	one.POST("/key-preview", s.previewKey)
	one.GET("/thumbs", s.thumbs)
	one.GET("/document", s.document)
	one.GET("/clips/:clip/midi", s.midi)
	one.GET("/clips/:clip/summary", s.summary)
	one.GET("/clips/:clip/why", s.why)

	files := http.FileServerFS(config.Files)
	r.NoRoute(func(c *gin.Context) {
		path := strings.TrimPrefix(c.Request.URL.Path, "/")
		if strings.HasPrefix(path, "api/") {
			fail(c, http.StatusNotFound, "", "there is nothing at /"+path)
			return
		}
		if c.Request.Method != http.MethodGet && c.Request.Method != http.MethodHead {
			fail(c, http.StatusMethodNotAllowed, "", "only GET is allowed here")
			return
		}
		if _, err := fs.Stat(config.Files, "index.html"); err != nil {
			c.Data(http.StatusServiceUnavailable, "text/plain; charset=utf-8", []byte("The screens are not built yet. Run: make web\n"))
			return
		}
		if path != "" {
			if _, err := fs.Stat(config.Files, path); err != nil {
				c.Request.URL.Path = "/" // the page finds its own way
			}
		}
		if strings.HasPrefix(path, "assets/") {
			c.Header("Cache-Control", "public, max-age=31536000, immutable")
		} else {
			c.Header("Cache-Control", "no-cache")
		}
		files.ServeHTTP(c.Writer, c.Request)
	})
	r.NoMethod(func(c *gin.Context) {
		fail(c, http.StatusMethodNotAllowed, "", c.Request.Method+" is not allowed here")
	})
	return r
}
