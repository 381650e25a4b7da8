package record

import (
	"slices"
	"testing"

	"nephelon/core/geometry"
)

// A fault on the plan names the sections of every coat that it lies over, not those of another surface, nor a
// section whose hole it lies in; a pail tells who worked on it and where it ended, until another takes its place.
func TestAFaultLiesOverPails(t *testing.T) {
	i := issued()
	box := func(x, y, wide, high float64) geometry.Ring {
		return geometry.Ring{{X: x, Y: y}, {X: x + wide, Y: y}, {X: x + wide, Y: y + high}, {X: x, Y: y + high}}
	}
	for k := range i.Coats[0].Batches {
		i.Coats[0].Batches[k].Rings = []geometry.Ring{box(float64(k)*4, 0, 4, 5)}
	}
	hole := box(5, 1, 1, 1)
	slices.Reverse(hole)
	i.Coats[0].Batches[1].Rings = append(i.Coats[0].Batches[1].Rings, hole)
	top := i.Coats[0]
	top.ID, top.Number = "top", 2
	top.Batches = []Batch{{Number: 1, Rings: []geometry.Ring{box(0, 0, 12, 5)}}}
	other := top
	other.ID, other.Surface = "other", "yard"
	i.Coats = append(i.Coats, top, other)

	j := tablet("aaaa")
	for _, place := range [][2]float64{{7, 3}, {5.5, 1.5}, {20, 1}} {
		j.log(minutes(100), Fault, "coat/top", Body{Seen: "soft", At: &place})
	}
	j.log(minutes(0), Meets, batch(2), Body{})
	j.person = "Bo"
	j.log(minutes(4), Poured, batch(2), Body{})
	j.log(minutes(8), Lot, batch(2), Body{Lots: []string{"A7"}})
	j.log(minutes(10), Emptied, batch(2), Body{At: &[2]float64{6, 2}})
	d := tell(i, j.all, minutes(120))
	for n, want := range [][]Laid{{{"c", 2}, {"top", 1}}, {{"top", 1}}, nil} {
		if got := d.Faults[n].Over; !slices.Equal(got, want) {
			t.Errorf("fault %d lies over %v, want %v", n+1, got, want)
		}
	}
	b := d.Coats[0].Batches[1]
	if b.Spot == nil || *b.Spot != [2]float64{6, 2} || !slices.Equal(b.People, []string{"Tess", "Bo"}) {
		t.Errorf("ended at %v, logged by %q", b.Spot, b.People)
	}
	j.log(minutes(11), Lost, batch(2), Body{Text: "spilt"})
	if b := tell(i, j.all, minutes(120)).Coats[0].Batches[1]; b.Spot != nil || len(b.People) > 0 {
		t.Errorf("a new pail ended at %v, logged by %q", b.Spot, b.People)
	}
}
