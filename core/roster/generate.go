package roster

import "slices"

// placed is where a task stands.
type placed struct {
	start, end Slot
	crew       int // −1: nobody
	set        bool
	bought     bool // work was added, since a greatest gap is missed
	over       bool // overtime that lies in it is worked
}

// genes steer the making of a schedule.
type genes struct {
	order    []int  // in which tasks are placed, each after those that it waits for
	crew     []int  // that a task prefers; −1: any
	overtime []bool // by task: may be worked in overtime
	buys     []bool // by gap: may be bought off
}

func (g genes) clone() genes {
	return genes{slices.Clone(g.order), slices.Clone(g.crew), slices.Clone(g.overtime), slices.Clone(g.buys)}
}

// maker makes schedules, in the same memory one after the other. It may not be shared.
type maker struct {
	*model
	at       []placed
	lower    []Slot
	crews    [][]busy
	machines [][]busy
	position []int
	stuck    int // the task that could not be placed
}

func newMaker(m *model) *maker {
	return &maker{
		model: m, at: make([]placed, len(m.tasks)), lower: make([]Slot, len(m.tasks)), position: make([]int, len(m.tasks)),
		crews: make([][]busy, len(m.problem.Crews)), machines: make([][]busy, len(m.machines)),
	}
}

// mostShifts bounds how often tasks are moved later for those behind them, per task.
const mostShifts = 20

// make places all tasks in the order of the genes, each as early as it can be. Where one
// comes too late for a greatest gap, the gap is bought off if the genes allow it; else
// what lies before is placed later. It fails where that does not end.
func (k *maker) make(g genes) bool {
	for i := range k.at {
		k.at[i] = placed{}
		k.lower[i] = k.jobs[k.tasks[i].job].Release
	}
	for i := range k.crews {
		k.crews[i] = k.crews[i][:0]
	}
	for i := range k.machines {
		k.machines[i] = k.machines[i][:0]
	}
	for n, i := range g.order {
		k.position[i] = n
	}
	// What is pinned stands first.
	for _, i := range k.order {
		if t := &k.tasks[i]; t.pinned >= 0 {
			p, ok := k.find(i, t.pinned, t.duration, g)
			if !ok || p.start != t.pinned {
				k.stuck = i
				return false
			}
			k.book(i, p)
		}
	}
	left := mostShifts * len(g.order)
	for n := 0; n < len(g.order); n++ {
		i := g.order[n]
		p, late, ok := placed{}, (*gap)(nil), false
		if k.at[i].set { // pinned
			p, late, ok = k.held(i, g)
		} else {
			p, late, ok = k.earliest(i, g)
		}
		if !ok {
			k.stuck = i
			return false
		}
		if late != nil { // what lies before must come later
			if left--; left < 0 || k.tasks[late.task].pinned >= 0 {
				k.stuck = i
				return false
			}
			before := k.at[late.task]
			k.lower[late.task] = firstStart(late, before.start, p.start,
				func(s Slot) Slot { return k.ends(late.task, before, s) })
			from := k.position[late.task]
			for _, other := range g.order[from:n] {
				if k.at[other].set && k.tasks[other].pinned < 0 && k.tasks[other].group == k.tasks[i].group {
					k.free(other)
				}
			}
			n = from - 1
			continue
		}
		if !k.at[i].set {
			k.book(i, p)
		}
	}
	return true
}

// ends is where a task would end by its crew that starts elsewhere.
func (k *maker) ends(i int, now placed, from Slot) Slot {
	t := &k.tasks[i]
	own := k.calendar(now.crew, t.access, now.over, t.breakable)
	work := now.end - now.start
	if t.breakable && now.crew >= 0 {
		work = own.count[now.end] - own.count[now.start]
	}
	if _, end, ok := own.fit(from, work, t.breakable); ok {
		return end
	}
	return k.horizon
}

// held is a pinned task once what lies before it stands: it may miss a gap that is bought
// off, for which it takes longer, or ask what lies before to come later.
func (k *maker) held(i int, g genes) (p placed, late *gap, ok bool) {
	p = k.at[i]
	t := &k.tasks[i]
	for n := range t.before {
		b := &t.before[n]
		if at := k.at[b.task]; at.set && p.start < b.least(at.start, at.end) {
			return p, nil, false
		}
	}
	added, late := k.added(i, p, g)
	if late != nil || added == 0 || p.bought {
		return p, late, true
	}
	k.free(i)
	if p, ok = k.find(i, p.start, t.duration+added, g); !ok || p.start != t.pinned {
		return p, nil, false
	}
	p.bought = true
	k.book(i, p)
	return p, nil, true
}

// added is the work that buys off what a task misses at a place, and the gap that it
// misses and that may not be bought off.
func (k *maker) added(i int, p placed, g genes) (added Slot, late *gap) {
	t := &k.tasks[i]
	for n := range t.before {
		b := &t.before[n]
		at := k.at[b.task]
		if b.max == nil || !at.set || p.start <= b.most(at.start, at.end) {
			continue
		}
		if b.index < 0 || !g.buys[b.index] {
			return 0, b
		}
		added += b.buy.Slots
	}
	return added, nil
}

// earliest is where a task may stand next; late is the gap that it misses there and
// that may not be missed.
func (k *maker) earliest(i int, g genes) (p placed, late *gap, ok bool) {
	t := &k.tasks[i]
	from := k.lower[i]
	for n := range t.before {
		b := &t.before[n]
		if at := k.at[b.task]; at.set {
			from = max(from, b.least(at.start, at.end))
		}
	}
	for work := t.duration; ; {
		if p, ok = k.find(i, from, work, g); !ok {
			return p, nil, false
		}
		added, late := k.added(i, p, g)
		p.bought = added > 0
		if late != nil || t.duration+added <= work {
			return p, late, true
		}
		work = t.duration + added
	}
}

// find is the earliest place of a task from a slot on: with the crew that is done first.
func (k *maker) find(i int, from, work Slot, g genes) (placed, bool) {
	t := &k.tasks[i]
	if t.unattended {
		start, end, ok := k.open(i, -1, from, work, false)
		return placed{start: start, end: end, crew: -1, set: true}, ok
	}
	best, found, over, way := placed{}, false, Slot(0), Slot(0)
	for _, c := range t.crews {
		if g.crew[i] >= 0 && g.crew[i] != c && slices.Contains(t.crews, g.crew[i]) {
			continue
		}
		start, end, ok := k.open(i, c, from, work, g.overtime[i])
		if !ok {
			continue
		}
		extra := Slot(0)
		if g.overtime[i] {
			own := k.calendar(c, t.access, true, t.breakable)
			extra = own.over[end] - own.over[start]
		}
		travels := k.nearest(i, c, start)
		if !found || end < best.end || end == best.end && (extra < over || extra == over && travels < way) {
			best, found, over, way = placed{start: start, end: end, crew: c, set: true, over: g.overtime[i]}, true,
				extra, travels
		}
	}
	return best, found
}

// cost is what the schedule costs.
func (k *maker) cost() Cost {
	var c Cost
	ends := k.done()
	for j, end := range ends {
		if due := k.jobs[j].Due; due != nil && end > *due {
			c[Late] += k.weights[j] * int64(end-*due)
		}
		c[Finish] = max(c[Finish], int64(end))
		c[early] += int64(end)
	}
	for i := range k.tasks {
		t, p := &k.tasks[i], k.at[i]
		for n := range t.before {
			if k.missed(i, n) {
				c[Bought]++
			}
		}
		c[Overtime] += int64(k.worked(i))
		if t.was >= 0 {
			was := k.problem.Before[t.was]
			if was.Start != p.start || p.crew >= 0 && was.Crew != k.problem.Crews[p.crew].ID {
				c[Moves]++
			}
		}
	}
	for _, all := range k.crews {
		at := -1 // the last task that has a place
		for _, b := range all {
			if k.place[k.tasks[b.task].job] < 0 {
				continue
			}
			if at >= 0 {
				c[Moving] += int64(k.way(at, b.task))
			}
			at = b.task
		}
	}
	return c
}

// worked is how much overtime a task takes.
func (k *maker) worked(i int) Slot {
	p := k.at[i]
	if p.crew < 0 || !p.over {
		return 0
	}
	own := k.calendar(p.crew, k.tasks[i].access, true, k.tasks[i].breakable)
	return own.over[p.end] - own.over[p.start]
}

// missed tells whether a task stands later than a gap before it allows.
func (k *maker) missed(i, n int) bool {
	g := &k.tasks[i].before[n]
	if g.max == nil {
		return false
	}
	b := k.at[g.task]
	return k.at[i].start > g.most(b.start, b.end)
}

// done is when each job is done.
func (k *maker) done() []Slot {
	all := make([]Slot, len(k.jobs))
	for i := range k.tasks {
		all[k.tasks[i].job] = max(all[k.tasks[i].job], k.at[i].end)
	}
	return all
}

// bookings are the schedule in the words of the problem.
func (k *maker) bookings() []Booking {
	all := make([]Booking, 0, len(k.tasks))
	n := 0
	for _, job := range k.jobs {
		for _, t := range job.Tasks {
			p := k.at[n]
			b := Booking{Job: job.ID, Task: t.ID, Start: p.start, End: p.end, Overtime: k.worked(n)}
			if p.crew >= 0 {
				b.Crew = k.problem.Crews[p.crew].ID
			}
			for g := range k.tasks[n].before {
				if k.missed(n, g) {
					b.Bought = append(b.Bought, k.nameOf(k.tasks[n].before[g].task, k.tasks[n].job))
				}
			}
			all = append(all, b)
			n++
		}
	}
	return all
}

// nameOf is the id of a task as a job refers to it.
func (m *model) nameOf(i, job int) string {
	first := i
	for first > 0 && m.tasks[first-1].job == m.tasks[i].job {
		first--
	}
	own := m.jobs[m.tasks[i].job]
	if m.tasks[i].job == job {
		return own.Tasks[i-first].ID
	}
	return own.ID + "/" + own.Tasks[i-first].ID
}
