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
	store  *store.Store
	views  views
	drawn  drawnThumbs
	queues [queues]*queue
}

// A route is what is answered under a method and a path, and what that may cost.
type route struct {
	method, path string
	cost         cost
	handle       func(*server, *gin.Context)
}

// routes are all that is answered beside the screens' files.
var routes = []route{
	{"POST", "/api/pieces/import", whole, (*server).importPiece},
	{"POST", "/api/files/report", comesIn, (*server).report},
	{"POST", "/api/files/piece", comesIn, (*server).takeNew},
	{"POST", "/api/pieces/:id/take", comesIn, (*server).takeInto},
	{"POST", "/api/groove", groovesIn, (*server).groove},
	{"GET", "/api/words", light, (*server).words},
	{"GET", "/api/key", light, (*server).key},
	{"GET", "/api/pieces", light, (*server).list},
	{"GET", "/api/deleted/pieces", light, (*server).deleted},
	{"POST", "/api/deleted/pieces/:id", shown, (*server).restore},
	{"GET", "/api/deleted/starters", light, (*server).deletedStarters},
	{"POST", "/api/deleted/starters/:id", light, (*server).restoreStarter},
	{"POST", "/api/pieces", shown, (*server).create},
	{"POST", "/api/pieces/demo", shown, (*server).openDemo},
	{"POST", "/api/starters", light, (*server).saveStarter},
	{"DELETE", "/api/starters", light, (*server).removeStarter},
	{"POST", "/api/tempers", light, (*server).saveTemper},
	{"DELETE", "/api/tempers", light, (*server).removeTemper},
	{"GET", "/api/pieces/:id", shown, (*server).get},
	{"DELETE", "/api/pieces/:id", light, (*server).remove},
	{"POST", "/api/pieces/:id/edits", shown, (*server).edit},
	{"POST", "/api/pieces/:id/drafts", shown, (*server).draft},
	{"POST", "/api/pieces/:id/undo", shown, (*server).undo},
	{"POST", "/api/pieces/:id/redo", shown, (*server).redo},
	{"POST", "/api/pieces/:id/key-preview", shown, (*server).previewKey},
	{"GET", "/api/pieces/:id/thumbs", shown, (*server).thumbs},
	{"GET", "/api/pieces/:id/card", shown, (*server).card},
	{"GET", "/api/pieces/:id/document", document, (*server).document},
	{"GET", "/api/pieces/:id/order", drawn, (*server).viewOrder},
	{"POST", "/api/pieces/:id/order/play", played, (*server).playOrder},
	{"POST", "/api/pieces/:id/order/seats", madeOrder, (*server).seatOrder},
	{"GET", "/api/pieces/:id/order/midi", madeOrder, (*server).orderMidi},
	{"GET", "/api/pieces/:id/order/summary", madeOrder, (*server).orderSummary},
	{"GET", "/api/pieces/:id/clips/:clip/midi", made, (*server).midi},
	{"GET", "/api/pieces/:id/clips/:clip/summary", made, (*server).summary},
	{"GET", "/api/pieces/:id/clips/:clip/why", shown, (*server).why},
	{"GET", "/api/pieces/:id/clips/:clip/progression", shown, (*server).readProgression},
	{"GET", "/api/pieces/:id/clips/:clip/board", shown, (*server).board},
	{"GET", "/api/pieces/:id/clips/:clip/orders", shown, (*server).orders},
	{"GET", "/api/pieces/:id/clips/:clip/keyboard", light, (*server).keyboard},
	{"GET", "/api/pieces/:id/clips/:clip/starters", shown, (*server).offerStarters},
	{"POST", "/api/pieces/:id/clips/:clip/proposals", drawn, (*server).propose},
	{"GET", "/api/pieces/:id/clips/:clip/tempers", drawn, (*server).tempers},
	{"GET", "/api/pieces/:id/clips/:clip/versions", drawn, (*server).compared},
	{"GET", "/api/pieces/:id/clips/:clip/starter", light, (*server).laneStarter},
	{"POST", "/api/pieces/:id/clips/:clip/fits", shown, (*server).fits},
}

// Routes lists what is answered, "GET /api/pieces/:id", as the router has it.
func Routes(config Config) (out []string) {
	for _, r := range engine(config).Routes() {
		out = append(out, r.Method+" "+r.Path)
	}
	return out
}

// New makes the handler.
func New(config Config) http.Handler { return compressed(engine(config)) }

func engine(config Config) *gin.Engine {
	gin.SetMode(gin.ReleaseMode)
	s := &server{store: config.Store}
	for i, n := range places {
		if n > 0 {
			s.queues[i] = newQueue(n)
		}
	}
	r := gin.New()
	r.HandleMethodNotAllowed = true
	r.RedirectTrailingSlash, r.RedirectFixedPath = false, false // nobody is sent to an address that he wrote
	r.Use(gin.CustomRecoveryWithWriter(io.Discard, recovered), headers, sameSite(config.Hosts))
	if config.Token != "" {
		r.Use(known(config.Token))
	}
	fresh := func(c *gin.Context) { c.Header("Cache-Control", "no-store") }
	for _, own := range routes {
		r.Handle(own.method, own.path, fresh, s.answering(own.cost, func(c *gin.Context) { own.handle(s, c) }))
	}
	r.NoRoute(pages(config.Files))
	r.NoMethod(func(c *gin.Context) {
		fail(c, http.StatusMethodNotAllowed, "", c.Request.Method+" is not allowed here")
	})
	return r
}
