package drawing

import (
	"bufio"
	"encoding/json"
	"encoding/xml"
	"fmt"
	"io"
	"math"

	"github.com/paulmach/orb"
	"github.com/paulmach/orb/geojson"

	"nephelon/core/geometry"
	"nephelon/core/pour"
)

// Format names what a drawing is written as.
type Format string

// The formats.
const (
	DXF     Format = "dxf"
	GeoJSON Format = "geojson"
	SVG     Format = "svg"
)

// Media is the media type of a format.
func (f Format) Media() string {
	switch f {
	case DXF:
		return "image/vnd.dxf"
	case SVG:
		return "image/svg+xml"
	}
	return "application/geo+json"
}

// Laid is a floor with the sections of one coat, in metres, y upward.
type Laid struct {
	Name     string
	Floor    geometry.Polygon
	Sections []pour.Section
	Cuts     []pour.Cut
	Exit     *geometry.Point
}

// The layers of a drawing that is written.
const (
	layerWalls    = "WALLS"
	layerSections = "SECTIONS"
	layerNumbers  = "NUMBERS"
	layerJoins    = "JOINS"
	layerMarks    = "MARKS"
	layerExit     = "EXIT"
)

// Write draws a floor with its sections, joins and tape marks, each on a layer of its
// own.
func Write(out io.Writer, f Format, l Laid) error {
	buffered := bufio.NewWriter(out)
	var err error
	switch f {
	case DXF:
		err = l.dxf(buffered)
	case SVG:
		err = l.svg(buffered)
	default:
		err = l.geoJSON(buffered)
	}
	if err == nil {
		err = buffered.Flush()
	}
	if err != nil {
		return fmt.Errorf("write the drawing: %w", err)
	}
	return nil
}

// joins are the straight lines between sections.
func (l Laid) joins() [][2]pour.Mark {
	var all [][2]pour.Mark
	for _, c := range l.Cuts {
		for k := 0; k+1 < len(c.Marks); k += 2 {
			all = append(all, [2]pour.Mark{c.Marks[k], c.Marks[k+1]})
		}
	}
	return all
}

// dxf writes ASCII DXF of release 12 with metres as its unit (from memory).
func (l Laid) dxf(out *bufio.Writer) error {
	pair := func(code int, value any) { fmt.Fprintf(out, "%d\n%v\n", code, value) }
	number := func(v float64) string { return fmt.Sprintf("%.6f", v) }
	at := func(p geometry.Point) {
		pair(10, number(p.X))
		pair(20, number(p.Y))
	}
	entity := func(kind, layer string) {
		pair(0, kind)
		pair(8, layer)
	}
	ring := func(layer string, r geometry.Ring) {
		entity("POLYLINE", layer)
		pair(66, 1)
		pair(70, 1) // closed
		for _, p := range r {
			entity("VERTEX", layer)
			at(p)
		}
		entity("SEQEND", layer)
	}
	pair(0, "SECTION")
	pair(2, "HEADER")
	pair(9, "$INSUNITS")
	pair(70, 6)
	pair(0, "ENDSEC")
	pair(0, "SECTION")
	pair(2, "ENTITIES")
	for _, r := range append([]geometry.Ring{l.Floor.Outline}, l.Floor.Holes...) {
		ring(layerWalls, r)
	}
	for _, s := range l.Sections {
		for _, r := range s.Rings {
			ring(layerSections, r)
		}
		entity("TEXT", layerNumbers)
		at(s.Label)
		pair(40, 0.25)
		pair(1, s.Number)
	}
	for _, j := range l.joins() {
		entity("LINE", layerJoins)
		at(j[0].At)
		pair(11, number(j[1].At.X))
		pair(21, number(j[1].At.Y))
		for _, m := range j {
			entity("POINT", layerMarks)
			at(m.At)
		}
	}
	if l.Exit != nil {
		entity("POINT", layerExit)
		at(*l.Exit)
	}
	pair(0, "ENDSEC")
	_, err := out.WriteString("0\nEOF\n")
	return err
}

// margin is the blank border around an SVG, m.
const margin = 0.5

// svg writes SVG 2 in metres; its y axis runs downward.
func (l Laid) svg(out *bufio.Writer) error {
	low, high := geometry.Point{X: math.Inf(1), Y: math.Inf(1)}, geometry.Point{X: math.Inf(-1), Y: math.Inf(-1)}
	for _, p := range l.Floor.Outline {
		low = geometry.Point{X: math.Min(low.X, p.X), Y: math.Min(low.Y, p.Y)}
		high = geometry.Point{X: math.Max(high.X, p.X), Y: math.Max(high.Y, p.Y)}
	}
	wide, tall := high.X-low.X+2*margin, high.Y-low.Y+2*margin
	x := func(p geometry.Point) float64 { return p.X - low.X + margin }
	y := func(p geometry.Point) float64 { return high.Y - p.Y + margin }
	path := func(rings []geometry.Ring) string {
		d := ""
		for _, r := range rings {
			for i, p := range r {
				step := "L"
				if i == 0 {
					step = "M"
				}
				d += fmt.Sprintf("%s%.4f %.4f", step, x(p), y(p))
			}
			d += "Z"
		}
		return d
	}
	fmt.Fprintf(out,
		`<svg xmlns="http://www.w3.org/2000/svg" width="%.3fm" height="%.3fm" viewBox="0 0 %.4f %.4f">`+"\n<title>", wide,
		tall, wide, tall)
	if err := xml.EscapeText(out, []byte(l.Name)); err != nil {
		return err
	}
	fmt.Fprintf(out, "</title>\n<g id=%q fill=\"none\" stroke=\"#000\" stroke-width=\"0.03\"><path id=\"floor\" "+
		"fill-rule=\"evenodd\" d=%q/></g>\n", layerWalls, path(append([]geometry.Ring{l.Floor.Outline}, l.Floor.Holes...)))
	fmt.Fprintf(out, "<g id=%q fill=\"none\" stroke=\"#555\" stroke-width=\"0.015\">\n", layerSections)
	for _, s := range l.Sections {
		fmt.Fprintf(out, "<path id=\"section-%d\" fill-rule=\"evenodd\" d=%q/>\n", s.Number, path(s.Rings))
	}
	fmt.Fprintf(out, "</g>\n<g id=%q font-size=\"0.3\" text-anchor=\"middle\">\n", layerNumbers)
	for _, s := range l.Sections {
		fmt.Fprintf(out, "<text x=\"%.4f\" y=\"%.4f\">%d</text>\n", x(s.Label), y(s.Label), s.Number)
	}
	fmt.Fprintf(out, "</g>\n<g id=%q stroke=\"#000\" stroke-width=\"0.03\" stroke-dasharray=\"0.2 0.1\">\n", layerJoins)
	for _, j := range l.joins() {
		fmt.Fprintf(out, "<line x1=\"%.4f\" y1=\"%.4f\" x2=\"%.4f\" y2=\"%.4f\"/>\n", x(j[0].At), y(j[0].At),
			x(j[1].At), y(j[1].At))
	}
	fmt.Fprintf(out, "</g>\n<g id=%q>\n", layerMarks)
	for _, j := range l.joins() {
		for _, m := range j {
			fmt.Fprintf(out, "<circle cx=\"%.4f\" cy=\"%.4f\" r=\"0.06\"/>\n", x(m.At), y(m.At))
		}
	}
	if l.Exit != nil {
		fmt.Fprintf(out, "</g>\n<g id=%q><circle cx=\"%.4f\" cy=\"%.4f\" r=\"0.2\"/>\n", layerExit, x(*l.Exit), y(*l.Exit))
	}
	_, err := out.WriteString("</g>\n</svg>\n")
	return err
}

// geoJSON writes features (RFC 7946) on a plane in metres, not on the Earth, which a
// member of its own says.
func (l Laid) geoJSON(out *bufio.Writer) error {
	point := func(p geometry.Point) orb.Point { return orb.Point{p.X, p.Y} }
	ring := func(r geometry.Ring) orb.Ring {
		closed := make(orb.Ring, 0, len(r)+1)
		for _, p := range r {
			closed = append(closed, point(p))
		}
		return append(closed, closed[0])
	}
	all := geojson.NewFeatureCollection()
	all.ExtraMembers = geojson.Properties{"plane": "metres, x to the right and y upward; not longitude and latitude"}
	add := func(layer string, g orb.Geometry, properties map[string]any) {
		f := geojson.NewFeature(g)
		f.Properties["layer"] = layer
		for name, value := range properties {
			f.Properties[name] = value
		}
		all.Append(f)
	}
	floor := orb.Polygon{}
	for _, r := range append([]geometry.Ring{l.Floor.Outline}, l.Floor.Holes...) {
		floor = append(floor, ring(r))
	}
	add(layerWalls, floor, map[string]any{"name": l.Name})
	for _, s := range l.Sections {
		// Each counter-clockwise ring begins a polygon; the clockwise ones are its holes.
		var parts orb.MultiPolygon
		for _, r := range s.Rings {
			if r.SignedArea() > 0 || len(parts) == 0 {
				parts = append(parts, orb.Polygon{ring(r)})
			} else {
				parts[len(parts)-1] = append(parts[len(parts)-1], ring(r))
			}
		}
		var g orb.Geometry = parts
		if len(parts) == 1 {
			g = parts[0]
		}
		add(layerSections, g, map[string]any{"name": fmt.Sprintf("Section %d", s.Number), "number": s.Number,
			"area": float64(s.Area), "id": s.ID})
	}
	for _, c := range l.Cuts {
		for k := 0; k+1 < len(c.Marks); k += 2 {
			add(layerJoins, orb.LineString{point(c.Marks[k].At), point(c.Marks[k+1].At)},
				map[string]any{"after": c.After, "wet": float64(c.Wet)})
			for _, m := range c.Marks[k : k+2] {
				add(layerMarks, point(m.At), map[string]any{"hole": m.Hole, "side": m.Side, "along": float64(m.Along),
					"tape": m.Tape})
			}
		}
	}
	if l.Exit != nil {
		add(layerExit, point(*l.Exit), nil)
	}
	return json.NewEncoder(out).Encode(all)
}
