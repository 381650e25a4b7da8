package plan

import (
	"encoding/json"
	"os"
	"slices"
	"strings"
	"testing"

	jsonpatch "github.com/evanphx/json-patch/v5"

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
)

func grit(id string) *buildup.Grit {
	return &buildup.Grit{Medium: id, Dose: measure.Sourced[measure.Content]{Value: 60, Source: measure.RuleOfThumb}}
}

func with(c buildup.Coat, by func(*buildup.Coat)) buildup.Coat { by(&c); return c }

// shelf is the demo's data sheets.
type shelf struct {
	Products []material.Product `json:"products"`
	Media    []material.Medium  `json:"media"`
}

func readDemo(t testing.TB, name string, into any) {
	t.Helper()
	text, err := os.ReadFile("../../demo/" + name)
	if err == nil {
		err = json.Unmarshal(text, into)
	}
	if err != nil {
		t.Fatal(err)
	}
}

func demoShelf(t testing.TB) shelf {
	var s shelf
	readDemo(t, "shelf.json", &s)
	return s
}

func (s shelf) product(t testing.TB, id string) material.Product {
	t.Helper()
	at := slices.IndexFunc(s.Products, func(p material.Product) bool { return p.ID == id })
	if at < 0 {
		t.Fatalf("no product %s", id)
	}
	return s.Products[at]
}

// laidJob is a job with one surface of 40 m² and some coats on it.
func laidJob(t testing.TB, s shelf, coats ...buildup.Coat) job.File {
	t.Helper()
	surface := job.Surface{ID: "s", Name: "Loading quay", Coats: coats}
	surface.Floor.Outline = geometry.Ring{{X: 0, Y: 0}, {X: 8, Y: 0}, {X: 8, Y: 5}, {X: 0, Y: 5}}
	f := job.File{Format: job.Format, Version: job.Version, Job: job.Job{
		Name: "Quay", Currency: "EUR", Crew: job.Crew{Spreaders: 2,
			Pace: measure.Sourced[measure.Pace]{Value: 45.0 / measure.Hour, Source: measure.OwnTest}},
		Bucket: kit.Bucket{Volume: 0.03, Headroom: 0.2}, Surfaces: []job.Surface{surface},
	}}
	for i, c := range coats {
		if f.Job.Surfaces[0].Coats[i].ID == "" {
			f.Job.Surfaces[0].Coats[i].ID = string(rune('a' + i))
		}
		if !slices.ContainsFunc(f.Products, func(p material.Product) bool { return p.ID == c.Product }) {
			f.Products = append(f.Products, s.product(t, c.Product))
		}
		var named []string
		if c.Scatter != nil {
			named = append(named, c.Scatter.Medium)
		}
		if c.Grit != nil {
			named = append(named, c.Grit.Medium)
		}
		if c.Pigment != nil {
			named = append(named, c.Pigment.Medium)
		}
		for _, m := range s.Media {
			if slices.Contains(named, m.ID) && !slices.ContainsFunc(f.Media,
				func(o material.Medium) bool { return o.ID == m.ID }) {
				f.Media = append(f.Media, m)
			}
		}
	}
	return f
}

func coat(product string, micron float64) buildup.Coat {
	return buildup.Coat{Product: product, Amount: buildup.Amount{Basis: buildup.WetFilm, Value: micron * measure.Micron}}
}

func after(c buildup.Coat, hours float64) buildup.Coat {
	wait := measure.Span(hours * measure.Hour)
	c.Wait = &wait
	return c
}

// Every system that ships is fit to be laid as it stands: nothing of it is
// refused, warned of or called out, on the kind of surface it is for.
func TestShippedSystemsHoldTogether(t *testing.T) {
	s := demoShelf(t)
	var systems []buildup.System
	readDemo(t, "systems.json", &systems)
	if len(systems) < 12 {
		t.Errorf("only %d systems", len(systems))
	}
	for _, system := range systems {
		f := laidJob(t, s, system.Coats...)
		switch system.For {
		case "pool":
			f.Job.Surfaces[0].Floor = takeoff.Floor{}
			f.Job.Surfaces[0].Pool = &takeoff.Pool{Form: "rectangle", Length: 9, Width: 4, Shallow: 1.3, Deep: 1.3}
		case "top":
			f.Job.Surfaces[0].Floor = takeoff.Floor{}
			f.Job.Surfaces[0].Top = &takeoff.Top{Thickness: 0.03,
				Pieces: []takeoff.TopPiece{{ID: "p", Name: "Long",
					Outline: geometry.Ring{{X: 0, Y: 0}, {X: 3, Y: 0}, {X: 3, Y: 0.7}, {X: 0, Y: 0.7}}}}}
		}
		p := Make(f, measure.Metric, noon())
		for _, found := range p.Findings {
			if found.Step == finding.BuildUp && found.Level != finding.Note || found.Level == finding.Refused {
				t.Errorf("%s: %s %s", system.Name, found.Path, found.Text)
			}
		}
		if p.Cost == nil || len(p.Purchases) == 0 || p.Surfaces[0].Coats[len(system.Coats)-1].Price == nil {
			t.Errorf("%s has no cost", system.Name)
		}
	}
}

// What goes wrong between coats is said with its numbers, and its way out,
// taken as one patch of the file, makes it go away.
func TestWaysOutLeadOut(t *testing.T) {
	s := demoShelf(t)
	share := func(v measure.Fraction) *material.Portion {
		return &material.Portion{Value: v, Of: material.OfAB, Source: measure.OwnTest}
	}
	nothing := func(*job.File) {}
	cases := []struct {
		name  string
		coats []buildup.Coat
		set   func(*job.File)
		says  []string
	}{
		{"chemistry over chemistry", []buildup.Coat{coat("planksider-1k", 80), coat("gullwing-ur", 110)}, nothing,
			[]string{"Coat 2 of polyurethane goes over coat 1 of alkyd",
				"names epoxy, polyurethane, polyaspartic to go over, not alkyd"}},
		{"first coat over what it does not go on", []buildup.Coat{coat("skerry-grout", 300)}, func(f *job.File) {
			f.Job.Surfaces[0].Survey = &survey.Survey{Substrate: survey.Screed}
		}, []string{"names epoxy to go over, not screed"}},
		{"too early", []buildup.Coat{coat("keelbody-100", 900), after(coat("skerry-grout", 300), 6)}, nothing,
			[]string{"planned 6 h after coat 1", "takes the next coat from 10 h at 20 °C"}},
		{"too late", []buildup.Coat{coat("keelbody-100", 900), after(coat("skerry-grout", 300), 60)}, nothing,
			[]string{"window of Keelbody 100 closes 36 h after it", "Abrade it with P100"}},
		{"too early in the cold", []buildup.Coat{coat("keelbody-100", 900), after(coat("skerry-grout", 300), 11)},
			func(f *job.File) {
				f.Job.Slab = &measure.Sourced[measure.Temperature]{Value: 12, Source: measure.OwnTest}
			}, []string{"takes the next coat from", "at 12 °C"}},
		{"solvent over a soft film", []buildup.Coat{coat("keelbody-100", 900), after(coat("gullwing-ur", 110), 12)},
			func(f *job.File) {
				f.Products[0].RecoatFrom, f.Products[0].RecoatUntil = nil, nil
			}, []string{"brings solvent 12 h after coat 1", "hard only after 18 h"}},
		{"damp", []buildup.Coat{coat("regatta-pa-base", 300), coat("regatta-pa-clear", 250)}, func(f *job.File) {
			f.Job.Surfaces[0].Survey = &survey.Survey{
				Readings: []survey.Reading{{ID: "r", Kind: survey.SlabHumidity, Value: 0.91, At: noon()}}}
		}, []string{"the slab was measured at 91%; it tolerates 80%"}},
		{"daylight", []buildup.Coat{coat("keelbody-100", 900)}, func(f *job.File) { f.Job.Surfaces[0].Service.Sun = true },
			[]string{"it ambers in daylight"}},
		{"film too thick", []buildup.Coat{coat("shoalbody-f", 2000)}, nothing, []string{"over its maximum film of 900 µm"}},
		{"film too thin", []buildup.Coat{coat("shoalbody-f", 120)}, nothing, []string{"under its minimum film of 250 µm"}},
		{"grit too big for its film",
			[]buildup.Coat{with(coat("petrel-ur-hs", 90), func(c *buildup.Coat) { c.Grit = grit("grit-alox-180") })}, nothing,
			[]string{"grains of Fused grit 180 µm of 180 µm", "holds grains up to 119 µm"}},
		{"fillings show through", []buildup.Coat{coat("undertow-mb2", 300), coat("silverdrift", 1300)}, func(f *job.File) {
			f.Job.Surfaces[0].Floor.Lines = []takeoff.Line{{ID: "l", Name: "Crack", Kind: "crack", Length: 3, Width: 0.008,
				Depth: 0.02}}
		}, []string{"fillings in the floor show through 1.3 mm of Silverdrift", "hides from 1.8 mm"}},
		{"slip class without texture", []buildup.Coat{coat("petrel-ur-hs", 170)},
			func(f *job.File) { f.Job.Surfaces[0].Service.Slip = "R10" },
			[]string{"R10 needs grains of about 60 µm", "nothing stands out of it"}},
		{"volatile compounds", []buildup.Coat{coat("gullwing-ur", 110)}, func(f *job.File) {
			f.Job.VOCMax = &measure.Sourced[measure.Content]{Value: 120, Source: measure.Standard}
		}, []string{"holds 295 g/L", "limit is 120 g/L"}},
		{"volatile compounds by thinner",
			[]buildup.Coat{with(coat("gullwing-ur", 110), func(c *buildup.Coat) { c.Thinner = share(0.05) })},
			func(f *job.File) {
				f.Job.VOCMax = &measure.Sourced[measure.Content]{Value: 300, Source: measure.Standard}
			}, []string{"thinned, Gullwing UR holds 322 g/L", "unthinned it holds 295 g/L"}},
		{"food", []buildup.Coat{coat("meniscus-flood", 1800)},
			func(f *job.File) { f.Job.Surfaces[0].Service.Contact = "food" },
			[]string{"touches food, and its sheet names no certificate"}},
		{"never thinned", []buildup.Coat{with(coat("keelbody-100", 900), func(c *buildup.Coat) { c.Thinner = share(0.05) })},
			nothing, []string{"never thinned", "no flame or spark"}},
		{"thinned too far", []buildup.Coat{with(coat("causeway-2c", 140), func(c *buildup.Coat) { c.Thinner = share(0.3) })},
			nothing, []string{"its sheet allows 20% of A + B"}},
		{"too much pigment", []buildup.Coat{with(coat("silverdrift", 1300), func(c *buildup.Coat) {
			c.Pigment = &buildup.Tint{Medium: "pigment-pearl-ash", Portion: *share(0.12)}
		})}, nothing, []string{"12% of pigment", "more than Silverdrift allows, 6%"}},
		{"broadcast that nothing seals", []buildup.Coat{with(coat("shoalbody-f", 400), func(c *buildup.Coat) {
			c.Scatter = &buildup.Scatter{Medium: "flake-kelp", Degree: "full"}
		})}, nothing, []string{"nothing seals it"}},
		{"broadcast that the sheet does not take", []buildup.Coat{with(coat("regatta-pa-base", 300), func(c *buildup.Coat) {
			c.Scatter = &buildup.Scatter{Medium: "quartz-dune", Degree: "even"}
		})}, nothing, []string{"whose sheet allows flake"}},
	}
	for _, c := range cases {
		f := laidJob(t, s, c.coats...)
		c.set(&f)
		p := Make(f, measure.Metric, noon())
		p = p.Offered(f, s.Products, s.Media)
		at := slices.IndexFunc(p.Findings, func(found finding.Finding) bool {
			return found.Step == finding.BuildUp && found.Level == finding.Warning && holds(found.Text+found.WayOut, c.says)
		})
		if at < 0 {
			t.Errorf("%s: nothing says %q; found %v", c.name, c.says, texts(p.Findings))
			continue
		}
		if p.Findings[at].Fix == nil {
			t.Errorf("%s: no way out that can be taken: %s", c.name, p.Findings[at].Text)
			continue
		}
		mended := patched(t, f, *p.Findings[at].Fix)
		if now := Make(mended, measure.Metric, noon()); slices.ContainsFunc(now.Findings, func(found finding.Finding) bool {
			return holds(found.Text+found.WayOut, c.says) || found.Level == finding.Refused
		}) {
			t.Errorf("%s: “%s” does not lead out: %v", c.name, p.Findings[at].Fix.Label, texts(now.Findings))
		}
	}
}

func holds(text string, all []string) bool {
	return !slices.ContainsFunc(all, func(words string) bool { return !strings.Contains(text, words) })
}

func texts(found []finding.Finding) []string {
	var all []string
	for _, f := range found {
		all = append(all, f.Text)
	}
	return all
}

// patched applies a way out as the interface does, by an outside JSON Patch
// (RFC 6902).
func patched(t *testing.T, f job.File, fix finding.Fix) job.File {
	t.Helper()
	text, err := json.Marshal(f)
	if err != nil {
		t.Fatal(err)
	}
	steps, err := json.Marshal(fix.Patch)
	if err != nil {
		t.Fatal(err)
	}
	patch, err := jsonpatch.DecodePatch(steps)
	if err != nil {
		t.Fatal(err)
	}
	if text, err = patch.Apply(text); err != nil {
		t.Fatalf("%s: %v: %s", fix.Label, err, steps)
	}
	var mended job.File
	if err := json.Unmarshal(text, &mended); err != nil {
		t.Fatal(err)
	}
	return mended
}

// The order of coats is respected: turned about, a topcoat under its body coat
// is called out, and the quantities stay with their coats.
func TestTheOrderOfCoatsCounts(t *testing.T) {
	s := demoShelf(t)
	right := Make(laidJob(t, s, coat("keelbody-100", 900), coat("gullwing-ur", 110)), measure.Metric, noon())
	wrong := Make(laidJob(t, s, coat("gullwing-ur", 110), coat("keelbody-100", 900)), measure.Metric, noon())
	if len(right.Findings) > 0 && slices.ContainsFunc(right.Findings,
		func(f finding.Finding) bool { return f.Step == finding.BuildUp && f.Level == finding.Warning }) {
		t.Errorf("the right order is warned of: %v", texts(right.Findings))
	}
	if !slices.ContainsFunc(wrong.Findings, func(f finding.Finding) bool {
		return strings.Contains(f.Text, "Coat 2 of epoxy goes over coat 1 of polyurethane")
	}) {
		t.Errorf("the wrong order is not: %v", texts(wrong.Findings))
	}
	if a, b := right.Surfaces[0].Coats[0].Build.Need, wrong.Surfaces[0].Coats[1].Build.Need; a != b {
		t.Errorf("the same coat needs %v and %v", a, b)
	}
}

// A hardener has its own kits, ratio and pot life in the plan.
func TestAHardenerIsItsOwnSheet(t *testing.T) {
	s := demoShelf(t)
	plain, slow := coat("shoalbody-f", 400), coat("shoalbody-f", 400)
	slow.Hardener = "slow"
	p := Make(laidJob(t, s, plain, slow), measure.Metric, noon())
	if len(p.Purchases) != 2 || p.Purchases[1].Hardener != "slow" || p.Purchases[1].Name != "Shoalbody F, slow hardener" {
		t.Fatalf("purchases %+v", p.Purchases)
	}
	cards := p.Surfaces[0].Coats
	if a, b := cards[0].Cards[0].PotLife, cards[1].Cards[0].PotLife; !near(float64(a), 21*measure.Minute, 0.02) ||
		!near(float64(b), 44*measure.Minute, 0.02) {
		t.Errorf("pot lives of %v and %v", a, b)
	}
	f := laidJob(t, s, slow)
	f.Job.Surfaces[0].Coats[0].Hardener = "tepid"
	if p := Make(f, measure.Metric, noon()); len(p.Refused()) == 0 ||
		!strings.Contains(p.Refused()[0].Text, "has no hardener “tepid”") {
		t.Errorf("an unknown hardener: %v", texts(p.Findings))
	}
}

// Reserved stock is used before anything is bought: first-expiring first, A only
// with its B, what is past its date only by the contractor's own rule.
func TestStockIsUsedFirst(t *testing.T) {
	s := demoShelf(t)
	f := laidJob(t, s, coat("undertow-mb2", 300)) // 12 L on the floor, 12.77 L with its loss
	f.Job.Stock = []kit.Container{
		{ID: "late", Sheet: "undertow-mb2", Part: "kit", Volume: 0.0054, Lot: "L2", Expires: "2033-01-01"},
		{ID: "soon", Sheet: "undertow-mb2", Part: "kit", Volume: 0.0054, Lot: "L1", Expires: "2031-08-01"},
		{ID: "lone", Sheet: "undertow-mb2", Part: "A", Volume: 0.004, Lot: "L3"},
		{ID: "old", Sheet: "undertow-mb2", Part: "kit", Volume: 0.0162, Lot: "L0", Expires: "2030-01-01"},
		{ID: "kept", Sheet: "undertow-mb2", Part: "kit", Volume: 0.0054, TouchUp: true},
	}
	p := Make(f, measure.Metric, noon())
	b := p.Purchases[0]
	if len(b.Stock) != 2 || b.Stock[0].Container != "soon" || b.Stock[1].Container != "late" ||
		!near(float64(b.InStock), 0.0108, 1e-9) {
		t.Errorf("from stock %+v", b.Stock)
	}
	if len(b.Lines) != 1 || b.Lines[0].Count != 1 || b.Lines[0].Kit != "5.4 L set" ||
		!near(float64(b.Bought), 0.0162, 1e-9) {
		t.Errorf("bought %+v, %v at hand", b.Lines, b.Bought)
	}
	for _, words := range []string{"4 L of Undertow MB-2 A has no matching part",
		"lot L0, expired on 2030-01-01 and is left out", "in stock in 2 lots (L1 and L2)"} {
		if !slices.ContainsFunc(p.Findings, func(found finding.Finding) bool { return strings.Contains(found.Text, words) }) {
			t.Errorf("nothing says %q: %v", words, texts(p.Findings))
		}
	}
	f.Job.Methods.Shelf = "sealed"
	if b := Make(f, measure.Metric, noon()).Purchases[0]; len(b.Lines) != 0 || b.Cost == nil || *b.Cost != 0 ||
		b.Stock[0].Container != "old" {
		t.Errorf("by the rule for sealed pails: %+v", b)
	}
}

// BenchmarkPlanTwelveCoatsOverTwentySurfaces is the plan of a large job: 240
// coats. The aim is 5 ms.
func BenchmarkPlanTwelveCoatsOverTwentySurfaces(b *testing.B) {
	s := demoShelf(b)
	var coats []buildup.Coat
	for i := range 12 {
		coats = append(coats, after(coat([]string{"undertow-mb2", "keelbody-100", "skerry-grout"}[i%3], 400), 14))
	}
	f := laidJob(b, s, coats...)
	one := f.Job.Surfaces[0]
	for i := range 19 {
		next := one
		next.ID = "s" + string(rune('a'+i))
		next.Coats = slices.Clone(one.Coats)
		for c := range next.Coats {
			next.Coats[c].ID = next.ID + next.Coats[c].ID
		}
		f.Job.Surfaces = append(f.Job.Surfaces, next)
	}
	planner := NewPlanner()
	for b.Loop() {
		planner.Make(f, measure.Metric, noon())
	}
}

// Inside the window of the sheet below nothing warns of solvent, whatever its foot
// traffic; before it the window does.
func TestTheSheetsWindowRulesOverSolvent(t *testing.T) {
	s := demoShelf(t)
	f := laidJob(t, s, coat("keelbody-100", 900), after(coat("gullwing-ur", 110), 12))
	if told := saying(Make(f, measure.Metric, noon()), "brings solvent"); told != nil {
		t.Errorf("inside the window: %v", told)
	}
	f = laidJob(t, s, coat("keelbody-100", 900), after(coat("gullwing-ur", 110), 6))
	if told := saying(Make(f, measure.Metric, noon()), "takes the next coat from"); told == nil {
		t.Error("before the window nothing is said")
	}
}

// A floor broadcast to rejection wants the profile of a mortar, a thin film that of
// its dry film: 200 µm wet at half solids are 4 mil (ICRI 310.2R, from memory).
func TestProfileWantedByDryFilmAndBroadcast(t *testing.T) {
	s := demoShelf(t)
	wants := func(f job.File) string {
		f.Job.Surfaces[0].Survey = &survey.Survey{Substrate: survey.Concrete, Profile: 3}
		for _, v := range Make(f, measure.Metric, noon()).Surfaces[0].Survey.Verdicts {
			if v.ID == "profile" {
				return v.Text
			}
		}
		return ""
	}
	thin := laidJob(t, s, coat("saltern-wb", 200), coat("saltern-wb", 200))
	thin.Products[0].VolumeSolids.Value = 0.5
	if got := wants(thin); !strings.Contains(got, "CSP 1 to 3") {
		t.Errorf("200 µm dry: %s", got)
	}
	full := laidJob(t, s, with(coat("undertow-mb2", 200), func(c *buildup.Coat) {
		c.Scatter = &buildup.Scatter{Medium: "quartz-dune", Degree: "full"}
	}), coat("hardtack-clear", 100))
	if got := wants(full); !strings.Contains(got, "CSP 4 to 6") {
		t.Errorf("broadcast to rejection: %s", got)
	}
}

// What is stirred in is bought for what is mixed, not for what is needed; thinner
// comes in packs and takes room in the bucket.
func TestAdditionsFollowWhatIsMixed(t *testing.T) {
	s := demoShelf(t)
	f := laidJob(t, s, with(coat("causeway-2c", 140), func(c *buildup.Coat) {
		c.Thinner = &material.Portion{Value: 0.1, Of: material.OfAB, Source: measure.Sheet}
		c.ThinWith = "thin"
		c.Pigment = &buildup.Tint{Medium: "ink", Portion: material.Portion{Value: 0.03, Of: material.OfAB,
			Source: measure.Sheet}}
	}))
	price := 12.0
	f.Media = append(f.Media,
		material.Medium{ID: "thin", Name: "Thinner 4", Kind: "thinner",
			Packs: []material.Pack{{Name: "can", Amount: 0.001, Price: &price}}},
		material.Medium{ID: "ink", Name: "Ink", Kind: "pigment",
			Packs: []material.Pack{{Name: "tube", Amount: 0.1, Price: &price}}})
	size := measure.Volume(5.8 * measure.Litre)
	f.Products[0].Kits = []material.Kit{{Name: "set", Volume: &size, Price: &price, Source: measure.Sheet}}
	f.Job.Bucket.Volume, f.Job.Bucket.Headroom = 0.0088, 0
	p := Make(f, measure.Metric, noon())
	c := p.Surfaces[0].Coats[0]
	if len(p.Refused()) > 0 || c.Division == nil {
		t.Fatal(texts(p.Findings))
	}
	if c.Division.Mixed <= c.Build.Need*1.005 {
		t.Fatalf("nothing is mixed above the need (%v of %v)", c.Division.Mixed, c.Build.Need)
	}
	poured := map[string]float64{}
	for _, card := range c.Cards {
		for _, a := range card.Additions {
			poured[a.Name] += float64(a.Mass) + 1000*float64(a.Volume)
		}
	}
	for _, m := range p.Media {
		if bought := float64(m.Mass) + 1000*float64(m.Volume); !near(bought, poured[m.Name], 1e-9) {
			t.Errorf("%s: %v bought, %v poured", m.Name, bought, poured[m.Name])
		}
		if m.Cost == nil || len(m.Lines) != 1 ||
			float64(m.Lines[0].Count)*map[string]float64{"can": 1, "tube": 0.1}[m.Lines[0].Pack] < poured[m.Name]*(1-1e-9) {
			t.Errorf("%s: %+v for %v", m.Name, m.Lines, poured[m.Name])
		}
	}
	if most := c.Division.Limits[0]; most.Kind != kit.ByBucket || !near(float64(most.Volume), 0.0088/1.1, 1e-9) {
		t.Errorf("a bucket of 8.8 L holds %v of A and B beside a tenth of thinner", most.Volume)
	}
}

// A filter comes before grit and after pigment (handbooks of the trade).
func TestStrainedBeforeTheGrit(t *testing.T) {
	f := laidJob(t, demoShelf(t), with(coat("petrel-ur-hs", 170), func(c *buildup.Coat) {
		c.Grit = grit("grit-alox-180")
		c.Pigment = &buildup.Tint{Portion: material.Portion{Value: 0.02, Of: material.OfAB, Source: measure.Sheet}}
	}))
	for _, tinting := range []string{"", "before"} {
		f.Job.Methods.Tinting = school.Tinting(tinting)
		var order []string
		for _, s := range Make(f, measure.Metric, noon()).Surfaces[0].Coats[0].Cards[0].Steps {
			for _, word := range []string{"pigment", "Strain", "grit"} {
				if strings.Contains(s.Text, word) {
					order = append(order, word)
				}
			}
		}
		if !slices.Equal(order, []string{"pigment", "Strain", "grit"}) {
			t.Errorf("tinting %q: %v", tinting, order)
		}
	}
}
