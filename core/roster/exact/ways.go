package exact

import (
	"fmt"
	"sort"

	"nephelon/core/roster"
	"nephelon/core/roster/model"
)

// run is starts in a row, the last one among them.
type run struct{ first, last roster.Slot }

// begins holds where a task may start, and so much work then ends.
type begins struct {
	runs []run
	work roster.Slot
	rest *model.Calendar // it rests where this is closed; nil where it goes on
}

// Next returns the first start that is not before a slot; false where there is none.
func (t *begins) Next(start int32) (int32, bool) {
	n := sort.Search(len(t.runs), func(i int) bool { return t.runs[i].last >= roster.Slot(start) })
	if n == len(t.runs) {
		return 0, false
	}
	return max(start, int32(t.runs[n].first)), true
}

// Last returns the last start that is not after a slot; false where there is none.
func (t *begins) Last(start int32) (int32, bool) {
	n := sort.Search(len(t.runs), func(i int) bool { return t.runs[i].first > roster.Slot(start) }) - 1
	if n < 0 {
		return 0, false
	}
	return min(start, int32(t.runs[n].last)), true
}

// End returns the first slot after the work that begins at a slot.
func (t *begins) End(start int32) int32 {
	if t.rest == nil {
		return start + int32(t.work)
	}
	return int32(t.rest.Open[t.rest.Count[start]+t.work-1]) + 1
}

// EndsBy returns the last start whose work ends no later than at a slot; false where there is none.
func (t *begins) EndsBy(end int32) (int32, bool) {
	if t.rest == nil {
		return t.Last(end - int32(t.work))
	}
	n := t.rest.Count[max(0, min(int(end), len(t.rest.Count)-1))] - t.work
	if n < 0 {
		return 0, false
	}
	return t.Last(int32(t.rest.Open[n]))
}

// EndsAt returns the first start whose work ends no earlier than at a slot; false where there is none.
func (t *begins) EndsAt(end int32) (int32, bool) {
	if t.rest == nil {
		return t.Next(end - int32(t.work))
	}
	n := t.rest.Count[max(0, min(int(end)-1, len(t.rest.Count)-1))] - t.work + 1
	if n >= roster.Slot(len(t.rest.Open)) {
		return 0, false
	}
	return t.Next(int32(t.rest.Open[max(0, n)]))
}

// way is one way to do a task: by whom, with so much overtime, and with gaps bought off.
type way struct {
	crew   int
	over   roster.Slot
	bought []bool // by gap of the task that can be bought off
	starts *begins
}

// waysOf are all ways to do a task; tables are kept for others.
func (e *Encoded) waysOf(i int, kept map[string][]amount) []way {
	t := &e.Tasks[i]
	var buys []roster.Slot
	for n := range t.Before {
		if g := &t.Before[n]; g.Index >= 0 {
			buys = append(buys, g.Buy.Slots)
		}
	}
	var all []way
	add := func(crew int, c *model.Calendar, over bool) {
		for pattern := range 1 << len(buys) {
			work, bought := t.Duration, make([]bool, len(buys))
			for n, more := range buys {
				if pattern>>n&1 == 1 {
					work, bought[n] = work+more, true
				}
			}
			key := fmt.Sprintf("%p %d %v %v", c, work, t.Breakable, t.Machines)
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
	if t.Unattended {
		add(-1, e.Calendar(-1, t.Access, false, false), false)
	}
	for _, c := range t.Crews {
		if e.class[c] != c {
			continue
		}
		plain := e.Calendar(c, t.Access, false, t.Breakable)
		add(c, plain, false)
		if over := e.Calendar(c, t.Access, true, t.Breakable); over != plain {
			add(c, over, true)
		}
	}
	return all
}

// amount holds where a stretch may start that takes so much overtime.
type amount struct {
	over   roster.Slot
	starts *begins
}

// amounts are the starts that a calendar leaves to so much work, by the overtime in it.
func (e *Encoded) amounts(c *model.Calendar, work roster.Slot, t *model.Task) []amount {
	var all []amount
	rests := t.Breakable && work > 0 && !t.Unattended
	from, until := roster.Slot(0), e.Horizon
	if e.within != nil {
		from, until = e.within.From, e.within.Until
	}
	for s := from; s < until; s++ {
		end, fits := s+work, c.Next[s] == s && c.Until[s]-s >= work
		if rests {
			if fits = c.Next[s] == s && c.Count[s]+work <= roster.Slot(len(c.Open)); fits {
				end = c.Open[c.Count[s]+work-1] + 1
			}
		}
		for _, machine := range t.Machines {
			shut := e.Shut[machine]
			fits = fits && (shut == nil || end == s || shut.Next[s] >= end)
		}
		if !fits {
			continue
		}
		over := c.Over[end] - c.Over[s]
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
