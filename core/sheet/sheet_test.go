package sheet

import (
	"encoding/json"
	"fmt"
	"math"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
)

// wanted is a value as a careful reader takes it from a sheet.
type wanted struct {
	path  string
	at    *float64
	value any
	doubt bool
}

// wants reads what a careful reader takes from a sheet: a path, with the temperature it holds at, a value
// as JSON, and a question mark where it has to be looked at.
func wants(t *testing.T, file string) []wanted {
	t.Helper()
	text, err := os.ReadFile(file)
	if err != nil {
		t.Fatal(err)
	}
	var all []wanted
	for _, line := range strings.Split(strings.TrimSpace(string(text)), "\n") {
		path, rest, _ := strings.Cut(line, " ")
		value, doubt := strings.CutSuffix(rest, " ?")
		w := wanted{doubt: doubt}
		var at string
		if w.path, at, _ = strings.Cut(path, "@"); at != "" {
			var degrees float64
			if _, err := fmt.Sscan(at, &degrees); err != nil {
				t.Fatal(err)
			}
			w.at = &degrees
		}
		if err := json.Unmarshal([]byte(value), &w.value); err != nil {
			t.Fatalf("%s: %s: %v", file, line, err)
		}
		all = append(all, w)
	}
	return all
}

// same reports whether two values agree to what a sheet prints.
func same(a, b any) bool {
	switch a := a.(type) {
	case float64:
		b, is := b.(float64)
		return is && math.Abs(a-b) <= 1e-4*math.Max(1e-9, math.Abs(b))
	case []any:
		b, is := b.([]any)
		return is && slices.EqualFunc(a, b, same)
	case map[string]any:
		b, is := b.(map[string]any)
		if !is || len(a) != len(b) {
			return false
		}
		for name := range a {
			if !same(a[name], b[name]) {
				return false
			}
		}
		return true
	}
	return a == b
}

func plain(t *testing.T, v any) any {
	t.Helper()
	text, err := json.Marshal(v)
	if err != nil {
		t.Fatal(err)
	}
	var out any
	if err := json.Unmarshal(text, &out); err != nil {
		t.Fatal(err)
	}
	return out
}

// Invented sheets of invented makers, in the layouts and languages of the trade: what each states is
// found with its line, nothing is read wrong, and nothing is invented. Of all values at most one in
// twelve is flagged needlessly. The counts are printed by go test -v.
func TestReadingSheets(t *testing.T) {
	files, err := filepath.Glob("testdata/*.txt")
	if err != nil || len(files) < 6 {
		t.Fatalf("%d sheets, %v", len(files), err)
	}
	stated, found, flagged := 0, 0, 0
	for _, file := range files {
		text, err := os.ReadFile(file)
		if err != nil {
			t.Fatal(err)
		}
		lines := strings.Split(string(text), "\n")
		d := From(Lines(string(text)))
		all := wants(t, strings.TrimSuffix(file, ".txt")+".want")
		used := make([]bool, len(all))
		for _, v := range d.Values {
			if strings.Join(strings.Fields(lines[v.Line-1]), " ") != v.Text || !strings.Contains(v.Text, v.As) {
				t.Errorf("%s: %s is said to stand as %q in line %d", file, v.Path, v.As, v.Line)
			}
			k := slices.IndexFunc(all, func(w wanted) bool {
				return w.path == v.Path && (w.at == nil) == (v.At == nil) && (w.at == nil || math.Abs(*w.at-*v.At) < 1e-4) &&
					same(plain(t, v.Value), w.value)
			})
			if k < 0 {
				t.Errorf("%s: %s %v (%s) from line %d is wrong or invented", file, v.Path, v.Value, v.As, v.Line)
				continue
			}
			used[k] = true
			if v.State == Doubtful && !all[k].doubt {
				flagged++
				t.Logf("%s: %s is flagged needlessly: %s", file, v.Path, v.Why)
			}
			if v.State != Doubtful && all[k].doubt {
				t.Errorf("%s: %s is not flagged", file, v.Path)
			}
		}
		for k, w := range all {
			stated++
			if used[k] {
				found++
			} else {
				t.Logf("%s: %s %v is missed", file, w.path, w.value)
			}
		}
	}
	t.Logf("found %d of %d, %d flagged needlessly", found, stated, flagged)
	if 100*found < 95*stated || 12*flagged > stated {
		t.Errorf("found %d of %d, %d flagged needlessly", found, stated, flagged)
	}
}

// Quantities as sheets write them, by hand.
func TestQuantities(t *testing.T) {
	g := newGrammar()
	for text, want := range map[string]amount{
		"2,5 kg": {of: mass, low: 2.5, high: 2.5}, "1,200 mPa·s": {of: viscosity, low: 1.2, high: 1.2},
		"1/8 in": {}, "6 lb/gal": {of: density, low: 718.95847, high: 718.95847},
		"0,3 kg/m²": {of: perArea, low: 0.3, high: 0.3},
		"12–14 h":   {of: span, low: 43200, high: 50400, ranged: true}, "10 °C to 30 °C": {of: temperature, low: 10,
			high:   30,
			ranged: true}, "55 to 85 °F": {of: temperature, low: 12.777778, high: 29.444444, ranged: true},
		"4 mils": {of: film, low: 101.6e-6, high: 101.6e-6}, "400 ft²/gal": {of: spread, low: 9816.954, high: 9816.954},
		"200 mL/m²": {of: film, low: 2e-4, high: 2e-4}, "30–75%": {of: share, low: 0.3, high: 0.75, ranged: true},
		"HX40 h": {},
	} {
		all := g.find(text)
		if want.of == "" {
			if len(all) > 0 {
				t.Errorf("%q: %+v", text, all)
			}
			continue
		}
		if len(all) != 1 || all[0].of != want.of || !same(all[0].low, want.low) || !same(all[0].high, want.high) ||
			all[0].ranged != want.ranged || all[0].text != text {
			t.Errorf("%q: %+v, want %+v", text, all, want)
		}
	}
}

// A sheet that says one thing in two ways is contradictory with both lines; one that says nothing gives
// nothing, and lists what it lacks.
func TestContradictionsAndSilence(t *testing.T) {
	d := From(Lines("Tern 5\nEpoxy primer\n\nVolume solids: 62 %\nSolids by volume: 60 %\n"))
	doubts := 0
	for _, v := range d.Values {
		if v.Path == "volumeSolids" && v.State == Doubtful && v.Why == "line 4 says 62 %, line 5 says 60 %" {
			doubts++
		}
	}
	if doubts != 2 {
		t.Errorf("%+v", d.Values)
	}
	if d := From(Lines("We are open from 8 to 16.\n")); len(d.Values) != 1 || !slices.Contains(d.Missing, "potLife") {
		t.Errorf("%+v", d.Values)
	}
	shelf := d.Shelf()["products"].([]any)[0].(map[string]any)
	if shelf["id"] != "tern-5" || shelf["chemistry"] != "epoxy" || shelf["potLife"] != nil {
		t.Errorf("%v", shelf)
	}
}

func FuzzRead(f *testing.F) {
	files, err := filepath.Glob("testdata/*.txt")
	if err != nil {
		f.Fatal(err)
	}
	for _, file := range files {
		text, err := os.ReadFile(file)
		if err != nil {
			f.Fatal(err)
		}
		f.Add(string(text))
	}
	f.Fuzz(func(t *testing.T, text string) {
		d := From(Lines(text))
		if _, err := json.Marshal(d); err != nil {
			t.Error(err)
		}
	})
}

func BenchmarkReading(b *testing.B) {
	text, err := os.ReadFile("testdata/body-us.txt")
	if err != nil {
		b.Fatal(err)
	}
	for b.Loop() {
		From(Lines(string(text)))
	}
}
