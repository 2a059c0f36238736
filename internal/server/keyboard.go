package server

import (
	"net/http"

	"github.com/gin-gonic/gin"
)

// The keyboard on screen: its notes in MIDI pitches, and the octave that the places of its
// rungs count from.
const (
	lowestKey      = 0
	highestKey     = 127
	keyboardOctave = 4
)

// keyboard lists every semitone with its name in the clip's key, low to high.
func (s *server) keyboard(c *gin.Context) {
	p, clip, err := s.clipOf(c)
	if err != nil {
		refuse(c, err)
		return
	}
	reply(c, http.StatusOK, p.KeyOf(clip).Ladder(keyboardOctave, lowestKey, highestKey, true))
}
