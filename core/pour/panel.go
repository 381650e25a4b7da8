package pour

import (
	"fmt"
	"math"

	"nephelon/core/finding"
	"nephelon/core/geometry"
	"nephelon/core/measure"
	"nephelon/core/takeoff"
)

// Cover is the part of a panel that a section covers: whole, or from one place
// of its run to another.
type Cover struct {
	Panel int            `json:"panel" doc:"Its place in the take-off's panels"`
	Name  string         `json:"name"`
	Area  measure.Area   `json:"area"`
	Whole bool           `json:"whole" doc:"The section covers all of the panel"`
	From  measure.Length `json:"from" doc:"m along the panel's run; of a panel without one both are 0"`
	To    measure.Length `json:"to"`
}

// Allot walks through the panels in their order and gives each share its part of
// them, cutting a panel across its run where a share ends. What a square metre of a
// panel takes of a share is told by takes, against other panels; a panel that takes
// nothing is left out.
func Allot(panels []takeoff.Panel, shares []float64, takes func(takeoff.Panel) float64) []Section {
	whole, total := 0.0, 0.0
	for _, p := range panels {
		whole += float64(p.Area) * takes(p)
	}
	for _, s := range shares {
		total += s
	}
	sections := make([]Section, len(shares))
	at, used := 0, 0.0 // the panel in hand, and what of it is gone
	for n, share := range shares {
		s := Section{Number: n + 1, Rings: []geometry.Ring{}, Patches: 1}
		for left := whole * share / total; at < len(panels); at, used = at+1, 0 {
			p := panels[at]
			each := takes(p)
			if each <= 0 {
				continue
			}
			rest := float64(p.Area)*each - used
			if n < len(shares)-1 && rest > left+1e-9*whole {
				s.take(p, at, used/each, (used+left)/each)
				used += left
				break
			}
			s.take(p, at, used/each, float64(p.Area))
			left -= rest
		}
		sections[n] = s
	}
	return sections
}

func (s *Section) take(p takeoff.Panel, at int, from, to float64) {
	if to-from <= 0 {
		return
	}
	s.Area += measure.Area(to - from)
	s.Spans = append(s.Spans, Cover{
		Panel: at, Name: p.Name, Area: measure.Area(to - from), Whole: from == 0 && to == float64(p.Area),
		From: along(p, from), To: along(p, to),
	})
}

// along is the place on a panel's run up to which it holds an area. The breadth
// changes evenly along the run, so the area grows as its square: with breadths a
// and b over the run r, x is the root of (b − a)/(2r)·x² + a·x = area.
func along(p takeoff.Panel, area float64) measure.Length {
	run, a, b := float64(p.Run), float64(p.Start), float64(p.End)
	if run <= 0 || a+b <= 0 || p.Area <= 0 {
		return 0
	}
	part := area / float64(p.Area) * (a + b) / 2 * run // of the trapezium
	bend := (b - a) / (2 * run)
	root := math.Sqrt(math.Max(0, a*a+4*bend*part))
	return measure.Length(math.Min(run, 2*part/(a+root)))
}

// Joins tells where a join parts panels of one group, such as the face of a
// board from its edge, or the board itself. Path is the surface's JSON Pointer.
func Joins(panels []takeoff.Panel, sections []Section, path string, coat int) []finding.Finding {
	first, last := make(map[int]int), make(map[int]int)
	name := make(map[int]string)
	var order []int
	for _, s := range sections {
		for _, span := range s.Spans {
			group := panels[span.Panel].Group
			if _, seen := first[group]; !seen {
				first[group], name[group] = s.Number, span.Name
				order = append(order, group)
			}
			last[group] = s.Number
		}
	}
	var found []finding.Finding
	for _, group := range order {
		if first[group] != last[group] {
			found = append(found, finding.Finding{
				Level: finding.Note, Step: finding.Pour, Path: path + "/top",
				Text:   fmt.Sprintf("Coat %d: %s takes resin from batches %d to %d; a join can show on a top.", coat, name[group], first[group], last[group]),
				WayOut: "Mix them in one larger vessel, or pour them within minutes of each other and let them flow together.",
			})
		}
	}
	return found
}
