package plan

import (
	"fmt"
	"testing"

	"nephelon/core/measure"
	"nephelon/core/plan/input"
	"nephelon/core/takeoff"
)

// A surface with a given area plans whole with every kind of coat that can go on it:
// floor, top or pool, measured or given, with colours, with a film of its own on
// faces, poured over the coat below, on all of it or on part of it.
func TestMakeGivenAreaWithEveryKindOfCoat(t *testing.T) {
	basin := demo(t, "seal-nursery").Job.Surfaces[0].Pool
	if basin == nil {
		t.Fatal("the nursery of the demo is no pool")
	}
	tops := fiveColours(t)
	shapes := map[string]takeoff.Shape{
		"floor": laidJob(t, demoShelf(t), coat("meniscus-flood", 3000)).Job.Surfaces[0].Shape,
		"top":   tops.Job.Surfaces[0].Shape,
		"pool":  {Pool: basin},
		"given floor": {
			Given: &takeoff.Given{Area: 3.1, Note: "the owner"},
		},
		"given top":  {Top: &takeoff.Top{Thickness: 0.04}, Given: &takeoff.Given{Area: 3.1}},
		"given pool": {Pool: &takeoff.Pool{}, Given: &takeoff.Given{Area: 3.1}},
	}
	planner := NewPlanner()
	for name, shape := range shapes {
		for n := range 24 {
			colours, faces, over, on := n&1 > 0, n&2 > 0, n&4 > 0, []string{"", input.OnLevel, input.OnUpright}[n/8]
			t.Run(fmt.Sprintf("%s/%t,%t,%t,%s", name, colours, faces, over, on), func(t *testing.T) {
				f := fiveColours(t)
				s := &f.Job.Surfaces[0]
				s.Shape = shape
				upper := s.Coats[0]
				if !colours {
					upper.Colours = nil
				}
				if faces {
					upper.Faces = &measure.Sourced[measure.Film]{Value: 0.3e-3, Source: measure.OwnTest}
				}
				upper.On = on
				if over {
					lower := coat("meniscus-flood", 2000)
					lower.ID, upper.ID, upper.OverWet = "lower", "upper", true
					s.Coats = append(s.Coats[:0], lower)
				} else {
					s.Coats = s.Coats[:0]
				}
				s.Coats = append(s.Coats, upper)
				p := planner.Make(f, measure.Metric, noon())
				top := p.Surfaces[0].Coats[len(s.Coats)-1]
				if top.Division == nil {
					if on != input.OnUpright && len(p.Refused()) == 0 {
						t.Fatal("the coat is not divided, and nothing is refused")
					}
					return
				}
				if len(top.Cards) != len(top.Division.Batches) {
					t.Fatalf("%d cards for %d batches", len(top.Cards), len(top.Division.Batches))
				}
				for _, card := range top.Cards {
					if colours && len(card.Cups) != 5 {
						t.Errorf("batch %d has %d cups", card.Batch, len(card.Cups))
					}
				}
			})
		}
	}
}
