package takeoff

import (
	"fmt"
	"iter"

	"nephelon/core/finding"
	"nephelon/core/geometry"
	"nephelon/core/measure"
)

// Shape holds what was measured of a surface. It is a floor, unless it has a top
// or a pool; a given area stands in while it is none of them.
type Shape struct {
	Floor Floor  `json:"floor" doc:"Left empty when the surface is a top or a pool"`
	Top   *Top   `json:"top,omitempty"`
	Pool  *Pool  `json:"pool,omitempty"`
	Given *Given `json:"given,omitempty" doc:"Stands in while nothing is measured"`
}

// Measured reports whether there are measures to compute from.
func (s Shape) Measured() bool {
	switch {
	case s.Top != nil:
		return len(s.Top.Pieces) > 0
	case s.Pool != nil:
		return s.Pool.measured()
	}
	return len(s.Floor.Outline) > 0
}

// Unmeasured returns where measuring begins, as a JSON Pointer inside the surface
// and in words.
func (s Shape) Unmeasured() (at, way string) {
	switch {
	case s.Top != nil:
		return "/top/pieces", "Add its first piece."
	case s.Pool != nil:
		return "/pool", "Enter the measures of its shell."
	}
	return "/floor/outline", "Draw its outline or type the lengths of its walls."
}

// IDs names every part that has an id, by its JSON Pointer inside the surface.
func (s Shape) IDs() iter.Seq2[string, string] {
	return func(yield func(at, id string) bool) {
		each := func(at string, n int, id func(i int) string) bool {
			for i := range n {
				if !yield(fmt.Sprintf("%s/%d", at, i), id(i)) {
					return false
				}
			}
			return true
		}
		f := s.Floor
		more := each("/floor/holes", len(f.Holes), func(i int) string { return f.Holes[i].ID }) &&
			each("/floor/parts", len(f.Parts), func(i int) string { return f.Parts[i].ID }) &&
			each("/floor/lines", len(f.Lines), func(i int) string { return f.Lines[i].ID }) &&
			each("/floor/zones", len(f.Zones), func(i int) string { return f.Zones[i].ID }) &&
			each("/floor/fittings", len(f.Fittings), func(i int) string { return f.Fittings[i].ID })
		if more && s.Top != nil {
			more = each("/top/pieces", len(s.Top.Pieces), func(i int) string { return s.Top.Pieces[i].ID })
			for n, p := range s.Top.Pieces {
				more = more && each(fmt.Sprintf("/top/pieces/%d/cutouts", n), len(p.Cutouts),
					func(i int) string { return p.Cutouts[i].ID })
			}
		}
		if more && s.Pool != nil {
			_ = each("/pool/depths", len(s.Pool.Depths), func(i int) string { return s.Pool.Depths[i].ID }) &&
				each("/pool/parts", len(s.Pool.Parts), func(i int) string { return s.Pool.Parts[i].ID })
		}
	}
}

// Facing names how steep a surface stands: what keeps a film from running.
type Facing string

// The facings. Where one ends and the next begins is common practice, no
// source.
const (
	Level    Facing = "level"    // to 20°
	Steep    Facing = "steep"    // to 70°
	Vertical Facing = "vertical" // above
)

const (
	steepFrom    = 20.0
	verticalFrom = 70.0
)

// Panel is a part of a surface that is worked in one go: a wall of a pool, a
// floor on its slope, a piece of a top. Panels stand in their working order.
type Panel struct {
	Name   string         `json:"name"`
	Facing Facing         `json:"facing"`
	Area   measure.Area   `json:"area"`
	Run    measure.Length `json:"run" doc:"m along which it is divided; 0 where only shares of it can be told"`
	Start  measure.Length `json:"start" doc:"Breadth where the run begins, m"`
	End    measure.Length `json:"end" doc:"Breadth where the run ends, m"`
	Group  int            `json:"group" doc:"Panels of one group are best not parted by a join"`

	At    geometry.Point `json:"-"` // its middle on plan, of a wall or a plane of a pool
	Board *Board         `json:"-"` // as it is drawn, of a piece of a top
}

// Board is a piece of a top as it is drawn; each of its cut-outs has a name.
type Board struct {
	Outline geometry.Ring
	Cutouts []Hole
}

// Polygon is the piece as a figure.
func (b *Board) Polygon() geometry.Polygon {
	p := geometry.Polygon{Outline: b.Outline}
	for _, c := range b.Cutouts {
		p.Holes = append(p.Holes, c.Outline)
	}
	return p
}

// Figure is a line of the picture of a surface.
type Figure struct {
	Name string        `json:"name" doc:"Name of the figure; of an edge, its kind"`
	Kind string        `json:"kind" enum:"shell,floor,slope,edge,part"`
	Ring geometry.Ring `json:"ring" doc:"Closed; of an edge its two ends"`
}

// Split is an area by facing.
type Split struct {
	Level    measure.Area `json:"level" doc:"Area up to 20° from level, m²"`
	Steep    measure.Area `json:"steep" doc:"Area up to 70° from level, m²"`
	Vertical measure.Area `json:"vertical" doc:"Above, m²"`
}

func (s *Split) add(f Facing, a measure.Area) {
	switch f {
	case Level:
		s.Level += a
	case Steep:
		s.Steep += a
	default:
		s.Vertical += a
	}
}

func (s Split) of(f Facing) measure.Area {
	switch f {
	case Level:
		return s.Level
	case Steep:
		return s.Steep
	}
	return s.Vertical
}

func (s Split) plus(o Split) Split {
	return Split{s.Level + o.Level, s.Steep + o.Steep, s.Vertical + o.Vertical}
}

// Measure gives the area of a surface, with what is to be said about it. What
// encloses no area to be trusted is refused: then the take-off is nil, and the
// places of the fault are returned for the drawing. Path is the surface's JSON
// Pointer.
func Measure(s Shape, path string, units measure.System) (*Takeoff, []geometry.Point, []finding.Finding) {
	switch {
	case !s.Measured() && s.Given != nil:
		t, told := takeGiven(*s.Given, path)
		if s.Top == nil && s.Pool == nil {
			return &t, nil, append([]finding.Finding{told}, t.addParts(s.Floor, path+"/floor")...)
		}
		return &t, nil, []finding.Finding{told}
	case s.Top != nil:
		return measureTop(*s.Top, path+"/top", units)
	case s.Pool != nil:
		return measurePool(*s.Pool, path+"/pool", units)
	}
	return measureFloor(s.Floor, path+"/floor")
}

// add counts a piece: its area, its facing and its panel.
func (t *Takeoff) add(p Panel, w measure.Working) {
	t.Area += p.Area
	t.Facing.add(p.Facing, p.Area)
	t.Pieces = append(t.Pieces, Piece{Name: p.Name, Area: p.Area})
	t.Panels = append(t.Panels, p)
	w.Title = p.Name
	w.Result = measure.Value{Name: "Area", Kind: measure.KindArea, SI: float64(p.Area)}
	if w.Source == "" {
		w.Source = "Plane geometry"
	}
	t.PartWorkings = append(t.PartWorkings, w)
}

// lessen takes from the area what is counted in panels of one facing but is not
// coated; each of them gives its share.
func (t *Takeoff) lessen(name string, f Facing, a measure.Area, w measure.Working) {
	before := t.Facing.of(f)
	t.Area -= a
	t.Facing.add(f, -a)
	for i := range t.Panels {
		if t.Panels[i].Facing == f && before > 0 {
			t.Panels[i].Area *= (before - a) / before
		}
	}
	t.Pieces = append(t.Pieces, Piece{Name: name, Area: -a})
	w.Title = name
	w.Result = measure.Value{Name: "Area", Kind: measure.KindArea, SI: -float64(a)}
	if w.Source == "" {
		w.Source = "Plane geometry"
	}
	t.PartWorkings = append(t.PartWorkings, w)
}

// sum closes the working of a surface made of pieces.
func (t *Takeoff) sum(title string) {
	t.Working = measure.Working{
		Title: title, Formula: "sum of the pieces", Source: "Each piece has its own working",
		Result: measure.Value{Name: title, Kind: measure.KindArea, SI: float64(t.Area)},
	}
	for _, p := range t.Pieces {
		t.Working.Inputs = append(t.Working.Inputs, measure.Value{Name: p.Name, Kind: measure.KindArea, SI: float64(p.Area)})
	}
	t.Flat = t.Area
}

// inputs names the numbers of a working.
type inputs struct{ values []measure.Value }

func (in *inputs) length(name string, l measure.Length) float64 {
	in.values = append(in.values, measure.Value{Name: name, Kind: measure.KindLength, SI: float64(l)})
	return float64(l)
}

func (in *inputs) area(name string, a float64) float64 {
	in.values = append(in.values, measure.Value{Name: name, Kind: measure.KindArea, SI: a})
	return a
}

func (in *inputs) count(name string, n int) float64 {
	in.values = append(in.values, measure.Value{Name: name, Kind: measure.KindCount, SI: float64(n)})
	return float64(n)
}

// refused is a measure that cannot be, with its remedy.
func refused(path, way, text string, args ...any) []finding.Finding {
	return []finding.Finding{{Level: finding.Refused, Step: finding.Measure, Path: path, Text: fmt.Sprintf(text, args...),
		WayOut: way}}
}

// Values returns all values, in the order in which they are shown.
func (Facing) Values() []Facing {
	return []Facing{Level, Steep, Vertical}
}
