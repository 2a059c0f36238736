package server_test

import (
	"io"
	"net/http"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/op"
	"agrimony/internal/core/smf"
	"agrimony/internal/server"
	"agrimony/internal/view"
)

func TestTheOrderIsShownPlayedAndRendered(t *testing.T) {
	c := start(t)
	var shown view.Order
	c.call("GET", piecePath+"/order", nil, &shown)
	require.Len(t, shown.Entries, 29)
	assert.Equal(t, int64(211200), shown.Ticks)
	assert.Equal(t, [12]int{3, 4, -3, -2, -1, -1, 0, 0, 1, 2, 2, 3}, shown.Clips[0].Shifts, "F sharp dorian, from C: seven semitones up is C sharp")

	play := func(from, to int, begin bool) []server.PlayedLane {
		var out server.PlayedStretch
		ask := server.PlayRequest{Played: []op.Played{{Clip: "quay", At: 0, For: 15360}, {Clip: "quay", At: 15360, For: 15360, Shift: 1, GoesOn: true}}, From: from, To: to, Begin: begin}
		response := c.call("POST", piecePath+"/order/play", ask, &out)
		require.Equal(t, http.StatusOK, response.StatusCode)
		return out.Lanes
	}
	count := func(lanes []server.PlayedLane, at int64) (n int) {
		for _, l := range lanes {
			for _, note := range l.Notes {
				if note.At == at {
					n++
				}
			}
		}
		return n
	}
	first := play(0, 3840, false)
	assert.NotZero(t, count(first, 0))
	assert.Zero(t, count(play(960, 3840, false), 960), "what sounds already was struck before")
	assert.Equal(t, 4, count(play(1200, 3840, true), 1200), "unless playing begins here")
	for body, words := range map[string]string{
		`{"played":[{"clip":"nowhere","at":0,"for":10}],"from":0,"to":960}`:                                  `no clip "nowhere"`,
		`{"played":[],"from":0,"to":960,"zones":[{"range":48,"members":[]}]}`:                                "zones: a range of 48 semitones and 0 members",
		`{"played":[],"from":960,"to":960}`:                                                                  "is no stretch",
		`{"played":[{"clip":"quay","at":0,"for":960},{"clip":"quay","at":480,"for":960}],"from":0,"to":960}`: "Overlaps",
	} {
		var problem server.Problem
		response := c.call("POST", piecePath+"/order/play", body, &problem)
		assert.Equal(t, http.StatusBadRequest, response.StatusCode, body)
		assert.Contains(t, problem.Error, words)
	}

	var seats server.OrderSeats
	response := c.call("POST", piecePath+"/order/seats", server.SeatsRequest{Played: []op.Played{{Clip: "slipway", At: 0, For: 15360}}}, &seats)
	require.Equal(t, http.StatusOK, response.StatusCode)
	require.Len(t, seats.Zones, 1)
	assert.Equal(t, []any{false, 48, view.Control{Controller: 101, Channel: 1}}, []any{seats.Zones[0].Upper, seats.Zones[0].Range, seats.Setup[0]})
	assert.Contains(t, seats.Lanes, server.OrderSeat{Clip: "slipway", Lane: "haze", Channel: 1}, "its master")
	kept := server.OrderSeat{Clip: "slipway", Lane: "lanterns", Channel: 9}
	var performed server.OrderSeats
	c.call("POST", piecePath+"/order/seats", server.SeatsRequest{Played: []op.Played{{Clip: "slipway", At: 0, For: 15360}}, Kept: []server.OrderSeat{kept, {Clip: "gone", Lane: "gone", Channel: 3}, {Clip: "slipway", Lane: "ripples", Channel: 99}}}, &performed)
	assert.Contains(t, performed.Lanes, kept, "who performs stays where it is")
	assert.NotContains(t, seats.Lanes, kept)
	var clip server.FileSummary
	c.call("GET", piecePath+"/clips/slipway/summary", nil, &clip)
	require.NotEmpty(t, clip.Tracks)
	assert.Equal(t, []int{1, 9}, []int{clip.Tracks[0].Channel, clip.Tracks[0].Last}, "a zone of eight")
	assert.Equal(t, clip.Tracks[1].Channel, clip.Tracks[1].Last)
	var stretch server.PlayedStretch
	c.call("POST", piecePath+"/order/play", server.PlayRequest{Played: []op.Played{{Clip: "slipway", At: 0, For: 15360}}, From: 0, To: 3840, Zones: seats.Zones}, &stretch)
	haze := stretch.Lanes[slices.IndexFunc(stretch.Lanes, func(l server.PlayedLane) bool { return l.Lane == "haze" })]
	require.NotEmpty(t, haze.Notes)
	for i, note := range haze.Notes {
		assert.Equal(t, 2+i%len(seats.Zones[0].Members), note.Channel, "each has a member in turn")
		assert.Equal(t, int64(0), note.Wheel[0], "whose wheel is set with its note")
	}
	assert.NotEqual(t, seats.Zones, stretch.Zones, "who sounds when the bar ends")

	var summary server.FileSummary
	c.call("GET", piecePath+"/order/summary", nil, &summary)
	assert.Equal(t, []any{"55", "Lantern-Regatta.mid", "F♯ dorian"}, []any{summary.Bars, summary.Name, summary.Key})
	assert.True(t, slices.ContainsFunc(summary.Tracks, func(track server.FileTrack) bool { return track.Name == "Moorings · Anchor" }))
	response, err := http.Get(c.url + piecePath + "/order/midi?from=0&to=30720&plain=yes")
	require.NoError(t, err)
	defer response.Body.Close()
	data, err := io.ReadAll(response.Body)
	require.NoError(t, err)
	file, err := smf.Decode(data, nil)
	require.NoError(t, err)
	assert.Len(t, file.Tracks, 4, "a conductor, and the three lanes that sound in the first eight bars")
	assert.Equal(t, http.StatusBadRequest, c.call("GET", piecePath+"/order/midi?from=9999999", nil, nil).StatusCode)
}

// What is tried is heard in the running order, and the piece stays as it is.
func TestTheOrderIsHeardWithWhatIsTried(t *testing.T) {
	c := start(t)
	ask := server.PlayRequest{Played: []op.Played{{Clip: "keel", At: 0, For: 7680}}, From: 0, To: 3840}
	play := func() (out server.PlayedStretch) {
		require.Equal(t, http.StatusOK, c.call("POST", piecePath+"/order/play", ask, &out).StatusCode)
		return out
	}
	was := play()
	ask.Draft = []op.Op{op.Of(op.TransposeSteps{OnSteps: op.OnSteps{Clip: "keel", Lane: "low", Steps: []int{1}}, Unit: "octave", By: 1})}
	tried := play()
	low := func(s server.PlayedStretch) server.PlayedLane {
		return s.Lanes[slices.IndexFunc(s.Lanes, func(l server.PlayedLane) bool { return l.Lane == "low" })]
	}
	assert.Equal(t, low(was).Notes[0].Pitch+12, low(tried).Notes[0].Pitch)
	ask.Draft = nil
	assert.Equal(t, was, play())
	ask.Draft = []op.Op{op.Of(op.RemoveLane{OnLane: op.OnLane{Clip: "keel", Lane: "none"}})}
	assert.Equal(t, http.StatusUnprocessableEntity, c.call("POST", piecePath+"/order/play", ask, nil).StatusCode)
}
