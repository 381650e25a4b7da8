package takeoff

import (
	"fmt"
	"math"

	"nephelon/core/finding"
	"nephelon/core/measure"
)

// HollowKind is a shape of what is filled beside cracks and joints.
type HollowKind string

// The kinds of hollow.
const (
	Pit    HollowKind = "pit"    // a hole or divot with steep sides: length × width × depth
	Low    HollowKind = "low"    // a dish: half its area × its deepest
	Fall   HollowKind = "fall"   // a wedge from nothing to its depth, at a step between two slabs or towards a drain
	Fillet HollowKind = "fillet" // mortar in the corner of floor and wall: (1 − π/4) × radius² × length
)

// Hollow is a place that is filled before the coats.
type Hollow struct {
	ID     string         `json:"id" minLength:"1" maxLength:"60"`
	Name   string         `json:"name" maxLength:"120" pattern:"^[^\\r\\n]*$"`
	Kind   HollowKind     `json:"kind"`
	Zone   string         `json:"zone,omitempty" maxLength:"60" doc:"Id of the zone of the plan that it fills, whose area then counts; of a low place"`
	Count  int            `json:"count,omitempty" minimum:"0" maximum:"10000" doc:"How many alike; one when left out"`
	Length measure.Length `json:"length,omitempty" minimum:"0" maximum:"10000" doc:"m; of a fillet 0 means around all walls and columns but the doors"`
	Width  measure.Length `json:"width,omitempty" minimum:"0" maximum:"1000" doc:"m; not of a fillet"`
	Depth  measure.Length `json:"depth" minimum:"0" maximum:"2" doc:"m where it is deepest; of a fillet its radius"`
}

func (h Hollow) title() string {
	if h.Name != "" {
		return h.Name
	}
	return map[HollowKind]string{Pit: "Hole", Low: "Low place", Fall: "Fall", Fillet: "Fillet"}[h.Kind]
}

// working gives the volume of a hollow, the formula and the numbers in it. Around is the length of all walls and
// columns, zone the area of its zone, 0 where it has none.
func (h Hollow) working(around measure.Length, zone measure.Area) measure.Working {
	w := measure.Working{Title: h.title(), Source: "Solid geometry"}
	in := func(name string, l measure.Length) float64 {
		w.Inputs = append(w.Inputs, measure.Value{Name: name, Kind: measure.KindLength, SI: float64(l)})
		return float64(l)
	}
	volume := 0.0
	switch h.Kind {
	case Pit:
		w.Formula = "length × width × depth"
		volume = in("Length", h.Length) * in("Width", h.Width) * in("Depth", h.Depth)
	case Low:
		w.Formula = "½ × area × deepest, as of a shallow cap"
		area := float64(zone)
		if h.Zone != "" {
			w.Inputs = append(w.Inputs, measure.Value{Name: "Area of its zone", Kind: measure.KindArea, SI: area})
		} else {
			w.Formula = "½ × π/4 × length × width × deepest, as of a shallow cap"
			area = math.Pi / 4 * in("Length", h.Length) * in("Width", h.Width)
		}
		volume = area * in("Deepest", h.Depth) / 2
	case Fall:
		w.Formula = "½ × length × width × depth"
		volume = in("Length", h.Length) * in("Width", h.Width) * in("Depth", h.Depth) / 2
	case Fillet:
		w.Formula = "(1 − π/4) × radius² × length"
		run := h.Length
		if run == 0 {
			run = around
		}
		volume = (1 - math.Pi/4) * in("Length", run) * math.Pow(in("Radius", h.Depth), 2)
	}
	if h.Count > 1 {
		w.Formula += " × how many"
		w.Inputs = append(w.Inputs, measure.Value{Name: "How many", Kind: measure.KindCount, SI: float64(h.Count)})
		volume *= float64(h.Count)
	}
	w.Result = measure.Value{Name: "Volume", Kind: measure.KindVolume, SI: volume}
	return w
}

// addHollows adds what fills the hollows of a floor.
func (t *Takeoff) addHollows(f Floor, path string) []finding.Finding {
	var found []finding.Finding
	areas := make(map[string]measure.Area)
	for i, z := range f.Zones {
		if i < len(t.Zones) {
			areas[z.ID] = t.Zones[i].Area
		}
	}
	for i, h := range f.Hollows {
		at := fmt.Sprintf("%s/hollows/%d", path, i)
		area, there := areas[h.Zone]
		if h.Zone != "" && !there {
			found = append(found, finding.Finding{
				Level: finding.Warning, Step: finding.Measure, Path: at + "/zone",
				Text:   fmt.Sprintf("%s fills a zone that is not on the plan, so its volume is not known.", h.title()),
				WayOut: "Choose a zone, or enter its length and width.",
			})
			continue
		}
		w := h.working(max(0, t.Perimeter-t.Openings)+t.HoleEdge, area)
		if w.Result.SI <= 0 {
			found = append(found, finding.Finding{
				Level: finding.Warning, Step: finding.Measure, Path: at,
				Text: fmt.Sprintf("%s takes no filler yet.", w.Title), WayOut: "Enter its length, width and depth.",
			})
			continue
		}
		t.FillWorkings = append(t.FillWorkings, w)
		t.Hollows += measure.Volume(w.Result.SI)
		if h.Kind != Fillet {
			t.Deepest = max(t.Deepest, h.Depth)
		}
	}
	t.Filler += t.Hollows
	return found
}

// Values returns all values, in the order in which they are shown.
func (HollowKind) Values() []HollowKind { return []HollowKind{Pit, Low, Fall, Fillet} }
