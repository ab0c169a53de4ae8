// Package ui is the built interface, embedded. `npm run build` in this folder
// makes dist; only its robots.txt is in git, so that Go builds without it.
package ui

import (
	"embed"
	"io/fs"
)

//go:embed all:dist
var dist embed.FS

// Files is the root of the built interface.
func Files() fs.FS {
	files, err := fs.Sub(dist, "dist")
	if err != nil {
		panic(err) // the folder is embedded above
	}
	return files
}
