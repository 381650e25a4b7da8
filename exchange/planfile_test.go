package exchange

import (
	"bytes"
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"reflect"
	"strings"
	"testing"
)

func reader(t *testing.T) *Reader {
	t.Helper()
	r, err := NewReader()
	if err != nil {
		t.Fatal(err)
	}
	return r
}

func demoFiles(t *testing.T) []string {
	t.Helper()
	files, err := filepath.Glob("../demo/jobs/*.nephelon.json")
	if err != nil || len(files) == 0 {
		t.Fatalf("no demo jobs: %v", err)
	}
	return files
}

func TestWhatIsWrittenReadsBack(t *testing.T) {
	r := reader(t)
	for _, name := range demoFiles(t) {
		text, err := os.ReadFile(name)
		if err != nil {
			t.Fatal(err)
		}
		first, err := r.Read(bytes.NewReader(text))
		if err != nil {
			t.Fatalf("%s: %v", name, err)
		}
		var written bytes.Buffer
		if err := Write(&written, first); err != nil {
			t.Fatal(err)
		}
		again, err := r.Read(&written)
		if err != nil {
			t.Fatalf("%s written and read: %v", name, err)
		}
		if !reflect.DeepEqual(first, again) {
			t.Errorf("%s changed on its way out and in", name)
		}
	}
}

func TestReadRefusesWithThePath(t *testing.T) {
	good, err := os.ReadFile(demoFiles(t)[0])
	if err != nil {
		t.Fatal(err)
	}
	edit := func(change func(job map[string]any)) string {
		var file map[string]any
		if err := json.Unmarshal(good, &file); err != nil {
			t.Fatal(err)
		}
		change(file)
		text, err := json.Marshal(file)
		if err != nil {
			t.Fatal(err)
		}
		return string(text)
	}
	job := func(f map[string]any) map[string]any { return f["job"].(map[string]any) }
	surface := func(f map[string]any) map[string]any {
		return job(f)["surfaces"].([]any)[0].(map[string]any)
	}
	cases := []struct{ name, text, path, says string }{
		{"not JSON", "{\n\"format\": nope}", "", "line 2"},
		{"cut off", string(good[:len(good)/2]), "", "not JSON"},
		{"another format", edit(func(f map[string]any) { f["format"] = "other" }), "/format",
			`"other" is not one of nephelon-job`},
		{"a later version", edit(func(f map[string]any) { f["version"] = 4 }), "/version", ""},
		{"unknown field", edit(func(f map[string]any) { surface(f)["colour"] = "red" }), "/job/surfaces/0/colour",
			"not known"},
		{"missing field", edit(func(f map[string]any) { delete(job(f), "crew") }), "/job/crew", "missing"},
		{"wrong type", edit(func(f map[string]any) { surface(f)["name"] = 7 }), "/job/surfaces/0/name",
			"where string belongs"},
		{"nobody to spread", edit(func(f map[string]any) { job(f)["crew"].(map[string]any)["spreaders"] = 0 }),
			"/job/crew/spreaders", ""},
		{"a film of nothing", edit(func(f map[string]any) {
			surface(f)["coats"].([]any)[1].(map[string]any)["amount"].(map[string]any)["value"] = 0
		}), "/job/surfaces/0/coats/1/amount/value", ""},
		{"is too large", strings.Replace(string(good), "\"spreaders\": ", "\"spreaders\": 1e9999999, \"x\": ", 1),
			"/job/crew/spreaders", "is too large"},
		{"a field twice", `{"format":"nephelon-job","format":"nephelon-job"}`, "/format", "is there twice"},
		{"a list without end", `{"x":[` + strings.Repeat("1,", 20_001) + `1]}`, "/x", "more than 20000 entries"},
		{"a well without bottom", strings.Repeat(`{"a":`, 60) + "1" + strings.Repeat("}", 60), "/a/a",
			"deeper than anything"},
		{"something after it", string(good) + " {}", "", "follows after the end"},
		{"not UTF-8", "{\"format\":\"\xff\"}", "", "save it as UTF-8"},
		{"a field of two lines", edit(func(f map[string]any) { f["a\nb/c"] = 1 }), `/a\nb~1c`, "not known"},
		{"no such day", edit(func(f map[string]any) {
			job(f)["stock"] = []any{map[string]any{"id": "c", "sheet": "s", "part": "kit", "expires": "2027-02-30"}}
		}), "/job/stock/0/expires", "write it like 2026-11-05"},
		{"no such hour", edit(func(f map[string]any) {
			job(f)["forecast"] = map[string]any{"place": "Quay", "told": "2026-13-45T99:00:00Z", "hours": []any{}}
		}), "/job/forecast/told", "write it like 2026-11-05T07:30:00Z"},
		{"too little", edit(func(f map[string]any) { job(f)["crew"].(map[string]any)["spreaders"] = -3 }),
			"/job/crew/spreaders", "enter 1 at least"},
		{"a corner without a place", edit(func(f map[string]any) {
			surface(f)["floor"].(map[string]any)["outline"] = []any{map[string]any{"x": 1}}
		}), "/job/surfaces/0/floor/outline/0/y", "missing"},
	}
	for _, c := range cases {
		_, err := reader(t).Read(strings.NewReader(c.text))
		if err == nil {
			t.Errorf("%s was read", c.name)
			continue
		}
		if !strings.Contains(err.Error(), c.path) || !strings.Contains(err.Error(), c.says) {
			t.Errorf("%s: got %q, want path %q and %q", c.name, err, c.path, c.says)
		}
	}
}

// A mark of the byte order, and a whole number written with a point, are no faults;
// of many faults the first are told, with how many more there are.
func TestReadForgivesAndBounds(t *testing.T) {
	good, err := os.ReadFile(demoFiles(t)[0])
	if err != nil {
		t.Fatal(err)
	}
	r := reader(t)
	want, err := r.Read(bytes.NewReader(good))
	if err != nil {
		t.Fatal(err)
	}
	pointed := strings.Replace(string(good), `"spreaders": 2`, `"spreaders": 2.0`, 1)
	if pointed == string(good) {
		t.Fatal("no crew of two in the demo")
	}
	for name, text := range map[string]string{"byte-order mark": "\ufeff" + string(good), "2.0 people": pointed} {
		if got, err := r.Read(strings.NewReader(text)); err != nil || !reflect.DeepEqual(got, want) {
			t.Errorf("%s: %v", name, err)
		}
	}
	many := `{"format":"nephelon-job"`
	for i := range 300 {
		many += fmt.Sprintf(`,"k%d":1`, i)
	}
	_, err = r.Read(strings.NewReader(many + "}"))
	if err == nil || !strings.Contains(err.Error(), "more faults; correct these first") || len(err.Error()) > 8000 {
		t.Errorf("300 faults told in %d bytes: %.200v", len(fmt.Sprint(err)), err)
	}
}

func TestPointer(t *testing.T) {
	for location, want := range map[string]string{
		"body.job.surfaces[2].coats[0].amount": "/job/surfaces/2/coats/0/amount",
		"body.file.job.name":                   "/file/job/name",
	} {
		if got := Pointer(location); got != want {
			t.Errorf("%s became %s, want %s", location, got, want)
		}
	}
}
