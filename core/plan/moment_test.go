package plan

import (
	"testing"
	"time"

	"nephelon/core/buildup"
	"nephelon/core/job"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/plan/stage"
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
	if want := time.Date(2026, 12, 8, 7, 0, 0, 0, time.UTC); !second.Start.Equal(want) {
		t.Errorf("the next morning: %v", second.Start)
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
