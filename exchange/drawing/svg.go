package drawing

import (
	"bytes"
	"encoding/xml"
	"errors"
	"io"
	"strconv"
	"strings"
	"unicode"

	"nephelon/core/geometry"
)

// svg reads the closed shapes of an SVG: rectangles, polygons, circles and
// straight-sided paths (SVG 2, from memory). Its y axis runs downward and is
// turned upward. It states no true size, so the scale stays unknown.
func (f *finder) svg(content []byte) error {
	f.result.Format = "SVG"
	decoder := xml.NewDecoder(bytes.NewReader(content))
	var moved []bool // for each open element: it or one around it has a transform
	count := 0
	for {
		token, err := decoder.Token()
		if errors.Is(err, io.EOF) {
			return nil
		}
		if err != nil {
			return refuse("The SVG is broken: %v.", err)
		}
		switch t := token.(type) {
		case xml.StartElement:
			if count++; count > maxEntities {
				return refuse("The SVG holds more than %d elements. Export only the outlines.", maxEntities)
			}
			attributes := make(map[string]string, len(t.Attr))
			for _, a := range t.Attr {
				attributes[a.Name.Local] = a.Value
			}
			transformed := attributes["transform"] != "" || len(moved) > 0 && moved[len(moved)-1]
			moved = append(moved, transformed)
			f.element(t.Name.Local, attributes, transformed)
		case xml.EndElement:
			moved = moved[:max(0, len(moved)-1)]
		}
	}
}

func (f *finder) element(kind string, a map[string]string, transformed bool) {
	switch kind {
	case "rect", "polygon", "circle", "path":
	case "polyline", "line", "ellipse", "text", "image", "use":
		f.leave(kind, "is not an outline that can be taken")
		return
	default:
		return
	}
	if transformed {
		f.leave(kind, "has a transform; flatten it first")
		return
	}
	number := func(name string) float64 {
		n, _ := strconv.ParseFloat(strings.TrimSuffix(a[name], "px"), 64)
		return n
	}
	switch kind {
	case "rect":
		x, y, w, h := number("x"), number("y"), number("width"), number("height")
		f.take(a["id"], kind, upright(geometry.Ring{{X: x, Y: y}, {X: x + w, Y: y}, {X: x + w, Y: y + h}, {X: x, Y: y + h}}))
	case "circle":
		f.take(a["id"], kind, upright(circle(geometry.Point{X: number("cx"), Y: number("cy")}, number("r"))))
	case "polygon":
		numbers, ok := numbersOf(a["points"])
		if !ok || len(numbers)%2 != 0 {
			f.leave(kind, "has points that cannot be read")
			return
		}
		f.take(a["id"], kind, upright(pairs(numbers)))
	case "path":
		f.path(a["id"], a["d"])
	}
}

func upright(r geometry.Ring) geometry.Ring {
	for i := range r {
		r[i].Y = -r[i].Y
	}
	return r
}

func pairs(numbers []float64) geometry.Ring {
	ring := make(geometry.Ring, 0, len(numbers)/2)
	for i := 0; i+1 < len(numbers); i += 2 {
		ring = append(ring, geometry.Point{X: numbers[i], Y: numbers[i+1]})
	}
	return ring
}

func numbersOf(text string) ([]float64, bool) {
	fields := strings.FieldsFunc(strings.ReplaceAll(strings.ReplaceAll(text, "-", " -"), "e -", "e-"), func(r rune) bool {
		return r == ',' || unicode.IsSpace(r)
	})
	numbers := make([]float64, len(fields))
	for i, field := range fields {
		n, err := strconv.ParseFloat(field, 64)
		if err != nil {
			return nil, false
		}
		numbers[i] = n
	}
	return numbers, true
}

// path follows the straight commands of a path: M, L, H, V and Z, absolute and
// relative. A path with curves is left out rather than cut short.
func (f *finder) path(id, d string) {
	var ring geometry.Ring
	var at geometry.Point
	for d = strings.TrimSpace(d); d != ""; d = strings.TrimSpace(d) {
		command := d[0]
		end := strings.IndexFunc(d[1:], func(r rune) bool { return unicode.IsLetter(r) && r != 'e' }) + 1
		if end == 0 {
			end = len(d)
		}
		numbers, ok := numbersOf(d[1:end])
		d = d[end:]
		relative := command >= 'a'
		switch upper := command &^ 0x20; {
		case !ok:
			f.leave("path", "has numbers that cannot be read")
			return
		case upper == 'Z':
			f.take(id, "path", upright(ring))
			if len(ring) > 0 {
				at = ring[0]
				at.Y = -at.Y
			}
			ring = nil
		case (upper == 'M' || upper == 'L') && len(numbers)%2 == 0 && len(numbers) > 0:
			if upper == 'M' && len(ring) > 0 {
				f.leave("path", "is not closed")
				ring = nil
			}
			for _, p := range pairs(numbers) {
				if relative {
					p = geometry.Point{X: at.X + p.X, Y: at.Y + p.Y}
				}
				at = p
				ring = append(ring, at)
			}
		case upper == 'H' || upper == 'V':
			for _, n := range numbers {
				switch {
				case upper == 'H' && relative:
					at.X += n
				case upper == 'H':
					at.X = n
				case relative:
					at.Y += n
				default:
					at.Y = n
				}
				ring = append(ring, at)
			}
		default:
			f.leave("path", "has curves or commands that are not taken")
			return
		}
	}
	if len(ring) > 0 {
		f.leave("path", "is not closed")
	}
}
