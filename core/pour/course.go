package pour

import (
	"fmt"
	"math"
	"slices"

	"nephelon/core/geometry"
	"nephelon/core/measure"
)

// Course is the line of work across a surface.
type Course struct {
	Direction measure.Angle `json:"direction"`
	Chosen    bool          `json:"chosen" doc:"A person chose it"`
	Reason    string        `json:"reason"`
	Pieces    bool          `json:"pieces,omitempty" doc:"Not in straight strips across, but piece by piece from the farthest corner"`
	exit      *geometry.Point
	shuts     string
	ways      []geometry.Point // all doors by which somebody gets out meanwhile
	travel    geometry.Travel
	wet       measure.Length // of its joins, where it goes by pieces
	longest   measure.Length
	walkway   *measure.Length
	memory    *Memory
	seams     []geometry.Seam
	strips    string // what straight strips would do
	partial   bool   // a bound kept ways to divide it piece by piece from being tried
}

// maxCandidates bounds how many directions are tried for a surface.
const maxCandidates = 6

// Exit is the door at which the course ends, and when that is shut; nil where none is
// marked.
func (c Course) Exit() (at *geometry.Point, shuts string) { return c.exit, c.shuts }

// Plot chooses the door at which the work ends, if there are several, and the direction
// in which the sections follow each other. A
// direction given by a person is kept, turned round if that brings the work
// towards the exit. Otherwise those of the longest walls are tried with the
// given shares; the one that keeps sections whole, ends at the exit and has the
// shortest wet edges wins; where none does all that, the floor is divided piece by piece.
// Joins lie on seams where one is near. What takes long is kept in a memory, where there is
// one.
func Plot(p geometry.Polygon, layout Layout, seams []geometry.Seam, shares []float64, memory *Memory) Course {
	best, cost := Course{}, math.Inf(1)
	doors := layout.worth()
	if len(doors) == 0 {
		doors = []Exit{{}}
	}
	for _, door := range doors {
		ends := layout
		if ends.Closes = door.Closes; layout.Exit != nil {
			ends.Exit = &door.At
		}
		c, now := plot(p, ends, seams, shares, memory)
		if now < cost*(1-1e-9) || math.IsInf(cost, 1) {
			best, cost = c, now
		}
	}
	for _, e := range layout.worth() {
		best.ways = append(best.ways, e.At)
	}
	return best
}

// plot chooses the direction to one door, and tells what it costs.
func plot(p geometry.Polygon, layout Layout, seams []geometry.Seam, shares []float64,
	memory *Memory) (Course, float64) {
	if layout.Direction != nil {
		c := newCourse(p, layout, float64(*layout.Direction))
		c.Chosen, c.seams, c.memory = true, seams, memory
		c.Reason = "Direction chosen by you; the work moves towards the exit."
		return c, c.cost(p, shares)
	}
	best, cost := Course{}, math.Inf(1)
	for i, degrees := range candidates(p.Outline) {
		c := newCourse(p, layout, degrees)
		if now := c.cost(p, shares); i == 0 || now < cost*(1-1e-9) {
			best, cost = c, now
		}
	}
	best.Reason = "Chosen for whole sections that end at the exit with the shortest wet edges."
	best.memory, best.seams = memory, seams
	if best = best.orPieces(p, shares); best.Pieces {
		cost = float64(best.wet)
	}
	return best, cost
}

// orPieces is the course, or, where its straight strips fall apart or do not end at the
// exit, the one piece by piece that does neither.
func (c Course) orPieces(p geometry.Polygon, shares []float64) Course {
	strips := geometry.Strips(p, c.travel, shares)
	torn := slices.ContainsFunc(strips, func(s geometry.Strip) bool { return s.Patches() > 1 })
	if c.exit == nil || len(shares) < 2 || !torn && c.endsAtExit(strips) {
		return c
	}
	c.Pieces = true
	laying, err := c.lift(p, shares)
	if err != nil {
		c.Pieces, c.partial = false, laying.partial
		return c
	}
	if c.endsAtExit(strips) && laying.oldest() > mostBehind {
		c.Pieces = false // a strip torn by a column is sooner joined than an edge left so long
		return c
	}
	for _, cut := range laying.Cuts {
		c.wet += cut.Wet
		c.longest = max(c.longest, cut.Wet)
	}
	what := "would not end at the exit"
	if torn {
		what = "would fall apart"
	}
	c.strips = what
	return c
}

// mostBehind limits how many sections a wet edge may wait for its neighbour before strips that
// are torn, but joined at once, are the lesser evil: common practice, no source.
const mostBehind = 6

// Told returns why the sections are as they are.
func (c Course) Told(units measure.System) string {
	if !c.Pieces {
		return c.Reason
	}
	return fmt.Sprintf("Straight strips across %s, so the work goes piece by piece from the farthest corner to the "+
		"exit, each in one: %s of wet edge in all, the longest joint %s.",
		c.strips, units.Length(c.wet), units.Length(c.longest))
}

// candidates are the directions of the longest walls and square to them.
func candidates(outline geometry.Ring) []float64 {
	lengths := make(map[int]float64) // by tenths of a degree, a right angle apart counting as one
	for i, a := range outline {
		d := outline[(i+1)%len(outline)].Minus(a)
		degrees := math.Atan2(d.Y, d.X) * 180 / math.Pi
		tenths := int(math.Round(degrees * 10))
		lengths[(tenths%900+900)%900] += math.Hypot(d.X, d.Y)
	}
	var chosen []float64
	for len(chosen) < maxCandidates && len(lengths) > 0 {
		longest, at := -1.0, 0
		for tenths, length := range lengths {
			if length > longest || length == longest && tenths < at {
				longest, at = length, tenths
			}
		}
		delete(lengths, at)
		chosen = append(chosen, float64(at)/10, float64(at+900)/10)
	}
	return chosen
}

func newCourse(p geometry.Polygon, layout Layout, degrees float64) Course {
	c := Course{travel: geometry.Heading(degrees), Direction: measure.Angle(degrees), exit: layout.Exit,
		shuts: layout.Closes, walkway: layout.Walkway}
	if c.exit == nil {
		return c
	}
	low, high := math.Inf(1), math.Inf(-1)
	for _, corner := range p.Outline {
		low, high = math.Min(low, c.travel.Along(corner)), math.Max(high, c.travel.Along(corner))
	}
	if c.travel.Along(*c.exit) < (low+high)/2 {
		if degrees += 180; degrees >= 360 {
			degrees -= 360
		}
		c.travel, c.Direction = geometry.Heading(degrees), measure.Angle(degrees)
	}
	return c
}

// cost is the wet edge in metres, with a heavy charge for torn sections and for
// an exit that the work does not end at.
func (c Course) cost(p geometry.Polygon, shares []float64) float64 {
	strips := geometry.Strips(p, c.travel, shares)
	total, charge := 0.0, p.Outline.Perimeter()
	for i, s := range strips {
		if i < len(strips)-1 {
			_, width := geometry.Chord(p, c.travel, s.To)
			total += width
		}
		total += charge * float64(s.Patches()-1)
	}
	if c.exit != nil && !c.endsAtExit(strips) {
		total += charge * float64(len(strips))
	}
	return total
}

func (c Course) endsAtExit(strips []geometry.Strip) bool {
	return c.travel.Along(*c.exit) >= strips[len(strips)-1].From-geometry.Tolerance
}

// doors are the places where somebody gets out: that at which the work ends, and whatever
// else is open all the time.
func (c Course) doors() []geometry.Point {
	if len(c.ways) == 0 {
		return []geometry.Point{*c.exit}
	}
	return c.ways
}

// wide returns how wide the way out is at least.
func (c Course) wide() float64 {
	if c.walkway != nil {
		return float64(*c.walkway)
	}
	return usualWalkway
}

// usualWalkway is the least width of a way out, m: common practice, no source.
const usualWalkway = 0.6
