package job

import (
	"slices"
	"time"

	"nephelon/core/work"
)

// Shift is a stretch in which a crew works.
type Shift struct {
	From     time.Time `json:"from"`
	Until    time.Time `json:"until"`
	Overtime bool      `json:"overtime,omitempty"`
	Rests    []Pause   `json:"rests,omitempty" doc:"Breaks inside it"`
}

// Pause is a break.
type Pause struct {
	From  time.Time `json:"from"`
	Until time.Time `json:"until"`
}

// MostPeople is as many as any pour takes.
const MostPeople = 50

// CrewsOf returns the crews of a company: where none is named, one that does everything with as
// many people as it takes, whose number is 0.
func CrewsOf(h House) []StandingCrew {
	if len(h.Crews) > 0 {
		return h.Crews
	}
	return []StandingCrew{{ID: "crew", Name: "Crew", Skills: []work.Skill{work.Grinding, work.Acids, work.Mixing,
		work.Spreads}}}
}

// HoursOf returns when a crew works.
func HoursOf(h House, c StandingCrew) Hours {
	switch {
	case c.Hours != nil:
		return *c.Hours
	case h.Hours != nil:
		return *h.Hours
	}
	return UsualHours()
}

// off reports whether a day is one of those off.
func off(all []Leave, day time.Time) bool {
	date := day.Format(time.DateOnly)
	return slices.ContainsFunc(all, func(l Leave) bool { return l.From <= date && date <= max(l.From, l.Until) })
}

// ShiftsOf returns when a crew works between two times.
func ShiftsOf(h House, c StandingCrew, from, until time.Time, zone *time.Location) []Shift {
	var all []Shift
	add := func(hours Hours, overtime bool) {
		for d := from.In(zone).AddDate(0, 0, -1); d.Before(until); d = d.AddDate(0, 0, 1) {
			start, end, works := hours.Shift(d.Year(), d.Month(), d.Day(), zone)
			if works && end.After(from) && start.Before(until) && !off(h.Holidays, d) && !off(c.Off, d) {
				shift := Shift{From: start, Until: end, Overtime: overtime}
				for _, b := range hours.Rests(start) {
					if b[0].After(start) && b[1].Before(end) {
						shift.Rests = append(shift.Rests, Pause{b[0], b[1]})
					}
				}
				all = append(all, around(shift, c.Busy)...)
			}
		}
	}
	add(HoursOf(h, c), false)
	if c.Overtime != nil {
		add(*c.Overtime, true)
	}
	slices.SortStableFunc(all, func(a, b Shift) int { return a.From.Compare(b.From) })
	return all
}

// around returns what is left of a shift beside what its crew does elsewhere.
func around(s Shift, busy []Busy) []Shift {
	left := []Shift{s}
	for _, b := range busy {
		var cut []Shift
		for _, s := range left {
			if !b.From.Before(s.Until) || !b.Until.After(s.From) {
				cut = append(cut, s)
				continue
			}
			if b.From.After(s.From) {
				before := s
				before.Until = b.From
				cut = append(cut, before)
			}
			if b.Until.Before(s.Until) {
				after := s
				after.From = b.Until
				cut = append(cut, after)
			}
		}
		left = cut
	}
	return left
}

// ZoneOf returns where a company works.
func ZoneOf(h House) *time.Location {
	if zone, err := time.LoadLocation(h.Zone); err == nil && h.Zone != "" && h.Zone != "Local" {
		return zone
	}
	return time.UTC
}
