package plan

import (
	"slices"
	"testing"

	"nephelon/core/facts"
	"nephelon/core/measure"
	"nephelon/core/plan/input"
)

// A pace of a pool is tried on pools alone, one of a floor on floors, and neither on another way of laying.
func TestAPaceIsTriedOnItsKindOfSurface(t *testing.T) {
	f := demo(t, "seal-nursery")
	pool := f.Job.Surfaces[0]
	pool.ID, pool.Pool, pool.Floor = "beside", nil, demo(t, "baggage-hall").Job.Surfaces[0].Floor
	f.Job.Surfaces = append(f.Job.Surfaces[:1:1], pool)
	in, _ := input.Read(f, facts.Facts{}, measure.Metric)
	product, way := f.Job.Surfaces[0].Coats[0].Product, in.Layers[0][0].Laying
	of := func(surface int) []Place {
		var all []Place
		for n, c := range f.Job.Surfaces[surface].Coats {
			if c.Product == product && in.Layers[surface][n].Laying == way {
				all = append(all, Place{Surface: surface, Coat: n})
			}
		}
		return all
	}
	for n, kind := range []string{"pool", "floor"} {
		if got := CoatsOf(f, product, way, f.Job.Surfaces[n].Kind()); len(got) == 0 || !slices.Equal(got, of(n)) {
			t.Errorf("a pace of a %s is tried on %v, want %v", kind, got, of(n))
		}
	}
	if got := CoatsOf(f, product, way, "top"); len(got) > 0 {
		t.Errorf("a pace of a top is tried on %v", got)
	}
	if got := CoatsOf(f, product, "no-way", "pool"); len(got) > 0 {
		t.Errorf("another way of laying is tried on %v", got)
	}
}
