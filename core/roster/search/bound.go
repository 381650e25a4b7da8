package search

import (
	"fmt"
	"slices"

	"nephelon/core/roster"
	"nephelon/core/roster/model"
)

// node is the least starts and ends that any schedule has.
type node struct{ start, end []roster.Slot }

// relaxed is the model without what tasks take from each other: crews and machines are
// enough for all at once, with all of their overtime.
type relaxed struct {
	*model.Model
	off      map[*model.Gap]bool // greatest gaps that do not hold
	unpinned []bool
	failed   int // the task that found no place
}

func (r *relaxed) root() *node {
	n := &node{make([]roster.Slot, len(r.Tasks)), make([]roster.Slot, len(r.Tasks))}
	for i := range n.start {
		n.start[i] = r.Jobs[r.Tasks[i].Job].Release
	}
	return n
}

// fit is the earliest place of a task by whoever may do it.
func (r *relaxed) fit(i int, from roster.Slot) (start, end roster.Slot, ok bool) {
	t := &r.Tasks[i]
	if t.Unattended {
		return r.Calendar(-1, t.Access, false, false).Fit(from, t.Duration, false)
	}
	for _, c := range t.Crews {
		s, e, fits := r.Calendar(c, t.Access, true, t.Breakable).Fit(from, t.Duration, t.Breakable)
		if !fits {
			continue
		}
		if !ok {
			start, end, ok = s, e, true
		}
		start, end = min(start, s), min(end, e)
	}
	return start, end, ok
}

// settle raises starts until every gap is kept; false where none can be.
func (r *relaxed) settle(n *node) bool {
	for changed := true; changed; {
		changed = false
		for _, i := range r.Order {
			t := &r.Tasks[i]
			from := n.start[i]
			for k := range t.Before {
				g := &t.Before[k]
				from = max(from, g.Least(n.start[g.Task], n.end[g.Task]))
			}
			pinned := t.Pinned >= 0 && (r.unpinned == nil || !r.unpinned[i])
			if pinned {
				if from > t.Pinned {
					r.failed = i
					return false
				}
				from = t.Pinned
			}
			start, end, ok := r.fit(i, from)
			if !ok || pinned && start > t.Pinned {
				r.failed = i
				return false
			}
			if start != n.start[i] || end != n.end[i] {
				n.start[i], n.end[i], changed = start, end, true
			}
			for k := range t.Before {
				g := &t.Before[k]
				if g.Max == nil || r.off[g] || g.Index >= 0 {
					continue
				}
				if b := g.Task; start > g.Most(n.start[b], r.latest(b, n.start[b])) {
					at := model.FirstStart(g, n.start[b], start, func(s roster.Slot) roster.Slot { return r.latest(b, s) })
					if at >= r.Horizon {
						r.failed = i
						return false
					}
					n.start[b], changed = at, true
				}
			}
		}
	}
	return true
}

// latest is the last end that a task can have which starts at a slot, or as soon after it as
// anybody can: without overtime, and with all that may be added to it.
func (r *relaxed) latest(i int, from roster.Slot) roster.Slot {
	t := &r.Tasks[i]
	work := t.Duration
	for k := range t.Before {
		if g := &t.Before[k]; g.Index >= 0 {
			work += g.Buy.Slots
		}
	}
	last, crews := roster.Slot(0), t.Crews
	if t.Unattended {
		crews = []int{-1}
	}
	for _, c := range crews {
		for _, overtime := range [2]bool{false, true} {
			if _, end, ok := r.Calendar(c, t.Access, overtime, t.Breakable).Fit(from, work, t.Breakable); ok {
				last = max(last, end)
			} else {
				return r.Horizon
			}
		}
	}
	return last
}

// cost is the least that any schedule costs.
func (r *relaxed) cost(n *node) roster.Cost {
	var c roster.Cost
	ends := make([]roster.Slot, len(r.Jobs))
	for i := range r.Tasks {
		ends[r.Tasks[i].Job] = max(ends[r.Tasks[i].Job], n.end[i])
	}
	for j, end := range ends {
		if due := r.Jobs[j].Due; due != nil && end > *due {
			c[roster.Late] += r.Weights[j] * int64(end-*due)
		}
		c[roster.Finish] = max(c[roster.Finish], int64(end))
		c[roster.Early] += int64(end)
	}
	return c
}

// capacity is the first slot at which everything can be done by so many crews: by then
// those who alone can do some tasks have worked as much as these take.
func (r *relaxed) capacity() int64 {
	done, sets := int64(0), make(map[string]bool)
	for i := range r.Tasks {
		crews := r.Tasks[i].Crews
		if key := fmt.Sprint(crews); r.Tasks[i].Unattended || sets[key] {
			continue
		} else {
			sets[key] = true
		}
		work, first := roster.Slot(0), r.Horizon
		for o := range r.Tasks {
			t := &r.Tasks[o]
			if t.Unattended || slices.ContainsFunc(t.Crews, func(c int) bool { return !slices.Contains(crews, c) }) {
				continue
			}
			work += t.Duration
			first = min(first, r.Jobs[t.Job].Release)
		}
		for s := first; s <= r.Horizon; s++ {
			can := roster.Slot(0)
			for _, c := range crews {
				own := r.Calendar(c, 0, true, false)
				can += own.Count[s] - own.Count[first]
			}
			if can >= work {
				done = max(done, int64(s))
				break
			}
		}
	}
	return done
}
