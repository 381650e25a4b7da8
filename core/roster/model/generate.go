package model

import (
	"slices"

	"nephelon/core/roster"
)

// Placed holds where a task stands.
type Placed struct {
	Start, End roster.Slot
	Crew       int // −1: nobody
	set        bool
	Bought     bool // work was added, since a greatest gap is missed
	Over       bool // overtime that lies in it is worked
}

// Genes steer the making of a schedule.
type Genes struct {
	Order    []int  // in which tasks are placed, each after those that it waits for
	Crew     []int  // that a task prefers; −1: any
	Overtime []bool // by task: may be worked in overtime
	Buys     []bool // by gap: may be bought off
	Stay     []bool // by task: no sooner than in the plan before, and by the same crew
}

// Clone returns a copy that shares nothing.
func (g Genes) Clone() Genes {
	return Genes{slices.Clone(g.Order), slices.Clone(g.Crew), slices.Clone(g.Overtime), slices.Clone(g.Buys),
		slices.Clone(g.Stay)}
}

// Maker makes schedules, in the same memory one after the other. It may not be shared.
type Maker struct {
	*Model
	At       []Placed
	lower    []roster.Slot
	Crews    [][]busy
	Machines [][]busy
	position []int
	Stuck    int // the task that could not be placed
}

// NewMaker returns a maker of schedules of a model, with nothing placed.
func NewMaker(m *Model) *Maker {
	return &Maker{
		Model: m, At: make([]Placed, len(m.Tasks)), lower: make([]roster.Slot, len(m.Tasks)),
		position: make([]int, len(m.Tasks)),
		Crews:    make([][]busy, len(m.Problem.Crews)), Machines: make([][]busy, len(m.Machines)),
	}
}

// mostShifts bounds how often tasks are moved later for those behind them, per task.
const mostShifts = 20

// Make places all tasks in the order of the genes, each as early as it can be. Where one
// comes too late for a greatest gap, the gap is bought off if the genes allow it; else
// what lies before is placed later. It fails where that does not end.
func (k *Maker) Make(g Genes) bool {
	for i := range k.At {
		k.At[i] = Placed{}
		k.lower[i] = k.Jobs[k.Tasks[i].Job].Release
	}
	for i := range k.Crews {
		k.Crews[i] = k.Crews[i][:0]
	}
	for i := range k.Machines {
		k.Machines[i] = k.Machines[i][:0]
	}
	for n, i := range g.Order {
		k.position[i] = n
	}
	// What is pinned stands first.
	for _, i := range k.Order {
		if t := &k.Tasks[i]; t.Pinned >= 0 {
			p, ok := k.find(i, t.Pinned, t.Duration, g)
			if !ok || p.Start != t.Pinned {
				k.Stuck = i
				return false
			}
			k.Book(i, p)
		}
	}
	left := mostShifts * len(g.Order)
	for n := 0; n < len(g.Order); n++ {
		i := g.Order[n]
		p, late, ok := Placed{}, (*Gap)(nil), false
		if k.At[i].set { // pinned
			p, late, ok = k.held(i, g)
		} else {
			p, late, ok = k.earliest(i, g)
		}
		if !ok {
			k.Stuck = i
			return false
		}
		if late != nil { // what lies before must come later
			if left--; left < 0 || k.Tasks[late.Task].Pinned >= 0 {
				k.Stuck = i
				return false
			}
			before := k.At[late.Task]
			k.lower[late.Task] = FirstStart(late, before.Start, p.Start,
				func(s roster.Slot) roster.Slot { return k.ends(late.Task, before, s) })
			from := k.position[late.Task]
			for _, other := range g.Order[from:n] {
				if k.At[other].set && k.Tasks[other].Pinned < 0 && k.Tasks[other].Group == k.Tasks[i].Group {
					k.free(other)
				}
			}
			n = from - 1
			continue
		}
		if !k.At[i].set {
			k.Book(i, p)
		}
	}
	return true
}

// ends returns where a task would end by its crew that starts elsewhere.
func (k *Maker) ends(i int, now Placed, from roster.Slot) roster.Slot {
	t := &k.Tasks[i]
	own := k.Calendar(now.Crew, t.Access, now.Over, t.Breakable)
	work := now.End - now.Start
	if t.Breakable && now.Crew >= 0 {
		work = own.Count[now.End] - own.Count[now.Start]
	}
	if _, end, ok := own.Fit(from, work, t.Breakable); ok {
		return end
	}
	return k.Horizon
}

// held is a pinned task once what lies before it stands: it may miss a gap that is bought
// off, for which it takes longer, or ask what lies before to come later.
func (k *Maker) held(i int, g Genes) (p Placed, late *Gap, ok bool) {
	p = k.At[i]
	t := &k.Tasks[i]
	for n := range t.Before {
		b := &t.Before[n]
		if at := k.At[b.Task]; at.set && p.Start < b.Least(at.Start, at.End) {
			return p, nil, false
		}
	}
	added, late := k.added(i, p, g)
	if late != nil || added == 0 || p.Bought {
		return p, late, true
	}
	k.free(i)
	if p, ok = k.find(i, p.Start, t.Duration+added, g); !ok || p.Start != t.Pinned {
		return p, nil, false
	}
	p.Bought = true
	k.Book(i, p)
	return p, nil, true
}

// added is the work that buys off what a task misses at a place, and the gap that it
// misses and that may not be bought off.
func (k *Maker) added(i int, p Placed, g Genes) (added roster.Slot, late *Gap) {
	t := &k.Tasks[i]
	for n := range t.Before {
		b := &t.Before[n]
		at := k.At[b.Task]
		if b.Max == nil || !at.set || p.Start <= b.Most(at.Start, at.End) {
			continue
		}
		if b.Index < 0 || !g.Buys[b.Index] {
			return 0, b
		}
		added += b.Buy.Slots
	}
	return added, nil
}

// earliest returns where a task may stand next; late is the gap that it misses there and
// that may not be missed.
func (k *Maker) earliest(i int, g Genes) (p Placed, late *Gap, ok bool) {
	t := &k.Tasks[i]
	from := k.lower[i]
	if g.Stay[i] && t.Was >= 0 {
		from = max(from, k.Problem.Before[t.Was].Start)
	}
	for n := range t.Before {
		b := &t.Before[n]
		if at := k.At[b.Task]; at.set {
			from = max(from, b.Least(at.Start, at.End))
		}
	}
	for work := t.Duration; ; {
		if p, ok = k.find(i, from, work, g); !ok {
			return p, nil, false
		}
		added, late := k.added(i, p, g)
		p.Bought = added > 0
		if late != nil || t.Duration+added <= work {
			return p, late, true
		}
		work = t.Duration + added
	}
}

// find is the earliest place of a task from a slot on: with the crew that is done first.
func (k *Maker) find(i int, from, work roster.Slot, g Genes) (Placed, bool) {
	t := &k.Tasks[i]
	if t.Unattended {
		start, end, ok := k.open(i, -1, from, work, false)
		return Placed{Start: start, End: end, Crew: -1, set: true}, ok
	}
	best, found, over, way := Placed{}, false, roster.Slot(0), roster.Slot(0)
	prefers := g.Crew[i]
	if g.Stay[i] && t.WasBy >= 0 {
		prefers = t.WasBy
	}
	for _, c := range t.Crews {
		if prefers >= 0 && prefers != c && slices.Contains(t.Crews, prefers) {
			continue
		}
		start, end, ok := k.open(i, c, from, work, g.Overtime[i])
		if !ok {
			continue
		}
		extra := roster.Slot(0)
		if g.Overtime[i] {
			own := k.Calendar(c, t.Access, true, t.Breakable)
			extra = own.Over[end] - own.Over[start]
		}
		travels := k.nearest(i, c, start)
		if !found || end < best.End || end == best.End && (extra < over || extra == over && travels < way) {
			best, found, over, way = Placed{Start: start, End: end, Crew: c, set: true, Over: g.Overtime[i]}, true,
				extra, travels
		}
	}
	return best, found
}

// Cost returns what the schedule costs.
func (k *Maker) Cost() roster.Cost {
	var c roster.Cost
	ends := k.done()
	for j, end := range ends {
		if due := k.Jobs[j].Due; due != nil && end > *due {
			c[roster.Late] += k.Weights[j] * int64(end-*due)
		}
		c[roster.Finish] = max(c[roster.Finish], int64(end))
		c[roster.Early] += int64(end)
	}
	for i := range k.Tasks {
		t, p := &k.Tasks[i], k.At[i]
		for n := range t.Before {
			if k.missed(i, n) {
				c[roster.Bought]++
			}
		}
		c[roster.Overtime] += int64(k.worked(i))
		if t.Was >= 0 {
			if !k.stays(i, p) {
				c[roster.Moves] += t.Cling
			}
		}
	}
	for _, all := range k.Crews {
		at := -1 // the last task that has a place
		for _, b := range all {
			if k.Place[k.Tasks[b.task].Job] < 0 {
				continue
			}
			if at >= 0 {
				c[roster.Moving] += int64(k.Way(at, b.task))
			}
			at = b.task
		}
	}
	return c
}

// stays reports whether a task stands as in the plan before.
func (k *Maker) stays(i int, p Placed) bool {
	t := &k.Tasks[i]
	return k.Problem.Before[t.Was].Start == p.Start && (p.Crew < 0 || p.Crew == t.WasBy)
}

// Stays reports whether a task has a place in the plan before and stands there.
func (k *Maker) Stays(i int, p Placed) bool { return k.Tasks[i].Was >= 0 && k.stays(i, p) }

// worked returns how much overtime a task takes.
func (k *Maker) worked(i int) roster.Slot {
	p := k.At[i]
	if p.Crew < 0 || !p.Over {
		return 0
	}
	own := k.Calendar(p.Crew, k.Tasks[i].Access, true, k.Tasks[i].Breakable)
	return own.Over[p.End] - own.Over[p.Start]
}

// missed reports whether a task stands later than a gap before it allows.
func (k *Maker) missed(i, n int) bool {
	g := &k.Tasks[i].Before[n]
	if g.Max == nil {
		return false
	}
	b := k.At[g.Task]
	return k.At[i].Start > g.Most(b.Start, b.End)
}

// done returns when each job is done.
func (k *Maker) done() []roster.Slot {
	all := make([]roster.Slot, len(k.Jobs))
	for i := range k.Tasks {
		all[k.Tasks[i].Job] = max(all[k.Tasks[i].Job], k.At[i].End)
	}
	return all
}

// Bookings are the schedule in the words of the problem.
func (k *Maker) Bookings() []roster.Booking {
	all := make([]roster.Booking, 0, len(k.Tasks))
	n := 0
	for _, job := range k.Jobs {
		for _, t := range job.Tasks {
			p := k.At[n]
			b := roster.Booking{Job: job.ID, Task: t.ID, Start: p.Start, End: p.End, Overtime: k.worked(n)}
			if p.Crew >= 0 {
				b.Crew = k.Problem.Crews[p.Crew].ID
			}
			for g := range k.Tasks[n].Before {
				if k.missed(n, g) {
					b.Bought = append(b.Bought, k.NameOf(k.Tasks[n].Before[g].Task, k.Tasks[n].Job))
				}
			}
			all = append(all, b)
			n++
		}
	}
	return all
}

// NameOf is the id of a task as a job refers to it.
func (m *Model) NameOf(i, job int) string {
	first := i
	for first > 0 && m.Tasks[first-1].Job == m.Tasks[i].Job {
		first--
	}
	own := m.Jobs[m.Tasks[i].Job]
	if m.Tasks[i].Job == job {
		return own.Tasks[i-first].ID
	}
	return own.ID + "/" + own.Tasks[i-first].ID
}

// FirstStart is the first start of a task from which one that starts at a slot keeps the
// gap behind it. end is where the task ends that starts somewhere, or when it could at the
// latest: one that may break ends much later for being begun a little later.
func FirstStart(g *Gap, now, at roster.Slot, end func(roster.Slot) roster.Slot) roster.Slot {
	low, high := now+1, max(at, now+1)
	for low < high {
		middle := (low + high) / 2
		if g.Most(middle, end(middle)) >= at {
			high = middle
		} else {
			low = middle + 1
		}
	}
	return low
}
