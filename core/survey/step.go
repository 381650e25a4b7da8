package survey

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"nephelon/core/measure"
)

// StepChange holds what a person changes of the preparation: a step that is left out, done several times or moved, or
// one of their own.
type StepChange struct {
	ID     string   `json:"id" minLength:"1" maxLength:"60" doc:"Id of a step, or of an own one"`
	Left   string   `json:"left,omitempty" maxLength:"300" doc:"Why it is left out"`
	Passes int      `json:"passes,omitempty" minimum:"1" maximum:"9" doc:"How often it is done; once when left out"`
	Before string   `json:"before,omitempty" maxLength:"60" doc:"Id of the step that it comes before; end: after all; absent: where it comes by itself, an own one before masking"`
	Own    *OwnStep `json:"own,omitempty"`
}

// OwnStep is a piece of preparation that a person adds.
type OwnStep struct {
	Name   string       `json:"name" minLength:"1" maxLength:"80" pattern:"^[^\\r\\n]*$"`
	How    string       `json:"how,omitempty" maxLength:"400"`
	Like   string       `json:"like,omitempty" enum:"grind,shot-blast,screen,sand,scrape,vacuum,degrease,etch,rinse,fill" doc:"Step whose machines, skills and quiet hours it takes"`
	Work   measure.Span `json:"work" minimum:"0" maximum:"3600000" doc:"Person-seconds"`
	People int          `json:"people,omitempty" minimum:"0" maximum:"40" doc:"People at it; the whole crew when left out"`
	Drying measure.Span `json:"drying,omitempty" minimum:"0" maximum:"2592000" doc:"s before the next step"`
	Items  []Supply     `json:"items,omitempty" maxItems:"20"`
	Check  string       `json:"check,omitempty" maxLength:"200" doc:"What closes it"`
}

// StepLeft is a step that a person leaves out.
type StepLeft struct {
	ID   string `json:"id"`
	Name string `json:"name"`
	Why  string `json:"why"`
}

// last names where a step is moved that comes after all.
const last = "end"

// Kind returns the id of the step whose machines and skills a task takes.
func (t PreparationTask) Kind() string { return cmp.Or(t.Like, t.ID) }

// Wets reports whether the booking of a step brings water onto the surface, as the end of its id tells.
func Wets(step string) bool {
	return slices.ContainsFunc(WetSteps(), func(w string) bool { return step == w || strings.HasPrefix(step, w+"-") })
}

// changed makes of the steps that follow from the survey those that a person wants: own ones added, some moved,
// repeated or left out. What would put acid and neutraliser together is refused.
func (p *planner) changed() {
	for _, s := range p.Steps {
		if s.Own != nil {
			p.insert(p.own(s), cmp.Or(s.Before, "mask"))
		}
	}
	if !rinsed(p.out.Tasks) { // what a person adds stays, and is told
		p.out.Refused = "Acid or neutraliser is not rinsed off after a step of your own. Add a rinse after it, and one " +
			"between the two."
	}
	for _, s := range p.Steps {
		at := slices.IndexFunc(p.out.Tasks, func(t PreparationTask) bool { return t.ID == s.ID })
		if s.Own != nil || s.Before == "" || at < 0 {
			continue
		}
		before := slices.Clone(p.out.Tasks)
		p.out.Tasks = slices.Delete(p.out.Tasks, at, at+1)
		p.insert(before[at], s.Before)
		p.safe(before, s.ID)
	}
	for _, s := range p.Steps {
		at := slices.IndexFunc(p.out.Tasks, func(t PreparationTask) bool { return t.ID == p.idOf(s) })
		if at < 0 {
			continue
		}
		if t := &p.out.Tasks[at]; s.Passes > 1 {
			t.Passes = s.Passes
			t.Work *= measure.Span(s.Passes)
			t.Name += fmt.Sprintf(", %d times", s.Passes)
			t.Items = slices.Clone(t.Items)
			for n := range t.Items {
				t.Items[n].Value *= float64(s.Passes)
			}
		}
		if s.Left != "" {
			before := slices.Clone(p.out.Tasks)
			gone := before[at]
			p.out.Tasks = slices.Delete(p.out.Tasks, at, at+1)
			if p.safe(before, s.ID) {
				p.out.Left = append(p.out.Left, StepLeft{gone.ID, gone.Name, s.Left})
			}
		}
	}
}

// idOf returns the id of the task of a step: an own one's tells what it is like.
func (*planner) idOf(s StepChange) string {
	if s.Own == nil {
		return s.ID
	}
	return cmp.Or(s.Own.Like, "own") + "-" + s.ID
}

// own is a step of a person's own as a task.
func (p *planner) own(s StepChange) PreparationTask {
	o := s.Own
	t := PreparationTask{ID: p.idOf(s), Step: s.ID, Name: o.Name, How: o.How, Like: o.Like, Items: slices.Clone(o.Items),
		Work: o.Work, People: o.People, Drying: o.Drying, Wet: slices.Contains(WetSteps(), o.Like),
		Check: cmp.Or(o.Check, "Looked over")}
	if t.Items == nil {
		t.Items = []Supply{}
	}
	t.Cautions = []string{}
	switch o.Like {
	case "grind", "shot-blast", "screen", "sand", "scrape":
		t.Cautions = append(t.Cautions, cautionDust)
	case "etch":
		t.Cautions = append(t.Cautions, cautionAcid, cautionWet)
	case "degrease", "rinse":
		t.Cautions = append(t.Cautions, cautionWet)
	case "fill":
		t.Cautions = append(t.Cautions, cautionSkin)
	}
	return t
}

// insert puts a task before another, or after all where that is not there.
func (p *planner) insert(t PreparationTask, before string) {
	at := slices.IndexFunc(p.out.Tasks, func(o PreparationTask) bool { return o.ID == before })
	if at < 0 || before == last {
		at = len(p.out.Tasks)
	}
	p.out.Tasks = slices.Insert(p.out.Tasks, at, t)
}

// safe goes back to the steps before a change that puts acid and neutraliser together, or leaves either on the floor.
func (p *planner) safe(before []PreparationTask, step string) bool {
	if rinsed(p.out.Tasks) || !rinsed(before) {
		return true
	}
	p.out.Tasks = before
	p.out.Refused = fmt.Sprintf("“%s” stays where it is: acid is rinsed off before it is neutralised, and the floor "+
		"rinsed again after that.", strings.ReplaceAll(step, "-", " "))
	return false
}

// rinsed reports whether acid goes onto a wetted floor and is rinsed off before the neutraliser, and that after it.
func rinsed(tasks []PreparationTask) bool {
	acid, base := false, false
	for _, t := range tasks {
		switch t.Kind() {
		case "wet":
			if acid {
				return false
			}
		case "etch":
			if base {
				return false
			}
			acid = true
		case "neutralise":
			if acid {
				return false
			}
			base = true
		case "rinse", "rinse-again":
			acid, base = false, false
		}
	}
	return !acid && !base
}
