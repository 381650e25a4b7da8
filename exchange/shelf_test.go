package exchange

import (
	"bytes"
	"encoding/csv"
	"encoding/json"
	"os"
	"reflect"
	"strings"
	"testing"

	"nephelon/core/material"
)

func demoShelf(t testing.TB) (*Reader, ShelfReading) {
	t.Helper()
	r, err := NewReader()
	if err != nil {
		t.Fatal(err)
	}
	text, err := os.ReadFile("../demo/shelf.json")
	if err != nil {
		t.Fatal(err)
	}
	return r, r.ReadShelf(bytes.NewReader(text))
}

func byID(lines []Line) map[string]material.Product {
	all := make(map[string]material.Product)
	for _, l := range lines {
		all[l.Sheet.ID] = l.Sheet
	}
	return all
}

// The shipped shelf is whole: thirty sheets at least, nothing of them refused.
func TestTheShippedShelf(t *testing.T) {
	_, shelf := demoShelf(t)
	kinds := make(map[material.Kind]bool)
	for _, l := range shelf.Lines {
		kinds[l.Sheet.Kind] = true
	}
	if len(shelf.Lines) < 30 || len(shelf.Refused) > 0 || len(kinds) != 13 || len(shelf.Media) < 12 {
		t.Errorf("%d sheets of %d kinds, %d media, refused %v", len(shelf.Lines), len(kinds), len(shelf.Media), shelf.Refused)
	}
}

func products(lines []Line) []material.Product {
	all := make([]material.Product, len(lines))
	for i, l := range lines {
		all[i] = l.Sheet
	}
	return all
}

// What is written is read again as it was: whole as JSON; as CSV over the same
// shelf, since it has no column for everything.
func TestSheetsComeBack(t *testing.T) {
	r, shelf := demoShelf(t)
	var text bytes.Buffer
	if err := WriteShelf(&text, products(shelf.Lines), shelf.Media); err != nil {
		t.Fatal(err)
	}
	again := r.ReadShelf(&text)
	if !reflect.DeepEqual(again.Lines, shelf.Lines) || !reflect.DeepEqual(again.Media, shelf.Media) ||
		len(again.Refused) > 0 {
		t.Errorf("JSON changed the shelf: %v", again.Refused)
	}
	text.Reset()
	if err := WriteCSV(&text, products(shelf.Lines)); err != nil {
		t.Fatal(err)
	}
	back := r.ReadCSV(text.Bytes(), byID(shelf.Lines))
	if len(back.Refused) > 0 || len(back.Lines) != len(shelf.Lines) {
		t.Fatalf("%d of %d came back as CSV: %v", len(back.Lines), len(shelf.Lines), back.Refused)
	}
	for i, l := range back.Lines {
		if changes := l.Sheet.Changes(shelf.Lines[i].Sheet, "metric"); len(changes) > 0 {
			t.Errorf("%s: %+v", l.Sheet.Name, changes)
		}
	}
	// On an empty shelf a row stands by what it says.
	alone := r.ReadCSV(text.Bytes(), nil)
	if len(alone.Lines) != len(shelf.Lines) || alone.Lines[0].Sheet.VolumeSolids != shelf.Lines[0].Sheet.VolumeSolids {
		t.Errorf("on an empty shelf %d came back: %v", len(alone.Lines), alone.Refused)
	}
}

const head = "id,name,kind,chemistry,ratio,ratio by,density A kg/L,density B kg/L,volume solids %,recoat from " +
	"°C:h,recoat until °C:h,tack-free °C:h,kits\n"

func row(id, density, from, until, tack string) string {
	return id + ",Sheet " + id + ",primer,epoxy,2:1,volume," + density + ",1.01,100," + from + "," + until + "," + tack +
		",5 L set = 5 L @ 80\n"
}

// Bad rows are refused one by one with their line; the good ones stand.
func TestBadRowsAreRefusedByLine(t *testing.T) {
	r, _ := demoShelf(t)
	good := row("one", "1.1", "20:6", "20:24", "10:8; 20:4")
	cases := []struct {
		name, text string
		line, good int
		says       string
	}{
		{"all good", head + good, 0, 1, ""},
		{"window ends before it begins", head + good + row("two", "1.1", "20:24", "20:6", "20:4"), 3, 1, "before it begins"},
		{"times that grow with heat", head + row("two", "1.1", "20:6", "20:24", "10:4; 20:8") + good, 2, 1,
			"increases with temperature"},
		{"a decimal comma in quotes", head + row("two", `"1,1"`, "20:6", "20:24", "20:4") + good, 2, 1,
			"write decimals with a point"},
		{"a decimal comma without", head + row("two", "1,1", "20:6", "20:24", "20:4") + good, 2, 1,
			"14 columns, the first line 13"},
		{"negative solids", head + good + strings.Replace(row("two", "1.1", "20:6", "20:24", "20:4"), ",100,", ",-20,", 1), 3,
			1, "not a share between 0 and 1"},
		{"a duplicate", head + good + row("three", "1.1", "", "", "") + row("one", "1.2", "", "", ""), 4, 2,
			"Line 2 has the id “one” already"},
		{"an unknown kind", head + strings.Replace(good, ",primer,", ",glue,", 1), 2, 0, `"glue" is not one of`},
		{"no kits", head + strings.Replace(good, "5 L set = 5 L @ 80", "", 1), 2, 0, "missing"},
		{"semicolons", strings.ReplaceAll(head+good, ",", ";"), 1, 0, "separated by semicolons"},
		{"tabs", strings.ReplaceAll(head+good, ",", "\t"), 1, 0, "separated by tabs"},
		{"a column nobody knows", "id,colour of lid\nx,blue\n", 1, 0, "no column “colour of lid”"},
		{"a maker’s sheet", "Tern 5\nEpoxy primer\n", 1, 0, "names no columns"},
		{"an open quotation mark", head + good + "two,\"Sheet", 3, 1, "cannot be read"},
		{"nothing", "", 1, 0, "no first line"},
	}
	for _, c := range cases {
		got := r.ReadCSV([]byte(c.text), nil)
		if len(got.Lines) != c.good || (c.line == 0) != (len(got.Refused) == 0) {
			t.Errorf("%s: %d good, refused %v", c.name, len(got.Lines), got.Refused)
			continue
		}
		if c.line > 0 && (got.Refused[0].Line != c.line || !strings.Contains(got.Refused[0].Text, c.says) ||
			got.Refused[0].Way == "") {
			t.Errorf("%s: %+v", c.name, got.Refused[0])
		}
	}
}

// A shelf file with one bad sheet gives the others, and names what is wrong.
func TestBadSheetsOfAShelfFile(t *testing.T) {
	r, shelf := demoShelf(t)
	file := ShelfFile{ShelfFormat, ShelfVersion, products(shelf.Lines)[:3], nil}
	text, err := json.Marshal(file)
	if err != nil {
		t.Fatal(err)
	}
	for name, c := range map[string]struct{ old, new, says string }{
		"an unknown field":           {`"carrier":"none"`, `"carrier":"none","colour":"red"`, "/colour"},
		"a wrong type":               {`"voc":{"value":8,`, `"voc":{"value":"8",`, "/voc/value"},
		"something that contradicts": {`"filmMin":{"value":0.00025,`, `"filmMin":{"value":0.25,`, "/filmMax"},
	} {
		broken := strings.Replace(string(text), c.old, c.new, 1)
		if broken == string(text) {
			t.Fatalf("%s: nothing was broken", name)
		}
		got := r.ReadShelf(strings.NewReader(broken))
		if len(got.Lines) != 2 || len(got.Refused) != 1 || got.Refused[0].Line != 1 || got.Refused[0].Field != c.says {
			t.Errorf("%s: %d good, %+v", name, len(got.Lines), got.Refused)
		}
	}
	for _, text := range []string{"[]", "{}", `{"format":"nephelon-shelf","version":2,"products":[]}`, "not json"} {
		if got := r.ReadShelf(strings.NewReader(text)); len(got.Refused) != 1 || got.Refused[0].Way == "" {
			t.Errorf("%q: %+v", text, got.Refused)
		}
	}
}

// FuzzReadCSV feeds the reader whatever comes; it may refuse, not fall over.
func FuzzReadCSV(f *testing.F) {
	r, _ := demoShelf(f)
	f.Add(head + row("one", "1.1", "20:6", "20:24", "10:8; 20:4"))
	f.Add("id;name\n")
	f.Fuzz(func(t *testing.T, text string) {
		got := r.ReadCSV([]byte(text), nil)
		for _, l := range got.Lines {
			if faults := l.Sheet.Faults(); len(faults) > 0 {
				t.Errorf("a sheet with faults was taken: %v", faults)
			}
		}
		if rows, err := csv.NewReader(strings.NewReader(text)).ReadAll(); err == nil && len(got.Lines) > len(rows) {
			t.Errorf("%d sheets of %d rows", len(got.Lines), len(rows))
		}
	})
}
