package survey

import (
	"math"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"
	"time"

	"nephelon/core/climate"
	"nephelon/core/geometry"
	"nephelon/core/measure"
	"nephelon/core/school"
)

func now() time.Time { return time.Date(2031, 5, 6, 12, 0, 0, 0, time.UTC) }

func read(kind ReadingKind, value float64) Reading {
	return Reading{ID: string(kind), Kind: kind, Value: value, At: now().Add(-time.Hour)}
}

func find(all []Verdict, id string) Verdict {
	i := slices.IndexFunc(all, func(v Verdict) bool { return v.ID == id })
	if i < 0 {
		return Verdict{}
	}
	return all[i]
}

// Each place has its newest reading of moisture: a dry corner read later does not dry the middle, and the middle read
// again does.
func TestAWetSpotStaysUntilItIsReadAgain(t *testing.T) {
	outline := geometry.Ring{{X: 0, Y: 0}, {X: 8, Y: 0}, {X: 8, Y: 6}, {X: 0, Y: 6}}
	at := func(x, y, value float64, before time.Duration) Reading {
		return Reading{ID: "r", Kind: SlabHumidity, Value: value, At: now().Add(-before), Place: &geometry.Point{X: x, Y: y}}
	}
	readings := []Reading{at(4, 3, 0.88, 72*time.Hour), at(8, 6, 0.62, 2*time.Hour), at(2, 0.2, 0.9, 50*time.Hour)}
	judged := func() Verdict {
		return find(Judge(Survey{Substrate: Concrete, Readings: readings}, Coats{First: "Keelbody 100", Film: 0.001}, nil,
			Scene{Now: now(), Outline: outline}), "slab-humidity")
	}
	v := judged()
	if v.Fit != FitAfter || !strings.Contains(v.Text, "90%") ||
		!strings.Contains(v.Text, "So at 2 of 3 places: 2.01 m from corner 1, the middle.") {
		t.Errorf("two wet spots: %+v", v)
	}
	readings = append(readings, at(4.2, 3.1, 0.7, time.Hour))
	if v = judged(); !strings.Contains(v.Text, "1 of 3 places: 2.01 m from corner 1.") {
		t.Errorf("the middle is dry: %+v", v)
	}
	readings = append(readings, at(2.1, 0.3, 0.74, time.Hour))
	if v = judged(); v.Fit != FitNow || strings.Contains(v.Text, "places") {
		t.Errorf("all dry: %+v", v)
	}
	// Walls of a pool have names in place of corners; what has neither counts by the day, as ever.
	wall := func(name string, value float64, before time.Duration) Reading {
		return Reading{ID: "w", Kind: SlabHumidity, Value: value, Note: name, At: now().Add(-before)}
	}
	readings = []Reading{wall("Deep end", 0.9, 90*time.Hour), wall("Left wall", 0.6, time.Hour)}
	if v = judged(); v.Fit != FitAfter || !strings.Contains(v.Text, "1 of 2 places: Deep end.") {
		t.Errorf("a wet wall: %+v", v)
	}
	readings = []Reading{wall("", 0.9, 90*time.Hour), wall("", 0.6, time.Hour)}
	if v = judged(); v.Fit != FitNow {
		t.Errorf("an old reading of no place: %+v", v)
	}
}

// The film that hides a gap, at its bounds: a very flat floor takes 1.5 mm, 3 mm are the most.
func TestTheFilmThatHidesAGap(t *testing.T) {
	for gap, want := range map[float64]measure.Film{0: 1.5e-3, 1e-3: 1.5e-3, 1.4e-3: 1.5e-3, 1.6e-3: 1.6e-3, 3e-3: 3e-3,
		3.1e-3: 0, 20e-3: 0} {
		if got := LevellingFilm(gap); got != want {
			t.Errorf("a gap of %g m takes %v, want %v", gap, got, want)
		}
	}
}

func TestVerdictsNameReadingThresholdSourceAndWay(t *testing.T) {
	body := Coats{First: "Keelbody 100", Film: 0.001}
	barrier := Coats{First: "Undertow MB-2", Barrier: true, Seals: true, Film: 0.001,
		HumidityMax: &measure.Sourced[measure.Fraction]{Value: 0.97, Source: measure.Sheet}}
	cases := []struct {
		name   string
		survey Survey
		coats  Coats
		id     string
		fit    Fit
		says   []string
	}{
		{"a damp slab without a barrier", Survey{Substrate: Concrete, Readings: []Reading{read(SlabHumidity, 0.88)}}, body,
			"slab-humidity", FitAfter, []string{"88%", "75%", "F2170", "moisture barrier"}},
		{"the same under a barrier", Survey{Substrate: Concrete, Readings: []Reading{read(SlabHumidity, 0.88)}}, barrier,
			"slab-humidity", FitNow, []string{"88%", "97%", "sheet of Undertow"}},
		{"too damp for the barrier", Survey{Substrate: Concrete, Readings: []Reading{read(SlabHumidity, 0.99)}}, barrier,
			"slab-humidity", Unfit, []string{"even the barrier"}},
		// 5 lb per 1000 ft² and 24 h against the classic 3.
		{"emission", Survey{Substrate: Concrete,
			Readings: []Reading{read(Emission, 5*measure.Pound/(1000*measure.SqFoot)/86400)}}, body, "emission", FitAfter,
			[]string{"24.4 g", "14.6 g", "F1869"}},
		{"a sheet that darkened", Survey{Substrate: Concrete, Readings: []Reading{read(Sheet, 1)}}, body, "plastic-sheet",
			FitAfter, []string{"D4263"}},
		{"a bare meter", Survey{Substrate: Concrete, Readings: []Reading{read(Meter, 46)}}, body, "moisture-meter", Unknown,
			[]string{"not a reading"}},
		{"no test at all", Survey{Substrate: Concrete}, body, "moisture", Unknown, []string{"taped down for 16 h"}},
		{"water behind a wall", Survey{Substrate: Plaster, Behind: "weeping"}, body, "behind", Unfit,
			[]string{"Relieve and drain"}},
		{"soft plaster", Survey{Substrate: Plaster, Soundness: "crumbles"}, body, "soundness", Unfit,
			[]string{"pulls the layer off"}},
		{"trowelled hard", Survey{Substrate: Trowelled}, body, "profile", FitAfter, []string{"CSP 3 to 5", "Grind"}},
		{"too young", Survey{Substrate: Concrete, Laid: "2031-04-20"}, body, "age", FitAfter,
			[]string{"16 days", "28", "18 May 2031"}},
		{"old enough", Survey{Substrate: Concrete, Laid: "2031-04-01"}, body, "age", FitNow, []string{"35 days"}},
		{"open pores without a primer", Survey{Substrate: Concrete, WaterDrop: "soaks"}, body, "pores", FitAfter,
			[]string{"while the slab cools"}},
		{"board that breathes", Survey{Substrate: Board}, body, "pores", FitAfter, []string{"breathe out", "Seal it first"}},
		{"timber that breathes", Survey{Substrate: Timber}, body, "pores", FitAfter, []string{"Keelbody 100"}},
		{"a sealed floor", Survey{Substrate: Concrete, WaterDrop: "beads"}, body, "water-drop", FitAfter,
			[]string{"Open it"}},
		{"sealed and kept so", Survey{Substrate: Concrete, WaterDrop: "beads", KeepSealed: true,
			Contamination: []string{"sealer"}}, body, "water-drop", Unknown, []string{"abrading alone", "test panel"}},
		{"sealed, kept and pulled", Survey{Substrate: Concrete, WaterDrop: "beads", KeepSealed: true,
			Readings: []Reading{read(PullOff, 2e6)}}, body, "water-drop", FitNow, []string{"no primer"}},
		{"a weak skin", Survey{Substrate: Concrete, Contamination: []string{"laitance"}}, body, "contamination-laitance",
			FitAfter, []string{"etch it off"}},
		{"a new slab nobody scratched", Survey{Substrate: Concrete, Laid: "2031-03-01"}, body, "skin", Unknown,
			[]string{"dark cloth"}},
		{"a gap that 1.5 mm show", Survey{Substrate: Screed, Readings: []Reading{read(Flatness, 0.002)}},
			Coats{First: "Ballast SL", Seals: true, Film: 0.0015, Levels: 0.0015}, "flatness", FitAfter,
			[]string{"gap of 2 mm", "Lay 2 mm", "33 % more"}},
		{"a gap that 2 mm hide", Survey{Substrate: Screed, Readings: []Reading{read(Flatness, 0.002)}},
			Coats{First: "Ballast SL", Seals: true, Film: 0.002, Levels: 0.002}, "flatness", FitNow, []string{"hides it"}},
		{"a gap that no film hides", Survey{Substrate: Screed, Readings: []Reading{read(Flatness, 0.0035)}},
			Coats{First: "Ballast SL", Seals: true, Film: 0.003, Levels: 0.003}, "flatness", FitAfter,
			[]string{"at most 3 mm", "Fill the low places"}},
		{"acid left", Survey{Substrate: Concrete, Readings: []Reading{read(Acidity, 4.5)}}, body, "ph", FitAfter,
			[]string{"pH 4.5", "Neutralise"}},
		{"a weak pull", Survey{Substrate: Concrete, Readings: []Reading{read(PullOff, 0.9e6)}}, body, "pull-off", Unfit,
			[]string{"0.9 MPa", "1.5 MPa"}},
		{"near the dew point", Survey{Substrate: Concrete,
			Readings: []Reading{read(SlabTemperature, 14), read(AirTemperature, 20), read(AirHumidity, 0.65)}}, body,
			"dew-point", FitAfter, []string{"14 °C", "13.2 °C", "3.0 K", "ISO 8502-4"}},
		{"a stale reading", Survey{Substrate: Concrete,
			Readings: []Reading{{Kind: SlabTemperature, Value: 20, At: now().Add(-30 * time.Hour)}, read(AirTemperature, 20),
				read(AirHumidity, 0.5)}}, body, "dew-point", Unknown, []string{"30 h ago", "24 h"}},
		{"cold pails", Survey{Substrate: Concrete, Readings: []Reading{read(MaterialTemperature, 6)}}, body,
			"material-temperature", FitAfter, []string{"6 °C", "10 °C to 32 °C", "12 to 18 h"}},
		{"oil", Survey{Substrate: Concrete, Contamination: []string{"oil"}}, body, "contamination-oil", FitAfter,
			[]string{"Degrease"}},
	}
	for _, c := range cases {
		v := find(Judge(c.survey, c.coats, nil, Scene{Now: now(), Units: measure.Metric}), c.id)
		text := v.Text + " " + v.From + " " + v.WayOut
		if v.Fit != c.fit {
			t.Errorf("%s: %q, want %q: %s", c.name, v.Fit, c.fit, text)
		}
		for _, says := range c.says {
			if !strings.Contains(text, says) {
				t.Errorf("%s: %q does not say %q", c.name, text, says)
			}
		}
		if v.Fit == FitAfter && v.WayOut == "" {
			t.Errorf("%s has no way out", c.name)
		}
	}
}

func TestOwnRulesAndOverrides(t *testing.T) {
	s := Survey{Substrate: Concrete, Readings: []Reading{read(SlabHumidity, 0.8)}}
	own := []Own{{ID: "slab-humidity", Value: 0.82, Source: measure.OwnTest, From: "ten floors of ours"}}
	if v := find(Judge(s, Coats{}, own, Scene{Now: now()}), "slab-humidity"); v.Fit != FitNow ||
		v.From != "ten floors of ours" {
		t.Errorf("%+v", v)
	}
	s.Overrides = []Override{{ID: "slab-humidity", By: "Runa Vell", Reason: "a store for a year", At: now()}}
	all := Judge(s, Coats{}, nil, Scene{Now: now()})
	if v := find(all, "slab-humidity"); v.Override == nil || v.Closed() || v.Fit != FitAfter {
		t.Errorf("%+v", v)
	}
	if fit := Overall(all); fit == FitAfter || fit == Unfit {
		t.Errorf("overall %s", fit)
	}
}

// The way out of a dew point names the hours of the forecast that pass.
func TestHoursThatPass(t *testing.T) {
	var hours []climate.Judged
	for h := range 24 {
		state := climate.Stop
		if h >= 4 && h < 9 {
			state = climate.Go
		}
		hours = append(hours, climate.Judged{At: now().Add(time.Duration(h) * time.Hour), State: state})
	}
	s := Survey{Readings: []Reading{read(SlabTemperature, 12), read(AirTemperature, 20), read(AirHumidity, 0.7)}}
	v := find(Judge(s, Coats{}, nil, Scene{Now: now(), Hours: hours, Units: measure.Metric}), "dew-point")
	if v.WayOut != "By the forecast it passes from Tue 16:00 to Tue 21:00." {
		t.Errorf("%q", v.WayOut)
	}
}

// No verdict says fit with a reading past its limit, whatever was read.
func TestNothingPastItsLimitIsFit(t *testing.T) {
	random := rand.New(rand.NewPCG(55, 89))
	rules := Rules(nil)
	for range 3000 {
		humidity, ph, pull := random.Float64(), 3+9*random.Float64(), 3e6*random.Float64()
		slab, air, damp := 40*random.Float64()-2, 30*random.Float64(), 0.2+0.79*random.Float64()
		s := Survey{Substrate: Concrete, Readings: []Reading{
			read(SlabHumidity, humidity), read(Acidity, ph), read(PullOff, pull), read(SlabTemperature, slab),
			read(AirTemperature, air), read(AirHumidity, damp),
		}}
		all := Judge(s, Coats{First: "X", Barrier: random.IntN(2) == 0, Film: 0.001}, nil, Scene{Now: now()})
		wrong := func(id string, past bool) {
			if v := find(all, id); past && v.Fit == FitNow {
				t.Errorf("%s is fit: %s", id, v.Text)
			}
		}
		limit := rules["slab-humidity"].Value
		if strings.Contains(find(all, "slab-humidity").From, "barrier") {
			limit = rules["barrier-humidity"].Value
		}
		wrong("slab-humidity", humidity > limit)
		wrong("ph", ph < 6 || ph > 9)
		wrong("pull-off", pull < 1.5e6)
		wrong("dew-point", slab-float64(climate.DewPoint(measure.Temperature(air), measure.Fraction(damp))) < 3)
		wrong("slab-temperature", slab < 10 || slab > 32)
	}
}

func TestReadingsThatCannotBe(t *testing.T) {
	for _, c := range []struct {
		reading Reading
		says    string
	}{
		{read(AirHumidity, 1.4), "140%"},
		{read(SlabTemperature, 400), "400 °C"},
		{read(Acidity, 15), "pH of 15"},
		{read(PullOff, -1), "below zero"},
		{Reading{Kind: Sheet, At: now().Add(30 * time.Hour)}, "still to come"},
	} {
		fault := c.reading.Check(now(), measure.Metric)
		if fault == nil || !strings.Contains(fault.Text, c.says) || fault.WayOut == "" {
			t.Errorf("%v: %v", c.reading, fault)
		}
		// It decides nothing.
		for _, v := range Judge(Survey{Substrate: Concrete, Readings: []Reading{c.reading}}, Coats{}, nil,
			Scene{Now: now()}) {
			if v.Fit == FitNow {
				t.Errorf("%v makes it fit: %s", c.reading, v.Text)
			}
		}
	}
}

func ids(p Preparation) (all []string) {
	for _, t := range p.Tasks {
		all = append(all, t.ID)
	}
	return all
}

func item(p Preparation, name string) float64 {
	for _, t := range p.Tasks {
		for _, i := range t.Items {
			if strings.HasPrefix(i.Name, name) {
				return i.Value
			}
		}
	}
	return math.NaN()
}

// Half a gallon of acid on 500 ft²: 1,500 ft² take 1.5 gal a pass, in 6 gal of
// water poured first. A litre of filler asked for takes 1.1 L.
func TestEtchingAndFillingByHand(t *testing.T) {
	g := Extent{Area: 1500 * measure.SqFoot, Perimeter: 50, Filler: 0.001, Coats: 2, People: 2}
	p := Prepare(Survey{Substrate: Concrete}, g, school.Methods{Opening: school.Etch, Filler: school.BodyFiller,
		Between: school.SandEvery}, nil)
	if acid := item(p, "Muriatic acid") / measure.Gallon; math.Abs(acid-1.5) > 1e-9 {
		t.Errorf("%v gal of acid", acid)
	}
	if water := item(p, "Water, first into the bucket") / measure.Gallon; math.Abs(water-6) > 1e-9 {
		t.Errorf("%v gal of water", water)
	}
	if filler := item(p, "Body filler"); math.Abs(filler-0.0011) > 1e-12 {
		t.Errorf("%v m³ of filler", filler)
	}
	order := ids(p)
	for _, pair := range [][2]string{{"wet", "etch"}, {"etch", "rinse"}, {"rinse", "neutralise"},
		{"neutralise", "rinse-again"}, {"rinse-again", "fill"}, {"fill", "mask"}, {"mask", "between"}} {
		if slices.Index(order, pair[0]) >= slices.Index(order, pair[1]) || slices.Index(order, pair[0]) < 0 {
			t.Errorf("%s before %s in %v", pair[1], pair[0], order)
		}
	}
	for _, task := range p.Tasks {
		if task.ID == "etch" && !strings.Contains(strings.Join(task.Cautions, " "), "never water into acid") {
			t.Error("etching without its caution")
		}
		if task.Check == "" {
			t.Errorf("nothing closes %s", task.ID)
		}
	}
	// A pound of citric acid to two gallons of water.
	citric := Prepare(Survey{Substrate: Concrete}, g, school.Methods{Opening: school.Etch, Acid: school.Citric}, nil)
	if ratio := item(citric, "Citric acid") / measure.Pound / (item(citric, "Water, first") / measure.Gallon); math.Abs(
		ratio-0.5) > 1e-9 {
		t.Errorf("%v lb to a gallon", ratio)
	}
}

func TestAcidIsRefusedWhereTheRuleRefusesIt(t *testing.T) {
	g := Extent{Area: 60, Upright: 30, Perimeter: 25, Pool: true, Coats: 3, People: 2}
	p := Prepare(Survey{Substrate: Plaster}, g, school.Methods{Opening: school.Etch}, nil)
	if p.Refused == "" || slices.Contains(ids(p), "etch") || !slices.Contains(ids(p), "grind") {
		t.Errorf("%q: %v", p.Refused, ids(p))
	}
	allowed := Prepare(Survey{Substrate: Plaster}, g, school.Methods{Opening: school.Etch, AcidInPool: true}, nil)
	if allowed.Refused != "" || !slices.Contains(ids(allowed), "etch") {
		t.Errorf("%q: %v", allowed.Refused, ids(allowed))
	}
	for _, task := range p.Tasks {
		if !strings.Contains(strings.Join(task.Cautions, " "), "Empty pool") {
			t.Errorf("%s in a pool without its caution", task.ID)
		}
	}
}

// Whatever the survey: no task that brings water comes after the last drying
// before the coats, unless it dries itself; and other schools are compared.
func TestNoWetTaskAfterItsDrying(t *testing.T) {
	random := rand.New(rand.NewPCG(144, 233))
	pick := func(all ...string) string { return all[random.IntN(len(all))] }
	for range 2000 {
		s := Survey{Substrate: Substrate(pick("", "concrete", "trowelled-hard", "plaster", "timber", "old-coating", "tile")),
			Outdoors: random.IntN(2) == 0}
		for _, c := range []string{"oil", "sealer", "salts", "loose-paint", "wax"} {
			if random.IntN(3) == 0 {
				s.Contamination = append(s.Contamination, c)
			}
		}
		g := Extent{Area: measure.Area(1 + 200*random.Float64()), Perimeter: 30, Pool: random.IntN(3) == 0,
			Filler: measure.Volume(random.Float64() / 500), Coats: 1 + random.IntN(4), People: 1 + random.IntN(4)}
		m := school.Methods{
			Opening: school.Opening(pick("", "grind", "etch", "screen", "shot-blast")), AcidInPool: random.IntN(2) == 0,
			Filler:  school.Filler(pick("body", "epoxy", "putty")),
			Between: school.Between(pick("", "window", "sand", "tacky")), OldPaint: school.OldPaint(pick("remove", "over")),
		}
		p := Prepare(s, g, m, Judge(s, Coats{First: "X", Film: 0.0008}, nil, Scene{Now: now()}))
		wet := false
		for _, task := range p.Tasks {
			wet = (wet || task.Wet) && task.Drying == 0
			if wet && (task.ID == "fill" || task.ID == "mask" || task.ID == "between") {
				t.Fatalf("%s on a wet floor: %v", task.ID, ids(p))
			}
			if task.Work < 0 || math.IsNaN(float64(task.Work)) || math.IsInf(float64(task.Work), 0) {
				t.Fatalf("%s takes %v", task.ID, task.Work)
			}
		}
		if p.Days <= 0 || len(p.Others) == 0 {
			t.Fatalf("%v days, %d other schools", p.Days, len(p.Others))
		}
	}
}
