package exchange

import (
	"bytes"
	"errors"
	"fmt"
	"html"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/carlos7ags/folio/document"

	"nephelon/core/draft"
	"nephelon/core/sheet"
)

// printedSheet writes the text of a sheet as a PDF, lines with tabs as rows of a table.
func printedSheet(t *testing.T, text string) []byte {
	t.Helper()
	var page strings.Builder
	page.WriteString(`<html><body style="font-size: 10pt">`)
	for _, line := range strings.Split(text, "\n") {
		if cells := strings.Split(line, "\t"); len(cells) > 1 {
			page.WriteString(`<table style="width: 100%"><tr>`)
			for _, c := range cells {
				fmt.Fprintf(&page, `<td style="width: %d%%">%s</td>`, 100/len(cells), html.EscapeString(c))
			}
			page.WriteString(`</tr></table>`)
			continue
		}
		if line == "" {
			page.WriteString(`<div style="height: 24pt"></div>`)
			continue
		}
		fmt.Fprintf(&page, "<p style=\"margin: 0\">%s</p>", html.EscapeString(line))
	}
	page.WriteString("</body></html>")
	d := document.NewDocument(document.PageSizeA4)
	if err := d.AddHTML(page.String(), nil); err != nil {
		t.Fatal(err)
	}
	file, err := d.ToBytes()
	if err != nil {
		t.Fatal(err)
	}
	return file
}

// A sheet printed as a PDF reads as its text does: the same values at the same temperatures, from tables as
// from lines.
func TestAPrintedSheetReadsAsItsText(t *testing.T) {
	for _, name := range []string{"body-us", "columns", "clear-traps", "binder"} {
		text, err := os.ReadFile("../core/sheet/testdata/" + name + ".txt")
		if err != nil {
			t.Fatal(err)
		}
		lines, err := PDFLines(printedSheet(t, string(text)))
		if err != nil {
			t.Fatal(err)
		}
		told := func(d draft.Draft) []string {
			var all []string
			for _, v := range d.Values {
				at := ""
				if v.At != nil {
					at = fmt.Sprintf("@%.1f", *v.At)
				}
				all = append(all, fmt.Sprintf("%s%s %v", v.Path, at, v.Value))
			}
			return all
		}
		want, got := told(sheet.From(sheet.Lines(string(text)))), told(sheet.From(lines))
		missed := 0
		for _, w := range want {
			if !strings.Contains(strings.Join(got, "\n"), w) {
				t.Logf("%s: %s is missed", name, w)
				missed++
			}
		}
		for _, g := range got {
			if !strings.Contains(strings.Join(want, "\n"), g) {
				t.Errorf("%s: %s is invented", name, g)
			}
		}
		if 20*missed > len(want) {
			t.Errorf("%s: %d of %d are missed", name, missed, len(want))
		}
	}
}

// What is no PDF, is damaged or is only a picture is refused with what to do.
func TestBadPDFs(t *testing.T) {
	whole := printedSheet(t, "Tern 5\nEpoxy primer")
	for name, file := range map[string][]byte{"garbage": []byte("%PDF-1.4 garbage"), "cut": whole[:len(whole)/2],
		"large": make([]byte, MostPDFBytes+1), "scrambled": bytes.ReplaceAll(whole, []byte("obj"), []byte("jbo"))} {
		if _, err := PDFLines(file); err == nil {
			t.Errorf("%s: it is read", name)
		}
	}
	if _, err := PDFLines(printedSheet(t, "")); !errors.Is(err, ErrPicture) {
		t.Errorf("an empty one: %v", err)
	}
}

func FuzzPDFLines(f *testing.F) {
	f.Add([]byte("%PDF-1.4\n1 0 obj\n<<>>\nendobj\ntrailer<</Root 1 0 R>>"))
	f.Fuzz(func(t *testing.T, file []byte) {
		_, _ = PDFLines(file) // it may refuse, and must not panic
	})
}

// Two columns of text are read one after the other, between what runs across the page; a table stays as it is.
func TestTwoColumnsAreReadOneAfterTheOther(t *testing.T) {
	left := []string{"A self-levelling epoxy of two parts, free", "of solvents, for floors in halls that carry",
		"trucks and cold stores that are washed down.", "Mixing ratio by volume: 3 parts A, 1 part B",
		"Volume solids of the mix: 98 % by volume", "The mix is poured out at once and spread by",
		"notched trowel, then rolled with spikes that", "let the air out, within its working time.",
		"VOC of the mixed product: at most 24 g/L"}
	right := []string{"Pot life of 5 kg of the mix: 25 min at 20 °C", "Recoat window at 20 °C: from 12 h to 36 h",
		"Light foot traffic after 18 h, at 20 °C again", "and full cure after seven days, wherever the",
		"air moves. Surface temperature: 10 to 30 °C", "Relative humidity of the air: at most 80 %",
		"Dew point: the slab at least 3 K above it,", "measured every hour until the film is hard.",
		"Shelf life: 12 months in closed pails, cool"}
	text := "Gannet 12, the epoxy body coat that is described on both sides of this page and the next one\n"
	want := []string{strings.TrimSpace(text)}
	for i := range left {
		text += left[i] + "\t" + right[i] + "\n"
	}
	text += "This line runs across the whole page again, from its left edge nearly to its right edge, and on\n"
	lines, err := PDFLines(printedSheet(t, text))
	if err != nil {
		t.Fatal(err)
	}
	want = append(append(append(want, left...), right...), "This line runs across the whole page again, "+
		"from its left edge nearly to its right edge, and on")
	var got []string
	for _, l := range lines {
		if l.Text != "" {
			got = append(got, l.Text)
		}
	}
	if !slices.Equal(got, want) {
		t.Errorf("read as\n%s\nwant\n%s", strings.Join(got, "\n"), strings.Join(want, "\n"))
	}
	table := ""
	for i := range 10 {
		table += fmt.Sprintf("Property %d\t%d min at 20 °C\n", i, i+10)
	}
	if lines, err = PDFLines(printedSheet(t, table)); err != nil || len(lines) == 0 || len(lines[0].Cells) != 2 {
		t.Errorf("a table is read as %+v, %v", lines, err)
	}
}

// What runs through all pages is read once: heads with the first page, feet with none.
func TestWhatRunsThroughPagesIsReadOnce(t *testing.T) {
	page := func(texts ...string) []sheet.Line { return sheet.Lines(strings.Join(texts, "\n")) }
	got := withoutRunning([][]sheet.Line{
		page("Gannet 12", "Maker of Skerrow", "Epoxy body coat", "10 °C\t20 °C", "Tack-free\t8 h\t5 h", "Skerrow 7",
			"Page 1 of 3"),
		page("Gannet 12", "Maker of Skerrow", "Recoat from\t16 h\t9 h", "Full cure\t9 d\t7 d", "Skerrow 7",
			"Page 2 of 3"),
		page("Gannet 12", "Light foot\t24 h\t16 h", "Skerrow 7", "Page 3 of 3"), page(), page("Full cure\t9 d\t7 d")})
	var texts []string
	for _, p := range got {
		for _, l := range p {
			texts = append(texts, l.Text)
		}
	}
	want := []string{"Gannet 12", "Maker of Skerrow", "Epoxy body coat", "10 °C 20 °C", "Tack-free 8 h 5 h",
		"Recoat from 16 h 9 h", "Full cure 9 d 7 d", "Light foot 24 h 16 h", "Skerrow 7", "", "Full cure 9 d 7 d"}
	if !slices.Equal(texts, want) {
		t.Errorf("%q", texts)
	}
	if alone := withoutRunning([][]sheet.Line{page("Gannet 12", "Page 1")}); len(alone[0]) != 2 {
		t.Errorf("of one page %v", alone)
	}
}
