// Package takeoff turns what was measured into the area to be coated, with its
// working.
package takeoff

import (
	"fmt"
	"math"
	"strings"

	"nephelon/core/finding"
	"nephelon/core/geometry"
	"nephelon/core/measure"
)

// Floor is an outline walked along the walls, less the columns, pits and
// islands standing in it.
type Floor struct {
	Outline  geometry.Ring `json:"outline" maxItems:"5000" doc:"Corners in order, either way round; the last joins the first. Empty until measured"`
	Holes    []Hole        `json:"holes" maxItems:"500"`
	Parts    []Part        `json:"parts,omitempty" maxItems:"200" doc:"Edges, steps and ramps"`
	Lines    []Line        `json:"lines,omitempty" maxItems:"500" doc:"Cracks and joints"`
	Hollows  []Hollow      `json:"hollows,omitempty" maxItems:"200" doc:"Holes, low places, steps between slabs and fillets that are filled"`
	Zones    []Hole        `json:"zones,omitempty" maxItems:"100" doc:"Named parts of the floor; they are told, not subtracted"`
	Fittings []Fitting     `json:"fittings,omitempty" maxItems:"200" doc:"Doors and drains"`
	Walk     *Walk         `json:"walk,omitempty" doc:"How the tape took the outline; absent where it was drawn or imported"`
}

// Fitting is a door or a drain on the plan.
type Fitting struct {
	ID    string         `json:"id" minLength:"1" maxLength:"60"`
	Name  string         `json:"name" maxLength:"120" pattern:"^[^\\r\\n]*$"`
	Kind  string         `json:"kind" enum:"door,drain"`
	At    geometry.Point `json:"at"`
	Width measure.Length `json:"width,omitempty" minimum:"0" maximum:"100" doc:"m: a door's opening, which a cove around everything leaves out; the diameter of a drain, which is not coated"`
}

// Hole is a part inside the outline that is not coated.
type Hole struct {
	ID      string        `json:"id" minLength:"1" maxLength:"60"`
	Name    string        `json:"name" maxLength:"120" pattern:"^[^\\r\\n]*$"`
	Outline geometry.Ring `json:"outline" maxItems:"5000"`
	Walk    *Walk         `json:"walk,omitempty" doc:"How the tape took it"`
}

func (h Hole) title(what string, i int) string {
	if h.Name != "" {
		return h.Name
	}
	return fmt.Sprintf("%s %d", what, i+1)
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
	Flat         measure.Area      `json:"flat" doc:"Area that the sections divide, m²: the outline of a floor less its holes, the whole of a top or a pool"`
	Parts        measure.Area      `json:"parts" doc:"Area of edges, steps and ramps, less drains, m²"`
	Filler       measure.Volume    `json:"filler" doc:"m³ to fill cracks, joints and hollows"`
	Hollows      measure.Volume    `json:"hollows,omitempty" doc:"m³ of it for holes, low places, falls and fillets"`
	Deepest      measure.Length    `json:"deepest,omitempty" doc:"m, of the hollows"`
	FillWorkings []measure.Working `json:"fillWorkings,omitempty" doc:"Workings of the hollows"`
	Perimeter    measure.Length    `json:"perimeter" doc:"Length of the walls, m"`
	HoleEdge     measure.Length    `json:"holeEdge" doc:"Length around the holes, m"`
	Sides        []measure.Length  `json:"sides" doc:"Length of each side of the outline, m"`
	Pieces       []Piece           `json:"pieces"`
	Working      measure.Working   `json:"working"`
	PartWorkings []measure.Working `json:"partWorkings,omitempty"`
	Facing       Split             `json:"facing" doc:"The area by how steep it stands"`
	Zones        []Piece           `json:"zones,omitempty" doc:"Area of each zone less the holes in it"`
	Openings     measure.Length    `json:"openings,omitempty" doc:"Width of the doors, m"`
	Panels       []Panel           `json:"panels,omitempty" doc:"Parts of a top or a pool in working order"`
	Figures      []Figure          `json:"figures,omitempty" doc:"The picture of a top or a pool on plan"`
	Profile      []geometry.Point  `json:"profile,omitempty" doc:"The floor of a pool along its middle: m from the shallow end, m below the top edge as negative y"`
	Water        measure.Volume    `json:"water,omitempty" doc:"m³ that a pool holds to its water line"`
	Exposed      measure.Length    `json:"exposed,omitempty" doc:"Length of the poured edges of a top, m"`
	RunOff       measure.Area      `json:"runOff,omitempty" doc:"Film that runs over the edges and drips off, as an area, m²"`
	Strips       []Narrow          `json:"strips,omitempty" doc:"Narrow places beside cut-outs"`
	Flights      []Flight          `json:"flights,omitempty" doc:"Flights of steps among the parts"`
}

// Flight is a flight of steps.
type Flight struct {
	Name  string       `json:"name"`
	Count int          `json:"count" doc:"Steps"`
	Area  measure.Area `json:"area" doc:"m² of all of them"`
}

// measureFloor gives the area and edges of a floor.
func measureFloor(f Floor, path string) (*Takeoff, []geometry.Point, []finding.Finding) {
	t, places, fault := measureOutline(f, path)
	if fault != nil {
		return nil, places, []finding.Finding{*fault}
	}
	found := t.place(f, path)
	found = append(found, t.addParts(f, path)...)
	return &t, nil, append(found, t.addHollows(f, path)...)
}

func (m Fitting) title(i int) string {
	if m.Name != "" {
		return m.Name
	}
	return fmt.Sprintf("%s%s %d", strings.ToUpper(m.Kind[:1]), m.Kind[1:], i+1)
}

// place sorts out what is marked on the plan: doors, drains and zones.
func (t *Takeoff) place(f Floor, path string) []finding.Finding {
	var found []finding.Finding
	warn := func(at, text, way string) {
		found = append(found, finding.Finding{Level: finding.Warning, Step: finding.Measure, Path: path + at, Text: text,
			WayOut: way})
	}
	for i, m := range f.Fittings {
		at := fmt.Sprintf("/fittings/%d", i)
		if m.Kind == "door" {
			t.Openings += m.Width
			continue
		}
		if !f.Outline.Holds(m.At) {
			warn(at+"/at", m.title(i)+" is outside the floor.", "Move it inside or remove it.")
		}
	}
	for i, z := range f.Zones {
		at, name := fmt.Sprintf("/zones/%d", i), z.title("Zone", i)
		if fault := (geometry.Polygon{Outline: z.Outline}).Check(); fault != nil {
			warn(at, name+": "+fault.Text, fault.Way)
			continue
		}
		area := shared(f.Outline, z.Outline)
		if whole := math.Abs(z.Outline.SignedArea()); area < 0.99*whole {
			warn(at, fmt.Sprintf("%s reaches outside the floor; only %.0f %% of it counts.", name, 100*area/whole),
				"Move its corners inside the walls.")
		}
		for _, h := range f.Holes {
			area -= shared(h.Outline, z.Outline)
		}
		t.Zones = append(t.Zones, Piece{Name: name, Area: measure.Area(area)})
	}
	return found
}

// room returns how far a place on the floor is from the nearest wall or hole.
func (f Floor) room(at geometry.Point) measure.Length {
	_, _, near := f.Outline.Nearest(at)
	room := near.Distance(at)
	for _, h := range f.Holes {
		_, _, near := h.Outline.Nearest(at)
		room = math.Min(room, near.Distance(at))
	}
	return measure.Length(room)
}

func shared(a, b geometry.Ring) float64 {
	sum := 0.0
	for _, ring := range a.Common(b) {
		sum += ring.SignedArea()
	}
	return sum
}

// mostCorners bounds a floor: its walls, holes and zones are compared with each
// other, and no plan on which work is done has so many.
const mostCorners = 5000

// corners returns how many a floor has in all.
func (f Floor) corners() int {
	n := len(f.Outline)
	for _, rings := range [][]Hole{f.Holes, f.Zones} {
		for _, h := range rings {
			n += len(h.Outline)
		}
	}
	return n
}

func measureOutline(f Floor, path string) (Takeoff, []geometry.Point, *finding.Finding) {
	if n := f.corners(); n > mostCorners {
		return Takeoff{}, nil, &finding.Finding{
			Level: finding.Refused, Step: finding.Measure, Path: path + "/outline",
			Text:   fmt.Sprintf("its walls, holes and zones have %d corners together, more than %d.", n, mostCorners),
			WayOut: "Remove corners closer together than a tape can measure, or divide it into several surfaces.",
		}
	}
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
			Inputs: []measure.Value{{Name: fmt.Sprintf("Outline of %d corners", len(f.Outline)), Kind: measure.KindArea,
				SI: float64(outline)}},
			Source: "Shoelace formula (Gauss's area formula)",
		},
	}
	for i, corner := range f.Outline {
		t.Sides[i] = measure.Length(corner.Distance(f.Outline[(i+1)%len(f.Outline)]))
	}
	for i, h := range f.Holes {
		area := measure.Area(math.Abs(h.Outline.SignedArea()))
		name := h.title("Hole", i)
		t.Area -= area
		t.HoleEdge += measure.Length(h.Outline.Perimeter())
		t.Pieces = append(t.Pieces, Piece{Name: name, Area: -area})
		t.Working.Inputs = append(t.Working.Inputs, measure.Value{Name: "less " + name, Kind: measure.KindArea,
			SI: -float64(area)})
	}
	t.Flat = t.Area
	if f.Walk != nil {
		t.PartWorkings = append(t.PartWorkings, f.Walk.working("The outline by the tape", t.Sides))
	}
	for i, h := range f.Holes {
		if h.Walk != nil {
			t.PartWorkings = append(t.PartWorkings, h.Walk.working(h.title("Hole", i)+" by the tape", nil))
		}
	}
	for i, m := range f.Fittings {
		if m.Kind != "drain" || m.Width <= 0 || !f.Outline.Holds(m.At) {
			continue
		}
		if room := f.room(m.At); m.Width > 2*room {
			return Takeoff{}, []geometry.Point{m.At}, &finding.Finding{
				Level: finding.Refused, Step: finding.Measure, Path: fmt.Sprintf("%s/fittings/%d/width", path, i),
				Text: fmt.Sprintf("%s, %.3g m wide, does not fit the floor where it is: the nearest wall is %.3g m away.",
					m.title(i), float64(m.Width), float64(room)),
				WayOut: "Enter its diameter in the right unit, or move it.",
			}
		}
		area := measure.Area(math.Pi / 4 * float64(m.Width) * float64(m.Width))
		t.Area -= area
		t.Parts -= area
		t.Pieces = append(t.Pieces, Piece{Name: m.title(i), Area: -area})
		t.Working.Inputs = append(t.Working.Inputs,
			measure.Value{Name: "less " + m.title(i) + ", round", Kind: measure.KindArea, SI: -float64(area)})
	}
	t.Facing.Level = t.Area
	t.Working.Result = measure.Value{Name: "Coated area", Kind: measure.KindArea, SI: float64(t.Area)}
	return t, nil, nil
}
