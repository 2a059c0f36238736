package server

import (
	"net/http"
	"strconv"

	"github.com/gin-gonic/gin"

	"agrimony/internal/core/chord"
	"agrimony/internal/core/lane/chords"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
)

// maxLine bounds a written progression, in bytes; what reads it bounds its words.
const maxLine = 8000

// clipOf finds the clip of a request.
func (s *server) clipOf(c *gin.Context) (*piece.Piece, *piece.Clip, error) {
	from, err := s.store.Load(c.Param("id"))
	if err != nil {
		return nil, nil, err
	}
	clip, err := from.Piece.Clip(c.Param("clip"))
	if err != nil {
		return nil, nil, bad("%v", err)
	}
	return from.Piece, clip, nil
}

// readLine reads a progression in the clip's key word by word: ?text=i+VI+F%23m7.
func (s *server) readLine(c *gin.Context) {
	p, clip, err := s.clipOf(c)
	if err != nil {
		refuse(c, err)
		return
	}
	text := c.Query("text")
	if len(text) > maxLine {
		refuse(c, bad("text: %d bytes; allowed: at most %d", len(text), maxLine))
		return
	}
	key := p.KeyOf(clip)
	words, err := chord.Words(text, key)
	if err != nil {
		refuse(c, bad("text: %v", err))
		return
	}
	out := make([]LineWord, len(words))
	for i, w := range words {
		out[i] = LineWord{Text: w.Text, Problem: w.Problem, Near: w.Near}
		if w.Problem == "" {
			out[i].Symbol, out[i].Numeral = pitch.Pretty(w.Chord.String()), chord.Pretty(w.Chord.Numeral(key))
		}
	}
	c.JSON(http.StatusOK, out)
}

// board lays out the chords for a step of a chords lane: ?lane=tide&step=1.
func (s *server) board(c *gin.Context) {
	p, clip, err := s.clipOf(c)
	if err != nil {
		refuse(c, err)
		return
	}
	step, err := strconv.Atoi(c.Query("step"))
	for i := range clip.Lanes {
		own := &clip.Lanes[i]
		content, ok := own.Content.(*piece.Chords)
		if own.ID != c.Query("lane") {
			continue
		}
		if !ok {
			refuse(c, bad("lane: %q is a %s lane; allowed: a chords lane", own.ID, own.Kind))
			return
		}
		if err != nil || step < 1 || step > len(content.Steps) {
			refuse(c, bad("step: %q is not in the lane; allowed: 1..%d", c.Query("step"), len(content.Steps)))
			return
		}
		c.JSON(http.StatusOK, chords.BoardOf(p, clip, own, step-1))
		return
	}
	refuse(c, bad("lane: no lane %q in clip %q", c.Query("lane"), clip.ID))
}
