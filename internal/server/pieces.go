package server

import (
	"crypto/rand"
	"encoding/hex"
	"encoding/json"
	"errors"
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	"agrimony/internal/core/budget"
	"agrimony/internal/core/chord"
	"agrimony/internal/core/edit"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
	"agrimony/internal/demo"
	"agrimony/internal/store"
	"agrimony/internal/view"
)

func (s *server) words(c *gin.Context) { reply(c, http.StatusOK, view.Words()) }

// key describes the key of the query ?name=Eb+dorian.
func (s *server) key(c *gin.Context) {
	key, err := pitch.ParseKey(c.Query("name"))
	if err != nil {
		refuse(c, bad("name: %v", err))
		return
	}
	report := chord.Describe(key)
	for i := range report.Notes {
		report.Notes[i] = pitch.Pretty(report.Notes[i])
	}
	for _, named := range [][]chord.Named{report.Triads, report.Sevenths} {
		for i := range named {
			named[i].Numeral = chord.Pretty(named[i].Numeral)
		}
	}
	reply(c, http.StatusOK, report)
}

func (s *server) list(c *gin.Context) {
	list, err := s.store.List()
	if err != nil {
		refuse(c, err)
		return
	}
	reply(c, http.StatusOK, list)
}

// create makes a piece with one clip of one lane of rests.
func (s *server) create(c *gin.Context) {
	var request CreateRequest
	if err := body(c, &request); err != nil {
		refuse(c, err)
		return
	}
	patch := map[string]any{"title": request.Title, "tempo": request.Tempo, "meter": request.Meter}
	if request.Key != nil {
		patch["key"] = request.Key
	}
	text, err := json.Marshal(patch)
	if err != nil {
		refuse(c, err)
		return
	}
	p, err := edit.Apply(piece.Default(), []op.Op{op.Of(op.SetPiece{Patch: text}), op.Of(op.AddClip{Name: request.Clip})})
	if err != nil {
		refuse(c, err)
		return
	}
	s.keep(c, p)
}

// keep stores a new piece, once it is known that it can be shown.
func (s *server) keep(c *gin.Context, p *piece.Piece) {
	id, work := newID(), workOf(c)
	seen, _, err := s.try(work, &piece.Piece{}, p, "", nil)
	if err == nil {
		err = s.store.Create(id, p)
	}
	if err != nil {
		refuse(c, err)
		return
	}
	if seen != nil {
		s.views.put(keptView{id, 1, seen, newID()})
	}
	out, err := s.state(work, &store.State{ID: id, Version: 1, Piece: p}, "", keptView{}, Holds{})
	if err != nil {
		refuse(c, err)
		return
	}
	out.Others = true
	reply(c, http.StatusCreated, out)
}

func (s *server) show(c *gin.Context, id, clip string) {
	from, err := s.store.Load(id)
	if err != nil {
		refuse(c, err)
		return
	}
	holds := Holds{}
	if also := c.Query("also"); also != "" {
		holds.Also = strings.Split(also, " ")
	}
	out, err := s.state(workOf(c), from, clip, keptView{}, holds)
	if err != nil {
		refuse(c, err)
		return
	}
	out.Others = true
	reply(c, http.StatusOK, out)
}

func newID() string {
	var b [8]byte
	_, _ = rand.Read(b[:]) // never fails, by its documentation
	return hex.EncodeToString(b[:])
}

// importPiece keeps a document as a new piece.
func (s *server) importPiece(c *gin.Context) {
	data, err := bodyOf(c)
	if err != nil {
		refuse(c, err)
		return
	}
	p, err := piece.ReadWithin(workOf(c), data)
	if err != nil {
		refuse(c, err)
		return
	}
	s.keep(c, p)
}

// openDemo opens the sample piece, and makes it first when it is not there.
func (s *server) openDemo(c *gin.Context) {
	if err := EnsureDemo(s.store); err != nil {
		refuse(c, err)
		return
	}
	s.show(c, demo.ID, "")
}

// EnsureDemo keeps the sample piece unless it is there already.
func EnsureDemo(st *store.Store) error {
	there, err := st.Has(demo.ID)
	if err != nil || there {
		return err
	}
	if err := st.Restore(demo.ID); !errors.Is(err, store.ErrGone) {
		return err // it was deleted, and comes back as it was
	}
	p, err := demo.Piece()
	if err != nil {
		return err
	}
	return st.Create(demo.ID, p)
}

func (s *server) get(c *gin.Context) { s.show(c, c.Param("id"), c.Query("clip")) }

func (s *server) remove(c *gin.Context) {
	if err := s.store.Delete(c.Param("id")); err != nil {
		refuse(c, err)
		return
	}
	s.views.forget(c.Param("id"))
	c.Status(http.StatusNoContent)
}

// deleted lists the pieces that can be brought back.
func (s *server) deleted(c *gin.Context) {
	list, err := s.store.Deleted()
	if err != nil {
		refuse(c, err)
		return
	}
	reply(c, http.StatusOK, list)
}

// restore brings a deleted piece back.
func (s *server) restore(c *gin.Context) {
	if err := s.store.Restore(c.Param("id")); err != nil {
		refuse(c, err)
		return
	}
	s.show(c, c.Param("id"), "")
}

func (s *server) previewKey(c *gin.Context) {
	var request PreviewRequest
	if err := body(c, &request); err != nil {
		refuse(c, err)
		return
	}
	from, err := s.store.Load(c.Param("id"))
	if err != nil {
		refuse(c, err)
		return
	}
	preview, err := edit.PreviewKey(from.Piece, request.Op)
	if err != nil {
		refuse(c, err)
		return
	}
	reply(c, http.StatusOK, preview)
}

func (s *server) thumbs(c *gin.Context) {
	from, err := s.store.Load(c.Param("id"))
	if err != nil {
		refuse(c, err)
		return
	}
	out := make([]*view.Thumb, len(from.Piece.Clips))
	for i := range from.Piece.Clips {
		if out[i], err = s.thumbOf(workOf(c), from, &from.Piece.Clips[i]); err != nil {
			refuse(c, err)
			return
		}
	}
	reply(c, http.StatusOK, out)
}

// card tells what a list shows of a piece. One whose first clip cannot be drawn has a card without.
func (s *server) card(c *gin.Context) {
	from, err := s.store.Load(c.Param("id"))
	if err != nil {
		refuse(c, err)
		return
	}
	p := from.Piece
	out := Card{Key: pitch.Pretty(p.Key.Resolve().String()), Tempo: p.Tempo, Meter: p.Meter, Clips: len(p.Clips)}
	if len(p.Clips) > 0 {
		out.First, err = s.thumbOf(workOf(c), from, &p.Clips[0])
		var broken *render.BrokenError
		if err != nil && !errors.As(err, &broken) {
			refuse(c, err)
			return
		}
	}
	reply(c, http.StatusOK, out)
}

// thumbOf draws a clip's miniature from its view where that is at hand, and else
// again only when the clip has changed.
func (s *server) thumbOf(work *budget.Budget, from *store.State, clip *piece.Clip) (*view.Thumb, error) {
	if seen := s.views.get(from.ID, from.Version, clip.ID); seen.view != nil {
		return seen.view.Thumb(), nil
	}
	if kept := s.drawn.get(from.ID, from.Piece, clip); kept != nil {
		return kept, nil
	}
	drawn, err := view.ThumbOf(from.Piece, clip, view.Share(work, len(from.Piece.Clips)))
	if err == nil {
		s.drawn.put(from.ID, from.Piece, clip, drawn)
	}
	return drawn, err
}

func (s *server) document(c *gin.Context) {
	from, err := s.store.Load(c.Param("id"))
	if err != nil {
		refuse(c, err)
		return
	}
	attach(c, fileName(from.Piece.Title)+".agrimony.json")
	c.Data(http.StatusOK, "application/json; charset=utf-8", piece.Write(from.Piece))
}
