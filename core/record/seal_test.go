package record

import (
	"encoding/json"
	"os"
	"reflect"
	"slices"
	"strings"
	"testing"
	"time"
)

// pinned returns the events of a version of the seal, one of each kind, as they were sealed once
// and for all.
func pinned(t *testing.T, file string) []Event {
	t.Helper()
	text, err := os.ReadFile("testdata/" + file)
	if err != nil {
		t.Fatal(err)
	}
	var events []Event
	if err := json.Unmarshal(text, &events); err != nil {
		t.Fatal(err)
	}
	return events
}

// The hashes of what is stored never change, whatever becomes of the Go types: an event of each
// kind and of each version of the seal fits the hash that was written down with it.
func TestStoredHashesNeverChange(t *testing.T) {
	for file, version := range map[string]int{"events-1.json": 0, "events-2.json": sealedAsJSON,
		"events-3.json": SealVersion} {
		events := pinned(t, file)
		for _, k := range Kind("").Values() {
			if version != SealVersion { // nothing is sealed like that any more
				break
			}
			if !slices.ContainsFunc(events, func(e Event) bool { return e.Kind == k }) {
				t.Errorf("%s: no event of the kind %q; seal one with the program as it is and add it", file, k)
			}
		}
		before := ""
		for _, e := range events {
			if e.Version != version || e.Before != before {
				t.Errorf("%s: %s is of version %d after %s", file, e.Kind, e.Version, e.Before)
			}
			if Sum(e) != e.Hash || !whole(&e) {
				t.Errorf("%s: the hash of %q is %s now, and was %s", file, e.Kind, Sum(e), e.Hash)
			}
			before = e.Hash
		}
		if found := Breaks(events); len(found) > 0 {
			t.Errorf("%s: %+v", file, found)
		}
	}
}

// Whatever of a sealed event is changed, found by reflection over its fields, breaks its hash;
// only the name and the time of arrival may change, which stand beside the record.
func TestEveryFieldIsSealed(t *testing.T) {
	for _, file := range []string{"events-1.json", "events-2.json", "events-3.json"} {
		for _, e := range pinned(t, file) {
			changed := func(v reflect.Value, field string) {
				was := reflect.New(v.Type()).Elem()
				was.Set(v)
				defer v.Set(was)
				switch v.Interface().(type) {
				case time.Time:
					v.Set(reflect.ValueOf(e.At.Add(time.Second)))
				default:
					switch v.Kind() {
					case reflect.String:
						v.SetString(v.String() + "x")
					case reflect.Int, reflect.Int64:
						v.SetInt(v.Int() + 1)
					case reflect.Float64:
						v.SetFloat(v.Float() + 1)
					case reflect.Slice:
						v.Set(reflect.Append(v, reflect.Zero(v.Type().Elem())))
					case reflect.Pointer:
						if v.IsNil() {
							v.Set(reflect.New(v.Type().Elem()))
						} else {
							v.Set(reflect.Zero(v.Type()))
						}
					default:
						t.Fatalf("how to change %s?", field)
					}
				}
				if whole(&e) != (field == "Name" || field == "Received") {
					t.Errorf("%s, %s: another %s fits the hash: %v", file, e.Kind, field, whole(&e))
				}
			}
			event := reflect.ValueOf(&e).Elem()
			for i := range event.NumField() {
				if name := event.Type().Field(i).Name; name != "Body" {
					changed(event.Field(i), name)
				}
			}
			body := event.FieldByName("Body")
			for i := range body.NumField() {
				changed(body.Field(i), "body "+body.Type().Field(i).Name)
			}
		}
	}
}

// A version that this program does not know is refused with what to do.
func TestAnUnknownSealIsRefused(t *testing.T) {
	e := pinned(t, "events-2.json")[0]
	e.Version = 4
	if text := Check(&e, e.At); !strings.HasPrefix(text, "version: ") {
		t.Error(text)
	}
}

func BenchmarkSeal(b *testing.B) {
	e := Event{ID: "one", Kind: Noted, Device: "tablet-1", Number: 1, Person: "p", Body: Body{Text: "x"}, At: minutes(1)}
	for b.Loop() {
		Sealed(e, "")
	}
}
