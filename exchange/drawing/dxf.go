package drawing

import (
	"bufio"
	"bytes"
	"math"
	"strconv"
	"strings"

	"nephelon/core/geometry"
	"nephelon/core/measure"
)

// entity is one entity of a DXF file: its type and its group codes in order.
type entity struct {
	kind   string
	groups []group
}

type group struct {
	code  int
	value string
}

func (e entity) text(code int) string {
	for _, g := range e.groups {
		if g.code == code {
			return g.value
		}
	}
	return ""
}

func (e entity) number(code int) float64 {
	n, err := strconv.ParseFloat(e.text(code), 64)
	if err != nil {
		return 0
	}
	return n
}

func (e entity) flag(code, bit int) bool { return int(e.number(code))&bit != 0 }

// dxf reads the ENTITIES of a text DXF: pairs of lines, a group code and its
// value (DXF Reference, from memory).
func (f *finder) dxf(content []byte) error {
	f.result.Format = "DXF"
	scanner := bufio.NewScanner(bytes.NewReader(content))
	scanner.Buffer(nil, 1<<20)
	line := func() (string, bool) {
		ok := scanner.Scan()
		return strings.TrimSpace(scanner.Text()), ok
	}
	var section, variable string
	var entities []entity
	ended := false
	for {
		codeText, ok := line()
		if !ok {
			break
		}
		value, ok := line()
		if !ok {
			return refuse("The DXF breaks off in the middle of an entry. Export it again.")
		}
		code, err := strconv.Atoi(codeText)
		if err != nil {
			return refuse("The DXF holds “%.20s” where a group code belongs. Export it again.", codeText)
		}
		switch {
		case code == 0 && value == "EOF":
			ended = true
		case code == 0 && value == "ENDSEC":
			section = ""
		case code == 2 && section == "SECTION":
			section = value
		case code == 0 && value == "SECTION":
			section = value
		case section == "HEADER" && code == 9:
			variable = value
		case section == "HEADER" && code == 70 && variable == "$INSUNITS":
			f.insUnits(value)
		case section == "ENTITIES" && code == 0:
			if len(entities) >= maxEntities {
				return refuse("The DXF holds more than %d entities. Export only the layer with the outlines.", maxEntities)
			}
			entities = append(entities, entity{kind: value})
		case section == "ENTITIES" && len(entities) > 0:
			last := &entities[len(entities)-1]
			last.groups = append(last.groups, group{code, value})
		}
	}
	if err := scanner.Err(); err != nil {
		return refuse("The DXF cannot be read: %v.", err)
	}
	if !ended {
		return refuse("The DXF breaks off before its end. Export or send it again.")
	}
	f.entities(entities)
	return nil
}

func (f *finder) insUnits(value string) {
	switch value {
	case "1":
		f.result.Unit, f.result.Scale = "in", measure.Inch
	case "2":
		f.result.Unit, f.result.Scale = "ft", measure.Foot
	case "4":
		f.result.Unit, f.result.Scale = "mm", 0.001
	case "5":
		f.result.Unit, f.result.Scale = "cm", 0.01
	case "6":
		f.result.Unit, f.result.Scale = "m", 1
	}
}

func (f *finder) entities(all []entity) {
	loose := make(map[string][][2]geometry.Point) // lines by layer
	for i := 0; i < len(all); i++ {
		e := all[i]
		layer := e.text(8)
		switch e.kind {
		case "LWPOLYLINE":
			f.polyline(layer, e.flag(70, 1), lightVertices(e))
		case "POLYLINE":
			var vertices []vertex
			for i++; i < len(all) && all[i].kind == "VERTEX"; i++ {
				vertices = append(vertices, vertex{geometry.Point{X: all[i].number(10), Y: all[i].number(20)}, all[i].number(42)})
			}
			if i < len(all) && all[i].kind != "SEQEND" {
				i--
			}
			f.polyline(layer, e.flag(70, 1), vertices)
		case "CIRCLE":
			f.take(layer, "circle", circle(geometry.Point{X: e.number(10), Y: e.number(20)}, math.Abs(e.number(40))))
		case "LINE":
			loose[layer] = append(loose[layer], [2]geometry.Point{{X: e.number(10), Y: e.number(20)},
				{X: e.number(11), Y: e.number(21)}})
		case "INSERT":
			f.leave("block", "is inserted; explode it to take its outlines")
		case "VERTEX", "SEQEND":
		default:
			f.leave(strings.ToLower(e.kind), "is not an outline")
		}
	}
	for layer, lines := range loose {
		f.chain(layer, lines)
	}
}

type vertex struct {
	at    geometry.Point
	bulge float64
}

func lightVertices(e entity) []vertex {
	var vertices []vertex
	for _, g := range e.groups {
		n, err := strconv.ParseFloat(g.value, 64)
		if err != nil {
			continue
		}
		switch {
		case g.code == 10:
			vertices = append(vertices, vertex{at: geometry.Point{X: n}})
		case g.code == 20 && len(vertices) > 0:
			vertices[len(vertices)-1].at.Y = n
		case g.code == 42 && len(vertices) > 0:
			vertices[len(vertices)-1].bulge = n
		}
	}
	return vertices
}

func (f *finder) polyline(layer string, closed bool, vertices []vertex) {
	n := len(vertices)
	if n < 2 || !closed && vertices[0].at != vertices[n-1].at {
		f.leave("polyline", "is not closed")
		return
	}
	ring := geometry.Ring{vertices[0].at}
	for i, v := range vertices {
		if next := vertices[(i+1)%n]; closed || i < n-1 {
			ring = append(ring, arc(v.at, next.at, v.bulge)...)
		}
		if len(ring) > 4*maxCorners {
			break
		}
	}
	f.take(layer, "polyline", ring)
}

// chain joins loose lines of a layer, end to end, into closed outlines.
func (f *finder) chain(layer string, lines [][2]geometry.Point) {
	type key struct{ x, y int64 }
	near := func(p geometry.Point) key {
		const grain = 1e4 // ends closer than a ten-thousandth of a unit meet
		return key{int64(math.Round(p.X * grain)), int64(math.Round(p.Y * grain))}
	}
	at := make(map[key][]int)
	for i, l := range lines {
		at[near(l[0])] = append(at[near(l[0])], i)
		at[near(l[1])] = append(at[near(l[1])], i)
	}
	used := make([]bool, len(lines))
	for i := range lines {
		if used[i] {
			continue
		}
		used[i] = true
		ring, end, count := geometry.Ring{lines[i][0]}, lines[i][1], 1
		for near(end) != near(ring[0]) {
			next := -1
			for _, k := range at[near(end)] {
				if !used[k] {
					next = k
					break
				}
			}
			if next < 0 {
				break
			}
			used[next] = true
			count++
			ring = append(ring, end)
			if near(lines[next][0]) == near(end) {
				end = lines[next][1]
			} else {
				end = lines[next][0]
			}
		}
		if near(end) == near(ring[0]) && len(ring) > 2 {
			f.take(layer, "joined lines", ring)
			continue
		}
		for range count {
			f.leave("line", "does not close with others")
		}
	}
}
