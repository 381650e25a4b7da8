package main

import (
	"strings"
	"testing"
)

// What `nephelon work` cannot do is refused before a database is opened, with what to name.
func TestWorkIsRefused(t *testing.T) {
	t.Setenv("NEPHELON_DB", "")
	for _, c := range []struct {
		says      string
		arguments []string
	}{
		{"name the database with -db", []string{"work"}},
		{"name the database with -db", []string{"serve", "-work=false"}},
		{"at least one roster", []string{"work", "-db", "postgres://nowhere", "-most", "0"}},
		{`invalid value "half"`, []string{"work", "-most", "half"}},
	} {
		if code, out, complaint := nephelon(t, "", c.arguments...); code != exitRefused || out != "" ||
			!strings.Contains(complaint, c.says) {
			t.Errorf("%v: %d %q %q", c.arguments, code, out, complaint)
		}
	}
}
