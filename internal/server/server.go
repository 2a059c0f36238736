// Package server offers the store and the core over HTTP, with the screens'
// files beside them.
package server

import (
	"io/fs"
	"net/http"

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
	drawn drawn
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

	r.NoRoute(pages(config.Files))
	r.NoMethod(func(c *gin.Context) {
		fail(c, http.StatusMethodNotAllowed, "", c.Request.Method+" is not allowed here")
	})
	return r
}
