package takeoff

import (
	"fmt"
	"math"
	"slices"

	"nephelon/core/geometry"
	"nephelon/core/measure"
)

// shaped measures a pool whose form has measures of its own.
func (p Pool) shaped(t *Takeoff, b *bed) {
	reaches := p.reaches()
	switch p.Form {
	case Round, Oval:
		p.curved(t, b, reaches)
	default:
		p.straight(t, b, reaches)
	}
	broken, deep := p.depths()
	b.least = math.Inf(1)
	for _, r := range reaches {
		b.least = math.Min(b.least, math.Min(r.at, r.then))
		b.most = math.Max(b.most, math.Max(r.at, r.then))
	}
	if p.Hopper != nil {
		b.least, b.most = math.Min(b.least, float64(broken)), float64(deep)
	}
	t.Profile = p.profile(reaches)
}

// profile is the floor along the middle of the pool, depths downward.
func (p Pool) profile(reaches []reach) []geometry.Point {
	var line []geometry.Point
	for _, r := range reaches {
		line = append(line, geometry.Point{X: r.from, Y: -r.at}, geometry.Point{X: r.to, Y: -r.then})
	}
	if h := p.Hopper; h != nil {
		broken, deep := p.depths()
		end := float64(p.Length - h.FromEnd)
		line = append(line, geometry.Point{X: float64(p.FlatRun), Y: -float64(broken)},
			geometry.Point{X: end - float64(h.Length), Y: -float64(deep)}, geometry.Point{X: end, Y: -float64(deep)},
			geometry.Point{X: float64(p.Length), Y: -float64(broken)})
	}
	return slices.Compact(line)
}

// wall adds an upright panel whose depth falls evenly along its run.
func (t *Takeoff) wall(name string, run, from, to float64, at geometry.Point) {
	if run <= geometry.Tolerance {
		return
	}
	var in inputs
	area := in.length("Run", measure.Length(run)) * (in.length("Depth where it begins", measure.Length(from)) +
		in.length("Depth where it ends", measure.Length(to))) / 2
	t.add(Panel{Name: name, Facing: Vertical, Area: measure.Area(area), Run: measure.Length(run),
		Start: measure.Length(from), End: measure.Length(to), Group: len(t.Panels), At: at},
		measure.Working{Formula: "run × (depth + depth) ÷ 2", Inputs: in.values})
}

// apron adds a plane with two level, parallel edges: a floor, a slope, the side
// of a hopper. Run is its length on plan from one edge to the other.
func (t *Takeoff) apron(name, kind string, first, second, run, drop float64, ring geometry.Ring) {
	sloped := math.Hypot(run, drop)
	if sloped <= geometry.Tolerance {
		return
	}
	var in inputs
	area := (in.length("First edge", measure.Length(first)) + in.length("Second edge", measure.Length(second))) / 2 *
		math.Hypot(in.length("Run on plan", measure.Length(run)), in.length("Fall", measure.Length(drop)))
	t.add(Panel{Name: name, Facing: facing(drop / math.Max(run, 1e-12)), Area: measure.Area(area),
		Run: measure.Length(sloped), Start: measure.Length(first), End: measure.Length(second), Group: len(t.Panels),
		At: ring.Middle()},
		measure.Working{Formula: "(edge + edge) ÷ 2 × √(run² + fall²)", Inputs: in.values,
			Source: "Area of a trapezium on its slope"})
	t.Figures = append(t.Figures, Figure{Name: name, Kind: kind, Ring: ring})
}

func box(x0, y0, x1, y1 float64) geometry.Ring {
	return geometry.Ring{{X: x0, Y: y0}, {X: x1, Y: y0}, {X: x1, Y: y1}, {X: x0, Y: y1}}
}

// straight measures a rectangle or an L: walls first, then the floor, from the
// deep end to the shallow one.
func (p Pool) straight(t *Takeoff, b *bed, reaches []reach) {
	length, width, flat := float64(p.Length), float64(p.Width), float64(p.FlatRun)
	brokenAt, deepAt := p.depths()
	broken, deep := float64(brokenAt), float64(deepAt)
	end, start := broken, broken
	if n := len(reaches); n > 0 {
		start = reaches[0].at
		if p.Hopper == nil {
			end = reaches[n-1].then
		}
	}
	arm := Arm{}
	if p.Form == LShaped {
		arm = *p.Arm
	}
	open := "Right wall"
	if arm.Mirrored {
		open = "Left wall"
	}
	t.Figures = append(t.Figures, Figure{Name: "Top edge", Kind: "shell", Ring: p.edge(arm)})
	t.wall("Deep end wall", width, end, end, geometry.Point{X: length, Y: width / 2})
	for n, side := range []string{"Left wall", "Right wall"} {
		aside := width * float64(1-n)
		if p.Hopper != nil {
			t.wall(side+" beside the hopper", length-flat, broken, broken, geometry.Point{X: (flat + length) / 2, Y: aside})
		}
		for _, r := range slices.Backward(reaches) {
			name := side + " along the " + r.name
			if side == open && arm.Out > 0 {
				t.opened(name, r, float64(arm.At), float64(arm.At+arm.Width), aside)
			} else {
				t.wall(name, r.to-r.from, r.then, r.at, geometry.Point{X: (r.from + r.to) / 2, Y: aside})
			}
		}
	}
	if arm.Out > 0 {
		p.arm(t, b, reaches, arm)
	}
	t.wall("Shallow end wall", width, start, start, geometry.Point{Y: width / 2})
	if p.Hopper != nil {
		p.hopper(t, b, broken, deep)
	}
	for _, r := range slices.Backward(reaches) {
		t.apron(capital(r.name), r.kind(), width, width, r.to-r.from, math.Abs(r.then-r.at), box(r.from, 0, r.to, width))
		b.water += width * r.water(float64(p.Water), r.from, r.to)
	}
	b.around += 2*(length+width) + 2*float64(arm.Out)
}

// water is the area of the long section under the water line between two
// places of a reach.
func (r reach) water(line, from, to float64) float64 {
	d0, d1 := r.depth(from)-line, r.depth(to)-line
	switch {
	case d0 <= 0 && d1 <= 0:
		return 0
	case d0 < 0:
		return d1 * d1 / (d1 - d0) * (to - from) / 2
	case d1 < 0:
		return d0 * d0 / (d0 - d1) * (to - from) / 2
	}
	return (d0 + d1) / 2 * (to - from)
}

// wet is the stretch of a reach that lies under a water line.
func (r reach) wet(line float64) (from, to float64) {
	first, last := r.at > line, r.then > line
	switch {
	case first && last:
		return r.from, r.to
	case !first && !last:
		return r.from, r.from
	}
	shore := r.from + (line-r.at)/r.slope()
	if first {
		return r.from, shore
	}
	return shore, r.to
}

// opened adds the wall along a reach but for the opening of an arm.
func (t *Takeoff) opened(name string, r reach, from, to, aside float64) {
	if to < r.to {
		begin := math.Max(to, r.from)
		t.wall(name, r.to-begin, r.then, r.depth(begin), geometry.Point{X: (begin + r.to) / 2, Y: aside})
	}
	if from > r.from {
		stop := math.Min(from, r.to)
		if to < r.to && from > r.from {
			name += ", before the arm"
		}
		t.wall(name, stop-r.from, r.depth(stop), r.at, geometry.Point{X: (r.from + stop) / 2, Y: aside})
	}
}

// arm measures the arm of an L.
func (p Pool) arm(t *Takeoff, b *bed, reaches []reach, arm Arm) {
	out, from, to := float64(arm.Out), float64(arm.At), float64(arm.At+arm.Width)
	width, sign := float64(p.Width), -1.0
	base := 0.0
	if arm.Mirrored {
		base, sign = width, 1.0
	}
	for i, r := range reaches {
		a, z := math.Max(from, r.from), math.Min(to, r.to)
		if z-a <= geometry.Tolerance {
			continue
		}
		if from >= r.from-geometry.Tolerance && from < r.to {
			t.wall("Arm, near side wall", out, r.depth(from), r.depth(from), geometry.Point{X: from, Y: base + sign*out/2})
		}
		t.wall("Arm, end wall along the "+r.name, z-a, r.depth(a), r.depth(z),
			geometry.Point{X: (a + z) / 2, Y: base + sign*out})
		if to <= r.to+geometry.Tolerance && to > r.from {
			t.wall("Arm, far side wall", out, r.depth(to), r.depth(to), geometry.Point{X: to, Y: base + sign*out/2})
		}
		ring := box(a, math.Min(base, base+sign*out), z, math.Max(base, base+sign*out))
		name := "Floor of the arm"
		if i > 0 && a > from {
			name += ", " + r.name
		}
		t.apron(name, r.kind(), out, out, z-a, math.Abs(r.depth(z)-r.depth(a)), ring)
		b.water += out * r.water(float64(p.Water), a, z)
	}
}

// edge is the top edge on plan.
func (p Pool) edge(arm Arm) geometry.Ring {
	l, w := float64(p.Length), float64(p.Width)
	if arm.Out <= 0 {
		return box(0, 0, l, w)
	}
	from, to, out := float64(arm.At), float64(arm.At+arm.Width), float64(arm.Out)
	ring := geometry.Ring{{X: 0, Y: 0}, {X: from, Y: 0}, {X: from, Y: -out}, {X: to, Y: -out}, {X: to, Y: 0}, {X: l, Y: 0},
		{X: l, Y: w}, {X: 0, Y: w}}
	if arm.Mirrored {
		for i := range ring {
			ring[i].Y = w - ring[i].Y
		}
	}
	return slices.Compact(ring)
}

// hopper measures the pad and the four slopes down to it.
func (p Pool) hopper(t *Takeoff, b *bed, broken, deep float64) {
	h := p.Hopper
	length, width, flat := float64(p.Length), float64(p.Width), float64(p.FlatRun)
	padEnd := length - float64(h.FromEnd)
	padStart := padEnd - float64(h.Length)
	margin := (width - float64(h.Width)) / 2
	drop := deep - broken
	pad := box(padStart, margin, padEnd, width-margin)
	t.apron("Pad of the hopper", "floor", float64(h.Width), float64(h.Width), float64(h.Length), 0, pad)
	t.apron("Slope from the deep end", "slope", width, float64(h.Width), float64(h.FromEnd), drop,
		geometry.Ring{{X: length, Y: 0}, {X: length, Y: width}, pad[2], pad[1]})
	t.apron("Left slope of the hopper", "slope", length-flat, float64(h.Length), margin, drop,
		geometry.Ring{{X: flat, Y: width}, {X: length, Y: width}, pad[2], pad[3]})
	t.apron("Right slope of the hopper", "slope", length-flat, float64(h.Length), margin, drop,
		geometry.Ring{{X: flat, Y: 0}, {X: length, Y: 0}, pad[1], pad[0]})
	t.apron("Slope into the hopper", "slope", width, float64(h.Width), padStart-flat, drop,
		geometry.Ring{{X: flat, Y: 0}, {X: flat, Y: width}, pad[3], pad[0]})
	// A line below the mouth leaves the upper part of the slopes dry.
	line := float64(p.Water)
	dry := math.Min(1, math.Max(0, line-broken)/drop)
	b.water += width*(length-flat)*math.Max(0, broken-line) + prismatoid(
		length-flat+dry*(float64(h.Length)-(length-flat)), width+dry*(float64(h.Width)-width), float64(h.Length),
		float64(h.Width), drop*(1-dry))
}

// prismatoid is the volume between two parallel rectangles: height ÷ 6 × (one
// + 4 × the middle + the other), exact for every prismatoid.
func prismatoid(l, w, m, v, height float64) float64 {
	middle := (l + m) / 2 * (w + v) / 2
	return height / 6 * (l*w + 4*middle + m*v)
}

// curved measures a round or an oval pool, whose floor falls along its length.
func (p Pool) curved(t *Takeoff, b *bed, reaches []reach) {
	long, wide := p.plan()
	e := geometry.Ellipse{Long: float64(long) / 2, Wide: float64(wide) / 2}
	t.Figures = append(t.Figures, Figure{Name: "Top edge", Kind: "shell", Ring: e.Ring(0, 2*e.Long)})
	b.around = e.Perimeter()
	for _, r := range slices.Backward(reaches) {
		whole := len(reaches) == 1
		for n, side := range []string{"Left", "Right"} {
			name := side + " wall along the " + r.name
			if whole {
				name = side + " half of the wall"
			}
			var in inputs
			run := in.length("Half the curve", measure.Length(e.Arc(r.from, r.to, func(float64) float64 { return 1 })))
			area := e.Arc(r.from, r.to, r.depth)
			mean := in.length("Mean depth along it", measure.Length(area/run))
			t.add(Panel{Name: name, Facing: Vertical, Area: measure.Area(area), Run: measure.Length(run),
				Start: measure.Length(r.then), End: measure.Length(r.at), Group: len(t.Panels), At: e.On((r.from+r.to)/2, n == 0)},
				measure.Working{Formula: fmt.Sprintf("length of the curve × mean depth, %.4g", mean), Inputs: in.values,
					Source: "Elliptic integral of the second kind, by Gauss–Legendre quadrature"})
		}
	}
	for _, r := range slices.Backward(reaches) {
		area, moment := e.Segment(r.from, r.to)
		var in inputs
		flat := in.area("On plan", area)
		drop := in.length("Fall", measure.Length(math.Abs(r.then-r.at)))
		run := in.length("over", measure.Length(r.to-r.from))
		ring := e.Ring(r.from, r.to)
		t.add(Panel{Name: capital(r.name), Facing: facing(r.slope()), Area: measure.Area(flat * math.Hypot(run, drop) / run),
			Group: len(t.Panels), At: ring.Middle()},
			measure.Working{Formula: "area on plan × √(run² + fall²) ÷ run", Inputs: in.values,
				Source: "Area of an ellipse between two chords"})
		t.Figures = append(t.Figures, Figure{Name: capital(r.name), Kind: r.kind(), Ring: ring})
		from, to := r.wet(float64(p.Water))
		if from > r.from || to < r.to {
			area, moment = e.Segment(from, to)
		}
		b.water += (r.depth(0)-float64(p.Water))*area + r.slope()*moment
	}
}

func capital(name string) string {
	if name == "" {
		return name
	}
	return string(name[0]-'a'+'A') + name[1:]
}
