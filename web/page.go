// Package web embeds the built page in the program.
package web

import (
	"embed"
	"io/fs"
)

//go:embed all:dist
var dist embed.FS

// Page is the built page. Before it is built the file system holds no
// index.html, so that the program can be compiled without Node.
func Page() fs.FS {
	page, err := fs.Sub(dist, "dist/page")
	if err != nil {
		panic("web: " + err.Error()) // the path is a constant
	}
	return page
}
