package server

import (
	"net/http"
	"strconv"

	"github.com/gin-gonic/gin"

	"agrimony/internal/core/lane"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// boarded is a kind of lane with a board to choose from for a step.
type boarded interface {
	Board(p *piece.Piece, clip *piece.Clip, lane *piece.Lane, step int) any
}

// ordered is a kind of lane that goes through tones in one of many orders.
type ordered interface {
	Orders(lane *piece.Lane, key pitch.Key, chord *render.Chord, octave int) any
}

// laneOf finds the lane of a request: ?lane=tide.
func (s *server) laneOf(c *gin.Context) (*piece.Piece, *piece.Clip, *piece.Lane, error) {
	p, clip, err := s.clipOf(c)
	if err != nil {
		return nil, nil, nil, err
	}
	for i := range clip.Lanes {
		if own := &clip.Lanes[i]; own.ID == c.Query("lane") {
			return p, clip, own, nil
		}
	}
	return nil, nil, nil, bad("lane: no lane %q in clip %q", c.Query("lane"), clip.ID)
}

// board lays out the chords for a step of a chords lane: ?lane=tide&step=1.
func (s *server) board(c *gin.Context) {
	p, clip, own, err := s.laneOf(c)
	if err != nil {
		refuse(c, err)
		return
	}
	kind, ok := lane.Of(own).(boarded)
	if !ok {
		refuse(c, bad("lane: %q is a %s lane; allowed: a chords lane", own.ID, own.Kind))
		return
	}
	step, err := strconv.Atoi(c.Query("step"))
	if count := own.Content.StepList().Len(); err != nil || step < 1 || step > count {
		refuse(c, bad("step: %q is not in the lane; allowed: 1..%d", c.Query("step"), count))
		return
	}
	reply(c, http.StatusOK, kind.Board(p, clip, own, step-1))
}

// orders draws all orders over the tones that a phrase lane walks first: ?lane=lamps.
func (s *server) orders(c *gin.Context) {
	p, clip, own, err := s.laneOf(c)
	if err != nil {
		refuse(c, err)
		return
	}
	kind, ok := lane.Of(own).(ordered)
	if !ok {
		refuse(c, bad("lane: %q is a %s lane; allowed: a phrase lane", own.ID, own.Kind))
		return
	}
	harmony := lane.Harmony(p, clip, p.Bar(), nil)
	reply(c, http.StatusOK, kind.Orders(own, p.KeyOf(clip), harmony.At(0), harmony.Octave()))
}
