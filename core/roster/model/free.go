package model

import (
	"slices"

	"nephelon/core/roster"
)

// busy is a stretch of a crew's or a machine's time.
type busy struct {
	from, until roster.Slot
	task        int
}

// Way returns how long a crew takes from one task to another.
func (m *Model) Way(a, b int) roster.Slot {
	from, to := m.Place[m.Tasks[a].Job], m.Place[m.Tasks[b].Job]
	if from < 0 || to < 0 || from == to {
		return 0
	}
	return m.Travel[from][to]
}

// nearest returns how long a crew travels to a task from where it was before: where a job has
// no place, it stays where it is.
func (k *Maker) nearest(i, crew int, start roster.Slot) roster.Slot {
	all := k.Crews[crew]
	for n := before(all, start); n >= 0; n-- {
		if k.Place[k.Tasks[all[n].task].Job] >= 0 {
			return k.Way(all[n].task, i)
		}
	}
	return 0
}

// before is the last stretch that begins before a slot; −1 where there is none.
func before(all []busy, at roster.Slot) int {
	n, _ := slices.BinarySearchFunc(all, at, func(b busy, at roster.Slot) int { return int(b.from - at) })
	return n - 1
}

// open is the earliest stretch, from a slot on, in which a task may be worked by a crew
// with all its machines.
func (k *Maker) open(i, crew int, from, work roster.Slot, overtime bool) (start, end roster.Slot, ok bool) {
	t := &k.Tasks[i]
	own := k.Calendar(crew, t.Access, overtime, t.Breakable)
	for {
		start, end, ok = own.Fit(from, work, t.Breakable)
		if !ok {
			return
		}
		until := start
		if crew >= 0 {
			all := k.Crews[crew]
			n := max(0, before(all, start))
			for ; n < len(all); n++ {
				b := all[n]
				if b.until+k.Way(b.task, i) > start && b.from < end+k.Way(i, b.task) {
					until = max(until, b.until+k.Way(b.task, i))
				}
				if b.from >= end+k.Far {
					break
				}
			}
		}
		if until == start {
			for _, machine := range t.Machines {
				until = max(until, k.clear(machine, start, end))
			}
		}
		if until == start {
			return start, end, true
		}
		from = until
	}
}

// clear is the slot from which a machine may be had again, where it cannot be had for all
// of a stretch; else its beginning.
func (k *Maker) clear(machine int, start, end roster.Slot) roster.Slot {
	first := k.Horizon + 1
	count := 0
	for _, b := range k.Machines[machine] {
		if b.from < end && start < b.until {
			count++
			first = min(first, b.until)
		}
	}
	if shut := k.Shut[machine]; shut != nil && shut.Next[start] < end {
		return shut.Until[shut.Next[start]]
	}
	if count < k.Problem.Machines[machine].Capacity {
		return start
	}
	// Those that overlap it may not all overlap each other; the slots tell.
	for s := start; s < end; s++ {
		count := 0
		for _, b := range k.Machines[machine] {
			if b.from <= s && s < b.until {
				count++
			}
		}
		if count >= k.Problem.Machines[machine].Capacity {
			return max(first, start+1)
		}
	}
	return start
}

func insert(all []busy, b busy) []busy {
	n, _ := slices.BinarySearchFunc(all, b.from, func(o busy, at roster.Slot) int { return int(o.from - at) })
	return slices.Insert(all, n, b)
}

// Book places a task, and takes its crew and its machines for that time.
func (k *Maker) Book(i int, p Placed) {
	p.set = true
	k.At[i] = p
	b := busy{p.Start, p.End, i}
	if p.Crew >= 0 && p.End > p.Start {
		k.Crews[p.Crew] = insert(k.Crews[p.Crew], b)
	}
	if p.End > p.Start {
		for _, machine := range k.Tasks[i].Machines {
			k.Machines[machine] = insert(k.Machines[machine], b)
		}
	}
}

func (k *Maker) free(i int) {
	p := k.At[i]
	k.At[i] = Placed{}
	own := func(b busy) bool { return b.task == i }
	if p.Crew >= 0 {
		k.Crews[p.Crew] = slices.DeleteFunc(k.Crews[p.Crew], own)
	}
	for _, machine := range k.Tasks[i].Machines {
		k.Machines[machine] = slices.DeleteFunc(k.Machines[machine], own)
	}
}
