package store

import "time"

// Summary is a piece in a list.
type Summary struct {
	ID      string    `json:"id"`
	Title   string    `json:"title"`
	Updated time.Time `json:"updated"`
}
