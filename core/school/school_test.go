package school

import (
	"reflect"
	"slices"
	"strings"
	"testing"
)

// Every question answers one field of Methods, its answers are those that the
// file may hold, and each is told with its reason and its consequence.
func TestEveryQuestionHasOneHome(t *testing.T) {
	fields := make(map[string]reflect.StructField)
	for i := range reflect.TypeFor[Methods]().NumField() {
		f := reflect.TypeFor[Methods]().Field(i)
		name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
		fields[name] = f
	}
	if len(Questions()) != len(fields)-1 { // acid in pools is a yes or no
		t.Errorf("%d questions, %d fields", len(Questions()), len(fields))
	}
	for _, q := range Questions() {
		f, known := fields[string(q.ID)]
		if !known {
			t.Errorf("%s answers no field", q.ID)
			continue
		}
		if !slices.Contains(q.Part.Values(), q.Part) {
			t.Errorf("%s belongs to no part of the work: %q", q.ID, q.Part)
		}
		var values []string
		for _, c := range q.Choices {
			values = append(values, c.Value)
			if c.Name == "" || c.Reason == "" || c.Consequence == "" || c.Value == "" {
				t.Errorf("%s: %+v leaves something unsaid", q.ID, c)
			}
			with := q.With(Methods{}, c.Value)
			if got := reflect.ValueOf(with).FieldByName(f.Name).String(); got != c.Value || q.Chosen(with) != c.Value {
				t.Errorf("%s: choosing %s gives %q", q.ID, c.Value, got)
			}
		}
		var allowed []string
		if some := f.Tag.Get("enum"); some != "" { // some of the values of its type
			allowed = strings.Split(some, ",")
		} else {
			all := reflect.Zero(f.Type).MethodByName("Values").Call(nil)[0]
			for i := range all.Len() {
				allowed = append(allowed, all.Index(i).String())
			}
		}
		slices.Sort(allowed)
		first := values[0]
		slices.Sort(values)
		if !slices.Equal(values, allowed) {
			t.Errorf("%s offers %v, the file allows %v", q.ID, values, allowed)
		}
		if q.Chosen(Methods{}) != first || q.Chosen(Methods{}.Filled()) != first {
			t.Errorf("%s: left open it is %q", q.ID, q.Chosen(Methods{}))
		}
	}
	if (Methods{}).Filled().Between != ByWindow {
		t.Error("a blank between is not the sheet's window")
	}
}

// How much of a kit is mixed at once, and which ways of pouring out need a second bucket.
func TestWhatAChoiceMeans(t *testing.T) {
	for kits, want := range map[Kits]float64{OneKit: 1, HalfKits: 0.5, ThirdKits: 1.0 / 3, "": 0} {
		if got := (Methods{Kits: kits}).KitShare(); got != want {
			t.Errorf("%q: %v of a kit, want %v", kits, got, want)
		}
	}
	for _, r := range Residue("").Values() {
		if r.Second() != (r == SecondBucket || r == SecondLong) {
			t.Errorf("%q: a second bucket %v", r, r.Second())
		}
	}
}
