package material

import (
	"fmt"
	"math"
	"reflect"
	"slices"
	"strings"
	"testing"

	"nephelon/core/cure"
	"nephelon/core/measure"
)

func fields(faults []Fault) []string {
	all := make([]string, len(faults))
	for i, f := range faults {
		all[i] = f.Field
	}
	return all
}

// What a sheet may say, at its limits, and what it may not, just beyond them.
func TestFaultsAtTheirLimits(t *testing.T) {
	temperature := func(v float64) *measure.Sourced[measure.Temperature] { return sheet(measure.Temperature(v)) }
	second := func(p *Product) *Hardener {
		p.Hardeners = append(p.Hardeners, Hardener{ID: "x", Name: "Quick", A: 2, B: 1, Density: sheet(measure.Density(1000))})
		return &p.Hardeners[len(p.Hardeners)-1]
	}
	for _, c := range []struct {
		name  string
		field string // empty: allowed
		set   func(*Product)
	}{
		{"all solids", "", func(p *Product) { p.VolumeSolids.Value = 1 }},
		{"more than all", "/volumeSolids", func(p *Product) { p.VolumeSolids.Value = 1.01 }},
		{"less than none", "/volumeSolids", func(p *Product) { p.VolumeSolids.Value = -0.1 }},
		{"no parts", "/components", func(p *Product) { p.Components = nil }},
		{"no kits", "/kits", func(p *Product) { p.Kits = nil }},
		{"a negative film", "/filmMin", func(p *Product) { p.FilmMin = sheet(measure.Film(-1e-6)) }},
		{"no maximum film", "/filmMax", func(p *Product) { p.FilmMax = sheet(measure.Film(0)) }},
		{"one film only", "", func(p *Product) {
			p.FilmMin, p.FilmMax = sheet(measure.Film(1e-3)),
				sheet(measure.Film(1e-3))
		}},
		{"a film of nothing on a wall", "/filmMaxVertical", func(p *Product) { p.FilmMaxVertical = sheet(measure.Film(0)) }},
		{"a film on a wall", "", func(p *Product) { p.FilmMaxVertical = sheet(measure.Film(1e-6)) }},
		{"hides from nothing", "/hides", func(p *Product) { p.Hides = sheet(measure.Film(0)) }},
		{"hides", "", func(p *Product) { p.Hides = sheet(measure.Film(1e-6)) }},
		{"no loss", "", func(p *Product) { p.Loss = sheet(measure.Fraction(0)) }},
		{"a gain", "/loss", func(p *Product) { p.Loss = sheet(measure.Fraction(-0.01)) }},
		{"nine tenths lost", "/loss", func(p *Product) { p.Loss = sheet(measure.Fraction(0.9)) }},
		{"nothing volatile", "", func(p *Product) { p.VOC = sheet(measure.Content(0)) }},
		{"most volatile", "", func(p *Product) { p.VOC = sheet(measure.Content(1000)) }},
		{"more volatile", "/voc", func(p *Product) { p.VOC = sheet(measure.Content(1001)) }},
		{"less volatile", "/voc", func(p *Product) { p.VOC = sheet(measure.Content(-1)) }},
		{"no mixing", "", func(p *Product) { p.Mixing, p.Induction = sheet(measure.Span(0)), sheet(measure.Span(0)) }},
		{"no shelf life", "/shelfLife", func(p *Product) { p.ShelfLife = sheet(measure.Span(0)) }},
		{"a shelf life", "", func(p *Product) { p.ShelfLife = sheet(measure.Span(1)) }},
		{"P16", "", func(p *Product) { p.Abrade = sheet(measure.Number(16)) }},
		{"P15", "/abrade", func(p *Product) { p.Abrade = sheet(measure.Number(15)) }},
		{"P2000", "", func(p *Product) { p.Abrade = sheet(measure.Number(2000)) }},
		{"P2001", "/abrade", func(p *Product) { p.Abrade = sheet(measure.Number(2001)) }},
		{"no margin", "", func(p *Product) { p.DewMargin = temperature(0) }},
		{"a margin below", "/dewMargin", func(p *Product) { p.DewMargin = temperature(-0.1) }},
		{"20 K", "", func(p *Product) { p.DewMargin = temperature(20) }},
		{"21 K", "/dewMargin", func(p *Product) { p.DewMargin = temperature(21) }},
		{"one air", "/airMax", func(p *Product) { p.AirMin, p.AirMax = temperature(10), temperature(10) }},
		{"an air", "", func(p *Product) { p.AirMin, p.AirMax = temperature(10), temperature(10.1) }},
		{"only the coldest", "", func(p *Product) { p.AirMin, p.SlabMax = temperature(10), temperature(5) }},
		{"one material", "/materialMax", func(p *Product) {
			p.MaterialMin, p.MaterialMax = temperature(15),
				temperature(15)
		}},
		{"air of no water", "/humidityMax", func(p *Product) { p.HumidityMax = sheet(measure.Fraction(0)) }},
		{"full of water", "", func(p *Product) {
			p.HumidityMax, p.SlabHumidityMax = sheet(measure.Fraction(1)), sheet(measure.Fraction(1))
		}},
		{"85 for 0.85", "/humidityMax", func(p *Product) { p.HumidityMax = sheet(measure.Fraction(85)) }},
		{"a least humidity of 30", "/humidityMin", func(p *Product) { p.HumidityMin = sheet(measure.Fraction(30)) }},
		{"air damper than the dampest", "/humidityMax", func(p *Product) {
			p.HumidityMin, p.HumidityMax = sheet(measure.Fraction(0.8)), sheet(measure.Fraction(0.7))
		}},
		{"moisture of 4 parts in one", "/carbideMax", func(p *Product) { p.CarbideMax = sheet(measure.Fraction(4)) }},
		{"a spring", "/emissionMax", func(p *Product) { p.EmissionMax = sheet(measure.Emission(3)) }},
		{"a slab of 85", "/slabHumidityMax", func(p *Product) { p.SlabHumidityMax = sheet(measure.Fraction(85)) }},
		{"pigment", "", func(p *Product) { p.PigmentMax = &Portion{Value: MostAdded, Of: OfAB} }},
		{"more pigment", "/pigmentMax", func(p *Product) { p.PigmentMax = &Portion{Value: MostAdded + 0.01, Of: OfAB} }},
		{"four parts in five", "", func(p *Product) { p.SolidsMax = &Portion{Value: 0.79, Of: OfMix} }},
		{"all of the mix", "/solidsMax", func(p *Product) { p.SolidsMax = &Portion{Value: 1, Of: OfMix} }},
		{"less than none of A", "/thinnerMax", func(p *Product) { p.ThinnerMax = &Portion{Value: -0.1, Of: OfA} }},
		{"as light as they come", "", func(p *Product) { p.Density = sheet(measure.Density(500)) }},
		{"lighter", "/density", func(p *Product) { p.Density = sheet(measure.Density(499)) }},
		{"as heavy as they come", "", func(p *Product) { p.Components[0].Density = sheet(measure.Density(6000)) }},
		{"heavier", "/components/0/density", func(p *Product) { p.Components[0].Density = sheet(measure.Density(6001)) }},
		{"a trace of it", "/components/1/parts", func(p *Product) { p.Components[1].Parts = 1e-12 }},
		{"no part of it", "/components/1/parts", func(p *Product) { p.Components[1].Parts = 0 }},
		{"a single pack", "", func(p *Product) { p.Components = p.Components[:1] }},
		{"a hardener for it", "/hardeners/0", func(p *Product) { p.Components = p.Components[:1]; second(p) }},
		{"a hardener", "", func(p *Product) { second(p) }},
		{"without a name of its own", "/hardeners/0/id", func(p *Product) { second(p).ID = "" }},
		{"two of one name", "/hardeners/1/id", func(p *Product) { second(p); second(p) }},
		{"no A", "/hardeners/0/b", func(p *Product) { second(p).A = 0 }},
		{"too light", "/hardeners/0/density", func(p *Product) { second(p).Density = sheet(measure.Density(1.1)) }},
		{"kits of its own", "/hardeners/0/kits/0", func(p *Product) { second(p).Kits = []Kit{{Name: "x"}} }},
		{"a millilitre", "", func(p *Product) { p.Kits[0].Volume = new(measure.Volume(1e-6)) }},
		{"less", "/kits/0", func(p *Product) { p.Kits[0].Volume = new(measure.Volume(0.9e-6)) }},
		{"ten tonnes", "", func(p *Product) { p.Kits[0].Volume, p.Kits[0].Mass = nil, new(measure.Mass(10e3)) }},
		{"a gram", "", func(p *Product) { p.Kits[0].Volume, p.Kits[0].Mass = nil, new(measure.Mass(1e-3)) }},
		{"more tonnes", "/kits/0", func(p *Product) { p.Kits[0].Volume, p.Kits[0].Mass = nil, new(measure.Mass(10001)) }},
		{"less than a gram", "/kits/0", func(p *Product) {
			p.Kits[0].Volume, p.Kits[0].Mass = nil,
				new(measure.Mass(0.9e-3))
		}},
		{"ten cubic metres", "", func(p *Product) { p.Kits[0].Volume = new(measure.Volume(10)) }},
		{"more", "/kits/0", func(p *Product) { p.Kits[0].Volume = new(measure.Volume(10.1)) }},
		{"neither volume nor mass", "/kits/0", func(p *Product) { p.Kits[0].Volume = nil }},
		{"a mass", "", func(p *Product) { p.MixMax = sheet(measure.Mass(0.001)) }},
		{"a pot life of a negative mass", "/potLife/0",
			func(p *Product) { p.PotLife = []PotLife{{At: 20, Mass: -1, Lasts: 600}} }},
		{"of no length", "/potLife/0", func(p *Product) { p.PotLife = []PotLife{{At: 20, Mass: 1}} }},
		{"own batches scatter", "", func(p *Product) {
			p.PotLife = []PotLife{{At: 10, Mass: 5, Lasts: 600, Source: measure.OwnTest},
				{At: 20, Mass: 5, Lasts: 900, Source: measure.OwnTest}}
		}},
		{"a time of nothing", "/water/0", func(p *Product) { p.Water = []TimeAt{{At: 20}} }},
		{"a window at other temperatures", "", func(p *Product) {
			p.RecoatFrom, p.RecoatUntil = []TimeAt{hours(20, 8)},
				[]TimeAt{hours(30, 6)}
		}},
		{"a window that opens as it closes", "/recoatUntil/0",
			func(p *Product) { p.RecoatFrom, p.RecoatUntil = []TimeAt{hours(20, 8)}, []TimeAt{hours(20, 8)} }},
		{"a window", "", func(p *Product) {
			p.RecoatFrom, p.RecoatUntil = []TimeAt{hours(20, 8)},
				[]TimeAt{hours(20, 8.01)}
		}},
		{"usual kinetics", "", func(p *Product) { k := cure.Usual("epoxy", 1); p.Kinetics = &k }},
		{"no kinetics", "/kinetics", func(p *Product) { p.Kinetics = &cure.Kinetics{} }},
	} {
		p := good()
		c.set(&p)
		var want []string
		if c.field != "" {
			want = []string{c.field}
		}
		if got := fields(p.Faults()); !slices.Equal(got, want) {
			t.Errorf("%s: %v, want %v", c.name, got, want)
		}
		for _, f := range p.Faults() {
			if f.Text == "" || f.Way == "" {
				t.Errorf("%s: no words: %+v", c.name, f)
			}
		}
	}
}

func TestMediaAtTheirLimits(t *testing.T) {
	for _, c := range []struct {
		name   string
		medium Medium
		field  string
	}{
		{"plain", Medium{Kind: "flake"}, ""},
		{"50 mm", Medium{Grain: sheet(measure.Film(0.05))}, ""},
		{"51 mm", Medium{Grain: sheet(measure.Film(0.051))}, "/grain"},
		{"no grain", Medium{Grain: sheet(measure.Film(0))}, "/grain"},
		{"a density", Medium{Density: sheet(measure.Density(2600))}, ""},
		{"in kg/L", Medium{Density: sheet(measure.Density(2.6))}, "/density"},
		{"nothing bound", Medium{Bind: sheet(measure.Film(0)), Voids: sheet(measure.Film(0.05))}, ""},
		{"bound", Medium{Bind: sheet(measure.Film(0.051))}, "/bind"},
		{"less than no voids", Medium{Voids: sheet(measure.Film(-1e-6))}, "/voids"},
		{"full", Medium{Full: sheet(measure.Coverage(200))}, ""},
		{"fuller", Medium{Full: sheet(measure.Coverage(201))}, "/full"},
		{"nothing stays", Medium{Full: sheet(measure.Coverage(0))}, "/full"},
		{"spare", Medium{Spare: sheet(measure.Fraction(2))}, ""},
		{"no spare", Medium{Spare: sheet(measure.Fraction(0))}, ""},
		{"too much", Medium{Spare: sheet(measure.Fraction(2.1))}, "/spare"},
		{"less than none", Medium{Spare: sheet(measure.Fraction(-0.1))}, "/spare"},
		{"a tool", Medium{Kind: "tool", Use: &ToolUse{Per: "job", Amount: 1}}, ""},
		{"a tool for nothing", Medium{Kind: "tool", Name: "Spiked shoes"}, "/use"},
	} {
		var want []string
		if c.field != "" {
			want = []string{c.field}
		}
		if got := fields(c.medium.Faults()); !slices.Equal(got, want) {
			t.Errorf("%s: %v, want %v", c.name, got, want)
		}
	}
}

// Ten strokes on the scale win over what the pump is said to give.
func TestStrokes(t *testing.T) {
	p := Pumps{A: 30e-6, B: 15e-6}
	if a, b := p.Gives(1200, 900); a != 30e-6 || b != 15e-6 {
		t.Errorf("%v, %v", a, b)
	}
	p.TenA, p.TenB = 0.384, 0.1395 // 38.4 g of 1.2 kg/L are 32 mL; 13.95 g of 0.9 are 15.5 mL
	if a, b := p.Gives(1200, 900); math.Abs(float64(a)-32e-6) > 1e-12 || math.Abs(float64(b)-15.5e-6) > 1e-12 {
		t.Errorf("%v, %v", a, b)
	}
}

// The mass of most lines is the one a pot life is told on; of as many, the larger.
func TestLivesOfTheMassOfMostLines(t *testing.T) {
	line := func(mass measure.Mass, at measure.Temperature, lasts measure.Span) PotLife {
		return PotLife{At: at, Mass: mass, Lasts: lasts, Source: measure.Sheet}
	}
	small, large := line(0.1, 20, 2400), line(5, 20, 1500)
	for _, c := range []struct {
		lines []PotLife
		mass  measure.Mass
	}{
		{nil, 0}, {[]PotLife{small}, 0.1}, {[]PotLife{small, large}, 5}, {[]PotLife{large, small}, 5},
		{[]PotLife{small, large, line(0.1, 30, 1200)}, 0.1}, {[]PotLife{line(0, 20, 900), line(0, 30, 500), large}, 0},
	} {
		if got := (Curing{PotLife: c.lines}).Massed(); got != c.mass {
			t.Errorf("%+v: %v kg", c.lines, got)
		}
	}
	if life, mass := (Curing{}).Lives(20); life != 0 || mass != 0 {
		t.Errorf("nothing lives %v", life)
	}
}

// What tells how a mix reacts: pot lives, and the working time of a film where there
// is a pot life, too; a film that dries says nothing.
func TestWhatTellsOfAMix(t *testing.T) {
	p := good()
	p.Chemistry, p.Carrier = "epoxy", NoCarrier
	p.Viscosity = []Flow{{At: 20, Value: 0.7}, {At: 30, Value: 0.4}}
	p.Working = []TimeAt{hours(20, 0.75)}
	if s := p.Sheet(p.Mix()); len(s.Timed) != 0 || s.Density != 1100 || s.Viscosity != 0.7 ||
		!reflect.DeepEqual(s.Kinetics, cure.Usual("epoxy", 0.8)) {
		t.Errorf("%+v", s)
	}
	p.PotLife = []PotLife{{At: 20, Mass: 5, Lasts: 1500, Source: measure.Sheet}}
	films := func(want measure.Film) {
		t.Helper()
		s := p.Sheet(p.Mix())
		if len(s.Timed) != 2 || s.Timed[0] != (cure.Timed{At: 20, Mass: 5, Lasts: 1500, Source: measure.Sheet}) ||
			s.Timed[1].Film != want || s.Timed[1].Lasts != 2700 {
			t.Errorf("%+v", s.Timed)
		}
	}
	films(0.5e-3)
	p.FilmMax = sheet(measure.Film(2e-3))
	films(2e-3)
	p.FilmMin = sheet(measure.Film(1e-3))
	films(1.5e-3)
	p.Carrier = Solvent
	if s := p.Sheet(p.Mix()); len(s.Timed) != 1 {
		t.Errorf("a film that dries tells of the reaction: %+v", s.Timed)
	}
	own := cure.Usual("polyaspartic", 1)
	p.Kinetics = &own
	if !reflect.DeepEqual(p.Reacts(), own) {
		t.Errorf("%+v", p.Reacts())
	}
}

// A hardener brings its ratio and times, and what it says of kits and slabs; what it
// leaves out is the resin's.
func TestWhatAHardenerBrings(t *testing.T) {
	p := good()
	p.SlabMin, p.SlabMax = sheet(measure.Temperature(10)), sheet(measure.Temperature(30))
	p.Components[0].Other, p.Components[1].Other = 8, 3
	own := measure.Volume(0.004)
	p.Hardeners = []Hardener{
		{ID: "quick", Name: "quick", A: 4, B: 1, SlabMin: sheet(measure.Temperature(3)),
			SlabMax: sheet(measure.Temperature(20)), Kits: []Kit{{Name: "4 L", Volume: &own}}},
		{ID: "slow", Name: "slow", A: 5, B: 2},
	}
	quick, err := p.With("quick")
	if err != nil || quick.Name != "Good, quick" || quick.SlabMin.Value != 3 || quick.SlabMax.Value != 20 ||
		quick.Kits[0].Name != "4 L" || quick.Hardeners != nil ||
		quick.Components[0].Parts != 4 || quick.Components[0].Other != 0 || quick.Components[1].Name != "B" ||
		quick.Components[1].Other != 0 {
		t.Errorf("%+v, %v", quick, err)
	}
	slow, err := p.With("slow")
	if err != nil || slow.SlabMin.Value != 10 || slow.SlabMax.Value != 30 || slow.Kits[0].Name != "9 L" ||
		slow.Components[1].Parts != 2 {
		t.Errorf("%+v, %v", slow, err)
	}
	if same, err := p.With(""); err != nil || !reflect.DeepEqual(same, p) {
		t.Errorf("its own B: %+v, %v", same, err)
	}
}

// Doubts at the edge of what is usual for a chemistry, and just beyond.
func TestDoubtsAtTheEdge(t *testing.T) {
	for _, c := range []struct {
		name, field string
		set         func(*Product)
	}{
		{"as usual", "", func(*Product) {}},
		{"of an unknown kind", "", func(p *Product) { p.Chemistry, p.VolumeSolids.Value = "", 0.1 }},
		{"light", "", func(p *Product) {
			p.Components[0].Density, p.Components[1].Density = sheet(measure.Density(981)), sheet(measure.Density(981))
		}},
		{"lighter", "/components", func(p *Product) {
			p.Components[0].Density, p.Components[1].Density = sheet(measure.Density(979)), sheet(measure.Density(979))
		}},
		{"heavy", "", func(p *Product) {
			p.Components[0].Density, p.Components[1].Density = sheet(measure.Density(1750)), sheet(measure.Density(1750))
		}},
		{"heavier", "/components", func(p *Product) {
			p.Components[0].Density, p.Components[1].Density = sheet(measure.Density(1751)), sheet(measure.Density(1751))
		}},
		{"an assumed weight is no doubt of the sheet", "",
			func(p *Product) { p.Components[0].Density, p.Density = nil, nil }},
		{"thin", "", func(p *Product) { p.VolumeSolids.Value = 0.4 }},
		{"thinner", "/volumeSolids", func(p *Product) { p.VolumeSolids.Value = 0.39 }},
		{"slow paint", "", func(p *Product) { p.PotLife = []PotLife{{At: 20, Lasts: 8*measure.Hour - 1}} }},
		{"slower", "/potLife", func(p *Product) { p.PotLife = []PotLife{{At: 20, Lasts: 8*measure.Hour + 1}} }},
		{"quick", "", func(p *Product) { p.PotLife = []PotLife{{At: 20, Lasts: 8*measure.Minute + 1}} }},
		{"quicker", "/potLife", func(p *Product) { p.PotLife = []PotLife{{At: 20, Lasts: 8*measure.Minute - 1}} }},
		{"dry", "", func(p *Product) { p.TackFree = []TimeAt{hours(20, 2.01)} }},
		{"drier", "/tackFree", func(p *Product) { p.TackFree = []TimeAt{hours(20, 1.99)} }},
		{"wet", "", func(p *Product) { p.TackFree = []TimeAt{hours(20, 35.9)} }},
		{"wetter", "/tackFree", func(p *Product) { p.TackFree = []TimeAt{hours(20, 36.1)} }},
		{"nearly without", "", func(p *Product) { p.Carrier, p.VolumeSolids.Value = NoCarrier, 0.95 }},
		{"not without", "/carrier", func(p *Product) { p.Carrier, p.VolumeSolids.Value = NoCarrier, 0.94 }},
		{"some solvent", "", func(p *Product) { p.Carrier, p.VOC = Solvent, sheet(measure.Content(20)) }},
		{"hardly any", "/voc", func(p *Product) { p.Carrier, p.VOC = Solvent, sheet(measure.Content(19)) }},
		{"water needs none", "", func(p *Product) { p.Carrier, p.VOC = Water, sheet(measure.Content(19)) }},
		{"never thinned", "", func(p *Product) {
			p.Carrier, p.VolumeSolids.Value, p.ThinnerMax = NoCarrier, 1,
				&Portion{Of: OfA}
		}},
		{"thinned", "/thinnerMax", func(p *Product) {
			p.Carrier, p.VolumeSolids.Value, p.ThinnerMax = NoCarrier, 1, &Portion{Value: 0.01, Of: OfA}
		}},
		{"as much B", "", func(p *Product) { p.Components[0].Parts, p.Components[1].Parts = 40, 60 }},
		{"exchanged", "/components", func(p *Product) { p.Components[0].Parts, p.Components[1].Parts = 39, 61 }},
		{"by mass, who knows", "", func(p *Product) {
			p.Ratio.Basis, p.Components[0].Parts, p.Components[1].Parts =
				ByMass, 39, 61
		}},
		{"in its order", "", func(p *Product) {
			p.TackFree, p.RecoatFrom, p.Foot = []TimeAt{hours(20, 5)}, []TimeAt{hours(20, 5)}, []TimeAt{hours(20, 12)}
		}},
		{"out of order", "/foot", func(p *Product) { p.TackFree, p.Foot = []TimeAt{hours(20, 5)}, []TimeAt{hours(20, 4.9)} }},
		{"a window may close early", "", func(p *Product) {
			p.TackFree, p.RecoatUntil = []TimeAt{hours(20, 5)},
				[]TimeAt{hours(20, 4)}
		}},
		{"full after vehicles", "/full", func(p *Product) {
			p.Vehicle, p.Full = []TimeAt{hours(20, 72)},
				[]TimeAt{hours(20, 48)}
		}},
	} {
		p := good()
		p.Chemistry = "epoxy"
		c.set(&p)
		var got, want []string
		for _, d := range p.Doubts(measure.Metric) {
			got = append(got, d.Field)
		}
		if c.field != "" {
			want = []string{c.field}
		}
		if !slices.Equal(got, want) {
			t.Errorf("%s: %v, want %v", c.name, got, want)
		}
	}
}

// Each figure that is missing is a gap, and none once it is there.
func TestGapsCloseOneByOne(t *testing.T) {
	p := good()
	price := 100.0
	gaps := func() []string {
		var all []string
		for _, g := range p.Gaps(measure.Metric) {
			all = append(all, g.Field+" "+g.Name)
		}
		return all
	}
	temperature := sheet(measure.Temperature(10))
	for _, c := range []struct {
		gone string
		set  func()
	}{
		{"/filmMin minimum film", func() { p.FilmMin = sheet(measure.Film(1e-4)) }},
		{"/filmMax maximum film", func() { p.FilmMax = sheet(measure.Film(1e-3)) }},
		{"/filmMaxVertical maximum film on a wall", func() { p.FilmMaxVertical = sheet(measure.Film(1e-4)) }},
		{"/loss usual loss", func() { p.Loss = sheet(measure.Fraction(0.05)) }},
		{"/mixing mixing time", func() { p.Mixing = sheet(measure.Span(180)) }},
		{"/recoatFrom recoat from", func() { p.RecoatFrom = []TimeAt{hours(20, 8)} }},
		{"/recoatUntil recoat until", func() { p.RecoatUntil = []TimeAt{hours(20, 24)} }},
		{"/foot light foot traffic", func() { p.Foot = []TimeAt{hours(20, 24)} }},
		{"/full full cure", func() { p.Full = []TimeAt{hours(20, 168)} }},
		{"/slabMin minimum slab temperature", func() { p.SlabMin = temperature }},
		{"/slabMax maximum slab temperature", func() { p.SlabMax = temperature }},
		{"/voc volatile compounds", func() { p.VOC = sheet(measure.Content(0)) }},
		{"/over what it may go over", func() { p.Over = []string{"concrete"} }},
		{"/under what may go over it", func() { p.Under = []Chemistry{"epoxy"} }},
		{"/sun what daylight does to it", func() { p.Sun = "stable" }},
		{"/kits price of every kit", func() { p.Kits[0].Price = &price }},
		{"/shelfLife shelf life", func() { p.ShelfLife = sheet(measure.Span(1e7)) }},
		{"/potLife pot life", func() {
			p.PotLife = []PotLife{{At: 20, Mass: 5, Lasts: 1500}, {At: 30, Mass: 5, Lasts: 700}}
		}},
	} {
		if before := gaps(); !slices.Contains(before, c.gone) {
			t.Errorf("%s is not told: %v", c.gone, before)
		}
		c.set()
		if after := gaps(); slices.Contains(after, c.gone) {
			t.Errorf("%s is told though it is there", c.gone)
		}
	}
	if left := gaps(); len(left) != 0 {
		t.Errorf("left over: %v", left)
	}
	p.PotLife = []PotLife{{At: 20, Lasts: 1500}}
	if got := gaps(); !slices.Equal(got, []string{"/potLife mass of the pot life test",
		"/potLife pot life at a second temperature"}) {
		t.Errorf("one line without a mass: %v", got)
	}
	p.PotLife = []PotLife{{At: 20, Lasts: 1500}, {At: 30, Mass: 1, Lasts: 700}}
	p.Components[1].Density = nil
	if got := gaps(); !slices.Equal(got, []string{"/components/1/density density of B"}) {
		t.Errorf("one density missing: %v", got)
	}
	p.Kits = append(p.Kits, Kit{Name: "small"})
	if got := gaps(); !slices.Contains(got, "/kits price of every kit") {
		t.Errorf("one price missing: %v", got)
	}
	paint := good()
	paint.Components = paint.Components[:1]
	for _, name := range []string{"/density density of the mix", "/potLife pot life", "/mixing mixing time"} {
		p = paint
		if slices.Contains(gaps(), name) {
			t.Errorf("%s of a paint with a density", name)
		}
	}
	paint.Components[0].Density = nil
	p = paint
	if !slices.Contains(gaps(), "/density density of the mix") {
		t.Errorf("a paint without a density: %v", gaps())
	}
	p.Density = sheet(measure.Density(1100))
	if slices.Contains(gaps(), "/density density of the mix") {
		t.Errorf("a paint with its density: %v", gaps())
	}
}

// A value at a temperature is named by both, so that a table has a column for each temperature.
func TestLinesByTemperature(t *testing.T) {
	p := good()
	p.Viscosity = []Flow{{At: 20, Value: 0.7}}
	p.PotLife = []PotLife{{At: 12, Lasts: 2700}, {At: 24, Lasts: 1200}}
	at := map[string][]float64{}
	for _, f := range p.Facts() {
		named := fmt.Sprintf("%s at %g °C", f.Of, f.At)
		if strings.Contains(f.Name, " at ") != (f.Of != "") || f.Of != "" && f.Name != named {
			t.Errorf("%q is %q at %g", f.Name, f.Of, f.At)
		}
		if f.Of != "" {
			at[f.Of] = append(at[f.Of], f.At)
		}
	}
	for name, want := range map[string]string{"slow": "Hardener slow", "winter hardener": "Winter hardener"} {
		if got := (Hardener{Name: name}).title(); got != want {
			t.Errorf("%q is headed %q", name, got)
		}
	}
	if !slices.Equal(at["viscosity"], []float64{20}) || !slices.Equal(at["pot life"], []float64{12, 24}) {
		t.Errorf("temperatures: %v", at)
	}
}

// A whole sheet, line by line, as it is read and compared.
func TestTheLinesOfASheet(t *testing.T) {
	p := good()
	price := 49.5
	mass := measure.Mass(12)
	c := Curing{
		PotLife: []PotLife{{At: 20, Mass: 5, Lasts: 1500}, {At: 30, Lasts: 700}}, Mixing: sheet(measure.Span(180)),
		Induction: sheet(measure.Span(300)), MixMax: sheet(measure.Mass(20)),
		Working: []TimeAt{hours(20, 0.5)}, Full: []TimeAt{hours(20, 168)},
	}
	p.Curing, p.Carrier, p.Chemistry = c, Water, "epoxy"
	p.VOC, p.Viscosity, p.Loss = sheet(measure.Content(12)), []Flow{{At: 20, Value: 0.7}}, sheet(measure.Fraction(0.05))
	p.Printed = &Printed{Basis: "wet-film", Value: 3e-4}
	p.FilmMin, p.FilmMax, p.FilmMaxVertical, p.Hides = sheet(measure.Film(2e-4)), sheet(measure.Film(1e-3)),
		sheet(measure.Film(25e-5)), sheet(measure.Film(5e-4))
	p.Hardeners = []Hardener{{ID: "s", Name: "slow", Ratio: Ratio{ByMass, measure.Sheet}, A: 3, B: 1,
		Curing: Curing{Foot: []TimeAt{hours(20, 30)}}}}
	p.SlabMin, p.DewMargin, p.Damp = sheet(measure.Temperature(10)), sheet(measure.Temperature(3)), "harms"
	p.Over, p.Under, p.Abrade, p.Sun, p.Certified = []string{"concrete", "epoxy"}, []Chemistry{"epoxy"},
		sheet(measure.Number(80)), "ambers", []Contact{"food"}
	p.PigmentMax, p.ThinnerMax, p.Broadcast = &Portion{Value: 0.05, Of: OfA}, &Portion{Of: OfAB}, []string{"flake"}
	p.Kits = append(p.Kits, Kit{Name: "12 kg", Mass: &mass, Price: &price, Gone: true},
		Kit{Name: "half", Volume: p.Kits[0].Volume, Gone: true}, Kit{Name: "?"})
	p.Hazards, p.Wear = []string{"skin-sensitiser", "dust"}, []string{"gloves"}
	want := `Mix: mixing ratio = 2 : 1 by volume
Mix: the same by densities = 2.67 : 1 by mass
Mix: density of A = 1.2 kg/L
Mix: density of B = 0.9 kg/L
Mix: volume solids = 80%
Mix: carrier = water
Mix: volatile compounds = 12 g/L
Mix: viscosity at 20 °C = 700 mPa·s
Mix: mixing = 3 min
Mix: induction time = 5 min
Mix: most mixed at once = 20 kg
Film: amount as printed = 300 µm wet
Film: minimum film = 200 µm
Film: maximum film = 1 mm
Film: maximum film on a wall = 250 µm
Film: minimum hiding film = 500 µm
Film: usual loss = 5%
Times: pot life at 20 °C = 25 min on 5 kg
Times: pot life at 30 °C = 11.7 min
Times: working time at 20 °C = 30 min from when it is spread
Times: full cure at 20 °C = 7 days
Hardener slow: mixing ratio = 3 : 1 by mass
Hardener slow: light foot traffic at 20 °C = 30 h
Conditions: minimum slab temperature = 10 °C
Conditions: margin above the dew point = 3 K
Conditions: damp = damaged by it
Compatibility: goes over = concrete, epoxy
Compatibility: takes over it = epoxy
Compatibility: after the window = abrade with P80
Compatibility: daylight = ambers
Compatibility: certified for = food
Compatibility: pigment, at most = 5% of A
Compatibility: thinner = never
Compatibility: broadcast = flake
Sold and stored: kit 9 L = 9 L
Sold and stored: kit 12 kg = 12 kg for 49.50 no longer sold
Sold and stored: kit half = 9 L no longer sold
Sold and stored: hazards = skin sensitiser, dust
Sold and stored: wear = gloves
`
	var got strings.Builder
	for _, f := range p.Facts() {
		got.WriteString(f.Group + ": " + f.Name + " = " + f.Told(measure.Metric) + "\n")
	}
	if got.String() != want {
		t.Errorf("got\n%s", got.String())
	}
	p.ThinnerMax.Value = 0.1
	if !strings.Contains(told(p, "thinner, at most"), "10% of A + B") {
		t.Error(told(p, "thinner, at most"))
	}
}

func told(p Product, name string) string {
	for _, f := range p.Facts() {
		if f.Name == name {
			return f.Told(measure.Metric)
		}
	}
	return ""
}

// Both ratios may differ by what a sheet rounds, 3 %, and no more, by either basis.
func TestRatiosThatContradict(t *testing.T) {
	contradicts := func(basis Basis, a, other float64) bool {
		p := good()
		p.Ratio.Basis = basis
		p.Components[0].Parts, p.Components[0].Other, p.Components[1].Other = a, other, 1
		return slices.Contains(fields(p.Faults()), "/ratio")
	}
	// 2 : 1 by volume is 2.667 : 1 by mass; 8 : 3 by mass is 2 : 1 by volume.
	for _, c := range []struct {
		basis    Basis
		a, other float64
		want     bool
	}{
		{ByVolume, 2, 2.667, false}, {ByVolume, 2, 2.667 * 1.029, false}, {ByVolume, 2, 2.667 / 1.029, false},
		{ByVolume, 2, 2.667 * 1.035, true}, {ByVolume, 2, 2.667 / 1.035, true},
		{ByMass, 8.0 / 3, 2, false}, {ByMass, 8.0 / 3, 2.08, true}, {ByMass, 8.0 / 3, 1.9, true}, {ByVolume, 2, 0, false},
	} {
		if got := contradicts(c.basis, c.a, c.other); got != c.want {
			t.Errorf("%v : 1 by %s with %v : 1 contradicts: %v", c.a, c.basis, c.other, got)
		}
	}
	p := good()
	p.Components = p.Components[:1]
	if other, basis := p.OtherRatio(); other != "1" || basis != ByMass {
		t.Errorf("%q by %s", other, basis)
	}
	p = good()
	p.Ratio.Basis, p.Components[0].Parts = ByMass, 8.0/3
	if other, basis := p.OtherRatio(); other != "2 : 1" || basis != ByVolume {
		t.Errorf("%q by %s", other, basis)
	}
	p.Components[0].Parts = 0
	if other, _ := p.OtherRatio(); other != "" {
		t.Errorf("without parts: %q", other)
	}
}
