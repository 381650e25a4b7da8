package model

import (
	"fmt"
	"slices"

	"nephelon/core/roster"
)

// gaps ties the tasks together and puts them in order.
func (m *Model) gaps() error {
	groups := newGroups(len(m.Tasks))
	n := 0
	for j, job := range m.Jobs {
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
	for i := range m.Tasks {
		m.Tasks[i].Group = groups.of(i)
	}
	return m.sort()
}

// tie ties task n to one that it comes after, and returns that one.
func (m *Model) tie(job string, n int, after roster.After, path string) (int, error) {
	before, known := m.Names[job+"/"+after.Task]
	if !known {
		before, known = m.Names[after.Task]
	}
	switch {
	case !known || before < 0:
		return 0, &roster.Error{Path: path + "/task",
			Text: fmt.Sprintf("There is no task %q. Name one of this job, or another's as job/task.",
				after.Task)}
	case before == n:
		return 0, &roster.Error{Path: path + "/task", Text: "It waits for itself."}
	case after.Max != nil && after.MinAt == nil && *after.Max < after.Min:
		return 0, &roster.Error{Path: path + "/maxLag",
			Text: fmt.Sprintf("The maximum lag, %d, is less than the minimum, %d.",
				*after.Max, after.Min)}
	}
	g := Gap{Task: before, Start: after.From == roster.Start, Min: after.MinAt, Max: after.MaxAt,
		Buy: after.Buy, Index: -1,
		Moves: [2]bool{after.MinAt != nil, after.MaxAt != nil}}
	if g.Min == nil {
		g.Min = constant(after.Min)
	}
	if g.Max == nil && after.Max != nil {
		g.Max = constant(*after.Max)
	}
	if g.Buy != nil && g.Max != nil {
		g.Index = m.Buys
		m.Buys++
	}
	m.Tasks[n].Before = append(m.Tasks[n].Before, g)
	m.Tasks[before].After = append(m.Tasks[before].After, n)
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
func (m *Model) sort() error {
	waits := make([]int, len(m.Tasks))
	for i := range m.Tasks {
		waits[i] = len(m.Tasks[i].Before)
	}
	for len(m.Order) < len(m.Tasks) {
		added := false
		for i := range m.Tasks {
			if waits[i] != 0 {
				continue
			}
			waits[i], added = -1, true
			m.Order = append(m.Order, i)
			for _, a := range m.Tasks[i].After {
				waits[a]--
			}
		}
		if !added {
			return m.cycle(waits)
		}
	}
	m.Rank = make([]int, len(m.Tasks))
	for r, i := range m.Order {
		m.Rank[i] = r
	}
	return nil
}

// cycle names tasks that wait for each other.
func (m *Model) cycle(waits []int) error {
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
		for _, g := range m.Tasks[at].Before {
			if waits[g.Task] > 0 {
				at = g.Task
				break
			}
		}
	}
	slices.Reverse(walk)
	first := slices.Index(walk, slices.Min(walk))
	walk = slices.Concat(walk[first:], walk[:first])
	text := ""
	for _, i := range walk {
		text += m.Tasks[i].Name + " → "
	}
	return &roster.Error{Path: m.path(walk[0]) + "/after", Text: "These tasks wait for each other: " + text +
		m.Tasks[walk[0]].Name +
		". Remove one of the lags."}
}
