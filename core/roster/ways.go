package roster

import (
	"fmt"
	"sort"
)

// run is starts in a row, the last one among them.
type run struct{ first, last Slot }

// begins are where a task may start, and so much work then ends.
type begins struct {
	runs []run
	work Slot
	rest *calendar // it rests where this is closed; nil where it goes on
}

func (t *begins) Next(start int32) (int32, bool) {
	n := sort.Search(len(t.runs), func(i int) bool { return t.runs[i].last >= Slot(start) })
	if n == len(t.runs) {
		return 0, false
	}
	return max(start, int32(t.runs[n].first)), true
}

func (t *begins) Last(start int32) (int32, bool) {
	n := sort.Search(len(t.runs), func(i int) bool { return t.runs[i].first > Slot(start) }) - 1
	if n < 0 {
		return 0, false
	}
	return min(start, int32(t.runs[n].last)), true
}

func (t *begins) End(start int32) int32 {
	if t.rest == nil {
		return start + int32(t.work)
	}
	return int32(t.rest.open[t.rest.count[start]+t.work-1]) + 1
}

func (t *begins) EndsBy(end int32) (int32, bool) {
	if t.rest == nil {
		return t.Last(end - int32(t.work))
	}
	n := t.rest.count[max(0, min(int(end), len(t.rest.count)-1))] - t.work
	if n < 0 {
		return 0, false
	}
	return t.Last(int32(t.rest.open[n]))
}

func (t *begins) EndsAt(end int32) (int32, bool) {
	if t.rest == nil {
		return t.Next(end - int32(t.work))
	}
	n := t.rest.count[max(0, min(int(end)-1, len(t.rest.count)-1))] - t.work + 1
	if n >= Slot(len(t.rest.open)) {
		return 0, false
	}
	return t.Next(int32(t.rest.open[max(0, n)]))
}

// way is one way to do a task: by whom, with so much overtime, and with gaps bought off.
type way struct {
	crew   int
	over   Slot
	bought []bool // by gap of the task that can be bought off
	starts *begins
}

// waysOf are all ways to do a task; tables are kept for others.
func (e *encoded) waysOf(i int, kept map[string][]amount) []way {
	t := &e.tasks[i]
	var buys []Slot
	for n := range t.before {
		if g := &t.before[n]; g.index >= 0 {
			buys = append(buys, g.buy.Slots)
		}
	}
	var all []way
	add := func(crew int, c *calendar, over bool) {
		for pattern := range 1 << len(buys) {
			work, bought := t.duration, make([]bool, len(buys))
			for n, more := range buys {
				if pattern>>n&1 == 1 {
					work, bought[n] = work+more, true
				}
			}
			key := fmt.Sprintf("%p %d %v %v", c, work, t.breakable, t.machines)
			amounts, known := kept[key]
			if !known {
				amounts = e.amounts(c, work, t)
				kept[key] = amounts
			}
			for _, a := range amounts {
				if over == (a.over > 0) {
					all = append(all, way{crew: crew, over: a.over, bought: bought, starts: a.starts})
				}
			}
		}
	}
	if t.unattended {
		add(-1, e.calendar(-1, t.access, false, false), false)
	}
	for _, c := range t.crews {
		plain := e.calendar(c, t.access, false, t.breakable)
		add(c, plain, false)
		if over := e.calendar(c, t.access, true, t.breakable); over != plain {
			add(c, over, true)
		}
	}
	return all
}

// amount is where a stretch may start that takes so much overtime.
type amount struct {
	over   Slot
	starts *begins
}

// amounts are the starts that a calendar leaves to so much work, by the overtime in it.
func (e *encoded) amounts(c *calendar, work Slot, t *task) []amount {
	var all []amount
	rests := t.breakable && work > 0 && !t.unattended
	from, until := Slot(0), e.horizon
	if e.within != nil {
		from, until = e.within.from, e.within.until
	}
	for s := from; s < until; s++ {
		end, fits := s+work, c.next[s] == s && c.until[s]-s >= work
		if rests {
			if fits = c.next[s] == s && c.count[s]+work <= Slot(len(c.open)); fits {
				end = c.open[c.count[s]+work-1] + 1
			}
		}
		for _, machine := range t.machines {
			shut := e.shut[machine]
			fits = fits && (shut == nil || end == s || shut.next[s] >= end)
		}
		if !fits {
			continue
		}
		over := c.over[end] - c.over[s]
		n := 0
		for n < len(all) && all[n].over != over {
			n++
		}
		if n == len(all) {
			own := &begins{work: work}
			if rests {
				own.rest = c
			}
			all = append(all, amount{over, own})
		}
		own := all[n].starts
		if k := len(own.runs); k > 0 && own.runs[k-1].last == s-1 {
			own.runs[k-1].last = s
		} else {
			own.runs = append(own.runs, run{s, s})
		}
	}
	return all
}
