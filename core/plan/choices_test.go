package plan

import (
	"context"
	"encoding/json"
	"errors"
	"math"
	"reflect"
	"slices"
	"strings"
	"testing"

	"nephelon/core/facts"

	"nephelon/core/buildup"
	"nephelon/core/finding"
	"nephelon/core/geometry"
	"nephelon/core/job"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/school"
	"nephelon/core/survey"
	"nephelon/core/takeoff"
	"nephelon/core/work"
)

func floorOf(c kit.Card) string {
	var all []string
	for _, s := range c.Floor {
		all = append(all, s.Text)
	}
	return strings.Join(all, "\n")
}

// One coat of a job is laid by another method, by another crew, from another bucket and
// by another kit policy; the rest stays with the job.
func TestACoatOfItsOwn(t *testing.T) {
	s := demoShelf(t)
	f := laidJob(t, s, coat("keelbody-100", 900), coat("hardtack-clear", 250))
	plain := Make(f, measure.Metric, noon()).Surfaces[0].Coats
	f.Job.Surfaces[0].Coats[1].Own = &buildup.OwnWay{Laying: school.DipAndRoll, Spreaders: 1, Kits: school.Measured,
		Bucket: 0.006}
	own := Make(f, measure.Metric, noon()).Surfaces[0].Coats
	if !reflect.DeepEqual(plain[0].Division, own[0].Division) || plain[0].Times.Spread != own[0].Times.Spread {
		t.Errorf("the other coat changed: %+v", own[0].Division)
	}
	if !near(float64(own[1].Times.Spread), 2*float64(plain[1].Times.Spread), 1e-9) {
		t.Errorf("one person takes %v, two took %v", own[1].Times.Spread, plain[1].Times.Spread)
	}
	if d := own[1].Division; d.Limits[0].Kind != kit.ByBucket || !near(float64(d.Limits[0].Volume), 0.0048, 1e-9) ||
		d.Batches[0].Share != "measured" {
		t.Errorf("%+v", d)
	}
	if a, b := floorOf(plain[1].Cards[0]), floorOf(own[1].Cards[0]); !strings.Contains(a, "Pour it in lines") ||
		!strings.Contains(b, "Roll from the tray") {
		t.Errorf("poured: %s\nrolled: %s", a, b)
	}
	f.Job.Surfaces[0].Coats[1].Own = &buildup.OwnWay{Batch: 0.002}
	if d := Make(f, measure.Metric, noon()).Surfaces[0].Coats[1].Division; d.Limits[0].Kind != kit.ByChoice ||
		d.Batches[0].Volume > 0.002*1.000001 {
		t.Errorf("%+v", d.Limits[0])
	}
}

// A notch gives its film, twice as deep; a kit that covers an area gives the film that
// it spreads to. By hand: 1.8 mm leave 0.9 mm; 14.3 L over 71.5 m² are 0.2 mm.
func TestFilmByNotchAndByKit(t *testing.T) {
	s := demoShelf(t)
	c := coat("keelbody-100", 900)
	c.Amount = buildup.Amount{Basis: buildup.Notch, Value: 1.8e-3}
	f := laidJob(t, s, c)
	if wet := Make(f, measure.Metric, noon()).Surfaces[0].Coats[0].Build.Wet; !near(float64(wet), 0.9e-3, 1e-12) {
		t.Errorf("a notch of 1.8 mm leaves %v", wet)
	}
	small, large := measure.Volume(0.0041), measure.Volume(0.0143)
	f.Products[0].Kits = []material.Kit{{Name: "small", Volume: &small, Source: measure.Sheet},
		{Name: "large", Volume: &large, Source: measure.Sheet}}
	f.Job.Surfaces[0].Coats[0].Amount = buildup.Amount{Basis: buildup.AreaPerKit, Value: 71.5}
	if wet := Make(f, measure.Metric, noon()).Surfaces[0].Coats[0].Build.Wet; !near(float64(wet), 0.2e-3, 1e-12) {
		t.Errorf("14.3 L over 71.5 m² are %v", wet)
	}
}

// boarded makes the surface a piece of 2 × 0.6 m, 40 mm thick, with one long edge and
// two short ones exposed: (2 + 0.6 + 0.6) × 0.04 = 0.128 m² of edges.
func boarded(f *job.File) {
	s := &f.Job.Surfaces[0]
	s.Floor.Outline = nil
	s.Top = &takeoff.Top{Thickness: 0.04, Pieces: []takeoff.TopPiece{{
		ID: "p", Name: "Board", Outline: geometry.Ring{{X: 0, Y: 0}, {X: 2, Y: 0}, {X: 2, Y: 0.6}, {X: 0, Y: 0.6}},
		Edges: []takeoff.TopEdge{{Side: 1, Kind: "exposed"}, {Side: 2, Kind: "exposed"}, {Side: 4, Kind: "exposed"}},
	}}}
}

// A coat for the edges of a top alone, by hand: 0.2 mm of film on 0.128 m² with a tenth
// lost take 28.4 mL.
func TestACoatForTheEdgesAlone(t *testing.T) {
	f := laidJob(t, demoShelf(t), with(coat("keelbody-100", 200), func(c *buildup.Coat) {
		c.On = "upright"
		c.Loss = &measure.Sourced[measure.Fraction]{Value: 0.1, Source: measure.OwnTest}
	}), coat("keelbody-100", 900))
	boarded(&f)
	p := Make(f, measure.Metric, noon())
	off := p.Surfaces[0].Takeoff
	if off == nil || !near(float64(off.Facing.Vertical), 0.128, 1e-9) {
		t.Fatalf("%+v, %v", off, texts(p.Findings))
	}
	edges, all := p.Surfaces[0].Coats[0], p.Surfaces[0].Coats[1]
	if !near(float64(edges.Build.Need), 0.128*0.2e-3/0.9, 1e-9) || all.Build.OnSurface < 1.2*0.9e-3 {
		t.Errorf("the edges take %v, all %v", edges.Build.Need, all.Build.OnSurface)
	}
	area := measure.Area(0)
	for _, s := range edges.Sections {
		area += s.Area
	}
	if !near(float64(area), 0.128, 1e-9) || len(edges.Cards) == 0 {
		t.Errorf("sections of %v", area)
	}
	// A floor without upright faces has none to coat.
	f = laidJob(t, demoShelf(t), with(coat("keelbody-100", 900), func(c *buildup.Coat) { c.On = "upright" }))
	if refused := Make(f, measure.Metric, noon()).Refused(); len(refused) != 1 ||
		!strings.Contains(refused[0].Text, "has no area") {
		t.Errorf("%v", texts(refused))
	}
}

// Stones wetted in the mix, by hand: 30 kg/m² of stones with 6 % of resin take 1.8
// kg/m², 72 kg over 40 m²; with 4 % lost 75 kg. They are laid with it, not broadcast.
func TestStonesWettedInTheMix(t *testing.T) {
	f := laidJob(t, demoShelf(t), with(coat("keelbody-100", 900), func(c *buildup.Coat) {
		c.Amount = buildup.Amount{Basis: buildup.ByStone, Value: 0.06}
		c.Loss = &measure.Sourced[measure.Fraction]{Value: 0.04, Source: measure.OwnTest}
		c.Scatter = &buildup.Scatter{Medium: "quartz-dune", Degree: "full",
			Mass: &measure.Sourced[measure.Coverage]{Value: 30, Source: measure.OwnTest}}
	}))
	p := Make(f, measure.Metric, noon())
	c := p.Surfaces[0].Coats[0]
	if c.Build == nil || !near(float64(c.Build.NeedMass), 75, 1e-9) {
		t.Fatalf("%+v, %v", c.Build, texts(p.Findings))
	}
	if a := c.Build.Additions[0]; a.How != "wetted in the mix, and laid with it" || !near(float64(a.Mass), 1200, 1e-9) {
		t.Errorf("%+v", a)
	}
	if slices.ContainsFunc(p.Tasks, func(t work.Task) bool { return t.Kind == work.Broadcast || t.Kind == work.SweepUp }) {
		t.Error("wetted stones are broadcast and swept up")
	}
	steps := ""
	for _, s := range c.Cards[0].Steps {
		steps += s.Text
	}
	if floor := floorOf(c.Cards[0]); !strings.Contains(steps, "until every stone is glossy") ||
		!strings.Contains(floor, "one or two layers deep") || !strings.Contains(floor, "dry stones") ||
		strings.Contains(floor, "Broadcast") || strings.Contains(floor, "notch") || strings.Contains(floor, "roll") {
		t.Errorf("%s\n%s", steps, floor)
	}
	// 1,200 kg of stones in lots of 120 kg are ten batches, each of 4 m² and trowelled at 5 m²/h by each of two people.
	if c.Division.Limits[0].Kind != kit.ByDrum || len(c.Division.Batches) != 10 {
		t.Errorf("%d batches, bounded by %+v", len(c.Division.Batches), c.Division.Limits[0])
	}
	last := c.Train.Passages[9]
	if hours := float64(last.Done-c.Train.Passages[0].Pour) / 3600; hours < 4 || hours > 4.6 {
		t.Errorf("40 m² are trowelled in %.2f h, by hand 4", hours)
	}
	for tool, wanted := range map[string]bool{"tool-trowel": true, "tool-drum": true, "tool-roller-cover": false,
		"tool-blade": false} {
		if slices.ContainsFunc(p.Tools, func(x kit.Tool) bool { return x.ID == tool }) != wanted {
			t.Errorf("%s is on the list: %v", tool, !wanted)
		}
	}
	// A larger drum is full by volume first: 50 L of grains of 2,650 kg/m³, packed to 58 %, are 76.9 kg.
	f.Job.Mixing.Drum = &kit.Drum{Volume: 0.05, Mass: 500}
	if c := Make(f, measure.Metric, noon()).Surfaces[0].Coats[0]; len(c.Division.Batches) != 16 ||
		!strings.Contains(c.Division.Limits[0].Text, "full by volume") {
		t.Errorf("%d batches, %+v", len(c.Division.Batches), c.Division.Limits[0])
	}
	f.Job.Mixing.Drum = nil
	f.Job.Surfaces[0].Coats[0].Scatter.Mass = nil
	if refused := Make(f, measure.Metric, noon()).Refused(); len(refused) != 1 ||
		!strings.Contains(refused[0].Text, "not how many there are on a square metre") {
		t.Errorf("%v", texts(refused))
	}
}

// Alone: whoever spreads mixes, too, so that each batch but the first is mixed while
// nobody spreads, and one person less is there. By hand: 40 m² at 45 m²/h take 53.3
// min, and n − 1 times what a mix takes with the minute in which its pails are opened.
func TestWorkingAlone(t *testing.T) {
	s := demoShelf(t)
	f := laidJob(t, s, coat("hardtack-clear", 250))
	f.Job.Start, f.Job.Zone = "2026-12-07T07:30:00", "UTC"
	f.Job.Crew.Spreaders, f.Job.Crew.Alone, f.Job.Methods.Kits = 1, true, school.HalfKits
	p := Make(f, measure.Metric, noon())
	c := p.Surfaces[0].Coats[0]
	n := len(c.Division.Batches)
	if n < 2 {
		t.Fatalf("%d batches", n)
	}
	ready := float64(f.Products[0].Mixing.Value) + 60 + 60
	if want := 40.0/45*3600 + float64(n-1)*ready; !near(float64(c.Times.Spread), want, 1e-9) {
		t.Errorf("it takes %v s, want %v", c.Times.Spread, want)
	}
	if p.Line.People != 1 {
		t.Errorf("%d people", p.Line.People)
	}
	for k := 1; k < n; k++ {
		// The next A meets B when the last of the batch before is spread.
		spread := float64(c.Division.Batches[k-1].Volume/c.Division.Mixed) * 40.0 / 45 * 3600
		// Cutting in, a tenth of the work, follows the walls and not the area.
		if gap := c.Cards[k].Meets.Sub(*c.Cards[k-1].Meets).Seconds(); math.Abs(gap-spread-ready) > 0.1*spread {
			t.Errorf("batch %d is mixed %v s after the one before, want %v", k+1, gap, spread+ready)
		}
	}
	for _, task := range p.Tasks {
		// the first is mixed before
		if task.Kind == "pour" && (len(task.Needs.Roles) != 1 ||
			!near(float64(task.Effort), float64(c.Times.Spread)+ready, 1e-9)) {
			t.Errorf("%+v, %v", task.Needs.Roles, task.Effort)
		}
	}
}

// A thick film from a tray and a thin fast one poured out are warned about.
func TestTheWrongWayToLayAFilm(t *testing.T) {
	s := demoShelf(t)
	thick := laidJob(t, s, coat("keelbody-100", 900))
	thick.Job.Methods.Laying = school.DipAndRoll
	if told := saying(Make(thick, measure.Metric, noon()), "comes out in thick and thin bands"); told == nil {
		t.Error("900 µm are rolled from a tray")
	}
	fast := laidJob(t, s, coat("slipstream-pa", 110))
	if told := saying(Make(fast, measure.Metric, noon()), "poured out puddles"); told == nil {
		t.Error("110 µm of a fast coat are poured out")
	}
	fast.Job.Surfaces[0].Coats[0].Own = &buildup.OwnWay{Laying: school.DipAndRoll}
	if told := saying(Make(fast, measure.Metric, noon()), "poured out puddles"); told != nil {
		t.Errorf("rolled: %v", told)
	}
}

// A need of 0.4 % above three kits is told with its ways, and each of them brings it to
// three kits, keeping the film's limits.
func TestANearMiss(t *testing.T) {
	s := demoShelf(t)
	f := laidJob(t, s, coat("keelbody-100", 900))
	need := float64(Make(f, measure.Metric, noon()).Purchases[0].Need)
	size, price := measure.Volume(need/3/1.004), 90.0
	f.Products[0].Kits = []material.Kit{{Name: "kit", Volume: &size, Price: &price, Source: measure.Sheet}}
	p := Make(f, measure.Metric, noon())
	if p.Purchases[0].Lines[0].Count != 4 {
		t.Fatalf("%+v", p.Purchases[0].Lines)
	}
	var ways []finding.Fix
	if found := saying(p, "of whole kits by only 0.4%"); found != nil && found.Fix != nil {
		ways = append(found.Others, *found.Fix)
	}
	if len(ways) != 2 {
		t.Fatalf("%d ways: %v", len(ways), texts(p.Findings))
	}
	for _, way := range ways {
		after := Make(patched(t, f, way), measure.Metric, noon())
		if after.Purchases[0].Lines[0].Count != 3 || len(after.Refused()) > 0 {
			t.Errorf("%s: %+v", way.Label, after.Purchases[0].Lines)
		}
		if wet := after.Surfaces[0].Coats[0].Build.Wet; strings.HasPrefix(way.Label, "Lay it thinner") != (wet < 899e-6) {
			t.Errorf("%s: %v", way.Label, wet)
		}
	}
	// At its minimum film it cannot be laid thinner.
	f.Products[0].FilmMin = &measure.Sourced[measure.Film]{Value: 899e-6, Source: measure.Sheet}
	for _, found := range Make(f, measure.Metric, noon()).Findings {
		if found.Fix != nil && strings.HasPrefix(found.Fix.Label, "Lay it thinner") {
			t.Errorf("offered under the minimum film: %v", found)
		}
	}
	// A need far above is no near miss.
	size = measure.Volume(need / 3.3)
	if told := saying(Make(f, measure.Metric, noon()), "of whole kits by"); told != nil {
		t.Errorf("%v", told)
	}
}

// Every school changes the plan of some job: none is only asked.
func TestEverySchoolActs(t *testing.T) {
	s := demoShelf(t)
	base := laidJob(t, s, coat("causeway-2c", 90),
		with(coat("petrel-ur-hs", 170), func(c *buildup.Coat) { c.Grit = grit("grit-alox-180") }))
	base.Job.Start, base.Job.Zone = "2026-12-07T07:30:00", "UTC"
	base.Job.Bucket.Volume = 0.003
	base.Job.Surfaces[0].Survey = &survey.Survey{Substrate: survey.Concrete, Contamination: []string{}}
	old := base
	old.Job.Surfaces = slices.Clone(base.Job.Surfaces)
	old.Job.Surfaces[0].Survey = &survey.Survey{Substrate: survey.OldCoating}
	filled := base
	filled.Job.Surfaces = slices.Clone(base.Job.Surfaces)
	filled.Job.Surfaces[0].Floor.Lines = append(filled.Job.Surfaces[0].Floor.Lines, crack())
	filled.Job.Surfaces[0].Floor.Hollows = []takeoff.Hollow{{ID: "dish", Kind: takeoff.Low, Length: 2, Width: 1,
		Depth: 0.01}}
	tinted := base
	tinted.Job.Surfaces = slices.Clone(base.Job.Surfaces)
	tinted.Job.Surfaces[0].Coats = slices.Clone(base.Job.Surfaces[0].Coats)
	tinted.Job.Surfaces[0].Coats[1].Pigment = &buildup.Tint{Portion: material.Portion{Value: 0.02, Of: material.OfAB,
		Source: measure.Sheet}}
	etched := base
	etched.Job.Methods.Opening = school.Etch
	expired := base
	expired.Job.Stock = []kit.Container{{ID: "c", Sheet: "causeway-2c", Part: "kit", Volume: 0.003, Expires: "2020-01-31"}}
	small := base
	small.Job.Bucket.Volume = 0.03
	for _, q := range school.Questions() {
		acts := make(map[string]bool)
		for _, f := range []job.File{base, old, filled, tinted, etched, expired, small} {
			plans := make(map[string]bool)
			for _, choice := range q.Choices {
				f.Job.Methods = q.With(f.Job.Methods, choice.Value)
				text, err := json.Marshal(Make(f, measure.Metric, noon()))
				if err != nil {
					t.Fatal(err)
				}
				plans[string(text)] = true
			}
			if len(plans) == len(q.Choices) {
				acts["all"] = true
			}
			if len(plans) > 1 {
				acts["some"] = true
			}
		}
		if !acts["some"] {
			t.Errorf("%s changes nothing", q.ID)
		}
	}
}

// What a contractor's school does to cards, tools and cautions.
func TestWhatSchoolsDo(t *testing.T) {
	s := demoShelf(t)
	f := laidJob(t, s, coat("causeway-2c", 120),
		with(coat("petrel-ur-hs", 170), func(c *buildup.Coat) { c.Grit = grit("grit-alox-180") }))
	f.Job.Bucket.Volume = 0.004
	plan := func(change func(*school.Methods)) Plan {
		g := f
		change(&g.Job.Methods)
		return Make(g, measure.Metric, noon())
	}
	torch := plan(func(m *school.Methods) { m.Bubbles = school.Torch })
	if !slices.ContainsFunc(torch.Tools, func(x kit.Tool) bool { return x.ID == "tool-torch" }) ||
		saying(torch, "by torch, and Causeway 2C contains solvent: its vapour burns") == nil ||
		!strings.Contains(floorOf(torch.Surfaces[0].Coats[1].Cards[0]), "no alcohol or solvent open anywhere near") {
		t.Errorf("the torch: %v", texts(torch.Findings))
	}
	mist := plan(func(m *school.Methods) { m.Bubbles = school.Alcohol })
	if !slices.ContainsFunc(mist.Tools, func(x kit.Tool) bool { return x.ID == "tool-mist" }) ||
		!strings.Contains(floorOf(mist.Surfaces[0].Coats[1].Cards[0]), "no flame near") {
		t.Error("the mist of alcohol changes nothing")
	}
	scattered := plan(func(m *school.Methods) { m.Texture = school.Scattered })
	card := scattered.Surfaces[0].Coats[1].Cards[0]
	if card.Additions[0].How != "scattered evenly onto the wet film" ||
		!strings.Contains(floorOf(card), "Scatter the grit evenly") {
		t.Errorf("%+v", card.Additions)
	}
	rested := plan(func(m *school.Methods) { m.Resting = school.Rest })
	stands := func(p Plan) measure.Span { return p.Surfaces[0].Coats[0].Cards[0].Induction }
	if sheet := s.product(t, "causeway-2c").Induction; sheet == nil && stands(rested) != 10*measure.Minute {
		t.Errorf("it rests for %v", stands(rested))
	}
	taped := plan(func(m *school.Methods) { m.Session = school.TapeLines })
	whole := plan(func(*school.Methods) {})
	if a, b := floorOf(taped.Surfaces[0].Coats[1].Cards[1]),
		floorOf(whole.Surfaces[0].Coats[1].Cards[1]); !strings.Contains(a, "Stop at the tape") ||
		!strings.Contains(b, "Roll past the line into section 1") {
		t.Errorf("taped: %s\nwhole: %s", a, b)
	}
	warmed := plan(func(m *school.Methods) { m.Warmth = school.WarmUp })
	if !strings.Contains(strings.Join(warmed.Surfaces[0].Coats[0].Ahead, "\n"), "bath or blanket, no flame") {
		t.Errorf("%v", warmed.Surfaces[0].Coats[0].Ahead)
	}
	if never := plan(func(m *school.Methods) { m.Thin = school.ThinFirst }); f.Products[0].ThinnerMax != nil &&
		f.Products[0].ThinnerMax.Value > 0 && saying(never, "your rule thins a first coat") == nil {
		t.Error("a first coat that is not thinned is not told")
	}
	for _, p := range []Plan{torch, whole} {
		ahead := strings.Join(p.Surfaces[0].Coats[0].Ahead, "\n")
		if !strings.Contains(ahead, "Stage each A with its own B") ||
			!strings.Contains(ahead, "Parts of other products stand apart") || !strings.Contains(ahead, "turn the pails over") {
			t.Errorf("%s", ahead)
		}
	}
	// A floor that no shift can lay in one session is told.
	f.Job.Crew.Pace.Value = 2.0 / measure.Hour
	if told := saying(Make(f, measure.Metric, noon()), "and the shift ends"); told == nil {
		t.Error("twenty hours fit a shift")
	}
}

func crack() takeoff.Line {
	return takeoff.Line{ID: "l", Name: "Crack", Kind: "crack", Length: 3, Width: 0.008, Depth: 0.02}
}

// A sheet that allows thinner films on a warm slab is held to that of the slab of the job. By hand: 900 µm at 20 °C and
// 500 µm at 30 °C are 660 µm at 26 °C.
func TestAWarmSlabTakesThinnerFilms(t *testing.T) {
	f := laidJob(t, demoShelf(t), coat("shoalbody-f", 800))
	for n := range f.Products {
		if f.Products[n].ID == "shoalbody-f" {
			f.Products[n].FilmMaxAt = []material.FilmAt{{At: 20, Film: 900e-6, Source: measure.Sheet},
				{At: 30, Film: 500e-6, Source: measure.Sheet}}
		}
	}
	for slab, want := range map[measure.Temperature]string{20: "", 26: "over its maximum film of 660 µm"} {
		f.Job.Slab = &measure.Sourced[measure.Temperature]{Value: slab, Source: measure.OwnTest}
		told := saying(Make(f, measure.Metric, noon()), "over its maximum film")
		if (told == nil) != (want == "") || told != nil && !strings.Contains(told.Text, want) {
			t.Errorf("on %g °C: %+v, want %q", float64(slab), told, want)
		}
	}
}

// A coat split into lifts fills the profile and soaks in once.
func TestLiftsFillTheProfileOnce(t *testing.T) {
	f := laidJob(t, demoShelf(t), with(coat("shoalbody-f", 2000), func(c *buildup.Coat) {
		c.Fill = &measure.Sourced[measure.Film]{Value: 0.3e-3, Source: measure.OwnTest}
		c.Soak = &measure.Sourced[measure.Film]{Value: 0.1e-3, Source: measure.OwnTest}
	}))
	told := saying(Make(f, measure.Metric, noon()), "over its maximum film of 900 µm")
	if told == nil || told.Fix == nil {
		t.Fatal("no way to split it")
	}
	coats := Make(patched(t, f, *told.Fix), measure.Metric, noon()).Surfaces[0].Coats
	if len(coats) != 3 {
		t.Fatalf("%d lifts", len(coats))
	}
	for n, c := range coats {
		filled := slices.ContainsFunc(c.Build.Shares, func(s buildup.Step) bool {
			return s.Name == "Filling the profile" ||
				s.Name == "Soaked in"
		})
		if filled != (n == 0) || !near(float64(c.Build.Wet), 2e-3/3, 1e-9) {
			t.Errorf("lift %d: %+v", n+1, c.Build.Shares)
		}
	}
	// 40 m² × (2 mm ÷ (1 − loss) + 0.4 mm): as much as in one.
	one := Make(f, measure.Metric, noon()).Purchases[0].Need
	three := coats[0].Build.Need + coats[1].Build.Need + coats[2].Build.Need
	if !near(float64(one), float64(three), 1e-9) {
		t.Errorf("%v in lifts, %v in one", three, one)
	}
}

// A plan for someone who is gone ends at once, with the reason.
func TestNobodyWaits(t *testing.T) {
	f := laidJob(t, demoShelf(t), coat("keelbody-100", 900))
	ctx, cancel := context.WithCancel(t.Context())
	cancel()
	if _, err := NewPlanner().MakeFor(ctx, f, facts.At(noon()), measure.Metric); !errors.Is(err, context.Canceled) {
		t.Errorf("%v", err)
	}
}
