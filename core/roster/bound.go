package roster

import (
	"fmt"
	"slices"
)

// node is a part of all schedules: those that keep its decisions. Starts and ends are the
// least that any of them has.
type node struct {
	start, end []Slot
	crew       []int // −1 where nobody is chosen
	buys       []int8
	arcs       []arc
}

// arc has one task after another, by the same crew or with the same machine.
type arc struct {
	first, then int
	way         Slot
}

// What a node has decided of a gap that can be bought off.
const (
	undecided int8 = iota
	kept
	bought
)

// relaxed is the model without what tasks take from each other: crews and machines are
// enough for all at once.
type relaxed struct {
	*model
	overtime bool
	off      map[*gap]bool // greatest gaps that do not hold
	unpinned []bool
	failed   int // the task that found no place
}

func (r *relaxed) root() *node {
	n := &node{start: make([]Slot, len(r.tasks)), end: make([]Slot, len(r.tasks)), crew: make([]int, len(r.tasks)), buys: make([]int8, r.buys)}
	for i := range n.crew {
		n.crew[i] = -1
		n.start[i] = r.jobs[r.tasks[i].job].Release
	}
	return n
}

func (n *node) clone() *node {
	return &node{slices.Clone(n.start), slices.Clone(n.end), slices.Clone(n.crew), slices.Clone(n.buys), slices.Clone(n.arcs)}
}

// fit is the earliest place of a task by whoever may still do it.
func (r *relaxed) fit(n *node, i int, from, work Slot) (start, end Slot, ok bool) {
	t := &r.tasks[i]
	if t.unattended {
		return r.calendar(-1, t.access, false, false).fit(from, work, false)
	}
	if n.crew[i] >= 0 {
		return r.calendar(n.crew[i], t.access, r.overtime, t.breakable).fit(from, work, t.breakable)
	}
	for _, c := range t.crews {
		s, e, fits := r.calendar(c, t.access, r.overtime, t.breakable).fit(from, work, t.breakable)
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
			for _, a := range n.arcs {
				if a.then == i {
					from = max(from, n.end[a.first]+a.way)
				}
			}
			work := t.duration
			for k := range t.before {
				if g := &t.before[k]; g.index >= 0 && n.buys[g.index] == bought {
					work += g.buy.Slots
				}
			}
			pinned := t.pinned >= 0 && (r.unpinned == nil || !r.unpinned[i])
			if pinned {
				if from > t.pinned {
					r.failed = i
					return false
				}
				from = t.pinned
			}
			start, end, ok := r.fit(n, i, from, work)
			if !ok || pinned && start > t.pinned {
				r.failed = i
				return false
			}
			if start != n.start[i] || end != n.end[i] {
				n.start[i], n.end[i], changed = start, end, true
			}
			for k := range t.before {
				g := &t.before[k]
				if g.max == nil || r.off[g] || g.index >= 0 && n.buys[g.index] != kept {
					continue
				}
				if b := g.task; start > g.most(n.start[b], n.end[b]) {
					at := firstStart(g, n.start[b], n.end[b]-n.start[b], start)
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

// firstStart is the first start of a task, so long, from which one that starts at a slot
// keeps the gap behind it. It asks no calendar.
func firstStart(g *gap, now, length, at Slot) Slot {
	low, high := now+1, max(at, now+1)
	for low < high {
		middle := (low + high) / 2
		if g.most(middle, middle+length) >= at {
			high = middle
		} else {
			low = middle + 1
		}
	}
	return low
}

// cost is the least that any schedule of a node costs.
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
	for _, b := range n.buys {
		if b == bought {
			c[Bought]++
		}
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
				own := r.calendar(c, 0, r.overtime, false)
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
