// Package store keeps pieces, their clips and their history in SQLite.
//
// Every accepted edit is a revision, written with the piece in one transaction
// that is on disk before it is acknowledged (write-ahead log, full sync). Undo
// and redo walk the revisions, so they outlive the process.
package store

import (
	"bytes"
	"errors"
	"fmt"
	"os"
	"time"

	"github.com/gofrs/flock"
	"gorm.io/gorm"

	"agrimony/internal/core/piece"
)

// Store is an open database.
type Store struct {
	db    *gorm.DB
	path  string
	file  os.FileInfo // of the database when it was opened
	held  os.FileInfo // of the lock file; nil: opened beside another process
	known known
	lock  *flock.Flock // nil: opened beside another process
	most  int          // bytes of a piece's history; 0: maxHistory
}

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

// State is a piece as it stands. The piece is shared with the store and must not
// be changed in place.
type State struct {
	ID      string
	Version int64 // rises with every change, undo and redo
	Piece   *piece.Piece
	Undo    string // what undo would take back; empty: nothing
	Redo    string // what redo would bring back; empty: nothing
}

// List lists the pieces, the latest changed first.
func (s *Store) List() ([]Summary, error) {
	out := []Summary{}
	err := s.db.Model(&pieceRow{}).Where("deleted IS NULL").Select("id", "title", "updated").Order("updated DESC, id").Scan(&out).Error
	return out, inWords(err)
}

// Create keeps a new piece under an id that must not be taken.
func (s *Store) Create(id string, p *piece.Piece) error {
	made, err := snapshot(p, nil)
	if err != nil {
		return err
	}
	return s.write(func(tx *gorm.DB) error {
		row := pieceRow{ID: id, Title: p.Title, Head: made.Head, Version: 1, Updated: time.Now().UTC()}
		if err := tx.Create(&row).Error; err != nil {
			return err
		}
		return writeClips(tx, id, made.Clips, nil)
	})
}

// Has tells whether a piece is there.
func (s *Store) Has(id string) (bool, error) {
	var count int64
	err := s.db.Model(&pieceRow{}).Where("id = ? AND deleted IS NULL", id).Count(&count).Error
	return count > 0, inWords(err)
}

// Load reads a piece.
func (s *Store) Load(id string) (*State, error) {
	var out *State
	err := s.look(func(tx *gorm.DB) (err error) {
		out, err = s.load(tx, id)
		return err
	})
	return out, err
}

// stored is a piece as its rows hold it.
type stored struct {
	row   pieceRow
	image image
	piece *piece.Piece
}

// read gives a piece as it stands in the database. Its documents are parsed only
// when it has changed since it was last read.
func (s *Store) read(tx *gorm.DB, id string) (*stored, error) {
	var out stored
	if err := tx.Where("id = ? AND deleted IS NULL", id).Take(&out.row).Error; err != nil {
		if errors.Is(err, gorm.ErrRecordNotFound) {
			return nil, ErrNotFound
		}
		return nil, err
	}
	if known := s.known.get(id, out.row); known != nil {
		return known, nil
	}
	var clips []clipRow
	if err := tx.Where("piece_id = ?", id).Order("position").Find(&clips).Error; err != nil {
		return nil, err
	}
	out.image.Head = out.row.Head
	for _, c := range clips {
		out.image.Clips = append(out.image.Clips, clipImage{c.ClipID, c.Document})
	}
	var err error
	if out.piece, err = out.image.piece(); err != nil {
		// Not wrapped: what is wrong with it is no fault of whoever asks.
		return nil, fmt.Errorf("the stored piece %s is damaged: %v", id, err)
	}
	s.known.put(&out)
	return &out, nil
}

func (s *Store) load(tx *gorm.DB, id string) (*State, error) {
	now, err := s.read(tx, id)
	if err != nil {
		return nil, err
	}
	return now.state(tx)
}

// state is the piece with what its history offers.
func (s *stored) state(tx *gorm.DB) (*State, error) {
	out := &State{ID: s.row.ID, Version: s.row.Version, Piece: s.piece}
	var near []revisionRow
	if err := tx.Select("seq", "label").Where("piece_id = ? AND seq IN ?", s.row.ID, []int64{s.row.Cursor, s.row.Cursor + 1}).Find(&near).Error; err != nil {
		return nil, err
	}
	for _, r := range near {
		if r.Seq == s.row.Cursor {
			out.Undo = r.Label
		} else {
			out.Redo = r.Label
		}
	}
	return out, nil
}

// put writes the next piece and those of its clips that differ.
func (s *stored) put(tx *gorm.DB, p *piece.Piece, after image, cursor int64, key string) (*stored, error) {
	next := &stored{row: s.row, image: after, piece: p}
	next.row.Title, next.row.Head, next.row.Version, next.row.Cursor, next.row.Updated, next.row.LastKey = p.Title, after.Head, s.row.Version+1, cursor, time.Now().
		UTC(),
		key
	if err := tx.Save(&next.row).Error; err != nil {
		return nil, err
	}
	return next, writeClips(tx, next.row.ID, after.Clips, s.image.Clips)
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
