package pour

import (
	"math"
	"math/rand/v2"
	"testing"

	"nephelon/core/measure"
	"nephelon/core/takeoff"
)

// A wall of 4 m whose height falls from 3 m to 1 m has 8 m²; half of it lies
// before x with 3x − x²/4 = 4, that is x = 6 − √20 = 1.528 m.
func TestAWallIsCutWhereItsAreaEnds(t *testing.T) {
	panels := []takeoff.Panel{{Name: "Wall", Area: 8, Run: 4, Start: 3, End: 1}, {Name: "Floor", Area: 8}}
	sections := Allot(panels, []float64{1, 1, 2}, all)
	if len(sections) != 3 || len(sections[0].Spans) != 1 || len(sections[2].Spans) != 1 {
		t.Fatalf("%+v", sections)
	}
	first, second := sections[0].Spans[0], sections[1].Spans[0]
	if x := 6 - math.Sqrt(20); math.Abs(float64(first.To)-x) > 1e-12 || first.From != 0 || second.From != first.To ||
		math.Abs(float64(second.To)-4) > 1e-12 {
		t.Errorf("cut at %v and %v, want %v", first.To, second.To, x)
	}
	if floor := sections[2].Spans[0]; !floor.Whole || floor.Area != 8 {
		t.Errorf("%+v", floor)
	}
}

// all takes the same of every panel.
func all(takeoff.Panel) float64 { return 1 }

func nonZero(random *rand.Rand) measure.Length { return measure.Length(0.1 + random.Float64()) }

// Whatever the panels and shares: every section gets its share, and every panel
// is covered once.
func TestSharesAddUp(t *testing.T) {
	random := rand.New(rand.NewPCG(21, 34))
	for range 500 {
		panels := make([]takeoff.Panel, 1+random.IntN(12))
		whole := 0.0
		for i := range panels {
			p := &panels[i]
			p.Run, p.Start, p.End = 1+4*nonZero(random), nonZero(random), nonZero(random)
			p.Area = p.Run.Times(float64(p.Start+p.End) / 2)
			whole += float64(p.Area)
		}
		shares := make([]float64, 1+random.IntN(9))
		total := 0.0
		for i := range shares {
			shares[i] = 0.2 + random.Float64()
			total += shares[i]
		}
		covered := make([]float64, len(panels))
		for i, s := range Allot(panels, shares, all) {
			if want := whole * shares[i] / total; math.Abs(float64(s.Area)-want) > 1e-9*whole {
				t.Fatalf("section %d has %v of %v", i+1, s.Area, want)
			}
			for _, span := range s.Spans {
				covered[span.Panel] += float64(span.Area)
				if span.To < span.From || span.To > panels[span.Panel].Run {
					t.Fatalf("a span from %v to %v on %v", span.From, span.To, panels[span.Panel].Run)
				}
			}
		}
		for i, area := range covered {
			if math.Abs(area-float64(panels[i].Area)) > 1e-9*whole {
				t.Fatalf("panel %d: %v of %v", i, area, panels[i].Area)
			}
		}
	}
}

func TestJoinsOnATopAreTold(t *testing.T) {
	panels := []takeoff.Panel{{Name: "Run", Area: 2, Group: 0}, {Name: "Run, edge", Area: 1, Group: 0},
		{Name: "Island", Area: 3, Group: 1}}
	if found := Joins(panels, Allot(panels, []float64{1, 1}, all), "", 1); len(found) != 0 {
		t.Errorf("%v", found)
	}
	if found := Joins(panels, Allot(panels, []float64{2, 1}, all), "", 2); len(found) != 1 ||
		found[0].Text != "Coat 2: Island takes resin from batches 1 to 2; a joint can show on a top." {
		t.Errorf("%v", found)
	}
}
