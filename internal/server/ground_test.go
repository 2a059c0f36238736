package server_test

import (
	"encoding/binary"
	"encoding/json"
	"fmt"
	"math/big"
	"math/rand/v2"
	"net/http"
	"net/http/httptest"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/document"
	"agrimony/internal/core/edit/edittest"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
	"agrimony/internal/server"
	"agrimony/internal/store"
)

// imported makes a piece of a clip "a" with lanes, and gives its state.
func (c *client) imported(lanes string) (state struct {
	ID      string
	Version int64
	Trouble string
	View    *struct{ ID string }
}) {
	c.t.Helper()
	response := c.call("POST", "/api/pieces/import", `{"format":"agrimony-piece","version":1,"clips":[{"id":"a","lanes":[`+lanes+`]},{"id":"b","lanes":[{"id":"low","steps":[{"on":true}]}]}]}`, &state)
	require.Equal(c.t, 201, response.StatusCode)
	return state
}

// What listens to chords may be any lane, locked and kept however it can be.
func TestWhateverListensToChordsIsShown(t *testing.T) {
	c := start(t)
	const tide = `{"id":"tide","kind":"chords","rate":"1bar","palette":[{"tones":[{"degree":1},{"degree":3},{"degree":5}]},{"tones":[{"degree":4},{"degree":6}]}],"steps":[{"on":true},{"on":true,"chord":2}]},{"id":"low","steps":[{"on":true},{}]},`
	for _, fields := range []string{
		`"kind":"layer","of":"low","keep":"chord"`, `"kind":"layer","of":"low","lock":"chord"`, `"kind":"layer","of":"tide","lock":"chord","keep":"chord"`,
		`"lock":"chord"`, `"follow":"root"`, `"kind":"pulse","pitch":{"degree":2},"lock":"chord"`, `"kind":"phrase"`,
		`"kind":"phrase","source":"own","tones":[{"degree":1}],"lock":"chord","follow":"root","rhythm":{"lane":"low"}`, `"kind":"chords","lock":"chord"`,
	} {
		state := c.imported(tide + `{"id":"x",` + fields + `}`)
		assert.Empty(t, state.Trouble, fields)
		require.NotNil(t, state.View, fields)
		edited := server.EditRequest{Version: 1, Clip: "a", Ops: []op.Op{op.Of(op.SetLane{OnLane: op.OnLane{Clip: "a", Lane: "x"}, Patch: []byte(`{"name":"Y"}`)})}}
		assert.Equal(t, 200, c.call("POST", "/api/pieces/"+state.ID+"/edits", edited, nil).StatusCode, fields)
		for _, path := range []string{"", "/thumbs", "/clips/a/summary", "/clips/a/midi"} {
			assert.Equal(t, 200, c.call("GET", "/api/pieces/"+state.ID+path, nil, nil).StatusCode, "%s of %s", path, fields)
		}
	}
}

// Whatever is edited, the answer is one of the caller's or the next state, and the piece opens.
func TestAfterEveryEditThePieceOpens(t *testing.T) {
	c := start(t)
	var state struct {
		ID      string
		Version int64
		Trouble string
		View    *struct{ ID string }
	}
	random := rand.New(rand.NewPCG(8, 8))
	for round := range 3 {
		require.Equal(t, 201, c.call("POST", "/api/pieces/import", string(piece.Write(edittest.Start())), &state).StatusCode)
		p := edittest.Start()
		for range 80 {
			made, ok := edittest.Maker{Piece: p, Pick: random.IntN}.Any()
			if !ok {
				continue
			}
			text := fmt.Sprintf(`{"version":%d,"clip":"keel","ops":[%s]}`, state.Version, asText(t, made))
			status := c.call("POST", "/api/pieces/"+state.ID+"/edits", text, nil).StatusCode
			require.Contains(t, []int{200, 422}, status, "round %d: %s", round, text)
			state.View = nil
			require.Equal(t, 200, c.call("GET", "/api/pieces/"+state.ID, nil, &state).StatusCode, text)
			require.Empty(t, state.Trouble, text)
			var data json.RawMessage
			require.Equal(t, 200, c.call("GET", "/api/pieces/"+state.ID+"/document", nil, &data).StatusCode)
			var err error
			p, err = piece.Read(data)
			require.NoError(t, err, text)
		}
	}
}

func asText(t *testing.T, made op.Op) string {
	text, err := made.MarshalJSON()
	require.NoError(t, err)
	return string(text)
}

// rattles is a kind of lane with a fault: it breaks where it is told to.
type rattles struct{}

// Rattle is its content.
type Rattle struct {
	Steps []RattleStep
	Where string
}

// RattleStep is its step.
type RattleStep struct{ piece.Cell }

var rattleStep = &document.Shape[RattleStep]{Doc: "A step.", Fields: piece.CellFields(piece.Cell{Velocity: 90, Gate: 100, Chance: 100, Ratchet: 1}, func(s *RattleStep) *piece.Cell { return &s.Cell })}

func (r *Rattle) StepList() piece.Steps                       { return piece.StepsOf(&r.Steps, rattleStep) }
func (r *Rattle) Clone() piece.Content                        { out := *r; return &out }
func (r *Rattle) CheckKey(*document.At, pitch.Key)            {}
func where(l *piece.Lane) string                              { return l.Content.(*Rattle).Where }
func (rattles) Rekey(*piece.Lane, pitch.Key, pitch.Key, bool) {}
func (rattles) Period(in *render.Input) *big.Int              { return in.Pattern.Period() }
func (rattles) Play(in *render.Input) render.Part {
	if where(in.Lane) == "playing" {
		_ = []int{}[len(in.Slots)] // a fault in a lane that is played beside others
	}
	return in.Part
}
func (rattles) Reasons(*render.Performance, *render.Part, *piece.Lane, *render.Note) []render.Reason {
	return nil
}
func (rattles) Sounds(l *piece.Lane, _ pitch.Key, _ func(int) *render.Chord) []render.Sound {
	return make([]render.Sound, l.Content.StepList().Len())
}
func (rattles) Ladder(l *piece.Lane, key pitch.Key, _ []int) []pitch.Rung {
	if where(l) == "drawing" {
		panic("no ladder")
	}
	return key.Ladder(3, 48, 60, true)
}
func (rattles) Findings(_ *render.Performance, _ *render.Part, l *piece.Lane) []render.Finding {
	if where(l) == "reviewing" {
		panic("nothing is found")
	}
	return nil
}

// A fault of the program's own, wherever it is, ends as an answer that says what and where;
// what it would break is not kept, and what is broken all the same does not keep the piece
// from being opened.
func TestAFaultBreaksNoPiece(t *testing.T) {
	before := piece.Kinds
	piece.Kinds = append(piece.Kinds[:len(before):len(before)], piece.Define("rattle", "A rattle.", "pluck",
		func(r *Rattle) *[]RattleStep { return &r.Steps }, rattleStep, []document.Field[Rattle]{document.Text("where", 20, "", "Where it breaks.", func(r *Rattle) *string { return &r.Where })}))
	lane.Kinds["rattle"] = rattles{}
	t.Cleanup(func() {
		piece.Kinds = before
		delete(lane.Kinds, "rattle")
	})
	folder := t.TempDir()
	st, err := store.Open(folder)
	require.NoError(t, err)
	running := httptest.NewServer(server.New(server.Config{Store: st, Hosts: server.Loopback}))
	t.Cleanup(func() { running.Close(); _ = st.Close() })
	c := &client{t, running.URL}
	state := c.imported(`{"id":"x","name":"Rim","kind":"rattle"},{"id":"low","steps":[{"on":true}]}`)
	for _, place := range []string{"playing", "drawing", "reviewing"} {
		for _, clip := range []string{"a", "b"} { // the one that is shown, and another
			edited := server.EditRequest{Version: 1, Clip: clip, Ops: []op.Op{op.Of(op.SetLane{OnLane: op.OnLane{Clip: "a", Lane: "x"}, Patch: fmt.Appendf(nil, `{"where":%q,"steps":[{"on":true}]}`, place)})}}
			var problem server.Problem
			require.Equal(t, 500, c.call("POST", "/api/pieces/"+state.ID+"/edits", edited, &problem).StatusCode, place)
			assert.Contains(t, problem.Error, "a fault of Agrimony's own", place)
			assert.Contains(t, problem.Error, "nothing was changed", place)
			assert.True(t, problem.Final, "asking again does not help")
		}
		now, err := st.Load(state.ID)
		require.NoError(t, err)
		assert.EqualValues(t, 1, now.Version, "%s: it was not kept", place)

		broken, err := piece.Read([]byte(fmt.Sprintf(`{"format":"agrimony-piece","version":1,"clips":[{"id":"a","name":"Keel","lanes":[{"id":"x","kind":"rattle","where":%q,"steps":[{"on":true}]}]},{"id":"b"}]}`, place)))
		require.NoError(t, err)
		require.NoError(t, st.Create("broken-"+place, broken))
		opened := c.imported(`{"id":"low"}`)
		require.Equal(t, 200, c.call("GET", "/api/pieces/broken-"+place, nil, &opened).StatusCode)
		assert.Contains(t, opened.Trouble, "Keel cannot be shown", place)
		opened.Trouble = ""
		require.Equal(t, 200, c.call("GET", "/api/pieces/broken-"+place+"?clip=b", nil, &opened).StatusCode)
		assert.Empty(t, opened.Trouble, "the others can")
	}
}

func TestSixteenTonesAPedalAndTies(t *testing.T) {
	c := start(t)
	var tones []string
	for i := range 16 {
		tones = append(tones, fmt.Sprintf(`{"degree":%d,"octave":%d}`, i%7+1, i/7))
	}
	state := c.imported(`{"id":"p","kind":"phrase","source":"own","tones":[` + strings.Join(tones, ",") + `],"pedal":{"tone":"low","octave":-1},"steps":[{"on":true,"play":"chord","tie":true},{"on":true,"play":"chord","tie":true}]}`)
	assert.Empty(t, state.Trouble)
}

func TestADataFolderThatIsGoneIsSaid(t *testing.T) {
	folder := t.TempDir() + "/data"
	st, err := store.Open(folder)
	require.NoError(t, err)
	require.NoError(t, server.EnsureDemo(st))
	running := httptest.NewServer(server.New(server.Config{Store: st, Hosts: server.Loopback}))
	t.Cleanup(func() { running.Close(); _ = st.Close() })
	c := &client{t, running.URL}
	require.Equal(t, 200, c.call("POST", piecePath+"/edits", gate(1, 33), nil).StatusCode)
	require.NoError(t, os.RemoveAll(folder))
	for range 2 {
		var problem server.Problem
		assert.Equal(t, http.StatusInsufficientStorage, c.call("POST", piecePath+"/edits", gate(2, 44), &problem).StatusCode)
		assert.Contains(t, problem.Error, "is not there any more, so nothing can be kept")
	}
	assert.Equal(t, http.StatusInsufficientStorage, c.call("DELETE", piecePath, nil, nil).StatusCode)
	assert.Equal(t, 200, c.call("GET", piecePath+"/document", nil, nil).StatusCode, "what is there can be saved as a file")
}

func TestDeletedPiecesAreBroughtBack(t *testing.T) {
	c := start(t)
	require.Equal(t, 204, c.call("DELETE", piecePath, nil, nil).StatusCode)
	assert.Equal(t, 404, c.call("GET", piecePath, nil, nil).StatusCode)
	var gone []store.Gone
	require.Equal(t, 200, c.call("GET", "/api/deleted/pieces", nil, &gone).StatusCode)
	require.Len(t, gone, 1)
	assert.Equal(t, "Lantern Regatta", gone[0].Name)
	require.Equal(t, 200, c.call("POST", "/api/deleted/pieces/"+gone[0].ID, nil, nil).StatusCode)
	assert.Equal(t, 200, c.call("GET", piecePath, nil, nil).StatusCode)
	assert.Equal(t, 404, c.call("POST", "/api/deleted/pieces/"+gone[0].ID, nil, nil).StatusCode)
}

// Whatever a document multiplies, the edits that multiply the document itself are bounded
// before they are written.
func TestCopiesOfFullLanesAreRefusedBeforeTheyAreWritten(t *testing.T) {
	c := start(t)
	points := strings.TrimSuffix(strings.Repeat(`{"at":50,"by":-3,"curve":-70},`, 16), ",")
	step := `{"on":true,"gate":51,"velocity":99,"chance":98,"nudge":-7,"glide":{"time":33,"curve":12},"bend":[` + points + `]}`
	full := `{"id":"l%d","steps":[` + strings.TrimSuffix(strings.Repeat(step+",", 512), ",") + `]}`
	state := c.imported(fmt.Sprintf(full, 0))
	ops := []string{}
	for range 31 {
		ops = append(ops, `{"op":"lane.copy","clip":"a","lane":"l0"}`)
	}
	for range 4 {
		ops = append(ops, `{"op":"clip.copy","clip":"a"}`)
	}
	var problem server.Problem
	text := fmt.Sprintf(`{"version":%d,"clip":"b","ops":[%s]}`, state.Version, strings.Join(ops, ","))
	require.Equal(t, 422, c.call("POST", "/api/pieces/"+state.ID+"/edits", text, &problem).StatusCode)
	assert.Contains(t, problem.Error, "allowed: at most 33554432")
	for range 56 {
		ops = append(ops, `{"op":"clip.copy","clip":"a"}`)
	}
	text = fmt.Sprintf(`{"version":%d,"clip":"b","ops":[%s]}`, state.Version, strings.Join(ops, ","))
	require.Equal(t, 422, c.call("POST", "/api/pieces/"+state.ID+"/edits", text, &problem).StatusCode)
	assert.Regexp(t, "takes more work than one answer may|takes longer than one answer may", problem.Error, "whichever comes first")
}

func TestAFileWithChunksOfOtherMakers(t *testing.T) {
	c := start(t)
	track := []byte{0, 0x90, 60, 100, 96, 0x80, 60, 0, 0, 0xff, 0x2f, 0}
	data := append([]byte("MThd\x00\x00\x00\x06\x00\x00\x00\x01\x00\x60XFKM\x00\x00\x00\x02\x01\x02MTrk"), binary.BigEndian.AppendUint32(nil, uint32(len(track)))...)
	assert.Equal(t, 200, c.call("POST", "/api/groove?name=Old", string(append(data, track...)), nil).StatusCode)
}
