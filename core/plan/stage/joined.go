package stage

import (
	"fmt"
	"math"

	"nephelon/core/buildup"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/plan/input"
	"nephelon/core/pour/sim"
	"nephelon/core/school"
)

// joined is the largest batch up to a limit of which this crew works each section into
// the one before while that is open, as a train of three such batches, or of one, shows, with what
// would allow larger ones; nil where the limit itself does, and where not even the least
// batch would.
func (d *divider) joined(l input.ResolvedCoat, b buildup.Build, area measure.Area,
	limit measure.Volume) (*kit.Limit, []string) {
	working, _ := l.Sheet.Product.Reach(material.StageWorking, d.in.Slab)
	if !(limit > 0) || working <= 0 || d.in.Methods.Session != school.WholeFloor {
		return nil, nil
	}
	lap := func(section float64) float64 {
		return math.Min(1, lapReach*math.Sqrt(float64(area))/math.Max(section, lapReach))
	}
	// A train of so many batches, each of the whole coat.
	like := func(l input.ResolvedCoat, count int) sim.Train {
		division := kit.Division{Batches: make([]kit.Batch, count), Mixed: measure.Volume(count) * b.Need}
		loads := make([]sectionLoad, count)
		for n := range loads {
			division.Batches[n] = kit.Batch{Volume: b.Need, Mass: b.Density.Value.Of(b.Need)}
			loads[n].area, loads[n].lap = float64(area), lap(float64(area))
			if n > 0 {
				loads[n].beside = []int{n - 1}
			}
		}
		return trainOf(d.in, l, &division, loads, measure.Area(count)*area, nil,
			func(measure.Span) measure.Span { return working }, 0, 0)
	}
	keepsUp := func(train sim.Train) bool {
		_, tight, err := d.runner.Judge(train)
		return err != nil || tight.Slack >= spareEdge*working
	}
	fitting := func(l input.ResolvedCoat) func(measure.Volume) bool {
		var some sim.Train // of three, over sections of the share that is asked about
		var full sim.Floor
		return func(v measure.Volume) bool {
			if v >= b.Need {
				return keepsUp(like(l, 1))
			}
			if some.Batches == nil {
				some = like(l, 3)
				full = some.Batches[0].Works // the first is joined to nothing
			}
			share := measure.Span(v / b.Need)
			for n := range some.Batches {
				own := &some.Batches[n]
				for w := range own.Works {
					own.Works[w] = full[w] * share
				}
				own.Lap = lap(float64(area) * float64(share))
				crossRoll(l, own, n > 0)
			}
			return keepsUp(some)
		}
	}
	fits := fitting(l)
	limit = min(limit, b.Need)
	largest := largestOf(limit, fits)
	if largest <= 0 || largest >= limit {
		return nil, nil
	}
	text := fmt.Sprintf("This crew can tie in sections of up to %s in time; on larger ones the wet edge is lost, "+
		"after %s.",
		d.in.Units.Area(measure.Area(float64(area)*float64(largest/b.Need))), d.in.Units.Span(working))
	var ways []string
	if len(l.Crew.Team) == 0 {
		more := l
		more.Crew.Spreaders++
		if v := largestOf(limit, fitting(more)); v > largest*worth {
			ways = append(ways, fmt.Sprintf("One more person: %s instead of %s.", d.in.Units.Volume(v),
				d.in.Units.Volume(largest)))
		}
	}
	return &kit.Limit{Kind: kit.ByEdge, Volume: largest, Text: text}, ways
}

// spareEdge is the share of a film's working time that is kept in hand where batches are
// sized by it, since sections differ: common practice, no source.
const spareEdge = 0.1

// smallest is the smallest batch that is asked about, as a share of the limit.
const smallest = 0.02

// largestOf is the largest volume up to a limit that fits; 0 where not even a small one
// does.
func largestOf(limit measure.Volume, fits func(measure.Volume) bool) measure.Volume {
	if fits(limit) {
		return limit
	}
	low, high := smallest*limit, limit
	if !fits(low) {
		return 0
	}
	for high-low > 0.01*limit {
		if middle := (low + high) / 2; fits(middle) {
			low = middle
		} else {
			high = middle
		}
	}
	return low
}
