package pour

import (
	"cmp"
	"fmt"
	"slices"

	"nephelon/core/geometry"
	"nephelon/core/measure"
	"nephelon/core/takeoff"
)

// travelOf returns the direction in which a piece of a top is poured: along its longer extent, from the left or, where
// it is drawn upright, from below.
func travelOf(p geometry.Polygon) geometry.Travel {
	low, high := extent(p.Outline, geometry.Heading(0))
	near, far := extent(p.Outline, geometry.Heading(90))
	if far-near > high-low+geometry.Tolerance {
		return geometry.Heading(90)
	}
	return geometry.Heading(0)
}

// extent returns where a ring begins and ends along a direction.
func extent(r geometry.Ring, along geometry.Travel) (low, high float64) {
	for i, p := range r {
		at := along.Along(p)
		if i == 0 {
			low, high = at, at
		}
		low, high = min(low, at), max(high, at)
	}
	return low, high
}

// run draws what sections cover of the pieces of a top, and tells where on each piece they end, in the order in which
// they are poured. What a piece shares with an earlier one is spread over its length.
func run(panels []takeoff.Panel, sections []Section) {
	for at, p := range panels {
		if p.Board == nil {
			continue
		}
		var parts []*Cover
		var shares []float64
		for n := range sections {
			for k := range sections[n].Spans {
				if s := &sections[n].Spans[k]; s.Panel == at && s.Area > 0 {
					parts, shares = append(parts, s), append(shares, float64(s.Area))
				}
			}
		}
		if len(parts) == 0 {
			continue
		}
		polygon, travel := p.Board.Polygon(), travelOf(p.Board.Polygon())
		low, _ := extent(polygon.Outline, travel)
		for n, strip := range geometry.Strips(polygon, travel, shares) {
			parts[n].Rings, parts[n].Goes = strip.Rings, n < len(parts)-1
			parts[n].From, parts[n].To = measure.Length(strip.From-low), measure.Length(strip.To-low)
			label := strip.Inside(travel)
			parts[n].Label = &label
		}
	}
}

// zone is a stretch of a piece along its run: beside a cut-out, or what lies between two.
type zone struct {
	name string
	area float64
}

// zones divides a part of a piece by its cut-outs: what lies left of each, beside it and right of it. One zone without
// a name where the piece has none.
func zones(b *takeoff.Board, rings []geometry.Ring) []zone {
	polygon, travel := b.Polygon(), travelOf(b.Polygon())
	before, after := "left of", "right of"
	if travel == geometry.Heading(90) {
		before, after = "below", "above"
	}
	type stretch struct {
		name     string
		from, to float64
	}
	low, high := extent(polygon.Outline, travel)
	cuts := make([]stretch, len(b.Cutouts))
	for i, c := range b.Cutouts {
		from, to := extent(c.Outline, travel)
		cuts[i] = stretch{c.Name, from, to}
	}
	slices.SortStableFunc(cuts, func(a, b stretch) int { return cmp.Compare(a.from, b.from) })
	all := []stretch{}
	at, last := low, ""
	for _, c := range cuts {
		switch {
		case c.from <= at:
		case last == "":
			all = append(all, stretch{fmt.Sprintf("%s %s", before, c.name), at, c.from})
		default:
			all = append(all, stretch{fmt.Sprintf("between %s and %s", last, c.name), at, c.from})
		}
		all = append(all, stretch{"beside " + c.name, max(at, c.from), c.to})
		if c.to > at {
			at, last = c.to, c.name
		}
	}
	if last == "" {
		all = append(all, stretch{"", low, high})
	} else if high > at {
		all = append(all, stretch{fmt.Sprintf("%s %s", after, last), at, high})
	}
	var out []zone
	for _, s := range all {
		area := geometry.Below(rings, travel, s.to) - geometry.Below(rings, travel, s.from)
		if area > geometry.Tolerance {
			out = append(out, zone{s.name, area})
		}
	}
	return out
}
