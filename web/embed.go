// Package web holds the built front end. A checkout in which it has not been
// built yet compiles all the same, with nothing but a placeholder in it.
package web

import (
	"embed"
	"io/fs"
)

//go:embed all:dist
var dist embed.FS

// Files are the built front end's files.
func Files() fs.FS {
	files, err := fs.Sub(dist, "dist")
	if err != nil {
		panic(err) // the folder is embedded above
	}
	return files
}
