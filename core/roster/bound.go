package roster

import (
	"fmt"
	"slices"
)

// node is the least starts and ends that any schedule has.
type node struct{ start, end []Slot }

// relaxed is the model without what tasks take from each other: crews and machines are
// enough for all at once, with all of their overtime.
type relaxed struct {
	*model
	off      map[*gap]bool // greatest gaps that do not hold
	unpinned []bool
	failed   int // the task that found no place
}

func (r *relaxed) root() *node {
	n := &node{make([]Slot, len(r.tasks)), make([]Slot, len(r.tasks))}
	for i := range n.start {
		n.start[i] = r.jobs[r.tasks[i].job].Release
	}
	return n
}

// fit is the earliest place of a task by whoever may do it.
func (r *relaxed) fit(i int, from Slot) (start, end Slot, ok bool) {
	t := &r.tasks[i]
	if t.unattended {
		return r.calendar(-1, t.access, false, false).fit(from, t.duration, false)
	}
	for _, c := range t.crews {
		s, e, fits := r.calendar(c, t.access, true, t.breakable).fit(from, t.duration, t.breakable)
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
		for _, i := range r.order {
			t := &r.tasks[i]
			from := n.start[i]
			for k := range t.before {
				g := &t.before[k]
				from = max(from, g.least(n.start[g.task], n.end[g.task]))
			}
			pinned := t.pinned >= 0 && (r.unpinned == nil || !r.unpinned[i])
			if pinned {
				if from > t.pinned {
					r.failed = i
					return false
				}
				from = t.pinned
			}
			start, end, ok := r.fit(i, from)
			if !ok || pinned && start > t.pinned {
				r.failed = i
				return false
			}
			if start != n.start[i] || end != n.end[i] {
				n.start[i], n.end[i], changed = start, end, true
			}
			for k := range t.before {
				g := &t.before[k]
				if g.max == nil || r.off[g] || g.index >= 0 {
					continue
				}
				if b := g.task; start > g.most(n.start[b], r.latest(b, n.start[b])) {
					at := firstStart(g, n.start[b], start, func(s Slot) Slot { return r.latest(b, s) })
					if at >= r.horizon {
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
func (r *relaxed) latest(i int, from Slot) Slot {
	t := &r.tasks[i]
	work := t.duration
	for k := range t.before {
		if g := &t.before[k]; g.index >= 0 {
			work += g.buy.Slots
		}
	}
	last, crews := Slot(0), t.crews
	if t.unattended {
		crews = []int{-1}
	}
	for _, c := range crews {
		for _, overtime := range [2]bool{false, true} {
			if _, end, ok := r.calendar(c, t.access, overtime, t.breakable).fit(from, work, t.breakable); ok {
				last = max(last, end)
			} else {
				return r.horizon
			}
		}
	}
	return last
}

// firstStart is the first start of a task from which one that starts at a slot keeps the
// gap behind it. end is where the task ends that starts somewhere, or when it could at the
// latest: one that may break ends much later for being begun a little later.
func firstStart(g *gap, now, at Slot, end func(Slot) Slot) Slot {
	low, high := now+1, max(at, now+1)
	for low < high {
		middle := (low + high) / 2
		if g.most(middle, end(middle)) >= at {
			high = middle
		} else {
			low = middle + 1
		}
	}
	return low
}

// cost is the least that any schedule costs.
func (r *relaxed) cost(n *node) Cost {
	var c Cost
	ends := make([]Slot, len(r.jobs))
	for i := range r.tasks {
		ends[r.tasks[i].job] = max(ends[r.tasks[i].job], n.end[i])
	}
	for j, end := range ends {
		if due := r.jobs[j].Due; due != nil && end > *due {
			c[Late] += r.weights[j] * int64(end-*due)
		}
		c[Finish] = max(c[Finish], int64(end))
		c[early] += int64(end)
	}
	return c
}

// capacity is the first slot at which everything can be done by so many crews: by then
// those who alone can do some tasks have worked as much as these take.
func (r *relaxed) capacity() int64 {
	done, sets := int64(0), make(map[string]bool)
	for i := range r.tasks {
		crews := r.tasks[i].crews
		if key := fmt.Sprint(crews); r.tasks[i].unattended || sets[key] {
			continue
		} else {
			sets[key] = true
		}
		work, first := Slot(0), r.horizon
		for o := range r.tasks {
			t := &r.tasks[o]
			if t.unattended || slices.ContainsFunc(t.crews, func(c int) bool { return !slices.Contains(crews, c) }) {
				continue
			}
			work += t.duration
			first = min(first, r.jobs[t.job].Release)
		}
		for s := first; s <= r.horizon; s++ {
			can := Slot(0)
			for _, c := range crews {
				own := r.calendar(c, 0, true, false)
				can += own.count[s] - own.count[first]
			}
			if can >= work {
				done = max(done, int64(s))
				break
			}
		}
	}
	return done
}
