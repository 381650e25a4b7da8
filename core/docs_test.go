package core_test

import (
	"go/ast"
	"go/parser"
	"go/scanner"
	"go/token"
	"io/fs"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
	"unicode/utf8"
)

// A doc comment begins with the name of what it documents, with or without an article, so that
// it reads as a sentence wherever it is shown and none is left behind by a rename or a move; and it
// says what that returns, holds or reports.
func TestDocsBeginWithTheirName(t *testing.T) {
	// "gone tells whether …", "calm is what keeps …"
	riddle := regexp.MustCompile(`^\w+ (tells|(is|are) (what|how|when|where|who|whether|that|of|why|until|by|in))\b`)
	found := 0
	eachGoFile(t, func(name string) error {
		if strings.HasSuffix(name, "_test.go") {
			return nil
		}
		set := token.NewFileSet()
		file, err := parser.ParseFile(set, name, nil, parser.ParseComments)
		if err != nil {
			return err
		}
		for doc, of := range documented(file) {
			found++
			text := doc.Text()
			for _, article := range []string{"A ", "An ", "The "} {
				text = strings.TrimPrefix(text, article)
			}
			if text != "" && !strings.HasPrefix(text, of) {
				t.Errorf("%s: the comment of %s begins with %.40q", set.Position(doc.Pos()), of, text)
			}
			if riddle.MatchString(text) {
				t.Errorf("%s: %.40q; say what it returns, holds or reports", set.Position(doc.Pos()), text)
			}
		}
		return nil
	})
	if found < 1000 {
		t.Errorf("only %d comments were found", found)
	}
}

// A line of code has at most 120 characters. Lines of a raw string are its own: statements of
// another language, data of a test, the tags of a field.
func TestLineLength(t *testing.T) {
	const limit = 120
	eachGoFile(t, func(name string) error {
		text, err := os.ReadFile(name)
		if err != nil {
			return err
		}
		set := token.NewFileSet()
		file := set.AddFile(name, set.Base(), len(text))
		raw := make(map[int]bool)
		var tokens scanner.Scanner
		tokens.Init(file, text, nil, scanner.ScanComments)
		for {
			at, tok, literal := tokens.Scan()
			if tok == token.EOF {
				break
			}
			if tok == token.STRING && literal[0] == '`' {
				first := file.Line(at)
				for line := first; line <= first+strings.Count(literal, "\n"); line++ {
					raw[line] = true
				}
			}
		}
		for i, line := range strings.Split(string(text), "\n") {
			if n := utf8.RuneCountInString(line); n > limit && !raw[i+1] {
				t.Errorf("%s:%d has %d characters", name, i+1, n)
			}
		}
		return nil
	})
}

// A package of the core has at most 3,000 lines beside its tests: what is larger is more than one.
func TestPackageSize(t *testing.T) {
	const limit = 3000
	lines := make(map[string]int)
	eachGoFile(t, func(name string) error {
		if strings.HasSuffix(name, "_test.go") || !strings.HasPrefix(name, filepath.Join("..", "core")) {
			return nil
		}
		text, err := os.ReadFile(name)
		lines[filepath.Dir(name)] += strings.Count(string(text), "\n")
		return err
	})
	for of, n := range lines {
		if n > limit {
			t.Errorf("%s has %d lines", of, n)
		}
	}
	if len(lines) < 20 {
		t.Errorf("only %d packages were found", len(lines))
	}
}

// A function has at most 80 lines: what is longer does more than one thing.
func TestFunctionLength(t *testing.T) {
	const limit = 80
	eachGoFile(t, func(name string) error {
		if strings.HasSuffix(name, "_test.go") {
			return nil
		}
		set := token.NewFileSet()
		file, err := parser.ParseFile(set, name, nil, 0)
		if err != nil {
			return err
		}
		for _, d := range file.Decls {
			if f, is := d.(*ast.FuncDecl); is {
				if n := set.Position(f.End()).Line - set.Position(f.Pos()).Line + 1; n > limit {
					t.Errorf("%s: %s has %d lines", set.Position(f.Pos()), f.Name.Name, n)
				}
			}
		}
		return nil
	})
}

// eachGoFile calls check with the path of every Go file of the module.
func eachGoFile(t *testing.T, check func(name string) error) {
	t.Helper()
	err := filepath.WalkDir("..", func(name string, entry fs.DirEntry, err error) error {
		if err != nil || entry.IsDir() {
			if err == nil && (entry.Name() == "node_modules" || entry.Name() == ".git") {
				return filepath.SkipDir
			}
			return err
		}
		if !strings.HasSuffix(name, ".go") {
			return nil
		}
		return check(name)
	})
	if err != nil {
		t.Fatal(err)
	}
}

// What a package offers is documented: exported types, and exported functions and methods of those.
func TestExportedIsDocumented(t *testing.T) {
	eachGoFile(t, func(name string) error {
		if strings.HasSuffix(name, "_test.go") {
			return nil
		}
		set := token.NewFileSet()
		file, err := parser.ParseFile(set, name, nil, parser.ParseComments)
		if err != nil {
			return err
		}
		for _, d := range file.Decls {
			switch d := d.(type) {
			case *ast.FuncDecl:
				// The methods of an interface of the library say what that says.
				known := map[string]bool{"Error": true, "Unwrap": true, "Len": true, "Less": true, "Swap": true, "Push": true,
					"Pop": true}
				if d.Doc == nil && d.Name.IsExported() && !known[d.Name.Name] {
					t.Errorf("%s: %s is not documented", set.Position(d.Pos()), d.Name.Name)
				}
			case *ast.GenDecl:
				for _, s := range d.Specs {
					if s, is := s.(*ast.TypeSpec); is && s.Name.IsExported() && s.Doc == nil && d.Doc == nil {
						t.Errorf("%s: %s is not documented", set.Position(s.Pos()), s.Name.Name)
					}
				}
			}
		}
		return nil
	})
}

// documented returns the comments of functions and of single declarations, with their names.
func documented(file *ast.File) map[*ast.CommentGroup]string {
	all := make(map[*ast.CommentGroup]string)
	add := func(doc *ast.CommentGroup, name string) {
		if doc != nil {
			all[doc] = name
		}
	}
	for _, d := range file.Decls {
		switch d := d.(type) {
		case *ast.FuncDecl:
			add(d.Doc, d.Name.Name)
		case *ast.GenDecl:
			if d.Lparen.IsValid() || d.Tok == token.IMPORT {
				continue
			}
			switch s := d.Specs[0].(type) {
			case *ast.TypeSpec:
				add(d.Doc, s.Name.Name)
			case *ast.ValueSpec:
				add(d.Doc, s.Names[0].Name)
			}
		}
	}
	return all
}
