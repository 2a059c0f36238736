package server_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/server"
)

// starterOf writes a starter's document.
func starterOf(name, lane string) string {
	return `{"format":"agrimony-starter","version":1,"name":"` + name + `","lane":` + lane + `}`
}

func TestStartersOfOnesOwn(t *testing.T) {
	c := start(t)
	var problem server.Problem
	post := func(body, query string) int {
		problem = server.Problem{}
		return c.call("POST", "/api/starters"+query, body, &problem).StatusCode
	}
	assert.Equal(t, 200, post(starterOf("Mine", `{"steps":[{"on":true}]}`), ""))
	assert.Equal(t, 422, post(starterOf("Mine", `{}`), ""))
	assert.Equal(t, `there is a starter "Mine" already`, problem.Error)
	assert.Equal(t, 200, post(starterOf("Mine", `{"steps":[{"on":true},{"on":true,"degree":5}]}`), "?over=yes"))
	assert.Equal(t, 422, post(starterOf("Slow tide", `{}`), "?over=yes"))
	assert.Equal(t, `"Slow tide" is a built-in starter; allowed: another name`, problem.Error)
	assert.Equal(t, 422, post(strings.Replace(starterOf("New", `{}`), `"version":1`, `"version":2`, 1), ""))
	assert.Equal(t, "version: 2 is above 1; allowed: 1..1", problem.Error)
	assert.Equal(t, 422, post(starterOf("New", `{"steps":[{"gate":0}]}`), ""))
	assert.Equal(t, []string{"lane.steps[0].gate", "lane.steps[0].gate: 0 is below 1; allowed: 1..400"}, []string{problem.Path, problem.Error})

	for _, clip := range []string{"towpath-back", "osier"} { // a variant; one in a key of its own
		var there []server.StarterOffer
		c.call("GET", piecePath+"/clips/"+clip+"/starters?kind=line", nil, &there)
		assert.NotEmpty(t, there[0].Notes, clip)
	}
	// They are offered as they would sound in a clip: in F sharp dorian.
	var offers []server.StarterOffer
	c.call("GET", piecePath+"/clips/keel/starters?kind=line", nil, &offers)
	first := offers[0]
	assert.Equal(t, []any{"Mine", true, "Slow tide", false}, []any{first.Name, first.Own, offers[1].Name, offers[1].Own}, "one's own first")
	assert.Equal(t, []int{54, 61}, []int{first.Notes[0].Pitch, first.Notes[1].Pitch}, "F sharp and its fifth")

	assert.Equal(t, 404, c.call("DELETE", "/api/starters?name=Slow+tide", nil, &problem).StatusCode, "built-in ones stay")
	assert.Equal(t, 204, c.call("DELETE", "/api/starters?name=Mine", nil, nil).StatusCode)
	assert.Equal(t, 404, c.call("DELETE", "/api/starters?name=Mine", nil, &problem).StatusCode)
}

func TestWhatALaneFromElsewhereNeeds(t *testing.T) {
	c := start(t)
	var fit server.Fit
	require.Equal(t, 200, c.call("POST", piecePath+"/clips/keel/fits", starterOf("x", `{"kind":"phrase","rhythm":{"lane":"rim"},"steps":[{"on":true}]}`), &fit).StatusCode)
	assert.Equal(t, []server.FitNeed{{Field: "rhythm.lane", Lane: "rim"}}, fit.Needs)
	assert.True(t, fit.Chords, "it walks chords, and Keel has none")
	c.call("POST", piecePath+"/clips/basin/fits", starterOf("x", `{"kind":"layer","of":"ground"}`), &fit)
	assert.Equal(t, []server.FitNeed{{Field: "of", Lane: "ground", There: true}}, fit.Needs)
	assert.False(t, fit.Chords)

	var lane server.LaneStarter
	c.call("GET", piecePath+"/clips/keel/starter?lane=low&name=As+Low", nil, &lane)
	assert.Contains(t, string(lane.Document), `"name":"As Low"`)
	assert.NotContains(t, string(lane.Document), `"id"`, "what is the lane's own stays with it")
	var problem server.Problem
	assert.Equal(t, 400, c.call("GET", piecePath+"/clips/keel/starter?lane=none", nil, &problem).StatusCode)
	assert.Equal(t, `lane: no lane "none" in clip "keel"`, problem.Error)
}

// What cannot sound in a clip is offered with the reason, and built-in ones with what they are for.
func TestStartersSayWhyTheyAreSilentAndWhatTheyAreFor(t *testing.T) {
	c := start(t)
	var offers []server.StarterOffer
	c.call("GET", piecePath+"/clips/keel/starters?kind=phrase", nil, &offers)
	require.NotEmpty(t, offers)
	for _, o := range offers {
		assert.NotEmpty(t, o.About, o.Name)
		assert.Equal(t, len(o.Notes) == 0 && o.Lane != nil, o.Silent != "", o.Name)
	}
	assert.Contains(t, offers[0].Silent, "there is no chord in the clip that it could walk")
	c.call("GET", piecePath+"/clips/basin/starters?kind=phrase", nil, &offers)
	for _, o := range offers {
		assert.Empty(t, o.Silent, o.Name)
	}
}
