package roster

import (
	"fmt"
	"slices"
)

// gaps ties the tasks together and puts them in order.
func (m *model) gaps() error {
	groups := newGroups(len(m.tasks))
	n := 0
	for j, job := range m.jobs {
		for k, t := range job.Tasks {
			for a, after := range t.After {
				path := fmt.Sprintf("/jobs/%d/tasks/%d/after/%d", j, k, a)
				before, err := m.tie(job.ID, n, after, path)
				if err != nil {
					return err
				}
				groups.join(n, before)
			}
			n++
		}
	}
	for i := range m.tasks {
		m.tasks[i].group = groups.of(i)
	}
	return m.sort()
}

// tie ties task n to one that it comes after, and returns that one.
func (m *model) tie(job string, n int, after After, path string) (int, error) {
	before, known := m.names[job+"/"+after.Task]
	if !known {
		before, known = m.names[after.Task]
	}
	switch {
	case !known || before < 0:
		return 0, &Error{path + "/task", fmt.Sprintf("There is no task %q. Name one of this job, or another's as job/task.",
			after.Task)}
	case before == n:
		return 0, &Error{path + "/task", "It waits for itself."}
	case after.Max != nil && after.MinAt == nil && *after.Max < after.Min:
		return 0, &Error{path + "/maxLag", fmt.Sprintf("The greatest gap, %d, is less than the least, %d.",
			*after.Max, after.Min)}
	}
	g := gap{task: before, start: after.From == Start, min: after.MinAt, max: after.MaxAt, buy: after.Buy, index: -1,
		moves: [2]bool{after.MinAt != nil, after.MaxAt != nil}}
	if g.min == nil {
		g.min = constant(after.Min)
	}
	if g.max == nil && after.Max != nil {
		g.max = constant(*after.Max)
	}
	if g.buy != nil && g.max != nil {
		g.index = m.buys
		m.buys++
	}
	m.tasks[n].before = append(m.tasks[n].before, g)
	m.tasks[before].after = append(m.tasks[before].after, n)
	return before, nil
}

// groups are sets of tasks that hang together (union-find).
type groups []int

func newGroups(count int) groups {
	all := make(groups, count)
	for i := range all {
		all[i] = i
	}
	return all
}

func (g groups) of(i int) int {
	for g[i] != i {
		g[i] = g[g[i]]
		i = g[i]
	}
	return i
}

func (g groups) join(a, b int) { g[g.of(a)] = g.of(b) }

// sort puts the tasks in an order in which each comes after those it waits for.
func (m *model) sort() error {
	waits := make([]int, len(m.tasks))
	for i := range m.tasks {
		waits[i] = len(m.tasks[i].before)
	}
	for len(m.order) < len(m.tasks) {
		added := false
		for i := range m.tasks {
			if waits[i] != 0 {
				continue
			}
			waits[i], added = -1, true
			m.order = append(m.order, i)
			for _, a := range m.tasks[i].after {
				waits[a]--
			}
		}
		if !added {
			return m.cycle(waits)
		}
	}
	m.rank = make([]int, len(m.tasks))
	for r, i := range m.order {
		m.rank[i] = r
	}
	return nil
}

// cycle names tasks that wait for each other.
func (m *model) cycle(waits []int) error {
	at := slices.IndexFunc(waits, func(w int) bool { return w > 0 })
	seen := make(map[int]int)
	var walk []int
	for {
		if from, again := seen[at]; again {
			walk = walk[from:]
			break
		}
		seen[at] = len(walk)
		walk = append(walk, at)
		for _, g := range m.tasks[at].before {
			if waits[g.task] > 0 {
				at = g.task
				break
			}
		}
	}
	slices.Reverse(walk)
	first := slices.Index(walk, slices.Min(walk))
	walk = slices.Concat(walk[first:], walk[:first])
	text := ""
	for _, i := range walk {
		text += m.tasks[i].name + " → "
	}
	return &Error{m.path(walk[0]) + "/after", "These tasks wait for each other: " + text + m.tasks[walk[0]].name +
		". Take one of the gaps away."}
}
