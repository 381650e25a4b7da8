// Package pour lays out the sections of a surface, one to a batch, in the order
// in which they are worked towards the exit.
package pour

import (
	"fmt"
	"math"
	"slices"

	"nephelon/core/finding"
	"nephelon/core/geometry"
	"nephelon/core/measure"
)

// Section is the patch of surface that one batch covers.
type Section struct {
	ID      string          `json:"id" doc:"Stays with the section while its coat and its place in the order stay"`
	Number  int             `json:"number" doc:"Number of its batch"`
	Area    measure.Area    `json:"area" doc:"Area of floor, m²"`
	Parts   measure.Area    `json:"parts" doc:"Share of edges, steps and ramps, m²"`
	Rings   []geometry.Ring `json:"rings" doc:"Outlines counter-clockwise, holes clockwise; of a floor"`
	Spans   []Cover         `json:"spans,omitempty" doc:"What it covers of the panels of a top or a pool"`
	Beads   []Bead          `json:"beads,omitempty" doc:"What of its batch is poured where, on a top"`
	Steps   []Descent       `json:"steps,omitempty" doc:"What it covers of flights of steps, before its part of the floor"`
	Patches int             `json:"patches" doc:"Separate pieces; more than one is awkward"`
	Beside  []int           `json:"beside,omitempty" doc:"Numbers of the sections worked before whose wet edge it meets"`
	Edge    measure.Length  `json:"edge,omitempty" doc:"m of wet edge that it meets"`
	Label   geometry.Point  `json:"label" doc:"A place inside for its number"`
}

// Descent is a stretch of a flight of steps.
type Descent struct {
	Name string       `json:"name"`
	From int          `json:"from" doc:"Counted from the top, from 1"`
	To   int          `json:"to"`
	Area measure.Area `json:"area" doc:"m²"`
}

// Mark holds where a cut line meets a wall: there the tape goes.
type Mark struct {
	Hole  int            `json:"hole" doc:"-1 on the outline, else the hole's index"`
	Side  int            `json:"side" doc:"From 1; side n runs from corner n to the next"`
	Along measure.Length `json:"along" doc:"m from corner n; of an earlier tape from its first end"`
	Tape  int            `json:"tape,omitempty" doc:"The section after which the tape was put that it ends on, where it ends on no wall"`
	At    geometry.Point `json:"at"`
	Check measure.Length `json:"check,omitempty" doc:"m straight to the corner from which the mark at the line's other end is measured"`
}

// Cut is the line between two sections.
type Cut struct {
	After int            `json:"after" doc:"The section worked before it"`
	With  []int          `json:"with" doc:"Those on its other side"`
	Wet   measure.Length `json:"wet" doc:"Length of wet edge to keep alive, m"`
	Marks []Mark         `json:"marks"`
	On    string         `json:"on,omitempty" doc:"The saw joint, zone's edge or doorway that it lies on"`
}

// oldest returns how many sections the edge waits that is joined last.
func (l Laying) oldest() int {
	most := 0
	for _, s := range l.Sections {
		if len(s.Beside) > 0 {
			most = max(most, s.Number-slices.Min(s.Beside))
		}
	}
	return most
}

// Laying is a surface cut into sections.
type Laying struct {
	Sections   []Section
	Cuts       []Cut
	endsAtExit bool
	escapes    []geometry.Escape // by section; nil where the floor lies open to the exit
	failed     error             // why it cannot be divided in pieces
	partial    bool              // a bound kept joins from being tried
}

// Lay cuts the surface into one section per share along the course.
func (c Course) Lay(p geometry.Polygon, shares []float64) Laying {
	if c.Pieces {
		if l, err := c.lift(p, shares); err == nil {
			return l
		}
	}
	strips := c.onSeams(p, geometry.Strips(p, c.travel, shares))
	l := Laying{
		Sections:   make([]Section, len(strips)),
		Cuts:       make([]Cut, len(strips)-1),
		endsAtExit: c.exit == nil || c.endsAtExit(strips), partial: c.partial,
	}
	for i, s := range strips {
		l.Sections[i] = Section{Number: i + 1, Area: measure.Area(s.Area), Rings: s.Rings, Patches: s.Patches(),
			Label: s.Inside(c.travel)}
		if i > 0 {
			l.Sections[i].Beside, l.Sections[i].Edge = []int{i}, l.Cuts[i-1].Wet
		}
		if i == len(strips)-1 {
			break
		}
		chord, width := geometry.Chord(p, c.travel, s.To)
		cut := Cut{After: i + 1, With: []int{i + 2}, Wet: measure.Length(width), Marks: make([]Mark, len(chord))}
		for k, m := range chord {
			cut.Marks[k] = Mark{Hole: m.Hole, Side: m.Side + 1, Along: measure.Length(m.Along), At: m.At}
		}
		cut.on(c.seams)
		l.Cuts[i] = cut
	}
	l.escapes = c.escapes(p, l)
	return l
}

// escapes returns how the crew leaves each section; nil where strips lie open to the exit
// all along.
func (c Course) escapes(p geometry.Polygon, l Laying) []geometry.Escape {
	if c.exit == nil || !l.endsAtExit || len(l.Sections) < 2 || geometry.OpenAhead(p, c.travel, c.wide()) {
		return nil
	}
	pieces := make([]geometry.Piece, len(l.Sections))
	for i, s := range l.Sections {
		pieces[i] = geometry.Piece{Rings: s.Rings, Label: s.Label}
	}
	return c.memory.leave(leaving{p, pieces, c.doors(), c.wide()})
}

// leastJoin is the shortest stretch of an edge that counts as one, m.
const leastJoin = 0.05

// lift cuts the surface into pieces, one per share.
func (c Course) lift(p geometry.Polygon, shares []float64) (Laying, error) {
	whole := 0.0
	for _, s := range shares {
		whole += s
	}
	parts := make([]float64, len(shares))
	for i, s := range shares {
		parts[i] = s / whole
	}
	l := c.memory.lift(pieces{p, *c.exit, c.doors(), c.wide(), parts, c.seams})
	return l, l.failed
}

// lift cuts a floor into pieces, with the memory for its ways out; the result has failed set where that cannot be done.
func (q pieces) lift(in *geometry.Ground) Laying {
	p := q.floor
	pieces, complete, err := geometry.Peel(p, q.exit, q.shares, q.seams)
	if err != nil {
		return Laying{failed: fmt.Errorf("divide the floor: %w", err), partial: !complete}
	}
	l := Laying{partial: !complete, Sections: make([]Section, len(pieces)), Cuts: make([]Cut, 0, len(pieces)-1),
		endsAtExit: true}
	for i, piece := range pieces {
		l.Sections[i] = Section{Number: i + 1, Area: measure.Area(piece.Area), Rings: piece.Rings, Patches: 1,
			Label: piece.Label}
	}
	for i, piece := range pieces {
		cut := Cut{After: i + 1, With: []int{}, Marks: []Mark{}}
		for _, j := range piece.Joins {
			cut.Wet += measure.Length(j[0].Distance(j[1]))
			cut.Marks = append(cut.Marks, mark(p, j[0], l.Cuts), mark(p, j[1], l.Cuts))
		}
		for n := i + 1; n < len(pieces); n++ {
			shared := 0.0
			for _, j := range piece.Joins {
				shared += geometry.Shared(j, pieces[n].Rings)
			}
			if shared > leastJoin {
				cut.With = append(cut.With, n+1)
				l.Sections[n].Beside = append(l.Sections[n].Beside, i+1)
				l.Sections[n].Edge += measure.Length(shared)
			}
		}
		if i < len(pieces)-1 {
			cut.on(q.seams)
			l.Cuts = append(l.Cuts, cut)
		}
	}
	l.escapes = in.Escapes(p, pieces, q.doors, q.width)
	return l
}

// mark is the place on a wall or column where a line ends, or else on a line taped before.
func mark(p geometry.Polygon, at geometry.Point, taped []Cut) Mark {
	best, hole := Mark{}, math.Inf(1)
	for h, ring := range append([]geometry.Ring{p.Outline}, p.Holes...) {
		side, along, on := ring.Nearest(at)
		if d := on.Distance(at); d < hole-geometry.Tolerance {
			hole = d
			best = Mark{Hole: h - 1, Side: side + 1, Along: measure.Length(along), At: at}
		}
	}
	if hole <= 2*geometry.Tolerance {
		return best
	}
	for _, cut := range taped {
		for k := 0; k+1 < len(cut.Marks); k += 2 {
			a, b := cut.Marks[k].At, cut.Marks[k+1].At
			if off := a.Distance(at) + b.Distance(at) - a.Distance(b); off <= geometry.Tolerance {
				return Mark{Hole: -1, Tape: cut.After, Along: measure.Length(a.Distance(at)), At: at}
			}
		}
	}
	return best
}

// leastWet is the shortest way over wet film that is told as one, m.
const leastWet = 0.1

// roughly returns a length as people estimate one on a floor: to half a metre or a foot.
func roughly(m float64, units measure.System) string {
	step := 0.5
	if units.Units() == measure.US {
		step = 0.3048
	}
	return units.Length(measure.Length(math.Max(step, math.Round(m/step)*step)))
}

// Findings says what is awkward about the sections of a coat. Path is the
// surface's JSON Pointer.
func (l Laying) Findings(path string, coat int, units measure.System) []finding.Finding {
	var found []finding.Finding
	warn := func(way, text string, args ...any) {
		found = append(found, finding.Finding{
			Level: finding.Warning, Step: finding.Pour, Path: path + "/layout/direction", Text: fmt.Sprintf(text, args...),
			WayOut: way,
		})
	}
	for _, s := range l.Sections {
		if s.Patches > 1 {
			warn("Choose another direction, or divide the surface into two.",
				"Coat %d: section %d falls into %d separate pieces, so its batch would be carried between them.", coat,
				s.Number, s.Patches)
		}
	}
	for n, e := range l.escapes {
		if !e.Blocked {
			continue
		}
		why := fmt.Sprintf("the way is too narrow there, and leads over %s of wet film", roughly(e.Wet, units))
		switch {
		case math.IsInf(e.Wet, 1):
			why = "no way through the floor leads there"
		case e.Wet < leastWet:
			why = "a neck on the way is too narrow"
		}
		found = append(found, finding.Finding{
			Level: finding.Warning, Step: finding.Pour, Path: path + "/layout/walkway",
			Text: fmt.Sprintf("Coat %d: from a part of section %d nobody comes to the exit over dry floor: %s.",
				coat, n+1, why),
			WayOut: "Wear spiked shoes, mark another exit, or take a narrower way.",
		})
		break // what lies behind it is cut off as well
	}
	if l.partial {
		found = append(found, finding.Finding{
			Level: finding.Note, Step: finding.Pour, Path: path + "/layout/direction",
			Text:   fmt.Sprintf("Coat %d: the outline has so many corners that not every way to divide it was tried.", coat),
			WayOut: "Choose a direction, or leave corners out that nobody sees.",
		})
	}
	if len(l.Sections) > 1 && !l.endsAtExit {
		warn("Choose a direction that ends at the exit, or mark another exit.",
			"Coat %d: the exit does not lie at section %d, the last; the crew would have to cross wet film.", coat,
			len(l.Sections))
	}
	return found
}
