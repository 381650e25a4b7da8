package roster

import (
	"fmt"
	"slices"
)

// calendar is when something can be worked, for every slot of the horizon.
type calendar struct {
	next  []Slot // the first open slot from here; the horizon where there is none
	until []Slot // of an open slot: the first closed one after it
	count []Slot // open slots before
	open  []Slot // the open slots, in order
	over  []Slot // overtime slots before
}

// fit is the earliest stretch from a slot on that takes so much work.
func (c *calendar) fit(from, work Slot, breakable bool) (start, end Slot, ok bool) {
	if from < 0 {
		from = 0
	}
	horizon := Slot(len(c.next) - 1)
	if from > horizon {
		return 0, 0, false
	}
	if breakable && work > 0 {
		s := c.next[from]
		k := c.count[s] + work
		if k > Slot(len(c.open)) {
			return 0, 0, false
		}
		return s, c.open[k-1] + 1, true
	}
	for s := c.next[from]; s < horizon; s = c.next[c.until[s]] {
		if c.until[s]-s >= work {
			return s, s + work, true
		}
	}
	return 0, 0, false
}

type calendarKey struct {
	crew, access int // crew −1: nobody
	overtime     bool
	rests        bool
}

func (w Window) check(path string) error {
	switch {
	case w.From < 0:
		return &Error{path + "/from", "It is before the first slot."}
	case w.Until <= w.From:
		return &Error{path + "/until", fmt.Sprintf("It ends at slot %d and begins at %d. Let it end later.", w.Until, w.From)}
	case w.Every < 0 || w.Every > 0 && w.Every < w.Until-w.From:
		return &Error{path + "/every", "It comes again before it is over."}
	}
	return nil
}

// windows keeps a set of windows and returns its number.
func (m *model) windows(all []Window, path string) (int, error) {
	if len(all) == 0 {
		return 0, nil
	}
	for i, w := range all {
		if err := w.check(fmt.Sprintf("%s/%d", path, i)); err != nil {
			return 0, err
		}
	}
	for n, known := range m.access {
		if slices.Equal(known, all) {
			return n, nil
		}
	}
	m.access = append(m.access, all)
	return len(m.access) - 1, nil
}

// both keeps what two sets of windows share.
func (m *model) both(a, b []Window, path string) (int, error) {
	for i, w := range b {
		if err := w.check(fmt.Sprintf("%s/%d", path, i)); err != nil {
			return 0, err
		}
	}
	if len(a) == 0 {
		return m.windows(b, path)
	}
	in, too := m.flags(a), m.flags(b)
	var all []Window
	for s := Slot(0); s < m.horizon; s++ {
		if !in[s] || !too[s] {
			continue
		}
		if n := len(all); n > 0 && all[n-1].Until == s {
			all[n-1].Until++
		} else {
			all = append(all, Window{From: s, Until: s + 1})
		}
	}
	if len(all) == 0 {
		return 0, &Error{path, "None of its windows overlaps the hours in which its job may be worked on."}
	}
	return m.windows(all, path)
}

// flags tells of every slot whether a window holds it.
func (m *model) flags(all []Window) []bool {
	in := make([]bool, m.horizon)
	for _, w := range all {
		for from, until := w.From, w.Until; from < m.horizon; from, until = from+w.Every, until+w.Every {
			for s := from; s < min(until, m.horizon); s++ {
				in[s] = true
			}
			if w.Every == 0 {
				break
			}
		}
	}
	return in
}

// calendar is when a crew can work under a set of windows, at what may break or may not.
func (m *model) calendar(crew, access int, overtime, breakable bool) *calendar {
	key := calendarKey{crew, access, overtime && m.overtime, breakable && crew >= 0 &&
		len(m.problem.Crews[crew].Rests) > 0}
	if known := m.calendars[key]; known != nil {
		return known
	}
	open, over := make([]bool, m.horizon), make([]bool, m.horizon)
	if crew < 0 {
		for s := range open {
			open[s] = true
		}
	} else {
		for _, s := range m.problem.Crews[crew].Shifts {
			if s.Overtime && !overtime {
				continue
			}
			for at, in := range m.flags([]Window{s.Window}) {
				if in && !open[at] {
					open[at], over[at] = true, s.Overtime
				} else if in && !s.Overtime {
					over[at] = false
				}
			}
		}
	}
	if key.rests {
		for s, in := range m.flags(m.problem.Crews[crew].Rests) {
			open[s] = open[s] && !in
		}
	}
	if access > 0 {
		for s, in := range m.flags(m.access[access]) {
			open[s] = open[s] && in
		}
	}
	c := calendarOf(open, over)
	m.calendars[key] = c
	return c
}

// calendarOf tells of flags, slot by slot.
func calendarOf(open, over []bool) *calendar {
	horizon := Slot(len(open))
	c := &calendar{next: make([]Slot, horizon+1), until: make([]Slot, horizon+1), count: make([]Slot, horizon+1),
		over: make([]Slot, horizon+1)}
	c.next[horizon], c.until[horizon] = horizon, horizon
	for s := horizon - 1; s >= 0; s-- {
		c.next[s], c.until[s] = c.next[s+1], s
		if open[s] {
			c.next[s], c.until[s] = s, s+1
			if s+1 < horizon && open[s+1] {
				c.until[s] = c.until[s+1]
			}
		}
	}
	for s := range horizon {
		c.count[s+1], c.over[s+1] = c.count[s], c.over[s]
		if open[s] {
			c.count[s+1]++
			c.open = append(c.open, s)
			if over[s] {
				c.over[s+1]++
			}
		}
	}
	return c
}
