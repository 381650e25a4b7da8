package geometry

import "math"

// scrap is how many cells are no part of their own.
const scrap = 3

// OpenAhead tells whether a floor lies open along a travel for certain: at every level the
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
	Blocked bool    // a part of the piece has no way over dry floor
	Wet     float64 // m over worked pieces on the way with the least of them; 0 where a neck is too narrow, infinite where no way leads
}

// Escapes returns for each piece, in the order of work, whether each part of it reaches an
// exit over what is not worked yet, by a way of the given width. Parts of up to a few cells
// do not count. It costs a flood of the floor, and a search for each piece that is blocked.
func Escapes(p Polygon, pieces []Piece, exits []Point, width float64) []Escape {
	f := NewField(p, wayCells, wayCell)
	owner := make([]int, len(f.inside))
	for i := range owner {
		owner[i] = -1
	}
	for k, p := range pieces {
		for cell, in := range f.mask(p.Rings) {
			if in && f.inside[cell] {
				owner[cell] = k
			}
		}
	}
	earliest := f.earliest(owner, int(math.Floor(width/2/f.Step-0.25)))
	freed := make([][]int, len(pieces)) // by piece, where the middle of a person may be from there on back
	stood := make([][]int, len(pieces)) // by piece, where a person stands in it
	for cell, first := range earliest {
		if first < 0 {
			continue
		}
		freed[first] = append(freed[first], cell)
		if owner[cell] == first {
			stood[first] = append(stood[first], cell)
		}
	}
	// From the last piece to the first the dry floor only grows.
	escapes := make([]Escape, len(pieces))
	free, reached := make([]bool, len(f.inside)), make([]bool, len(f.inside))
	for k := len(pieces) - 1; k >= 0; k-- {
		f.spread(free, reached, freed[k], exits)
		if cut := f.parts(stood[k], reached); len(cut) > 0 {
			escapes[k] = Escape{true, f.least(owner, k, exits, cut)}
		}
	}
	return escapes
}

// spread frees cells, and marks as reached all free cells that are joined by their sides to
// the exits or to what was reached before.
func (f *Field) spread(free, reached []bool, freed []int, exits []Point) {
	var frontier []int
	meet := func(cell int) {
		if !reached[cell] {
			reached[cell] = true
			frontier = append(frontier, cell)
		}
	}
	for _, cell := range freed {
		free[cell] = true
	}
	for _, cell := range freed {
		for _, next := range f.beside(cell) {
			if next >= 0 && reached[next] {
				meet(cell)
				break
			}
		}
	}
	for _, exit := range exits {
		if start := f.near(exit, free); start >= 0 {
			meet(start)
		}
	}
	for len(frontier) > 0 {
		cell := frontier[len(frontier)-1]
		frontier = frontier[:len(frontier)-1]
		for _, next := range f.beside(cell) {
			if next >= 0 && free[next] {
				meet(next)
			}
		}
	}
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

// earliest is, for every cell, the least of its own number and of those of the cells so near
// to it; what lies outside counts as -1.
func (f *Field) earliest(owner []int, reach int) []int {
	type off struct{ col, row, cell int }
	var disc []off
	for r := -reach; r <= reach; r++ {
		for c := -reach; c <= reach; c++ {
			if c*c+r*r <= reach*reach {
				disc = append(disc, off{c, r, r*f.wide + c})
			}
		}
	}
	least := make([]int, len(owner))
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
	return least
}
