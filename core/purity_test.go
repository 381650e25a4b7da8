// Package core_test keeps the trade free of everything but the trade.
package core_test

import (
	"go/parser"
	"go/token"
	"io/fs"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"testing"
)

// The core may use these and itself, and nothing else: no database, no HTTP, no
// files, no clock, no randomness.
var allowed = []string{
	"cmp", "encoding/json", "errors", "fmt", "iter", "maps", "math", "reflect", "regexp", "slices", "strconv", "strings",
}

func TestTheCoreIsPure(t *testing.T) {
	files := 0
	err := filepath.WalkDir(".", func(name string, entry fs.DirEntry, err error) error {
		if err != nil || entry.IsDir() || !strings.HasSuffix(name, ".go") || strings.HasSuffix(name, "_test.go") {
			return err
		}
		files++
		parsed, err := parser.ParseFile(token.NewFileSet(), name, nil, parser.ImportsOnly)
		if err != nil {
			return err
		}
		for _, spec := range parsed.Imports {
			path, err := strconv.Unquote(spec.Path.Value)
			if err != nil {
				return err
			}
			if !slices.Contains(allowed, path) && !strings.HasPrefix(path, "nephelon/core/") {
				t.Errorf("%s imports %s", name, path)
			}
		}
		return nil
	})
	if err != nil {
		t.Fatal(err)
	}
	if files < 10 {
		t.Errorf("only %d files looked at", files)
	}
}
