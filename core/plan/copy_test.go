package plan

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"
	"time"

	"nephelon/core/climate"
	"nephelon/core/job"
	"nephelon/core/measure"
	"nephelon/core/survey"
)

func TestACopiedSurfaceBringsItsSheetsAndFreshIDs(t *testing.T) {
	from, to := demo(t, "seal-nursery"), demo(t, "lamp-room")
	count := 0
	id := func() string { count++; return fmt.Sprintf("new-%d", count) }
	for range 2 {
		if err := job.CopySurface(from, "rearing", &to, id); err != nil {
			t.Fatal(err)
		}
	}
	p := Make(to, measure.Metric, noon())
	if refused := p.Refused(); len(refused) > 0 {
		t.Fatal(refused)
	}
	checkLaws(t, to, p)
	original := Make(from, measure.Metric, noon()).Surfaces[0]
	for _, copied := range p.Surfaces[1:] {
		if copied.Takeoff.Area != original.Takeoff.Area || copied.Coats[2].Build.Need != original.Coats[2].Build.Need {
			t.Errorf("%v m² and %v m³, was %v and %v", copied.Takeoff.Area, copied.Coats[2].Build.Need, original.Takeoff.Area,
				original.Coats[2].Build.Need)
		}
	}
	if len(to.Products) != len(demo(t, "lamp-room").Products)+len(from.Products) || from.Job.Surfaces[0].ID != "rearing" {
		t.Errorf("%d sheets", len(to.Products))
	}
	if err := job.CopySurface(from, "nothing", &to, id); err == nil {
		t.Error("a surface that is not there was copied")
	}
}

// Film limits differ on walls: the plan says so with both numbers.
func TestAFilmThatRunsOnWallsIsTold(t *testing.T) {
	f := demo(t, "seal-nursery")
	limit := f.Products[1].FilmMaxVertical.Value
	f.Job.Surfaces[0].Coats[1].Amount.Value = float64(limit) * 1.5 * float64(f.Products[1].VolumeSolids.Value)
	found := false
	for _, w := range Make(f, measure.Metric, noon()).Findings {
		found = found || w.Path == "/job/surfaces/0/coats/1/amount" &&
			strings.HasPrefix(w.WayOut, "Put it on in 2 coats of 14")
	}
	if !found {
		t.Error("nothing is said of 285 µm on walls that hold 190 µm")
	}
}

// What runs over the poured edges of a top is bought, too.
func TestRunOffIsBought(t *testing.T) {
	f := demo(t, "oyster-bar")
	s := Make(f, measure.Metric, noon()).Surfaces[0]
	b := s.Coats[1].Build
	want := 0.0023*(float64(s.Takeoff.Area)+5.52*0.02)/(1-float64(b.Loss.Value)) + 4*5e-6 // four cups of colour
	if !near(float64(b.Need), want, 1e-9) {
		t.Errorf("%v m³, want %v", b.Need, want)
	}
}

// With a survey on every area and a forecast, a plan still follows the typing.
func BenchmarkPlanSurveyed(b *testing.B) {
	f := benchJob(rand.New(rand.NewPCG(1, 2)), demo(b, "baggage-hall").Products, 10, 5)
	f.Job.Forecast = &job.Forecast{}
	for i := range 78 {
		f.Job.Forecast.Hours = append(f.Job.Forecast.Hours, climate.Hour{At: noon().Add(time.Duration(i) * time.Hour),
			Air: measure.Temperature(15 + i%24/3), Humidity: 0.6})
	}
	for i := range f.Job.Surfaces {
		f.Job.Surfaces[i].Survey = &survey.Survey{Substrate: survey.Concrete, WaterDrop: "soaks",
			Readings: []survey.Reading{{ID: "r", Kind: survey.SlabHumidity, Value: 0.7, At: noon()}}}
	}
	for b.Loop() {
		Make(f, measure.Metric, noon())
	}
}
