package store

import (
	"bytes"
	"sync"
)

// maxKnown bounds how many pieces are kept parsed.
const maxKnown = 16

// known keeps the pieces used last, parsed. What it holds counts only as long as
// the database holds the same version, so another process may write it too.
type known struct {
	mutex  sync.Mutex
	pieces map[string]*stored
}

func (k *known) get(id string, row pieceRow) *stored {
	k.mutex.Lock()
	defer k.mutex.Unlock()
	if s := k.pieces[id]; s != nil && s.row.Version == row.Version && s.row.Cursor == row.Cursor && bytes.Equal(s.row.Head, row.Head) && s.row.Updated.Equal(row.Updated) {
		return s
	}
	return nil
}

func (k *known) put(s *stored) {
	k.mutex.Lock()
	defer k.mutex.Unlock()
	if len(k.pieces) >= maxKnown {
		clear(k.pieces)
	}
	k.pieces[s.row.ID] = s
}
