package op

import "encoding/json"

// WriteOrder puts entries in the place of the whole running order.
type WriteOrder struct {
	Entries json.RawMessage `json:"entries" tstype:"Entry[]"`
}

// AddEntries adds entries to the running order.
type AddEntries struct {
	Entries json.RawMessage `json:"entries" tstype:"Partial<Entry>[]"`
}

// SetEntries changes fields of entries, from 1.
type SetEntries struct {
	Entries []int           `json:"entries"`
	Patch   json.RawMessage `json:"patch" tstype:"Partial<Entry>"`
}

// MoveEntries moves entries, from 1, by 960ths of a quarter.
type MoveEntries struct {
	Entries []int `json:"entries"`
	By      int   `json:"by"`
}

// StretchEntries moves the start or the end of entries, from 1, by 960ths of a quarter: at the start what
// sounds where stays.
type StretchEntries struct {
	Entries []int `json:"entries"`
	By      int   `json:"by"`
	Start   bool  `json:"start,omitempty"`
}

// CopyEntries puts copies of entries, from 1, so many 960ths of a quarter later; 0: right after the last of them.
type CopyEntries struct {
	Entries []int `json:"entries"`
	By      int   `json:"by"`
}

// SplitEntries makes two of each entry, from 1, that sounds at a time of the order, so that nothing sounds
// otherwise.
type SplitEntries struct {
	Entries []int `json:"entries"`
	At      int   `json:"at"`
}

// RemoveEntries takes entries, from 1, away.
type RemoveEntries struct {
	Entries []int `json:"entries"`
}

// KeepPlayed writes what was played as the running order, in place of what was there.
type KeepPlayed struct {
	Played []Played `json:"played"`
}

// Played is a clip that sounded for a time, in 960ths of a quarter.
type Played struct {
	Clip  string   `json:"clip"`
	At    int      `json:"at"`
	For   int      `json:"for"`
	Mute  []string `json:"mute,omitempty"`
	Shift int      `json:"shift,omitempty"`
	// GoesOn tells that it goes on where the same clip left off; then From and Pass say nothing.
	GoesOn bool   `json:"goesOn,omitempty"`
	From   int    `json:"from,omitempty"`
	Pass   int    `json:"pass,omitempty"` // 0: 1
	Run    string `json:"run,omitempty"`  // "": as entries that say nothing
	Luck   string `json:"luck,omitempty"`
	Ring   bool   `json:"ring,omitempty"`
}
