package drawing

import (
	"bytes"
	"encoding/xml"
	"errors"
	"io"
	"math"
	"strings"
	"testing"

	"github.com/paulmach/orb/geojson"
	"github.com/paulmach/orb/planar"

	"nephelon/core/geometry"
	"nephelon/core/pour"
)

// ringed is a floor around a core, divided for a door.
func ringed() Laid {
	floor := geometry.Polygon{
		Outline: geometry.Ring{{X: 0, Y: 0}, {X: 16, Y: 0}, {X: 16, Y: 12}, {X: 0, Y: 12}},
		Holes:   []geometry.Ring{{{X: 5, Y: 4}, {X: 11, Y: 4}, {X: 11, Y: 8}, {X: 5, Y: 8}}},
	}
	door, shares := geometry.Point{X: 0, Y: 6}, []float64{1, 1, 1, 1, 1}
	laying := pour.Plot(floor, pour.Layout{Exit: &door}, nil, shares, nil).Lay(floor, shares)
	return Laid{Name: "Eel house <north>", Floor: floor, Sections: laying.Sections, Cuts: laying.Cuts, Exit: &door}
}

func written(t *testing.T, f Format, l Laid) []byte {
	t.Helper()
	var out bytes.Buffer
	if err := Write(&out, f, l); err != nil {
		t.Fatal(err)
	}
	return out.Bytes()
}

// What is written as DXF is read again with its unit and the area of every section.
func TestSectionsAsDXF(t *testing.T) {
	l := ringed()
	d, err := Read(written(t, DXF, l))
	if err != nil || d.Unit != "m" || d.Scale != 1 {
		t.Fatalf("%+v, %v", d, err)
	}
	sum, walls := 0.0, 0
	for _, s := range d.Shapes {
		if s.Layer == layerSections {
			sum += s.Area
		} else if s.Layer == layerWalls {
			walls++
		}
	}
	if math.Abs(sum-(16*12-6*4)) > 1e-3 || walls != 2 {
		t.Errorf("sections of %v m², %d walls", sum, walls)
	}
}

// An outside reader of GeoJSON and its plane geometry find every section in its area, its
// joins and its marks.
func TestSectionsAsGeoJSON(t *testing.T) {
	l := ringed()
	all, err := geojson.UnmarshalFeatureCollection(written(t, GeoJSON, l))
	if err != nil {
		t.Fatal(err)
	}
	sum, joins, marks := 0.0, 0, 0
	for _, f := range all.Features {
		switch f.Properties["layer"] {
		case layerSections:
			area := math.Abs(planar.Area(f.Geometry))
			if told, _ := f.Properties["area"].(float64); math.Abs(told-area) > 1e-6 {
				t.Errorf("%v is %v m², told %v", f.Properties["name"], area, told)
			}
			sum += area
		case layerJoins:
			joins++
		case layerMarks:
			marks++
		}
	}
	if math.Abs(sum-168) > 1e-6 || joins < 4 || marks != 2*joins {
		t.Errorf("%v m², %d joins, %d marks", sum, joins, marks)
	}
}

// The SVG is well formed, speaks of the floor by name, and has a layer for each thing.
func TestSectionsAsSVG(t *testing.T) {
	text := written(t, SVG, ringed())
	decoder := xml.NewDecoder(bytes.NewReader(text))
	layers := ""
	for {
		token, err := decoder.Token()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			t.Fatal(err)
		}
		if start, ok := token.(xml.StartElement); ok && start.Name.Local == "g" {
			layers += start.Attr[0].Value + " "
		}
	}
	if layers != "WALLS SECTIONS NUMBERS JOINS MARKS EXIT " || !strings.Contains(string(text), "Eel house &lt;north&gt;") {
		t.Errorf("layers %s in %s", layers, text[:200])
	}
	d, err := Read(text)
	if err != nil || len(d.Shapes) < 6 {
		t.Errorf("%d shapes, %v", len(d.Shapes), err)
	}
}
