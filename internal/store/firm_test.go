package store_test

import (
	"database/sql"
	"os"
	"path/filepath"
	"testing"

	_ "github.com/glebarez/go-sqlite"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/piece"
	"agrimony/internal/store"
)

func retitled(title string) func(*piece.Piece) (*piece.Piece, string, error) {
	return func(p *piece.Piece) (*piece.Piece, string, error) {
		next := *p
		next.Title = title
		return &next, "change the piece", nil
	}
}

// An undo that is asked for again under its key, because no answer came, is made once, whoever edited meanwhile.
func TestAnUndoIsMadeOnceWhoeverEditsMeanwhile(t *testing.T) {
	st, err := store.Open(t.TempDir())
	require.NoError(t, err)
	defer st.Close()
	require.NoError(t, st.Create("a", piece.Default()))
	for v, title := range []string{"One", "Two", "Three"} {
		_, err := st.Edit("a", int64(v+1), "", retitled(title))
		require.NoError(t, err)
	}
	undone, err := st.Undo("a", 4, "lost", nil)
	require.NoError(t, err)
	assert.Equal(t, "Two", undone.Piece.Title)
	_, err = st.Edit("a", 5, "another's", retitled("Four"))
	require.NoError(t, err)
	for _, version := range []int64{4, 6} { // as it was asked first, and against what is newest
		again, err := st.Undo("a", version, "lost", nil)
		require.NoError(t, err)
		assert.Equal(t, "Four", again.Piece.Title, "it was made already")
		assert.EqualValues(t, 6, again.Version)
	}
}

func TestADatabaseOfAVersionThatIsNoneIsRefusedInWords(t *testing.T) {
	folder := t.TempDir()
	st, err := store.Open(folder)
	require.NoError(t, err)
	require.NoError(t, st.Close())
	raw, err := sql.Open("sqlite", filepath.Join(folder, store.FileName))
	require.NoError(t, err)
	_, err = raw.Exec("PRAGMA user_version = -1")
	require.NoError(t, err)
	require.NoError(t, raw.Close())
	_, err = store.Open(folder)
	require.Error(t, err)
	assert.Contains(t, err.Error(), "version -1")
}

// A page that is damaged is said so, with what to do; nothing is acknowledged.
func TestDamagedPagesAreSaidInWords(t *testing.T) {
	folder := t.TempDir()
	st, err := store.Open(folder)
	require.NoError(t, err)
	require.NoError(t, st.Create("a", piece.Default()))
	require.NoError(t, st.Close())
	path := filepath.Join(folder, store.FileName)
	data, err := os.ReadFile(path)
	require.NoError(t, err)
	for i := 4096; i < len(data); i++ { // all but the first page
		data[i] = 0xa5
	}
	require.NoError(t, os.WriteFile(path, data, 0o600))
	st, err = store.Open(folder)
	if err == nil {
		defer st.Close()
		_, err = st.Load("a")
	}
	require.Error(t, err)
	assert.Contains(t, err.Error(), "the database is damaged")
	assert.Contains(t, err.Error(), "backup")
}

func TestWithoutItsLockFileNothingIsKept(t *testing.T) {
	folder := t.TempDir()
	st, err := store.Open(folder)
	require.NoError(t, err)
	defer st.Close()
	require.NoError(t, st.Create("a", piece.Default()))
	require.NoError(t, os.Remove(filepath.Join(folder, "lock")))
	_, err = st.Edit("a", 1, "", retitled("One"))
	var trouble *store.TroubleError
	require.ErrorAs(t, err, &trouble)
	assert.Contains(t, trouble.Words, "lock file")
	now, err := st.Load("a")
	require.NoError(t, err)
	assert.EqualValues(t, 1, now.Version)
}

func TestFilesAreTheirOwnersAlone(t *testing.T) {
	folder := filepath.Join(t.TempDir(), "data")
	st, err := store.Open(folder)
	require.NoError(t, err)
	require.NoError(t, st.Create("a", piece.Default()))
	require.NoError(t, st.Backup(filepath.Join(folder, "copy.db")))
	defer st.Close()
	all, err := os.ReadDir(folder)
	require.NoError(t, err)
	require.Greater(t, len(all), 2)
	for _, file := range all {
		info, err := file.Info()
		require.NoError(t, err)
		assert.Zero(t, info.Mode().Perm()&0o077, file.Name())
	}
	info, err := os.Stat(folder)
	require.NoError(t, err)
	assert.EqualValues(t, 0o700, info.Mode().Perm())
}

// A data folder of each earlier version opens with its whole history.
func TestDataFoldersOfEarlierVersionsOpen(t *testing.T) {
	for _, row := range []struct {
		file, id string
		version  int64
		undos    int
	}{
		{"version-5.sqlite", "d6281c1228f65eb0", 12, 7},
	} {
		folder := t.TempDir()
		data, err := os.ReadFile(filepath.Join("testdata", row.file))
		require.NoError(t, err)
		require.NoError(t, os.WriteFile(filepath.Join(folder, store.FileName), data, 0o644))
		st, err := store.Open(folder)
		require.NoError(t, err, row.file)
		now, err := st.Load(row.id)
		require.NoError(t, err)
		assert.Equal(t, "Ferry landing", now.Piece.Title)
		assert.Equal(t, row.version, now.Version)
		for range 2 { // what was undone comes back
			now, err = st.Redo(row.id, now.Version, "", nil)
			require.NoError(t, err)
		}
		assert.EqualValues(t, 104, now.Piece.Tempo)
		for range row.undos + 2 {
			now, err = st.Undo(row.id, now.Version, "", nil)
			require.NoError(t, err)
		}
		assert.Empty(t, now.Undo, "that was all")
		assert.EqualValues(t, 96, now.Piece.Tempo)
		require.NoError(t, st.Close())
	}
}
