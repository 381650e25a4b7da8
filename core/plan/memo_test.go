package plan

import (
	"testing"

	"nephelon/core/facts"

	"nephelon/core/cure"
	"nephelon/core/measure"
	"nephelon/core/plan/input"
	"nephelon/core/plan/stage"
)

// Two coats of one product that is not the same for both, as an additive to one of them would
// make it, are bounded each by its own pot life.
func TestAProductChangedForOneCoatChangesNoOther(t *testing.T) {
	s := demoShelf(t)
	f := laidJob(t, s, coat("hardtack-clear", 300), coat("hardtack-clear", 300))
	f.Job.Bucket.Volume = 0.2
	batches := func(change func(*input.Inputs)) [2]measure.Volume {
		in, _ := input.Read(f, facts.At(noon()), measure.Metric)
		change(in)
		m := stage.MeasureAll(in)
		b := stage.BuildAll(in, m)
		d := stage.DivideAll(t.Context(), in, cure.NewKnown(), m, b, stage.BuyAll(in, b))
		return [2]measure.Volume{d.Coats[0][0].Division.Batches[0].Volume, d.Coats[0][1].Division.Batches[0].Volume}
	}
	plain := batches(func(*input.Inputs) {})
	if plain[0] != plain[1] {
		t.Fatalf("%v", plain)
	}
	for _, changed := range []int{0, 1} {
		got := batches(func(in *input.Inputs) {
			own := *in.Layers[0][changed].Sheet
			product := *own.Product
			product.PotLife = append(product.PotLife[:0:0], product.PotLife...)
			for i := range product.PotLife {
				product.PotLife[i].Lasts /= 3
			}
			own.Product = &product
			in.Layers[0][changed].Sheet = &own
		})
		if got[1-changed] != plain[0] || !(got[changed] < plain[0]) {
			t.Errorf("coat %d changed: batches of %v, before %v", changed+1, got, plain)
		}
	}
}
