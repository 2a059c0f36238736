// Package server offers the store and the core over HTTP, with the screens'
// files beside them.
package server

import (
	"io"
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
	Token string   // a word that every request must bring; empty: none
}

// Loopback are the names of this machine for itself.
var Loopback = []string{"127.0.0.1", "localhost", "::1"}

type server struct {
	store *store.Store
	views views
	drawn drawn
	files gate // what makes files
	reads gate // what reads them, one at a time
	shows gate // what makes views
}

// New makes the handler.
func New(config Config) http.Handler {
	gin.SetMode(gin.ReleaseMode)
	s := &server{store: config.Store, files: newGate(maxAtOnce), reads: newGate(1), shows: newGate(maxAtOnce)}
	r := gin.New()
	r.HandleMethodNotAllowed = true
	r.Use(gin.CustomRecoveryWithWriter(io.Discard, recovered), headers, sameSite(config.Hosts))
	if config.Token != "" {
		r.Use(known(config.Token))
	}

	fresh := func(c *gin.Context) { c.Header("Cache-Control", "no-store") }
	r.POST("/api/pieces/import", fresh, bounded(maxDocument), s.importPiece)
	r.POST("/api/files/report", fresh, bounded(maxMIDI), s.report)
	r.POST("/api/files/piece", fresh, bounded(maxMIDI), s.takeNew)
	r.POST("/api/pieces/:id/take", fresh, bounded(maxMIDI), s.takeInto)
	api := r.Group("/api", fresh, bounded(maxBody))
	api.GET("/words", s.words)
	api.GET("/key", s.key)
	api.GET("/pieces", s.list)
	api.GET("/deleted/pieces", s.deleted)
	api.POST("/deleted/pieces/:id", s.restore)
	api.GET("/deleted/starters", s.deletedStarters)
	api.POST("/deleted/starters/:id", s.restoreStarter)
	api.POST("/pieces", s.create)
	api.POST("/pieces/demo", s.openDemo)
	api.POST("/starters", s.saveStarter)
	api.DELETE("/starters", s.removeStarter)
	api.POST("/tempers", s.saveTemper)
	api.DELETE("/tempers", s.removeTemper)
	api.POST("/groove", s.groove)
	one := api.Group("/pieces/:id")
	one.GET("", s.get)
	one.DELETE("", s.remove)
	one.POST("/edits", s.edit)
	one.POST("/undo", s.undo)
	one.POST("/redo", s.redo)
	one.POST("/key-preview", s.previewKey)
	one.GET("/thumbs", s.thumbs)
	one.GET("/card", s.card)
	one.GET("/document", s.document)
	one.GET("/order", s.viewOrder)
	one.POST("/order/play", s.playOrder)
	one.POST("/order/seats", s.seatOrder)
	one.GET("/order/midi", s.orderMidi)
	one.GET("/order/summary", s.orderSummary)
	one.GET("/clips/:clip/midi", s.midi)
	one.GET("/clips/:clip/summary", s.summary)
	one.GET("/clips/:clip/why", s.why)
	one.GET("/clips/:clip/progression", s.readProgression)
	one.GET("/clips/:clip/board", s.board)
	one.GET("/clips/:clip/orders", s.orders)
	one.GET("/clips/:clip/keyboard", s.keyboard)
	one.GET("/clips/:clip/starters", s.offerStarters)
	one.POST("/clips/:clip/proposals", s.propose)
	one.GET("/clips/:clip/tempers", s.tempers)
	one.GET("/clips/:clip/versions", s.compared)
	one.GET("/clips/:clip/starter", s.laneStarter)
	one.POST("/clips/:clip/fits", s.fits)

	r.NoRoute(pages(config.Files))
	r.NoMethod(func(c *gin.Context) {
		fail(c, http.StatusMethodNotAllowed, "", c.Request.Method+" is not allowed here")
	})
	return compressed(r)
}
