package search

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"nephelon/core/roster"
	"nephelon/core/roster/exact"
	"nephelon/core/roster/lcg"
	"nephelon/core/roster/model"
)

// Conflict is returned where nothing fits.
type Conflict struct {
	Proven bool     // else no plan was found in the time given
	Tasks  []string // job/task: they cannot be scheduled by themselves, and all but any one of them can
	Text   string
	Ways   []string // what would let them fit, each tried by itself
}

func (c *Conflict) Error() string { return c.Text }

// stuck names what most often found no place.
func (s *search) stuck() string {
	most, at := 0, -1
	for i := range s.Tasks {
		if s.failed[i] > most {
			most, at = s.failed[i], i
		}
	}
	if at < 0 {
		return ""
	}
	return fmt.Sprintf("Most often %s of %s found no place.", s.Tasks[at].Name, s.JobName(s.Tasks[at].Job))
}

// conflictsEach is the most conflicts that a part of a hopeless problem is looked through for.
const conflictsEach = 20_000

// explain returns the conflict of a problem in which nothing fits: the least tasks that
// cannot be scheduled together, and each change by which they could. Its time is bounded by
// counts, so it is not cut off with the planning.
func explain(ctx context.Context, m *model.Model) error {
	x := explainer{ctx: context.WithoutCancel(ctx), whole: m}
	core := x.minimal()
	c := &Conflict{Proven: true}
	for _, i := range core {
		c.Tasks = append(c.Tasks, keyOf(m, i))
	}
	slices.Sort(c.Tasks)
	alone := x.part(core)
	var reasons []string
	for _, r := range x.changes(core, alone) {
		if x.fits(r.problem, true) {
			reasons, c.Ways = append(reasons, r.reason), append(c.Ways, r.way)
		}
	}
	reasons = slices.DeleteFunc(reasons, func(s string) bool { return s == "" })
	c.Text = named(m, core) + " cannot be scheduled" + together(len(core))
	if len(reasons) > 0 {
		c.Text += ": " + strings.Join(reasons, "; and ")
	} else {
		c.Text += ", and no single change would let them be"
		c.Ways = []string{"Change more than one of their pins, gaps and hours, or leave one of them out"}
	}
	c.Text += "."
	return c
}

// keyOf names a task as job/task.
func keyOf(m *model.Model, i int) string {
	return m.Jobs[m.Tasks[i].Job].ID + "/" + m.NameOf(i, m.Tasks[i].Job)
}

func together(n int) string {
	if n > 1 {
		return " together"
	}
	return ""
}

// named lists tasks in words, job by job.
func named(m *model.Model, tasks []int) string {
	var all []string
	for n, i := range tasks {
		name := m.Tasks[i].Name
		if n+1 == len(tasks) || m.Tasks[tasks[n+1]].Job != m.Tasks[i].Job {
			name += " of " + m.JobName(m.Tasks[i].Job)
		}
		all = append(all, name)
	}
	if len(all) == 1 {
		return all[0]
	}
	return strings.Join(all[:len(all)-1], ", ") + " and " + all[len(all)-1]
}

// explainer looks for the least part of a problem that cannot be scheduled.
type explainer struct {
	ctx   context.Context
	whole *model.Model
}

// minimal returns tasks, in order, that cannot be scheduled by themselves while all but any
// one of them can, as far as is proven within bounds (QuickXplain, Junker 2004). It costs
// about 2·k·log(n/k) looks at parts of the problem, for k of n tasks.
func (x *explainer) minimal() []int {
	all := make([]int, len(x.whole.Tasks))
	for i := range all {
		all[i] = i
	}
	strictly := x.fits(x.part(all), false) // else crews and machines that are enough for all at once do not help
	fails := func(tasks []int) bool { return len(tasks) > 0 && !x.fits(x.part(tasks), strictly) }
	var least func(base []int, added bool, rest []int) []int
	least = func(base []int, added bool, rest []int) []int {
		if added && fails(base) {
			return nil
		}
		if len(rest) <= 1 {
			return rest
		}
		left, right := rest[:len(rest)/2], rest[len(rest)/2:]
		some := least(slices.Concat(base, left), true, right)
		return slices.Concat(least(slices.Concat(base, some), len(some) > 0, left), some)
	}
	core := least(nil, false, all)
	slices.Sort(core)
	if !strictly { // with crews and machines looked at, less may do
		for n := 0; n < len(core) && len(core) <= smallTasks; {
			if less := slices.Delete(slices.Clone(core), n, n+1); len(less) > 0 && !x.fits(x.part(less), true) {
				core = less
			} else {
				n++
			}
		}
	}
	return core
}

// part returns the problem of some tasks alone, with the gaps between them.
func (x *explainer) part(tasks []int) roster.Problem {
	p := *x.whole.Problem
	p.Before, p.Jobs = nil, nil
	kept := make(map[string]bool, len(tasks))
	for _, i := range tasks {
		kept[keyOf(x.whole, i)] = true
	}
	for _, j := range x.whole.Problem.Jobs {
		own := j
		own.Tasks = nil
		for _, t := range j.Tasks {
			if !kept[j.ID+"/"+t.ID] {
				continue
			}
			t.After = slices.DeleteFunc(slices.Clone(t.After),
				func(a roster.After) bool { return !kept[a.Task] && !kept[j.ID+"/"+a.Task] })
			own.Tasks = append(own.Tasks, t)
		}
		if len(own.Tasks) > 0 {
			p.Jobs = append(p.Jobs, own)
		}
	}
	return p
}

// fits reports whether a problem may fit: false only where it is proven that it does not,
// with crews and machines looked at only if all is.
func (x *explainer) fits(p roster.Problem, all bool) bool {
	m, err := model.Compile(&p)
	if err != nil {
		return false // a task that no shift is long enough for
	}
	m.When, m.Lasts = x.whole.When, x.whole.Lasts
	rest := relaxed{Model: m}
	if !rest.settle(rest.root()) {
		return false
	}
	if !all {
		return true
	}
	e := exact.Encode(m, nil, nil)
	return e == nil || e.S.Search(x.ctx, nil, conflictsEach, e.Next) != lcg.Nothing
}

// change is a problem with one rule less, what the rule says, and what lifts it.
type change struct {
	problem     roster.Problem
	reason, way string
}

// changes returns what could be changed of the tasks of a conflict, each by itself: pins and
// greatest gaps first, then what they share, when they may be worked, and the horizon.
func (x *explainer) changes(core []int, p roster.Problem) []change {
	m := x.whole
	var all []change
	edit := func(reason, way string, by func(*roster.Problem)) {
		all = append(all, change{changed(p, by), reason, way})
	}
	task := func(p *roster.Problem, i int) *roster.Task {
		for j := range p.Jobs {
			for t := range p.Jobs[j].Tasks {
				if p.Jobs[j].ID+"/"+p.Jobs[j].Tasks[t].ID == keyOf(m, i) {
					return &p.Jobs[j].Tasks[t]
				}
			}
		}
		return &roster.Task{}
	}
	earliest, known := x.earliest(core)
	for _, i := range core {
		t := &m.Tasks[i]
		if t.Pinned < 0 {
			continue
		}
		why := ""
		if at, there := earliest[i]; known && there && at.start > t.Pinned {
			why = fmt.Sprintf(", and cannot begin before %s", m.When(at.start))
		}
		edit(fmt.Sprintf("%s of %s is pinned to %s%s", t.Name, m.JobName(t.Job), m.When(t.Pinned), why), "Unpin "+t.Name,
			func(p *roster.Problem) { task(p, i).Start = nil })
	}
	for _, i := range core {
		t := &m.Tasks[i]
		for n := range t.Before {
			g := &t.Before[n]
			if g.Max == nil || g.Index >= 0 || !slices.Contains(core, g.Task) {
				continue
			}
			done, why := earliest[g.Task], ""
			if next, there := earliest[i]; known && there && next.start > g.Most(done.start, done.end) {
				why = fmt.Sprintf(": done %s at the earliest, it closes %s, and what follows can start at %s at the earliest",
					m.When(done.end), m.When(g.Most(done.start, done.end)), m.When(next.start))
			}
			length := m.Lasts(g.Max(done.end))
			edit(fmt.Sprintf("%s of %s must begin at most %s after %s is done%s", t.Name, m.JobName(t.Job), length,
				m.Tasks[g.Task].Name, why),
				fmt.Sprintf("Let %s come later than %s after %s, or waive that with extra work", t.Name, length,
					m.Tasks[g.Task].Name),
				func(p *roster.Problem) {
					for a := range task(p, i).After {
						if own := &task(p, i).After[a]; own.Buy == nil &&
							(own.Task == keyOf(m, g.Task) || m.Jobs[t.Job].ID+"/"+own.Task == keyOf(m, g.Task)) {
							own.Max, own.MaxAt = nil, nil
						}
					}
				})
		}
	}
	x.shared(core, edit)
	edit("", "Begin earlier, where a day is given before which nothing begins", func(p *roster.Problem) {
		for j := range p.Jobs {
			p.Jobs[j].Release = 0
		}
	})
	edit("they may be worked only at certain hours, by their site, the forecast or what is not there yet",
		"Let them be worked at other hours", func(p *roster.Problem) {
			for j := range p.Jobs {
				p.Jobs[j].Access = nil
				for t := range p.Jobs[j].Tasks {
					p.Jobs[j].Tasks[t].Windows = nil
				}
			}
		})
	edit("the shifts of who can do them leave no room", "Work more shifts, or longer ones", func(p *roster.Problem) {
		for c := range p.Crews {
			p.Crews[c].Shifts, p.Crews[c].Rests = []roster.Shift{{Window: roster.Window{From: 0, Until: p.Horizon}}}, nil
		}
	})
	edit(fmt.Sprintf("they do not fit before %s, where the plan ends", m.When(m.Horizon)),
		"Plan over a longer horizon", longer)
	return all
}

// shared adds what the tasks of a conflict share: crews, machines and ways.
func (x *explainer) shared(core []int, edit func(reason, way string, by func(*roster.Problem))) {
	m := x.whole
	var crews []int
	machines := make(map[int]bool)
	for _, i := range core {
		crews = append(crews, m.Tasks[i].Crews...)
		for _, n := range m.Tasks[i].Machines {
			machines[n] = true
		}
	}
	slices.Sort(crews)
	crews = slices.Compact(crews)
	var names []string
	for _, c := range crews {
		names = append(names, titled(m.Problem.Crews[c].Name, m.Problem.Crews[c].ID))
	}
	if len(core) > 1 && len(names) > 0 {
		reason := fmt.Sprintf("only %s can do them, and not at once", strings.Join(names, " and "))
		edit(reason, "Give them to another crew, or add one", func(p *roster.Problem) {
			for n, c := range slices.Clone(p.Crews) {
				for copies := range len(core) - 1 {
					twin := c
					twin.ID = fmt.Sprintf("%s twin %d.%d", c.ID, n, copies)
					p.Crews = append(p.Crews, twin)
				}
			}
			for j := range p.Jobs { // pinned to a crew, too
				for t := range p.Jobs[j].Tasks {
					p.Jobs[j].Tasks[t].Crew = ""
				}
			}
		})
	}
	for n := range m.Machines {
		if !machines[n] {
			continue
		}
		name := titled(m.Machines[n].Name, m.Machines[n].ID)
		edit(fmt.Sprintf("they need %s, of which there is too little then", name),
			"Get another "+name+", or use it at another time", func(p *roster.Problem) {
				p.Machines[n].Capacity, p.Machines[n].Closed = len(core)+p.Machines[n].Capacity, nil
			})
	}
	if len(m.Problem.Travel) > 0 && len(core) > 1 {
		edit("the travel between their sites takes too long", "Leave more time between them, or send another crew",
			func(p *roster.Problem) { p.Travel = nil })
	}
}

func titled(name, id string) string {
	if name != "" {
		return name
	}
	return id
}

// longer lets a problem go on for as long again, with its shifts and hours as before.
func longer(p *roster.Problem) {
	h := p.Horizon
	again := func(all []roster.Window) []roster.Window {
		for _, w := range slices.Clone(all) {
			if w.Every == 0 {
				all = append(all, roster.Window{From: w.From + h, Until: w.Until + h})
			}
		}
		return all
	}
	for c := range p.Crews {
		for _, s := range slices.Clone(p.Crews[c].Shifts) {
			if s.Every == 0 {
				p.Crews[c].Shifts = append(p.Crews[c].Shifts,
					roster.Shift{Window: roster.Window{From: s.From + h, Until: s.Until + h, Every: 0},
						Overtime: s.Overtime})
			}
		}
		p.Crews[c].Rests = again(p.Crews[c].Rests)
	}
	for j := range p.Jobs {
		p.Jobs[j].Access = again(p.Jobs[j].Access)
		for t := range p.Jobs[j].Tasks {
			p.Jobs[j].Tasks[t].Windows = again(p.Jobs[j].Tasks[t].Windows)
		}
	}
	p.Horizon = 2 * h
}

// changed returns a copy of a problem with a change that leaves the original as it is.
func changed(p roster.Problem, by func(*roster.Problem)) roster.Problem {
	p.Crews, p.Machines, p.Jobs = slices.Clone(p.Crews), slices.Clone(p.Machines), slices.Clone(p.Jobs)
	for c := range p.Crews {
		p.Crews[c].Shifts, p.Crews[c].Rests = slices.Clone(p.Crews[c].Shifts), slices.Clone(p.Crews[c].Rests)
	}
	for j := range p.Jobs {
		p.Jobs[j].Access, p.Jobs[j].Tasks = slices.Clone(p.Jobs[j].Access), slices.Clone(p.Jobs[j].Tasks)
		for t := range p.Jobs[j].Tasks {
			p.Jobs[j].Tasks[t].Windows, p.Jobs[j].Tasks[t].After = slices.Clone(p.Jobs[j].Tasks[t].Windows),
				slices.Clone(p.Jobs[j].Tasks[t].After)
		}
	}
	by(&p)
	return p
}

// stretch is the earliest start and end of a task.
type stretch struct{ start, end roster.Slot }

// earliest returns when tasks can be done at the earliest with no pin and no greatest gap,
// by their places in the whole problem; known is false where even that does not fit.
func (x *explainer) earliest(core []int) (at map[int]stretch, known bool) {
	p := x.part(core)
	m, err := model.Compile(&p)
	if err != nil {
		return nil, false
	}
	loose := relaxed{Model: m, off: make(map[*model.Gap]bool), unpinned: make([]bool, len(m.Tasks))}
	for i := range m.Tasks {
		for n := range m.Tasks[i].Before {
			loose.off[&m.Tasks[i].Before[n]] = true
		}
		loose.unpinned[i] = true
	}
	n := loose.root()
	if !loose.settle(n) {
		return nil, false
	}
	at = make(map[int]stretch, len(core))
	for i := range m.Tasks {
		if whole, there := x.whole.Names[keyOf(m, i)]; there {
			at[whole] = stretch{n.start[i], n.end[i]}
		}
	}
	return at, true
}
