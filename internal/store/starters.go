package store

import (
	"errors"
	"fmt"
	"time"

	"gorm.io/gorm"

	"agrimony/internal/core/piece"
)

// MaxStarters is how many starters of one's own there may be.
const MaxStarters = 500

// TakenError says that a starter of a name is there already.
type TakenError struct{ Name string }

func (e *TakenError) Error() string { return fmt.Sprintf("there is a starter %q already", e.Name) }

// ErrNoStarter says that there is no starter of one's own of a name.
var ErrNoStarter = errors.New("there is no starter of your own of this name")

// ErrFull says that there are as many starters as there may be.
var ErrFull = fmt.Errorf("there are %d starters of your own, as many as there may be; delete some first", MaxStarters)

// starterRow is a starter of one's own.
type starterRow struct {
	Name     string `gorm:"primaryKey"`
	Document []byte
	Updated  time.Time
}

func (starterRow) TableName() string { return "starters" }

// Starters lists one's own starters by name.
func (s *Store) Starters() ([]*piece.Starter, error) {
	var rows []starterRow
	if err := s.db.Order("name").Find(&rows).Error; err != nil {
		return nil, err
	}
	out := make([]*piece.Starter, len(rows))
	for i, row := range rows {
		own, err := piece.ReadStarter(row.Document)
		if err != nil {
			return nil, fmt.Errorf("the starter %q: %w", row.Name, err)
		}
		out[i] = own
	}
	return out, nil
}

// SaveStarter keeps a starter; one of its name gives way only when over is set.
func (s *Store) SaveStarter(own *piece.Starter, over bool) error {
	return s.write(func(tx *gorm.DB) error {
		var all, same int64
		if err := tx.Model(&starterRow{}).Count(&all).Error; err != nil {
			return err
		}
		if err := tx.Model(&starterRow{}).Where("name = ?", own.Name).Count(&same).Error; err != nil {
			return err
		}
		switch {
		case same > 0 && !over:
			return &TakenError{own.Name}
		case same == 0 && all >= MaxStarters:
			return ErrFull
		}
		return tx.Save(&starterRow{Name: own.Name, Document: piece.WriteStarter(own), Updated: time.Now().UTC()}).Error
	})
}
