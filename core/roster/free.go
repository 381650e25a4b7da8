package roster

import (
	"slices"
)

// busy is a stretch of a crew's or a machine's time.
type busy struct {
	from, until Slot
	task        int
}

// way is how long a crew takes from one task to another.
func (m *model) way(a, b int) Slot {
	from, to := m.place[m.tasks[a].job], m.place[m.tasks[b].job]
	if from < 0 || to < 0 || from == to {
		return 0
	}
	return m.travel[from][to]
}

// nearest is how long a crew travels to a task from where it was before: where a job has
// no place, it stays where it is.
func (k *maker) nearest(i, crew int, start Slot) Slot {
	all := k.crews[crew]
	for n := before(all, start); n >= 0; n-- {
		if k.place[k.tasks[all[n].task].job] >= 0 {
			return k.way(all[n].task, i)
		}
	}
	return 0
}

// before is the last stretch that begins before a slot; −1 where there is none.
func before(all []busy, at Slot) int {
	n, _ := slices.BinarySearchFunc(all, at, func(b busy, at Slot) int { return int(b.from - at) })
	return n - 1
}

// open is the earliest stretch, from a slot on, in which a task may be worked by a crew
// with all its machines.
func (k *maker) open(i, crew int, from, work Slot, overtime bool) (start, end Slot, ok bool) {
	t := &k.tasks[i]
	own := k.calendar(crew, t.access, overtime, t.breakable)
	for {
		start, end, ok = own.fit(from, work, t.breakable)
		if !ok {
			return
		}
		until := start
		if crew >= 0 {
			all := k.crews[crew]
			n := max(0, before(all, start))
			for ; n < len(all); n++ {
				b := all[n]
				if b.until+k.way(b.task, i) > start && b.from < end+k.way(i, b.task) {
					until = max(until, b.until+k.way(b.task, i))
				}
				if b.from >= end+k.far {
					break
				}
			}
		}
		if until == start {
			for _, machine := range t.machines {
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
func (k *maker) clear(machine int, start, end Slot) Slot {
	first := k.horizon + 1
	count := 0
	for _, b := range k.machines[machine] {
		if b.from < end && start < b.until {
			count++
			first = min(first, b.until)
		}
	}
	if shut := k.shut[machine]; shut != nil && shut.next[start] < end {
		return shut.until[shut.next[start]]
	}
	if count < k.problem.Machines[machine].Capacity {
		return start
	}
	// Those that overlap it may not all overlap each other; the slots tell.
	for s := start; s < end; s++ {
		count := 0
		for _, b := range k.machines[machine] {
			if b.from <= s && s < b.until {
				count++
			}
		}
		if count >= k.problem.Machines[machine].Capacity {
			return max(first, start+1)
		}
	}
	return start
}

func insert(all []busy, b busy) []busy {
	n, _ := slices.BinarySearchFunc(all, b.from, func(o busy, at Slot) int { return int(o.from - at) })
	return slices.Insert(all, n, b)
}

func (k *maker) book(i int, p placed) {
	p.set = true
	k.at[i] = p
	b := busy{p.start, p.end, i}
	if p.crew >= 0 && p.end > p.start {
		k.crews[p.crew] = insert(k.crews[p.crew], b)
	}
	if p.end > p.start {
		for _, machine := range k.tasks[i].machines {
			k.machines[machine] = insert(k.machines[machine], b)
		}
	}
}

func (k *maker) free(i int) {
	p := k.at[i]
	k.at[i] = placed{}
	own := func(b busy) bool { return b.task == i }
	if p.crew >= 0 {
		k.crews[p.crew] = slices.DeleteFunc(k.crews[p.crew], own)
	}
	for _, machine := range k.tasks[i].machines {
		k.machines[machine] = slices.DeleteFunc(k.machines[machine], own)
	}
}
