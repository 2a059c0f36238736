package store

import (
	"encoding/json"
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"agrimony/internal/core/edit"
	"agrimony/internal/core/edit/edittest"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
)

// history is a piece with all states that it has been in, for tests.
type history struct {
	t      require.TestingT
	s      *Store
	folder string
	now    *State
	states []string // each as a document, from the first on
	at     int      // where the piece stands among them
}

func newHistory(t require.TestingT, folder string) *history {
	s := hasty(t, folder)
	require.NoError(t, s.Create("p", edittest.Start()))
	now, err := s.Load("p")
	require.NoError(t, err)
	return &history{t: t, s: s, folder: folder, now: now, states: []string{written(now)}}
}

// hasty opens a database that waits for no disk: what is tested is not what a power cut does.
func hasty(t require.TestingT, folder string) *Store {
	s, err := Open(folder)
	require.NoError(t, err)
	require.NoError(t, s.db.Exec("PRAGMA synchronous = OFF").Error)
	return s
}

func written(s *State) string { return string(piece.Write(s.Piece)) }

// edit makes an edit; false: it was refused, or changed nothing.
func (h *history) edit(o op.Op) bool {
	next, err := h.s.Edit("p", h.now.Version, "", func(p *piece.Piece) (*piece.Piece, string, error) {
		next, err := edit.Apply(p, []op.Op{o})
		return next, o.Name(), err
	})
	if err != nil || next.Version == h.now.Version {
		return false
	}
	h.now = next
	h.states = append(h.states[:h.at+1], written(next))
	h.at++
	return true
}

// walk goes back or forward by one state.
func (h *history) walk(forward bool) {
	way, to := h.s.Undo, h.at-1
	if forward {
		way, to = h.s.Redo, h.at+1
	}
	next, err := way("p", h.now.Version, "", nil)
	require.NoError(h.t, err, "from state %d to %d of %d", h.at, to, len(h.states))
	require.Equal(h.t, h.states[to], written(next), "state %d", to)
	h.now, h.at = next, to
}

func (h *history) reopen() {
	require.NoError(h.t, h.s.Close())
	h.s = hasty(h.t, h.folder)
	var err error
	h.now, err = h.s.Load("p")
	require.NoError(h.t, err)
	require.Equal(h.t, h.states[h.at], written(h.now))
}

// Over the whole vocabulary, with restarts between, undo and redo walk to the end and back,
// and every state is as it was.
func TestHistoryWalksToTheEndAndBack(t *testing.T) {
	folder := t.TempDir()
	runs := 0
	rapid.Check(t, func(t *rapid.T) {
		runs++
		h := newHistory(t, fmt.Sprint(folder, "/", runs))
		defer func() { require.NoError(t, h.s.Close()) }()
		pick := func(n int) int { return rapid.IntRange(0, n-1).Draw(t, "pick") }
		for range rapid.IntRange(1, 25).Draw(t, "doings") {
			switch doing := rapid.IntRange(0, 9).Draw(t, "doing"); {
			case doing == 0:
				h.reopen()
			case doing == 1 && h.at > 0:
				h.walk(false)
			case doing == 2 && h.at+1 < len(h.states):
				h.walk(true)
			case doing < 6: // clips come, go and come back
				name := rapid.SampledFrom([]string{"clip.copy", "clip.remove", "clip.move", "clip.add", "piece.set", "lane.remove"}).Draw(t, "name")
				if made, ok := (edittest.Maker{Piece: h.now.Piece, Pick: pick}).Of(name); ok {
					h.edit(made)
				}
			default:
				if made, ok := (edittest.Maker{Piece: h.now.Piece, Pick: pick}).Any(); ok {
					h.edit(made)
				}
			}
		}
		for h.at > 0 {
			h.walk(false)
		}
		_, err := h.s.Undo("p", h.now.Version, "", nil)
		require.ErrorIs(t, err, ErrNothing)
		h.reopen()
		for h.at+1 < len(h.states) {
			h.walk(true)
		}
		h.reopen()
		for h.at > 0 {
			h.walk(false)
		}
	})
}

// filled is a history of so many small edits of which some copy, edit and remove a clip.
func filled(t *testing.T, edits int) *history {
	h := newHistory(t, t.TempDir())
	t.Cleanup(func() { _ = h.s.Close() })
	for i := 0; len(h.states) <= edits; i++ {
		text := fmt.Sprintf(`{"op":"steps.set","clip":"keel","lane":"low","steps":[1],"patch":{"gate":%d}}`, 1+i%399)
		switch i % 10 {
		case 3:
			text = `{"op":"clip.copy","clip":"keel"}`
		case 4:
			text = `{"op":"steps.set","clip":"keel-2","lane":"low","steps":[2],"patch":{"velocity":9}}`
		case 5:
			text = `{"op":"clip.remove","clip":"keel-2"}`
		}
		var made op.Op
		require.NoError(t, json.Unmarshal([]byte(text), &made))
		require.True(t, h.edit(made), text)
	}
	return h
}

// A revision that does not fit, wherever it is, is recovered from the whole images in the
// history, and the walk goes on.
func TestARevisionThatDoesNotFitIsRecovered(t *testing.T) {
	h := filled(t, 66)
	for _, broken := range []string{`{`, `{"before":{"order":["none"]},"after":{"order":["none"]}}`, `{"before":{"order":["keel","basin"]},"after":{"order":["keel","basin"]},"edits":{"keel":{"at":3,"before":"x","after":"y"}}}`} {
		for _, seq := range []int{1, 20, 33} {
			var change []byte
			require.NoError(t, h.s.db.Raw("SELECT change FROM revisions WHERE seq = ?", seq).Row().Scan(&change))
			require.NoError(t, h.s.db.Exec("UPDATE revisions SET change = ? WHERE seq = ?", broken, seq).Error)
			for h.at > 0 {
				h.walk(false)
			}
			for h.at+1 < len(h.states) {
				h.walk(true)
			}
			require.NoError(t, h.s.db.Exec("UPDATE revisions SET change = ? WHERE seq = ?", change, seq).Error)
		}
	}
}

// Where nothing helps, that is said, and the history goes on without what is lost.
func TestAStepThatIsLostIsForgotten(t *testing.T) {
	h := filled(t, 5)
	require.NoError(t, h.s.db.Exec("UPDATE revisions SET image = NULL, change = '{' WHERE seq <= 3").Error)
	h.walk(false)
	h.walk(false)
	_, err := h.s.Undo("p", h.now.Version, "", nil)
	require.ErrorIs(t, err, ErrLost)
	_, err = h.s.Undo("p", h.now.Version, "", nil)
	require.ErrorIs(t, err, ErrNothing)
	h.walk(true)
	h.walk(true)
}

// Older programs wrote clips into the history in one line, and brought them back so, while
// the revisions before counted on them as they were first written: such histories walk.
func TestAHistoryThatWasStuckWalks(t *testing.T) {
	h := newHistory(t, t.TempDir())
	defer func() { require.NoError(t, h.s.Close()) }()
	for _, text := range []string{
		`{"op":"clip.copy","clip":"keel"}`,
		`{"op":"clip.set","clip":"keel-2","patch":{"name":"A <new> & one"}}`,
		`{"op":"steps.set","clip":"keel-2","lane":"low","steps":[2],"patch":{"velocity":9}}`,
		`{"op":"clip.remove","clip":"keel-2"}`,
	} {
		var made op.Op
		require.NoError(t, json.Unmarshal([]byte(text), &made))
		require.True(t, h.edit(made))
	}
	older := func(change json.RawMessage) json.RawMessage { // as they were: not strings, and no sums
		var d struct {
			Before, After struct {
				Head  text                       `json:"head,omitempty"`
				Order []string                   `json:"order"`
				Clips map[string]json.RawMessage `json:"clips,omitempty"`
			}
			Edits map[string]map[string]any `json:"edits,omitempty"`
		}
		require.NoError(t, json.Unmarshal(change, &d))
		for _, clips := range []map[string]json.RawMessage{d.Before.Clips, d.After.Clips} {
			for id, quoted := range clips {
				var whole string
				require.NoError(t, json.Unmarshal(quoted, &whole))
				clips[id] = json.RawMessage(whole)
			}
		}
		for _, edit := range d.Edits {
			delete(edit, "sums")
		}
		out, err := json.Marshal(map[string]any{"before": d.Before, "after": d.After, "edits": d.Edits})
		require.NoError(t, err)
		return out
	}
	var rows []revisionRow
	require.NoError(t, h.s.db.Order("seq").Find(&rows).Error)
	for _, row := range rows {
		require.NoError(t, h.s.db.Exec("UPDATE revisions SET change = ?, image = NULL WHERE seq = ?", []byte(older(row.Change)), row.Seq).Error)
	}
	for range 2 {
		h.reopen()
		for h.at > 0 {
			h.walk(false)
		}
		for h.at+1 < len(h.states) {
			h.walk(true)
		}
	}
	// It is just as well where one stood stuck: brought back in one line, and edited then.
	h.walk(false)
	require.NoError(t, h.s.db.Exec("UPDATE clips SET document = ? WHERE clip_id = 'keel-2'", oneLine(t, h.now.Piece.Clips[1])).Error)
	h.s.known.pieces = map[string]*stored{}
	for h.at > 0 {
		h.walk(false)
	}
	for h.at+1 < len(h.states) {
		h.walk(true)
	}
}

func oneLine(t *testing.T, clip piece.Clip) []byte {
	out, err := json.Marshal(json.RawMessage(piece.WriteClip(&clip)))
	require.NoError(t, err)
	return out
}

func TestWhatWasDeletedCanBeBroughtBack(t *testing.T) {
	h := filled(t, 4)
	require.NoError(t, h.s.Delete("p"))
	_, err := h.s.Load("p")
	require.ErrorIs(t, err, ErrNotFound)
	assert.ErrorIs(t, h.s.Delete("p"), ErrNotFound)
	gone, err := h.s.Deleted()
	require.NoError(t, err)
	require.Len(t, gone, 1)
	assert.Equal(t, "Start <&> é", gone[0].Name)
	list, err := h.s.List()
	require.NoError(t, err)
	assert.Empty(t, list)
	require.NoError(t, h.s.Restore("p"))
	assert.ErrorIs(t, h.s.Restore("p"), ErrGone)
	h.reopen()
	for h.at > 0 {
		h.walk(false) // with its history
	}
	require.NoError(t, h.s.Delete("p"))
	require.NoError(t, h.s.purge(gone[0].Deleted.Add(KeptFor)))
	assert.ErrorIs(t, h.s.Restore("p"), ErrGone, "long after it is gone for good")
	var left int
	require.NoError(t, h.s.db.Raw("SELECT (SELECT COUNT(*) FROM clips) + (SELECT COUNT(*) FROM revisions)").Row().Scan(&left))
	assert.Zero(t, left)

	own := piece.StarterOf("Slow", piece.Default().Key, &edittest.Start().Clips[0].Lanes[0])
	require.NoError(t, h.s.SaveStarter(own, false))
	require.NoError(t, h.s.DeleteStarter("Slow", "a"))
	starters, err := h.s.DeletedStarters()
	require.NoError(t, err)
	require.Len(t, starters, 1)
	require.NoError(t, h.s.SaveStarter(own, false))
	var taken *TakenError
	require.ErrorAs(t, h.s.RestoreStarter("a"), &taken, "another has its name by now")
	require.NoError(t, h.s.DeleteStarter("Slow", "b"))
	require.NoError(t, h.s.RestoreStarter("a"))
	assert.ErrorIs(t, h.s.RestoreStarter("a"), ErrGone)
}
