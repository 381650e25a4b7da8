package main

import (
	"encoding/json"
	"errors"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/carlos7ags/folio/document"

	"nephelon/core/draft"
)

// TestMain lets this program be the process of its own that reads a PDF, as the built one is.
func TestMain(m *testing.M) {
	if len(os.Args) > 1 && os.Args[1] == pdfLines {
		main()
	}
	os.Exit(m.Run())
}

// A data sheet is read from a file or from standard input, as a draft with its lines or as a shelf file; a
// PDF in a process of its own. What cannot be read is refused with what to do.
func TestASheetIsRead(t *testing.T) {
	const text = "Tern 5\nEpoxy primer\n\nPot life: 30 min at 20 °C\n"
	code, out, complaint := nephelon(t, text, "sheet", "-")
	var d draft.Draft
	if err := json.Unmarshal([]byte(out), &d); err != nil || code != 0 || complaint != "" {
		t.Fatalf("code %d, %v, %q", code, err, complaint)
	}
	if d.Format != draft.Format || len(d.Values) != 4 || d.Values[3].Text != "Pot life: 30 min at 20 °C" ||
		d.Values[3].Line != 4 {
		t.Errorf("%+v", d.Values)
	}
	if code, out, _ := nephelon(t, text, "sheet", "-shelf", "-"); code != 0 || !strings.Contains(out,
		`"nephelon-shelf"`) ||
		!strings.Contains(out, `"lasts": 1800`) {
		t.Errorf("code %d, %s", code, out)
	}
	wanted := filepath.Join(t.TempDir(), "sheet.want")
	if err := os.WriteFile(wanted, []byte("name \"Tern 5\"\nchemistry \"epoxy\"\nkind \"primer\"\n"+
		"potLife@20 {\"lasts\":1740}\nvoc 6\n"), 0o600); err != nil {
		t.Fatal(err)
	}
	if code, out, _ := nephelon(t, text, "sheet", "-score", wanted, "-"); code != 0 ||
		!strings.HasPrefix(out, "3 of 5 found, 1 wrong, 0 invented, 2 missed") || !strings.Contains(out, "missed: voc 6") {
		t.Errorf("code %d, %s", code, out)
	}
	name := filepath.Join(t.TempDir(), "sheet.pdf")
	page := document.NewDocument(document.PageSizeA4)
	if err := errors.Join(page.AddHTML("<p>Tern 5</p><p>Epoxy primer</p><p>Pot life: 30 min at 20 °C</p>", nil),
		page.Save(name)); err != nil {
		t.Fatal(err)
	}
	if code, out, complaint := nephelon(t, "", "sheet", name); code != 0 || !strings.Contains(out, `"as": "30 min"`) {
		t.Errorf("code %d, %s, %q", code, out, complaint)
	}
	for want, arguments := range map[string][]string{"name the data sheet": {"sheet"},
		"no such file": {"sheet", "gone.pdf"}, "read what is wanted": {"sheet", "-score", "gone", wanted}} {
		if code, _, complaint := nephelon(t, "", arguments...); code != exitRefused || !strings.Contains(complaint,
			want) {
			t.Errorf("%v: code %d, %q", arguments, code, complaint)
		}
	}
	if code, _, complaint := nephelon(t, "%PDF-1.4 garbage", "sheet", "-"); code != exitRefused ||
		!strings.Contains(complaint, "PDF") {
		t.Errorf("garbage: code %d, %q", code, complaint)
	}
}
