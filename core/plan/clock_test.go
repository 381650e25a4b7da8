package plan

import (
	"context"
	"encoding/json"
	"regexp"
	"testing"
	"time"

	"nephelon/core/facts"
	"nephelon/core/measure"
)

// Whoever has a clock of twelve hours reads no other in a plan: times that machines read have
// a date before them.
func TestAPlanIsToldByOneClock(t *testing.T) {
	spoken := regexp.MustCompile(`[^T0-9:.+-]([01][0-9]|2[0-3]):[0-5][0-9][^:0-9][^"]{0,40}`)
	halves := regexp.MustCompile(`[0-9]:[0-5][0-9] [AP]M`)
	told := 0
	for _, name := range []string{"baggage-hall", "lamp-room", "oyster-bar", "seal-nursery", "settling-basin"} {
		f := demo(t, name)
		f.Job.Start = "2031-06-03T06:10"
		text, err := json.Marshal(Make(f, measure.Metric.With(measure.Clock12), noon()))
		if err != nil {
			t.Fatal(err)
		}
		for _, found := range spoken.FindAllString(string(text), -1) {
			if !halves.MatchString(found) {
				t.Errorf("%s tells %q", name, found)
			}
		}
		told += len(halves.FindAll(text, -1))
	}
	if told < 10 {
		t.Errorf("only %d times are told", told)
	}
}

// A job that names no time zone lies in that of whoever plans: its start, and every time told, is by that clock.
func TestAJobWithoutAZoneLiesWhereItsPlannerIs(t *testing.T) {
	f := laidJob(t, demoShelf(t), coat("keelbody-100", 800))
	f.Job.Start, f.Job.Zone = "2031-06-03T07:00", ""
	begins := func(zone string) (Plan, time.Time) {
		world := facts.At(noon())
		world.Zone = zone
		p, err := NewPlanner().MakeFor(context.Background(), f, world, measure.Metric)
		if err != nil || p.Surfaces[0].Coats[0].Times.Start == nil {
			t.Fatalf("%v, %v", err, texts(p.Findings))
		}
		return p, *p.Surfaces[0].Coats[0].Times.Start
	}
	_, utc := begins("")
	there, halifax := begins("America/Halifax")
	if off := halifax.Sub(utc); off != 3*time.Hour || there.Zone != "America/Halifax" {
		t.Errorf("07:00 in Halifax is %v after 07:00 in UTC, told by the clock of %q", off, there.Zone)
	}
	f.Job.Zone = "Europe/Oslo"
	if own, oslo := begins("America/Halifax"); utc.Sub(oslo) != 2*time.Hour || own.Zone != "Europe/Oslo" {
		t.Errorf("its own zone: %v, %q", utc.Sub(oslo), own.Zone)
	}
}
