package cure

import (
	"math"
	"testing"

	"nephelon/core/measure"
)

func steady(at measure.Temperature, hours int) []measure.Temperature {
	all := make([]measure.Temperature, hours)
	for i := range all {
		all[i] = at
	}
	return all
}

// At a steady temperature a film takes the time of the sheet, wherever it starts.
func TestASteadyFilmTakesTheSheetsTime(t *testing.T) {
	rate, err := FitRate([]Point{{10, 14 * measure.Hour}, {20, 7 * measure.Hour}, {30, 4 * measure.Hour}})
	if err != nil {
		t.Fatal(err)
	}
	for _, at := range []measure.Temperature{10, 17.3, 20, 26, 30} {
		want, _ := rate.Time(at)
		p := rate.Along(steady(at, 72))
		for _, start := range []measure.Span{0, 1800, 7.37 * measure.Hour, 70 * measure.Hour, -3 * measure.Hour} {
			got, outside, beyond := p.Reach(start)
			if math.Abs(float64(got/want)-1) > 1e-9 || outside {
				t.Errorf("at %v from %v: %v, want %v (outside %v)", at, start, got, want, outside)
			}
			if beyond != (start < 0 || start+want > 71*measure.Hour) {
				t.Errorf("at %v from %v: beyond is %v", at, start, beyond)
			}
		}
	}
}

// A film that is half-way at 20 °C (3.5 of 7 h) when the slab is at 30 °C from
// then on takes half of the 4 h more: 5.5 h, by hand. The step lies within one
// hour, whose two ends are at 20 and 30 °C: the hour before it is lengthened.
func TestProgressAddsUp(t *testing.T) {
	rate, err := FitRate([]Point{{20, 7 * measure.Hour}, {30, 4 * measure.Hour}})
	if err != nil {
		t.Fatal(err)
	}
	hourly := append(steady(20, 4), steady(30, 40)...)
	p := rate.Along(hourly)
	got, _, _ := p.Reach(0)
	// 3 h at 20 °C, one hour on the way (about the mean of 1/7 and 1/4 an hour),
	// and the rest at 30 °C.
	mid, _ := rate.Time(25)
	way := (1.0/7 + 4*float64(measure.Hour/mid) + 1.0/4) / 6
	want := 4 + (1-3.0/7-way)*4
	if math.Abs(float64(got/measure.Hour)-want) > 2e-3 {
		t.Errorf("reached after %v h, want %v", got/measure.Hour, want)
	}
	if whole := p.passed(44 * measure.Hour); math.Abs(
		whole-p.passed(9*measure.Hour)-(p.passed(44*measure.Hour)-p.passed(9*measure.Hour))) > 1e-12 {
		t.Errorf("progress does not add up: %v", whole)
	}
}

// Against an integration in steps of a second through a day's wave.
func TestThroughADayAgainstSmallSteps(t *testing.T) {
	rate, err := FitRate([]Point{{8, 20 * measure.Hour}, {23, 6 * measure.Hour}, {33, 3 * measure.Hour}})
	if err != nil {
		t.Fatal(err)
	}
	hourly := make([]measure.Temperature, 96)
	for i := range hourly {
		hourly[i] = measure.Temperature(19 + 9*math.Sin(2*math.Pi*float64(i-9)/24))
	}
	p := rate.Along(hourly)
	for start := 0.0; start < 40*measure.Hour; start += 3.3 * measure.Hour {
		sum, s := 0.0, start
		for sum < 1 {
			need, _ := rate.Time(p.At(measure.Span(s + 0.5)))
			sum += 1 / float64(need)
			s++
		}
		got, _, beyond := p.Reach(measure.Span(start))
		if math.Abs(float64(got)-(s-start)) > 3 || beyond {
			t.Errorf("from %.1f h: %v s, in small steps %v s", start/measure.Hour, got, s-start)
		}
	}
}

// Warmer hours never make a film slower, and a later start never ends earlier.
func TestHeatAndDelay(t *testing.T) {
	rate, err := FitRate([]Point{{20, 9 * measure.Hour}})
	if err != nil {
		t.Fatal(err)
	}
	hourly := make([]measure.Temperature, 60)
	for i := range hourly {
		hourly[i] = measure.Temperature(12 + 7*math.Sin(float64(i)/3.7))
	}
	cool := rate.Along(hourly)
	for i := range hourly {
		hourly[i] += 3
	}
	warm, end := rate.Along(hourly), measure.Span(0)
	for start := measure.Span(0); start < 50*measure.Hour; start += 1234 {
		a, _, _ := cool.Reach(start)
		b, _, _ := warm.Reach(start)
		if b >= a {
			t.Fatalf("from %v: %v warmer, %v cooler", start, b, a)
		}
		if start+a < end {
			t.Fatalf("a start at %v ends at %v, before an earlier one at %v", start, start+a, end)
		}
		end = start + a
	}
	if _, outside, _ := cool.Reach(0); !outside {
		t.Error("a film at 5 °C by a point at 20 °C is not told as extrapolated")
	}
}

func BenchmarkPassage(b *testing.B) {
	rate, err := FitRate([]Point{{8, 20 * measure.Hour}, {23, 6 * measure.Hour}, {33, 3 * measure.Hour}})
	if err != nil {
		b.Fatal(err)
	}
	hourly := steady(20, 168)
	for b.Loop() {
		rate.Along(hourly).Reach(40 * measure.Hour)
	}
}
