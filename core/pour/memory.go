package pour

import (
	"encoding/binary"
	"math"
	"sync"

	"nephelon/core/geometry"
	"nephelon/core/measure"
)

// Memory keeps floors as they were divided, since that takes long and rarely changes. It
// may be shared. A nil one keeps nothing.
type Memory struct {
	mutex sync.Mutex
	kept  map[string]Laying
	ways  map[string]*Ways
}

// mostKept bounds what a memory keeps; it is emptied then.
const mostKept = 400

// NewMemory keeps nothing yet.
func NewMemory() *Memory {
	return &Memory{kept: make(map[string]Laying), ways: make(map[string]*Ways)}
}

// keyOf is what a division depends on, digit by digit.
func keyOf(p geometry.Polygon, exit geometry.Point, width float64, shares []float64, seams []geometry.Seam) string {
	key := make([]byte, 0, 16*(len(p.Outline)+len(shares)+4))
	add := func(all ...float64) {
		for _, v := range all {
			key = binary.LittleEndian.AppendUint64(key, math.Float64bits(v))
		}
	}
	add(exit.X, exit.Y, width, float64(len(p.Outline)))
	for _, r := range append([]geometry.Ring{p.Outline}, p.Holes...) {
		add(float64(len(r)))
		for _, c := range r {
			add(c.X, c.Y)
		}
	}
	whole := 0.0
	for _, s := range shares {
		whole += s
	}
	for _, s := range shares {
		// Shares that differ by less than a millionth divide alike.
		add(math.Round(s / whole * 1e6))
	}
	for _, s := range seams {
		add(s.A.X, s.A.Y, s.B.X, s.B.Y)
	}
	return string(key)
}

func (m *Memory) get(key string) (Laying, bool) {
	if m == nil {
		return Laying{}, false
	}
	m.mutex.Lock()
	defer m.mutex.Unlock()
	l, known := m.kept[key]
	return l, known
}

func (m *Memory) put(key string, l Laying) {
	if m == nil {
		return
	}
	m.mutex.Lock()
	defer m.mutex.Unlock()
	if len(m.kept) >= mostKept {
		clear(m.kept)
	}
	m.kept[key] = l
}

// Ways are how far places on a floor lie from one of them, through it.
type Ways struct {
	field *geometry.Field
	from  []float64
}

// To is how far a place lies, m; false where no way leads there.
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
	key := keyOf(p, from, 0, nil, nil)
	if m != nil {
		m.mutex.Lock()
		known := m.ways[key]
		m.mutex.Unlock()
		if known != nil {
			return known
		}
	}
	field := geometry.NewField(p, wayCells, wayCell)
	made := &Ways{field, field.From(from)}
	if m != nil {
		m.mutex.Lock()
		defer m.mutex.Unlock()
		if len(m.ways) >= mostKept {
			clear(m.ways)
		}
		m.ways[key] = made
	}
	return made
}
