package survey

import (
	"slices"
	"strings"
	"testing"

	"nephelon/core/measure"
	"nephelon/core/school"
)

// What a person changes of a preparation: by hand, for 60 m² that are ground, with fills.
func TestStepsOfAPerson(t *testing.T) {
	extent := Extent{Area: 60, Perimeter: 32, Filler: 0.004, Coats: 2, People: 2}
	plan := func(m school.Methods, steps ...StepChange) Preparation {
		return Prepare(Survey{Substrate: Concrete, Steps: steps}, extent, m, nil)
	}
	order := func(p Preparation) string {
		ids := make([]string, len(p.Tasks))
		for n, task := range p.Tasks {
			ids[n] = task.ID
		}
		return strings.Join(ids, " ")
	}
	find := func(p Preparation, id string) PreparationTask {
		t.Helper()
		at := slices.IndexFunc(p.Tasks, func(task PreparationTask) bool { return task.ID == id })
		if at < 0 {
			t.Fatalf("no %s in %s", id, order(p))
		}
		return p.Tasks[at]
	}
	ground, etched := school.Methods{Filler: school.BodyFiller}, school.Methods{Opening: school.Etch,
		Filler: school.BodyFiller}
	plain := plan(ground)
	const (
		all  = "protect walls grind vacuum fill sand-fills vacuum-fills mask"
		acid = "protect walls wet etch rinse neutralise rinse-again fill sand-fills vacuum-fills mask"
	)
	if order(plain) != all {
		t.Fatalf("%s", order(plain))
	}
	own := &OwnStep{Name: "Take out the old rails", Like: "grind", Work: 3 * measure.Hour, Drying: measure.Hour,
		Items: []Supply{{"Anchors to cut", measure.KindCount, 12}}}
	for name, k := range map[string]struct {
		methods school.Methods
		steps   []StepChange
		want    string
		refused bool
	}{
		"left out": {ground, []StepChange{{ID: "walls", Left: "no walls here"}},
			strings.Replace(all, "walls ", "", 1), false},
		"moved": {ground, []StepChange{{ID: "walls", Before: "mask"}},
			"protect grind vacuum fill sand-fills vacuum-fills walls mask", false},
		"after all": {ground, []StepChange{{ID: "protect", Before: "end"}},
			"walls grind vacuum fill sand-fills vacuum-fills mask protect", false},
		"an own one": {ground, []StepChange{{ID: "o1", Own: own}},
			strings.Replace(all, "mask", "grind-o1 mask", 1), false},
		"an own one before": {ground, []StepChange{{ID: "o1", Own: own, Before: "walls"}},
			strings.Replace(all, "walls", "grind-o1 walls", 1), false},
		"a step that is gone": {ground, []StepChange{{ID: "degrease", Left: "clean"}, {ID: "etch", Passes: 2}},
			all, false},
		"no rinse": {etched, []StepChange{{ID: "rinse", Left: "no water"}},
			acid, true},
		"no last rinse": {etched, []StepChange{{ID: "rinse-again", Left: "no time"}},
			acid, true},
		"no neutraliser": {etched, []StepChange{{ID: "neutralise", Left: "citric"}},
			strings.Replace(acid, "neutralise ", "", 1), false},
		"neutralised too early": {etched, []StepChange{{ID: "neutralise", Before: "rinse"}},
			acid, true},
	} {
		p := plan(k.methods, k.steps...)
		if order(p) != k.want || (p.Refused != "") != k.refused {
			t.Errorf("%s: %s (%q), want %s", name, order(p), p.Refused, k.want)
		}
	}
	// Own acid without a rinse after it is told, and with one it is not; an own rinse stands in for one left out.
	acidic, rinse := &OwnStep{Name: "Descale", Like: "etch"}, &OwnStep{Name: "Hose", Like: "rinse"}
	for name, k := range map[string]struct {
		methods school.Methods
		steps   []StepChange
		told    bool
	}{
		"own acid":          {ground, []StepChange{{ID: "o1", Own: acidic}}, true},
		"and a rinse":       {ground, []StepChange{{ID: "o1", Own: acidic}, {ID: "o2", Own: rinse}}, false},
		"a rinse before it": {ground, []StepChange{{ID: "o2", Own: rinse}, {ID: "o1", Own: acidic}}, true},
		"another rinse": {etched, []StepChange{{ID: "o2", Own: rinse, Before: "rinse"},
			{ID: "rinse", Left: "own"}}, false},
		"wetted onto the acid": {etched, []StepChange{{ID: "wet", Before: "rinse"}}, true},
	} {
		if p := plan(k.methods, k.steps...); (p.Refused != "") != k.told {
			t.Errorf("%s: %s, %q", name, order(p), p.Refused)
		}
	}
	mixed := plan(ground, StepChange{ID: "o1", Own: acidic}, StepChange{ID: "walls", Left: "none"})
	if len(mixed.Left) != 1 {
		t.Errorf("another change is refused for the acid: %s", order(mixed))
	}
	// Screened twice: twice the hours and the screens, and the sum with it.
	twice := plan(ground, StepChange{ID: "grind", Passes: 2})
	once, both := find(plain, "grind"), find(twice, "grind")
	if both.Work != 2*once.Work || both.Items[0].Value != 2*once.Items[0].Value || both.Drying != once.Drying ||
		twice.Work != plain.Work+once.Work || both.Name != "Grind, 2 times" {
		t.Errorf("%+v, once %+v", both, once)
	}
	// What is left out keeps its reason; an own one has the machines of its kind and what it says.
	left := plan(ground, StepChange{ID: "walls", Left: "no walls here"})
	if len(left.Left) != 1 || left.Left[0].Why != "no walls here" || left.Work != plain.Work-find(plain, "walls").Work {
		t.Errorf("%+v, %v of work", left.Left, left.Work)
	}
	with := plan(ground, StepChange{ID: "o1", Own: own})
	if task := find(with, "grind-o1"); task.Kind() != "grind" || task.Step != "o1" ||
		!slices.Contains(task.Cautions, cautionDust) ||
		with.Work != plain.Work+3*measure.Hour || with.Drying != plain.Drying+measure.Hour || len(task.Items) != 1 {
		t.Errorf("%+v", task)
	}
	for step, wet := range map[string]bool{"rinse": true, "rinse-again": true, "rinse-o7": true, "degrease-2": true,
		"grind": false, "wetted": false, "own-rinse": false} {
		if Wets(step) != wet {
			t.Errorf("%s brings water: %v", step, !wet)
		}
	}
}

// A floor is screened and then etched, each with its steps in their order; acid is refused where the surface does not
// bear it, and the screening stays.
func TestOneOpeningAfterAnother(t *testing.T) {
	ids := func(s Survey, m school.Methods, g Extent) string {
		var all []string
		for _, t := range Prepare(s, g, m, nil).Tasks {
			all = append(all, t.ID)
		}
		return strings.Join(all, " ")
	}
	g := Extent{Area: 100, Perimeter: 60, People: 2}
	floor := Survey{Substrate: Concrete, Also: []school.Opening{school.Screen}}
	etch := school.Methods{Opening: school.Etch}
	const both = "walls screen vacuum-screen wet etch rinse neutralise rinse-again"
	if got := ids(floor, etch, g); !strings.Contains(got, both) {
		t.Errorf("screened and etched: %s", got)
	}
	if got := ids(floor, school.Methods{Opening: school.Screen}, g); strings.Count(got, "screen") != 1 {
		t.Errorf("screened twice: %s", got)
	}
	floor.Also = []school.Opening{school.Etch}
	if got := ids(floor, school.Methods{Opening: school.Grind}, g); !strings.Contains(got, "rinse-again grind vacuum") {
		t.Errorf("etched and ground: %s", got)
	}
	floor.Contamination = []string{"sealer"}
	p := Prepare(floor, g, school.Methods{Opening: school.Grind}, nil)
	if strings.Contains(ids(floor, school.Methods{Opening: school.Grind}, g), "etch") ||
		!strings.Contains(p.Refused, "It is not etched.") {
		t.Errorf("acid on a sealer: %q", p.Refused)
	}
}
