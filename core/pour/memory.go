package pour

import (
	"math"

	"nephelon/core/geometry"
	"nephelon/core/measure"
	"nephelon/core/memo"
)

// Memory keeps floors as they were divided, since that takes long and rarely changes. It
// may be shared. A nil one keeps nothing.
type Memory struct {
	pieces  *memo.Memory[pieces, Laying]
	escapes *memo.Memory[leaving, []geometry.Escape]
	ways    *memo.Memory[walking, *Ways]
}

// mostKept bounds what a memory keeps of each; it is emptied then.
const mostKept = 400

// NewMemory keeps nothing yet.
func NewMemory() *Memory {
	ground := new(geometry.Ground)
	return &Memory{
		memo.New(mostKept, nil, func(q pieces) Laying { return q.lift(ground) }),
		memo.New(mostKept, nil, func(q leaving) []geometry.Escape { return q.escapes(ground) }),
		memo.New(mostKept, nil, walking.ways),
	}
}

// pieces asks for a floor cut into one piece for each share.
type pieces struct {
	floor  geometry.Polygon
	exit   geometry.Point
	doors  []geometry.Point // by which people leave
	width  float64          // m that the way out is wide at least
	shares []float64        // of the whole
	seams  []geometry.Seam
}

// leaving asks how the crew leaves each piece of a floor.
type leaving struct {
	floor  geometry.Polygon
	pieces []geometry.Piece
	doors  []geometry.Point
	width  float64
}

func (q leaving) escapes(in *geometry.Ground) []geometry.Escape {
	return in.Escapes(q.floor, q.pieces, q.doors, q.width)
}

// walking asks for the ways through a floor from a place on it.
type walking struct {
	floor geometry.Polygon
	from  geometry.Point
}

func (q walking) ways() *Ways {
	field := geometry.NewField(q.floor, wayCells, wayCell)
	return &Ways{field, field.From(q.from)}
}

func (m *Memory) lift(q pieces) Laying {
	if m == nil {
		return q.lift(new(geometry.Ground))
	}
	return m.pieces.Get(q)
}

func (m *Memory) leave(q leaving) []geometry.Escape {
	if m == nil {
		return q.escapes(new(geometry.Ground))
	}
	return m.escapes.Get(q)
}

// Ways holds how far places on a floor lie from one of them, through it.
type Ways struct {
	field *geometry.Field
	from  []float64
}

// To returns how far a place lies, m; false where no way leads there.
func (w *Ways) To(p geometry.Point) (measure.Length, bool) {
	d := w.field.Way(w.from, p)
	return measure.Length(d), !math.IsInf(d, 1)
}

// The cells that ways are measured on: at most, and their size at least, m.
const (
	wayCells = 16_000
	wayCell  = 0.2
)

// WaysFrom are the ways through a floor from a place on it.
func (m *Memory) WaysFrom(p geometry.Polygon, from geometry.Point) *Ways {
	if m == nil {
		return walking{p, from}.ways()
	}
	return m.ways.Get(walking{p, from})
}
