package server

import (
	"encoding/json"
	"errors"
	"io"
	"net/http"
	"slices"

	"github.com/gin-gonic/gin"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/edit"
	"agrimony/internal/core/files"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
	"agrimony/internal/core/review"
	"agrimony/internal/core/starter"
	"agrimony/internal/store"
	"agrimony/internal/view"
)

// starters lists all starters: the built-in ones, and one's own.
func (s *server) starters() (built, own []*piece.Starter, err error) {
	own, err = s.store.Starters()
	return starter.BuiltIn(), own, err
}

// starterNamed finds one by its name; nil where there is none.
func (s *server) starterNamed(name string) (found *piece.Starter, own bool, err error) {
	if built := starter.Named(name); built != nil {
		return built, false, nil
	}
	all, err := s.store.Starters()
	if err != nil {
		return nil, false, err
	}
	if i := slices.IndexFunc(all, func(s *piece.Starter) bool { return s.Name == name }); i >= 0 {
		return all[i], true, nil
	}
	return nil, false, nil
}

// previewBars is how long starters are drawn and tried, at most.
const previewBars = 4

// offerStarters draws the starters of a kind in the key of a clip, over its chords: ?kind=line.
func (s *server) offerStarters(c *gin.Context) {
	p, clip, err := s.clipOf(c)
	if err != nil {
		refuse(c, err)
		return
	}
	built, own, err := s.starters()
	if err != nil {
		refuse(c, err)
		return
	}
	out := []StarterOffer{}
	for i, each := range slices.Concat(own, built) { // one's own first
		if kind := c.Query("kind"); kind != "" && each.Lane.Kind != kind {
			continue
		}
		offer, err := offered(p, clip, each)
		if err != nil {
			refuse(c, err)
			return
		}
		offer.Own = i < len(own)
		out = append(out, *offer)
	}
	reply(c, http.StatusOK, out)
}

// offered draws a starter as it would sound in a clip. One that needs lanes which are not
// there is offered without notes.
func offered(p *piece.Piece, clip *piece.Clip, each *piece.Starter) (*StarterOffer, error) {
	out := &StarterOffer{About: starter.About(each.Name), Name: each.Name, Kind: each.Lane.Kind, Document: piece.WriteStarter(each), Notes: []view.Note{}}
	bare := files.Alone(p, clip)
	if own, err := bare.Clip(clip.ID); err == nil && len(own.Lanes) == piece.MaxLanes {
		own.Lanes = own.Lanes[:piece.MaxLanes-1]
	}
	next, err := edit.Apply(bare, []op.Op{op.Of(op.StartLane{Clip: clip.ID, Starter: out.Document})})
	var fault *piece.Fault
	if errors.As(err, &fault) {
		return out, nil
	}
	if err != nil {
		return nil, err
	}
	there, err := next.Clip(clip.ID)
	if err != nil {
		return nil, err
	}
	own := there.Lanes[len(there.Lanes)-1]
	performance, err := lane.Render(next, there, render.Options{Bars: previewBars, Lanes: []string{own.ID}, PPQ: view.PPQ})
	if err != nil {
		return nil, err
	}
	out.Ticks = performance.Length.Export(view.PPQ)
	out.Lane = own
	part := &performance.Lanes[0]
	for i := range part.Notes {
		note := &part.Notes[i]
		at, length := performance.Span(note, view.PPQ)
		out.Notes = append(out.Notes, view.Note{At: at, Length: length, Pitch: int(note.Pitch), Velocity: int(note.Velocity), Step: int(note.Step) - 1})
	}
	if len(out.Notes) == 0 {
		for _, f := range review.Clip(performance) {
			if f.Silent && f.Lane == own.ID {
				out.Silent = f.Message
				break
			}
		}
	}
	return out, nil
}

// laneStarter tells how a lane stands to the starter that it was begun from, and gives the
// lane as one: ?lane=low&name=Slow+tide, or with &copy=yes as a copy that knows its starter.
func (s *server) laneStarter(c *gin.Context) {
	p, clip, err := s.clipOf(c)
	if err != nil {
		refuse(c, err)
		return
	}
	i := slices.IndexFunc(clip.Lanes, func(l piece.Lane) bool { return l.ID == c.Query("lane") })
	if i < 0 {
		refuse(c, bad("lane: no lane %q in clip %q", c.Query("lane"), clip.ID))
		return
	}
	own := &clip.Lanes[i]
	key := p.Key
	if clip.Key != nil {
		key = *clip.Key
	}
	kept := piece.StarterOf(c.DefaultQuery("name", own.Name), key, own)
	if c.Query("copy") == "yes" {
		kept.Lane.Starter = own.Starter
	}
	out := LaneStarter{Name: own.Starter, Document: piece.WriteStarter(kept)}
	if own.Starter != "" {
		found, mine, err := s.starterNamed(own.Starter)
		if err != nil {
			refuse(c, err)
			return
		}
		if found != nil {
			out.Known, out.Own = true, mine
			out.Differs = found.Lane.Kind != own.Kind || !edit.AsStarter(found, own, p.KeyOf(clip))
			out.Was = piece.WriteStarter(found)
		}
	}
	reply(c, http.StatusOK, out)
}

// fits tells what a lane from elsewhere needs in a clip.
func (s *server) fits(c *gin.Context) {
	p, clip, err := s.clipOf(c)
	if err != nil {
		refuse(c, err)
		return
	}
	given, err := readStarter(c)
	if err != nil {
		refuse(c, err)
		return
	}
	out := Fit{Name: given.Name, Kind: given.Lane.Kind, Needs: []FitNeed{}}
	if leaning, ok := given.Lane.Content.(piece.Leaning); ok {
		for _, need := range leaning.Needs() {
			there := slices.ContainsFunc(clip.Lanes, func(l piece.Lane) bool { return l.ID == need.Lane && !l.Silent() })
			out.Needs = append(out.Needs, FitNeed{Field: need.Field, Lane: need.Lane, There: there})
		}
	}
	out.Chords = render.Listens(&given.Lane) && lane.Harmony(p, clip, beat.Time(1), nil) == nil
	reply(c, http.StatusOK, out)
}

func readStarter(c *gin.Context) (*piece.Starter, error) {
	data, err := io.ReadAll(c.Request.Body)
	if err != nil {
		return nil, err
	}
	return piece.ReadStarter(data)
}

// saveStarter keeps a starter of one's own; with ?over=yes in place of that of its name.
func (s *server) saveStarter(c *gin.Context) {
	given, err := readStarter(c)
	if err != nil {
		refuse(c, err)
		return
	}
	if starter.Named(given.Name) != nil {
		fail(c, http.StatusUnprocessableEntity, "name", "\""+given.Name+"\" is a built-in starter; allowed: another name")
		return
	}
	if err := s.store.SaveStarter(given, c.Query("over") == "yes"); err != nil {
		noPlace(c, err)
		return
	}
	reply(c, http.StatusOK, json.RawMessage(piece.WriteStarter(given)))
}

// noPlace answers why a starter is not kept.
func noPlace(c *gin.Context, err error) {
	var taken *store.TakenError
	switch {
	case errors.As(err, &taken):
		fail(c, http.StatusUnprocessableEntity, "name", err.Error())
	case errors.Is(err, store.ErrFull):
		fail(c, http.StatusUnprocessableEntity, "", err.Error())
	default:
		refuse(c, err)
	}
}

// removeStarter takes one of one's own away: ?name=.
func (s *server) removeStarter(c *gin.Context) {
	err := s.store.DeleteStarter(c.Query("name"), newID())
	if errors.Is(err, store.ErrNoStarter) {
		fail(c, http.StatusNotFound, "name", err.Error())
		return
	}
	if err != nil {
		refuse(c, err)
		return
	}
	c.Status(http.StatusNoContent)
}

// deletedStarters lists the starters that can be brought back.
func (s *server) deletedStarters(c *gin.Context) {
	list, err := s.store.DeletedStarters()
	if err != nil {
		refuse(c, err)
		return
	}
	reply(c, http.StatusOK, list)
}

// restoreStarter brings a deleted starter back.
func (s *server) restoreStarter(c *gin.Context) {
	if err := s.store.RestoreStarter(c.Param("id")); err != nil {
		noPlace(c, err)
		return
	}
	c.Status(http.StatusNoContent)
}
