package geometry

import (
	"math"
	"sync"
)

// scrap is the greatest number of cells that do not count as a part.
const scrap = 3

// OpenAhead reports whether a floor lies open along a travel for certain: at every level the
// line across it is in one piece and, however its walls run aslant, wide enough for a way of
// a width. Where it does not, Escapes looks closer.
func OpenAhead(p Polygon, travel Travel, width float64) bool {
	const aslant, beside = 0.5, 1e-4 // of the cosine of a wall against the travel; m from a corner
	low, high := reach(p.Rings(), travel)
	for _, r := range p.Rings() {
		for i, a := range r {
			b := r[(i+1)%len(r)]
			if along := math.Abs(travel.Along(b)-travel.Along(a)) / a.Distance(b); along > 1e-6 && along < aslant {
				return false
			}
			for _, level := range [2]float64{travel.Along(a) - beside, travel.Along(a) + beside} {
				if level <= low || level >= high {
					continue
				}
				if met, wide := Chord(p, travel, level); len(met) != 2 || wide*aslant < width {
					return false
				}
			}
		}
	}
	return true
}

// Escape is the way that somebody who stands in a piece comes to an exit once the pieces before it
// are worked.
type Escape struct {
	Blocked bool // a part of the piece has no way over dry floor
	// m over worked pieces on the way with the least of them; 0 where a neck is too narrow, infinite
	// where no way leads
	Wet float64
}

// Ground is memory in which ways out of floors are found, one floor after the other. It may be
// shared: each search takes memory of its own from it. Its zero value is ready.
type Ground struct{ pool sync.Pool }

// ground is the memory of one search, by cells.
type ground struct {
	inside, mask, free, reached []bool
	owner, earliest             []int
	freed, stood                []int // cells by piece
	frontier                    []int
}

// sized returns a slice of a length in the memory of another; what is in it is left as it is.
func sized[T any](of []T, length int) []T {
	if cap(of) < length {
		return make([]T, length)
	}
	return of[:length]
}

// Escapes returns for each piece, in the order of work, whether each part of it reaches an
// exit over what is not worked yet, by a way of the given width. Parts of up to a few cells
// do not count. It costs a flood of the floor, and a search for each piece that is blocked.
func (g *Ground) Escapes(p Polygon, pieces []Piece, exits []Point, width float64) []Escape {
	m, held := g.pool.Get().(*ground)
	if !held {
		m = &ground{}
	}
	defer g.pool.Put(m)
	f := newField(p, wayCells, wayCell, m.inside)
	cells := len(f.inside)
	m.inside = f.inside
	m.owner, m.earliest = sized(m.owner, cells), sized(m.earliest, cells)
	for i := range m.owner {
		m.owner[i] = -1
	}
	for k, p := range pieces {
		m.mask = f.mask(p.Rings, m.mask)
		for cell, in := range m.mask {
			if in && f.inside[cell] {
				m.owner[cell] = k
			}
		}
	}
	f.earliest(m.owner, int(math.Floor(width/2/f.Step-0.25)), m.earliest)
	// By piece: where the middle of a person may be from there on back, and where one stands in it.
	freed, stood := m.byPiece(len(pieces))
	// From the last piece to the first the dry floor only grows.
	escapes := make([]Escape, len(pieces))
	m.free, m.reached = sized(m.free, cells), sized(m.reached, cells)
	clear(m.free)
	clear(m.reached)
	for k := len(pieces) - 1; k >= 0; k-- {
		f.spread(m, freed[k], exits)
		if cut := f.parts(stood[k], m.reached); len(cut) > 0 {
			escapes[k] = Escape{true, f.least(m.owner, k, exits, cut)}
		}
	}
	return escapes
}

// byPiece sorts the cells by the piece that frees them, and those of them that are its own.
func (m *ground) byPiece(count int) (freed, stood [][]int) {
	frees, stands := make([]int, count+1), make([]int, count+1) // where those of each piece begin
	for cell, first := range m.earliest {
		if first >= 0 {
			frees[first+1]++
			if m.owner[cell] == first {
				stands[first+1]++
			}
		}
	}
	for k := range count {
		frees[k+1] += frees[k]
		stands[k+1] += stands[k]
	}
	m.freed, m.stood = sized(m.freed, frees[count]), sized(m.stood, stands[count])
	freed, stood = make([][]int, count), make([][]int, count)
	for k := range count {
		freed[k], stood[k] = m.freed[frees[k]:frees[k]:frees[k+1]], m.stood[stands[k]:stands[k]:stands[k+1]]
	}
	for cell, first := range m.earliest {
		if first < 0 {
			continue
		}
		freed[first] = append(freed[first], cell)
		if m.owner[cell] == first {
			stood[first] = append(stood[first], cell)
		}
	}
	return freed, stood
}

// spread frees cells, and marks as reached all free cells that are joined by their sides to
// the exits or to what was reached before.
func (f *Field) spread(m *ground, freed []int, exits []Point) {
	frontier := m.frontier[:0]
	meet := func(cell int) {
		if !m.reached[cell] {
			m.reached[cell] = true
			frontier = append(frontier, cell)
		}
	}
	for _, cell := range freed {
		m.free[cell] = true
	}
	for _, cell := range freed {
		for _, next := range f.beside(cell) {
			if next >= 0 && m.reached[next] {
				meet(cell)
				break
			}
		}
	}
	for _, exit := range exits {
		if start := f.near(exit, m.free); start >= 0 {
			meet(start)
		}
	}
	for len(frontier) > 0 {
		cell := frontier[len(frontier)-1]
		frontier = frontier[:len(frontier)-1]
		for _, next := range f.beside(cell) {
			if next >= 0 && m.free[next] {
				meet(next)
			}
		}
	}
	m.frontier = frontier
}

// beside returns the cells at the four sides of a cell; -1 where there is none.
func (f *Field) beside(cell int) [4]int {
	col, all := cell%f.wide, [4]int{-1, -1, cell - f.wide, cell + f.wide}
	if col > 0 {
		all[0] = cell - 1
	}
	if col < f.wide-1 {
		all[1] = cell + 1
	}
	if all[3] >= len(f.inside) {
		all[3] = -1
	}
	return all
}

// parts returns the cells that were not reached in parts that hang together, each by one of
// its cells. Scraps are left out.
func (f *Field) parts(cells []int, reached []bool) []int {
	var all []int
	left := make(map[int]bool)
	for _, cell := range cells {
		if !reached[cell] {
			left[cell] = true
		}
	}
	for _, cell := range cells {
		if !left[cell] {
			continue
		}
		delete(left, cell)
		count, frontier := 0, []int{cell}
		for len(frontier) > 0 {
			at := frontier[len(frontier)-1]
			frontier = frontier[:len(frontier)-1]
			count++
			for _, next := range f.beside(at) {
				if next >= 0 && left[next] {
					delete(left, next)
					frontier = append(frontier, next)
				}
			}
		}
		if count > scrap {
			all = append(all, cell)
		}
	}
	return all
}

// least returns the length over pieces worked before k on the ways from the exits to some
// cells, m: of each cell the way with the least of it, of the cells the most.
func (f *Field) least(owner []int, k int, exits []Point, cells []int) float64 {
	wet := func(cell int) float64 {
		if owner[cell] >= k {
			return 0
		}
		return 1
	}
	ways := f.ways(exits, func(from, to int, length float64) float64 { return length * (wet(from) + wet(to)) / 2 })
	most := 0.0
	for _, cell := range cells {
		most = math.Max(most, ways[cell])
	}
	return most
}

// earliest writes, for every cell, the least of its own number and of those of the cells so near
// to it; what lies outside counts as -1.
func (f *Field) earliest(owner []int, reach int, least []int) {
	type off struct{ col, row, cell int }
	var disc []off
	for r := -reach; r <= reach; r++ {
		for c := -reach; c <= reach; c++ {
			if c*c+r*r <= reach*reach {
				disc = append(disc, off{c, r, r*f.wide + c})
			}
		}
	}
	for cell, own := range owner {
		col, row := cell%f.wide, cell/f.wide
		amid := col >= reach && row >= reach && col < f.wide-reach && row < f.high-reach
		for _, o := range disc {
			if own < 0 {
				break
			}
			if c, r := col+o.col, row+o.row; amid || c >= 0 && r >= 0 && c < f.wide && r < f.high {
				own = min(own, owner[cell+o.cell])
			} else {
				own = -1
			}
		}
		least[cell] = own
	}
}
