package geometry

import (
	"math"
	"math/rand/v2"
	"testing"
)

func box(x, y, w, h float64) Ring {
	return Ring{{X: x, Y: y}, {X: x + w, Y: y}, {X: x + w, Y: y + h}, {X: x, Y: y + h}}
}

// flooded counts the connected parts of what lies in some rings, on a grid of its own
// (four neighbours, a second way beside rings and their lines).
func flooded(rings []Ring, step float64) int {
	low, high := Point{math.Inf(1), math.Inf(1)}, Point{math.Inf(-1), math.Inf(-1)}
	for _, r := range rings {
		for _, p := range r {
			low = Point{math.Min(low.X, p.X), math.Min(low.Y, p.Y)}
			high = Point{math.Max(high.X, p.X), math.Max(high.Y, p.Y)}
		}
	}
	wide, tall := int((high.X-low.X)/step)+1, int((high.Y-low.Y)/step)+1
	in := make([]bool, wide*tall)
	for i := range in {
		p := Point{low.X + (float64(i%wide)+0.5)*step, low.Y + (float64(i/wide)+0.5)*step}
		for _, r := range rings {
			if r.contains(p) {
				in[i] = !in[i]
			}
		}
	}
	parts := 0
	for i := range in {
		if !in[i] {
			continue
		}
		cells := 0
		for stack := []int{i}; len(stack) > 0; {
			c := stack[len(stack)-1]
			stack = stack[:len(stack)-1]
			if !in[c] {
				continue
			}
			in[c] = false
			cells++
			if c%wide > 0 {
				stack = append(stack, c-1)
			}
			if c%wide < wide-1 {
				stack = append(stack, c+1)
			}
			if c >= wide {
				stack = append(stack, c-wide)
			}
			if c+wide < len(in) {
				stack = append(stack, c+wide)
			}
		}
		if float64(cells)*step*step > 0.02 { // a corner between two cells is no part
			parts++
		}
	}
	return parts
}

func shares(n int) []float64 {
	all := make([]float64, n)
	for i := range all {
		all[i] = 1
	}
	return all
}

// checkPeel looks at every law of a floor divided: shares, wholeness, the way out.
func checkPeel(t *testing.T, name string, p Polygon, exit Point, pieces []Piece, step float64) {
	t.Helper()
	whole, sum := p.Area(), 0.0
	for k, piece := range pieces {
		sum += piece.Area
		if want := whole / float64(len(pieces)); math.Abs(piece.Area-want) > 1e-5*whole {
			t.Errorf("%s: piece %d has %v m², want %v", name, k+1, piece.Area, want)
		}
		if n := flooded(piece.Rings, step); n != 1 {
			t.Errorf("%s: piece %d falls into %d", name, k+1, n)
		}
		var rest []Ring
		for _, later := range pieces[k+1:] {
			rest = append(rest, later.Rings...)
		}
		// Pieces beside each other share their edges, so the rest is looked at as a whole:
		// the floor less what is done.
		if len(rest) > 0 && floodedRest(p, pieces[:k+1], step) != 1 {
			t.Errorf("%s: after piece %d the rest falls apart", name, k+1)
		}
		if k > 0 && len(pieces[k-1].Joins) == 0 {
			t.Errorf("%s: piece %d has no join", name, k)
		}
	}
	if math.Abs(sum-whole) > 1e-6*whole {
		t.Errorf("%s: pieces of %v on %v m²", name, sum, whole)
	}
	if last := pieces[len(pieces)-1]; NewField(p, 4000, 0.2).Way(NewField(p, 4000, 0.2).From(exit), last.Label) >
		NewField(p, 4000, 0.2).Way(NewField(p, 4000, 0.2).From(exit), pieces[0].Label) {
		t.Errorf("%s: the work ends farther from the exit than it begins", name)
	}
}

func floodedRest(p Polygon, done []Piece, step float64) int {
	rings := p.Rings()
	for _, d := range done {
		rings = append(rings, d.Rings...) // even and odd: inside both is out
	}
	return flooded(rings, step)
}

// An L with a column, a U, and a ring around a core, with one door each.
func TestPiecesOfAwkwardFloors(t *testing.T) {
	for name, c := range map[string]struct {
		p    Polygon
		exit Point
		n    int
	}{
		"an L with a column": {Polygon{Outline: Ring{{X: 0, Y: 0}, {X: 14, Y: 0}, {X: 14, Y: 5}, {X: 6, Y: 5}, {X: 6, Y: 12},
			{X: 0, Y: 12}}, Holes: []Ring{box(8, 2, 0.6, 0.6)}}, Point{X: 14, Y: 2}, 7},
		"a U": {Polygon{Outline: Ring{{X: 0, Y: 0}, {X: 9, Y: 0}, {X: 9, Y: 8}, {X: 6, Y: 8}, {X: 6, Y: 3},
			{X: 3, Y: 3}, {X: 3, Y: 8}, {X: 0, Y: 8}}}, Point{X: 8, Y: 8}, 6},
		"around a core": {Polygon{Outline: box(0, 0, 16, 12), Holes: []Ring{box(5, 4, 6, 4)}}, Point{X: 0, Y: 6}, 9},
		"a T, door in its stem": {Polygon{Outline: Ring{{X: 0, Y: 6}, {X: 5, Y: 6}, {X: 5, Y: 0}, {X: 8, Y: 0}, {X: 8, Y: 6},
			{X: 13, Y: 6}, {X: 13, Y: 10}, {X: 0, Y: 10}}},
			Point{X: 6.5, Y: 0}, 8},
	} {
		pieces, _, err := Peel(c.p, c.exit, shares(c.n), nil)
		if err != nil {
			t.Errorf("%s: %v", name, err)
			continue
		}
		checkPeel(t, name, c.p, c.exit, pieces, 0.1)
		for k, escape := range new(Ground).Escapes(c.p, pieces, []Point{c.exit}, 0.6) {
			if escape.Blocked {
				t.Errorf("%s: from piece %d nobody comes to the exit", name, k+1)
			}
		}
	}
}

// ragged is a floor of rectangles along a hall, with columns.
func ragged(r *rand.Rand) Polygon {
	outline := Ring{{X: 0, Y: 0}}
	x := 0.0
	for range 2 + r.IntN(4) { // bays upward along the top are added from right to left below
		x += 3 + 4*r.Float64()
	}
	outline = append(outline, Point{X: x, Y: 0})
	top := x
	for top > 0.5 {
		step := math.Min(top, 2+3*r.Float64())
		if top-step < 1 {
			step = top
		}
		y := 4 + 6*r.Float64()
		outline = append(outline, Point{X: top, Y: y}, Point{X: top - step, Y: y})
		top -= step
	}
	p := Polygon{Outline: outline}
	for n := range r.IntN(3) {
		hole := box(1.5+float64(n)*3.2, 1.2+r.Float64(), 0.5+r.Float64(), 0.5+r.Float64())
		if hole[2].X < x-1 {
			p.Holes = append(p.Holes, hole)
		}
	}
	return p
}

// Whatever the floor: pieces in their shares, each whole, the rest always in one part.
func TestPiecesOfAnyFloor(t *testing.T) {
	r := rand.New(rand.NewPCG(8, 21))
	divided, all := 0, 0
	for range 120 {
		p := ragged(r)
		if p.Check() != nil {
			continue
		}
		all++
		exit := p.Outline[0].Toward(p.Outline[1], r.Float64())
		pieces, _, err := Peel(p, exit, shares(3+r.IntN(9)), nil)
		if err != nil {
			continue
		}
		divided++
		checkPeel(t, "ragged", p, exit, pieces, 0.15)
		if t.Failed() {
			t.Fatalf("%+v, exit %v", p, exit)
		}
	}
	t.Logf("%d of %d floors divided", divided, all)
	if divided < all*9/10 {
		t.Errorf("only %d of %d floors could be divided", divided, all)
	}
}

// A floor that hangs together by a neck narrower than a person: nobody comes out.
func TestANarrowNeckIsTold(t *testing.T) {
	neck := Polygon{Outline: Ring{{X: 0, Y: 0}, {X: 5, Y: 0}, {X: 5, Y: 2}, {X: 6, Y: 2}, {X: 6, Y: 0}, {X: 11, Y: 0},
		{X: 11, Y: 5}, {X: 6, Y: 5}, {X: 6, Y: 2.4}, {X: 5, Y: 2.4}, {X: 5, Y: 5}, {X: 0, Y: 5}}}
	exit := Point{X: 11, Y: 1}
	pieces, _, err := Peel(neck, exit, shares(6), nil)
	if err != nil {
		t.Fatal(err)
	}
	escapes := new(Ground).Escapes(neck, pieces, []Point{exit}, 0.6)
	if !escapes[0].Blocked || escapes[0].Wet != 0 || escapes[5].Blocked {
		t.Errorf("%v", escapes)
	}
}

// The way round a wall of 0.1 m, by hand: up to its end and down again from 1 m beside its
// middle line on both sides, 2 × √(0.95² + 5.01²) + 0.1 = 10.30 m.
func TestTheWayRoundAWall(t *testing.T) {
	p := Polygon{Outline: box(0, 0, 10, 8), Holes: []Ring{box(4.95, 0.01, 0.1, 6)}}
	f := NewField(p, 40_000, 0.05)
	want := 2*math.Hypot(0.95, 5.01) + 0.1
	if way := f.Way(f.From(Point{X: 4, Y: 1}), Point{X: 6, Y: 1}); way < want-0.15 || way > want*1.028+3*f.Step {
		t.Errorf("%v m, want %v", way, want)
	}
}

// 200 corners with 12 columns into 40 sections.
func BenchmarkPeel(b *testing.B) {
	var outline Ring
	for i := range 100 {
		outline = append(outline, Point{X: float64(i) * 0.4, Y: 0.2 * float64(i%2)})
	}
	for i := range 100 {
		outline = append(outline, Point{X: 39.6 - float64(i)*0.4, Y: 20 + 0.2*float64(i%2)})
	}
	p := Polygon{Outline: outline}
	for i := range 12 {
		p.Holes = append(p.Holes, box(2+float64(i%6)*6, 5+float64(i/6)*9, 0.5, 0.5))
	}
	if fault := p.Check(); fault != nil {
		b.Fatal(fault)
	}
	for b.Loop() {
		if _, _, err := Peel(p, Point{X: 39.6, Y: 10}, shares(40), nil); err != nil {
			b.Fatal(err)
		}
	}
}
