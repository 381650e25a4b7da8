package exchange

import (
	"bytes"
	"encoding/json"
	"maps"
	"os"
	"slices"
	"testing"
	"time"

	"nephelon/core/job"
	"nephelon/core/measure"
	"nephelon/core/plan"
)

// A read and a plan of anything end within these bounds, or the fuzzer has found a
// fault: far above what the largest job takes on a slow machine.
const fuzzPatience = 20 * time.Second

func bounded(t *testing.T, what string, work func()) {
	t.Helper()
	begun := time.Now()
	work()
	if took := time.Since(begun); took > fuzzPatience {
		t.Fatalf("%s took %v", what, took)
	}
}

// FuzzPlan puts any value in the place of any one of a demo job, or takes it out, and
// reads, plans and buys: no crash, no number that is none.
func FuzzPlan(f *testing.F) {
	r, err := NewReader()
	if err != nil {
		f.Fatal(err)
	}
	names := []string{"baggage-hall", "lamp-room", "oyster-bar", "seal-nursery", "settling-basin"}
	texts := make([][]byte, len(names))
	for i, name := range names {
		if texts[i], err = os.ReadFile("../demo/jobs/" + name + ".nephelon.json"); err != nil {
			f.Fatal(err)
		}
		for leaf := range uint(12) {
			for _, value := range []float64{0, -1, 1e-12, 1e12} {
				f.Add(uint(i), leaf*157, uint(0), value)
			}
			f.Add(uint(i), leaf*91, leaf%4, 0.5)
		}
	}
	planner := plan.NewPlanner()
	at := time.Date(2026, 11, 5, 7, 30, 0, 0, time.UTC)
	f.Fuzz(func(t *testing.T, which, leaf, kind uint, value float64) {
		var document any
		if err := json.Unmarshal(texts[which%uint(len(texts))], &document); err != nil {
			t.Fatal(err)
		}
		leaves := 0
		replaced(document, func(old any) (any, bool) {
			leaves++
			return old, true
		})
		at0, seen := int(leaf%uint(leaves)), 0
		replaced(document, func(old any) (any, bool) {
			if seen++; seen-1 != at0 {
				return old, true
			}
			switch kind % 4 {
			case 1:
				return nil, false
			case 2:
				return "", true
			case 3:
				return []any{old, old}, true
			}
			return value, true
		})
		text, err := json.Marshal(document)
		if err != nil {
			return // no number that JSON can hold
		}
		bounded(t, "reading and planning", func() {
			file, err := r.Read(bytes.NewReader(text))
			if err != nil {
				return
			}
			if _, err := json.Marshal(planner.Make(file, measure.Metric, at)); err != nil {
				t.Fatal(err)
			}
			together, err := plan.BuyTogether([]job.File{file, file}, measure.US, at)
			if err != nil {
				return
			}
			if _, err := json.Marshal(together); err != nil {
				t.Fatal(err)
			}
		})
	})
}

// replaced goes through all leaves of a document, in the order of their names.
func replaced(value any, by func(any) (any, bool)) {
	one := func(old any, set func(any), remove func()) {
		switch old.(type) {
		case map[string]any, []any:
			replaced(old, by)
			return
		}
		if next, keep := by(old); keep {
			set(next)
		} else {
			remove()
		}
	}
	switch v := value.(type) {
	case map[string]any:
		for _, name := range slices.Sorted(maps.Keys(v)) {
			one(v[name], func(next any) { v[name] = next }, func() { delete(v, name) })
		}
	case []any:
		for i := range v {
			one(v[i], func(next any) { v[i] = next }, func() { v[i] = nil })
		}
	}
}

// FuzzShelf reads any file as data sheets, as JSON and as CSV.
func FuzzShelf(f *testing.F) {
	text, err := os.ReadFile("../demo/shelf.json")
	if err != nil {
		f.Fatal(err)
	}
	r, err := NewReader()
	if err != nil {
		f.Fatal(err)
	}
	f.Add(text)
	reading := r.ReadShelf(bytes.NewReader(text))
	var csv bytes.Buffer
	for _, l := range reading.Lines[:2] {
		if err := WriteCSV(&csv, nil); err != nil {
			f.Fatal(err)
		}
		f.Add(bytes.Clone(csv.Bytes()))
		one, err := json.Marshal(map[string]any{"format": ShelfFormat, "version": ShelfVersion, "products": []any{l.Sheet}})
		if err != nil {
			f.Fatal(err)
		}
		f.Add(one)
	}
	f.Fuzz(func(t *testing.T, text []byte) {
		bounded(t, "reading", func() {
			for _, reading := range []ShelfReading{r.ReadShelf(bytes.NewReader(text)), r.ReadCSV(text, nil)} {
				if len(reading.Refused) > mostRefused+50 {
					t.Fatalf("%d refusals", len(reading.Refused))
				}
				if _, err := json.Marshal(reading.Lines); err != nil {
					t.Fatal(err)
				}
			}
		})
	})
}
