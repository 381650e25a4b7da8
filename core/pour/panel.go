package pour

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"nephelon/core/finding"
	"nephelon/core/geometry"
	"nephelon/core/kit"
	"nephelon/core/measure"
	"nephelon/core/takeoff"
)

// Cover is the part of a panel that a section covers: whole, or from one place
// of its run to another.
type Cover struct {
	Panel int            `json:"panel" doc:"Index of the panel in the take-off's panels"`
	Name  string         `json:"name"`
	Area  measure.Area   `json:"area"`
	Whole bool           `json:"whole" doc:"The section covers all of the panel"`
	From  measure.Length `json:"from" doc:"m along the panel's run, or of a piece of a top from its left, or its lower end where it is drawn upright; of a panel without a run both are 0"`
	To    measure.Length `json:"to"`
	Lifts int            `json:"lifts,omitempty" doc:"Bands of a wall one below the other, from the top down, where it is higher than one is rolled in"`
	Goes  bool           `json:"goes,omitempty" doc:"The next batch goes on from its end on the same piece"`

	Rings []geometry.Ring `json:"rings,omitempty" doc:"Outlines counter-clockwise, holes clockwise; of a piece of a top"`
	Label *geometry.Point `json:"label,omitempty" doc:"A place inside, for its number"`
}

// Bead holds what of a batch is poured as a bead.
type Bead struct {
	Name   string         `json:"name" doc:"The piece, or the narrow strip of it"`
	Narrow bool           `json:"narrow,omitempty" doc:"Into a strip where it does not flow by itself"`
	Volume measure.Volume `json:"volume" doc:"m³"`
}

// reachOf is the height, m, to which a wall is rolled from the floor: common practice, no
// source.
const reachOf = 2.0

// Order is the order in which the panels of a pool are worked, by their places, so that the
// way to a ladder stays dry: its walls once round, beginning beside the ladder's own and
// ending with that, then its floor from what lies farthest to what lies at the ladder's
// foot, then everything else as it stands.
func Order(panels []takeoff.Panel, ladder geometry.Point) []int {
	var walls, floors, rest []int
	var middle geometry.Point
	for i, p := range panels {
		switch {
		case p.At == (geometry.Point{}):
			rest = append(rest, i)
		case p.Facing == takeoff.Vertical:
			walls = append(walls, i)
			middle.X, middle.Y = middle.X+p.At.X, middle.Y+p.At.Y
		default:
			floors = append(floors, i)
		}
	}
	middle = geometry.Point{X: middle.X / float64(max(1, len(walls))), Y: middle.Y / float64(max(1, len(walls)))}
	turn := func(p geometry.Point) float64 { return math.Atan2(p.Y-middle.Y, p.X-middle.X) }
	far := func(i int) float64 { return panels[i].At.Distance(ladder) }
	if len(walls) > 0 {
		own := slices.MinFunc(walls, func(i, j int) int { return cmp.Compare(far(i), far(j)) })
		begin := turn(panels[own].At)
		round := func(i int) float64 {
			if by := math.Mod(turn(panels[i].At)-begin+4*math.Pi, 2*math.Pi); i != own && by > 1e-9 {
				return by
			}
			return 2 * math.Pi
		}
		slices.SortStableFunc(walls, func(i, j int) int {
			return cmp.Or(cmp.Compare(round(i), round(j)), cmp.Compare(far(j), far(i)))
		})
	}
	slices.SortStableFunc(floors, func(i, j int) int { return cmp.Compare(far(j), far(i)) })
	return append(append(walls, floors...), rest...)
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
		From: along(p, from), To: along(p, to), Lifts: lifts(p),
	})
}

// lifts returns the number of bands in which a wall is worked; 0 where one does.
func lifts(p takeoff.Panel) int {
	if high := float64(max(p.Start, p.End)); p.Facing == takeoff.Vertical && p.Run > 0 && high > reachOf {
		return int(math.Ceil(high / reachOf))
	}
	return 0
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

// Pour says how much of each batch goes as beads onto each piece that its section covers, and
// how much of that into the narrow strips of a piece, with the first batch that comes to it.
func Pour(panels []takeoff.Panel, sections []Section, batches []kit.Batch, strips []takeoff.Narrow,
	takes func(takeoff.Panel) float64) {
	run(panels, sections)
	poured := make(map[string]bool)
	for n := range sections {
		s := &sections[n]
		whole := 0.0
		for _, span := range s.Spans {
			whole += float64(span.Area) * takes(panels[span.Panel])
		}
		for _, span := range s.Spans {
			p := panels[span.Panel]
			if p.Facing != takeoff.Level || whole == 0 {
				continue
			}
			each := batches[n].Volume * measure.Volume(takes(p)/whole)
			s.Beads = append(s.Beads, beads(p, span, each)...)
			if poured[p.Name] {
				continue
			}
			poured[p.Name] = true
			for _, strip := range strips {
				if strip.Piece == p.Name {
					s.Beads = append(s.Beads, Bead{Name: strip.Piece + ", " + strip.Name, Narrow: true,
						Volume: each * measure.Volume(strip.Area)})
				}
			}
		}
	}
}

// beads returns what of a batch goes over a part of a piece: in one, or left of its cut-outs, beside them and right of
// them.
func beads(p takeoff.Panel, span Cover, each measure.Volume) []Bead {
	if p.Board == nil || len(span.Rings) == 0 {
		return []Bead{{Name: p.Name, Volume: each * measure.Volume(span.Area)}}
	}
	parts, whole := zones(p.Board, span.Rings), 0.0
	for _, z := range parts {
		whole += z.area
	}
	all := make([]Bead, len(parts))
	for n, z := range parts {
		all[n] = Bead{Name: p.Name, Volume: each * measure.Volume(float64(span.Area)*z.area/whole)}
		if z.name != "" {
			all[n].Name += ", " + z.name
		}
	}
	return all
}

// Joins returns where a join parts panels of one group, such as the face of a
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
				Text: fmt.Sprintf("Coat %d: %s takes resin from batches %d to %d; a joint can show on a top.", coat, name[group],
					first[group], last[group]),
				WayOut: "Mix them in one larger vessel, or pour them within minutes of each other and let them flow together.",
			})
		}
	}
	return found
}
