// Package web carries the built interface into the binary.
package web

import (
	"embed"
	"fmt"
	"io/fs"
)

//go:embed all:dist
var dist embed.FS

// Pages is the built interface.
func Pages() (fs.FS, error) {
	pages, err := fs.Sub(dist, "dist")
	if err != nil {
		return nil, fmt.Errorf("open the interface: %w", err)
	}
	return pages, nil
}
