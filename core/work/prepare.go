package work

import (
	"fmt"

	"nephelon/core/measure"
	"nephelon/core/survey"
)

// fixed is a gap of its own length; nil where there is none.
func fixed(s measure.Span) *Lag {
	if s <= 0 {
		return nil
	}
	return &Lag{From: FromEnd, Fixed: s}
}

// machines returns what a task of preparation runs on.
func machines(task string) (needs []Machine, skills []Skill) {
	switch task {
	case "grind", "scrape":
		return []Machine{Grinder, Vacuum}, []Skill{Grinding}
	case "shot-blast":
		return []Machine{Blaster, Vacuum}, []Skill{Grinding}
	case "screen":
		return []Machine{Screener, Vacuum}, nil
	case "sand", "abrade", "sand-fills":
		return []Machine{Sander, Vacuum}, nil
	case "vacuum", "vacuum-fills", "walls", "brush":
		return []Machine{Vacuum}, nil
	case "etch", "neutralise":
		return []Machine{WetVacuum}, []Skill{Acids}
	case "wet", "rinse", "rinse-again", "degrease":
		return []Machine{WetVacuum}, nil
	}
	return nil, nil
}

// covers reports whether a piece of preparation hides what the opened surface is judged by.
func covers(task string) bool { return task == "level" || task == "fill" || task == "mask" }

// PrepareIDs returns the ids of the steps of a surface's preparation; a step that comes again has its number.
func PrepareIDs(surface string, steps []survey.PreparationTask) []ID {
	seen, ids := make(map[string]int), make([]ID, len(steps))
	for n, p := range steps {
		seen[p.ID]++
		name := p.ID
		if times := seen[p.ID]; times > 1 {
			name = fmt.Sprintf("%s-%d", p.ID, times)
		}
		ids[n] = PrepareID(surface, name)
	}
	return ids
}

// prepare makes a task of each piece of preparation, one after another, and of what is tested again as
// soon as the surface is open, before anything covers it: so that what fails is done again on a bare
// floor. It returns what the first coat waits for. Sanding between coats belongs to the coats.
func (d *deriver) prepare() []After {
	before := d.Follows
	var slow []After // tests that go on beside the rest
	tested := false
	ids := PrepareIDs(d.ID, d.Preparation)
	for n, p := range d.Preparation {
		if p.ID == survey.BetweenCoats {
			continue
		}
		if !tested && covers(p.Kind()) {
			before, slow = d.retest(before)
			tested = true
		}
		t := Task{
			ID: ids[n], Kind: Prepare, Name: p.Name, Effort: p.Work, Split: Free,
			After: before, Closes: p.Check,
			Needs: Needs{Roles: []Hands{{Preparer, 1}}},
		}
		if kind := p.Kind(); kind == "level" || kind == "fill" || kind == "sand-fills" {
			t.Kind = Fill
		}
		if d.Outdoors {
			t.Gate = DryWeather
		}
		t.Needs.Machines, t.Needs.Skills = machines(p.Kind())
		for _, item := range p.Items {
			t.Needs.Materials = append(t.Needs.Materials, Material{Name: item.Name, Kind: item.Kind, Value: item.Value})
		}
		if p.People > 0 {
			t.Needs.Roles = []Hands{{Preparer, p.People}}
			t.Crew = p.People
		}
		before = []After{{Task: d.add(t), Least: fixed(p.Drying)}}
	}
	if !tested {
		before, slow = d.retest(before)
	}
	return append(before, slow...)
}

// test holds how a verdict is decided: at once, or by what is set and read after some time.
type test struct {
	name        string
	reads       string       // what is read later; empty where it is decided at once
	least, most measure.Span // s from setting it to reading it; most is zero where it has no end
}

// tests returns the test that can decide a verdict.
func tests(verdict string) (test, bool) {
	switch verdict {
	case "moisture", "plastic-sheet":
		return test{"Tape a sheet to the slab for moisture", "Lift the sheet and look for moisture", underSheet, 0}, true
	case "slab-humidity":
		return test{"Set the probes for the humidity in the slab", "Read the humidity in the slab", inTheSlab, 0}, true
	case "carbide":
		return test{name: "Test the moisture by the carbide method"}, true
	case "emission":
		return test{"Set the dishes for moisture emission", "Weigh the dishes of moisture emission", withCalcium,
			calciumEnds}, true
	case "water-drop":
		return test{name: "Test with a drop of water"}, true
	case "ph":
		return test{name: "Test the pH again"}, true
	case "pull-off":
		return test{name: "Test the pull-off strength again"}, true
	case "profile":
		return test{name: "Compare the profile with the chips"}, true
	}
	return test{}, false
}

// retest makes a task of each test that the survey left open, beside each other, and returns what the
// work after them waits for, and those that take a night or more: only the first coat waits for these.
func (d *deriver) retest(before []After) (next, slow []After) {
	for _, v := range d.Verdicts {
		if v.Fit == survey.FitNow || v.Override != nil {
			continue
		}
		own, ok := tests(v.ID)
		if !ok {
			continue
		}
		task := Task{
			ID: idOf("surface", d.ID, string(Retest), v.ID), Kind: Retest, Name: own.name, Effort: oneTest,
			Split: Free, After: before, Closes: v.Text, Needs: Needs{Roles: []Hands{{Tester, 1}}},
		}
		if own.reads == "" {
			next = append(next, After{Task: d.add(task)})
			continue
		}
		task.Closes = ""
		read := task
		read.ID, read.Name, read.Effort, read.Closes = task.ID+"/read", own.reads, oneReading, v.Text
		read.After = []After{{Task: d.add(task), Least: fixed(own.least), Most: fixed(own.most)}}
		slow = append(slow, After{Task: d.add(read)})
	}
	if len(next) == 0 {
		next = before
	}
	return next, slow
}
