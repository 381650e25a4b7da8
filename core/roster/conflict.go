package roster

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"nephelon/core/roster/lcg"
)

// Conflict is returned where nothing fits.
type Conflict struct {
	Proven bool     // else no plan was found in the time given
	Tasks  []string // job/task, as few as cannot be scheduled together
	Text   string
	Ways   []string // what would let it fit
}

func (c *Conflict) Error() string { return c.Text }

// stuck names what most often found no place.
func (s *search) stuck() string {
	most, at := 0, -1
	for i := range s.tasks {
		if s.failed[i] > most {
			most, at = s.failed[i], i
		}
	}
	if at < 0 {
		return ""
	}
	return fmt.Sprintf("Most often %s of %s found no place.", s.tasks[at].name, s.jobName(s.tasks[at].job))
}

// jointly names jobs that cannot be scheduled together, though each gap by itself can be
// kept: as few as cannot.
func (s *search) jointly(ctx context.Context) error {
	const conflicts = 20_000
	some := slices.Clone(s.problem.Jobs)
	fits := func(jobs []Job) bool {
		p := *s.problem
		p.Jobs = jobs
		m, err := compile(&p)
		if err != nil {
			return true // it hangs on a job that is left out
		}
		e := m.encode(nil, nil)
		return e == nil || e.s.Search(ctx, nil, conflicts, e.next) != lcg.Nothing
	}
	for n := 0; n < len(some); {
		if less := slices.Delete(slices.Clone(some), n, n+1); len(less) > 0 && !fits(less) {
			some = less
		} else {
			n++
		}
	}
	c := &Conflict{Proven: true}
	var names []string
	for _, j := range some {
		name := j.Name
		if name == "" {
			name = j.ID
		}
		names = append(names, name)
		for _, t := range j.Tasks {
			c.Tasks = append(c.Tasks, j.ID+"/"+t.ID)
		}
	}
	what := names[0] + " cannot be scheduled"
	if len(names) > 1 {
		what = strings.Join(names[:len(names)-1], ", ") + " and " + names[len(names)-1] + " cannot be scheduled together"
	}
	c.Text = fmt.Sprintf("%s: in no order do the crews and machines there are keep all of their greatest gaps by %s.", what, s.when(s.horizon))
	c.Ways = []string{"Another crew, or a shift more, while they last", "a longer greatest gap, or one that may be bought off", "a longer horizon"}
	return c
}

// explain finds as few rules as cannot hold together, though crews and machines were
// enough for all at once, and says so.
func (m *model) explain() error {
	off, unpinned := make(map[*gap]bool), make([]bool, len(m.tasks))
	fails := func() bool {
		r := relaxed{model: m, off: off, unpinned: unpinned}
		return !r.settle(r.root())
	}
	c := &Conflict{Proven: true}
	for i := range m.tasks {
		if m.tasks[i].pinned >= 0 {
			if unpinned[i] = true; !fails() {
				unpinned[i] = false
			}
		}
	}
	for i := range m.tasks {
		for n := range m.tasks[i].before {
			g := &m.tasks[i].before[n]
			if g.max == nil {
				continue
			}
			if off[g] = true; !fails() {
				delete(off, g)
			}
		}
	}
	loose := relaxed{model: m, off: make(map[*gap]bool), unpinned: slices.Clone(unpinned)}
	for i := range m.tasks {
		for n := range m.tasks[i].before {
			loose.off[&m.tasks[i].before[n]] = true
		}
		loose.unpinned[i] = true
	}
	at := loose.root()
	possible := loose.settle(at)
	var told []string
	add := func(i int) { c.Tasks = append(c.Tasks, m.jobs[m.tasks[i].job].ID+"/"+m.nameOf(i, m.tasks[i].job)) }
	for i := range m.tasks {
		t := &m.tasks[i]
		if t.pinned >= 0 && !unpinned[i] {
			add(i)
			why := ""
			if possible && at.start[i] > t.pinned {
				why = fmt.Sprintf(", and cannot begin before %s", m.when(at.start[i]))
			}
			told = append(told, fmt.Sprintf("%s of %s is pinned to %s%s", t.name, m.jobName(t.job), m.when(t.pinned), why))
			c.Ways = append(c.Ways, "Unpin "+t.name)
		}
		for n := range t.before {
			g := &t.before[n]
			if g.max == nil || off[g] || g.index >= 0 {
				continue
			}
			add(g.task)
			add(i)
			why := ""
			if possible {
				why = fmt.Sprintf(": done %s at the earliest, it closes %s, and nobody can begin what follows before %s; nor later does it fit", m.when(at.end[g.task]), m.when(g.most(at.start[g.task], at.end[g.task])), m.when(at.start[i]))
			}
			told = append(told, fmt.Sprintf("%s of %s must begin at most %s after %s is done%s", t.name, m.jobName(t.job), m.lasts(g.max(at.end[g.task])), m.tasks[g.task].name, why))
			c.Ways = append(c.Ways, fmt.Sprintf("Let %s come later than %s after %s, or buy that off", t.name, m.lasts(g.max(at.end[g.task])), m.tasks[g.task].name), "work a shift more between them")
		}
	}
	if len(told) == 0 {
		i := loose.failed
		add(i)
		told = append(told, fmt.Sprintf("%s of %s does not fit before %s, where the plan ends", m.tasks[i].name, m.jobName(m.tasks[i].job), m.when(m.horizon)))
		c.Ways = append(c.Ways, "Plan over a longer horizon, begin earlier, or work more shifts")
	}
	c.Text = "Nothing fits. " + strings.Join(told, "; and ") + "."
	slices.Sort(c.Tasks)
	c.Tasks = slices.Compact(c.Tasks)
	return c
}
