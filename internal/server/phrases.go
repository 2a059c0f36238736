package server

import (
	"net/http"

	"github.com/gin-gonic/gin"

	"agrimony/internal/core/lane"
	"agrimony/internal/core/lane/phrase"
	"agrimony/internal/core/piece"
)

// shapes draws all orders over the tones that a phrase lane walks first: ?lane=lamps.
func (s *server) shapes(c *gin.Context) {
	p, clip, err := s.clipOf(c)
	if err != nil {
		refuse(c, err)
		return
	}
	for i := range clip.Lanes {
		own := &clip.Lanes[i]
		if own.ID != c.Query("lane") {
			continue
		}
		if _, ok := own.Content.(*piece.Phrase); !ok {
			refuse(c, bad("lane: %q is a %s lane; allowed: a phrase lane", own.ID, own.Kind))
			return
		}
		harmony, octave := lane.Harmony(p, clip, p.Bar(), nil), 0
		if harmony != nil {
			octave = harmony.Lane.Content.(*piece.Chords).Octave
		}
		c.JSON(http.StatusOK, phrase.Shapes(own, p.KeyOf(clip), harmony.At(0), octave))
		return
	}
	refuse(c, bad("lane: no lane %q in clip %q", c.Query("lane"), clip.ID))
}
