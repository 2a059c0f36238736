package server_test

import (
	"encoding/json"
	"fmt"
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/server"
)

func TestSketchesAreProposedAndTaken(t *testing.T) {
	c := start(t)
	request := json.RawMessage(`{"seed":3,"count":4,"temper":"walking"}`)
	var made []server.Proposal
	require.Equal(t, http.StatusOK, c.call("POST", piecePath+"/clips/keel/proposals", server.ProposeRequest{Lane: "low", Sketch: request}, &made).StatusCode)
	require.Len(t, made, 4)
	for _, m := range made {
		assert.Len(t, m.Steps, 32)
		assert.NotEmpty(t, m.Sound.Notes)
		assert.Positive(t, m.Differs)
		assert.EqualValues(t, 7680, m.Ticks)
	}
	var state server.State
	c.call("GET", piecePath, nil, &state)
	assert.EqualValues(t, 1, state.Version, "nothing is changed by looking")

	take := op.Of(op.TakeSketch{OnLane: op.OnLane{Clip: "keel", Lane: "low"}, Request: request, Seed: made[2].Seed})
	require.Equal(t, http.StatusOK, c.call("POST", piecePath+"/edits", server.EditRequest{Version: 1, Clip: "keel", Ops: []op.Op{take}}, &state).StatusCode)
	assert.Equal(t, made[2].Steps, piece.LineOf(&c.documentOf().Clips[0].Lanes[0]).Steps)
	c.call("POST", piecePath+"/undo", map[string]any{"version": state.Version, "clip": "keel"}, nil)
	var same []server.Proposal
	c.call("POST", piecePath+"/clips/keel/proposals", server.ProposeRequest{Lane: "low", Sketch: request}, &same)
	assert.Equal(t, made, same, "one undo brings the old steps back")

	// Variations of a sketch that is not taken yet.
	var varied []server.Proposal
	vary := json.RawMessage(`{"seed":1,"count":2,"share":25,"respect":"pitches"}`)
	require.Equal(t, http.StatusOK, c.call("POST", piecePath+"/clips/keel/proposals", server.ProposeRequest{Lane: "low", Vary: vary, On: []op.Op{take}}, &varied).StatusCode)
	require.Len(t, varied, 2)
	apart := 0
	for i, step := range varied[0].Steps {
		if step.Place() != made[2].Steps[i].Place() {
			apart++
		}
	}
	assert.Equal(t, varied[0].Differs, apart)

	for name, row := range map[string]struct {
		ask     string
		message string
	}{
		"no lane":     {`{"lane":"zz","sketch":{}}`, `no lane "zz"`},
		"a dial":      {`{"lane":"low","sketch":{"dials":{"full":200}}}`, "dials.full: 200..200 is out of range; allowed: 0..100"},
		"a temper":    {`{"lane":"low","sketch":{"temper":"gloomy"}}`, "allowed: steady"},
		"no sketch":   {`{"lane":"low"}`, ""},
		"a bad share": {`{"lane":"low","vary":{"share":101}}`, "share: 101 is out of range; allowed: 0..100"},
	} {
		var problem server.Problem
		response := c.call("POST", piecePath+"/clips/keel/proposals", row.ask, &problem)
		assert.Equal(t, http.StatusBadRequest, response.StatusCode, name)
		assert.Contains(t, problem.Error, row.message, name)
	}
}

func TestTempersAreDrawnAndKept(t *testing.T) {
	c := start(t)
	path := piecePath + "/clips/keel/tempers?lane=low"
	var offered server.Sketching
	c.call("GET", path, nil, &offered)
	require.GreaterOrEqual(t, len(offered.Tempers), 10)
	for _, temper := range offered.Tempers {
		assert.NotEmpty(t, temper.Notes, temper.Name)
		assert.NotEmpty(t, temper.About, temper.Name)
		assert.False(t, temper.Own)
	}
	assert.Equal(t, http.StatusNoContent, c.call("POST", "/api/tempers", `{"name":"mine","dials":{"full":[20,30],"contour":"rise"}}`, nil).StatusCode)
	assert.Equal(t, http.StatusNoContent, c.call("POST", "/api/tempers", `{"name":"mine","dials":{"full":[30,40]}}`, nil).StatusCode, "in place of the one of its name")
	count := len(offered.Tempers)
	c.call("GET", path, nil, &offered)
	require.Len(t, offered.Tempers, count+1)
	assert.Equal(t, []any{"mine", true}, []any{offered.Tempers[count].Name, offered.Tempers[count].Own})
	for body, message := range map[string]string{
		`{"name":"steady","dials":{}}`:           "is a built-in temper",
		`{"name":"","dials":{}}`:                 "0 characters; allowed: 1..",
		`{"name":"x","dials":{"full":101}}`:      "dials.full",
		`{"name":"x","dials":{"colour":"blue"}}`: "unknown field",
	} {
		var problem server.Problem
		c.call("POST", "/api/tempers", body, &problem)
		assert.Contains(t, problem.Error, message, body)
	}
	assert.Equal(t, http.StatusNoContent, c.call("DELETE", "/api/tempers?name=mine", nil, nil).StatusCode)
	assert.Equal(t, http.StatusNotFound, c.call("DELETE", "/api/tempers?name=mine", nil, nil).StatusCode)
}

func TestVersionsStandBesideTheFirst(t *testing.T) {
	c := start(t)
	for _, open := range []string{"towpath", "towpath-short"} {
		var all []server.Version
		c.call("GET", piecePath+"/clips/"+open+"/versions", nil, &all)
		var said []string
		for _, v := range all {
			for _, w := range v.Words {
				said = append(said, fmt.Sprint(v.Name, ": ", w.Text))
			}
			assert.NotEmpty(t, v.Lanes)
		}
		assert.Equal(t, []string{"Towpath back: Stride: plays backwards", "Towpath short: Stride: plays 14 steps from step 1 instead of all steps"}, said)
		assert.Empty(t, all[0].Notes)
		assert.NotEmpty(t, all[1].Notes)
	}
	var all []server.Version
	c.call("GET", piecePath+"/clips/towpath/versions?with=towpath-back", nil, &all)
	assert.Equal(t, "Stride: plays forwards", all[0].Words[0].Text)
	assert.Empty(t, all[1].Words)
	assert.Empty(t, all[1].Notes)
	assert.Equal(t, http.StatusBadRequest, c.call("GET", piecePath+"/clips/towpath/versions?with=keel", nil, nil).StatusCode, "it is in no stack with it")
}
