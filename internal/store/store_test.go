package store

import (
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/piece"
)

func opened(t *testing.T, folder string) *Store {
	s, err := Open(folder)
	require.NoError(t, err)
	t.Cleanup(func() { _ = s.Close() })
	return s
}

func withClips(names ...string) *piece.Piece {
	p := piece.Default()
	for _, name := range names {
		clip := piece.NewClip(name, name)
		clip.Lanes = []piece.Lane{piece.NewLane("line", "low", "Low")}
		p.Clips = append(p.Clips, clip)
	}
	return p
}

func retitle(title string) func(*piece.Piece) (*piece.Piece, string, error) {
	return func(p *piece.Piece) (*piece.Piece, string, error) {
		next := *p
		next.Title = title
		return &next, "retitle to " + title, nil
	}
}

func TestHistoryOutlivesTheProcess(t *testing.T) {
	folder := t.TempDir()
	s := opened(t, folder)
	require.NoError(t, s.Create("p", withClips("keel", "weir")))
	state, err := s.Edit("p", 1, "", retitle("One"))
	require.NoError(t, err)
	state, err = s.Edit("p", state.Version, "", func(p *piece.Piece) (*piece.Piece, string, error) {
		next := *p
		next.Clips = []piece.Clip{p.Clips[1]}
		return &next, "remove keel", nil
	})
	require.NoError(t, err)
	require.NoError(t, s.Close())

	s = opened(t, folder)
	again, err := s.Load("p")
	require.NoError(t, err)
	assert.Equal(t, state, again)
	assert.Equal(t, "remove keel", again.Undo)
	assert.Empty(t, again.Redo)

	back, err := s.Undo("p", again.Version, "", nil)
	require.NoError(t, err)
	assert.Len(t, back.Piece.Clips, 2)
	assert.Equal(t, "keel", back.Piece.Clips[0].ID, "it comes back in its place")
	assert.Equal(t, "remove keel", back.Redo)
	back, err = s.Undo("p", back.Version, "", nil)
	require.NoError(t, err)
	assert.Equal(t, "Untitled", back.Piece.Title)
	_, err = s.Undo("p", back.Version, "", nil)
	assert.ErrorIs(t, err, ErrNothing)

	forward, err := s.Redo("p", back.Version, "", nil)
	require.NoError(t, err)
	assert.Equal(t, "One", forward.Piece.Title)
	assert.Equal(t, back.Version+1, forward.Version, "versions only rise")
	other, err := s.Edit("p", forward.Version, "", retitle("Other"))
	require.NoError(t, err)
	assert.Empty(t, other.Redo, "a new edit ends what could be redone")
}

func TestAnEditAgainstAnOldVersionIsRefused(t *testing.T) {
	s := opened(t, t.TempDir())
	require.NoError(t, s.Create("p", withClips("keel")))
	_, err := s.Edit("p", 1, "", retitle("One"))
	require.NoError(t, err)
	_, err = s.Edit("p", 1, "", retitle("Two"))
	var stale *StaleError
	require.ErrorAs(t, err, &stale)
	assert.Equal(t, StaleError{1, 2}, *stale)
	now, err := s.Load("p")
	require.NoError(t, err)
	assert.Equal(t, "One", now.Piece.Title)
}

func TestAnEditThatChangesNothingIsNoRevision(t *testing.T) {
	s := opened(t, t.TempDir())
	require.NoError(t, s.Create("p", withClips("keel")))
	state, err := s.Edit("p", 1, "", retitle("Untitled"))
	require.NoError(t, err)
	assert.Equal(t, int64(1), state.Version)
	assert.Empty(t, state.Undo)
}

func TestABackupIsWhole(t *testing.T) {
	s := opened(t, t.TempDir())
	require.NoError(t, s.Create("p", withClips("keel")))
	folder := t.TempDir()
	target := filepath.Join(folder, FileName)
	require.NoError(t, s.Backup(target))
	assert.ErrorContains(t, s.Backup(target), "exists already")
	copied, err := opened(t, folder).List()
	require.NoError(t, err)
	assert.Equal(t, "p", copied[0].ID)
}

func TestDeletingAndMissingPieces(t *testing.T) {
	s := opened(t, t.TempDir())
	require.NoError(t, s.Create("p", withClips("keel")))
	require.NoError(t, s.Delete("p"))
	assert.ErrorIs(t, s.Delete("p"), ErrNotFound)
	_, err := s.Load("p")
	assert.ErrorIs(t, err, ErrNotFound)
	_, err = s.Undo("p", 1, "", nil)
	assert.ErrorIs(t, err, ErrNotFound)
	list, err := s.List()
	require.NoError(t, err)
	assert.Empty(t, list)
}

func TestADatabaseFromTheFutureIsLeftAlone(t *testing.T) {
	folder := t.TempDir()
	s := opened(t, folder)
	require.NoError(t, s.db.Exec("PRAGMA user_version = 99").Error)
	require.NoError(t, s.Close())
	_, err := Open(folder)
	assert.ErrorContains(t, err, "newer program")
}
