package store

import (
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"gorm.io/gorm"

	"agrimony/internal/core/piece"
)

// MaxRevisions is how many edits of a piece can be undone.
const MaxRevisions = 2000

// Edit changes a piece: change gets the piece as it stands at the version given
// and returns the next one, with a label for the history. It runs before the
// transaction, so that a long one holds up nobody. An older version is a
// *StaleError; a key that an edit was made under already, other than "", means
// that this is a repeat, and gives the piece as it stands. What could be redone is
// forgotten.
func (s *Store) Edit(id string, version int64, key string, change func(*piece.Piece) (next *piece.Piece, label string, err error)) (*State, error) {
	now, done, err := s.begin(id, version, key)
	if err != nil || done != nil {
		return done, err
	}
	next, label, err := change(now.piece)
	if err != nil {
		return nil, err
	}
	after := snapshot(next)
	if err := after.fits(next); err != nil {
		return nil, err
	}
	d := difference(now.image, after)
	if d == nil {
		return s.Load(id)
	}
	text, err := json.Marshal(d)
	if err != nil {
		return nil, err
	}
	return s.commit(id, version, func(tx *gorm.DB, now *stored) (*stored, error) {
		cursor := now.row.Cursor
		gone := tx.Where("piece_id = ? AND (seq > ? OR seq <= ?)", id, cursor, cursor+1-MaxRevisions).Delete(&revisionRow{})
		if gone.Error != nil {
			return nil, gone.Error
		}
		revision := revisionRow{PieceID: id, Seq: cursor + 1, Label: label, Change: text, Made: time.Now().UTC(), Key: key}
		if err := tx.Create(&revision).Error; err != nil {
			return nil, err
		}
		if err := s.trim(tx, id, cursor+1); err != nil {
			return nil, err
		}
		return now.put(tx, next, after, cursor+1, key)
	})
}

// maxHistory is how many bytes a piece's history may have; older revisions go.
const maxHistory = 64 << 20

// trim lets the oldest revisions go until a piece's history fits, but never the
// newest, and gives the space back.
func (s *Store) trim(tx *gorm.DB, id string, newest int64) error {
	err := tx.Exec(`DELETE FROM revisions WHERE piece_id = ? AND seq IN (
		SELECT seq FROM (SELECT seq, SUM(LENGTH(change)) OVER (ORDER BY seq DESC) AS total FROM revisions WHERE piece_id = ?) WHERE total > ?) AND seq < ?`,
		id, id, s.historyBytes(), newest).Error
	if err != nil {
		return err
	}
	return tx.Exec("PRAGMA incremental_vacuum(64)").Error
}

func (s *Store) historyBytes() int {
	if s.most > 0 {
		return s.most
	}
	return maxHistory
}

// Undo takes the last edit back; Redo brings it again.
func (s *Store) Undo(id string, version int64, key string) (*State, error) {
	return s.walk(id, version, key, 0)
}

// Redo brings back the edit that was undone last.
func (s *Store) Redo(id string, version int64, key string) (*State, error) {
	return s.walk(id, version, key, 1)
}

func (s *Store) walk(id string, version int64, key string, forward int64) (*State, error) {
	if _, done, err := s.begin(id, version, key); err != nil || done != nil {
		return done, err
	}
	return s.commit(id, version, func(tx *gorm.DB, now *stored) (*stored, error) {
		var revision revisionRow
		err := tx.Where("piece_id = ? AND seq = ?", id, now.row.Cursor+forward).Take(&revision).Error
		if errors.Is(err, gorm.ErrRecordNotFound) {
			return nil, ErrNothing
		}
		if err != nil {
			return nil, err
		}
		var d delta
		if err := json.Unmarshal(revision.Change, &d); err != nil {
			return nil, err
		}
		// Kept letter by letter, because the revisions before tell of stretches of it.
		restored, err := d.onto(now.image, forward == 1)
		if err != nil {
			return nil, err
		}
		next, err := restored.piece()
		if err != nil {
			return nil, fmt.Errorf("the history of piece %s is damaged: %v", id, err)
		}
		return now.put(tx, next, restored, now.row.Cursor+2*forward-1, key)
	})
}

// begin reads a piece that must still be at a version. done is the piece as it
// stands when the key says that the change has been made already.
func (s *Store) begin(id string, version int64, key string) (now *stored, done *State, err error) {
	err = s.db.Transaction(func(tx *gorm.DB) (err error) {
		if now, err = s.read(tx, id); err != nil {
			return err
		}
		if key != "" {
			made := now.row.LastKey == key
			if !made {
				var count int64
				if err := tx.Model(&revisionRow{}).Where("piece_id = ? AND key = ?", id, key).Count(&count).Error; err != nil {
					return err
				}
				made = count > 0
			}
			if made {
				done, err = now.state(tx)
				return err
			}
		}
		if now.row.Version != version {
			return &StaleError{version, now.row.Version}
		}
		return nil
	})
	return now, done, err
}

// commit writes a change of a piece that must still be at a version, in one
// transaction, and returns the piece after it.
func (s *Store) commit(id string, version int64, write func(*gorm.DB, *stored) (*stored, error)) (*State, error) {
	var out *State
	var next *stored
	err := s.db.Transaction(func(tx *gorm.DB) error {
		now, err := s.read(tx, id)
		if err != nil {
			return err
		}
		if now.row.Version != version {
			return &StaleError{version, now.row.Version}
		}
		if next, err = write(tx, now); err != nil {
			return err
		}
		out, err = next.state(tx)
		return err
	})
	if err == nil {
		s.known.put(next)
	}
	return out, err
}
