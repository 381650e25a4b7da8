package plan

import (
	"strings"
	"testing"
	"time"

	"nephelon/core/buildup"
	"nephelon/core/finding"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/school"
	"nephelon/core/takeoff"
	"nephelon/core/work"
)

// One mix for the edges and the top of a board, by hand: 1.2 m² with 0.9 mm and 0.128 m²
// of edges with 0.3 mm take 1.0800 + 0.0384 L; what runs over the edges and the tenth
// lost come on top.
func TestEdgesAndTopFromOneMix(t *testing.T) {
	f := laidJob(t, demoShelf(t), with(coat("keelbody-100", 900), func(c *buildup.Coat) {
		c.Faces = &measure.Sourced[measure.Film]{Value: 0.3e-3, Source: measure.OwnTest}
		c.Loss = &measure.Sourced[measure.Fraction]{Value: 0.1, Source: measure.OwnTest}
	}))
	boarded(&f)
	p := Make(f, measure.Metric, noon())
	c, off := p.Surfaces[0].Coats[0], p.Surfaces[0].Takeoff
	if !near(float64(c.Build.OnSurface), 1.1184e-3, 1e-9) {
		t.Fatalf("on the surface %v", c.Build.OnSurface)
	}
	if want := (1.1184e-3 + 0.9e-3*float64(off.RunOff)) / 0.9; !near(float64(c.Build.Need), want, 1e-9) {
		t.Errorf("to mix %v, want %v", c.Build.Need, want)
	}
	// 0.0384 L and its tenth of loss go to the edges of the one pail.
	if len(c.Cards) != 1 || !strings.Contains(floorOf(c.Cards[0]), "Edges first: "+measure.Metric.Volume(0.0384e-3/0.9)) {
		t.Errorf("%s", floorOf(c.Cards[0]))
	}
	// Cut into batches, each gets its part of what is laid, not of the area.
	f.Job.Surfaces[0].Coats[0].Own = &buildup.OwnWay{Kits: school.Measured, Batch: 0.0004}
	c = Make(f, measure.Metric, noon()).Surfaces[0].Coats[0]
	for _, s := range c.Sections {
		laid := 0.0
		for _, span := range s.Spans {
			film := 0.9e-3
			if off.Panels[span.Panel].Facing == takeoff.Vertical {
				film = 0.3e-3
			}
			laid += film * float64(span.Area)
		}
		if want := 1.1184e-3 / float64(len(c.Sections)); len(c.Sections) < 3 || !near(laid, want, 1e-9) {
			t.Errorf("section %d of %d is laid with %v, want %v", s.Number, len(c.Sections), laid, want)
		}
	}
	// Too thick for an edge is told there, with the film that holds.
	holds := measure.Sourced[measure.Film]{Value: 0.25e-3, Source: measure.Sheet}
	f.Products[0].FilmMaxVertical = &holds
	told := saying(Make(f, measure.Metric, noon()), "on edges and upright faces runs")
	if told == nil || told.Fix == nil {
		t.Fatal("a film that runs on an edge is not told")
	}
	if after := Make(patched(t, f, *told.Fix), measure.Metric, noon()); saying(after, "upright faces runs") != nil {
		t.Error("its way out does not lead out")
	}
}

// A coat for what is level alone has no section on an edge.
func TestALevelCoatLeavesTheEdges(t *testing.T) {
	f := laidJob(t, demoShelf(t), with(coat("keelbody-100", 900), func(c *buildup.Coat) { c.On = "level" }))
	boarded(&f)
	p := Make(f, measure.Metric, noon())
	area := measure.Area(0)
	for _, s := range p.Surfaces[0].Coats[0].Sections {
		for _, span := range s.Spans {
			area += span.Area
			if panel := p.Surfaces[0].Takeoff.Panels[span.Panel]; panel.Facing == takeoff.Vertical {
				t.Errorf("%s is in section %d", panel.Name, s.Number)
			}
		}
	}
	if !near(float64(area), 1.2, 1e-9) {
		t.Errorf("%v are covered", area)
	}
}

// The pumps of a coat are its own; the rest is drawn by those of the job, or by none.
func TestPumpsOfACoat(t *testing.T) {
	s := demoShelf(t)
	f := laidJob(t, s, coat("keelbody-100", 900), coat("keelbody-100", 900))
	f.Job.Surfaces[0].Coats[1].Own = &buildup.OwnWay{Pumps: &material.Pumps{Built: "equal", A: 50e-6, B: 50e-6,
		Priming: 2}}
	coats := Make(f, measure.Metric, noon()).Surfaces[0].Coats
	if pumped := coats[1].Cards[0].Strokes; coats[0].Cards[0].Strokes != nil || pumped == nil || pumped.Priming != 2 {
		t.Errorf("by pump: %+v", pumped)
	}
}

// A pour over a pour of the same session: it begins when the one below is spread, not
// when its window opens; nothing is abraded, looked over or waited for; and where the
// one below no longer flows by then, that is told, with a way that leads out.
func TestAPourOverAPour(t *testing.T) {
	f := laidJob(t, demoShelf(t), coat("keelbody-100", 900),
		with(coat("keelbody-100", 900), func(c *buildup.Coat) { c.OverWet = true }))
	f.Job.Methods.Between = school.SandEvery
	starting(&f, noon())
	p := Make(f, measure.Metric, noon())
	below, above := p.Surfaces[0].Coats[0].Times, p.Surfaces[0].Coats[1].Times
	if !above.Start.Equal(*below.End) || above.Abrade != nil {
		t.Fatalf("it begins %v, the one below ends %v; abraded %v", above.Start, below.End, above.Abrade)
	}
	for _, task := range p.Tasks {
		if task.Coat != p.Surfaces[0].Coats[1].ID {
			continue
		}
		if task.Kind == work.Abrade || task.Kind == work.Check {
			t.Errorf("%s", task.Name)
		}
		if task.Kind == work.Pour && (task.After[0].Least != nil || task.After[0].Most == nil ||
			task.After[0].Most.Stage != material.StageWorking) {
			t.Errorf("it waits for %+v", task.After[0])
		}
	}
	if !strings.Contains(floorOf(p.Surfaces[0].Coats[1].Cards[0]), "while it still flows") {
		t.Errorf("%s", floorOf(p.Surfaces[0].Coats[1].Cards[0]))
	}
	if saying(p, "poured over coat 1 while that flows") != nil {
		t.Error("told although it flows")
	}
	slow := f
	slow.Job.Crew.Pace.Value /= 10
	told := saying(Make(slow, measure.Metric, noon()), "poured over coat 1 while that flows")
	if told == nil || told.Fix == nil {
		t.Fatalf("spread in %v it is not told", time.Duration(float64(below.Spread)*1e10))
	}
	after := Make(patched(t, slow, *told.Fix), measure.Metric, noon())
	if saying(after, "while that flows") != nil || after.Surfaces[0].Coats[1].Times.Abrade == nil {
		t.Error("its way out does not lead out")
	}
}

// What contradicts itself in such a coat is refused at its field.
func TestChoicesThatContradict(t *testing.T) {
	for field, by := range map[string]func(*buildup.Coat){
		"/overWet": func(c *buildup.Coat) { c.OverWet, c.Abraded = true, true },
		"/faces":   func(c *buildup.Coat) { c.Faces, c.On = &measure.Sourced[measure.Film]{Value: 1e-4}, "level" },
	} {
		f := laidJob(t, demoShelf(t), coat("keelbody-100", 900), with(coat("keelbody-100", 900), by))
		refused := Make(f, measure.Metric, noon()).Refused()
		if len(refused) != 1 || !strings.HasSuffix(refused[0].Path, "/coats/1"+field) ||
			refused[0].Level != finding.Refused || refused[0].WayOut == "" {
			t.Errorf("%s: %v", field, texts(refused))
		}
	}
}
