package takeoff

import (
	"fmt"
	"math"

	"nephelon/core/finding"
	"nephelon/core/geometry"
	"nephelon/core/measure"
)

// PartKind is a piece of work that a flat outline does not show.
type PartKind string

// The kinds of part.
const (
	Cove      PartKind = "cove"      // up the wall: run × height
	Stairs    PartKind = "stairs"    // treads, risers, nosings, exposed sides
	Ramp      PartKind = "ramp"      // slope length × width
	Threshold PartKind = "threshold" // run × width
	Upstand   PartKind = "upstand"   // a stem wall or kerb: run × height
)

// Part is an edge, a flight of steps or a ramp that belongs to a floor. Each
// kind uses the measures that its formula names.
type Part struct {
	ID      string         `json:"id" minLength:"1" maxLength:"60"`
	Name    string         `json:"name" maxLength:"120" pattern:"^[^\\r\\n]*$"`
	Kind    PartKind       `json:"kind"`
	Run     measure.Length `json:"run,omitempty" minimum:"0" maximum:"100000" doc:"m along the wall; for a cove 0 means around all walls and columns but the doors; for a ramp its length on plan"`
	Height  measure.Length `json:"height,omitempty" minimum:"0" maximum:"1000" doc:"m; for a ramp its rise"`
	Width   measure.Length `json:"width,omitempty" minimum:"0" maximum:"1000" doc:"m"`
	Tread   measure.Length `json:"tread,omitempty" minimum:"0" maximum:"10" doc:"m of one step"`
	Riser   measure.Length `json:"riser,omitempty" minimum:"0" maximum:"10" doc:"m of one step"`
	Nosing  measure.Length `json:"nosing,omitempty" minimum:"0" maximum:"1" doc:"m around the edge of one step"`
	Count   int            `json:"count,omitempty" minimum:"0" maximum:"1000" doc:"Steps; for a cove its returns at openings"`
	Return  measure.Length `json:"return,omitempty" minimum:"0" maximum:"10" doc:"m of one return of a cove"`
	Sides   int            `json:"sides,omitempty" minimum:"0" maximum:"2" doc:"Exposed sides of a flight of steps"`
	OnFloor bool           `json:"onFloor,omitempty" doc:"A ramp inside the outline, whose plan area is counted already"`
}

// Line is a crack or joint to be filled.
type Line struct {
	ID     string         `json:"id" minLength:"1" maxLength:"60"`
	Name   string         `json:"name" maxLength:"120" pattern:"^[^\\r\\n]*$"`
	Kind   string         `json:"kind" enum:"crack,saw-joint,moving-joint"`
	Length measure.Length `json:"length,omitempty" minimum:"0" maximum:"100000" doc:"m; of a line drawn on the plan its own length counts"`
	Path   geometry.Ring  `json:"path,omitempty" maxItems:"2000" doc:"Where it runs on the plan, from point to point"`
	Width  measure.Length `json:"width" exclusiveMinimum:"0" maximum:"1" doc:"m"`
	Depth  measure.Length `json:"depth" exclusiveMinimum:"0" maximum:"2" doc:"m"`
}

// Filler returns what fills the line: its length × width × depth. A joint that moves
// is honoured, not filled.
func (l Line) Filler() measure.Volume {
	if l.Kind == "moving-joint" {
		return 0
	}
	return measure.Volume(l.Run() * l.Width * l.Depth)
}

// Run is the length of the line: as drawn, else as entered.
func (l Line) Run() measure.Length {
	if len(l.Path) < 2 {
		return l.Length
	}
	length := 0.0
	for i := 1; i < len(l.Path); i++ {
		length += l.Path[i-1].Distance(l.Path[i])
	}
	return measure.Length(length)
}

// facings is the area of a part by how steep it stands.
func (p Part) facings(area measure.Area) Split {
	var s Split
	switch p.Kind {
	case Stairs:
		s.Level = measure.Area(p.Count) * measure.Area(p.Width*p.Tread)
		s.Vertical = area - s.Level
	case Ramp:
		s.add(facing(float64(p.Height)/math.Max(float64(p.Run), 1e-12)), area)
	case Threshold:
		s.Level = area
	default:
		s.Vertical = area
	}
	return s
}

// Given is an area taken from someone's word, not yet measured.
type Given struct {
	Area measure.Area `json:"area" exclusiveMinimum:"0" maximum:"10000000" doc:"m²"`
	Note string       `json:"note" maxLength:"400" doc:"Whose figure it is"`
}

// working gives the area of a part, the formula and the numbers in it. Around is
// the length of all walls and columns.
func (p Part) working(around measure.Length) (measure.Working, string) {
	w := measure.Working{Title: p.title(), Source: "Plane geometry"}
	in := func(name string, l measure.Length) float64 {
		w.Inputs = append(w.Inputs, measure.Value{Name: name, Kind: measure.KindLength, SI: float64(l)})
		return float64(l)
	}
	count := func(name string, n int) float64 {
		w.Inputs = append(w.Inputs, measure.Value{Name: name, Kind: measure.KindCount, SI: float64(n)})
		return float64(n)
	}
	area, missing := 0.0, ""
	switch p.Kind {
	case Cove:
		run := p.Run
		if run == 0 {
			run = around
		}
		w.Formula = "(run + returns × length of a return) × height"
		area = (in("Run", run) + count("Returns", p.Count)*in("Length of a return", p.Return)) * in("Height", p.Height)
		missing = "a height"
	case Stairs:
		w.Formula = "steps × width × (tread + riser + nosing) + sides × ½ · steps · (steps + 1) × tread × riser"
		n, tread, riser := count("Steps", p.Count), in("Tread", p.Tread), in("Riser", p.Riser)
		area = n*in("Width", p.Width)*(tread+riser+in("Nosing", p.Nosing)) +
			count("Exposed sides", p.Sides)*n*(n+1)/2*tread*riser
		missing = "a number of steps, a width, a tread and a riser"
	case Ramp:
		slope := math.Hypot(in("Length on plan", p.Run), in("Rise", p.Height))
		w.Formula = "√(length on plan² + rise²) × width"
		width := in("Width", p.Width)
		area = slope * width
		if p.OnFloor {
			w.Formula += " − length on plan × width, which the outline counts already"
			area -= float64(p.Run) * width
		}
		missing = "a length on plan, a rise and a width"
	case Threshold:
		w.Formula = "run × width"
		area, missing = in("Run", p.Run)*in("Width", p.Width), "a run and a width"
	case Upstand:
		w.Formula = "run × height"
		area, missing = in("Run", p.Run)*in("Height", p.Height), "a run and a height"
	}
	w.Result = measure.Value{Name: "Area", Kind: measure.KindArea, SI: area}
	if area > 0 {
		missing = ""
	}
	return w, missing
}

func (p Part) title() string {
	if p.Name != "" {
		return p.Name
	}
	return map[PartKind]string{Cove: "Cove base", Stairs: "Stairs", Ramp: "Ramp", Threshold: "Threshold",
		Upstand: "Upstand"}[p.Kind]
}

// addParts adds the parts and lines of a floor to its take-off.
func (t *Takeoff) addParts(f Floor, path string) []finding.Finding {
	var found []finding.Finding
	for i, part := range f.Parts {
		w, missing := part.working(max(0, t.Perimeter-t.Openings) + t.HoleEdge)
		if missing != "" {
			found = append(found, finding.Finding{
				Level: finding.Warning, Step: finding.Measure, Path: fmt.Sprintf("%s/parts/%d", path, i),
				Text: fmt.Sprintf("%s adds no area yet.", w.Title), WayOut: "It needs " + missing + ".",
			})
			continue
		}
		area := measure.Area(w.Result.SI)
		t.Area += area
		t.Parts += area
		t.Facing = t.Facing.plus(part.facings(area))
		if part.Kind == Stairs {
			t.Flights = append(t.Flights, Flight{w.Title, part.Count, area})
		}
		t.Pieces = append(t.Pieces, Piece{Name: w.Title, Area: area})
		t.PartWorkings = append(t.PartWorkings, w)
		t.Working.Inputs = append(t.Working.Inputs, measure.Value{Name: "plus " + w.Title, Kind: measure.KindArea,
			SI: w.Result.SI})
	}
	for i, l := range f.Lines {
		if l.Run() <= 0 {
			found = append(found, finding.Finding{
				Level: finding.Warning, Step: finding.Measure, Path: fmt.Sprintf("%s/lines/%d/length", path, i),
				Text: fmt.Sprintf("Line %d has no length yet.", i+1), WayOut: "Enter it, or draw the line on the plan.",
			})
		}
		t.Filler += l.Filler()
	}
	t.Working.Result.SI = float64(t.Area)
	return found
}

// takeGiven takes an area on someone's word.
func takeGiven(g Given, path string) (Takeoff, finding.Finding) {
	t := Takeoff{
		Area: g.Area, Flat: g.Area, Facing: Split{Level: g.Area}, Sides: []measure.Length{},
		Pieces: []Piece{{Name: "As given", Area: g.Area}},
		Working: measure.Working{
			Title: "Area to coat", Formula: "as given, not measured", Source: g.Note,
			Inputs: []measure.Value{{Name: "As given", Kind: measure.KindArea, SI: float64(g.Area), Source: measure.Assumed}},
			Result: measure.Value{Name: "Area to coat", Kind: measure.KindArea, SI: float64(g.Area)},
		},
	}
	said := "someone's word"
	if g.Note != "" {
		said = "a figure that was not checked (" + g.Note + ")"
	}
	return t, finding.Finding{
		Level: finding.Warning, Step: finding.Measure, Path: path + "/given",
		Text: "its area rests on " + said + ".", WayOut: "Measure it before you buy.",
	}
}

// Values returns all values, in the order in which they are shown.
func (PartKind) Values() []PartKind {
	return []PartKind{Cove, Stairs, Ramp, Threshold, Upstand}
}
