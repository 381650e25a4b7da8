package takeoff

import (
	"fmt"
	"math"
	"slices"

	"nephelon/core/finding"
	"nephelon/core/geometry"
	"nephelon/core/measure"
)

// EdgeProfile is the cut of an exposed edge.
type EdgeProfile string

// The profiles.
const (
	Square   EdgeProfile = "square"
	Chamfer  EdgeProfile = "chamfer"
	Rounded  EdgeProfile = "rounded"  // the upper arris by a quarter circle
	Bullnose EdgeProfile = "bullnose" // a half circle over the whole thickness
)

// Top is a countertop: pieces on one plan, their cut-outs and their edges.
// Pieces that overlap, as two runs do in a corner, count once.
type Top struct {
	Pieces    []TopPiece                       `json:"pieces" maxItems:"60"`
	Thickness measure.Length                   `json:"thickness,omitempty" minimum:"0" maximum:"1" doc:"m of the exposed edges"`
	Profile   EdgeProfile                      `json:"profile,omitempty" doc:"Square when left out"`
	Arris     measure.Length                   `json:"arris,omitempty" minimum:"0" maximum:"0.5" doc:"m: the leg of a chamfer or the radius of a rounding"`
	RunOff    *measure.Sourced[measure.Length] `json:"runOff,omitempty" doc:"m of width by which a poured film runs over exposed edges and drips off"`
	Strip     *measure.Sourced[measure.Length] `json:"strip,omitempty" doc:"m: narrower strips beside a cut-out are called out"`
}

// TopPiece is one board of a top. Side n runs from corner n to the next.
type TopPiece struct {
	ID      string        `json:"id" minLength:"1" maxLength:"60"`
	Name    string        `json:"name" maxLength:"120" pattern:"^[^\\r\\n]*$"`
	Outline geometry.Ring `json:"outline" minItems:"3" maxItems:"200"`
	Cutouts []Hole        `json:"cutouts,omitempty" maxItems:"20" doc:"Cutouts, for sinks and hobs"`
	Edges   []TopEdge     `json:"edges,omitempty" maxItems:"200" doc:"Sides that are more than a joint with a wall"`
}

// EdgeKind names what a side of a piece is.
type EdgeKind string

// The kinds. A side that is none of them meets a wall or another piece.
const (
	Exposed    EdgeKind = "exposed"
	Splashback EdgeKind = "splashback"
	Waterfall  EdgeKind = "waterfall"
)

// TopEdge is a side of a piece with a face to be coated.
type TopEdge struct {
	Side   int            `json:"side" minimum:"1" maximum:"200"`
	Kind   EdgeKind       `json:"kind"`
	Height measure.Length `json:"height,omitempty" minimum:"0" maximum:"10" doc:"m of a splashback, or of a waterfall end from the top down"`
	Inside bool           `json:"inside,omitempty" doc:"A waterfall end coated on its inner face, too"`
}

// Narrow is a narrow piece of top beside a cut-out, where resin does not flow by
// itself.
type Narrow struct {
	Piece  string         `json:"piece"`
	Name   string         `json:"name" doc:"Where it lies"`
	Width  measure.Length `json:"width" doc:"At its narrowest, m"`
	Length measure.Length `json:"length"`
	Area   measure.Area   `json:"area"`
	At     geometry.Point `json:"at"`
}

// What stands in where a top names no run-off and no width of a strip: common
// practice, no source.
const (
	DefaultRunOff measure.Length = 0.02
	DefaultStrip  measure.Length = 0.1
)

func (t Top) runOff() measure.Sourced[measure.Length] {
	if t.RunOff != nil {
		return *t.RunOff
	}
	return measure.Sourced[measure.Length]{Value: DefaultRunOff, Source: measure.RuleOfThumb}
}

func (t Top) strip() measure.Length {
	if t.Strip != nil {
		return t.Strip.Value
	}
	return DefaultStrip
}

func (p TopPiece) title(i int) string {
	if p.Name != "" {
		return p.Name
	}
	return fmt.Sprintf("Piece %d", i+1)
}

// side gives the ends of a side so that the piece lies to the left.
func (p TopPiece) side(number int) (a, b geometry.Point) {
	a, b = p.Outline[number-1], p.Outline[number%len(p.Outline)]
	if p.Outline.SignedArea() < 0 {
		a, b = b, a
	}
	return a, b
}

// measureTop gives the area of a top with its edge faces, splashbacks and
// waterfall ends.
func measureTop(top Top, path string, units measure.System) (*Takeoff, []geometry.Point, []finding.Finding) {
	if at, found := top.check(path, units); len(found) > 0 {
		return nil, at, found
	}
	t := Takeoff{Sides: []measure.Length{}}
	var found []finding.Finding
	for i, piece := range top.Pieces {
		if bad := top.addPiece(&t, i, path); len(bad) > 0 {
			return nil, nil, bad
		}
		exposed := 0.0
		for e, edge := range piece.Edges {
			length, told := top.addEdge(&t, i, edge, fmt.Sprintf("%s/pieces/%d/edges/%d", path, i, e), units)
			found = append(found, told...)
			if edge.Kind != Splashback {
				exposed += length
			}
		}
		t.Perimeter += measure.Length(piece.Outline.Perimeter())
		t.Exposed += measure.Length(exposed)
		for c, cut := range piece.Cutouts {
			t.HoleEdge += measure.Length(cut.Outline.Perimeter())
			t.Strips = append(t.Strips, top.strips(i, c)...)
		}
	}
	for _, f := range found {
		if f.Level == finding.Refused {
			return nil, nil, found
		}
	}
	run := top.runOff()
	t.RunOff = measure.Area(float64(t.Exposed) * float64(run.Value))
	for _, s := range t.Strips {
		found = append(found, finding.Finding{
			Level: finding.Note, Step: finding.Measure, Path: path + "/pieces",
			Text: fmt.Sprintf("%s: the strip %s is only %s wide over %s; resin will not flow there by itself.", s.Piece,
				s.Name, units.Length(s.Width), units.Length(s.Length)),
			WayOut: "Pour a bead into it on purpose.",
		})
	}
	t.sum("Area to coat")
	return &t, nil, found
}

// check names the first measure of a top that cannot be.
func (top Top) check(path string, units measure.System) ([]geometry.Point, []finding.Finding) {
	for i, piece := range top.Pieces {
		at := fmt.Sprintf("%s/pieces/%d", path, i)
		name := piece.title(i)
		if fault := (geometry.Polygon{Outline: piece.Outline}).Check(); fault != nil {
			return fault.At, refused(at+"/outline", fault.Way, "%s: %s", name, fault.Text)
		}
		whole := math.Abs(piece.Outline.SignedArea())
		for c, cut := range piece.Cutouts {
			if area := math.Abs(cut.Outline.SignedArea()); area >= whole {
				return cut.Outline, refused(fmt.Sprintf("%s/cutouts/%d", at, c), "Check its measures against the template.",
					"%s, %s, is larger than the piece it is cut from, %s.", cut.title("Cut-out", c), units.Area(measure.Area(area)),
					units.Area(measure.Area(whole)))
			}
		}
		polygon := geometry.Polygon{Outline: piece.Outline}
		for _, cut := range piece.Cutouts {
			polygon.Holes = append(polygon.Holes, cut.Outline)
		}
		if fault := polygon.Check(); fault != nil {
			where := at + "/outline"
			text := fault.Text
			if fault.Hole >= 0 {
				where, text = fmt.Sprintf("%s/cutouts/%d", at, fault.Hole),
					piece.Cutouts[fault.Hole].title("Cut-out", fault.Hole)+": "+fault.Text
			}
			return fault.At, refused(where, fault.Way, "%s, %s", name, text)
		}
		sides := make(map[int]bool)
		for e, edge := range piece.Edges {
			where := fmt.Sprintf("%s/edges/%d", at, e)
			switch {
			case edge.Side < 1 || edge.Side > len(piece.Outline):
				return nil, refused(where+"/side", fmt.Sprintf("It has sides 1 to %d.", len(piece.Outline)), "%s has no side %d.",
					name, edge.Side)
			case sides[edge.Side]:
				return nil, refused(where+"/side", "Leave one of the two out.", "%s: side %d is named twice.", name, edge.Side)
			}
			sides[edge.Side] = true
		}
	}
	if r := top.Arris; r > 0 && top.Thickness > 0 && (top.Profile == Chamfer || top.Profile == Rounded) &&
		r > top.Thickness {
		return nil, refused(path+"/arris", fmt.Sprintf("Enter at most %s.", units.Length(top.Thickness)),
			"the edge is cut back by %s, more than the top is thick, %s.", units.Length(r), units.Length(top.Thickness))
	}
	if top.RunOff != nil && (top.RunOff.Value < 0 || top.RunOff.Value > 1) {
		return nil, refused(path+"/runOff", "Enter the width of film that runs over the edge, such as 20 mm.",
			"a run-off of %s cannot be.", units.Length(top.RunOff.Value))
	}
	return nil, nil
}

// addPiece counts the face of a piece less its cut-outs and less what earlier
// pieces cover.
func (top Top) addPiece(t *Takeoff, i int, path string) []finding.Finding {
	piece, name := top.Pieces[i], top.Pieces[i].title(i)
	whole := math.Abs(piece.Outline.SignedArea())
	var in inputs
	net := in.area("Outline", whole)
	t.Pieces = append(t.Pieces, Piece{Name: name, Area: measure.Area(whole)})
	var taken []geometry.Ring
	for e, earlier := range top.Pieces[:i] {
		common := 0.0
		for _, ring := range earlier.Outline.Common(piece.Outline) {
			common += ring.SignedArea()
			for _, before := range taken {
				if len(before.Common(ring)) > 0 {
					return refused(fmt.Sprintf("%s/pieces/%d/outline", path, i), "Move the pieces so that only two meet in one place.",
						"%s overlaps two other pieces in the same place.", name)
				}
			}
			taken = append(taken, ring)
		}
		if common > 0 {
			corner := fmt.Sprintf("Shared by %s and %s", earlier.title(e), name)
			net -= in.area("less what it shares with "+earlier.title(e), common)
			t.Pieces = append(t.Pieces, Piece{Name: corner, Area: measure.Area(-common)})
		}
	}
	t.Figures = append(t.Figures, Figure{Name: name, Kind: "shell", Ring: piece.Outline})
	for c, cut := range piece.Cutouts {
		t.Figures = append(t.Figures, Figure{Name: cut.title("Cut-out", c), Kind: "part", Ring: cut.Outline})
		area := math.Abs(cut.Outline.SignedArea())
		net -= in.area("less "+cut.title("Cut-out", c), area)
		t.Pieces = append(t.Pieces, Piece{Name: cut.title("Cut-out", c) + " in " + name, Area: measure.Area(-area)})
	}
	if net < -1e-9 {
		return refused(fmt.Sprintf("%s/pieces/%d/outline", path, i), "Move or remove the piece.",
			"%s adds no area: other pieces and cut-outs take all of it.", name)
	}
	t.Area += measure.Area(net)
	t.Facing.add(Level, measure.Area(net))
	t.Panels = append(t.Panels, Panel{Name: name, Facing: Level, Area: measure.Area(net), Group: i, Board: piece.board()})
	t.PartWorkings = append(t.PartWorkings, measure.Working{
		Title: name, Formula: "outline by ½ · |Σ (xᵢ·yᵢ₊₁ − xᵢ₊₁·yᵢ)|, less shared corners and cut-outs", Inputs: in.values,
		Result: measure.Value{Name: "Area", Kind: measure.KindArea, SI: net},
		Source: "Shoelace formula (Gauss's area formula)",
	})
	return nil
}

// board returns a piece as it is drawn.
func (p TopPiece) board() *Board {
	b := Board{Outline: p.Outline, Cutouts: slices.Clone(p.Cutouts)}
	for c := range b.Cutouts {
		b.Cutouts[c].Name = b.Cutouts[c].title("Cut-out", c)
	}
	return &b
}

// addEdge counts the face at a side of a piece and gives the length of it that
// is in the open: where another piece lies against it, it is a joint, and where
// two pieces share an edge it counts once.
func (top Top) addEdge(t *Takeoff, i int, edge TopEdge, path string, units measure.System) (float64,
	[]finding.Finding) {
	piece := top.Pieces[i]
	a, b := piece.side(edge.Side)
	length := a.Distance(b)
	var hidden [][2]float64
	for o, other := range top.Pieces {
		if o == i {
			continue
		}
		hidden = append(hidden, other.Outline.Covers(a, b)...)
		for _, before := range other.Edges {
			if o > i {
				break // counts there what is counted here already
			}
			c, d := other.side(before.Side)
			if stretch, on := geometry.Along(a, b, c, d); on {
				hidden = append(hidden, stretch)
			}
		}
	}
	open := length * (1 - covered(hidden))
	name := fmt.Sprintf("%s, side %d", piece.title(i), edge.Side)
	if open < geometry.Tolerance {
		return 0, []finding.Finding{{
			Level: finding.Warning, Step: finding.Measure, Path: path, WayOut: "Pick another side.",
			Text: name + " is a joint with another piece all along; it adds no face.",
		}}
	}
	t.Figures = append(t.Figures, Figure{Name: string(edge.Kind), Kind: "edge", Ring: geometry.Ring{a, b}})
	var in inputs
	run := measure.Length(in.length("Length in the open", measure.Length(open)))
	if edge.Kind == Exposed {
		if top.Thickness <= 0 {
			return open, []finding.Finding{{
				Level: finding.Warning, Step: finding.Measure, Path: path, WayOut: "Enter the thickness of the top.",
				Text: name + " is exposed, but the top has no thickness yet; its face is not counted.",
			}}
		}
		face, formula := top.face(&in)
		t.add(Panel{Name: name + ", edge", Facing: Vertical, Area: run.Times(face), Run: run, Start: measure.Length(face),
			End: measure.Length(face), Group: i},
			measure.Working{Formula: "length × (" + formula + ")", Inputs: in.values})
		return open, nil
	}
	if edge.Height <= 0 {
		what := "splashback"
		if edge.Kind == Waterfall {
			what = "waterfall end"
		}
		return open, refused(path+"/height", "Measure it from the top.", "%s: the %s has no height yet.", name, what)
	}
	height := in.length("Height", edge.Height)
	if edge.Kind == Splashback {
		t.add(Panel{Name: name + ", splashback", Facing: Vertical, Area: run.Times(height), Run: run, Start: edge.Height,
			End: edge.Height, Group: i},
			measure.Working{Formula: "length × height", Inputs: in.values})
		return open, nil
	}
	faces := 1
	if edge.Inside {
		faces = 2
	}
	breadth := in.count("Faces", faces) * height
	area := float64(run)*breadth + 2*height*in.length("Thickness", top.Thickness)
	t.add(Panel{Name: name + ", waterfall end", Facing: Vertical, Area: measure.Area(area), Run: run,
		Start: measure.Length(breadth), End: measure.Length(breadth), Group: i},
		measure.Working{Formula: "length × height × faces + 2 × height × thickness", Inputs: in.values})
	return open, nil
}

// face is the width of an exposed edge from the top face to the underside, less
// what its profile takes from the top face.
func (top Top) face(in *inputs) (float64, string) {
	thick := in.length("Thickness", top.Thickness)
	switch top.Profile {
	case Chamfer:
		r := in.length("Chamfer", top.Arris)
		return thick - 2*r + r*math.Sqrt2, "thickness − 2 × chamfer + √2 × chamfer"
	case Rounded:
		r := in.length("Radius", top.Arris)
		return thick - 2*r + r*math.Pi/2, "thickness − 2 × radius + π ÷ 2 × radius"
	case Bullnose:
		return thick * (math.Pi - 1) / 2, "π ÷ 2 × thickness − ½ × thickness"
	}
	return thick, "thickness"
}

// covered is the share of a side that stretches of it cover together.
func covered(stretches [][2]float64) float64 {
	sum, reached := 0.0, 0.0
	for len(stretches) > 0 {
		next := -1
		for i, s := range stretches {
			if s[1] > reached && (next < 0 || s[0] < stretches[next][0]) {
				next = i
			}
		}
		if next < 0 {
			break
		}
		s := stretches[next]
		sum += s[1] - math.Max(reached, s[0])
		reached = s[1]
		stretches = append(stretches[:next:next], stretches[next+1:]...)
	}
	return sum
}

// strips are the narrow places between a cut-out and the sides of its piece or
// later cut-outs.
func (top Top) strips(i, c int) []Narrow {
	piece := top.Pieces[i]
	cut := piece.Cutouts[c]
	var all []Narrow
	put := func(name string, a, b geometry.Point) {
		length, width, at := cut.Outline.Beside(a, b)
		if length > geometry.Tolerance && width < float64(top.strip()) {
			all = append(all, Narrow{
				Piece: piece.title(i), Name: name, Width: measure.Length(width), Length: measure.Length(length),
				Area: measure.Length(length).Times(width), At: at,
			})
		}
	}
	for s, a := range piece.Outline {
		put(fmt.Sprintf("between %s and side %d", cut.title("Cut-out", c), s+1), a, piece.Outline[(s+1)%len(piece.Outline)])
	}
	for o := c + 1; o < len(piece.Cutouts); o++ {
		other := piece.Cutouts[o]
		best, from, to := math.Inf(1), geometry.Point{}, geometry.Point{}
		for s, a := range other.Outline {
			b := other.Outline[(s+1)%len(other.Outline)]
			if length, width, _ := cut.Outline.Beside(a, b); length > geometry.Tolerance && width < best {
				best, from, to = width, a, b
			}
		}
		if !math.IsInf(best, 1) {
			put(fmt.Sprintf("between %s and %s", cut.title("Cut-out", c), other.title("Cut-out", o)), from, to)
		}
	}
	return all
}

// Values returns all values, in the order in which they are shown.
func (EdgeKind) Values() []EdgeKind {
	return []EdgeKind{Exposed, Splashback, Waterfall}
}

// Values returns all values, in the order in which they are shown.
func (EdgeProfile) Values() []EdgeProfile {
	return []EdgeProfile{Square, Chamfer, Rounded, Bullnose}
}
