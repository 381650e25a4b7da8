package geometry

import (
	"math"
	"slices"
)

// figure is a connected part of a polygon: an outline with what is cut out of it.
type figure []Ring

func (f figure) area() float64 {
	sum := 0.0
	for _, r := range f {
		sum += r.SignedArea()
	}
	return sum
}

func (f figure) has(corner Point) bool {
	return slices.ContainsFunc(f, func(r Ring) bool { return slices.Contains(r, corner) })
}

// figures sorts rings into connected parts: each outline with the holes in it.
func figures(rings []Ring) []figure {
	var parts []figure
	for _, r := range rings {
		if r.SignedArea() > 0 {
			parts = append(parts, figure{r})
		}
	}
	for _, hole := range rings {
		if hole.SignedArea() > 0 {
			continue
		}
		at, least := -1, math.Inf(1)
		for i, part := range parts {
			if len(parts) == 1 {
				at = i // a hole lies in the only outline there is
				break
			}
			if area := part[0].SignedArea(); area < least && part[0].contains(hole[0].Toward(hole[1], 0.5)) {
				at, least = i, area
			}
		}
		if at >= 0 {
			parts[at] = append(parts[at], hole)
		}
	}
	return parts
}

// on reports whether a point lies on the edge of a figure.
func (f figure) on(p Point) bool {
	return slices.ContainsFunc(f, func(r Ring) bool {
		_, _, at := r.Nearest(p)
		return at.Distance(p) <= Tolerance
	})
}

// holds reports whether a figure has a point in it.
func (f figure) holds(p Point) bool {
	inside := false
	for _, r := range f {
		if r.contains(p) {
			inside = !inside
		}
	}
	return inside
}
