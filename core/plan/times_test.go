package plan

import (
	"context"
	"math"
	"slices"
	"strings"
	"testing"
	"time"

	"nephelon/core/facts"
	"nephelon/core/plan/input"
	"nephelon/core/plan/stage"
	"nephelon/core/school"
	"nephelon/core/survey"

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
		f.Job.Forecast.Hours = append(f.Job.Forecast.Hours, climate.Hour{At: from.Add(time.Duration(h) * time.Hour),
			Air: measure.Temperature(air(h)), Humidity: 0.5})
	}
}

func saying(p Plan, words string) *finding.Finding {
	at := slices.IndexFunc(p.Findings, func(f finding.Finding) bool { return strings.Contains(f.Text, words) })
	if at < 0 {
		return nil
	}
	return &p.Findings[at]
}

// In steady weather the clock is the sheet's: the window of the first coat opens counted
// from its last section; that is in the evening, so that the first kit of the second is opened
// when the next shift begins, at seven; and each pail's clock runs from when A meets B.
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
	from, _ := s.product(t, "keelbody-100").Reach(material.StageRecoatFrom, 20)
	if opens := first.Times.Stage("recoatFrom"); !near(float64(opens.After), float64(from), 1e-6) ||
		second.Times.Start.Before(*opens.At) || !second.Times.Begins.Equal(start.Truncate(24*time.Hour).Add(31*time.Hour)) {
		t.Errorf("the window opens %v after (want %v); coat 2 begins at %v", opens.After, from, second.Times.Begins)
	}
	until, _ := s.product(t, "keelbody-100").Reach(material.StageRecoatUntil, 20)
	if closes := first.Times.Stage("recoatUntil"); math.Abs(closes.At.Sub(start).Seconds()-float64(until)) > 1 {
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
		arrives = arrives.Add(time.Duration(float64(first.Times.Spread) * float64(c.Volume/first.Division.Mixed) *
			float64(time.Second)))
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
	a, b := steady.Surfaces[0].Coats[0].Times.Stage("recoatFrom"), cold.Surfaces[0].Coats[0].Times.Stage("recoatFrom")
	if b.After <= a.After || a.Beyond || b.Beyond {
		t.Errorf("it opens after %v at 20 °C, through the night after %v", a.After, b.After)
	}
	told := saying(cold, "takes the next coat from")
	if told == nil || !strings.Contains(told.Text, "on the slab that the forecast brings") || told.Fix == nil {
		t.Errorf("the wait is not called short: %v", texts(cold.Findings))
	}
	f.Job.Forecast.Hours = f.Job.Forecast.Hours[:9]
	if c := Make(f, measure.Metric, noon()).Surfaces[0].Coats[0].Times.Stage("full"); !c.Beyond {
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
	if told := saying(Make(f, measure.Metric, noon()), "goes on a slab of 3 °C; its sheet refuses all but"); told == nil ||
		told.WayOut == "" {
		t.Errorf("a slab at 3 °C passes: %v", texts(Make(f, measure.Metric, noon()).Findings))
	}
	f.Job.Slab = nil
	starting(&f, noon().Add(30*time.Hour))
	forecastOf(&f, noon(), 100, func(int) float64 { return 2 })
	if told := saying(Make(f, measure.Metric, noon()), "goes on a slab of 2 °C at Wed 18:00"); told == nil {
		t.Errorf("a forecast of 2 °C passes: %v", texts(Make(f, measure.Metric, noon()).Findings))
	}
	if bare := Make(laidJob(t, demoShelf(t), coat("keelbody-100", 800)), measure.Metric, noon()).
		Surfaces[0].Coats[0].Times; bare.Start != nil || len(bare.Stages) == 0 || bare.Stages[0].At != nil {
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

// A pour lies inside one shift. By hand: the first coat is laid from 7:00; the second is
// ready at 15:40, when twenty minutes are left, and takes longer: it waits for the
// morning. On a shift until 22:00 it is laid at once; in sections with tape lines, too.
func TestAPourLiesInsideOneShift(t *testing.T) {
	f := laidJob(t, demoShelf(t), coat("keelbody-100", 800), coat("hardtack-clear", 250))
	f.Job.Start, f.Job.Zone = "2026-12-07T07:00", "UTC"
	wait := 8*measure.Hour + 40*measure.Minute - Make(f, measure.Metric, noon()).Surfaces[0].Coats[0].Times.Spread
	f.Job.Surfaces[0].Coats[1].Wait = &wait
	second := func() *stage.CoatTimes { return Make(f, measure.Metric, noon()).Surfaces[0].Coats[1].Times }
	morning := time.Date(2026, 12, 8, 7, 0, 0, 0, time.UTC)
	if at := second(); at.Spread < 20*measure.Minute || !at.Begins.Equal(morning) {
		t.Errorf("begun at %v for %v", at.Begins, at.Spread)
	}
	ready := time.Date(2026, 12, 7, 15, 40, 0, 0, time.UTC)
	late := job.UsualHours()
	late.Until = "22:00"
	f.Job.Hours = &late
	if at := second(); at.Start.Sub(ready).Abs() > time.Second {
		t.Errorf("in a long shift laid at %v", at.Start)
	}
	f.Job.Hours, f.Job.Methods.Session = nil, school.TapeLines
	if at := second(); at.Start.Sub(ready).Abs() > time.Second {
		t.Errorf("in sections laid at %v", at.Start)
	}
	// On a Friday evening it waits over the weekend.
	f.Job.Start, f.Job.Methods.Session = "2026-12-11T07:00", ""
	if at := second(); !at.Begins.Equal(time.Date(2026, 12, 14, 7, 0, 0, 0, time.UTC)) {
		t.Errorf("over the weekend begun at %v", at.Begins)
	}
}

// Sanding stands on the clock: it begins when the film below takes a foot, and the
// next coat when it is done. 40 m² at 35 m²/h by three people take 22.9 min.
func TestSandingTakesItsTime(t *testing.T) {
	s := demoShelf(t)
	f := laidJob(t, s, coat("keelbody-100", 900), coat("gullwing-ur", 110))
	f.Job.Start, f.Job.Zone = "2026-12-07T07:30:00", "UTC"
	plain := Make(f, measure.Metric, noon()).Surfaces[0].Coats
	f.Job.Surfaces[0].Coats[1].Abraded = true
	sanded := Make(f, measure.Metric, noon()).Surfaces[0].Coats
	below, times := sanded[0].Times, sanded[1].Times
	if times.Abrade == nil || times.Sanded == nil || plain[1].Times.Abrade != nil {
		t.Fatalf("%+v, plain %+v", times, plain[1].Times)
	}
	// That is at two in the night: they sand when the shift begins.
	if foot := below.Stage(material.StageFoot); times.Abrade.Before(*foot.At) ||
		!times.Abrade.Equal(time.Date(2026, 12, 8, 7, 0, 0, 0, time.UTC)) {
		t.Errorf("sanding begins at %v, a foot may stand on it at %v", times.Abrade, foot.At)
	}
	if took := times.Sanded.Sub(*times.Abrade).Minutes(); math.Abs(took-40.0/35/3*60) > 1e-5 ||
		times.Start.Before(*times.Sanded) {
		t.Errorf("it takes %v min, coat 2 at %v", took, times.Start)
	}
	f.Job.Surfaces[0].Coats[1].Abraded = false
	f.Job.Methods.Between = school.SandEvery
	if every := Make(f, measure.Metric, noon()).Surfaces[0].Coats[1].Times; !every.Start.Equal(*times.Start) {
		t.Errorf("by the school of sanding coat 2 at %v, as abraded at %v", every.Start, times.Start)
	}
}

// The preparation is told with its hours and its drying before the first coat, while people work.
func TestPreparationBeginsBeforeTheFirstCoat(t *testing.T) {
	f := laidJob(t, demoShelf(t), coat("keelbody-100", 900))
	f.Job.Start, f.Job.Zone = "2026-12-07T07:30:00", "UTC"
	f.Job.Surfaces[0].Survey = &survey.Survey{Substrate: survey.Concrete}
	s := Make(f, measure.Metric, noon()).Surfaces[0]
	var works, dries measure.Span
	for _, task := range s.Survey.Preparation.Tasks {
		works, dries = works+task.Work/3, dries+task.Drying
	}
	// Kits are opened shortly after 07:00 on a Monday, so most of the work is done by Friday 16:00.
	friday := time.Date(2026, 12, 4, 16, 0, 0, 0, time.UTC)
	monday := s.Coats[0].Times.Begins.Sub(time.Date(2026, 12, 7, 7, 0, 0, 0, time.UTC))
	if dries > 0 || works > 3*measure.Hour || s.Begin == nil ||
		math.Abs((friday.Sub(*s.Begin)+monday).Seconds()-float64(works)) > 1e-3 {
		t.Errorf("begins at %v, takes %v s and dries %v s; %v of it on Monday", s.Begin, works, dries, monday)
	}
}

// Unequal batches arrive as the one before runs out: 10 L take 2.5 times as long as
// 4 L, so the clocks stand that far apart.
func TestTheClockOfUnequalBatches(t *testing.T) {
	f := laidJob(t, demoShelf(t), coat("hardtack-clear", 250))
	f.Job.Start, f.Job.Zone = "2026-12-07T07:30:00", "UTC"
	need := Make(f, measure.Metric, noon()).Purchases[0].Need
	large, small := need*10.02/14, need*4.02/14
	f.Products[0].Kits = []material.Kit{{Name: "large", Volume: &large, Source: measure.Sheet},
		{Name: "small", Volume: &small, Source: measure.Sheet}}
	f.Job.Bucket.Volume, f.Job.Bucket.Headroom, f.Job.Crew.Spreaders = large*1.01, 0, 6
	c := Make(f, measure.Metric, noon()).Surfaces[0].Coats[0]
	if len(c.Cards) != 2 || near(float64(c.Cards[0].Volume), float64(c.Cards[1].Volume), 0.1) {
		t.Fatalf("%d batches of %v", len(c.Cards), c.Division.Batches)
	}
	whole := float64(c.Times.Spread)
	if gap := c.Cards[1].Meets.Sub(*c.Cards[0].Meets).Seconds(); math.Abs(gap-whole*10/14) > 0.01*whole {
		t.Errorf("the second is mixed %v s after the first of %v s in all", gap, whole)
	}
	for _, card := range c.Cards {
		if life := card.UseBy.Sub(*card.Meets).Seconds(); math.Abs(life-float64(card.PotLife)) > 1e-6 {
			t.Errorf("batch %d can be used for %v s, its card says %v", card.Batch, life, card.PotLife)
		}
	}
}

// Part B's temperature counts by its mass: 2 : 1 by volume of parts at 20 and 29 °C.
func TestBothPartsWarmTheMix(t *testing.T) {
	f := laidJob(t, demoShelf(t), coat("hardtack-clear", 250))
	temperature := func(v measure.Temperature) *measure.Sourced[measure.Temperature] {
		return &measure.Sourced[measure.Temperature]{Value: v, Source: measure.OwnTest}
	}
	f.Job.Mixing.A, f.Job.Mixing.B = temperature(20), temperature(29)
	read, _ := input.Read(f, facts.At(noon()), measure.Metric)
	sheet := read.Sheets[material.SheetKey{Product: "hardtack-clear"}]
	mix := sheet.Mix
	a, b := mix.Shares[0].Volume*float64(mix.Shares[0].Density.Value),
		mix.Shares[1].Volume*float64(mix.Shares[1].Density.Value)
	if got, want := float64(sheet.Parts), (20*a+29*b)/(a+b); !near(got, want, 1e-12) {
		t.Errorf("%v °C, by mass %v", got, want)
	}
	f.Job.Mixing.B = nil
	if alone, _ := readAgain(f); !near(float64(alone.Sheets[sheet.Key].Parts), 20, 1e-12) {
		t.Errorf("B as A: %v", alone.Sheets[sheet.Key].Parts)
	}
	life := func() measure.Span { return Make(f, measure.Metric, noon()).Surfaces[0].Coats[0].Cards[0].PotLife }
	cool := life()
	f.Job.Mixing.B = temperature(29)
	if warm := life(); warm >= cool {
		t.Errorf("with B at 29 °C it lives %v, with both at 20 °C %v", warm, cool)
	}
}

func readAgain(f job.File) (*input.Inputs, []finding.Finding) {
	return input.Read(f, facts.At(noon()), measure.Metric)
}

// A slab that is read 6 K hotter on its day than the forecast has it: the hours around are told
// hotter, by what is left of the offset after a day to the e-th part, and the film is ready sooner. A
// reading of the future counts for nothing.
func TestADaysReadingCorrectsTheForecast(t *testing.T) {
	f := laidJob(t, demoShelf(t), coat("keelbody-100", 300), coat("keelbody-100", 300))
	f.Job.Surfaces[0].Survey = &survey.Survey{Substrate: survey.Concrete}
	starting(&f, noon())
	forecastOf(&f, noon().Add(-24*time.Hour), 72, func(int) float64 { return 18 })
	made := func(readings ...facts.Reading) (Plan, []climate.Judged) {
		p, err := NewPlanner().MakeFor(context.Background(), f, facts.Facts{Now: noon(), Readings: readings}, measure.Metric)
		if err != nil {
			t.Fatal(err)
		}
		return p, p.Surfaces[0].Survey.Hours
	}
	p, told := made()
	hot, read := made(facts.Reading{At: noon(), Slab: told[24].Slab + 6})
	for ahead, left := range map[int]float64{0: 6, 12: 6 * math.Exp(-0.5), 24: 6 * math.Exp(-1)} {
		if got := float64(read[24+ahead].Slab - told[24+ahead].Slab); math.Abs(got-left) > 0.05 {
			t.Errorf("%d h on it is told %.2f K hotter, want %.2f", ahead, got, left)
		}
	}
	opens := func(p Plan) time.Time { return *p.Surfaces[0].Coats[0].Times.Stage(material.StageRecoatFrom).At }
	if !opens(hot).Before(opens(p)) {
		t.Errorf("on a hotter slab its film is ready %v, else %v", opens(hot), opens(p))
	}
	if _, later := made(facts.Reading{At: noon().Add(time.Hour), Slab: 40}); later[24].Slab != told[24].Slab {
		t.Error("a reading of the future counts")
	}
}
