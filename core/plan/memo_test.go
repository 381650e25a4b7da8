package plan

import (
	"reflect"
	"testing"

	"nephelon/core/cure"
	"nephelon/core/kit"
	"nephelon/core/measure"
)

// Two coats of one product that is not the same for both, as an additive to one of them would
// make it, are bounded each by its own pot life.
func TestAProductChangedForOneCoatChangesNoOther(t *testing.T) {
	s := demoShelf(t)
	f := laidJob(t, s, coat("hardtack-clear", 300), coat("hardtack-clear", 300))
	f.Job.Bucket.Volume = 0.2
	batches := func(change func(*inputs)) [2]measure.Volume {
		in, _ := read(f, measure.Metric, noon())
		change(in)
		m := measureAll(in)
		b := buildAll(in, m)
		d := divideAll(t.Context(), in, cure.NewKnown(), m, b, buyAll(in, b))
		return [2]measure.Volume{d.coats[0][0].division.Batches[0].Volume, d.coats[0][1].division.Batches[0].Volume}
	}
	plain := batches(func(*inputs) {})
	if plain[0] != plain[1] {
		t.Fatalf("%v", plain)
	}
	for _, changed := range []int{0, 1} {
		got := batches(func(in *inputs) {
			own := *in.layers[0][changed].sheet
			product := *own.product
			product.PotLife = append(product.PotLife[:0:0], product.PotLife...)
			for i := range product.PotLife {
				product.PotLife[i].Lasts /= 3
			}
			own.product = &product
			in.layers[0][changed].sheet = &own
		})
		if got[1-changed] != plain[0] || !(got[changed] < plain[0]) {
			t.Errorf("coat %d changed: batches of %v, before %v", changed+1, got, plain)
		}
	}
}

// What a plan remembers is found by all of its key: each field of it, and each that will be
// added, changed by reflection, is another question.
func TestLimitsAreRememberedByAllTheyDependOn(t *testing.T) {
	asked := 0
	m := newMemo(func(limited) int { asked++; return asked })
	base := limited{sheet: &sheet{}, bucket: kit.Bucket{Volume: 0.02}}
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
	base.sheet = &sheet{}
	if was := asked; m.get(base) != was+1 {
		t.Error("another sheet is taken for the same")
	}
}
