package model

import (
	"fmt"
	"slices"

	"nephelon/core/roster"
)

// Calendar holds when something can be worked, for every slot of the horizon.
type Calendar struct {
	Next  []roster.Slot // the first open slot from here; the horizon where there is none
	Until []roster.Slot // of an open slot: the first closed one after it
	Count []roster.Slot // open slots before
	Open  []roster.Slot // the open slots, in order
	Over  []roster.Slot // overtime slots before
}

// Fit is the earliest stretch from a slot on that takes so much work.
func (c *Calendar) Fit(from, work roster.Slot, breakable bool) (start, end roster.Slot, ok bool) {
	if from < 0 {
		from = 0
	}
	horizon := roster.Slot(len(c.Next) - 1)
	if from > horizon {
		return 0, 0, false
	}
	if breakable && work > 0 {
		s := c.Next[from]
		k := c.Count[s] + work
		if k > roster.Slot(len(c.Open)) {
			return 0, 0, false
		}
		return s, c.Open[k-1] + 1, true
	}
	for s := c.Next[from]; s < horizon; s = c.Next[c.Until[s]] {
		if c.Until[s]-s >= work {
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

func check(w roster.Window, path string) error {
	switch {
	case w.From < 0:
		return &roster.Error{Path: path + "/from", Text: "It is before the first slot."}
	case w.Until <= w.From:
		return &roster.Error{Path: path + "/until",
			Text: fmt.Sprintf("It ends at slot %d and begins at %d. Let it end later.", w.Until, w.From)}
	case w.Every < 0 || w.Every > 0 && w.Every < w.Until-w.From:
		return &roster.Error{Path: path + "/every", Text: "It comes again before it is over."}
	}
	return nil
}

// windows keeps a set of windows and returns its number.
func (m *Model) windows(all []roster.Window, path string) (int, error) {
	if len(all) == 0 {
		return 0, nil
	}
	for i, w := range all {
		if err := check(w, fmt.Sprintf("%s/%d", path, i)); err != nil {
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
func (m *Model) both(a, b []roster.Window, path string) (int, error) {
	for i, w := range b {
		if err := check(w, fmt.Sprintf("%s/%d", path, i)); err != nil {
			return 0, err
		}
	}
	if len(a) == 0 {
		return m.windows(b, path)
	}
	in, too := m.flags(a), m.flags(b)
	var all []roster.Window
	for s := roster.Slot(0); s < m.Horizon; s++ {
		if !in[s] || !too[s] {
			continue
		}
		if n := len(all); n > 0 && all[n-1].Until == s {
			all[n-1].Until++
		} else {
			all = append(all, roster.Window{From: s, Until: s + 1})
		}
	}
	if len(all) == 0 {
		return 0, &roster.Error{Path: path, Text: "None of its windows overlaps the hours in which its job may be worked on."}
	}
	return m.windows(all, path)
}

// flags returns of every slot whether a window holds it.
func (m *Model) flags(all []roster.Window) []bool {
	in := make([]bool, m.Horizon)
	for _, w := range all {
		for from, until := w.From, w.Until; from < m.Horizon; from, until = from+w.Every, until+w.Every {
			for s := from; s < min(until, m.Horizon); s++ {
				in[s] = true
			}
			if w.Every == 0 {
				break
			}
		}
	}
	return in
}

// Calendar returns when a crew can work under a set of windows, at what may break or may not.
func (m *Model) Calendar(crew, access int, overtime, breakable bool) *Calendar {
	key := calendarKey{crew, access, overtime && m.Overtime, breakable && crew >= 0 &&
		len(m.Problem.Crews[crew].Rests) > 0}
	if known := m.calendars[key]; known != nil {
		return known
	}
	open, over := make([]bool, m.Horizon), make([]bool, m.Horizon)
	if crew < 0 {
		for s := range open {
			open[s] = true
		}
	} else {
		for _, s := range m.Problem.Crews[crew].Shifts {
			if s.Overtime && !overtime {
				continue
			}
			for at, in := range m.flags([]roster.Window{s.Window}) {
				if in && !open[at] {
					open[at], over[at] = true, s.Overtime
				} else if in && !s.Overtime {
					over[at] = false
				}
			}
		}
	}
	if key.rests {
		for s, in := range m.flags(m.Problem.Crews[crew].Rests) {
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

// calendarOf returns of flags, slot by slot.
func calendarOf(open, over []bool) *Calendar {
	horizon := roster.Slot(len(open))
	c := &Calendar{Next: make([]roster.Slot, horizon+1), Until: make([]roster.Slot, horizon+1),
		Count: make([]roster.Slot, horizon+1),
		Over:  make([]roster.Slot, horizon+1)}
	c.Next[horizon], c.Until[horizon] = horizon, horizon
	for s := horizon - 1; s >= 0; s-- {
		c.Next[s], c.Until[s] = c.Next[s+1], s
		if open[s] {
			c.Next[s], c.Until[s] = s, s+1
			if s+1 < horizon && open[s+1] {
				c.Until[s] = c.Until[s+1]
			}
		}
	}
	for s := range horizon {
		c.Count[s+1], c.Over[s+1] = c.Count[s], c.Over[s]
		if open[s] {
			c.Count[s+1]++
			c.Open = append(c.Open, s)
			if over[s] {
				c.Over[s+1]++
			}
		}
	}
	return c
}
