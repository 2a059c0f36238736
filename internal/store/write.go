package store

import (
	"errors"
	"fmt"
	"os"
	"path/filepath"

	gosqlite "github.com/glebarez/go-sqlite"
	"gorm.io/gorm"
)

// TroubleError says in plain words why nothing can be kept just now.
type TroubleError struct{ Words string }

func (e *TroubleError) Error() string { return e.Words }

// write makes a change in one transaction. It is acknowledged only when the database is still
// where it was: one that was deleted under the process goes on to be written, and is gone with
// it.
func (s *Store) write(change func(tx *gorm.DB) error) error {
	if err := s.present(); err != nil {
		return err
	}
	if err := s.db.Transaction(change); err != nil {
		return inWords(err)
	}
	return s.present()
}

// present tells whether the database is still the file that was opened.
func (s *Store) present() error {
	now, err := os.Stat(s.path)
	if err == nil && os.SameFile(now, s.file) {
		return s.locked()
	}
	return &TroubleError{
		fmt.Sprintf("the database %s is not there any more, so nothing can be kept: save your pieces as files, then stop Agrimony and start it again", s.path),
	}
}

// locked tells whether the lock file is still the one by which this process has the folder: without it another
// process may take the folder, too.
func (s *Store) locked() error {
	if s.held == nil {
		return nil
	}
	lock := filepath.Join(filepath.Dir(s.path), lockName)
	if now, err := os.Stat(lock); err == nil && os.SameFile(now, s.held) {
		return nil
	}
	return &TroubleError{
		fmt.Sprintf(
			"the lock file %s was taken away, so another process could write here, too, and nothing can be kept: save your pieces as files, then stop Agrimony and start it again",
			lock,
		),
	}
}

// look reads in one transaction.
func (s *Store) look(read func(tx *gorm.DB) error) error { return inWords(s.db.Transaction(read)) }

// Result codes of SQLite, from its documentation.
const (
	codeReadOnly = 8
	codeIO       = 10
	codeCorrupt  = 11
	codeFull     = 13
	codeNotADB   = 26
)

// damaged says what to do about a database that cannot be read.
const damaged = "the database is damaged: stop Agrimony, keep a copy of the data folder, and put the last good copy in its place (agrimony backup writes such copies); what still opens can be saved as files before"

// inWords puts the errors of a full or broken disk into words.
func inWords(err error) error {
	var problem *gosqlite.Error
	if !errors.As(err, &problem) {
		return err
	}
	switch problem.Code() & 0xff {
	case codeCorrupt, codeNotADB:
		return &TroubleError{damaged}
	case codeFull:
		return &TroubleError{"the disk is full, so this could not be kept; make room on it, and try again"}
	case codeIO:
		return &TroubleError{"the disk could not be written, so this could not be kept; see whether it is full or failing, and try again"}
	case codeReadOnly:
		return &TroubleError{"the database may not be written, so this could not be kept; allow writing to it, and try again"}
	}
	return err
}
