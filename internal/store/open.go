package store

import (
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"time"

	"github.com/glebarez/sqlite"
	"github.com/gofrs/flock"
	"gorm.io/gorm"
	"gorm.io/gorm/logger"
)

// FileName is the database's name in its folder.
const FileName = "agrimony.db"

// Open opens the database in a folder for one process alone, makes both when they
// are missing, and brings an older one up to date. The error says who has it when
// another process does, and what cannot be read or written.
func Open(folder string) (*Store, error) {
	if err := os.MkdirAll(folder, 0o700); err != nil {
		return nil, fmt.Errorf("cannot make the data folder: %w", err)
	}
	lock, err := lockFolder(folder)
	if err != nil {
		return nil, err
	}
	s, err := open(folder)
	if err != nil {
		return nil, errors.Join(err, lock.Unlock())
	}
	s.lock = lock
	if s.held, err = os.Stat(lock.Path()); err != nil {
		return nil, errors.Join(fmt.Errorf("cannot look at the lock file: %w", err), s.Close())
	}
	if err := s.purge(time.Now().Add(-KeptFor)); err != nil {
		return nil, errors.Join(fmt.Errorf("cannot let go of what was deleted long ago: %w", err), s.Close())
	}
	return s, nil
}

// OpenBeside opens a database that may be in use, to copy it.
func OpenBeside(folder string) (*Store, error) { return open(folder) }

func open(folder string) (*Store, error) {
	path := filepath.Join(folder, FileName)
	if err := usable(path); err != nil {
		return nil, err
	}
	// In a database's address some signs of a path mean something else.
	address := "file:" + strings.NewReplacer("%", "%25", "?", "%3f", "#", "%23").Replace(path)
	db, err := gorm.Open(
		sqlite.Open(address+"?_pragma=busy_timeout(5000)&_pragma=auto_vacuum(2)&_pragma=journal_mode(WAL)&_pragma=synchronous(FULL)&_pragma=foreign_keys(1)"),
		&gorm.Config{Logger: logger.Discard, SkipDefaultTransaction: true, PrepareStmt: true},
	)
	if err != nil {
		return nil, fmt.Errorf("cannot open %s: %w", path, inWords(err))
	}
	raw, err := db.DB()
	if err != nil {
		return nil, err
	}
	raw.SetMaxOpenConns(1) // one writer at a time; reads are short
	if err := migrate(db); err != nil {
		_ = raw.Close()
		return nil, fmt.Errorf("cannot bring %s up to date: %w", path, inWords(err))
	}
	file, err := os.Stat(path)
	if err != nil {
		return nil, errors.Join(fmt.Errorf("cannot look at %s: %w", path, err), raw.Close())
	}
	return &Store{db: db, path: path, file: file, known: known{pieces: map[string]*stored{}}}, nil
}

// usable says in plain words when a database's file or its folder cannot be read or
// written, which the database itself calls by other names.
func usable(path string) error {
	file, err := os.OpenFile(path, os.O_RDWR|os.O_CREATE, 0o600)
	if err != nil {
		return fmt.Errorf("the database cannot be read and written: %w", err)
	}
	if err := file.Close(); err != nil {
		return err
	}
	// What is in it is its owner's alone, also where an earlier program has made it.
	for _, own := range []string{path, path + "-wal", path + "-shm"} {
		if err := os.Chmod(own, 0o600); err != nil && !errors.Is(err, os.ErrNotExist) && !errors.Is(err, os.ErrPermission) {
			return fmt.Errorf("the database cannot be kept to its owner: %w", err)
		}
	}
	return nil
}

// lockName is the name of the file by which a process has the folder.
const lockName = "lock"

// lockFolder takes a folder for this process.
func lockFolder(folder string) (*flock.Flock, error) {
	path := filepath.Join(folder, lockName)
	lock := flock.New(path, flock.SetPermissions(0o600))
	taken, err := lock.TryLock()
	if err != nil {
		return nil, fmt.Errorf("the data folder cannot be written: %w", err)
	}
	if !taken {
		who, readErr := os.ReadFile(path)
		if readErr != nil || len(who) == 0 {
			who = []byte("another process")
		}
		return nil, fmt.Errorf("%s is in use by %s; stop it, or choose another folder with --data", folder, strings.TrimSpace(string(who)))
	}
	_ = os.Chmod(path, 0o600) // an earlier program let everybody read it; where that cannot be changed it does no harm
	if err := os.WriteFile(path, fmt.Appendf(nil, "process %d\n", os.Getpid()), 0o600); err != nil {
		return nil, errors.Join(fmt.Errorf("the data folder cannot be written: %w", err), lock.Unlock())
	}
	return lock, nil
}

// Close closes the database and lets go of its folder.
func (s *Store) Close() error {
	raw, err := s.db.DB()
	if err != nil {
		return err
	}
	err = raw.Close()
	if s.lock != nil {
		err = errors.Join(err, s.lock.Unlock())
	}
	return err
}

// Backup writes a consistent copy of the database, also while it is in use. The
// file must not exist yet.
func (s *Store) Backup(path string) error {
	if _, err := os.Stat(path); err == nil {
		return fmt.Errorf("%s exists already", path)
	}
	if err := s.db.Exec("VACUUM INTO ?", path).Error; err != nil {
		return fmt.Errorf("cannot back up to %s: %w", path, inWords(err))
	}
	if err := os.Chmod(path, 0o600); err != nil {
		return fmt.Errorf("cannot keep %s to its owner: %w", path, err)
	}
	return nil
}
