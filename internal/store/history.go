package store

import (
	"encoding/json"
	"time"

	"gorm.io/gorm"

	"agrimony/internal/core/piece"
)

// MaxRevisions is how many edits of a piece can be undone.
const MaxRevisions = 2000

// A Change gets a piece as it stands and returns the next one, with a label for the history; its error leaves all as it is.
type Change func(*piece.Piece) (next *piece.Piece, label string, err error)

// made is the piece after a change, and its image.
func (change Change) made(now *stored) (next *piece.Piece, after image, label string, err error) {
	if next, label, err = change(now.piece); err != nil {
		return nil, image{}, "", err
	}
	after, err = snapshot(next, now)
	return next, after, label, err
}

// Draft works out a change as Edit does, of the piece as it stands at the version given, and keeps nothing of it.
func (s *Store) Draft(id string, version int64, change Change) error {
	now, _, err := s.begin(id, version, "")
	if err == nil {
		_, _, _, err = change.made(now)
	}
	return err
}

// Edit changes a piece: change gets the piece as it stands at the version given. It runs before the
// transaction, so that a long one holds up nobody. An older version is a
// *StaleError; a key that an edit was made under already, other than "", means
// that this is a repeat, and gives the piece as it stands. What could be redone is
// forgotten.
func (s *Store) Edit(id string, version int64, key string, change Change) (*State, error) {
	now, done, err := s.begin(id, version, key)
	if err != nil || done != nil {
		return done, err
	}
	next, after, label, err := change.made(now)
	if err != nil {
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
	seq := now.row.Cursor + 1
	var packed []byte
	if seq%imageEvery == 1 {
		if packed, err = now.image.pack(); err != nil {
			return nil, err
		}
		if len(packed) > s.historyBytes()/largestImage {
			packed = nil
		}
	}
	return s.commit(id, version, func(tx *gorm.DB, now *stored) (*stored, error) {
		gone := tx.Where("piece_id = ? AND (seq >= ? OR seq <= ?)", id, seq, seq-MaxRevisions).Delete(&revisionRow{})
		if gone.Error != nil {
			return nil, gone.Error
		}
		revision := revisionRow{PieceID: id, Seq: seq, Label: label, Change: text, Image: packed, Made: time.Now().UTC(), Key: key}
		if err := tx.Create(&revision).Error; err != nil {
			return nil, err
		}
		if err := s.trim(tx, id, seq); err != nil {
			return nil, err
		}
		return now.put(tx, next, after, seq, key)
	})
}

// Every so many revisions one holds the whole piece as it was before, from which others that
// do not fit are recovered, unless that takes too large a part of the history.
const (
	imageEvery   = 32
	largestImage = 8
)

// maxHistory is how many bytes a piece's history may have; older revisions go.
const maxHistory = 64 << 20

// trim lets the oldest revisions go until a piece's history fits, but never the
// newest, and gives the space back.
func (s *Store) trim(tx *gorm.DB, id string, newest int64) error {
	err := tx.Exec(`DELETE FROM revisions WHERE piece_id = ? AND seq IN (
		SELECT seq FROM (SELECT seq, SUM(LENGTH(change) + COALESCE(LENGTH(image), 0)) OVER (ORDER BY seq DESC) AS total FROM revisions WHERE piece_id = ?) WHERE total > ?) AND seq < ?`,
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

// Try is asked whether a piece can be used as it would be. Its error leaves all as it is.
type Try = func(was, next *piece.Piece) error

// Undo takes the last edit back; Redo brings it again. A try that is not nil is asked first.
func (s *Store) Undo(id string, version int64, key string, try Try) (*State, error) {
	return s.walk(id, version, key, 0, try)
}

// Redo brings back the edit that was undone last.
func (s *Store) Redo(id string, version int64, key string, try Try) (*State, error) {
	return s.walk(id, version, key, 1, try)
}

func (s *Store) walk(id string, version int64, key string, forward int64, try Try) (*State, error) {
	now, done, err := s.begin(id, version, key)
	if err != nil || done != nil {
		return done, err
	}
	restored, next, err := s.restore(id, now, forward == 1)
	if err == nil && try != nil {
		err = try(now.piece, next)
	}
	if err != nil {
		return nil, err
	}
	return s.commit(id, version, func(tx *gorm.DB, now *stored) (*stored, error) {
		if err := remember(tx, id, key); err != nil {
			return nil, err
		}
		return now.put(tx, next, restored, now.row.Cursor+2*forward-1, key)
	})
}

// maxSteps is how many undos and redos of a piece are remembered by their keys.
const maxSteps = 500

// remember keeps the key under which a step was made, so that one that is asked for again, because no answer came, is
// known, whatever was made meanwhile.
func remember(tx *gorm.DB, id, key string) error {
	if key == "" {
		return nil
	}
	if err := tx.Create(&stepRow{PieceID: id, Key: key, Made: time.Now().UTC()}).Error; err != nil {
		return err
	}
	newest := tx.Model(&stepRow{}).Where("piece_id = ?", id).Order("made DESC").Limit(maxSteps).Select("key")
	return tx.Where("piece_id = ? AND key NOT IN (?)", id, newest).Delete(&stepRow{}).Error
}

// begin reads a piece that must still be at a version. done is the piece as it
// stands when the key says that the change has been made already.
func (s *Store) begin(id string, version int64, key string) (now *stored, done *State, err error) {
	err = s.look(func(tx *gorm.DB) (err error) {
		if now, err = s.read(tx, id); err != nil {
			return err
		}
		if key != "" {
			made := now.row.LastKey == key
			for _, row := range []any{&revisionRow{}, &stepRow{}} {
				var count int64
				if err := tx.Model(row).Where("piece_id = ? AND key = ?", id, key).Count(&count).Error; err != nil {
					return err
				}
				made = made || count > 0
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
	err := s.write(func(tx *gorm.DB) error {
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
