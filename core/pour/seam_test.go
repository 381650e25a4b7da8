package pour

import (
	"math"
	"strings"
	"testing"

	"nephelon/core/geometry"
	"nephelon/core/measure"
)

func across(x, from, to float64) geometry.Seam {
	return geometry.Seam{A: geometry.Point{X: x, Y: from}, B: geometry.Point{X: x, Y: to}, Name: "joint"}
}

// By hand, in a hall of 12 m × 5 m cut at 4 m and 8 m: a section of 20 m² may be 0.6 m² larger
// or smaller, so a joint is met within 0.12 m.
func TestJoinsLieOnSeamsThatAreNear(t *testing.T) {
	door := geometry.Point{X: 12, Y: 2}
	for _, c := range []struct {
		name  string
		seams []geometry.Seam
		at    [2]float64
		on    [2]string
	}{
		{"none", nil, [2]float64{4, 8}, [2]string{}},
		{"ahead", []geometry.Seam{across(4.119, 0, 5)}, [2]float64{4.119, 8}, [2]string{"joint", ""}},
		{"too far ahead", []geometry.Seam{across(4.121, 0, 5)}, [2]float64{4, 8}, [2]string{}},
		{"behind", []geometry.Seam{across(7.881, 5, 0)}, [2]float64{4, 7.881}, [2]string{"", "joint"}},
		{"too far behind", []geometry.Seam{across(7.879, 0, 5)}, [2]float64{4, 8}, [2]string{}},
		{"of a part only", []geometry.Seam{across(4.05, 0, 3.9)}, [2]float64{4, 8}, [2]string{}},
		{"of most of it", []geometry.Seam{across(4.05, 0.9, 5)}, [2]float64{4.05, 8}, [2]string{"joint", ""}},
		{"aslant", []geometry.Seam{{A: geometry.Point{X: 4, Y: 0}, B: geometry.Point{X: 4.2, Y: 5}, Name: "joint"}},
			[2]float64{4, 8}, [2]string{}},
		{"the nearer", []geometry.Seam{across(4.1, 0, 5), across(3.95, 0, 5)}, [2]float64{3.95, 8}, [2]string{"joint", ""}},
		// Section 2 would lose 0.5 m² in front and 0.25 m² behind.
		{"both against one", []geometry.Seam{across(4.1, 0, 5), across(7.95, 0, 5)}, [2]float64{4.1, 8},
			[2]string{"joint", ""}},
		{"both alike", []geometry.Seam{across(4.1, 0, 5), across(8.1, 0, 5)}, [2]float64{4.1, 8.1},
			[2]string{"joint", "joint"}},
	} {
		laying := Plot(hall, Layout{Exit: &door}, c.seams, equal(3), nil).Lay(hall, equal(3))
		sum := 0.0
		for i, cut := range laying.Cuts {
			if !near(cut.Marks[0].At.X, c.at[i]) || !near(cut.Marks[1].At.X, c.at[i]) || cut.On != c.on[i] {
				t.Errorf("%s: join %d at %v on %q", c.name, i+1, cut.Marks[0].At.X, cut.On)
			}
		}
		for _, s := range laying.Sections {
			sum += float64(s.Area)
			if math.Abs(float64(s.Area)-20) > 0.6+1e-9 {
				t.Errorf("%s: section %d has %v m²", c.name, s.Number, s.Area)
			}
		}
		if !near(sum, 60) {
			t.Errorf("%s: %v m² in all", c.name, sum)
		}
	}
}

// What is near but not near enough is offered, with the areas that the batches would have:
// up to a third of the narrower strip.
func TestSeamsAreOffered(t *testing.T) {
	door := geometry.Point{X: 12, Y: 2}
	offered := func(seams ...geometry.Seam) ([]Offer, []float64) {
		return Plot(hall, Layout{Exit: &door}, seams, equal(3), nil).Offered(hall, equal(3))
	}
	offers, areas := offered(across(4.5, 0, 5), across(7, 0, 5))
	if len(offers) != 2 || offers[0].After != 1 || offers[1].After != 2 || !near(float64(offers[0].By), 0.5) ||
		!near(float64(offers[1].By), 1) || offers[0].Name != "joint" {
		t.Fatalf("%+v", offers)
	}
	for i, want := range []float64{22.5, 12.5, 25} {
		if !near(areas[i], want) {
			t.Errorf("%v", areas)
		}
	}
	for name, s := range map[string]geometry.Seam{"too far": across(5.4, 0, 5), "met anyhow": across(4.1, 0, 5),
		"short": across(4.5, 0, 2)} {
		if offers, _ := offered(s); len(offers) != 0 {
			t.Errorf("%s: %+v", name, offers)
		}
	}
	if offers, _ := offered(); offers != nil {
		t.Errorf("%+v", offers)
	}
	// Taken, the join lies on the seam and nothing more is offered.
	course := Plot(hall, Layout{Exit: &door}, []geometry.Seam{across(4.5, 0, 5), across(7, 0, 5)}, areas, nil)
	if cuts := course.Lay(hall, areas).Cuts; cuts[0].On != "joint" || cuts[1].On != "joint" {
		t.Errorf("%+v", cuts)
	}
	if offers, _ := course.Offered(hall, areas); len(offers) != 0 {
		t.Errorf("offered again: %+v", offers)
	}
}

// Near is counted by the narrower of the two strips, whichever side it lies on: of strips 3,
// 3 and 6 m wide, and of 6, 3 and 3, a third is 1 m; by hand.
func TestNearGoesByTheNarrowerStrip(t *testing.T) {
	door := geometry.Point{X: 12, Y: 2}
	for _, c := range []struct {
		shares []float64
		seam   float64
		offers int
	}{
		{[]float64{0.25, 0.25, 0.5}, 6.9, 1}, {[]float64{0.25, 0.25, 0.5}, 7.5, 0}, {[]float64{0.25, 0.25, 0.5}, 5.1, 1},
		{[]float64{0.5, 0.25, 0.25}, 6.9, 1}, {[]float64{0.5, 0.25, 0.25}, 7.5, 0}, {[]float64{0.5, 0.25, 0.25}, 10.1, 0},
	} {
		offers, _ := Plot(hall, Layout{Exit: &door}, []geometry.Seam{across(c.seam, 0, 5)}, c.shares,
			nil).Offered(hall, c.shares)
		if len(offers) != c.offers {
			t.Errorf("shares %v, a joint at %v m: %+v", c.shares, c.seam, offers)
		}
	}
}

// rooms are two rooms of 6 m × 5 m joined by a passage of 1 m length and a width.
func rooms(wide float64) geometry.Polygon {
	low, high := 2.5-wide/2, 2.5+wide/2
	return geometry.Polygon{Outline: geometry.Ring{{X: 0, Y: 0}, {X: 6, Y: 0}, {X: 6, Y: low}, {X: 7, Y: low},
		{X: 7, Y: 0}, {X: 13, Y: 0},
		{X: 13, Y: 5}, {X: 7, Y: 5}, {X: 7, Y: high}, {X: 6, Y: high}, {X: 6, Y: 5}, {X: 0, Y: 5}}}
}

// A passage narrower than the way out is told in straight strips, too, with how far it
// leads over wet film.
func TestAStripBehindANarrowPassage(t *testing.T) {
	door, along := geometry.Point{X: 13, Y: 2.5}, measure.Angle(0)
	told := func(wide float64, walkway *measure.Length) []string {
		p := rooms(wide)
		laying := Plot(p, Layout{Exit: &door, Direction: &along, Walkway: walkway}, nil, equal(4), NewMemory()).
			Lay(p, equal(4))
		var all []string
		for _, f := range laying.Findings("/s", 1, measure.Metric) {
			all = append(all, f.Path+" "+f.Text)
		}
		return all
	}
	if all := told(1.2, nil); len(all) != 0 {
		t.Errorf("1.2 m wide: %v", all)
	}
	if all := told(0.4, nil); len(all) != 1 ||
		!strings.HasPrefix(all[0], "/s/layout/walkway Coat 1: from a part of section 1 nobody comes to the exit over "+
			"dry floor") {
		t.Errorf("0.4 m wide: %v", all)
	}
	wide := measure.Length(1.5)
	if all := told(1.2, &wide); len(all) != 1 {
		t.Errorf("1.2 m wide where 1.5 m are wanted: %v", all)
	}
	// The doorways of such a floor are seams: one on either side of the passage, and aslant.
	seams := geometry.Doorways(rooms(1.2), 2.5)
	straight := 0
	for _, s := range seams {
		if level, square := s.Level(geometry.Heading(0)); square && (near(level, 6) || near(level, 7)) &&
			near(s.A.Distance(s.B), 1.2) {
			straight++
		}
	}
	if straight != 2 {
		t.Errorf("%+v", seams)
	}
	if seams := geometry.Doorways(rooms(2.6), 2.5); len(seams) != 0 {
		t.Errorf("2.6 m is no doorway: %+v", seams)
	}
	// By pieces as by strips a join lies in the doorway where it is near: of 30.6 m² in all,
	// what lies behind it is 30 m² and a little less than half.
	p := rooms(1.2)
	laying := Plot(p, Layout{Exit: &door}, geometry.Doorways(p, 2.5), []float64{1, 1}, nil).Lay(p, []float64{1, 1})
	if cut := laying.Cuts[0]; cut.On != "doorway" || !near(float64(cut.Wet), 1.2) {
		t.Errorf("%+v", cut)
	}
}
