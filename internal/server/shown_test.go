package server_test

import (
	"bufio"
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"math/rand/v2"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/edit/edittest"
	"agrimony/internal/core/piece"
	"agrimony/internal/server"
	"agrimony/internal/since/sincetest"
)

// parts are what of an answer is shown.
var parts = []string{"piece", "view", "trouble", "thumb"}

// A holder holds what a screen holds of a piece, and asks for changes of it.
type holder struct {
	*client
	id      string
	version int64
	sum     string
	clip    string
	also    []string
	shown   map[string]any
}

// open makes the holder hold a clip.
func (h *holder) open(clip string) {
	var answer map[string]any
	require.Equal(h.t, 200, h.call("GET", fmt.Sprintf("/api/pieces/%s?clip=%s&also=%s", h.id, clip, strings.Join(h.also, "+")), nil, &answer).StatusCode)
	h.take(answer)
	h.version = int64(answer["version"].(float64))
}

func (h *holder) take(answer map[string]any) {
	h.sum, _ = answer["sum"].(string)
	if change, ok := answer["since"]; ok {
		next, err := sincetest.Merge(h.shown, change)
		require.NoError(h.t, err)
		h.shown = next.(map[string]any)
	} else {
		h.shown = map[string]any{}
		for _, name := range parts {
			h.shown[name] = answer[name]
		}
	}
	h.clip = ""
	if seen, ok := h.shown["view"].(map[string]any); ok {
		h.clip = seen["id"].(string)
	}
}

// ask asks for an edit, undo or redo in two lines.
func (h *holder) ask(way, more string) *http.Response {
	holds, err := json.Marshal(server.Holds{Sum: h.sum, Also: h.also})
	require.NoError(h.t, err)
	body := fmt.Sprintf(`{"version":%d,"clip":%q,"holds":%s%s}`, h.version, h.clip, holds, more)
	request, err := http.NewRequest("POST", h.url+"/api/pieces/"+h.id+"/"+way, strings.NewReader(body))
	require.NoError(h.t, err)
	request.Header.Set("Accept", "application/jsonl")
	response, err := http.DefaultClient.Do(request)
	require.NoError(h.t, err)
	return response
}

// wait makes an edit, and tells after how long each line was there. What it shows is not merged.
func (h *holder) wait(more string) (status int, shown, kept time.Duration) {
	began := time.Now()
	response := h.ask("edits", more)
	defer response.Body.Close()
	lines := bufio.NewReader(response.Body)
	first, err := lines.ReadBytes('\n')
	require.NoError(h.t, err)
	shown = time.Since(began)
	last, err := lines.ReadBytes('\n')
	require.NoError(h.t, err)
	kept = time.Since(began)
	var state server.State
	var then server.Kept
	require.NoError(h.t, json.Unmarshal(first, &state))
	require.NoError(h.t, json.Unmarshal(last, &then))
	h.sum, h.version = state.Sum, then.Version
	return response.StatusCode, shown, kept
}

// change asks for an edit, undo or redo in two lines, and returns the first.
func (h *holder) change(way, more string) (status int, first map[string]any, text []byte) {
	response := h.ask(way, more)
	defer response.Body.Close()
	var err error
	text, err = io.ReadAll(response.Body)
	require.NoError(h.t, err)
	if response.StatusCode != 200 {
		return response.StatusCode, nil, text
	}
	lines := bytes.Split(bytes.TrimSpace(text), []byte("\n"))
	require.Len(h.t, lines, 2)
	var kept server.Kept
	require.NoError(h.t, json.Unmarshal(lines[0], &first))
	require.NoError(h.t, json.Unmarshal(lines[1], &kept))
	require.Nil(h.t, kept.Problem)
	if kept.Version == h.version { // nothing was changed
		return 204, nil, nil
	}
	h.version = kept.Version
	h.take(first)
	return 200, first, lines[0]
}

// tried is what an edit would show, or why it would be refused. Trying it leaves all as it is, for the holder and in
// the store.
func (h *holder) tried(way, more string) (shown map[string]any, refused string) {
	if way != "edits" {
		return nil, ""
	}
	before := h.whole()
	response := h.ask("drafts", more)
	defer response.Body.Close()
	text, err := io.ReadAll(response.Body)
	require.NoError(h.t, err)
	require.Equal(h.t, before, h.whole(), "nothing is kept: %s", more)
	if response.StatusCode != 200 {
		return nil, string(text)
	}
	var answer map[string]any
	require.NoError(h.t, json.Unmarshal(text, &answer), more)
	then := *h
	then.take(answer)
	return then.shown, ""
}

// whole is what the server shows to whoever holds nothing.
func (h *holder) whole() map[string]any {
	other := &holder{client: h.client, id: h.id, also: h.also}
	other.open(h.clip)
	require.Equal(h.t, h.version, other.version)
	return other.shown
}

// TestWhatIsHeldIsWhatIsShown goes through edits of every sort, undo and redo: whoever is told of each only what it
// changed holds what is shown to who asks for all.
func TestWhatIsHeldIsWhatIsShown(t *testing.T) {
	random := rand.New(rand.NewPCG(29, 1))
	for round := range 3 {
		walkOfEdits(t, start(t), random, []int{30, 90, 90}[round], round == 0)
	}
}

func walkOfEdits(t *testing.T, c *client, random *rand.Rand, edits int, keep bool) {
	var made server.State
	require.Equal(t, 201, c.call("POST", "/api/pieces/import", string(piece.Write(edittest.Start())), &made).StatusCode)
	h := &holder{client: c, id: made.ID, also: []string{"basin"}}
	h.open("keel")
	first, steps, told := h.whole(), []json.RawMessage{}, 0
	for range edits {
		var data json.RawMessage
		require.Equal(t, 200, c.call("GET", "/api/pieces/"+h.id+"/document", nil, &data).StatusCode)
		p, err := piece.Read(data)
		require.NoError(t, err)
		way, more := []string{"undo", "redo"}[random.IntN(2)], ""
		if random.IntN(6) > 0 {
			op, ok := edittest.Maker{Piece: p, Pick: random.IntN}.Any()
			if !ok {
				continue
			}
			way, more = "edits", `,"ops":[`+asText(t, op)+`]`
		}
		tried, refused := h.tried(way, more)
		status, answer, text := h.change(way, more)
		require.Contains(t, []int{200, 204, 409, 422}, status, "%s%s: %s", way, more, text)
		if way == "edits" && status >= 400 {
			require.Equal(t, string(text), refused, more)
		} else if way == "edits" && len(h.shown["piece"].(map[string]any)["clips"].([]any)) > 0 {
			require.Empty(t, refused, more)
			if status == 200 {
				require.Equal(t, h.shown, tried, "what is tried is what the edit makes: %s", more)
			}
		}
		if status != 200 {
			continue
		}
		steps = append(steps, bytes.Clone(text))
		if _, ok := answer["since"]; ok {
			told++
		}
		require.Equal(t, h.whole(), h.shown, "%s%s", way, more)
	}
	assert.Greater(t, told, len(steps)/2, "most answers tell what changed")
	if keep {
		keepWalk(t, map[string]any{"first": first, "steps": steps, "last": h.whole()})
	}
}

// keepWalk holds the walk that the screens are tested with to this one. With FIXTURES set it is kept anew.
func keepWalk(t *testing.T, walk any) {
	got, err := json.Marshal(walk)
	require.NoError(t, err)
	got = sums.ReplaceAll(got, []byte(`"sum":""`))
	file := filepath.Join("..", "..", "web", "test", "answers", "walk.json")
	if os.Getenv("FIXTURES") != "" {
		require.NoError(t, os.WriteFile(file, got, 0o644))
	}
	kept, err := os.ReadFile(file)
	require.NoError(t, err)
	var was, is struct{ First, Last any }
	require.NoError(t, json.Unmarshal(kept, &was))
	require.NoError(t, json.Unmarshal(got, &is))
	assert.True(t, assert.ObjectsAreEqual(was, is), "walk.json is stale: FIXTURES=1 go test ./internal/server -run 'Screens|Held'")
}

// TestAnAnswerTellsWhatIsNewAlone: of a note that is moved some hundreds of bytes.
func TestAnAnswerTellsWhatIsNewAlone(t *testing.T) {
	h := &holder{client: start(t), id: "lantern-regatta"}
	h.open("keel")
	_, _, text := h.change("edits", `,"ops":[{"op":"steps.set","clip":"keel","lane":"low","steps":[1],"patch":{"degree":3}}]`)
	assert.Less(t, len(text), 5000, "%s", text)
	assert.Contains(t, string(text), `"since":{`)
}

// TestWhoHoldsSomethingElseIsSentAll: another sum, other clips beside, an older version of the view.
func TestWhoHoldsSomethingElseIsSentAll(t *testing.T) {
	edit := `,"ops":[{"op":"steps.set","clip":"keel","lane":"low","steps":[1],"patch":{"gate":33}}]`
	for name, change := range map[string]func(*holder){
		"nothing":           func(h *holder) { h.sum = "" },
		"another sum":       func(h *holder) { h.sum = "0123456789abcdef" },
		"other clips":       func(h *holder) { h.also = []string{"weir"} },
		"clips of no piece": func(h *holder) { h.also = []string{"none", "", "weir", "weir", "keel", "basin"} },
		"another clip":      func(h *holder) { h.clip = "weir" },
	} {
		h := &holder{client: start(t), id: "lantern-regatta"}
		h.open("keel")
		change(h)
		_, first, _ := h.change("edits", edit)
		assert.NotContains(t, first, "since", name)
		assert.Equal(t, h.whole(), h.shown, name)
	}
}

// TestAClipThatWasLeftStaysWhole: an edit of it may be on its way, and the next is worked out from what it is then.
func TestAClipThatWasLeftStaysWhole(t *testing.T) {
	h := &holder{client: start(t), id: "lantern-regatta", also: []string{"keel"}}
	h.open("weir")
	_, first, _ := h.change("edits", `,"ops":[{"op":"steps.set","clip":"keel","lane":"low","steps":[1],"patch":{"gate":33}}]`)
	assert.Contains(t, first, "since")
	assert.Equal(t, true, first["others"], "the picture of keel is another one")
	clip := h.shown["piece"].(map[string]any)["clips"].([]any)[0].(map[string]any)
	step := clip["lanes"].([]any)[0].(map[string]any)["steps"].([]any)[0].(map[string]any)
	assert.Equal(t, 33.0, step["gate"])
}
