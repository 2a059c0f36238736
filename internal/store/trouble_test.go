package store

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/piece"
)

func TestAnEditSentAgainIsMadeOnce(t *testing.T) {
	s := opened(t, t.TempDir())
	require.NoError(t, s.Create("p", withClips("keel")))
	first, err := s.Edit("p", 1, "a", retitle("One"))
	require.NoError(t, err)
	again, err := s.Edit("p", 1, "a", retitle("One"))
	require.NoError(t, err, "the answer was lost and the client asks again")
	assert.Equal(t, first, again)

	second, err := s.Edit("p", first.Version, "b", retitle("Two"))
	require.NoError(t, err)
	again, err = s.Edit("p", 1, "a", retitle("One"))
	require.NoError(t, err, "also after a later edit")
	assert.Equal(t, second, again)

	back, err := s.Undo("p", second.Version, "c", nil)
	require.NoError(t, err)
	again, err = s.Undo("p", second.Version, "c", nil)
	require.NoError(t, err, "an undo sent again takes back one edit, not two")
	assert.Equal(t, back, again)
	assert.Equal(t, "One", again.Piece.Title)
}

// The change of one piece edits another: were it made inside a transaction, the
// second would wait for the first for ever.
func TestALongEditHoldsUpNobody(t *testing.T) {
	s := opened(t, t.TempDir())
	require.NoError(t, s.Create("p", withClips("keel")))
	require.NoError(t, s.Create("q", withClips("weir")))
	_, err := s.Edit("p", 1, "", func(p *piece.Piece) (*piece.Piece, string, error) {
		_, err := s.Edit("q", 1, "", retitle("Meanwhile"))
		require.NoError(t, err)
		return retitle("Long")(p)
	})
	require.NoError(t, err)
	q, err := s.Load("q")
	require.NoError(t, err)
	assert.Equal(t, "Meanwhile", q.Piece.Title)
}

func TestAnEditOvertakenWhileItWasWorkedOutIsStale(t *testing.T) {
	s := opened(t, t.TempDir())
	require.NoError(t, s.Create("p", withClips("keel")))
	_, err := s.Edit("p", 1, "", func(p *piece.Piece) (*piece.Piece, string, error) {
		_, err := s.Edit("p", 1, "", retitle("Faster"))
		require.NoError(t, err)
		return retitle("Slower")(p)
	})
	var stale *StaleError
	require.ErrorAs(t, err, &stale)
	now, err := s.Load("p")
	require.NoError(t, err)
	assert.Equal(t, "Faster", now.Piece.Title)
}

func TestAFolderIsOneProcesss(t *testing.T) {
	folder := t.TempDir()
	s := opened(t, folder)
	_, err := Open(folder)
	assert.ErrorContains(t, err, fmt.Sprintf("in use by process %d", os.Getpid()))
	beside, err := OpenBeside(folder)
	require.NoError(t, err, "a copy can be made beside it")
	require.NoError(t, beside.Close())
	require.NoError(t, s.Close())
	opened(t, folder)
}

func TestAFolderOfAnyName(t *testing.T) {
	for _, name := range []string{"50% off", "what?", "no#1", "a&b=c", "Übung"} {
		folder := filepath.Join(t.TempDir(), name)
		s := opened(t, folder)
		require.NoError(t, s.Create("p", withClips("keel")), name)
		assert.FileExists(t, filepath.Join(folder, FileName), name)
	}
}

func TestADatabaseThatCannotBeWrittenIsCalledSo(t *testing.T) {
	folder := t.TempDir()
	require.NoError(t, os.Mkdir(filepath.Join(folder, FileName), 0o755))
	_, err := Open(folder)
	assert.ErrorContains(t, err, "the database cannot be read and written")
	assert.NoError(t, os.Remove(filepath.Join(folder, FileName)))
	opened(t, folder) // a failed start leaves no lock behind
}

func TestHistoryIsBoundedByBytes(t *testing.T) {
	s := opened(t, t.TempDir())
	s.most = 2_000
	require.NoError(t, s.Create("p", withClips("keel")))
	version := int64(1)
	long := strings.Repeat("x", 100)
	for i := range 20 {
		state, err := s.Edit("p", version, "", retitle(fmt.Sprint(long, i)))
		require.NoError(t, err)
		version = state.Version
	}
	var bytes, kept int
	require.NoError(t, s.db.Raw("SELECT SUM(LENGTH(change)), COUNT(*) FROM revisions").Row().Scan(&bytes, &kept))
	assert.LessOrEqual(t, bytes, 2_000)
	assert.Positive(t, kept)
	for range kept {
		state, err := s.Undo("p", version, "", nil)
		require.NoError(t, err)
		version = state.Version
	}
	_, err := s.Undo("p", version, "", nil)
	assert.ErrorIs(t, err, ErrNothing)
}

func TestAPieceCannotOutgrowItsFile(t *testing.T) {
	s := opened(t, t.TempDir())
	require.NoError(t, s.Create("p", withClips("keel")))
	_, err := s.Edit("p", 1, "", retitle(strings.Repeat("x", piece.MaxBytes)))
	var fault *piece.Fault
	assert.ErrorAs(t, err, &fault, "it could be exported but not imported again")
	long := withClips("keel")
	long.Title = strings.Repeat("x", piece.MaxBytes)
	assert.ErrorAs(t, s.Create("q", long), &fault)
}

func TestASmallEditOfALargeClipIsASmallRevision(t *testing.T) {
	s := opened(t, t.TempDir())
	p := withClips("keel")
	for range 30 {
		p.Clips[0].Lanes = append(p.Clips[0].Lanes, piece.NewLane("line", fmt.Sprint("lane", len(p.Clips[0].Lanes)), "Läne 漢字"))
	}
	require.NoError(t, s.Create("p", p))
	rename := func(p *piece.Piece) (*piece.Piece, string, error) {
		next := *p
		next.Clips = append([]piece.Clip{}, p.Clips...)
		next.Clips[0].Lanes = append([]piece.Lane{}, p.Clips[0].Lanes...)
		next.Clips[0].Lanes[7].Name = "Läme 漢語"
		return &next, "rename", nil
	}
	state, err := s.Edit("p", 1, "", rename)
	require.NoError(t, err)
	var bytes int
	require.NoError(t, s.db.Raw("SELECT LENGTH(change) FROM revisions").Row().Scan(&bytes))
	assert.Less(t, bytes, 400)
	state, err = s.Undo("p", state.Version, "", nil)
	require.NoError(t, err)
	assert.Equal(t, "Läne 漢字", state.Piece.Clips[0].Lanes[7].Name)
	state, err = s.Redo("p", state.Version, "", nil)
	require.NoError(t, err)
	assert.Equal(t, "Läme 漢語", state.Piece.Clips[0].Lanes[7].Name)
}

// Older programs kept every changed clip whole, and had no keys.
func TestAHistoryOfTheFirstVersionIsReadOn(t *testing.T) {
	folder := t.TempDir()
	s := opened(t, folder)
	require.NoError(t, s.Create("p", withClips("keel")))
	text := fmt.Sprintf(`{"before":{"order":["keel"],"clips":{"keel":{"id":"keel","name":"Weir"}}},"after":{"order":["keel"],"clips":{"keel":%s}}}`, piece.WriteClip(&withClips("keel").Clips[0]))
	for _, sql := range []string{
		"UPDATE pieces SET cursor = 1, version = 2",
		"ALTER TABLE pieces DROP COLUMN last_key",
		"ALTER TABLE pieces DROP COLUMN deleted",
		"ALTER TABLE revisions DROP COLUMN key",
		"ALTER TABLE revisions DROP COLUMN image",
		"DROP TABLE gone_starters",
		"PRAGMA user_version = 1",
	} {
		require.NoError(t, s.db.Exec(sql).Error)
	}
	require.NoError(t, s.db.Exec("INSERT INTO revisions (piece_id, seq, label, change) VALUES ('p', 1, 'rename', ?)", text).Error)
	require.NoError(t, s.Close())

	s = opened(t, folder)
	back, err := s.Undo("p", 2, "", nil)
	require.NoError(t, err)
	assert.Equal(t, "Weir", back.Piece.Clips[0].Name)
	forward, err := s.Redo("p", back.Version, "", nil)
	require.NoError(t, err)
	assert.Equal(t, "keel", forward.Piece.Clips[0].Name)
}

func TestADamagedClipIsNoFaultOfTheCallers(t *testing.T) {
	folder := t.TempDir()
	s := opened(t, folder)
	require.NoError(t, s.Create("p", withClips("keel")))
	require.NoError(t, s.db.Exec(`UPDATE clips SET document = '{"id":"keel","lanes":[{"rate":"soon"}]}'`).Error)
	require.NoError(t, s.Close())
	_, err := opened(t, folder).Load("p")
	require.ErrorContains(t, err, "the stored piece p is damaged")
	var fault *piece.Fault
	assert.NotErrorAs(t, err, &fault)
}

func TestAFullDiskIsSaidInWords(t *testing.T) {
	s := opened(t, t.TempDir())
	require.NoError(t, s.Create("p", withClips("keel")))
	var pages int
	require.NoError(t, s.db.Raw("PRAGMA page_count").Row().Scan(&pages))
	require.NoError(t, s.db.Exec(fmt.Sprintf("PRAGMA max_page_count = %d", pages+1)).Error)
	long := strings.Repeat("x", 100_000)
	_, err := s.Edit("p", 1, "", retitle(long))
	var trouble *TroubleError
	require.ErrorAs(t, err, &trouble)
	assert.Contains(t, trouble.Words, "the disk is full")
	require.ErrorAs(t, s.Create("q", withClips(long)), &trouble)
	require.NoError(t, s.db.Exec("PRAGMA max_page_count = 100000").Error)
	state, err := s.Edit("p", 1, "", retitle("Room again"))
	require.NoError(t, err, "nothing was lost, and it goes on")
	assert.EqualValues(t, 2, state.Version)
}
