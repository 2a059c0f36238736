package store

import (
	"fmt"
	"time"

	"gorm.io/gorm"
)

// pieceRow is a piece without its clips.
type pieceRow struct {
	ID      string `gorm:"primaryKey"`
	Title   string
	Head    []byte // the document without clips
	Version int64
	Cursor  int64 // seq of the revision that undo takes back; 0: none
	Updated time.Time
	LastKey string     // of the request that made the last change
	Deleted *time.Time // nil: it is there
}

// clipRow is a clip of a piece.
type clipRow struct {
	PieceID  string `gorm:"primaryKey"`
	ClipID   string `gorm:"primaryKey"`
	Position int
	Document []byte
}

// revisionRow is one edit in a piece's history.
type revisionRow struct {
	PieceID string `gorm:"primaryKey"`
	Seq     int64  `gorm:"primaryKey;autoIncrement:false"`
	Label   string
	Change  []byte // a delta
	Image   []byte // the piece before it, whole; nil in most
	Made    time.Time
	Key     string // of the request that made it
}

// stepRow is a request under whose key an undo or a redo was made.
type stepRow struct {
	PieceID string `gorm:"primaryKey"`
	Key     string `gorm:"primaryKey"`
	Made    time.Time
}

func (stepRow) TableName() string     { return "steps" }
func (pieceRow) TableName() string    { return "pieces" }
func (clipRow) TableName() string     { return "clips" }
func (revisionRow) TableName() string { return "revisions" }

// migrations bring a database from each version to the next. They are only ever
// added to; a database knows its version as SQLite's user_version.
var migrations = []func(*gorm.DB) error{
	func(tx *gorm.DB) error { return tx.Migrator().CreateTable(&pieceRow{}, &clipRow{}, &revisionRow{}) },
	func(tx *gorm.DB) error {
		// A fresh database has them already: the first migration makes today's tables.
		return withColumns(tx, column{&pieceRow{}, "LastKey"}, column{&revisionRow{}, "Key"})
	},
	func(tx *gorm.DB) error { return tx.AutoMigrate(&starterRow{}) },
	func(tx *gorm.DB) error {
		if err := withColumns(tx, column{&pieceRow{}, "Deleted"}, column{&revisionRow{}, "Image"}); err != nil {
			return err
		}
		return tx.AutoMigrate(&goneStarterRow{})
	},
	func(tx *gorm.DB) error { return tx.AutoMigrate(&temperRow{}) },
	func(tx *gorm.DB) error { return tx.AutoMigrate(&stepRow{}) },
}

type column struct {
	row  any
	name string
}

// withColumns adds those columns that are not there.
func withColumns(tx *gorm.DB, columns ...column) error {
	for _, c := range columns {
		if !tx.Migrator().HasColumn(c.row, c.name) {
			if err := tx.Migrator().AddColumn(c.row, c.name); err != nil {
				return err
			}
		}
	}
	return nil
}

func migrate(db *gorm.DB) error {
	var version int
	if err := db.Raw("PRAGMA user_version").Scan(&version).Error; err != nil {
		return err
	}
	if version < 0 {
		return fmt.Errorf("it says that it is of version %d, which no program writes; allowed: 0..%d", version, len(migrations))
	}
	if version > len(migrations) {
		return fmt.Errorf("it is of version %d, made by a newer program; this one knows up to %d", version, len(migrations))
	}
	for ; version < len(migrations); version++ {
		err := db.Transaction(func(tx *gorm.DB) error {
			if err := migrations[version](tx); err != nil {
				return err
			}
			return tx.Exec(fmt.Sprintf("PRAGMA user_version = %d", version+1)).Error
		})
		if err != nil {
			return err
		}
	}
	return nil
}
