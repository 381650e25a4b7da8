package pour

import (
	"math"

	"nephelon/core/geometry"
	"nephelon/core/measure"
)

// onSeams moves the lines between strips onto seams where no strip grows or shrinks by more
// than a film may.
func (c Course) onSeams(p geometry.Polygon, strips []geometry.Strip) []geometry.Strip {
	if len(c.seams) == 0 || len(strips) < 2 {
		return strips
	}
	levels := make([]float64, len(strips)-1)
	gained, moved := 0.0, false // by the line before, m²
	for i := range levels {
		levels[i] = strips[i].To
		own, best := gained, math.Inf(1)
		gained = 0
		under := geometry.Below(p.Rings(), c.travel, strips[i].To)
		for _, s := range c.seams {
			level, square := s.Level(c.travel)
			if by := math.Abs(level - strips[i].To); !square || by >= best || level <= strips[i].From ||
				level >= strips[i+1].To {
				continue
			}
			by := geometry.Below(p.Rings(), c.travel, level) - under
			if math.Abs(by-own) > geometry.NearlyShare*strips[i].Area || math.Abs(by) > geometry.NearlyShare*strips[i+1].Area {
				continue
			}
			if met, _ := geometry.Chord(p, c.travel, level); len(met) != 2 ||
				!s.Carries([2]geometry.Point{met[0].At, met[1].At}) {
				continue
			}
			best, levels[i], gained, moved = math.Abs(level-strips[i].To), level, by, true
		}
	}
	if !moved {
		return strips
	}
	return geometry.StripsAt(p, c.travel, levels)
}

// Offer is a join that could lie on a seam if its batches followed.
type Offer struct {
	After int // the section before it
	Name  string
	By    measure.Length // from where the join lies
}

// farSeam is the greatest distance of a seam from a join to be offered, as a share of the strips on
// both sides: common practice, no source.
const farSeam = 1.0 / 3

// Offered are the joins of straight strips that a seam lies near to but not so near that
// they lie on it anyhow, with the areas of the sections if all of them did.
func (c Course) Offered(p geometry.Polygon, shares []float64) ([]Offer, []float64) {
	strips := c.onSeams(p, geometry.Strips(p, c.travel, shares))
	if c.Pieces || len(c.seams) == 0 || len(strips) < 2 {
		return nil, nil
	}
	var offers []Offer
	levels := make([]float64, len(strips)-1)
	for i := range levels {
		levels[i] = strips[i].To
		near := farSeam * math.Min(strips[i].To-strips[i].From, strips[i+1].To-strips[i+1].From)
		name := ""
		for _, s := range c.seams {
			level, square := s.Level(c.travel)
			by := math.Abs(level - strips[i].To)
			if !square || by > near {
				continue
			}
			if met, _ := geometry.Chord(p, c.travel, level); len(met) == 2 &&
				s.Carries([2]geometry.Point{met[0].At, met[1].At}) {
				near, name, levels[i] = by, s.Name, level
			}
		}
		if by := math.Abs(levels[i] - strips[i].To); name != "" && by > geometry.Tolerance {
			offers = append(offers, Offer{i + 1, name, measure.Length(by)})
		}
	}
	areas := make([]float64, len(strips))
	for i, s := range geometry.StripsAt(p, c.travel, levels) {
		areas[i] = s.Area
	}
	return offers, areas
}

// on names the seam that the cut lies on, where one does.
func (c *Cut) on(seams []geometry.Seam) {
	for _, s := range seams {
		if len(c.Marks) == 2 && s.Carries([2]geometry.Point{c.Marks[0].At, c.Marks[1].At}) {
			c.On = s.Name
			return
		}
	}
}
