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

// joining asks of batches of a coat whether this crew works each section into the one before while that is open.
// It goes by a train of three such batches along an oblong of the area and the perimeter: the first has the wall
// behind it, the last the far wall. Batches that are measured, not opened as kits, take longer.
type joining struct {
	divider  *divider
	build    buildup.Build
	on       ground
	working  measure.Span
	measured bool
}

// lap returns the lap of a section of an area.
func (j joining) lap(section float64) float64 {
	_, wide := oblong(float64(j.on.area), float64(j.on.around))
	return math.Min(1, lapReach*wide/math.Max(section, lapReach))
}

// train returns a train of so many batches, each of the whole coat.
func (j joining) train(l input.ResolvedCoat, count int) sim.Train {
	division := kit.Division{Batches: make([]kit.Batch, count), Mixed: measure.Volume(count) * j.build.Need}
	loads := make([]sectionLoad, count)
	area := float64(j.on.area)
	for n := range loads {
		batch := &division.Batches[n]
		if batch.Volume, batch.Mass = j.build.Need, j.build.Density.Value.Of(j.build.Need); j.measured {
			batch.Share = kit.MeasuredShare
		}
		loads[n] = sectionLoad{area: area, lap: j.lap(area), walls: float64(j.on.around)}
		if n > 0 {
			loads[n].beside = []int{n - 1}
		}
	}
	train := trainOf(j.divider.in, l, &division, loads, measure.Area(count)*j.on.area, nil,
		func(measure.Span) measure.Span { return j.working }, 0, 0)
	ages := j.divider.lives.get(l.Sheet).Ages(j.divider.in.Slab)
	for n := range train.Batches { // pot life is a limit of its own: only how it ages counts here
		train.Batches[n].Ages.Times = ages.Times
	}
	return train
}

// fits returns what tells whether batches of a volume are joined by the crew of a coat.
func (j joining) fits(l input.ResolvedCoat) func(measure.Volume) bool {
	keepsUp := func(train sim.Train) bool {
		_, tight, err := j.divider.runner.Judge(train)
		return err != nil || tight.Slack >= spareEdge*j.working
	}
	area, around := float64(j.on.area), measure.Span(j.on.around)
	long, wide := oblong(area, float64(around))
	across := measure.Span(wide)
	ends := [...]struct{ near, far measure.Span }{{near: across}, {}, {far: across}} // m of wall
	some := j.train(l, len(ends))
	full := some.Batches[0].Works                                                   // the first is joined to nothing
	along := measure.Span(area/float64(l.Crew.Pace.Value)*l.Divides.CutIn) / around // cutting in, s/m
	return func(v measure.Volume) bool {
		if v >= j.build.Need {
			return keepsUp(j.train(l, 1))
		}
		share := measure.Span(v / j.build.Need)
		for n := range some.Batches {
			own := &some.Batches[n]
			for w := range own.Works {
				own.Works[w] = full[w] * share
			}
			own.Lap = j.lap(area * float64(share))
			if sides := 2 * measure.Span(long) * share; around > 0 {
				own.CutsIn(along*(sides+ends[n].near+ends[n].far), along*ends[n].far)
			}
			crossRoll(l, own, n > 0)
		}
		return keepsUp(some)
	}
}

// joined is the largest batch up to a limit of which this crew works each section into the one before while
// that is open, with what would allow larger ones; nil where the limit itself does, and where not even the
// least batch would.
func (d *divider) joined(l input.ResolvedCoat, b buildup.Build, on ground,
	limit measure.Volume, measured bool) (*kit.Limit, []string) {
	working, _ := l.Sheet.Product.Reach(material.StageWorking, d.in.Slab)
	if !(limit > 0) || working <= 0 || d.in.Methods.Session != school.WholeFloor {
		return nil, nil
	}
	j := joining{d, b, on, working, measured}
	limit = min(limit, b.Need)
	largest := largestOf(limit, j.fits(l))
	if largest <= 0 || largest >= limit {
		return nil, nil
	}
	text := fmt.Sprintf("This crew can tie in sections of up to %s in time; on larger ones the wet edge is lost, "+
		"after %s.",
		d.in.Units.Area(measure.Area(float64(on.area)*float64(largest/b.Need))), d.in.Units.Span(working))
	var ways []string
	if len(l.Crew.Team) == 0 {
		more := l
		more.Crew.Spreaders++
		if v := largestOf(limit, j.fits(more)); v > largest*worth {
			ways = append(ways, fmt.Sprintf("One more person: %s instead of %s.", d.in.Units.Volume(v),
				d.in.Units.Volume(largest)))
		}
	}
	return &kit.Limit{Kind: kit.ByEdge, Volume: largest, Text: text}, ways
}

// oblong returns the sides of a rectangle of an area and a perimeter; those of a square where none has both.
func oblong(area, around float64) (long, wide float64) {
	apart := around*around/16 - area // half of how far the sides differ, squared
	if apart <= 0 {
		side := math.Sqrt(area)
		return side, side
	}
	return around/4 + math.Sqrt(apart), around/4 - math.Sqrt(apart)
}

// spareEdge is the share of a film's working time that is kept in hand where batches are
// sized by it, since sections differ: common practice, no source.
const spareEdge = 0.1

// smallest is the smallest batch that is asked about, as a share of the limit. With less in the pail a crew
// does not keep the edge open by small batches, but brings more hands: common practice, no source.
const smallest = 1.0 / 8

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
