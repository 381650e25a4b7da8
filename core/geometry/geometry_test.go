package geometry

import (
	"math"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"
)

func near(a, b, slack float64) bool { return math.Abs(a-b) <= slack }

func TestShoelaceAgainstPublishedFigures(t *testing.T) {
	cases := []struct {
		source string
		ring   Ring
		area   float64
	}{
		// B. Braden, "The Surveyor's Area Formula", The College Mathematics
		// Journal 17 (1986): the formula; the figures below are classic
		// textbook examples of it, quoted from memory.
		{"textbook: (1,6) (3,1) (7,2) (4,4) (8,5)", Ring{{1, 6}, {3, 1}, {7, 2}, {4, 4}, {8, 5}}, 16.5},
		{"textbook: (3,4) (5,11) (12,8) (9,5) (5,6)", Ring{{3, 4}, {5, 11}, {12, 8}, {9, 5}, {5, 6}}, 30},
		{"right triangle, half base times height", Ring{{0, 0}, {6, 0}, {0, 3.5}}, 10.5},
		{"regular hexagon of side 2: 6√3 (Euclid)", Ring{{2, 0}, {1, math.Sqrt(3)}, {-1, math.Sqrt(3)}, {-2, 0},
			{-1, -math.Sqrt(3)}, {1, -math.Sqrt(3)}}, 6 * math.Sqrt(3)},
	}
	for _, c := range cases {
		for _, shift := range []float64{0, 50_000} {
			moved := slices.Clone(c.ring)
			for i := range moved {
				moved[i].X += shift
				moved[i].Y -= shift
			}
			if got := math.Abs(moved.SignedArea()); math.Abs(got-c.area) > 1e-9*c.area {
				t.Errorf("%s shifted by %v: got %v, want %v", c.source, shift, got, c.area)
			}
		}
	}
}

// What makes a polygon invalid follows OGC 06-103r4 (ISO 19125-1), 6.1.11, from memory.
func TestCheckNamesTheFault(t *testing.T) {
	square := Ring{{0, 0}, {10, 0}, {10, 10}, {0, 10}}
	cases := []struct {
		name    string
		polygon Polygon
		says    string
	}{
		{"two corners", Polygon{Outline: Ring{{0, 0}, {1, 0}}}, "has 2 corners"},
		{"zero side", Polygon{Outline: Ring{{0, 0}, {1, 0}, {1, 0.0001}, {1, 1}}}, "side 2 has no length"},
		{"bow tie", Polygon{Outline: Ring{{0, 0}, {1, 1}, {1, 0}, {0, 1}}}, "side 1 meets side 3"},
		{"spike", Polygon{Outline: Ring{{0, 0}, {4, 0}, {2, 0}, {2, 3}}}, "folds back on itself at corner 2"},
		{"touching itself", Polygon{Outline: Ring{{0, 0}, {4, 0}, {4, 4}, {2, 0}, {0, 4}}}, "crosses itself"},
		{"hole outside", Polygon{square, []Ring{{{20, 0}, {21, 0}, {21, 1}}}}, "Hole 1 is outside"},
		{"hole across", Polygon{square, []Ring{{{9, 4}, {11, 4}, {11, 5}, {9, 5}}}}, "Hole 1 meets the outline"},
		{"hole on the wall", Polygon{square, []Ring{{{0, 4}, {1, 4}, {1, 5}, {0, 5}}}}, "Hole 1 meets the outline"},
		{"holes crossing", Polygon{square, []Ring{{{2, 2}, {4, 2}, {4, 4}, {2, 4}}, {{3, 3}, {5, 3}, {5, 5}, {3, 5}}}},
			"Hole 2 meets hole 1"},
		{"hole in hole", Polygon{square, []Ring{{{2, 2}, {6, 2}, {6, 6}, {2, 6}}, {{3, 3}, {4, 3}, {4, 4}, {3, 4}}}},
			"one inside the other"},
		{"hole bow tie", Polygon{square, []Ring{{{2, 2}, {4, 4}, {4, 2}, {2, 4}}}}, "Hole 1 crosses itself"},
	}
	for _, c := range cases {
		fault := c.polygon.Check()
		if fault == nil || !strings.Contains(fault.Text, c.says) || fault.Way == "" {
			t.Errorf("%s: got %v, want it to say %q with a way to mend it", c.name, fault, c.says)
		}
	}
	if fault := (Polygon{square, []Ring{{{2, 2}, {4, 2}, {4, 4}, {2, 4}}}}).Check(); fault != nil {
		t.Errorf("a good polygon was refused: %v", fault)
	}
}

// chordArea integrates the length of chords between two levels, an independent
// way to the area of a strip: midpoint rule on many scan lines.
func chordArea(p Polygon, travel Travel, from, to float64, lines int) float64 {
	area := 0.0
	step := (to - from) / float64(lines)
	rings := append([]Ring{p.Outline}, p.Holes...)
	for k := range lines {
		level := from + (float64(k)+0.5)*step
		var crossings []float64
		for _, ring := range rings {
			for i, a := range ring {
				b := ring[(i+1)%len(ring)]
				ta, tb := travel.X*a.X+travel.Y*a.Y, travel.X*b.X+travel.Y*b.Y
				if (ta < level) == (tb < level) {
					continue
				}
				q := a.Toward(b, (level-ta)/(tb-ta))
				crossings = append(crossings, travel.X*q.Y-travel.Y*q.X)
			}
		}
		slices.Sort(crossings)
		for i := 0; i+1 < len(crossings); i += 2 {
			area += step * (crossings[i+1] - crossings[i])
		}
	}
	return area
}

// randomFloor is a star-shaped outline with square columns well inside it.
func randomFloor(random *rand.Rand) Polygon {
	n := 4 + random.IntN(12)
	var p Polygon
	for i := range n {
		angle := (float64(i) + 0.8*random.Float64()) * 2 * math.Pi / float64(n)
		radius := 6 + 10*random.Float64()
		p.Outline = append(p.Outline, Point{20 + radius*math.Cos(angle), -3 + radius*math.Sin(angle)})
	}
	for range random.IntN(3) {
		x, y, s := 18+3*random.Float64(), -5+3*random.Float64(), 0.2+0.5*random.Float64()
		p.Holes = append(p.Holes, Ring{{x, y}, {x, y + s}, {x + s, y + s}, {x + s, y}})
	}
	return p
}

func TestStripsHoldTheirSharesAndAddUp(t *testing.T) {
	random := rand.New(rand.NewPCG(3, 5))
	tried := 0
	for tried < 300 {
		p := randomFloor(random)
		if p.Check() != nil {
			continue
		}
		tried++
		travel := Heading(360 * random.Float64())
		if tried%4 == 0 {
			travel = Heading(90 * float64(random.IntN(4)))
		}
		shares := make([]float64, 1+random.IntN(6))
		whole := 0.0
		for i := range shares {
			shares[i] = 0.2 + random.Float64()
			whole += shares[i]
		}
		strips := Strips(p, travel, shares)
		if len(strips) != len(shares) {
			t.Fatalf("got %d strips for %d shares", len(strips), len(shares))
		}
		sum, area := 0.0, p.Area()
		for i, s := range strips {
			sum += s.Area
			if !near(s.Area, area*shares[i]/whole, 1e-9*area) {
				t.Fatalf("strip %d of %d: area %v, want %v (floor %v)", i+1, len(strips), s.Area, area*shares[i]/whole, p)
			}
			if integrated := chordArea(p, travel, s.From, s.To, 4000); !near(s.Area, integrated, 2e-3*area) {
				t.Fatalf("strip %d: area %v, chords integrate to %v", i+1, s.Area, integrated)
			}
			for _, ring := range s.Rings {
				for _, corner := range ring {
					if level := travel.Along(corner); level < s.From-1e-9 || level > s.To+1e-9 {
						t.Fatalf("strip %d reaches outside its lines", i+1)
					}
				}
			}
		}
		if !near(sum, area, 1e-9*area) {
			t.Fatalf("strips add up to %v, the floor is %v", sum, area)
		}
	}
}

// Cuts that run exactly through corners, along walls and past notches are
// where careless cutting loses pieces.
func TestStripsThroughCorners(t *testing.T) {
	notched := Polygon{Outline: Ring{{0, 0}, {8, 0}, {8, 4}, {6, 4}, {4, 2}, {2, 4}, {0, 4}}}
	court := Polygon{
		Outline: Ring{{0, 0}, {9, 0}, {9, 9}, {0, 9}},
		Holes:   []Ring{{{3, 3}, {6, 3}, {6, 6}, {3, 6}}},
	}
	spiked := Polygon{Outline: Ring{{0, 0}, {4, 0}, {4, 1}, {3, 2}, {2, 1}, {1, 2}, {0, 1}}}
	cases := []struct {
		name    string
		polygon Polygon
		shares  []float64
		patches []int
	}{
		{"at the foot of a notch", notched, []float64{16, 12}, nil},
		{"above the foot of a notch", notched, []float64{18, 10}, []int{1, 2}},
		{"along the walls of a court", court, []float64{27, 18, 27}, nil},
		{"through the rooms of a court", court, []float64{30, 12, 30}, []int{1, 2, 1}},
		{"through the middle of a court", court, []float64{1, 1}, []int{1, 1}},
		{"along the feet of two spikes", spiked, []float64{4, 2}, nil},
		{"across two spikes", spiked, []float64{4.5, 1.5}, []int{1, 2}},
	}
	for _, c := range cases {
		if fault := c.polygon.Check(); fault != nil {
			t.Fatalf("%s: %v", c.name, fault)
		}
		area, whole := c.polygon.Area(), 0.0
		for _, share := range c.shares {
			whole += share
		}
		for i, s := range Strips(c.polygon, Heading(90), c.shares) {
			if want := area * c.shares[i] / whole; !near(s.Area, want, 1e-9) {
				t.Errorf("%s: strip %d has %v, want %v", c.name, i+1, s.Area, want)
			}
			if c.patches != nil && s.Patches() != c.patches[i] {
				t.Errorf("%s: strip %d has %d patches, want %d: %v", c.name, i+1, s.Patches(), c.patches[i], s.Rings)
			}
		}
	}
}

func TestNearest(t *testing.T) {
	ring := Ring{{0, 0}, {4, 0}, {4, 3}, {0, 3}}
	index, along, at := ring.Nearest(Point{5, 1})
	if index != 1 || !near(along, 1, 1e-12) || at != (Point{4, 1}) {
		t.Errorf("got side %d at %v: %v", index, along, at)
	}
}

// gear is a simple outline of n corners, in and out by turns.
func gear(n int) Polygon {
	var p Polygon
	for i := range n {
		angle := 2 * math.Pi * float64(i) / float64(n)
		radius := 30 + 0.5*float64(i%2)
		p.Outline = append(p.Outline, Point{radius * math.Cos(angle), radius * math.Sin(angle)})
	}
	return p
}

// A gear of 2n corners is n kites: its area has a closed form,
// n · r · R · sin(π/n).
func TestTenThousandCorners(t *testing.T) {
	const corners = 10_000
	p := gear(corners)
	if fault := p.Check(); fault != nil {
		t.Fatal(fault)
	}
	want := corners / 2 * 30 * 30.5 * math.Sin(2*math.Pi/corners)
	if math.Abs(p.Area()-want) > 1e-9*want {
		t.Errorf("area %v, want %v", p.Area(), want)
	}
	sum := 0.0
	for _, s := range Strips(p, Heading(12), []float64{1, 2, 3}) {
		sum += s.Area
	}
	if math.Abs(sum-want) > 1e-9*want {
		t.Errorf("strips add up to %v of %v", sum, want)
	}
}

func BenchmarkCheckTenThousandCorners(b *testing.B) {
	p := gear(10_000)
	for b.Loop() {
		if fault := p.Check(); fault != nil {
			b.Fatal(fault)
		}
	}
}
