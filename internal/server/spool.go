package server

import (
	"bytes"
	"errors"
	"io"
	"os"
)

// A spool holds the bytes of a request or of an answer while its client sends or reads them, however
// slowly: a few in memory, and more in a file without a name, so that clients that fall asleep hold
// no memory. The zero value is empty.
type spool struct {
	memory bytes.Buffer
	file   *os.File // nil: all is in memory
	size   int64
}

// spooled is how many bytes are kept in memory.
const spooled = 256 << 10

func (s *spool) Write(data []byte) (int, error) {
	s.size += int64(len(data))
	if s.file == nil && s.memory.Len()+len(data) <= spooled {
		return s.memory.Write(data)
	}
	if s.file == nil {
		file, err := os.CreateTemp("", "agrimony-*")
		if err != nil {
			return 0, err
		}
		s.file = file
		_ = os.Remove(file.Name()) // where an open file cannot lose its name, close does it
		if _, err := s.memory.WriteTo(file); err != nil {
			return 0, err
		}
		s.memory = bytes.Buffer{}
	}
	return s.file.Write(data)
}

// reader returns the bytes from the first on.
func (s *spool) reader() (io.Reader, error) {
	if s.file == nil {
		return bytes.NewReader(s.memory.Bytes()), nil
	}
	_, err := s.file.Seek(0, io.SeekStart)
	return s.file, err
}

// close lets the bytes go.
func (s *spool) close() {
	s.memory = bytes.Buffer{}
	if s.file == nil {
		return
	}
	_ = s.file.Close()
	if err := os.Remove(s.file.Name()); err != nil && !errors.Is(err, os.ErrNotExist) {
		return // the system clears its folder for such files
	}
	s.file = nil
}
