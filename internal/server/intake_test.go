package server_test

import (
	"encoding/json"
	"io"
	"net/http"
	"net/url"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	gomidi "gitlab.com/gomidi/midi/v2"
	library "gitlab.com/gomidi/midi/v2/smf"

	"agrimony/internal/core/edit"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/smf"
	"agrimony/internal/server"
)

// midiFile is a file with a track of eighths on each of the keys, 480 ticks a quarter.
func midiFile(t testing.TB, keys ...uint8) string {
	file := library.New()
	file.TimeFormat = library.MetricTicks(480)
	var track library.Track
	track.Add(0, library.MetaTrackSequenceName("Quay"))
	for _, key := range keys {
		track.Add(0, gomidi.NoteOn(0, key, 80))
		track.Add(240, gomidi.NoteOff(0, key))
	}
	track.Close(0)
	require.NoError(t, file.Add(track))
	data, err := file.Bytes()
	require.NoError(t, err)
	return string(data)
}

func asked(request server.TakeRequest) string {
	data, _ := json.Marshal(request)
	return "ask=" + url.QueryEscape(string(data))
}

// documentOf is the stored document of the demo.
func (c *client) documentOf() *piece.Piece {
	c.t.Helper()
	var raw json.RawMessage
	c.call("GET", piecePath+"/document", nil, &raw)
	p, err := piece.Read(raw)
	require.NoError(c.t, err)
	return p
}

func TestAFileIsShownFirstAndChangesNothing(t *testing.T) {
	c := start(t)
	var before, after server.State
	c.call("GET", piecePath, nil, &before)
	var report server.FileReport
	c.call("POST", "/api/files/report?"+asked(server.TakeRequest{Tracks: []server.TakeTrack{{Track: 1, As: "line"}}}), midiFile(t, 50, 53, 57, 62), &report)
	require.Len(t, report.Report.Tracks, 1)
	track := report.Report.Tracks[0]
	assert.Equal(t, []any{"Quay", 4, 50, 62, 1, "1/8", "line"}, []any{track.Name, track.Notes, track.Low, track.High, track.Voices, track.Grid.Rate, track.Becomes})
	assert.Len(t, report.Report.Keys, 3)
	assert.Equal(t, []string{"D3", "D4"}, report.Drawn[0].Names[:])
	assert.Len(t, report.Drawn[0].Notes, 4)
	assert.Contains(t, report.Becomings, "chords")
	assert.Empty(t, report.Offers, "what each kind would differ is told where it is asked for")
	c.call("POST", "/api/files/report?"+asked(server.TakeRequest{Each: true}), midiFile(t, 50, 53, 57, 62), &report)
	require.Len(t, report.Offers, 1)
	assert.Equal(t, "auto", report.Offers[0].First, "one voice is not offered as chords")
	for _, offer := range report.Offers[0].Offers {
		assert.Equal(t, []any{"", 4}, []any{offer.Why, offer.Differs.Of}, offer.As)
	}
	c.call("GET", piecePath, nil, &after)
	assert.Equal(t, before.Version, after.Version)
}

func TestAFileComesIntoAPieceAndIsUndone(t *testing.T) {
	for name, c := range map[string]struct {
		ask         server.TakeRequest
		clips, into int // how many clips more, and which clip has the lane
	}{
		"as a clip":              {server.TakeRequest{Name: "quay.mid"}, 1, 19},
		"as lanes of the clip":   {server.TakeRequest{Name: "quay.mid", To: "lanes"}, 0, 0},
		"by what each is to be":  {server.TakeRequest{Name: "quay.mid", Tracks: []server.TakeTrack{{Track: 1, As: "pulses"}}}, 1, 19},
		"its highest notes only": {server.TakeRequest{Name: "quay.mid", Tracks: []server.TakeTrack{{Track: 1, As: "notes", Only: "highest"}}}, 1, 19},
	} {
		t.Run(name, func(t *testing.T) {
			client := start(t)
			before := client.documentOf()
			var state server.State
			response := client.call("POST", piecePath+"/take?version=1&clip=keel&key=k1&"+asked(c.ask), midiFile(t, 50, 53, 57, 62), &state)
			require.Equal(t, http.StatusOK, response.StatusCode)
			next := client.documentOf()
			require.Len(t, next.Clips, len(before.Clips)+c.clips)
			lanes := next.Clips[c.into].Lanes
			assert.True(t, strings.HasPrefix(lanes[len(lanes)-1].Name, "Quay") || c.ask.Tracks != nil && c.ask.Tracks[0].As == "pulses", lanes[len(lanes)-1].Name)
			client.call("POST", piecePath+"/undo", map[string]any{"version": state.Version, "clip": "keel"}, nil)
			assert.Equal(t, string(piece.Write(before)), string(piece.Write(client.documentOf())), "one undo takes it away")
		})
	}
}

// The feel of a file becomes the groove of the piece that it comes into; what came in is played that
// way already and keeps out of it.
func TestTheFeelOfAFileBecomesTheGroove(t *testing.T) {
	late := library.New()
	late.TimeFormat = library.MetricTicks(480)
	var track library.Track
	for range 16 {
		track.Add(30, gomidi.NoteOn(0, 60, 80)) // each sixteenth is a quarter of a step late
		track.Add(60, gomidi.NoteOff(0, 60))
		track.Add(30, library.MetaText("."))
	}
	track.Close(0)
	require.NoError(t, late.Add(track))
	data, err := late.Bytes()
	require.NoError(t, err)
	c := start(t)
	var state server.State
	require.Equal(t, http.StatusOK, c.call("POST", piecePath+"/take?version=1&clip=keel&"+asked(server.TakeRequest{Name: "late.mid", Feel: true, To: "lanes"}), string(data), &state).StatusCode)
	p := c.documentOf()
	require.NotNil(t, p.Groove.Template)
	assert.Equal(t, []any{50, "late", 25.0}, []any{p.Groove.Swing, p.Groove.Template.Name, float64(p.Groove.Template.Steps[3].At)})
	lanes := p.Clips[0].Lanes
	assert.Equal(t, piece.Share{}, lanes[len(lanes)-1].Share)
}

func TestFilesThatCannotComeInChangeNothing(t *testing.T) {
	c := start(t)
	good := midiFile(t, 50, 53)
	for name, row := range map[string]struct {
		body, query, message string
		status               int
	}{
		"no MIDI file":        {"a picture, say", "", "not a Standard MIDI File", http.StatusBadRequest},
		"nothing":             {"", "", "", http.StatusBadRequest},
		"cut off":             {good[:len(good)-9], "", "byte ", http.StatusBadRequest},
		"too large":           {strings.Repeat("x", smf.MaxFile+2), "", "", http.StatusRequestEntityTooLarge},
		"no notes":            {midiFile(t), "", "no note", http.StatusBadRequest},
		"no such track":       {good, asked(server.TakeRequest{Tracks: []server.TakeTrack{{Track: 9, As: "line"}}}), "9", http.StatusBadRequest},
		"no such kind":        {good, asked(server.TakeRequest{Tracks: []server.TakeTrack{{Track: 1, As: "song"}}}), "song", http.StatusBadRequest},
		"what does not fit":   {good, asked(server.TakeRequest{Tracks: []server.TakeTrack{{Track: 1, As: "chords"}}}), "chords", http.StatusBadRequest},
		"no such key":         {good, asked(server.TakeRequest{Key: "H major"}), "key", http.StatusBadRequest},
		"no request":          {good, "ask=nothing", "ask", http.StatusBadRequest},
		"an unknown field":    {good, "ask=" + url.QueryEscape(`{"colour":1}`), "colour", http.StatusBadRequest},
		"nothing of it taken": {good, asked(server.TakeRequest{Tracks: []server.TakeTrack{{Track: 1}}}), "", http.StatusBadRequest},
	} {
		var problem server.Problem
		response := c.call("POST", piecePath+"/take?version=1&clip=keel&"+row.query, row.body, &problem)
		assert.Equal(t, row.status, response.StatusCode, name)
		assert.Contains(t, problem.Error, row.message, name)
		assert.NotEmpty(t, problem.Error, name)
	}
	var state server.State
	c.call("GET", piecePath, nil, &state)
	assert.EqualValues(t, 1, state.Version)
}

// A file that was rendered here brings its clip back, with the clip that its harmony needs; changed
// elsewhere it is offered as it was and as it is.
func TestAFileOfOursComesBackIntoAPiece(t *testing.T) {
	c := start(t)
	before := c.documentOf()
	render := func(clip string) string {
		response, err := http.Get(c.url + piecePath + "/clips/" + clip + "/midi")
		require.NoError(t, err)
		defer response.Body.Close()
		data, err := io.ReadAll(response.Body)
		require.NoError(t, err)
		require.Equal(t, http.StatusOK, response.StatusCode)
		return string(data)
	}
	for _, clip := range before.Clips {
		file := render(clip.ID)
		var report server.FileReport
		require.Equal(t, http.StatusOK, c.call("POST", "/api/files/report", file, &report).StatusCode, clip.ID)
		assert.True(t, report.Report.Own, clip.ID)
		assert.Zero(t, report.Report.Changed, clip.ID)
		var made shown
		require.Equal(t, http.StatusCreated, c.call("POST", "/api/files/piece", file, &made).StatusCode, clip.ID)
		var raw json.RawMessage
		c.call("GET", "/api/pieces/"+made.ID+"/document", nil, &raw)
		own, err := piece.Read(raw)
		require.NoError(t, err)
		at := slices.IndexFunc(own.Clips, func(o piece.Clip) bool { return o.ID == clip.ID })
		require.GreaterOrEqual(t, at, 0, clip.ID)
		clip.Of = "" // what it is a variant of stays behind; its luck comes with it
		assert.Equal(t, clip, own.Clips[at], clip.ID)
	}
	assert.Equal(t, string(piece.Write(before)), string(piece.Write(c.documentOf())))
	_, err := edit.Apply(before, []op.Op{op.Of(op.AddClip{Name: "Still edited"})})
	assert.NoError(t, err)
}
