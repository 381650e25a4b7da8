package geometry

import (
	"fmt"
	"math"
	"slices"
)

// ReshapeError says why a ring cannot be changed as asked.
type ReshapeError struct{ Text, Way string }

func (e *ReshapeError) Error() string { return e.Text + " " + e.Way }

// side checks that a ring has a side with a length; sides count from 0.
func (r Ring) side(i int) (a, b Point, err error) {
	if i < 0 || i >= len(r) || len(r) < 3 {
		return a, b, &ReshapeError{fmt.Sprintf("There is no wall %d.", i+1), fmt.Sprintf("Choose one of the %d.", len(r))}
	}
	a, b = r[i], r[(i+1)%len(r)]
	if a.Distance(b) < Tolerance {
		return a, b, &ReshapeError{fmt.Sprintf("Wall %d has no length.", i+1), "Move one of its corners first."}
	}
	return a, b, nil
}

// Pushed is the ring with a side of another length, which pushes the wall behind
// it: that wall keeps its length and direction, the one after it grows or shrinks.
// Of a triangle the third corner stays. Sides count from 0. It fails where there
// is no such side, or the length is none.
func (r Ring) Pushed(i int, length float64) (Ring, error) {
	a, b, err := r.side(i)
	if err != nil {
		return nil, err
	}
	if !(length > Tolerance) {
		return nil, &ReshapeError{"A wall must be longer than 0.", "Enter its length from corner to corner."}
	}
	now := a.Distance(b)
	grow := (length - now) / now
	by := Point{(b.X - a.X) * grow, (b.Y - a.Y) * grow}
	moved := slices.Clone(r)
	n := len(r)
	pushed := []int{(i + 1) % n}
	if n > 3 {
		pushed = append(pushed, (i+2)%n)
	}
	for _, k := range pushed {
		moved[k] = Point{tidy(r[k].X + by.X), tidy(r[k].Y + by.Y)}
	}
	return moved, nil
}

// Bayed is the ring with a straight side made curved by a rise from its middle,
// outward or inward. Sides count from 0.
func (r Ring) Bayed(i int, rise float64, inward bool) (Ring, error) {
	a, b, err := r.side(i)
	if err != nil {
		return nil, err
	}
	// To the right of the way along a counter-clockwise ring lies its outside.
	if (r.SignedArea() >= 0) == inward {
		rise = -rise
	}
	corners, err := Arc(a, b, rise)
	if err != nil {
		return nil, &ReshapeError{err.Error(), "Enter the distance from the straight wall to the middle of the bay."}
	}
	return slices.Concat(r[:i+1], corners, r[i+1:]), nil
}

// Mirrored is the point on the other side of the y axis, Turned the point after a
// quarter turn to the left around the origin.
func (p Point) Mirrored() Point { return Point{zero(-p.X), p.Y} }

// Turned see Mirrored.
func (p Point) Turned() Point { return Point{zero(-p.Y), p.X} }

// zero has no sign.
func zero(v float64) float64 {
	if v == 0 {
		return math.Abs(v)
	}
	return v
}

// Parted divides a figure along a side of its outline, from 0, at a width from it: the rings
// of the part along the side, those of the rest, and the line between them. It fails where
// there is no such side, or that does not make two parts of it.
func (p Polygon) Parted(side int, width float64) (parts [2][]Ring, line [2]Point, err error) {
	a, b, err := p.Outline.side(side)
	if err != nil {
		return parts, line, err
	}
	length := a.Distance(b)
	inward := Travel{-(b.Y - a.Y) / length, (b.X - a.X) / length}
	if p.Outline.SignedArea() < 0 {
		inward = Travel{-inward.X, -inward.Y}
	}
	level := inward.Along(a) + width
	below, above := cut(p.Rings(), inward, level)
	met, _ := Chord(p, inward, level)
	switch strip, rest := figures(below), figures(above); {
	case !(width > 0) || len(strip) == 0 || len(rest) == 0:
		return parts, line, &ReshapeError{"No part of the floor is that far from the wall.",
			"Enter a width that leaves something on both sides."}
	case len(strip) > 1 || len(rest) > 1 || len(met) != 2:
		return parts, line, &ReshapeError{"A line along that wall is interrupted on this floor.",
			"Take another wall or another width, so that it runs from wall to wall past columns and corners."}
	default:
		return [2][]Ring{strip[0], rest[0]}, [2]Point{met[0].At, met[1].At}, nil
	}
}
