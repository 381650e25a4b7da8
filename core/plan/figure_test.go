package plan

import (
	"math/rand/v2"
	"testing"

	"nephelon/core/buildup"
	"nephelon/core/geometry"
	"nephelon/core/job"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/survey"
)

// rated is a job of one coat stated by an amount over a hall of an area, in sets of a volume, on ground
// rough enough to take 0.2 L/m².
func rated(t testing.TB, amount buildup.Amount, area measure.Area, set measure.Volume) job.File {
	t.Helper()
	f := laidJob(t, demoShelf(t), buildup.Coat{Product: "keelbody-100", Amount: amount})
	width := float64(area) / 10
	f.Job.Surfaces[0].Floor.Outline = geometry.Ring{{X: 0, Y: 0}, {X: width, Y: 0}, {X: width, Y: 10}, {X: 0, Y: 10}}
	f.Job.Surfaces[0].Survey = &survey.Survey{Profile: 4}
	f.Products[0].Kits = []material.Kit{{Name: "set", Volume: &set, Source: measure.Sheet}}
	return f
}

func sets(p Plan) int {
	count := 0
	for _, l := range p.Purchases[0].Lines {
		count += l.Count
	}
	return count
}

// The handbook's check value: a kit covers 500 ft², the floor has a little over 2,400 ft²: 5 kits. As a
// theoretical figure the same floor takes one more for loss and more for the profile.
func TestKitsOfThePracticalArea(t *testing.T) {
	const gallon3 = 3 * measure.Gallon
	amount := buildup.Amount{Basis: buildup.AreaPerKit, Value: 500 * measure.SqFoot}
	if got := sets(Make(rated(t, amount, 2410*measure.SqFoot, gallon3), measure.US, noon())); got != 5 {
		t.Errorf("%d kits, want 5", got)
	}
	amount.Figure = material.Theoretical
	if got := sets(Make(rated(t, amount, 2410*measure.SqFoot, gallon3), measure.US, noon())); got < 7 {
		t.Errorf("theoretical: %d kits", got)
	}
}

// Whatever a kit or a litre covers in practice, a floor of so many times that takes so many kits; a floor
// a little larger takes one more.
func TestPracticalCoverageGivesItsKitsBack(t *testing.T) {
	random, planner := rand.New(rand.NewPCG(26, 1)), NewPlanner()
	for range 60 {
		set := measure.Volume(0.001 * (1 + 19*random.Float64()))
		covers := measure.Area(float64(set) * (2000 + 10000*random.Float64()))
		count := 1 + random.IntN(12)
		for _, amount := range []buildup.Amount{{Basis: buildup.AreaPerKit, Value: float64(covers)},
			{Basis: buildup.SpreadRate, Value: float64(covers) / float64(set)}} {
			floor := covers * measure.Area(count)
			if got := sets(planner.Make(rated(t, amount, floor, set), measure.Metric, noon())); got != count {
				t.Fatalf("%s: %v m² at %v m² a set of %v L take %d, want %d", amount.Basis, floor, covers, set*1000, got, count)
			}
			if got := sets(planner.Make(rated(t, amount, floor*1.02, set), measure.Metric, noon())); got != count+1 {
				t.Fatalf("%s: 2 %% more take %d, want %d", amount.Basis, got, count+1)
			}
		}
	}
}
