package plan

import (
	"math"
	"slices"
	"strings"
	"testing"
	"time"

	"nephelon/core/climate"
	"nephelon/core/finding"
	"nephelon/core/job"
	"nephelon/core/material"
	"nephelon/core/measure"
)

func starting(f *job.File, at time.Time) { f.Job.Start = job.Local(at.Format(time.RFC3339Nano)) }

// forecastOf is hours of air at a temperature, which an unheated slab takes on.
func forecastOf(f *job.File, from time.Time, hours int, air func(hour int) float64) {
	f.Job.Forecast = &job.Forecast{Place: "Quay", Told: from}
	for h := range hours {
		f.Job.Forecast.Hours = append(f.Job.Forecast.Hours, climate.Hour{At: from.Add(time.Duration(h) * time.Hour), Air: measure.Temperature(air(h)), Humidity: 0.5})
	}
}

func saying(p Plan, words string) *finding.Finding {
	at := slices.IndexFunc(p.Findings, func(f finding.Finding) bool { return strings.Contains(f.Text, words) })
	if at < 0 {
		return nil
	}
	return &p.Findings[at]
}

// In steady weather the clock is the sheet's: the second coat goes on as soon as
// the window of the first opens, counted from its last section, and each pail's
// clock runs from when A meets B.
func TestTheClockOfAJob(t *testing.T) {
	s := demoShelf(t)
	f := laidJob(t, s, coat("keelbody-100", 800), coat("hardtack-clear", 250))
	start := noon().Add(20 * time.Hour)
	starting(&f, start)
	forecastOf(&f, noon(), 300, func(int) float64 { return 20 })
	p := Make(f, measure.Metric, noon())
	first, second := p.Surfaces[0].Coats[0], p.Surfaces[0].Coats[1]
	if !first.Times.Start.Equal(start) || math.Abs(first.Times.End.Sub(start).Minutes()-40.0/90*60) > 0.01 {
		t.Errorf("40 m² by two people at 45 m²/h: %v to %v", first.Times.Start, first.Times.End)
	}
	from, _ := material.Reach(s.product(t, "keelbody-100").RecoatFrom, 20)
	if opens := first.Times.stage("recoatFrom"); !near(float64(opens.After), float64(from), 1e-6) || !second.Times.Start.Equal(*opens.At) {
		t.Errorf("the window opens %v after (want %v); coat 2 starts at %v", opens.After, from, second.Times.Start)
	}
	until, _ := material.Reach(s.product(t, "keelbody-100").RecoatUntil, 20)
	if closes := first.Times.stage("recoatUntil"); math.Abs(closes.At.Sub(start).Seconds()-float64(until)) > 1 {
		t.Errorf("the first section closes at %v, want %v s after %v", closes.At, until, start)
	}
	arrives := start
	for _, c := range first.Cards {
		if c.Meets == nil {
			t.Fatalf("batch %d has no clock", c.Batch)
		}
		prepared := time.Duration((float64(c.Mixing) + 60) * float64(time.Second))
		if gap := c.Meets.Add(prepared).Sub(arrives); gap.Abs() > time.Second {
			t.Errorf("batch %d comes %v from when it is wanted", c.Batch, gap)
		}
		if left := c.UseBy.Sub(*c.Meets).Seconds(); left != float64(c.PotLife) {
			t.Errorf("batch %d lives %v s, its card says %v", c.Batch, left, c.PotLife)
		}
		arrives = arrives.Add(time.Duration(float64(first.Times.Spread) * float64(c.Volume/first.Division.Mixed) * float64(time.Second)))
	}
	if !near(float64(arrives.Sub(start)), float64(first.Times.End.Sub(start)), 1e-6) {
		t.Errorf("the batches run out at %v, the coat ends at %v", arrives, first.Times.End)
	}
}

// A cold night makes the window open later than the afternoon promised, and a
// wait that would do at the slab planned for is then too short.
func TestAColdNightDelaysTheWindow(t *testing.T) {
	s := demoShelf(t)
	f := laidJob(t, s, coat("keelbody-100", 800), after(coat("hardtack-clear", 250), 12))
	starting(&f, noon().Add(5*time.Hour))
	steady := Make(f, measure.Metric, noon())
	if saying(steady, "takes the next coat from") != nil {
		t.Fatalf("12 h are too early at 20 °C: %v", texts(steady.Findings))
	}
	forecastOf(&f, noon(), 300, func(h int) float64 {
		if h > 6 {
			return 11
		}
		return 20
	})
	cold := Make(f, measure.Metric, noon())
	a, b := steady.Surfaces[0].Coats[0].Times.stage("recoatFrom"), cold.Surfaces[0].Coats[0].Times.stage("recoatFrom")
	if b.After <= a.After || a.Beyond || b.Beyond {
		t.Errorf("it opens after %v at 20 °C, through the night after %v", a.After, b.After)
	}
	told := saying(cold, "takes the next coat from")
	if told == nil || !strings.Contains(told.Text, "on the slab that the forecast brings") || told.Fix == nil {
		t.Errorf("the wait is not called short: %v", texts(cold.Findings))
	}
	f.Job.Forecast.Hours = f.Job.Forecast.Hours[:9]
	if c := Make(f, measure.Metric, noon()).Surfaces[0].Coats[0].Times.stage("full"); !c.Beyond {
		t.Error("a full cure past the forecast does not say so")
	}
}

// A crew that covers one surface after the other comes back too late to the
// first; the way out mends it.
func TestTheCrewComesTooLate(t *testing.T) {
	s := demoShelf(t)
	f := laidJob(t, s, coat("slipstream-pa", 250), coat("slipstream-pa", 250))
	starting(&f, noon())
	f.Job.Crew.Spreaders, f.Job.Crew.Pace.Value = 1, 3.0/measure.Hour
	second := f.Job.Surfaces[0]
	second.ID, second.Name = "t", "Turning place"
	second.Coats = slices.Clone(second.Coats)
	second.Coats[0].ID, second.Coats[1].ID = "x", "y"
	f.Job.Surfaces = append(f.Job.Surfaces, second)
	told := saying(Make(f, measure.Metric, noon()), "Loading quay: the crew comes to coat 2 at")
	if told == nil || told.Fix == nil || told.Fix.Patch[0].Path != "/job/surfaces/0/coats/1/abraded" {
		t.Fatalf("nothing is said: %v", texts(Make(f, measure.Metric, noon()).Findings))
	}
	f.Job.Surfaces[0].Coats[1].Abraded = true
	if saying(Make(f, measure.Metric, noon()), "Loading quay: the crew comes to coat 2") != nil {
		t.Error("it is said of a coat that is abraded")
	}
}

// A slab outside the limits of a sheet is told, planned or forecast.
func TestASlabOutsideItsSheet(t *testing.T) {
	f := laidJob(t, demoShelf(t), coat("keelbody-100", 800))
	f.Job.Slab = &measure.Sourced[measure.Temperature]{Value: 3, Source: measure.OwnTest}
	if told := saying(Make(f, measure.Metric, noon()), "goes on a slab of 3 °C; its sheet refuses all but"); told == nil || told.WayOut == "" {
		t.Errorf("a slab at 3 °C passes: %v", texts(Make(f, measure.Metric, noon()).Findings))
	}
	f.Job.Slab = nil
	starting(&f, noon().Add(30*time.Hour))
	forecastOf(&f, noon(), 100, func(int) float64 { return 2 })
	if told := saying(Make(f, measure.Metric, noon()), "goes on a slab of 2 °C at Wed 18:00"); told == nil {
		t.Errorf("a forecast of 2 °C passes: %v", texts(Make(f, measure.Metric, noon()).Findings))
	}
	if bare := Make(laidJob(t, demoShelf(t), coat("keelbody-100", 800)), measure.Metric, noon()).Surfaces[0].Coats[0].Times; bare.Start != nil || len(bare.Stages) == 0 || bare.Stages[0].At != nil {
		t.Errorf("without a start there are no clock times: %+v", bare)
	}
}

func BenchmarkPlanThroughAForecast(b *testing.B) {
	f := laidJob(b, demoShelf(b), coat("undertow-mb2", 300), coat("keelbody-100", 800), coat("hardtack-clear", 250))
	starting(&f, noon())
	forecastOf(&f, noon(), 168, func(h int) float64 { return 17 + 6*math.Sin(float64(h)/4) })
	for b.Loop() {
		Make(f, measure.Metric, noon())
	}
}
