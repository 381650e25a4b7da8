// Package takeoff turns what was measured into the area to be coated, with its
// working.
package takeoff

import (
	"fmt"
	"math"

	"nephelon/core/finding"
	"nephelon/core/geometry"
	"nephelon/core/measure"
)

// Floor is an outline walked along the walls, less the columns, pits and
// islands standing in it.
type Floor struct {
	Outline geometry.Ring `json:"outline" maxItems:"20000" doc:"Corners in order, either way round; the last joins the first. Empty until measured"`
	Holes   []Hole        `json:"holes" maxItems:"500"`
	Parts   []Part        `json:"parts,omitempty" maxItems:"200" doc:"Edges, steps and ramps"`
	Lines   []Line        `json:"lines,omitempty" maxItems:"500" doc:"Cracks and joints"`
	Given   *Given        `json:"given,omitempty" doc:"Stands in while there is no outline"`
}

// Hole is a part inside the outline that is not coated.
type Hole struct {
	ID      string        `json:"id" minLength:"1" maxLength:"60"`
	Name    string        `json:"name" maxLength:"120"`
	Outline geometry.Ring `json:"outline" maxItems:"20000"`
}

// Polygon is the floor as a figure.
func (f Floor) Polygon() geometry.Polygon {
	p := geometry.Polygon{Outline: f.Outline}
	for _, h := range f.Holes {
		p.Holes = append(p.Holes, h.Outline)
	}
	return p
}

// Piece is one figure that adds to the area or takes from it.
type Piece struct {
	Name string       `json:"name"`
	Area measure.Area `json:"area" doc:"Negative for a hole"`
}

// Takeoff is a measured surface.
type Takeoff struct {
	Area         measure.Area      `json:"area" doc:"Coated area, m²"`
	Flat         measure.Area      `json:"flat" doc:"Of it, the outline less its holes"`
	Parts        measure.Area      `json:"parts" doc:"Of it, edges, steps and ramps"`
	Filler       measure.Volume    `json:"filler" doc:"m³ to fill cracks and joints"`
	Perimeter    measure.Length    `json:"perimeter" doc:"Length of the walls, m"`
	HoleEdge     measure.Length    `json:"holeEdge" doc:"Length around the holes, m"`
	Sides        []measure.Length  `json:"sides" doc:"Length of each side of the outline, m"`
	Pieces       []Piece           `json:"pieces"`
	Working      measure.Working   `json:"working"`
	PartWorkings []measure.Working `json:"partWorkings,omitempty"`
}

// MeasureFloor gives the area and edges of a floor, with what is to be said
// about it. A drawing that encloses no area to be trusted is refused: then the
// take-off is nil and the places of the fault are returned for the drawing. Path
// is the floor's JSON Pointer.
func MeasureFloor(f Floor, path string) (*Takeoff, []geometry.Point, []finding.Finding) {
	if len(f.Outline) == 0 && f.Given != nil {
		t, told := takeGiven(*f.Given, path)
		return &t, nil, append([]finding.Finding{told}, t.addParts(f, path)...)
	}
	t, places, fault := measureOutline(f, path)
	if fault != nil {
		return nil, places, []finding.Finding{*fault}
	}
	return &t, nil, t.addParts(f, path)
}

func measureOutline(f Floor, path string) (Takeoff, []geometry.Point, *finding.Finding) {
	polygon := f.Polygon()
	if fault := polygon.Check(); fault != nil {
		at := path + "/outline"
		text := fault.Text
		if fault.Hole >= 0 {
			at = fmt.Sprintf("%s/holes/%d", path, fault.Hole)
			if name := f.Holes[fault.Hole].Name; name != "" {
				text = name + ": " + text
			}
		}
		return Takeoff{}, fault.At, &finding.Finding{
			Level: finding.Refused, Step: finding.Measure, Path: at, Text: text, WayOut: fault.Way,
		}
	}
	outline := measure.Area(math.Abs(f.Outline.SignedArea()))
	t := Takeoff{
		Area:      outline,
		Perimeter: measure.Length(f.Outline.Perimeter()),
		Sides:     make([]measure.Length, len(f.Outline)),
		Pieces:    []Piece{{Name: "Outline", Area: outline}},
		Working: measure.Working{
			Title:   "Coated area",
			Formula: "outline − holes, each by ½ · |Σ (xᵢ·yᵢ₊₁ − xᵢ₊₁·yᵢ)|, + edges, steps and ramps",
			Inputs:  []measure.Value{{Name: fmt.Sprintf("Outline of %d corners", len(f.Outline)), Kind: measure.KindArea, SI: float64(outline)}},
			Source:  "Shoelace formula (Gauss's area formula)",
		},
	}
	for i, corner := range f.Outline {
		t.Sides[i] = measure.Length(corner.Distance(f.Outline[(i+1)%len(f.Outline)]))
	}
	for i, h := range f.Holes {
		area := measure.Area(math.Abs(h.Outline.SignedArea()))
		name := h.Name
		if name == "" {
			name = fmt.Sprintf("Hole %d", i+1)
		}
		t.Area -= area
		t.HoleEdge += measure.Length(h.Outline.Perimeter())
		t.Pieces = append(t.Pieces, Piece{Name: name, Area: -area})
		t.Working.Inputs = append(t.Working.Inputs, measure.Value{Name: "less " + name, Kind: measure.KindArea, SI: -float64(area)})
	}
	t.Flat = t.Area
	t.Working.Result = measure.Value{Name: "Coated area", Kind: measure.KindArea, SI: float64(t.Area)}
	return t, nil, nil
}
