package geometry

import (
	"math"
)

// The fields that a floor is divided on, and that ways out are looked for on: cells at
// most, and their size at least, m. A neck narrower than a cell is none that a roller
// passes.
const (
	peelCells = 16_000
	peelCell  = 0.25
	wayCells  = 40_000
	wayCell   = 0.1
)

// Field is a floor in square cells, for ways through it. A way is told by steps to 16
// neighbours, and so at most 2.8 % too long, beside the size of a cell.
type Field struct {
	Step   float64 // m, of a cell
	low    Point
	wide   int
	high   int
	inside []bool
}

// NewField lays cells over a polygon, at most so many and none smaller than a size, m. A
// cell is inside where its middle is.
func NewField(p Polygon, most int, finest float64) *Field { return newField(p, most, finest, nil) }

// newField lays cells in the memory of others.
func newField(p Polygon, most int, finest float64, inside []bool) *Field {
	low, top := Point{math.Inf(1), math.Inf(1)}, Point{math.Inf(-1), math.Inf(-1)}
	for _, c := range p.Outline {
		low, top = Point{math.Min(low.X, c.X), math.Min(low.Y, c.Y)}, Point{math.Max(top.X, c.X), math.Max(top.Y, c.Y)}
	}
	f := &Field{Step: math.Max(finest, math.Sqrt((top.X-low.X)*(top.Y-low.Y)/float64(most))), low: low}
	f.wide, f.high = int((top.X-low.X)/f.Step)+1, int((top.Y-low.Y)/f.Step)+1
	f.inside = f.mask(p.Rings(), inside)
	return f
}

// mask returns of each cell whether its middle lies in rings, by the crossings of each row, in the
// memory of another mask.
func (f *Field) mask(rings []Ring, inside []bool) []bool {
	inside = sized(inside, f.wide*f.high)
	clear(inside)
	for row := range f.high {
		y := f.low.Y + (float64(row)+0.5)*f.Step
		line := inside[row*f.wide : (row+1)*f.wide]
		for _, r := range rings {
			for i, a := range r {
				b := r[(i+1)%len(r)]
				if (a.Y > y) == (b.Y > y) {
					continue
				}
				x := a.X + (y-a.Y)/(b.Y-a.Y)*(b.X-a.X)
				if col := max(0, int(math.Ceil((x-f.low.X)/f.Step-0.5))); col < f.wide {
					line[col] = !line[col]
				}
			}
		}
		// All cells to the right of a crossing change sides.
		for col := 1; col < f.wide; col++ {
			line[col] = line[col] != line[col-1]
		}
	}
	return inside
}

func (f *Field) middle(cell int) Point {
	return Point{f.low.X + (float64(cell%f.wide)+0.5)*f.Step, f.low.Y + (float64(cell/f.wide)+0.5)*f.Step}
}

// near is the inside cell nearest to a point, or −1 where none lies within some cells.
func (f *Field) near(p Point, inside []bool) int {
	col, row := int((p.X-f.low.X)/f.Step), int((p.Y-f.low.Y)/f.Step)
	best, at := math.Inf(1), -1
	const around = 4
	for r := max(0, row-around); r <= min(f.high-1, row+around); r++ {
		for c := max(0, col-around); c <= min(f.wide-1, col+around); c++ {
			cell := r*f.wide + c
			if !inside[cell] {
				continue
			}
			to := f.middle(cell).Minus(p)
			if d := to.X*to.X + to.Y*to.Y; d < best {
				best, at = d, cell
			}
		}
	}
	return at
}

// inner is the middle of the inside cell nearest to a point, and whether there is one.
func (f *Field) inner(p Point) (Point, bool) {
	cell := f.near(p, f.inside)
	if cell < 0 {
		return p, false
	}
	return f.middle(cell), true
}

// neighbour is a step of a king or a knight of chess, in cells, with its length.
type neighbour struct {
	x, y   int
	length float64
}

func footsteps() []neighbour {
	var all []neighbour
	for x := -2; x <= 2; x++ {
		for y := -2; y <= 2; y++ {
			if far := max(x*x, y*y); far == 0 || far == 4 && x*x+y*y != 5 {
				continue
			}
			all = append(all, neighbour{x, y, math.Hypot(float64(x), float64(y))})
		}
	}
	return all
}

type open struct {
	cell int
	way  float64
}

// front is a heap of open cells, the nearest first. It is written out, since container/heap boxes every cell, which
// took half of the time of a way.
type front []open

func (f *front) push(o open) {
	all := append(*f, o)
	i := len(all) - 1
	for i > 0 {
		above := (i - 1) / 2
		if all[above].way <= o.way {
			break
		}
		all[i], i = all[above], above
	}
	all[i] = o
	*f = all
}

func (f *front) pop() open {
	all := *f
	nearest, last := all[0], all[len(all)-1]
	all = all[:len(all)-1]
	*f = all
	for i := 0; len(all) > 0; {
		below := 2*i + 1
		if below+1 < len(all) && all[below+1].way < all[below].way {
			below++
		}
		if below >= len(all) || last.way <= all[below].way {
			all[i] = last
			break
		}
		all[i], i = all[below], below
	}
	return nearest
}

// From returns how far every cell lies from the nearest of some places through the floor, m;
// infinite where no way leads.
func (f *Field) From(places ...Point) []float64 {
	return f.ways(places, func(_, _ int, length float64) float64 { return length })
}

// ways returns the least cost from the nearest of some places to every cell, where cost
// gives that of a step between two cells; infinite where no way leads (Dijkstra 1959).
func (f *Field) ways(places []Point, cost func(from, to int, length float64) float64) []float64 {
	inside := f.inside
	ways := make([]float64, len(inside))
	for i := range ways {
		ways[i] = math.Inf(1)
	}
	steps := footsteps()
	var frontier front
	for _, p := range places {
		if start := f.near(p, inside); start >= 0 {
			ways[start] = 0
			frontier.push(open{start, 0})
		}
	}
	for len(frontier) > 0 {
		next := frontier.pop()
		if next.way > ways[next.cell] {
			continue
		}
		col, row := next.cell%f.wide, next.cell/f.wide
		for _, s := range steps {
			c, r := col+s.x, row+s.y
			if c < 0 || r < 0 || c >= f.wide || r >= f.high {
				continue
			}
			cell := r*f.wide + c
			if !inside[cell] || next.way >= ways[cell] {
				continue
			}
			way := next.way + cost(next.cell, cell, s.length*f.Step)
			if way >= ways[cell] || !f.passes(inside, col, row, s) {
				continue
			}
			ways[cell] = way
			frontier.push(open{cell, way})
		}
	}
	return ways
}

// passes reports whether the cells that a step crosses are inside: no corner is cut.
func (f *Field) passes(inside []bool, col, row int, s neighbour) bool {
	half := func(n int) int { return n / 2 } // towards zero: of a knight's step the long side's half
	switch {
	case s.length == 1:
		return true
	case s.x*s.x == s.y*s.y:
		return inside[row*f.wide+col+s.x] && inside[(row+s.y)*f.wide+col]
	case s.x*s.x > s.y*s.y:
		return inside[row*f.wide+col+half(s.x)] && inside[(row+s.y)*f.wide+col+half(s.x)]
	}
	return inside[(row+half(s.y))*f.wide+col] && inside[(row+half(s.y))*f.wide+col+s.x]
}

// Way returns how far a point lies by what From told, m.
func (f *Field) Way(ways []float64, p Point) float64 {
	if cell := f.near(p, f.inside); cell >= 0 {
		return ways[cell]
	}
	return math.Inf(1)
}

// label is a place well inside rings: the middle of the cell that lies deepest in them.
func (f *Field) label(rings []Ring) Point {
	inside := f.mask(rings, nil)
	deep := make([]int, len(inside)) // cells to the nearest side, in steps of a king
	best, at := 0, -1
	get := func(c, r int) int {
		if c < 0 || r < 0 || c >= f.wide || r >= f.high {
			return 0
		}
		return deep[r*f.wide+c]
	}
	for pass := range 2 {
		for n := range inside {
			cell := n
			if pass == 1 {
				cell = len(inside) - 1 - n
			}
			if !inside[cell] {
				continue
			}
			c, r := cell%f.wide, cell/f.wide
			if pass == 0 {
				deep[cell] = 1 + min(get(c-1, r), get(c, r-1), get(c-1, r-1), get(c+1, r-1))
				continue
			}
			deep[cell] = min(deep[cell], 1+min(get(c+1, r), get(c, r+1), get(c+1, r+1), get(c-1, r+1)))
			if deep[cell] > best {
				best, at = deep[cell], cell
			}
		}
	}
	if at < 0 {
		return rings[0][0]
	}
	return f.middle(at)
}

// whole reports whether rings hang together by more than the width of a cell; scraps of
// less than a few cells do not count.
func (f *Field) whole(rings []Ring) bool {
	in := f.mask(rings, nil)
	parts := 0
	stack := make([]int, 0, 64)
	for i := range in {
		if !in[i] {
			continue
		}
		cells := 0
		for stack = append(stack[:0], i); len(stack) > 0; {
			c := stack[len(stack)-1]
			stack = stack[:len(stack)-1]
			if !in[c] {
				continue
			}
			in[c] = false
			cells++
			if c%f.wide > 0 {
				stack = append(stack, c-1)
			}
			if c%f.wide < f.wide-1 {
				stack = append(stack, c+1)
			}
			if c >= f.wide {
				stack = append(stack, c-f.wide)
			}
			if c+f.wide < len(in) {
				stack = append(stack, c+f.wide)
			}
		}
		if cells > scrap {
			parts++
		}
	}
	return parts <= 1
}
