package server

import (
	"errors"
	"net/http"

	"github.com/gin-gonic/gin"

	"agrimony/internal/core/edit"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/store"
)

// editWork is what of an answer the edits themselves may take; the view after them takes the rest.
const editWork = 25_000_000

func (s *server) edit(c *gin.Context) {
	var request EditRequest
	if err := body(c, &request); err != nil {
		refuse(c, err)
		return
	}
	change := s.changing(c, request.Version, request.Clip, request.Holds)
	change.end(s.store.Edit(c.Param("id"), request.Version, request.Key, change.by(request.Ops)))
}

// draft answers what an edit would come to. It is worked out as an edit is, and nothing of it is kept: no history, no key,
// no view.
func (s *server) draft(c *gin.Context) {
	var request EditRequest
	if err := body(c, &request); err != nil {
		refuse(c, err)
		return
	}
	change := s.changing(c, request.Version, request.Clip, request.Holds)
	change.draft = true
	err := s.store.Draft(c.Param("id"), request.Version, change.by(request.Ops))
	var stale *store.StaleError
	if errors.As(err, &stale) {
		fail(c, http.StatusConflict, "", stale.Error())
		return
	}
	if err != nil {
		refuseOf(c, change.was, err)
		return
	}
	if change.seen.view == nil {
		refuse(c, bad("ops: no clip would be left to be shown"))
		return
	}
	reply(c, http.StatusOK, change.first(change.seen.view.Performance().Piece))
}

// by is the change that edits make.
func (ch *changing) by(ops []op.Op) store.Change {
	work := workOf(ch.c)
	return func(p *piece.Piece) (*piece.Piece, string, error) {
		ch.was = p
		out, err := edit.ApplyWithin(p, ops, work.Part(editWork))
		if err != nil {
			return nil, "", err
		}
		ch.remark = edit.RemarkOn(out, ops, work.Part(editWork))
		return out, edit.Label(ops), ch.try(p, out)
	}
}

func (s *server) undo(c *gin.Context) { s.walk(c, s.store.Undo) }
func (s *server) redo(c *gin.Context) { s.walk(c, s.store.Redo) }

func (s *server) walk(c *gin.Context, way func(id string, version int64, key string, try store.Try) (*store.State, error)) {
	var request StepRequest
	if err := body(c, &request); err != nil {
		refuse(c, err)
		return
	}
	change := s.changing(c, request.Version, request.Clip, request.Holds)
	change.end(way(c.Param("id"), request.Version, request.Key, change.try))
}

// A changing is a change of a piece on its way: worked out, shown and then kept.
type changing struct {
	*server
	c      *gin.Context
	clip   string // whose view comes back
	holds  Holds
	held   keptView     // what the asker holds
	seen   keptView     // what was made while it was tried; no view: it was not
	was    *piece.Piece // that an edit was tried on; nil: its faults need no naming
	others bool
	remark *edit.Remark
	shown  bool // the first part of the answer is on its way
	draft  bool // nothing is to be kept
}

func (s *server) changing(c *gin.Context, version int64, clip string, holds Holds) *changing {
	return &changing{server: s, c: c, clip: clip, holds: holds, held: s.views.get(c.Param("id"), version, clip)}
}

// try makes sure that the piece after a change can be shown, and shows it where the answer has two parts.
func (ch *changing) try(was, next *piece.Piece) error {
	seen, others, err := ch.server.try(workOf(ch.c), was, next, ch.clip, ch.held.view)
	if ch.others = others; err != nil || seen == nil {
		return err
	}
	ch.seen = keptView{ch.c.Param("id"), 0, seen, newID()}
	answer, ok := ch.c.Writer.(*answer)
	if ch.draft || !ok || answer.first == nil {
		return nil
	}
	reply(ch.c, http.StatusOK, ch.first(next))
	ch.shown = answer.part()
	return nil
}

// first is what a change comes to, before it is kept.
func (ch *changing) first(next *piece.Piece) *State {
	out := &State{ID: ch.seen.id, Others: ch.others, Remark: ch.remark}
	out.show(workOf(ch.c), next, ch.seen, ch.held, ch.holds)
	return out
}

// end answers a change that was made, or says why it was not. One against an old version is 409, with the newer state
// for the screen to offer.
func (ch *changing) end(next *store.State, err error) {
	var stale *store.StaleError
	if errors.As(err, &stale) {
		ch.conflict(stale)
		return
	}
	if err != nil {
		refuseOf(ch.c, ch.was, err)
		return
	}
	if ch.seen.view != nil && ch.seen.view.Performance().Piece == next.Piece {
		ch.seen.version = next.Version
		ch.views.put(ch.seen)
	}
	if !ch.shown {
		out, err := ch.state(workOf(ch.c), next, ch.clip, ch.held, ch.holds)
		if err != nil {
			refuse(ch.c, err)
			return
		}
		out.Others, out.Remark = ch.others || ch.seen.view == nil, ch.remark
		reply(ch.c, http.StatusOK, out)
		if !asLines(ch.c) {
			return
		}
		endLine(ch.c)
	}
	reply(ch.c, http.StatusOK, Kept{Version: next.Version, Undo: next.Undo, Redo: next.Redo})
	endLine(ch.c)
}

func (ch *changing) conflict(stale *store.StaleError) {
	newer, err := ch.store.Load(ch.c.Param("id"))
	if err != nil {
		refuse(ch.c, err)
		return
	}
	out, err := ch.state(workOf(ch.c), newer, ch.clip, keptView{}, Holds{Also: ch.holds.Also})
	if err != nil {
		refuse(ch.c, err)
		return
	}
	ch.c.AbortWithStatusJSON(http.StatusConflict, Problem{Error: stale.Error(), State: out})
}
