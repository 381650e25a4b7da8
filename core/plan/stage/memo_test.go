package stage

import (
	"reflect"
	"testing"

	"nephelon/core/cure"
	"nephelon/core/kit"
	"nephelon/core/plan/input"
)

// What a plan remembers is found by all of its key: each field of it, and each that will be
// added, changed by reflection, is another question.
func TestLimitsAreRememberedByAllTheyDependOn(t *testing.T) {
	asked := 0
	m := newMemo(func(limited) int { asked++; return asked })
	base := limited{sheet: &input.Sheet{}, bucket: kit.Bucket{Volume: 0.02}}
	m.get(base)
	var change func(v reflect.Value, at string)
	change = func(v reflect.Value, at string) {
		if v.Kind() == reflect.Struct {
			for i := range v.NumField() {
				change(v.Field(i), at+"."+v.Type().Field(i).Name)
			}
			return
		}
		before := reflect.New(v.Type()).Elem()
		before.Set(v)
		switch v.Kind() {
		case reflect.Float64:
			v.SetFloat(v.Float() + 1)
		case reflect.Int:
			v.SetInt(v.Int() + 1)
		case reflect.Pointer:
			v.Set(reflect.New(v.Type().Elem()))
		case reflect.Interface:
			v.Set(reflect.ValueOf(&cure.Table{}))
		default:
			t.Fatalf("how to change %s?", at)
		}
		was := asked
		m.get(base)
		if asked != was+1 {
			t.Errorf("another %s is taken for the same", at)
		}
		v.Set(before)
	}
	change(reflect.ValueOf(&base.bucket).Elem(), "bucket")
	change(reflect.ValueOf(&base.how).Elem(), "how")
	base.sheet = &input.Sheet{}
	if was := asked; m.get(base) != was+1 {
		t.Error("another sheet is taken for the same")
	}
}
