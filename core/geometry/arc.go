package geometry

import (
	"math"
)

// arcStep is the angle from one corner of a rounded wall to the next: the sides
// then enclose the sector of the arc to within 0.05 %.
const arcStep = 3 * math.Pi / 180

// noArc says which arcs cannot be.
const noArc = arcError("The rise of a rounded wall must be more than a millimetre, and the wall must have a length.")

type arcError string

func (e arcError) Error() string { return string(e) }

// Arc gives the corners between two ends of a wall that is rounded by a rise, the
// distance from the middle of the straight wall to the arc: to the right of the
// way from a to b when positive.
func Arc(a, b Point, rise float64) ([]Point, error) {
	chord := a.Distance(b)
	if chord < 2*Tolerance || math.Abs(rise) < 2*Tolerance {
		return nil, noArc
	}
	// The sagitta formula: r = c²/8s + s/2.
	radius := chord*chord/(8*math.Abs(rise)) + math.Abs(rise)/2
	half := 2 * math.Atan(2*math.Abs(rise)/chord)
	side := math.Copysign(1, rise)
	u := Point{(b.X - a.X) / chord, (b.Y - a.Y) / chord}
	out := Point{u.Y * side, -u.X * side}
	middle := a.Toward(b, 0.5)
	back := radius - math.Abs(rise)
	centre := Point{middle.X - back*out.X, middle.Y - back*out.Y}
	steps := max(2, int(math.Ceil(2*half/arcStep)))
	corners := make([]Point, 0, steps-1)
	for i := 1; i < steps; i++ {
		angle := -half + 2*half*float64(i)/float64(steps)
		along, off := radius*math.Sin(angle), radius*math.Cos(angle)
		corners = append(corners, Point{tidy(centre.X + along*u.X + off*out.X), tidy(centre.Y + along*u.Y + off*out.Y)})
	}
	return corners, nil
}

// tidy rounds to a hundredth of a millimetre.
func tidy(metres float64) float64 { return math.Round(metres*1e5) / 1e5 }
