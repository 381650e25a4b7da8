package plan

import (
	"context"
	"strings"
	"testing"
	"time"

	"nephelon/core/facts"
	"nephelon/core/job"
	"nephelon/core/measure"
	"nephelon/core/plan/whatif"
	"nephelon/core/survey"
)

func hoursOf(t *testing.T, f job.File, coat string, at *time.Time) []whatif.PourHour {
	t.Helper()
	all, err := NewPlanner().Hours(context.Background(), f, facts.At(noon()), measure.Metric, coat, at)
	if err != nil {
		t.Fatal(err)
	}
	return all
}

// Two hours of work fit a shift that ends at 16:00 until 14:00, and no later; nothing fits at night. Without a film
// below no window is told. One hour that is asked for comes with its odds.
func TestHoursOfACoat(t *testing.T) {
	f := slowHall(t, 1)
	f.Job.Zone, f.Job.Start = "UTC", "2031-05-07T08:00"
	coat := f.Job.Surfaces[0].Coats[0].ID
	all := hoursOf(t, f, coat, nil)
	if len(all) != 27 || all[0].At.Hour() != 7 || all[9].At.Day() != 8 {
		t.Fatalf("%d hours from %+v", len(all), all[0])
	}
	takes := pourOf(t, f).Run.Ends - pourOf(t, f).Run.Begins
	marked := 0
	for n, h := range all {
		left := measure.Span(9-n%9)*measure.Hour - takes
		if told := strings.Contains(strings.Join(h.Against, " "), "the shift ends 16:00"); told == (left >= 0) {
			t.Errorf("%v: %v with %v s left", h.At, h.Against, left)
		}
		if h.Best {
			marked++
		}
		if h.Opens != nil || h.Closes != nil || h.Odds != nil || h.Best && (len(h.Against) > 0 || !h.Makes) {
			t.Errorf("%+v", h)
		}
	}
	if marked != 1 {
		t.Errorf("%d hours are the best", marked)
	}
	// By the clock on site, whatever zone the question names: 07:30 in Oslo in May is 05:30 UTC.
	oslo := f
	oslo.Job.Zone = "Europe/Oslo"
	for hour, works := range map[int]bool{4: false, 5: true} {
		at := time.Date(2031, 5, 7, hour, 30, 0, 0, time.UTC)
		h := hoursOf(t, oslo, coat, &at)[0]
		if told := strings.Contains(strings.Join(h.Against, " "), "Nobody works then"); told == works {
			t.Errorf("%v in Oslo: %v", at, h.Against)
		}
	}
	oslo.Job.Start = ""
	if h := hoursOf(t, oslo, coat, nil); len(h) == 0 || h[0].At.In(time.UTC).Minute() != 0 || h[0].At.Hour() < 7 ||
		h[0].At.Hour() > 15 {
		t.Errorf("without a start: %+v", h)
	}
	night := time.Date(2031, 5, 7, 22, 0, 0, 0, time.UTC)
	one := hoursOf(t, f, coat, &night)
	if len(one) != 1 || one[0].Odds == nil || !strings.Contains(strings.Join(one[0].Against, " "), "Nobody works then") {
		t.Errorf("at night: %+v", one)
	}
}

// A coat on another one has its window, before and after which it is told; through a day that warms until three and
// cools then, an hour after that is the best, and rain is told. By hand: the film below opens 8 h after it is
// laid and closes 26 h after it was begun, at 20 °C (its sheet).
func TestTheBestHourLiesInTheWindowOnAFallingSlab(t *testing.T) {
	f := laidJob(t, demoShelf(t), coat("undertow-mb2", 300), coat("keelbody-100", 500))
	f.Job.Zone, f.Job.Start = "UTC", "2031-05-07T07:00"
	second := f.Job.Surfaces[0].Coats[1].ID
	first := Make(f, measure.Metric, noon()).Surfaces[0].Coats[0].Times
	for _, h := range hoursOf(t, f, second, nil) {
		against := strings.Join(h.Against, " ")
		early, late := h.At.Before(*h.Opens), h.At.After(*h.Closes)
		if early != strings.Contains(against, "film below is ready") ||
			late != strings.Contains(against, "window of the film") {
			t.Errorf("%v between %v and %v: %s", h.At, h.Opens, h.Closes, against)
		}
		if h.Opens.Before(*first.End) || h.Closes.Before(*h.Opens) {
			t.Errorf("a window from %v to %v over a coat that ends %v", h.Opens, h.Closes, first.End)
		}
	}
	// Outdoors the slab follows the day; the crew works until eight.
	g := laidJob(t, demoShelf(t), coat("keelbody-100", 500))
	g.Job.Zone, g.Job.Start = "UTC", "2031-05-07T07:00"
	g.Job.Hours = &job.Hours{Days: []job.Weekday{job.Wednesday}, From: "07:00", Until: "20:00"}
	g.Job.Surfaces[0].Survey = &survey.Survey{Substrate: survey.Concrete, WaterDrop: "soaks", Soundness: "sound"}
	warms := func(hour int) float64 { // from 16 °C at five to 26 °C at three, and back
		h := float64(hour % 24)
		if h <= 15 {
			return 16 + max(0, h-5)
		}
		return 26 - (h-15)*1.2
	}
	forecastOf(&g, time.Date(2031, 5, 7, 0, 0, 0, 0, time.UTC), 72, warms)
	only := g.Job.Surfaces[0].Coats[0].ID
	var best *whatif.PourHour
	all := hoursOf(t, g, only, nil)
	for n := range all {
		if all[n].Best {
			best = &all[n]
		}
	}
	if best == nil || !best.Falls || best.At.Hour() < 13 {
		t.Fatalf("the best of %d: %+v", len(all), best)
	}
	if !strings.Contains(strings.Join(best.For, ", "), "the slab cools") ||
		!strings.Contains(strings.Join(best.For, ", "), "above the dew point") {
		t.Errorf("%v", best.For)
	}
	for n := range g.Job.Forecast.Hours { // the whole evening is wet
		if h := g.Job.Forecast.Hours[n].At.Hour(); h >= 12 {
			g.Job.Forecast.Hours[n].Humidity = 0.99
		}
	}
	for _, h := range hoursOf(t, g, only, nil) {
		if h.At.Hour() >= 13 && len(h.Against) == 0 || h.Best && h.At.Hour() > 12 {
			t.Errorf("wet at %v: %+v", h.At, h)
		}
	}
}
