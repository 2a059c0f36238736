package server_test

import (
	"net/http"
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/lane/chords"
	"agrimony/internal/core/op"
	"agrimony/internal/server"
)

func TestAChordLineIsReadWordByWord(t *testing.T) {
	c := start(t)
	var words []server.ProgressionWord
	c.call("GET", piecePath+"/clips/basin/progression?text="+url.QueryEscape("i7 Hm7 F#m7b5/A"), nil, &words)
	require.Len(t, words, 3)
	assert.Equal(t, server.ProgressionWord{Text: "i7", Symbol: "F♯m7", Numeral: "i7"}, words[0])
	assert.Contains(t, words[1].Problem, "there is no note H")
	assert.Equal(t, "F♯m7♭5/A", words[2].Symbol)
	for query, message := range map[string]string{
		"/clips/basin/progression?text=":                                              "there is no chord",
		"/clips/none/progression?text=i":                                              `no clip \"none\"`,
		"/clips/basin/progression?text=" + strings.Repeat("I+", 4001):                 "8002 bytes; allowed: at most 8000",
		"/clips/basin/progression?text=" + url.QueryEscape(strings.Repeat("I ", 600)): "more than 512 chords",
		"/clips/basin/board?lane=swell&step=5":                                        `step: \"5\" is not in the lane; allowed: 1..4`,
		"/clips/basin/board?lane=swell&step=x":                                        "allowed: 1..4",
		"/clips/basin/board?lane=ground&step=1":                                       `\"ground\" is a line lane; allowed: a chords lane`,
		"/clips/basin/board?lane=zz&step=1":                                           `no lane \"zz\" in clip \"basin\"`,
	} {
		var problem server.Problem
		response := c.call("GET", piecePath+query, nil, &problem)
		assert.Equal(t, http.StatusBadRequest, response.StatusCode, query[:min(len(query), 60)])
		assert.Contains(t, problem.Error, strings.ReplaceAll(message, `\"`, `"`))
	}
}

func TestTheBoardFitsTheKeyAndTheChordBefore(t *testing.T) {
	c := start(t)
	var board chords.Board
	c.call("GET", piecePath+"/clips/basin/board?lane=swell&step=2", nil, &board)
	require.Len(t, board.Degrees, 7)
	third := board.Degrees[2].Chords[0]
	assert.Equal(t, []any{"triad", "A", "III"}, []any{third.Kind, third.Symbol, third.Numeral})
	assert.Equal(t, []bool{true, true, true}, third.Shared, "all tones of A are in F♯m7, the chord before step 2")
	assert.Equal(t, []bool{false, false, true}, board.Degrees[3].Chords[0].Shared, "B D♯ F♯ shares its F♯")
	var symbols []string
	for _, chord := range board.Degrees[0].Chords {
		symbols = append(symbols, chord.Symbol)
	}
	assert.Equal(t, []string{"F♯m", "F♯m7", "F♯m9", "F♯m11", "F♯m13", "F♯sus2", "F♯sus4", "F♯m6", "F♯madd9"}, symbols)
	ranks := map[int]bool{}
	for _, degree := range board.Degrees {
		ranks[degree.Chords[0].Follows] = true
	}
	assert.Len(t, ranks, 7, "of each kind every degree has a rank")
	assert.Equal(t, 1, board.Degrees[3].Chords[0].Follows, "B follows F♯m7, a fourth up")
	require.Len(t, board.Others, 14, "those of the other clips")
	assert.Equal(t, []string{"narrows", "D", "♭VI"}, []string{board.Others[1].Clip, board.Others[1].Symbol, board.Others[1].Numeral})
	assert.GreaterOrEqual(t, len(board.Bank), 24)
	assert.Equal(t, "Falls by steps", board.Bank[4].Name)
	assert.Equal(t, []string{"i VII viø7 V7", "i VII viø7 V7"}, []string{board.Bank[4].Text, board.Bank[4].Shown})
	pentatonic := op.Of(op.SetKey{Key: []byte(`{"tonic":"B","scale":"minor pentatonic"}`), Keep: "degrees", Clip: "basin"})
	c.call("POST", piecePath+"/edits", server.EditRequest{Version: 1, Clip: "basin", Ops: []op.Op{pentatonic}}, nil)
	c.call("GET", piecePath+"/clips/basin/board?lane=swell&step=1", nil, &board)
	assert.Len(t, board.Degrees, 5)
	assert.Empty(t, board.Bank, "progressions are of seven notes")
}

// A miniature is drawn anew when the chords that it listens to have changed, though
// they stand in another clip.
func TestMiniaturesFollowTheChordsOfAnotherClip(t *testing.T) {
	c := start(t)
	lock := []op.Op{op.Of(op.SetHarmony{OnClip: op.OnClip{Clip: "keel"}, Harmony: []byte(`{"clip":"basin"}`)}),
		op.Of(op.SetLane{OnLane: op.OnLane{Clip: "keel", Lane: "low"}, Patch: []byte(`{"follow":"root","lock":"chord"}`)})}
	require.Equal(t, 200, c.call("POST", piecePath+"/edits", server.EditRequest{Version: 1, Clip: "lock", Ops: lock}, nil).StatusCode)
	var before, after []struct {
		ID    string
		Marks []int
	}
	c.call("GET", piecePath+"/thumbs", nil, &before)
	write := op.Of(op.WriteChords{OnLane: op.OnLane{Clip: "basin", Lane: "swell"}, Text: "v IV"})
	require.Equal(t, 200, c.call("POST", piecePath+"/edits", server.EditRequest{Version: 2, Clip: "lock", Ops: []op.Op{write}}, nil).StatusCode)
	c.call("GET", piecePath+"/thumbs", nil, &after)
	require.Equal(t, "keel", after[0].ID)
	assert.NotEqual(t, before[0].Marks, after[0].Marks)
	assert.Equal(t, before[1].Marks, after[1].Marks)
}
