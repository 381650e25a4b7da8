package plan

import (
	"math"
	"testing"
	"time"

	"nephelon/core/buildup"
	"nephelon/core/job"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/plan/stage"
	"nephelon/core/survey"
	"nephelon/core/work"
)

// twoCoats are two coats of a body that flows for half an hour, is tack-free after 6 h and
// takes the next coat from 4 h on, begun on a Monday at 07:00.
func twoCoats(t *testing.T, when buildup.Moment) job.File {
	t.Helper()
	second := coat("keelbody-100", 900)
	second.When = when
	f := laidJob(t, demoShelf(t), coat("keelbody-100", 900), second)
	p := &f.Products[0]
	at := func(hours float64) []material.TimeAt {
		return []material.TimeAt{{At: 20, After: measure.Span(hours) * measure.Hour, Source: measure.Sheet}}
	}
	p.Working, p.TackFree, p.RecoatFrom, p.RecoatUntil = at(0.5), at(6), at(4), at(48)
	f.Job.Zone, f.Job.Start = "UTC", "2026-12-07T07:00"
	f.Job.Slab = &measure.Sourced[measure.Temperature]{Value: 20}
	return f
}

// By hand: as soon as it may the second coat follows 4 h after the first is done; on a
// tacky film half an hour after; the next morning at 07:00 on Tuesday.
func TestWhenACoatIsLaid(t *testing.T) {
	lays := func(when buildup.Moment) (first, second *stage.CoatTimes, p Plan) {
		p = Make(twoCoats(t, when), measure.Metric, noon())
		c := p.Surfaces[0].Coats
		return c[0].Times, c[1].Times, p
	}
	first, second, _ := lays("")
	if got := second.Start.Sub(*first.End); got < 4*time.Hour-time.Second || got > 4*time.Hour+time.Second {
		t.Errorf("as soon as it may: %v after", got)
	}
	first, second, p := lays(buildup.OnTacky)
	if got := second.Start.Sub(*first.End); got < 30*time.Minute-time.Second || got > 30*time.Minute+time.Second {
		t.Errorf("on tacky: %v after", got)
	}
	if told := saying(p, "tack"); told != nil {
		t.Error(told.Text)
	}
	_, second, _ = lays(buildup.NextMorning)
	if want := time.Date(2026, 12, 8, 7, 0, 0, 0, time.UTC); !second.Begins.Equal(want) {
		t.Errorf("the next morning: %v", second.Begins)
	}
	// A film that is tack-free before the crew is back, and one of which nobody knows.
	f := twoCoats(t, buildup.OnTacky)
	f.Products[0].TackFree[0].After = 40 * measure.Minute
	told := saying(Make(f, measure.Metric, noon()), "its first section is tack-free at Mon 07:40")
	if told == nil || told.Fix == nil {
		t.Fatalf("%v", texts(Make(f, measure.Metric, noon()).Findings))
	}
	if again := Make(patched(t, f, *told.Fix), measure.Metric, noon()); saying(again, "tack-free") != nil {
		t.Error("told again after its way out was taken")
	}
	f.Products[0].TackFree = nil
	if saying(Make(f, measure.Metric, noon()), "does not say when it is tack-free") == nil {
		t.Error("a film of which nobody knows is taken for tacky")
	}
}

// The tasks say the same to the roster.
func TestMomentsInTheTasks(t *testing.T) {
	gaps := func(when buildup.Moment) (least, most *work.Lag) {
		f := twoCoats(t, when)
		p := Make(f, measure.Metric, noon())
		for _, task := range p.Tasks {
			if task.ID != work.PourID(p.Surfaces[0].Coats[1].ID) {
				continue
			}
			for _, a := range task.After {
				if a.Task == work.PourID(p.Surfaces[0].Coats[0].ID) {
					return a.Least, a.Most
				}
			}
		}
		t.Fatal("the second coat waits for nothing")
		return nil, nil
	}
	if least, most := gaps(buildup.OnTacky); least.Stage != material.StageWorking || least.From != work.FromEnd ||
		most.Stage != material.StageTackFree || most.From != work.FromStart {
		t.Errorf("%+v, %+v", least, most)
	}
	if least, most := gaps(buildup.NextMorning); least.Stage != material.StageRecoatFrom || !least.Later ||
		most.Stage != material.StageRecoatUntil {
		t.Errorf("%+v, %+v", least, most)
	}
	if least, _ := gaps(""); least.Later || least.Stage != material.StageRecoatFrom {
		t.Errorf("%+v", least)
	}
}

// A coat that is to be begun by ten, late in the afternoon or while the slab cools. By hand: the second coat is ready
// at 11:40 or so on Monday; by ten it is begun on Tuesday at 07:00, from two in the afternoon on Monday at 14:00; a
// slab outdoors whose air peaks at 15:00 each day is on the fall after that. In the evening nobody works.
func TestACoatInItsHours(t *testing.T) {
	f := twoCoats(t, "")
	second := func(h buildup.OpeningHours) (*stage.CoatTimes, Plan) {
		f.Job.Surfaces[0].Coats[1].Hours = &h
		p := Make(f, measure.Metric, noon())
		return p.Surfaces[0].Coats[1].Times, p
	}
	at := func(day, hour, minute int) time.Time { return time.Date(2026, 12, day, hour, minute, 0, 0, time.UTC) }
	if got, p := second(buildup.OpeningHours{Until: "10:00"}); !got.Begins.Equal(at(8, 7, 0)) {
		t.Errorf("by ten it is begun %v", got.Begins)
	} else if told := saying(p, "is to be opened"); told != nil {
		t.Error(told.Text)
	}
	if got, _ := second(buildup.OpeningHours{From: "14:00"}); !got.Begins.Equal(at(7, 14, 0)) {
		t.Errorf("from two on it is begun %v", got.Begins)
	}
	got, p := second(buildup.OpeningHours{From: "20:00", Until: "22:00"})
	if told := saying(p, "Its first kit is to be opened from 20:00 until 22:00."); told == nil ||
		got.Begins.Hour() == 20 {
		t.Errorf("in the evening, when nobody works: %v, %v", got.Begins, texts(p.Findings))
	}
	if _, p := second(buildup.OpeningHours{Falling: true}); saying(p, "no forecast tells") == nil {
		t.Error("a falling slab without a forecast is not told")
	}
	f.Job.Surfaces[0].Survey = &survey.Survey{Substrate: survey.Concrete, Outdoors: true}
	forecastOf(&f, at(6, 0, 0), 200, func(h int) float64 { return 20 - 5*math.Cos(2*math.Pi*float64(h-3)/24) })
	for k := range f.Job.Forecast.Hours {
		if h := f.Job.Forecast.Hours[k].At.Hour(); h >= 8 && h < 15 {
			f.Job.Forecast.Hours[k].Sun = 500
		}
	}
	f.Job.Surfaces[0].Coats[0].When = ""
	if got, p := second(buildup.OpeningHours{Falling: true}); got.Begins.Hour() < 14 || saying(p, "does not cool") != nil {
		t.Errorf("on a falling slab it is begun %v", got.Begins)
	}
	shaded, _ := second(buildup.OpeningHours{Shade: true})
	if h := shaded.Begins.Hour(); h != 7 && h < 15 || shaded.End.Hour() >= 8 && shaded.Begins.Hour() < 8 {
		t.Errorf("in the shade it is begun %v and ends %v", shaded.Begins, shaded.End)
	}
}

// A film that is ready in the afternoon of the next day waits for the first hour of the shift after that.
func TestTheNextMorningIsTheFirstHourOfAShift(t *testing.T) {
	f := twoCoats(t, buildup.NextMorning)
	f.Products[0].RecoatFrom[0].After = 30 * measure.Hour
	f.Products[0].RecoatUntil[0].After = 90 * measure.Hour
	if got := Make(f, measure.Metric, noon()).Surfaces[0].Coats[1].Times.Begins; !got.Equal(time.Date(2026, 12, 9, 7, 0,
		0, 0, time.UTC)) {
		t.Errorf("begun %v", got)
	}
}

// With a margin the next coat is proposed when the film is ready on a slab as much cooler. By hand: 8 h at 10 °C and
// 4 h at 20 °C double in 10 K, which is 4 h times 2 to the 0.3, some 4 h 55 min, at 17 °C; but never past its window.
func TestAMarginForTheNextCoat(t *testing.T) {
	f := twoCoats(t, "")
	f.Products[0].RecoatFrom = []material.TimeAt{{At: 10, After: 8 * measure.Hour, Source: measure.Sheet},
		{At: 20, After: 4 * measure.Hour, Source: measure.Sheet}}
	waits := func() time.Duration {
		c := Make(f, measure.Metric, noon()).Surfaces[0].Coats
		return c[1].Times.Start.Sub(*c[0].Times.End)
	}
	if got := waits(); got < 4*time.Hour-time.Second || got > 4*time.Hour+time.Second {
		t.Errorf("without a margin %v after", got)
	}
	f.Job.Margin = 3
	if got := waits(); got < 4*time.Hour+50*time.Minute || got > 5*time.Hour {
		t.Errorf("with 3 K %v after", got)
	}
	f.Products[0].RecoatUntil = []material.TimeAt{{At: 20, After: 270 * measure.Minute, Source: measure.Sheet}}
	if got := waits(); got > 4*time.Hour+time.Second {
		t.Errorf("past the end of the window, %v after", got)
	}
}
