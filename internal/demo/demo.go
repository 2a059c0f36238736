// Package demo holds the sample piece: music for a lantern procession of boats
// on a town canal.
package demo

import (
	_ "embed"

	"agrimony/internal/core/piece"
)

// ID is the id under which the demo piece is kept.
const ID = "lantern-regatta"

//go:embed lantern-regatta.json
var document []byte

// Document is the piece as a document.
func Document() []byte { return document }

// Piece reads the piece.
func Piece() (*piece.Piece, error) { return piece.Read(document) }
