package store

import "time"

// Summary is a piece in a list.
type Summary struct {
	ID      string    `json:"id"`
	Title   string    `json:"title"`
	Updated time.Time `json:"updated"`
}

// Gone is something that was deleted and can be brought back.
type Gone struct {
	ID      string    `json:"id"`
	Name    string    `json:"name"`
	Deleted time.Time `json:"deleted"`
}
