// Package starter has the built-in starters: lanes to begin others from.
package starter

import (
	_ "embed"
	"encoding/json"
	"slices"
	"sync"

	"agrimony/internal/core/piece"
)

//go:embed built-in.json
var documents []byte

// BuiltIn are the built-in starters, by kind and in the order in which a chooser shows them.
// To add one, add its document to built-in.json, and what it is for to about.json.
var BuiltIn = sync.OnceValue(func() []*piece.Starter {
	var each []json.RawMessage
	if err := json.Unmarshal(documents, &each); err != nil {
		panic(err) // the file ships with the program, and a test reads it
	}
	out := make([]*piece.Starter, len(each))
	for i, text := range each {
		own, err := piece.ReadStarter(text)
		if err != nil {
			panic(err)
		}
		out[i] = own
	}
	return out
})

//go:embed about.json
var uses []byte

// abouts are what the built-in starters are for, by name.
var abouts = sync.OnceValue(func() (out map[string]string) {
	if err := json.Unmarshal(uses, &out); err != nil {
		panic(err) // the file ships with the program, and a test reads it
	}
	return out
})

// About says in a few words what a built-in starter is for; empty for others.
func About(name string) string { return abouts()[name] }

// Named finds a built-in starter; nil where there is none of the name.
func Named(name string) *piece.Starter {
	all := BuiltIn()
	if i := slices.IndexFunc(all, func(s *piece.Starter) bool { return s.Name == name }); i >= 0 {
		return all[i]
	}
	return nil
}
