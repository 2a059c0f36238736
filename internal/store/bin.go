package store

import (
	"errors"
	"time"

	"gorm.io/gorm"

	"agrimony/internal/core/piece"
)

// KeptFor is how long what was deleted can be brought back.
const KeptFor = 30 * 24 * time.Hour

// ErrGone says that what was deleted is not there any more.
var ErrGone = errors.New("it is not among what was deleted, or was deleted too long ago")

// Delete takes a piece away; for KeptFor it can be brought back with its history.
func (s *Store) Delete(id string) error {
	err := s.write(func(tx *gorm.DB) error {
		now := time.Now().UTC()
		result := tx.Model(&pieceRow{}).Where("id = ? AND deleted IS NULL", id).Update("deleted", &now)
		if result.Error == nil && result.RowsAffected == 0 {
			return ErrNotFound
		}
		return result.Error
	})
	if err != nil {
		return err
	}
	return s.purge(time.Now().Add(-KeptFor))
}

// Deleted lists the pieces that can be brought back, the latest deleted first.
func (s *Store) Deleted() ([]Gone, error) {
	out := []Gone{}
	err := s.db.Model(&pieceRow{}).Where("deleted IS NOT NULL").Select("id", "title AS name", "deleted").Order("deleted DESC, id").Scan(&out).Error
	return out, err
}

// Restore brings a deleted piece back.
func (s *Store) Restore(id string) error {
	return s.write(func(tx *gorm.DB) error {
		result := tx.Model(&pieceRow{}).Where("id = ? AND deleted IS NOT NULL", id).Update("deleted", nil)
		if result.Error == nil && result.RowsAffected == 0 {
			return ErrGone
		}
		return result.Error
	})
}

// purge lets go for good what was deleted before a time.
func (s *Store) purge(before time.Time) error {
	return s.write(func(tx *gorm.DB) error {
		old := tx.Model(&pieceRow{}).Where("deleted < ?", before).Select("id")
		for _, row := range []any{&revisionRow{}, &clipRow{}, &stepRow{}} {
			if err := tx.Where("piece_id IN (?)", old).Delete(row).Error; err != nil {
				return err
			}
		}
		if err := tx.Where("deleted < ?", before).Delete(&pieceRow{}).Error; err != nil {
			return err
		}
		newest := tx.Model(&goneStarterRow{}).Order("deleted DESC").Limit(MaxStarters).Select("id")
		return tx.Where("deleted < ? OR id NOT IN (?)", before, newest).Delete(&goneStarterRow{}).Error
	})
}

// goneStarterRow is a starter of one's own that was deleted.
type goneStarterRow struct {
	ID       string `gorm:"primaryKey"`
	Name     string
	Document []byte
	Deleted  time.Time
}

func (goneStarterRow) TableName() string { return "gone_starters" }

// DeleteStarter takes a starter of one's own away; for KeptFor it can be brought back.
func (s *Store) DeleteStarter(name, id string) error {
	return s.write(func(tx *gorm.DB) error {
		var row starterRow
		err := tx.Where("name = ?", name).Take(&row).Error
		if errors.Is(err, gorm.ErrRecordNotFound) {
			return ErrNoStarter
		}
		if err == nil {
			err = tx.Create(&goneStarterRow{id, row.Name, row.Document, time.Now().UTC()}).Error
		}
		if err == nil {
			err = tx.Delete(&row).Error
		}
		return err
	})
}

// DeletedStarters lists the starters that can be brought back, the latest deleted first.
func (s *Store) DeletedStarters() ([]Gone, error) {
	out := []Gone{}
	err := s.db.Model(&goneStarterRow{}).Select("id", "name", "deleted").Order("deleted DESC, id").Scan(&out).Error
	return out, err
}

// RestoreStarter brings a deleted starter back. The error is a *TakenError where there is
// another one of its name by now.
func (s *Store) RestoreStarter(id string) error {
	var gone goneStarterRow
	err := s.db.Where("id = ?", id).Take(&gone).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return ErrGone
	}
	if err != nil {
		return err
	}
	own, err := piece.ReadStarter(gone.Document)
	if err != nil {
		return err
	}
	if err := s.SaveStarter(own, false); err != nil {
		return err
	}
	return s.write(func(tx *gorm.DB) error { return tx.Delete(&gone).Error })
}
