package job

import (
	"testing"

	"nephelon/core/buildup"
	"nephelon/core/material"
)

// A coat of another product keeps its film and how it is laid, and loses what was of the mix before; the file it was
// made from stays as it was.
func TestAnotherProduct(t *testing.T) {
	coat := buildup.Coat{ID: "b", Product: "old", Hardener: "slow", ThinWith: "spirit", Thinner: &material.Portion{},
		Own: &buildup.OwnWay{Spreaders: 3, Shares: []float64{1, 2}, Pinned: []float64{0.5}}}
	f := File{Products: []material.Product{{ID: "old"}}, Job: Job{Surfaces: []Surface{{ID: "s",
		Coats: []buildup.Coat{{ID: "a", Product: "old"}, coat}}}}}
	out, found := f.WithProduct("b", material.Product{ID: "new"})
	if !found || len(out.Products) != 2 {
		t.Fatalf("%v, %+v", found, out.Products)
	}
	got := out.Job.Surfaces[0].Coats[1]
	if got.Product != "new" || got.Hardener != "" || got.Thinner != nil || got.ThinWith != "" || got.Own.Shares != nil ||
		got.Own.Spreaders != 3 || len(got.Own.Pinned) != 1 {
		t.Errorf("%+v, %+v", got, got.Own)
	}
	if was := f.Job.Surfaces[0].Coats[1]; was.Product != "old" || len(was.Own.Shares) != 2 || len(f.Products) != 1 {
		t.Errorf("the file before is changed: %+v", was)
	}
	if same, _ := out.WithProduct("b", material.Product{ID: "new"}); len(same.Products) != 2 {
		t.Errorf("its sheet is there twice: %+v", same.Products)
	}
	if _, found = f.WithProduct("c", material.Product{ID: "new"}); found {
		t.Error("a coat that is not there")
	}
}
