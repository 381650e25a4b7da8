package geometry

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"sync"
)

// Piece is a part of a polygon that is worked in one go.
type Piece struct {
	Rings []Ring     // outlines counter-clockwise, holes clockwise
	Area  float64    // m²
	Joins [][2]Point // the straight lines along which it was cut from what is left
	Label Point      // a place inside
}

// headings is the number of directions, the walls' own and square to them, a piece is
// tried to be cut off.
const headings = 8

// Peel divides a polygon into connected pieces in the proportion of the shares, in the
// order of work: each is the part that lies farthest from the exit by the way through the
// floor, cut off by straight lines, the shortest there are, so that what is left stays in
// one piece with the exit. The polygon must have passed Check, shares must be positive,
// and the exit lies in it or on its edge. It fails where no straight cut does that, or none is
// found within peelWork; complete is false where that bound kept cuts from being tried.
// A join lies on a seam where that makes a piece no more than NearlyShare larger or
// smaller.
func Peel(p Polygon, exit Point, shares []float64, seams []Seam) (pieces []Piece, complete bool, err error) {
	total := 0.0
	for _, s := range shares {
		total += s
	}
	whole := p.Area()
	field := NewField(p, peelCells, peelCell)
	ways := field.From(exit)
	ends, ok := field.inner(exit)
	if !ok {
		return nil, true, fmt.Errorf("the exit is not on the floor")
	}
	rest := figure(p.Rings())
	walls := rest
	travels := wallTravels(p.Outline)
	levels := make([][]seamLevel, len(travels))
	for i, travel := range travels {
		levels[i] = seamLevels(seams, travel)
	}
	pieces = make([]Piece, 0, len(shares))
	complete = true
	owed := 0.0 // what the pieces so far are short of their shares, m²
	for k, share := range shares {
		if k == len(shares)-1 {
			pieces = append(pieces, Piece{Rings: rest, Area: rest.area(), Label: field.label(rest)})
			break
		}
		want := whole * share / total
		tries := make([]search, len(travels))
		for i, travel := range travels {
			tries[i] = search{
				rest: rest, walls: walls, area: want + owed, share: want, exit: ends,
				travel: travel, levels: levels[i], left: peelWork / (len(shares) * len(travels)),
			}
		}
		piece, left, err := off(tries, field, ways)
		complete = complete && !slices.ContainsFunc(tries, func(s search) bool { return s.left <= 0 })
		if err != nil {
			return nil, complete, fmt.Errorf("section %d: %w", k+1, err)
		}
		piece.Label = field.label(piece.Rings)
		pieces, rest, owed = append(pieces, piece), left, owed+want-piece.Area
	}
	return pieces, complete, nil
}

// peelWork is the most corners that Peel visits in its cuts: about a second.
const peelWork = 12_000_000

// search looks for the best way to cut a piece off in one direction. The pieces found do
// not depend on what other searches find, or when.
type search struct {
	rest, walls figure
	area, share float64 // wanted, which makes up for the pieces before; what its batch is for
	exit        Point
	travel      Travel
	levels      []seamLevel
	left        int // corners that may still be visited
}

// spend takes the visit of every corner of the rest from what is left, and reports whether
// there was any left.
func (s *search) spend(visits int) bool {
	if s.left <= 0 {
		return false
	}
	for _, r := range s.rest {
		s.left -= visits * len(r)
	}
	return true
}

// seamLevel holds the seams that lie at one level along a travel.
type seamLevel struct {
	at    float64
	seams []Seam
}

// seamLevels returns the seams square to a travel by their level, rising.
func seamLevels(seams []Seam, travel Travel) []seamLevel {
	var all []seamLevel
	for _, s := range seams {
		if at, square := s.Level(travel); square {
			all = append(all, seamLevel{at, []Seam{s}})
		}
	}
	slices.SortStableFunc(all, func(a, b seamLevel) int { return cmp.Compare(a.at, b.at) })
	merged := all[:0]
	for _, l := range all {
		if n := len(merged); n > 0 && l.at-merged[n-1].at < Tolerance {
			merged[n-1].seams = append(merged[n-1].seams, l.seams...)
			continue
		}
		merged = append(merged, l)
	}
	return merged
}

// best returns the shortest way found to cut off the piece at a corner; nil where there is
// none.
func (s *search) best(corner Point) *divided {
	if !s.spend(1) {
		return nil
	}
	best := s.along(corner)
	for _, l := range s.levels {
		if d := s.alongSeam(l, corner); d != nil && (best == nil || d.length < best.length) {
			best = d
		}
	}
	return best
}

// wallTravels are the directions of the longest walls, square to them and back.
func wallTravels(outline Ring) []Travel {
	type heading struct{ degrees, length float64 }
	var all []heading
	for i, a := range outline {
		d := outline[(i+1)%len(outline)].Minus(a)
		degrees := math.Mod(math.Atan2(d.Y, d.X)*180/math.Pi+360, 90)
		if degrees > 90-1e-6 {
			degrees = 0
		}
		at := slices.IndexFunc(all, func(h heading) bool { return math.Abs(h.degrees-degrees) < 0.1 })
		if at < 0 {
			all = append(all, heading{degrees, 0})
			at = len(all) - 1
		}
		all[at].length += math.Hypot(d.X, d.Y)
	}
	slices.SortStableFunc(all, func(a, b heading) int {
		switch {
		case a.length > b.length:
			return -1
		case a.length < b.length:
			return 1
		}
		return 0
	})
	var travels []Travel
	for _, h := range all[:min(len(all), headings/4)] {
		for turn := range 4 {
			travels = append(travels, Heading(h.degrees+90*float64(turn)))
		}
	}
	return travels
}

// hangs is the factor by which a join may be longer that ends on walls than one of whose ends one
// hangs on a line that is taped already.
const hangs = 0.5

// divided is a figure with a piece cut off.
type divided struct {
	piece  Piece
	rest   figure
	length float64 // of the joins, m, counted longer where they end on no wall
}

// NearlyShare is the part of its share by which a piece may be larger or smaller so that its join
// lies on a seam: its film is as much thinner or thicker. Common practice, no source.
const NearlyShare = 0.03

// onSeam is the part of its length that a join counts where it lies on a seam.
const onSeam = 0.5

// off cuts a piece off a figure, by the best of the searches, around its corner that lies
// farthest from the exit; around the next farthest where that cannot be.
func off(tries []search, field *Field, ways []float64) (Piece, figure, error) {
	type corner struct {
		at  Point
		way float64
	}
	var corners []corner
	if len(tries) > 0 {
		for _, r := range tries[0].rest {
			for _, c := range r {
				corners = append(corners, corner{c, field.Way(ways, c)})
			}
		}
	}
	slices.SortStableFunc(corners, func(a, b corner) int { return cmp.Compare(b.way, a.way) })
	const tried = 6
	for _, c := range corners[:min(len(corners), tried)] {
		found := make([]*divided, len(tries))
		var running sync.WaitGroup
		for i := range tries {
			running.Go(func() { found[i] = tries[i].best(c.at) })
		}
		running.Wait()
		var cuts []divided
		for _, d := range found {
			if d != nil {
				cuts = append(cuts, *d)
			}
		}
		slices.SortStableFunc(cuts, func(a, b divided) int { return cmp.Compare(a.length, b.length) })
		for _, w := range cuts {
			if field.whole(w.piece.Rings) && field.whole(w.rest) { // no neck that no roller passes
				return w.piece, w.rest, nil
			}
		}
	}
	return Piece{}, nil, fmt.Errorf("no straight cut leaves the rest in one piece with the exit")
}

// along cuts the piece at a corner off; nil where that leaves the rest in several pieces, or
// without the exit.
func (s *search) along(corner Point) *divided {
	piece, others, ok := s.around(corner)
	if !ok {
		return nil
	}
	return weighed(piece, others, s.walls, s.exit)
}

// alongSeam cuts it off along one of the seams at a level, where that is near enough to its
// share and to what is wanted.
func (s *search) alongSeam(l seamLevel, corner Point) *divided {
	if l.at <= s.travel.Along(corner) || !s.spend(1) {
		return nil
	}
	least := math.Max(s.share-NearlyShare*s.share, s.area-NearlyShare*s.share)
	if whole, _ := below(s.rest, s.travel, l.at); whole < least*(1-1e-9) {
		return nil // nothing below it is large enough
	}
	if !s.spend(3) {
		return nil
	}
	below, _ := cut(s.rest, s.travel, l.at)
	for _, part := range figures(below) {
		if !part.has(corner) {
			continue
		}
		area := part.area()
		if math.Max(math.Abs(area-s.share), math.Abs(area-s.area)) > NearlyShare*s.share {
			return nil
		}
		piece, others, ok := lifted(s.rest, part, corner, area, s.travel, l.at)
		if !ok || !slices.ContainsFunc(piece.Joins, func(j [2]Point) bool {
			return slices.ContainsFunc(l.seams, func(seam Seam) bool { return seam.Carries(j) })
		}) {
			return nil
		}
		d := weighed(piece, others, s.walls, s.exit)
		if d != nil {
			d.length *= onSeam
		}
		return d
	}
	return nil
}

// weighed returns what a way to cut a piece off costs; nil where the rest falls apart or loses
// the exit.
func weighed(piece Piece, others []figure, walls figure, exit Point) *divided {
	if len(others) != 1 || !others[0].holds(exit) {
		return nil
	}
	length, hanging := 0.0, 0
	for _, j := range piece.Joins {
		length += j[0].Distance(j[1])
		for _, end := range j {
			if !walls.on(end) {
				hanging++
			}
		}
	}
	return &divided{piece, others[0], length * (1 + hangs*float64(hanging))}
}

// around cuts off the part of the wanted area that holds a corner, by a line square to the
// travel, along as much of that as bounds the part. Others are what is left.
func (s *search) around(corner Point) (piece Piece, others []figure, ok bool) {
	rest, area, travel := s.rest, s.area, s.travel
	low, high := reach(rest, travel)
	whole := rest.area()
	if area >= whole*(1-1e-9) {
		return Piece{}, nil, false
	}
	// Most often all that lies below a line is one part.
	level := levelFor(rest, travel, low, high, area/whole)
	if below, _ := cut(rest, travel, level); level > travel.Along(corner) {
		if parts := figures(below); len(parts) == 1 && parts[0].has(corner) {
			return lifted(rest, parts[0], corner, area, travel, level)
		}
	}
	low = math.Max(low, travel.Along(corner))
	under := func(level float64) (figure, float64) {
		below, _ := cut(rest, travel, level)
		for _, part := range figures(below) {
			if part.has(corner) {
				return part, part.area()
			}
		}
		return nil, 0
	}
	// The part grows with the level, but for jumps where parts meet: halving with a guess
	// by the secant, which halves anew when that is no better.
	from, to, areaFrom, areaTo := low, high, 0.0, whole
	level = from + (to-from)*(area-areaFrom)/(areaTo-areaFrom)
	for n := range 60 {
		if !s.spend(2) {
			return Piece{}, nil, false
		}
		_, now := under(level)
		if math.Abs(now-area) <= 1e-11*area {
			break
		}
		if now < area {
			from, areaFrom = level, now
		} else {
			to, areaTo = level, now
		}
		if to-from < 1e-12*(1+math.Abs(to)) {
			break
		}
		level = (from + to) / 2
		if guess := from + (to-from)*(area-areaFrom)/(areaTo-areaFrom); n%3 != 2 && guess > from && guess < to {
			level = guess
		}
	}
	part, now := under(level)
	if part == nil || math.Abs(now-area) > 1e-6*area {
		return Piece{}, nil, false // other parts join in before it is large enough
	}
	return lifted(rest, part, corner, area, travel, level)
}

// lifted takes a part below a level out of a figure.
func lifted(rest, part figure, corner Point, area float64, travel Travel, level float64) (Piece, []figure, bool) {
	rings, joins := cutOff(rest, part, travel, level)
	piece := Piece{Joins: joins}
	var others []figure
	for _, f := range figures(rings) {
		if f.has(corner) {
			piece.Rings, piece.Area = f, f.area()
			continue
		}
		others = append(others, f)
	}
	return piece, others, piece.Rings != nil && math.Abs(piece.Area-area) <= 1e-6*area
}

// cutOff cuts rings at a level only along the lines that bound a part below it, and
// returns the rings with those lines.
func cutOff(rings []Ring, part figure, travel Travel, level float64) (all []Ring, joins [][2]Point) {
	c := cutter{travel: travel, level: level}
	for _, ring := range rings {
		if c.sides(ring) != 0 {
			all = append(all, ring)
		} else {
			c.split(ring)
		}
	}
	mate := c.mates()
	kept := make([]bool, len(c.crossings)) // along whose line it is not cut
	for i, x := range c.crossings {
		kept[i] = !part.has(x.at) || !part.has(c.crossings[mate[i]].at)
		if other := c.crossings[mate[i]]; !kept[i] && x.aside < other.aside && other.aside-x.aside > 1e-9 {
			joins = append(joins, [2]Point{x.at, other.at})
		}
	}
	starts := make(map[[2]int]int, len(c.chains)) // by crossing and side
	side := func(above bool) int {
		if above {
			return 1
		}
		return 0
	}
	for k, ch := range c.chains {
		starts[[2]int{ch.start, side(ch.above)}] = k
	}
	used := make([]bool, len(c.chains))
	for k := range c.chains {
		if used[k] {
			continue
		}
		var ring Ring
		for next := k; !used[next]; {
			used[next] = true
			link := c.chains[next]
			if !kept[link.start] {
				ring = append(ring, c.crossings[link.start].at)
			}
			ring = append(ring, link.corners...)
			if kept[link.end] { // the ring goes on across the line
				next = starts[[2]int{link.end, 1 - side(link.above)}]
				continue
			}
			ring = append(ring, c.crossings[link.end].at)
			next = starts[[2]int{mate[link.end], side(link.above)}]
		}
		if ring = ring.tidied(); len(ring) >= 3 {
			all = append(all, ring)
		}
	}
	return all, joins
}

// Shared returns how much of a straight line runs along the edges of rings, m.
func Shared(line [2]Point, rings []Ring) float64 {
	length := line[0].Distance(line[1])
	if length == 0 {
		return 0
	}
	along := Travel{(line[1].X - line[0].X) / length, (line[1].Y - line[0].Y) / length}
	start, aside := along.Along(line[0]), along.aside(line[0])
	shared := 0.0
	for _, r := range rings {
		for i, a := range r {
			b := r[(i+1)%len(r)]
			if math.Abs(along.aside(a)-aside) > Tolerance || math.Abs(along.aside(b)-aside) > Tolerance {
				continue
			}
			from, to := along.Along(a)-start, along.Along(b)-start
			if from > to {
				from, to = to, from
			}
			shared += math.Max(0, math.Min(to, length)-math.Max(from, 0))
		}
	}
	return shared
}
