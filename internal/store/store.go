// Package store keeps pieces, their clips and their history in SQLite.
//
// Every accepted edit is a revision, written with the piece in one transaction
// that is on disk before it is acknowledged (write-ahead log, full sync). Undo
// and redo walk the revisions, so they outlive the process.
package store

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"time"

	"github.com/glebarez/sqlite"
	"gorm.io/gorm"
	"gorm.io/gorm/logger"

	"agrimony/internal/core/piece"
)

// Store is an open database.
type Store struct{ db *gorm.DB }

// ErrNotFound says that there is no such piece.
var ErrNotFound = errors.New("there is no such piece")

// ErrNothing says that there is nothing to undo or redo.
var ErrNothing = errors.New("there is nothing to undo or redo")

// StaleError says that a piece has moved on since the version an edit was made
// against.
type StaleError struct{ Given, Current int64 }

func (e *StaleError) Error() string {
	return fmt.Sprintf("the edit was made against version %d, but the piece is at version %d", e.Given, e.Current)
}

// State is a piece as it stands.
type State struct {
	ID      string
	Version int64 // rises with every change, undo and redo
	Piece   *piece.Piece
	Undo    string // what undo would take back; empty: nothing
	Redo    string // what redo would bring back; empty: nothing
}

// MaxRevisions is how many edits of a piece can be undone.
const MaxRevisions = 2000

// FileName is the database's name in its folder.
const FileName = "agrimony.db"

// Open opens the database in a folder, makes both when they are missing, and
// brings an older one up to date.
func Open(folder string) (*Store, error) {
	if err := os.MkdirAll(folder, 0o755); err != nil {
		return nil, fmt.Errorf("cannot make the data folder: %w", err)
	}
	path := filepath.Join(folder, FileName)
	db, err := gorm.Open(sqlite.Open("file:"+path+"?_pragma=busy_timeout(5000)&_pragma=journal_mode(WAL)&_pragma=synchronous(FULL)&_pragma=foreign_keys(1)"),
		&gorm.Config{Logger: logger.Discard, SkipDefaultTransaction: true, PrepareStmt: true})
	if err != nil {
		return nil, fmt.Errorf("cannot open %s: %w", path, err)
	}
	raw, err := db.DB()
	if err != nil {
		return nil, err
	}
	raw.SetMaxOpenConns(1) // one writer at a time; reads are short
	if err := migrate(db); err != nil {
		_ = raw.Close()
		return nil, fmt.Errorf("cannot bring %s up to date: %w", path, err)
	}
	return &Store{db}, nil
}

// Close closes the database.
func (s *Store) Close() error {
	raw, err := s.db.DB()
	if err != nil {
		return err
	}
	return raw.Close()
}

// Backup writes a consistent copy of the database, also while it is in use. The
// file must not exist yet.
func (s *Store) Backup(path string) error {
	if _, err := os.Stat(path); err == nil {
		return fmt.Errorf("%s exists already", path)
	}
	if err := s.db.Exec("VACUUM INTO ?", path).Error; err != nil {
		return fmt.Errorf("cannot back up to %s: %w", path, err)
	}
	return nil
}

// List lists the pieces, the latest changed first.
func (s *Store) List() ([]Summary, error) {
	out := []Summary{}
	err := s.db.Model(&pieceRow{}).Select("id", "title", "updated").Order("updated DESC, id").Scan(&out).Error
	return out, err
}

// Create keeps a new piece under an id that must not be taken.
func (s *Store) Create(id string, p *piece.Piece) error {
	return s.db.Transaction(func(tx *gorm.DB) error {
		row := pieceRow{ID: id, Title: p.Title, Head: piece.WriteHead(p), Version: 1, Updated: time.Now().UTC()}
		if err := tx.Create(&row).Error; err != nil {
			return err
		}
		return writeClips(tx, id, snapshot(p).Clips, nil)
	})
}

// Has tells whether a piece is there.
func (s *Store) Has(id string) (bool, error) {
	var count int64
	err := s.db.Model(&pieceRow{}).Where("id = ?", id).Count(&count).Error
	return count > 0, err
}

// Delete takes a piece and its history away.
func (s *Store) Delete(id string) error {
	return s.db.Transaction(func(tx *gorm.DB) error {
		for _, row := range []any{&revisionRow{}, &clipRow{}} {
			if err := tx.Where("piece_id = ?", id).Delete(row).Error; err != nil {
				return err
			}
		}
		result := tx.Where("id = ?", id).Delete(&pieceRow{})
		if result.Error == nil && result.RowsAffected == 0 {
			return ErrNotFound
		}
		return result.Error
	})
}

// Load reads a piece.
func (s *Store) Load(id string) (*State, error) {
	var out *State
	err := s.db.Transaction(func(tx *gorm.DB) (err error) {
		out, err = load(tx, id)
		return err
	})
	return out, err
}

func load(tx *gorm.DB, id string) (*State, error) {
	var row pieceRow
	if err := tx.Where("id = ?", id).Take(&row).Error; err != nil {
		if errors.Is(err, gorm.ErrRecordNotFound) {
			return nil, ErrNotFound
		}
		return nil, err
	}
	var clips []clipRow
	if err := tx.Where("piece_id = ?", id).Order("position").Find(&clips).Error; err != nil {
		return nil, err
	}
	p, err := piece.Read(row.Head)
	if err != nil {
		return nil, fmt.Errorf("the stored piece %s cannot be read: %w", id, err)
	}
	for _, c := range clips {
		clip, err := piece.ReadClip(c.Document)
		if err != nil {
			return nil, fmt.Errorf("the stored clip %s/%s cannot be read: %w", id, c.ClipID, err)
		}
		p.Clips = append(p.Clips, *clip)
	}
	out := &State{ID: id, Version: row.Version, Piece: p}
	var near []revisionRow
	if err := tx.Select("seq", "label").Where("piece_id = ? AND seq IN ?", id, []int64{row.Cursor, row.Cursor + 1}).Find(&near).Error; err != nil {
		return nil, err
	}
	for _, r := range near {
		if r.Seq == row.Cursor {
			out.Undo = r.Label
		} else {
			out.Redo = r.Label
		}
	}
	return out, nil
}

// Edit changes a piece: change gets the piece as it stands at the version given
// and returns the next one, with a label for the history. An older version is a
// *StaleError. What could be redone is forgotten.
func (s *Store) Edit(id string, version int64, change func(*piece.Piece) (next *piece.Piece, label string, err error)) (*State, error) {
	return s.at(id, version, func(tx *gorm.DB, state *State, row *pieceRow) error {
		next, label, err := change(state.Piece)
		if err != nil {
			return err
		}
		before, after := snapshot(state.Piece), snapshot(next)
		d := difference(before, after)
		if d == nil {
			return nil
		}
		text, err := json.Marshal(d)
		if err != nil {
			return err
		}
		if err := tx.Where("piece_id = ? AND (seq > ? OR seq <= ?)", id, row.Cursor, row.Cursor+1-MaxRevisions).Delete(&revisionRow{}).Error; err != nil {
			return err
		}
		revision := revisionRow{PieceID: id, Seq: row.Cursor + 1, Label: label, Change: text, Made: time.Now().UTC()}
		if err := tx.Create(&revision).Error; err != nil {
			return err
		}
		return put(tx, row, next, after, before, row.Cursor+1)
	})
}

// Undo takes the last edit back; Redo brings it again.
func (s *Store) Undo(id string, version int64) (*State, error) { return s.walk(id, version, 0) }

// Redo brings back the edit that was undone last.
func (s *Store) Redo(id string, version int64) (*State, error) { return s.walk(id, version, 1) }

func (s *Store) walk(id string, version, forward int64) (*State, error) {
	return s.at(id, version, func(tx *gorm.DB, state *State, row *pieceRow) error {
		var revision revisionRow
		err := tx.Where("piece_id = ? AND seq = ?", id, row.Cursor+forward).Take(&revision).Error
		if errors.Is(err, gorm.ErrRecordNotFound) {
			return ErrNothing
		}
		if err != nil {
			return err
		}
		var d delta
		if err := json.Unmarshal(revision.Change, &d); err != nil {
			return err
		}
		before := snapshot(state.Piece)
		side := d.Before
		if forward == 1 {
			side = d.After
		}
		after := side.onto(before)
		next, err := after.piece()
		if err != nil {
			return err
		}
		return put(tx, row, next, after, before, row.Cursor+2*forward-1)
	})
}

// at runs a change of a piece that must still be at a version, in one
// transaction, and returns the piece after it.
func (s *Store) at(id string, version int64, change func(*gorm.DB, *State, *pieceRow) error) (*State, error) {
	var out *State
	err := s.db.Transaction(func(tx *gorm.DB) error {
		state, err := load(tx, id)
		if err != nil {
			return err
		}
		if state.Version != version {
			return &StaleError{version, state.Version}
		}
		var row pieceRow
		if err := tx.Where("id = ?", id).Take(&row).Error; err != nil {
			return err
		}
		if err := change(tx, state, &row); err != nil {
			return err
		}
		out, err = load(tx, id)
		return err
	})
	return out, err
}

// put writes the piece and those of its clips that differ from before.
func put(tx *gorm.DB, row *pieceRow, next *piece.Piece, after, before image, cursor int64) error {
	row.Title, row.Head, row.Version, row.Cursor, row.Updated = next.Title, after.Head, row.Version+1, cursor, time.Now().UTC()
	if err := tx.Save(row).Error; err != nil {
		return err
	}
	return writeClips(tx, row.ID, after.Clips, before.Clips)
}

func writeClips(tx *gorm.DB, id string, after, before []clipImage) error {
	old := map[string]clipRow{}
	for i, c := range before {
		old[c.ID] = clipRow{id, c.ID, i, c.Document}
	}
	for i, c := range after {
		was, there := old[c.ID]
		delete(old, c.ID)
		if there && was.Position == i && bytes.Equal(was.Document, c.Document) {
			continue
		}
		if err := tx.Save(&clipRow{id, c.ID, i, c.Document}).Error; err != nil {
			return err
		}
	}
	for _, gone := range old {
		if err := tx.Delete(&gone).Error; err != nil {
			return err
		}
	}
	return nil
}
