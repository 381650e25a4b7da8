package plan

import (
	"encoding/json"
	"fmt"
	"math"
	"math/rand/v2"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"nephelon/core/buildup"
	"nephelon/core/finding"
	"nephelon/core/geometry"
	"nephelon/core/job"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/takeoff"
)

func near(a, b, relative float64) bool {
	return math.Abs(a-b) <= relative*math.Max(math.Abs(a), math.Abs(b))
}

func noon() time.Time { return time.Date(2031, 5, 6, 12, 0, 0, 0, time.UTC) }

func demo(t testing.TB, name string) job.File {
	t.Helper()
	text, err := os.ReadFile(filepath.Join("../../demo/jobs", name+".nephelon.json"))
	if err != nil {
		t.Fatal(err)
	}
	var f job.File
	if err := json.Unmarshal(text, &f); err != nil {
		t.Fatal(err)
	}
	return f
}

// The laws every plan keeps: sections add up to their surface, volume is
// conserved from film to batches, cards add up to their batch, no batch passes
// its limits, and no more is mixed than is bought.
func checkLaws(t *testing.T, f job.File, p Plan) {
	t.Helper()
	mixed := make(map[string]measure.Volume)
	for i, s := range p.Surfaces {
		if s.Takeoff == nil {
			continue
		}
		for _, c := range s.Coats {
			if c.Division == nil {
				continue
			}
			name := fmt.Sprintf("%s, coat %d", s.Name, c.Number)
			if len(c.Sections) != len(c.Division.Batches) || len(c.Cards) != len(c.Sections) ||
				len(f.Job.Surfaces[i].Floor.Outline) > 0 && len(c.Cuts) != len(c.Sections)-1 {
				t.Fatalf("%s: %d batches, %d sections, %d cuts, %d cards", name, len(c.Division.Batches), len(c.Sections),
					len(c.Cuts), len(c.Cards))
			}
			var area measure.Area
			var volume, film, carded measure.Volume
			for n, section := range c.Sections {
				batch := c.Division.Batches[n]
				area += section.Area + section.Parts
				volume += batch.Volume
				film += c.Mixed.Over((section.Area + section.Parts) * (1 + s.Takeoff.RunOff/s.Takeoff.Area))
				if batch.Volume > c.Division.Limits[0].Volume*(1+1e-8) {
					t.Errorf("%s: batch %d of %v passes the limit of %v", name, n+1, batch.Volume, c.Division.Limits[0].Volume)
				}
				for _, part := range c.Cards[n].Parts {
					carded += part.Volume
				}
				if !near(float64((section.Area+section.Parts)/s.Takeoff.Area), float64(batch.Volume/c.Division.Mixed), 1e-7) {
					t.Errorf("%s: section %d is out of proportion with its batch", name, n+1)
				}
			}
			if !near(float64(area), float64(s.Takeoff.Area), 1e-9) {
				t.Errorf("%s: sections add up to %v of %v", name, area, s.Takeoff.Area)
			}
			// The film is what was mixed less the loss and what fills and soaks in.
			if !near(float64(film), float64(volume-c.Build.Extra)*(1-float64(c.Build.Loss.Value)), 1e-9) {
				t.Errorf("%s: films hold %v, batches %v less loss", name, film, volume)
			}
			if !near(float64(carded), float64(volume), 1e-9) {
				t.Errorf("%s: cards add up to %v of %v", name, carded, volume)
			}
			if volume < c.Build.Need*(1-1e-8) {
				t.Errorf("%s: %v mixed for a need of %v", name, volume, c.Build.Need)
			}
			mixed[c.Product] += volume
		}
		if len(f.Job.Surfaces[i].Floor.Outline) == 0 {
			continue
		}
		polygon := f.Job.Surfaces[i].Floor.Polygon()
		if !near(polygon.Area(), float64(s.Takeoff.Flat), 1e-12) {
			t.Errorf("%s: %v measured, figure has %v", s.Name, s.Takeoff.Area, polygon.Area())
		}
	}
	for _, b := range p.Purchases {
		if mixed[b.Product] > b.Bought*(1+1e-8) {
			t.Errorf("%s: %v mixed of %v bought", b.Name, mixed[b.Product], b.Bought)
		}
	}
}

func TestDemoJobsPlanWhole(t *testing.T) {
	for _, name := range []string{"baggage-hall", "lamp-room", "settling-basin", "seal-nursery", "oyster-bar"} {
		f := demo(t, name)
		for _, units := range []measure.System{measure.US, measure.Metric} {
			p := Make(f, units, noon())
			if refused := p.Refused(); len(refused) > 0 {
				t.Errorf("%s: %v", name, refused)
			}
			checkLaws(t, f, p)
		}
	}
}

func TestPartsAndGivenAreasKeepTheLaws(t *testing.T) {
	f := demo(t, "baggage-hall")
	f.Job.Surfaces[0].Floor.Parts = []takeoff.Part{
		{ID: "cove", Kind: takeoff.Cove, Height: 0.1},
		{ID: "steps", Kind: takeoff.Stairs, Count: 4, Width: 1.6, Tread: 0.3, Riser: 0.17, Nosing: 0.03, Sides: 1},
	}
	f.Job.Surfaces[1].Shape = takeoff.Shape{Given: &takeoff.Given{Area: 88, Note: "the harbour master's figure"}}
	p := Make(f, measure.Metric, noon())
	checkLaws(t, f, p)
	// Cove 0.1 m around 46.6 m of wall and 8.1 m of columns: 5.47 m². Four steps
	// of 1.6 m × 0.5 m: 3.2 m², and one side of 10 × 0.3 × 0.17 = 0.51 m².
	if parts := p.Surfaces[0].Takeoff.Parts; !near(float64(parts), 5.47+3.2+0.51, 1e-9) {
		t.Errorf("the parts have %v m²", parts)
	}
	given := p.Surfaces[1]
	if given.Takeoff.Area != 88 || len(given.Coats[1].Sections) == 0 || given.Course != nil {
		t.Errorf("given %+v", given.Takeoff)
	}
	for _, found := range p.Findings {
		if strings.Contains(found.Text, "the harbour master's figure") && found.Level == finding.Warning {
			return
		}
	}
	t.Error("the plan does not say that it rests on a figure nobody checked")
}

func TestRandomJobsKeepTheLaws(t *testing.T) {
	random := rand.New(rand.NewPCG(8, 13))
	shelf := demo(t, "baggage-hall").Products
	for range 150 {
		f := benchJob(random, shelf, 1+random.IntN(3), 1+random.IntN(4))
		p := Make(f, measure.Metric, noon())
		for _, r := range p.Refused() {
			if !strings.Contains(r.Text, "batches") {
				t.Fatalf("refused: %v", r)
			}
		}
		checkLaws(t, f, p)
	}
}

// A floor worked by hand: 12 m × 5 m less a pillar of 1 m × 0.5 m is 59.5 m².
// At 400 µm that is 23.8 L on the floor; with 5 % loss 25.0526 L to mix. Kits
// of 10 L at 90 and 4 L at 40: 2 × 10 + 2 × 4 = 28 L for 260 beats 3 × 10 for
// 270 and 7 × 4 for 280 (and 1 × 10 + 4 × 4 = 26 L for 250 beats them all).
func TestAJobByHand(t *testing.T) {
	big, small := measure.Volume(0.010), measure.Volume(0.004)
	priceBig, priceSmall := 90.0, 40.0
	loss := measure.Sourced[measure.Fraction]{Value: 0.05, Source: measure.OwnTest}
	f := job.File{Format: job.Format, Version: job.Version, Job: job.Job{
		Name: "By hand", Currency: "EUR",
		Crew: job.Crew{Spreaders: 2, Pace: measure.Sourced[measure.Pace]{Value: 30.0 / measure.Hour,
			Source: measure.OwnTest}},
		Bucket: kit.Bucket{Volume: 0.015, Headroom: 0.2},
		Surfaces: []job.Surface{{
			ID: "s", Name: "Floor",
			Shape: takeoff.Shape{Floor: takeoff.Floor{
				Outline: geometry.Ring{{X: 0, Y: 0}, {X: 12, Y: 0}, {X: 12, Y: 5}, {X: 0, Y: 5}},
				Holes: []takeoff.Hole{{ID: "h", Name: "Pillar", Outline: geometry.Ring{{X: 6, Y: 2}, {X: 7, Y: 2}, {X: 7, Y: 2.5},
					{X: 6, Y: 2.5}}}},
			}},
			Coats: []buildup.Coat{{ID: "c", Product: "p", Amount: buildup.Amount{Basis: buildup.WetFilm, Value: 400e-6},
				Loss: &loss}},
		}},
	}, Products: []material.Product{{
		ID: "p", Name: "Handcoat", Kind: "body", Chemistry: "epoxy", Color: "#808080",
		Ratio: material.Ratio{Basis: material.ByVolume, Source: measure.Sheet},
		Components: []material.Component{{Name: "A", Parts: 3,
			Density: &measure.Sourced[measure.Density]{Value: 1200, Source: measure.Sheet}},
			{Name: "B", Parts: 1, Density: &measure.Sourced[measure.Density]{Value: 1000, Source: measure.Sheet}}},
		VolumeSolids: measure.Sourced[measure.Fraction]{Value: 1, Source: measure.Sheet},
		Curing: material.Curing{PotLife: []material.PotLife{{At: 20, Lasts: 40 * measure.Minute,
			Source: measure.Sheet}}},
		Kits: []material.Kit{{Name: "10 L", Volume: &big, Price: &priceBig, Source: measure.Sheet},
			{Name: "4 L", Volume: &small, Price: &priceSmall, Source: measure.Sheet}},
	}}}
	p := Make(f, measure.Metric, noon())
	checkLaws(t, f, p)
	c, b := p.Surfaces[0].Coats[0], p.Purchases[0]
	if !near(float64(p.Area), 59.5, 1e-12) || !near(float64(c.Build.Need), 0.0238/0.95, 1e-12) {
		t.Fatalf("area %v, need %v", p.Area, c.Build.Need)
	}
	if *b.Cost != 250 || !near(float64(b.Bought), 0.026, 1e-12) || b.Lines[0].Count != 1 || b.Lines[1].Count != 4 {
		t.Errorf("bought %v", b)
	}
	if !near(float64(b.Margin), 0.026/(0.0238/0.95)-1, 1e-9) ||
		!near(float64(c.Reached), 400e-6*0.026/(0.0238/0.95), 1e-9) {
		t.Errorf("margin %v, film %v", b.Margin, c.Reached)
	}
	// The bucket holds 12 L; two people spread 40 m² in the pot life, which
	// take 16.8 L: the bucket decides.
	if limit := c.Division.Limits[0]; limit.Kind != kit.ByBucket || !near(float64(limit.Volume), 0.012, 1e-12) {
		t.Errorf("limit %v", limit)
	}
	if !near(float64(c.Cards[0].Mass), float64(c.Cards[0].Volume)*1150, 1e-9) {
		t.Errorf("a card of %v m³ weighs %v kg", c.Cards[0].Volume, c.Cards[0].Mass)
	}
}

func TestWhatCannotBeIsRefusedWithItsPath(t *testing.T) {
	cases := []struct {
		name   string
		break_ func(*job.File)
		path   string
		says   string
	}{
		{"crossing outline", func(f *job.File) {
			o := f.Job.Surfaces[0].Floor.Outline
			o[1], o[4] = o[4], o[1]
		}, "/job/surfaces/0/floor/outline", "crosses itself"},
		{"hole outside", func(f *job.File) {
			for i := range f.Job.Surfaces[0].Floor.Holes[1].Outline {
				f.Job.Surfaces[0].Floor.Holes[1].Outline[i].X += 80
			}
		}, "/job/surfaces/0/floor/holes/1", "Column 2"},
		{"unknown product", func(f *job.File) { f.Job.Surfaces[1].Coats[2].Product = "gone" },
			"/job/surfaces/1/coats/2/product", "“gone”"},
		{"product twice", func(f *job.File) { f.Products[1].ID = f.Products[0].ID }, "/products/1/id", "Two products"},
		{"id twice", func(f *job.File) { f.Job.Surfaces[1].ID = f.Job.Surfaces[0].ID }, "/job/surfaces/1/id", "Two parts"},
		{"no pace", func(f *job.File) { f.Job.Crew.Pace.Value = -1 }, "/job/crew/pace", "pace"},
		{"all lost", func(f *job.File) {
			f.Job.Surfaces[0].Coats[0].Loss = &measure.Sourced[measure.Fraction]{Value: 1, Source: measure.Assumed}
		}, "/job/surfaces/0/coats/0/loss", "loss of 100 %"},
		{"film of metres", func(f *job.File) { f.Job.Surfaces[0].Coats[0].Amount.Value = 900 },
			"/job/surfaces/0/coats/0/amount", "above 100 mm"},
		{"solids above one", func(f *job.File) { f.Products[0].VolumeSolids.Value = 62 }, "/products/0/volumeSolids", "62"},
		{"density in kg/L", func(f *job.File) { f.Products[0].Components[0].Density.Value = 1.1 },
			"/products/0/components/0/density", "kg/m³"},
		{"kit of nothing", func(f *job.File) { f.Products[0].Kits[0].Volume = nil }, "/products/0/kits/0",
			"either a volume or a mass"},
		{"pot life shorter than mixing",
			func(f *job.File) { f.Products[0].PotLife = []material.PotLife{{At: 20, Lasts: 60}} }, "/job/surfaces/0/coats/0",
			"pot life of 1 min"},
		{"a thimble for a bucket", func(f *job.File) { f.Job.Bucket.Volume = 1e-6 }, "/job/surfaces/0/coats/0", "batches"},
	}
	for _, c := range cases {
		f := demo(t, "baggage-hall")
		c.break_(&f)
		p := Make(f, measure.Metric, noon())
		checkLaws(t, f, p)
		found := false
		for _, r := range p.Refused() {
			found = found || r.Path == c.path && strings.Contains(r.Text, c.says) && r.WayOut != ""
		}
		if !found {
			t.Errorf("%s: want a refusal at %s saying %q, got %v", c.name, c.path, c.says, p.Refused())
		}
	}
}

func TestAssumedDensityIsSaidAloud(t *testing.T) {
	p := Make(demo(t, "settling-basin"), measure.Metric, noon())
	for _, f := range p.Findings {
		if f.Level == finding.Warning && strings.Contains(f.Text, "1.1 kg/L was assumed") {
			return
		}
	}
	t.Errorf("no warning of the assumed density in %v", p.Findings)
}

func TestStepsFollowTheWork(t *testing.T) {
	f := demo(t, "lamp-room")
	state := func(f job.File) string {
		text := ""
		for _, s := range Make(f, measure.US, noon()).Steps {
			text += string(s.State)[:1]
		}
		return text
	}
	if got := state(f); got != "dtdddd" {
		t.Errorf("a good job is %s", got)
	}
	f.Job.Surfaces[0].Coats[1].Amount.Value = 20e-6
	if got := state(f); got != "dtwddd" {
		t.Errorf("with a thin coat it is %s", got)
	}
	f.Job.Surfaces[0].Coats = nil
	if got := state(f); got != "dttttt" {
		t.Errorf("without coats it is %s", got)
	}
	f.Job.Surfaces[0].Floor.Outline = nil
	if got := state(f); got != "tttttt" {
		t.Errorf("unmeasured it is %s", got)
	}
}

// benchJob is a job of random rectangles and L-shapes with a column each.
func benchJob(random *rand.Rand, shelf []material.Product, surfaces, coats int) job.File {
	f := job.File{Format: job.Format, Version: job.Version, Products: shelf, Job: job.Job{
		Name: "Bench", Currency: "EUR",
		Crew: job.Crew{Spreaders: 2, Pace: measure.Sourced[measure.Pace]{Value: 60.0 / measure.Hour,
			Source: measure.Sheet}},
		Bucket: kit.Bucket{Volume: 0.02, Headroom: 0.2},
	}}
	for i := range surfaces {
		w, h := 5+7*random.Float64(), 5+5*random.Float64()
		exit := geometry.Point{X: 0, Y: h / 2}
		s := job.Surface{ID: fmt.Sprintf("s%d", i), Name: fmt.Sprintf("Surface %d", i+1),
			Shape: takeoff.Shape{Floor: takeoff.Floor{
				Outline: geometry.Ring{{X: 0, Y: 0}, {X: w, Y: 0}, {X: w, Y: h / 2}, {X: w + 3, Y: h / 2}, {X: w + 3, Y: h},
					{X: 0, Y: h}},
				Holes: []takeoff.Hole{{ID: fmt.Sprintf("h%d", i),
					Outline: geometry.Ring{{X: 2, Y: 1}, {X: 2.4, Y: 1}, {X: 2.4, Y: 1.4}, {X: 2, Y: 1.4}}}},
			}}}
		s.Layout.Exit = &exit
		for c := range coats {
			p := shelf[(i+c)%len(shelf)]
			film := (p.FilmMin.Value + p.FilmMax.Value) / 3
			s.Coats = append(s.Coats, buildup.Coat{ID: fmt.Sprintf("s%dc%d", i, c), Product: p.ID,
				Amount: buildup.Amount{Basis: buildup.WetFilm, Value: float64(film)}})
		}
		f.Job.Surfaces = append(f.Job.Surfaces, s)
	}
	return f
}

func BenchmarkPlanTenAreasOfFiveCoats(b *testing.B) {
	f := benchJob(rand.New(rand.NewPCG(1, 2)), demo(b, "baggage-hall").Products, 10, 5)
	sections := 0
	for _, s := range Make(f, measure.Metric, noon()).Surfaces {
		for _, c := range s.Coats {
			sections += len(c.Sections)
		}
	}
	// A planner knows how its sheets live after its first plan, as the server's does.
	planner := NewPlanner()
	planner.Make(f, measure.Metric, noon())
	b.ReportAllocs()
	for b.Loop() {
		planner.Make(f, measure.Metric, noon())
	}
	b.ReportMetric(float64(sections), "sections")
}

// BenchmarkFirstPlanTenAreasOfFiveCoats is the same for a planner that knows nothing
// yet: six sheets are fitted.
func BenchmarkFirstPlanTenAreasOfFiveCoats(b *testing.B) {
	f := benchJob(rand.New(rand.NewPCG(1, 2)), demo(b, "baggage-hall").Products, 10, 5)
	for b.Loop() {
		Make(f, measure.Metric, noon())
	}
}

// A corner of the demo's hall is dragged: its floor, sections and ways out are new each time.
func BenchmarkCornerDragged(b *testing.B) {
	f, planner := demo(b, "baggage-hall"), NewPlanner()
	planner.Make(f, measure.Metric, noon())
	outline, moved := f.Job.Surfaces[0].Floor.Outline, 0.0
	for b.Loop() {
		moved += 1e-3
		next := slices.Clone(outline)
		next[0].X, next[0].Y = next[0].X-moved, next[0].Y-moved
		f.Job.Surfaces[0].Floor.Outline = next
		planner.Make(f, measure.Metric, noon())
	}
}
