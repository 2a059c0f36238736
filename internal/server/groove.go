package server

import (
	"net/http"

	"github.com/gin-gonic/gin"

	"agrimony/internal/core/piece"
	"agrimony/internal/core/smf"
)

// groove takes the groove of a MIDI file, which is the body: ?name=Old+hands.
func (s *server) groove(c *gin.Context) {
	data, err := bodyOf(c)
	if err != nil {
		refuse(c, err)
		return
	}
	file, err := smf.DecodeOnsets(data, workOf(c))
	if err != nil {
		refuse(c, bad("%v", err))
		return
	}
	name := []rune(c.Query("name"))
	template, err := smf.Groove(file, string(name[:min(len(name), piece.MaxName)]))
	if err != nil {
		refuse(c, bad("%v", err))
		return
	}
	reply(c, http.StatusOK, TakenGroove{template, 50, 100, 100})
}
