package store

import (
	"errors"
	"fmt"
	"time"

	"gorm.io/gorm"
)

// MaxTempers is how many tempers of one's own there may be.
const MaxTempers = 200

// ErrNoTemper says that there is no temper of one's own of a name.
var ErrNoTemper = errors.New("there is no temper of your own of this name")

// Temper is a set of dials of one's own: a name, and the dials as requests write them.
type Temper struct {
	Name  string
	Dials []byte
}

// temperRow is a temper of one's own.
type temperRow struct {
	Name    string `gorm:"primaryKey"`
	Dials   []byte
	Updated time.Time
}

func (temperRow) TableName() string { return "tempers" }

// Tempers lists one's own tempers by name.
func (s *Store) Tempers() ([]Temper, error) {
	var rows []temperRow
	if err := s.db.Order("name").Find(&rows).Error; err != nil {
		return nil, err
	}
	out := make([]Temper, len(rows))
	for i, row := range rows {
		out[i] = Temper{row.Name, row.Dials}
	}
	return out, nil
}

// SaveTemper keeps a temper in place of one of its name.
func (s *Store) SaveTemper(own Temper) error {
	return s.write(func(tx *gorm.DB) error {
		var all int64
		if err := tx.Model(&temperRow{}).Where("name <> ?", own.Name).Count(&all).Error; err != nil {
			return err
		}
		if all >= MaxTempers {
			return fmt.Errorf("there are %d tempers of your own, as many as there may be; delete some first", MaxTempers)
		}
		return tx.Save(&temperRow{own.Name, own.Dials, time.Now().UTC()}).Error
	})
}

// DeleteTemper takes a temper of one's own away.
func (s *Store) DeleteTemper(name string) error {
	return s.write(func(tx *gorm.DB) error {
		gone := tx.Where("name = ?", name).Delete(&temperRow{})
		if gone.Error == nil && gone.RowsAffected == 0 {
			return ErrNoTemper
		}
		return gone.Error
	})
}
