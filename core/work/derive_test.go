package work

import (
	"math"
	"slices"
	"testing"

	"nephelon/core/buildup"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/survey"
)

const hour = measure.Hour

func steady(after measure.Span) []material.TimeAt {
	return []material.TimeAt{{At: 20, After: after, Source: measure.Sheet}}
}

// twoPart is a resin with a window of 6 to 30 h at 20 °C, feet after 12 h.
func twoPart() *material.Product {
	p := &material.Product{ID: "resin", Name: "Resin",
		Components: []material.Component{{Name: "A", Parts: 2}, {Name: "B", Parts: 1}}}
	p.RecoatFrom, p.RecoatUntil, p.Foot, p.Full = steady(6*hour), steady(30*hour), steady(12*hour), steady(168*hour)
	p.Working = steady(30 * measure.Minute)
	return p
}

// laid is a coat of 18 L in two batches, spread by two people in 20 min.
func laid(id string, number int, p *material.Product) Coat {
	return Coat{
		ID: id, Number: number, Product: p, Slab: 20, Build: &buildup.Build{}, Spreaders: 2, Spread: 20 * measure.Minute,
		Effort: 40 * measure.Minute, Mixing: 4 * measure.Minute,
		Division: &kit.Division{Mixed: 0.018, Batches: []kit.Batch{
			{ID: BatchID(id, 1), Number: 1, Volume: 0.009, Mass: 9.9}, {ID: BatchID(id, 2), Number: 2, Volume: 0.009, Mass: 9.9},
		}},
	}
}

func find(t *testing.T, tasks []Task, id ID) Task {
	t.Helper()
	at := slices.IndexFunc(tasks, func(task Task) bool { return task.ID == id })
	if at < 0 {
		t.Fatalf("there is no %s in %d tasks", id, len(tasks))
	}
	return tasks[at]
}

func gap(t *testing.T, task Task, after ID) After {
	t.Helper()
	at := slices.IndexFunc(task.After, func(a After) bool { return a.Task == after })
	if at < 0 {
		t.Fatalf("%s does not come after %s but after %v", task.ID, after, task.After)
	}
	return task.After[at]
}

// By hand: two people for 20 min are 2400 person-seconds, two batches of 4 min
// by the mixer are 480 more. A single pack is opened and rolled: no mixer, no
// drill, and no time for mixing.
func TestAPourAndItsPeople(t *testing.T) {
	one := &material.Product{ID: "paint", Name: "Paint", Components: []material.Component{{Name: "Paint", Parts: 1}}}
	one.RecoatFrom = steady(4 * hour)
	tasks := Derive(Surface{ID: "s", Name: "Fish hall", Area: 60,
		Coats: []Coat{laid("a", 1, twoPart()), laid("b", 2, one)}})
	for _, c := range []struct {
		id       ID
		effort   measure.Span
		roles    []Hands
		machines []Machine
		skills   []Skill
	}{
		{"coat/a/pour", 2400, []Hands{{Mixer, 1}, {Spreader, 2}}, []Machine{MixerDrill}, []Skill{Mixing, Spreads}},
		{"coat/b/pour", 2400, []Hands{{Spreader, 2}}, []Machine{}, []Skill{Spreads}},
	} {
		got := find(t, tasks, c.id)
		if got.Effort != c.effort || got.Takes != 20*measure.Minute || !slices.Equal(got.Needs.Roles, c.roles) ||
			!slices.Equal(got.Needs.Machines, c.machines) || !slices.Equal(got.Needs.Skills, c.skills) {
			t.Errorf("%s: %v person-seconds over %v, %+v", c.id, got.Effort, got.Takes, got.Needs)
		}
		if m := got.Needs.Materials; len(m) != 1 || m[0].Value != 0.018 || m[0].Kind != measure.KindVolume {
			t.Errorf("%s uses up %+v", c.id, m)
		}
	}
}

// The gap to the film below counts from the end of its pour, its window's end
// from the start: the first section closes first. A sheet without times leaves a
// gap of unknown length, never none.
func TestGapsBetweenFilms(t *testing.T) {
	silent := twoPart()
	silent.Curing = material.Curing{}
	ten := 10 * hour
	for name, c := range map[string]struct {
		below *material.Product
		above func(*Coat)
		least Lag
		most  *Lag
	}{
		"by the window": {twoPart(), func(*Coat) {}, Lag{From: FromEnd, Stage: material.StageRecoatFrom, About: 6 * hour},
			&Lag{From: FromStart, Stage: material.StageRecoatUntil, About: 30 * hour}},
		"a wait of one's own": {twoPart(), func(c *Coat) { w := measure.Span(ten); c.Wait = &w },
			Lag{From: FromEnd, Fixed: 10 * hour},
			&Lag{From: FromStart, Stage: material.StageRecoatUntil, About: 30 * hour}},
		"abraded": {twoPart(), func(c *Coat) { c.Abraded = true },
			Lag{From: FromEnd, Stage: material.StageRecoatFrom, About: 6 * hour}, nil},
		"a sheet without any time": {silent, func(*Coat) {}, Lag{From: FromEnd, Stage: material.StageRecoatFrom}, nil},
		"a wait over a silent sheet": {silent, func(c *Coat) { w := measure.Span(ten); c.Wait = &w },
			Lag{From: FromEnd, Fixed: 10 * hour}, nil},
		"abraded over a silent sheet ": {silent, func(c *Coat) { c.Abraded = true },
			Lag{From: FromEnd, Stage: material.StageRecoatFrom}, nil},
	} {
		above := laid("b", 2, twoPart())
		c.above(&above)
		tasks := Derive(Surface{ID: "s", Area: 60, Coats: []Coat{laid("a", 1, c.below), above}})
		film := gap(t, find(t, tasks, "coat/b/pour"), "coat/a/pour")
		if film.Least == nil || !alike(*film.Least, c.least) {
			t.Errorf("%s: at least %+v, want %+v", name, film.Least, c.least)
		}
		if (film.Most == nil) != (c.most == nil) || c.most != nil && !alike(*film.Most, *c.most) {
			t.Errorf("%s: at most %+v, want %+v", name, film.Most, c.most)
		}
		// Nobody looks a surface over before it can be stood on.
		if look := gap(t, find(t, tasks, "coat/b/check"), "coat/a/pour"); look.Least == nil || !alike(*look.Least, c.least) {
			t.Errorf("%s: looked over after %+v", name, look.Least)
		}
	}
}

func alike(a, b Lag) bool {
	return a.From == b.From && a.Stage == b.Stage && a.Fixed == b.Fixed && math.Abs(float64(a.About-b.About)) < 1e-6
}

// By hand for 60 m²: swept at 90 m²/h in 40 min, after the film takes feet (12 h). What is only scattered is
// not swept up. The source of the pace stands beside the constant.
func TestBroadcastAndSweeping(t *testing.T) {
	for _, full := range []bool{true, false} {
		body := laid("b", 1, twoPart())
		body.Full, body.Casting = full, hour
		body.Build = &buildup.Build{Additions: []buildup.Addition{
			{Name: "Thinner", How: buildup.IntoMix, Volume: 0.0004},
			{Medium: "quartz", Name: "Quartz", How: "onto the wet film", Mass: 180},
		}}
		tasks := Derive(Surface{ID: "s", Area: 60, Coats: []Coat{body, laid("c", 2, twoPart())}})
		thrown := find(t, tasks, "coat/b/broadcast")
		if math.Abs(float64(thrown.Effort-hour)) > 1e-6 || thrown.Needs.Materials[0].Value != 180 ||
			thrown.Needs.Materials[0].Medium != "quartz" {
			t.Errorf("thrown in %v: %+v", thrown.Effort, thrown.Needs)
		}
		// It begins with the pour and must end before the working time does.
		if g := gap(t, thrown, "coat/b/pour"); g.Least.From != FromStart || g.Most == nil ||
			g.Most.Stage != material.StageWorking || g.Most.From != FromStart {
			t.Errorf("thrown between %+v and %+v", g.Least, g.Most)
		}
		last := ID("coat/b/broadcast")
		if full {
			swept := find(t, tasks, "coat/b/sweep-up")
			if math.Abs(float64(swept.Effort-40*measure.Minute)) > 1e-6 || !slices.Contains(swept.Needs.Machines, Vacuum) {
				t.Errorf("swept in %v with %v", swept.Effort, swept.Needs.Machines)
			}
			if g := gap(t, swept, "coat/b/pour"); !alike(*g.Least,
				Lag{From: FromEnd, Stage: material.StageFoot, About: 12 * hour}) {
				t.Errorf("swept after %+v", g.Least)
			}
			last = swept.ID
		} else if slices.ContainsFunc(tasks, func(task Task) bool { return task.Kind == SweepUp }) {
			t.Error("a light scatter is swept up")
		}
		gap(t, find(t, tasks, "coat/c/check"), last)
		// What is stirred in is the pour's own.
		if m := find(t, tasks, "coat/b/pour").Needs.Materials; len(m) != 3 || m[1].Kind != measure.KindVolume ||
			m[1].Value != 0.0004 || m[2].Kind != measure.KindMass {
			t.Errorf("the pour uses up %+v", m)
		}
	}
}

// A look over a small top takes its ten minutes; over a large floor its area rules.
func TestLookingOver(t *testing.T) {
	for area, want := range map[measure.Area]measure.Span{0.4: 600, 50: 600, 51: 612, 900: 3 * hour} {
		tasks := Derive(Surface{ID: "s", Area: area, Coats: []Coat{laid("a", 1, twoPart())}})
		for _, id := range []ID{"coat/a/check", "surface/s/inspect"} {
			if got := find(t, tasks, id).Effort; math.Abs(float64(got-want)) > 1e-6 {
				t.Errorf("%v m²: %s takes %v, want %v", area, id, got, want)
			}
		}
		if g := gap(t, find(t, tasks, "coat/a/pour"), "coat/a/check"); g.Most == nil || g.Most.Fixed != hour {
			t.Errorf("the surface stays clean for %+v", g.Most)
		}
	}
}

// Preparation comes one piece after another, with the drying of a wet one as the
// gap to the next; the same piece twice has two ids; sanding between coats belongs
// to the coats; out of doors all of it waits for dry weather.
func TestPreparationInOrder(t *testing.T) {
	s := Surface{ID: "yard/north", Outdoors: true, Area: 60, Preparation: []survey.PreparationTask{
		{ID: "etch", Name: "Etch", Work: 2 * hour}, {ID: "rinse", Name: "Rinse", Work: hour, Drying: 14 * hour},
		{ID: survey.BetweenCoats, Name: "Sand", Work: hour}, {ID: "vacuum", Name: "Vacuum", Work: hour},
		{ID: "vacuum", Name: "Vacuum again", Work: hour},
		{ID: "fill", Name: "Fill", Work: hour},
	}}
	tasks := Derive(s)
	want := []ID{"surface/yard~1north/prepare/etch", "surface/yard~1north/prepare/rinse",
		"surface/yard~1north/prepare/vacuum", "surface/yard~1north/prepare/vacuum-2", "surface/yard~1north/prepare/fill"}
	if len(tasks) != len(want) {
		t.Fatalf("%d tasks", len(tasks))
	}
	for i, task := range tasks {
		if task.ID != want[i] || task.Gate != DryWeather || task.Split != Free || task.Surface != "yard/north" {
			t.Errorf("%+v, want %s", task, want[i])
		}
		if i > 0 && task.After[0].Task != want[i-1] {
			t.Errorf("%s comes after %v", task.ID, task.After)
		}
	}
	if g := gap(t, tasks[2], want[1]); g.Least == nil || g.Least.Fixed != 14*hour {
		t.Errorf("vacuumed %+v after the rinse", g.Least)
	}
	if tasks[1].After[0].Least != nil {
		t.Errorf("the rinse waits %+v for the etch", tasks[1].After[0].Least)
	}
	if !slices.Contains(tasks[0].Needs.Skills, Acids) || tasks[4].Kind != Fill {
		t.Errorf("%+v, %v", tasks[0].Needs, tasks[4].Kind)
	}
}

// Only what the survey left open is tested again, not what someone overrode; the
// tests stand beside each other and the first coat waits for all of them.
func TestTestsLeftOpen(t *testing.T) {
	tasks := Derive(Surface{ID: "s", Area: 60, Coats: []Coat{laid("a", 1, twoPart())}, Verdicts: []survey.Verdict{
		{ID: "slab-humidity", Fit: survey.Unknown}, {ID: "ph", Fit: survey.FitNow},
		{ID: "pull-off", Fit: survey.Unfit, Override: &survey.Override{}},
		{ID: "water-drop", Fit: survey.FitAfter}, {ID: "substrate", Fit: survey.Unknown},
	}})
	var tested []ID
	for _, task := range tasks {
		if task.Kind == Retest {
			tested = append(tested, task.ID)
		}
	}
	if !slices.Equal(tested, []ID{"surface/s/retest/slab-humidity", "surface/s/retest/slab-humidity/read",
		"surface/s/retest/water-drop"}) {
		t.Errorf("tested again: %v", tested)
	}
	// ASTM F2170 as of 2018, from memory: 24 h in the hole.
	if g := gap(t, find(t, tasks, tested[1]), tested[0]); g.Least == nil || g.Least.Fixed != 24*hour || g.Most != nil {
		t.Errorf("the humidity in the slab is read after %+v", g)
	}
	check := find(t, tasks, "coat/a/check")
	for _, id := range tested[1:] {
		gap(t, check, id)
	}
}

// A surface is tested as soon as it is open and dry, before it is filled and masked: these wait for what is decided
// at once, the first coat for what takes a night. What was etched is tested when it is dry.
func TestTestsComeBeforeWhatCoversThem(t *testing.T) {
	steps := func(ids ...string) []survey.PreparationTask {
		all := make([]survey.PreparationTask, len(ids))
		for n, id := range ids {
			all[n] = survey.PreparationTask{ID: id, Name: id, Work: 600}
		}
		return all
	}
	etched := steps("etch", "rinse-again", "fill", "sand-fills", "mask")
	etched[1].Drying = 16 * hour
	for name, k := range map[string]struct {
		steps         []survey.PreparationTask
		after, before ID
	}{
		"ground":          {steps("grind", "vacuum", "fill", "mask"), "vacuum", "fill"},
		"nothing to fill": {steps("grind", "vacuum", "mask"), "vacuum", "mask"},
		"etched":          {etched, "rinse-again", "fill"},
		"nothing covers":  {steps("grind"), "grind", ""},
	} {
		tasks := Derive(Surface{ID: "s", Area: 60, Preparation: k.steps, Coats: []Coat{laid("a", 1, twoPart())},
			Verdicts: []survey.Verdict{{ID: "profile", Fit: survey.Unfit}, {ID: "emission", Fit: survey.Unknown}}})
		profile, set := find(t, tasks, "surface/s/retest/profile"), find(t, tasks, "surface/s/retest/emission")
		for _, test := range []Task{profile, set} {
			g := gap(t, test, "surface/s/prepare/"+k.after)
			if dries := name == "etched"; dries != (g.Least != nil && g.Least.Fixed == 16*hour) {
				t.Errorf("%s: %s waits %+v", name, test.ID, g)
			}
		}
		if k.before != "" {
			next := find(t, tasks, "surface/s/prepare/"+k.before)
			if len(next.After) != 1 || next.After[0].Task != profile.ID {
				t.Errorf("%s: %s comes after %+v", name, next.ID, next.After)
			}
		}
		// ASTM F1869, from memory: weighed 60 to 72 h after the dishes were set.
		read := find(t, tasks, "surface/s/retest/emission/read")
		if g := gap(t, read, set.ID); g.Least == nil || g.Least.Fixed != 60*hour || g.Most == nil || g.Most.Fixed != 72*hour {
			t.Errorf("%s: weighed after %+v", name, g)
		}
		gap(t, find(t, tasks, "coat/a/check"), read.ID)
	}
}

// A coat that cannot be worked out yet ends the list: what comes above it is not
// told, and no return to service is promised.
func TestNothingAboveAnUnknownCoat(t *testing.T) {
	unknown := laid("b", 2, twoPart())
	unknown.Division = nil
	tasks := Derive(Surface{ID: "s", Area: 60, Coats: []Coat{laid("a", 1, twoPart()), unknown, laid("c", 3, twoPart())}})
	if last := tasks[len(tasks)-1]; last.ID != "coat/a/pour" {
		t.Errorf("the last task is %s", last.ID)
	}
}

// Service begins by the last film: each stage the sheet gives, in its order, and
// none that it does not.
func TestReturnToService(t *testing.T) {
	resin := twoPart()
	resin.Furniture = steady(48 * hour)
	tasks := Derive(Surface{ID: "s", Name: "Fish hall", Area: 60, Coats: []Coat{laid("a", 1, resin)}})
	var stages []material.StageKey
	for _, task := range tasks {
		if task.Kind != Return {
			continue
		}
		stages = append(stages, task.Stage)
		if g := gap(t, task, "coat/a/pour"); g.Least.From != FromEnd || g.Least.Stage != task.Stage ||
			task.Split != Passing || task.Effort != 0 {
			t.Errorf("%+v", task)
		}
	}
	if at := slices.IndexFunc(tasks, func(t Task) bool { return t.Stage == material.StageFurniture }); at < 0 ||
		tasks[at].Name != "Fish hall: furniture" {
		t.Error("nobody is told when furniture may come")
	}
	if !slices.Equal(stages, []material.StageKey{material.StageFoot, material.StageFurniture, material.StageFull}) {
		t.Errorf("returned to %v", stages)
	}
}

// No dust falls on an open film of another room: what grinds it comes before the first coat of each, what abrades
// before the coats of the same round that are abraded. A room that is shut waits for nobody.
func TestNoDustOnAnOpenFilm(t *testing.T) {
	room := func(id string) []Task {
		second := laid(id+"2", 2, twoPart())
		second.Abraded = true
		return Derive(Surface{ID: id, Name: id, Area: 60, Coats: []Coat{laid(id+"1", 1, twoPart()), second},
			Preparation: []survey.PreparationTask{{ID: "grind", Work: hour}, {ID: "vacuum", Work: hour}}})
	}
	tasks := slices.Concat(room("a"), room("b"), room("c"))
	ClearAir(tasks, func(surface string) bool { return surface == "c" })
	gap(t, find(t, tasks, "coat/a1/pour"), "surface/b/prepare/grind")
	gap(t, find(t, tasks, "coat/b1/pour"), "surface/a/prepare/grind")
	gap(t, find(t, tasks, "coat/a2/pour"), "coat/b2/abrade")
	gap(t, find(t, tasks, "coat/b2/pour"), "coat/a2/abrade")
	for _, id := range []ID{"coat/a1/pour", "coat/a2/pour", "coat/c1/pour", "coat/c2/pour"} {
		for _, after := range find(t, tasks, id).After {
			own := string(id[len("coat/")])
			if task := find(t, tasks, after.Task); task.Surface != own && (task.Surface == "c" || own == "c") {
				t.Errorf("%s waits for %s", id, after.Task)
			}
		}
	}
}

// Tape is pulled once the last coat is laid, by a quarter of the effort of masking, on an edge that a film runs over
// when that has slowed; before people can walk on it. Where nothing was masked nobody pulls anything.
func TestTheTapeIsPulled(t *testing.T) {
	s := Surface{ID: "s", Name: "Fish hall", Area: 60, Coats: []Coat{laid("a", 1, twoPart()), laid("b", 2, twoPart())},
		Preparation: []survey.PreparationTask{{ID: "mask", Work: 2 * hour}}}
	pull := find(t, Derive(s), "surface/s/unmask")
	if pull.Effort != hour/2 || len(pull.After) != 1 || pull.After[0].Least != nil ||
		math.Abs(float64(pull.After[0].Most.About-12*hour)) > 1e-6 {
		t.Errorf("%+v", pull)
	}
	gap(t, pull, "coat/b/pour")
	gap(t, find(t, Derive(s), "surface/s/inspect"), "surface/s/unmask")
	s.Runs = 20 * measure.Minute
	if after := find(t, Derive(s), "surface/s/unmask").After[0]; after.Least == nil || after.Least.Fixed != s.Runs {
		t.Errorf("%+v", after)
	}
	s.Preparation = nil
	for _, task := range Derive(s) {
		if task.Kind == Unmask {
			t.Error("tape that nobody put there is pulled")
		}
	}
}
