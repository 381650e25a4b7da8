package plan

import (
	"encoding/json"
	"reflect"
	"strings"
	"testing"

	"nephelon/core/job"
	"nephelon/core/material"
	"nephelon/core/measure"
)

// costly returns the names of the JSON properties that say what something costs.
func costly(of reflect.Type, seen map[reflect.Type]bool, names map[string]bool) {
	for of.Kind() == reflect.Pointer || of.Kind() == reflect.Slice || of.Kind() == reflect.Map {
		of = of.Elem()
	}
	if of.Kind() != reflect.Struct || seen[of] {
		return
	}
	seen[of] = true
	for field := range of.Fields() {
		says := strings.ToLower(field.Tag.Get("doc") + " " + field.Name)
		if field.Type.Kind() == reflect.Pointer && field.Type.Elem().Kind() == reflect.Float64 &&
			(strings.Contains(says, "cost") || strings.Contains(says, "price")) {
			name, _, _ := strings.Cut(field.Tag.Get("json"), ",")
			names[name] = true
		}
		costly(field.Type, seen, names)
	}
}

// A plan for people who see no prices tells none, and buys, mixes and pours what the whole plan does.
func TestABlindPlanTellsNoPrice(t *testing.T) {
	f := demo(t, "baggage-hall")
	price, hour := 7919.0, 41.0
	f.Job.HourCost = &hour
	for i := range f.Products {
		for _, kits := range append([][]material.Kit{f.Products[i].Kits}, hardenerKits(f.Products[i])...) {
			for k := range kits {
				kits[k].Price = &price
			}
		}
	}
	for i := range f.Media {
		for k := range f.Media[i].Packs {
			f.Media[i].Packs[k].Price = &price
		}
	}
	whole := Make(f, measure.Metric, noon())
	if whole.Cost == nil || whole.Line.Others == 0 {
		t.Fatal("the whole plan tells no price: nothing is tried")
	}
	names := make(map[string]bool)
	costly(reflect.TypeFor[Plan](), make(map[reflect.Type]bool), names)
	costly(reflect.TypeFor[job.File](), make(map[reflect.Type]bool), names)
	if !names["cost"] || !names["price"] || !names["labour"] || !names["hourCost"] {
		t.Fatalf("looks for %v alone", names)
	}
	blind := whole.Blind()
	for what, of := range map[string]any{"plan": blind, "file": f.Blind()} {
		text, err := json.Marshal(of)
		if err != nil {
			t.Fatal(err)
		}
		for name := range names {
			if strings.Contains(string(text), `"`+name+`":`) {
				t.Errorf("the %s tells a %s", what, name)
			}
		}
		if strings.Contains(string(text), "7919") {
			t.Errorf("the %s says the price in words", what)
		}
	}
	if blind.Line.Others != 0 || blind.Line.Lacking != 0 {
		t.Error("the line tells what other materials cost")
	}
	for i, b := range whole.Purchases {
		for l, line := range b.Lines {
			if got := blind.Purchases[i].Lines[l]; got.Kit != line.Kit || got.Count != line.Count {
				t.Errorf("%s: %v is bought, %v for those who see no prices", b.Name, line, got)
			}
		}
	}
	if whole.Cost == nil || whole.Purchases[0].Cost == nil || f.Products[0].Kits[0].Price == nil {
		t.Error("the whole plan lost its prices")
	}
}

func hardenerKits(p material.Product) (all [][]material.Kit) {
	for _, h := range p.Hardeners {
		all = append(all, h.Kits)
	}
	return all
}
