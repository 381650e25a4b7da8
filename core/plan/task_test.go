package plan

import (
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"nephelon/core/buildup"
	"nephelon/core/job"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/plan/input"
	"nephelon/core/school"
	"nephelon/core/survey"
	"nephelon/core/work"
)

func taskOf(t *testing.T, p Plan, id work.ID) work.Task {
	t.Helper()
	at := slices.IndexFunc(p.Tasks, func(task work.Task) bool { return task.ID == id })
	if at < 0 {
		var all []work.ID
		for _, task := range p.Tasks {
			all = append(all, task.ID)
		}
		t.Fatalf("no task %s in %v", id, all)
	}
	return p.Tasks[at]
}

// broadcastFloor is a primer, a body coat broadcast to rejection and a topcoat
// over 40 m² of ground concrete.
func broadcastFloor(t *testing.T) job.File {
	t.Helper()
	s := demoShelf(t)
	body := coat("keelbody-100", 900)
	at := slices.IndexFunc(s.Media, func(m material.Medium) bool { return m.Kind == "quartz" })
	if at < 0 {
		t.Fatal("the demo shelf has no quartz")
	}
	body.Scatter = &buildup.Scatter{Medium: s.Media[at].ID, Degree: "full"}
	f := laidJob(t, s, coat("undertow-mb2", 300), body, coat("hardtack-clear", 400))
	f.Job.Surfaces[0].Survey = &survey.Survey{Substrate: survey.Concrete, WaterDrop: "soaks", Soundness: "sound"}
	return f
}

// The work of a floor in its order, with the gaps between the films.
func TestTheTasksOfAFloor(t *testing.T) {
	f := broadcastFloor(t)
	p := Make(f, measure.Metric, noon())
	if len(p.Refused()) > 0 {
		t.Fatal(p.Refused())
	}
	order := func(ids ...work.ID) {
		t.Helper()
		last := -1
		for _, id := range ids {
			at := slices.IndexFunc(p.Tasks, func(task work.Task) bool { return task.ID == id })
			if at <= last {
				t.Errorf("%s is task %d, after %d", id, at, last)
			}
			last = at
		}
	}
	order("surface/s/prepare/grind", "surface/s/prepare/vacuum", "surface/s/retest/moisture",
		"surface/s/retest/moisture/read", "surface/s/prepare/mask",
		"coat/a/check", "coat/a/pour",
		"coat/b/check", "coat/b/pour", "coat/b/broadcast", "coat/b/sweep-up", "coat/c/check", "coat/c/pour",
		"surface/s/inspect", "surface/s/return/foot", "surface/s/return/full")
	primer := f.Products[0]
	pour := taskOf(t, p, "coat/b/pour")
	film := pour.After[0]
	from, _ := primer.Reach(material.StageRecoatFrom, 20)
	until, _ := primer.Reach(material.StageRecoatUntil, 20)
	if film.Task != "coat/a/pour" || film.Least == nil || film.Least.Stage != material.StageRecoatFrom ||
		film.Least.From != work.FromEnd || film.Least.About != from ||
		film.Most == nil || film.Most.Stage != material.StageRecoatUntil || film.Most.From != work.FromStart ||
		film.Most.About != until {
		t.Errorf("the body coat waits for %+v", film)
	}
	if swept := taskOf(t, p, "coat/c/check").After; !slices.ContainsFunc(swept,
		func(a work.After) bool { return a.Task == "coat/b/sweep-up" }) {
		t.Errorf("nobody sweeps before the topcoat is checked: %+v", swept)
	}
	// 40 m² by two people at 45 m²/h is 1600 s; the mixer adds for each batch a minute to
	// open it, 3 min, and a minute in the second bucket. Broadcasting is a task of its own.
	mixes := measure.Span(len(pour.Batches)) * (input.OpenWhole + 3*measure.Minute + measure.Minute)
	if want := 2*measure.Span(1600) + mixes; !near(float64(pour.Effort), float64(want), 1e-9) ||
		pour.Split != work.Whole || pour.Gate != work.CoatingWeather {
		t.Errorf("%v person-seconds, want %v", pour.Effort, want)
	}
	sum := measure.Volume(0)
	for n, b := range pour.Batches {
		sum += b.Volume
		if b.ID != work.ID(p.Surfaces[0].Coats[1].Division.Batches[n].ID) ||
			b.Section != work.ID(p.Surfaces[0].Coats[1].Sections[n].ID) || b.Life <= 0 {
			t.Errorf("batch %+v", b)
		}
	}
	if !near(float64(sum), float64(p.Surfaces[0].Coats[1].Division.Mixed), 1e-12) {
		t.Errorf("the pour mixes %v", sum)
	}
	if served := taskOf(t, p, "surface/s/return/foot"); served.Split != work.Passing || served.Effort != 0 ||
		served.Stage != material.StageFoot {
		t.Errorf("%+v", served)
	}
	if total := p.Line.Effort; total < pour.Effort || p.Line.Batches == 0 || p.Line.People != 3 || p.Line.Coats != 3 ||
		p.Line.Ready != nil {
		t.Errorf("the line says %+v", p.Line)
	}
}

// Sanding every coat puts a task of abrasion before each, which lifts the window's
// end and waits until the film below takes feet; a wait of one's own is a gap of
// its own length.
func TestAbrasionAndWaitsAreTasks(t *testing.T) {
	f := broadcastFloor(t)
	f.Job.Methods.Between = school.SandEvery
	wait := measure.Span(20 * measure.Hour)
	f.Job.Surfaces[0].Coats[2].Wait = &wait
	p := Make(f, measure.Metric, noon())
	sanding := taskOf(t, p, "coat/b/abrade")
	if !near(float64(sanding.Effort), 40.0/survey.SandPace*measure.Hour, 1e-12) ||
		sanding.After[0].Least.Stage != material.StageFoot || !slices.Contains(sanding.Needs.Machines, work.Sander) {
		t.Errorf("%+v", sanding)
	}
	for _, id := range []work.ID{"coat/b/pour", "coat/c/pour"} {
		if film := taskOf(t, p, id).After[0]; film.Most != nil {
			t.Errorf("%s still has to keep the window: %+v", id, film)
		}
	}
	if film := taskOf(t, p, "coat/c/pour").After[0]; film.Least.Fixed != wait || film.Least.Stage != "" {
		t.Errorf("the wait is %+v", film.Least)
	}
	for _, task := range p.Tasks {
		if task.ID == "surface/s/prepare/between" {
			t.Error("sanding between coats is told twice")
		}
	}
}

// Every task comes after its predecessors, which exist; ids are unique.
func checkTasks(t *testing.T, p Plan) {
	t.Helper()
	seen := make(map[work.ID]bool)
	for _, task := range p.Tasks {
		if seen[task.ID] {
			t.Errorf("two tasks are %s", task.ID)
		}
		for _, a := range task.After {
			if !seen[a.Task] {
				t.Errorf("%s comes after %s, which does not come before it", task.ID, a.Task)
			}
			if a.Most != nil && a.Least != nil && a.Most.Stage == "" && a.Most.Fixed < a.Least.Fixed {
				t.Errorf("%s: gaps contradict each other", task.ID)
			}
		}
		seen[task.ID] = true
	}
}

// taskIDs lists every task of a plan that belongs to none of the things left out.
func taskIDs(p Plan, without string) []string {
	var all []string
	for _, task := range p.Tasks {
		if !strings.Contains(string(task.ID), without) {
			all = append(all, string(task.ID))
		}
	}
	slices.Sort(all)
	return all
}

// checkIDs sees that batches and sections are named for their coat and their place
// in its order, and so keep their names while these stay.
func checkIDs(t *testing.T, p Plan) {
	t.Helper()
	for _, s := range p.Surfaces {
		for _, c := range s.Coats {
			if c.Division == nil {
				continue
			}
			for n, b := range c.Division.Batches {
				if b.ID != work.BatchID(c.ID, n+1) || c.Sections[n].ID != work.SectionID(c.ID, n+1) {
					t.Errorf("batch %s and section %s are number %d of %s", b.ID, c.Sections[n].ID, n+1, c.ID)
				}
			}
		}
	}
}

// Whatever is edited elsewhere, the tasks of a surface keep their ids, and its
// batches and sections are still named by their ordinals: a booking or an event
// points at the same as before. How many batches there are may change, since all
// coats of a product share its kits.
func TestAnEditElsewhereKeepsIDs(t *testing.T) {
	random := rand.New(rand.NewPCG(34, 55))
	shelf := demo(t, "baggage-hall").Products
	edits := []func(*job.File, *rand.Rand){
		func(f *job.File, r *rand.Rand) { f.Job.Surfaces[0].Coats[0].Amount.Value *= 0.7 + 0.6*r.Float64() },
		func(f *job.File, _ *rand.Rand) { f.Job.Surfaces[0].Floor.Outline[1].X += 2 },
		func(f *job.File, _ *rand.Rand) { f.Job.Surfaces[0].Name = "Renamed" },
		func(f *job.File, _ *rand.Rand) { f.Job.Surfaces = slices.Clone(f.Job.Surfaces)[1:] },
		func(f *job.File, _ *rand.Rand) { slices.Reverse(f.Job.Surfaces) },
		func(f *job.File, _ *rand.Rand) {
			f.Job.Surfaces[0].Coats = slices.Insert(f.Job.Surfaces[0].Coats, 0,
				buildup.Coat{ID: "s0new", Product: shelf[0].ID, Amount: buildup.Amount{Basis: buildup.WetFilm, Value: 300e-6}})
		},
		func(f *job.File, _ *rand.Rand) { f.Job.Surfaces[0].Survey = &survey.Survey{Substrate: survey.Concrete} },
		func(f *job.File, _ *rand.Rand) { f.Job.Notes = "Ring before you come" },
		func(f *job.File, _ *rand.Rand) { slices.Reverse(f.Products) },
	}
	for range 10 {
		f := benchJob(random, shelf, 3, 1+random.IntN(4))
		before := Make(f, measure.Metric, noon())
		checkTasks(t, before)
		for i, edit := range edits {
			changed := f
			changed.Products = slices.Clone(f.Products)
			changed.Job.Surfaces = slices.Clone(f.Job.Surfaces)
			first := &changed.Job.Surfaces[0]
			first.Coats = slices.Clone(first.Coats)
			first.Floor.Outline = slices.Clone(first.Floor.Outline)
			edit(&changed, random)
			after := Make(changed, measure.Metric, noon())
			checkTasks(t, after)
			checkIDs(t, after)
			if a, b := taskIDs(before, "/s0"), taskIDs(after, "/s0"); !slices.Equal(a, b) {
				t.Fatalf("edit %d changed ids elsewhere:\n%v\n%v", i, a, b)
			}
		}
	}
}

// What is planned of the demo holds together as work.
func TestTheTasksOfTheDemo(t *testing.T) {
	for _, name := range []string{"baggage-hall", "lamp-room", "settling-basin", "seal-nursery", "oyster-bar"} {
		p := Make(demo(t, name), measure.Metric, noon())
		checkTasks(t, p)
		if len(p.Tasks) < 8 {
			t.Errorf("%s: only %d tasks", name, len(p.Tasks))
		}
	}
}

// The start is read off the clock on site, and the plan's clock times say so. Oslo's
// clock is put forward at 02:00 on the last Sunday of March (IANA time zone database).
func TestAStartOnSite(t *testing.T) {
	f := laidJob(t, demoShelf(t), coat("keelbody-100", 800))
	f.Job.Zone, f.Job.Start = "Europe/Oslo", "2031-03-30T02:20" // the clock is put forward that night
	p := Make(f, measure.Metric, noon())
	if start := p.Surfaces[0].Coats[0].Times.Start; start == nil || start.Format("15:04 -0700") != "03:20 +0200" {
		t.Fatalf("it begins at %v", start)
	}
	for _, words := range []string{"The clock does not show 02:20 that night",
		"outside the working hours (Mon–Fri 07:00–16:00)"} {
		if saying(p, words) == nil {
			t.Errorf("nothing is said of %q: %v", words, texts(p.Findings))
		}
	}
	for field, bad := range map[string]func(*job.Job){
		"/job/zone":  func(j *job.Job) { j.Zone = "Nowhere" },
		"/job/start": func(j *job.Job) { j.Start = "soon" },
		"/job/hours/breaks/0": func(j *job.Job) {
			j.Hours = &job.Hours{Days: []job.Weekday{"mon"}, From: "07:00", Until: "12:00",
				Breaks: []job.Break{{From: "13:00", Until: "14:00"}}}
		},
	} {
		f := laidJob(t, demoShelf(t), coat("keelbody-100", 800))
		f.Job.Zone, f.Job.Start = "Europe/Oslo", "2031-05-30T08:00"
		bad(&f.Job)
		if r := Make(f, measure.Metric, noon()).Refused(); len(r) != 1 || r[0].Path != field || r[0].WayOut == "" {
			t.Errorf("%s: %v", field, r)
		}
	}
}
