// Package core_test keeps the trade free of everything but the trade.
package core_test

import (
	"go/parser"
	"go/token"
	"io/fs"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"
)

// The core may use these and itself, and nothing else: no database, no HTTP, no
// files, no clock, and randomness only from a source that is passed in. A pure
// library that takes the place of code of our own may be added here.
var allowed = []string{
	"bytes", "cmp", "context", "crypto/sha256", "encoding/binary", "encoding/hex", "encoding/json",
	"errors", "fmt", "iter", "maps", "math", "math/bits", "math/rand/v2", "reflect", "regexp", "runtime", "runtime/debug",
	"slices", "sort", "strconv", "strings", "sync", "sync/atomic", "time", "unicode", "unicode/utf8",
	// Canonical JSON (RFC 8785) in pure Go.
	"github.com/go-json-experiment/json/jsontext",
	// The Merkle tree of RFC 6962 and signed notes, in pure Go.
	"golang.org/x/mod/sumdb/note", "golang.org/x/mod/sumdb/tlog",
}

func TestTheCoreIsPure(t *testing.T) {
	// Of math/rand/v2 the functions of the package draw from a hidden source.
	random :=
		regexp.MustCompile(
			`\brand\.(Int|IntN|Int32|Int32N|Int64|Int64N|Uint32|Uint64|N|Float32|Float64|NormFloat64|ExpFloat64|Perm|Shuffle)\b`)
	files, clock := 0, regexp.MustCompile(`\btime\.(Now|Since|Until|Sleep|After|Tick|NewTimer|NewTicker)\b`)
	err := filepath.WalkDir(".", func(name string, entry fs.DirEntry, err error) error {
		if err != nil || entry.IsDir() || !strings.HasSuffix(name, ".go") || strings.HasSuffix(name, "_test.go") {
			return err
		}
		files++
		text, err := os.ReadFile(name)
		if err != nil {
			return err
		}
		if drawn := random.Find(text); drawn != nil {
			t.Errorf("%s draws without a source of its own: %s", name, drawn)
		}
		if read := clock.Find(text); read != nil {
			t.Errorf("%s reads the clock: %s", name, read)
		}
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
