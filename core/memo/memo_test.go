package memo

import (
	"reflect"
	"testing"
)

type question struct {
	Area   float64
	name   string
	Shares []float64
	Sides  [2]int
	Far    *float64
	Shut   bool
	Inner  struct{ Count uint8 }
}

// Every field of a question tells it from others, wherever it lies.
func TestKeyTellsEveryFieldApart(t *testing.T) {
	one, zero := 1.0, 0.0
	base := func() question { return question{Area: 2, name: "hall", Shares: []float64{1, 2}, Far: &one} }
	seen := map[string]string{Key(base()): "the question itself"}
	for name, change := range map[string]func(*question){
		"Area": func(q *question) { q.Area = 2.0000000000000004 }, "name": func(q *question) { q.name = "hal" },
		"Shares": func(q *question) { q.Shares[1] = 3 }, "fewer shares": func(q *question) { q.Shares = q.Shares[:1] },
		"no shares": func(q *question) { q.Shares = nil }, "Sides": func(q *question) { q.Sides[1] = 1 },
		"Far": func(q *question) { q.Far = &zero }, "no Far": func(q *question) { q.Far = nil },
		"Shut": func(q *question) { q.Shut = true }, "Count": func(q *question) { q.Inner.Count = 7 },
	} {
		q := base()
		change(&q)
		if other, known := seen[Key(q)]; known {
			t.Errorf("%s and %s have one key", name, other)
		}
		seen[Key(q)] = name
	}
	again := base()
	again.Far = new(float64)
	*again.Far = 1
	if Key(again) != Key(base()) {
		t.Error("equal values behind different pointers have different keys")
	}
}

// A field that is added to a question is part of its key without a word.
func TestKeySeesAFieldThatIsAdded(t *testing.T) {
	fields := reflect.VisibleFields(reflect.TypeFor[question]())
	fields = append(fields[:len(fields):len(fields)], reflect.StructField{Name: "Added", Type: reflect.TypeFor[float64]()})
	for i := range fields {
		if fields[i].Name == "name" {
			fields[i].Name, fields[i].PkgPath = "Name", ""
		}
	}
	wide := reflect.New(reflect.StructOf(fields)).Elem()
	before := Key(wide.Interface())
	wide.FieldByName("Added").SetFloat(1)
	if Key(wide.Interface()) == before {
		t.Error("the key does not see it")
	}
}

func TestKeyRefusesWhatItCannotCompare(t *testing.T) {
	for name, v := range map[string]any{"map": map[string]int{}, "function": func() {}, "interface": struct{ V any }{1}} {
		func() {
			defer func() {
				if recover() == nil {
					t.Errorf("a %s has a key", name)
				}
			}()
			Key(v)
		}()
	}
}

func TestMemoryAsksOnceAndForgetsAllWhenFull(t *testing.T) {
	asked := 0
	m := New(5, func(n int) int { return n }, func(q question) int { asked++; return len(q.Shares) })
	of := func(n int) question { return question{Shares: make([]float64, n)} }
	for range 2 {
		if got := m.Get(of(2)); got != 2 || asked != 1 {
			t.Errorf("%d, asked %d times", got, asked)
		}
	}
	m.Get(of(3))
	if m.Len() != 2 {
		t.Errorf("%d are kept", m.Len())
	}
	m.Get(of(1)) // 2 + 3 + 1 is more than 5
	if m.Len() != 1 {
		t.Errorf("%d are kept", m.Len())
	}
	m.Get(of(2))
	if asked != 4 {
		t.Errorf("asked %d times", asked)
	}
}
