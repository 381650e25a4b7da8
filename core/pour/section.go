// Package pour lays out the sections of a surface, one to a batch, in the order
// in which they are worked towards the exit.
package pour

import (
	"fmt"
	"math"

	"nephelon/core/finding"
	"nephelon/core/geometry"
	"nephelon/core/measure"
)

// Layout is how a crew chooses to work across a surface.
type Layout struct {
	Exit      *geometry.Point `json:"exit,omitempty" doc:"The door by which the crew leaves"`
	Direction *measure.Angle  `json:"direction,omitempty" minimum:"-360" maximum:"360" doc:"Degrees from the x axis along which the work moves; the cut lines lie square to it. Chosen by the plan when left out"`
}

// Section is the patch of surface that one batch covers.
type Section struct {
	ID      string          `json:"id" doc:"Stays with the section while its coat and its place in the order stay"`
	Number  int             `json:"number" doc:"That of its batch"`
	Area    measure.Area    `json:"area" doc:"Of floor, m²"`
	Parts   measure.Area    `json:"parts" doc:"Its share of edges, steps and ramps, m²"`
	Rings   []geometry.Ring `json:"rings" doc:"Outlines counter-clockwise, holes clockwise; of a floor"`
	Spans   []Cover         `json:"spans,omitempty" doc:"What it covers of the panels of a top or a pool"`
	Patches int             `json:"patches" doc:"Separate pieces; more than one is awkward"`
	Label   geometry.Point  `json:"label" doc:"A place inside for its number"`
}

// Mark is where a cut line meets a wall: there the tape goes.
type Mark struct {
	Hole  int            `json:"hole" doc:"-1 on the outline, else the hole's index"`
	Side  int            `json:"side" doc:"From 1; side n runs from corner n to the next"`
	Along measure.Length `json:"along" doc:"m from corner n"`
	At    geometry.Point `json:"at"`
}

// Cut is the line between two sections.
type Cut struct {
	After int            `json:"after" doc:"The section worked before it"`
	Wet   measure.Length `json:"wet" doc:"Length of wet edge to keep alive, m"`
	Marks []Mark         `json:"marks"`
}

// Course is the line of work across a surface.
type Course struct {
	Direction measure.Angle `json:"direction"`
	Chosen    bool          `json:"chosen" doc:"A person chose it"`
	Reason    string        `json:"reason"`
	exit      *geometry.Point
	travel    geometry.Travel
}

// maxCandidates bounds how many directions are tried for a surface.
const maxCandidates = 6

// Plot chooses the direction in which the sections follow each other. A
// direction given by a person is kept, turned round if that brings the work
// towards the exit. Otherwise those of the longest walls are tried with the
// given shares; the one that keeps sections whole, ends at the exit and has the
// shortest wet edges wins.
func Plot(p geometry.Polygon, layout Layout, shares []float64) Course {
	if layout.Direction != nil {
		c := newCourse(p, layout, float64(*layout.Direction))
		c.Chosen = true
		c.Reason = "Direction chosen by you; the work moves towards the exit."
		return c
	}
	best, cost := Course{}, math.Inf(1)
	for i, degrees := range candidates(p.Outline) {
		c := newCourse(p, layout, degrees)
		if now := c.cost(p, shares); i == 0 || now < cost*(1-1e-9) {
			best, cost = c, now
		}
	}
	best.Reason = "Chosen for whole sections that end at the exit with the shortest wet edges."
	return best
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
	c := Course{travel: geometry.Heading(degrees), Direction: measure.Angle(degrees), exit: layout.Exit}
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

// Laying is a surface cut into sections.
type Laying struct {
	Sections   []Section
	Cuts       []Cut
	endsAtExit bool
}

// Lay cuts the surface into one section per share along the course.
func (c Course) Lay(p geometry.Polygon, shares []float64) Laying {
	strips := geometry.Strips(p, c.travel, shares)
	l := Laying{
		Sections:   make([]Section, len(strips)),
		Cuts:       make([]Cut, len(strips)-1),
		endsAtExit: c.exit == nil || c.endsAtExit(strips),
	}
	for i, s := range strips {
		l.Sections[i] = Section{Number: i + 1, Area: measure.Area(s.Area), Rings: s.Rings, Patches: s.Patches(), Label: s.Inside(c.travel)}
		if i == len(strips)-1 {
			break
		}
		chord, width := geometry.Chord(p, c.travel, s.To)
		cut := Cut{After: i + 1, Wet: measure.Length(width), Marks: make([]Mark, len(chord))}
		for k, m := range chord {
			cut.Marks[k] = Mark{Hole: m.Hole, Side: m.Side + 1, Along: measure.Length(m.Along), At: m.At}
		}
		l.Cuts[i] = cut
	}
	return l
}

// Findings says what is awkward about the sections of a coat. Path is the
// surface's JSON Pointer.
func (l Laying) Findings(path string, coat int) []finding.Finding {
	var found []finding.Finding
	warn := func(way, text string, args ...any) {
		found = append(found, finding.Finding{
			Level: finding.Warning, Step: finding.Pour, Path: path + "/layout/direction", Text: fmt.Sprintf(text, args...), WayOut: way,
		})
	}
	for _, s := range l.Sections {
		if s.Patches > 1 {
			warn("Choose another direction, or divide the surface into two.",
				"Coat %d: section %d falls into %d separate pieces, so its batch would be carried between them.", coat, s.Number, s.Patches)
		}
	}
	if len(l.Sections) > 1 && !l.endsAtExit {
		warn("Choose a direction that ends at the exit, or mark another exit.",
			"Coat %d: the exit does not lie at section %d, the last; the crew would have to cross wet film.", coat, len(l.Sections))
	}
	return found
}
