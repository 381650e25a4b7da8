package work

import (
	"slices"
	"testing"

	"nephelon/core/buildup"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/survey"
)

// What runs on machines needs them and who has learnt them: dust extraction for all that grinds,
// a wet vacuum for all that is wet (common practice, no source).
func TestMachinesOfPreparation(t *testing.T) {
	for task, want := range map[string]struct {
		machines []Machine
		skills   []Skill
	}{
		"grind": {[]Machine{Grinder, Vacuum}, []Skill{Grinding}}, "scrape": {[]Machine{Grinder, Vacuum}, []Skill{Grinding}},
		"shot-blast": {[]Machine{Blaster, Vacuum}, []Skill{Grinding}}, "screen": {[]Machine{Screener, Vacuum}, nil},
		"sand": {[]Machine{Sander, Vacuum}, nil}, "vacuum": {[]Machine{Vacuum}, nil},
		"etch": {[]Machine{WetVacuum}, []Skill{Acids}}, "rinse": {[]Machine{WetVacuum}, nil}, "mask": {nil, nil},
	} {
		tasks := Derive(Surface{ID: "s", Area: 20, Preparation: []survey.PreparationTask{{ID: task, Name: task, Work: 600}}})
		got := find(t, tasks, ID("surface/s/prepare/"+task))
		if !slices.Equal(got.Needs.Machines, want.machines) || !slices.Equal(got.Needs.Skills, want.skills) {
			t.Errorf("%s: %v, %v", task, got.Needs.Machines, got.Needs.Skills)
		}
	}
}

// A person's own step has the machines and skills of the one that it is like, and covers as that does.
func TestOwnStepsAreLikeOthers(t *testing.T) {
	own := survey.PreparationTask{ID: "fill-o1", Like: "fill", Name: "Fill the rail beds", Work: 600}
	grind := survey.PreparationTask{ID: "grind-o2", Like: "grind", Name: "Cut out the rails", Work: 600}
	tasks := Derive(Surface{ID: "s", Area: 20, Preparation: []survey.PreparationTask{grind, own},
		Verdicts: []survey.Verdict{{ID: "profile", Fit: survey.Unknown}}})
	cut, fill := find(t, tasks, "surface/s/prepare/grind-o2"), find(t, tasks, "surface/s/prepare/fill-o1")
	if !slices.Contains(cut.Needs.Machines, Grinder) || !slices.Contains(cut.Needs.Skills, Grinding) || fill.Kind != Fill {
		t.Errorf("%+v, %s", cut.Needs, fill.Kind)
	}
	gap(t, fill, "surface/s/retest/profile")
}

// Each verdict that a test can decide makes a task, and one more where it is read after a time;
// one that was overridden, or that no test decides, makes none.
func TestRetestsOfOpenVerdicts(t *testing.T) {
	for verdict, takes := range map[string]measure.Span{"moisture": underSheet, "slab-humidity": inTheSlab,
		"emission": withCalcium, "water-drop": 0, "ph": 0, "pull-off": 0, "profile": 0} {
		tasks := Derive(Surface{ID: "s", Area: 20, Verdicts: []survey.Verdict{{ID: verdict, Fit: survey.Unknown}}})
		id := ID("surface/s/retest/" + verdict)
		if got := find(t, tasks, id); got.Effort != oneTest || len(tasks) != 1 && takes == 0 {
			t.Errorf("%s: %v of work, %d tasks", verdict, got.Effort, len(tasks))
		}
		if takes > 0 {
			if g := gap(t, find(t, tasks, id+"/read"), id); g.Least.Fixed != takes {
				t.Errorf("%s: read after %v", verdict, g.Least.Fixed)
			}
		}
	}
	for name, v := range map[string]survey.Verdict{"fit": {ID: "ph", Fit: survey.FitNow},
		"no test":    {ID: "flatness", Fit: survey.Unknown},
		"overridden": {ID: "ph", Fit: survey.Unknown, Override: &survey.Override{}}} {
		if tasks := Derive(Surface{ID: "s", Area: 20, Verdicts: []survey.Verdict{v}}); len(tasks) != 0 {
			t.Errorf("%s: %+v", name, tasks)
		}
	}
}

// A coat on the tacky one below waits until that no longer flows, and comes before its first
// section is dry; one for the next morning waits at least as long as the sheet asks, and over the
// night.
func TestCoatsOnTackyFilmsAndNextMorning(t *testing.T) {
	below := twoPart()
	below.TackFree = steady(5 * hour)
	tacky, morning := laid("b", 2, twoPart()), laid("b", 2, twoPart())
	tacky.When, morning.When = buildup.OnTacky, buildup.NextMorning
	film := gap(t, find(t, Derive(Surface{ID: "s", Area: 60, Coats: []Coat{laid("a", 1, below), tacky}}), "coat/b/pour"),
		"coat/a/pour")
	if film.Least == nil || film.Least.Stage != material.StageWorking || film.Least.From != FromEnd || film.Most == nil ||
		film.Most.Stage != material.StageTackFree || film.Most.From != FromStart {
		t.Errorf("on the tacky film: %+v, %+v", film.Least, film.Most)
	}
	film = gap(t, find(t, Derive(Surface{ID: "s", Area: 60, Coats: []Coat{laid("a", 1, below), morning}}), "coat/b/pour"),
		"coat/a/pour")
	if film.Least == nil || !film.Least.Later || film.Least.Stage != material.StageRecoatFrom {
		t.Errorf("next morning: %+v", film.Least)
	}
	// Nothing flows of which no sheet says for how long.
	silent := twoPart()
	silent.Working = nil
	if (Coat{Product: silent, Slab: 20}).tacky() != nil {
		t.Error("a film whose sheet says nothing flows for a time")
	}
	if walked := (Coat{ID: "a", Product: below, Slab: 20}).Walked(); walked.Task != "coat/a/pour" ||
		walked.Least.Stage != material.StageFoot {
		t.Errorf("%+v", walked)
	}
}

// The returns of a surface are named after what it is given back for.
func TestReturnsAreNamed(t *testing.T) {
	p := twoPart()
	p.Furniture, p.Vehicle, p.Water = steady(24*hour), steady(72*hour), steady(96*hour)
	tasks := Derive(Surface{ID: "s", Name: "Fish hall", Area: 60, Coats: []Coat{laid("a", 1, p)}})
	for _, name := range []string{"light foot traffic", "furniture", "vehicles", "water", "full cure"} {
		if !slices.ContainsFunc(tasks, func(task Task) bool {
			return task.Kind == Return &&
				task.Name == "Fish hall: "+name
		}) {
			t.Errorf("nothing returns to %s", name)
		}
	}
}

func TestShares(t *testing.T) {
	if (Divides{Pour: 0.1, CutIn: 0.2, Spread: 0.3, Roll: 0.4}).Sum() != 1 {
		t.Error("the shares do not come to their sum")
	}
	p := Person{Roles: []Role{Mixer}}
	if !p.Plays(Mixer) || p.Plays(Roller) {
		t.Error("which parts a person plays")
	}
}
