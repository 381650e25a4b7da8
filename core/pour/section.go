// Package pour lays out the sections of a surface, one to a batch, in the order
// in which they are worked towards the exit.
package pour

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"nephelon/core/finding"
	"nephelon/core/geometry"
	"nephelon/core/measure"
)

// Layout is how a crew chooses to work across a surface.
type Layout struct {
	Exit      *geometry.Point `json:"exit,omitempty" doc:"The door by which the crew leaves"`
	Closes    string          `json:"closes,omitempty" pattern:"^([01][0-9]|2[0-3]):[0-5][0-9]$" doc:"When it is shut, by the clock on site; never when left out"`
	Others    []Exit          `json:"others,omitempty" maxItems:"20" doc:"Other doors; the work ends at whichever suits best"`
	Mixing    *geometry.Point `json:"mixing,omitempty" doc:"Where batches are mixed; they are carried from there through the floor"`
	Walkway   *measure.Length `json:"walkway,omitempty" minimum:"0.3" maximum:"5" doc:"m that the way out is wide at least; 0.6 when left out"`
	Direction *measure.Angle  `json:"direction,omitempty" minimum:"-360" maximum:"360" doc:"Degrees from the x axis along which the work moves; the cut lines lie square to it. Chosen by the plan when left out"`
}

// Exit is a door by which a crew can leave.
type Exit struct {
	At     geometry.Point `json:"at"`
	Closes string         `json:"closes,omitempty" pattern:"^([01][0-9]|2[0-3]):[0-5][0-9]$" doc:"When it is shut, by the clock on site; never when left out"`
}

// exits are all doors, those that are never shut before all others.
func (l Layout) exits() []Exit {
	if l.Exit == nil {
		return nil
	}
	all := append([]Exit{{*l.Exit, l.Closes}}, l.Others...)
	slices.SortStableFunc(all, func(a, b Exit) int { return cmp.Compare(min(1, len(a.Closes)), min(1, len(b.Closes))) })
	return all
}

// worth are the doors that the work may end at: those that are never shut, or else all.
func (l Layout) worth() []Exit {
	all := l.exits()
	if shut := slices.IndexFunc(all, func(e Exit) bool { return e.Closes != "" }); shut > 0 {
		return all[:shut]
	}
	return all
}

// Section is the patch of surface that one batch covers.
type Section struct {
	ID      string          `json:"id" doc:"Stays with the section while its coat and its place in the order stay"`
	Number  int             `json:"number" doc:"That of its batch"`
	Area    measure.Area    `json:"area" doc:"Of floor, m²"`
	Parts   measure.Area    `json:"parts" doc:"Its share of edges, steps and ramps, m²"`
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

// Mark is where a cut line meets a wall: there the tape goes.
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

// Course is the line of work across a surface.
type Course struct {
	Direction measure.Angle `json:"direction"`
	Chosen    bool          `json:"chosen" doc:"A person chose it"`
	Reason    string        `json:"reason"`
	Pieces    bool          `json:"pieces,omitempty" doc:"Not in straight strips across, but piece by piece from the farthest corner"`
	exit      *geometry.Point
	shuts     string
	ways      []geometry.Point // all doors by which somebody gets out meanwhile
	travel    geometry.Travel
	wet       measure.Length // of its joins, where it goes by pieces
	longest   measure.Length
	walkway   *measure.Length
	memory    *Memory
	seams     []geometry.Seam
	strips    string // what straight strips would do
}

// maxCandidates bounds how many directions are tried for a surface.
const maxCandidates = 6

// Exit is the door at which the course ends, and when that is shut; nil where none is
// marked.
func (c Course) Exit() (at *geometry.Point, shuts string) { return c.exit, c.shuts }

// Plot chooses the door at which the work ends, if there are several, and the direction
// in which the sections follow each other. A
// direction given by a person is kept, turned round if that brings the work
// towards the exit. Otherwise those of the longest walls are tried with the
// given shares; the one that keeps sections whole, ends at the exit and has the
// shortest wet edges wins; where none does all that, the floor is divided piece by piece.
// Joins lie on seams where one is near. What takes long is kept in a memory, where there is
// one.
func Plot(p geometry.Polygon, layout Layout, seams []geometry.Seam, shares []float64, memory *Memory) Course {
	best, cost := Course{}, math.Inf(1)
	doors := layout.worth()
	if len(doors) == 0 {
		doors = []Exit{{}}
	}
	for _, door := range doors {
		ends := layout
		if ends.Closes = door.Closes; layout.Exit != nil {
			ends.Exit = &door.At
		}
		c, now := plot(p, ends, seams, shares, memory)
		if now < cost*(1-1e-9) || math.IsInf(cost, 1) {
			best, cost = c, now
		}
	}
	for _, e := range layout.worth() {
		best.ways = append(best.ways, e.At)
	}
	return best
}

// plot chooses the direction to one door, and tells what it costs.
func plot(p geometry.Polygon, layout Layout, seams []geometry.Seam, shares []float64, memory *Memory) (Course, float64) {
	if layout.Direction != nil {
		c := newCourse(p, layout, float64(*layout.Direction))
		c.Chosen, c.seams, c.memory = true, seams, memory
		c.Reason = "Direction chosen by you; the work moves towards the exit."
		return c, c.cost(p, shares)
	}
	best, cost := Course{}, math.Inf(1)
	for i, degrees := range candidates(p.Outline) {
		c := newCourse(p, layout, degrees)
		if now := c.cost(p, shares); i == 0 || now < cost*(1-1e-9) {
			best, cost = c, now
		}
	}
	best.Reason = "Chosen for whole sections that end at the exit with the shortest wet edges."
	best.memory, best.seams = memory, seams
	if best = best.orPieces(p, shares); best.Pieces {
		cost = float64(best.wet)
	}
	return best, cost
}

// orPieces is the course, or, where its straight strips fall apart or do not end at the
// exit, the one piece by piece that does neither.
func (c Course) orPieces(p geometry.Polygon, shares []float64) Course {
	strips := geometry.Strips(p, c.travel, shares)
	torn := slices.ContainsFunc(strips, func(s geometry.Strip) bool { return s.Patches() > 1 })
	if c.exit == nil || len(shares) < 2 || !torn && c.endsAtExit(strips) {
		return c
	}
	c.Pieces = true
	laying, err := c.lift(p, shares)
	if err != nil {
		c.Pieces = false
		return c
	}
	if c.endsAtExit(strips) && laying.oldest() > mostBehind {
		c.Pieces = false // a strip torn by a column is sooner joined than an edge left so long
		return c
	}
	for _, cut := range laying.Cuts {
		c.wet += cut.Wet
		c.longest = max(c.longest, cut.Wet)
	}
	what := "would not end at the exit"
	if torn {
		what = "would fall apart"
	}
	c.strips = what
	return c
}

// mostBehind is how many sections a wet edge may wait for its neighbour before strips that
// are torn, but joined at once, are the lesser evil: common practice, no source.
const mostBehind = 6

// oldest is how many sections the edge waits that is joined last.
func (l Laying) oldest() int {
	most := 0
	for _, s := range l.Sections {
		if len(s.Beside) > 0 {
			most = max(most, s.Number-slices.Min(s.Beside))
		}
	}
	return most
}

// Told is why the sections are as they are.
func (c Course) Told(units measure.System) string {
	if !c.Pieces {
		return c.Reason
	}
	return fmt.Sprintf("Straight strips across %s, so the work goes piece by piece from the farthest corner to the exit, each in one: %s of wet edge in all, the longest join %s.",
		c.strips, units.Length(c.wet), units.Length(c.longest))
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
	c := Course{travel: geometry.Heading(degrees), Direction: measure.Angle(degrees), exit: layout.Exit, shuts: layout.Closes, walkway: layout.Walkway}
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
	over       []float64 // by section: m that its crew walks over wet film to the exit
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
		endsAtExit: c.exit == nil || c.endsAtExit(strips),
	}
	for i, s := range strips {
		l.Sections[i] = Section{Number: i + 1, Area: measure.Area(s.Area), Rings: s.Rings, Patches: s.Patches(), Label: s.Inside(c.travel)}
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
	l.over = c.overWet(p, l)
	return l
}

// onSeams moves the lines between strips onto seams where no strip grows or shrinks by more
// than a film may.
func (c Course) onSeams(p geometry.Polygon, strips []geometry.Strip) []geometry.Strip {
	if len(c.seams) == 0 || len(strips) < 2 {
		return strips
	}
	levels := make([]float64, len(strips)-1)
	gained, moved := 0.0, false // by the line before, m²
	for i := range levels {
		levels[i] = strips[i].To
		own, best := gained, math.Inf(1)
		gained = 0
		under := geometry.Below(p, c.travel, strips[i].To)
		for _, s := range c.seams {
			level, square := s.Level(c.travel)
			if by := math.Abs(level - strips[i].To); !square || by >= best || level <= strips[i].From || level >= strips[i+1].To {
				continue
			}
			by := geometry.Below(p, c.travel, level) - under
			if math.Abs(by-own) > geometry.NearlyShare*strips[i].Area || math.Abs(by) > geometry.NearlyShare*strips[i+1].Area {
				continue
			}
			if met, _ := geometry.Chord(p, c.travel, level); len(met) != 2 || !s.Carries([2]geometry.Point{met[0].At, met[1].At}) {
				continue
			}
			best, levels[i], gained, moved = math.Abs(level-strips[i].To), level, by, true
		}
	}
	if !moved {
		return strips
	}
	return geometry.StripsAt(p, c.travel, levels)
}

// Offer is a join that could lie on a seam if its batches followed.
type Offer struct {
	After int // the section before it
	Name  string
	By    measure.Length // from where the join lies
}

// farSeam is how far a seam may lie from a join to be offered, as a share of the strips on
// both sides: common practice, no source.
const farSeam = 1.0 / 3

// Offered are the joins of straight strips that a seam lies near to but not so near that
// they lie on it anyhow, with the areas of the sections if all of them did.
func (c Course) Offered(p geometry.Polygon, shares []float64) ([]Offer, []float64) {
	strips := c.onSeams(p, geometry.Strips(p, c.travel, shares))
	if c.Pieces || len(c.seams) == 0 || len(strips) < 2 {
		return nil, nil
	}
	var offers []Offer
	levels := make([]float64, len(strips)-1)
	for i := range levels {
		levels[i] = strips[i].To
		near := farSeam * math.Min(strips[i].To-strips[i].From, strips[i+1].To-strips[i+1].From)
		name := ""
		for _, s := range c.seams {
			level, square := s.Level(c.travel)
			by := math.Abs(level - strips[i].To)
			if !square || by > near {
				continue
			}
			if met, _ := geometry.Chord(p, c.travel, level); len(met) == 2 && s.Carries([2]geometry.Point{met[0].At, met[1].At}) {
				near, name, levels[i] = by, s.Name, level
			}
		}
		if by := math.Abs(levels[i] - strips[i].To); name != "" && by > geometry.Tolerance {
			offers = append(offers, Offer{i + 1, name, measure.Length(by)})
		}
	}
	areas := make([]float64, len(strips))
	for i, s := range geometry.StripsAt(p, c.travel, levels) {
		areas[i] = s.Area
	}
	return offers, areas
}

// on names the seam that the cut lies on, where one does.
func (c *Cut) on(seams []geometry.Seam) {
	for _, s := range seams {
		if len(c.Marks) == 2 && s.Carries([2]geometry.Point{c.Marks[0].At, c.Marks[1].At}) {
			c.On = s.Name
			return
		}
	}
}

// overWet is, section by section, how far its crew walks over wet film to the exit where no
// dry way is wide enough; nil where strips lie open to the exit all along.
func (c Course) overWet(p geometry.Polygon, l Laying) []float64 {
	if c.exit == nil || !l.endsAtExit || len(l.Sections) < 2 || geometry.OpenAhead(p, c.travel, c.wide()) {
		return nil
	}
	areas := make([]float64, len(l.Sections))
	pieces := make([]geometry.Piece, len(l.Sections))
	for i, s := range l.Sections {
		areas[i], pieces[i] = float64(s.Area), geometry.Piece{Rings: s.Rings, Label: s.Label}
	}
	key := keyOf(p, *c.exit, c.wide(), areas, nil) + fmt.Sprint(c.Direction, c.ways)
	if known, ok := c.memory.get(key); ok {
		return known.over
	}
	over := geometry.Narrow(p, pieces, c.doors(), c.wide())
	c.memory.put(key, Laying{over: over})
	return over
}

// doors are the places where somebody gets out: that at which the work ends, and whatever
// else is open all the time.
func (c Course) doors() []geometry.Point {
	if len(c.ways) == 0 {
		return []geometry.Point{*c.exit}
	}
	return c.ways
}

// wide is how wide the way out is at least.
func (c Course) wide() float64 {
	if c.walkway != nil {
		return float64(*c.walkway)
	}
	return usualWalkway
}

// leastJoin is the shortest stretch of an edge that counts as one, m.
const leastJoin = 0.05

// lift cuts the surface into pieces, one per share.
func (c Course) lift(p geometry.Polygon, shares []float64) (Laying, error) {
	width := c.wide()
	key := keyOf(p, *c.exit, width, shares, c.seams) + fmt.Sprint(c.ways)
	if known, ok := c.memory.get(key); ok {
		return known, nil
	}
	pieces, err := geometry.Peel(p, *c.exit, shares, c.seams)
	if err != nil {
		return Laying{}, fmt.Errorf("divide the floor: %w", err)
	}
	l := Laying{Sections: make([]Section, len(pieces)), Cuts: make([]Cut, 0, len(pieces)-1), endsAtExit: true}
	for i, piece := range pieces {
		l.Sections[i] = Section{Number: i + 1, Area: measure.Area(piece.Area), Rings: piece.Rings, Patches: 1, Label: piece.Label}
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
			cut.on(c.seams)
			l.Cuts = append(l.Cuts, cut)
		}
	}
	l.over = geometry.Narrow(p, pieces, c.doors(), width)
	c.memory.put(key, l)
	return l, nil
}

// usualWalkway is how wide a way out is at least, m: common practice, no source.
const usualWalkway = 0.6

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

// Findings says what is awkward about the sections of a coat. Path is the
// surface's JSON Pointer.
func (l Laying) Findings(path string, coat int, units measure.System) []finding.Finding {
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
	for n, over := range l.over {
		if over > 0 {
			found = append(found, finding.Finding{
				Level: finding.Warning, Step: finding.Pour, Path: path + "/layout/walkway",
				Text:   fmt.Sprintf("Coat %d: from section %d nobody comes to the exit over dry floor: the way is too narrow there, and leads about %s over wet film.", coat, n+1, units.Length(measure.Length(over))),
				WayOut: "Wear spiked shoes, mark another exit, or take a narrower way.",
			})
			break // what lies behind it is cut off as well
		}
	}
	if len(l.Sections) > 1 && !l.endsAtExit {
		warn("Choose a direction that ends at the exit, or mark another exit.",
			"Coat %d: the exit does not lie at section %d, the last; the crew would have to cross wet film.", coat, len(l.Sections))
	}
	return found
}
