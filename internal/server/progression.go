package server

import (
	"net/http"

	"github.com/gin-gonic/gin"

	"agrimony/internal/core/chord"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
)

// maxProgression bounds a written progression, in bytes; what reads it bounds its words.
const maxProgression = 8000

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

// readProgression reads a progression in the clip's key word by word: ?text=i+VI+F%23m7.
func (s *server) readProgression(c *gin.Context) {
	p, clip, err := s.clipOf(c)
	if err != nil {
		refuse(c, err)
		return
	}
	text := c.Query("text")
	if len(text) > maxProgression {
		refuse(c, bad("text: %d bytes; allowed: at most %d", len(text), maxProgression))
		return
	}
	key := p.KeyOf(clip)
	words, err := chord.Words(text, key)
	if err != nil {
		refuse(c, bad("text: %v", err))
		return
	}
	out := make([]ProgressionWord, len(words))
	for i, w := range words {
		out[i] = ProgressionWord{Text: w.Text, Problem: w.Problem, Near: w.Near}
		if w.Problem == "" {
			out[i].Symbol, out[i].Numeral = pitch.Pretty(w.Chord.String()), chord.Pretty(w.Chord.Numeral(key))
		}
	}
	reply(c, http.StatusOK, out)
}
