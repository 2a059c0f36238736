package server

import (
	"bytes"
	"net/http"

	"github.com/gin-gonic/gin"

	"agrimony/internal/core/piece"
	"agrimony/internal/core/smf"
)

// groove takes the groove of a MIDI file, which is the body: ?name=Old+hands.
func (s *server) groove(c *gin.Context) {
	leave, err := s.reads.enter(c.Request.Context())
	if err != nil {
		refuse(c, err)
		return
	}
	defer leave()
	var data bytes.Buffer
	data.Grow(int(min(max(c.Request.ContentLength, 0), maxBody)) + bytes.MinRead)
	if _, err := data.ReadFrom(c.Request.Body); err != nil {
		refuse(c, err)
		return
	}
	file, err := smf.DecodeOnsets(data.Bytes())
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
	c.JSON(http.StatusOK, TakenGroove{template, 50, 100, 100})
}
