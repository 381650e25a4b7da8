package material

import (
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"nephelon/core/measure"
)

// A fifth of thinner to 350 of A with 100 of B is 70 of A, 90 of A + B, 112.5 of
// the finished mix (check values of the trade: 3.5 : 1).
func TestAPercentageNeedsItsBase(t *testing.T) {
	const a, b = 350.0, 100.0
	for base, want := range map[string]float64{OfA: 70, OfAB: 90, OfMix: 112.5} {
		p := Portion{Value: 0.2, Of: base}
		if got := p.OfParts(a/(a+b)) * (a + b); math.Abs(got-want) > 1e-9 {
			t.Errorf("20 %% %s is %v, want %v", p.Words(), got, want)
		}
	}
	random := rand.New(rand.NewPCG(5, 1))
	for range 300 {
		share, whole := 0.05+0.9*random.Float64(), 10*random.Float64()
		parts := Portion{Value: measure.Fraction(0.9 * random.Float64()), Of: OfMix}
		added := parts.OfParts(share) * whole
		if got := added / (added + whole); whole > 0 && math.Abs(got-float64(parts.Value)) > 1e-12 {
			t.Fatalf("%v of the mix came out as %v", parts.Value, got)
		}
	}
}

// 2 : 1 by volume at 1.2 and 0.9 kg/L is 2.67 : 1 by mass.
func TestEitherRatioDerivesTheOther(t *testing.T) {
	p := good()
	if other, basis := p.OtherRatio(); other != "2.67 : 1" || basis != ByMass {
		t.Errorf("%s by %s", other, basis)
	}
	p.Components[0].Other, p.Components[1].Other = 8, 3
	if faults := p.Faults(); len(faults) > 0 {
		t.Errorf("both ratios agree, yet %v", faults)
	}
	p.Components[0].Other = 7
	faults := p.Faults()
	if len(faults) != 1 || faults[0].Field != "/ratio" || !strings.Contains(faults[0].Text, "2.333 : 1") ||
		!strings.Contains(faults[0].Text, "2.667 : 1") {
		t.Errorf("ratios that contradict: %+v", faults)
	}
	p.Components[1].Density = nil
	if other, _ := p.OtherRatio(); other != "" {
		t.Errorf("without a density the other ratio is %q", other)
	}
}

func hours(at measure.Temperature, h float64) TimeAt {
	return TimeAt{at, measure.Span(h * measure.Hour), measure.Sheet}
}

func TestTimesThatCannotBe(t *testing.T) {
	cases := []struct {
		field, says string
		spoil       func(*Product)
	}{
		{"/tackFree", "increases with temperature: 4 h at 10 °C, 6 h at 20 °C",
			func(p *Product) { p.TackFree = []TimeAt{hours(20, 6), hours(10, 4)} }},
		{"/foot", "two times at 20 °C", func(p *Product) { p.Foot = []TimeAt{hours(20, 6), hours(20, 7)} }},
		{"/recoatUntil/0", "ends after 6 h, before it begins after 8 h", func(p *Product) {
			p.RecoatFrom, p.RecoatUntil = []TimeAt{hours(20, 8)}, []TimeAt{hours(20, 6)}
		}},
		{"/potLife", "Pot life increases with temperature", func(p *Product) {
			p.PotLife = []PotLife{{At: 10, Mass: 5, Lasts: 600}, {At: 20, Mass: 5, Lasts: 900}}
		}},
		{"/slabMax", "no warmer than the coldest", func(p *Product) {
			p.SlabMin, p.SlabMax = sheet(measure.Temperature(20)), sheet(measure.Temperature(10))
		}},
		{"/thinnerMax", "cannot be added", func(p *Product) { p.ThinnerMax = &Portion{Value: 1.2, Of: OfMix} }},
		{"/kits/1/name", "Two kits", func(p *Product) { p.Kits = append(p.Kits, p.Kits[0]) }},
		{"/hardeners/0/b", "no ratio", func(p *Product) { p.Hardeners = []Hardener{{ID: "x", Name: "Quick", A: 2}} }},
		{"/hardeners/0/potLife/0", "Quick: Pot life", func(p *Product) {
			p.Hardeners = []Hardener{{ID: "x", Name: "Quick", A: 2, B: 1, Curing: Curing{PotLife: []PotLife{{At: 20}}}}}
		}},
	}
	for _, c := range cases {
		p := good()
		c.spoil(&p)
		if faults := p.Faults(); len(faults) != 1 || faults[0].Field != c.field || !strings.Contains(faults[0].Text, c.says) {
			t.Errorf("%s: %+v", c.field, faults)
		}
	}
	// The same pot life test on another mass is another line, not a contradiction.
	p := good()
	p.PotLife = []PotLife{{At: 20, Mass: 1, Lasts: 1800}, {At: 25, Mass: 0.1, Lasts: 2400}}
	if faults := p.Faults(); len(faults) > 0 {
		t.Errorf("two masses: %v", faults)
	}
}

// Printed times come out as printed; between them time falls as Arrhenius says.
func TestTimesBetweenAndBeyond(t *testing.T) {
	points := []TimeAt{hours(10, 20), hours(20, 10), hours(30, 5)}
	for at, want := range map[measure.Temperature]float64{10: 20, 20: 10, 30: 5} {
		if got, outside := (Curing{TackFree: points}).Reach(StageTackFree, at); math.Abs(float64(got)/measure.Hour-want) >
			1e-9 || outside {
			t.Errorf("at %v: %v h", at, float64(got)/measure.Hour)
		}
	}
	last := math.Inf(1)
	for at := measure.Temperature(0); at <= 45; at++ {
		got, outside := (Curing{TackFree: points}).Reach(StageTackFree, at)
		if float64(got) >= last || outside != (at < 10 || at > 30) {
			t.Errorf("at %v: %v after %v, outside %v", at, got, last, outside)
		}
		last = float64(got)
	}
	// The last chance for the next coat is not put off by cold that the sheet does not name
	// (6 and 2 °C against 60 h at 10 °C), and makers print equal times at two temperatures.
	window := Curing{RecoatUntil: []TimeAt{hours(10, 60), hours(20, 60), hours(30, 36)}}
	if faults := window.faults(); len(faults) > 0 {
		t.Errorf("equal times: %v", faults)
	}
	for at, want := range map[measure.Temperature]float64{2: 60, 6: 60, 10: 60, 15: 60, 20: 60, 30: 36} {
		if got, outside := window.Reach(StageRecoatUntil, at); math.Abs(float64(got)/measure.Hour-want) > 1e-9 ||
			outside != (at < 10) {
			t.Errorf("the window at %v: %v h, outside %t", at, float64(got)/measure.Hour, outside)
		}
	}
	if got, _ := (Curing{}).Reach(StageTackFree, 20); got != 0 {
		t.Errorf("no points give %v", got)
	}
	life, mass := Curing{PotLife: []PotLife{{At: 20, Mass: 5, Lasts: 1500}, {At: 30, Mass: 5, Lasts: 700},
		{At: 20, Mass: 0.1, Lasts: 3000}}}.Lives(20)
	if math.Abs(float64(life)-1500) > 1e-6 || mass != 5 {
		t.Errorf("%v on %v kg", life, mass)
	}
}

func TestAHardenerTakesThePlaceOfB(t *testing.T) {
	p := good()
	p.PotLife = []PotLife{{At: 20, Lasts: 1500}}
	p.Hardeners = []Hardener{{ID: "slow", Name: "slow", Ratio: Ratio{ByVolume, measure.OwnTest}, A: 3, B: 1,
		Density: sheet(measure.Density(1000)), Curing: Curing{PotLife: []PotLife{{At: 20, Lasts: 3600}}}}}
	slow, err := p.With("slow")
	if err != nil {
		t.Fatal(err)
	}
	if m := slow.Mix(); math.Abs(m.Shares[0].Volume-0.75) > 1e-12 || math.Abs(float64(m.Density.Value)-1150) > 1e-9 ||
		slow.PotLife[0].Lasts != 3600 {
		t.Errorf("%+v, %v", m, slow.PotLife)
	}
	if m := p.Mix(); math.Abs(m.Shares[0].Volume-2.0/3) > 1e-12 {
		t.Errorf("the sheet itself changed: %+v", m)
	}
	if _, err := p.With("quick"); err == nil {
		t.Error("a hardener that is not there was taken")
	}
}

// A careful reader asks about what is unusual, and knows what a gap costs.
func TestDoubtsAndGaps(t *testing.T) {
	p := good()
	p.Chemistry, p.Carrier = "epoxy", NoCarrier
	p.PotLife = []PotLife{{At: 20, Lasts: 26}} // seconds typed for minutes
	p.ThinnerMax = &Portion{Value: 0.05, Of: OfA}
	p.TackFree, p.RecoatFrom = []TimeAt{hours(20, 9)}, []TimeAt{hours(20, 5)}
	said := ""
	for _, d := range p.Doubts(measure.Metric) {
		said += d.Field + " " + d.Text + "\n"
	}
	for _, words := range []string{"/potLife A pot life of 0.4 min at 20 °C is unusual", "/carrier", "/thinnerMax",
		"/recoatFrom At 20 °C it reaches “recoat from” after 5 h, before “tack-free” after 9 h"} {
		if !strings.Contains(said, words) {
			t.Errorf("%q is not asked: %s", words, said)
		}
	}
	gaps := p.Gaps(measure.Metric)
	has := func(field string) bool {
		for _, g := range gaps {
			if g.Field == field && g.Costs != "" {
				return true
			}
		}
		return false
	}
	for _, field := range []string{"/filmMin", "/recoatUntil", "/voc", "/sun", "/kits", "/potLife"} {
		if !has(field) {
			t.Errorf("the gap %s is not told", field)
		}
	}
	if has("/tackFree") || has("/components/0/density") {
		t.Errorf("a gap that is none: %v", gaps)
	}
}

// An edition is told by the lines in which it differs.
func TestEditionsDiffer(t *testing.T) {
	older := good()
	older.PotLife = []PotLife{{At: 20, Mass: 5, Lasts: 1680, Source: measure.Sheet}}
	newer := older
	newer.PotLife = []PotLife{{At: 20, Mass: 5, Lasts: 1500, Source: measure.Sheet},
		{At: 30, Mass: 5, Lasts: 720, Source: measure.Sheet}}
	newer.Loss = sheet(measure.Fraction(0.05))
	want := []Revised{{"usual loss", "", "5%"}, {"pot life at 20 °C", "28 min on 5 kg", "25 min on 5 kg"},
		{"pot life at 30 °C", "", "12 min on 5 kg"}}
	changes := newer.Changes(older, measure.Metric)
	if len(changes) != len(want) {
		t.Fatalf("%+v", changes)
	}
	for i, c := range changes {
		if c != want[i] {
			t.Errorf("%+v, want %+v", c, want[i])
		}
	}
	if back := older.Changes(newer, measure.Metric); len(back) != 3 || back[1].Is != "" {
		t.Errorf("back again: %+v", back)
	}
	if same := older.Changes(older, measure.US); len(same) != 0 {
		t.Errorf("against itself: %+v", same)
	}
}

// A share of the mass follows the densities: 2 : 1 at 1.2 and 0.9 is 8 parts in 11.
func TestAPortionOfAPart(t *testing.T) {
	if got := good().Mix().MassShare(); math.Abs(got-8.0/11) > 1e-12 {
		t.Errorf("A is %v of the mass", got)
	}
	for base, words := range map[string]string{OfA: "of A", OfAB: "of A + B", OfMix: "of the finished mix"} {
		if got := (Portion{Of: base}).Words(); got != words {
			t.Errorf("%s: %s", base, got)
		}
	}
}
