// Package drawing reads outlines from the drawings that people send: DXF,
// GeoJSON and SVG.
package drawing

import (
	"bytes"
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"nephelon/core/geometry"
)

// Limits of what is read.
const (
	MaxBytes    = 12 << 20
	maxEntities = 100_000
	maxCorners  = 20_000
	maxShapes   = 400
)

// Shape is one closed outline of a drawing, in the drawing's own units.
type Shape struct {
	Layer   string        `json:"layer"`
	Kind    string        `json:"kind"`
	Outline geometry.Ring `json:"outline"`
	Area    float64       `json:"area" doc:"Area, in square units of the drawing"`
}

// LeftOut holds what was not taken, and why.
type LeftOut struct {
	What  string `json:"what"`
	Count int    `json:"count"`
	Why   string `json:"why"`
}

// Drawing holds what was found in a file.
type Drawing struct {
	Format  string    `json:"format"`
	Unit    string    `json:"unit" doc:"As the file states it; empty where it states none"`
	Scale   float64   `json:"scale" doc:"Metres per unit; 0 where unknown"`
	Shapes  []Shape   `json:"shapes" doc:"The largest first"`
	LeftOut []LeftOut `json:"leftOut"`
}

// RefusedError is a file that cannot be read as a drawing.
type RefusedError struct{ Text string }

func (e *RefusedError) Error() string { return e.Text }

func refuse(text string, args ...any) error { return &RefusedError{fmt.Sprintf(text, args...)} }

// Read finds the closed outlines of a drawing. The format is told by the
// content, not by the name.
func Read(content []byte) (Drawing, error) {
	if len(content) > MaxBytes {
		return Drawing{}, refuse("The file is larger than %d MB. Export only the layer with the outlines.", MaxBytes>>20)
	}
	head := strings.TrimSpace(string(content[:min(len(content), 4096)]))
	var found finder
	var err error
	switch {
	case head == "":
		return Drawing{}, refuse("The file is empty.")
	case strings.HasPrefix(head, "AutoCAD Binary DXF"):
		return Drawing{}, refuse("This is a binary DXF. Save it as a text (ASCII) DXF.")
	case head[0] == '{':
		err = found.geoJSON(content)
	case head[0] == '<' || bytes.Contains(content[:min(len(content), 4096)], []byte("<svg")):
		err = found.svg(content)
	case strings.Contains(head, "SECTION"):
		err = found.dxf(content)
	default:
		return Drawing{}, refuse("This is neither DXF, GeoJSON nor SVG. Export the outline in one of them.")
	}
	if err != nil {
		return Drawing{}, err
	}
	return found.drawing()
}

// finder gathers what a file holds.
type finder struct {
	result  Drawing
	leftOut map[[2]string]int
}

func (f *finder) leave(what, why string) {
	if f.leftOut == nil {
		f.leftOut = make(map[[2]string]int)
	}
	f.leftOut[[2]string{what, why}]++
}

// take keeps a closed outline.
func (f *finder) take(layer, kind string, ring geometry.Ring) {
	for len(ring) > 1 && ring[0] == ring[len(ring)-1] {
		ring = ring[:len(ring)-1]
	}
	kept := ring[:0:0]
	for i, p := range ring {
		if math.IsNaN(p.X) || math.IsNaN(p.Y) || math.Abs(p.X) > 1e12 || math.Abs(p.Y) > 1e12 {
			f.leave(kind, "has a corner that is no number")
			return
		}
		if i == 0 || p != ring[i-1] {
			kept = append(kept, p)
		}
	}
	switch area := math.Abs(kept.SignedArea()); {
	case len(kept) < 3 || area == 0:
		f.leave(kind, "encloses no area")
	case len(kept) > maxCorners:
		f.leave(kind, fmt.Sprintf("has more than %d corners", maxCorners))
	case len(f.result.Shapes) >= maxShapes*10:
		f.leave(kind, "is one of too many")
	default:
		f.result.Shapes = append(f.result.Shapes, Shape{Layer: layer, Kind: kind, Outline: kept, Area: area})
	}
}

func (f *finder) drawing() (Drawing, error) {
	d := f.result
	slices.SortStableFunc(d.Shapes, func(a, b Shape) int { return cmp.Compare(b.Area, a.Area) })
	if len(d.Shapes) > maxShapes {
		f.leftOut = orEmpty(f.leftOut)
		f.leftOut[[2]string{"outline", fmt.Sprintf("is smaller than the %d largest", maxShapes)}] = len(d.Shapes) - maxShapes
		d.Shapes = d.Shapes[:maxShapes]
	}
	d.LeftOut = []LeftOut{}
	for key, count := range f.leftOut {
		d.LeftOut = append(d.LeftOut, LeftOut{key[0], count, key[1]})
	}
	slices.SortFunc(d.LeftOut, func(a, b LeftOut) int {
		return cmp.Or(cmp.Compare(a.What, b.What),
			cmp.Compare(a.Why, b.Why))
	})
	if len(d.Shapes) == 0 {
		var why []string
		for _, l := range d.LeftOut {
			why = append(why, fmt.Sprintf("%d × %s %s", l.Count, l.What, l.Why))
		}
		if len(why) == 0 {
			return d, refuse("The drawing holds nothing at all.")
		}
		return d, refuse("The drawing holds no closed outline: %s. Close the outline and export it again.",
			strings.Join(why, "; "))
	}
	return d, nil
}

func orEmpty(m map[[2]string]int) map[[2]string]int {
	if m == nil {
		return make(map[[2]string]int)
	}
	return m
}

// arc is the corners of a circular arc from a to b, a left out, b included. The
// bulge is the tangent of a quarter of its angle, positive counter-clockwise. A
// corner every degree, and at least 24, keeps the area between arc and chord to
// two in a thousand.
func arc(a, b geometry.Point, bulge float64) geometry.Ring {
	if bulge == 0 || a == b {
		return geometry.Ring{b}
	}
	angle := 4 * math.Atan(bulge)
	steps := max(24, int(math.Ceil(math.Abs(angle)/(math.Pi/180))))
	// The centre lies off the middle of the chord.
	off := (1/bulge - bulge) / 4
	centre := geometry.Point{X: (a.X+b.X)/2 - off*(b.Y-a.Y), Y: (a.Y+b.Y)/2 + off*(b.X-a.X)}
	var ring geometry.Ring
	for i := 1; i < steps; i++ {
		sin, cos := math.Sincos(angle * float64(i) / float64(steps))
		d := a.Minus(centre)
		ring = append(ring, geometry.Point{X: centre.X + cos*d.X - sin*d.Y, Y: centre.Y + sin*d.X + cos*d.Y})
	}
	return append(ring, b)
}

// circle is the corners of a circle.
func circle(centre geometry.Point, radius float64) geometry.Ring {
	east, west := geometry.Point{X: centre.X + radius, Y: centre.Y}, geometry.Point{X: centre.X - radius, Y: centre.Y}
	return append(arc(east, west, 1), arc(west, east, 1)...)
}
