package server_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"agrimony/internal/server"
)

func TestAGrooveOfAFile(t *testing.T) {
	c := start(t)
	const head, end = "MThd\x00\x00\x00\x06\x00\x00\x00\x01\x00\x60", "\x00\xff\x2f\x00"
	var taken server.TakenGroove
	file := head + "MTrk\x00\x00\x00\x0c\x06\x90\x3c\x40\x60\x80\x3c\x40" + end
	assert.Equal(t, 200, c.call("POST", "/api/groove?name=Old+hands", file, &taken).StatusCode)
	assert.Equal(t, []any{"Old hands", 25, 16, 50}, []any{taken.Template.Name, taken.Template.Steps[0].At, len(taken.Template.Steps), taken.Swing}, "6 ticks of 24 late")

	var problem server.Problem
	for body, says := range map[string]string{
		head + "MTrk\x00\x00\x00\x04" + end: "the MIDI file sounds no note; allowed: one that does",
		"MThd":                              "byte 4: the file ends within the header",
	} {
		assert.Equal(t, 400, c.call("POST", "/api/groove", body, &problem).StatusCode)
		assert.Contains(t, problem.Error, says)
	}
}
