package cure

import (
	"math"
	"math/rand/v2"
	"testing"

	"nephelon/core/measure"
)

func sheetOf(t testing.TB, chemistry string, mass measure.Mass, points ...Point) Life {
	t.Helper()
	l, err := NewLife(Sheet{Points: points, Mass: mass, Density: 1120, Kinetics: Usual(chemistry, 1)})
	if err != nil {
		t.Fatal(err)
	}
	return l
}

// At the sheet's own mass the sheet's own times come out, each of them.
func TestTheSheetsOwnPotLifeComesOut(t *testing.T) {
	for _, chemistry := range []string{"epoxy", "polyurethane", "polyaspartic", "polyester"} {
		l := sheetOf(t, chemistry, 5, Point{10, 3600}, Point{20, 1620}, Point{30, 800})
		for _, p := range []Point{{10, 3600}, {20, 1620}, {30, 800}} {
			got, outside, err := l.Of(Vessel{Mass: 5, Density: 1120, Loss: usualLoss, Start: p.At, Air: p.At})
			if err != nil || outside || !near(float64(got), float64(p.Time), 1e-9) {
				t.Errorf("%s at %v: %v, want %v (%v)", chemistry, p.At, got, p.Time, err)
			}
		}
	}
}

// More mass, warmer parts and warmer air never lengthen a life; ice and shade
// do, warm water shortens it; and far from the sheet it says so.
func TestLifeFallsWithMassAndHeat(t *testing.T) {
	l := sheetOf(t, "epoxy", 2, Point{15, 2700}, Point{25, 1200})
	random := rand.New(rand.NewPCG(4, 4))
	for range 60 {
		v := Vessel{Mass: measure.Mass(0.2 * math.Exp(4*random.Float64())), Density: 1120, Loss: usualLoss, Start: measure.Temperature(12 + 18*random.Float64())}
		v.Air = v.Start
		base, _, err := l.Of(v)
		if err != nil {
			t.Fatal(err)
		}
		heavier, hotter, sunny := v, v, v
		heavier.Mass *= 1.5
		hotter.Start, hotter.Air = v.Start+3, v.Air+3
		sunny.Air += 12
		for name, other := range map[string]Vessel{"heavier": heavier, "warmer": hotter, "in warmer air": sunny} {
			if got, _, err := l.Of(other); err != nil || float64(got) > float64(base)*1.003 {
				t.Errorf("%s than %+v lives %v after %v (%v)", name, v, got, base, err)
			}
		}
	}
	lives := make(map[Standing]measure.Span)
	for _, standing := range []Standing{InAir, InShade, InIce, InWarm} {
		table, err := l.Over(0.5, 20, 24, 30, standing)
		if err != nil {
			t.Fatal(err)
		}
		lives[standing] = table.Life(8)
	}
	if lives[InIce] <= lives[InShade] || lives[InShade] <= lives[InAir] || lives[InWarm] >= lives[InAir] {
		t.Errorf("8 kg live %v", lives)
	}
	if _, outside, _ := l.Of(Vessel{Mass: 1, Density: 1120, Loss: usualLoss, Start: 34, Air: 34}); !outside {
		t.Error("nothing says that 34 °C lies outside the sheet")
	}
}

// The table between its points against the life itself.
func TestTableAgainstLife(t *testing.T) {
	l := sheetOf(t, "epoxy", 2, Point{20, 1800})
	table, err := l.Over(0.3, 30, 22, 22, InAir)
	if err != nil {
		t.Fatal(err)
	}
	for _, mass := range []measure.Mass{0.3, 0.5, 1.1, 2, 4.7, 9, 17, 30} {
		want, _, err := l.Of(Vessel{Mass: mass, Density: 1120, Loss: usualLoss, Start: 22, Air: 22})
		if err != nil || !near(float64(table.Life(mass)), float64(want), 0.03) {
			t.Errorf("%v kg: %v by table, %v (%v)", mass, table.Life(mass), want, err)
		}
	}
	if _, err := l.Over(2, 1, 20, 20, InAir); err == nil {
		t.Error("masses exchanged gave a table")
	}
}

// A quick life against the same kinetics run a thousand times as tight.
func TestQuickLivesAreNearlyRight(t *testing.T) {
	l := sheetOf(t, "epoxy", 2, Point{20, 1800})
	tight, err := Calibrate(Usual("epoxy", 1), l.sheet, 1800)
	if err != nil {
		t.Fatal(err)
	}
	for _, mass := range []measure.Mass{0.3, 1, 4, 16, 40} {
		for _, start := range []measure.Temperature{10, 20, 32} {
			v := Vessel{Mass: mass, Density: 1120, Loss: usualLoss, Start: start, Air: start}
			reference := v
			reference.Mass = 2
			got, _, err := l.Of(v)
			if err != nil {
				t.Fatal(err)
			}
			here, err := run(tight, v, 60*measure.Hour, true, usualTolerance/100)
			if err != nil {
				t.Fatal(err)
			}
			there, err := run(tight, reference, 60*measure.Hour, true, usualTolerance/100)
			if err != nil {
				t.Fatal(err)
			}
			printed, _ := l.rate.Time(start)
			if want := printed * *here.Gel / *there.Gel; !near(float64(got), float64(want), 0.01) {
				t.Errorf("%v kg at %v: %v, tight %v", mass, start, got, want)
			}
		}
	}
}

// Every pail of a wide field can be followed, also where a step leaps into the
// runaway and has to be taken back.
func TestNoPailIsLost(t *testing.T) {
	for _, l := range []Life{
		sheetOf(t, "epoxy", 12, Point{10, 2710}, Point{20, 1260}, Point{30, 600}),
		sheetOf(t, "polyaspartic", 4, Point{5, 1900}, Point{20, 1020}, Point{30, 640}),
		sheetOf(t, "polyester", 0.5, Point{20, 720}),
	} {
		for celsius := 4.0; celsius < 40; celsius += 0.61 {
			for mass := 0.05; mass < 60; mass *= 1.21 {
				at := measure.Temperature(celsius)
				if life, _, err := l.Of(l.Pail(measure.Mass(mass), at, at, InAir)); err != nil || math.IsNaN(float64(life)) || life <= 0 {
					t.Fatalf("%v kg at %v °C: %v, %v", mass, celsius, life, err)
				}
			}
		}
	}
}

// Calibration finds the rate of any pot life, minutes to a day.
func TestCalibrateFindsAnyPotLife(t *testing.T) {
	for _, life := range []measure.Span{240, 900, 3600, 5 * measure.Hour, 24 * measure.Hour} {
		k, err := Calibrate(Epoxy(), pail(3), life)
		if err != nil {
			t.Errorf("%v: %v", life, err)
			continue
		}
		if h, err := Run(k, pail(3), 2*life, true); err != nil || h.Gel == nil || !near(float64(*h.Gel), float64(life), 1e-6) {
			t.Errorf("%v came out as %v", life, h.Gel)
		}
	}
}

// 3 kg at 18 °C with 1 kg at 30 °C are 21 °C.
func TestMixedTemperature(t *testing.T) {
	if got := Mixed(Part{3, 18}, Part{1, 30}); !near(float64(got), 21, 1e-12) {
		t.Errorf("%v", got)
	}
}

// BenchmarkSurface is a drawing of 60 masses by 40 temperatures. The aim is
// 250 ms on one core.
func BenchmarkSurface(b *testing.B) {
	l := sheetOf(b, "epoxy", 2, Point{10, 3600}, Point{20, 1620}, Point{30, 800})
	masses, temperatures := make([]measure.Mass, 60), make([]measure.Temperature, 40)
	for i := range masses {
		masses[i] = measure.Mass(0.1 * math.Exp(float64(i)/59*math.Log(300)))
	}
	for i := range temperatures {
		temperatures[i] = measure.Temperature(5 + float64(i)*35/39)
	}
	for b.Loop() {
		if _, err := l.Surface(masses, temperatures); err != nil {
			b.Fatal(err)
		}
	}
}

// BenchmarkTable is what a plan asks for each product.
func BenchmarkTable(b *testing.B) {
	for b.Loop() {
		l := sheetOf(b, "epoxy", 2, Point{10, 3600}, Point{20, 1620}, Point{30, 800})
		if _, err := l.Over(0.5, 25, 24, 24, InAir); err != nil {
			b.Fatal(err)
		}
	}
}
